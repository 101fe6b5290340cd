//! What to set with the fan on for a bake told without it.

use super::{Bake, Constants, course::Oven};

/// What the trade takes off for a fan, K. Common practice, no source.
pub const FAN_K: f64 = 20.0;

/// Farthest below the setting of still air that is looked at, K, and halvings of it.
const BELOW_K: f64 = 60.0;
const HALVINGS: u32 = 12;

/// Minutes, and when the core is there.
type Clocks = (Option<f64>, Option<f64>);

/// The settings of its dial with the fan at which this bread is out after the same minutes as at `still_c` without it, and its core
/// is as far, °C, nothing laid over it. None where it is not done in still air.
///
/// The trade takes 20 °C off; the model finds some 20 K for rolls and 27 K for loaves.
#[must_use]
pub fn fan_equivalent(bake: &Bake, still_c: f64, k: &Constants) -> Option<(f64, f64)> {
    let (still, moved) = (Bake { fan: false, ..bake.clone() }, Bake { fan: true, ..bake.clone() });
    let offset = bake.oven_offset_c.unwrap_or(0.0);
    let (still, moved) = (Oven::new(&still, k).without_foil(still_c + offset), Oven::new(&moved, k));
    let search = |wanted: f64, of: fn(Clocks) -> Option<f64>| {
        let (mut low, mut high) = (still_c - BELOW_K, still_c);
        for _ in 0..HALVINGS {
            let middle = f64::midpoint(low, high);
            if of(moved.without_foil(middle + offset)).is_none_or(|m| m > wanted) { low = middle } else { high = middle }
        }
        f64::midpoint(low, high)
    };
    Some((search(still.0?, |m| m.0), search(still.1?, |m| m.1)))
}
