//! What a formula was on its sheet, step by step, so that it can be undone and done again as deep as the visit. Kept in memory
//! only: after a restart there is nothing to undo, and nothing is lost but that.

use std::{
    collections::VecDeque,
    sync::{Arc, Mutex, PoisonError},
};

use cerealis_core::formula::FormulaBody;
use uuid::Uuid;

/// Visits that are remembered; the one longest untouched goes first.
const MOST_VISITS: usize = 32;
/// Steps that are remembered of each.
const MOST_STEPS: usize = 100;

/// The visits to the sheet that are remembered. Cheap to clone.
#[derive(Debug, Clone, Default)]
pub struct Visits(Arc<Mutex<VecDeque<Visit>>>);

#[derive(Debug)]
struct Visit {
    id: Uuid,
    steps: Vec<Step>,
    at: usize,
}

#[derive(Debug)]
struct Step {
    body: FormulaBody,
    /// The field that was typed in; typing on in the same one is the same step.
    field: String,
}

/// Which way.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Way {
    /// To the step before.
    Undo,
    /// To the step that was undone.
    Redo,
}

impl Visits {
    fn with<T>(&self, id: Uuid, does: impl FnOnce(&mut Visit) -> T) -> T {
        let mut all = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        let visit = all.iter().position(|v| v.id == id).and_then(|at| all.remove(at));
        let mut visit = visit.unwrap_or(Visit { id, steps: Vec::new(), at: 0 });
        let answer = does(&mut visit);
        all.push_back(visit);
        if all.len() > MOST_VISITS {
            all.pop_front();
        }
        answer
    }

    /// Notes the formula as it stands after a deed, or after typing in a field. What was undone before cannot be redone after it.
    pub fn note(&self, id: Uuid, body: &FormulaBody, field: &str) {
        // The recipe's own text does not change on the sheet, and may be long.
        let body = FormulaBody { text: None, ..body.clone() };
        self.with(id, |v| {
            if v.steps.get(v.at).is_some_and(|now| now.body == body) {
                return;
            }
            v.steps.truncate(v.at + 1);
            let typing_on = !field.is_empty() && v.steps.len() > 1 && v.steps.last().is_some_and(|s| s.field == field);
            if typing_on {
                v.steps.pop();
            }
            v.steps.push(Step { body, field: field.to_owned() });
            if v.steps.len() > MOST_STEPS {
                v.steps.remove(0);
            }
            v.at = v.steps.len() - 1;
        });
    }

    /// The formula one step back or on; nothing where there is none.
    #[must_use]
    pub fn step(&self, id: Uuid, way: Way) -> Option<FormulaBody> {
        self.with(id, |v| {
            let to = match way {
                Way::Undo => v.at.checked_sub(1)?,
                Way::Redo => v.at + 1,
            };
            let body = v.steps.get(to)?.body.clone();
            v.at = to;
            Some(body)
        })
    }

    /// Whether there is a step to undo, and one to redo.
    #[must_use]
    pub fn ways(&self, id: Uuid) -> (bool, bool) {
        self.with(id, |v| (v.at > 0, v.at + 1 < v.steps.len()))
    }
}

#[cfg(test)]
mod tests {
    use cerealis_core::formula::{FormulaBody, FormulaDraft};

    use super::*;

    fn named(name: &str) -> FormulaBody {
        let draft = FormulaDraft { name: Some(name.into()), ..FormulaDraft::default() };
        draft.check(&cerealis_core::Tables::built_in().unwrap().pantry).unwrap().body()
    }

    fn name(body: Option<FormulaBody>) -> Option<String> {
        body.and_then(|b| b.name)
    }

    #[test]
    fn every_step_goes_back_and_forth_and_a_new_one_ends_what_was_undone() {
        let (visits, id) = (Visits::default(), Uuid::from_u128(1));
        for n in ["one", "two", "three"] {
            visits.note(id, &named(n), "");
        }
        assert_eq!(visits.ways(id), (true, false));
        assert_eq!(name(visits.step(id, Way::Undo)).as_deref(), Some("two"));
        assert_eq!(name(visits.step(id, Way::Undo)).as_deref(), Some("one"));
        assert_eq!(visits.step(id, Way::Undo), None);
        assert_eq!(visits.ways(id), (false, true));
        assert_eq!(name(visits.step(id, Way::Redo)).as_deref(), Some("two"));
        // What is shown again is no new step.
        visits.note(id, &named("two"), "");
        assert_eq!(visits.ways(id), (true, true));
        visits.note(id, &named("four"), "");
        assert_eq!(visits.step(id, Way::Redo), None);
        assert_eq!(name(visits.step(id, Way::Undo)).as_deref(), Some("two"));
    }

    #[test]
    fn typing_on_in_a_field_is_one_step() {
        let (visits, id) = (Visits::default(), Uuid::from_u128(2));
        visits.note(id, &named("was"), "");
        for typed in ["s", "sk", "skerry"] {
            visits.note(id, &named(typed), "name");
        }
        assert_eq!(name(visits.step(id, Way::Undo)).as_deref(), Some("was"));
        assert_eq!(name(visits.step(id, Way::Redo)).as_deref(), Some("skerry"));
    }

    #[test]
    fn only_so_much_is_remembered() {
        let visits = Visits::default();
        for n in 0..300 {
            visits.note(Uuid::from_u128(9), &named(&n.to_string()), "");
        }
        let mut back = 0;
        while visits.step(Uuid::from_u128(9), Way::Undo).is_some() {
            back += 1;
        }
        assert_eq!(back, MOST_STEPS - 1);
        for n in 0..100u128 {
            visits.note(Uuid::from_u128(100 + n), &named("one"), "");
            visits.note(Uuid::from_u128(100 + n), &named("two"), "");
        }
        assert_eq!((visits.ways(Uuid::from_u128(100)), visits.ways(Uuid::from_u128(199))), ((false, false), (true, false)));
    }
}
