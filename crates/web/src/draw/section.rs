//! A piece cut through, with the warmth inside: nested outlines, one for each warmth that is followed.

use super::scale::{path, px};

/// Outline of a cut piece.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Outline {
    /// Flat base, round top.
    Dome,
    /// A tin: straight walls, a low arch over them.
    Tin,
    /// Low, with round edges.
    Flat,
}

/// A piece in centimetres, and where the middle of its heat lies above the base, 0 to 1.
#[derive(Debug, Clone, Copy)]
pub struct Cut {
    /// Its outline.
    pub outline: Outline,
    /// Width.
    pub width_cm: f64,
    /// Height.
    pub height_cm: f64,
    /// Middle of the heat.
    pub middle: f64,
}

/// A section in pixels: the crust's outline, and inside it one outline for each warmth, from warm to cool.
#[derive(Debug, Clone, Default)]
#[allow(missing_docs, reason = "pixels")]
pub struct Section {
    pub outline: String,
    pub inside: Vec<(usize, String)>,
}

/// A frame of one size for all moments of a piece.
#[derive(Debug, Clone, Copy)]
pub struct Slab {
    cut: Cut,
    per_cm: f64,
    centre_x: f64,
    base_y: f64,
}

impl Slab {
    /// The piece as large as fits.
    #[must_use]
    pub fn new(cut: Cut, width: f64, height: f64) -> Self {
        let per_cm = (width / cut.width_cm).min(height / cut.height_cm);
        Self { cut, per_cm, centre_x: width / 2.0, base_y: height }
    }

    /// Pixels of so many centimetres.
    #[must_use]
    pub fn pixels(&self, cm: f64) -> String {
        px(cm * self.per_cm)
    }

    /// The outline shrunk towards the middle of the heat.
    fn shrunk(&self, share: f64) -> String {
        let (half, high) = (self.cut.width_cm / 2.0 * self.per_cm, self.cut.height_cm * self.per_cm);
        let middle = self.base_y - self.cut.middle * high;
        let at = |x: f64, y: f64| (self.centre_x + share * x, middle + share * (self.base_y - y - middle));
        let bow = |from: f64, to: f64, steps: u32, f: &dyn Fn(f64) -> (f64, f64)| -> Vec<(f64, f64)> {
            (0..=steps).map(|i| f(from + (to - from) * f64::from(i) / f64::from(steps))).collect()
        };
        let points: Vec<(f64, f64)> = match self.cut.outline {
            Outline::Dome => bow(std::f64::consts::PI, 0.0, 24, &|a: f64| (half * a.cos(), high * a.sin())),
            Outline::Tin => {
                let wall = 0.8 * high;
                let mut all = vec![(-0.92 * half, 0.0)];
                all.extend(bow(std::f64::consts::PI, 0.0, 16, &|a: f64| (half * a.cos(), wall + (high - wall) * a.sin())));
                all.push((0.92 * half, 0.0));
                all
            }
            // A superellipse: flat on top, round at the edge.
            Outline::Flat => bow(std::f64::consts::PI, 0.0, 24, &|a: f64| {
                (half * a.cos().signum() * a.cos().abs().powf(0.5), high * a.sin().max(0.0).powf(0.5))
            }),
        };
        let mut d = path(points.into_iter().map(|(x, y)| at(x, y)));
        d.push('Z');
        d
    }

    /// A moment: shares of the way from the middle inside which it is cooler than each warmth, cool first.
    #[must_use]
    pub fn at(&self, cooler_within: &[f64]) -> Section {
        let inside = cooler_within.iter().enumerate().rev().filter(|(_, s)| **s > 0.01).map(|(i, s)| (i, self.shrunk(*s))).collect();
        Section { outline: self.shrunk(1.0), inside }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_is_cooler_lies_inside_and_on_the_middle_of_the_heat() {
        let cut = Cut { outline: Outline::Dome, width_cm: 12.0, height_cm: 6.0, middle: 0.25 };
        let slab = Slab::new(cut, 240.0, 120.0);
        assert_eq!(slab.pixels(5.0), "100");
        let s = slab.at(&[0.0, 0.5, 1.0]);
        assert_eq!(s.inside.iter().map(|i| i.0).collect::<Vec<_>>(), [2, 1], "warm first, and nothing where none is so cool");
        assert_eq!(s.inside[0].1, s.outline, "all of it");
        // Half the way: half as wide, about the middle of the heat, a quarter up.
        assert!(s.inside[1].1.starts_with("M60 105"), "{}", s.inside[1].1);
        assert!(s.outline.starts_with("M0 120") && s.outline.contains("L120 0"), "{}", s.outline);
    }
}
