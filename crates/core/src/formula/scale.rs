//! The same dough, more or less of it: weights change, percentages do not.

use serde::{Deserialize, Serialize};

use std::sync::Arc;

use super::{Analysis, Formula, Pieces, StyleId, pieces::MOST_PIECES};
use crate::{
    Tables,
    input::{Errors, InputErrors, Pointer},
    measure::{between, grams, millilitres, to_nearest},
    pantry::{Pan, Pantry},
};

/// What is asked for, as it came.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[allow(missing_docs, reason = "names of the API")]
pub struct ScaleBody {
    pub pieces: Option<f64>,
    pub piece_g: Option<f64>,
    pub dough_g: Option<f64>,
    pub flour_g: Option<f64>,
    pub ingredient: Option<String>,
    pub grams: Option<f64>,
    pub pan_ml: Option<f64>,
    pub fill: Option<f64>,
    pub pan: Option<String>,
    pub pans: Option<f64>,
    /// Whole eggs.
    pub eggs: Option<f64>,
    /// What one of them weighs, g; left out: a large US egg.
    pub egg_g: Option<f64>,
    /// Hours after mixing in which it shall be ripe.
    pub ripe_h: Option<f64>,
    /// Where it stands for them, °C; left out: 21.
    pub place_c: Option<f64>,
}

/// What is asked for, checked.
#[derive(Debug, Clone, PartialEq)]
pub enum Scale {
    /// So many pieces of such a weight.
    Pieces {
        /// How many.
        count: u32,
        /// Grams of one.
        piece_g: f64,
    },
    /// So much dough in grams.
    Dough(f64),
    /// The flour that is left, in grams.
    Flour(f64),
    /// So many pans of a kind, filled.
    Pans {
        /// How many pieces in all of them.
        count: u32,
        /// Grams of one.
        piece_g: f64,
        /// Which pan.
        pan: Arc<Pan>,
    },
    /// So much of one ingredient.
    Ingredient {
        /// Its id.
        id: String,
        /// Grams.
        grams: f64,
    },
    /// So many times its yeast, or its leaven; the rest stays.
    Dose {
        /// How many times.
        factor: f64,
        /// The style it stays, where such a dose alone would make it another.
        style: Option<StyleId>,
    },
}

impl ScaleBody {
    /// Checks that exactly one way of scaling is asked for, within its range.
    ///
    /// # Errors
    /// Each field that is wrong, with pointers from the scale on.
    pub fn check(&self, formula: &Formula, analysis: &Analysis<'_>, tables: &Tables) -> Result<Scale, InputErrors> {
        let pantry = &tables.pantry;
        let root = Pointer::root();
        let ways = [
            self.pieces.or(self.piece_g).is_some(),
            self.dough_g.is_some(),
            self.flour_g.is_some(),
            self.ingredient.is_some() || self.grams.is_some(),
            self.pan_ml.is_some(),
            self.pan.is_some(),
            self.eggs.is_some(),
            self.ripe_h.is_some(),
        ];
        if ways.iter().filter(|w| **w).count() != 1 {
            return Err(InputErrors::one(
                root,
                "Say one thing to scale by: pieces and their weight, the dough, the flour, one ingredient, whole eggs, a pan, or the hours of its rise.",
            ));
        }
        if analysis.flour_g.likely <= 0.0 {
            return Err(InputErrors::one(root, "Without flour there is nothing to scale by."));
        }
        let mut errors = Errors::default();
        let scale = if let Some(g) = self.dough_g {
            within(&mut errors, "dough_g", Some(g), (1.0, 200_000.0), between!("Dough", 1, 200_000, grams));
            Scale::Dough(g)
        } else if let Some(g) = self.flour_g {
            within(&mut errors, "flour_g", Some(g), (1.0, 200_000.0), between!("Flour", 1, 200_000, grams));
            Scale::Flour(g)
        } else if let Some(ml) = self.pan_ml {
            let words = concat!("A pan holds between ", millilitres!(50), " and ", millilitres!(20000), ".");
            within(&mut errors, "pan_ml", Some(ml), (50.0, 20_000.0), words);
            let fill = self.fill.unwrap_or_else(|| analysis.pan_fill(formula.pieces.as_ref().is_some_and(|p| p.lid)).likely);
            within(&mut errors, "fill", Some(fill), (0.1, 1.0), "A pan takes between 0.1 and 1 g of dough per ml.");
            Scale::Dough(ml * fill)
        } else if let Some(eggs) = self.eggs {
            self.by_eggs(eggs, formula, pantry, &mut errors)
        } else if let Some(hours) = self.ripe_h {
            self.by_dose(hours, analysis, tables, &mut errors)
        } else if let Some(id) = &self.pan {
            self.by_pans(id, analysis, pantry, &mut errors)
        } else if self.ingredient.is_some() || self.grams.is_some() {
            self.by_ingredient(formula, pantry, &mut errors)
        } else {
            self.by_pieces(&mut errors)
        };
        errors.finish(scale)
    }

    /// So many whole eggs.
    fn by_eggs(&self, eggs: f64, formula: &Formula, pantry: &Pantry, errors: &mut Errors) -> Scale {
        within(errors, "eggs", Some(eggs), (1.0, 200.0), "Between 1 and 200 whole eggs.");
        if eggs.fract() != 0.0 {
            errors.add(Pointer::root().at("eggs"), "Whole eggs: that is the point of it.");
        }
        let egg_g = self.egg_g.or_else(|| pantry.get("egg-whole")?.piece("us-large").map(|b| b.likely));
        let egg_g = within(errors, "egg_g", egg_g, (5.0, 200.0), between!("An egg out of its shell weighs", 5, 200, grams));
        let egg = formula.lines.iter().find(|l| l.ingredient.kind == "egg-whole").map(|l| l.ingredient.id.clone());
        if egg.is_none() {
            errors.add(Pointer::root().at("eggs"), "There is no whole egg in this list.");
        }
        Scale::Ingredient { id: egg.unwrap_or_default(), grams: eggs * egg_g }
    }

    /// The yeast or leaven that makes it ripe in so many hours.
    fn by_dose(&self, hours: f64, analysis: &Analysis<'_>, tables: &Tables, errors: &mut Errors) -> Scale {
        within(errors, "ripe_h", Some(hours), (0.5, 72.0), "A rise takes between half an hour and three days.");
        let place_c = within(errors, "place_c", self.place_c.or(Some(21.0)), (2.0, 40.0), between!("A dough rises", 2, 40, celsius));
        let mix_c = f64::midpoint(analysis.style.dough_c.0, analysis.style.dough_c.1);
        let factor = if errors.is_empty() {
            errors.keep(Pointer::root().at("ripe_h"), super::dose_for(analysis, hours, mix_c, place_c, tables))
        } else {
            None
        };
        let dosed = factor.and_then(|f| errors.keep(Pointer::root().at("ripe_h"), analysis.dosed(f)));
        let style = analysis.style.id;
        let other = dosed.is_some_and(|d| d.analyse(&tables.pantry, &tables.styles).style.id != style);
        Scale::Dose { factor: factor.unwrap_or(1.0), style: other.then_some(style) }
    }

    /// What fills so many pans.
    fn by_pans(&self, id: &str, analysis: &Analysis<'_>, pantry: &Pantry, errors: &mut Errors) -> Scale {
        let pans = self.pans.unwrap_or(1.0);
        if !(1.0..=24.0).contains(&pans) || pans.fract() != 0.0 {
            errors.add(Pointer::root().at("pans"), "Between 1 and 24 whole pans.");
        }
        let pan = errors.keep(Pointer::root().at("pan"), pantry.pan(id).cloned().ok_or_else(|| format!("There is no pan “{id}”.")));
        match pan.map(|p| (analysis.pan_takes(&p), p)) {
            Some((Some((each, grams)), pan)) => {
                let count = f64::from(each) * pans;
                if count > MOST_PIECES {
                    errors.add(Pointer::root().at("pans"), format!("That would be {count} pieces; 500 at most."));
                }
                #[allow(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "1 to 500 was checked; else nothing is built")]
                Scale::Pans { count: count as u32, piece_g: to_nearest(grams.likely, 1.0), pan }
            }
            Some((None, _)) => {
                errors.add(Pointer::root().at("pan"), "The dough does not fill this one: say pieces and their weight instead.");
                Scale::Dough(0.0)
            }
            None => Scale::Dough(0.0),
        }
    }

    /// So much of one ingredient.
    fn by_ingredient(&self, formula: &Formula, pantry: &Pantry, errors: &mut Errors) -> Scale {
        let grams = within(
            errors,
            "grams",
            self.grams,
            (0.01, 100_000.0),
            concat!("A weight above ", grams!(0), " and at most ", grams!(100000), "."),
        );
        let id = self
            .ingredient
            .as_deref()
            .and_then(|typed| errors.keep(Pointer::root().at("ingredient"), pantry.find(typed)))
            .map(|i| i.id.clone());
        if let Some(id) = id.as_deref().filter(|id| !formula.lines.iter().any(|l| l.ingredient.id == *id)) {
            errors.add(Pointer::root().at("ingredient"), format!("There is no {id} in this formula."));
        }
        if self.ingredient.is_none() {
            errors.add(Pointer::root().at("ingredient"), "Name the ingredient to scale by.");
        }
        Scale::Ingredient { id: id.unwrap_or_default(), grams }
    }

    /// So many pieces of a weight.
    fn by_pieces(&self, errors: &mut Errors) -> Scale {
        let count = within(errors, "pieces", self.pieces, (1.0, MOST_PIECES), "Between 1 and 500 whole pieces.");
        if count.fract() != 0.0 && !count.is_nan() {
            errors.add(Pointer::root().at("pieces"), "Between 1 and 500 whole pieces.");
        }
        let piece_g = within(errors, "piece_g", self.piece_g, (1.0, 20_000.0), between!("A piece weighs", 1, 20000, grams));
        #[allow(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "1 to 500 was checked")]
        Scale::Pieces { count: if count.is_nan() { 1 } else { count.clamp(1.0, MOST_PIECES) as u32 }, piece_g }
    }
}

/// A figure within its range; one that is missing is none.
fn within(errors: &mut Errors, name: &str, value: Option<f64>, (low, high): (f64, f64), what: &str) -> f64 {
    let value = value.unwrap_or(f64::NAN);
    errors.range(Pointer::root().at(name), value, low, high, what);
    value
}

impl Formula {
    /// The formula scaled: every line, the finish too, times one factor.
    #[must_use]
    pub fn scaled(&self, scale: &Scale, analysis: &Analysis<'_>) -> Self {
        if let Scale::Dose { factor, style } = scale {
            // What `check` has tried does not fail here.
            let dosed = analysis.dosed(*factor).unwrap_or_else(|_| self.clone());
            return Self { style: style.or(dosed.style), ..dosed };
        }
        let of_ingredient = |id: &str| self.lines.iter().filter(|l| l.ingredient.id == id).map(|l| l.grams.likely).sum::<f64>();
        let (wanted, now) = match scale {
            Scale::Pieces { count, piece_g } | Scale::Pans { count, piece_g, .. } => {
                (f64::from(*count) * piece_g + self.further_g(), analysis.dough_g.likely)
            }
            Scale::Dough(g) => (*g, analysis.dough_g.likely),
            Scale::Flour(g) => (*g, analysis.flour_g.likely),
            Scale::Ingredient { id, grams } => (*grams, of_ingredient(id)),
            Scale::Dose { .. } => (1.0, 1.0),
        };
        let mut scaled = self.clone();
        for line in &mut scaled.lines {
            line.grams = line.grams.times(wanted / now);
        }
        if let Some(hold) = scaled.hold.as_mut() {
            hold.grams *= wanted / now;
        }
        match scale {
            Scale::Pans { count, piece_g, pan } => {
                let told = scaled.pieces.get_or_insert(Pieces::of(1));
                told.count = *count;
                told.piece_g = Some(*piece_g);
                told.pan = Some(pan.clone());
                told.stands_in_its_pan();
            }
            Scale::Pieces { count, piece_g } => {
                let told = scaled.pieces.get_or_insert(Pieces::of(1));
                told.count = *count;
                told.piece_g = Some(*piece_g);
            }
            // The number of pieces stays; each takes its share.
            Scale::Dough(_) | Scale::Flour(_) | Scale::Ingredient { .. } | Scale::Dose { .. } => {
                for p in scaled.pieces.iter_mut().chain(&mut scaled.further) {
                    p.piece_g = p.piece_g.map(|g| g * wanted / now);
                }
            }
        }
        scaled
    }
}
