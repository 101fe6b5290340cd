//! How much dough a pan takes: its volume times a factor of the dough. Common practice, no source.

use super::{Analysis, Pieces, StyleId as S};
use crate::{
    measure::Band,
    oven::{Shape, Vessel},
    pantry::Pan,
};

/// Grams of dough per ml of one cavity of a muffin tin, whatever the dough.
const CAVITY: Band = Band { low: 0.45, likely: 0.55, high: 0.62 };

impl Analysis<'_> {
    /// Grams of this dough per ml of a pan, with the range bakers use.
    #[must_use]
    pub fn pan_fill(&self, lid: bool) -> Band {
        if lid {
            return if self.style.id == S::Wholegrain { Band::new(0.32, 0.36, 0.40) } else { Band::new(0.26, 0.30, 0.34) };
        }
        match self.style.id {
            S::Rye => Band::new(0.60, 0.70, 0.80),
            S::GlutenFree => Band::new(0.50, 0.60, 0.68),
            S::Fruit | S::Brioche => Band::new(0.40, 0.45, 0.55),
            S::Lean | S::LongNoKnead | S::SourdoughLean | S::Wholegrain => Band::new(0.42, 0.47, 0.55),
            S::PanSoft | S::Milk | S::Enriched | S::BraidedEgg | S::SweetBun | S::SodaDipped | S::SourdoughSoft | S::Flat => {
                Band::new(0.36, 0.42, 0.48)
            }
        }
    }

    /// What a pan takes of this dough: pieces, and grams of one with the range. Nothing for a pot or basket,
    /// which the dough does not fill.
    #[must_use]
    pub fn pan_takes(&self, pan: &Pan) -> Option<(u32, Band)> {
        if !pan.is_filled() {
            return None;
        }
        Some(match (pan.cavities, pan.rolls) {
            (Some(n), _) => (n, CAVITY.times(pan.volume_ml)),
            // Touching rolls grow into each other: a fifth more or less does no harm.
            (None, Some((n, g))) => (n, Band::new(0.8 * g, g, 1.2 * g)),
            (None, None) => (1, self.pan_fill(pan.lid).times(pan.volume_ml)),
        })
    }
}

impl Pieces {
    /// What belongs to the pan it bakes in: a lid, and that it stands in a tin.
    pub(super) fn stands_in_its_pan(&mut self) {
        let Some(pan) = self.pan.as_ref() else {
            self.lid = false;
            self.leaves_its_tin();
            if matches!(self.shape, Some(Shape::Pan | Shape::Tall | Shape::Muffin)) {
                self.shape = None;
            }
            return;
        };
        self.lid = pan.lid;
        if pan.is_filled() && pan.rolls.is_none() && pan.cavities.is_none() {
            self.shape = Some(Shape::Pan);
            self.vessel = Some(Vessel::PanMetal);
        }
    }

    /// Another shape stands in no tin any more, unless a pan of its own is told.
    pub(super) fn leaves_its_tin(&mut self) {
        if self.pan.is_none() && matches!(self.vessel, Some(Vessel::PanMetal | Vessel::MuffinTin)) {
            self.vessel = None;
        }
    }
}
