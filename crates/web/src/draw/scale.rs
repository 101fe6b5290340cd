use std::fmt::Write as _;

/// A straight scale from values to pixels.
#[derive(Debug, Clone, Copy)]
pub struct PixelScale {
    from: f64,
    per: f64,
    start: f64,
}

impl PixelScale {
    /// Values `from..to` onto pixels `start..end`.
    #[must_use]
    pub fn new(from: f64, to: f64, start: f64, end: f64) -> Self {
        let span = if (to - from).abs() < 1e-12 { 1.0 } else { to - from };
        Self { from, per: (end - start) / span, start }
    }
    /// The pixel of a value.
    #[must_use]
    pub fn at(&self, value: f64) -> f64 {
        self.start + (value - self.from) * self.per
    }
}

/// A log scale.
#[derive(Debug, Clone, Copy)]
pub struct LogScale {
    scale: PixelScale,
    low: f64,
}

impl LogScale {
    /// Values `low..high`, both above 0, onto pixels.
    #[must_use]
    pub fn new(low: f64, high: f64, start: f64, end: f64) -> Self {
        Self { scale: PixelScale::new(low.ln(), high.ln(), start, end), low }
    }
    /// The pixel of a value; what lies below the scale stands at its start.
    #[must_use]
    pub fn at(&self, value: f64) -> f64 {
        self.scale.at(value.max(self.low).ln())
    }
}

/// How many minutes apart the ticks of a span stand, so that there are so many at most.
#[must_use]
pub fn tick_every(span: f64, most: f64) -> f64 {
    [1.0, 2.0, 5.0, 10.0, 20.0, 30.0, 60.0, 120.0].into_iter().find(|every| span / every <= most).unwrap_or(240.0)
}

/// One decimal: a tenth of a pixel is finer than any screen shows.
#[must_use]
pub fn px(value: f64) -> String {
    let mut text = String::new();
    push_px(&mut text, value);
    text
}

/// A drawing holds thousands of these, so they are written as whole tenths.
fn push_px(to: &mut String, value: f64) {
    #[allow(clippy::cast_possible_truncation, reason = "pixels; a cast keeps inside its range")]
    let tenths = (value * 10.0).round() as i64;
    let (sign, whole, rest) = (if tenths < 0 { "-" } else { "" }, tenths.unsigned_abs() / 10, tenths.unsigned_abs() % 10);
    let _ = if rest == 0 { write!(to, "{sign}{whole}") } else { write!(to, "{sign}{whole}.{rest}") };
}

/// The fewest of these points, in order of x, that stay within `off` pixels of the course they draw.
///
/// Each kept point swings a door as wide as `off` over the points after it; where the door closes the
/// point before is kept (swinging door, J. Bristol 1990, from memory).
#[must_use]
pub fn thin(points: &[(f64, f64)], off: f64) -> Vec<(f64, f64)> {
    let mut kept: Vec<(f64, f64)> = Vec::new();
    let mut before: Option<(f64, f64)> = None;
    let open = (f64::NEG_INFINITY, f64::INFINITY);
    let mut door = open;
    let slope = |from: (f64, f64), to: (f64, f64), off: f64| (to.1 + off - from.1) / (to.0 - from.0);
    let Some((first, rest)) = points.split_first() else { return kept };
    kept.push(*first);
    let mut from = *first;
    for &point in rest {
        if let Some(last) = before {
            let straight = slope(from, point, 0.0);
            // A jump straight up or down ends the run before it.
            if point.0 - last.0 < 1e-9 || straight < door.0 || straight > door.1 {
                kept.push(last);
                (from, door) = (last, open);
            }
        }
        if point.0 - from.0 > 1e-9 {
            door = (door.0.max(slope(from, point, -off)), door.1.min(slope(from, point, off)));
        }
        before = Some(point);
    }
    kept.extend(before);
    kept
}

/// `d` of a polyline.
#[must_use]
pub fn path(points: impl IntoIterator<Item = (f64, f64)>) -> String {
    let mut d = String::new();
    for (i, (x, y)) in points.into_iter().enumerate() {
        d.push(if i == 0 { 'M' } else { 'L' });
        push_px(&mut d, x);
        d.push(' ');
        push_px(&mut d, y);
    }
    d
}

/// `d` of the area between a course and another one, run back.
#[must_use]
pub fn area(over: &[(f64, f64)], under: &[(f64, f64)]) -> String {
    if over.is_empty() {
        return String::new();
    }
    let mut d = path(over.iter().copied().chain(under.iter().rev().copied()));
    d.push('Z');
    d
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_course_of_few_points_stays_within_its_tolerance() {
        // An S with a drop in it, as a rise that is folded.
        let points: Vec<(f64, f64)> = (0..=300)
            .map(|i| (f64::from(i), 80.0 / (1.0 + (-f64::from(i - 150) / 30.0).exp()) - if i > 100 { 9.0 } else { 0.0 }))
            .chain([(300.0, 40.0)])
            .collect();
        let few = thin(&points, 0.3);
        assert!(few.len() < 40, "{}", few.len());
        assert_eq!((few.first(), few.last()), (points.first(), points.last()));
        assert_eq!(few.get(few.len() - 2), points.get(300), "a jump keeps both its ends");
        for (x, y) in &points[..=300] {
            let after = few.partition_point(|p| p.0 < *x).max(1);
            let (a, b) = (few[after - 1], few[after]);
            let drawn = a.1 + (b.1 - a.1) * (x - a.0) / (b.0 - a.0);
            assert!((drawn - y).abs() <= 0.3 + 1e-9, "at {x}: {drawn} for {y}");
        }
        assert!(thin(&[], 0.3).is_empty());
        assert_eq!(thin(&[(1.0, 2.0)], 0.3), [(1.0, 2.0)]);
    }

    #[test]
    fn pixels_are_cut_to_a_tenth() {
        let s = PixelScale::new(0.0, 3.0, 10.0, 20.0);
        assert_eq!(path([(s.at(0.0), 1.0), (s.at(1.0), 2.05), (s.at(3.0), -0.01)]), "M10 1L13.3 2.1L20 0");
        assert_eq!(area(&[(0.0, 0.0), (1.0, 0.0)], &[(0.0, 5.0), (1.0, 5.0)]), "M0 0L1 0L1 5L0 5Z");
        assert!((LogScale::new(1.0, 100.0, 0.0, 10.0).at(10.0) - 5.0).abs() < 1e-9);
        assert!(LogScale::new(1.0, 100.0, 0.0, 10.0).at(0.0).abs() < 1e-9);
    }
}
