//! What the buttons of the sheet do to it, and what is found on it.

use std::collections::BTreeMap;

use cerealis_core::{
    Tables,
    findings::{Change, Finding, Remedy},
    formula::{Formula, FormulaDraft, LineDraft, find},
    input::InputErrors,
    kitchen::Kitchen,
    measure::Band,
    pantry::OwnWord,
    plan,
    reader::{self, Reading},
};

use super::{amount, form::Sheet};
use crate::{State, desk, edge::PageFailure};

/// Every finding of the sheet, in a fixed order, so that a button's number means the same on the way back.
pub(super) fn findings(formula: &Formula, reading: Option<&Reading>, kitchen: &Kitchen, state: &State) -> Vec<Finding> {
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

pub(super) fn read_again(sheet: &Sheet, state: &State) -> Option<Reading> {
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

pub(super) fn rearrange(sheet: &mut Sheet, word: &str, index: &str) -> Option<String> {
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

/// Another stage of the bake, or one of them taken out; where the focus goes.
pub(super) fn stage_bake(sheet: &mut Sheet, which: &str) -> String {
    let oven = sheet.draft.oven.get_or_insert_default();
    let taken = which.parse().map(|out| oven.take_stage(out)).is_ok();
    if !taken {
        oven.add_stage();
    }
    let last = oven.stages.as_ref().map_or(0, Vec::len).saturating_sub(1);
    // What was typed in a field of a stage that moved belongs to another now.
    sheet.unread.retain(|at, _| !at.starts_with("/oven/stages"));
    if taken { "stage".to_owned() } else { format!("stages[{last}]") }
}

/// A further bread from the dough, or one of them taken out; where the focus goes.
pub(super) fn divide_further(sheet: &mut Sheet, which: &str, state: &State) -> String {
    let further = &mut sheet.draft.further;
    if let Ok(out) = which.parse::<usize>() {
        if out < further.len() {
            further.remove(out);
        }
        return "further".to_owned();
    }
    let t = state.tables();
    let Ok(formula) = sheet.draft.check(&t.pantry) else { return "further".to_owned() };
    let next = formula.analyse(&t.pantry, &t.styles).next_bread();
    sheet.draft.further.push(next);
    format!("further[{}]", sheet.draft.further.len() - 1)
}

/// Takes the remedy a button names.
pub(super) fn apply_remedy(sheet: &mut Sheet, which: &str, state: &State) -> Option<String> {
    let Ok(formula) = sheet.draft.check(&state.tables().pantry) else { return None };
    let found = findings(&formula, read_again(sheet, state).as_ref(), &sheet.kitchen, state);
    let (finding, remedy) = Finding::named(which, &found)?;
    // What the sentence of the amount was to make of the old pieces is no wish any more.
    if remedy.changes.iter().any(|c| matches!(c, Change::Pan { .. } | Change::Pieces { .. })) {
        sheet.scale.clear();
    }
    sheet.draft = FormulaDraft::from(formula.after(remedy, finding.id, &state.tables().pantry).body());
    Some(finding.line.map_or_else(|| "after:loose".to_owned(), |l| format!("after:{l}")))
}

/// What a word that was not read means: remembered for the household, or told for this recipe; its lines join the
/// sheet where they stand in the text. Where the focus goes on.
pub(super) async fn word_told(
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
pub(super) fn swap(sheet: &mut Sheet, which: &str, state: &State) {
    let t = &state.tables();
    let Some((line, id)) = which.split_once(':').and_then(|(l, id)| Some((l.parse::<usize>().ok()?, id))) else { return };
    let Ok(formula) = sheet.draft.check(&t.pantry) else { return };
    if let Some(swap) = t.swaps.of(&formula, line, t).into_iter().find(|s| s.id == id) {
        let remedy = Remedy::new(swap.id, swap.changes);
        sheet.draft = FormulaDraft::from(formula.after(&remedy, "", &t.pantry).body());
    }
}

/// Takes an answer to a question: line, question, answer.
pub(super) fn answer(sheet: &mut Sheet, which: &str, state: &State) {
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

/// Takes what the sentence of the amount makes of the formula, if it asks for anything.
pub(super) fn take_amount(sheet: &mut Sheet, instead: &str, state: &State) -> Result<(), InputErrors> {
    let t = state.tables();
    // What is wrong with the formula itself is told at its lines.
    let Ok(formula) = sheet.draft.check(&t.pantry) else { return Ok(()) };
    if let Some(amount) = amount::amount(sheet, &formula, &t, instead)? {
        sheet.draft = FormulaDraft::from(amount.formula.body());
        sheet.scale.clear();
    }
    Ok(())
}
