//! What a recipe told beside its list, kept with the formula: its steps in its own words, and the phases of its bake.

use serde::{Deserialize, Serialize};

use super::OvenTold;
use crate::{
    input::{Errors, Pointer},
    measure::{Band, between},
};

/// Most steps kept, and the longest, letters.
const MOST_STEPS: usize = 200;
/// Said of minutes told the wrong way round.
pub(super) const LATER_FIRST: &str = "The earlier time must not lie after the later one.";
/// Most stages of a bake.
pub const MOST_STAGES: usize = 12;
const LONGEST_STEP: usize = 2000;
/// How far the plain setting and minutes may be from those of the phases: what is rounded for a field is the same.
const SAME_C: f64 = 0.51;
const SAME_MIN: f64 = 0.51;

words! {
    /// What a step of a recipe tells to do.
    ToldAct {
        Mix "mix", Knead "knead", Rest "rest", Rise "rise", Fold "fold", Shape "shape", Heat "heat", Brush "brush", Boil "boil",
        Bake "bake", Dry "dry", Cool "cool", Feed "feed",
    }
}

impl ToldAct {
    /// Whether a recipe tells it before its time: an oven is heated while the dough proves, whatever line it stands in.
    #[must_use]
    pub const fn comes_before_its_time(self) -> bool {
        matches!(self, Self::Heat | Self::Feed)
    }
}

/// A step in the recipe's own words.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct ToldStep {
    /// As written.
    pub text: String,
    /// What it tells to do, by its word; none where it tells no act.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub act: Option<String>,
    /// First byte in the recipe's text.
    #[serde(default, deserialize_with = "crate::input::whole")]
    pub start: usize,
    /// Byte after the last.
    #[serde(default, deserialize_with = "crate::input::whole")]
    pub end: usize,
}

/// A phase of the bake, as told: `250 °C, lid on, 20 min`.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct Phase {
    /// Setting, °C.
    pub set_c: Option<f64>,
    /// Minutes, from and to.
    pub minutes: Option<(f64, f64)>,
    /// Whether the lid is on, where that is told.
    pub lid: Option<bool>,
    /// Whether the door stands ajar.
    pub ajar: bool,
    /// Whether the oven is off: what stays in it dries.
    pub off: bool,
}

/// The wire form of a phase.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, Default)]
#[serde(deny_unknown_fields)]
#[allow(missing_docs, reason = "names of the API")]
pub struct PhaseBody {
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub set_c: Option<f64>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub minutes_low: Option<f64>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub minutes_high: Option<f64>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub lid: Option<String>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub door: Option<String>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub off: Option<bool>,
}

words! {
    /// How a stage of the bake goes: what hands did to lid, door and dial before it.
    StageWay {
        Bakes "bakes" "as it is", LidOn "lid-on" "lid on", LidOff "lid-off" "lid off", Ajar "ajar" "door ajar",
        Off "off" "oven off", OffAjar "off-ajar" "oven off, door ajar",
    }
}

impl StageWay {
    /// The stage that goes so.
    #[must_use]
    pub fn body(self, set_c: Option<f64>, minutes_low: Option<f64>, minutes_high: Option<f64>) -> PhaseBody {
        let lid = match self {
            Self::LidOn => Some("on".to_owned()),
            Self::LidOff => Some("off".to_owned()),
            Self::Bakes | Self::Ajar | Self::Off | Self::OffAjar => None,
        };
        let (off, ajar) = (matches!(self, Self::Off | Self::OffAjar), matches!(self, Self::Ajar | Self::OffAjar));
        PhaseBody { set_c, minutes_low, minutes_high, lid, door: ajar.then(|| "ajar".to_owned()), off: off.then_some(true) }
    }
}

impl PhaseBody {
    /// How it goes.
    #[must_use]
    pub fn way(&self) -> StageWay {
        match (self.off == Some(true), self.door.is_some(), self.lid.as_deref()) {
            (true, true, _) => StageWay::OffAjar,
            (true, false, _) => StageWay::Off,
            (false, true, _) => StageWay::Ajar,
            (false, false, Some("on")) => StageWay::LidOn,
            (false, false, Some(_)) => StageWay::LidOff,
            (false, false, None) => StageWay::Bakes,
        }
    }
}

/// The wire form of what the recipe says of the oven.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, Default)]
#[serde(deny_unknown_fields)]
#[allow(missing_docs, reason = "names of the API")]
pub struct OvenBody {
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub set_c: Option<f64>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub minutes_low: Option<f64>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub minutes_high: Option<f64>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub fan: Option<bool>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub ours: Option<bool>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub stages: Option<Vec<PhaseBody>>,
}

impl OvenBody {
    /// One stage more, that says nothing yet; the plain setting becomes the first.
    pub fn add_stage(&mut self) {
        let mut stages = self.stages.take().unwrap_or_else(|| {
            vec![PhaseBody { set_c: self.set_c, minutes_low: self.minutes_low, minutes_high: self.minutes_high, ..PhaseBody::default() }]
        });
        stages.push(PhaseBody::default());
        // The whole is told by its stages.
        (self.set_c, self.minutes_low, self.minutes_high) = (None, None, None);
        self.stages = Some(stages);
    }

    /// One stage less; one that is left and says nothing of lid, door or dial is told plainly.
    pub fn take_stage(&mut self, out: usize) {
        let mut stages = self.stages.take().unwrap_or_default();
        if out < stages.len() {
            stages.remove(out);
        }
        match stages.as_slice() {
            [] => {}
            [one] if one.way() == StageWay::Bakes => {
                (self.set_c, self.minutes_low, self.minutes_high) = (one.set_c, one.minutes_low, one.minutes_high);
            }
            _ => self.stages = Some(stages),
        }
    }
}

impl Phase {
    /// Its wire form.
    #[must_use]
    pub fn body(self) -> PhaseBody {
        PhaseBody {
            set_c: self.set_c,
            minutes_low: self.minutes.map(|m| m.0),
            minutes_high: self.minutes.map(|m| m.1),
            lid: self.lid.map(|on| if on { "on" } else { "off" }.to_owned()),
            door: self.ajar.then(|| "ajar".to_owned()),
            off: self.off.then_some(true),
        }
    }

    /// Whether the bread only dries in it: the oven is off, or its door stands ajar.
    #[must_use]
    pub const fn dries(&self) -> bool {
        self.off || self.ajar
    }

    /// Its minutes as they are planned: the middle of what is told.
    pub(super) fn likely_min(&self) -> Option<f64> {
        self.minutes.map(|(low, high)| f64::midpoint(low, high))
    }
}

/// Setting and minutes of the whole bake: the first phase's setting, the minutes of all but what dries after it.
#[must_use]
pub fn whole_bake(phases: &[Phase]) -> Option<OvenTold> {
    let set_c = phases.iter().find_map(|p| p.set_c);
    let timed = phases.iter().filter(|p| !p.dries()).filter_map(|p| p.minutes).map(|(l, h)| Band::new(l, f64::midpoint(l, h), h));
    let minutes = timed.reduce(Band::plus).map(|b| (b.low, b.high)).filter(|(l, h)| *l >= 1.0 && *h <= 600.0);
    (set_c.is_some() || minutes.is_some()).then_some(OvenTold { set_c, minutes, ..OvenTold::default() })
}

/// Checks phases.
pub(super) fn check_phases(bodies: &[PhaseBody], here: &Pointer, errors: &mut Errors) -> Vec<Phase> {
    if bodies.len() > MOST_STAGES {
        errors.add(here.clone(), format!("A bake has {MOST_STAGES} stages at most; these are {}.", bodies.len()));
    }
    let phase = |(i, b): (usize, &PhaseBody)| {
        let at = here.at(i);
        if let Some(c) = b.set_c {
            errors.range(at.at("set_c"), c, 30.0, 300.0, between!("An oven setting lies", 30, 300, dial));
        }
        for (name, minutes) in [("minutes_low", b.minutes_low), ("minutes_high", b.minutes_high)] {
            if let Some(m) = minutes {
                errors.range(at.at(name), m, 0.0, 600.0, "A stage lasts between 0 and 600 minutes.");
            }
        }
        if b.minutes_low.zip(b.minutes_high).is_some_and(|(low, high)| low > high) {
            errors.add(at.at("minutes_low"), LATER_FIRST);
        }
        let lid = b.lid.as_deref().and_then(|word| match word {
            "on" => Some(true),
            "off" => Some(false),
            _ => {
                errors.add(at.at("lid"), format!("“{word}”: a lid is on or off."));
                None
            }
        });
        if let Some(word) = b.door.as_deref().filter(|d| *d != "ajar") {
            errors.add(at.at("door"), format!("“{word}”: a door is left ajar, or nothing is said of it."));
        }
        Phase {
            set_c: b.set_c,
            minutes: b.minutes_low.or(b.minutes_high).zip(b.minutes_high.or(b.minutes_low)),
            lid,
            ajar: b.door.is_some(),
            off: b.off.unwrap_or(false),
        }
    };
    // A stage that says nothing yet is none.
    bodies.iter().take(MOST_STAGES).enumerate().map(phase).filter(|p| *p != Phase::default()).collect()
}

/// The phases, if setting and minutes told beside them say the same; a setting written anew goes before them.
pub(super) fn phases_beside(phases: Vec<Phase>, oven: Option<OvenTold>) -> Vec<Phase> {
    let (Some(oven), Some(whole)) = (oven, whole_bake(&phases)) else { return phases };
    let near = |a: Option<f64>, b: Option<f64>, by: f64| a.zip(b).is_none_or(|(a, b)| (a - b).abs() <= by) && a.is_some() == b.is_some();
    let same = near(oven.set_c, whole.set_c, SAME_C)
        && near(oven.minutes.map(|m| m.0), whole.minutes.map(|m| m.0), SAME_MIN)
        && near(oven.minutes.map(|m| m.1), whole.minutes.map(|m| m.1), SAME_MIN);
    if same { phases } else { Vec::new() }
}

/// Checks steps.
pub(super) fn check_steps(steps: &[ToldStep], here: &Pointer, errors: &mut Errors) {
    if steps.len() > MOST_STEPS {
        errors.add(here.clone(), format!("A recipe has {MOST_STEPS} steps at most; these are {}.", steps.len()));
    }
    for (i, s) in steps.iter().enumerate().take(MOST_STEPS) {
        if s.text.chars().count() > LONGEST_STEP || s.text.trim().is_empty() {
            errors.add(here.at(i).at("text"), format!("A step is told in 1 to {LONGEST_STEP} letters."));
        }
        if let Some(word) = s.act.as_deref().filter(|w| ToldAct::from_word(w).is_none()) {
            let near = crate::did_you_mean(word, ToldAct::ALL.into_iter().map(ToldAct::word));
            errors.add(here.at(i).at("act"), format!("“{word}” is no act of a recipe.{near}"));
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn each_way_of_a_stage_comes_back() {
        for way in StageWay::ALL {
            let body = way.body(Some(220.0), None, Some(20.0));
            assert_eq!(body.way(), way);
            let mut errors = Errors::default();
            let phase = check_phases(std::slice::from_ref(&body), &Pointer::root(), &mut errors);
            assert!(errors.finish(()).is_ok(), "{way:?}");
            assert_eq!(phase[0].body(), PhaseBody { minutes_low: Some(20.0), ..body });
        }
    }

    #[test]
    fn minutes_the_wrong_way_round_are_told_at_their_stage() {
        let mut errors = Errors::default();
        check_phases(&[StageWay::Bakes.body(None, Some(30.0), Some(20.0))], &Pointer::root(), &mut errors);
        let told = errors.finish(()).unwrap_err();
        assert_eq!(told.0.first().map(|e| e.pointer.as_str()), Some("/0/minutes_low"));
    }

    #[test]
    fn a_setting_written_anew_goes_before_the_phases() {
        let phase = |c: f64, m: f64| Phase { set_c: Some(c), minutes: Some((m, m)), lid: None, ajar: false, off: false };
        let phases = vec![phase(250.0, 20.0), phase(230.0, 25.0)];
        let whole = whole_bake(&phases).unwrap();
        assert_eq!((whole.set_c, whole.minutes), (Some(250.0), Some((45.0, 45.0))));
        assert_eq!(phases_beside(phases.clone(), Some(whole)), phases);
        assert_eq!(phases_beside(phases.clone(), None), phases);
        assert!(phases_beside(phases, Some(OvenTold { set_c: Some(220.0), ..whole })).is_empty());
    }
}
