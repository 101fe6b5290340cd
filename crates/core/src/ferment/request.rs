//! What is asked of the rise model, and what it refuses.

use crate::measure::between;
use serde::{Deserialize, Serialize};

use super::{Constants, Dough, EventKind};
use crate::input::{Errors, InputErrors, Pointer};

/// What kind of rise a stage belongs to.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[allow(missing_docs, reason = "the names say it")]
pub enum RiseKind {
    Bulk,
    Proof,
    Leaven,
}

impl RiseKind {
    /// The moment such a rise is waited for.
    #[must_use]
    pub const fn ripe(self) -> EventKind {
        match self {
            Self::Bulk => EventKind::BulkRipe,
            Self::Proof => EventKind::ProofRipe,
            Self::Leaven => EventKind::LeavenPeak,
        }
    }
    /// The moment from which on it has gone too far.
    #[must_use]
    pub const fn over(self) -> EventKind {
        match self {
            Self::Bulk => EventKind::OverRipe,
            Self::Proof => EventKind::OverProofed,
            Self::Leaven => EventKind::LeavenFalls,
        }
    }
}

words! {
    /// How far bakers let a dough go; words in data/fermentation.json.
    #[derive(Default)]
    Pace {
        Quick "quick",
        #[default]
        Usual "usual",
        Patient "patient",
    }
}

/// Something done to the dough that costs it gas.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Act {
    /// Minutes from the start of the stage.
    pub at_min: f64,
    /// `fold`, `knock-back`, `divide`, …
    pub act: String,
}

/// What hands do to a dough in its first rise: strength from a fold, its gas pressed out.
pub const FOLD: &str = "fold";
/// See [`FOLD`].
pub const KNOCK_BACK: &str = "knock-back";

/// Puts what is done to a dough into the stages of its first rise, by minutes from their start.
pub fn lay_acts<'s>(stages: impl Iterator<Item = &'s mut RiseStage>, mut acts: Vec<(f64, &str)>) {
    acts.sort_by(|a, b| a.0.total_cmp(&b.0));
    let mut from = 0.0;
    for stage in stages {
        let length = stage.minutes.unwrap_or(f64::INFINITY);
        let here = acts.iter().map(|(m, act)| (m - from, *act)).filter(|(m, _)| *m >= 0.0 && *m < length);
        stage.acts = Some(here.map(|(at_min, act)| Act { at_min, act: act.to_owned() }).collect());
        from += length;
    }
}

/// A place the dough stands in.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[allow(missing_docs, reason = "names of the API")]
pub struct RiseStage {
    pub kind: RiseKind,
    pub place_c: f64,
    /// Left out: until ripe.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub minutes: Option<f64>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub mass_g: Option<f64>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub vessel: Option<String>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub cover: Option<String>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub air: Option<String>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub acts: Option<Vec<Act>>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub pace: Option<Pace>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub target_ratio: Option<f64>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub over_x: Option<f64>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub new_rise: Option<bool>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub no_shape: Option<bool>,
    /// Dough temperatures taken: minutes from the stage's start, °C. The dough goes on from there.
    #[serde(skip)]
    pub readings: Vec<(f64, f64)>,
}

impl RiseStage {
    /// A stage at a place until ripe, everything else as usual.
    #[must_use]
    pub const fn until_ripe(kind: RiseKind, place_c: f64, mass_g: f64) -> Self {
        Self {
            kind,
            place_c,
            minutes: None,
            mass_g: Some(mass_g),
            vessel: None,
            cover: None,
            air: None,
            acts: None,
            pace: None,
            target_ratio: None,
            over_x: None,
            new_rise: None,
            no_shape: None,
            readings: Vec::new(),
        }
    }
}

/// A dough and the places it stands in, one after the other.
#[derive(Debug, Clone, PartialEq)]
pub struct Rise {
    /// Style or method of `data/fermentation.json`.
    pub style: String,
    /// The dough.
    pub dough: Dough,
    /// Its temperature when mixed, °C.
    pub start_c: f64,
    /// Where it stands.
    pub stages: Vec<RiseStage>,
    /// This kitchen's pace, 1 where nothing is learned.
    pub rate: f64,
    /// Its spread; the model's own where it is not given.
    pub log_sigma: Option<f64>,
}

/// Time constant of warming and cooling in minutes: 63 % of the way to the place's temperature.
///
/// `mass_g` of one piece. Engineering estimate, ±35 %.
#[must_use]
pub fn time_constant_min(mass_g: f64, vessel: &str, cover: &str, air: &str, k: &Constants) -> f64 {
    let factor = |table: &std::collections::BTreeMap<String, f64>, word: &str| table.get(word).copied().unwrap_or(1.0);
    k.numbers.tau_1kg_min
        * (mass_g / 1000.0).powf(k.numbers.tau_mass_exp)
        * factor(&k.vessels, vessel)
        * factor(&k.covers, cover)
        * factor(&k.airs, air)
}

impl Rise {
    /// Fills in what is left out: masses, vessel, cover, air, and the targets of a pace.
    ///
    /// # Errors
    /// A stage with both a pace and a target.
    pub fn assume(mut self, mass_g: f64, k: &Constants) -> Result<Self, InputErrors> {
        let mut errors = Errors::default();
        let style = k.styles.get(&self.style);
        for (i, stage) in self.stages.iter_mut().enumerate() {
            stage.mass_g.get_or_insert(mass_g);
            stage.vessel.get_or_insert_with(|| if stage.kind == RiseKind::Leaven { "glass-jar" } else { "bowl" }.to_owned());
            stage.cover.get_or_insert_with(|| "covered".to_owned());
            stage.air.get_or_insert_with(|| "still".to_owned());
            if stage.pace.is_some() && stage.target_ratio.is_some() {
                let here = Pointer::root().at("stages").at(i).at("pace");
                errors.add(here, "Give a pace or a rise to reach, not both: the pace sets it.");
            } else if let (Some(pace), Some(style)) = (stage.pace.filter(|p| *p != Pace::Usual), style) {
                let row = if pace == Pace::Quick { style.quick } else { style.patient };
                let (target, over) = if stage.kind == RiseKind::Bulk {
                    (row.bulk_ratio, row.bulk_over_x)
                } else {
                    (Some(row.proof_ratio), row.proof_over_x)
                };
                stage.target_ratio = target;
                stage.over_x = stage.over_x.or(over);
            }
        }
        errors.finish(self)
    }

    /// Checks every number against its range.
    ///
    /// # Errors
    /// Each field that is wrong, in a baker's words.
    pub fn check(&self, k: &Constants) -> Result<(), InputErrors> {
        let root = Pointer::root();
        let mut errors = Errors::default();
        let leaven_call = self.stages.first().is_some_and(|s| s.kind == RiseKind::Leaven);
        let style = k.styles.get(&self.style);
        if style.is_none() && !leaven_call {
            errors.add(root.at("style"), "This style of dough is not known.");
        }
        self.dough.check(&mut errors, &root.at("dough"), k, leaven_call);
        errors.range(root.at("start_c"), self.start_c, -5.0, 60.0, between!("The dough's temperature must be", -5, 60, celsius));
        errors.range(root.at("rate"), self.rate, 0.1, 10.0, "The kitchen's rate must be between 0.1 and 10.");
        if let Some(sigma) = self.log_sigma {
            errors.range(root.at("log_sigma"), sigma, 0.0, 1.5, "The spread of the kitchen's rate must be between 0 and 1.5.");
        }
        let stages = root.at("stages");
        if self.stages.is_empty() {
            errors.add(stages.clone(), "Say where the dough stands and for how long: at least one stage.");
        }
        if self.stages.len() > 20 {
            errors.add(stages.clone(), "At most 20 stages.");
        }
        for (i, stage) in self.stages.iter().take(20).enumerate() {
            let here = stages.at(i);
            if stage.kind == RiseKind::Bulk && style.is_some_and(|s| s.bulk_ratio.is_none()) {
                errors.add(
                    here.at("kind"),
                    if self.style == "gluten-free" {
                        "A gluten-free dough has no bulk rise: shape it at once."
                    } else {
                        "This way of making bread has no bulk rise: shape it at once."
                    },
                );
            }
            stage.check(&here, &mut errors, k);
        }
        errors.finish(())
    }
}

impl RiseStage {
    fn check(&self, here: &Pointer, errors: &mut Errors, k: &Constants) {
        errors.range(here.at("place_c"), self.place_c, -20.0, 60.0, between!("The place's temperature must be", -20, 60, celsius));
        errors.range(here.at("mass_g"), self.mass_g.unwrap_or(1000.0), 5.0, 20_000.0, between!("The piece must weigh", 5, 20000, grams));
        if let Some(minutes) = self.minutes
            && !(minutes > 0.0 && minutes <= k.numbers.horizon_min)
        {
            errors.add(here.at("minutes"), "A stage lasts more than 0 minutes and at most 7 days.");
        }
        if let Some(target) = self.target_ratio {
            errors.range(here.at("target_ratio"), target, 1.05, 5.0, "The rise to reach must be between 1.05 and 5 times the start.");
        }
        if let Some(over) = self.over_x {
            errors.range(here.at("over_x"), over, 1.0, 4.0, "The over factor of a stage must be between 1 and 4.");
        }
        for (name, word, table, what) in [
            ("vessel", &self.vessel, &k.vessels, "vessel to rise in"),
            ("cover", &self.cover, &k.covers, "cover"),
            ("air", &self.air, &k.airs, "kind of air"),
        ] {
            if let Some(word) = word.as_ref().filter(|w| !table.contains_key(*w)) {
                let known: Vec<&str> = table.keys().map(String::as_str).collect();
                errors.add(here.at(name), format!("“{word}” is no {what}: {}.", known.join(", ")));
            }
        }
        let acts = self.acts.as_deref().unwrap_or_default();
        if acts.len() > 100 {
            errors.add(here.at("acts"), "At most 100 acts in a stage.");
        }
        for (i, act) in acts.iter().take(100).enumerate() {
            let at = here.at("acts").at(i);
            if !k.acts.contains_key(&act.act) {
                let known: Vec<&str> = k.acts.keys().map(String::as_str).collect();
                errors.add(at.at("act"), format!("“{}” is no act of the rise: {}.", act.act, known.join(", ")));
            }
            let end = self.minutes.unwrap_or(k.numbers.horizon_min);
            if !(act.at_min >= 0.0 && act.at_min < end) {
                errors.add(at.at("at_min"), "This fold or knock-back comes after the stage has ended.");
            }
        }
    }
}
