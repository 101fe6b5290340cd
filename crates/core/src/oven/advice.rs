//! From curves to advice: the clock, the setting to recommend, minutes with range, what to do when.

use crate::measure::{Working, celsius, kelvins};
use serde::Serialize;

use super::{
    Bake, BakeClass, Colour, Constants, Crust, Geometry, Glaze, Kind, Shape, USUAL_DOUGH_C, Vessel, boiling_c, colour_word,
    preheat::{heavy_body, preheat_lead_min},
    solver::{Goal, Instant, OvenRun, Setup, run},
    stages::{DialTurn, Drying, FALLS_AFTER_MIN, Fall},
};

/// Never, as a time in seconds.
const NEVER: f64 = 1e12;

/// How core and crust meet over settings.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "kebab-case")]
#[allow(missing_docs, reason = "the names say it")]
pub enum Meets {
    Crosses,
    ColourAheadAtCoolest,
    ColourBehindAtHottest,
}

/// How core and crust meet at the setting used.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "kebab-case")]
#[allow(missing_docs, reason = "the names say it")]
pub enum Status {
    Together,
    CoreFirst,
    ColourFirst,
    StaysPale,
    NotDone,
}

/// Something to do, in minutes from loading.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
pub struct BakeEvent {
    /// `preheat-from`, `load`, `steam-off`, `lid-off`, `dial`, `turn`, `foil`, `check`, `dry`, `done`, `slice-from`.
    pub kind: &'static str,
    /// Minutes from loading.
    pub at_min: f64,
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

/// Baker's minutes per solver minute: habit and missing physics, fitted; not to be quoted as physics.
#[must_use]
pub fn clock(bake: &Bake, g: &Geometry, k: &Constants) -> f64 {
    let n = &k.numbers;
    let kind = match g.kind {
        Kind::Bar => k.clock_term("bar"),
        Kind::Cup => k.clock_term("cup"),
        Kind::Batch => k.clock_term("batch"),
        Kind::Box => k.clock_term("box"),
        Kind::Dome | Kind::Disc => 0.0,
    };
    // Small pieces are through before heavy fruit can hold the heat back.
    let fruit = (bake.fruit_pct.min(65.0) - n.clock_fruit_min).max(0.0) / 50.0 * (bake.piece_g / n.clock_fruit_full_g).min(1.0);
    let ln = k.clock_term("base")
        + k.clock_term("R") * (g.radius.max(n.clock_r_min) / n.clock_r).ln()
        + k.clock_term("fruit") * fruit
        + kind
        + if bake.covered() { k.clock_term("cover") } else { 0.0 };
    ln.exp()
}

/// One bake with everything about it that does not depend on the setting.
pub(super) struct Oven<'a> {
    k: &'a Constants,
    bake: &'a Bake,
    pub(super) geometry: Geometry,
    class: BakeClass,
    colour: Colour,
    crust: Crust,
    pub(super) clock: f64,
    pub(super) boiling_c: f64,
    pub(super) core_target_c: f64,
    browning: f64,
    steam_min: f64,
    drop_k: f64,
    falling: bool,
}

/// What a run at a setting gave, in solver minutes.
pub(super) struct Outcome {
    course: OvenRun,
    status: Status,
    pub(super) minutes: Option<f64>,
    core_at: Option<f64>,
    core_done: Option<f64>,
    colour_at: Option<f64>,
    pub(super) foil_at: Option<f64>,
}

const fn pick<T: Copy>(crust: Crust, soft: T, crisp: T) -> T {
    match crust {
        Crust::Soft => soft,
        Crust::Crisp => crisp,
    }
}

impl<'a> Oven<'a> {
    pub(super) fn new(bake: &'a Bake, k: &'a Constants) -> Self {
        let n = &k.numbers;
        let geometry = Geometry::of(bake, k);
        let (class, crust) = (bake.class(), bake.crust());
        let boiling = boiling_c(bake.altitude_m);
        let core = k.class(class).core_c;
        let core = if bake.shape == Shape::Flat { core.min(n.flat_core_c) } else { core };
        let open_crisp = crust == Crust::Crisp
            && !bake.covered()
            && matches!(Kind::of(&Bake { touching: false, ..bake.clone() }), Kind::Dome | Kind::Bar);
        let steam_min = bake.steam_min.unwrap_or(if open_crisp { (n.steam_per_m * geometry.radius).clamp(5.0, 15.0) } else { 0.0 });
        let load = f64::from(bake.pieces) * bake.piece_g / 1000.0;
        let sugar = bake.sugar_pct;
        let browning = n.g_lean
            * (1.0
                + n.g_sugar * sugar / (1.0 + sugar / n.g_sugar_half)
                + n.g_milk * bake.milk_pct.min(60.0) / 60.0
                + n.g_egg * bake.egg_pct.min(40.0) / 40.0
                + n.g_bran * (bake.wholegrain_pct + bake.rye_pct) / 100.0)
            * k.glazes.get(bake.glaze.word()).copied().unwrap_or(1.0);
        let hearth =
            matches!(bake.vessel, Vessel::Sheet | Vessel::Stone | Vessel::Steel) && matches!(geometry.kind, Kind::Dome | Kind::Bar);
        Self {
            clock: clock(bake, &geometry, k),
            boiling_c: boiling,
            core_target_c: core - (100.0 - boiling),
            drop_k: n.drop_max.min(n.drop_0 + n.drop_kg * load + if steam_min > 0.0 { n.drop_steam } else { 0.0 }),
            falling: class == BakeClass::Rye && bake.piece_g >= n.falling_min_g && hearth && bake.set_c.is_none() && bake.turns.is_empty(),
            colour: bake.colour(),
            k,
            bake,
            geometry,
            class,
            crust,
            browning,
            steam_min,
        }
    }

    fn horizon_min(&self) -> f64 {
        (self.k.numbers.hor_per_m * self.geometry.radius).clamp(20.0, 240.0)
    }
    fn hold_min(&self) -> f64 {
        let n = &self.k.numbers;
        n.hold_min * (self.geometry.radius / n.hold_r).min(1.0)
    }
    fn finish(&self) -> f64 {
        self.k.class(self.class).finish + pick(self.crust, 0.0, self.k.numbers.finish_crisp)
    }
    fn late_cap(&self) -> f64 {
        pick(self.crust, self.k.numbers.late_cap_soft, self.k.numbers.late_cap_crisp)
    }
    fn late(&self) -> f64 {
        pick(self.crust, self.k.numbers.late_soft, self.k.numbers.late_crisp)
    }
    fn loss_max(&self) -> f64 {
        pick(self.crust, self.k.numbers.loss_max_soft, self.k.numbers.loss_max_crisp)
    }
    fn wished(&self) -> super::constants::ColourRow {
        self.k.colour(self.colour)
    }

    pub(super) fn setup(&self, true_c: f64, shift_k: f64, foil_at_s: f64) -> Setup {
        let (n, b, g) = (&self.k.numbers, self.bake, &self.geometry);
        let vessel = self.k.vessel(b.vessel);
        let (cover_heat, cover_brown) = if b.lid { (n.lid_heat, 1.0) } else { (vessel.f_cover, vessel.b_cover) };
        let open_later = b.vessel.covers();
        let off = b.oven_offset_c.unwrap_or(0.0) + shift_k;
        let seconds = |min: f64| min / self.clock * 60.0;
        let own = self.falling.then(|| Fall { at: seconds(FALLS_AFTER_MIN), to_c: true_c - n.fall_delta });
        let told = b.turns.iter().map(|t| Fall { at: seconds(t.after_min), to_c: t.to_c + off });
        let load = f64::from(b.pieces) * b.piece_g / 1000.0;
        #[allow(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "16")]
        let cells = n.cells as usize;
        Setup {
            cells,
            grade: n.grade,
            radius: g.radius,
            roundness: g.roundness,
            dt: n.dt_min.max(n.dt_per_m * g.radius),
            end: self.horizon_min() * 60.0,
            start_c: b.dough_c,
            boiling_c: self.boiling_c,
            density: g.density,
            water: g.water,
            lambda: n.lambda,
            c_water: n.c_water,
            c_solid: n.c_solid,
            x_res: n.x_res,
            phi: n.phi,
            d1: n.d1,
            d2: n.d2,
            k_cold: n.k_cold,
            k_hot: n.k_hot * self.k.class(self.class).k_factor,
            k_dry: n.k_dry,
            d_tk: n.d_tk,
            h_conv: if b.fan { n.h_fan } else { n.h_still },
            eps: n.eps,
            air_c: true_c,
            drop: self.drop_k,
            drop_tau: n.drop_tau * (1.0 + n.drop_tau_kg * load),
            falls: Fall::these(own.into_iter().chain(told)),
            fall_tau: n.fall_tau,
            cover_heat,
            cover_brown,
            cover_until: if open_later { b.lid_off_min.map_or(NEVER, |m| m / self.clock * 60.0) } else { NEVER },
            cover_core_c: if open_later && b.lid_off_min.is_none() { n.lid_off_core - (100.0 - self.boiling_c) } else { NEVER },
            steam_until: self.steam_min / self.clock * 60.0,
            h_steam: n.h_steam,
            dew_below: n.dew_below,
            foil_at: foil_at_s,
            foil_heat: 1.0 - g.top_share * (1.0 - n.foil_heat),
            foil_brown: n.foil_brown,
            browning: self.browning,
            k0a: n.k0a,
            k0b: n.k0b,
            aa: n.aa,
            ab: n.ab,
            b: n.b,
            gel_k0: n.gel_k0,
            gel_e: n.gel_e,
            goal: Goal {
                core_c: self.core_target_c,
                ungelatinised: n.ungel_max,
                hold_min: self.hold_min(),
                finish: self.finish(),
                colour: self.wished().index,
                loss: self.loss_max(),
                late_cap: self.late_cap(),
            },
        }
    }

    /// When the core has reached its target and stood there, and when bakers take it out, solver minutes.
    fn core_times(&self, course: &OvenRun) -> (Option<f64>, Option<f64>) {
        let hot = course.first(|r| r.core_c, self.core_target_c);
        let set = course.first(|r| -r.ungelatinised, -self.k.numbers.ungel_max);
        let core_at = hot.zip(set).map(|(a, b)| a.max(b) / 60.0);
        let done = core_at.map(|t| self.hold_min() + self.finish() * t);
        (core_at, done)
    }

    fn index_at(course: &OvenRun, minutes: f64) -> f64 {
        course.at(|r| r.index, minutes * 60.0)
    }

    /// The browning index after so many solver minutes in an oven off by `shift_k`, whatever the core does.
    pub(super) fn index_shifted(&self, true_c: f64, shift_k: f64, minutes: f64, foil_at: Option<f64>) -> f64 {
        let setup = self.setup(true_c + shift_k, shift_k, foil_at.map_or(NEVER, |m| 60.0 * m));
        let goal = Goal { core_c: f64::INFINITY, ..setup.goal };
        // Five minutes more than asked for, so that the end is inside the course.
        let course = run(&Setup { end: 60.0 * (minutes + 5.0), goal, ..setup });
        Self::index_at(&course, minutes)
    }

    /// When the core is done and when the crust has the wished colour at a true temperature, whichever comes first, in
    /// baker's minutes, without foil.
    pub(super) fn both_clocks(&self, true_c: f64) -> (Option<f64>, Option<f64>) {
        let setup = self.setup(true_c, 0.0, NEVER);
        // On until both are done, however dry it gets.
        let both = Goal { loss: f64::INFINITY, late_cap: f64::INFINITY, ..setup.goal };
        let course = run(&Setup { goal: both, ..setup });
        let done = self.core_times(&course).1.filter(|t| *t <= self.horizon_min());
        let colour = course.first(|r| r.index, self.wished().index).map(|s| s / 60.0);
        (done.map(|m| m * self.clock), colour.map(|m| m * self.clock))
    }

    /// Runs at a true temperature; `shift_k` is by how much the oven is taken to be off beyond that.
    pub(super) fn at_setting(&self, true_c: f64, shift_k: f64) -> Outcome {
        self.outcome(true_c, shift_k, !self.bake.covered())
    }

    /// Minutes and when the core is there at a true temperature, nothing laid over it; baker's minutes.
    pub(super) fn without_foil(&self, true_c: f64) -> (Option<f64>, Option<f64>) {
        let out = self.outcome(true_c, 0.0, false);
        (out.minutes.map(|m| m * self.clock), out.core_at.map(|m| m * self.clock))
    }

    fn outcome(&self, true_c: f64, shift_k: f64, foils: bool) -> Outcome {
        let true_c = true_c + shift_k;
        let course = run(&self.setup(true_c, shift_k, NEVER));
        let (core_at, core_done) = self.core_times(&course);
        let wished = self.wished();
        let colour_at = course.first(|r| r.index, wished.index).map(|s| s / 60.0);
        let Some(done) = core_done.filter(|t| *t <= self.horizon_min()) else {
            return Outcome { course, status: Status::NotDone, minutes: None, core_at, core_done, colour_at, foil_at: None };
        };
        let index = Self::index_at(&course, done);
        if index > wished.too_dark {
            let foil = foils.then(|| course.first(|r| r.index, self.k.numbers.foil_at * wished.index)).flatten();
            if let Some(foil_s) = foil {
                let foiled = run(&self.setup(true_c, shift_k, foil_s));
                let (core_at, core_done) = self.core_times(&foiled);
                let minutes = core_done.filter(|t| *t <= self.horizon_min());
                let status = if minutes.is_some() { Status::ColourFirst } else { Status::NotDone };
                return Outcome { course: foiled, status, minutes, core_at, core_done, colour_at, foil_at: Some(foil_s / 60.0) };
            }
            return Outcome { course, status: Status::ColourFirst, minutes: Some(done), core_at, core_done, colour_at, foil_at: None };
        }
        if index >= wished.index {
            return Outcome { course, status: Status::Together, minutes: Some(done), core_at, core_done, colour_at, foil_at: None };
        }
        let dry = course.first(|r| r.loss, self.loss_max()).map_or(f64::INFINITY, |s| s / 60.0);
        let latest = done.max(dry.min(self.late_cap() * done));
        let colour = colour_at.unwrap_or(f64::INFINITY);
        let minutes = colour.min(latest).min(self.horizon_min());
        let status = if colour > minutes {
            Status::StaysPale
        } else if minutes <= self.late() * done {
            Status::Together
        } else {
            Status::CoreFirst
        };
        Outcome { course, status, minutes: Some(minutes), core_at, core_done, colour_at, foil_at: None }
    }

    /// Browning at the end (`late` false) or as late as bakers would wait (`late` true), without foil.
    fn colour_at_true(&self, true_c: f64, late: bool) -> f64 {
        let course = run(&self.setup(true_c, 0.0, NEVER));
        let (_, done) = self.core_times(&course);
        done.map_or(-1e9, |d| Self::index_at(&course, (if late { self.late() * d } else { d }).min(self.horizon_min())))
    }

    fn recommend(&self) -> (f64, Meets) {
        let offset = self.bake.oven_offset_c.unwrap_or(0.0);
        let (lo, hi) = setting_limits(self.bake, self.k);
        let round5 = |x: f64| 5.0 * (x / 5.0 + 0.5).floor();
        let wished = self.wished();
        let usual = (round5(usual_setting(self.bake, self.k) - offset) + offset).clamp(lo, hi);
        let bisect = |mut a: f64, mut b: f64, level: f64, late: bool| {
            while b - a > 0.5 {
                let mid = f64::midpoint(a, b);
                if self.colour_at_true(mid, late) >= level { b = mid } else { a = mid }
            }
            (a, b)
        };
        if self.colour_at_true(usual, true) < wished.index {
            if self.colour_at_true(hi, true) < wished.index {
                return (round5(hi - offset), Meets::ColourBehindAtHottest);
            }
            let (_, b) = bisect(usual, hi, wished.index, true);
            return (5.0 * ((b - offset) / 5.0 - 1e-9).ceil(), Meets::Crosses);
        }
        if self.colour_at_true(usual, false) > wished.too_dark {
            if self.colour_at_true(lo, false) > wished.too_dark {
                return (round5(lo - offset), Meets::ColourAheadAtCoolest);
            }
            let (a, _) = bisect(lo, usual, wished.too_dark, false);
            return (5.0 * ((a - offset) / 5.0 + 1e-9).floor(), Meets::Crosses);
        }
        (round5(usual - offset), Meets::Crosses)
    }

    /// Share of doubt in the minutes: the model's and the oven's.
    fn relative_spread(&self, true_c: f64) -> f64 {
        let n = &self.k.numbers;
        let sg = if self.bake.oven_offset_c.is_some() { n.sigma_oven_measured } else { n.sigma_oven_unmeasured };
        let (cool, hot) = (self.at_setting(true_c, -sg).minutes, self.at_setting(true_c, sg).minutes);
        let s = cool.zip(hot).map_or(0.2, |(c, h)| 0.5 * (c / h).ln().abs());
        n.range_z * n.sigma_model.hypot(s)
    }

    /// How the core cools on a rack, from the moment it is out.
    pub(super) fn cooling(&self) -> OvenRun {
        let n = &self.k.numbers;
        let setup = self.setup(self.bake.room_c, 0.0, NEVER);
        let cooling = Setup {
            start_c: self.boiling_c - 2.0,
            air_c: self.bake.room_c,
            h_conv: n.h_cool,
            steam_until: 0.0,
            drop: 0.0,
            dt: 4.0 * setup.dt,
            end: 360.0 * 60.0,
            falls: Fall::these(std::iter::empty()),
            cover_heat: 1.0,
            cover_brown: 1.0,
            foil_at: NEVER,
            goal: Goal { core_c: NEVER, ungelatinised: -1.0, ..setup.goal },
            ..setup
        };
        run(&cooling)
    }

    /// Minutes of cooling until it may be cut.
    fn slice_min(&self) -> Option<f64> {
        let n = &self.k.numbers;
        let until = if self.geometry.radius < n.slice_small_r { n.slice_c_small } else { n.slice_c };
        let cool = self.cooling().first(|r| -r.core_c, -until).map(|s| s / 60.0);
        cool.map(|m| m.max(self.k.class(self.class).slice_min))
    }
}

/// Lowest and highest true temperature bakers use for this bread, °C. Common practice, no source.
#[must_use]
pub fn setting_limits(bake: &Bake, k: &Constants) -> (f64, f64) {
    let oven = Oven::new(bake, k);
    let row = k.limits.get(oven.class.word());
    let key = if oven.falling { "falling" } else { oven.crust.word() };
    let (lo, hi) = row.and_then(|r| r.get(key)).copied().unwrap_or((180.0, 230.0));
    let dip = if bake.glaze == Glaze::Soda { k.numbers.dip_limit } else { 0.0 };
    let fan = if bake.fan { 15.0 } else { 0.0 };
    (lo - fan, hi + dip - fan)
}

/// The setting bakers usually choose, °C: a ridge regression on practice, see `data/baking.json`.
#[must_use]
pub fn usual_setting(bake: &Bake, k: &Constants) -> f64 {
    let oven = Oven::new(bake, k);
    let term = |name: &str| k.usual_term(name);
    let when = |yes: bool, name: &str| if yes { term(name) } else { 0.0 };
    let sum = term("base")
        + term("ln_weight") * (bake.piece_g / 300.0).ln()
        + term("root_rich") * bake.rich().sqrt()
        + when(oven.crust == Crust::Crisp, "crisp")
        + when(matches!(oven.colour, Colour::Brown | Colour::Dark), "brown")
        + when(matches!(oven.geometry.kind, Kind::Box | Kind::Cup | Kind::Batch), "pan")
        + when(oven.geometry.kind == Kind::Disc, "disc")
        + when(bake.lid, "lid")
        + when(oven.class == BakeClass::Rye, "rye");
    (if oven.falling { term("falling") } else { sum }) - when(bake.fan, "fan")
}

/// The bake with its setting: the one insisted on, else the one to be recommended for a dough as warm as usual. A loaf from the
/// fridge bakes at the same setting, only longer.
#[must_use]
pub fn at_its_setting(bake: &Bake, k: &Constants) -> Bake {
    at_known_setting(bake, None, k)
}

/// The same where our setting was found before: it is not looked for again.
#[must_use]
pub fn at_known_setting(bake: &Bake, known_c: Option<f64>, k: &Constants) -> Bake {
    if bake.set_c.is_some() {
        return bake.clone();
    }
    let usual = Bake { dough_c: USUAL_DOUGH_C, ..bake.clone() };
    let oven = Oven::new(&usual, k);
    let set_c = known_c.unwrap_or_else(|| oven.recommend().0);
    let own = || oven.falling.then_some(DialTurn { after_min: FALLS_AFTER_MIN, to_c: set_c - k.numbers.fall_delta });
    let turns = if bake.turns.is_empty() { own().into_iter().collect() } else { bake.turns.clone() };
    Bake { set_c: Some(set_c), turns, ..bake.clone() }
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
    let own = oven.falling.then_some(DialTurn { after_min: FALLS_AFTER_MIN, to_c: set_c - n.fall_delta });
    let turns = own.into_iter().chain(bake.turns.iter().copied()).collect();
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
        turns,
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
        let mut add = |kind: &'static str, at: Option<f64>| events.extend(at.map(|at_min| BakeEvent { kind, at_min }));
        add("preheat-from", self.heats_min().map(|m| -m));
        add("load", Some(0.0));
        add("steam-off", (self.steam_min > 0.0).then_some(self.steam_min));
        add("lid-off", self.lid_off_min);
        for turn in self.turns.iter().filter(|t| self.minutes.is_none_or(|m| t.after_min < m)) {
            add("dial", Some(turn.after_min));
        }
        add("turn", self.turn_min);
        add("foil", self.foil_min);
        add("check", self.check_min);
        add("dry", self.minutes.filter(|_| self.drying.is_some()));
        add("done", self.out_min());
        add("slice-from", self.out_min().zip(self.slice_min).map(|(m, s)| m + s));
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
