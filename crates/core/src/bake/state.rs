//! Where a bake stands: a pure function of its plan and its log.

use jiff::Timestamp;
use serde::Serialize;

use super::{
    Event, EventKind,
    at_bowl::{AtBowl, Look, by_feel},
    reckoned::{Reckoned, Sought},
    told::kept,
};
use crate::{
    Tables,
    ferment::Row,
    formula::{Formula, Line},
    input::InputErrors,
    kitchen::{Kitchen, Place},
    plan::{Actual, Course, Load, Plan, PlanStep, StepKind, minutes_between},
};

/// A time that moved.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
pub struct Changed {
    /// Which act.
    pub kind: StepKind,
    /// As planned.
    pub was: Timestamp,
    /// As it goes.
    pub now: Timestamp,
}

/// Where a bake stands.
#[derive(Debug, Clone)]
pub struct BakeState {
    /// Number of the last event.
    pub seq: i32,
    /// Kind of the running or next step.
    pub stage: StepKind,
    /// The dough now: hours, temperature, ripeness; nothing before mixing.
    pub dough: Option<Row>,
    /// The course as it goes.
    pub course: Course,
    /// Steps that are done.
    pub done: Vec<Done>,
    /// Steps that remain, replanned.
    pub next: Vec<PlanStep>,
    /// What moved by five minutes or more.
    pub changed: Vec<Changed>,
    /// Minutes behind the plan; negative when early.
    pub late_min: f64,
    /// Whether it has been sliced.
    pub finished: bool,
    /// What has happened, as far as it can be reckoned with.
    pub actual: Actual,
    /// At the bowl.
    pub bowl: AtBowl,
    /// Numbers of events with which no course can be worked out. An act among them is done all the same.
    pub set_aside: Vec<i32>,
}

/// A step that is done.
#[derive(Debug, Clone, PartialEq)]
pub struct Done {
    /// The step.
    pub step: PlanStep,
    /// When: as noted, or by the act that shows it is past.
    pub at: Timestamp,
    /// Whether it was noted itself.
    pub noted: bool,
}

/// Whether the bake is over: it has been sliced, and that was not taken back.
#[must_use]
pub fn is_finished(log: &[Event]) -> bool {
    kept(log).iter().any(|e| e.event.kind == EventKind::Sliced)
}

/// When the dough was carried as a step says: to the nth place of that name for the nth step that wants it there.
fn moved_to(events: &[&Event], steps: &[PlanStep], step: &PlanStep) -> Option<Timestamp> {
    let there = |e: &&&Event| e.event.body.what.as_deref().and_then(Place::from_word).is_some_and(|p| p.name() == step.place);
    let before = steps.iter().filter(|s| s.kind == StepKind::Move && s.place == step.place && s.start < step.start).count();
    events.iter().filter(|e| e.event.kind == EventKind::Moved).filter(there).nth(before).map(|e| e.event.at)
}

impl EventKind {
    /// Whether it is done to each oven load.
    const fn is_of_a_load(self) -> bool {
        matches!(self, Self::Loaded | Self::Out | Self::SteamOff | Self::LidOff | Self::Turned | Self::Foil | Self::Core)
    }
}

impl BakeState {
    /// Where the bake stands at `now`.
    ///
    /// # Errors
    /// If there is no course even with nothing noted; whatever was noted, there is one.
    pub fn of(
        log: &[Event],
        plan: &Plan,
        formula: &Formula,
        kitchen: &Kitchen,
        now: Timestamp,
        tables: &Tables,
    ) -> Result<Self, InputErrors> {
        let events = kept(log);
        // What went in by feel changes its water, its pieces and its rise.
        let added = by_feel(&events);
        let became = (added != (0.0, 0.0)).then(|| formula.by_feel(added.0, added.1));
        let formula = became.as_ref().unwrap_or(formula);
        let Reckoned { actual, course, set_aside } = Sought { plan, formula, kitchen, now, tables }.by(log)?;
        let first = |kind: EventKind, nth: usize| events.iter().filter(|e| e.event.kind == kind).nth(nth).map(|e| e.event.at);
        let told =
            |kind: StepKind, nth: usize| events.iter().filter(|e| e.event.body.told_step() == Some(kind)).nth(nth).map(|e| e.event.at);
        let (mut done, mut next) = (Vec::new(), Vec::new());
        let mut folds = 0;
        let bowl = course.steps.iter().rfind(|s| s.kind.is_at_bowl()).map(|s| s.start);
        for step in &course.steps {
            // The oven load it belongs to: what is done once in each is noted once for each.
            let takes_out = |l: &Load| step.kind == StepKind::Out && l.out == step.start;
            let loads = &course.loads;
            let load = loads.iter().position(takes_out).or_else(|| loads.iter().rposition(|l| l.at <= step.start)).unwrap_or(0);
            let by = step.kind.event().and_then(|kind| match kind {
                // The last work at the bowl leaves the dough to rise; of the rest a note tells.
                EventKind::Mixed if bowl != Some(step.start) => None,
                EventKind::Fold => {
                    folds += 1;
                    first(kind, folds - 1)
                }
                EventKind::Moved => moved_to(&events, &course.steps, step),
                kind if kind.is_of_a_load() => first(kind, load),
                _ => first(kind, 0),
            });
            let by = by.or_else(|| {
                let nth = course.steps.iter().filter(|s| s.kind == step.kind && s.start < step.start).count();
                told(step.kind, nth)
            });
            let noted = by.is_some();
            // A rise is over once the act that ends it is done; small oven acts are past once it is out or dries.
            let by = by.or_else(|| match step.kind {
                StepKind::Bulk | StepKind::Fold | StepKind::KnockBack => {
                    first(EventKind::Shaped, 0).or_else(|| first(EventKind::Loaded, 0))
                }
                StepKind::Proof | StepKind::OvenOn => first(EventKind::Loaded, 0),
                StepKind::Shape => first(EventKind::Loaded, 0),
                StepKind::SteamOff | StepKind::LidOff | StepKind::Dial | StepKind::Turn | StepKind::Foil | StepKind::Check => {
                    told(StepKind::Dry, load).or_else(|| first(EventKind::Out, load))
                }
                StepKind::Dry => first(EventKind::Out, load),
                // What made room for the next load is out.
                StepKind::Out if load + 1 < course.loads.len() => first(EventKind::Loaded, load + 1),
                // Before the mix the clock tells: what is fed ripens whether it was noted or not.
                StepKind::Scald | StepKind::Feed | StepKind::Stir | StepKind::Leaven | StepKind::Preferment => {
                    first(EventKind::Mixed, 0).or_else(|| (step.end <= now).then_some(step.end))
                }
                StepKind::Move => first(EventKind::Loaded, 0).or_else(|| first(EventKind::Shaped, 0).filter(|at| step.start < *at)),
                StepKind::Finish | StepKind::Dip | StepKind::LidOn => first(EventKind::Loaded, 0),
                StepKind::BenchRest => first(EventKind::Loaded, 0).or_else(|| first(EventKind::Shaped, 0).filter(|at| step.start < *at)),
                StepKind::Bloom | StepKind::Mix | StepKind::Soak | StepKind::Knead | StepKind::Butter => first(EventKind::Mixed, 0),
                StepKind::Load | StepKind::Out | StepKind::Ready => None,
            });
            match by {
                Some(at) => done.push(Done { step: step.clone(), at, noted }),
                None => next.push(step.clone()),
            }
        }
        let look = Look { plan, actual: &actual, formula, kitchen, tables, now };
        let over = |s: &PlanStep| done.iter().find(|d| d.step.kind == s.kind && d.step.start == s.start).map(|d| d.at);
        let acts: Vec<_> = course.steps.iter().filter(|s| s.kind.is_at_bowl()).map(over).collect();
        let at_bowl = look.at_bowl(&acts, added);
        let mixed = first(EventKind::Mixed, 0);
        let dough = mixed.filter(|m| *m <= now).and_then(|m| course.forecast.at(minutes_between(m, now)));
        let changed = [StepKind::Shape, StepKind::Load, StepKind::Ready].into_iter().filter_map(|kind| {
            let was = plan.step(kind)?.start;
            let is = course.steps.iter().find(|s| s.kind == kind)?.start;
            (minutes_between(was, is).abs() >= 5.0).then_some(Changed { kind, was, now: is })
        });
        Ok(Self {
            seq: log.iter().map(|e| e.seq).max().unwrap_or(0),
            stage: next.first().map_or(StepKind::Ready, |s| s.kind),
            late_min: minutes_between(plan.ready_at, course.ready_at),
            changed: changed.collect(),
            finished: is_finished(log),
            dough,
            done,
            next,
            course,
            actual,
            bowl: at_bowl,
            set_aside,
        })
    }

    /// The event a tap on a step logs: the last work at the bowl leaves the dough to rise, of the rest there a note tells.
    #[must_use]
    pub fn event_of(&self, step: &PlanStep) -> Option<EventKind> {
        let later = self.course.steps.iter().any(|s| s.kind.is_at_bowl() && s.start > step.start);
        step.kind.event().filter(|_| !(step.kind.is_at_bowl() && later))
    }

    /// The step to do now: the running or next one that takes hands.
    #[must_use]
    pub fn act(&self) -> Option<&PlanStep> {
        self.next.iter().find(|s| !s.kind.waits())
    }

    /// The step a tap on the running one tells of: who looks and finds it done lets it dry where that is planned, else takes it out.
    #[must_use]
    pub fn told_by_tap(&self) -> Option<&PlanStep> {
        let act = self.act()?;
        let ends_it = |s: &&PlanStep| s.start >= act.start && matches!(s.kind, StepKind::Dry | StepKind::Out);
        if act.kind == StepKind::Check { self.next.iter().find(ends_it).or(Some(act)) } else { Some(act) }
    }

    /// Whether a line is weighed for the act that comes: for the preferment its own, then the others.
    #[must_use]
    pub fn weighs(&self, line: &Line) -> bool {
        let stirs = |s: &PlanStep| s.kind == StepKind::Stir;
        let now = if self.next.iter().any(stirs) {
            line.is_early()
        } else if self.done.iter().any(|d| stirs(&d.step)) {
            !line.is_early()
        } else {
            true
        };
        now && line.in_dough()
    }

    /// The rise whose sign decides when the next act begins.
    #[must_use]
    pub fn waiting(&self) -> Option<&PlanStep> {
        let ends_a_rise = self.act().is_some_and(|a| matches!(a.kind, StepKind::Shape | StepKind::Load));
        self.next.first().filter(|n| n.kind.waits() && ends_a_rise)
    }
}

/// What the logbook shows of a bake.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct Summary {
    /// When each load went into the oven.
    pub loads: Vec<Timestamp>,
    /// When each came out.
    pub outs: Vec<Timestamp>,
    /// Crust colour, as logged.
    pub colour: Option<String>,
    /// 1 to 5.
    pub rating: Option<f64>,
    /// Faults logged.
    pub faults: Vec<String>,
    /// The one thing to change.
    pub next_time: Option<String>,
    /// Other notes.
    pub notes: Vec<String>,
    /// Core temperature taken.
    pub core_c: Option<f64>,
    /// Grams of what was held back that went in.
    pub went_in: Option<f64>,
}

/// Reads the outcome from the log.
#[must_use]
pub fn summary(log: &[Event]) -> Summary {
    let mut s = Summary::default();
    for e in kept(log) {
        let body = &e.event.body;
        match e.event.kind {
            EventKind::Loaded => s.loads.push(e.event.at),
            EventKind::Out => s.outs.push(e.event.at),
            EventKind::Colour => s.colour.clone_from(&body.what),
            EventKind::Rating => s.rating = body.value,
            EventKind::Core => s.core_c = body.value,
            EventKind::Weighed if e.event.is_held_back() => s.went_in = body.value,
            EventKind::Fault => s.faults.extend(body.what.clone()),
            EventKind::Note if body.what.as_deref() == Some("next-time") => s.next_time.clone_from(&body.note),
            EventKind::Note => s.notes.extend(body.note.clone()),
            _ => {}
        }
    }
    s
}
