//! One ingredient as it was told: what it is, how much, when it goes in, what is still to be asked.

use std::sync::Arc;

use super::{
    amount::{Amount, Sum},
    ask,
    clue::{Clue, Clues},
    event::Told,
    lexicon::{Purpose, Role, Vague},
    questions::{Answer, Question},
    read_line::ReadLine,
    scan::{Named, Scan},
    weigh::{Weighing, is_weight},
};
use crate::{
    formula::{Stage, Used},
    measure::{Band, celsius_of},
    pantry::{Family, Ingredient, Pantry, fold},
};

/// What a line stands in.
#[derive(Debug, Clone, Copy)]
pub(super) struct Place {
    /// The part of the recipe.
    pub stage: Option<Stage>,
    /// It is put on: told behind "brush", "sprinkle".
    pub put_on: bool,
    /// Line of the text.
    pub source_line: usize,
    /// Nothing but the names of a list stands there.
    pub listed: bool,
    /// Which list of the recipe it is.
    pub list: usize,
}

/// An ingredient told in a text.
pub(super) struct Writing<'s, 'a, 't> {
    /// The text's tokens.
    pub scan: &'s Scan<'a>,
    /// The text.
    pub text: &'t str,
    /// First token of it, and the one behind what is said of it.
    pub at: usize,
    /// Behind the last.
    pub end: usize,
    /// Where it stands.
    pub place: Place,
    /// Other measures of the same amount told beside it.
    pub beside: Vec<Amount<'a>>,
}

impl<'a> Writing<'_, 'a, '_> {
    /// The lines it makes: one, or one with the extra for the bench. Nothing where the amount makes no sense.
    pub fn read(&self, told: &Told<'a>) -> Option<Vec<ReadLine>> {
        let mut name = told.name.clone();
        let clues = self.clues();
        refine(&mut name.ingredient, clues, self.scan.pantry);
        // `flour (strong white)`: what stands in the bracket says which.
        if name.ingredient.kind == "wheat-ap" && self.scan.mark(name.end, '(') {
            let close = self.scan.closing(name.end, self.end);
            let which = flour_named(self.scan, name.end + 1, close).filter(|_| !(name.end..close).any(|i| self.scan.mark(i, '%')));
            name.ingredient = which.unwrap_or(name.ingredient);
        }
        let cube = told.sum.first().is_some_and(|(_, a)| a.unit.is_some_and(|u| u.id == "cube"));
        if cube
            && name.ingredient.family == Family::Yeast
            && let Some(fresh) = self.scan.pantry.get("yeast-fresh")
        {
            // Only fresh yeast comes in cubes and cakes.
            name.ingredient = fresh.clone();
        }
        if told.percent.is_some() {
            return Some(vec![ReadLine { percent: told.percent, ..self.line(&name.ingredient, None, told) }]);
        }
        if told.sum.is_empty() {
            return self.name_alone(told, &name).map(|l| vec![l]);
        }
        if let Some(parts) = self.percent_mix(told) {
            let whole = told.sum.first().map(|(_, a)| a)?;
            // `Flour: 500 (80 % white, 20 % wholemeal)`
            let total = whole.mass().or_else(|| (whole.unit.is_none() && whole.value.likely >= 20.0).then_some(whole.value))?;
            return Some(parts.into_iter().map(|(share, i)| self.line(&i, Some(total.times(share)), told)).collect());
        }
        if let Some(part) = self.part_of_fruit(told, clues) {
            return Some(vec![part]);
        }
        let (grams, by_volume, mut questions) = self.weigh(told, &name, clues).filter(|w| is_weight(w.0))?;
        if name.guessed {
            let yes = Answer::kind("yes", format!("Yes, {}", name.ingredient.name), &name.ingredient.id);
            questions.push(Question::new("ingredient-unknown", vec![yes]));
        }
        let grams = if told.half { grams.times(0.5) } else { grams };
        let mut first = ReadLine { by_volume, questions, ..self.line(&name.ingredient, Some(grams), told) };
        ask::of_line(&mut first);
        if first.stage == Stage::Finish
            && name.ingredient.kind == "egg-whole"
            && let Some(wash) = self.scan.pantry.get("egg-wash")
        {
            first.ingredient = wash.clone();
        }
        first.alternative =
            told.or.as_ref().map(|(n, sum)| (n.ingredient.clone(), sum.first().and_then(|(_, a)| a.mass()).map(|m| m.likely)));
        if first.alternative.as_ref().is_some_and(|a| a.1.is_some()) {
            first.questions.push(Question::new("alternative", Vec::new()));
        }
        let mut lines = vec![first];
        if told.half {
            lines.extend(lines.first().cloned().map(|l| ReadLine { stage: Stage::Finish, questions: Vec::new(), ..l }));
        }
        lines.extend(self.extra(told, &name.ingredient));
        Some(lines)
    }

    fn line(&self, ingredient: &Arc<Ingredient>, grams: Option<Band>, told: &Told<'_>) -> ReadLine {
        let source = self.scan.source(self.text, self.at, self.end);
        let start = self.scan.tok(self.at).map_or(0, |t| t.start);
        let optional = (self.at..self.end).any(|i| self.scan.role(i, Role::Vague(Vague::Optional)).is_some());
        ReadLine {
            source: source.to_owned(),
            source_line: self.place.source_line,
            span: (start, start + source.len()),
            ingredient: ingredient.clone(),
            grams,
            stage: self.stage(ingredient, told),
            temp_c: self.temperature(),
            optional,
            by_volume: false,
            questions: Vec::new(),
            alternative: None,
            percent: None,
            hydration_pct: self.hydration(ingredient, told),
            in_step: false,
            list: self.place.list,
            used: self.used_for(told),
            purposed: self.purpose(told, self.own_end(told)).is_some(),
            clues: self.clues(),
            sized: ingredient.family == Family::Egg && self.size().is_some(),
        }
    }

    fn clues(&self) -> Clues {
        self.scan.clues(self.at, self.end)
    }

    /// A size told anywhere in it; `a little` is none.
    fn size(&self) -> Option<&'static str> {
        let little = |i: usize| self.scan.tells(i, Clue::Little);
        (self.at..self.end).filter(|i| !little(*i)).find_map(|i| self.scan.size(i)).map(|(s, _)| s)
    }

    /// Where the words about the line itself end: what is over for dusting says nothing of it.
    fn own_end(&self, told: &Told<'_>) -> usize {
        let extra = |i: usize| {
            self.scan.role(i, Role::Extra).is_some_and(|e| e > i + 1)
                || (self.scan.role(i, Role::Plus).is_some() && self.scan.role(i + 1, Role::Extra).is_some())
        };
        (told.tail..self.end).find(|i| extra(*i)).unwrap_or(self.end)
    }

    fn purpose(&self, told: &Told<'_>, to: usize) -> Option<Purpose> {
        (self.at.min(told.tail)..to)
            .find_map(|i| self.scan.pick(i, |r| if let Role::Purpose(p) = r { Some(p) } else { None }))
            .map(|(p, _)| p)
    }

    /// `for the filling`: what a line of the finish is for, by its own words.
    fn used_for(&self, told: &Told<'_>) -> Option<Used> {
        let used = |i: usize| self.scan.pick(i, |r| if let Role::Used(u) = r { Some(u) } else { None });
        let to = self.own_end(told);
        (told.tail..to).filter(|i| self.scan.role(*i, Role::ForThe).is_some()).find_map(|i| (i..to).find_map(used)).map(|(u, _)| u)
    }

    /// When it goes in: by what it is told to be for, by the list it stands in, else at its usual moment.
    fn stage(&self, ingredient: &Ingredient, told: &Told<'_>) -> Stage {
        let listed = self.place.stage.filter(|s| *s != Stage::Dough).unwrap_or_else(|| Stage::usual(ingredient));
        match self.purpose(told, self.own_end(told)) {
            Some(Purpose::Dusting) => return Stage::Finish,
            Some(Purpose::Stage(s)) => return s,
            None => {}
        }
        let dipped = ingredient.family == Family::Alkali && self.scan.clues(told.tail, self.end).contains(Clue::Bath);
        if self.place.put_on || dipped { Stage::Finish } else { listed }
    }

    /// Grams, whether by volume, and what is asked.
    fn weigh(&self, told: &Told<'a>, name: &Named, clues: Clues) -> Option<(Band, bool, Vec<Question>)> {
        let first = told.sum.first().map(|(_, a)| a)?;
        let size = first.size.or_else(|| self.size());
        // `1 egg to brush` is counted as an egg.
        let washes = name.ingredient.id == "egg-wash";
        let counted = washes.then(|| self.scan.pantry.get("egg-whole")).flatten().unwrap_or(&name.ingredient);
        let context = Weighing {
            ingredient: counted,
            pantry: self.scan.pantry,
            choices: self.scan.choices,
            // `2 cups flour, sifted` is measured first.
            clues: if self.scan.tells(self.end.saturating_sub(1), Clue::Sifted) { clues - Clue::Sifted } else { clues },
            size,
        };
        let mut questions = Vec::new();
        let others: Vec<Amount<'a>> = self.others(told);
        let weighed = sum_of(&told.sum, &context, &mut questions);
        let Some((grams, by_volume)) = weighed else {
            // `1 bottle of beer (330 ml)`, `1 medium russet (150 g)`
            let (other, is_mass) = context.best_alternative(&others)?;
            // Two bottles of 330 ml are two; two potatoes of 300 g are weighed together.
            let count = if first.container { first.value.likely } else { 1.0 };
            return Some((other.times(count), !is_mass, Vec::new()));
        };
        let mut by_volume = by_volume;
        // A packet or an egg that is weighed beside it weighs that.
        if first.unit.is_none_or(|u| u.kind == crate::pantry::MeasureKind::Piece)
            && let Some((other, true)) = context.best_alternative(&others)
            && !questions.iter().any(|q| q.id == "bare-number")
        {
            questions.retain(|q| q.id != "packet-size");
            return Some((other, false, questions));
        }
        if first.container && first.unit.is_none() {
            let other = context.best_alternative(&others);
            return other.map(|(g, is_mass)| (g, !is_mass, Vec::new())).or(Some((grams, by_volume, questions)));
        }
        let grams = match context.best_alternative(&others) {
            Some(other) => context.settle(grams, by_volume, other, &mut questions, &mut by_volume),
            None => grams,
        };
        Some((grams, by_volume, questions))
    }

    /// Other measures of the amount: in brackets, behind a stroke, or told beside it.
    fn others(&self, told: &Told<'a>) -> Vec<Amount<'a>> {
        let mut found = self.beside.clone();
        let mut i = told.measured;
        while i < self.end {
            if self.scan.mark(i, '(') {
                let close = self.scan.closing(i, self.end);
                // `(cooled to 40 °C)`, `(70 % bread)`, `(soaked in 3 tbsp rum)` tell no amount of it.
                let named = (i..close).any(|k| self.scan.mark(k, '%') || self.scan.role(k, Role::Soaked).is_some());
                if !named {
                    found.extend(self.scan.amounts_in(i + 1, close));
                }
                i = close + 1;
            } else if (self.scan.mark(i, '/') || self.scan.mark(i, '='))
                && let Some((a, end)) = self.scan.amount(i + 1, self.end).filter(|(a, _)| a.unit.is_some())
            {
                found.push(a);
                i = end;
            } else {
                i += 1;
            }
        }
        found
    }

    /// Temperature told for a liquid: `(110 °F)`, `lukewarm`, `at 38 C`.
    fn temperature(&self) -> Option<f64> {
        let mut i = self.at;
        while i < self.end {
            if self.scan.tok(i).is_some_and(|t| t.value().is_some()) {
                let (value, end) = self.scan.range(i)?;
                let degree = self.scan.mark(end, '°') || self.scan.role(end, Role::Degree).is_some();
                let letter = end + usize::from(self.scan.mark(end, '°'));
                let letter = self.scan.role(letter, Role::Degree).unwrap_or(letter);
                let text = self.scan.tok(letter).filter(|_| letter < self.end).map_or("", |t| t.text);
                let v = value.likely;
                match text {
                    "F" | "f" | "Fahrenheit" if v >= 32.0 => return Some(celsius_of(v)),
                    "C" | "Celsius" if degree || v > 20.0 => return Some(v),
                    "c" if degree => return Some(v),
                    _ if degree => return Some(if v > 70.0 { celsius_of(v) } else { v }),
                    _ => {}
                }
                i = end.max(i + 1);
            } else if let Some((c, _)) = self.scan.pick(i, |r| if let Role::Temp(c) = r { Some(c) } else { None }) {
                return Some(c);
            } else {
                i += 1;
            }
        }
        None
    }

    /// `(100 % hydration)`, `at 80 %` beside a leaven: its water on its flour.
    fn hydration(&self, ingredient: &Ingredient, told: &Told<'_>) -> Option<f64> {
        if ingredient.family != Family::Leaven {
            return None;
        }
        let percent = (self.at..self.end).filter(|i| self.scan.mark(*i, '%')).filter_map(|i| {
            let value = i.checked_sub(1).and_then(|k| self.scan.tok(k)).and_then(super::token::Token::value)?;
            let said = self.scan.role(i + 1, Role::Hydration).is_some();
            // `20 %` is its share of the dough; that a leaven is drier than 40 % is told with the word.
            (said || (value >= 40.0 && told.percent != Some(value))).then_some(value)
        });
        percent.reduce(|_, later| later).filter(|h| (30.0..=300.0).contains(h))
    }

    /// A name without an amount: `salt to taste`, `sesame for the top`, `Pepitas`.
    fn name_alone(&self, told: &Told<'_>, name: &Named) -> Option<ReadLine> {
        let scan = self.scan;
        let vague = (self.at..self.end).find_map(|i| scan.pick(i, |r| if let Role::Vague(v) = r { Some(v) } else { None })).map(|(v, _)| v);
        let purpose = self.purpose(told, self.end);
        let pours = (self.at..self.end).any(|i| scan.role(i, Role::Extra).is_some());
        let words = self.scan.tokens.get(self.at..self.end).map_or(0, |w| w.iter().filter(|t| t.is_word()).count());
        let short = words <= name.words + 2 && !name.guessed;
        if !(vague.is_some() || purpose.is_some() || (self.place.listed && short) || self.place.put_on) {
            return None;
        }
        let dusting = matches!(purpose, Some(Purpose::Dusting))
            && (name.ingredient.family == Family::Flour || name.ingredient.kind == "flour-for-dusting")
            || (pours && name.ingredient.family == Family::Flour);
        let ingredient = if dusting { scan.pantry.get("flour-for-dusting").unwrap_or(&name.ingredient) } else { &name.ingredient };
        let grams = dusting.then(|| Band::new(5.0, 15.0, 40.0));
        let mut line = self.line(ingredient, grams, told);
        if let Some(Purpose::Stage(s)) = purpose {
            line.stage = s;
        }
        if line.stage == Stage::Finish
            && line.ingredient.kind == "egg-whole"
            && let Some(wash) = scan.pantry.get("egg-wash")
        {
            line.ingredient = wash.clone();
        }
        if !dusting && line.stage != Stage::Finish {
            let id = if vague == Some(Vague::ToTaste) { "to-taste" } else { "vague-amount" };
            line.questions.push(Question::new(id, Vec::new()));
        }
        Some(line)
    }

    /// `500 g flour (70 % bread, 30 % rye)`
    fn percent_mix(&self, told: &Told<'_>) -> Option<Vec<(f64, Arc<Ingredient>)>> {
        let open = (told.tail..self.end).find(|i| self.scan.mark(*i, '('))?;
        let close = self.scan.closing(open, self.end);
        let marks: Vec<usize> = (open..close).filter(|i| self.scan.mark(*i, '%')).collect();
        if marks.len() < 2 {
            return None;
        }
        let parts = marks.iter().map(|at| {
            let share = self.scan.tok(at.checked_sub(1)?)?.value()? / 100.0;
            flour_named(self.scan, at + 1, close).map(|i| (share, i))
        });
        let parts: Vec<_> = parts.collect::<Option<_>>()?;
        let sum: f64 = parts.iter().map(|p| p.0).sum();
        ((sum - 1.0).abs() < 0.02).then_some(parts)
    }

    /// `1 orange, zest only`
    fn part_of_fruit(&self, told: &Told<'_>, clues: Clues) -> Option<ReadLine> {
        let counted = told.sum.first().is_some_and(|(_, a)| a.unit.is_none());
        let named = |ending: &str| counted && told.name.ingredient.id.ends_with(ending);
        let part = if clues.contains(Clue::ZestOnly) || named("-zest") {
            "zest"
        } else if clues.contains(Clue::JuiceOnly) || named("-juice") {
            "juice"
        } else {
            return None;
        };
        let fruit = |i: usize| self.scan.pick(i, |r| if let Role::Fruit(f) = r { Some(f) } else { None });
        let (fruit, _) = (self.at..self.end).find_map(fruit)?;
        let ingredient = self.scan.pantry.get(&format!("{fruit}-{part}"))?;
        let count = told.sum.first().filter(|(_, a)| a.unit.is_none()).map(|(_, a)| a.value)?;
        let each = ingredient.piece(if part == "juice" { "juice-of-one" } else { "of-one" }).unwrap_or(Band::exact(10.0));
        let grams = Band::new(each.low * count.low, each.likely * count.likely, each.high * count.high);
        let mut line = self.line(ingredient, Some(grams).filter(|g| is_weight(*g)), told);
        if part == "juice" {
            line.questions.push(Question::new("size-of-piece", Vec::new()));
        }
        Some(line)
    }

    /// `, plus extra for dusting`
    fn extra(&self, told: &Told<'_>, ingredient: &Ingredient) -> Option<ReadLine> {
        let from = self.own_end(told);
        let into_dough = |i: usize| self.scan.role(i, Role::Purpose(Purpose::Stage(Stage::Dough))).is_some();
        if from >= self.end || (from..self.end).any(into_dough) {
            return None;
        }
        let little = self.scan.clues(from, self.end).contains(Clue::Little);
        let id = match ingredient.family {
            Family::Flour => "flour-for-dusting",
            Family::Fat if !little => "nonstick-spray",
            _ => return None,
        };
        let row = self.scan.pantry.get(id)?;
        Some(ReadLine { stage: Stage::Finish, ..self.line(row, Some(Band::new(5.0, 10.0, 20.0)), told) })
    }
}

/// The flour that is named there, with or without the word: `bread`, `rye`.
pub(super) fn flour_named(scan: &Scan<'_>, at: usize, limit: usize) -> Option<Arc<Ingredient>> {
    let named = scan.name_behind(at, limit).filter(|n| n.ingredient.family == Family::Flour).map(|n| n.ingredient);
    named.or_else(|| {
        let words: Vec<&str> = scan.tokens.get(at..limit)?.iter().take_while(|t| t.is_word()).map(|t| t.folded.as_ref()).collect();
        let words = fold(&words.join(" "));
        scan.pantry.find(&format!("{words} flour")).or_else(|_| scan.pantry.find(&words)).ok().cloned()
    })
}

fn sum_of(sum: &Sum<'_>, context: &Weighing<'_>, questions: &mut Vec<Question>) -> Option<(Band, bool)> {
    let (mut total, mut by_volume): (Option<Band>, bool) = (None, false);
    for (sign, a) in sum {
        let (grams, volume) = context.grams(a, questions)?;
        by_volume |= volume;
        total = Some(match total {
            None => grams,
            Some(t) if *sign < 0.0 => Band::new(t.low - grams.high, t.likely - grams.likely, t.high - grams.low),
            Some(t) => t.plus(grams),
        });
    }
    // A question once is enough for two spoons of the same.
    let mut seen: Vec<&str> = Vec::new();
    questions.retain(|q| {
        !seen.contains(&q.id) && {
            seen.push(q.id);
            true
        }
    });
    total.filter(|g| is_weight(*g)).map(|g| (g, by_volume))
}

/// What words beside the name settle: `fresh`, `rye` before a leaven, `salted`.
fn refine(ingredient: &mut Arc<Ingredient>, clues: Clues, pantry: &Pantry) {
    let has = |clue| clues.contains(clue);
    let id = match ingredient.kind.as_str() {
        "leaven-wheat" if has(Clue::Rye) => "leaven-rye",
        "oil-neutral" if has(Clue::Olive) => "oil-olive",
        "leaven-wheat" if has(Clue::Stiff) => "leaven-stiff",
        "butter-unsalted" if has(Clue::Salted) && !has(Clue::Unsalted) => "butter-salted",
        "yeast-instant" if has(Clue::Fresh) => "yeast-fresh",
        "yeast-instant" if has(Clue::Dry) && !has(Clue::Instant) && !has(Clue::Quick) => "yeast-active-dry",
        "yeast-fresh" if has(Clue::Instant) => "yeast-instant",
        "yeast-fresh" if has(Clue::Dry) => "yeast-active-dry",
        // `very strong white`: no egg is strong.
        "egg-white" if has(Clue::Strong) => "wheat-bread",
        "egg-whole" if has(Clue::Yolk) => "egg-yolk",
        "egg-whole" if has(Clue::White) => "egg-white",
        _ => return,
    };
    if let Some(i) = pantry.get(id) {
        *ingredient = i.clone();
    }
}
