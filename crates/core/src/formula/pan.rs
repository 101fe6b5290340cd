//! How much dough a pan takes: its volume times a factor of the dough. Common practice, no source.

use super::{Analysis, FormulaBody, Pieces, PiecesBody, StyleId as S, divide::DOUGH_G_ML};
use crate::{
    measure::Band,
    oven::{BakeBody, ProveIn, Shape, Vessel},
    pantry::{Pan, PanShape},
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

/// How high one tin is filled by what lies in it, shaped and not yet proved.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct TinFill {
    /// Dough over what the tin holds to the rim, percent.
    pub full_pct: f64,
    /// How high that stands, and how deep the tin is, cm; where its inside was measured.
    pub level_cm: Option<(f64, f64)>,
}

impl Analysis<'_> {
    /// How high its tin is filled; none where the dough stands in no tin of a known size.
    #[must_use]
    pub fn tin_fill(&self) -> Option<TinFill> {
        let pieces = self.formula.pieces.as_ref()?;
        let pan = pieces.pan.as_ref().filter(|pan| pan.is_filled())?;
        let in_one = pan.rolls.map_or(1, |(n, _)| n.min(pieces.count));
        let share = f64::from(in_one) * self.piece_g() / DOUGH_G_ML / pan.volume_ml;
        (share > 0.0).then(|| TinFill { full_pct: 100.0 * share, level_cm: pan.inside.map(|i| (i.level_cm(share), i.depth_cm)) })
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

    /// Whether they grow together: as told, else as rolls of a tin for rolls do. One alone touches nothing.
    #[must_use]
    pub fn lie_touching(&self) -> bool {
        self.count > 1 && self.touching.unwrap_or_else(|| self.pan.as_ref().is_some_and(|pan| pan.rolls.is_some()))
    }

    /// What they prove in: as told, else the basket that was chosen.
    #[must_use]
    pub fn told_proof(&self) -> Option<ProveIn> {
        let basket = || self.pan.as_ref().is_some_and(|pan| pan.shape == PanShape::Basket).then_some(ProveIn::Basket);
        self.prove_in.or_else(basket)
    }

    /// Another shape stands in no tin any more, unless a pan of its own is told.
    pub(super) fn leaves_its_tin(&mut self) {
        if self.pan.is_none() && matches!(self.vessel, Some(Vessel::PanMetal | Vessel::MuffinTin)) {
            self.vessel = None;
        }
    }
}

impl FormulaBody {
    /// Keeps what is told of its bake: shape, vessel, lid, how the pieces lie, how thick. Not the setting: that is this
    /// oven's, and a recipe's is moved for each.
    pub fn keep_bake(&mut self, told: &BakeBody) {
        let pieces = self.pieces.get_or_insert(PiecesBody::of(1.0));
        pieces.shape = told.shape.clone().or(pieces.shape.take());
        pieces.vessel = told.vessel.clone().or(pieces.vessel.take());
        pieces.lid = told.lid.map_or(pieces.lid, |on| on.then_some(true));
        pieces.arrangement = told.arrangement.clone().or(pieces.arrangement.take());
        pieces.thickness_cm = told.thickness_cm.or(pieces.thickness_cm);
    }
}
