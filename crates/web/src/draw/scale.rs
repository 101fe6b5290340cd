use std::fmt::Write as _;

/// A straight scale from values to pixels.
#[derive(Debug, Clone, Copy)]
pub struct Scale {
    from: f64,
    per: f64,
    start: f64,
}

impl Scale {
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
    scale: Scale,
    low: f64,
}

impl LogScale {
    /// Values `low..high`, both above 0, onto pixels.
    #[must_use]
    pub fn new(low: f64, high: f64, start: f64, end: f64) -> Self {
        Self { scale: Scale::new(low.ln(), high.ln(), start, end), low }
    }
    /// The pixel of a value; what lies below the scale stands at its start.
    #[must_use]
    pub fn at(&self, value: f64) -> f64 {
        self.scale.at(value.max(self.low).ln())
    }
}

/// One decimal: a tenth of a pixel is finer than any screen shows.
#[must_use]
pub fn px(value: f64) -> String {
    let rounded = (value * 10.0).round() / 10.0;
    if rounded == 0.0 { "0".into() } else { format!("{rounded}") }
}

/// `d` of a polyline.
#[must_use]
pub fn path(points: impl IntoIterator<Item = (f64, f64)>) -> String {
    let mut d = String::new();
    for (i, (x, y)) in points.into_iter().enumerate() {
        let _ = write!(d, "{}{} {}", if i == 0 { "M" } else { "L" }, px(x), px(y));
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
    fn pixels_are_cut_to_a_tenth() {
        let s = Scale::new(0.0, 3.0, 10.0, 20.0);
        assert_eq!(path([(s.at(0.0), 1.0), (s.at(1.0), 2.05), (s.at(3.0), -0.01)]), "M10 1L13.3 2.1L20 0");
        assert_eq!(area(&[(0.0, 0.0), (1.0, 0.0)], &[(0.0, 5.0), (1.0, 5.0)]), "M0 0L1 0L1 5L0 5Z");
        assert!((LogScale::new(1.0, 100.0, 0.0, 10.0).at(10.0) - 5.0).abs() < 1e-9);
        assert!(LogScale::new(1.0, 100.0, 0.0, 10.0).at(0.0).abs() < 1e-9);
    }
}
