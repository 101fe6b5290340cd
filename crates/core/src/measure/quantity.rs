//! Quantities in words: the only place where a temperature, a weight, a volume, a length or an hour is written in somebody's
//! units.

use super::{
    fahrenheit_of, show, show_degrees, show_grams, to_nearest,
    units::{Clock, Decimal, System, Temperature, Units, Weight},
};

/// Between a figure and its unit.
const GAP: &str = " ";

/// Differences are 1.8 times as large in Fahrenheit.
pub(super) const F_PER_K: f64 = 1.8;
/// An ounce in g (avoirdupois, 28.349 523 125 g exactly; international yard and pound agreement, 1959).
pub const OUNCE_G: f64 = 28.349_523_125;
/// A US fluid ounce in ml (NIST SP 811 Appendix B: 2.957 353 E-05 m³, from memory).
pub const FL_OZ_ML: f64 = 29.573_53;
/// A US quart in ml: 32 fluid ounces.
pub(super) const QUART_ML: f64 = 32.0 * FL_OZ_ML;
/// An imperial pint in ml (NIST SP 811 Appendix B, from memory: an eighth of 4.546 09 l).
pub const PINT_ML: f64 = 568.261_25;
/// An inch in mm, by definition.
pub const INCH_MM: f64 = 25.4;

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Kind {
    /// °C.
    Degrees,
    /// A setting of an oven, °C: in steps a dial has.
    Setting,
    /// A difference of temperatures, K.
    Difference,
    /// g.
    Grams,
    /// ml.
    Millilitres,
    /// mm.
    Millimetres,
    /// cm.
    Centimetres,
    /// m above the sea.
    Metres,
    /// Minutes since midnight.
    Hour,
}

pub(super) const KINDS: [(Kind, char); 9] = [
    (Kind::Degrees, 't'),
    (Kind::Setting, 's'),
    (Kind::Difference, 'd'),
    (Kind::Grams, 'w'),
    (Kind::Millilitres, 'v'),
    (Kind::Millimetres, 'l'),
    (Kind::Centimetres, 'm'),
    (Kind::Metres, 'a'),
    (Kind::Hour, 'h'),
];

/// How much of the unit stands beside the figure.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Form {
    /// `24 °C`.
    Whole,
    /// `24°`.
    Sign,
    /// `24`: the first of a range, a column that names its unit.
    Bare,
    /// As a field holds it.
    Field,
    /// The unit alone.
    Unit,
}

pub(super) const FORMS: [(Form, char); 5] =
    [(Form::Whole, 'u'), (Form::Sign, 'g'), (Form::Bare, 'b'), (Form::Field, 'f'), (Form::Unit, 'n')];

/// A figure with its unit, that can be written in any units.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Quantity {
    pub(super) kind: Kind,
    pub(super) form: Form,
    pub(super) value: f64,
    /// Digits after the point; none: as such a quantity is shown.
    pub(super) decimals: Option<usize>,
}

impl Quantity {
    const fn of(kind: Kind, value: f64) -> Self {
        Self { kind, form: Form::Whole, value, decimals: None }
    }
    /// To so many digits after the point.
    #[must_use]
    pub const fn to(self, decimals: usize) -> Self {
        Self { decimals: Some(decimals), ..self }
    }
    /// Without its unit: the first of a range, a column whose head names it.
    #[must_use]
    pub const fn bare(self) -> Self {
        Self { form: Form::Bare, ..self }
    }
    /// With a sign for its unit: `24°`.
    #[must_use]
    pub const fn short(self) -> Self {
        Self { form: Form::Sign, ..self }
    }
    /// Its unit alone, for where the figure stands in a size of its own.
    #[must_use]
    pub const fn unit(self) -> Self {
        Self { form: Form::Unit, ..self }
    }
    /// As a field holds it, to be read again.
    #[must_use]
    pub const fn field(self) -> Self {
        Self { form: Form::Field, ..self }
    }
    /// In words, in these units.
    #[must_use]
    pub fn said(self, units: &Units) -> String {
        if self.form == Form::Unit {
            return self.unit_in(units).to_owned();
        }
        let text = match self.kind {
            Kind::Degrees => self.degrees(units, 1.0),
            Kind::Setting => self.degrees(units, 5.0),
            Kind::Difference => self.difference(units),
            Kind::Grams => self.weight(units),
            Kind::Millilitres => self.volume(units),
            Kind::Millimetres => self.length(units, self.value),
            Kind::Centimetres => self.length(units, 10.0 * self.value),
            Kind::Metres => self.height(units),
            Kind::Hour => hour(self.value, units),
        };
        match units.decimal {
            Decimal::Point => text,
            Decimal::Comma => text.replace('.', ","),
        }
    }

    pub(super) const fn unit_in(self, units: &Units) -> &'static str {
        match (self.kind, units.temperature, units.weight, units.system) {
            (Kind::Degrees | Kind::Setting | Kind::Difference, Temperature::Celsius, ..) => "°C",
            (Kind::Degrees | Kind::Setting | Kind::Difference, Temperature::Fahrenheit, ..) => "°F",
            (Kind::Grams, _, Weight::Grams, _) => "g",
            (Kind::Grams, _, Weight::Pounds, _) => "lb, oz",
            (Kind::Millilitres, _, _, System::Us) => "fl oz",
            (Kind::Millilitres, ..) => "ml",
            (Kind::Millimetres, _, _, System::Metric) => "mm",
            (Kind::Centimetres, _, _, System::Metric) => "cm",
            (Kind::Millimetres | Kind::Centimetres, ..) => "in",
            (Kind::Metres, _, _, System::Us) => "ft",
            (Kind::Metres, ..) => "m",
            (Kind::Hour, ..) => "",
        }
    }

    fn with_unit(self, figure: String, units: &Units) -> String {
        let unit = self.unit_in(units);
        match self.form {
            Form::Sign if unit.starts_with('°') => format!("{figure}°"),
            Form::Whole | Form::Sign => format!("{figure}{GAP}{unit}"),
            Form::Bare | Form::Field | Form::Unit => figure,
        }
    }

    /// To the digits asked for; else a tenth where there is one.
    fn digits(self, value: f64) -> String {
        self.decimals.map_or_else(|| show_degrees(value), |d| show(value, d))
    }

    fn degrees(self, units: &Units, step: f64) -> String {
        let figure = match (units.temperature, self.form) {
            (Temperature::Celsius, _) => self.digits(self.value),
            (Temperature::Fahrenheit, Form::Field) => show_degrees(fahrenheit_of(self.value)),
            // A degree is little more than half of one: whole ones tell as much as halves of the other.
            (Temperature::Fahrenheit, _) => show(to_nearest(fahrenheit_of(self.value), step), 0),
        };
        self.with_unit(figure, units)
    }

    fn difference(self, units: &Units) -> String {
        let figure = match (units.temperature, self.form) {
            (Temperature::Celsius, _) => self.digits(self.value),
            (Temperature::Fahrenheit, Form::Field) => show_degrees(self.value * F_PER_K),
            (Temperature::Fahrenheit, _) => show(self.value * F_PER_K, 0),
        };
        self.with_unit(figure, units)
    }

    /// A quantity too large for its unit in the next one, to a tenth; only where its unit stands beside it.
    fn large(self, per: f64, unit: &str) -> Option<String> {
        let large = self.form == Form::Whole && self.value >= 10.0 * per;
        large.then(|| format!("{}{GAP}{unit}", show_degrees(self.value / per)))
    }

    fn weight(self, units: &Units) -> String {
        match units.weight {
            Weight::Grams => self.large(1000.0, "kg").unwrap_or_else(|| {
                let figure = self.decimals.map_or_else(|| show_grams(self.value), |d| show(self.value, d));
                self.with_unit(figure, units)
            }),
            Weight::Pounds => ounces(self.value),
        }
    }

    fn volume(self, units: &Units) -> String {
        let ml = self.value;
        match units.system {
            System::Us if self.form == Form::Field => show(ml / FL_OZ_ML, 1),
            System::Us if ml >= QUART_ML => format!("{}{GAP}qt", show(ml / QUART_ML, 1)),
            System::Us => format!("{}{GAP}fl oz", show(ml / FL_OZ_ML, usize::from(ml < 3.0 * FL_OZ_ML))),
            System::Uk if ml >= PINT_ML && self.form == Form::Whole => format!("{}{GAP}pints", show(ml / PINT_ML, 1)),
            System::Metric | System::Uk => self.large(1000.0, "l").unwrap_or_else(|| self.with_unit(show_grams(ml), units)),
        }
    }

    fn length(self, units: &Units, mm: f64) -> String {
        let figure = match (units.system, self.kind) {
            (System::Us | System::Uk, _) => eighths(mm / INCH_MM),
            (System::Metric, Kind::Centimetres) => show_degrees(mm / 10.0),
            (System::Metric, _) => show(mm, 0),
        };
        self.with_unit(figure, units)
    }

    fn height(self, units: &Units) -> String {
        let figure = match units.system {
            System::Us => show(to_nearest(self.value * 1000.0 / INCH_MM / 12.0, 10.0), 0),
            System::Metric | System::Uk => show(self.value, 0),
        };
        self.with_unit(figure, units)
    }
}

/// Whole eighths: `1⅜`, `⅝`, `3`.
fn eighths(value: f64) -> String {
    const PARTS: [&str; 8] = ["", "⅛", "¼", "⅜", "½", "⅝", "¾", "⅞"];
    let all = to_nearest(value * 8.0, 1.0).max(0.0);
    let (whole, part) = ((all / 8.0).floor(), all % 8.0);
    #[allow(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "0 to 7")]
    let part = PARTS.get(part as usize).copied().unwrap_or("");
    if whole > 0.0 || part.is_empty() { format!("{}{part}", show(whole, 0)) } else { part.to_owned() }
}

/// Pounds and ounces to an eighth. Below an ounce an eighth is too coarse for salt and yeast: hundredths of an ounce, as small
/// scales show them.
fn ounces(grams: f64) -> String {
    let all = grams / OUNCE_G;
    if all > 0.0 && all < 0.995 {
        return format!("{}{GAP}oz", show(all, 2));
    }
    let eighth = to_nearest(all * 8.0, 1.0);
    let (pounds, rest) = ((eighth / 128.0).floor(), (eighth % 128.0) / 8.0);
    match (pounds > 0.0, rest > 0.0) {
        (true, true) => format!("{}{GAP}lb{GAP}{}{GAP}oz", show(pounds, 0), eighths(rest)),
        (true, false) => format!("{}{GAP}lb", show(pounds, 0)),
        (false, _) => format!("{}{GAP}oz", eighths(rest)),
    }
}

fn hour(minute: f64, units: &Units) -> String {
    #[allow(clippy::cast_possible_truncation, reason = "minutes of a day")]
    let minute = (minute as i64).rem_euclid(24 * 60);
    let (h, m) = (minute / 60, minute % 60);
    match units.clock {
        Clock::H24 => format!("{h:02}:{m:02}"),
        Clock::H12 => format!("{}:{m:02}{GAP}{}", if h % 12 == 0 { 12 } else { h % 12 }, if h < 12 { "am" } else { "pm" }),
    }
}

/// A temperature, °C; a tenth where there is one.
#[must_use]
pub const fn degrees(celsius: f64) -> Quantity {
    Quantity::of(Kind::Degrees, celsius)
}
/// A setting of an oven, °C, whole.
#[must_use]
pub const fn setting(celsius: f64) -> Quantity {
    Quantity::of(Kind::Setting, celsius).to(0)
}
/// A difference of two temperatures, K.
#[must_use]
pub const fn difference(kelvins: f64) -> Quantity {
    Quantity::of(Kind::Difference, kelvins)
}
/// A weight, g.
#[must_use]
pub const fn weight(grams: f64) -> Quantity {
    Quantity::of(Kind::Grams, grams)
}
/// A volume, ml.
#[must_use]
pub const fn volume(ml: f64) -> Quantity {
    Quantity::of(Kind::Millilitres, ml)
}
/// A small length, mm.
#[must_use]
pub const fn small_length(mm: f64) -> Quantity {
    Quantity::of(Kind::Millimetres, mm)
}
/// A length, cm; a tenth where there is one.
#[must_use]
pub const fn length(cm: f64) -> Quantity {
    Quantity::of(Kind::Centimetres, cm)
}
/// A height above the sea, m; in feet to ten.
#[must_use]
pub const fn height(metres: f64) -> Quantity {
    Quantity::of(Kind::Metres, metres)
}
/// An hour of the day, minutes since midnight.
#[must_use]
pub const fn hour_of_day(minute: f64) -> Quantity {
    Quantity::of(Kind::Hour, minute)
}

#[cfg(test)]
mod tests {
    use super::*;

    const US: Units =
        Units { system: System::Us, temperature: Temperature::Fahrenheit, weight: Weight::Pounds, clock: Clock::H12, ..Units::METRIC };

    /// Common practice, no source: 350 F is 175 to 180 °C, a pound is 454 g, a cup 237 ml, a nine-inch tin 23 cm.
    #[test]
    fn figures_are_those_bakers_know() {
        let us = |q: Quantity| q.said(&US);
        assert_eq!([us(setting(177.0)), us(setting(230.0)), us(degrees(-18.0))], ["350 °F", "445 °F", "0 °F"]);
        assert_eq!([us(weight(453.6)), us(weight(28.35)), us(weight(10.0)), us(weight(907.2))], ["1 lb", "1 oz", "0.35 oz", "2 lb"]);
        assert_eq!([us(volume(236.6)), us(volume(946.4)), us(length(22.86))], ["8 fl oz", "1.0 qt", "9 in"]);
        assert_eq!([us(difference(1.0)), us(difference(15.0))], ["2 °F", "27 °F"]);
        assert_eq!([us(hour_of_day(0.0)), us(hour_of_day(720.0)), us(hour_of_day(61.0))], ["12:00 am", "12:00 pm", "1:01 am"]);
        assert_eq!([us(height(1500.0)), height(1500.0).said(&Units::METRIC)], ["4\u{2009}920 ft", "1\u{2009}500 m"]);
        let comma = Units { decimal: Decimal::Comma, ..Units::METRIC };
        assert_eq!(degrees(19.5).said(&comma), "19,5 °C");
    }
}
