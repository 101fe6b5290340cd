//! The sheet as the form sends it, everything as text, and the draft that is read from it.

use std::collections::BTreeMap;

use cerealis_core::{
    formula::{
        FirstRise, FormulaDraft, HoldBody, KneadingBody, LineDraft, OvenBody, PhaseBody, PiecesBody, Stage, StageWay, ToldStep, Typed, Used,
    },
    input::{Pointer, number},
    kitchen::Kitchen,
    measure::{Asked, Units, typed},
    reader::Choices,
};
use serde::{Deserialize, Serialize};
use uuid::Uuid;

/// A line of the sheet as the form sends it.
#[derive(Debug, Deserialize, Default, Clone)]
pub(super) struct LineForm {
    #[serde(default)]
    pub(super) ingredient: String,
    #[serde(default)]
    pub(super) grams: String,
    #[serde(default)]
    pub(super) was: String,
    /// What stood there to the last digit.
    #[serde(default)]
    pub(super) exact: String,
    #[serde(default)]
    pub(super) low: String,
    #[serde(default)]
    pub(super) high: String,
    #[serde(default)]
    pub(super) stage: String,
    #[serde(default)]
    pub(super) source: String,
    /// Of a leaven whose water was told, percent of its flour.
    #[serde(default)]
    pub(super) hydration: String,
}

/// The sheet as the form sends it: everything is text.
#[derive(Debug, Deserialize, Default, Clone)]
pub(super) struct SheetForm {
    #[serde(default)]
    pub(super) id: String,
    #[serde(default)]
    pub(super) name: String,
    #[serde(default)]
    pub(super) text: String,
    #[serde(default)]
    pub(super) cup: String,
    #[serde(default)]
    pub(super) flour_measure: String,
    #[serde(default)]
    pub(super) lines: BTreeMap<usize, LineForm>,
    #[serde(default)]
    pub(super) accepted: Vec<String>,
    #[serde(default)]
    pub(super) pieces: BTreeMap<String, String>,
    #[serde(default)]
    pub(super) further: BTreeMap<usize, BTreeMap<String, String>>,
    #[serde(default)]
    pub(super) hold: BTreeMap<String, String>,
    #[serde(default)]
    pub(super) oven: BTreeMap<String, String>,
    /// The stages of its bake, where it has more than one.
    #[serde(default)]
    pub(super) stages: BTreeMap<usize, BTreeMap<String, String>>,
    #[serde(default)]
    pub(super) scale: BTreeMap<String, String>,
    /// What becomes of it before it is shaped.
    #[serde(default)]
    pub(super) first_rise: String,
    /// How often it is brushed.
    #[serde(default)]
    pub(super) coats: String,
    #[serde(default)]
    pub(super) note: String,
    #[serde(default)]
    pub(super) tags: String,
    #[serde(default)]
    pub(super) variant: String,
    /// The visit to the sheet, for undo and redo.
    #[serde(default)]
    pub(super) visit: String,
    /// The field that was typed in, where the sheet only follows the hand.
    #[serde(default)]
    pub(super) field: String,
    #[serde(default)]
    pub(super) style: String,
    #[serde(default)]
    pub(super) yeast_kind: String,
    #[serde(default)]
    pub(super) gluten_free: bool,
    #[serde(default)]
    pub(super) instead: String,
    /// Steps of the recipe, as JSON: they pass through the sheet unchanged.
    #[serde(default)]
    pub(super) told: String,
    /// What was typed for words that are not read, by their place on the sheet.
    #[serde(default)]
    pub(super) mean: BTreeMap<usize, String>,
    #[serde(default)]
    pub(super) remember: BTreeMap<usize, bool>,
    #[serde(default, rename = "do")]
    pub(super) deed: String,
}

/// What the recipe tells beside its lines, through the form and back.
#[derive(Debug, Clone, Default, Serialize, Deserialize)]
pub(super) struct ToldForm {
    #[serde(default)]
    pub(super) steps: Vec<ToldStep>,
    #[serde(default)]
    pub(super) kneading: Option<KneadingBody>,
    #[serde(default)]
    pub(super) fan: Option<bool>,
    #[serde(default)]
    pub(super) ours: Option<bool>,
}

/// What the form said, as a draft, with the errors of the fields that only the form has.
pub(super) struct Sheet {
    pub(super) draft: FormulaDraft,
    pub(super) choices: Choices,
    pub(super) kitchen: Kitchen,
    pub(super) id: String,
    pub(super) scale: BTreeMap<String, String>,
    /// Lines at the end where nothing is written yet.
    pub(super) blank: usize,
    /// What stood in the fields of pieces and oven that could not be read, by pointer.
    pub(super) unread: BTreeMap<String, String>,
    /// The line for which another ingredient is sought.
    pub(super) instead: Option<usize>,
    /// The visit to the sheet, and the field that was typed in.
    pub(super) visit: Uuid,
    pub(super) field: String,
}

impl Sheet {
    pub(super) fn new(draft: FormulaDraft, choices: Choices, kitchen: &Kitchen, id: String) -> Self {
        Self {
            draft,
            choices,
            kitchen: kitchen.clone(),
            id,
            scale: BTreeMap::new(),
            blank: 0,
            unread: BTreeMap::new(),
            instead: None,
            visit: Uuid::now_v7(),
            field: String::new(),
        }
    }
}

pub(super) fn optional(fields: &BTreeMap<String, String>, name: &str) -> Option<String> {
    fields.get(name).map(|v| v.trim().to_owned()).filter(|v| !v.is_empty())
}

/// The figures of a form, each read in the household's units; what could not be read is kept with its sentence.
struct Figures<'a> {
    units: &'a Units,
    wrong: Vec<(Pointer, String)>,
    unread: BTreeMap<String, String>,
}

impl Figures<'_> {
    /// A figure of a group of fields; nothing where none is told, or none that can be read.
    fn read(&mut self, fields: &BTreeMap<String, String>, group: &str, name: &str) -> Option<f64> {
        let text = optional(fields, name)?;
        match typed(&text, Asked::by_name(name), self.units) {
            Ok(value) => Some(value),
            Err(e) => {
                let here = group.split('/').fold(Pointer::root(), |p, part| p.at(part)).at(name);
                self.unread.insert(here.as_str().to_owned(), text);
                self.wrong.push((here, e));
                None
            }
        }
    }

    /// The pieces of a group of fields; nothing where none of them tells anything.
    fn pieces(&mut self, fields: &BTreeMap<String, String>, group: &str) -> Option<PiecesBody> {
        let count = self.read(fields, group, "count");
        let exact = fields.get("exact_g").and_then(|g| number(g).ok());
        let told = PiecesBody {
            piece_g: exact.or_else(|| self.read(fields, group, "piece_g")),
            shape: optional(fields, "shape"),
            vessel: optional(fields, "vessel"),
            lid: optional(fields, "lid").map(|_| true),
            pan: optional(fields, "pan"),
            strands: optional(fields, "strands").and_then(|s| number(&s).ok()),
            arrangement: optional(fields, "arrangement"),
            thickness_cm: self.read(fields, group, "thickness_cm"),
            prove_in: optional(fields, "prove_in"),
            ..PiecesBody::of(count.unwrap_or(1.0))
        };
        let alone = PiecesBody { pan: told.pan.clone(), ..PiecesBody::of(1.0) };
        (count.is_some() || told != alone).then_some(told)
    }
}

impl SheetForm {
    pub(super) fn sheet(self, kitchen: &Kitchen) -> (Sheet, Vec<(Pointer, String)>, String) {
        let mut figures = Figures { units: &kitchen.units, wrong: Vec::new(), unread: BTreeMap::new() };
        let pieces = figures.pieces(&self.pieces, "pieces");
        let further = self.further.iter().filter_map(|(i, fields)| figures.pieces(fields, &format!("further/{i}"))).collect();
        let hold = figures
            .read(&self.hold, "hold", "grams")
            .map(|grams| HoldBody { ingredient: optional(&self.hold, "ingredient").unwrap_or_default(), grams });
        let told = serde_json::from_str::<ToldForm>(&self.told).unwrap_or_default();
        let mut stage = |(i, fields): (&usize, &BTreeMap<String, String>)| {
            let mut figure = |name: &str| figures.read(fields, &format!("oven/stages/{i}"), name);
            let (set_c, low, high) = (figure("set_c"), figure("minutes_low"), figure("minutes_high"));
            let how = optional(fields, "how").and_then(|word| StageWay::from_word(&word));
            how.unwrap_or(StageWay::Bakes).body(set_c, low, high)
        };
        let stages: Vec<PhaseBody> = self.stages.iter().map(&mut stage).collect();
        let oven = OvenBody {
            set_c: figures.read(&self.oven, "oven", "set_c"),
            minutes_low: figures.read(&self.oven, "oven", "low"),
            minutes_high: figures.read(&self.oven, "oven", "high"),
            stages: Some(stages).filter(|s| !s.is_empty()),
            fan: told.fan,
            ours: told.ours,
        };
        let line = |l: LineForm| {
            // A weight that was typed anew is exact: its interval goes. One that was not is still what it was to the last digit.
            let kept = l.grams.trim() == l.was.trim();
            let exact = number(&l.exact).ok().filter(|_| kept);
            let told = exact.or_else(|| typed(&l.grams, Asked::Grams, &kitchen.units).ok());
            LineDraft {
                ingredient: l.ingredient,
                grams_low: number(&l.low).ok().filter(|_| kept),
                grams_high: number(&l.high).ok().filter(|_| kept),
                grams: told.map_or(Typed::Text(l.grams), Typed::Number),
                // Filling and icing are of the finish.
                used: Used::from_word(&l.stage).map(|u| u.word().to_owned()),
                stage: Some(if Used::from_word(&l.stage).is_some() { Stage::Finish.word().to_owned() } else { l.stage })
                    .filter(|s| !s.is_empty()),
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
                kneading: told.kneading,
                rises: FirstRise::from_word(&self.first_rise).map(FirstRise::body),
                coats: number(&self.coats).ok(),
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
            unread: figures.unread,
            instead: None,
            visit: self.visit.parse().unwrap_or_else(|_| Uuid::now_v7()),
            field: String::new(),
        };
        (sheet, figures.wrong, self.deed)
    }
}
