//! Why this setting and not another: the minutes core and crust take over settings, and where they meet.

use super::{Bake, Constants, course::Oven, setting_limits};

/// Early, likely, late: minutes, 80 %.
pub type Span = (f64, f64, f64);

/// A setting with what core and crust take at it; none where they are not done within the bake's horizon.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct CrossRow {
    /// Setting of the dial, °C.
    pub set_c: f64,
    /// Until the core is done.
    pub core: Option<Span>,
    /// Until the crust has the wished colour.
    pub colour: Option<Span>,
}

/// Both clocks over settings.
#[derive(Debug, Clone, PartialEq)]
pub struct Crossing {
    /// From cool to hot.
    pub rows: Vec<CrossRow>,
    /// The setting and the minutes at which both are done; none where one is ahead at every setting shown.
    pub meet: Option<(f64, f64)>,
}

/// Settings apart, K, and so many beyond what bakers use.
const STEP_C: f64 = 10.0;
const BEYOND_C: f64 = 20.0;

/// Core and crust over settings, from 20 K under the coolest to 20 K over the hottest that bakers use for this bread, or
/// as far as the one that is insisted on.
///
/// The range of each is that of the minutes: the model's own spread, and what an oven off its dial does.
#[must_use]
pub fn crossing(bake: &Bake, k: &Constants) -> Crossing {
    let (n, oven) = (&k.numbers, Oven::new(bake, k));
    let offset = bake.oven_offset_c.unwrap_or(0.0);
    let (low, high) = setting_limits(bake, k);
    let on_step = |c: f64| STEP_C * ((c - offset) / STEP_C).round();
    // A setting the baker insists on is among them.
    let insisted = bake.set_c.map_or((f64::INFINITY, f64::NEG_INFINITY), |c| (c, c));
    let first = on_step((low - BEYOND_C).min(insisted.0 + offset)).max(100.0);
    let last = on_step((high + BEYOND_C).max(insisted.1 + offset)).min(300.0);
    let mut settings = vec![first];
    while let Some(next) = settings.last().map(|c| c + STEP_C).filter(|c| *c <= last + 1e-9) {
        settings.push(next);
    }
    let clocks: Vec<_> = settings.iter().map(|c| oven.both_clocks(c + offset)).collect();
    let off = if bake.oven_offset_c.is_some() { n.sigma_oven_measured } else { n.sigma_oven_unmeasured };
    let (core, colour): (Vec<_>, Vec<_>) = clocks.into_iter().unzip();
    let span = |times: &[Option<f64>], i: usize| -> Option<Span> {
        let likely = times.get(i).copied().flatten()?;
        let beside = |j: Option<usize>| j.and_then(|j| times.get(j).copied().flatten());
        let (cooler, hotter) = (beside(i.checked_sub(1)), beside(i.checked_add(1)));
        // How steeply ln(minutes) falls with the setting, per kelvin.
        let slope = match (cooler, hotter) {
            (Some(c), Some(h)) => (c / h).ln() / (2.0 * STEP_C),
            (Some(c), None) => (c / likely).ln() / STEP_C,
            (None, Some(h)) => (likely / h).ln() / STEP_C,
            (None, None) => 0.0,
        };
        let rel = n.range_z * n.sigma_model.hypot(slope * off);
        Some((likely * (-rel).exp(), likely, likely * rel.exp()))
    };
    let rows: Vec<CrossRow> =
        settings.iter().enumerate().map(|(i, set_c)| CrossRow { set_c: *set_c, core: span(&core, i), colour: span(&colour, i) }).collect();
    let ahead = |r: &CrossRow| r.core.zip(r.colour).map(|(core, colour)| (r.set_c, (colour.1 / core.1).ln(), core.1));
    let meet = rows.windows(2).find_map(|pair| match pair {
        [a, b] => {
            let ((c0, d0, m0), (c1, d1, m1)) = (ahead(a)?, ahead(b)?);
            (d0 >= 0.0 && d1 < 0.0).then(|| {
                let share = d0 / (d0 - d1);
                (c0 + share * (c1 - c0), m0 + share * (m1 - m0))
            })
        }
        _ => None,
    });
    Crossing { rows, meet }
}
