//! What a figure on a dial or in a recipe means. A changed reading is always shown for confirming.

use crate::measure::celsius_of;

/// On which scale a setting was given.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum DegreeScale {
    /// °C.
    Celsius,
    /// °F.
    Fahrenheit,
    /// Gas mark.
    Gas,
    /// None was given.
    Unsaid,
}

words! {
    /// What is odd about a setting.
    SettingFinding {
        LooksLikeFahrenheit "looks-like-fahrenheit", LooksLikeCelsius "looks-like-celsius", LooksLikeGasMark "looks-like-gas-mark",
        AssumedCelsius "assumed-celsius", AssumedFahrenheit "assumed-fahrenheit", AssumedGasMark "assumed-gas-mark",
        HotterThanMostHomeOvens "hotter-than-most-home-ovens", CoolForBread "cool-for-bread", NotABreadSetting "not-a-bread-setting",
    }
}

/// A setting, read.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct SettingRead {
    /// In °C, if it is one.
    pub set_c: Option<f64>,
    /// What is odd about it.
    pub finding: Option<SettingFinding>,
}

/// Gas marks in °C. Common practice, no source.
pub(super) const GAS_MARKS: [(f64, f64); 11] = [
    (0.25, 110.0),
    (0.5, 130.0),
    (1.0, 140.0),
    (2.0, 150.0),
    (3.0, 170.0),
    (4.0, 180.0),
    (5.0, 190.0),
    (6.0, 200.0),
    (7.0, 220.0),
    (8.0, 230.0),
    (9.0, 240.0),
];

fn gas(mark: f64) -> Option<f64> {
    GAS_MARKS.iter().find(|(m, _)| (m - mark).abs() < 1e-9).map(|(_, c)| *c)
}

/// Reads an oven setting. 300–550 °F and 140–290 °C do not overlap for bread.
#[must_use]
pub fn read_setting(value: f64, scale: DegreeScale) -> SettingRead {
    use SettingFinding as F;
    let read = |c: f64, finding: Option<F>| SettingRead { set_c: Some(c), finding };
    let refused = SettingRead { set_c: None, finding: Some(F::NotABreadSetting) };
    let gas_mark = |finding: Option<F>| gas(value).map_or(refused, |c| read(c, finding));
    let whole_mark = (1.0..=9.0).contains(&value) && value.fract() == 0.0;
    match scale {
        DegreeScale::Gas => gas_mark(None),
        DegreeScale::Celsius if value > 600.0 => refused,
        DegreeScale::Celsius if value > 300.0 => read(celsius_of(value), Some(F::LooksLikeFahrenheit)),
        DegreeScale::Celsius if value > 275.0 => read(value, Some(F::HotterThanMostHomeOvens)),
        DegreeScale::Celsius if whole_mark => gas_mark(Some(F::LooksLikeGasMark)),
        DegreeScale::Celsius if value < 100.0 || value.is_nan() => refused,
        DegreeScale::Celsius if value < 150.0 => read(value, Some(F::CoolForBread)),
        DegreeScale::Celsius => read(value, None),
        DegreeScale::Fahrenheit if !(140.0..=600.0).contains(&value) || value.is_nan() => refused,
        DegreeScale::Fahrenheit if value < 212.0 => read(value, Some(F::LooksLikeCelsius)),
        DegreeScale::Fahrenheit if value < 300.0 => read(celsius_of(value), Some(F::CoolForBread)),
        DegreeScale::Fahrenheit => read(celsius_of(value), None),
        DegreeScale::Unsaid if whole_mark => gas_mark(Some(F::AssumedGasMark)),
        DegreeScale::Unsaid if (140.0..=300.0).contains(&value) => read(value, Some(F::AssumedCelsius)),
        DegreeScale::Unsaid if value > 300.0 && value <= 600.0 => read(celsius_of(value), Some(F::AssumedFahrenheit)),
        DegreeScale::Unsaid => refused,
    }
}
