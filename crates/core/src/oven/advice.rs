//! From a course through the oven to advice: minutes with range, what to do when, what other settings would do.

use crate::measure::{Working, celsius, kelvins};
use serde::Serialize;

use super::{
    Bake, BakeClass, Colour, Constants, Crust, Geometry, Meets, Status, colour_word,
    course::Oven,
    preheat::{heavy_body, preheat_lead_min},
    solver::{Instant, OvenRun},
    stages::{DialTurn, Drying},
};

/// Something to do, in minutes from loading.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
pub struct BakeEvent {
    /// `preheat-from`, `load`, `steam-off`, `lid-off`, `dial`, `turn`, `foil`, `check`, `dry`, `done`, `slice-from`.
    pub kind: &'static str,
    /// Minutes from loading.
    pub at_min: f64,
    /// To what the dial is turned, °C.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub set_c: Option<f64>,
}

/// A row of the curve, in baker's minutes.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
#[allow(missing_docs, reason = "names of the API")]
pub struct CurveRow {
    pub min: f64,
    pub core_c: f64,
    pub surface_c: f64,
    pub index: f64,
    pub colour: &'static str,
    #[serde(skip)]
    pub loss_pct: f64,
}

/// What one setting would do.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
#[allow(missing_docs, reason = "names of the API")]
pub struct SettingRow {
    pub set_c: f64,
    pub minutes_low: Option<f64>,
    pub minutes_high: Option<f64>,
    pub core_done_min: Option<f64>,
    pub colour_min: Option<f64>,
    pub colour: &'static str,
    #[serde(skip)]
    pub status: Status,
}

/// The answer: what to set, how long, what to look for.
#[derive(Debug, Clone, PartialEq)]
#[allow(missing_docs, reason = "names of the API; definitions in docs/science.md")]
pub struct Advice {
    pub class: BakeClass,
    pub colour: Colour,
    pub crust: Crust,
    pub geometry: Geometry,
    pub boiling_c: f64,
    pub browning: f64,
    pub set_c: f64,
    /// The dial turned while it bakes.
    pub turns: Vec<DialTurn>,
    /// What it does in the oven once it is done.
    pub drying: Option<Drying>,
    pub meets: Option<Meets>,
    pub status: Status,
    pub core_target_c: f64,
    pub steam_min: f64,
    pub drop_k: f64,
    pub minutes: Option<f64>,
    pub minutes_low: Option<f64>,
    pub minutes_high: Option<f64>,
    pub core_at_min: Option<f64>,
    pub core_done_min: Option<f64>,
    pub colour_min: Option<f64>,
    pub foil_min: Option<f64>,
    pub lid_off_min: Option<f64>,
    pub check_min: Option<f64>,
    pub turn_min: Option<f64>,
    pub preheat_lead_min: Option<f64>,
    pub slice_min: Option<f64>,
    pub loss_pct: f64,
    pub core_c: f64,
    pub surface_c: f64,
    pub colour_index: f64,
    pub curve: Vec<CurveRow>,
}

/// Works out setting, minutes with range, events and curve. Budget: under 8 ms.
#[must_use]
pub fn advise(bake: &Bake, k: &Constants) -> Advice {
    let oven = Oven::new(bake, k);
    let n = &k.numbers;
    let offset = bake.oven_offset_c.unwrap_or(0.0);
    let (set_c, meets) = match bake.set_c {
        Some(c) => (c, None),
        None => {
            let (c, m) = oven.recommend();
            (c, Some(m))
        }
    };
    let out = oven.at_setting(set_c + offset, 0.0);
    let c = oven.clock;
    let scaled = |t: Option<f64>| t.map(|t| t * c);
    let minutes = scaled(out.minutes);
    let spread = minutes.map(|_| oven.relative_spread(set_c + offset));
    let range = |sign: f64| minutes.zip(spread).map(|(m, rel)| m * (sign * rel).exp());
    let lid_off = out.course.cover_off.map(|s| s / 60.0 * c).filter(|t| bake.vessel.covers() && minutes.is_none_or(|m| *t < m));
    let foil = scaled(out.foil_at);
    let check = minutes.map(|m| (n.check_at * m).min(foil.unwrap_or(f64::INFINITY)));
    let turn = minutes.filter(|m| *m >= 10.0 && !bake.lid).and_then(|m| {
        let at = (n.rotate_at * m).max(oven.steam_min).max(lid_off.unwrap_or(0.0));
        (at <= 0.85 * m).then_some(at)
    });
    let end = out.minutes.unwrap_or_else(|| out.course.rows.last().map_or(0.0, |r| r.t / 60.0));
    let value = |f: fn(&Instant) -> f64| out.course.at(f, end * 60.0);
    Advice {
        class: oven.class,
        colour: oven.colour,
        crust: oven.crust,
        geometry: oven.geometry,
        boiling_c: oven.boiling_c,
        browning: oven.browning,
        set_c,
        meets,
        status: out.status,
        turns: oven.turns(set_c).collect(),
        drying: bake.drying,
        core_target_c: oven.core_target_c,
        steam_min: oven.steam_min,
        drop_k: oven.drop_k,
        minutes,
        minutes_low: range(-1.0),
        minutes_high: range(1.0),
        core_at_min: scaled(out.core_at),
        core_done_min: scaled(out.core_done),
        colour_min: scaled(out.colour_at),
        foil_min: foil,
        lid_off_min: lid_off,
        check_min: check,
        turn_min: turn,
        preheat_lead_min: preheat_lead_min(set_c, heavy_body(bake.vessel), bake.fan, bake.room_c, k),
        slice_min: minutes.and_then(|_| oven.slice_min()),
        loss_pct: 100.0 * value(|r| r.loss),
        core_c: value(|r| r.core_c),
        surface_c: value(|r| r.surface_c),
        colour_index: value(|r| r.index),
        curve: curve(&out.course, c, end * c),
    }
}

/// At most 300 rows, in baker's minutes, up to the end of the bake.
fn curve(course: &OvenRun, clock: f64, end_min: f64) -> Vec<CurveRow> {
    let rows = course.rows.iter().filter(|r| r.t / 60.0 * clock < end_min).count();
    let every = rows / 290 + 1;
    let row = |min: f64, r: Instant| CurveRow {
        min,
        core_c: r.core_c,
        surface_c: r.surface_c,
        index: r.index,
        colour: colour_word(r.index),
        loss_pct: 100.0 * r.loss,
    };
    let mut curve: Vec<CurveRow> = course.rows.iter().take(rows).step_by(every).map(|r| row(r.t / 60.0 * clock, *r)).collect();
    let t = end_min / clock * 60.0;
    let last = Instant {
        t,
        core_c: course.at(|r| r.core_c, t),
        surface_c: course.at(|r| r.surface_c, t),
        index: course.at(|r| r.index, t),
        loss: course.at(|r| r.loss, t),
        ungelatinised: course.at(|r| r.ungelatinised, t),
    };
    curve.push(row(end_min, last));
    curve
}

/// What other settings would do: every 10 °C from 20 below to 40 above, inside 100 to 300.
#[must_use]
pub fn compare(bake: &Bake, around_c: f64, k: &Constants) -> Vec<SettingRow> {
    at_settings(bake, (-2..=4).map(|i| around_c + 10.0 * f64::from(i)), k)
}

/// What these settings would do, those of them from 100 to 300 °C.
pub fn at_settings(bake: &Bake, settings: impl Iterator<Item = f64>, k: &Constants) -> Vec<SettingRow> {
    let oven = Oven::new(bake, k);
    let offset = bake.oven_offset_c.unwrap_or(0.0);
    settings
        .filter(|c| (100.0..=300.0).contains(c))
        .map(|set_c| {
            let out = oven.at_setting(set_c + offset, 0.0);
            let spread = oven.relative_spread(set_c + offset);
            let minutes = out.minutes.map(|m| m * oven.clock);
            let index = out.minutes.map_or(0.0, |m| Oven::index_at(&out.course, m));
            SettingRow {
                set_c,
                minutes_low: minutes.map(|m| m * (-spread).exp()),
                minutes_high: minutes.map(|m| m * spread.exp()),
                core_done_min: out.core_done.map(|m| m * oven.clock),
                colour_min: out.colour_at.map(|m| m * oven.clock),
                colour: colour_word(index),
                status: out.status,
            }
        })
        .collect()
}

impl Advice {
    /// Minutes the oven is lit before loading, in steps of five; none where two hours do not do.
    #[must_use]
    pub fn heats_min(&self) -> Option<f64> {
        self.preheat_lead_min.map(|m| 5.0 * (m / 5.0).ceil())
    }

    /// Minutes until it leaves the oven: baked, and dried where that is told.
    #[must_use]
    pub fn out_min(&self) -> Option<f64> {
        self.minutes.map(|m| m + self.drying.map_or(0.0, |d| d.minutes))
    }

    /// The range of those minutes.
    #[must_use]
    pub fn out_range(&self) -> Option<(f64, f64)> {
        let dries = self.drying.map_or(0.0, |d| d.minutes);
        self.minutes_low.zip(self.minutes_high).map(|(low, high)| (low + dries, high + dries))
    }

    /// What to do when, in order of time.
    #[must_use]
    pub fn events(&self) -> Vec<BakeEvent> {
        let mut events = Vec::new();
        let mut add = |kind: &'static str, at: Option<f64>| events.extend(at.map(|at_min| BakeEvent { kind, at_min, set_c: None }));
        add("preheat-from", self.heats_min().map(|m| -m));
        add("load", Some(0.0));
        add("steam-off", (self.steam_min > 0.0).then_some(self.steam_min));
        add("lid-off", self.lid_off_min);
        add("turn", self.turn_min);
        add("foil", self.foil_min);
        add("check", self.check_min);
        add("dry", self.minutes.filter(|_| self.drying.is_some()));
        add("done", self.out_min());
        add("slice-from", self.out_min().zip(self.slice_min).map(|(m, s)| m + s));
        let while_in = self.turns.iter().filter(|t| self.minutes.is_none_or(|m| t.after_min < m));
        events.extend(while_in.map(|t| BakeEvent { kind: "dial", at_min: t.after_min, set_c: Some(t.to_c) }));
        events.sort_by(|a, b| a.at_min.total_cmp(&b.at_min));
        events
    }

    /// The steps behind the answer.
    #[must_use]
    pub fn working(&self) -> Vec<Working> {
        let mut steps = vec![
            Working::given("boiling point here", self.boiling_c, "°C").from("Antoine equation, standard atmosphere"),
            Working::given("core target", self.core_target_c, "°C")
                .by(concat!("target of the kind of bread, less what the boiling point lies below ", celsius!(100)))
                .from("common practice, no source"),
            Working::given("way from crust to middle", 1000.0 * self.geometry.radius, "mm")
                .by("equivalent body of weight, shape and vessel"),
            Working::given("browning speed", self.browning, "×")
                .by("sugar, milk, egg, bran and glaze against plain flour")
                .from("fitted to the trade's bakes"),
            Working::given("oven falls on loading", self.drop_k, "K").from("estimate"),
        ];
        if let (Some(core), Some(done)) = (self.core_at_min, self.core_done_min) {
            steps.push(Working::given("core at its target", core, "min").by("heat into the piece"));
            steps.push(
                Working::given("core done", done, "min")
                    .by("hold + what bakers wait beyond the target")
                    .from("fitted to the trade's bakes"),
            );
        }
        if let Some(colour) = self.colour_min {
            steps.push(
                Working::given(format!("crust {}", self.colour.word()), colour, "min").by("browning from surface temperature and dryness"),
            );
        }
        if let (Some(low), Some(high)) = (self.minutes_low, self.minutes_high) {
            steps.push(Working::given("range, from", low, "min").by(concat!(
                "80 % of bakes; model 14 %, oven ±",
                kelvins!(12),
                " unless measured"
            )));
            steps.push(Working::given("range, to", high, "min"));
        }
        steps
    }
}
