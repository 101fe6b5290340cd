//! One ingredient for another: the weight that does the same work, and what must be added or taken out
//! so that water, fat, sugar and salt stay as they were.

use std::{borrow::Cow, sync::Arc};

use crate::{
    Tables,
    findings::Change,
    formula::{Formula, Line, Stage},
    measure::{Band, weighable, weight},
    pantry::{Fact, Family, Ingredient, Pantry, TableError, field_number},
    words::capitalized,
};

const FILE: &str = "swaps.csv";
const SWAPS: &str = include_str!("../../data/swaps.csv");
/// A row of the table.
#[derive(Debug, Clone, PartialEq)]
struct Row {
    id: String,
    from: String,
    to: String,
    factor: f64,
    /// Share of the old one that is swapped: of a flour often only a part.
    part: f64,
    /// Grams to add for 100 g of what goes out (less than 0: to take out): water, fat, sugar, salt.
    gaps: [f64; 4],
    also: String,
    when: String,
    changes: String,
    source: String,
}

/// The table of swaps.
#[derive(Debug, Clone)]
pub struct Swaps {
    rows: Vec<Row>,
}

/// What can stand in for a line.
#[derive(Debug, Clone, PartialEq)]
pub struct Swap {
    /// Row of the table.
    pub id: String,
    /// What goes in.
    pub ingredient: Arc<Ingredient>,
    /// How much of it, grams.
    pub grams: f64,
    /// What stays of the old one, grams; nothing where all of it goes.
    pub stays_g: f64,
    /// What is added, or taken out where it is less than 0, in grams: so that the dough stays what it was.
    pub with: Vec<(Arc<Ingredient>, f64)>,
    /// When it is right, what else is to do, what changes, in a baker's words.
    pub words: String,
    /// Who says so.
    pub source: String,
    /// What one tap does.
    pub changes: Vec<Change>,
}

#[derive(serde::Deserialize)]
struct Written {
    id: String,
    from_id: String,
    to_id: String,
    factor: String,
    part: String,
    liquid_gap_g_per_100g: String,
    fat_gap_g_per_100g: String,
    sugar_gap_g_per_100g: String,
    salt_gap_g_per_100g: String,
    also_add: String,
    applies_when: String,
    what_changes: String,
    source: String,
}

impl Swaps {
    /// Reads the built-in table against the pantry.
    ///
    /// # Errors
    /// [`TableError`] naming the row, and the ingredient nobody knows or the figure that is none.
    pub fn built_in(pantry: &Pantry) -> Result<Self, TableError> {
        let mut rows = Vec::new();
        for record in csv::Reader::from_reader(SWAPS.as_bytes()).deserialize() {
            let r: Written = record.map_err(|e| TableError { file: FILE, row: "?".into(), what: e.to_string() })?;
            for id in [&r.from_id, &r.to_id] {
                if pantry.get(id).is_none() {
                    return Err(TableError { file: FILE, row: r.id, what: format!("no ingredient {id}") });
                }
            }
            let number = |name: &str, text: &str| field_number(FILE, &r.id, name, text).map(|v| v.unwrap_or(0.0));
            // What one yeast is in another stands with the yeasts.
            let instant = |id: &str| pantry.get(id).and_then(|i| i.yeast_kind()).map(|kind| pantry.instant_equivalent(kind));
            let factor = field_number(FILE, &r.id, "factor", &r.factor)?.or_else(|| Some(instant(&r.from_id)? / instant(&r.to_id)?));
            let factor = factor.ok_or_else(|| TableError { file: FILE, row: r.id.clone(), what: "factor is missing".to_owned() })?;
            rows.push(Row {
                factor,
                part: field_number(FILE, &r.id, "part", &r.part)?.unwrap_or(1.0),
                gaps: [
                    number("liquid_gap", &r.liquid_gap_g_per_100g)?,
                    number("fat_gap", &r.fat_gap_g_per_100g)?,
                    number("sugar_gap", &r.sugar_gap_g_per_100g)?,
                    number("salt_gap", &r.salt_gap_g_per_100g)?,
                ],
                id: r.id,
                from: r.from_id,
                to: r.to_id,
                also: r.also_add,
                when: r.applies_when,
                changes: r.what_changes,
                source: r.source,
            });
        }
        Ok(Self { rows })
    }

    /// Whether something can stand in for an ingredient.
    #[must_use]
    pub fn knows(&self, ingredient: &str) -> bool {
        self.rows.iter().any(|r| r.from == ingredient)
    }

    /// What can stand in for a line of a formula, in the order of the table.
    #[must_use]
    pub fn of(&self, formula: &Formula, line: usize, tables: &Tables) -> Vec<Swap> {
        let Some(out) = formula.lines.get(line) else { return Vec::new() };
        let rows = self.rows.iter().filter(|r| r.from == out.ingredient.kind);
        rows.filter_map(|r| r.swap(formula, line, out, &tables.pantry)).collect()
    }
}

/// A kind of line, and the ingredient that is added where there is none of the kind.
type Fill = (fn(&Line) -> bool, &'static str);

/// What makes up a gap: where it is taken from, and what is added where no line holds it.
const FILLS: [Fill; 4] = [
    (|l| l.ingredient.is(Fact::Water), "water"),
    (|l| l.ingredient.family == Family::Fat, "oil-neutral"),
    (|l| l.ingredient.family == Family::Sugar && l.ingredient.water_pct < 12.0, "sugar-white"),
    (|l| l.ingredient.family == Family::Salt, "salt-fine"),
];

/// A gap smaller than this is nothing a scale would show, grams.
fn least(of: usize) -> f64 {
    if of == 3 { 0.3 } else { 1.0 }
}

impl Row {
    fn swap(&self, formula: &Formula, line: usize, out: &Line, pantry: &Pantry) -> Option<Swap> {
        let to = pantry.get(&self.to)?;
        let flours = out.ingredient.family == Family::Flour && to.family == Family::Flour;
        // A leaven that is still to be built is seed, flour and water: what it becomes is not swapped line by line.
        if out.ingredient.family == Family::Leaven && out.stage == Stage::Leaven {
            return None;
        }
        let part = self.part;
        let moved = out.grams.likely * part;
        let grams = moved * self.factor;
        let mut gaps = self.gaps.map(|g| g * moved / 100.0);
        if flours {
            // The other flour drinks more or less.
            let points = |id: &str| pantry.flour_kind(id).map_or(0.0, |k| k.absorption_points);
            gaps[0] += moved * (points(&to.id) - points(&out.ingredient.id)) / 100.0;
        }
        let mut job = Job { formula, line, changes: Vec::new(), with: Vec::new(), untold: Vec::new() };
        if part < 1.0 {
            job.set(line, out.grams.times(1.0 - part));
            job.changes.push(Change::Add { ingredient: Cow::Owned(to.id.clone()), grams: weighable(grams) });
        } else {
            job.changes.push(Change::Ingredient { line, ingredient: Cow::Owned(to.id.clone()) });
            // Oil goes in with the water where butter waited for the gluten.
            if out.stage == Stage::usual(&out.ingredient) && Stage::usual(to) != out.stage {
                job.changes.push(Change::Stage { line, stage: Stage::usual(to) });
            }
            job.set(line, out.grams.times(self.factor));
        }
        if out.in_dough() {
            let leavens = [(to, 1.0, grams), (&out.ingredient, -1.0, moved)];
            for (leaven, sign, weight) in leavens.into_iter().filter(|(i, _, _)| i.family == Family::Leaven) {
                // A leaven brings flour and water of its own: they come out of the rest, or go back into it.
                job.fill(|l| l.ingredient.family == Family::Flour, "wheat-bread", -sign * weight * leaven.flour_share, 1.0, pantry);
                gaps[0] -= sign * weight * leaven.hydration_share;
            }
            for (i, (is, else_add)) in FILLS.iter().enumerate() {
                job.fill(is, else_add, gaps.get(i).copied().unwrap_or(0.0), least(i), pantry);
            }
        }
        let sentence = |text: &str| {
            if matches!(text, "" | "any" | "any dough") { String::new() } else { format!("{}. ", capitalized(text)) }
        };
        // Where the gaps are filled, the same said in words would be done twice.
        let filled = !job.with.is_empty() && self.gaps.iter().any(|g| *g != 0.0);
        let also = if filled || flours || to.family == Family::Leaven { "" } else { self.also.as_str() };
        let untold = if job.untold.is_empty() { String::new() } else { format!("Take out {} by hand. ", job.untold.join(", ")) };
        let words = format!("{}{}{untold}{}", sentence(&self.changes), sentence(also), sentence(&self.when));
        Some(Swap {
            id: self.id.clone(),
            ingredient: to.clone(),
            grams: weighable(grams),
            stays_g: if part < 1.0 { out.grams.likely * (1.0 - part) } else { 0.0 },
            with: job.with,
            words: words.trim_end().to_owned(),
            source: self.source.clone(),
            changes: job.changes,
        })
    }
}

/// The changes of a swap while they are put together.
struct Job<'a> {
    formula: &'a Formula,
    line: usize,
    changes: Vec<Change>,
    with: Vec<(Arc<Ingredient>, f64)>,
    untold: Vec<String>,
}

impl Job<'_> {
    fn set(&mut self, line: usize, grams: Band) {
        let interval = self.formula.lines.get(line).is_some_and(|l| !l.grams.is_exact());
        self.changes.push(Change::Grams { line, grams: if interval { grams } else { Band::exact(weighable(grams.likely)) }, interval });
    }

    /// Adds `grams` (less than 0: takes them out) to the heaviest line of a kind; adds a line where there is none.
    fn fill(&mut self, is: impl Fn(&Line) -> bool, else_add: &'static str, grams: f64, least: f64, pantry: &Pantry) {
        if grams.abs() < least {
            return;
        }
        let lines =
            self.formula.lines.iter().enumerate().filter(|(i, l)| *i != self.line && l.in_dough() && l.stage != Stage::Leaven && is(l));
        let heaviest = lines.max_by(|a, b| a.1.grams.likely.total_cmp(&b.1.grams.likely));
        match heaviest {
            Some((at, l)) if l.grams.likely + grams > 0.0 => {
                // The same line may be filled twice: the later weight counts from the earlier.
                let before = self.changes.iter().rev().find_map(|c| match c {
                    Change::Grams { line, grams, .. } if *line == at => Some(*grams),
                    _ => None,
                });
                let now = before.unwrap_or(l.grams);
                let next = Band::new((now.low + grams).max(0.0), now.likely + grams, now.high + grams);
                self.set(at, next);
                self.with.push((l.ingredient.clone(), grams));
            }
            None if grams > 0.0 => {
                if let Some(i) = pantry.get(else_add) {
                    self.changes.push(Change::Add { ingredient: else_add.into(), grams: weighable(grams) });
                    self.with.push((i.clone(), grams));
                }
            }
            Some(_) | None => {
                let name = pantry.get(else_add).map_or(else_add, |i| i.short_name()).to_lowercase();
                self.untold.push(format!("{} {name}", weight(grams.abs())));
            }
        }
    }
}
