//! Minutes as a ruler: what is gone, and the bracket in which a sign may come.

use cerealis_core::measure::show;

use super::scale::{PixelScale, px, tick_every};

/// The ruler in pixels.
#[derive(Debug, Clone)]
#[allow(missing_docs, reason = "pixels")]
pub struct Ruler {
    pub width: u32,
    pub height: u32,
    pub gone: String,
    /// Pixels a minute: the browser's clock lets it fill.
    pub per_min: String,
    pub band: (String, String),
    pub bracket: String,
    pub middle: String,
    pub words: String,
    pub ticks: String,
    pub minutes: Vec<(String, String)>,
}

/// Lays out so many minutes gone against those between which the sign may come; `usual` are the likeliest.
#[must_use]
pub fn ruler(gone: f64, (low, usual, high): (f64, f64, f64)) -> Ruler {
    let (width, height) = (358_u32, 62_u32);
    let span = (high * 1.2).max(usual * 1.5).max(gone * 1.05).max(4.0);
    let right = f64::from(width) - 2.0;
    let x = PixelScale::new(0.0, span, 1.0, right);
    let every = tick_every(span, 6.0);
    let (mut ticks, mut minutes, mut at) = (String::new(), Vec::new(), 0.0);
    while at <= span {
        ticks.push_str(&format!("M{} 44v5", px(x.at(at))));
        minutes.push((px(x.at(at).clamp(4.0, right - 6.0)), show(at, 0)));
        at += every;
    }
    let (a, b) = (x.at(low), x.at(high));
    Ruler {
        width,
        height,
        gone: px(x.at(gone) - x.at(0.0)),
        per_min: format!("{:.3}", x.at(1.0) - x.at(0.0)),
        band: (px(a), px((b - a).max(1.0))),
        bracket: format!("M{} 21v-5H{}v5", px(a), px(b)),
        middle: px(f64::midpoint(a, b).clamp(60.0, right - 58.0)),
        words: format!("the sign at {}–{} min", show(low, 0), show(high, 0)),
        ticks,
        minutes,
    }
}
