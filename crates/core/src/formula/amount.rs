//! How much is made, as one sentence: what is told is kept, the rest follows; what is short is told before anything is taken.

use super::{
    Analysis, Formula, Pieces, PiecesBody, Scale, ScaleBody,
    pieces::{MOST_PIECES, check_pieces},
};
use crate::{
    Tables,
    input::{Errors, InputErrors, Pointer},
};

words! {
    /// What is kept as it is told; the rest of the sentence follows from it.
    #[derive(Default)]
    Keep {
        /// So many pieces of such a weight.
        #[default]
        Pieces "pieces",
        /// So much dough.
        Dough "dough",
        /// The flour that is left.
        Flour "flour",
        /// So much of one ingredient.
        Ingredient "ingredient",
        /// So many tins, filled.
        Tin "tin",
        /// The hours of its rise: the yeast or leaven follows, the rest stays.
        Ripe "ripe",
        /// Whole eggs.
        Eggs "eggs",
    }
}

/// The sentence as it came: what is left out follows.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct AmountBody {
    /// What is kept.
    pub keep: Keep,
    /// Pieces, or tins.
    pub count: Option<f64>,
    /// Grams of one.
    pub piece_g: Option<f64>,
    /// Shape; an empty word is none in particular, left out it stays.
    pub shape: Option<String>,
    /// Strands each is woven from; 0 is not woven, left out it stays.
    pub strands: Option<f64>,
    /// The tin; an empty word is none, left out it stays.
    pub pan: Option<String>,
    /// Dough, grams.
    pub dough_g: Option<f64>,
    /// Flour there is, grams: kept, or a limit where something else is.
    pub flour_g: Option<f64>,
    /// The ingredient that is kept.
    pub ingredient: Option<String>,
    /// How much of it, grams.
    pub grams: Option<f64>,
    /// Whole eggs.
    pub eggs: Option<f64>,
    /// What one of them weighs, grams.
    pub egg_g: Option<f64>,
    /// Hours until it is ripe.
    pub ripe_h: Option<f64>,
    /// Where it stands for them, °C.
    pub place_c: Option<f64>,
}

/// Flour that is short for what is asked.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Short {
    /// Flour there is, grams.
    pub has_g: f64,
    /// Flour it wants, grams.
    pub wants_g: f64,
    /// Pieces asked for.
    pub count: u32,
    /// Grams of one.
    pub piece_g: f64,
    /// Dough the flour there is gives for them, grams.
    pub dough_g: f64,
}

/// What the sentence makes of a formula.
#[derive(Debug, Clone, PartialEq)]
pub struct Amount {
    /// The formula as it becomes.
    pub formula: Formula,
    /// Flour that is short, if it is.
    pub short: Option<Short>,
    /// Dough left over by the pieces, grams.
    pub over_g: f64,
    /// Where as many pieces become heavier or lighter: how many there would be of the weight they have now.
    pub alike: Option<(u32, f64)>,
}

/// Less than this is what sticks to a bowl, grams.
const CRUMB_G: f64 = 0.5;

/// Pieces of a weight that so much dough makes: what lacks no more than a crumb is a whole one.
fn pieces_in(dough_g: f64, piece_g: f64) -> f64 {
    ((dough_g + CRUMB_G) / piece_g).floor()
}

impl Short {
    /// Flour that is missing, grams.
    #[must_use]
    pub fn missing_g(&self) -> f64 {
        self.wants_g - self.has_g
    }

    /// Grams of each if they are made smaller.
    #[must_use]
    pub fn smaller_g(&self) -> f64 {
        self.dough_g / f64::from(self.count)
    }

    /// Pieces of that weight the flour does for, and the dough left over, grams; nothing where it does not do for one.
    #[must_use]
    pub fn fewer(&self) -> Option<(f64, f64)> {
        let n = (self.dough_g / self.piece_g).floor();
        (1.0..f64::from(self.count)).contains(&n).then_some((n, self.dough_g - n * self.piece_g))
    }
}

impl AmountBody {
    /// A sentence in which nothing is told but what is kept.
    #[must_use]
    pub fn keeping(keep: Keep) -> Self {
        Self { keep, ..Self::default() }
    }

    /// Whether it asks for anything other than what there is; the tin to be filled and whole eggs are a wish of their own.
    #[must_use]
    pub fn asks(&self) -> bool {
        let figures = [self.count, self.piece_g, self.strands, self.dough_g, self.flour_g, self.grams, self.ripe_h];
        matches!(self.keep, Keep::Tin | Keep::Eggs) || figures.iter().any(Option::is_some) || self.shape.is_some() || self.pan.is_some()
    }

    /// As many pieces, so light that the flour does for them.
    #[must_use]
    pub fn smaller(&self, short: &Short) -> Self {
        let count = Some(f64::from(short.count));
        Self { keep: Keep::Flour, flour_g: Some(short.has_g), count, piece_g: None, ..self.clone() }
    }

    /// As heavy as they are, so many that the flour does for them; nothing where it does not do for one.
    #[must_use]
    pub fn fewer(&self, short: &Short) -> Option<Self> {
        let (n, _) = short.fewer()?;
        Some(Self { keep: Keep::Flour, flour_g: Some(short.has_g), count: Some(n), piece_g: Some(short.piece_g), ..self.clone() })
    }

    /// Pieces as heavy as they are now, as many as there is dough for.
    #[must_use]
    pub fn as_heavy(&self, (count, piece_g): (u32, f64)) -> Self {
        Self { count: Some(f64::from(count)), piece_g: Some(piece_g), ..self.clone() }
    }

    /// What it makes of a formula: every weight from the unrounded one.
    ///
    /// # Errors
    /// Each figure that is wrong, with pointers from the sentence on.
    pub fn of(&self, formula: &Formula, analysis: &Analysis<'_>, tables: &Tables) -> Result<Amount, InputErrors> {
        let told = self.pieces(formula, tables)?;
        let scaling = |body: ScaleBody| body.check(formula, analysis, tables);
        if let Some(flour_g) = self.flour_g {
            scaling(ScaleBody { flour_g: Some(flour_g), ..ScaleBody::default() })?;
        }
        let scale = match self.keep {
            // Shape, weave and tin change no weight.
            Keep::Pieces if self.count.is_none() && self.piece_g.is_none() => None,
            Keep::Pieces => Some(Scale::Pieces { count: told.count, piece_g: told.piece_g.unwrap_or_else(|| analysis.piece_g()) }),
            _ => Some(scaling(self.scale(analysis, &told)?)?),
        };
        let mut scaled = scale.map_or_else(|| formula.clone(), |scale| formula.scaled(&scale, analysis));
        if self.keep == Keep::Tin {
            // The tin says how many and how heavy; the weave stays as it is told.
            if let Some(p) = scaled.pieces.as_mut() {
                p.strands = told.strands;
            }
        } else if let Some(p) = scaled.pieces.as_mut() {
            *p = Pieces { piece_g: p.piece_g, ..told.clone() };
        } else if told != Pieces::of(1) {
            scaled.pieces = Some(Pieces { piece_g: None, ..told.clone() });
        }
        let after = scaled.analyse(&tables.pantry, &tables.styles);
        let (all_g, flour_g) = (after.dough_g.likely, after.flour_g.likely);
        let dough_g = all_g - scaled.further_g();
        let (mut short, mut over_g) = (None, 0.0);
        match self.keep {
            Keep::Tin => {}
            Keep::Pieces => {
                let each = scaled.pieces.as_ref().and_then(|p| p.piece_g).unwrap_or(dough_g / f64::from(told.count));
                // With less flour the further breads are smaller too.
                let of = |has_g: f64| (analysis.dough_g.likely - formula.further_g()) * has_g / analysis.flour_g.likely;
                let limit = self.flour_g.filter(|has_g| flour_g > has_g + CRUMB_G);
                short = limit.map(|has_g| Short { has_g, wants_g: flour_g, count: told.count, piece_g: each, dough_g: of(has_g) });
            }
            _ => {
                if let Some((count, piece_g)) = self.divided(dough_g, &told) {
                    let left_g = dough_g - f64::from(count) * piece_g;
                    let made = scaled.pieces.get_or_insert(told);
                    (made.count, made.piece_g) = (count, Some(piece_g));
                    over_g = left_g.max(0.0);
                    let wants_g = flour_g - left_g * flour_g / all_g;
                    short = (left_g < -CRUMB_G).then_some(Short { has_g: flour_g, wants_g, count, piece_g, dough_g });
                }
            }
        }
        let alike = self.alike(analysis, dough_g).filter(|(n, _)| scaled.pieces.as_ref().is_some_and(|p| p.count != *n));
        Ok(Amount { formula: scaled, short, over_g, alike })
    }

    /// The pieces as they are told now, with what the sentence says of them.
    fn pieces(&self, formula: &Formula, tables: &Tables) -> Result<Pieces, InputErrors> {
        let now = formula.pieces.clone().unwrap_or(Pieces::of(1));
        let was = now.body();
        let told = |word: &Option<String>, was: Option<String>| word.clone().map_or(was, |w| Some(w).filter(|w| !w.is_empty()));
        let body = PiecesBody {
            count: self.count.unwrap_or(was.count),
            // What is told stays as it is to the last digit.
            piece_g: self.piece_g.or(was.piece_g),
            shape: told(&self.shape, was.shape),
            strands: self.strands.map_or(was.strands, |n| Some(n).filter(|n| *n != 0.0)),
            pan: told(&self.pan, was.pan),
            ..was
        };
        let mut errors = Errors::default();
        let checked = check_pieces(&body, &Pointer::root(), &tables.pantry, &mut errors);
        let mut pieces = errors.finish(checked)?.unwrap_or(Pieces::of(1));
        if pieces.pan != now.pan {
            pieces.stands_in_its_pan();
        } else if pieces.shape != now.shape {
            pieces.leaves_its_tin();
        }
        Ok(pieces)
    }

    /// What it is scaled by, where that is not the pieces.
    fn scale(&self, analysis: &Analysis<'_>, told: &Pieces) -> Result<ScaleBody, InputErrors> {
        let none = ScaleBody::default();
        let lacks = |name: &str, sentence: &str| InputErrors::one(Pointer::root().at(name), sentence);
        Ok(match self.keep {
            Keep::Pieces | Keep::Dough => ScaleBody { dough_g: Some(self.dough_g.unwrap_or(analysis.dough_g.likely)), ..none },
            Keep::Flour => ScaleBody { flour_g: Some(self.flour_g.unwrap_or(analysis.flour_g.likely)), ..none },
            Keep::Ingredient if self.grams.is_none() => return Err(lacks("grams", "Say how much of it there is.")),
            Keep::Ingredient => ScaleBody { ingredient: self.ingredient.clone(), grams: self.grams, ..none },
            Keep::Eggs => ScaleBody { eggs: self.eggs, egg_g: self.egg_g, ..none },
            Keep::Ripe if self.ripe_h.is_none() => return Err(lacks("ripe_h", "Say in how many hours it shall be ripe.")),
            Keep::Ripe => ScaleBody { ripe_h: self.ripe_h, place_c: self.place_c, ..none },
            Keep::Tin => {
                let pan = told.pan.as_ref().ok_or_else(|| lacks("pan", "Say which tin is to be filled."))?;
                // Twelve cups of one tin are one tin.
                let each = analysis.pan_takes(pan).map_or(1, |(each, _)| each);
                ScaleBody { pan: Some(pan.id.clone()), pans: Some(f64::from(told.count.div_ceil(each))), ..none }
            }
        })
    }

    /// The dough divided as the sentence says: how many, and grams of one; nothing where it says nothing of that.
    fn divided(&self, dough_g: f64, told: &Pieces) -> Option<(u32, f64)> {
        match (self.count, self.piece_g) {
            (None, None) => None,
            (Some(_), None) => Some((told.count, dough_g / f64::from(told.count))),
            (Some(_), Some(g)) => Some((told.count, g)),
            #[allow(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "1 to 500")]
            (None, Some(g)) => Some((pieces_in(dough_g, g).clamp(1.0, MOST_PIECES) as u32, g)),
        }
    }

    /// How many pieces of the weight they have now the dough makes, where the sentence keeps something else and says nothing of
    /// pieces: rolls of which there is twice the dough are more often twice as many than twice as heavy.
    fn alike(&self, analysis: &Analysis<'_>, dough_g: f64) -> Option<(u32, f64)> {
        let several = analysis.formula.pieces.as_ref().is_some_and(|p| p.count > 1);
        let follows = matches!(self.keep, Keep::Dough | Keep::Flour | Keep::Ingredient | Keep::Eggs);
        if !several || !follows || self.count.is_some() || self.piece_g.is_some() {
            return None;
        }
        let piece_g = analysis.piece_g();
        let n = pieces_in(dough_g, piece_g);
        #[allow(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "1 to 500")]
        (1.0..=MOST_PIECES).contains(&n).then_some((n as u32, piece_g))
    }
}
