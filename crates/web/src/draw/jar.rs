//! A jar: how high it stands, its band, where its best is; its curve over the clock; and when each feed
//! would be at its best.

use super::{
    scale::{PixelScale, area, path, px, thin},
    tide::{Band, Label},
};

/// A course of a leaven in values.
#[derive(Debug, Clone, Default)]
pub struct JarFrame {
    /// Minutes, slow, likely and fast height, times that when fed.
    pub points: Vec<(f64, f64, f64, f64)>,
    /// Levels seen: minutes, height.
    pub seen: Vec<(f64, f64)>,
    /// Best from, to, with words.
    pub best: Option<(f64, f64, String)>,
    /// Clock: minutes, words.
    pub clock: Vec<(f64, String)>,
    /// Moves: minutes, words.
    pub moves: Vec<(f64, String)>,
    /// Now, minutes.
    pub now: f64,
    /// Whole span, minutes.
    pub span: f64,
    /// In words.
    pub words: String,
}

/// The curve in pixels.
#[derive(Debug, Clone, Default)]
#[allow(missing_docs, reason = "pixels")]
pub struct Curve {
    pub width: u32,
    pub height: u32,
    pub base: String,
    pub water: String,
    pub wash: String,
    pub edges: Vec<String>,
    pub course: String,
    pub levels: Vec<(String, Label)>,
    pub ticks: String,
    pub clock: Vec<Label>,
    pub seen: Vec<(String, String)>,
    pub best: Option<(String, Label)>,
    pub now: Option<(String, Label)>,
    pub moves: Vec<(String, Label)>,
    pub full: bool,
    pub words: String,
}

/// Lays a leaven's curve out; `full` with its scales, else in small.
#[must_use]
pub fn curve(f: &JarFrame, width: u32, height: u32, full: bool) -> Curve {
    let (w, h) = (f64::from(width), f64::from(height));
    let (top, base) = if full { (34.0, h - 46.0) } else { (2.0, h - 2.0) };
    let highest = f.points.iter().map(|p| p.3).fold(2.0, f64::max) + if full { 0.15 } else { 0.0 };
    let x = PixelScale::new(0.0, f.span.max(1.0), if full { 34.0 } else { 1.0 }, w - if full { 10.0 } else { 1.0 });
    let y = PixelScale::new(1.0, highest, base, top);
    let line = |pick: fn(&(f64, f64, f64, f64)) -> f64| {
        thin(&f.points.iter().map(|p| (x.at(p.0), y.at(pick(p).max(1.0)))).collect::<Vec<_>>(), 0.3)
    };
    let (slow, likely, fast) = (line(|p| p.1), line(|p| p.2), line(|p| p.3));
    let floor: Vec<(f64, f64)> = slow.iter().map(|p| (p.0, base)).collect();
    let label = |at: f64, y: f64, text: &str, anchor: &'static str| Label { x: px(at), y: px(y), text: text.to_owned(), anchor };
    let mut c = Curve {
        width,
        height,
        full,
        words: f.words.clone(),
        base: px(base),
        water: area(&slow, &floor),
        wash: area(&fast, &slow),
        edges: vec![path(slow), path(fast)],
        course: path(likely),
        ..Curve::default()
    };
    if !full {
        return c;
    }
    let mut level = 1.5;
    while level < highest {
        let ly = y.at(level);
        let words = cerealis_core::measure::show(level, usize::from(level.fract() > 0.0));
        c.levels.push((path([(34.0, ly), (w - 10.0, ly)]), label(2.0, ly + 4.0, &format!("{words}×"), "start")));
        level += 0.5;
    }
    let mut ticks = String::new();
    for (min, words) in &f.clock {
        let tx = x.at(*min);
        ticks.push_str(&path([(tx, base), (tx, base + if words.is_empty() { 4.0 } else { 8.0 })]));
        if !words.is_empty() {
            c.clock.push(label(tx, base + 23.0, words, "middle"));
        }
    }
    c.ticks = ticks;
    c.seen = f.seen.iter().map(|(m, v)| (px(x.at(*m)), px(y.at(v.clamp(1.0, highest))))).collect();
    c.best = f.best.as_ref().filter(|b| b.1 > 0.0 && b.0 < f.span).map(|(from, to, words)| {
        let (a, b) = (x.at(from.max(0.0)), x.at(to.min(f.span)));
        (path([(a, 28.0), (a, 20.0), (b, 20.0), (b, 28.0)]), label(a.min(w - 150.0), 15.0, words, "start"))
    });
    if (0.0..=f.span).contains(&f.now) {
        let nx = x.at(f.now);
        c.now = Some((path([(nx, top - 4.0), (nx, base + 6.0)]), label(nx, base + 40.0, "now", "middle")));
    }
    for (min, words) in &f.moves {
        let mx = x.at(*min);
        c.moves.push((path([(mx, base), (mx, base + 28.0)]), label(mx, base + 40.0, words, if mx < 60.0 { "start" } else { "middle" })));
    }
    c
}

/// When each feed would be at its best, as bars on one clock.
#[derive(Debug, Clone, Default)]
#[allow(missing_docs, reason = "pixels")]
pub struct Bars {
    pub width: u32,
    pub height: String,
    pub bars: Vec<Bar>,
    pub axis: String,
    pub ticks: String,
    pub clock: Vec<Label>,
    pub hours: Vec<Label>,
    pub wanted: Option<(String, Label)>,
    pub words: String,
}

/// A feed.
#[derive(Debug, Clone)]
#[allow(missing_docs, reason = "pixels")]
pub struct Bar {
    pub band: Band,
    pub y: String,
    pub text_y: String,
    pub place: String,
    pub ratio: String,
    pub chosen: bool,
}

/// A feed in values: place, ratio, best from and to in minutes, whether it is the one to take.
pub type BarIn = (String, String, f64, f64, bool);

/// Lays the bars out; `wanted` in minutes with its words.
#[must_use]
pub fn bars(rows: &[BarIn], clock: &[(f64, String)], wanted: (f64, String), span: f64, words: String, width: u32) -> Bars {
    let full = f64::from(width);
    const ROW: f64 = 19.0;
    #[allow(clippy::cast_precision_loss, reason = "a dozen rows")]
    let base = rows.len() as f64 * ROW + 26.0;
    let x = PixelScale::new(0.0, span.max(1.0), 172.0, full - 12.0);
    let label = |at: f64, y: f64, text: &str, anchor: &'static str| Label { x: px(at), y: px(y), text: text.to_owned(), anchor };
    let mut b = Bars { width, axis: path([(172.0, base), (full - 12.0, base)]), height: px(base + 40.0), words, ..Bars::default() };
    let mut last = String::new();
    let mut y = 20.0;
    for (place, ratio, from, to, chosen) in rows {
        let (a, z) = (x.at(from.clamp(0.0, span)), x.at(to.clamp(0.0, span)));
        b.bars.push(Bar {
            band: Band { x: px(a), width: px((z - a).max(1.0)), kind: if *chosen { "chosen" } else { "" }, label: None },
            y: px(y),
            text_y: px(y + 12.0),
            place: if *place == last { String::new() } else { place.clone() },
            ratio: ratio.clone(),
            chosen: *chosen,
        });
        last.clone_from(place);
        y += ROW;
    }
    let mut ticks = String::new();
    // On a narrow drawing every third mark is named.
    let every = if full < 500.0 { 3 } else { 1 };
    for (min, words) in clock.iter().filter(|c| (0.0..=span).contains(&c.0)).step_by(every) {
        let tx = x.at(*min);
        ticks.push_str(&path([(tx, base), (tx, base + 7.0)]));
        b.clock.push(label(tx, base + 21.0, words, "middle"));
        b.hours.push(label(tx, base + 35.0, &format!("{} h", cerealis_core::measure::show(min / 60.0, 0)), "middle"));
    }
    b.ticks = ticks;
    if (0.0..=span).contains(&wanted.0) {
        let wx = x.at(wanted.0);
        let right = wx < full - 110.0;
        b.wanted = Some((
            path([(wx, 4.0), (wx, base)]),
            label(if right { wx + 6.0 } else { wx - 6.0 }, 14.0, &wanted.1, if right { "start" } else { "end" }),
        ));
    }
    b
}

/// The glass in pixels: its content, its band, its best.
#[derive(Debug, Clone, Default)]
#[allow(missing_docs, reason = "pixels")]
pub struct Glass {
    pub top: String,
    pub fill: String,
    pub band: String,
    pub best: Option<(String, String)>,
    pub scale: Vec<(String, String)>,
    pub now: String,
    pub now_y: String,
    pub words: String,
}

/// Draws the glass: height now, best from and to, times that when fed.
#[must_use]
pub fn glass(now: f64, best: Option<(f64, f64)>, words: String) -> Glass {
    const BASE: f64 = 232.0;
    // Filled to a third when fed, so that three times fits.
    let y = PixelScale::new(0.0, 3.2, BASE, 18.0);
    let at = |v: f64| y.at(v.clamp(0.0, 3.2));
    Glass {
        top: px(at(now)),
        fill: px(BASE - at(now)),
        band: px(at(1.0)),
        best: best.map(|(a, b)| (px(at(b.max(a))), px((at(a) - at(b)).abs().max(6.0)))),
        scale: [2.0, 3.0].iter().map(|v| (px(at(*v)), cerealis_core::measure::show(*v, 0))).collect(),
        now: format!("{}×", cerealis_core::measure::show(now, 1)),
        now_y: px((at(now) - 9.0).max(34.0)),
        words,
    }
}

#[cfg(test)]
#[allow(clippy::unwrap_used, reason = "tests")]
mod tests {
    use super::*;

    #[test]
    fn what_rises_stands_higher_and_nothing_leaves_the_drawing() {
        let f = JarFrame {
            points: (0..40)
                .map(|i| (f64::from(i) * 10.0, 1.0 + f64::from(i) * 0.03, 1.0 + f64::from(i) * 0.04, 1.0 + f64::from(i) * 0.05))
                .collect(),
            best: Some((200.0, 300.0, "best 17:20–18:30".into())),
            now: 100.0,
            span: 400.0,
            ..JarFrame::default()
        };
        let c = curve(&f, 900, 300, true);
        assert!(c.now.is_some() && c.levels.len() >= 3);
        assert!(!c.course.contains("NaN") && !c.wash.contains('-'), "{}", c.wash);
        let (low, high) = (glass(1.2, None, String::new()), glass(2.4, None, String::new()));
        assert!(high.top.parse::<f64>().unwrap() < low.top.parse::<f64>().unwrap());
        let rows = vec![
            ("Room 19.5°".to_owned(), "1 : 2 : 2".to_owned(), 300.0, 420.0, true),
            ("Room 19.5°".to_owned(), "1 : 5 : 5".to_owned(), 500.0, 2000.0, false),
        ];
        let b = bars(&rows, &[(0.0, "18:30".into())], (400.0, "wanted 01:10".into()), 900.0, String::new(), 560);
        assert_eq!((b.bars[0].place.as_str(), b.bars[1].place.as_str()), ("Room 19.5°", ""), "a place is named once");
        let end = |bar: &Bar| bar.band.x.parse::<f64>().unwrap() + bar.band.width.parse::<f64>().unwrap();
        assert!(b.bars.iter().all(|bar| end(bar) <= 560.0));
    }
}
