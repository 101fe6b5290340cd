//! Heat into the piece: evaporation front, crust browning, gelatinisation; the solver of
//! `docs/science.md`, section "The oven".
//!
//! Forms: Zanoni, Peri, Bruno 1993 and 1995; Purlis and Salvadori 2009, all from memory.
#![allow(clippy::indexing_slicing, reason = "arrays of MOST cells; every loop is bounded by `cells`, at most MOST")]

use super::stages::{Fall, MOST_TURNS};

const MOST: usize = 32;
/// Stefan–Boltzmann constant, W/(m² K⁴).
const SIGMA: f64 = 5.670_374_419e-8;
const KELVIN: f64 = 273.15;

/// Everything one run needs. SI units, temperatures in °C, times in seconds unless named otherwise.
#[derive(Debug, Clone, Copy)]
pub struct Setup {
    /// N, cells from the middle to the surface.
    pub cells: usize,
    /// p: the cells grow finer towards the surface, –.
    pub grade: f64,
    /// R, from the middle to the surface, m.
    pub radius: f64,
    /// m: 0 a slab, 1 a cylinder, 2 a ball, –.
    pub roundness: f64,
    /// Δt, s.
    pub dt: f64,
    /// When the run ends at the latest, s.
    pub end: f64,
    /// Dough at the load, °C.
    pub start_c: f64,
    /// T_b, where water boils at this altitude, °C.
    pub boiling_c: f64,
    /// ρ of the dough, kg/m³.
    pub density: f64,
    /// w, its water, kg/kg.
    pub water: f64,
    /// λ, heat of evaporation, J/kg.
    pub lambda: f64,
    /// c_w, J/(kg K).
    pub c_water: f64,
    /// c_s, J/(kg K).
    pub c_solid: f64,
    /// X_res, water that does not leave, kg/kg of solids.
    pub x_res: f64,
    /// φ, share of the water that leaves in the first stage, –.
    pub phi: f64,
    /// δ₁, breadth of the first stage of drying, K.
    pub d1: f64,
    /// δ₂, of the second, K.
    pub d2: f64,
    /// k of cold dough, W/(m K).
    pub k_cold: f64,
    /// k of crumb near boiling, W/(m K).
    pub k_hot: f64,
    /// k of the crust, W/(m K).
    pub k_dry: f64,
    /// ΔT_k, over which k rises before boiling, K.
    pub d_tk: f64,
    /// h of the moving air, W/(m² K).
    pub h_conv: f64,
    /// ε, emissivity, –.
    pub eps: f64,
    /// The true oven, °C.
    pub air_c: f64,
    /// ΔT, by which the cold load cools the oven, K.
    pub drop: f64,
    /// τ of its way back, s.
    pub drop_tau: f64,
    /// When the setting falls or rises, and to what, in order.
    pub falls: [Fall; MOST_TURNS],
    /// τ of a fall, s.
    pub fall_tau: f64,
    /// Share of the heat that passes lid or cover, –.
    pub cover_heat: f64,
    /// Share of the browning under it, –.
    pub cover_brown: f64,
    /// When it comes off, s.
    pub cover_until: f64,
    /// Or at which core, °C.
    pub cover_core_c: f64,
    /// How long there is steam, s.
    pub steam_until: f64,
    /// h of condensing steam, W/(m² K).
    pub h_steam: f64,
    /// How far under boiling its dew point lies, K.
    pub dew_below: f64,
    /// When foil is laid on, s.
    pub foil_at: f64,
    /// Share of the heat that passes it, –.
    pub foil_heat: f64,
    /// Share of the browning under it, –.
    pub foil_brown: f64,
    /// g, how fast this dough browns against a lean one, –.
    pub browning: f64,
    /// k₀ₐ of browning, 1/min.
    pub k0a: f64,
    /// k₀ᵦ of browning, over the water activity, 1/min.
    pub k0b: f64,
    /// A_a of browning, K.
    pub aa: f64,
    /// A_b of browning, over the water activity, K.
    pub ab: f64,
    /// B, of the water activity at the surface, K.
    pub b: f64,
    /// k₀ of gelatinisation, 1/s.
    pub gel_k0: f64,
    /// E/R of gelatinisation, K.
    pub gel_e: f64,
    /// When it may stop.
    pub goal: Goal,
}

impl Setup {
    /// The air so many seconds after loading, °C: it falls as the cold dough comes in, and to each further setting.
    pub(super) fn air_at(&self, now: f64) -> f64 {
        let loaded = self.drop * (-now / self.drop_tau).exp();
        // Most bakes have one setting: no more is reckoned for them.
        if now <= self.falls[0].at {
            return self.air_c - loaded;
        }
        let (mut from, mut to, mut since) = (self.air_c, self.air_c, 0.0);
        for fall in self.falls.iter().take_while(|f| now > f.at) {
            from = to + (from - to) * (-(fall.at - since) / self.fall_tau).exp();
            (to, since) = (fall.to_c, fall.at);
        }
        to + (from - to) * (-(now - since) / self.fall_tau).exp() - loaded
    }
}

/// When a run may stop.
#[derive(Debug, Clone, Copy)]
pub struct Goal {
    /// Core temperature of a done bread, °C.
    pub core_c: f64,
    /// Share of starch that may be left ungelatinised, –.
    pub ungelatinised: f64,
    /// How long the core is to stand there, min.
    pub hold_min: f64,
    /// How many times its minutes to the core a bread stays in beside the hold, –.
    pub finish: f64,
    /// Index of the wished crust, –.
    pub colour: f64,
    /// Most water lost, kg/kg of dough.
    pub loss: f64,
    /// No longer than so many times when it was done, –.
    pub late_cap: f64,
}

/// State at a step.
#[derive(Debug, Clone, Copy, PartialEq)]
#[allow(missing_docs, reason = "symbols of docs/science.md")]
pub struct Instant {
    pub t: f64,
    pub core_c: f64,
    pub surface_c: f64,
    pub index: f64,
    pub loss: f64,
    pub ungelatinised: f64,
}

/// A run: rows at every step, and its energy balance.
#[derive(Debug, Clone)]
pub struct OvenRun {
    /// Rows at every step.
    pub rows: Vec<Instant>,
    /// Heat through the surface, J/m².
    pub energy_in: f64,
    /// Rise of enthalpy, J/m².
    pub enthalpy_rise: f64,
    /// When the cover came off, if it did.
    pub cover_off: Option<f64>,
}

impl OvenRun {
    /// First time a quantity reaches a level, by straight lines between rows.
    #[must_use]
    pub fn first(&self, pick: impl Fn(&Instant) -> f64, level: f64) -> Option<f64> {
        let mut rows = self.rows.iter();
        let mut before = rows.next()?;
        if pick(before) >= level {
            return Some(before.t);
        }
        for row in rows {
            let (from, to) = (pick(before), pick(row));
            if to >= level {
                return Some(before.t + (row.t - before.t) * (level - from) / (to - from));
            }
            before = row;
        }
        None
    }

    /// Value at a time; the last row holds beyond the end.
    #[must_use]
    pub fn at(&self, pick: impl Fn(&Instant) -> f64, t: f64) -> f64 {
        let after = self.rows.partition_point(|r| r.t < t);
        match (after.checked_sub(1).and_then(|i| self.rows.get(i)), self.rows.get(after)) {
            (Some(a), Some(b)) => pick(a) + (pick(b) - pick(a)) * (t - a.t) / (b.t - a.t),
            (None, Some(row)) | (Some(row), None) => pick(row),
            (None, None) => f64::NAN,
        }
    }
}

/// Enthalpy of dough and crumb, piecewise linear in temperature.
struct Enthalpy {
    tb: f64,
    c0: f64,
    s1: f64,
    s2: f64,
    c3: f64,
    d1: f64,
    d2: f64,
}

impl Enthalpy {
    fn slope(&self, t: f64) -> f64 {
        if t < self.tb {
            self.c0
        } else if t < self.tb + self.d1 {
            self.s1
        } else if t < self.tb + self.d1 + self.d2 {
            self.s2
        } else {
            self.c3
        }
    }
    fn of(&self, t: f64) -> f64 {
        let x = t - self.tb;
        if x < 0.0 {
            self.c0 * x
        } else if x < self.d1 {
            self.s1 * x
        } else if x < self.d1 + self.d2 {
            self.s1 * self.d1 + self.s2 * (x - self.d1)
        } else {
            self.s1 * self.d1 + self.s2 * self.d2 + self.c3 * (x - self.d1 - self.d2)
        }
    }
    fn temperature(&self, h: f64) -> f64 {
        let (h1, h2) = (self.s1 * self.d1, self.s1 * self.d1 + self.s2 * self.d2);
        self.tb
            + if h < 0.0 {
                h / self.c0
            } else if h < h1 {
                h / self.s1
            } else if h < h2 {
                self.d1 + (h - h1) / self.s2
            } else {
                self.d1 + self.d2 + (h - h2) / self.c3
            }
    }
}

/// Runs the oven. About 200 µs for a full horizon; allocates only the rows.
#[must_use]
pub fn run(s: &Setup) -> OvenRun {
    run_watched(s, |_, _| {})
}

/// The ways from the middle to the centre of each cell, as shares of the whole way to the surface.
pub(super) fn cell_centres(s: &Setup) -> Vec<f64> {
    #[allow(clippy::cast_precision_loss, reason = "at most 32")]
    let face = |j: usize| 1.0 - (1.0 - j as f64 / s.cells as f64).powf(s.grade);
    (0..s.cells.min(MOST)).map(|j| f64::midpoint(face(j), face(j + 1))).collect()
}

/// The same, and after each step what it has come to is shown, with the temperature of every cell from the middle out.
#[allow(clippy::too_many_lines, reason = "one step of the solver after the other, on arrays that stay where they are")]
pub(super) fn run_watched(s: &Setup, mut watch: impl FnMut(&Instant, &[f64])) -> OvenRun {
    let n = s.cells.min(MOST);
    let tb = s.boiling_c;
    let w_ev = (s.water - s.x_res * (1.0 - s.water)).max(0.0);
    let c0 = s.density * (s.c_water * s.water + s.c_solid * (1.0 - s.water));
    let c3 = s.density * (s.c_water * (s.water - w_ev) + s.c_solid * (1.0 - s.water));
    let curve = Enthalpy {
        tb,
        c0,
        c3,
        d1: s.d1,
        d2: s.d2,
        s1: f64::midpoint(c0, c3) + s.density * s.lambda * w_ev * s.phi / s.d1,
        s2: c3 + s.density * s.lambda * w_ev * (1.0 - s.phi) / s.d2,
    };
    let conductivity = |t: f64| {
        if t <= tb - s.d_tk {
            s.k_cold
        } else if t <= tb {
            s.k_cold + (s.k_hot - s.k_cold) * (t - tb + s.d_tk) / s.d_tk
        } else if t < tb + s.d1 {
            s.k_hot + (s.k_dry - s.k_hot) * (t - tb) / s.d1
        } else {
            s.k_dry
        }
    };
    let evaporated = |t: f64| {
        let x = t - tb;
        if x <= 0.0 {
            0.0
        } else if x < s.d1 {
            s.phi * x / s.d1
        } else {
            (s.phi + (1.0 - s.phi) * (x - s.d1) / s.d2).min(1.0)
        }
    };
    let (mut face, mut centre, mut area, mut volume) = ([0.0; MOST + 1], [0.0; MOST], [0.0; MOST + 1], [0.0; MOST]);
    #[allow(clippy::cast_precision_loss, reason = "at most 32")]
    for j in 0..=n {
        face[j] = s.radius * (1.0 - (1.0 - j as f64 / n as f64).powf(s.grade));
        area[j] = if j == 0 { 0.0 } else { (face[j] / s.radius).powf(s.roundness) };
    }
    for j in 0..n {
        centre[j] = f64::midpoint(face[j], face[j + 1]);
        let m1 = s.roundness + 1.0;
        volume[j] = s.radius / m1 * ((face[j + 1] / s.radius).powf(m1) - (face[j] / s.radius).powf(m1));
    }
    let whole: f64 = volume[..n].iter().sum();
    #[allow(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "a few hundred steps")]
    let steps = (s.end / s.dt - 1e-9).ceil() as usize;
    let mut t = [s.start_c; MOST];
    let mut h = [curve.of(s.start_c); MOST];
    let h_start = h[0];
    let mut surface = s.start_c;
    let (mut index, mut raw) = (0.0, 1.0);
    let mut rows = Vec::with_capacity(steps + 1);
    rows.push(Instant { t: 0.0, core_c: s.start_c, surface_c: s.start_c, index, loss: 0.0, ungelatinised: raw });
    let mut energy_in = 0.0;
    let mut covered = s.cover_until > 0.0 && (s.cover_heat, s.cover_brown) != (1.0, 1.0);
    let mut cover_off = None;
    let mut t_done = f64::INFINITY;
    for step in 0..steps {
        #[allow(clippy::cast_precision_loss, reason = "a few hundred steps")]
        let (from, now) = (step as f64 * s.dt, (step + 1) as f64 * s.dt);
        let air = s.air_at(now);
        if covered && (from >= s.cover_until || t[0] >= s.cover_core_c) {
            covered = false;
            cover_off = Some(from);
        }
        let foiled = from >= s.foil_at;
        let heat = if covered { s.cover_heat } else { 1.0 } * if foiled { s.foil_heat } else { 1.0 };
        let brown = if covered { s.cover_brown } else { 1.0 } * if foiled { s.foil_brown } else { 1.0 };
        let (ak, sk) = (air + KELVIN, surface + KELVIN);
        let plain = heat * (s.h_conv + s.eps * SIGMA * (ak * ak + sk * sk) * (ak + sk));
        let (he, tq) = if from < s.steam_until && surface < tb - s.dew_below {
            (plain + s.h_steam, (plain * air + s.h_steam * (tb - s.dew_below)) / (plain + s.h_steam))
        } else {
            (plain, air)
        };
        let mut k = [0.0; MOST];
        let mut c = [0.0; MOST];
        for j in 0..n {
            k[j] = conductivity(t[j]);
            c[j] = curve.slope(t[j]);
        }
        let mut g = [0.0; MOST + 1];
        for j in 1..n {
            g[j] = area[j] / ((face[j] - centre[j - 1]) / k[j - 1] + (centre[j] - face[j]) / k[j]);
        }
        g[n] = 1.0 / (1.0 / he + (s.radius - centre[n - 1]) / k[n - 1]);
        let mut next = solve(n, &c, &volume, s.dt, &g, &t, tq);
        for j in 0..n {
            if (next[j] - t[j]).abs() > 1e-4 {
                c[j] = (curve.of(next[j]) - h[j]) / (next[j] - t[j]);
            }
        }
        next = solve(n, &c, &volume, s.dt, &g, &t, tq);
        let q = g[n] * (tq - next[n - 1]);
        energy_in += q * s.dt;
        for j in 0..n {
            let inner = if j == 0 { 0.0 } else { g[j] * (next[j] - next[j - 1]) };
            let outer = if j + 1 == n { q } else { g[j + 1] * (next[j + 1] - next[j]) };
            h[j] += s.dt * (outer - inner) / volume[j];
            t[j] = curve.temperature(h[j]);
        }
        surface = tq - q / he;
        let ts = surface + KELVIN;
        let aw = (s.b * (1.0 / ts - 1.0 / (tb + KELVIN))).exp().min(0.95);
        index += s.dt / 60.0 * s.browning * brown * (s.k0a + s.k0b / aw) * (-(s.aa + s.ab / aw) / ts).exp();
        raw *= (-s.dt * s.gel_k0 * (-s.gel_e / (t[0] + KELVIN)).exp()).exp();
        let loss = w_ev * (0..n).map(|j| volume[j] * evaporated(t[j])).sum::<f64>() / whole;
        let instant = Instant { t: now, core_c: t[0], surface_c: surface, index, loss, ungelatinised: raw };
        watch(&instant, &t[..n]);
        rows.push(instant);
        if t_done.is_infinite() && t[0] >= s.goal.core_c && raw <= s.goal.ungelatinised {
            t_done = 60.0 * s.goal.hold_min + s.goal.finish * now;
        }
        if now >= t_done && (index >= s.goal.colour || loss >= s.goal.loss || now >= s.goal.late_cap * t_done) {
            break;
        }
    }
    let enthalpy_rise = (0..n).map(|j| volume[j] * (h[j] - h_start)).sum();
    OvenRun { rows, energy_in, enthalpy_rise, cover_off }
}

/// The tridiagonal system of one implicit step.
fn solve(n: usize, c: &[f64; MOST], v: &[f64; MOST], dt: f64, g: &[f64; MOST + 1], t: &[f64; MOST], tq: f64) -> [f64; MOST] {
    let (mut upper, mut right) = ([0.0; MOST], [0.0; MOST]);
    for j in 0..n {
        let store = c[j] * v[j] / dt;
        let mut diagonal = store + g[j] + g[j + 1];
        let mut rhs = store * t[j];
        if j + 1 == n {
            rhs += g[n] * tq;
        }
        if j > 0 {
            diagonal -= g[j] * upper[j - 1];
            rhs += g[j] * right[j - 1];
        }
        upper[j] = g[j + 1] / diagonal;
        right[j] = rhs / diagonal;
    }
    let mut next = [0.0; MOST];
    next[n - 1] = right[n - 1];
    for j in (0..n - 1).rev() {
        next[j] = right[j] + upper[j] * next[j + 1];
    }
    next
}
