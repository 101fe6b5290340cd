//! What is asked of the search: the bread, the hour, the baker's hours, and what may vary.

use jiff::Timestamp;

use super::{
    hours::{Away, AwayKind, Minute, Span},
    schedule::ScheduleFamily,
    want::Want,
};
use crate::{
    ferment::{LeavenState, Pace},
    input::{Errors, InputErrors, Pointer},
    kitchen::{Kitchen, Nights, Place},
    measure::between,
    plan::{Beside, OvenAsk},
};

/// Hours that are not the dough's, as instants.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct AwayAsk {
    /// From.
    pub from: Timestamp,
    /// To.
    pub to: Timestamp,
    /// Why.
    pub kind: AwayKind,
}

/// What is asked. Places are those of the kitchen.
#[derive(Debug, Clone, PartialEq)]
pub struct FitAsk {
    /// Nothing begins before.
    pub from: Timestamp,
    /// When it is to be sliced; none: as soon as it can be.
    pub ready_at: Option<Timestamp>,
    /// How long before it may be ready, minutes; none: half a day, a day for rye.
    pub early_min: Option<f64>,
    /// The baker's hours.
    pub away: Vec<AwayAsk>,
    /// Other breads of the household.
    pub beside: Vec<Beside>,
    /// Places a dough can stand in, and their °C.
    pub places: Vec<(Place, f64)>,
    /// When some places are another by night, and how warm they are then.
    pub night: Option<Nights>,
    /// Only these families.
    pub families: Option<Vec<ScheduleFamily>>,
    /// Whether the fridge may be used.
    pub fridge: bool,
    /// Whether a dough with egg or milk may stand warm for more than four hours.
    pub lift_warm_limit: bool,
    /// Whether the recipe's dose of yeast or leaven is kept as it is.
    pub keep_dose: bool,
    /// Whether the baker may be woken once, for ten minutes.
    pub woken: bool,
    /// Hours in which one would rather sleep, as instants.
    pub nights: Vec<(Timestamp, Timestamp)>,
    /// What matters most.
    pub want: Option<Want>,
    /// Oven loads.
    pub loads: u32,
    /// Days the leaven has stood in the fridge.
    pub cold_days: f64,
    /// The leaven as it stands in its jar, where a jar is known.
    pub jar: Option<LeavenState>,
    /// When the leaven is ripe, if it is fed already.
    pub leaven_ripe_at: Option<Timestamp>,
    /// How far the bulk goes, and the proof.
    pub paces: (Pace, Pace),
}

/// Longest plan: 14 days.
pub const HORIZON_MIN: Minute = 14 * 1440;
/// A bread asked for as soon as it can be is looked for so far.
const SOON_MIN: Minute = 4 * 1440;
const MOST_AWAY: usize = 100;
/// A ripe leaven may be mixed so much sooner and later, minutes.
const RIPE_EARLY_MIN: Minute = 30;
const RIPE_FOR_MIN: Minute = 150;

impl FitAsk {
    /// A bread as soon as it can be, nobody away.
    #[must_use]
    pub fn soon(from: Timestamp, kitchen: &Kitchen) -> Self {
        Self {
            from,
            ready_at: None,
            early_min: None,
            away: Vec::new(),
            beside: Vec::new(),
            places: kitchen.places(),
            night: None,
            families: None,
            fridge: true,
            lift_warm_limit: false,
            keep_dose: false,
            woken: false,
            nights: Vec::new(),
            want: None,
            loads: 1,
            cold_days: 0.0,
            jar: None,
            leaven_ripe_at: None,
            paces: (Pace::Usual, Pace::Usual),
        }
    }

    /// Checks what is asked.
    ///
    /// # Errors
    /// Each field, in a baker's words.
    pub fn check(&self) -> Result<(), InputErrors> {
        let root = Pointer::root();
        let mut errors = Errors::default();
        if let Some(ready) = self.ready_at {
            let ahead = self.minute(ready);
            if ahead <= 0 {
                errors.add(root.at("ready_at"), "This hour is past: give one that is still to come.");
            } else if ahead > HORIZON_MIN {
                errors.add(root.at("ready_at"), "A plan reaches 14 days ahead.");
            }
        }
        if let Some(early) = self.early_min {
            errors.range(root.at("early_min"), early, 0.0, 2880.0, "The bread may be ready between 0 and 2880 minutes before.");
        }
        if self.away.len() > MOST_AWAY {
            errors.add(root.at("away"), "At most 100 spans of hours away.");
        }
        for (i, a) in self.away.iter().take(MOST_AWAY).enumerate() {
            if a.from >= a.to {
                errors.add(root.at("away").at(i).at("to"), "These hours end before they begin.");
            }
        }
        errors.range(
            root.at("leaven").at("cold_days"),
            self.cold_days,
            0.0,
            365.0,
            "A leaven stands between 0 and 365 days in the fridge.",
        );
        // What was ripe long ago is no leaven to mix with.
        if self.leaven_ripe_at.is_some_and(|ripe| self.minute(ripe) + RIPE_FOR_MIN < 0) {
            errors.add(
                root.at("leaven").at("ripe_at"),
                "It was ripe then, and is long past it now: leave this out, and the plan feeds it first.",
            );
        }
        for (place, c) in &self.places {
            let here = root.at("kitchen").at(format!("{}_c", place.word().replace('-', "_")));
            errors.range(here, *c, -20.0, 60.0, between!("A place's temperature lies", -20, 60, celsius));
        }
        if !(1..=6).contains(&self.loads) {
            errors.add(root.at("method").at("loads"), "Between 1 and 6 oven loads.");
        }
        errors.finish(())
    }

    /// The same in a kitchen whose nights are colder than its days, or warmer.
    #[must_use]
    pub fn with_nights(self, kitchen: &Kitchen) -> Self {
        let (from, to) = (self.at(-2 * 1440), self.at(self.ready_at.map_or(SOON_MIN, |r| self.minute(r).min(HORIZON_MIN)) + 2 * 1440));
        Self { night: kitchen.nights(from, to), nights: kitchen.bedtimes(from, to), ..self }
    }

    /// The whole minute of an instant, counted from when this begins.
    #[must_use]
    pub fn minute(&self, at: Timestamp) -> Minute {
        let ms = at.as_millisecond() - self.anchor().as_millisecond();
        Minute::try_from(ms.div_euclid(60_000)).unwrap_or(if ms < 0 { Minute::MIN / 8 } else { Minute::MAX / 8 })
    }

    /// The instant of a minute.
    #[must_use]
    pub fn at(&self, minute: Minute) -> Timestamp {
        crate::plan::later(self.anchor(), f64::from(minute))
    }

    /// The first whole minute at or after the start.
    fn anchor(&self) -> Timestamp {
        crate::plan::round_up(self.from, 1)
    }

    fn span(&self, (from, to): (Timestamp, Timestamp)) -> Span {
        Span::new(self.minute(from), self.minute(to))
    }

    /// The same as minutes, for a bread that is ready so much early and asks this of the oven: setting in °C, steam.
    #[must_use]
    pub fn day(&self, usual_early: Minute, asks: OvenAsk) -> super::day::Day {
        let ready = self.ready_at.map(|r| self.minute(r));
        let ripe = self.leaven_ripe_at.map(|r| self.minute(r));
        #[allow(clippy::cast_possible_truncation, reason = "checked against two days")]
        let early = self.early_min.map_or(usual_early, |e| e.round() as Minute);
        super::day::Day {
            from: 0,
            ready,
            early,
            horizon: Span::new(-2 * 1440, ready.map_or(SOON_MIN, |r| r + 2 * 1440)),
            away: self
                .away
                .iter()
                .map(|a| Away { span: Span::new(self.minute(a.from), self.minute(a.to)), kind: a.kind })
                .filter(|a| a.span.from < a.span.to)
                .collect(),
            hands_taken: self.beside.iter().flat_map(|b| &b.hands).map(|h| (self.span((h.from, h.to)), h.need)).collect(),
            oven_taken: self.beside.iter().flat_map(|b| b.keeps_oven_from(asks)).map(|o| self.span(o)).collect(),
            mix_within: ripe.map(|r| Span::new(r - RIPE_EARLY_MIN, r + RIPE_FOR_MIN)),
            woken: self.woken,
            nights: self.nights.iter().map(|n| self.span(*n)).collect(),
            want: self.want,
        }
    }
}
