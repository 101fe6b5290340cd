//! Fahrenheit and Celsius: the one place where one becomes the other.

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

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn water_freezes_and_boils_and_both_scales_meet() {
        for (c, f) in [(0.0, 32.0), (100.0, 212.0), (-40.0, -40.0), (37.0, 98.6)] {
            assert!((celsius_of(f) - c).abs() < 1e-9 && (fahrenheit_of(c) - f).abs() < 1e-9, "{c} {f}");
        }
    }
}
