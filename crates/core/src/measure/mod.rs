//! Quantities as types, intervals, the steps of a working, and the only place that cuts digits.
//!
//! A temperature and a difference of temperatures are two types; kitchen minutes and dough hours
//! are two types. Each quantity checks its range where it is made.

mod degrees;
mod quantity;
mod say;
mod show;
mod typed;
mod units;
mod working;

pub use degrees::{celsius_of, degrees_about, fahrenheit_of, round_degrees};
pub use quantity::{
    FL_OZ_ML, INCH_MM, OUNCE_G, PINT_ML, Quantity, degrees, difference, height, hour_of_day, length, setting, small_length, volume, weight,
};
pub(crate) use say::{between, celsius, centimetres, dial, grams, kelvins, millilitres, millimetres};
pub use say::{marked, plain, say};
pub use show::{
    show, show_clock_span, show_degrees, show_gap, show_grams, show_half, show_minutes, show_money, show_percent, show_rough,
    show_rough_range, spread, thousands, to_nearest, weighable,
};
pub use typed::{Asked, kept_hour, typed, typed_hour};
pub use units::{Clock, Decimal, System, Temperature, Units, WeekStart, Weight};

/// A US cup in ml (NIST SP 811 Appendix B: 2.365 882 E-04 m³, from memory).
pub const CUP_US_ML: f64 = 236.588;
pub use working::Working;

use serde::{Deserialize, Serialize};

/// A number outside what its quantity allows, or no number at all.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
#[error("{name} must be between {low} and {high} {unit}; {value} is outside that.")]
pub struct OutOfRange {
    /// The quantity in words, as it begins a sentence.
    pub name: &'static str,
    /// Its unit as printed.
    pub unit: &'static str,
    /// Lowest value allowed.
    pub low: f64,
    /// Highest value allowed.
    pub high: f64,
    /// What was given.
    pub value: f64,
}

macro_rules! quantity {
    ($($(#[$doc:meta])* $type:ident: $name:literal, $unit:literal, $low:literal ..= $high:literal;)*) => {$(
        $(#[$doc])*
        #[derive(Debug, Clone, Copy, PartialEq, PartialOrd, Serialize, Deserialize)]
        #[serde(try_from = "f64", into = "f64")]
        pub struct $type(f64);

        impl $type {
            /// Checks the range.
            ///
            /// # Errors
            /// [`OutOfRange`] beyond the range of the type, and for NaN.
            pub fn new(value: f64) -> Result<Self, OutOfRange> {
                if ($low..=$high).contains(&value) {
                    Ok(Self(value))
                } else {
                    Err(OutOfRange { name: $name, unit: $unit, low: $low, high: $high, value })
                }
            }
            /// For tables in the code: a bad literal in a `const` does not compile.
            #[must_use]
            pub const fn constant(value: f64) -> Self {
                assert!(value >= $low && value <= $high);
                Self(value)
            }
            /// The bare number, in the unit of the type.
            #[must_use]
            pub const fn get(self) -> f64 {
                self.0
            }
        }
        impl TryFrom<f64> for $type {
            type Error = OutOfRange;
            fn try_from(value: f64) -> Result<Self, OutOfRange> {
                Self::new(value)
            }
        }
        impl From<$type> for f64 {
            fn from(value: $type) -> Self {
                value.0
            }
        }
    )*};
}

quantity! {
    /// A weight in grams. 100 kg is beyond any home kitchen.
    Grams: "A weight", "g", 0.0 ..= 100_000.0;
    /// A temperature on the Celsius scale: a point, not a difference.
    Celsius: "A temperature", "°C", -200.0 ..= 600.0;
    /// A difference of two temperatures.
    Kelvins: "A temperature difference", "K", -800.0 ..= 800.0;
    /// Percent by weight on total flour.
    BakersPercent: "A baker's percentage", "%", 0.0 ..= 1_000_000.0;
    /// Minutes on the kitchen clock.
    ClockMinutes: "A time", "min", 0.0 ..= 100_000.0;
    /// Hours the dough has aged, as if it had stood at 24 °C.
    DoughHours: "Dough time", "h", 0.0 ..= 100_000.0;
}

impl std::ops::Sub for Celsius {
    type Output = Kelvins;
    fn sub(self, other: Self) -> Kelvins {
        Kelvins(self.0 - other.0)
    }
}

/// What a figure may be: read from a cup, or forecast.
///
/// Clock minutes and dough hours do not add:
/// ```compile_fail
/// use cerealis_core::measure::{ClockMinutes, DoughHours};
/// let _ = ClockMinutes::constant(5.0) + DoughHours::constant(1.0);
/// ```
/// Two temperatures have a difference, no sum:
/// ```compile_fail
/// use cerealis_core::measure::Celsius;
/// let _ = Celsius::constant(20.0) + Celsius::constant(4.0);
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
pub struct Band {
    /// It is hardly less than this.
    pub low: f64,
    /// The likeliest value.
    pub likely: f64,
    /// It is hardly more than this.
    pub high: f64,
}

impl Band {
    /// A figure that is known as it stands.
    #[must_use]
    pub const fn exact(value: f64) -> Self {
        Self { low: value, likely: value, high: value }
    }
    /// Low, likely, high, put in order.
    #[must_use]
    pub const fn new(low: f64, likely: f64, high: f64) -> Self {
        Self { low: low.min(likely), likely, high: high.max(likely) }
    }
    /// A figure with the same share of doubt on either side.
    #[must_use]
    pub fn within(value: f64, share: f64) -> Self {
        Self::new(value * (1.0 - share), value, value * (1.0 + share))
    }
    /// All three times a number above zero.
    #[must_use]
    pub fn times(self, factor: f64) -> Self {
        Self { low: self.low * factor, likely: self.likely * factor, high: self.high * factor }
    }
    /// Ends added to ends: the doubts of two cups add up at worst.
    #[must_use]
    pub fn plus(self, other: Self) -> Self {
        Self { low: self.low + other.low, likely: self.likely + other.likely, high: self.high + other.high }
    }
    /// Widened so that it also holds `other`.
    #[must_use]
    pub const fn spanning(self, other: Self) -> Self {
        Self { low: self.low.min(other.low), likely: self.likely, high: self.high.max(other.high) }
    }
    /// Half the width.
    #[must_use]
    pub fn half_width(self) -> f64 {
        (self.high - self.low) / 2.0
    }
    /// Whether low and high are the same figure.
    #[must_use]
    pub fn is_exact(self) -> bool {
        self.high - self.low <= 1e-9 * self.high.abs().max(1.0)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_weight_below_nothing_is_refused_with_its_range() {
        let error = Grams::new(-3.0).unwrap_err();
        assert_eq!(error.to_string(), "A weight must be between 0 and 100000 g; -3 is outside that.");
        assert!(Grams::new(f64::NAN).is_err());
        assert!(Celsius::new(f64::INFINITY).is_err());
    }

    #[test]
    fn two_temperatures_differ_by_kelvins() {
        let gap = Celsius::constant(25.0) - Celsius::constant(21.5);
        assert!((gap.get() - 3.5).abs() < 1e-12);
    }

    #[test]
    fn a_band_is_always_in_order() {
        let band = Band::new(9.0, 5.0, 1.0);
        assert!(band.low <= band.likely && band.likely <= band.high);
        assert!(Band::exact(4.0).is_exact() && !Band::within(4.0, 0.1).is_exact());
        assert!((Band::within(100.0, 0.1).plus(Band::exact(5.0)).high - 115.0).abs() < 1e-9);
    }
}
