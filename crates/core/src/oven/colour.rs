//! Boiling point by altitude, and the browning index in words, lightness and swatch.

use super::Constants;

/// Air pressure in Pa at an altitude in m (standard atmosphere).
#[must_use]
pub fn pressure_pa(altitude_m: f64) -> f64 {
    101_325.0 * (1.0 - 2.255_77e-5 * altitude_m).powf(5.255_88)
}

/// Boiling point of water in °C at an altitude (Antoine; within 0.08 K of IAPWS-95 to 5000 m).
#[must_use]
pub fn boiling_c(altitude_m: f64) -> f64 {
    1730.63 / (8.071_31 - (pressure_pa(altitude_m) / 133.322_368).log10()) - 233.426
}

/// The word for a browning index; always shown beside the swatch.
#[must_use]
pub fn colour_word(index: f64) -> &'static str {
    match index {
        i if i < 0.20 => "raw",
        i if i < 0.36 => "pale",
        i if i < 0.94 => "golden",
        i if i < 1.40 => "brown",
        i if i < 2.40 => "dark",
        _ => "burnt",
    }
}

/// Lightness L* of the crust.
#[must_use]
pub fn lightness(index: f64, k: &Constants) -> f64 {
    k.numbers.l_end + (k.numbers.l_start - k.numbers.l_end) * (-index).exp()
}

/// sRGB of the crust, straight between the swatches.
#[must_use]
pub fn swatch(index: f64, k: &Constants) -> [f64; 3] {
    let mut before: Option<&[f64; 4]> = None;
    for stop in &k.swatches {
        let [at, r, g, b] = *stop;
        if index <= at {
            let Some([at0, r0, g0, b0]) = before.copied() else { return [r, g, b] };
            let share = (index - at0) / (at - at0);
            return [r0 + share * (r - r0), g0 + share * (g - g0), b0 + share * (b - b0)].map(|c| (c + 0.5).floor());
        }
        before = Some(stop);
    }
    before.map_or([0.0; 3], |[_, r, g, b]| [*r, *g, *b])
}
