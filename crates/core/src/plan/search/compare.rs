//! Why one would take one plan and not another: what sets each apart from the middle one.

use super::offer::Offer;
use crate::measure::{show, show_minutes, show_percent};

/// A figure by which offers are compared: its value, the words where it is the larger, where the smaller.
struct Figure {
    of: fn(&Offer) -> f64,
    more: fn(&Offer) -> (String, bool),
    less: fn(&Offer) -> (String, bool),
}

fn hours_of_rise(o: &Offer) -> String {
    format!("{} h of rise", show(o.rise_h, usize::from(o.rise_h < 4.0)))
}

/// Names for each offer the two largest differences from the middle one, where it differs by a quarter or more.
pub fn compare(offers: &mut [Offer], usual_pct: f64) {
    // The second of a pair tells whether it speaks for the plan.
    let figures: [Figure; 6] = [
        Figure {
            of: |o| o.rise_h,
            more: |o| (format!("deeper flavour: {}", hours_of_rise(o)), true),
            less: |o| (format!("milder: {}", hours_of_rise(o)), false),
        },
        Figure {
            of: |o| o.hands_on_min,
            more: |o| (format!("{} min of work", show(o.hands_on_min, 0)), false),
            less: |o| (format!("only {} min of work", show(o.hands_on_min, 0)), true),
        },
        Figure {
            of: |o| {
                #[allow(clippy::cast_precision_loss, reason = "a handful of visits")]
                let visits = o.visits as f64;
                visits
            },
            more: |o| (format!("{} visits to the kitchen", o.visits), false),
            less: |o| (format!("only {} visits to the kitchen", o.visits), true),
        },
        Figure {
            of: |o| o.slack_min,
            more: |o| (format!("the dough may wait {}", show_minutes(o.slack_min)), true),
            less: |o| (format!("it may wait only {}", show_minutes(o.slack_min)), false),
        },
        Figure {
            of: |o| o.p_spoil.max(0.01),
            more: |o| (format!("{}: {} in 100 go over", o.risk(), show(100.0 * o.p_spoil, 0)), false),
            less: |o| ("safe".to_owned(), !o.is_risky()),
        },
        Figure {
            of: |o| o.early_min + 30.0,
            more: |o| (format!("ready {} before", show_minutes(o.early_min)), false),
            less: |o| ("fresh at the wanted hour".to_owned(), o.early_min < 30.0),
        },
    ];
    if let [only] = offers {
        only.reasons = vec![
            hours_of_rise(only),
            format!("{} min of work", show(only.hands_on_min, 0)),
            format!("may wait {}; {}", show_minutes(only.slack_min), only.risk()),
        ];
        return;
    }
    let middle = |of: fn(&Offer) -> f64, offers: &[Offer]| {
        let mut all: Vec<f64> = offers.iter().map(of).collect();
        all.sort_by(f64::total_cmp);
        all.get(all.len() / 2).copied().unwrap_or(0.0)
    };
    let middles: Vec<f64> = figures.iter().map(|f| middle(f.of, offers)).collect();
    for o in offers.iter_mut() {
        let mut found: Vec<(f64, String, bool)> = Vec::new();
        for (f, middle) in figures.iter().zip(&middles) {
            let value = (f.of)(o);
            let off = (value.max(1e-6) / middle.max(1e-6)).ln();
            if off.abs() >= 1.25_f64.ln() {
                let (words, good) = if off > 0.0 { (f.more)(o) } else { (f.less)(o) };
                // "Safe" is said only where it is.
                if off > 0.0 || good || words != "safe" {
                    found.push((off.abs(), words, good));
                }
            }
        }
        found.sort_by(|a, b| b.0.total_cmp(&a.0));
        o.reasons = found.iter().filter(|f| f.2).take(2).map(|f| f.1.clone()).collect();
        o.trade_offs = found.iter().filter(|f| !f.2).take(2).map(|f| f.1.clone()).collect();
        if let Some(dose) = o.dose.as_ref().filter(|d| d.pct < 0.75 * usual_pct) {
            o.reasons.push(format!("{} % of it against the usual {} %", show_percent(dose.pct), show_percent(usual_pct)));
        }
        if o.reasons.is_empty() {
            o.reasons.push(hours_of_rise(o));
        }
    }
}
