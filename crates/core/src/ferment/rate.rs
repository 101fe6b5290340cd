//! How fast yeast and lactic bacteria work at a temperature, against 24 °C; and when they die.
//!
//! Cardinal temperature model with inflection: Rosso, Lobry & Flandrois 1993 (J. theor. Biol.
//! 162:447), from memory.

use super::Numbers;

/// A population of the dough.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Population {
    /// Baker's yeast.
    Bakers,
    /// The yeast of a leaven.
    Wild,
    /// Its lactic bacteria.
    Lactic,
}

/// The rate of one population as a function of temperature: `d²(T − Tmax)/(pT + q)`.
#[derive(Debug, Clone, Copy)]
pub struct Rate {
    t_min: f64,
    t_max: f64,
    p: f64,
    q: f64,
}

impl Rate {
    /// The response of a population.
    #[must_use]
    pub fn of(population: Population, n: &Numbers) -> Self {
        let (lo, opt, hi) = match population {
            Population::Bakers => (n.bakers_t_min_c, n.bakers_t_opt_c, n.bakers_t_max_c),
            Population::Wild => (n.wild_t_min_c, n.wild_t_opt_c, n.wild_t_max_c),
            Population::Lactic => (n.lab_t_min_c, n.lab_t_opt_c, n.lab_t_max_c),
        };
        let p = (opt - lo) * ((opt - lo) + 2.0 * (opt - hi));
        let q = (opt - lo) * (-(opt - lo) * opt - (opt - hi) * (opt + lo));
        let shape = |t: f64| (t - hi) * (t - lo) * (t - lo) / (p * t + q);
        let at_reference = shape(n.t_ref_c);
        Self { t_min: lo, t_max: hi, p: p * at_reference, q: q * at_reference }
    }

    /// Speed at `celsius`, 1 at 24 °C; 0 at and outside the cardinal temperatures.
    #[must_use]
    pub fn at(&self, celsius: f64) -> f64 {
        if celsius <= self.t_min || celsius >= self.t_max {
            return 0.0;
        }
        let d = celsius - self.t_min;
        d * d * (celsius - self.t_max) / (self.p * celsius + self.q)
    }
}

/// Share of yeast alive after standing `minutes` at `celsius`; all of it up to 45 °C.
#[must_use]
pub fn survivors(minutes: f64, celsius: f64, n: &Numbers) -> f64 {
    if celsius <= n.death_from_c {
        return 1.0;
    }
    let decimal = n.death_d55_min * 10f64.powf((55.0 - celsius) / n.death_z_k);
    10f64.powf(-minutes / decimal)
}
