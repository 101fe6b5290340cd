//! What another bread of the household takes of the one oven and the baker's hands.

use jiff::Timestamp;

use super::{Course, OvenPlan, StepKind, later, search::hours::Need};
use crate::kitchen::Place;

/// Settings so near share an oven, °C. Common practice, no source.
const SAME_SETTING_C: f64 = 15.0;

/// What a bread asks of the oven.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct OvenAsk {
    /// Setting, °C.
    pub set_c: f64,
    /// Whether it is steamed.
    pub steam: bool,
}

impl OvenAsk {
    /// Whether two breads may be in the oven at once: settings within fifteen degrees, and both or neither steamed.
    #[must_use]
    pub fn shares_with(self, other: Self) -> bool {
        (self.set_c - other.set_c).abs() <= SAME_SETTING_C && self.steam == other.steam
    }
}

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
    /// Whether a bread that asks this may be in the oven too.
    #[must_use]
    pub fn is_shared_with(&self, asks: OvenAsk) -> bool {
        self.set_c.is_some_and(|set_c| asks.shares_with(OvenAsk { set_c, steam: self.steam.unwrap_or(asks.steam) }))
    }
}

impl OvenPlan {
    /// What it asks of the oven.
    #[must_use]
    pub const fn asks(&self) -> OvenAsk {
        OvenAsk { set_c: self.set_c, steam: self.steam }
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
    pub fn keeps_oven_from(&self, asks: OvenAsk) -> impl Iterator<Item = (Timestamp, Timestamp)> {
        self.oven.iter().filter(move |o| !o.is_shared_with(asks)).map(|o| (o.from, o.to))
    }
}

impl Course {
    /// The first other bread that keeps the oven from this one, with its hours there; so many minutes lie between two breads.
    /// None need lie on the day itself: breads follow as close as they come.
    #[must_use]
    pub fn oven_clash<'b>(&self, beside: &'b [Beside], between_min: f64) -> Option<(&'b str, (Timestamp, Timestamp))> {
        let out = later(self.loads.last().map_or(self.load, |l| l.out), between_min);
        let meets = |&(from, to): &(Timestamp, Timestamp)| from < out && self.load < later(to, between_min);
        beside.iter().find_map(|b| b.keeps_oven_from(self.oven.asks()).find(meets).map(|span| (b.bread.as_str(), span)))
    }

    /// What is still to come of it, as other breads see it; nothing once it is out.
    #[must_use]
    pub fn beside(&self, bread: &str, now: Timestamp) -> Option<Beside> {
        let (first, last) = (self.loads.first()?, self.loads.last()?);
        let out = later(last.out, (self.oven.minutes_high - self.oven.minutes).max(0.0));
        let hands = self.steps.iter().filter(|s| s.hands_on_min > 0.0 && s.end > now).map(|s| {
            // Lighting the oven is a minute; all else keeps its whole time, its rests with it.
            let to = if s.kind == StepKind::OvenOn { later(s.start, s.hands_on_min) } else { s.end };
            HandsUse { from: s.start, to, need: if s.kind.is_at_oven() { Need::Brief } else { Need::Hands } }
        });
        let baked = OvenUse { from: first.at, to: out, set_c: Some(self.oven.set_c), steam: Some(self.oven.steam) };
        let rises = self.stays.iter().filter(|s| s.place == Place::OvenLight && s.span.to > now);
        let oven = rises.map(|s| OvenUse { from: s.span.from, to: s.span.to, set_c: None, steam: None }).chain([baked]).collect();
        (last.out > now).then(|| Beside { bread: bread.to_owned(), oven, hands: hands.filter(|h| h.from < h.to).collect() })
    }
}
