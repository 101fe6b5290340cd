//! A figure that may be told: as it was typed, else as it is, in the household's units.

use cerealis_core::measure::{Asked, Units, to_nearest};

/// A field for a figure.
pub struct Field {
    pub name: &'static str,
    pub label: &'static str,
    pub value: String,
    pub unit: &'static str,
    pub wrong: Vec<String>,
}

impl Field {
    /// With what was typed into it, or else the value, to a tenth; `unit` where its name tells none.
    pub fn figure((name, label, unit): (&'static str, &'static str, &'static str), typed: Option<&str>, value: f64, units: &Units) -> Self {
        let asked = Asked::by_name(name);
        Self {
            name,
            label,
            value: typed.map_or_else(|| asked.shown(to_nearest(value, 0.1), units), str::to_owned),
            unit: asked.unit(units).unwrap_or(unit),
            wrong: Vec::new(),
        }
    }

    /// With what is wrong in it.
    pub fn wrong(self, wrong: Vec<String>) -> Self {
        Self { wrong, ..self }
    }
}
