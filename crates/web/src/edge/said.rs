//! Quantities in answers: pages in the household's units, data as the API has it.

use std::borrow::Cow;

use actix_web::{
    Error,
    body::{self, BoxBody, MessageBody},
    dev::{ServiceRequest, ServiceResponse},
    error::ErrorInternalServerError,
    http::header::CONTENT_TYPE,
    middleware::Next,
    web::Data,
};
use cerealis_core::measure::{Decimal, Units, say};
use serde::Serialize;

use crate::State;

/// What is read by people: it is said in their units. Of the rest JSON alone holds sentences; files for people are said where
/// they are written.
const FOR_PEOPLE: [&str; 2] = ["text/html", "text/plain"];

/// Writes the quantities of an answer in the units of who reads it.
///
/// # Errors
/// If the body cannot be read, which it can.
pub async fn in_units<B: MessageBody + 'static>(request: ServiceRequest, next: Next<B>) -> Result<ServiceResponse<BoxBody>, Error> {
    let household = request.app_data::<Data<State>>().map_or(Units::METRIC, |state| state.household.units());
    let (request, answer) = next.call(request).await?.into_parts();
    let kind = answer.headers().get(CONTENT_TYPE).and_then(|k| k.to_str().ok()).unwrap_or_default().to_owned();
    let units = match FOR_PEOPLE.iter().any(|k| kind.starts_with(k)) {
        true => household,
        false if kind.contains("json") => Units::METRIC,
        false => return Ok(ServiceResponse::new(request, answer.map_into_boxed_body())),
    };
    let (head, body) = answer.into_parts();
    let bytes = body::to_bytes(body).await.map_err(|_| ErrorInternalServerError("the answer could not be read"))?;
    let said = match std::str::from_utf8(&bytes).map(|text| said(text, &kind, &units)) {
        Ok(Cow::Owned(said)) => said.into(),
        _ => bytes,
    };
    Ok(ServiceResponse::new(request, head.set_body(said).map_into_boxed_body()))
}

fn said<'a>(text: &'a str, kind: &str, units: &Units) -> Cow<'a, str> {
    let said = say(text, units);
    if units.decimal == Decimal::Comma && kind.starts_with("text/html") { Cow::Owned(with_commas(&said)) } else { said }
}

/// Parts of a page that stand as they were written: fields, scripts, and the baker's own lines.
const AS_WRITTEN: [(&str, &str); 4] =
    [("<textarea", "</textarea>"), ("<script", "</script>"), ("<style", "</style>"), ("<td class=\"src\"", "</td>")];

/// A page whose figures have a comma before the tenths: in what is read, not in tags.
fn with_commas(html: &str) -> String {
    let mut out = String::with_capacity(html.len());
    let mut rest = html;
    while let Some(at) = rest.find('<') {
        let (text, tag) = rest.split_at(at);
        commas(text, &mut out);
        let whole = AS_WRITTEN.iter().find(|(begins, _)| tag.starts_with(begins)).and_then(|(_, ends)| Some(tag.find(ends)? + ends.len()));
        let end = whole.or_else(|| Some(tag.find('>')? + 1)).unwrap_or(tag.len());
        let (kept, after) = tag.split_at(end);
        out.push_str(kept);
        rest = after;
    }
    commas(rest, &mut out);
    out
}

fn commas(text: &str, out: &mut String) {
    let mut before = ' ';
    let mut signs = text.chars().peekable();
    while let Some(sign) = signs.next() {
        let tenths = sign == '.' && before.is_ascii_digit() && signs.peek().is_some_and(char::is_ascii_digit);
        out.push(if tenths { ',' } else { sign });
        before = sign;
    }
}

/// JSON that a form carries and sends back: its quantities stay quantities, in whatever units the page is read.
#[must_use]
pub fn carried(value: &impl Serialize) -> String {
    let json = serde_json::to_string(value).unwrap_or_default();
    ['\u{FFF9}', '\u{FFFA}', '\u{FFFB}'].into_iter().fold(json, |json, mark| json.replace(mark, &format!("\\u{:04x}", u32::from(mark))))
}

#[cfg(test)]
mod tests {
    use cerealis_core::measure::degrees;

    use super::*;

    #[test]
    fn tenths_have_a_comma_where_they_are_read_and_nowhere_else() {
        let html = "<svg viewBox=\"0 0 1.5 2\"><text>2.5 %</text></svg><textarea>1.5 kg</textarea><td class=\"src\">2.5 cups</td>v. 7.";
        let said = "<svg viewBox=\"0 0 1.5 2\"><text>2,5 %</text></svg><textarea>1.5 kg</textarea><td class=\"src\">2.5 cups</td>v. 7.";
        assert_eq!(with_commas(html), said);
    }

    #[test]
    fn what_a_form_carries_is_not_said_and_comes_back_as_it_was() {
        let text = format!("In the pantry, {}.", degrees(14.0));
        let json = carried(&text);
        assert!(matches!(say(&json, &Units::METRIC), Cow::Borrowed(_)));
        assert_eq!(serde_json::from_str::<String>(&json).unwrap(), text);
    }
}
