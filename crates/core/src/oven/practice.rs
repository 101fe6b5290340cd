//! What bakers do with bread of like kind, shown beside the model's answer.

use super::{Advice, Bake, BakeClass, Constants, Crust, FAN_K, Kind, Vessel, constants::PracticeRow};

/// A bake of practice near the one asked for.
#[derive(Debug, Clone, PartialEq)]
pub struct Near {
    /// Row.
    pub id: String,
    /// The bread in words.
    pub what: String,
    /// Setting there, °C.
    pub set_c: f64,
    /// Minutes there.
    pub minutes: (f64, f64),
    /// How far from the one asked for; up to 1.5 is shown.
    pub distance: f64,
}

/// How the model's minutes stand to what bakers do with the nearest bread.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Agreement {
    /// No like bread is on record, or it is not done.
    Unknown,
    /// Within 15 % of the nearest band.
    Agrees,
    /// More than 15 % outside it, though the ranges meet.
    Strays,
    /// The nearest band lies wholly outside the range.
    Beyond,
}

/// Off by so much of the band it is said.
const STRAYS: f64 = 0.15;

/// Holds the minutes of an answer against the nearest bake of practice.
#[must_use]
pub fn agreement(a: &Advice, near: &[Near]) -> Agreement {
    let (Some(n), Some(minutes), Some(low), Some(high)) = (near.first(), a.minutes, a.minutes_low, a.minutes_high) else {
        return Agreement::Unknown;
    };
    let (from, to) = n.minutes;
    if to < low || from > high {
        Agreement::Beyond
    } else if minutes < from * (1.0 - STRAYS) || minutes > to * (1.0 + STRAYS) {
        Agreement::Strays
    } else {
        Agreement::Agrees
    }
}

struct Features {
    weight: f64,
    set_c: f64,
    rich: f64,
    fruit: f64,
    kind: Kind,
    vessel: u8,
    class: BakeClass,
    crust: Crust,
}

fn features(bake: &Bake, set_c: f64) -> Features {
    let vessel = match bake.vessel {
        _ if bake.lid => 0,
        Vessel::Pot | Vessel::Cover => 1,
        Vessel::Sheet | Vessel::Stone | Vessel::Steel => 2,
        Vessel::PanMetal | Vessel::PanGlass | Vessel::PanSilicone | Vessel::Dish | Vessel::MuffinTin => 3,
    };
    Features {
        weight: bake.piece_g,
        set_c: set_c + if bake.fan { FAN_K } else { 0.0 },
        rich: bake.rich(),
        fruit: bake.fruit_pct.min(65.0),
        kind: Kind::of(bake),
        vessel,
        class: bake.class(),
        crust: bake.crust(),
    }
}

fn distance(a: &Features, b: &Features) -> f64 {
    let differ = |yes: bool, points: f64| if yes { points } else { 0.0 };
    let square = |x: f64| x * x;
    (square((a.weight / b.weight).ln() / 0.35)
        + square((a.set_c - b.set_c) / 15.0)
        + square((a.rich - b.rich) / 15.0)
        + square((a.fruit - b.fruit) / 40.0)
        + differ(a.kind != b.kind, 4.0)
        + differ(a.vessel != b.vessel, 2.0)
        + differ(a.class != b.class, 2.0)
        + differ(a.crust != b.crust, 1.0))
    .sqrt()
}

/// At most three bakes of practice of like kind, nearest first. All: common practice, no source.
#[must_use]
pub fn near(bake: &Bake, set_c: f64, k: &Constants) -> Vec<Near> {
    let here = features(bake, set_c);
    let row = |r: &PracticeRow| {
        let there_c = r.bake.set_c?;
        let d = distance(&here, &features(&r.bake, there_c));
        (d <= k.numbers.near_max).then(|| Near { id: r.id.clone(), what: r.what.clone(), set_c: there_c, minutes: r.minutes, distance: d })
    };
    let mut rows: Vec<Near> = k.practice.iter().filter_map(row).collect();
    rows.sort_by(|a, b| a.distance.total_cmp(&b.distance).then_with(|| a.id.cmp(&b.id)));
    #[allow(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "three")]
    rows.truncate(k.numbers.near_count as usize);
    rows
}
