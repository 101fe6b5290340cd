//! One dough divided: pieces, strands of a plait, several breads from one dough.

use super::{Analysis, Formula, Pieces, PiecesBody};
use crate::{
    measure::{length, small_length, weight},
    oven::Shape,
};

/// Fresh dough, grams per ml. Common practice, no source.
pub(super) const DOUGH_G_ML: f64 = 1.15;
/// A tapered strand holds this part of the cylinder of its middle. Estimate.
const TAPER: f64 = 0.6;

/// A strand as it is rolled.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Strand {
    /// Grams.
    pub grams: f64,
    /// Long, cm.
    pub length_cm: f64,
    /// Thick in the middle, mm.
    pub thick_mm: f64,
}

/// Length over thickness of a strand that weaves well. Estimate.
const fn slenderness(strands: u32) -> f64 {
    match strands {
        2 => 16.0,
        6 => 14.0,
        _ => 12.0,
    }
}

impl Pieces {
    /// The strand one piece of so many grams is woven from, if it is woven: a tapered strand of the
    /// volume its weight has.
    #[must_use]
    pub fn strand(&self, piece_g: f64) -> Option<Strand> {
        let strands = self.strands?;
        let grams = piece_g / f64::from(strands);
        let slender = slenderness(strands);
        let thick_cm = (grams / DOUGH_G_ML / (TAPER * std::f64::consts::FRAC_PI_4 * slender)).cbrt();
        Some(Strand { grams, length_cm: slender * thick_cm, thick_mm: 10.0 * thick_cm })
    }

    /// What one piece of so many grams is woven from, as a baker rolls it: `4 strands of 196 g, rolled 36 cm long and 30 mm thick
    /// in the middle`. Where whole grams do not add up, the last strand takes what is left.
    #[must_use]
    pub fn woven(&self, piece_g: f64) -> Option<String> {
        let (n, strand) = (self.strands?, self.strand(piece_g)?);
        let rest = (strand.grams.round() * f64::from(n) - piece_g.round()).abs() >= 1.0;
        let last = if rest { "; the last takes what is left" } else { "" };
        let (each, long, thick) = (weight(strand.grams).to(0), length(strand.length_cm.round()), small_length(strand.thick_mm));
        Some(format!("{n} strands of {each}, rolled {long} long and {thick} thick in the middle{last}"))
    }

    /// The shape it bakes in, as far as it is told: what is woven is a braid, unless it stands in a tin or closes to a ring.
    #[must_use]
    pub fn told_shape(&self) -> Option<Shape> {
        match self.shape {
            None | Some(Shape::Ball | Shape::Batard | Shape::Baton | Shape::Flat) if self.strands.is_some() && self.pan.is_none() => {
                Some(Shape::Braid)
            }
            told => told,
        }
    }
}

impl Formula {
    /// Grams that further breads take from the dough.
    #[must_use]
    pub fn further_g(&self) -> f64 {
        self.further.iter().map(|p| f64::from(p.count) * p.piece_g.unwrap_or(0.0)).sum()
    }

    /// How many pieces lie in the oven in all, one at least.
    #[must_use]
    pub fn all_pieces(&self) -> u32 {
        self.pieces.iter().chain(&self.further).map(|p| p.count).sum::<u32>().max(1)
    }

    /// Grams of all pieces told, of the main bread and the further ones; nothing where the main piece's weight is not told.
    #[must_use]
    pub fn told_g(&self) -> Option<f64> {
        let main = self.pieces.as_ref()?;
        Some(f64::from(main.count) * main.piece_g? + self.further_g())
    }
}

/// Weight of a roll, from which a further bread begins. Common practice, no source.
const ROLL_G: f64 = 80.0;

impl Analysis<'_> {
    /// A further bread to begin with: rolls from what is left over, else one roll.
    #[must_use]
    pub fn next_bread(&self) -> PiecesBody {
        let left = self.formula.told_g().map_or(0.0, |told| self.dough_g.likely - told);
        let count = (left / ROLL_G).floor().max(1.0);
        PiecesBody { piece_g: Some(ROLL_G), ..PiecesBody::of(count) }
    }

    /// Grams of one piece of the main bread: as told, else its share of what further breads leave.
    #[must_use]
    pub fn piece_g(&self) -> f64 {
        let left = self.dough_g.likely - self.formula.further_g();
        self.formula.pieces.as_ref().map_or(left, |p| p.piece_g.unwrap_or(left / f64::from(p.count)))
    }
}
