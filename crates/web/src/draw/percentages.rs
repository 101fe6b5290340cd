//! Percentages: lead lines dropped from the surface of a log scale against the usual band.

use super::scale::{LogScale, px};

/// One lead: a percentage, what it may be, what is usual.
#[derive(Debug, Clone)]
pub struct Lead {
    /// Its name.
    pub name: &'static str,
    /// As printed.
    pub figure: String,
    /// The value, percent on flour.
    pub value: f64,
    /// What it may be, where it was read from cups.
    pub range: Option<(f64, f64)>,
    /// What is usual; none where nothing is.
    pub usual: (f64, f64),
    /// Whether it lies outside.
    pub out: bool,
}

/// A lead in pixels.
#[derive(Debug, Clone)]
#[allow(missing_docs, reason = "pixels")]
pub struct DrawnLead {
    pub name: &'static str,
    pub figure: String,
    pub left: String,
    pub middle: String,
    pub band: Option<(String, String)>,
    pub line: String,
    pub weight: String,
    pub ticks: String,
    pub alarm_y: String,
    pub alarm_x: String,
    pub out: bool,
    pub none: bool,
}

/// The drawing.
#[derive(Debug, Clone, Default)]
#[allow(missing_docs, reason = "pixels")]
pub struct Percentages {
    pub width: u32,
    pub height: u32,
    pub surface: String,
    pub depth: String,
    pub column: String,
    pub left: String,
    pub span: String,
    pub lines: Vec<(String, String, &'static str)>,
    pub leads: Vec<DrawnLead>,
    pub words: String,
}

const LOW: f64 = 0.25;
const HIGH: f64 = 110.0;

impl Percentages {
    /// Lays the leads out.
    #[must_use]
    pub fn draw(leads: &[Lead], words: String) -> Self {
        let (width, height) = (352_u32, 372_u32);
        let (left, surface, bottom) = (40.0, 44.0, f64::from(height) - 12.0);
        let y = LogScale::new(LOW, HIGH, surface, bottom);
        #[allow(clippy::cast_precision_loss, reason = "six leads")]
        let column = (f64::from(width) - left) / leads.len().max(1) as f64;
        let lines = [(0.5, "0.5"), (1.0, "1"), (2.0, "2"), (5.0, "5"), (10.0, "10"), (20.0, "20"), (50.0, "50"), (100.0, "100%")]
            .map(|(v, w)| (px(y.at(v)), px(y.at(v) + 4.0), w))
            .to_vec();
        let drawn = leads
            .iter()
            .enumerate()
            .map(|(i, lead)| {
                #[allow(clippy::cast_precision_loss, reason = "six leads")]
                let from = left + column * i as f64;
                let middle = from + column / 2.0;
                let none = lead.value <= 0.0;
                let at = if none { surface + 12.0 } else { y.at(lead.value) };
                let band = (lead.usual.1 > 0.0).then(|| {
                    let (a, b) = (y.at(lead.usual.0.max(LOW)), y.at(lead.usual.1));
                    (px(a), px((b - a).max(3.0)))
                });
                let ticks = lead.range.map_or_else(String::new, |(lo, hi)| {
                    [lo, hi].iter().map(|v| super::path([(middle - 9.0, y.at(*v)), (middle + 9.0, y.at(*v))])).collect()
                });
                DrawnLead {
                    name: lead.name,
                    figure: lead.figure.clone(),
                    left: px(from),
                    middle: px(middle),
                    band,
                    line: super::path([(middle, surface), (middle, at)]),
                    weight: if none { String::new() } else { format!("M{} {}h8l3 13h-14z", px(middle - 4.0), px(at - 6.0)) },
                    ticks,
                    alarm_y: px((at + 10.0).min(bottom - 18.0)),
                    alarm_x: px(middle - 8.0),
                    out: lead.out,
                    none,
                }
            })
            .collect();
        Self {
            width,
            height,
            surface: px(surface),
            depth: px(bottom - surface),
            column: px(column),
            left: px(left),
            span: px(f64::from(width) - left),
            lines,
            leads: drawn,
            words,
        }
    }
}
