//! The tide upright, for a phone: the clock runs down, ripeness to the right, the acts beside it.

use super::{
    scale::{PixelScale, path, px, thin},
    tide::{Band, Frame, Label, Symbol},
};

/// An act beside the drawing.
#[derive(Debug, Clone)]
pub struct Row {
    /// Minutes from the drawing's start of the course.
    pub min: f64,
    /// `18:10`.
    pub clock: String,
    /// `Mix and knead`.
    pub title: String,
    /// What to look for.
    pub sign: String,
}

/// An act in pixels.
#[derive(Debug, Clone)]
#[allow(missing_docs, reason = "pixels")]
pub struct RowLabel {
    pub y: String,
    pub sign_y: String,
    pub clock: String,
    pub title: String,
    pub sign: String,
}

/// The drawing in pixels.
#[derive(Debug, Clone, Default)]
#[allow(missing_docs, reason = "pixels")]
pub struct Upright {
    pub width: u32,
    pub height: String,
    pub axis: String,
    pub ripe: String,
    pub ripe_label: Option<Label>,
    pub water: Vec<String>,
    pub wash: Vec<String>,
    pub edges: Vec<String>,
    pub course: String,
    pub ticks: String,
    pub clock: Vec<Label>,
    pub dough: Vec<Label>,
    pub places: Vec<Band>,
    pub dark: Vec<(String, String)>,
    pub spells: Vec<(String, String, &'static str)>,
    pub brackets: Vec<String>,
    pub marks: Vec<Symbol>,
    pub rows: Vec<RowLabel>,
    pub now: Option<(String, Label)>,
    pub words: String,
}

const AXIS: f64 = 52.0;
const RIPE: f64 = 146.0;
const WORDS: f64 = 176.0;
const TOP: f64 = 22.0;
const LEAST_HEIGHT: f64 = 540.0;
/// Two lines of words.
const LINE: f64 = 42.0;
/// Letters that fit beside the drawing.
const LETTERS: usize = 27;

fn cut(text: &str) -> String {
    if text.chars().count() <= LETTERS {
        return text.to_owned();
    }
    // At a clause's end, so that nothing is half said; else at a word's, and it is shown that more follows.
    let head: String = text.chars().take(LETTERS).collect();
    let clause = head.rfind([',', ';']).filter(|i| *i > 9);
    let end = clause.or_else(|| head.rfind(' ')).unwrap_or(head.len());
    let kept = head.get(..end).unwrap_or(&head).trim_end_matches([',', ';', ' ']);
    if clause.is_some() { kept.to_owned() } else { format!("{kept}…") }
}

/// Lays it out.
#[must_use]
pub fn upright(f: &Frame, rows: &[Row]) -> Upright {
    #[allow(clippy::cast_precision_loss, reason = "a handful of acts")]
    let needed = rows.len() as f64 * LINE + 40.0;
    let height = LEAST_HEIGHT.max(needed);
    let y = PixelScale::new(0.0, f.span.max(1.0), TOP, height - 18.0);
    let highest = f.rises.iter().flatten().map(|p| p.fast).fold(1.1, f64::max).min(1.25);
    let x = PixelScale::new(0.0, 1.0, AXIS, RIPE);
    let at = |min: f64, v: f64| (x.at(v.clamp(0.0, highest)), y.at(min));
    let label = |lx: f64, ly: f64, text: &str, anchor: &'static str| Label { x: px(lx), y: px(ly), text: text.to_owned(), anchor };
    let mut u = Upright {
        width: 358,
        axis: path([(AXIS, TOP - 8.0), (AXIS, height - 10.0)]),
        ripe: path([(RIPE, TOP - 4.0), (RIPE, height - 18.0)]),
        ripe_label: Some(label(RIPE, TOP - 8.0, "ripe", "middle")),
        words: f.words.clone(),
        ..Upright::default()
    };
    let mut course = Vec::new();
    for rise in &f.rises {
        let side = |pick: fn(&super::tide::Point) -> f64| thin(&rise.iter().map(|p| at(p.min, pick(p))).collect::<Vec<_>>(), 0.3);
        let (slow, likely, fast) = (side(|p| p.slow), side(|p| p.likely), side(|p| p.fast));
        let floor: Vec<(f64, f64)> = slow.iter().map(|p| (AXIS, p.1)).collect();
        u.water.push(super::scale::area(&slow, &floor));
        u.wash.push(super::scale::area(&fast, &slow));
        u.edges.push(path(slow));
        u.edges.push(path(fast));
        course.extend(likely);
    }
    u.course = path(course);
    let mut ticks = String::new();
    for (min, words) in &f.clock {
        let ty = y.at(*min);
        ticks.push_str(&path([(AXIS, ty), (AXIS - if words.is_empty() { 4.0 } else { 7.0 }, ty)]));
        if !words.is_empty() {
            u.clock.push(label(AXIS - 10.0, ty + 5.0, words, "end"));
        }
    }
    u.ticks = ticks;
    let mut last = f64::NEG_INFINITY;
    for (min, hour) in &f.dough_hours {
        let dy = y.at(*min);
        if dy - last > 20.0 {
            u.dough.push(label(AXIS + 5.0, dy + 4.0, &hour.to_string(), "start"));
            last = dy;
        }
    }
    for (from, to, _) in &f.dark {
        let (a, b) = (y.at(from.max(0.0)), y.at(to.min(f.span)));
        u.dark.push((px(a), px((b - a).max(0.0))));
    }
    for s in &f.spells {
        let (a, b) = (y.at(s.from.max(0.0)), y.at(s.to.min(f.span)));
        u.spells.push((px(a), px((b - a).max(0.0)), s.kind));
    }
    for p in &f.places {
        let (a, b) = (y.at(p.from), y.at(p.to));
        u.places.push(Band { x: px(a), width: px((b - a).max(1.0)), kind: p.kind, label: None });
    }
    for (from, to, _) in &f.ripe {
        let (a, b) = (y.at(*from), y.at(to.min(f.span)));
        u.brackets.push(path([(RIPE + 4.0, a), (RIPE + 11.0, a), (RIPE + 11.0, b), (RIPE + 4.0, b)]));
    }
    for m in &f.marks {
        let (mx, my) = at(m.min, m.height);
        u.marks.push(Symbol { x: px(mx - 9.0), y: px(my - 9.0), symbol: m.symbol, leader: String::new(), label: None });
    }
    let mut free = TOP;
    for r in rows {
        let ry = (y.at(r.min) + 5.0).max(free);
        free = ry + LINE;
        u.rows.push(RowLabel { y: px(ry), sign_y: px(ry + 18.0), clock: r.clock.clone(), title: r.title.clone(), sign: cut(&r.sign) });
    }
    if let Some(now) = f.now.filter(|n| (0.0..=f.span).contains(n)) {
        let ny = y.at(now);
        u.now = Some((path([(4.0, ny), (WORDS - 8.0, ny)]), label(4.0, ny - 4.0, "now", "start")));
    }
    u.height = px(height.max(free - LINE + 30.0));
    u
}

#[cfg(test)]
#[allow(clippy::unwrap_used, reason = "tests")]
mod tests {
    use super::*;

    #[test]
    fn acts_never_stand_on_each_other_and_the_clock_runs_down() {
        let row = |min: f64| Row {
            min,
            clock: "18:10".into(),
            title: "Mix".into(),
            sign: "no dry flour, one temperature, tacky to the finger".into(),
        };
        let f = Frame { span: 600.0, clock: vec![(0.0, "16".into()), (300.0, "21".into())], ..Frame::default() };
        let u = upright(&f, &[row(0.0), row(5.0), row(10.0), row(590.0)]);
        let ys: Vec<f64> = u.rows.iter().map(|r| r.y.parse().unwrap()).collect();
        assert!(ys.windows(2).all(|w| w[1] - w[0] >= LINE - 0.1), "{ys:?}");
        let clock: Vec<f64> = u.clock.iter().map(|l| l.y.parse().unwrap()).collect();
        assert!(clock[0] < clock[1]);
        assert_eq!(u.rows[0].sign, "no dry flour");
        assert!(u.height.parse::<f64>().unwrap() >= *ys.last().unwrap());
    }
}
