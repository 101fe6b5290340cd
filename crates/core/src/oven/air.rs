//! How warm the oven's air is, from lighting it to the end of the bake.

use super::{
    Advice, Bake, Constants,
    course::Oven,
    preheat::{heavy_body, warming},
};

/// Minutes from loading (negative while it heats) and °C: the heating, the fall as the door is opened and the cold dough
/// comes in, the way back.
#[must_use]
pub fn air(bake: &Bake, a: &Advice, k: &Constants) -> Vec<(f64, f64)> {
    let oven = Oven::new(bake, k);
    let offset = bake.oven_offset_c.unwrap_or(0.0);
    let setup = oven.setup(a.set_c + offset, 0.0, f64::INFINITY);
    let end = a.minutes.or_else(|| a.curve.last().map(|r| r.min)).unwrap_or(0.0);
    let lead = a.preheat_lead_min.unwrap_or(120.0);
    let heats = warming(a.set_c, heavy_body(bake.vessel), bake.fan, bake.room_c, k).into_iter().take_while(|p| p.0 <= lead);
    // Cold it is as warm as the room, whatever its dial is off by.
    let off = |c: f64| offset * ((c - bake.room_c) / (a.set_c - bake.room_c).max(1.0)).clamp(0.0, 1.0);
    let mut course: Vec<(f64, f64)> = heats.map(|(min, c)| (min - lead, c + off(c))).collect();
    let mut at = 0.0;
    while at < end {
        course.push((at, setup.air_at(at / oven.clock * 60.0)));
        at += 1.0;
    }
    course.push((end, setup.air_at(end / oven.clock * 60.0)));
    course
}
