//! Findings on the bake as a whole: what the recipe leaves open, and what the oven model says of it.

use super::{RULES, at_step, baking_step, finding};
use crate::{
    Tables,
    findings::{Change, Finding, Remedy, Severity::Caution, rule},
    formula::{Analysis, oven_of},
    measure::{degrees, setting, show},
    oven::advise,
    reader::Step,
};

/// A bake without its setting or its time: what the oven model would do.
pub(super) fn find(steps: &[Step], analysis: &Analysis<'_>, tables: &Tables, found: &mut Vec<Finding>) {
    let Some((at, bake)) = baking_step(steps) else { return };
    let told = analysis.formula.oven.unwrap_or_default();
    let advice = |set_c: Option<f64>| {
        let mut b = oven_of(analysis, &tables.pantry);
        b.set_c = set_c;
        let possible = analysis.flour_g.likely > 0.0
            && (5.0..=3000.0).contains(&b.piece_g)
            && (40.0..=200.0).contains(&b.hydration_pct)
            && b.pieces <= 60;
        possible.then(|| advise(&b, &tables.oven))
    };
    let here = found.len();
    let mut add = |f: Finding| found.push(f);
    let stated = steps.iter().any(|s| !s.stated.is_empty());
    if !stated && told.set_c.is_none() {
        let (message, remedies) = advice(None).map_or_else(
            || ("No oven setting.".to_owned(), vec![Remedy::meant("Leave it open")]),
            |a| {
                (
                    format!("No oven setting. For this dough and size: {}.", setting(a.set_c)),
                    vec![
                        Remedy::new(format!("Set {}", setting(a.set_c)), vec![Change::Oven { set_c: a.set_c, fan: false }]),
                        Remedy::meant("Leave it open"),
                    ],
                )
            },
        );
        add(finding(rule!("oven-temp-missing"), Caution, message, remedies));
    }
    let timed = steps.iter().any(|s| (s.bakes() || s.oven_c.is_some()) && s.minutes.is_some());
    let by_core = steps.iter().any(|s| s.core_c.is_some());
    if !timed && !by_core && told.minutes.is_none() {
        let times =
            advice(told.set_c).and_then(|a| a.minutes_low.zip(a.minutes_high).map(|(l, h)| (l.round(), h.round(), a.core_target_c)));
        let (message, remedies) = times.map_or_else(
            || ("No baking time.".to_owned(), vec![Remedy::meant("Leave it open")]),
            |(l, h, core)| {
                (
                    format!("No baking time. About {}–{} min; done at {} inside.", show(l, 0), show(h, 0), degrees(core).to(0)),
                    vec![
                        Remedy::new(format!("Use {}–{} min", show(l, 0), show(h, 0)), vec![Change::OvenMinutes { low: l, high: h }]),
                        Remedy::meant("Leave it open"),
                    ],
                )
            },
        );
        add(finding(rule!("bake-time-missing"), Caution, message, remedies));
    }
    at_step(found, here, at, bake);
}
