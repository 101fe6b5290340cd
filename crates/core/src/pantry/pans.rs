//! Pans and tins: what they hold, and how many pieces usually lie in them.

use super::{TableError, field_number};

const FILE: &str = "pans.csv";
const PANS: &str = include_str!("../../data/pans.csv");

words! {
    /// What a pan is like.
    PanShape {
        /// A loaf tin.
        Loaf "loaf",
        /// Round.
        Round "round",
        /// With a hole.
        Ring "ring",
        /// A tray or square tin.
        Rect "rect",
        /// A lidded pot; the loaf stands free in it.
        Pot "pot",
        /// A proofing basket; the loaf bakes outside it.
        Basket "basket",
    }
}

/// One pan. Inner sizes.
#[derive(Debug, Clone, PartialEq)]
pub struct Pan {
    /// Id.
    pub id: String,
    /// Name.
    pub name: String,
    /// What it is like.
    pub shape: PanShape,
    /// What it holds to the rim, ml; of one cavity where it has several.
    pub volume_ml: f64,
    /// Whether it is closed with a lid.
    pub lid: bool,
    /// Cavities, for a tin of several.
    pub cavities: Option<u32>,
    /// Rolls that usually lie in it touching, and the weight of one.
    pub rolls: Option<(u32, f64)>,
    /// Who says so.
    pub source: String,
    /// Whether it is the household's own.
    pub is_own: bool,
    /// No longer offered; formulas that name it keep it.
    pub away: bool,
}

impl Pan {
    /// Whether the dough fills it, so that its volume says how much.
    #[must_use]
    pub const fn is_filled(&self) -> bool {
        !matches!(self.shape, PanShape::Pot | PanShape::Basket)
    }
}

#[derive(serde::Deserialize)]
struct Row {
    id: String,
    name: String,
    shape: String,
    volume_ml: String,
    lid: String,
    cavities: String,
    pieces: String,
    piece_g: String,
    source: String,
}

pub(super) fn read() -> Result<Vec<Pan>, TableError> {
    let mut pans = Vec::new();
    for record in csv::Reader::from_reader(PANS.as_bytes()).deserialize() {
        let r: Row = record.map_err(|e| TableError { file: FILE, row: "?".into(), what: e.to_string() })?;
        let number = |name: &str, text: &str| field_number(FILE, &r.id, name, text);
        let bad = |what: String| TableError { file: FILE, row: r.id.clone(), what };
        #[allow(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "1 to 100 is asked for")]
        let count = |name: &str, text: &str| -> Result<Option<u32>, TableError> {
            match number(name, text)? {
                None => Ok(None),
                Some(n) if (1.0..=100.0).contains(&n) && n.fract() == 0.0 => Ok(Some(n as u32)),
                Some(n) => Err(bad(format!("{name} is {n}"))),
            }
        };
        let shape = PanShape::from_word(&r.shape).ok_or_else(|| bad(format!("shape {}", r.shape)))?;
        let volume_ml = number("volume_ml", &r.volume_ml)?.filter(|v| *v > 0.0).ok_or_else(|| bad("no volume".into()))?;
        let (cavities, rolls) = (count("cavities", &r.cavities)?, count("pieces", &r.pieces)?);
        pans.push(Pan {
            shape,
            volume_ml,
            cavities,
            rolls: rolls.zip(number("piece_g", &r.piece_g)?),
            lid: r.lid == "yes",
            id: r.id,
            name: r.name,
            source: r.source,
            is_own: false,
            away: false,
        });
    }
    Ok(pans)
}
