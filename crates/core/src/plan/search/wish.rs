//! What matters most to the baker: one wish, which way of those that fit is its best, and what that costs. The weights are
//! judgement, engineering estimate.

use std::cmp::Ordering;

use super::{
    day::Day,
    hours::{Minute, Span},
    judge::{is_risky, risk_word},
    placing::PlacedSchedule,
    schedule::RiseOf,
    solve::{Model, Search},
    want::Want,
};
use crate::measure::{show, show_minutes};

/// What the wishes weigh.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Weighed {
    /// The longest stretch of a night in which nothing is to be done and no oven watched: from, to.
    pub sleep: Span,
    /// How often hands are at the dough.
    pub acts: usize,
    /// Minutes of rising, preferment and leaven apart.
    pub rise_min: Minute,
    /// From the first act to slicing.
    pub whole_min: Minute,
}

impl Weighed {
    fn sleep_min(&self) -> Minute {
        self.sleep.to - self.sleep.from
    }
}

/// The best plan for a wish: what it gains and what it costs against the plan that would be taken without one.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Wish {
    /// Which.
    pub want: Want,
    /// What one gets.
    pub gains: String,
    /// What it costs.
    pub costs: String,
}

/// What an hour of sleep, an act, the whole of the flavour, and an hour from first act to slicing are worth.
const SLEEP_PER_H: f64 = 0.4;
const PER_ACT: f64 = 0.5;
const FLAVOUR: f64 = 1.5;
const WHOLE_PER_H: f64 = 0.2;
/// A difference from here on is told, minutes.
const TOLD_MIN: Minute = 20;

impl<M: Model> Search<'_, M> {
    /// The plan's cost under the wish of the day; lower is better.
    pub(super) fn score(&self, l: &PlacedSchedule, day: &Day, want: Option<Want>) -> f64 {
        let Some(want) = want else { return l.cost };
        let w = self.weighed(l, day);
        #[allow(clippy::cast_precision_loss, reason = "a handful of acts")]
        let acts = w.acts as f64;
        l.cost
            + match want {
                // By half hours: for minutes of sleep no other plan is taken.
                Want::Sleep => -SLEEP_PER_H * f64::from(w.sleep_min() / 30) / 2.0,
                Want::FewActs => PER_ACT * acts,
                Want::Flavour => -FLAVOUR * (f64::from(w.rise_min.max(1)) / 120.0).ln() / 12.0_f64.ln(),
                Want::Soon => WHOLE_PER_H * f64::from(w.whole_min) / 60.0,
            }
    }

    /// What the wishes weigh of a plan.
    pub(super) fn weighed(&self, l: &PlacedSchedule, day: &Day) -> Weighed {
        let first = l.starts.first().copied().unwrap_or(0);
        let mut taken: Vec<Span> = l.asks(&self.rules.works).map(|a| a.0).collect();
        taken.sort_by_key(|s| s.from);
        // The night that is cut shortest decides.
        let nights = day.nights.iter().filter(|n| n.from < l.ready && n.to > first);
        let sleep = nights.map(|n| longest_free(*n, &taken)).min_by_key(|s| s.to - s.from).unwrap_or(Span::new(0, 0));
        let rising = l.rises.iter().filter(|r| matches!(r.rise, RiseOf::Bulk | RiseOf::Proof));
        Weighed { sleep, acts: l.works.len() + l.folds.len(), rise_min: rising.map(|r| r.to - r.from).sum(), whole_min: l.ready - first }
    }

    /// The best of some plans under a wish.
    pub(super) fn best<'l>(&self, among: &'l [PlacedSchedule], day: &Day, want: Option<Want>) -> Option<&'l PlacedSchedule> {
        among.iter().min_by(|a, b| self.by_score(a, b, day, want))
    }

    /// The better one first; where two are as good, the one that begins later.
    pub(super) fn by_score(&self, a: &PlacedSchedule, b: &PlacedSchedule, day: &Day, want: Option<Want>) -> Ordering {
        let score = |l: &PlacedSchedule| (1e6 * self.score(l, day, want)).round();
        score(a).total_cmp(&score(b)).then_with(|| b.starts.first().cmp(&a.starts.first())).then_with(|| a.schedule.cmp(&b.schedule))
    }

    /// Each wish with what its best plan gains and costs against the best without one.
    pub(super) fn wishes(&self, among: &[PlacedSchedule], day: &Day, clock: &dyn Fn(Minute) -> String) -> Vec<Wish> {
        let Some(plain) = self.best(among, day, None) else { return Vec::new() };
        let was = (plain, self.weighed(plain, day));
        let wish = |want: Want| {
            let best = self.best(among, day, Some(want))?;
            let is = (best, self.weighed(best, day));
            // Nobody is kept from sleep by a bread of one afternoon.
            let sleepless = want == Want::Sleep && is.1.sleep_min() == 0;
            (!sleepless).then(|| Wish { want, gains: gains(want, was.1, is.1, clock), costs: costs(was, is) })
        };
        Want::ALL.into_iter().filter_map(wish).collect()
    }
}

/// The longest stretch of a night that nothing is laid in.
fn longest_free(night: Span, taken: &[Span]) -> Span {
    let (mut best, mut from) = (Span::new(night.from, night.from), night.from);
    for t in taken.iter().filter(|t| t.to > night.from && t.from < night.to).chain([&Span::new(night.to, night.to)]) {
        let free = Span::new(from, t.from.min(night.to));
        if free.to - free.from > best.to - best.from {
            best = free;
        }
        from = from.max(t.to);
    }
    best
}

fn hours(minutes: Minute) -> String {
    let tenths = (f64::from(minutes) / 6.0).round();
    let whole = tenths >= 100.0 || tenths % 10.0 == 0.0;
    format!("{} h", show(tenths / 10.0, usize::from(!whole)))
}

fn gains(want: Want, was: Weighed, is: Weighed, clock: &dyn Fn(Minute) -> String) -> String {
    match want {
        Want::Sleep => {
            let more = is.sleep_min() - was.sleep_min();
            let more = if more >= TOLD_MIN { format!(", {} more", show_minutes(f64::from(more))) } else { String::new() };
            format!("{}–{} in bed{more}", clock(is.sleep.from), clock(is.sleep.to))
        }
        Want::FewActs if is.acts < was.acts => format!("{} times at the dough, not {}", is.acts, was.acts),
        Want::FewActs => format!("{} times at the dough; fewer will not do", is.acts),
        Want::Flavour if is.rise_min > was.rise_min + TOLD_MIN => format!("{} of rise, not {}", hours(is.rise_min), hours(was.rise_min)),
        Want::Flavour => format!("{} of rise; no longer way fits", hours(is.rise_min)),
        Want::Soon if is.whole_min + TOLD_MIN < was.whole_min => {
            format!("{} from first act to slicing, not {}", hours(is.whole_min), hours(was.whole_min))
        }
        Want::Soon => format!("{} from first act to slicing; no shorter way fits", hours(is.whole_min)),
    }
}

/// What a plan costs against another: the two that weigh most.
fn costs(was: (&PlacedSchedule, Weighed), is: (&PlacedSchedule, Weighed)) -> String {
    let mut all: Vec<String> = Vec::new();
    if is_risky(is.0.p_spoil) && is.0.p_spoil > was.0.p_spoil + 0.03 {
        all.push(risk_word(is.0.p_spoil).to_owned());
    }
    let slept = was.1.sleep_min() - is.1.sleep_min();
    if slept >= TOLD_MIN && is.1.sleep_min() > 0 {
        all.push(format!("{} of sleep", show_minutes(f64::from(slept))));
    }
    let acts = is.1.acts.saturating_sub(was.1.acts);
    if acts > 0 {
        all.push(if acts == 1 { "one act more".to_owned() } else { format!("{acts} acts more") });
    }
    if f64::from(is.1.rise_min) < 0.75 * f64::from(was.1.rise_min) {
        all.push(format!("a milder loaf, {} of rise", hours(is.1.rise_min)));
    }
    let hands = is.0.hands_min - was.0.hands_min;
    if hands >= 5 {
        all.push(format!("{hands} min more work"));
    }
    let early = was.0.ready - is.0.ready;
    if early >= TOLD_MIN {
        all.push(format!("ready {} before", show_minutes(f64::from(early))));
    }
    let longer = is.1.whole_min - was.1.whole_min;
    if all.is_empty() && longer >= 60 {
        all.push(format!("begun {} sooner", show_minutes(f64::from(longer))));
    }
    all.truncate(2);
    if all.is_empty() { "costs nothing".to_owned() } else { format!("costs {}", all.join(" and ")) }
}
