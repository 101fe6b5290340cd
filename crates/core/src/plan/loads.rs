//! Oven loads: when each goes in and comes out, as planned or as it went.

use jiff::Timestamp;

use super::{Actual, later};

/// One load.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Load {
    /// When it goes in.
    pub at: Timestamp,
    /// When it comes out.
    pub out: Timestamp,
}

/// What was noted for the nth of so many: each noted once, the last as it was noted last.
pub(super) fn nth(noted: &[Timestamp], n: usize, count: usize) -> Option<Timestamp> {
    if n + 1 < count { noted.get(n).copied() } else { noted.get(n..).and_then(<[_]>::last).copied() }
}

/// The loads of a bake whose first goes in at `first`. A load not yet in follows the one before, with the oven's
/// minutes to get hot again; one not yet out takes its minutes, and is in at least until now.
pub(super) fn loads(first: Timestamp, count: usize, (bake_min, again_min): (f64, f64), actual: &Actual) -> Vec<Load> {
    let (ins, outs) = (actual.loads.as_slice(), actual.outs.as_slice());
    let mut all: Vec<Load> = Vec::with_capacity(count);
    for n in 0..count.max(1) {
        let follows = all.last().map_or(first, |before| later(before.out, again_min));
        let at = if n == 0 { first } else { nth(ins, n, count).unwrap_or(follows) };
        // What made room for the next load was out by then.
        let next = if n + 1 < count { nth(ins, n + 1, count) } else { None };
        let is_in = nth(ins, n, count).is_some();
        let due = later(at, bake_min);
        let due = actual.now.filter(|_| is_in).map_or(due, |now| due.max(now));
        let out = nth(outs, n, count).unwrap_or_else(|| next.map_or(due, |next| due.min(next)));
        all.push(Load { at, out });
    }
    all
}
