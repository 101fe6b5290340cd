//! The middle of a bread as it cools on a rack.

use super::scale::{PixelScale, path, px};
use cerealis_core::measure::{Temperature, degrees, round_degrees, show, to_nearest};

/// The core as it cools, in pixels.
#[derive(Debug, Clone, Default)]
#[allow(missing_docs, reason = "pixels")]
pub struct CoolingChart {
    pub line: String,
    pub slice: Option<(String, String, String)>,
    pub hours: Vec<(String, String)>,
    pub degrees: Vec<(String, String)>,
    pub words: String,
}

/// Draws the middle as it cools: minutes from the oven and °C, from when on it may be cut, the room.
#[must_use]
pub fn cooling_chart(course: &[(f64, f64)], slice_min: Option<f64>, room_c: f64, scale: Temperature) -> CoolingChart {
    let cold = course.iter().find(|p| p.1 <= room_c + 3.0).or(course.last()).map_or(120.0, |p| p.0);
    let end = (slice_min.filter(|m| *m < 400.0).unwrap_or(0.0).max(cold) / 30.0).ceil() * 30.0;
    let x = PixelScale::new(0.0, end, 40.0, 460.0);
    let y = PixelScale::new(0.0, 100.0, 170.0, 20.0);
    let at = |min: f64| course.iter().find(|p| p.0 >= min).map_or(room_c, |p| p.1);
    let every = if end > 240.0 { 60.0 } else { 30.0 };
    let ticks = |i: i32| every * f64::from(i);
    CoolingChart {
        line: path(course.iter().filter(|p| p.0 <= end).map(|p| (x.at(p.0), y.at(p.1)))),
        slice: slice_min.filter(|m| *m <= end).map(|m| {
            (
                px(x.at(m)),
                px(y.at(at(m))),
                format!("slice from {} min, {} inside", show(to_nearest(m, 5.0), 0), degrees(at(m)).to(0).short()),
            )
        }),
        hours: (0..).map(ticks).take_while(|m| *m <= end).map(|m| (px(x.at(m)), show(m, 0))).collect(),
        degrees: round_degrees((10.0, 100.0), (20.0, 50.0), scale)
            .iter()
            .map(|c| (px(y.at(*c)), degrees(*c).to(0).short().to_string()))
            .collect(),
        words: format!(
            "The middle cools from {} to {} in {} min",
            degrees(course.first().map_or(98.0, |p| p.1)).to(0).short(),
            degrees(course.iter().rfind(|p| p.0 <= end).map_or(room_c, |p| p.1)).to(0).short(),
            show(end, 0)
        ),
    }
}
