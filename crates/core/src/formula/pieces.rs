//! The pieces a dough is divided into, as they came and checked.

use std::sync::Arc;

use serde::{Deserialize, Serialize};

use super::WEAVES;
use crate::{
    input::{Errors, Pointer},
    measure::between,
    oven::{ProveIn, Shape, THICKNESS, THICKNESS_CM, Vessel},
    pantry::{Pan, Pantry},
};

/// Most pieces of one bread.
pub(super) const MOST_PIECES: f64 = 500.0;

/// Pieces the dough is divided into.
#[derive(Debug, Clone, PartialEq)]
pub struct Pieces {
    /// How many.
    pub count: u32,
    /// Grams of one, if told.
    pub piece_g: Option<f64>,
    /// Shape, if told.
    pub shape: Option<Shape>,
    /// What they bake on, if told.
    pub vessel: Option<Vessel>,
    /// Whether the pan has a lid.
    pub lid: bool,
    /// The pan it bakes in, if told.
    pub pan: Option<Arc<Pan>>,
    /// Strands it is woven from, if it is.
    pub strands: Option<u32>,
    /// Whether they lie so close that they grow together, if told.
    pub touching: Option<bool>,
    /// How thick a flat one is pressed or rolled, cm, if told.
    pub thickness_cm: Option<f64>,
    /// What they prove in, if told.
    pub prove_in: Option<ProveIn>,
}

/// The wire form of the pieces.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[allow(missing_docs, reason = "names of the API")]
pub struct PiecesBody {
    pub count: f64,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub piece_g: Option<f64>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub shape: Option<String>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub vessel: Option<String>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub lid: Option<bool>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub pan: Option<String>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub strands: Option<f64>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub arrangement: Option<String>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub thickness_cm: Option<f64>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub prove_in: Option<String>,
}

impl PiecesBody {
    /// So many pieces, of which no more is told.
    #[must_use]
    pub const fn of(count: f64) -> Self {
        Self {
            count,
            piece_g: None,
            shape: None,
            vessel: None,
            lid: None,
            pan: None,
            strands: None,
            arrangement: None,
            thickness_cm: None,
            prove_in: None,
        }
    }
}

impl Pieces {
    /// So many pieces, of which no more is told.
    #[must_use]
    pub const fn of(count: u32) -> Self {
        Self {
            count,
            piece_g: None,
            shape: None,
            vessel: None,
            lid: false,
            pan: None,
            strands: None,
            touching: None,
            thickness_cm: None,
            prove_in: None,
        }
    }

    /// Their wire form.
    #[must_use]
    pub fn body(&self) -> PiecesBody {
        PiecesBody {
            count: f64::from(self.count),
            piece_g: self.piece_g,
            shape: self.shape.map(|s| s.word().to_owned()),
            vessel: self.vessel.map(|v| v.word().to_owned()),
            lid: self.lid.then_some(true),
            pan: self.pan.as_ref().map(|pan| pan.id.clone()),
            strands: self.strands.map(f64::from),
            arrangement: self.touching.map(|t| if t { "touching" } else { "free" }.to_owned()),
            thickness_cm: self.thickness_cm,
            prove_in: self.prove_in.map(|p| p.word().to_owned()),
        }
    }
}

/// The one door of pieces, those of a formula as those of a sentence about them.
pub(super) fn check_pieces(body: &PiecesBody, here: &Pointer, pantry: &Pantry, errors: &mut Errors) -> Option<Pieces> {
    if body.count.fract() != 0.0 || !(1.0..=MOST_PIECES).contains(&body.count) {
        errors.add(here.at("count"), "Between 1 and 500 whole pieces.");
    }
    if let Some(g) = body.piece_g {
        errors.range(here.at("piece_g"), g, 1.0, 20_000.0, between!("A piece weighs", 1, 20000, grams));
    }
    let shape = match body.shape.as_deref() {
        None => None,
        Some(word) => errors
            .keep(here.at("shape"), Shape::from_word(word).ok_or_else(|| format!("“{word}” is no shape: {}.", Shape::words().join(", ")))),
    };
    let vessel = match body.vessel.as_deref() {
        None => None,
        Some(word) => errors.keep(
            here.at("vessel"),
            Vessel::from_word(word).ok_or_else(|| format!("“{word}” is nothing to bake on: {}.", Vessel::words().join(", "))),
        ),
    };
    let pan = match body.pan.as_deref() {
        None => None,
        Some(id) => errors.keep(
            here.at("pan"),
            pantry.pan(id).cloned().ok_or_else(|| {
                let near = crate::did_you_mean(id, pantry.pans().map(|p| p.id.as_str()));
                format!("There is no pan “{id}”.{near}")
            }),
        ),
    };
    let strands = body.strands.and_then(|n| {
        let known = WEAVES.iter().map(|w| w.0).find(|w| (f64::from(*w) - n).abs() < 1e-9);
        errors.keep(here.at("strands"), known.ok_or("A piece is woven from 2, 3, 4 or 6 strands."))
    });
    let touching = match body.arrangement.as_deref() {
        None => None,
        Some("free") => Some(false),
        Some("touching") => Some(true),
        Some(word) => {
            errors.add(here.at("arrangement"), format!("“{word}” is not known here: free, touching."));
            None
        }
    };
    if let Some(cm) = body.thickness_cm {
        errors.range(here.at("thickness_cm"), cm, THICKNESS_CM.0, THICKNESS_CM.1, THICKNESS);
    }
    let prove_in = match body.prove_in.as_deref() {
        None => None,
        Some(word) => errors.keep(
            here.at("prove_in"),
            ProveIn::from_word(word).ok_or_else(|| format!("“{word}” is nothing to prove in: {}.", ProveIn::words().join(", "))),
        ),
    };
    #[allow(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "1 to 500 was checked; else nothing is built")]
    let count = body.count.clamp(1.0, MOST_PIECES) as u32;
    Some(Pieces {
        count,
        piece_g: body.piece_g,
        shape,
        vessel,
        lid: body.lid.unwrap_or(false),
        pan,
        strands,
        touching,
        thickness_cm: body.thickness_cm,
        prove_in,
    })
}
