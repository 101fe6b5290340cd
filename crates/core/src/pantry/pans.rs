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

/// The inside of a pan, measured.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Inside {
    /// Depth, cm.
    pub depth_cm: f64,
    /// Length and width at the base over those at the rim: 1 where its walls are upright.
    pub taper: (f64, f64),
}

impl Inside {
    /// How far up a share of what it holds reaches, cm: both sides grow evenly from the base to the rim. Geometry.
    #[must_use]
    pub fn level_cm(&self, share: f64) -> f64 {
        let (length, width) = self.taper;
        // The area at height t is (l + (1 − l) t)(w + (1 − w) t) of that at the rim; what lies below it is its integral.
        let below = |t: f64| {
            length * width * t
                + (length * (1.0 - width) + width * (1.0 - length)) * t * t / 2.0
                + (1.0 - length) * (1.0 - width) * t * t * t / 3.0
        };
        let wanted = share.clamp(0.0, 1.0) * below(1.0);
        let (mut low, mut high) = (0.0, 1.0);
        for _ in 0..40 {
            let middle = f64::midpoint(low, high);
            if below(middle) < wanted { low = middle } else { high = middle }
        }
        // Over the rim nothing holds it: it stands as high as if the walls went on upright.
        self.depth_cm * (low + (share - 1.0).max(0.0) * below(1.0))
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
    /// Its inside, where it was measured.
    pub inside: Option<Inside>,
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
    top_length_mm: String,
    top_width_mm: String,
    base_length_mm: String,
    base_width_mm: String,
    height_mm: String,
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
        let inside = match (
            number("top_length_mm", &r.top_length_mm)?,
            number("base_length_mm", &r.base_length_mm)?,
            number("height_mm", &r.height_mm)?,
        ) {
            (Some(top), Some(base), Some(height)) => {
                let widths = number("top_width_mm", &r.top_width_mm)?.zip(number("base_width_mm", &r.base_width_mm)?);
                let across = widths.map_or(base / top, |(top, base)| base / top);
                Some(Inside { depth_cm: height / 10.0, taper: (base / top, across) })
            }
            _ => None,
        };
        let (cavities, rolls) = (count("cavities", &r.cavities)?, count("pieces", &r.pieces)?);
        pans.push(Pan {
            shape,
            volume_ml,
            inside,
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
