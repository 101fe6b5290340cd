//! The fields of a form as they were typed: read into numbers, shown again with their errors.

use std::{collections::BTreeMap, future::Future, pin::Pin};

use actix_web::{FromRequest, HttpRequest, dev::Payload, http::StatusCode, web};
use cerealis_core::{
    input::{FieldError, InputErrors, Pointer},
    kitchen::Assumed,
    measure::{Asked, Units, hour_of_day, kept_hour, typed, typed_hour},
};
use serde::Serialize;
use serde_json::Value;

use crate::State;

use super::{
    PageFailure,
    sent::{broken, few_fields, unreadable},
};

/// What stands in each field, and what is wrong there. A field is named as the JSON pointer of the same
/// thing in the API is: `places[room_c]` is `/places/room_c`.
#[derive(Debug, Clone, Default)]
pub struct Fields {
    typed: BTreeMap<String, String>,
    wrong: Vec<FieldError>,
    units: Units,
}

impl Fields {
    /// The fields that show what is kept.
    #[must_use]
    pub fn of(kept: &impl Serialize, units: Units) -> Self {
        let mut fields = Self { units, ..Self::default() };
        if let Ok(value) = serde_json::to_value(kept) {
            fields.lay_out(&Pointer::root(), &value);
        }
        fields
    }

    fn lay_out(&mut self, here: &Pointer, value: &Value) {
        let text = match value {
            Value::Object(parts) => {
                for (name, part) in parts {
                    self.lay_out(&here.at(name), part);
                }
                return;
            }
            Value::Array(parts) if parts.iter().any(Value::is_object) => {
                for (i, part) in parts.iter().enumerate() {
                    self.lay_out(&here.at(i), part);
                }
                return;
            }
            Value::Array(words) => words.iter().filter_map(Value::as_str).collect::<Vec<_>>().join(", "),
            Value::String(text) if is_hour(here) => {
                typed_hour(text).map_or_else(|| text.clone(), |m| hour_of_day(f64::from(m)).said(&self.units))
            }
            Value::String(text) => text.clone(),
            Value::Number(n) => Asked::by_name(&here.field()).shown(n.as_f64().unwrap_or_default(), &self.units),
            Value::Bool(true) => "on".to_owned(),
            Value::Bool(false) | Value::Null => return,
        };
        self.typed.insert(here.field(), text);
    }

    /// The unit beside a field, in which a bare figure is read; the one given where it has only that.
    #[must_use]
    pub fn unit<'a>(&self, field: &str, given: &'a str) -> &'a str {
        Asked::by_name(field).unit(&self.units).unwrap_or(given)
    }

    /// What stands in the field of that name.
    #[must_use]
    pub fn value(&self, field: &str) -> &str {
        self.typed.get(field).map_or("", String::as_str)
    }

    /// Whether the figure of that name is assumed: the field `assumed` names those that are.
    #[must_use]
    pub fn is_assumed(&self, field: &str) -> bool {
        let own = !field.starts_with("other_ovens") && !field.contains("[night]");
        let last = field.rsplit('[').next().unwrap_or(field).trim_end_matches(']');
        own && self.value("assumed").split(", ").filter_map(Assumed::from_word).any(|a| a.figure() == last)
    }

    /// What is wrong there.
    #[must_use]
    pub fn wrong(&self, field: &str) -> Vec<&str> {
        self.wrong.iter().filter(|e| e.pointer.field() == field).map(|e| e.message.as_str()).collect()
    }

    /// Whether anything is wrong.
    #[must_use]
    pub const fn is_wrong(&self) -> bool {
        !self.wrong.is_empty()
    }

    /// What stands at a place, if anything.
    #[must_use]
    pub fn text(&self, here: &Pointer) -> Option<String> {
        Some(self.value(&here.field()).trim()).filter(|t| !t.is_empty()).map(str::to_owned)
    }

    /// An hour as it is kept; what is none stays as it was typed, for the check to refuse.
    #[must_use]
    pub fn hour(&self, here: &Pointer) -> String {
        kept_hour(self.value(&here.field()))
    }

    /// Words with commas between them.
    #[must_use]
    pub fn list(&self, here: &Pointer) -> Vec<String> {
        self.value(&here.field()).split(',').map(str::trim).filter(|t| !t.is_empty()).map(str::to_owned).collect()
    }

    /// One of a list, if anything stands there; what is none of it is noted at its field.
    pub fn choice<T>(&mut self, here: &Pointer, of: impl Fn(&str) -> Option<T>) -> Option<T> {
        let text = self.text(here)?;
        let chosen = of(&text);
        if chosen.is_none() {
            self.wrong.push(FieldError { pointer: here.clone(), message: "Choose one of the list.".to_owned() });
        }
        chosen
    }

    /// A number, if anything stands there; what is none is noted at its field.
    pub fn number(&mut self, here: &Pointer) -> Option<f64> {
        let text = self.text(here)?;
        typed(&text, Asked::by_name(&here.field()), &self.units)
            .map_err(|message| self.wrong.push(FieldError { pointer: here.clone(), message }))
            .ok()
    }

    /// A number that must stand there.
    pub fn needed(&mut self, here: &Pointer) -> f64 {
        if self.text(here).is_none() {
            self.wrong.push(FieldError { pointer: here.clone(), message: "Write a number here, for example 21.".to_owned() });
        }
        self.number(here).unwrap_or(f64::NAN)
    }

    /// Takes over what a check found wrong; a field that could not be read keeps its first sentence.
    pub fn refuse(&mut self, errors: InputErrors) {
        let new: Vec<_> = errors.0.into_iter().filter(|e| !self.wrong.iter().any(|w| w.pointer == e.pointer)).collect();
        self.wrong.extend(new);
    }
}

/// Fields of hours are named from where to where.
fn is_hour(here: &Pointer) -> bool {
    matches!(here.as_str().rsplit('/').next(), Some("from" | "to"))
}

impl FromRequest for Fields {
    type Error = PageFailure;
    type Future = Pin<Box<dyn Future<Output = Result<Self, PageFailure>>>>;

    fn from_request(request: &HttpRequest, payload: &mut Payload) -> Self::Future {
        let body = web::Bytes::from_request(request, payload);
        let units = request.app_data::<web::Data<State>>().map_or(Units::METRIC, |state| state.household.units());
        Box::pin(async move {
            let bytes = body.await.map_err(|e| PageFailure(broken(&e)))?;
            few_fields(&bytes).map_err(PageFailure)?;
            let pairs: Vec<(String, String)> = serde_urlencoded::from_bytes(&bytes)
                .map_err(|e| PageFailure(unreadable(StatusCode::BAD_REQUEST, format!("The form could not be read: {e}."))))?;
            Ok(Self { typed: pairs.into_iter().collect(), wrong: Vec::new(), units })
        })
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_body_is_laid_out_under_the_names_of_its_pointers() {
        let fields = Fields::of(
            &serde_json::json!({ "name": "Skerry", "places": { "room_c": 19.5, "fridge_c": 4.0 }, "fan": true, "also": ["a", "b"] }),
            Units::METRIC,
        );
        let shown = ["name", "places[room_c]", "places[fridge_c]", "fan", "also", "missing"].map(|n| fields.value(n).to_owned());
        assert_eq!(shown, ["Skerry", "19.5", "4", "on", "a, b", ""]);
    }

    #[test]
    fn what_is_no_number_is_told_at_its_field_and_stays_as_typed() {
        let mut fields = Fields { typed: [("tap_c".to_owned(), "cold".to_owned())].into(), ..Fields::default() };
        let here = Pointer::root().at("tap_c");
        assert_eq!(fields.number(&here), None);
        fields.refuse(InputErrors::one(here, "Flour and tap water lie between -20 and 60 °C."));
        assert_eq!((fields.value("tap_c"), fields.wrong("tap_c").len()), ("cold", 1));
    }
}
