//! How long before loading the oven must be lit.

use super::{Constants, Vessel};

/// What must get hot beside the oven itself: `stone`, `steel`, `pot`, or nothing.
#[must_use]
pub const fn heavy_body(vessel: Vessel) -> Option<&'static str> {
    match vessel {
        Vessel::Stone | Vessel::Cover => Some("stone"),
        Vessel::Steel => Some("steel"),
        Vessel::Pot => Some("pot"),
        Vessel::Sheet | Vessel::PanMetal | Vessel::PanGlass | Vessel::PanSilicone | Vessel::Dish | Vessel::MuffinTin => None,
    }
}

/// Minutes until the oven stands at `set_c` and the body within 15 K of it; `None` beyond two hours.
#[must_use]
pub fn preheat_lead_min(set_c: f64, body: Option<&str>, fan: bool, room_c: f64, k: &Constants) -> Option<f64> {
    const STEP_S: f64 = 10.0;
    let n = &k.numbers;
    let heavy = body.and_then(|b| k.bodies.get(b));
    let film = if fan { n.body_h_fan } else { n.body_h_still };
    let (mut oven, mut thing) = (room_c, room_c);
    let mut seconds = 0.0;
    while seconds <= 7200.0 {
        if oven >= set_c - 1e-9 && heavy.is_none_or(|_| thing >= set_c - 15.0) {
            return Some(seconds / 60.0);
        }
        let q = heavy.map_or(0.0, |b| film * b.area * (oven - thing));
        oven = set_c.min(oven + STEP_S * (n.oven_power - n.oven_ua * (oven - room_c) - q) / n.oven_c);
        if let Some(b) = heavy {
            thing += STEP_S * q / b.heat;
        }
        seconds += STEP_S;
    }
    None
}
