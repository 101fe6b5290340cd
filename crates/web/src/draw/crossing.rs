//! Two clocks over settings: minutes until the core is done, minutes until the crust is, and where they meet.

use super::{
    scale::{PixelScale, area, path, px},
    tide::Label,
};

/// Setting, and early, likely, late minutes.
pub type Clock = Vec<(f64, (f64, f64, f64))>;

/// What is drawn.
#[derive(Debug, Clone)]
pub struct CrossingFrame {
    /// Until the core is done.
    pub core: Clock,
    /// Until the crust has its colour.
    pub colour: Clock,
    /// Where both are done.
    pub meet: Option<(f64, f64)>,
    /// The setting that is taken.
    pub set_c: f64,
    /// The colour wished.
    pub wish: &'static str,
    /// Ticks of the dial: setting in °C and its words.
    pub dial: Vec<(f64, String)>,
    /// In words.
    pub words: String,
}

/// The drawing in pixels.
#[derive(Debug, Clone, Default)]
#[allow(missing_docs, reason = "pixels")]
pub struct CrossingChart {
    pub width: u32,
    pub height: u32,
    pub words: String,
    pub core_band: String,
    pub colour_band: String,
    pub core: String,
    pub colour: String,
    pub grid: Vec<(String, Label)>,
    pub axis: String,
    pub ticks: String,
    pub dial: Vec<Label>,
    pub chosen: String,
    pub meet: Option<(String, String, Label)>,
    pub names: Vec<(Label, &'static str)>,
}

/// Draws the crossing.
#[must_use]
pub fn crossing_chart(f: &CrossingFrame, width: u32, height: u32) -> CrossingChart {
    let (left, right) = (34.0, f64::from(width) - 6.0);
    let (top, axis) = (26.0, f64::from(height) - 26.0);
    let settings = || f.core.iter().chain(&f.colour).map(|r| r.0);
    let (low, high) = (settings().fold(f64::INFINITY, f64::min), settings().fold(f64::NEG_INFINITY, f64::max));
    let slow = f.core.iter().map(|r| r.1.2).fold(0.0, f64::max);
    let most = (slow * 1.15 / 10.0).ceil() * 10.0;
    let x = PixelScale::new(low, high, left, right);
    let quick = f.core.iter().map(|r| r.1.0).fold(most, f64::min);
    let least = (quick * 0.5 / 10.0).floor() * 10.0;
    let y = PixelScale::new(least, most, axis, top);
    // What lies above the drawing is cut where it leaves it.
    let part = |clock: &Clock, pick: fn((f64, f64, f64)) -> f64| -> Vec<(f64, f64)> {
        clock.iter().map(|(c, span)| (x.at(*c), y.at(pick(*span)).clamp(top, axis))).collect()
    };
    let band = |clock: &Clock| area(&part(clock, |s| s.2), &part(clock, |s| s.0));
    let likely = |clock: &Clock| -> String {
        let points: Vec<(f64, f64)> = clock.iter().map(|(c, s)| (x.at(*c), y.at(s.1))).collect();
        let mut shown: Vec<(f64, f64)> = Vec::new();
        for pair in points.windows(2) {
            if let [a, b] = pair {
                if a.1 < top && b.1 >= top {
                    shown.push((a.0 + (b.0 - a.0) * (top - a.1) / (b.1 - a.1), top));
                }
                if b.1 >= top && a.1 <= axis {
                    if shown.is_empty() {
                        shown.push(*a);
                    }
                    shown.push(*b);
                }
            }
        }
        path(shown)
    };
    let word = Label::at;
    let every = if most > 90.0 { 20.0 } else { 10.0 };
    let mut grid = Vec::new();
    let mut min = least + every;
    while min <= most - 1.0 {
        grid.push((path([(left, y.at(min)), (right, y.at(min))]), word(left - 6.0, y.at(min) + 4.0, "end", format!("{min:.0}"))));
        min += every;
    }
    let shown: Vec<&(f64, String)> = f.dial.iter().filter(|(c, _)| (low..=high).contains(c)).collect();
    let ticks = shown.iter().map(|(c, _)| path([(x.at(*c), axis), (x.at(*c), axis + 5.0)])).collect();
    let mut free = f64::NEG_INFINITY;
    let dial = shown
        .iter()
        .filter_map(|(c, text)| {
            #[allow(clippy::cast_precision_loss, reason = "a short word")]
            let half = 4.0 * text.chars().count() as f64 + 4.0;
            let at = x.at(*c).clamp(left, right - half);
            let fits = at - half > free;
            if fits {
                free = at + half;
            }
            fits.then(|| word(at, axis + 20.0, "middle", text.clone()))
        })
        .collect();
    let meet = f.meet.map(|(c, min)| {
        let (at, height) = (x.at(c), y.at(min));
        let left_of = at > f64::midpoint(left, right);
        let label = word(
            if left_of { at - 14.0 } else { at + 14.0 },
            height - 12.0,
            if left_of { "end" } else { "start" },
            format!("both at {min:.0} min"),
        );
        (px(at), px(height), label)
    });
    let mut names = Vec::new();
    // The core's name over its line where that ends, the crust's under its own: there they lie farthest apart.
    let mut name = |clock: &Clock, dy: f64, text: String, class| {
        let seen = clock.iter().rev().find(|(_, s)| y.at(s.1) < axis - 18.0 && y.at(s.1) > top);
        if let Some((c, s)) = seen {
            names.push((word(x.at(*c).min(right), y.at(s.1) + dy, "end", text), class));
        }
    };
    let above = f.core.last().zip(f.colour.last()).is_none_or(|(core, colour)| core.1.1 >= colour.1.1);
    name(&f.core, if above { -10.0 } else { 20.0 }, "core done".into(), "tx-ink");
    name(&f.colour, if above { 20.0 } else { -10.0 }, format!("crust {}", f.wish), "tx-crust");
    CrossingChart {
        width,
        height,
        words: f.words.clone(),
        core_band: band(&f.core),
        colour_band: band(&f.colour),
        core: likely(&f.core),
        colour: likely(&f.colour),
        grid,
        axis: path([(left, axis), (right, axis)]),
        ticks,
        dial,
        chosen: path([(x.at(f.set_c.clamp(low, high)), top), (x.at(f.set_c.clamp(low, high)), axis)]),
        meet,
        names,
    }
}
