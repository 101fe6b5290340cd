//! The same dough in other sizes: settings and minutes on one scale, to print; and what is done in the time one has.

use actix_web::{
    HttpResponse,
    http::StatusCode,
    web::{self, Data, ServiceConfig, get},
};
use askama::Template;
use cerealis_core::{
    input::number,
    measure::{degrees, show, weight},
    oven::{Size, SizeKind, heaviest_within, sizes},
};
use serde_qs::actix::QsQuery;

use super::{
    answer::{practised, span, without_setting},
    asked::{Opened, Query},
    tabs,
};
use crate::{
    State,
    draw::{Cut, Outline, PixelScale, Slab, path, px},
    edge::PageFailure,
    screens::{Chrome, page},
};

pub(super) fn routes(app: &mut ServiceConfig) {
    app.service(web::resource("/oven/sizes").route(get().to(show_sizes)));
}

/// A size on the scale of minutes.
struct Row {
    title: String,
    each: String,
    dial: String,
    minutes: String,
    core: String,
    /// Bar: x, width.
    bar: Option<(String, String)>,
    /// Foil: x.
    foil: Option<String>,
    /// Bracket of the nearest practice.
    bracket: Option<String>,
    practice: Option<(String, String)>,
    sign: &'static str,
    in_time: bool,
    mine: bool,
    href: String,
}

/// A size as baked, in the drawing of all: where it stands, its outline, its name below.
struct Outlined {
    at: String,
    outline: String,
    middle: String,
    name: String,
    each: String,
}

#[derive(Template)]
#[template(path = "oven/sizes.html")]
struct SizesPage {
    chrome: Chrome,
    tabs: Vec<(String, &'static str, bool)>,
    id: String,
    name: String,
    dough: String,
    colour: &'static str,
    heat: &'static str,
    /// Hidden fields of the question.
    kept: Vec<(String, String)>,
    have: String,
    errors: Vec<String>,
    /// The heaviest piece done in that time, in words.
    heaviest: String,
    rows: Vec<Row>,
    ticks: Vec<(String, String)>,
    five_cm: String,
    outlines: Vec<Outlined>,
}

/// The scale of minutes, pixels.
const WIDTH: f64 = 480.0;
/// The drawing of the outlines, pixels: wide, to the base; between two; a word's room.
const DRAWING: (f64, f64) = (1180.0, 150.0);
const BETWEEN: f64 = 40.0;
const WORD: f64 = 120.0;
/// Shortest and longest time one may have, minutes.
const HAVE: (f64, f64) = (5.0, 300.0);

async fn show_sizes(state: Data<State>, query: QsQuery<Query>) -> Result<HttpResponse, PageFailure> {
    let q = query.into_inner();
    let o = match Opened::of(&q, "/oven/sizes", &state).await? {
        Ok(opened) => opened,
        Err(choose) => return Ok(choose),
    };
    let asked = &o.asked;
    let t = state.tables();
    let bake = asked.shown();
    let dial = asked.oven().dial;
    let (have, mut errors) = match q.text("have").map(|text| number(&text)) {
        None => (None, Vec::new()),
        Some(Ok(m)) if (HAVE.0..=HAVE.1).contains(&m) => (Some(m), Vec::new()),
        Some(Ok(_)) => (None, vec![format!("Between {} and {} minutes.", HAVE.0, HAVE.1)]),
        Some(Err(e)) => (None, vec![e]),
    };
    let all = sizes(bake, asked.dough_g, &t.oven);
    let longest = all
        .iter()
        .filter_map(|s| s.advice.minutes_high)
        .chain(all.iter().filter_map(|s| s.near.first().map(|n| n.minutes.1)))
        .fold(20.0, f64::max);
    let most = (longest / 10.0).ceil() * 10.0;
    let x = PixelScale::new(0.0, most, 0.0, WIDTH - 10.0);
    let mine = |s: &Size| s.bake.shape == bake.shape && (s.bake.piece_g / bake.piece_g).ln().abs() < 0.25;
    let rows = all.iter().map(|s| row(s, &q, dial, &x, have, mine(s))).collect();
    let every = if most > 60.0 { 20 } else { 10 };
    let ticks = (0..=10).map(|i| f64::from(i * every)).take_while(|m| *m <= most).map(|m| (px(x.at(m)), show(m, 0))).collect();
    let heaviest = have.map_or_else(String::new, |m| {
        heaviest_within(bake, m, &t.oven).map_or_else(
            || format!("Nothing of this shape is done in {} min in the oven.", show(m, 0)),
            |g| format!("Of this shape, pieces up to {} are out within {} min even if they are slow.", weight(g), show(m, 0)),
        )
    });
    let (drawn, per_cm) = outlines(&all);
    errors.extend(asked.errors.iter().map(|e| e.1.clone()));
    let ok = errors.is_empty();
    let view = SizesPage {
        chrome: o.chrome,
        tabs: tabs(&q, "/sizes"),
        id: q.formula.clone(),
        name: o.name,
        dough: weight(asked.dough_g).to_string(),
        colour: bake.colour().word(),
        heat: if bake.fan { "with the fan" } else { "top and bottom heat" },
        kept: q.p.iter().filter(|(name, _)| *name != "have").map(|(k, v)| (k.clone(), v.clone())).collect(),
        have: q.typed("have", String::new()),
        errors,
        heaviest,
        rows,
        ticks,
        five_cm: px(5.0 * per_cm),
        outlines: drawn,
    };
    page(&view, if ok { StatusCode::OK } else { StatusCode::UNPROCESSABLE_ENTITY })
}

fn row(s: &Size, q: &Query, dial: cerealis_core::oven::Dial, x: &PixelScale, have: Option<f64>, mine: bool) -> Row {
    let (one, many) = s.kind.title();
    let a = &s.advice;
    let near = s.near.first();
    let mut other = q.clone();
    for (name, value) in [
        ("pieces", s.bake.pieces.to_string()),
        ("piece_g", show(s.bake.piece_g, 0)),
        ("shape", s.bake.shape.word().to_owned()),
        ("vessel", s.bake.vessel.word().to_owned()),
    ] {
        other.p.insert(name.to_owned(), value);
    }
    other.p.remove("set_c");
    other.p.remove("have");
    Row {
        title: format!("{} {}", s.pieces, if s.pieces == 1 { one } else { many }),
        each: format!("{}{}", weight(s.bake.piece_g), if s.pieces == 1 { "" } else { " each" }),
        dial: dial.told(a.set_c),
        minutes: span(a.minutes_low, a.minutes_high),
        core: degrees(a.core_target_c).to(0).short().to_string(),
        bar: a.minutes_low.zip(a.minutes_high).map(|(l, h)| (px(x.at(l)), px(x.at(h) - x.at(l)))),
        foil: a.foil_min.map(|m| px(x.at(m) - 10.0)),
        bracket: near.map(|n| {
            let (l, h) = (x.at(n.minutes.0), x.at(n.minutes.1).max(x.at(n.minutes.0) + 4.0));
            path([(l, 34.0), (l, 42.0), (h, 42.0), (h, 34.0)])
        }),
        practice: near.map(|n| (format!("bakers: {} min at {}", practised(n.minutes), dial.told(n.set_c)), without_setting(&n.what))),
        sign: s.kind.sign(),
        in_time: have.is_none_or(|m| a.minutes_high.is_some_and(|h| h <= m)),
        mine,
        href: other.address(""),
    }
}

/// The sizes as baked, side by side on one scale, and the pixels of a centimetre.
fn outlines(all: &[Size]) -> (Vec<Outlined>, f64) {
    let size = |s: &Size| {
        let g = s.advice.geometry;
        (100.0 * if s.kind == SizeKind::Plait { g.length } else { g.width }, 100.0 * g.height)
    };
    #[allow(clippy::cast_precision_loss, reason = "five sizes")]
    let between = BETWEEN * all.len() as f64;
    let across: f64 = all.iter().map(|s| size(s).0).sum();
    let tallest = all.iter().map(|s| size(s).1).fold(1.0, f64::max);
    let per_cm = ((DRAWING.0 - between) / across).min((DRAWING.1 - 10.0) / tallest);
    let mut left = 0.0;
    let drawn = all
        .iter()
        .map(|s| {
            let (width_cm, height_cm) = size(s);
            let outline = if s.kind == SizeKind::Tin { Outline::Tin } else { Outline::Dome };
            let slab =
                Slab::new(Cut { outline, width_cm, height_cm, middle: s.advice.geometry.middle }, per_cm * width_cm, per_cm * height_cm);
            let room = (per_cm * width_cm).max(WORD);
            let middle = left + room / 2.0;
            let at = format!("{} {}", px(middle - per_cm * width_cm / 2.0), px(DRAWING.1 - per_cm * height_cm));
            left += room + BETWEEN;
            let (one, many) = s.kind.title();
            Outlined {
                at,
                outline: slab.at(&[]).outline,
                middle: px(middle),
                name: format!("{} {}", s.pieces, if s.pieces == 1 { one } else { many }),
                each: weight(s.bake.piece_g).to_string(),
            }
        })
        .collect();
    (drawn, per_cm)
}
