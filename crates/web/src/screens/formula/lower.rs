//! The lower half of the sheet: how much of it, in which pieces, what is held back, and the oven as it was told.

use std::collections::BTreeMap;

use cerealis_core::{
    formula::{Analysis, FirstRise, Formula, FormulaDraft, MOST_COATS, MOST_STAGES, PhaseBody, PiecesBody, StageWay, oven_of},
    input::{InputErrors, Pointer},
    measure::{Asked, Units, to_nearest},
    oven::{ProveIn, Shape, Vessel},
    pantry::{Family, Pantry},
    plan::StepKind,
};

use super::view::{plain, short_name};

/// What the sheet's fields hold: as it was typed where that could not be read, else as it is.
pub struct Typed<'a> {
    pub draft: &'a FormulaDraft,
    pub unread: &'a BTreeMap<String, String>,
    pub wrong: &'a [(Pointer, String)],
    pub errors: &'a InputErrors,
    pub units: &'a Units,
}

impl Typed<'_> {
    fn field(&self, name: &str, read: Option<f64>) -> String {
        self.unread
            .get(name)
            .cloned()
            .unwrap_or_else(|| read.map(|v| Asked::by_name(name).shown(to_nearest(v, 0.01), self.units)).unwrap_or_default())
    }

    /// Everything that is wrong with a group of fields, told by their pointers.
    fn wrong_where(&self, is: impl Fn(&str) -> bool) -> Vec<String> {
        let of_form = self.wrong.iter().filter(|(p, _)| is(p.as_str())).map(|(_, m)| m.clone());
        of_form.chain(self.errors.0.iter().filter(|e| is(e.pointer.as_str())).map(|e| e.message.clone())).collect()
    }

    pub fn wrong(&self, group: &str) -> Vec<String> {
        self.wrong_where(|at| at.starts_with(group))
    }
}

/// Pieces as they are told, and further breads from the same dough.
pub struct PiecesTold {
    /// What passes through the form unchanged: each part and its value.
    pub told: Vec<(&'static str, String)>,
    pub further: Vec<FurtherRow>,
    pub errors: Vec<String>,
}

/// A further bread from the same dough.
pub struct FurtherRow {
    pub index: usize,
    pub count: String,
    pub piece_g: String,
    pub shape: String,
    pub strands: String,
    pub errors: Vec<String>,
}

impl PiecesTold {
    pub fn new(t: &Typed<'_>) -> Self {
        let pieces = t.draft.pieces.as_ref();
        let further = t.draft.further.iter().enumerate().map(|(i, p)| {
            let at = |name: &str| format!("/further/{i}/{name}");
            FurtherRow {
                index: i,
                count: t.field(&at("count"), Some(p.count)),
                piece_g: t.field(&at("piece_g"), p.piece_g),
                shape: p.shape.clone().unwrap_or_default(),
                strands: p.strands.map(plain).unwrap_or_default(),
                errors: t.wrong(&format!("/further/{i}/")),
            }
        });
        let part = |of: &dyn Fn(&PiecesBody) -> Option<String>| pieces.and_then(of).unwrap_or_default();
        Self {
            told: vec![
                ("count", t.field("/pieces/count", pieces.map(|p| p.count))),
                ("exact_g", part(&|p| p.piece_g.map(|g| g.to_string()))),
                ("shape", part(&|p| p.shape.clone())),
                ("strands", part(&|p| p.strands.map(plain))),
                ("pan", part(&|p| p.pan.clone())),
            ],
            further: further.collect(),
            errors: t.wrong("/pieces"),
        }
    }
}

/// What is held back at the mix.
pub struct HoldTold {
    pub grams: String,
    /// Lines of which some can be held back: id, name, whether it is this one.
    pub lines: Vec<(String, String, bool)>,
    pub errors: Vec<String>,
}

impl HoldTold {
    pub fn new(t: &Typed<'_>, formula: Option<&Formula>, pantry: &Pantry) -> Self {
        let told = t.draft.hold.as_ref();
        // While a line cannot be read the choice is the one made before, so that it is not lost.
        let before = || told.iter().map(|h| (h.ingredient.clone(), h.ingredient.clone(), true)).collect();
        let of = |f: &Formula| {
            let can = |family| matches!(family, Family::Flour | Family::Liquid | Family::Dairy);
            let lines = f.lines.iter().map(|l| (l.in_dough(), &l.ingredient)).filter(|(inside, i)| *inside && can(i.family));
            let held = told.map(|h| h.ingredient.as_str());
            lines.map(|(_, i)| (i.id.clone(), short_name(i, pantry), held == Some(i.id.as_str()))).collect()
        };
        Self { grams: t.field("/hold/grams", told.map(|h| h.grams)), lines: formula.map_or_else(before, of), errors: t.wrong("/hold") }
    }
}

/// A choice: word, name, whether it is this one.
type Choice = (&'static str, &'static str, bool);

/// What the pieces prove in, stand in and lie by, and how often they are brushed.
pub struct StandsTold {
    pub first_rise: Vec<Choice>,
    pub proves: Vec<Choice>,
    pub vessels: Vec<Choice>,
    pub lies: Vec<Choice>,
    pub lid: bool,
    /// How thick a flat bread is; none where it is not flat.
    pub thickness: Option<String>,
    /// How often it is brushed; none where nothing is brushed on.
    pub coats: Option<Vec<(u32, &'static str, bool)>>,
    /// How full its tin is, and where it is ripe.
    pub tin: String,
}

impl StandsTold {
    pub fn new(t: &Typed<'_>, analysis: Option<&Analysis<'_>>, pantry: &Pantry) -> Self {
        let told = t.draft.pieces.as_ref();
        let chosen = |word: &str, of: fn(&PiecesBody) -> Option<&String>| told.and_then(of).is_some_and(|w| w == word);
        let bake = analysis.map(|a| oven_of(a, pantry));
        let flat = bake.as_ref().is_some_and(|b| b.shape == Shape::Flat) || told.is_some_and(|p| p.thickness_cm.is_some());
        let brushed = bake.as_ref().is_some_and(|b| b.before_load() == Some(StepKind::Finish)) || t.draft.coats.is_some();
        let coats = || {
            let now = t.draft.coats.unwrap_or(1.0);
            (1..=MOST_COATS).zip(["once", "twice", "three times"]).map(|(n, words)| (n, words, (f64::from(n) - now).abs() < 0.5)).collect()
        };
        let rises = t.draft.rises.as_ref();
        Self {
            first_rise: FirstRise::ALL.iter().map(|r| (r.word(), r.title(), rises == Some(&r.body()))).collect(),
            proves: ProveIn::ALL.iter().map(|p| (p.word(), p.title(), chosen(p.word(), |p| p.prove_in.as_ref()))).collect(),
            vessels: Vessel::ALL.iter().map(|v| (v.word(), v.stands(), chosen(v.word(), |p| p.vessel.as_ref()))).collect(),
            lies: [("free", "apart"), ("touching", "touching")]
                .map(|(word, title)| (word, title, chosen(word, |p| p.arrangement.as_ref())))
                .into(),
            lid: told.is_some_and(|p| p.lid == Some(true)),
            thickness: flat.then(|| t.field("/pieces/thickness_cm", told.and_then(|p| p.thickness_cm))),
            coats: brushed.then(coats),
            tin: analysis.map_or_else(String::new, |a| a.tin_words(pantry)),
        }
    }
}

/// The oven as the recipe tells it.
pub struct OvenTold {
    pub set_c: String,
    pub low: String,
    pub high: String,
    /// Its stages, where it has more than one.
    pub stages: Vec<StageRow>,
    /// Whether one more may be added.
    pub may_add: bool,
    pub errors: Vec<String>,
}

/// A stage of the bake, in its fields.
pub struct StageRow {
    pub index: usize,
    pub set_c: String,
    pub low: String,
    pub high: String,
    pub errors: Vec<String>,
    /// How it bakes then: word, name, whether it is this one.
    pub ways: Vec<(&'static str, &'static str, bool)>,
}

impl StageRow {
    fn new(t: &Typed<'_>, index: usize, p: &PhaseBody) -> Self {
        let field = |name: &str, value: Option<f64>| t.field(&format!("/oven/stages/{index}/{name}"), value);
        let way = p.way();
        Self {
            index,
            set_c: field("set_c", p.set_c.map(|c| (c * 10.0).round() / 10.0)),
            low: field("minutes_low", p.minutes_low),
            high: field("minutes_high", p.minutes_high),
            errors: t.wrong(&format!("/oven/stages/{index}/")),
            ways: StageWay::ALL.iter().map(|w| (w.word(), w.title(), *w == way)).collect(),
        }
    }
}

impl OvenTold {
    pub fn new(t: &Typed<'_>) -> Self {
        let oven = t.draft.oven.as_ref();
        let stages = oven.and_then(|o| o.stages.as_deref()).unwrap_or_default();
        Self {
            stages: stages.iter().enumerate().map(|(i, p)| StageRow::new(t, i, p)).collect(),
            may_add: stages.len() < MOST_STAGES,
            set_c: t.field("/oven/set_c", oven.and_then(|o| o.set_c).map(|c| (c * 10.0).round() / 10.0)),
            low: t.field("/oven/low", oven.and_then(|o| o.minutes_low)),
            high: t.field("/oven/high", oven.and_then(|o| o.minutes_high)),
            errors: t.wrong_where(|at| at.starts_with("/oven") && !at.starts_with("/oven/stages/")),
        }
    }
}

/// Note, tags and name of the variant.
pub struct WordsTold {
    pub note: String,
    pub tags: String,
    pub variant: String,
    pub errors: Vec<String>,
}

impl WordsTold {
    pub fn new(t: &Typed<'_>) -> Self {
        Self {
            note: t.draft.note.clone().unwrap_or_default(),
            tags: t.draft.tags.join(", "),
            variant: t.draft.variant.clone().unwrap_or_default(),
            errors: ["/note", "/tags", "/variant"].map(|group| t.wrong(group)).concat(),
        }
    }
}
