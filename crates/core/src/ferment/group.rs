//! Yeast or bacteria of a dough through a step: how old it gets, how much of it there is.

use super::{Numbers, Population, Rate};

/// One population with what it has lived through.
#[derive(Debug, Clone, Copy)]
pub(super) struct Group {
    pub(super) rate: Rate,
    pub(super) gamma: f64,
    pub(super) theta: f64,
    lag_h: f64,
    factor: f64,
    growth: f64,
    cap: f64,
    /// 1 / cap.
    per_cap: f64,
    pub(super) amount: f64,
    /// Dough time after the start-up lag.
    active: f64,
}

impl Group {
    #[expect(clippy::too_many_arguments, reason = "one number each of the published equation, named at the call by its field")]
    pub(super) fn new(
        population: Population,
        n: &Numbers,
        celsius: f64,
        lag_h: f64,
        factor: f64,
        growth: f64,
        cap: f64,
        amount: f64,
    ) -> Self {
        let rate = Rate::of(population, n);
        Self { rate, gamma: rate.at(celsius), theta: 0.0, lag_h, factor, growth, cap, per_cap: 1.0 / cap, amount, active: 0.0 }
    }

    fn active(&self, theta: f64) -> f64 {
        if self.lag_h <= 0.0 {
            theta
        } else if theta > 33.0 * self.lag_h {
            theta - self.lag_h
        } else {
            theta - self.lag_h * (1.0 - (-theta / self.lag_h).exp())
        }
    }

    /// Ages by one step; gives the integral of the amount over growth (∫Y F μ dA).
    pub(super) fn step(&mut self, hours: f64, middle_c: f64, end_c: f64) -> f64 {
        // A dough that has come to its place's temperature works at one speed.
        let settled = middle_c == end_c;
        let gamma_end = if settled { self.gamma } else { self.rate.at(end_c) };
        let middle = if settled { self.gamma } else { self.rate.at(middle_c) };
        let next = self.theta + hours * (1.0 / 6.0) * (self.gamma + 4.0 * middle + gamma_end);
        let active = self.active(next);
        let x = self.growth * self.factor * (active - self.active);
        self.active = active;
        self.theta = next;
        self.gamma = gamma_end;
        if self.amount >= self.cap || x == 0.0 {
            return self.amount * x;
        }
        let e = grown(x);
        let share = self.amount * self.per_cap * e;
        let integral = self.cap * ln_1p(share);
        self.amount *= (1.0 + e) / (1.0 + share);
        integral
    }
}

/// eˣ − 1: by its series where a step is short, which it mostly is (error below 1e-13).
fn grown(x: f64) -> f64 {
    if x.abs() < 0.06 {
        // Reciprocals as constants: a division takes as long as four steps of the series.
        const R: [f64; 4] = [1.0 / 6.0, 1.0 / 120.0, 1.0 / 720.0, 1.0 / 5040.0];
        let q = x * x;
        x + q * (0.5 + x * R[0] + q * (1.0 / 24.0 + x * R[1] + q * (R[2] + x * R[3])))
    } else {
        x.exp_m1()
    }
}

/// ln(1 + z) as 2·artanh(z/(2+z)), for a short step (error below 1e-13).
fn ln_1p(z: f64) -> f64 {
    if z.abs() < 0.1 {
        let t = z / (2.0 + z);
        let q = t * t;
        2.0 * t * (1.0 + q * (1.0 / 3.0 + q * (0.2 + q * (1.0 / 7.0 + q * (1.0 / 9.0)))))
    } else {
        z.ln_1p()
    }
}
