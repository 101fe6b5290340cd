//! A formula as it was typed or sent, and the one door through which it becomes a [`Formula`].

use serde::{Deserialize, Serialize};

use super::{
    Formula, HoldBody, KneadingBody, Line, OvenTold, Pieces, PiecesBody, RisesBody, Stage, StyleId, ToldStep, Used,
    pieces::check_pieces,
    told::{LATER_FIRST, OvenBody, check_phases, check_steps, phases_beside, whole_bake},
};
use crate::{
    input::{Errors, InputErrors, Pointer, number},
    measure::{Band, Grams, between, weight},
    pantry::{Family, Pantry, YeastKind, fold},
};
use std::sync::Arc;

/// Most lines a formula holds.
pub const MOST_LINES: usize = 200;
/// Most coats a piece is brushed with.
pub const MOST_COATS: u32 = 3;
/// Longest note, and most and longest tags, in letters.
const LONGEST_NOTE: usize = 4000;
const MOST_TAGS: usize = 20;
const LONGEST_TAG: usize = 40;
/// Longest name, in letters.
const LONGEST_NAME: usize = 200;
/// Most findings accepted, and the longest id of one: there are about two hundred.
const MOST_ACCEPTED: usize = 300;
const LONGEST_ID: usize = 60;
/// Longest name of a variant, in letters.
const LONGEST_VARIANT: usize = 60;
/// Most breads from one dough beside the main one.
const MOST_FURTHER: usize = 8;

/// A number as it came: from JSON as a number, from a form as text.
#[derive(Debug, Clone, PartialEq)]
pub enum Typed {
    /// A number.
    Number(f64),
    /// What stands in a field.
    Text(String),
}

impl Typed {
    /// The number.
    ///
    /// # Errors
    /// A sentence, if it is none.
    pub fn read(&self) -> Result<f64, String> {
        match self {
            Self::Number(n) => Ok(*n),
            Self::Text(t) => number(t),
        }
    }
    /// As it stands in a field.
    #[must_use]
    pub fn text(&self) -> String {
        match self {
            Self::Number(n) => n.to_string(),
            Self::Text(t) => t.clone(),
        }
    }
}

/// A line as it came.
#[derive(Debug, Clone, PartialEq)]
#[allow(missing_docs, reason = "as in the API")]
pub struct LineDraft {
    pub ingredient: String,
    pub grams: Typed,
    pub grams_low: Option<f64>,
    pub grams_high: Option<f64>,
    pub stage: Option<String>,
    pub source: Option<String>,
    pub hydration_pct: Option<f64>,
    pub used: Option<String>,
}

impl LineDraft {
    /// Whether nothing is written on it yet: neither ingredient nor weight, and no recipe stands behind it.
    #[must_use]
    pub fn is_blank(&self) -> bool {
        let no_weight = matches!(&self.grams, Typed::Text(t) if t.trim().is_empty());
        self.ingredient.trim().is_empty() && no_weight && self.source.is_none()
    }

    /// A line where nothing is written yet.
    #[must_use]
    pub fn blank() -> Self {
        Self {
            ingredient: String::new(),
            grams: Typed::Text(String::new()),
            grams_low: None,
            grams_high: None,
            stage: None,
            source: None,
            hydration_pct: None,
            used: None,
        }
    }
}

/// A formula as it came: nothing typed is lost, nothing is trusted.
#[derive(Debug, Clone, PartialEq, Default)]
#[allow(missing_docs, reason = "as in the API")]
pub struct FormulaDraft {
    pub name: Option<String>,
    pub variant: Option<String>,
    pub style: Option<String>,
    pub yeast_kind: Option<String>,
    pub gluten_free: bool,
    pub accepted: Vec<String>,
    pub lines: Vec<LineDraft>,
    pub pieces: Option<PiecesBody>,
    pub further: Vec<PiecesBody>,
    pub hold: Option<HoldBody>,
    pub oven: Option<OvenBody>,
    pub kneading: Option<KneadingBody>,
    /// How it rises before it is shaped.
    pub rises: Option<RisesBody>,
    /// Coats it is brushed with.
    pub coats: Option<f64>,
    /// Its steps in the recipe's own words.
    pub steps: Vec<ToldStep>,
    /// The recipe as it was pasted, kept beside its lines.
    pub text: Option<String>,
    /// A note to oneself.
    pub note: Option<String>,
    /// Words to find it by.
    pub tags: Vec<String>,
}

/// The wire form of a line; also how it is stored.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[allow(missing_docs, reason = "names of the API")]
pub struct LineBody {
    pub ingredient: String,
    pub grams: f64,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub grams_low: Option<f64>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub grams_high: Option<f64>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub stage: Option<String>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub source: Option<String>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub hydration_pct: Option<f64>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub used: Option<String>,
}

/// The wire form of a formula; also how it is stored.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, Default)]
#[serde(deny_unknown_fields)]
#[allow(missing_docs, reason = "names of the API")]
pub struct FormulaBody {
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub name: Option<String>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub variant: Option<String>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub style: Option<String>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub yeast_kind: Option<String>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub gluten_free: Option<bool>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub accepted: Option<Vec<String>>,
    pub lines: Vec<LineBody>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub pieces: Option<PiecesBody>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub further: Option<Vec<PiecesBody>>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub hold: Option<HoldBody>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub oven: Option<OvenBody>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub kneading: Option<KneadingBody>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub coats: Option<f64>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub rises: Option<RisesBody>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub steps: Option<Vec<ToldStep>>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub text: Option<String>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub note: Option<String>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub tags: Option<Vec<String>>,
}

impl FormulaBody {
    /// Name and variant, as a list shows them.
    #[must_use]
    pub fn title(&self) -> String {
        let name = self.name.as_deref().unwrap_or("Unnamed bread");
        self.variant.as_deref().map_or_else(|| name.to_owned(), |v| format!("{name}, {v}"))
    }

    /// Whether two bear one name, whatever the accents: variants of one bread.
    #[must_use]
    pub fn is_variant_of(&self, other: &Self) -> bool {
        match (&self.name, &other.name) {
            (Some(a), Some(b)) => fold(a) == fold(b),
            _ => false,
        }
    }

    /// Whether every word of a search stands in its name, its tags, its note or its style, whatever the accents.
    #[must_use]
    pub fn answers_to(&self, search: &str, style: &str) -> bool {
        let tags = self.tags.clone().unwrap_or_default().join(" ");
        let all = [
            self.name.as_deref().unwrap_or_default(),
            self.variant.as_deref().unwrap_or_default(),
            &tags,
            self.note.as_deref().unwrap_or_default(),
            style,
        ]
        .join(" ");
        let all = fold(&all);
        fold(search).split(' ').all(|word| all.contains(word))
    }
}

impl From<FormulaBody> for FormulaDraft {
    fn from(body: FormulaBody) -> Self {
        let line = |l: LineBody| LineDraft {
            ingredient: l.ingredient,
            grams: Typed::Number(l.grams),
            grams_low: l.grams_low,
            grams_high: l.grams_high,
            stage: l.stage,
            source: l.source,
            hydration_pct: l.hydration_pct,
            used: l.used,
        };
        Self {
            name: body.name,
            variant: body.variant,
            style: body.style,
            yeast_kind: body.yeast_kind,
            gluten_free: body.gluten_free.unwrap_or(false),
            accepted: body.accepted.unwrap_or_default(),
            lines: body.lines.into_iter().map(line).collect(),
            pieces: body.pieces,
            further: body.further.unwrap_or_default(),
            hold: body.hold,
            oven: body.oven,
            kneading: body.kneading,
            rises: body.rises,
            coats: body.coats,
            steps: body.steps.unwrap_or_default(),
            text: body.text,
            note: body.note,
            tags: body.tags.unwrap_or_default(),
        }
    }
}

impl FormulaDraft {
    /// Checks everything and gives the formula.
    ///
    /// Ranges: grams over 0 to 100,000; 1 to 500 pieces of 1 to 20,000 g; 1 to 200 lines (an empty
    /// list is allowed and gives an empty formula, whose findings are none).
    ///
    /// # Errors
    /// Every field that is wrong, each with its pointer.
    pub fn check(&self, pantry: &Pantry) -> Result<Formula, InputErrors> {
        let root = Pointer::root();
        let mut errors = Errors::default();
        if self.lines.len() > MOST_LINES {
            errors.add(root.at("lines"), format!("A formula holds {MOST_LINES} lines at most; these are {}.", self.lines.len()));
        }
        errors.line(root.at("name"), "A name", self.name.as_deref().unwrap_or_default(), LONGEST_NAME);
        errors.line(root.at("variant"), "A variant", self.variant.as_deref().unwrap_or_default(), LONGEST_VARIANT);
        if self.accepted.len() > MOST_ACCEPTED {
            errors.add(root.at("accepted"), format!("{MOST_ACCEPTED} findings are accepted at most."));
        }
        for (i, id) in self.accepted.iter().take(MOST_ACCEPTED).enumerate() {
            errors.line(root.at("accepted").at(i), "The id of a finding", id, LONGEST_ID);
        }
        if self.note.as_ref().is_some_and(|n| n.chars().count() > LONGEST_NOTE) {
            errors.add(root.at("note"), format!("A note has {LONGEST_NOTE} letters at most."));
        }
        if self.tags.len() > MOST_TAGS {
            errors.add(root.at("tags"), format!("{MOST_TAGS} tags at most; these are {}.", self.tags.len()));
        }
        for (i, tag) in self.tags.iter().take(MOST_TAGS).enumerate() {
            errors.line(root.at("tags").at(i), "A tag", tag, LONGEST_TAG);
            if tag.trim().is_empty() {
                errors.add(root.at("tags").at(i), "A tag has at least one letter.");
            }
        }
        let style = self.style.as_deref().filter(|s| !s.is_empty()).and_then(|word| {
            errors.keep(
                root.at("style"),
                StyleId::from_word(word).ok_or_else(|| {
                    let near = crate::did_you_mean(word, StyleId::ALL.into_iter().map(StyleId::word));
                    format!("“{word}” is no style of dough.{near}")
                }),
            )
        });
        let yeast_kind = self.yeast_kind.as_deref().filter(|s| !s.is_empty()).and_then(|word| {
            errors.keep(
                root.at("yeast_kind"),
                YeastKind::from_word(word)
                    .ok_or_else(|| format!("“{word}” is no kind of yeast: instant, osmotolerant, active-dry or fresh.")),
            )
        });
        let mut lines = Vec::with_capacity(self.lines.len());
        for (i, draft) in self.lines.iter().take(MOST_LINES).enumerate() {
            if let Some(line) = check_line(draft, &root.at("lines").at(i), pantry, &mut errors) {
                lines.push(line);
            }
        }
        let pieces = self.pieces.as_ref().and_then(|p| check_pieces(p, &root.at("pieces"), pantry, &mut errors));
        if self.further.len() > MOST_FURTHER {
            errors.add(root.at("further"), format!("{MOST_FURTHER} further breads from one dough at most."));
        }
        let further: Vec<Pieces> = self
            .further
            .iter()
            .take(MOST_FURTHER)
            .enumerate()
            .filter_map(|(i, p)| {
                let here = root.at("further").at(i);
                if p.piece_g.is_none() {
                    errors.add(here.at("piece_g"), "Say what one piece of this bread weighs.");
                }
                check_pieces(p, &here, pantry, &mut errors)
            })
            .collect();
        let hold = self.hold.as_ref().and_then(|h| h.check(&lines, &root.at("hold"), pantry, &mut errors));
        let body = self.oven.as_ref().map(|o| check_oven(o, &root.at("oven"), &mut errors));
        let told = body.filter(|o| o.set_c.is_some() || o.minutes.is_some());
        let stages = self.oven.as_ref().and_then(|o| o.stages.as_deref()).unwrap_or_default();
        let phases = phases_beside(check_phases(stages, &root.at("oven").at("stages"), &mut errors), told);
        let whole = || whole_bake(&phases).map(|o| OvenTold { set_c: o.set_c, minutes: o.minutes, ..body.unwrap_or_default() });
        let oven = told.or_else(whole);
        let kneading = self.kneading.as_ref().and_then(|k| k.check(&root.at("kneading"), &mut errors));
        if let Some(n) = self.coats.filter(|n| n.fract() != 0.0 || !(1.0..=f64::from(MOST_COATS)).contains(n)) {
            errors.add(root.at("coats"), format!("It is brushed 1 to {MOST_COATS} times; {n} is not that."));
        }
        #[allow(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "1 to 3 was checked; else nothing is built")]
        let coats = self.coats.map(|n| n.clamp(1.0, f64::from(MOST_COATS)) as u32);
        let rises = self.rises.as_ref().and_then(|r| r.check(&root.at("rises"), &mut errors));
        check_steps(&self.steps, &root.at("steps"), &mut errors);
        errors.finish(Formula {
            name: self.name.clone().filter(|n| !n.trim().is_empty()),
            variant: self.variant.as_deref().map(str::trim).filter(|v| !v.is_empty()).map(str::to_owned),
            style,
            yeast_kind,
            gluten_free: self.gluten_free,
            accepted: self.accepted.clone(),
            lines,
            pieces,
            further,
            hold,
            oven,
            kneading,
            rises,
            coats,
            phases,
            steps: self.steps.clone(),
            text: self.text.clone(),
            note: self.note.clone().filter(|n| !n.trim().is_empty()),
            tags: self.tags.iter().map(|t| t.trim().to_owned()).collect(),
        })
    }
}

fn check_line(draft: &LineDraft, here: &Pointer, pantry: &Pantry, errors: &mut Errors) -> Option<Line> {
    let ingredient = if draft.ingredient.trim().is_empty() {
        errors.add(here.at("ingredient"), "Name the ingredient, for example bread flour.");
        None
    } else {
        errors.keep(here.at("ingredient"), pantry.find(&draft.ingredient))
    };
    let grams = errors.keep(
        here.at("grams"),
        draft.grams.read().and_then(|g| {
            if g > 0.0 && Grams::new(g).is_ok() {
                Ok(g)
            } else {
                Err(format!("A weight is above {} and at most {}; {} is not.", weight(0.0), weight(100_000.0), weight(g)))
            }
        }),
    );
    let stage = match draft.stage.as_deref().filter(|s| !s.is_empty()) {
        None => None,
        Some(word) => Some(errors.keep(
            here.at("stage"),
            Stage::from_word(word).ok_or_else(|| {
                let near = crate::did_you_mean(word, Stage::ALL.into_iter().map(Stage::word));
                format!("“{word}” is no stage of a dough.{near}")
            }),
        )?),
    };
    let used = match draft.used.as_deref().filter(|s| !s.is_empty()) {
        None => None,
        Some(_) if stage.is_some_and(|s| s != Stage::Finish) => {
            errors.add(here.at("used"), "Filling and icing are of the finish.");
            None
        }
        Some(word) => errors.keep(
            here.at("used"),
            Used::from_word(word).ok_or_else(|| format!("“{word}” is no use of a line: {}.", Used::words().join(", "))),
        ),
    };
    let (ingredient, grams) = (ingredient?, grams?);
    let (low, high) = (draft.grams_low.unwrap_or(grams), draft.grams_high.unwrap_or(grams));
    for (name, value, ok) in [("grams_low", low, low > 0.0 && low <= grams), ("grams_high", high, high >= grams && high <= 200_000.0)] {
        if !ok {
            errors.add(
                here.at(name),
                format!("The weight {} must lie between its low and its high; {} does not fit.", weight(grams), weight(value)),
            );
        }
    }
    if let Some(h) = draft.hydration_pct {
        errors.range(here.at("hydration_pct"), h, 30.0, 300.0, "A leaven's water is between 30 and 300 % of its flour.");
    }
    let hydration_pct = draft.hydration_pct.filter(|h| ingredient.family == Family::Leaven && (30.0..=300.0).contains(h));
    let stage = stage.or(used.map(|_| Stage::Finish)).unwrap_or_else(|| Stage::usual(ingredient));
    Some(Line {
        stage,
        used,
        ingredient: hydration_pct.map_or_else(|| ingredient.clone(), |h| Arc::new(ingredient.leaven_at(h))),
        grams: Band::new(low, grams, high),
        source: draft.source.clone().filter(|s| !s.is_empty()),
        hydration_pct,
    })
}

fn check_oven(body: &OvenBody, here: &Pointer, errors: &mut Errors) -> OvenTold {
    if let Some(c) = body.set_c {
        errors.range(here.at("set_c"), c, 100.0, 300.0, between!("An oven setting for bread lies", 100, 300, dial));
    }
    for (name, minutes) in [("minutes_low", body.minutes_low), ("minutes_high", body.minutes_high)] {
        if let Some(m) = minutes {
            errors.range(here.at(name), m, 1.0, 600.0, "Baking takes between 1 and 600 minutes.");
        }
    }
    if let (Some(low), Some(high)) = (body.minutes_low, body.minutes_high)
        && low > high
    {
        errors.add(here.at("minutes_low"), LATER_FIRST);
    }
    OvenTold {
        set_c: body.set_c,
        minutes: body.minutes_low.or(body.minutes_high).zip(body.minutes_high.or(body.minutes_low)),
        fan: body.fan.unwrap_or(false),
        ours: body.ours.unwrap_or(false),
    }
}
