//! Two breads and one oven: together or in turn, a big and a small piece of one dough, and a bread in several loads.

use actix_web::{
    HttpResponse,
    http::StatusCode,
    web::{self, Data, ServiceConfig, get},
};
use askama::Template;
use cerealis_core::{
    formula::Formula,
    kitchen::Kitchen,
    measure::{degrees, show, weight},
    oven::{Advice, Bake, BakeBody, Dial, InLoads, ShareAct, Sharing, colour_word, done_sign, in_loads, share},
};
use serde_qs::actix::QsQuery;

use super::{
    VESSELS,
    answer::span,
    asked::{Asked, Opened, Query},
    tabs,
};
use crate::{
    State,
    edge::{PageFailure, on_disk},
    screens::{Chrome, FormulaChoice, formula_kept, page},
};

pub(super) fn routes(app: &mut ServiceConfig) {
    app.service(web::resource("/oven/together").route(get().to(show_together)));
}

/// One act on the common clock.
struct ActRow {
    minute: String,
    act: String,
    sign: &'static str,
}

/// One of the two.
struct BreadView {
    name: String,
    pieces: String,
    dial: String,
    minutes: String,
    core: String,
    colour: &'static str,
}

#[derive(Template)]
#[template(path = "oven/together.html")]
struct TogetherPage {
    chrome: Chrome,
    tabs: Vec<(String, &'static str, bool)>,
    id: String,
    name: String,
    kept: Vec<(String, String)>,
    others: Vec<FormulaChoice>,
    other: String,
    pieces: String,
    piece_g: String,
    shape: String,
    vessel: String,
    loads: String,
    errors: Vec<String>,
    headline: String,
    why: &'static str,
    breads: Vec<BreadView>,
    acts: Vec<ActRow>,
    load_rows: Vec<(String, String, String)>,
    load_words: String,
}

/// Names of the fields that belong to this page alone.
const OWN: [&str; 6] = ["other", "other_pieces", "other_g", "other_shape", "other_vessel", "loads"];
/// Most loads of one bread.
const MOST_LOADS: u32 = 6;

/// The other bread: of another formula, or the same dough in another size.
fn other_bake(
    q: &Query,
    formula: &Formula,
    same: bool,
    mine: &Bake,
    kitchen: &Kitchen,
    state: &State,
    errors: &mut Vec<String>,
) -> Option<Bake> {
    let renamed = |from: &str, to: &str| q.text(from).map(|v| (to.to_owned(), v));
    let p = [("other_pieces", "pieces"), ("other_g", "piece_g"), ("other_shape", "shape"), ("other_vessel", "vessel")];
    let asked = Query { formula: String::new(), p: p.iter().filter_map(|(from, to)| renamed(from, to)).collect() };
    let a = Asked::of(&asked, formula, kitchen.clone(), state);
    errors.extend(a.errors.iter().map(|e| format!("The other bread: {}", e.1)));
    let bake = a.bake?;
    // A roll of the same dough where nothing else is said.
    let small = same && q.text("other_g").is_none();
    let body = BakeBody { piece_g: small.then_some((mine.piece_g / 4.0).max(30.0)), ..BakeBody::default() };
    body.over(bake).ok()
}

async fn show_together(state: Data<State>, query: QsQuery<Query>) -> Result<HttpResponse, PageFailure> {
    let q = query.into_inner();
    let o = match Opened::of(&q, "/oven/together", &state).await? {
        Ok(opened) => opened,
        Err(choose) => return Ok(choose),
    };
    let (formula, asked) = (&o.formula, &o.asked);
    let t = state.tables();
    let dial = asked.oven().dial;
    let mut errors: Vec<String> = asked.errors.iter().map(|e| e.1.clone()).collect();
    let other_id = q.text("other").unwrap_or_else(|| q.formula.clone());
    let same = other_id == q.formula;
    let other_formula = if same { formula.clone() } else { formula_kept(&state, &other_id).await? };
    let mine = asked.shown().clone();
    let other = other_bake(&q, &other_formula, same, &mine, &asked.kitchen, &state, &mut errors);
    let loads = match q.text("loads").map(|l| l.parse::<u32>()) {
        None => 1,
        Some(Ok(n)) if (1..=MOST_LOADS).contains(&n) => n,
        Some(_) => {
            errors.push(format!("Loads: a whole number from 1 to {MOST_LOADS}."));
            1
        }
    };
    let title = |f: &Formula| f.name.clone().unwrap_or_else(|| "Unnamed bread".into());
    let other_bread = other.clone().unwrap_or_else(|| mine.clone());
    let names = if same {
        (weight(mine.piece_g).to_string(), weight(other_bread.piece_g).to_string())
    } else {
        (o.name.clone(), title(&other_formula))
    };
    let sharing = share(&Bake { set_c: None, ..mine.clone() }, &Bake { set_c: None, ..other_bread.clone() }, &t.oven);
    let bread = |name: &str, b: &Bake, a: &Advice| BreadView {
        name: name.to_owned(),
        pieces: format!("{} × {}", b.pieces, weight(b.piece_g)),
        dial: dial.told(a.set_c),
        minutes: span(a.minutes_low, a.minutes_high),
        core: degrees(a.core_target_c).to(0).short().to_string(),
        colour: colour_word(a.colour_index),
    };
    let (headline, why, each) = match &sharing {
        Sharing::Together { set_c, each } => (
            format!("Together, at {}", dial.told(*set_c)),
            "Both come out as wished at one setting, each at its own minute. Leave a hand's width between them; open the door seldom: each time costs about a minute.",
            each,
        ),
        Sharing::InTurn { second_first, each, .. } => (
            format!("One after the other: {} first", if *second_first { &names.1 } else { &names.0 }),
            "Their settings lie too far apart, or only one of them is steamed: at one setting neither would be as wished. The hotter goes first, for an oven falls by itself; the other waits cool, so that its proof does not run away.",
            each,
        ),
    };
    let breads = vec![bread(&names.0, &mine, &each.0), bread(&names.1, &other_bread, &each.1)];
    let acts =
        sharing.acts().into_iter().map(|act| act_row(act, &names, each, (done_sign(&mine), done_sign(&other_bread)), dial)).collect();
    let (load_rows, load_words) = loads_of(&mine, loads, &state);
    let ok = errors.is_empty();
    let view = TogetherPage {
        chrome: o.chrome,
        tabs: tabs(&q, "/together"),
        id: q.formula.clone(),
        name: o.name,
        kept: q.p.iter().filter(|(name, _)| !OWN.contains(&name.as_str())).map(|(k, v)| (k.clone(), v.clone())).collect(),
        others: on_disk(&state.db, cerealis_store::formulas::list).await?.into_iter().map(FormulaChoice::from).collect(),
        other: other_id,
        pieces: q.typed("other_pieces", other_bread.pieces.to_string()),
        piece_g: q.typed("other_g", show(other_bread.piece_g, 0)),
        shape: other_bread.shape.word().to_owned(),
        vessel: other_bread.vessel.word().to_owned(),
        loads: q.typed("loads", loads.to_string()),
        errors,
        headline,
        why,
        breads,
        acts,
        load_rows,
        load_words,
    };
    page(&view, if ok { StatusCode::OK } else { StatusCode::UNPROCESSABLE_ENTITY })
}

/// An act in words.
fn act_row(
    (act, from, to): (ShareAct, f64, f64),
    names: &(String, String),
    each: &(Advice, Advice),
    signs: (&'static str, &'static str),
    dial: Dial,
) -> ActRow {
    let of = |second: bool| if second { (&names.1, &each.1, signs.1) } else { (&names.0, &each.0, signs.0) };
    let whole = |m: f64| if m < 0.0 { format!("−{}", show(-m, 0)) } else { show(m, 0) };
    let (act, sign) = match act {
        // Lit for the one that goes in first, and that is the hotter.
        ShareAct::Heat => (format!("Heat the oven to {}", dial.told(each.0.set_c.max(each.1.set_c))), "the thermometer stops climbing"),
        ShareAct::LoadBoth => ("Load both".to_owned(), "a dent comes back slowly in both"),
        ShareAct::Load(second) => (
            format!("Load {} at {}", of(second).0, dial.told(of(second).1.set_c)),
            "the thermometer stands at its setting; a dent comes back slowly",
        ),
        ShareAct::Out(second) => (format!("{} out", of(second).0), of(second).2),
    };
    ActRow { minute: if (to - from).abs() < 0.5 { whole(from) } else { format!("{}–{}", whole(from), whole(to)) }, act, sign }
}

/// One bread in so many loads: load, in, out; and what goes for all of them.
fn loads_of(bake: &Bake, loads: u32, state: &State) -> (Vec<(String, String, String)>, String) {
    let t = state.tables();
    let Some(InLoads { pieces, between_min, each }) = in_loads(bake, loads, &t.oven).filter(|_| loads > 1) else {
        return (Vec::new(), String::new());
    };
    let rows =
        each.iter().enumerate().map(|(i, (at, low, high))| ((i + 1).to_string(), show(*at, 0), span(Some(*low), Some(*high)))).collect();
    let words = format!(
        "{pieces} to a load, {} min between them while the oven comes back. Shape the later ones later, or keep them in the fridge: they proof on while they wait.",
        show(between_min, 0)
    );
    (rows, words)
}
