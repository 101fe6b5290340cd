//! Why the rest of a bake should be planned anew: it is off its hour, or an hour, a limit or an aim is broken.

use jiff::Timestamp;

use super::{
    super::{
        PlanStep, StepKind, later, minutes_between,
        search::{hours::AwayKind, schedule::RiseOf},
    },
    OnTheDay, WORTH_MIN,
    begun::UnderWay,
};
use crate::{ferment::RiseKind, formula::WARM_LIMIT_MIN};

/// A reason.
#[derive(Debug, Clone, PartialEq)]
pub enum Reason {
    /// It goes into the oven later than was meant, or sooner where negative: minutes.
    Off(f64),
    /// The oven is hot then at the soonest, and that is too late.
    OvenCold(Timestamp),
    /// Nobody is there for an act: when it would be, from when on the dough is over, when somebody is there again.
    Nobody {
        /// Which act.
        act: StepKind,
        /// When it would be.
        due: Timestamp,
        /// From when on the running rise is over.
        over: Option<Timestamp>,
        /// When somebody is there again.
        back: Timestamp,
    },
    /// Another bread has the oven when it would go in.
    OvenTaken {
        /// When it would go in.
        due: Timestamp,
        /// Which bread.
        bread: String,
        /// Until when.
        back: Timestamp,
    },
    /// It is over before the act that ends it: from when on.
    Over(RiseOf, Timestamp),
    /// A dough with egg or milk stands warm for longer than it may: minutes.
    Warm(f64),
}

impl OnTheDay<'_> {
    /// When a step begins as it goes.
    fn going(&self, kind: StepKind) -> Option<Timestamp> {
        self.course.steps.iter().find(|s| s.kind == kind).map(|s| s.start)
    }

    /// When it was shaped, or is to be.
    pub(super) fn shaped(&self) -> Timestamp {
        self.actual.shaped.or_else(|| self.going(StepKind::Shape)).unwrap_or(self.course.mixed)
    }

    /// Whether the running rise is late, but may still wait: the sign decides, not the hour.
    fn may_wait(&self, under_way: &UnderWay) -> bool {
        let ripe = self.course.forecast.event(rise_kind(under_way.begun.rise).ripe());
        self.course.due && ripe.and_then(|e| e.min_high).is_some_and(|m| self.now < later(self.course.mixed, m))
    }

    /// Whether it goes as was chosen on the day: then all but another bread in the oven was known.
    fn goes_as_chosen(&self) -> bool {
        self.actual.rest.as_ref().is_some_and(|rest| minutes_between(rest.load_at, self.course.load).abs() < WORTH_MIN)
    }

    /// Why the rest should be planned anew; nothing where it goes as planned.
    pub(super) fn reasons(&self, under_way: &UnderWay) -> Vec<Reason> {
        let load = self.course.load;
        let taken = self.course.oven_clash(self.beside, 0.0);
        let taken = taken.map(|(bread, (_, back))| Reason::OvenTaken { due: load, bread: bread.to_owned(), back });
        if self.goes_as_chosen() {
            return taken.into_iter().collect();
        }
        let mut found: Vec<Reason> = self.nobody_there(under_way).into_iter().collect();
        let kind = if under_way.begun.rise == RiseOf::Bulk { StepKind::Shape } else { StepKind::Load };
        let act = self.going(kind).unwrap_or(load);
        if under_way.is_over() {
            found.push(Reason::Over(under_way.begun.rise, self.now));
        } else if let Some(over) = self.over_from(under_way).filter(|over| *over < act) {
            found.push(Reason::Over(under_way.begun.rise, over));
        }
        found.extend(taken);
        let hot = later(self.actual.lit.unwrap_or(self.now), self.course.oven.preheat_min);
        if minutes_between(load, hot) >= WORTH_MIN {
            found.push(Reason::OvenCold(hot));
        }
        let off = self.meant().map_or(0.0, |meant| minutes_between(meant, load));
        if off.abs() < WORTH_MIN {
            return found;
        }
        // What was planned to stand so long was cautioned then.
        let warm = self.course.warm_min();
        if under_way.perishable && warm > WARM_LIMIT_MIN {
            found.push(Reason::Warm(warm));
        }
        if found.is_empty() && !self.may_wait(under_way) {
            found.push(Reason::Off(off));
        }
        found
    }

    /// The first act still to come at which nobody is there. What a fitted plan laid into such hours was meant so.
    fn nobody_there(&self, under_way: &UnderWay) -> Option<Reason> {
        let away = self.away();
        let hands = [StepKind::Shape, StepKind::Load, StepKind::Out];
        let coming = self.course.steps.iter().filter(|s| hands.contains(&s.kind) && s.end > self.now);
        let done = |kind: StepKind| kind == StepKind::Shape && self.actual.shaped.is_some();
        let fitted = self.plan.ask.laid.is_some() && self.actual.rest.is_none();
        let chosen = |s: &PlanStep| fitted && self.plan.step(s.kind).is_some_and(|p| minutes_between(p.start, s.start).abs() < WORTH_MIN);
        coming.filter(|s| !done(s.kind) && !chosen(s)).find_map(|s| {
            let (from, to) = (self.minute(s.start), self.minute(s.end));
            // Hot ovens are watched: full hands do not matter to them.
            let oven = s.kind == StepKind::Out;
            let gone = away.iter().find(|a| (a.kind != AwayKind::Busy || !oven) && a.span.from < to.max(from + 1) && from < a.span.to)?;
            let back = self.at(gone.span.to);
            let ends_rise = matches!(s.kind, StepKind::Shape) == (under_way.begun.rise == RiseOf::Bulk);
            let over = self.over_from(under_way).filter(|over| ends_rise && *over < back);
            Some(Reason::Nobody { act: s.kind, due: self.at(from), over, back })
        })
    }

    /// From when on the running rise is over as it goes.
    pub(super) fn over_from(&self, under_way: &UnderWay) -> Option<Timestamp> {
        self.course.forecast.event(rise_kind(under_way.begun.rise).over()).map(|e| later(self.course.mixed, e.min))
    }
}

const fn rise_kind(rise: RiseOf) -> RiseKind {
    if matches!(rise, RiseOf::Bulk) { RiseKind::Bulk } else { RiseKind::Proof }
}
