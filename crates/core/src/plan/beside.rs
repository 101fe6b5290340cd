//! What another bread of the household takes of the one oven and the baker's hands.

use jiff::Timestamp;

use super::{
    Course, OvenPlan, StepKind, later,
    search::{hours::Need, many::SAME_SETTING_C},
};
use crate::kitchen::Place;

/// A while in the oven.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct OvenUse {
    /// From.
    pub from: Timestamp,
    /// To.
    pub to: Timestamp,
    /// At what setting, °C; none where it is not lit, or not told: then it is not shared.
    pub set_c: Option<f64>,
    /// Whether it is steamed; none where that is not told.
    pub steam: Option<bool>,
}

impl OvenUse {
    /// Whether a bread at this setting, steamed or not, may be in the oven too: settings within fifteen degrees, and both or
    /// neither steamed. Common practice, no source.
    #[must_use]
    pub fn is_shared_with(&self, (set_c, steam): (f64, bool)) -> bool {
        self.set_c.is_some_and(|c| (c - set_c).abs() <= SAME_SETTING_C) && self.steam.is_none_or(|s| s == steam)
    }
}

impl OvenPlan {
    /// What it asks of the oven: its setting, and whether it is steamed.
    #[must_use]
    pub const fn asks(&self) -> (f64, bool) {
        (self.set_c, self.steam)
    }
}

/// A while in which hands are at another bread, or a piece of it rests between two works of the hands.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct HandsUse {
    /// From.
    pub from: Timestamp,
    /// To.
    pub to: Timestamp,
    /// What it takes: hands, hands for two minutes, or a rest on the bench.
    pub need: Need,
}

/// Another bread that is baked, or planned to be.
#[derive(Debug, Clone, PartialEq)]
pub struct Beside {
    /// Its name.
    pub bread: String,
    /// When it has the oven: from its load to the late end of its bake, or while it rises in there.
    pub oven: Vec<OvenUse>,
    /// When hands are at it.
    pub hands: Vec<HandsUse>,
}

impl Beside {
    /// When it keeps the oven from a bread that asks this of it.
    pub fn keeps_oven_from(&self, asks: (f64, bool)) -> impl Iterator<Item = (Timestamp, Timestamp)> {
        self.oven.iter().filter(move |o| !o.is_shared_with(asks)).map(|o| (o.from, o.to))
    }
}

impl Course {
    /// What is still to come of it, as other breads see it; nothing once it is out.
    #[must_use]
    pub fn beside(&self, bread: &str, now: Timestamp) -> Option<Beside> {
        let (first, last) = (self.loads.first()?, self.loads.last()?);
        let out = later(last.out, (self.oven.minutes_high - self.oven.minutes).max(0.0));
        let hands = self.steps.iter().filter(|s| s.hands_on_min > 0.0 && s.end > now).map(|s| {
            let brief =
                matches!(s.kind, StepKind::Out | StepKind::Turn | StepKind::SteamOff | StepKind::LidOff | StepKind::Foil | StepKind::Check);
            // Lighting the oven is a minute; all else keeps its whole time, its rests with it.
            let to = if s.kind == StepKind::OvenOn { later(s.start, s.hands_on_min) } else { s.end };
            HandsUse { from: s.start, to, need: if brief { Need::Brief } else { Need::Hands } }
        });
        let baked = OvenUse { from: first.at, to: out, set_c: Some(self.oven.set_c), steam: Some(self.oven.steam) };
        let rises = self.stays.iter().filter(|s| s.place == Place::OvenLight && s.to > now);
        let oven = rises.map(|s| OvenUse { from: s.from, to: s.to, set_c: None, steam: None }).chain([baked]).collect();
        (last.out > now).then(|| Beside { bread: bread.to_owned(), oven, hands: hands.filter(|h| h.from < h.to).collect() })
    }
}
