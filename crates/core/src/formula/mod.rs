//! The formula: what goes in, what each line is in baker's percent, what the dough is like,
//! what it becomes for other pieces, and what is wrong with it.

mod amount;
mod analyse;
mod cold;
mod compare;
mod cost;
mod dilution;
mod divide;
mod dose;
mod draft;
mod findings;
mod hold;
mod inputs;
mod kneading;
mod label;
mod pan;
mod pieces;
mod preferment;
mod rises;
mod scale;
mod setting;
mod spoons;
mod stage;
mod styles;
mod told;
mod weave;

pub use amount::{Amount, AmountBody, Keep, Short};
pub use analyse::{Analysis, Raising};
pub use cold::{CHILLED_C, WARM_LIMIT_MIN};
pub use compare::{Comparison, LineDifference, Portion, SideBySide, compare, side_by_side};
pub use cost::Cost;
pub use dilution::{Dilution, dilution};
pub use divide::Strand;
pub use dose::{dose_for, over_at, proof_at, ripe_at};
pub use draft::{FormulaBody, FormulaDraft, LineBody, LineDraft, MOST_COATS, MOST_LINES, Typed};
pub(crate) use findings::FLOUR_MISSING;
pub use findings::{find, rules};
pub use hold::{Hold, HoldBody};
pub use inputs::{dough_of, has_butter, kneading_in, kneading_of, oven_of};
pub use kneading::{KneadingBody, KneadingTold};
pub use label::{Label, Nutrients, Share};
pub use pan::TinFill;
pub use pieces::{Pieces, PiecesBody};
pub use preferment::Preferment;
pub use rises::{FirstRise, RisesBody};
pub use scale::{Scale, ScaleBody};
pub use setting::{bake_at, bake_in, other_setting, setting_words};
pub use spoons::{Spoons, spoons};
pub use stage::{Stage, Used};
pub use styles::{Style, StyleId, Styles};
pub use told::{MOST_STAGES, OvenBody, Phase, PhaseBody, StageWay, ToldAct, ToldStep, whole_bake};
pub use weave::WEAVES;

use std::sync::Arc;

use crate::{
    findings::{Change, Remedy},
    measure::Band,
    pantry::{Fact, Ingredient, Pantry, YeastKind},
};

/// One line of a formula, checked.
#[derive(Debug, Clone, PartialEq)]
pub struct Line {
    /// What.
    pub ingredient: Arc<Ingredient>,
    /// How much, in grams, with what it may be where it was read from a volume.
    pub grams: Band,
    /// When it goes in.
    pub stage: Stage,
    /// As it was written.
    pub source: Option<String>,
    /// Of a leaven whose water was told: percent of its flour.
    pub hydration_pct: Option<f64>,
    /// Of the finish: filling or icing.
    pub used: Option<Used>,
}

impl Line {
    /// Whether it counts in the dough: glazes, toppings, fillings and dips do not.
    #[must_use]
    pub fn in_dough(&self) -> bool {
        self.stage != Stage::Finish
    }
    /// Whether it goes onto the pieces before they bake: brushed, strewn or dipped, neither rolled in nor poured over.
    #[must_use]
    pub fn goes_on_top(&self) -> bool {
        self.stage == Stage::Finish && self.used.is_none()
    }
    /// Its flour in grams.
    #[must_use]
    pub fn flour(&self) -> Band {
        if self.in_dough() { self.grams.times(self.ingredient.flour_share) } else { Band::exact(0.0) }
    }
    /// Whether it is baker's leaven (old dough is prefermented flour, no leaven).
    #[must_use]
    pub fn is_leaven(&self) -> bool {
        self.stage == Stage::Leaven || self.ingredient.is(Fact::Leaven)
    }
    /// Whether its flour is fermented before the mix.
    #[must_use]
    pub fn is_prefermented(&self) -> bool {
        self.is_leaven() || self.stage == Stage::Preferment || self.ingredient.is(Fact::OldDough)
    }
}

/// What the recipe says of the oven.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct OvenTold {
    /// Setting in °C.
    pub set_c: Option<f64>,
    /// Minutes, from and to.
    pub minutes: Option<(f64, f64)>,
    /// Whether its setting is meant for a fan.
    pub fan: bool,
    /// Whether the household bakes at our setting in its place.
    pub ours: bool,
}

/// A formula, checked: every ingredient is in the pantry, every weight is possible.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct Formula {
    /// Its name.
    pub name: Option<String>,
    /// Which of several of that name it is: other flours, another size.
    pub variant: Option<String>,
    /// The style the baker wants it taken for.
    pub style: Option<StyleId>,
    /// The yeast in which remedies are written.
    pub yeast_kind: Option<YeastKind>,
    /// Claimed to hold no gluten.
    pub gluten_free: bool,
    /// Findings that were answered.
    pub accepted: Vec<String>,
    /// Its lines.
    pub lines: Vec<Line>,
    /// What it is divided into.
    pub pieces: Option<Pieces>,
    /// Further breads from the same dough; each piece's weight is told.
    pub further: Vec<Pieces>,
    /// What is held back, to be added by feel.
    pub hold: Option<Hold>,
    /// What the recipe says of the oven.
    pub oven: Option<OvenTold>,
    /// How it is kneaded, where that is told; else as the household does.
    pub kneading: Option<KneadingTold>,
    /// What becomes of it before it is shaped, if told.
    pub rises: Option<FirstRise>,
    /// Coats it is brushed with, if told.
    pub coats: Option<u32>,
    /// The phases of its bake, where it tells more than one.
    pub phases: Vec<Phase>,
    /// Its steps in the recipe's own words.
    pub steps: Vec<ToldStep>,
    /// The recipe as it was pasted.
    pub text: Option<String>,
    /// A note to oneself.
    pub note: Option<String>,
    /// Words to find it by.
    pub tags: Vec<String>,
}

impl Formula {
    /// Its wire form, which `check` reads back to the same formula.
    #[must_use]
    pub fn body(&self) -> FormulaBody {
        let line = |l: &Line| {
            let interval = !l.grams.is_exact();
            LineBody {
                ingredient: l.ingredient.id.clone(),
                grams: l.grams.likely,
                grams_low: interval.then_some(l.grams.low),
                grams_high: interval.then_some(l.grams.high),
                stage: Some(l.stage.word().to_owned()),
                source: l.source.clone(),
                hydration_pct: l.hydration_pct,
                used: l.used.map(|u| u.word().to_owned()),
            }
        };
        FormulaBody {
            name: self.name.clone(),
            variant: self.variant.clone(),
            style: self.style.map(|s| s.word().to_owned()),
            yeast_kind: self.yeast_kind.map(|k| k.word().to_owned()),
            gluten_free: self.gluten_free.then_some(true),
            accepted: (!self.accepted.is_empty()).then(|| self.accepted.clone()),
            lines: self.lines.iter().map(line).collect(),
            pieces: self.pieces.as_ref().map(Pieces::body),
            further: (!self.further.is_empty()).then(|| self.further.iter().map(Pieces::body).collect()),
            hold: self.hold.as_ref().map(|h| HoldBody { ingredient: h.ingredient.clone(), grams: h.grams }),
            oven: self.oven.map(|o| OvenBody {
                set_c: o.set_c,
                minutes_low: o.minutes.map(|m| m.0),
                minutes_high: o.minutes.map(|m| m.1),
                fan: o.fan.then_some(true),
                ours: o.ours.then_some(true),
                stages: (!self.phases.is_empty()).then(|| self.phases.iter().map(|p| p.body()).collect()),
            }),
            kneading: self.kneading.map(|k| k.body()),
            rises: self.rises.map(FirstRise::body),
            coats: self.coats.map(f64::from),
            steps: (!self.steps.is_empty()).then(|| self.steps.clone()),
            text: self.text.clone(),
            note: self.note.clone(),
            tags: (!self.tags.is_empty()).then(|| self.tags.clone()),
        }
    }

    /// The formula after a remedy of the finding `id` was tapped.
    #[must_use]
    pub fn after(&self, remedy: &Remedy, id: &str, pantry: &Pantry) -> Self {
        let mut next = self.clone();
        for change in &remedy.changes {
            next.apply(change, pantry);
        }
        if remedy.accept && !next.accepted.iter().any(|a| a == id) {
            next.accepted.push(id.to_owned());
        }
        next
    }

    fn apply(&mut self, change: &Change, pantry: &Pantry) {
        match change {
            Change::Grams { line, grams, .. } => {
                if let Some(l) = self.lines.get_mut(*line) {
                    l.grams = *grams;
                }
            }
            Change::Ingredient { line, ingredient } => {
                if let (Some(l), Some(i)) = (self.lines.get_mut(*line), pantry.get(ingredient)) {
                    l.ingredient = i.clone();
                }
            }
            Change::Add { ingredient, grams } => {
                if let Some(i) = pantry.get(ingredient) {
                    self.lines.push(Line {
                        stage: Stage::usual(i),
                        ingredient: i.clone(),
                        grams: Band::exact(*grams),
                        source: None,
                        hydration_pct: None,
                        used: None,
                    });
                }
            }
            Change::Stage { line, stage } => {
                if let Some(l) = self.lines.get_mut(*line) {
                    l.stage = *stage;
                }
            }
            Change::Remove { line } => {
                if *line < self.lines.len() {
                    self.lines.remove(*line);
                }
            }
            Change::Pieces { count, piece_g } => {
                let told = self.pieces.get_or_insert(Pieces::of(1));
                told.count = *count;
                told.piece_g = Some(*piece_g);
            }
            Change::Rises { rises } => self.rises = Some(*rises),
            Change::Pan { pan } => {
                if let Some(told) = self.pieces.as_mut() {
                    told.pan = pantry.pan(pan).cloned();
                }
            }
            // A setting chosen for the whole bake goes before the recipe's phases.
            Change::Oven { set_c, fan } => {
                self.phases.clear();
                let told = self.oven_told();
                (told.set_c, told.fan) = (Some(*set_c), *fan);
            }
            Change::OvenMinutes { low, high } => {
                self.phases.clear();
                self.oven_told().minutes = Some((*low, *high));
            }
        }
    }

    fn oven_told(&mut self) -> &mut OvenTold {
        self.oven.get_or_insert_default()
    }
}

#[cfg(test)]
mod tests;
