//! An amount: number, unit, how full the spoon was, how many of them.

use super::{
    Choices,
    clue::Clue,
    lexicon::{Filled, Role},
    scan::Scan,
    token::Kind,
};
use crate::{
    measure::Band,
    pantry::{MeasureKind, MeasureWord},
};

/// An amount before it is grams.
#[derive(Debug, Clone)]
pub(super) struct Amount<'a> {
    /// How many.
    pub value: Band,
    /// Of what; nothing for a bare number.
    pub unit: Option<&'a MeasureWord>,
    /// The first word of the unit, folded.
    pub unit_word: &'a str,
    /// `1.000` read as a thousand.
    pub doubtful: bool,
    /// How full: a factor for heaped, scant and their like.
    pub level: Option<Band>,
    /// Pressed into the measure.
    pub packed: bool,
    /// Heaped, which a liquid cannot be.
    pub heaped: bool,
    /// Said to be about so much.
    pub approx: bool,
    /// Only an article: `a teaspoon`.
    pub article: bool,
    /// The count of `2 x 7 g`.
    pub times: Option<f64>,
    /// `small`, `large` between number and name.
    pub size: Option<&'static str>,
    /// A bottle, tub or bag whose content is told beside it.
    pub container: bool,
}

impl Amount<'_> {
    /// Whether it goes on where the other stops: `1 lb 2 oz`, `1 kg 200 g`.
    pub fn goes_on(&self, first: &Amount<'_>) -> bool {
        let is = |a: &Amount<'_>, id: &str| a.unit.is_some_and(|m| m.id == id);
        (is(first, "lb") && is(self, "oz")) || (is(first, "kg") && is(self, "g"))
    }
    /// Whether it is a weight or a volume by a unit.
    pub fn is_measured(&self) -> bool {
        self.unit.is_some_and(|u| matches!(u.kind, MeasureKind::Mass | MeasureKind::Volume))
    }
    /// About how many grams: by its mass, or its volume as of water.
    pub fn about_grams(&self) -> Option<f64> {
        let unit = self.unit.filter(|u| matches!(u.kind, MeasureKind::Mass | MeasureKind::Volume))?;
        Some(self.value.likely * unit.value.likely)
    }
    /// Grams, if it is a mass.
    pub fn mass(&self) -> Option<Band> {
        let unit = self.unit.filter(|u| u.kind == MeasureKind::Mass)?;
        Some(self.value.times(unit.value.likely))
    }
}

/// Amounts that are added or taken off: `1 cup plus 2 tablespoons`, `a cup minus a spoon`.
pub(super) type Sum<'a> = Vec<(f64, Amount<'a>)>;

/// Measures that count one when no number stands before them: `pinch of salt`, `knob of butter`.
const LONE: &[&str] = &["pinch", "dash", "knob", "splash", "glug", "handful", "drizzle", "smidgen", "knife-tip", "walnut-of", "packet"];
/// Hotter than any cup is full: `26 C` is a temperature, `2 C` two cups.
const MOST_CUPS: f64 = 20.0;
impl<'a> Scan<'a> {
    fn by_id(&self, id: &str) -> Option<&'a MeasureWord> {
        self.pantry.measures.by_id(id)
    }

    /// The unit at a token, by the household's settings, and the token behind it.
    pub fn unit(&self, at: usize, value: f64) -> Option<(&'a MeasureWord, usize)> {
        let t = self.tok(at)?;
        // C and c, T and t are told apart by case, and a cup from a temperature by how many.
        match t.text {
            "C" | "c" if self.pick(at, |r| matches!(r, Role::Unit(_)).then_some(())).is_none_or(|(_, end)| end <= at + 1) => {
                return (value <= MOST_CUPS).then(|| self.settled("cup-us")).flatten().map(|m| (m, self.behind_point(at + 1)));
            }
            "T" => return self.by_id("tbsp-us").map(|m| (m, self.behind_point(at + 1))),
            "t" => return self.by_id("tsp-us").map(|m| (m, self.behind_point(at + 1))),
            _ => {}
        }
        let (index, end) = self.pick(at, |r| if let Role::Unit(i) = r { Some(i) } else { None })?;
        let measure = self.pantry.measures.at(index as usize)?;
        let odd = matches!(measure.id.as_str(), "stone" | "rice-cup");
        // `12 leaves`, `3 slices`: pieces of what is named behind them.
        (!odd).then(|| (self.settled(&measure.id).unwrap_or(measure), self.behind_point(end)))
    }

    /// Behind the point of an abbreviation: `2 tsp. salt`.
    fn behind_point(&self, at: usize) -> usize {
        let point = self.mark(at, '.') && self.tok(at).is_some_and(|t| !t.spaced) && !self.ends_sentence(at);
        at + usize::from(point)
    }

    /// The household's own measure for a word that means several.
    fn settled(&self, id: &str) -> Option<&'a MeasureWord> {
        let c: &Choices = self.choices;
        let british = c.is_british();
        let id = match id {
            "cup-us" => match c.cup.as_str() {
                "metric" => "cup-metric",
                "imperial" => "cup-imperial",
                "own" => "cup-own",
                _ => "cup-us",
            },
            "tbsp-us" | "tbsp-metric" if c.locale.starts_with("en-AU") => "tbsp-au",
            "tbsp-us" if !c.is_american() => "tbsp-metric",
            "tsp-us" if !c.is_american() => "tsp-metric",
            "pint-us" if british => "pint-uk",
            "quart-us" if british => "quart-uk",
            "gallon-us" if british => "gallon-uk",
            "floz-us" if british => "floz-uk",
            other => other,
        };
        self.by_id(id)
    }

    /// How a spoon was filled, at a token.
    fn filled(&self, at: usize) -> Option<(Filled, usize)> {
        self.pick(at, |r| if let Role::Filled(f) = r { Some(f) } else { None })
    }

    /// A size, at a token.
    pub fn size(&self, at: usize) -> Option<(&'static str, usize)> {
        let (size, end) = self.pick(at, |r| if let Role::Size(s) = r { Some(s) } else { None })?;
        Some((size, end))
    }

    /// Behind the words that say "about".
    pub fn approx(&self, at: usize, limit: usize) -> (bool, usize) {
        let mut i = at;
        while i < limit {
            if self.mark(i, '~') || (i > at && self.mark(i, '.')) {
                i += 1;
            } else if let Some(end) = self.role(i, Role::Approx) {
                i = end;
            } else {
                break;
            }
        }
        (i > at, i)
    }

    /// Reads an amount; the token behind it.
    pub fn amount(&self, at: usize, limit: usize) -> Option<(Amount<'a>, usize)> {
        let (mut approx, mut i) = self.approx(at, limit);
        // `a good teaspoon`: the article counts where a unit follows.
        let lone = self.unit(i, 1.0).filter(|(m, end)| *end <= limit && (LONE.contains(&m.id.as_str()) || self.lone_spoon(m, *end, limit)));
        let lone = lone.or_else(|| {
            // `good knob of butter`
            let (_, next) =
                self.filled(i).or_else(|| self.size(i).map(|(_, e)| (Filled { factor: None, heaped: false, packed: false }, e)))?;
            self.unit(next, 1.0).filter(|(m, end)| LONE.contains(&m.id.as_str()) || self.lone_spoon(m, *end, limit))
        });
        let (mut value, number_end) = if lone.is_some() && self.number(i).is_none() { (Band::exact(1.0), i) } else { self.range(i)? };
        let article = number_end > i && self.role(i, Role::Article) == Some(number_end);
        let doubtful = matches!(self.tok(i).map(|t| t.kind), Some(Kind::Number { doubtful: true, .. }));
        i = number_end;
        // 2 x 7 g
        let mut times = None;
        if self.word(i, "x")
            && let Some((each, end)) = self.range(i + 1).filter(|_| i < limit)
            && self.unit(end + usize::from(self.mark(end, '-')), each.likely).is_some()
        {
            times = Some(value.likely);
            value = Band::new(value.low * each.low, value.likely * each.likely, value.high * each.high);
            i = end;
        }
        // `1-lb`, `4-oz`
        if self.mark(i, '-') && self.tok(i).is_some_and(|t| !t.spaced) && self.unit(i + 1, value.likely).is_some() {
            i += 1;
        }
        if let Some((each, unit, end)) = self.pack(i).filter(|(.., end)| *end <= limit) {
            let value = Band::new(value.low * each, value.likely * each, value.high * each);
            let times = Some(f64::max(1.0, value.likely / each));
            let bare = Amount {
                value,
                unit: Some(unit),
                unit_word: "",
                doubtful,
                level: None,
                packed: false,
                heaped: false,
                approx,
                article,
                times,
                size: None,
                container: true,
            };
            return Some((bare, end));
        }
        // `three quarters of a pint`, `half a pound`
        if value.likely < 1.0
            && let Some(behind) = self.role(i, Role::Of)
        {
            let behind = self.role(behind, Role::Article).unwrap_or(behind);
            if self.unit(behind, value.likely).is_some() {
                i = behind;
            }
        }
        let (mut level, mut packed, mut heaped, mut size) = (None, false, false, None);
        let mut fill = |from: usize, behind: bool| {
            let mut i = from;
            loop {
                if let Some((f, end)) = self.filled(i).filter(|(f, _)| i < limit && !(behind && f.is_generous())) {
                    packed |= f.packed;
                    heaped |= f.heaped;
                    level = f.factor.or(level);
                    i = end;
                } else if let Some((s, end)) = self.size(i).filter(|_| i < limit) {
                    // `extra large`
                    size = Some(s);
                    i = end;
                } else {
                    return i;
                }
            }
        };
        let filled = fill(i, false);
        let unit_at = if self.unit(filled, value.likely).is_some() { filled } else { i };
        // Without a unit the words belong to the name: `2 big onions` keep their size.
        let found = self.unit(unit_at, value.likely).filter(|(_, end)| *end <= limit);
        let mut unit_word = "";
        let unit = found.map(|(m, end)| {
            unit_word = self.tok(unit_at).map_or("", |t| t.folded.as_ref());
            i = fill(end, true);
            m
        });
        if unit.is_none() {
            i = filled;
            level = None;
        }
        // `12 g good oil`: what is weighed is not heaped.
        if unit.is_some_and(|u| u.kind == MeasureKind::Mass && u.value.is_exact()) {
            (level, heaped) = (None, false);
        }
        // `a teaspoon and a half of salt`, `a cup and a third`
        if unit.is_some() && value.is_exact() {
            let (more, end) = self.and_part(value.likely, i);
            if end > i && end <= limit {
                value = Band::exact(more);
                i = end;
            }
        }
        if unit.is_some()
            && let Some(end) = self.afterthought(i).filter(|e| *e <= limit)
        {
            approx = true;
            i = end;
        }
        let container = unit.is_none() && self.is_container(i);
        i += usize::from(container);
        Some((Amount { value, unit, unit_word, doubtful, level, packed, heaped, approx, article, times, size, container }, i))
    }

    /// Whether what a measured content comes in stands there.
    pub fn is_container(&self, at: usize) -> bool {
        self.role(at, Role::Container).is_some()
    }

    /// `heaped tsp bread soda`, `spoonful of honey`: one, where something is named right behind it.
    fn lone_spoon(&self, measure: &MeasureWord, end: usize, limit: usize) -> bool {
        let spoon =
            measure.id.starts_with("tsp") || measure.id.starts_with("tbsp") || measure.id == "spoon" || measure.id == "dessertspoon";
        let from = self.role(end, Role::Of).unwrap_or(end);
        spoon && self.name_at(from, limit, true).is_some()
    }

    /// `or so`, `-ish`, `or thereabouts` behind an amount.
    fn afterthought(&self, at: usize) -> Option<usize> {
        let dash = at + usize::from(self.mark(at, '-'));
        let end = self.role(dash, Role::Approx)?;
        self.tells(end - 1, Clue::Afterthought).then_some(end)
    }

    /// A pack of a told size behind a count, `2 (1/4 ounce) packages`: what one holds, its unit, the token behind.
    fn pack(&self, at: usize) -> Option<(f64, &'a MeasureWord, usize)> {
        let bracket = self.mark(at, '(');
        let (each, end) = self.number(at + usize::from(bracket))?;
        let end = end + usize::from(self.mark(end, '-'));
        let (unit, mut end) = self.unit(end, each).filter(|(m, _)| matches!(m.kind, MeasureKind::Mass | MeasureKind::Volume))?;
        if bracket {
            self.tok(end).filter(|t| t.is(')'))?;
            end += 1;
        }
        self.is_container(end).then_some((each, unit, end + 1))
    }

    /// Amounts added up: `1 lb 2 oz`, `1 cup plus 2 tablespoons`, `a cup minus a couple of spoons`.
    pub fn sum(&self, at: usize, limit: usize) -> Option<(Sum<'a>, usize)> {
        let (first, mut end) = self.amount(at, limit)?;
        let mut sum = vec![(1.0, first)];
        loop {
            let sign = if self.mark(end, '+') {
                Some((1.0, end + 1))
            } else if let Some(next) = self.role(end, Role::Plus).or_else(|| self.role(end, Role::And)) {
                Some((1.0, next))
            } else {
                self.role(end, Role::Minus).map(|next| (-1.0, next))
            };
            let (factor, from) = sign.unwrap_or((1.0, end));
            let Some((next, behind)) = self.amount(from, limit).filter(|_| end < limit) else { break };
            let of_unit = sum.last().is_some_and(|(_, a)| a.unit.is_some());
            let joins = next.unit.is_some() && of_unit && (sign.is_some() || sum.last().is_some_and(|(_, a)| next.goes_on(a)));
            if !joins {
                break;
            }
            sum.push((factor, next));
            end = behind;
        }
        Some((sum, end))
    }

    /// Amounts told beside another, in brackets or behind a stroke: `(240 ml)`, `/1lb`, `(1 stick; 113 g)`.
    pub fn amounts_in(&self, from: usize, to: usize) -> Vec<Amount<'a>> {
        let mut found: Vec<Amount<'a>> = Vec::new();
        let mut i = from;
        while i < to {
            match self.amount(i, to) {
                Some((a, end)) if a.unit.is_some() && !self.mark(end, '°') => {
                    // `1 lb 2 oz` is one.
                    if let Some(first) = found.last_mut().filter(|f| a.goes_on(f))
                        && let (Some(x), Some(y), Some(unit)) = (first.mass(), a.mass(), a.unit)
                    {
                        first.value = x.plus(y).times(1.0 / unit.value.likely);
                        first.unit = a.unit;
                    } else {
                        found.push(a);
                    }
                    i = end.max(i + 1);
                }
                Some((_, end)) => i = end.max(i + 1),
                None => i += 1,
            }
        }
        found
    }
}
