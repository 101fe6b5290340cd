//! An oven hotter on one side: how brown each side comes out, and turned half way.

use serde::Serialize;

use super::{Bake, Constants, course::Oven};

/// The browning index of the cooler side, the hotter one, and a piece turned half way.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
#[allow(missing_docs, reason = "the names say it")]
pub struct Sides {
    pub cool: f64,
    pub hot: f64,
    pub turned: f64,
}

/// Colours of the two sides at the end of a bake at `set_c`, where the oven's sides differ by `hot_k` (K, 0 to 60);
/// nothing where they do not differ, or the bake does not end.
///
/// The oven is run shifted by half the difference either way, to the same minutes.
#[must_use]
pub fn sides(bake: &Bake, set_c: f64, k: &Constants) -> Option<Sides> {
    let difference = bake.hot_k.filter(|d| *d > 0.0)?;
    let oven = Oven::new(bake, k);
    let true_c = set_c + bake.oven_offset_c.unwrap_or(0.0);
    let middle = oven.at_setting(true_c, 0.0);
    let minutes = middle.minutes?;
    let at = |shift: f64| oven.index_shifted(true_c, shift, minutes, middle.foil_at);
    let (cool, hot) = (at(-difference / 2.0), at(difference / 2.0));
    Some(Sides { cool, hot, turned: f64::midpoint(cool, hot) })
}
