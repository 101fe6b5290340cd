//! The formula: a recipe as written on the left of a line, what it says in grams on the right.

mod lower;
mod reading;
mod view;

use std::collections::BTreeMap;

use actix_web::{
    HttpResponse,
    http::StatusCode,
    web::{self, Data, Path, ServiceConfig, get, post},
};
use cerealis_core::{
    Tables,
    findings::{Change, Finding, Remedy},
    formula::{Formula, FormulaBody, FormulaDraft, HoldBody, LineDraft, OvenBody, PhaseBody, PiecesBody, ScaleBody, ToldStep, Typed, find},
    input::{InputErrors, Pointer, number},
    kitchen::Kitchen,
    measure::Band,
    pantry::OwnWord,
    plan,
    reader::{self, Choices, Reading},
};
use cerealis_exchange::Opened;
use cerealis_store::formulas::{self, Which};
use serde::{Deserialize, Serialize};
use serde_qs::actix::QsQuery;
use uuid::Uuid;

use crate::{
    State, desk,
    edge::{Failure, Form, PageFailure, on_disk},
};
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

/// A line of the sheet as the form sends it.
#[derive(Debug, Deserialize, Default, Clone)]
struct LineForm {
    #[serde(default)]
    ingredient: String,
    #[serde(default)]
    grams: String,
    #[serde(default)]
    was: String,
    #[serde(default)]
    low: String,
    #[serde(default)]
    high: String,
    #[serde(default)]
    stage: String,
    #[serde(default)]
    source: String,
    /// Of a leaven whose water was told, percent of its flour.
    #[serde(default)]
    hydration: String,
}

/// The sheet as the form sends it: everything is text.
#[derive(Debug, Deserialize, Default, Clone)]
struct SheetForm {
    #[serde(default)]
    id: String,
    #[serde(default)]
    name: String,
    #[serde(default)]
    text: String,
    #[serde(default)]
    cup: String,
    #[serde(default)]
    flour_measure: String,
    #[serde(default)]
    lines: BTreeMap<usize, LineForm>,
    #[serde(default)]
    accepted: Vec<String>,
    #[serde(default)]
    pieces: BTreeMap<String, String>,
    #[serde(default)]
    further: BTreeMap<usize, BTreeMap<String, String>>,
    #[serde(default)]
    hold: BTreeMap<String, String>,
    #[serde(default)]
    oven: BTreeMap<String, String>,
    #[serde(default)]
    scale: BTreeMap<String, String>,
    #[serde(default)]
    note: String,
    #[serde(default)]
    tags: String,
    #[serde(default)]
    variant: String,
    #[serde(default)]
    before: String,
    #[serde(default)]
    style: String,
    #[serde(default)]
    yeast_kind: String,
    #[serde(default)]
    gluten_free: bool,
    #[serde(default)]
    instead: String,
    /// Steps and phases of the recipe, as JSON: they pass through the sheet unchanged.
    #[serde(default)]
    told: String,
    /// What was typed for words that are not read, by their place on the sheet.
    #[serde(default)]
    mean: BTreeMap<usize, String>,
    #[serde(default)]
    remember: BTreeMap<usize, bool>,
    #[serde(default, rename = "do")]
    deed: String,
}

/// What the recipe tells beside its lines, through the form and back.
#[derive(Debug, Clone, Default, Serialize, Deserialize)]
struct ToldForm {
    #[serde(default)]
    steps: Vec<ToldStep>,
    #[serde(default)]
    phases: Vec<PhaseBody>,
    #[serde(default)]
    fan: Option<bool>,
    #[serde(default)]
    ours: Option<bool>,
}

/// What the form said, as a draft, with the errors of the fields that only the form has.
struct Sheet {
    draft: FormulaDraft,
    choices: Choices,
    kitchen: Kitchen,
    id: String,
    scale: BTreeMap<String, String>,
    /// Lines at the end where nothing is written yet.
    blank: usize,
    /// What stood in the fields of pieces and oven that could not be read, by pointer.
    unread: BTreeMap<String, String>,
    /// The line for which another ingredient is sought.
    instead: Option<usize>,
    /// The formula before the last deed, to which it can go back.
    before: Option<FormulaBody>,
}

impl Sheet {
    fn new(draft: FormulaDraft, choices: Choices, kitchen: &Kitchen, id: String) -> Self {
        Self {
            draft,
            choices,
            kitchen: kitchen.clone(),
            id,
            scale: BTreeMap::new(),
            blank: 0,
            unread: BTreeMap::new(),
            instead: None,
            before: None,
        }
    }
}

fn optional(fields: &BTreeMap<String, String>, name: &str) -> Option<String> {
    fields.get(name).map(|v| v.trim().to_owned()).filter(|v| !v.is_empty())
}

impl SheetForm {
    fn sheet(self, kitchen: &Kitchen) -> (Sheet, Vec<(Pointer, String)>, String) {
        let root = Pointer::root();
        let mut wrong = Vec::new();
        let mut unread = BTreeMap::new();
        let mut figure = |fields: &BTreeMap<String, String>, group: &str, name: &str| {
            let text = optional(fields, name)?;
            number(&text)
                .map_err(|e| {
                    let here = group.split('/').fold(root.clone(), |p, part| p.at(part)).at(name);
                    unread.insert(here.as_str().to_owned(), text);
                    wrong.push((here, e));
                })
                .ok()
        };
        let mut pieces_of = |fields: &BTreeMap<String, String>, group: &str| {
            let count = figure(fields, group, "count");
            let piece_g = figure(fields, group, "piece_g");
            let shape = optional(fields, "shape");
            let strands = optional(fields, "strands").and_then(|s| number(&s).ok());
            let told = count.is_some() || piece_g.is_some() || shape.is_some() || strands.is_some();
            told.then(|| PiecesBody {
                count: count.unwrap_or(1.0),
                piece_g,
                shape,
                vessel: optional(fields, "vessel"),
                lid: optional(fields, "lid").map(|_| true),
                pan: optional(fields, "pan"),
                strands,
            })
        };
        let pieces = pieces_of(&self.pieces, "pieces");
        let further = self.further.iter().filter_map(|(i, fields)| pieces_of(fields, &format!("further/{i}"))).collect();
        let hold = figure(&self.hold, "hold", "grams")
            .map(|grams| HoldBody { ingredient: optional(&self.hold, "ingredient").unwrap_or_default(), grams });
        let oven = OvenBody {
            set_c: figure(&self.oven, "oven", "set_c"),
            minutes_low: figure(&self.oven, "oven", "low"),
            minutes_high: figure(&self.oven, "oven", "high"),
            ..OvenBody::default()
        };
        let told = serde_json::from_str::<ToldForm>(&self.told).unwrap_or_default();
        let oven = OvenBody { stages: Some(told.phases).filter(|p| !p.is_empty()), fan: told.fan, ours: told.ours, ..oven };
        let line = |l: LineForm| {
            // A weight that was typed anew is exact: its interval goes.
            let kept = l.grams.trim() == l.was.trim();
            LineDraft {
                ingredient: l.ingredient,
                grams_low: number(&l.low).ok().filter(|_| kept),
                grams_high: number(&l.high).ok().filter(|_| kept),
                grams: Typed::Text(l.grams),
                stage: Some(l.stage).filter(|s| !s.is_empty()),
                source: Some(l.source).filter(|s| !s.is_empty()),
                hydration_pct: number(&l.hydration).ok(),
            }
        };
        let mut lines: Vec<LineDraft> = self.lines.into_values().map(line).collect();
        let all = lines.len();
        while lines.last().is_some_and(LineDraft::is_blank) {
            lines.pop();
        }
        let blank = all - lines.len();
        let usual = Choices::from(kitchen);
        let choose = |given: String, usual: String| if given.is_empty() { usual } else { given };
        let sheet = Sheet {
            draft: FormulaDraft {
                name: Some(self.name).filter(|n| !n.trim().is_empty()),
                variant: Some(self.variant).filter(|v| !v.trim().is_empty()),
                style: Some(self.style).filter(|s| !s.is_empty()),
                yeast_kind: Some(self.yeast_kind).filter(|k| !k.is_empty()),
                gluten_free: self.gluten_free,
                lines,
                accepted: self.accepted,
                pieces,
                further,
                hold,
                steps: told.steps,
                oven: Some(oven).filter(|o| o.set_c.is_some() || o.minutes_low.is_some() || o.minutes_high.is_some() || o.stages.is_some()),
                text: Some(self.text).filter(|t| !t.trim().is_empty()),
                note: Some(self.note).filter(|n| !n.trim().is_empty()),
                tags: self.tags.split(',').map(str::trim).filter(|t| !t.is_empty()).map(str::to_owned).collect(),
            },
            choices: Choices {
                cup: choose(self.cup, usual.cup.clone()),
                flour_measure: choose(self.flour_measure, usual.flour_measure.clone()),
                ..usual
            },
            kitchen: kitchen.clone(),
            id: self.id,
            scale: self.scale,
            blank,
            unread,
            instead: None,
            before: None,
        };
        (sheet, wrong, self.deed)
    }
}

/// Every finding of the sheet, in a fixed order, so that a button's number means the same on the way back.
fn findings(formula: &Formula, reading: Option<&Reading>, kitchen: &Kitchen, state: &State) -> Vec<Finding> {
    let t = &state.tables();
    let analysis = formula.analyse(&t.pantry, &t.styles);
    let mut all = find(&analysis, t);
    if let Some(r) = reading {
        // While a word with a real amount is not read, nothing is said that rests on the flour.
        all.retain(|f| r.may_tell(f.id));
        all.extend(reader::of_steps(r, &analysis, t));
        let silent = |id: &str| formula.accepted.iter().any(|a| a == id);
        let at_line = |f: &Finding| {
            let source = r.lines.iter().filter(|l| l.grams.is_some()).nth(f.line?)?;
            formula.lines.iter().position(|l| {
                l.source.as_deref() == Some(source.source.as_str()) && l.ingredient.id == source.ingredient.id && !l.grams.is_exact()
            })
        };
        for mut f in reader::of_lines(&r.lines, &r.unread) {
            // What is not read is asked under the text itself.
            if silent(f.id) || f.id == "unread-amount" {
                continue;
            }
            // A finding at a line as it was read concerns that line as it stands now, while it is still in doubt.
            if f.line.is_some() {
                let Some(now) = at_line(&f) else { continue };
                for remedy in &mut f.remedies {
                    for change in &mut remedy.changes {
                        if let Change::Grams { line, .. } = change {
                            *line = now;
                        }
                    }
                }
                f.line = Some(now);
            }
            all.push(f);
        }
    }
    all.extend(plan::findings::of_recipe(reading, &analysis, kitchen, t));
    all
}

fn read_again(sheet: &Sheet, state: &State) -> Option<Reading> {
    let text = sheet.draft.text.as_deref()?;
    let tables = state.tables();
    let told = reader::words_told(&sheet.draft.accepted);
    if told.is_empty() {
        return reader::read(text, &sheet.choices, &[], &tables).ok().map(|r| r.without_left_out(&sheet.draft.accepted));
    }
    // A word told for this recipe alone is read as told.
    let pantry = told.iter().fold(tables.pantry.clone(), |p, w| p.with_word(w));
    let tables = Tables { pantry, ..(*tables).clone() };
    reader::read(text, &sheet.choices, &[], &tables).ok().map(|r| r.without_left_out(&sheet.draft.accepted))
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

async fn kept(state: Data<State>, id: Path<String>) -> Result<HttpResponse, PageFailure> {
    let kitchen = kitchen(&state).await?;
    let id = id.into_inner();
    let formula = formula_kept(&state, &id).await?;
    let chrome = Chrome::new("Formula", &kitchen, state.clock.now());
    let sheet = Sheet::new(FormulaDraft::from(formula.body()), Choices::from(&kitchen), &kitchen, id);
    show(&state, chrome, sheet, &[], None)
}

/// The sheet after a deed: recalculated, a line moved, a remedy taken, scaled, saved.
async fn sheet(state: Data<State>, Form(form): Form<SheetForm>) -> Result<HttpResponse, PageFailure> {
    let kitchen = kitchen(&state).await?;
    let chrome = Chrome::new("Formula", &kitchen, state.clock.now());
    let instead = form.instead.parse().ok();
    let asked = (form.mean.clone(), form.remember.clone());
    let before = serde_json::from_str::<FormulaBody>(&form.before).ok();
    let (mut sheet, wrong, deed) = form.sheet(&kitchen);
    let mut focus = None;
    let (word, rest) = deed.split_once(':').unwrap_or((deed.as_str(), ""));
    let was = sheet.draft.clone();
    match word {
        "undo" => {
            if let Some(body) = before {
                sheet.draft = FormulaDraft::from(body);
            }
        }
        "add" => {
            sheet.blank = sheet.blank.max(1);
            focus = Some(format!("lines[{}][ingredient]", sheet.draft.lines.len()));
        }
        "up" | "down" | "remove" => focus = rearrange(&mut sheet, word, rest),
        "further" => divide_further(&mut sheet, rest, &state),
        "remedy" => focus = apply_remedy(&mut sheet, rest, &state),
        "ask" => {
            answer(&mut sheet, rest, &state);
            focus = rest.split(':').next().map(|line| format!("after:{line}"));
        }
        "word" | "mean" => focus = Some(word_told(&mut sheet, word, rest, &asked, &state).await?),
        "left" => {
            sheet.draft.accepted.push(deed.clone());
            focus = Some("after:doubt".into());
        }
        "swaps" => sheet.instead = instead,
        "swap" => {
            swap(&mut sheet, rest, &state);
            focus = Some("instead".into());
        }
        "scale" => {
            if let Err(e) = scale(&mut sheet, rest, &state) {
                return show(&state, chrome, sheet, &e.0.into_iter().map(|e| (e.pointer, e.message)).collect::<Vec<_>>(), None);
            }
        }
        "save" | "plan" | "oven" if wrong.is_empty() => {
            // Ids are the program's own: one that comes with the form counts only where there is such a formula.
            let told = sheet.id.clone();
            let known = on_disk(&state.db, move |db| formulas::is_there(db, &told)).await?;
            let id = if known { sheet.id.clone() } else { Uuid::now_v7().to_string() };
            match desk::formulas::keep(&state, id.clone(), sheet.draft.clone()).await {
                Ok(_) => {
                    return Ok(see_other(&match word {
                        "plan" => format!("/plan?formula={id}"),
                        "oven" => format!("/oven?formula={id}"),
                        _ => format!("/formula/{id}"),
                    }));
                }
                Err(Failure::Input(_)) => {}
                Err(other) => return Err(other.into()),
            }
        }
        _ => {}
    }
    // A deed can be taken back until something is typed.
    if word != "undo" && sheet.draft != was {
        sheet.before = was.check(&state.tables().pantry).ok().map(|f| f.body());
    }
    show(&state, chrome, sheet, &wrong, focus)
}

fn rearrange(sheet: &mut Sheet, word: &str, index: &str) -> Option<String> {
    let at: usize = index.parse().ok()?;
    let lines = &mut sheet.draft.lines;
    if at >= lines.len() {
        sheet.blank = sheet.blank.saturating_sub(usize::from(word == "remove"));
        return None;
    }
    let (button, to) = match word {
        "up" => ("up", at.saturating_sub(1)),
        "down" => ("down", (at + 1).min(lines.len() - 1)),
        _ => {
            lines.remove(at);
            return None;
        }
    };
    lines.swap(at, to);
    Some(format!("{button}:{to}"))
}

/// Adds a bread to those made from this dough, or takes one out by its number.
fn divide_further(sheet: &mut Sheet, which: &str, state: &State) {
    let further = &mut sheet.draft.further;
    if let Ok(out) = which.parse::<usize>() {
        if out < further.len() {
            further.remove(out);
        }
        return;
    }
    let t = state.tables();
    let Ok(formula) = sheet.draft.check(&t.pantry) else { return };
    let next = formula.analyse(&t.pantry, &t.styles).next_bread();
    sheet.draft.further.push(next);
}

/// Takes the remedy a button names.
fn apply_remedy(sheet: &mut Sheet, which: &str, state: &State) -> Option<String> {
    let Ok(formula) = sheet.draft.check(&state.tables().pantry) else { return None };
    let found = findings(&formula, read_again(sheet, state).as_ref(), &sheet.kitchen, state);
    let (finding, remedy) = Finding::named(which, &found)?;
    sheet.draft = FormulaDraft::from(formula.after(remedy, finding.id, &state.tables().pantry).body());
    Some(finding.line.map_or_else(|| "after:loose".to_owned(), |l| format!("after:{l}")))
}

/// What a word that was not read means: remembered for the household, or told for this recipe; its lines join the
/// sheet where they stand in the text. Where the focus goes on.
async fn word_told(
    sheet: &mut Sheet,
    how: &str,
    which: &str,
    asked: &(BTreeMap<usize, String>, BTreeMap<usize, bool>),
    state: &State,
) -> Result<String, PageFailure> {
    let (typed, remember) = asked;
    let Some((first, words)) = which.split_once(':') else { return Ok(String::new()) };
    let before = read_again(sheet, state);
    let nth = before.as_ref().and_then(|r| r.unread.iter().position(|u| u.words == words));
    // `word` names the ingredient, `mean` the field in which it was typed.
    let named =
        if how == "word" { first.to_owned() } else { first.parse().ok().and_then(|i: usize| typed.get(&i).cloned()).unwrap_or_default() };
    let Ok(ingredient) = state.tables().pantry.find(&named).map(|i| i.id.clone()) else { return Ok("after:doubt".into()) };
    let own = OwnWord { word: words.to_owned(), ingredient: ingredient.clone() };
    let kept = nth.is_some_and(|n| remember.get(&n).copied().unwrap_or(false)) && own.check(&state.tables().pantry).is_ok();
    if kept {
        desk::own::keep_word(state, own).await?;
    } else {
        sheet.draft.accepted.push(reader::word_means(words, &ingredient));
    }
    let (Some(before), Some(now)) = (before, read_again(sheet, state)) else { return Ok(String::new()) };
    let mut focus = "after:doubt".to_owned();
    for (i, line) in now.lines.iter().enumerate().filter(|(_, l)| l.grams.is_some()) {
        let was_unread = before.unread.iter().any(|u| u.words == words && u.span.0 < line.span.1 && line.span.0 < u.span.1);
        let there =
            sheet.draft.lines.iter().any(|d| d.source.as_deref() == Some(line.source.as_str()) && d.ingredient == line.ingredient.id);
        if !was_unread || there {
            continue;
        }
        // Behind the nearest line before it in the text that stands on the sheet.
        let place = |source: &str| sheet.draft.lines.iter().position(|d| d.source.as_deref() == Some(source));
        let at = now.lines.iter().take(i).rev().find_map(|l| place(&l.source)).map_or(0, |p| p + 1);
        sheet.draft.lines.insert(at, LineDraft::from(line));
        focus = format!("after:doubt:{at}");
    }
    Ok(focus)
}

/// Swaps a line as the button says: line, row of the table.
fn swap(sheet: &mut Sheet, which: &str, state: &State) {
    let t = &state.tables();
    let Some((line, id)) = which.split_once(':').and_then(|(l, id)| Some((l.parse::<usize>().ok()?, id))) else { return };
    let Ok(formula) = sheet.draft.check(&t.pantry) else { return };
    if let Some(swap) = t.swaps.of(&formula, line, t).into_iter().find(|s| s.id == id) {
        let remedy = Remedy::new(swap.id, swap.changes);
        sheet.draft = FormulaDraft::from(formula.after(&remedy, "", &t.pantry).body());
    }
}

/// Takes an answer to a question: line, question, answer.
fn answer(sheet: &mut Sheet, which: &str, state: &State) {
    let mut parts = which.splitn(3, ':');
    let (Some(line), Some(id), Some(word)) = (parts.next().and_then(|l| l.parse::<usize>().ok()), parts.next(), parts.next()) else {
        return;
    };
    let (Ok(mut formula), Some(reading)) = (sheet.draft.check(&state.tables().pantry), read_again(sheet, state)) else { return };
    let Some(at) = formula.lines.get_mut(line) else { return };
    let asked = reading
        .lines
        .iter()
        .find(|l| Some(l.source.as_str()) == at.source.as_deref())
        .and_then(|l| l.questions.iter().find(|q| q.id == id));
    if let Some(a) = asked.and_then(|q| q.answers.iter().find(|a| a.answer == word)) {
        if let Some(grams) = a.grams {
            at.grams = if a.doubt > 0.0 { Band::within(grams, a.doubt) } else { Band::exact(grams) };
        }
        if let Some(ingredient) = a.ingredient.as_deref().and_then(|i| state.tables().pantry.get(i).cloned()) {
            at.ingredient = ingredient.clone();
        }
        formula.accepted.push(format!("ask:{id}:{}", at.source.clone().unwrap_or_default()));
        sheet.draft = FormulaDraft::from(formula.body());
    }
}

/// Scales by what the button names: pieces, dough, flour, one ingredient.
fn scale(sheet: &mut Sheet, way: &str, state: &State) -> Result<(), InputErrors> {
    let t = &state.tables();
    let root = Pointer::root().at("scale");
    let figure = |name: &str| match optional(&sheet.scale, name) {
        None => Err(InputErrors::one(root.at(name), "Write how much, for example 500.")),
        Some(text) => number(&text).map_err(|e| InputErrors::one(root.at(name), e)),
    };
    let body = match way {
        "pieces" => ScaleBody { pieces: Some(figure("pieces")?), piece_g: Some(figure("piece_g")?), ..ScaleBody::default() },
        "dough" => ScaleBody { dough_g: Some(figure("dough_g")?), ..ScaleBody::default() },
        "pan" => ScaleBody {
            pan: optional(&sheet.scale, "pan"),
            pans: optional(&sheet.scale, "pans").map(|_| figure("pans")).transpose()?,
            ..ScaleBody::default()
        },
        "eggs" => ScaleBody { eggs: Some(figure("eggs")?), egg_g: Some(sheet.kitchen.egg_g(&t.pantry)), ..ScaleBody::default() },
        "dose" => ScaleBody { ripe_h: Some(figure("ripe_h")?), place_c: Some(figure("place_c")?), ..ScaleBody::default() },
        "flour" => ScaleBody { flour_g: Some(figure("flour_g")?), ..ScaleBody::default() },
        _ => ScaleBody { ingredient: optional(&sheet.scale, "ingredient"), grams: Some(figure("grams")?), ..ScaleBody::default() },
    };
    let formula = sheet.draft.check(&t.pantry)?;
    let a = formula.analyse(&t.pantry, &t.styles);
    let scale = body.check(&formula, &a, t).map_err(|e| e.under(&root))?;
    sheet.draft = FormulaDraft::from(formula.scaled(&scale, &a).body());
    sheet.scale.clear();
    Ok(())
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
    let reading = read_again(&sheet, state);
    let found = checked.as_ref().map(|f| findings(f, reading.as_ref(), &sheet.kitchen, state)).unwrap_or_default();
    let ok = checked.is_ok() && wrong.is_empty();
    let seen = Seen { sheet: &sheet, checked: checked.as_ref(), found: &found, reading: reading.as_ref(), wrong: &wrong, state };
    let view = SheetPage::new(chrome, seen, focus);
    page(&view, if ok { StatusCode::OK } else { StatusCode::UNPROCESSABLE_ENTITY })
}
