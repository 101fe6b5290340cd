//! The oven: what to set, how long, when to look, and what bakers do with like bread.

use std::collections::BTreeMap;

use actix_web::{
    HttpResponse,
    http::StatusCode,
    web::{self, Data, ServiceConfig, get},
};
use askama::Template;
use cerealis_core::{
    formula::oven_of,
    input::{InputErrors, Pointer, number},
    measure::{show, show_grams},
    oven::{Advice, Bake, BakeBody, Meets, Status, advise, cautions, find, near},
};
use serde::Deserialize;
use serde_qs::actix::QsQuery;

use super::{Chrome, FindingView, SHAPES, choose, formula_kept, kitchen, page};
use crate::{State, edge::PageFailure};

pub fn routes(app: &mut ServiceConfig) {
    app.service(web::resource("/oven").route(get().to(show_oven)));
}

#[derive(Debug, Deserialize, Default, Clone)]
struct Query {
    #[serde(default)]
    formula: String,
    #[serde(default)]
    p: BTreeMap<String, String>,
}

/// What the form says, over the formula's bake.
fn body(q: &Query) -> (BakeBody, Vec<(Pointer, String)>) {
    let mut wrong = Vec::new();
    let text = |name: &str| q.p.get(name).map(|v| v.trim().to_owned()).filter(|v| !v.is_empty());
    let mut figure = |name: &str| text(name).and_then(|t| number(&t).map_err(|e| wrong.push((Pointer::root().at(name), e))).ok());
    let body = BakeBody {
        piece_g: figure("piece_g"),
        pieces: figure("pieces"),
        set_c: figure("set_c"),
        dough_c: figure("dough_c"),
        shape: text("shape"),
        vessel: text("vessel"),
        glaze: text("glaze"),
        colour: text("colour"),
        crust: text("crust"),
        lid: text("lid").map(|l| l == "1"),
        fan: text("fan").map(|f| f == "1"),
        arrangement: text("touching").map(|t| if t == "1" { "touching".to_owned() } else { "free".to_owned() }),
        ..BakeBody::default()
    };
    (body, wrong)
}

struct EventRow {
    minute: String,
    title: &'static str,
    symbol: &'static str,
    words: String,
    sign: &'static str,
}

struct AnswerView {
    set: String,
    fahrenheit: String,
    fan: String,
    minutes: String,
    core: String,
    loss: String,
    preheat: String,
    why: String,
    events: Vec<EventRow>,
    practice: Vec<(String, String, bool)>,
    practice_words: String,
    colour_index: String,
    colour: &'static str,
    wide: Strip,
    narrow: Strip,
    findings: Vec<FindingView>,
    cautions: Vec<&'static str>,
    working: Vec<(String, String, String)>,
}

#[derive(Template)]
#[template(path = "oven/page.html")]
struct OvenPage {
    chrome: Chrome,
    id: String,
    name: String,
    piece_g: String,
    pieces: String,
    set_c: String,
    told: String,
    shape: String,
    vessel: String,
    glaze: String,
    colour: String,
    crust: String,
    lid: bool,
    touching: bool,
    errors: Vec<(String, String)>,
    answer: Option<AnswerView>,
}

const VESSELS: [(&str, &str); 10] = [
    ("sheet", "baking sheet"),
    ("stone", "stone"),
    ("steel", "steel"),
    ("pan-metal", "metal tin"),
    ("pan-glass", "glass tin"),
    ("pan-silicone", "silicone tin"),
    ("dish", "dish"),
    ("muffin-tin", "muffin tin"),
    ("pot", "lidded pot"),
    ("cover", "under a cover"),
];
const GLAZES: [(&str, &str); 7] = [
    ("none", "none"),
    ("egg", "egg"),
    ("yolk-milk", "yolk and milk"),
    ("milk", "milk"),
    ("syrup", "syrup"),
    ("soda", "soda bath"),
    ("poached", "poached"),
];

async fn show_oven(state: Data<State>, query: QsQuery<Query>) -> Result<HttpResponse, PageFailure> {
    let kitchen = kitchen(&state).await?;
    let chrome = Chrome::new("Oven", &kitchen, state.clock.now());
    let q = query.into_inner();
    if q.formula.is_empty() {
        return choose(&state, chrome, "Which bread goes in?", "The oven needs the dough: choose a formula, or read a new one.", "/oven")
            .await;
    }
    let formula = formula_kept(&state, &q.formula).await?;
    let t = &state.tables();
    let a = formula.analyse(&t.pantry, &t.styles);
    let base = oven_of(&a, &t.pantry).in_kitchen(&kitchen);
    let told = formula.oven;
    let (body, wrong) = body(&q);
    let checked = body.over(base.clone());
    let none = InputErrors(Vec::new());
    let refused = checked.as_ref().err().unwrap_or(&none);
    let errors = wrong
        .into_iter()
        .chain(refused.0.iter().map(|e| (e.pointer.clone(), e.message.clone())))
        .map(|(p, m)| (p.as_str().trim_start_matches('/').to_owned(), m))
        .collect::<Vec<_>>();
    let bake = checked.as_ref().unwrap_or(&base);
    let typed = |name: &str, usual: String| q.p.get(name).cloned().unwrap_or(usual);
    let ok = errors.is_empty();
    let advice = advise(bake, &t.oven);
    let view = OvenPage {
        chrome,
        id: q.formula.clone(),
        name: formula.name.clone().unwrap_or_else(|| "Unnamed bread".into()),
        piece_g: typed("piece_g", show_grams(bake.piece_g).replace('\u{2009}', "")),
        pieces: typed("pieces", bake.pieces.to_string()),
        set_c: typed("set_c", String::new()),
        told: told.map_or_else(String::new, |o| {
            let c = o.set_c.map(|c| format!("{} °C", show(c, 0)));
            let m = o.minutes.map(|(l, h)| {
                if (l - h).abs() < 0.5 { format!("{} min", show(l, 0)) } else { format!("{}–{} min", show(l, 0), show(h, 0)) }
            });
            [c, m].into_iter().flatten().collect::<Vec<_>>().join(", ")
        }),
        shape: bake.shape.word().into(),
        vessel: bake.vessel.word().into(),
        glaze: bake.glaze.word().into(),
        colour: bake.colour().word().into(),
        crust: bake.crust().word().into(),
        lid: bake.lid,
        touching: bake.touching,
        answer: ok.then(|| answer(bake, &advice, t)),
        errors,
    };
    page(&view, if ok { StatusCode::OK } else { StatusCode::UNPROCESSABLE_ENTITY })
}

fn answer(bake: &Bake, a: &Advice, t: &cerealis_core::Tables) -> AnswerView {
    let span = |low: Option<f64>, high: Option<f64>| {
        low.zip(high).map_or_else(|| "not done".to_owned(), |(l, h)| format!("{}–{}", show(l, 0), show(h, 0)))
    };
    let near = near(bake, a.set_c, &t.oven);
    let practice_words = match (near.first(), a.minutes) {
        (None, _) => "No like bread on record.".to_owned(),
        (Some(n), Some(m)) => {
            let (low, high) = n.minutes;
            if m < low * 0.85 || m > high * 1.15 {
                format!(
                    "Bakers say {}: more than 15 % off. For the minutes trust them, and the core above all.",
                    span(Some(low), Some(high))
                )
            } else {
                String::new()
            }
        }
        _ => String::new(),
    };
    let why = match (a.meets, a.status) {
        (Some(Meets::Crosses), _) if cerealis_core::oven::colour_word(a.colour_index) != bake.colour().word() => {
            "At this setting the crust is within a shade of your wish when the middle is done."
        }
        (Some(Meets::Crosses), _) => "At this setting the crust is as wished when the middle is done.",
        (Some(Meets::ColourAheadAtCoolest), _) => {
            "Rich and big: even at the coolest setting bakers use, the crust runs ahead. Foil, or smaller pieces."
        }
        (Some(Meets::ColourBehindAtHottest), _) => {
            "Small and lean: the middle is done first even at the hottest setting bakers use. A glaze helps, or accept it paler."
        }
        (None, Status::Together) => "Core and crust meet at this setting.",
        (None, Status::ColourFirst) => "At this setting the crust is dark before the middle is done.",
        (None, Status::CoreFirst) => "The middle is done first: stay for colour.",
        (None, Status::StaysPale) => "It stays pale at this setting.",
        (None, Status::NotDone) => "The middle is not done at this setting.",
    };
    let titles: [(&str, &str, &str, &str); 9] = [
        ("preheat-from", "Heat the oven", "heat", "the thermometer stops climbing"),
        ("load", "Load", "bake", "a dent comes back slowly"),
        ("steam-off", "Let the steam out", "steam", "lifted, begins to colour"),
        ("lid-off", "Lid off", "lid", "risen, pale, dry on top"),
        ("turn", "Turn it", "turn", "one side ahead of the other"),
        ("foil", "Foil, if golden already", "foil", "ridges golden, valleys still pale: leave it off"),
        ("check", "Look, probe", "check", "near its core temperature"),
        ("done", "Out, onto a rack", "slice", "colour in the cuts too; a hollow knock"),
        ("slice-from", "Slice from here", "slice", "base at room temperature"),
    ];
    let events = a
        .events()
        .into_iter()
        .filter_map(|e| {
            titles.iter().find(|t| t.0 == e.kind).map(|(kind, title, symbol, sign)| EventRow {
                minute: if *kind == "done" { span(a.minutes_low, a.minutes_high) } else { show(e.at_min, 0) },
                title,
                symbol,
                sign,
                words: match *kind {
                    "preheat-from" => format!("to {} °C", show(a.set_c, 0)),
                    "check" => format!("{} °C is done", show(a.core_target_c, 0)),
                    _ => String::new(),
                },
            })
        })
        .collect();
    AnswerView {
        set: show(a.set_c, 0),
        fahrenheit: show(cerealis_core::measure::to_nearest(a.set_c * 1.8 + 32.0, 5.0), 0),
        fan: show(cerealis_core::measure::to_nearest(a.set_c - 20.0, 5.0), 0),
        minutes: span(a.minutes_low, a.minutes_high),
        core: show(a.core_target_c, 0),
        loss: show(a.loss_pct, 0),
        preheat: a.preheat_lead_min.map_or_else(|| "more than two hours".into(), |m| format!("{} min", show(5.0 * (m / 5.0).ceil(), 0))),
        why: why.into(),
        events,
        practice: near
            .iter()
            .map(|n| {
                (
                    without_setting(&n.what),
                    format!(
                        "{} min at {} °C",
                        if (n.minutes.0 - n.minutes.1).abs() < 0.5 {
                            show(n.minutes.0, 0)
                        } else {
                            span(Some(n.minutes.0), Some(n.minutes.1))
                        },
                        show(n.set_c, 0)
                    ),
                    n.is_single(),
                )
            })
            .collect(),
        practice_words,
        colour_index: show(a.colour_index, 2),
        colour: cerealis_core::oven::colour_word(a.colour_index),
        wide: Strip::of(a, 640),
        narrow: Strip::of(a, 358),
        findings: find(bake, a, &t.oven)
            .iter()
            .enumerate()
            .map(|(i, f)| FindingView::new(i, f))
            .map(|mut f| {
                f.remedies.clear();
                f
            })
            .collect(),
        cautions: cautions(bake, a.steam_min > 0.0),
        working: a
            .working()
            .into_iter()
            .map(|w| {
                (
                    w.label.clone(),
                    format!("{} {}", show(w.value, usize::from(w.value < 20.0)), w.unit),
                    [w.formula.unwrap_or_default(), w.source.map(|s| format!("({s})")).unwrap_or_default()].join(" "),
                )
            })
            .collect(),
    }
}

/// The row's words often end with its setting, which stands beside them already.
fn without_setting(what: &str) -> String {
    what.rsplit_once(", ").filter(|(_, end)| end.ends_with(" C")).map_or(what, |(w, _)| w).to_owned()
}

/// The crust's colour over the bake, drawn.
struct Strip {
    width: u32,
    /// Word, start, width, and whether the word has room.
    parts: Vec<(&'static str, String, String, bool)>,
    /// The bracket of the minutes, and its middle.
    bracket: Option<(String, String)>,
}

impl Strip {
    fn of(a: &Advice, width: u32) -> Self {
        let end = a.minutes_high.unwrap_or(60.0).max(a.curve.last().map_or(1.0, |r| r.min));
        let x = crate::draw::Scale::new(0.0, end, 0.0, f64::from(width));
        let mut starts: Vec<(&'static str, f64)> = Vec::new();
        for row in &a.curve {
            if starts.last().is_none_or(|(word, _)| *word != row.colour) {
                starts.push((row.colour, x.at(row.min)));
            }
        }
        let ends = starts.iter().skip(1).map(|s| s.1).chain([f64::from(width)]);
        let parts = starts
            .iter()
            .zip(ends)
            .map(|((word, from), to)| {
                let room = 8.0 * f64::from(u8::try_from(word.len()).unwrap_or(u8::MAX)) + 10.0;
                (*word, format!("{from:.1}"), format!("{:.1}", to - from), to - from >= room)
            })
            .collect();
        let bracket = a.minutes_low.zip(a.minutes_high).map(|(low, high)| {
            let middle = x.at(f64::midpoint(low, high)).min(f64::from(width) - 40.0);
            (crate::draw::path([(x.at(low), 16.0), (x.at(low), 6.0), (x.at(high), 6.0), (x.at(high), 16.0)]), format!("{middle:.1}"))
        });
        Self { width, parts, bracket }
    }
}

#[cfg(test)]
mod tests {
    use cerealis_core::oven::{Colour, Crust, Glaze, Shape, Vessel};

    use super::*;

    #[test]
    fn the_lists_of_the_page_are_the_cores() {
        assert_eq!(SHAPES.map(|s| s.0).to_vec(), Shape::words());
        assert_eq!(VESSELS.map(|s| s.0).to_vec(), Vessel::words());
        assert_eq!(GLAZES.map(|s| s.0).to_vec(), Glaze::words());
        assert_eq!((Colour::words().len(), Crust::words().len()), (4, 2));
    }
}
