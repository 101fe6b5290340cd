//! The tide: ripeness over the clock with its spread, the dough's own hours above the line.

use super::scale::{PixelScale, area, path, px, thin};

/// A course in values: minutes from the drawing's start, height 0 to 1 and above.
#[derive(Debug, Clone, Copy)]
pub struct Point {
    /// Minutes.
    pub min: f64,
    /// Slow, likeliest, fast course.
    pub slow: f64,
    /// Likeliest.
    pub likely: f64,
    /// Fast.
    pub fast: f64,
    /// Dough temperature, °C.
    pub dough_c: f64,
}

/// A mark on the water.
#[derive(Debug, Clone)]
pub struct Mark {
    /// Minutes.
    pub min: f64,
    /// Height, 0 to 1.
    pub height: f64,
    /// Symbol of the sprite.
    pub symbol: &'static str,
    /// Word under the clock; empty for none.
    pub label: String,
}

/// A place under the clock.
#[derive(Debug, Clone)]
pub struct Place {
    /// From and to, minutes.
    pub from: f64,
    /// To.
    pub to: f64,
    /// Its name and warmth.
    pub label: String,
    /// `room`, `cold`, `warm`, `hot`.
    pub kind: &'static str,
}

/// Hours that are not the dough's.
#[derive(Debug, Clone)]
pub struct Spell {
    /// From, minutes.
    pub from: f64,
    /// To.
    pub to: f64,
    /// `away`, `asleep`, `busy`.
    pub kind: &'static str,
    /// Its name.
    pub label: String,
}

/// Everything to be drawn, in values.
#[derive(Debug, Clone, Default)]
pub struct Frame {
    /// Rises, one after the other.
    pub rises: Vec<Vec<Point>>,
    /// Ripe from–to of each rise, with words.
    pub ripe: Vec<(f64, f64, String)>,
    /// Acts.
    pub marks: Vec<Mark>,
    /// Places.
    pub places: Vec<Place>,
    /// Dough hours: minutes and figure.
    pub dough_hours: Vec<(f64, u32)>,
    /// Clock: minutes, words (empty for a bare tick).
    pub clock: Vec<(f64, String)>,
    /// The course as planned, for a drawing that shows both.
    pub planned: Vec<Vec<(f64, f64)>>,
    /// Now, minutes.
    pub now: Option<f64>,
    /// Nights outside, from sunset to sunrise, with words for both.
    pub dark: Vec<(f64, f64, [String; 2])>,
    /// Hours that are not the dough's.
    pub spells: Vec<Spell>,
    /// Errands: minutes and words.
    pub errands: Vec<(f64, String)>,
    /// When it is wanted: minutes, clock, whether it may be dragged.
    pub ready: Option<(f64, String)>,
    /// Whole span, minutes.
    pub span: f64,
    /// What it says in words.
    pub words: String,
}

/// A line of text in pixels.
#[derive(Debug, Clone)]
#[allow(missing_docs, reason = "pixels")]
pub struct Label {
    pub x: String,
    pub y: String,
    pub text: String,
    pub anchor: &'static str,
}

impl Label {
    /// A text at a pixel.
    pub(super) fn at(x: f64, y: f64, anchor: &'static str, text: String) -> Self {
        Self { x: px(x), y: px(y), text, anchor }
    }
}

/// A box in pixels.
#[derive(Debug, Clone)]
#[allow(missing_docs, reason = "pixels")]
pub struct Band {
    pub x: String,
    pub width: String,
    pub kind: &'static str,
    pub label: Option<Label>,
}

/// A symbol in pixels.
#[derive(Debug, Clone)]
#[allow(missing_docs, reason = "pixels")]
pub struct Symbol {
    pub x: String,
    pub y: String,
    pub symbol: &'static str,
    pub leader: String,
    pub label: Option<Label>,
}

/// The hour that may be dragged.
#[derive(Debug, Clone)]
#[allow(missing_docs, reason = "pixels")]
pub struct Handle {
    pub x: String,
    pub y: String,
    pub line: String,
    pub label: Label,
    /// Minutes that a pixel of the drawing stands for.
    pub per_px: String,
}

/// The drawing in pixels.
#[derive(Debug, Clone, Default)]
#[allow(missing_docs, reason = "pixels")]
pub struct Tide {
    pub width: u32,
    pub height: u32,
    pub base: String,
    pub ripe_y: String,
    pub water: Vec<String>,
    pub wash: Vec<String>,
    pub edges: Vec<String>,
    pub course: String,
    pub planned: String,
    pub brackets: Vec<(String, Label)>,
    pub marks: Vec<Symbol>,
    pub places: Vec<Band>,
    pub place_y: String,
    pub place_text_y: String,
    pub place_height: String,
    pub dough_line: String,
    pub dough_ends: Vec<Label>,
    pub dough_ticks: String,
    pub dough_labels: Vec<Label>,
    pub clock_ticks: String,
    pub clock_labels: Vec<Label>,
    pub now: Option<(String, Label)>,
    pub dark: Vec<(String, String)>,
    pub sun: Vec<Label>,
    pub spells: Vec<Band>,
    pub spell_y: String,
    pub spell_height: String,
    pub errands: Vec<(String, Label)>,
    pub ready: Option<Handle>,
    pub full: bool,
    pub words: String,
}

/// Over ripe rises above the mark: so much at least, so much at most.
const TOP: (f64, f64) = (1.18, 1.5);

/// A line may run this far from its course, pixels: less than a line is wide.
const OFF: f64 = 0.3;

/// Lays the tide out. `full` draws clock, places and temperature under it; else it is a miniature.
#[must_use]
pub fn tide(f: &Frame, width: u32, height: u32, full: bool) -> Tide {
    let (w, h) = (f64::from(width), f64::from(height));
    let below = if full { 128.0 } else { 2.0 };
    let base = h - below;
    let top = if full { 26.0 } else { 4.0 };
    let x = PixelScale::new(0.0, f.span.max(1.0), if full { 46.0 } else { 2.0 }, w - if full { 14.0 } else { 2.0 });
    let highest = f.rises.iter().flatten().map(|p| p.fast).fold(TOP.0, f64::max).min(TOP.1);
    let y = PixelScale::new(0.0, highest, base, top);
    let cut = |v: f64| v.clamp(0.0, highest);
    let line =
        |rise: &[Point], pick: fn(&Point) -> f64| thin(&rise.iter().map(|p| (x.at(p.min), y.at(cut(pick(p))))).collect::<Vec<_>>(), OFF);
    let floor = |points: &[(f64, f64)]| -> Vec<(f64, f64)> { points.iter().map(|(px, _)| (*px, base)).collect() };
    let mut t = Tide { width, height, full, words: f.words.clone(), base: px(base), ripe_y: px(y.at(1.0)), ..Tide::default() };
    let mut course: Vec<(f64, f64)> = Vec::new();
    for rise in &f.rises {
        let (slow, likely, fast) = (line(rise, |p| p.slow), line(rise, |p| p.likely), line(rise, |p| p.fast));
        t.water.push(area(&slow, &floor(&slow)));
        t.wash.push(area(&fast, &slow));
        if full {
            t.edges.push(path(slow.iter().copied()));
            t.edges.push(path(fast.iter().copied()));
        }
        course.extend(likely);
    }
    t.course = path(course);
    t.planned =
        f.planned.iter().map(|rise| path(thin(&rise.iter().map(|(m, v)| (x.at(*m), y.at(cut(*v)))).collect::<Vec<_>>(), OFF))).collect();
    let label = |at: f64, y: f64, text: &str, anchor: &'static str| Label { x: px(at), y: px(y), text: text.to_owned(), anchor };
    let mut level = y.at(1.0);
    let mut free_from = f64::NEG_INFINITY;
    for (from, to, words) in &f.ripe {
        let (a, b) = (x.at(*from), x.at(*to).min(w - 2.0));
        // Brackets that would touch stand one above the other.
        level = if a - 110.0 < free_from { (level - 22.0).max(top) } else { y.at(1.0) - 14.0 };
        free_from = b;
        // The figures sit left of their bracket, unless the edge is near.
        let left = a > 110.0;
        let mut bracket = vec![(a, level + 8.0), (a, level), (b, level)];
        // A range that goes on beyond the drawing stays open.
        if *to <= f.span {
            bracket.push((b, level + 8.0));
        }
        t.brackets
            .push((path(bracket), label(if left { a - 6.0 } else { b + 6.0 }, level + 5.0, words, if left { "end" } else { "start" })));
    }
    let mut last_label = f64::NEG_INFINITY;
    for m in &f.marks {
        let (mx, my) = (x.at(m.min), y.at(cut(m.height)));
        let shown = full && !m.label.is_empty() && mx - last_label > 44.0;
        if shown {
            last_label = mx;
        }
        let words_y = base + 48.0;
        t.marks.push(Symbol {
            x: px(mx - 10.0),
            y: px(my - 10.0),
            symbol: m.symbol,
            leader: if full { path([(mx, my + 8.0), (mx, if shown { words_y - 14.0 } else { base })]) } else { String::new() },
            label: shown.then(|| label(mx.clamp(24.0, w - 24.0), words_y, &m.label, "middle")),
        });
    }
    (t.spell_y, t.spell_height) = (px(top), px(base - top));
    let mut last_sun = f64::NEG_INFINITY;
    for (from, to, words) in &f.dark {
        let (a, b) = (x.at(from.max(0.0)), x.at(to.min(f.span)));
        t.dark.push((px(a), px((b - a).max(0.0))));
        for (min, words) in [from, to].into_iter().zip(words).filter(|(m, _)| full && (0.0..=f.span).contains(*m)) {
            let sx = x.at(*min);
            // An errand stands there already, or the edge is near.
            let taken = f.errands.iter().map(|e| e.0).chain(f.now).any(|m| (x.at(m) - sx).abs() < 100.0);
            if !taken && sx - last_sun > 92.0 {
                last_sun = sx;
                t.sun.push(label(sx.clamp(46.0, w - 46.0), top - 10.0, words, "middle"));
            }
        }
    }
    for s in &f.spells {
        let (a, b) = (x.at(s.from.max(0.0)), x.at(s.to.min(f.span)));
        #[allow(clippy::cast_precision_loss, reason = "letters of a label")]
        let fits = full && b - a > 7.0 * s.label.chars().count() as f64 + 12.0;
        t.spells.push(Band {
            x: px(a),
            width: px((b - a).max(0.0)),
            kind: s.kind,
            // At its beginning: where it ends, the hours of the first act are written.
            label: fits.then(|| label(a + 6.0, top + 15.0, &s.label, "start")),
        });
    }
    for (min, words) in f.errands.iter().filter(|e| full && (0.0..=f.span).contains(&e.0)) {
        let ex = x.at(*min);
        t.errands.push((path([(ex, top - 4.0), (ex, base + 6.0)]), label(ex.min(w - 60.0), top - 10.0, words, "middle")));
    }
    if let Some((min, words)) = f.ready.as_ref().filter(|_| full) {
        let rx = x.at(*min);
        let middle = f64::midpoint(top, base);
        t.ready = Some(Handle {
            x: px(rx),
            y: px(middle),
            line: path([(rx, top - 8.0), (rx, base)]),
            label: label(rx - 28.0, middle + 5.0, words, "end"),
            per_px: format!("{:.4}", f.span / (x.at(f.span) - x.at(0.0)).max(1.0)),
        });
    }
    if let Some(now) = f.now.filter(|n| (0.0..=f.span).contains(n)) {
        let nx = x.at(now);
        t.now = Some((path([(nx, top - 12.0), (nx, base + 6.0)]), label(nx, top - 14.0, "now", "middle")));
    }
    if !full {
        return t;
    }
    let mut tick = String::new();
    for (min, words) in &f.clock {
        let tx = x.at(*min);
        tick.push_str(&path([(tx, base), (tx, base + if words.is_empty() { 4.0 } else { 8.0 })]));
        if !words.is_empty() {
            t.clock_labels.push(label(tx, base + 24.0, words, "middle"));
        }
    }
    t.clock_ticks = tick;
    let mut dough = String::new();
    let mut last = f64::NEG_INFINITY;
    for (min, hour) in &f.dough_hours {
        let dx = x.at(*min);
        dough.push_str(&path([(dx, base), (dx, base - 8.0)]));
        if dx - last > 16.0 {
            t.dough_labels.push(label(dx, base - 12.0, &hour.to_string(), "middle"));
            last = dx;
        }
    }
    t.dough_ticks = dough;
    let place_y = base + 60.0;
    (t.place_y, t.place_text_y, t.place_height) = (px(place_y), px(place_y + 17.0), "26".into());
    for p in &f.places {
        let (a, b) = (x.at(p.from), x.at(p.to));
        #[allow(clippy::cast_precision_loss, reason = "letters of a label")]
        let fits = |words: &&str| (b - a) > 7.2 * words.chars().count() as f64 + 8.0;
        // Where name and warmth have no room together, the name alone.
        let name = p.label.rsplit_once(' ').map_or(p.label.as_str(), |l| l.0);
        let words = [p.label.as_str(), name].into_iter().find(fits);
        t.places.push(Band {
            x: px(a),
            width: px((b - a).max(1.0)),
            kind: p.kind,
            label: words.map(|words| label(a + 7.0, place_y + 17.0, words, "start")),
        });
    }
    let warm: Vec<&Point> = f.rises.iter().flatten().collect();
    let (low, high) = warm.iter().fold((f64::INFINITY, f64::NEG_INFINITY), |(l, h), p| (l.min(p.dough_c), h.max(p.dough_c)));
    if low.is_finite() {
        let middle = f64::midpoint(low, high);
        let half = ((high - low) / 2.0).max(2.0);
        let c = PixelScale::new(middle - half, middle + half, place_y + 62.0, place_y + 38.0);
        t.dough_line = path(thin(&warm.iter().map(|p| (x.at(p.min), c.at(p.dough_c))).collect::<Vec<_>>(), OFF));
        let ends = [(warm.first(), "end", -6.0), (warm.last(), "start", 6.0)];
        for (p, anchor, dx) in ends {
            if let Some(p) = p {
                t.dough_ends.push(label(
                    x.at(p.min) + dx,
                    c.at(p.dough_c) + 4.0,
                    &format!("{}°", cerealis_core::measure::show(p.dough_c, 0)),
                    anchor,
                ));
            }
        }
    }
    t
}

#[cfg(test)]
mod tests {
    use super::*;

    fn frame() -> Frame {
        let point = |min: f64, v: f64| Point { min, slow: v * 0.8, likely: v, fast: v * 1.2, dough_c: 24.0 };
        Frame {
            rises: vec![vec![point(0.0, 0.0), point(60.0, 0.5), point(120.0, 1.0)]],
            span: 180.0,
            ripe: vec![(100.0, 150.0, "18:00–18:50".into())],
            clock: vec![(0.0, "16".into()), (60.0, String::new()), (120.0, "18".into())],
            dough_hours: vec![(55.0, 1), (115.0, 2)],
            now: Some(30.0),
            words: "ripe".into(),
            ..Frame::default()
        }
    }

    #[test]
    fn over_ripe_stands_above_the_mark_and_is_never_cropped() {
        let mut f = frame();
        f.rises[0][2].fast = 9.0;
        let t = tide(&f, 900, 340, true);
        let ys: Vec<f64> =
            t.edges[1].split(['M', 'L']).filter(|p| !p.is_empty()).map(|p| p.split(' ').nth(1).unwrap().parse().unwrap()).collect();
        assert!(ys.iter().all(|y| *y >= 0.0), "{ys:?}");
        assert!(ys[2] < t.ripe_y.parse().unwrap());
    }

    #[test]
    fn the_dark_is_a_field_and_its_ends_are_told_where_there_is_room() {
        let words = || ["sunset 16:34".to_owned(), "sunrise 07:56".to_owned()];
        let mut f = Frame { dark: vec![(-40.0, 140.0, words())], now: None, ..frame() };
        let t = tide(&f, 900, 340, true);
        assert_eq!(t.dark.len(), 1);
        let left: f64 = t.clock_labels[0].x.parse().unwrap();
        assert!((t.dark[0].0.parse::<f64>().unwrap() - left).abs() < 0.1, "cut at the edge of the drawing");
        assert_eq!(t.sun.iter().map(|l| l.text.as_str()).collect::<Vec<_>>(), ["sunrise 07:56"], "a sunset before it is not told");
        f.errands = vec![(150.0, "boat".into())];
        assert!(tide(&f, 900, 340, true).sun.is_empty(), "an errand stands there");
        assert!(tide(&f, 200, 40, false).sun.is_empty(), "a miniature has no words");
        assert_eq!(tide(&f, 200, 40, false).dark.len(), 1);
        let nights = (0..20).map(|n| (f64::from(n) * 30.0, f64::from(n) * 30.0 + 12.0, words())).collect();
        let xs: Vec<f64> =
            tide(&Frame { dark: nights, now: None, ..frame() }, 900, 340, true).sun.iter().map(|l| l.x.parse().unwrap()).collect();
        assert!(xs.len() > 1 && xs.windows(2).all(|w| w[1] - w[0] > 80.0), "no two over each other: {xs:?}");
    }

    #[test]
    fn hours_are_cut_at_the_edges_and_named_where_they_are_wide_enough() {
        let spell = |from: f64, to: f64| Spell { from, to, kind: "asleep", label: "asleep to 04:30".into() };
        let f = Frame { spells: vec![spell(-30.0, 100.0), spell(150.0, 156.0), spell(170.0, 900.0)], ..frame() };
        let t = tide(&f, 900, 340, true);
        let width = |i: usize| t.spells[i].width.parse::<f64>().unwrap();
        assert!(t.spells[0].label.is_some() && t.spells[1].label.is_none());
        assert!(width(0) > width(1) && width(2) < 100.0, "{:?}", t.spells);
    }

    #[test]
    fn a_place_tells_its_name_and_its_warmth_where_there_is_room() {
        let place = |from: f64, to: f64| Place { from, to, label: "pantry 13.4°".into(), kind: "cool" };
        let f = Frame { places: vec![place(0.0, 90.0), place(90.0, 110.0), place(110.0, 112.0)], ..frame() };
        let told: Vec<Option<String>> = tide(&f, 620, 340, true).places.into_iter().map(|p| p.label.map(|l| l.text)).collect();
        assert_eq!(told, [Some("pantry 13.4°".into()), Some("pantry".into()), None]);
    }

    #[test]
    fn brackets_that_would_touch_stand_one_above_the_other() {
        let f = Frame { ripe: vec![(60.0, 100.0, "a".into()), (105.0, 150.0, "b".into()), (160.0, 400.0, "c".into())], ..frame() };
        let t = tide(&f, 500, 340, true);
        let level = |i: usize| t.brackets[i].1.y.parse::<f64>().unwrap();
        assert!(level(1) < level(0), "{} {}", level(0), level(1));
        // A range that goes on beyond the drawing stays open: three corners, not four.
        assert_eq!(t.brackets[2].0.matches('L').count(), 2);
        assert_eq!(t.brackets[0].0.matches('L').count(), 3);
    }

    #[test]
    fn both_scales_are_on_one_line() {
        let t = tide(&frame(), 900, 340, true);
        assert_eq!((t.clock_labels.len(), t.dough_labels.len()), (2, 2));
        assert!(t.now.is_some() && t.brackets.len() == 1 && t.course.starts_with('M'));
        let small = tide(&frame(), 200, 40, false);
        assert!(small.clock_ticks.is_empty() && small.places.is_empty());
    }
}
