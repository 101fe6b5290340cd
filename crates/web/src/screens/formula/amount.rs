//! How much of it: one sentence changed in place. What is told is kept, the rest follows, and what everything becomes stands
//! beside it before it is taken.

use std::collections::BTreeMap;

use cerealis_core::{
    Tables,
    findings::Severity,
    formula::{Amount, AmountBody, Analysis, Formula, FormulaDraft, Keep, Short, Spoons, WEAVES, find, spoons},
    input::{InputErrors, Pointer, number},
    kitchen::Kitchen,
    measure::{Asked, show, typed, weight},
    oven::Shape,
    pantry::{Family, Pantry},
};

use super::{
    super::{SHAPES, shape_called},
    figures::divided,
    form::{Sheet, optional},
    view::{in_field, plain, short_name, whole_eggs},
};

/// A figure of the sentence: what was typed, which is kept, else what follows.
pub struct Figure {
    pub typed: String,
    pub follows: String,
    pub short: bool,
}

/// A choice of the sentence.
pub type Choice = (String, String, bool);

/// The sentence.
pub struct AmountView {
    pub keep: &'static str,
    pub count: Figure,
    pub piece_g: Figure,
    pub shapes: Vec<Choice>,
    pub weaves: Vec<Choice>,
    pub pans: Vec<Choice>,
    pub flour: Figure,
    pub dough: Figure,
    pub lines: Vec<Choice>,
    pub grams: Figure,
    /// Whole eggs; nothing follows where there are none.
    pub eggs: Figure,
    /// Whether it rises, so that its hours can be kept.
    pub rises: bool,
    pub ripe_h: Figure,
    pub place_c: Figure,
    pub errors: Vec<String>,
    pub becomes: Option<Becomes>,
    /// What each bread is woven from, and what all of them take.
    pub divided: Vec<String>,
    pub undo: bool,
    pub redo: bool,
}

/// What the sentence would make of the formula.
pub struct Becomes {
    pub short: Option<ShortView>,
    /// Dough the pieces leave over.
    pub over: Option<String>,
    /// Pieces as they become, and the button for as many as there are of the weight they have now.
    pub alike: Option<(String, String)>,
    /// What is said of it that is not said of it now; whether it is a caution.
    pub warns: Vec<(bool, String)>,
    /// Name, now, becomes, by spoon, whether it changes.
    pub lines: Vec<(String, String, String, String, bool)>,
    pub dough: (String, String, String),
    pub divided: Vec<String>,
}

/// Flour that is short, and what can be made instead.
pub struct ShortView {
    pub missing: String,
    pub words: String,
    /// What the button says, and does.
    pub instead: Vec<(String, &'static str)>,
}

/// What the sentence says, as far as it asks for anything other than what there is.
///
/// # Errors
/// Each figure that cannot be read, at its field.
pub fn told(sheet: &Sheet, formula: &Formula, pantry: &Pantry) -> Result<Option<AmountBody>, InputErrors> {
    let fields = &sheet.scale;
    let root = Pointer::root();
    let figure = |name: &str| {
        let text = optional(fields, name);
        text.map(|t| typed(&t, Asked::by_name(name), &sheet.kitchen.units).map_err(|e| InputErrors::one(root.at(name), e))).transpose()
    };
    let keep = optional(fields, "keep").and_then(|w| Keep::from_word(&w)).unwrap_or(Keep::Pieces);
    let pieces = formula.pieces.as_ref();
    let word = |name: &str, now: Option<&str>| fields.get(name).filter(|w| w.as_str() != now.unwrap_or_default()).cloned();
    let body = AmountBody {
        keep,
        count: figure("count")?,
        piece_g: figure("piece_g")?,
        flour_g: figure("flour_g")?,
        shape: word("shape", pieces.and_then(|p| p.shape).map(Shape::word)),
        strands: word("strands", pieces.and_then(|p| p.strands).map(|n| n.to_string()).as_deref())
            .map(|s| if s.is_empty() { Ok(0.0) } else { number(&s).map_err(|e| InputErrors::one(root.at("strands"), e)) })
            .transpose()?,
        pan: word("pan", pieces.and_then(|p| p.pan.as_ref()).map(|p| p.id.as_str())),
        ..AmountBody::default()
    };
    // What belongs to another choice stays where it is typed, and waits.
    let body = match keep {
        Keep::Pieces | Keep::Flour | Keep::Tin => body,
        Keep::Dough => AmountBody { dough_g: figure("dough_g")?, ..body },
        Keep::Ingredient => AmountBody { grams: figure("grams")?, ingredient: optional(fields, "ingredient"), ..body },
        Keep::Eggs => {
            let eggs = figure("eggs")?.or_else(|| whole_eggs(formula, &sheet.kitchen, pantry));
            AmountBody { eggs, egg_g: Some(sheet.kitchen.egg_g(pantry)), ..body }
        }
        Keep::Ripe => AmountBody { ripe_h: figure("ripe_h")?, place_c: figure("place_c")?.or(Some(sheet.kitchen.room_c)), ..body },
    };
    Ok(body.asks().then_some(body))
}

/// What the sentence makes of the sheet's formula; nothing where it asks for nothing, or while the formula cannot be read.
///
/// # Errors
/// Each figure that is wrong, under `/scale`.
pub fn amount(sheet: &Sheet, formula: &Formula, tables: &Tables, instead: &str) -> Result<Option<Amount>, InputErrors> {
    let here = Pointer::root().at("scale");
    let Some(body) = told(sheet, formula, &tables.pantry).map_err(|e| e.under(&here))? else { return Ok(None) };
    let analysis = formula.analyse(&tables.pantry, &tables.styles);
    let of = |body: &AmountBody| body.of(formula, &analysis, tables).map_err(|e| e.under(&here));
    let amount = of(&body)?;
    let other = match instead {
        "smaller" => amount.short.as_ref().map(|short| body.smaller(short)),
        "fewer" => amount.short.as_ref().and_then(|short| body.fewer(short)),
        "alike" => amount.alike.map(|alike| body.as_heavy(alike)),
        _ => None,
    };
    Ok(Some(match other {
        Some(body) => of(&body)?,
        None => amount,
    }))
}

/// What the sentence is shown from.
pub struct Told<'a> {
    pub scale: &'a BTreeMap<String, String>,
    pub draft: &'a FormulaDraft,
    /// The formula as it is, while it can be read.
    pub now: Option<&'a Analysis<'a>>,
    pub amount: Option<&'a Amount>,
    pub errors: Vec<String>,
    pub kitchen: &'a Kitchen,
    pub tables: &'a Tables,
    pub steps: (bool, bool),
}

impl AmountView {
    pub fn new(t: Told<'_>) -> Self {
        let (units, pantry) = (&t.kitchen.units, &t.tables.pantry);
        let after = t.amount.map(|a| a.formula.analyse(pantry, &t.tables.styles));
        // What follows is shown as it becomes, else as it is.
        let seen = after.as_ref().or(t.now);
        let formula = seen.map(|a| a.formula);
        let pieces = formula.and_then(|f| f.pieces.as_ref());
        let typed = |name: &str| t.scale.get(name).map(|v| v.trim().to_owned()).unwrap_or_default();
        let figure = |name: &str, follows: String| Figure { typed: typed(name), follows, short: false };
        let grams = |g: Option<f64>| g.map(|g| in_field(g, units)).unwrap_or_default();
        let (count, each_g) = (pieces.map_or(1, |p| p.count), seen.map_or(0.0, Analysis::piece_g));
        let chosen = |name: &str, now: Option<String>| t.scale.get(name).cloned().or(now).unwrap_or_default();
        let told = t.draft.pieces.as_ref();
        let (shape, pan) = (chosen("shape", told.and_then(|p| p.shape.clone())), chosen("pan", told.and_then(|p| p.pan.clone())));
        let strands = chosen("strands", told.and_then(|p| p.strands).map(plain));
        let one_of = |word: &str, label: &str, here: &str| (word.to_owned(), label.to_owned(), word == here);
        let no_tin = one_of("", "no tin", &pan);
        let ingredient = chosen("ingredient", formula.and_then(|f| f.lines.first()).map(|l| l.ingredient.id.clone()));
        let rises = |f: &Formula| f.lines.iter().any(|l| l.in_dough() && matches!(l.ingredient.family, Family::Yeast | Family::Leaven));
        let of_line = |f: &Formula| {
            let lines = f.lines.iter().filter(|l| l.ingredient.id == ingredient);
            lines.map(|l| l.grams.likely).sum::<f64>()
        };
        let short = t.amount.is_some_and(|a| a.short.is_some());
        Self {
            keep: optional(t.scale, "keep").and_then(|w| Keep::from_word(&w)).unwrap_or(Keep::Pieces).word(),
            count: figure("count", count.to_string()),
            piece_g: figure("piece_g", grams(seen.map(Analysis::piece_g))),
            shapes: std::iter::once("")
                .chain(SHAPES.map(|s| s.0))
                .map(|word| one_of(word, shape_called(word, each_g, count), &shape))
                .collect(),
            weaves: std::iter::once(one_of("", "not woven", &strands))
                .chain(WEAVES.iter().map(|(n, _)| one_of(&n.to_string(), &format!("woven of {n} strands"), &strands)))
                .collect(),
            pans: std::iter::once(no_tin).chain(pantry.pans().map(|p| one_of(&p.id, &p.name, &pan))).collect(),
            flour: Figure { short, ..figure("flour_g", grams(seen.map(|a| a.flour_g.likely))) },
            dough: figure("dough_g", grams(seen.map(|a| a.dough_g.likely))),
            grams: figure("grams", grams(formula.map(of_line).filter(|g| *g > 0.0))),
            lines: formula.map_or_else(Vec::new, |f| {
                let mut lines: Vec<Choice> = Vec::new();
                for l in f.lines.iter().filter(|l| l.in_dough()) {
                    if lines.iter().all(|c| c.0 != l.ingredient.id) {
                        lines.push(one_of(&l.ingredient.id, &short_name(&l.ingredient, pantry), &ingredient));
                    }
                }
                lines
            }),
            eggs: figure("eggs", formula.and_then(|f| whole_eggs(f, t.kitchen, pantry)).map(|n| show(n, 0)).unwrap_or_default()),
            rises: formula.is_some_and(rises),
            ripe_h: figure("ripe_h", String::new()),
            place_c: figure("place_c", Asked::Degrees.shown(t.kitchen.room_c, units)),
            becomes: t.now.zip(t.amount).zip(after.as_ref()).map(|((now, amount), after)| Becomes::new(now, amount, after, &t)),
            divided: t.now.map_or_else(Vec::new, divided),
            undo: t.steps.0,
            redo: t.steps.1,
            errors: t.errors,
        }
    }
}

impl Becomes {
    fn new(now: &Analysis<'_>, amount: &Amount, after: &Analysis<'_>, t: &Told<'_>) -> Self {
        let with = Spoons::of(t.kitchen, &t.tables.pantry);
        let lines = now.formula.lines.iter().zip(&amount.formula.lines).map(|(was, is)| {
            let (before, becomes) = (weight(was.grams.likely).to_string(), weight(is.grams.likely).to_string());
            let changes = before != becomes;
            let by_spoon = spoons(&is.ingredient, is.grams.likely, with).unwrap_or_default();
            (short_name(&is.ingredient, &t.tables.pantry), before, becomes, by_spoon, changes)
        });
        let ids: Vec<&str> = find(now, t.tables).iter().map(|f| f.id).collect();
        let warns = find(after, t.tables).into_iter().filter(|f| !ids.contains(&f.id));
        Self {
            short: amount.short.as_ref().map(ShortView::new),
            alike: amount
                .alike
                .zip(after.formula.pieces.as_ref())
                .map(|((n, g), p)| (format!("{} of {} each.", p.count, weight(after.piece_g())), format!("{n} of {} instead", weight(g)))),
            over: (amount.over_g >= 1.0).then(|| weight(amount.over_g).to_string()),
            warns: warns.map(|f| (f.severity != Severity::Note, f.message)).collect(),
            lines: lines.collect(),
            dough: (
                weight(now.dough_g.likely).to_string(),
                weight(after.dough_g.likely).to_string(),
                more_or_less(after.dough_g.likely / now.dough_g.likely),
            ),
            divided: divided(after),
        }
    }
}

/// `6 % more of it`, `twice as much`.
fn more_or_less(factor: f64) -> String {
    let percent = 100.0 * (factor - 1.0);
    if !factor.is_finite() || percent.abs() < 0.5 {
        "as much as now".into()
    } else if (factor - 2.0).abs() < 0.005 {
        "twice as much".into()
    } else if (factor - 0.5).abs() < 0.0025 {
        "half as much".into()
    } else if factor > 2.0 {
        format!("{} times as much", show(factor, 1))
    } else {
        format!("{} % {}", show(percent.abs(), 0), if percent > 0.0 { "more" } else { "less" })
    }
}

impl ShortView {
    fn new(s: &Short) -> Self {
        let what = if s.count == 1 { "One".to_owned() } else { s.count.to_string() };
        let wants = if s.count == 1 { "wants" } else { "want" };
        let smaller = (format!("{} of {} instead", s.count, weight(s.smaller_g())), "make:smaller");
        let fewer = s.fewer().map(|(n, over)| {
            let left = if over >= 1.0 { format!(", {} over", weight(over)) } else { String::new() };
            (format!("{n} of {}{left}", weight(s.piece_g)), "make:fewer")
        });
        Self {
            missing: format!("{} of flour short.", weight(s.missing_g()).to(0)),
            words: format!("{what} of {} {wants} {}.", weight(s.piece_g), weight(s.wants_g).to(0)),
            instead: std::iter::once(smaller).chain(fewer).collect(),
        }
    }
}
