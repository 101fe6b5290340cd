//! The fields of a form as they were typed: read into numbers, shown again with their errors.

use std::{collections::BTreeMap, future::Future, pin::Pin};

use actix_web::{FromRequest, HttpRequest, dev::Payload, http::StatusCode, web};
use cerealis_core::input::{FieldError, InputErrors, Pointer, number};
use serde::Serialize;
use serde_json::Value;

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
}

impl Fields {
    /// The fields that show what is kept.
    #[must_use]
    pub fn of(kept: &impl Serialize) -> Self {
        let mut fields = Self::default();
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
            Value::String(text) => text.clone(),
            Value::Number(n) => n.to_string().trim_end_matches(".0").to_owned(),
            Value::Bool(true) => "on".to_owned(),
            Value::Bool(false) | Value::Null => return,
        };
        self.typed.insert(here.field(), text);
    }

    /// What stands in the field of that name.
    #[must_use]
    pub fn value(&self, field: &str) -> &str {
        self.typed.get(field).map_or("", String::as_str)
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

    /// Words with commas between them.
    #[must_use]
    pub fn list(&self, here: &Pointer) -> Vec<String> {
        self.value(&here.field()).split(',').map(str::trim).filter(|t| !t.is_empty()).map(str::to_owned).collect()
    }

    /// A number, if anything stands there; what is none is noted at its field.
    pub fn number(&mut self, here: &Pointer) -> Option<f64> {
        let text = self.text(here)?;
        number(&text).map_err(|message| self.wrong.push(FieldError { pointer: here.clone(), message })).ok()
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

impl FromRequest for Fields {
    type Error = PageFailure;
    type Future = Pin<Box<dyn Future<Output = Result<Self, PageFailure>>>>;

    fn from_request(request: &HttpRequest, payload: &mut Payload) -> Self::Future {
        let body = web::Bytes::from_request(request, payload);
        Box::pin(async move {
            let bytes = body.await.map_err(|e| PageFailure(broken(&e)))?;
            few_fields(&bytes).map_err(PageFailure)?;
            let pairs: Vec<(String, String)> = serde_urlencoded::from_bytes(&bytes)
                .map_err(|e| PageFailure(unreadable(StatusCode::BAD_REQUEST, format!("The form could not be read: {e}."))))?;
            Ok(Self { typed: pairs.into_iter().collect(), wrong: Vec::new() })
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
        );
        let shown = ["name", "places[room_c]", "places[fridge_c]", "fan", "also", "missing"].map(|n| fields.value(n).to_owned());
        assert_eq!(shown, ["Skerry", "19.5", "4", "on", "a, b", ""]);
    }

    #[test]
    fn what_is_no_number_is_told_at_its_field_and_stays_as_typed() {
        let mut fields = Fields { typed: [("tap_c".to_owned(), "cold".to_owned())].into(), wrong: Vec::new() };
        let here = Pointer::root().at("tap_c");
        assert_eq!(fields.number(&here), None);
        fields.refuse(InputErrors::one(here, "Flour and tap water lie between -20 and 60 °C."));
        assert_eq!((fields.value("tap_c"), fields.wrong("tap_c").len()), ("cold", 1));
    }
}
