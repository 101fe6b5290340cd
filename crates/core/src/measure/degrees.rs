//! Fahrenheit and Celsius: the one place where one becomes the other.

use super::{to_nearest, units::Temperature};

/// Degrees Fahrenheit in degrees Celsius.
#[must_use]
pub const fn celsius_of(fahrenheit: f64) -> f64 {
    (fahrenheit - 32.0) / 1.8
}

/// Degrees Celsius in degrees Fahrenheit.
#[must_use]
pub const fn fahrenheit_of(celsius: f64) -> f64 {
    celsius * 1.8 + 32.0
}

/// Round temperatures of an axis between two, °C: every so many degrees of the reader's scale.
#[must_use]
pub fn round_degrees((low, high): (f64, f64), every: (f64, f64), scale: Temperature) -> Vec<f64> {
    type Turn = fn(f64) -> f64;
    let (step, there, back): (f64, Turn, Turn) = match scale {
        Temperature::Celsius => (every.0, |c| c, |c| c),
        Temperature::Fahrenheit => (every.1, fahrenheit_of, celsius_of),
    };
    let first = (there(low) / step).ceil();
    (0..100).map(|i| (first + f64::from(i)) * step).take_while(|t| *t <= there(high) + 1e-9).map(back).collect()
}

/// Whole degrees of the reader's scale about a likely one, °C: what a thermometer may show, two on either side of it.
#[must_use]
pub fn degrees_about(likely_c: f64, hot: bool, scale: Temperature) -> [f64; 5] {
    let (likely, step): (f64, f64) = match (scale, hot) {
        (Temperature::Celsius, true) => (likely_c.round(), 10.0),
        (Temperature::Celsius, false) => (likely_c.round(), 1.0),
        (Temperature::Fahrenheit, true) => (to_nearest(fahrenheit_of(likely_c), 5.0), 20.0),
        (Temperature::Fahrenheit, false) => (fahrenheit_of(likely_c).round(), 2.0),
    };
    [-2.0, -1.0, 0.0, 1.0, 2.0].map(|i| {
        let there = likely + step * i;
        if scale == Temperature::Fahrenheit { celsius_of(there) } else { there }
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn axes_have_round_degrees_of_their_scale() {
        assert_eq!(round_degrees((1.0, 220.0), (50.0, 100.0), Temperature::Celsius), [50.0, 100.0, 150.0, 200.0]);
        let f: Vec<f64> = round_degrees((1.0, 220.0), (50.0, 100.0), Temperature::Fahrenheit).into_iter().map(fahrenheit_of).collect();
        assert!(f.len() == 4 && f.iter().zip([100.0, 200.0, 300.0, 400.0]).all(|(a, b)| (a - b).abs() < 1e-6), "{f:?}");
    }

    #[test]
    fn readings_are_whole_degrees_of_their_scale() {
        assert_eq!(degrees_about(21.6, false, Temperature::Celsius), [20.0, 21.0, 22.0, 23.0, 24.0]);
        let f = degrees_about(24.0, false, Temperature::Fahrenheit).map(|c| fahrenheit_of(c).round());
        assert_eq!(f, [71.0, 73.0, 75.0, 77.0, 79.0]);
        assert_eq!(degrees_about(230.0, true, Temperature::Fahrenheit).map(|c| fahrenheit_of(c).round())[2], 445.0);
    }

    #[test]
    fn water_freezes_and_boils_and_both_scales_meet() {
        for (c, f) in [(0.0, 32.0), (100.0, 212.0), (-40.0, -40.0), (37.0, 98.6)] {
            assert!((celsius_of(f) - c).abs() < 1e-9 && (fahrenheit_of(c) - f).abs() < 1e-9, "{c} {f}");
        }
    }
}
