//! What a baker types of a quantity: a bare figure in the household's units, or with a unit of its own.

use super::{
    CUP_US_ML, celsius_of,
    quantity::{
        F_PER_K, FL_OZ_ML, INCH_MM, OUNCE_G, PINT_ML, QUART_ML, Quantity, degrees, difference, height, hour_of_day, length, volume, weight,
    },
    show, to_nearest,
    units::{Decimal, System, Temperature, Units, Weight},
};
use crate::input::number;

/// A foot in m.
const FOOT_M: f64 = 12.0 * INCH_MM / 1000.0;
/// A metric cup, ml.
const CUP_METRIC_ML: f64 = 250.0;

/// What is asked for.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Asked {
    /// A temperature, in °C.
    Degrees,
    /// A difference of temperatures, in K.
    Difference,
    /// A weight, in g.
    Grams,
    /// A volume, in ml.
    Millilitres,
    /// A length, in cm.
    Centimetres,
    /// A height above the sea, in m.
    Metres,
    /// A bare number.
    Number,
}

impl Asked {
    /// What a field asks for whose name, as the API has it, ends with its unit.
    #[must_use]
    pub fn by_name(name: &str) -> Self {
        match name.trim_end_matches(']').rsplit(['_', '/', '[']).next() {
            Some("c") if name.contains("offset") => Self::Difference,
            Some("c") => Self::Degrees,
            Some("k") => Self::Difference,
            Some("g" | "grams") => Self::Grams,
            Some("ml") => Self::Millilitres,
            Some("cm") => Self::Centimetres,
            Some("m") => Self::Metres,
            _ => Self::Number,
        }
    }

    /// The same of a value.
    const fn quantity(self, value: f64) -> Option<Quantity> {
        Some(match self {
            Self::Degrees => degrees(value),
            Self::Difference => difference(value),
            Self::Grams => weight(value),
            Self::Millilitres => volume(value),
            Self::Centimetres => length(value),
            Self::Metres => height(value),
            Self::Number => return None,
        })
    }

    /// The unit of a bare figure, as it stands beside a field; none of a bare number.
    #[must_use]
    pub fn unit(self, units: &Units) -> Option<&'static str> {
        Some(self.quantity(0.0)?.unit_in(units))
    }

    /// A figure as a field holds it: read again it is the same, but for the last digit shown.
    #[must_use]
    pub fn shown(self, value: f64, units: &Units) -> String {
        let figure = match self.quantity(value) {
            Some(quantity) if self.unit(units) != self.unit(&Units::METRIC) => return quantity.field().said(units),
            // A hundredth is more than any of them is known to.
            Some(_) => to_nearest(value, 0.01),
            None => value,
        };
        // What is to be read again has no more digits than it needs.
        let figure = format!("{figure:.6}").trim_end_matches('0').trim_end_matches('.').to_owned();
        if units.decimal == Decimal::Comma { figure.replace('.', ",") } else { figure }
    }

    /// A bound as it is told in a sentence.
    #[must_use]
    pub fn told(self, value: f64) -> String {
        self.quantity(value).map_or_else(|| show(value, 0), |q| q.to_string())
    }

    /// What a bare figure is counted in.
    fn bare(self, value: f64, units: &Units) -> f64 {
        match (self, units.temperature, units.weight, units.system) {
            (Self::Degrees, Temperature::Fahrenheit, ..) => celsius_of(value),
            (Self::Difference, Temperature::Fahrenheit, ..) => value / F_PER_K,
            (Self::Grams, _, Weight::Pounds, _) => value * OUNCE_G,
            (Self::Millilitres, _, _, System::Us) => value * FL_OZ_ML,
            (Self::Centimetres, _, _, System::Us | System::Uk) => value * INCH_MM / 10.0,
            (Self::Metres, _, _, System::Us) => value * FOOT_M,
            _ => value,
        }
    }

    /// How many of the API's units a unit is; the temperatures go their own way.
    fn factor(self, unit: &str, system: System) -> Option<f64> {
        let us = system == System::Us;
        Some(match (self, unit) {
            (Self::Metres, "m" | "metre" | "metres" | "meter" | "meters") => 1.0,
            (Self::Metres, "ft" | "foot" | "feet") => FOOT_M,
            (Self::Grams, "g" | "gr" | "gram" | "grams") | (Self::Millilitres, "ml") | (Self::Centimetres, "cm") => 1.0,
            (Self::Grams, "kg" | "kilo" | "kilos") | (Self::Millilitres, "l" | "litre" | "litres" | "liter" | "liters") => 1000.0,
            (Self::Grams, "oz" | "ounce" | "ounces") => OUNCE_G,
            (Self::Grams, "lb" | "lbs" | "pound" | "pounds") => 16.0 * OUNCE_G,
            (Self::Millilitres, "cl") => 10.0,
            (Self::Millilitres, "dl") => 100.0,
            (Self::Millilitres, "oz" | "floz" | "ounce" | "ounces") => {
                if us {
                    FL_OZ_ML
                } else {
                    PINT_ML / 20.0
                }
            }
            (Self::Millilitres, "cup" | "cups") => {
                if us {
                    CUP_US_ML
                } else {
                    CUP_METRIC_ML
                }
            }
            (Self::Millilitres, "pint" | "pints" | "pt") => {
                if us {
                    QUART_ML / 2.0
                } else {
                    PINT_ML
                }
            }
            (Self::Millilitres, "quart" | "quarts" | "qt") => {
                if us {
                    QUART_ML
                } else {
                    2.0 * PINT_ML
                }
            }
            (Self::Centimetres, "mm") => 0.1,
            (Self::Centimetres, "in" | "inch" | "inches" | "\"" | "″") => INCH_MM / 10.0,
            _ => return None,
        })
    }
}

/// A figure as it was typed, in the unit of the API.
///
/// # Errors
/// A sentence with an example.
pub fn typed(text: &str, asked: Asked, units: &Units) -> Result<f64, String> {
    let parts = parts(text);
    let no = || format!("“{text}” is not a number. Write {}.", example(asked, units));
    if asked == Asked::Number {
        return number(text);
    }
    if parts.iter().all(|(_, unit)| unit.is_empty()) {
        return number(text).map(|value| asked.bare(value, units)).map_err(|_| no());
    }
    let mut all = 0.0;
    for (figure, unit) in &parts {
        let value = number(figure).map_err(|_| no())?;
        all += match (asked, unit.trim_start_matches('°')) {
            (Asked::Degrees, "f") if parts.len() == 1 => celsius_of(value),
            (Asked::Difference, "f") if parts.len() == 1 => value / F_PER_K,
            (Asked::Degrees | Asked::Difference, "c" | "k") if parts.len() == 1 => value,
            (Asked::Degrees | Asked::Difference, "") if parts.len() == 1 => asked.bare(value, units),
            (_, unit) => value * asked.factor(unit, units.system).ok_or_else(no)?,
        };
    }
    Ok(all)
}

fn example(asked: Asked, units: &Units) -> &'static str {
    match (asked, units.temperature) {
        (Asked::Degrees, Temperature::Fahrenheit) => "a temperature, for example 76 or 24 C",
        (Asked::Degrees, _) => "a temperature, for example 24 or 76 F",
        (Asked::Difference, _) => "degrees, for example 5",
        (Asked::Grams, _) => "a weight, for example 450 g or 1 lb 2 oz",
        (Asked::Millilitres, _) => "what it holds, for example 1.2 l or 2 cups",
        (Asked::Metres, _) => "a height, for example 300 m or 1000 ft",
        (Asked::Centimetres, _) => "a length, for example 23 cm or 9 in",
        (Asked::Number, _) => "a number, for example 350 or 7.5",
    }
}

/// `1 lb 2½ oz` as figures and the letters behind each.
fn parts(text: &str) -> Vec<(String, String)> {
    let mut parts: Vec<(String, String)> = Vec::new();
    let text = text.trim().to_lowercase().replace("fl oz", "floz").replace("fl. oz", "floz");
    for sign in text.chars() {
        let letter = sign.is_alphabetic() || matches!(sign, '°' | '"' | '″');
        match parts.last_mut() {
            Some((_, unit)) if letter => unit.push(sign),
            Some((figure, unit)) if unit.is_empty() => figure.push(sign),
            Some(_) if sign.is_whitespace() || sign == '.' => {}
            _ if letter => parts.push((String::new(), sign.to_string())),
            _ => parts.push((sign.to_string(), String::new())),
        }
    }
    parts
}

/// Minutes since midnight of an hour as people write it: `19:40`, `7.30 pm`, `7pm`, `1940`, `noon`.
#[must_use]
pub fn typed_hour(text: &str) -> Option<u16> {
    let text = text.trim().to_lowercase();
    match text.as_str() {
        "noon" | "midday" => return Some(12 * 60),
        "midnight" => return Some(0),
        _ => {}
    }
    let letters: String = text.chars().filter(|c| c.is_alphabetic()).collect();
    let digits = text.trim_end_matches(|c: char| c.is_alphabetic() || c == '.' || c.is_whitespace());
    let half = match letters.as_str() {
        "" | "h" => None,
        "am" | "a" => Some(0),
        "pm" | "p" => Some(12),
        _ => return None,
    };
    let mut figures = digits.split([':', '.', ',', ' ', 'h']).map(str::trim).filter(|f| !f.is_empty());
    let (first, second) = (figures.next()?, figures.next());
    if figures.next().is_some() || ![first, second.unwrap_or("0")].iter().all(|f| f.chars().all(|c| c.is_ascii_digit())) {
        return None;
    }
    let (hour, minute) = match (first.len(), second) {
        (1 | 2, None) => (first.parse::<u16>().ok()?, 0),
        (1 | 2, Some(m)) if m.len() == 2 => (first.parse().ok()?, m.parse().ok()?),
        (3 | 4, None) => {
            let (h, m) = first.split_at_checked(first.len() - 2)?;
            (h.parse().ok()?, m.parse().ok()?)
        }
        _ => return None,
    };
    let hour = match half {
        None if hour <= 23 => hour,
        Some(more) if (1..=12).contains(&hour) => hour % 12 + more,
        _ => return None,
    };
    (minute < 60).then_some(60 * hour + minute)
}

/// An hour as it was typed, written as it is kept: `22:30`. What is no hour stays as it is.
#[must_use]
pub fn kept_hour(text: &str) -> String {
    typed_hour(text).map_or_else(|| text.trim().to_owned(), |m| hour_of_day(f64::from(m)).said(&Units::METRIC))
}

#[cfg(test)]
mod tests {
    use super::*;

    const US: Units = Units { system: System::Us, temperature: Temperature::Fahrenheit, weight: Weight::Pounds, ..Units::METRIC };

    #[test]
    fn a_unit_of_its_own_goes_before_the_households() {
        let metric = |text: &str, asked| typed(text, asked, &Units::METRIC).map(|v| (v * 100.0).round() / 100.0);
        let us = |text: &str, asked| typed(text, asked, &US).map(|v| (v * 100.0).round() / 100.0);
        assert_eq!(
            [metric("78F", Asked::Degrees), metric("78 °F", Asked::Degrees), us("78", Asked::Degrees)],
            [Ok(25.56), Ok(25.56), Ok(25.56)]
        );
        assert_eq!(
            [metric("3,5", Asked::Degrees), us("24 C", Asked::Degrees), metric("24°", Asked::Degrees)],
            [Ok(3.5), Ok(24.0), Ok(24.0)]
        );
        assert_eq!([us("9", Asked::Difference), metric("-5", Asked::Difference)], [Ok(5.0), Ok(-5.0)]);
        assert_eq!(
            [us("1 lb 2 oz", Asked::Grams), us("18", Asked::Grams), metric("1lb 2oz", Asked::Grams)],
            [Ok(510.29), Ok(510.29), Ok(510.29)]
        );
        assert_eq!(
            [us("500 g", Asked::Grams), metric("1.2 kg", Asked::Grams), us("2½ oz", Asked::Grams)],
            [Ok(500.0), Ok(1200.0), Ok(70.87)]
        );
        assert_eq!([metric("1/2 cup", Asked::Millilitres), metric("1.5 l", Asked::Millilitres)], [Ok(125.0), Ok(1500.0)]);
        assert_eq!(
            [metric("9 in", Asked::Centimetres), us("9", Asked::Centimetres), us("9\"", Asked::Centimetres)],
            [Ok(22.86), Ok(22.86), Ok(22.86)]
        );
        assert_eq!([us("2 pints", Asked::Millilitres), metric("2 pints", Asked::Millilitres)], [Ok(946.35), Ok(1136.52)]);
        assert_eq!([us("1000", Asked::Metres), metric("1000 ft", Asked::Metres)], [Ok(304.8), Ok(304.8)]);
        assert_eq!(Asked::Degrees.shown(celsius_of(67.0), &Units::METRIC), "19.44", "no more digits than are known");
        for (nonsense, asked) in
            [("warm", Asked::Degrees), ("20 g", Asked::Degrees), ("5 cm", Asked::Grams), ("", Asked::Grams), ("1 lb 2", Asked::Number)]
        {
            assert!(typed(nonsense, asked, &US).is_err(), "{nonsense}");
        }
    }

    #[test]
    fn what_a_field_shows_is_read_back_as_it_was() {
        for units in [Units::METRIC, US] {
            for value in [1.0, 7.0, 28.0, 113.0, 510.0, 1700.0] {
                for (said, asked, per) in [
                    (degrees(value / 10.0).field().said(&units), Asked::Degrees, 10.0),
                    (weight(value).said(&units), Asked::Grams, 1.0),
                    (volume(value).field().said(&units), Asked::Millilitres, 1.0),
                    (length(value / 10.0).field().said(&units), Asked::Centimetres, 10.0),
                ] {
                    let back = typed(&said, asked, &units).unwrap() * per;
                    // An eighth of an ounce or inch, a whole fluid ounce.
                    assert!((back - value).abs() <= (0.03 * value).max(2.0), "{said}: {back} for {value}");
                }
            }
        }
    }

    #[test]
    fn hours_are_read_as_people_write_them() {
        for (text, minute) in [
            ("19:40", 1180),
            ("19.40", 1180),
            ("1940", 1180),
            ("7.40 pm", 1180),
            ("7:40pm", 1180),
            ("7:40 p.m.", 1180),
            ("19", 1140),
            ("7 am", 420),
            ("12 am", 0),
            ("12 pm", 720),
            ("noon", 720),
            ("midnight", 0),
            ("740", 460),
            ("0:05", 5),
            ("19h40", 1180),
        ] {
            assert_eq!(typed_hour(text), Some(minute), "{text}");
        }
        for nonsense in ["", "25:00", "7:5", "soon", "13 pm", "19:60", "1:2:3", "-1", "0 am", "7:400"] {
            assert_eq!(typed_hour(nonsense), None, "{nonsense}");
        }
    }
}
