//! A bake's course through the oven at a setting: everything about it that does not depend on the setting, what one run gives,
//! and the setting to recommend.

use serde::Serialize;

use super::{
    Bake, BakeClass, Colour, Constants, Crust, Geometry, Glaze, Kind, Shape, USUAL_DOUGH_C, Vessel, boiling_c,
    solver::{Goal, OvenRun, Setup, run},
    stages::{DialTurn, FALLS_AFTER_MIN, Fall},
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
    pub(super) k: &'a Constants,
    pub(super) bake: &'a Bake,
    pub(super) geometry: Geometry,
    pub(super) class: BakeClass,
    pub(super) colour: Colour,
    pub(super) crust: Crust,
    pub(super) clock: f64,
    pub(super) boiling_c: f64,
    pub(super) core_target_c: f64,
    pub(super) browning: f64,
    pub(super) steam_min: f64,
    pub(super) drop_k: f64,
    pub(super) falling: bool,
}

/// What a run at a setting gave, in solver minutes.
pub(super) struct Outcome {
    pub(super) course: OvenRun,
    pub(super) status: Status,
    pub(super) minutes: Option<f64>,
    pub(super) core_at: Option<f64>,
    pub(super) core_done: Option<f64>,
    pub(super) colour_at: Option<f64>,
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

    /// The dial turned while it bakes at this setting: a big rye's own fall, else what was told.
    pub(super) fn turns(&self, set_c: f64) -> impl Iterator<Item = DialTurn> {
        let own = self.falling.then_some(DialTurn { after_min: FALLS_AFTER_MIN, to_c: set_c - self.k.numbers.fall_delta });
        own.into_iter().chain(self.bake.turns.iter().copied())
    }

    pub(super) fn setup(&self, true_c: f64, shift_k: f64, foil_at_s: f64) -> Setup {
        let (n, b, g) = (&self.k.numbers, self.bake, &self.geometry);
        let vessel = self.k.vessel(b.vessel);
        let (cover_heat, cover_brown) = if b.lid { (n.lid_heat, 1.0) } else { (vessel.f_cover, vessel.b_cover) };
        let open_later = b.vessel.covers();
        let off = b.oven_offset_c.unwrap_or(0.0) + shift_k;
        let falls = self.turns(true_c - off).map(|t| Fall { at: t.after_min / self.clock * 60.0, to_c: t.to_c + off });
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
            falls: Fall::these(falls),
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

    pub(super) fn index_at(course: &OvenRun, minutes: f64) -> f64 {
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

    pub(super) fn recommend(&self) -> (f64, Meets) {
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
    pub(super) fn relative_spread(&self, true_c: f64) -> f64 {
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
    pub(super) fn slice_min(&self) -> Option<f64> {
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
    let turns = oven.turns(set_c).collect();
    Bake { set_c: Some(set_c), turns, ..bake.clone() }
}
