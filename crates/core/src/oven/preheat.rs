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

const STEP_S: f64 = 10.0;
const LONGEST_S: f64 = 7200.0;

/// Steps of ten seconds of heating up: the air and what must get hot with it, °C.
fn heating<'a>(
    set_c: f64,
    body: Option<&str>,
    fan: bool,
    room_c: f64,
    k: &'a Constants,
) -> impl Iterator<Item = (f64, f64, Option<f64>)> + 'a {
    let n = &k.numbers;
    let heavy = body.and_then(|b| k.bodies.get(b));
    let film = if fan { n.body_h_fan } else { n.body_h_still };
    let (mut oven, mut thing, mut seconds) = (room_c, room_c, 0.0);
    std::iter::from_fn(move || {
        let here = (seconds, oven, heavy.map(|_| thing));
        let q = heavy.map_or(0.0, |b| film * b.area * (oven - thing));
        oven = set_c.min(oven + STEP_S * (n.oven_power - n.oven_ua * (oven - room_c) - q) / n.oven_c);
        if let Some(b) = heavy {
            thing += STEP_S * q / b.heat;
        }
        seconds += STEP_S;
        (here.0 <= LONGEST_S).then_some(here)
    })
}

/// The air while the oven heats: minutes from lighting it and °C, each half minute.
pub(super) fn warming(set_c: f64, body: Option<&str>, fan: bool, room_c: f64, k: &Constants) -> Vec<(f64, f64)> {
    heating(set_c, body, fan, room_c, k).step_by(3).map(|(s, air, _)| (s / 60.0, air)).collect()
}

/// Minutes until the oven stands at `set_c` and the body within 15 K of it; `None` beyond two hours.
#[must_use]
pub fn preheat_lead_min(set_c: f64, body: Option<&str>, fan: bool, room_c: f64, k: &Constants) -> Option<f64> {
    let hot = |air: f64, thing: Option<f64>| air >= set_c - 1e-9 && thing.is_none_or(|t| t >= set_c - 15.0);
    heating(set_c, body, fan, room_c, k).find(|(_, air, thing)| hot(*air, *thing)).map(|(s, ..)| s / 60.0)
}
