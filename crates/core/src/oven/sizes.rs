//! The same dough in other sizes and shapes: setting and minutes of each, and what is done in the time one has.

use super::{Advice, Bake, Constants, Near, Shape, Vessel, advise, bake::MOST_PIECES, near};

/// A way to divide a dough.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[allow(missing_docs, reason = "the names say it")]
pub enum SizeKind {
    Rolls,
    Buns,
    Plait,
    RoundLoaf,
    Tin,
}

impl SizeKind {
    /// From small to big.
    pub const ALL: [Self; 5] = [Self::Rolls, Self::Buns, Self::Plait, Self::RoundLoaf, Self::Tin];

    /// As a page says it, one and many.
    #[must_use]
    pub const fn title(self) -> (&'static str, &'static str) {
        match self {
            Self::Rolls => ("roll", "rolls"),
            Self::Buns => ("bun", "buns"),
            Self::Plait => ("plait", "plaits"),
            Self::RoundLoaf => ("round loaf", "round loaves"),
            Self::Tin => ("tin", "tins"),
        }
    }
    /// Its sign of being done. Common practice, no source.
    #[must_use]
    pub const fn sign(self) -> &'static str {
        match self {
            Self::Rolls => "coloured on top, sides still soft",
            Self::Buns => "a pressed side springs back",
            Self::Plait => "valleys coloured too, base sounds hollow",
            Self::RoundLoaf => "base sounds hollow, the cuts are coloured",
            Self::Tin => "tipped out, its sides are coloured",
        }
    }
    /// Raw weight of a usual one, g, where the dough suffices. Common practice, no source.
    const fn usual_g(self) -> f64 {
        match self {
            Self::Rolls => 70.0,
            Self::Buns => 110.0,
            Self::Plait | Self::RoundLoaf | Self::Tin => 550.0,
        }
    }
    const fn shape(self) -> Shape {
        match self {
            Self::Rolls | Self::Buns | Self::RoundLoaf => Shape::Ball,
            Self::Plait => Shape::Braid,
            Self::Tin => Shape::Pan,
        }
    }
}

/// A dough divided one way.
#[derive(Debug, Clone, PartialEq)]
pub struct Size {
    /// How.
    pub kind: SizeKind,
    /// How many pieces the dough makes.
    pub pieces: u32,
    /// One piece of it, with as many in the oven as go in at once.
    pub bake: Bake,
    /// Setting, minutes, what to do when.
    pub advice: Advice,
    /// What bakers do with like bread.
    pub near: Vec<Near>,
}

/// The five sizes of a dough of `dough_g` grams, each at its own setting.
#[must_use]
pub fn sizes(bake: &Bake, dough_g: f64, k: &Constants) -> Vec<Size> {
    let of = |kind: SizeKind| {
        let pieces = (dough_g / kind.usual_g()).round().max(1.0);
        let tin = kind == SizeKind::Tin;
        let open = if matches!(bake.vessel, Vessel::Stone | Vessel::Steel) { bake.vessel } else { Vessel::Sheet };
        #[allow(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "a few hundred at most")]
        let count = pieces as u32;
        let bake = Bake {
            piece_g: dough_g / pieces,
            // More do not go in at once.
            pieces: count.min(MOST_PIECES),
            shape: kind.shape(),
            vessel: if tin { Vessel::PanMetal } else { open },
            lid: false,
            touching: false,
            thickness_cm: None,
            set_c: None,
            lid_off_min: None,
            turns: Vec::new(),
            drying: None,
            ..bake.clone()
        };
        let advice = advise(&bake, k);
        let near = near(&bake, advice.set_c, k);
        Size { kind, pieces: count, bake, advice, near }
    };
    SizeKind::ALL.into_iter().map(of).collect()
}

/// Weights that are looked at, g, and how finely: minutes are surer of nothing less than a twentieth.
const WEIGHTS: (f64, f64) = (20.0, 1500.0);
const FINE: f64 = 1.04;

/// The heaviest piece of this shape that is out of the oven within `minutes` even if it is slow, g, to five
/// grams below and to a twentieth above; none where no piece is.
#[must_use]
pub fn heaviest_within(bake: &Bake, minutes: f64, k: &Constants) -> Option<f64> {
    let out = |piece_g: f64| advise(&Bake { piece_g, set_c: None, ..bake.clone() }, k).minutes_high.is_some_and(|m| m <= minutes);
    let (mut fits, mut not) = WEIGHTS;
    if !out(fits) {
        return None;
    }
    if out(not) {
        return Some(not);
    }
    while not > fits * FINE {
        let middle = (fits * not).sqrt();
        if out(middle) { fits = middle } else { not = middle }
    }
    // A rounder weight may be advised another setting, and then be later.
    [5.0 * (fits / 5.0).floor(), fits.floor()].into_iter().find(|g| out(*g)).or(Some(fits))
}
