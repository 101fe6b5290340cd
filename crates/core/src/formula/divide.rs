//! One dough divided: pieces, strands of a plait, several breads from one dough.

use super::{Analysis, Formula, Pieces, PiecesBody};

/// Fresh dough, grams per ml. Common practice, no source.
const DOUGH_G_ML: f64 = 1.15;
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
    /// So many pieces, of which no more is told.
    #[must_use]
    pub const fn of(count: u32) -> Self {
        Self { count, piece_g: None, shape: None, vessel: None, lid: false, pan: None, strands: None }
    }

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
}

impl Formula {
    /// Grams that further breads take from the dough.
    #[must_use]
    pub fn further_g(&self) -> f64 {
        self.further.iter().map(|p| f64::from(p.count) * p.piece_g.unwrap_or(0.0)).sum()
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
        PiecesBody { count, piece_g: Some(ROLL_G), shape: None, vessel: None, lid: None, pan: None, strands: None }
    }

    /// Grams of one piece of the main bread: as told, else its share of what further breads leave.
    #[must_use]
    pub fn piece_g(&self) -> f64 {
        let left = self.dough_g.likely - self.formula.further_g();
        self.formula.pieces.as_ref().map_or(left, |p| p.piece_g.unwrap_or(left / f64::from(p.count)))
    }
}
