//! A dough while it is mixed, kneaded and rested: how far its gluten is, and how warm it is.
//!
//! Development is a share of this flour's own best: 0 freshly wetted, 1 a full thin window. Work and time add up.

use super::{Constants, MethodRow, Work, friction_k_per_min, tau_min};

/// Less than this left of a goal or a phase is nothing.
const NOTHING: f64 = 1e-12;
const NO_TIME_MIN: f64 = 1e-9;

/// The dough of one batch.
#[derive(Debug, Clone)]
pub struct State<'w> {
    w: &'w Work<'w>,
    /// Grams of a batch.
    pub grams: f64,
    /// Time constant against the room, minutes.
    tau_min: f64,
    /// Since water met flour, minutes.
    t_min: f64,
    /// Temperature without friction, and what friction has added.
    pub base_c: f64,
    pub friction_k: f64,
    /// Development by work, and by rest.
    pub by_work: f64,
    pub by_rest: f64,
    /// In the dough by now, percent of the flour.
    pub salt: f64,
    pub fat_early: f64,
    pub fat_late: f64,
    /// How much of the work takes hold.
    pub grip: f64,
    /// Where it was on the way, where that is asked for.
    pub trace: Option<Vec<Moment>>,
}

/// A dough at a moment of its work.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Moment {
    /// Since water met flour, minutes.
    pub min: f64,
    /// Development by work, and by rest.
    pub by_work: f64,
    /// By rest.
    pub by_rest: f64,
    /// °C.
    pub celsius: f64,
    /// Of these, by friction.
    pub friction_k: f64,
}

/// A phase: worked by a method, or at rest.
#[derive(Debug, Clone, Copy)]
pub enum Phase<'w> {
    /// Worked; whether the learned friction is this method's own.
    Worked(&'w MethodRow, bool),
    /// At rest.
    Rest,
}

impl<'w> State<'w> {
    /// Flour and water just met, of so many grams, at a base temperature the bowl takes its share of.
    pub fn begin(w: &'w Work<'w>, grams: f64, start_c: f64) -> Self {
        let mass = w.k.numbers.c_dough * grams / 1000.0;
        let base_c = (mass * start_c + w.row.bowl_kj_k * w.ask.room_c) / (mass + w.row.bowl_kj_k);
        Self {
            w,
            grams,
            tau_min: tau_min(grams, w.rise),
            t_min: 0.0,
            base_c,
            friction_k: 0.0,
            by_work: 0.0,
            by_rest: 0.0,
            salt: 0.0,
            fat_early: 0.0,
            fat_late: 0.0,
            grip: 1.0,
            trace: None,
        }
    }

    /// Where it is now.
    pub const fn moment(&self) -> Moment {
        Moment {
            min: self.t_min,
            by_work: self.by_work,
            by_rest: self.by_rest,
            celsius: self.base_c + self.friction_k,
            friction_k: self.friction_k,
        }
    }

    /// Development.
    pub fn gluten(&self) -> f64 {
        self.by_work + self.by_rest
    }

    /// °C.
    pub fn celsius(&self) -> f64 {
        self.base_c + self.friction_k
    }

    const fn k(&self) -> &'w Constants {
        self.w.k
    }

    /// Friction of a phase, K per minute.
    fn rub(&self, phase: Phase<'_>) -> f64 {
        match phase {
            Phase::Rest => 0.0,
            Phase::Worked(row, own) => {
                let learned = if own { self.w.ask.friction_k_per_min } else { None };
                friction_k_per_min(&row.friction, self.grams, learned, self.w.rise)
            }
        }
    }

    /// Time constant against the room in a phase, minutes.
    fn tau_of(&self, phase: Phase<'_>) -> f64 {
        match phase {
            Phase::Rest => self.tau_min,
            Phase::Worked(..) => self.tau_min * self.w.row.tau_x,
        }
    }

    const fn step_min(&self, phase: Phase<'_>) -> f64 {
        match phase {
            Phase::Rest => self.w.k.numbers.step_rest_min,
            Phase::Worked(..) => self.w.k.numbers.step_mix_min,
        }
    }

    /// What a full step of a phase adds by work and by rest; everything at its middle.
    fn gains(&self, phase: Phase<'_>, rub: f64) -> (f64, f64) {
        let (n, ask) = (&self.k().numbers, &self.w.ask);
        let h = self.step_min(phase);
        let near = |tau: f64, h: f64| (-h / tau).exp();
        let cooled = ask.room_c + (self.base_c - ask.room_c) * near(self.tau_of(phase), h / 2.0);
        let middle_c = match phase {
            Phase::Rest => cooled + self.friction_k * near(self.tau_min, h / 2.0),
            Phase::Worked(..) => cooled + self.friction_k + rub * h / 2.0,
        };
        let warmth = (1.0 + n.temp_slope * (middle_c - n.temp_ref_c)).clamp(n.temp_floor, n.temp_ceil);
        let work = match phase {
            Phase::Rest => 0.0,
            Phase::Worked(row, _) => {
                let drinks = near(n.wet_tau_min * (1.0 + ask.wholegrain_pct / 100.0), self.t_min + h / 2.0);
                let wet = n.wet_floor + (1.0 - n.wet_floor) * (1.0 - drinks);
                h * row.k * self.grip * ask.speed_factor * wetness(row, ask.h_adj) * self.dough_factor() * wet * warmth
            }
        };
        let salted = if self.salt > n.salt_never_pct { n.rest_salt } else { 1.0 };
        let rests = (1.0 - n.rest_rye * ask.rye_pct / 100.0) / (1.0 + n.fat_slow_early * self.fat_early) * salted;
        let part = |most: f64, tau: f64| most * near(tau, self.t_min) * (1.0 - near(tau, h));
        let rest = rests * warmth * (part(n.rest_fast, n.rest_fast_tau_min) + part(n.rest_slow, n.rest_slow_tau_min));
        (work, rest)
    }

    /// How readily this dough develops by work, against white flour of 12 % protein with 2 % of salt.
    fn dough_factor(&self) -> f64 {
        let (n, ask) = (&self.k().numbers, &self.w.ask);
        let coated = (1.0 + n.fat_slow_early * self.fat_early) * (1.0 + n.fat_slow_late * self.fat_late);
        let salted = (1.0 + n.salt_slow * n.salt_ref) / (1.0 + n.salt_slow * self.salt);
        (n.protein_ref / ask.protein).powf(n.protein_exp) * self.w.bran_factor() / (coated * (1.0 + n.sugar_slow * ask.sugar_pct)) * salted
    }

    /// Goes on by so many minutes of a step, whose gains are taken in proportion.
    fn advance(&mut self, phase: Phase<'_>, minutes: f64, rub: f64) {
        let (work, rest) = self.gains(phase, rub);
        let share = minutes / self.step_min(phase);
        self.by_work += work * share;
        self.by_rest += rest * share;
        let room = self.w.ask.room_c;
        self.base_c = room + (self.base_c - room) * (-minutes / self.tau_of(phase)).exp();
        match phase {
            Phase::Rest => self.friction_k *= (-minutes / self.tau_min).exp(),
            Phase::Worked(..) => self.friction_k += rub * minutes,
        }
        self.t_min += minutes;
        let here = self.moment();
        if let Some(trace) = &mut self.trace {
            trace.push(here);
        }
    }

    /// A phase of so many minutes.
    pub fn run(&mut self, phase: Phase<'_>, minutes: f64) {
        let (h, rub) = (self.step_min(phase), self.rub(phase));
        let full = (minutes / h + NO_TIME_MIN).floor();
        let mut done = 0.0;
        while done < full {
            self.advance(phase, h, rub);
            done += 1.0;
        }
        let rest = minutes - full * h;
        if rest > NO_TIME_MIN {
            self.advance(phase, rest, rub);
        }
    }

    /// Worked until a goal is reached, at most so many minutes; the minutes it took.
    pub fn run_to(&mut self, phase: Phase<'_>, goal: f64, most_min: f64) -> f64 {
        let (h, rub) = (self.step_min(phase), self.rub(phase));
        let mut full = 0.0;
        loop {
            let gap = goal - self.gluten();
            if gap <= NOTHING || full * h >= most_min - NO_TIME_MIN {
                return full * h;
            }
            let (work, rest) = self.gains(phase, rub);
            if work + rest >= gap {
                let minutes = (gap / (work + rest) * h).min(most_min - full * h);
                self.advance(phase, minutes, rub);
                return full * h + minutes;
            }
            self.advance(phase, h, rub);
            full += 1.0;
        }
    }
}

/// Too wet or too stiff for a way of kneading: it takes hold less. 1 at its best.
#[must_use]
pub fn wetness(row: &MethodRow, h_adj: f64) -> f64 {
    1.0 / (1.0 + ((h_adj - row.h_best) / row.h_width).powi(2))
}
