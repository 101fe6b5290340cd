//! The formula: a recipe as written on the left of a line, what it says in grams on the right.

mod amount;
mod deeds;
mod figures;
mod form;
mod lower;
mod reading;
mod view;

use actix_web::{
    HttpResponse,
    http::StatusCode,
    web::{self, Data, Path, ServiceConfig, get, post},
};
use cerealis_core::{
    formula::FormulaDraft,
    input::Pointer,
    reader::{self, Choices},
};
use cerealis_exchange::Opened;
use cerealis_store::formulas::{self, Which};
use serde::Deserialize;
use serde_qs::actix::QsQuery;
use uuid::Uuid;

use crate::{
    State,
    desk::{self, visits::Way},
    edge::{Failure, Form, PageFailure, on_disk},
};
use form::{Sheet, SheetForm};
use view::{FirstPage, Seen, SheetPage};

use super::{Choosing, Chrome, FormulaChoice, formula_kept, formulas_kept, kitchen, page, see_other};

pub fn routes(app: &mut ServiceConfig) {
    app.service(web::resource("/formula").route(get().to(first)).route(post().to(sheet)))
        .service(web::resource("/formula/read").route(post().to(read)).route(get().to(|| async { see_other("/formula") })))
        .service(web::resource("/formula/{id}").route(get().to(kept)));
}

/// The pasted text.
#[derive(Debug, Deserialize)]
struct Pasted {
    #[serde(default)]
    text: String,
    cup: Option<String>,
    flour_measure: Option<String>,
}

/// What is sought among the formulas kept.
#[derive(Debug, Deserialize, Default)]
struct Sought {
    #[serde(default)]
    q: String,
    #[serde(default)]
    away: bool,
    page: Option<i64>,
}

async fn first(state: Data<State>, QsQuery(sought): QsQuery<Sought>) -> Result<HttpResponse, PageFailure> {
    let kitchen = kitchen(&state).await?;
    let chrome = Chrome::new("Formula", &kitchen, state.clock.now());
    let which = if sought.away { Which::Retired } else { Which::InUse };
    let q: String = sought.q.trim().chars().take(100).collect();
    let word = q.clone();
    let (number, found, all) = on_disk(&state.db, move |db| {
        let number = sought.page.unwrap_or(1).max(1);
        let (found, all) = formulas::found(db, which, number, &word)?;
        // A page that is no longer there is the last one.
        let last = (all + formulas::PAGE - 1) / formulas::PAGE;
        if number <= last.max(1) {
            return Ok((number, found, all));
        }
        Ok((last.max(1), formulas::found(db, which, last.max(1), &word)?.0, all))
    })
    .await?;
    let seen = (number - 1).saturating_mul(formulas::PAGE) + i64::try_from(found.len() + found.unreadable.len()).unwrap_or(0);
    let more = usize::try_from(all - seen).unwrap_or(0);
    let kept = Choosing { kept: found.rows.into_iter().map(FormulaChoice::from).collect(), more };
    page(&FirstPage::new(chrome, String::new(), Vec::new(), kept).seeking(q, sought.away, number, found.unreadable), StatusCode::OK)
}

async fn read(state: Data<State>, Form(form): Form<Pasted>) -> Result<HttpResponse, PageFailure> {
    let kitchen = kitchen(&state).await?;
    let pasted = form;
    let chrome = Chrome::new("Formula", &kitchen, state.clock.now());
    let usual = Choices::from(&kitchen);
    let choices = Choices {
        cup: pasted.cup.unwrap_or_else(|| usual.cup.clone()),
        flour_measure: pasted.flour_measure.unwrap_or_else(|| usual.flour_measure.clone()),
        ..usual
    };
    let again = |sentence: String, choices: Choosing| {
        page(&FirstPage::new(chrome.clone(), pasted.text.clone(), vec![sentence], choices), StatusCode::UNPROCESSABLE_ENTITY)
    };
    if pasted.text.trim().is_empty() {
        return again("There is nothing here yet. Paste a recipe, or start with flour.".into(), formulas_kept(&state).await?);
    }
    let words = match cerealis_exchange::open(&pasted.text) {
        Err(sentence) => return again(sentence, formulas_kept(&state).await?),
        Ok(Opened::Formula(draft)) => return show(&state, chrome, Sheet::new(*draft, choices, &kitchen, String::new()), &[], None),
        Ok(Opened::Recipe(words)) => words,
    };
    match reader::read(&words, &choices, &[], &state.tables()) {
        Err(e) => again(e.to_string(), formulas_kept(&state).await?),
        Ok(reading) => {
            if let Some(sentence) = reading.lacks_a_weight() {
                return again(sentence.into(), formulas_kept(&state).await?);
            }
            let sheet = Sheet::new(FormulaDraft::from(reading.formula.body()), choices, &kitchen, String::new());
            show(&state, chrome, sheet, &[], None)
        }
    }
}

/// The visit a sheet goes on with after it was saved.
#[derive(Debug, Deserialize)]
struct Visited {
    #[serde(default)]
    visit: String,
}

async fn kept(state: Data<State>, id: Path<String>, QsQuery(visited): QsQuery<Visited>) -> Result<HttpResponse, PageFailure> {
    let kitchen = kitchen(&state).await?;
    let id = id.into_inner();
    let formula = formula_kept(&state, &id).await?;
    let chrome = Chrome::new("Formula", &kitchen, state.clock.now());
    let mut sheet = Sheet::new(FormulaDraft::from(formula.body()), Choices::from(&kitchen), &kitchen, id);
    if let Ok(visit) = visited.visit.parse() {
        sheet.visit = visit;
    }
    show(&state, chrome, sheet, &[], None)
}

/// The sheet after a deed: recalculated, a line moved, a remedy taken, scaled, saved.
async fn sheet(state: Data<State>, Form(form): Form<SheetForm>) -> Result<HttpResponse, PageFailure> {
    let kitchen = kitchen(&state).await?;
    let chrome = Chrome::new("Formula", &kitchen, state.clock.now());
    let instead = form.instead.parse().ok();
    let asked = (form.mean.clone(), form.remember.clone());
    let (field, visit) = (form.field.clone(), form.visit.clone());
    let (mut sheet, wrong, deed) = form.sheet(&kitchen);
    let mut focus = None;
    let (word, rest) = deed.split_once(':').unwrap_or((deed.as_str(), ""));
    match word {
        "undo" | "redo" => {
            let way = if word == "undo" { Way::Undo } else { Way::Redo };
            if let Some(body) = state.visits.step(sheet.visit, way) {
                sheet.draft = FormulaDraft { text: sheet.draft.text.take(), ..FormulaDraft::from(body) };
                sheet.scale.clear();
            }
            // A button that can do no more lets go of the focus.
            let can = state.visits.ways(sheet.visit);
            focus = Some(if (way == Way::Undo && can.0) || !can.1 { "undo" } else { "redo" }.to_owned());
        }
        "add" => {
            sheet.blank = sheet.blank.max(1);
            focus = Some(format!("lines[{}][ingredient]", sheet.draft.lines.len()));
        }
        "up" | "down" | "remove" => focus = deeds::rearrange(&mut sheet, word, rest),
        "further" => focus = Some(deeds::divide_further(&mut sheet, rest, &state)),
        "stage" => focus = Some(deeds::stage_bake(&mut sheet, rest)),
        "remedy" => focus = deeds::apply_remedy(&mut sheet, rest, &state),
        "ask" => {
            deeds::answer(&mut sheet, rest, &state);
            focus = rest.split(':').next().map(|line| format!("after:{line}"));
        }
        "word" | "mean" => focus = Some(deeds::word_told(&mut sheet, word, rest, &asked, &state).await?),
        "left" => {
            sheet.draft.accepted.push(deed.clone());
            focus = Some("after:doubt".into());
        }
        "swaps" => sheet.instead = instead,
        "swap" => {
            deeds::swap(&mut sheet, rest, &state);
            focus = Some("instead".into());
        }
        "make" => focus = deeds::take_amount(&mut sheet, rest, &state).is_ok().then(|| "make".to_owned()),
        "save" | "plan" | "oven" if wrong.is_empty() && deeds::take_amount(&mut sheet, "", &state).is_ok() => {
            // Ids are the program's own: one that comes with the form counts only where there is such a formula.
            let told = sheet.id.clone();
            let known = on_disk(&state.db, move |db| formulas::is_there(db, &told)).await?;
            let id = if known { sheet.id.clone() } else { Uuid::now_v7().to_string() };
            match desk::formulas::keep(&state, id.clone(), sheet.draft.clone()).await {
                Ok(_) => {
                    return Ok(see_other(&match word {
                        "plan" => format!("/plan?formula={id}"),
                        "oven" => format!("/oven?formula={id}"),
                        _ if visit.is_empty() => format!("/formula/{id}"),
                        _ => format!("/formula/{id}?visit={}", sheet.visit),
                    }));
                }
                Err(Failure::Input(_)) => {}
                Err(other) => return Err(other.into()),
            }
        }
        _ => {}
    }
    sheet.field = field;
    show(&state, chrome, sheet, &wrong, focus)
}

fn show(
    state: &State,
    chrome: Chrome,
    sheet: Sheet,
    wrong: &[(Pointer, String)],
    focus: Option<String>,
) -> Result<HttpResponse, PageFailure> {
    let mut wrong = wrong.to_vec();
    let mut checked = sheet.draft.check(&state.tables().pantry);
    // A tag too long is no reason to work nothing out: the dough is checked without it, the sentence stays.
    if let Err(e) = &checked
        && e.0.iter().all(|e| ["/note", "/tags", "/variant"].iter().any(|p| e.pointer.as_str().starts_with(p)))
    {
        wrong.extend(e.0.iter().map(|e| (e.pointer.clone(), e.message.clone())));
        checked = FormulaDraft { note: None, tags: Vec::new(), variant: None, ..sheet.draft.clone() }.check(&state.tables().pantry);
    }
    let amount = match checked.as_ref().map(|f| amount::amount(&sheet, f, &state.tables(), "")) {
        Ok(Ok(amount)) => amount,
        Ok(Err(e)) => {
            wrong.extend(e.0.into_iter().map(|e| (e.pointer, e.message)));
            None
        }
        Err(_) => None,
    };
    if let Ok(formula) = &checked {
        state.visits.note(sheet.visit, &formula.body(), &sheet.field);
    }
    let reading = deeds::read_again(&sheet, state);
    let found = checked.as_ref().map(|f| deeds::findings(f, reading.as_ref(), &sheet.kitchen, state)).unwrap_or_default();
    let ok = checked.is_ok() && wrong.is_empty();
    let seen = Seen {
        sheet: &sheet,
        checked: checked.as_ref(),
        found: &found,
        reading: reading.as_ref(),
        wrong: &wrong,
        amount: amount.as_ref(),
        state,
    };
    let view = SheetPage::new(chrome, seen, focus);
    page(&view, if ok { StatusCode::OK } else { StatusCode::UNPROCESSABLE_ENTITY })
}
