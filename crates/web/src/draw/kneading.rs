//! Kneading: how far the dough is over the minutes, with its band and the line it goes for; below it how warm it is.

use super::{
    scale::{PixelScale, area, path, px, thin, tick_every},
    tide::Label,
};

/// A point of the way: minutes, development (low, likely, high), degrees (low, likely, high).
pub type Moment = (f64, (f64, f64, f64), (f64, f64, f64));

/// A kneading in values.
#[derive(Debug, Clone, Default)]
pub struct KneadFrame {
    /// In order of time.
    pub moments: Vec<Moment>,
    /// Development wanted, and what it is called; nothing where there is no gluten to develop.
    pub target: Option<(f64, &'static str)>,
    /// From how warm on it is too warm, and how that is written.
    pub stop: (f64, String),
    /// When it leaves the bowl, and how warm that is, in words.
    pub out: (f64, String),
    /// Between which minutes the sign may come, in words.
    pub sign: Option<(f64, f64, String)>,
    /// Phases: from, to, words.
    pub phases: Vec<(f64, f64, &'static str)>,
    /// Folds, minutes.
    pub folds: Vec<f64>,
    /// Whether it comes out too warm.
    pub hot: bool,
    /// The bottom of the degrees, and how it is written.
    pub cold: (f64, String),
    /// In words.
    pub words: String,
}

/// The drawing in pixels.
#[derive(Debug, Clone, Default)]
#[allow(missing_docs, reason = "pixels")]
pub struct Kneading {
    pub width: u32,
    pub height: u32,
    pub water: String,
    pub wash: String,
    pub edges: Vec<String>,
    pub course: String,
    pub target: Option<(String, Label)>,
    pub grid: Vec<Label>,
    pub walls: String,
    pub ticks: String,
    pub base: String,
    pub minutes: Vec<Label>,
    pub bracket: Option<(String, Label)>,
    pub out: Option<(String, String, String, Label)>,
    pub folds: Vec<(String, String)>,
    pub warmth: String,
    pub warm_band: String,
    pub stop: Option<(String, Label)>,
    pub cold: Option<Label>,
    pub floor: String,
    pub phases: Vec<Label>,
    pub hot: bool,
    pub words: String,
}

/// In small: the course alone against its line.
#[must_use]
pub fn small(moments: &[Moment], target: Option<f64>, width: u32, height: u32) -> (String, String, String) {
    let (w, h) = (f64::from(width), f64::from(height));
    let last = moments.last().map_or(1.0, |m| m.0.max(1.0));
    let x = PixelScale::new(0.0, last, 1.0, w - 1.0);
    let y = PixelScale::new(0.0, 1.25_f64.max(target.unwrap_or(0.0)), h - 1.0, 2.0);
    let line = thin(&moments.iter().map(|m| (x.at(m.0), y.at(m.1.1))).collect::<Vec<_>>(), 0.3);
    let ground: Vec<(f64, f64)> = line.iter().map(|p| (p.0, h - 1.0)).collect();
    let wanted = target.map_or_else(String::new, |t| format!("M1 {}H{}", px(y.at(t)), px(w - 1.0)));
    (area(&line, &ground), path(line), wanted)
}

/// Lays a kneading out.
#[must_use]
pub fn draw(f: &KneadFrame, width: u32, height: u32) -> Kneading {
    let (w, h) = (f64::from(width), f64::from(height));
    let wide = width > 500;
    let left = if wide { 106.0 } else { 1.0 };
    let last = f.moments.last().map_or(10.0, |m| m.0).max(5.0);
    let right = w - 8.0;
    let (top, base) = (34.0, (h * 0.58).round());
    let (warm_top, floor) = (base + 40.0, h - if wide { 38.0 } else { 24.0 });
    let x = PixelScale::new(0.0, last, left, right);
    let highest = f.moments.iter().map(|m| m.1.2).fold(f.target.map_or(0.5, |t| t.0), f64::max).max(0.3) * 1.06;
    let y = PixelScale::new(0.0, highest, base, top);
    let hottest = f.moments.iter().map(|m| m.2.2).fold(f.stop.0 + 0.5, f64::max);
    let warm = PixelScale::new(f.cold.0, hottest, floor, warm_top);
    let line = |pick: fn(&Moment) -> f64, scale: &PixelScale| {
        thin(&f.moments.iter().map(|m| (x.at(m.0), scale.at(pick(m)))).collect::<Vec<_>>(), 0.2)
    };
    let (low, likely, high) = (line(|m| m.1.0, &y), line(|m| m.1.1, &y), line(|m| m.1.2, &y));
    let ground = [(x.at(0.0), base), (x.at(last), base)];
    let (cool, degrees, hot) = (line(|m| m.2.0, &warm), line(|m| m.2.1, &warm), line(|m| m.2.2, &warm));
    let every = tick_every(last, if wide { 9.0 } else { 6.0 });
    let (mut ticks, mut minutes, mut at) = (String::new(), Vec::new(), 0.0);
    while at <= last + 1e-9 {
        ticks.push_str(&format!("M{} {}v7", px(x.at(at)), px(base)));
        minutes.push(Label::at(x.at(at), base + 21.0, "middle", cerealis_core::measure::show(at, 0)));
        at += every;
    }
    let here = |min: f64| f.moments.iter().find(|m| m.0 >= min - 1e-9).or(f.moments.last());
    let out = here(f.out.0).map(|m| {
        let beyond = x.at(f.out.0) > w * 0.62;
        (
            px(x.at(f.out.0)),
            px(y.at(m.1.1)),
            px(warm.at(m.2.1)),
            Label::at(
                x.at(f.out.0) + if beyond { -9.0 } else { 9.0 },
                warm.at(m.2.1) + if f.hot { -6.0 } else { 20.0 },
                if beyond { "end" } else { "start" },
                f.out.1.clone(),
            ),
        )
    });
    // Names of phases stand under their middle; one too narrow for its name goes a line lower, on a phone none.
    let mut phases = Vec::new();
    let rows: &mut [(f64, f64)] =
        if wide { &mut [(17.0, f64::NEG_INFINITY), (33.0, f64::NEG_INFINITY)] } else { &mut [(17.0, f64::NEG_INFINITY)] };
    for (from, to, name) in &f.phases {
        let half = 3.9 * f64::from(u32::try_from(name.chars().count()).unwrap_or(0));
        let middle = x.at(f64::midpoint(*from, *to)).clamp(left + half, right - half);
        if let Some((below, free)) = rows.iter_mut().find(|r| middle - half >= r.1) {
            *free = middle + half + 6.0;
            phases.push(Label::at(middle, floor + *below, "middle", (*name).to_owned()));
        }
    }
    let bracket = f.sign.as_ref().map(|(from, to, words)| {
        let (a, b) = (x.at(*from), x.at(to.min(last)));
        let long = 7.2 * f64::from(u32::try_from(words.chars().count()).unwrap_or(0));
        // Beside it where there is room, else over it.
        let label = if b + 8.0 + long < w {
            Label::at(b + 8.0, 18.0, "start", words.clone())
        } else if a - 8.0 - long > 0.0 {
            Label::at(a - 8.0, 18.0, "end", words.clone())
        } else {
            Label::at(f64::midpoint(a, b).clamp(long / 2.0, (w - long / 2.0).max(long / 2.0)), 9.0, "middle", words.clone())
        };
        (format!("M{} 20v-7H{}v7", px(a), px(b)), label)
    });
    Kneading {
        width,
        height,
        water: area(&low, &ground),
        wash: area(&high, &low),
        edges: vec![path(low.clone()), path(high.clone())],
        course: path(likely),
        target: f.target.map(|(t, name)| {
            let label = if wide {
                Label::at(left - 8.0, y.at(t) + 4.0, "end", name.to_owned())
            } else {
                Label::at(4.0, y.at(t) - 5.0, "start", name.to_owned())
            };
            (format!("M{} {}H{}", px(left), px(y.at(t)), px(right)), label)
        }),
        grid: if wide {
            vec![Label::at(left - 8.0, base + 4.0, "end", "0".to_owned()), Label::at(left - 8.0, base + 21.0, "end", "minutes".to_owned())]
        } else {
            Vec::new()
        },
        walls: f.phases.iter().skip(1).map(|p| format!("M{} {}V{}", px(x.at(p.0)), px(top - 8.0), px(floor))).collect(),
        ticks,
        base: format!("M{} {}H{}", px(left), px(base), px(right)),
        minutes,
        bracket,
        out,
        folds: f.folds.iter().filter_map(|m| here(*m).map(|p| (px(x.at(*m) - 10.0), px(y.at(p.1.1) - 17.0)))).collect(),
        warm_band: area(&hot, &cool),
        warmth: path(degrees),
        stop: (f.stop.0 < hottest + 1e-9).then(|| {
            let at = warm.at(f.stop.0);
            let label = if wide {
                Label::at(left - 8.0, at + 4.0, "end", f.stop.1.clone())
            } else {
                Label::at(right, at - 5.0, "end", f.stop.1.clone())
            };
            (format!("M{} {}H{}", px(left), px(warm.at(f.stop.0)), px(right)), label)
        }),
        cold: wide.then(|| Label::at(left - 8.0, floor + 4.0, "end", f.cold.1.clone())),
        floor: format!("M{} {}H{}", px(left), px(floor), px(right)),
        phases,
        hot: f.hot,
        words: f.words.clone(),
    }
}
