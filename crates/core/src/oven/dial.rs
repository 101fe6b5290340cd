//! The scale of an oven's dial: what to turn it to, and what was meant by what is typed.

use super::{DegreeScale, SettingFinding, SettingRead, read_setting, setting::GAS_MARKS};
use crate::{
    input::number,
    measure::{Temperature, Units, difference, fahrenheit_of, show, to_nearest},
};

words! {
    /// What stands on the dial.
    #[derive(Default)]
    Dial {
        #[default]
        Celsius "celsius" "°C",
        Fahrenheit "fahrenheit" "°F",
        Gas "gas" "gas mark",
    }
}

impl Dial {
    const fn scale(self) -> DegreeScale {
        match self {
            Self::Celsius => DegreeScale::Celsius,
            Self::Fahrenheit => DegreeScale::Fahrenheit,
            Self::Gas => DegreeScale::Gas,
        }
    }

    /// What to turn it to for a setting in °C: steps of five degrees, or the nearest mark.
    #[must_use]
    pub fn figure(self, set_c: f64) -> String {
        match self {
            Self::Celsius => show(to_nearest(set_c, 5.0), 0),
            Self::Fahrenheit => show(to_nearest(fahrenheit_of(set_c), 5.0), 0),
            Self::Gas => {
                let apart = |c: f64| (c - set_c).abs();
                let nearest = GAS_MARKS.iter().min_by(|a, b| apart(a.1).total_cmp(&apart(b.1)));
                nearest.map_or_else(String::new, |(mark, _)| match *mark {
                    m if m < 0.3 => "¼".to_owned(),
                    m if m < 1.0 => "½".to_owned(),
                    m => show(m, 0),
                })
            }
        }
    }
    /// The same with its unit.
    #[must_use]
    pub fn told(self, set_c: f64) -> String {
        match self {
            Self::Gas => format!("gas mark {}", self.figure(set_c)),
            Self::Celsius | Self::Fahrenheit => format!("{} {}", self.figure(set_c), self.title()),
        }
    }

    /// How far two settings are apart, K, as it is turned on it.
    #[must_use]
    pub fn apart(self, kelvins: f64) -> String {
        let on = |scale| difference(kelvins).to(0).said(&Units { temperature: scale, ..Units::METRIC });
        match self {
            Self::Celsius => on(Temperature::Celsius),
            Self::Fahrenheit => on(Temperature::Fahrenheit),
            Self::Gas => difference(kelvins).to(0).to_string(),
        }
    }

    /// Reads what a baker types of a setting: `190`, `375 F`, `gas 5`; without a scale it is the dial's.
    ///
    /// # Errors
    /// A sentence: no number, or no setting of an oven.
    pub fn read(self, text: &str) -> Result<SettingRead, String> {
        let text = text.trim().to_lowercase();
        let figure = text.trim_matches(|c: char| !c.is_ascii_digit() && !matches!(c, '¼' | '½'));
        let about = text.replace(figure, " ");
        let words = about.split(|c: char| !c.is_alphabetic()).filter(|w| !w.is_empty() && *w != "fan");
        let scale = match words.filter_map(|w| w.chars().next()).next() {
            Some('c') => DegreeScale::Celsius,
            Some('f') => DegreeScale::Fahrenheit,
            Some('g' | 'm') => DegreeScale::Gas,
            _ => self.scale(),
        };
        if about.contains(['-', '−']) {
            return Err("An oven is not set below zero.".to_owned());
        }
        let value = match figure {
            "¼" => Ok(0.25),
            "½" => Ok(0.5),
            other => number(other),
        };
        let value = value.map_err(|_| "Write a setting: 190, 375 F or gas 5.".to_owned())?;
        // A figure that no such dial shows was meant on another; which one is said.
        let read = match (scale, self) {
            (DegreeScale::Gas, Self::Gas) if value > 10.0 => read_setting(value, DegreeScale::Unsaid),
            _ => read_setting(value, scale),
        };
        if read.finding == Some(SettingFinding::NotABreadSetting) {
            return Err(format!("“{}” is no setting for bread: between 100 and 300 °C, 212 and 570 °F, gas ¼ and 9.", text.trim()));
        }
        Ok(read)
    }
}
