//! What of a log the models can reckon with. People note days late, on the wrong scale, twice: whatever stands in a log, its
//! bake can be shown, and what is left out is told.

use jiff::Timestamp;

use super::{
    Event, EventKind,
    reading::is_plausible,
    told::{kept, told_by},
};
use crate::{
    Tables,
    formula::Formula,
    input::InputErrors,
    kitchen::Kitchen,
    plan::{Actual, Course, Plan},
};

/// So many events are left out one by one; beyond them all that came after.
const SINGLY: usize = 6;

/// A log as it is reckoned with.
pub(super) struct Reckoned {
    pub(super) actual: Actual,
    pub(super) course: Course,
    /// Numbers of the events that are left out.
    pub(super) set_aside: Vec<i32>,
}

/// A bake whose course is looked for.
pub(super) struct Sought<'a> {
    pub(super) plan: &'a Plan,
    pub(super) formula: &'a Formula,
    pub(super) kitchen: &'a Kitchen,
    pub(super) now: Timestamp,
    pub(super) tables: &'a Tables,
}

impl Sought<'_> {
    fn with(&self, events: &[&Event]) -> Result<(Actual, Course), InputErrors> {
        let actual = told_by(events, self.kitchen);
        let now = Actual { now: Some(self.now), ..actual.clone() };
        Ok((actual, self.plan.course(self.formula, &now, self.kitchen, self.tables)?))
    }

    /// The course by as much of a log as it can be worked out from: readings no kitchen has are left out, then the first event
    /// with which it cannot, then the next.
    ///
    /// # Errors
    /// If there is no course even with nothing noted.
    pub(super) fn by(&self, log: &[Event]) -> Result<Reckoned, InputErrors> {
        let (mut events, odd): (Vec<&Event>, Vec<&Event>) = kept(log).into_iter().partition(|e| {
            e.event.kind != EventKind::Temperature
                || e.event.body.value.is_none_or(|c| is_plausible(e.event.body.stage.as_deref().unwrap_or_default(), c))
        });
        let mut set_aside: Vec<i32> = odd.iter().map(|e| e.seq).collect();
        for _ in 0..SINGLY {
            if let Ok((actual, course)) = self.with(&events) {
                return Ok(Reckoned { actual, course, set_aside });
            }
            let first = self.longest(&events)?;
            set_aside.push(events.remove(first).seq);
        }
        let all = self.longest(&events).unwrap_or(events.len());
        set_aside.extend(events.drain(all..).map(|e| e.seq));
        let (actual, course) = self.with(&events)?;
        Ok(Reckoned { actual, course, set_aside })
    }

    /// How many events from the first on it can be worked out from.
    fn longest(&self, events: &[&Event]) -> Result<usize, InputErrors> {
        self.with(&[])?;
        let (mut yes, mut no) = (0, events.len());
        while no - yes > 1 {
            let middle = usize::midpoint(yes, no);
            if self.with(events.get(..middle).unwrap_or_default()).is_ok() { yes = middle } else { no = middle }
        }
        Ok(yes)
    }
}
