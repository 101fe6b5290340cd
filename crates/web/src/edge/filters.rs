//! What templates ask of the edge: the address of a shipped file, a figure or a unit in the household's own.

use cerealis_core::measure::{Quantity, degrees as celsius, difference as kelvins, length as centimetres, weight};

use super::assets;

/// Address of a shipped file, with its content hash.
#[must_use]
pub fn asset(path: &str) -> String {
    assets::address(path)
}

/// The unit beside a temperature.
#[must_use]
pub const fn degree_unit() -> Quantity {
    celsius(0.0).unit()
}

/// The unit beside a weight.
#[must_use]
pub const fn weight_unit() -> Quantity {
    weight(0.0).unit()
}

/// The unit lengths are shown in.
#[must_use]
pub const fn length_unit() -> Quantity {
    centimetres(0.0).unit()
}

/// A temperature, °C.
#[must_use]
pub const fn degrees(c: i32) -> Quantity {
    #[allow(clippy::cast_lossless, reason = "const")]
    celsius(c as f64)
}

/// A difference of temperatures, K.
#[must_use]
pub const fn difference(k: i32) -> Quantity {
    #[allow(clippy::cast_lossless, reason = "const")]
    kelvins(k as f64)
}

/// A length, cm.
#[must_use]
pub const fn length(cm: i32) -> Quantity {
    #[allow(clippy::cast_lossless, reason = "const")]
    centimetres(cm as f64)
}
