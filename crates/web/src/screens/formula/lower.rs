//! The lower half of the sheet: how much of it, in which pieces, what is held back, and the oven as it was told.

use std::collections::BTreeMap;

use cerealis_core::{
    formula::{Analysis, Formula, FormulaDraft},
    input::{InputErrors, Pointer},
    kitchen::Kitchen,
    measure::show,
    pantry::{Family, Pantry},
};

use super::view::{divided, in_field, plain, short_name, under, whole_eggs};

/// What the sheet's fields hold: as it was typed where that could not be read, else as it is.
pub struct Typed<'a> {
    pub draft: &'a FormulaDraft,
    pub unread: &'a BTreeMap<String, String>,
    pub wrong: &'a [(Pointer, String)],
    pub errors: &'a InputErrors,
}

impl Typed<'_> {
    fn field(&self, name: &str, read: Option<f64>) -> String {
        self.unread.get(name).cloned().unwrap_or_else(|| read.map(plain).unwrap_or_default())
    }

    pub fn wrong(&self, group: &str) -> Vec<String> {
        under(self.wrong, self.errors, group)
    }
}

/// Pieces and what they are woven from.
pub struct PiecesTold {
    pub count: String,
    pub piece_g: String,
    pub shape: String,
    pub strands: String,
    pub further: Vec<FurtherRow>,
    /// What each bread is woven from, and what all of them take.
    pub divided: Vec<String>,
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
    pub fn new(t: &Typed<'_>, analysis: Option<&Analysis<'_>>) -> Self {
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
        Self {
            count: t.field("/pieces/count", pieces.map(|p| p.count)),
            piece_g: t.field("/pieces/piece_g", pieces.and_then(|p| p.piece_g)),
            shape: pieces.and_then(|p| p.shape.clone()).unwrap_or_default(),
            strands: pieces.and_then(|p| p.strands).map(plain).unwrap_or_default(),
            further: further.collect(),
            divided: analysis.map_or_else(Vec::new, divided),
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

/// The oven as the recipe tells it.
pub struct OvenTold {
    pub set_c: String,
    pub low: String,
    pub high: String,
    pub errors: Vec<String>,
}

impl OvenTold {
    pub fn new(t: &Typed<'_>) -> Self {
        let oven = t.draft.oven.as_ref();
        Self {
            set_c: t.field("/oven/set_c", oven.and_then(|o| o.set_c).map(|c| (c * 10.0).round() / 10.0)),
            low: t.field("/oven/low", oven.and_then(|o| o.minutes_low)),
            high: t.field("/oven/high", oven.and_then(|o| o.minutes_high)),
            errors: t.wrong("/oven"),
        }
    }
}

/// By what the whole is scaled.
pub struct ScaleTold {
    pub pieces: String,
    pub piece_g: String,
    pub pans: String,
    pub pan: String,
    /// Pans that are filled: id, name.
    pub tins: Vec<(String, String)>,
    pub dough_g: String,
    pub flour_g: String,
    pub grams: String,
    pub ingredient: String,
    /// Whole eggs to scale by, where there are any.
    pub eggs: Option<String>,
    pub ripe_h: String,
    pub place_c: String,
    pub has_rise: bool,
    pub errors: Vec<String>,
}

impl ScaleTold {
    pub fn new(
        t: &Typed<'_>,
        scale: &BTreeMap<String, String>,
        analysis: Option<&Analysis<'_>>,
        kitchen: &Kitchen,
        pantry: &Pantry,
    ) -> Self {
        let errors = t.wrong("/scale");
        // Number and weight stand there as they are; what was typed stays only where it could not be used.
        let typed = |name: &str| scale.get(name).filter(|_| !errors.is_empty()).cloned();
        let pieces = t.draft.pieces.as_ref();
        let formula = analysis.map(|a| a.formula);
        let each = analysis.map(|a| a.dough_g.likely / pieces.map_or(1.0, |p| p.count.max(1.0))).filter(|g| *g > 0.0);
        let rises = |f: &Formula| f.lines.iter().any(|l| l.in_dough() && matches!(l.ingredient.family, Family::Yeast | Family::Leaven));
        let rest = |name: &str| typed(name).unwrap_or_default();
        Self {
            pieces: typed("pieces").unwrap_or_else(|| pieces.map_or_else(|| "1".into(), |p| plain(p.count))),
            piece_g: typed("piece_g").or_else(|| pieces.and_then(|p| p.piece_g).or(each).map(in_field)).unwrap_or_default(),
            pans: typed("pans").unwrap_or_else(|| "1".into()),
            pan: typed("pan").or_else(|| pieces.and_then(|p| p.pan.clone())).unwrap_or_default(),
            tins: pantry.pans().filter(|p| p.is_filled()).map(|p| (p.id.clone(), p.name.clone())).collect(),
            dough_g: rest("dough_g"),
            flour_g: rest("flour_g"),
            grams: rest("grams"),
            ingredient: rest("ingredient"),
            eggs: formula.and_then(|f| whole_eggs(f, kitchen, pantry)).map(|n| typed("eggs").unwrap_or_else(|| show(n, 0))),
            ripe_h: rest("ripe_h"),
            place_c: typed("place_c").unwrap_or_else(|| plain(kitchen.room_c)),
            has_rise: formula.is_some_and(rises),
            errors,
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
