//! What a plan costs: lower is better. The weights are judgement, engineering estimate.

use super::{
    day::Day,
    hours::Minute,
    judge::{Judged, p_late, p_spoil},
    placing::PlacedRise,
    schedule::RiseOf,
    solve::{Model, RiseSpan, Search, Solved},
};
use crate::kitchen::Place;

/// A rise so long is an overnight one.
const OVERNIGHT_MIN: f64 = 300.0;

impl<M: Model> Search<'_, M> {
    /// The cost of starts; without placed rises what can be known before they are judged.
    pub(super) fn cost_of(&self, s: &Solved, starts: &[Minute], rises: &[PlacedRise], day: &Day, wakes: usize) -> f64 {
        let r = &self.rules;
        let Some(schedule) = r.schedules.get(s.schedule) else { return f64::INFINITY };
        let minutes = |wanted: &[RiseOf]| -> f64 {
            s.rises
                .iter()
                .filter(|x| wanted.contains(&x.rise))
                .map(|x| {
                    let from = starts.get(x.first).copied().unwrap_or(0) + s.lengths.get(x.first).copied().unwrap_or(0);
                    f64::from(starts.get(x.first + x.count).copied().unwrap_or(from) - from)
                })
                .sum()
        };
        let hours = (minutes(&[RiseOf::Bulk, RiseOf::Proof]) + r.early_share * minutes(&[RiseOf::Leaven, RiseOf::Preferment])) / 60.0;
        let flavour = ((hours.max(1e-6) / 2.0).ln() / 12.0_f64.ln()).clamp(0.0, 1.0);
        let judged: Vec<Judged> = rises.iter().map(|x| x.judged).collect();
        let off: f64 = rises.iter().filter(|x| matches!(x.rise, RiseOf::Bulk | RiseOf::Proof)).map(|x| x.judged.ripeness.ln().abs()).sum();
        let ready = starts.last().copied().unwrap_or(0) + s.after_load;
        let stale = day.ready.map_or(0.0, |wanted| {
            let e = f64::from((wanted - ready).max(0));
            e / 600.0 + if r.stales { (e - 90.0).max(0.0) / 300.0 } else { 0.0 }
        });
        let (mixed, early) = r.dose_parts;
        let taken = mixed * schedule.dose + schedule.sponge.map_or(0.0, |p| early * p.pct);
        let dose = if (r.dose_counts)(schedule.family) { 0.15 * taken.ln().abs() } else { 0.0 };
        #[allow(clippy::cast_precision_loss, reason = "a handful of works")]
        let (blocks, wakes) = (s.works.len() as f64, wakes as f64);
        // A place other than the room must earn the carrying, unless the dough stands there all night.
        let away = |x: &&RiseSpan| {
            matches!(x.rise, RiseOf::Bulk | RiseOf::Proof)
                && s.open_place(schedule, **x).is_some_and(|p| !matches!(p, Place::Room | Place::Fridge))
                && minutes(&[x.rise]) < OVERNIGHT_MIN
        };
        #[allow(clippy::cast_precision_loss, reason = "two rises")]
        let carried = r.move_cost * s.rises.iter().filter(away).count() as f64;
        let weak = if schedule.feeds.len() == 1 { r.one_feed_cost } else { 0.0 };
        let band = if s.band > 0 { 0.1 } else { 0.0 };
        let soon = if day.ready.is_none() { 0.15 * f64::from(ready - day.from) / 60.0 } else { 0.0 };
        4.0 * p_spoil(&judged)
            + p_late(&judged)
            + 1.5 * wakes
            + 0.08 * blocks
            + 0.004 * f64::from(s.hands_min)
            + 0.5 * (flavour - r.wanted_flavour).abs()
            + off
            + dose
            + stale
            + soon
            + carried
            + weak
            + band
    }
}
