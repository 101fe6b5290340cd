use actix_web::web::{Data, Json};
use cerealis_core::{
    plan,
    reader::{Answered, Choices, PartKind, Reading, read},
};
use serde::Deserialize;
use serde_json::{Map, Value, json};

use super::findings;
use crate::{
    State,
    edge::{Failure, Sent, on_disk},
};

#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Body {
    text: String,
    cup: Option<String>,
    flour_measure: Option<String>,
    locale: Option<String>,
    answers: Option<Vec<Answered>>,
}

pub async fn call(state: Data<State>, Sent(body): Sent<Body>) -> Result<Json<Value>, Failure> {
    let kitchen = on_disk(&state.db, cerealis_store::kitchen::get).await?;
    let mut assumed = Map::new();
    let mut take = |name: &str, given: Option<String>, usual: String| {
        given.unwrap_or_else(|| {
            assumed.insert(name.to_owned(), json!(usual));
            usual
        })
    };
    let choices = Choices {
        cup: take("cup", body.cup, kitchen.cup.clone()),
        flour_measure: take("flour_measure", body.flour_measure, kitchen.flour_measure.clone()),
        locale: take("locale", body.locale, kitchen.locale.clone()),
        ..Choices::from(&kitchen)
    };
    let reading = read(&body.text, &choices, &body.answers.unwrap_or_default(), &state.tables())?;
    let t = state.tables();
    let analysis = reading.formula.analyse(&t.pantry, &t.styles);
    let mut found = reading.findings(&t);
    found.extend(plan::findings::of_recipe(Some(&reading), &analysis, &kitchen, &t));
    let mut answer = wire(&reading);
    if let Some(object) = answer.as_object_mut() {
        object.insert("findings".into(), findings(&found));
        object.insert("assumed".into(), Value::Object(assumed));
    }
    Ok(Json(answer))
}

fn wire(r: &Reading) -> Value {
    let mut index = 0;
    let lines: Vec<Value> = r.lines.iter().map(|l| {
        let at = l.grams.map(|_| {
            index += 1;
            index - 1
        });
        let mut line = json!({
            "source": l.source, "source_line": l.source_line, "ingredient": l.ingredient.id, "grams": l.grams.map(|g| g.likely),
            "grams_low": l.grams.map(|g| g.low), "grams_high": l.grams.map(|g| g.high), "stage": l.stage, "line": at, "questions": l.questions,
        });
        if let (Some(object), Some(c)) = (line.as_object_mut(), l.temp_c) {
            object.insert("temp_c".into(), json!(c));
        }
        if let (Some(object), Some(h)) = (line.as_object_mut(), l.hydration_pct) {
            object.insert("hydration_pct".into(), json!(h));
        }
        if let (Some(object), true) = (line.as_object_mut(), l.optional) {
            object.insert("optional".into(), json!(true));
        }
        line
    }).collect();
    let steps: Vec<Value> = r
        .steps
        .iter()
        .map(|s| {
            let mut step = Map::new();
            step.insert("text".into(), json!(s.text));
            step.insert("kind".into(), json!(s.kind()));
            let mut put = |name: &str, value: Option<Value>| {
                if let Some(value) = value {
                    step.insert(name.to_owned(), value);
                }
            };
            put("oven_c", s.oven_c.map(|c| json!(c)));
            put("minutes_low", s.minutes.map(|m| json!(m.low)));
            put("minutes_high", s.minutes.map(|m| json!(m.high)));
            put("pieces", s.pieces.map(|n| json!(n)));
            put("piece_g", s.piece_g.map(|g| json!(g)));
            put("lid", s.lid.map(|on| json!(if on { "on" } else { "off" })));
            Value::Object(step)
        })
        .collect();
    let mut body = r.formula.body();
    // The API's formula carries what can be posted on; the pasted text and the sources stay with the caller.
    body.text = None;
    for line in &mut body.lines {
        line.source = None;
    }
    json!({ "formula": body, "lines": lines, "unread": r.unread, "steps": steps, "parts": parts(r) })
}

/// Every piece of the text and what it was taken for; `index` is its place among the lines or what is unread.
fn parts(r: &Reading) -> Vec<Value> {
    let part = |p: &cerealis_core::reader::Part| {
        let (kind, index) = match p.kind {
            PartKind::Title => ("title", None),
            PartKind::Heading => ("heading", None),
            PartKind::Line(i) => ("line", Some(i)),
            PartKind::Step => ("step", None),
            PartKind::Oven => ("oven", None),
            PartKind::Remark => ("remark", None),
            PartKind::Unread(i) => ("unread", Some(i)),
        };
        let mut part = json!({ "kind": kind, "start": p.start, "end": p.end });
        if let (Some(object), Some(i)) = (part.as_object_mut(), index) {
            object.insert("index".into(), json!(i));
        }
        part
    };
    r.parts.iter().map(part).collect()
}
