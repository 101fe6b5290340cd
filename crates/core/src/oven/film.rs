//! The inside of a piece through its bake: how far from the middle each warmth has come.

use super::{
    Bake, Constants, Geometry,
    course::Oven,
    solver::{cell_centres, run_watched},
};

/// What a warmth does to dough. Common practice, no source.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Isotherm {
    /// °C.
    pub celsius: f64,
    /// What happens there.
    pub what: &'static str,
}

/// A moment of the bake.
#[derive(Debug, Clone, PartialEq)]
pub struct Frame {
    /// Baker's minutes from loading.
    pub min: f64,
    /// In the middle, °C.
    pub core_c: f64,
    /// At the surface, °C.
    pub surface_c: f64,
    /// The browning index.
    pub index: f64,
    /// For each isotherm, the share of the way from the middle to the surface inside which it is cooler; 0 where the
    /// middle is past it.
    pub cooler_within: Vec<f64>,
}

/// A slow film of the section.
#[derive(Debug, Clone, PartialEq)]
pub struct Film {
    /// Shape and size of the piece.
    pub geometry: Geometry,
    /// The warmths followed, from cool to hot.
    pub isotherms: Vec<Isotherm>,
    /// Moments, evenly spaced from loading to the end.
    pub frames: Vec<Frame>,
}

/// Looks at the inside at `count` moments from loading until `minutes` (baker's) at a setting.
#[must_use]
pub fn film(bake: &Bake, set_c: f64, minutes: f64, count: u32, k: &Constants) -> Film {
    let oven = Oven::new(bake, k);
    let setup = oven.setup(set_c + bake.oven_offset_c.unwrap_or(0.0), 0.0, f64::INFINITY);
    let centres = cell_centres(&setup);
    let isotherms = vec![
        Isotherm { celsius: 40.0, what: "rising: yeast works fastest" },
        Isotherm { celsius: 55.0, what: "yeast dies" },
        Isotherm { celsius: 70.0, what: "the crumb sets" },
        Isotherm { celsius: oven.core_target_c, what: "done" },
        // Where the most of the water is gone: below it, at the boiling point, the crumb is moist and done.
        Isotherm { celsius: oven.boiling_c + k.numbers.d1, what: "dries to crust" },
    ];
    let look = |min: f64, cells: &[f64], core_c: f64, surface_c: f64, index: f64| Frame {
        min,
        core_c,
        surface_c,
        index,
        cooler_within: isotherms.iter().map(|i| within(&centres, cells, surface_c, i.celsius)).collect(),
    };
    let cold = vec![bake.dough_c; centres.len()];
    let mut frames = vec![look(0.0, &cold, bake.dough_c, bake.dough_c, 0.0)];
    let every = minutes / f64::from(count.max(2) - 1);
    let goal = super::Goal { core_c: f64::INFINITY, ..setup.goal };
    let end = (minutes / oven.clock + 1.0) * 60.0;
    run_watched(&super::Setup { goal, end, ..setup }, |now, cells| {
        let min = now.t / 60.0 * oven.clock;
        #[allow(clippy::cast_precision_loss, reason = "a few frames")]
        let due = every * frames.len() as f64;
        if min + 1e-6 >= due && due <= minutes + 1e-6 {
            frames.push(look(min.min(minutes), cells, now.core_c, now.surface_c, now.index));
        }
    });
    Film { geometry: oven.geometry, isotherms, frames }
}

/// The share of the way from the middle inside which it is cooler than a warmth: straight between cells.
fn within(centres: &[f64], cells: &[f64], surface_c: f64, celsius: f64) -> f64 {
    let points: Vec<(f64, f64)> = centres.iter().copied().zip(cells.iter().copied()).chain([(1.0, surface_c)]).collect();
    let Some(first) = points.iter().position(|p| p.1 >= celsius) else { return 1.0 };
    match (first.checked_sub(1).and_then(|i| points.get(i)), points.get(first)) {
        (Some(a), Some(b)) => a.0 + (b.0 - a.0) * (celsius - a.1) / (b.1 - a.1),
        _ => 0.0,
    }
}
