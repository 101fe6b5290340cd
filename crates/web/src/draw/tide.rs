//! The tide: ripeness over the clock with its spread, the dough's own hours above the line.

use super::scale::{PixelScale, area, path, px, thin};
use cerealis_core::measure::{degrees, plain};

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
    let paper = Paper::new(f, (f64::from(width), f64::from(height)), full);
    let mut t = Tide { width, height, full, words: f.words.clone(), ..Tide::default() };
    paper.rises(&mut t);
    paper.brackets(&mut t);
    paper.marks(&mut t);
    paper.dark(&mut t);
    paper.spells(&mut t);
    paper.hours(&mut t);
    if full {
        paper.scales(&mut t);
        paper.places(&mut t);
        paper.warmth(&mut t);
    }
    t
}

fn label(at: f64, y: f64, text: &str, anchor: &'static str) -> Label {
    Label { x: px(at), y: px(y), text: text.to_owned(), anchor }
}

/// Pixels that a word of so many letters takes, at most.
fn wide(words: &str, letter: f64) -> f64 {
    #[allow(clippy::cast_precision_loss, reason = "letters of a label")]
    let letters = plain(words).chars().count() as f64;
    letter * letters
}

/// What is drawn, and where on the paper its minutes and heights lie.
struct Paper<'a> {
    f: &'a Frame,
    x: PixelScale,
    y: PixelScale,
    width: f64,
    /// The line of the clock, and the upper edge.
    base: f64,
    top: f64,
    highest: f64,
    full: bool,
}

impl<'a> Paper<'a> {
    fn new(f: &'a Frame, (width, height): (f64, f64), full: bool) -> Self {
        let base = height - if full { 128.0 } else { 2.0 };
        let top = if full { 26.0 } else { 4.0 };
        let x = PixelScale::new(0.0, f.span.max(1.0), if full { 46.0 } else { 2.0 }, width - if full { 14.0 } else { 2.0 });
        let highest = f.rises.iter().flatten().map(|p| p.fast).fold(TOP.0, f64::max).min(TOP.1);
        Self { f, x, y: PixelScale::new(0.0, highest, base, top), width, base, top, highest, full }
    }

    /// A height on the paper: what is higher is cut off there.
    fn at_height(&self, v: f64) -> f64 {
        self.y.at(v.clamp(0.0, self.highest))
    }

    fn is_on(&self, min: f64) -> bool {
        (0.0..=self.f.span).contains(&min)
    }

    fn rises(&self, t: &mut Tide) {
        let line = |rise: &[Point], pick: fn(&Point) -> f64| {
            thin(&rise.iter().map(|p| (self.x.at(p.min), self.at_height(pick(p)))).collect::<Vec<_>>(), OFF)
        };
        (t.base, t.ripe_y) = (px(self.base), px(self.y.at(1.0)));
        let mut course: Vec<(f64, f64)> = Vec::new();
        for rise in &self.f.rises {
            let (slow, likely, fast) = (line(rise, |p| p.slow), line(rise, |p| p.likely), line(rise, |p| p.fast));
            let floor: Vec<_> = slow.iter().map(|(at, _)| (*at, self.base)).collect();
            t.water.push(area(&slow, &floor));
            t.wash.push(area(&fast, &slow));
            if self.full {
                t.edges.push(path(slow.iter().copied()));
                t.edges.push(path(fast.iter().copied()));
            }
            course.extend(likely);
        }
        t.course = path(course);
        let planned =
            |rise: &Vec<(f64, f64)>| thin(&rise.iter().map(|(m, v)| (self.x.at(*m), self.at_height(*v))).collect::<Vec<_>>(), OFF);
        t.planned = self.f.planned.iter().map(|rise| path(planned(rise))).collect();
    }

    /// Between which hours it is ripe.
    fn brackets(&self, t: &mut Tide) {
        let mut level = self.y.at(1.0);
        let mut free_from = f64::NEG_INFINITY;
        for (from, to, words) in &self.f.ripe {
            let (a, b) = (self.x.at(*from), self.x.at(*to).min(self.width - 2.0));
            // Brackets that would touch stand one above the other.
            level = if a - 110.0 < free_from { (level - 22.0).max(self.top) } else { self.y.at(1.0) - 14.0 };
            free_from = b;
            let mut bracket = vec![(a, level + 8.0), (a, level), (b, level)];
            // A range that goes on beyond the drawing stays open.
            if *to <= self.f.span {
                bracket.push((b, level + 8.0));
            }
            // The figures sit left of their bracket, unless the edge is near.
            let (at, anchor) = if a > 110.0 { (a - 6.0, "end") } else { (b + 6.0, "start") };
            t.brackets.push((path(bracket), label(at, level + 5.0, words, anchor)));
        }
    }

    fn marks(&self, t: &mut Tide) {
        let words_y = self.base + 48.0;
        let mut last_label = f64::NEG_INFINITY;
        for m in &self.f.marks {
            let (mx, my) = (self.x.at(m.min), self.at_height(m.height));
            let shown = self.full && !m.label.is_empty() && mx - last_label > 44.0;
            if shown {
                last_label = mx;
            }
            let foot = if shown { words_y - 14.0 } else { self.base };
            t.marks.push(Symbol {
                x: px(mx - 10.0),
                y: px(my - 10.0),
                symbol: m.symbol,
                leader: if self.full { path([(mx, my + 8.0), (mx, foot)]) } else { String::new() },
                label: shown.then(|| label(mx.clamp(24.0, self.width - 24.0), words_y, &m.label, "middle")),
            });
        }
    }

    /// Night, with sunset and sunrise where there is room for their hours.
    fn dark(&self, t: &mut Tide) {
        let mut last_sun = f64::NEG_INFINITY;
        for (from, to, words) in &self.f.dark {
            let (a, b) = (self.x.at(from.max(0.0)), self.x.at(to.min(self.f.span)));
            t.dark.push((px(a), px((b - a).max(0.0))));
            for (min, words) in [from, to].into_iter().zip(words).filter(|(m, _)| self.full && self.is_on(**m)) {
                let sx = self.x.at(*min);
                // An errand stands there already, or the edge is near.
                let taken = self.f.errands.iter().map(|e| e.0).chain(self.f.now).any(|m| (self.x.at(m) - sx).abs() < 100.0);
                if !taken && sx - last_sun > 92.0 {
                    last_sun = sx;
                    t.sun.push(label(sx.clamp(46.0, self.width - 46.0), self.top - 10.0, words, "middle"));
                }
            }
        }
    }

    /// Hours that are not the dough's.
    fn spells(&self, t: &mut Tide) {
        (t.spell_y, t.spell_height) = (px(self.top), px(self.base - self.top));
        for s in &self.f.spells {
            let (a, b) = (self.x.at(s.from.max(0.0)), self.x.at(s.to.min(self.f.span)));
            let fits = self.full && b - a > wide(&s.label, 7.0) + 12.0;
            t.spells.push(Band {
                x: px(a),
                width: px((b - a).max(0.0)),
                kind: s.kind,
                // At its beginning: where it ends, the hours of the first act are written.
                label: fits.then(|| label(a + 6.0, self.top + 15.0, &s.label, "start")),
            });
        }
    }

    /// Errands, the hour it is wanted, now.
    fn hours(&self, t: &mut Tide) {
        for (min, words) in self.f.errands.iter().filter(|e| self.full && self.is_on(e.0)) {
            let ex = self.x.at(*min);
            let line = path([(ex, self.top - 4.0), (ex, self.base + 6.0)]);
            t.errands.push((line, label(ex.min(self.width - 60.0), self.top - 10.0, words, "middle")));
        }
        if let Some((min, words)) = self.f.ready.as_ref().filter(|_| self.full) {
            let rx = self.x.at(*min);
            let middle = f64::midpoint(self.top, self.base);
            t.ready = Some(Handle {
                x: px(rx),
                y: px(middle),
                line: path([(rx, self.top - 8.0), (rx, self.base)]),
                label: label(rx - 28.0, middle + 5.0, words, "end"),
                per_px: format!("{:.4}", self.f.span / (self.x.at(self.f.span) - self.x.at(0.0)).max(1.0)),
            });
        }
        if let Some(now) = self.f.now.filter(|n| self.is_on(*n)) {
            let nx = self.x.at(now);
            let line = path([(nx, self.top - 12.0), (nx, self.base + 6.0)]);
            t.now = Some((line, label(nx, self.top - 14.0, "now", "middle")));
        }
    }

    /// The clock under the line, the dough's own hours above it.
    fn scales(&self, t: &mut Tide) {
        let base = self.base;
        for (min, words) in &self.f.clock {
            let tx = self.x.at(*min);
            t.clock_ticks.push_str(&path([(tx, base), (tx, base + if words.is_empty() { 4.0 } else { 8.0 })]));
            if !words.is_empty() {
                t.clock_labels.push(label(tx, base + 24.0, words, "middle"));
            }
        }
        let mut last = f64::NEG_INFINITY;
        for (min, hour) in &self.f.dough_hours {
            let dx = self.x.at(*min);
            t.dough_ticks.push_str(&path([(dx, base), (dx, base - 8.0)]));
            if dx - last > 16.0 {
                t.dough_labels.push(label(dx, base - 12.0, &hour.to_string(), "middle"));
                last = dx;
            }
        }
    }

    /// Upper edge of the row of places.
    fn place_y(&self) -> f64 {
        self.base + 60.0
    }

    fn places(&self, t: &mut Tide) {
        let y = self.place_y();
        (t.place_y, t.place_text_y, t.place_height) = (px(y), px(y + 17.0), "26".into());
        for p in &self.f.places {
            let (a, b) = (self.x.at(p.from), self.x.at(p.to));
            // Where name and warmth have no room together, the name alone.
            let whole = plain(&p.label);
            let name = whole.rsplit_once(' ').map_or(whole.as_ref(), |l| l.0);
            let words = [p.label.as_str(), name].into_iter().find(|words| b - a > wide(words, 7.2) + 8.0);
            t.places.push(Band {
                x: px(a),
                width: px((b - a).max(1.0)),
                kind: p.kind,
                label: words.map(|words| label(a + 7.0, y + 17.0, words, "start")),
            });
        }
    }

    /// How warm the dough is.
    fn warmth(&self, t: &mut Tide) {
        let warm: Vec<&Point> = self.f.rises.iter().flatten().collect();
        let (Some(first), Some(last)) = (warm.first(), warm.last()) else { return };
        let (low, high) = warm.iter().fold((f64::INFINITY, f64::NEG_INFINITY), |(l, h), p| (l.min(p.dough_c), h.max(p.dough_c)));
        let (middle, half) = (f64::midpoint(low, high), ((high - low) / 2.0).max(2.0));
        let c = PixelScale::new(middle - half, middle + half, self.place_y() + 62.0, self.place_y() + 38.0);
        t.dough_line = path(thin(&warm.iter().map(|p| (self.x.at(p.min), c.at(p.dough_c))).collect::<Vec<_>>(), OFF));
        for (p, anchor, dx) in [(first, "end", -6.0), (last, "start", 6.0)] {
            let degrees = degrees(p.dough_c).to(0).short().to_string();
            t.dough_ends.push(label(self.x.at(p.min) + dx, c.at(p.dough_c) + 4.0, &degrees, anchor));
        }
    }
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
        let place = |from: f64, to: f64| Place { from, to, label: format!("pantry {}", degrees(13.4).short()), kind: "cool" };
        let f = Frame { places: vec![place(0.0, 90.0), place(90.0, 110.0), place(110.0, 112.0)], ..frame() };
        let told: Vec<Option<String>> =
            tide(&f, 620, 340, true).places.into_iter().map(|p| p.label.map(|l| plain(&l.text).into_owned())).collect();
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
