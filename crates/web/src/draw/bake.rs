//! One bake over its minutes: oven, crust and core, the colours it goes through, what to do when.

use super::{
    scale::{PixelScale, path, px, thin},
    tide::Label,
};
use cerealis_core::measure::{Temperature, degrees, round_degrees};

/// An act under the axis.
#[derive(Debug, Clone)]
pub struct Act {
    /// Minutes from loading.
    pub min: f64,
    /// Its mark in the sprite.
    pub symbol: &'static str,
    /// Its word.
    pub label: &'static str,
}

/// What is drawn.
#[derive(Debug, Clone)]
pub struct BakeFrame {
    /// The oven's air: minutes, °C.
    pub air: Vec<(f64, f64)>,
    /// Crust and core: minutes, °C.
    pub crust: Vec<(f64, f64)>,
    /// The middle.
    pub core: Vec<(f64, f64)>,
    /// Where the core is done, °C.
    pub done_c: f64,
    /// Early and late minute of taking it out.
    pub out: Option<(f64, f64)>,
    /// The colour it has from a minute on.
    pub colours: Vec<(f64, &'static str)>,
    /// What is done when.
    pub acts: Vec<Act>,
    /// Whose round degrees the axis has.
    pub scale: Temperature,
    /// In words.
    pub words: String,
}

/// The colour strip: word, from, width, whether the word has room.
type Stripe = (&'static str, String, String, bool);

/// An act in pixels.
#[derive(Debug, Clone)]
#[allow(missing_docs, reason = "pixels")]
pub struct DrawnAct {
    pub x: String,
    pub symbol: &'static str,
    pub word: Option<Label>,
}

/// The drawing in pixels.
#[derive(Debug, Clone, Default)]
#[allow(missing_docs, reason = "pixels")]
pub struct BakeChart {
    pub width: u32,
    pub height: u32,
    pub words: String,
    pub air: String,
    pub crust: String,
    pub core: String,
    pub grid: Vec<(String, Label)>,
    pub done: String,
    pub names: Vec<(Label, &'static str)>,
    pub out: Option<(String, String, Label)>,
    pub top: String,
    pub out_height: String,
    pub strip_y: String,
    pub strip_text_y: String,
    pub stripes: Vec<Stripe>,
    pub axis_y: String,
    pub axis_from: String,
    pub ticks: String,
    pub minutes: Vec<Label>,
    pub acts: Vec<DrawnAct>,
    pub mark_y: String,
}

const STRIP: f64 = 34.0;

/// Draws a bake so wide; the oven's heating is shown where there is room.
#[must_use]
pub fn bake_chart(f: &BakeFrame, width: u32, height: u32) -> BakeChart {
    let wide = width > 500;
    let end = f.out.map_or(f.core.last().map_or(30.0, |p| p.0), |o| o.1) * 1.04;
    let heats = f.air.first().map_or(0.0, |p| p.0);
    // A stone's hour would squeeze the bake: its last part tells.
    let from = if wide { heats.max(-0.8 * end) } else { 0.0 };
    let (left, right) = (34.0, f64::from(width) - 8.0);
    let (top, axis) = (34.0, f64::from(height) - 58.0);
    let bottom = axis - 12.0 - STRIP;
    let hottest = f.air.iter().chain(&f.crust).map(|p| p.1).fold(100.0, f64::max);
    let x = PixelScale::new(from, end, left, right);
    let y = PixelScale::new(0.0, hottest * 1.05, bottom, top);
    let line = |points: &[(f64, f64)]| {
        let inside: Vec<_> = points.iter().filter(|p| p.0 >= from && p.0 <= end).map(|p| (x.at(p.0), y.at(p.1))).collect();
        path(thin(&inside, 0.3))
    };
    let word = Label::at;
    let mut grid = Vec::new();
    for c in round_degrees((40.0, hottest), (50.0, 100.0), f.scale) {
        let figure = degrees(c).to(0).short().to_string();
        grid.push((path([(left, y.at(c)), (right, y.at(c))]), word(left - 4.0, y.at(c) + 4.0, "end", figure)));
    }
    let at = |points: &[(f64, f64)], min: f64| points.iter().find(|p| p.0 >= min).or(points.last()).map(|p| p.1);
    let mut names = Vec::new();
    let mut name = |points: &[(f64, f64)], min: f64, dy: f64, anchor, text: &str, class| {
        if let Some(c) = at(points, min) {
            names.push((word(x.at(min), y.at(c) + dy, anchor, text.to_owned()), class));
        }
    };
    name(&f.crust, 0.42 * end, -10.0, "end", "crust", "tx-crust");
    name(&f.core, 0.34 * end, 18.0, "start", "core", "tx-ink");
    name(&f.air, if from < -4.0 { 0.55 * from } else { 0.62 * end }, -8.0, "end", "oven", "tx-crust");
    names.push((word(right, y.at(f.done_c) + 15.0, "end", format!("core done {}", degrees(f.done_c).to(0).short())), "tx-ink"));
    let ends = f.colours.iter().skip(1).map(|c| c.0).chain([end]);
    let stripes = f
        .colours
        .iter()
        .zip(ends)
        .filter(|(c, to)| *to > c.0)
        .map(|((min, colour), to)| {
            let (a, b) = (x.at(*min), x.at(to.min(end)));
            #[allow(clippy::cast_precision_loss, reason = "a short word")]
            let room = 8.0 * colour.len() as f64 + 10.0;
            (*colour, px(a), px(b - a), b - a >= room)
        })
        .collect();
    let every = if end - from > 90.0 { 20.0 } else { 10.0 };
    let (mut ticks, mut minutes) = (String::new(), Vec::new());
    let mut min = (from / 5.0).ceil() * 5.0;
    while min <= end {
        let whole = (min / every).fract().abs() < 1e-9;
        ticks.push_str(&path([(x.at(min), axis), (x.at(min), axis + if whole { 7.0 } else { 4.0 })]));
        if whole {
            minutes.push(word(x.at(min), axis + 20.0, "middle", if min < 0.0 { format!("−{:.0}", -min) } else { format!("{min:.0}") }));
        }
        min += 5.0;
    }
    let mark_y = axis + 26.0;
    let mut last_word = f64::NEG_INFINITY;
    let acts = f
        .acts
        .iter()
        .filter(|a| a.min <= end && (a.min >= 0.0 || wide))
        .map(|a| {
            let at = x.at(a.min.max(from));
            #[allow(clippy::cast_precision_loss, reason = "a short word")]
            let half = 3.6 * a.label.len() as f64 + 3.0;
            let middle = at.clamp(half, f64::from(width) - half);
            let fits = middle - half > last_word;
            if fits {
                last_word = middle + half;
            }
            DrawnAct { x: px(at - 8.0), symbol: a.symbol, word: fits.then(|| word(middle, mark_y + 30.0, "middle", a.label.to_owned())) }
        })
        .collect();
    let out = f.out.map(|(low, high)| {
        let (a, b) = (x.at(low), x.at(high));
        (px(a), px(b - a), word(f64::midpoint(a, b).min(right - 26.0), top - 12.0, "middle", format!("{low:.0}–{high:.0}")))
    });
    BakeChart {
        width,
        height,
        words: f.words.clone(),
        air: line(&f.air),
        crust: line(&f.crust),
        core: line(&f.core),
        grid,
        done: path([(x.at(0.0), y.at(f.done_c)), (right, y.at(f.done_c))]),
        names,
        out,
        top: px(top - 6.0),
        out_height: px(axis - top + 6.0),
        strip_y: px(axis - STRIP),
        strip_text_y: px(axis - STRIP / 2.0 + 5.0),
        stripes,
        axis_y: px(axis),
        axis_from: px(x.at(from)),
        ticks,
        minutes,
        acts,
        mark_y: px(mark_y - 1.0),
    }
}
