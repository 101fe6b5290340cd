//! The course as it is shown: the likeliest, between a slow and a fast one; and as few rows as are asked.

use super::{Forecast, Row};

/// Ripeness at a moment: slow, likeliest and fast course of the 80 % range.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct BandRow {
    /// Minutes from mixing.
    pub min: f64,
    /// Stage.
    pub stage: usize,
    /// First stage of its rise.
    pub rise: usize,
    /// Slow course.
    pub slow: f64,
    /// Likeliest course.
    pub likely: f64,
    /// Fast course.
    pub fast: f64,
    /// Volume against the fresh dough.
    pub volume_ratio: f64,
    /// Dough temperature, °C.
    pub dough_c: f64,
    /// Dough hours.
    pub dough_h: f64,
}

pub(crate) const Z: f64 = 1.281_551_565_544_600_4;

impl Forecast {
    /// The course with its spread. Slow and fast stretch dough time, as the ranges of the events do.
    #[must_use]
    pub fn band(&self) -> Vec<BandRow> {
        let rise_of = |stage: usize| self.rises.get(stage).copied().unwrap_or((0, 0.0));
        let mut band = Vec::with_capacity(self.curve.len());
        for rows in self.curve.chunk_by(|a, b| rise_of(a.stage).0 == rise_of(b.stage).0) {
            let Some(first) = rows.first() else { continue };
            let (rise, sigma) = rise_of(first.stage);
            let (slower, faster) = ((-Z * sigma).exp(), (Z * sigma).exp());
            let at = |row: &Row, factor: f64| ripeness_at(rows, first.dough_h + (row.dough_h - first.dough_h) * factor);
            band.extend(rows.iter().map(|row| BandRow {
                min: row.min,
                stage: row.stage,
                rise,
                slow: at(row, slower),
                likely: row.ripeness,
                fast: at(row, faster),
                volume_ratio: row.volume_ratio,
                dough_c: row.dough_c,
                dough_h: row.dough_h,
            }));
        }
        band
    }

    /// At most `most` rows: each stage's start and end and every act, and between them every 5 min, or
    /// every 10, 15, 30, 60 or 120, whichever first gives so few.
    #[must_use]
    pub fn thinned(&self, most: usize) -> Vec<Row> {
        let pinned = |i: usize| {
            let row = self.curve.get(i);
            let (before, after) = (i.checked_sub(1).and_then(|j| self.curve.get(j)), self.curve.get(i + 1));
            // A stage's first and last row, and rows of one moment: before and after an act.
            row.is_none_or(|r| {
                before.is_none_or(|b| b.stage != r.stage || (r.min - b.min).abs() < 1e-9)
                    || after.is_none_or(|a| a.stage != r.stage || (a.min - r.min).abs() < 1e-9)
            })
        };
        let starts = |stage: usize| self.stage_starts.get(stage).copied().unwrap_or(0.0);
        for every in [5.0, 10.0, 15.0, 30.0, 60.0, 120.0] {
            let on_grid = |r: &Row| {
                let steps = (r.min - starts(r.stage)) / every;
                every == 5.0 || (steps - steps.round()).abs() < 1e-6
            };
            let rows: Vec<Row> = self.curve.iter().enumerate().filter(|(i, r)| pinned(*i) || on_grid(r)).map(|(_, r)| *r).collect();
            if rows.len() <= most || every == 120.0 {
                return rows;
            }
        }
        Vec::new()
    }
}

/// Ripeness at a dough time of a rise; past the end it goes on as in the last step.
fn ripeness_at(rows: &[Row], theta: f64) -> f64 {
    let after = rows.partition_point(|r| r.dough_h < theta);
    match (after.checked_sub(1).and_then(|i| rows.get(i)), rows.get(after)) {
        (Some(a), Some(b)) if b.dough_h > a.dough_h => {
            a.ripeness + (b.ripeness - a.ripeness) * (theta - a.dough_h) / (b.dough_h - a.dough_h)
        }
        (Some(a), None) => {
            let before = rows.iter().rev().find(|r| r.dough_h < a.dough_h - 1e-6);
            before.map_or(a.ripeness, |b| a.ripeness + (a.ripeness - b.ripeness) / (a.dough_h - b.dough_h) * (theta - a.dough_h))
        }
        (_, Some(b)) => b.ripeness,
        (None, None) => 0.0,
    }
}
