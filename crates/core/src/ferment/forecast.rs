//! The course the model foresees, and what is read off it.

use serde::Serialize;

use super::{Body, Constants, Event, EventKind, Population, Rise, surroundings::Surroundings};

/// The state of the dough at a moment.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
#[allow(missing_docs, reason = "names of the API")]
pub struct Row {
    pub min: f64,
    pub dough_c: f64,
    pub dough_h: f64,
    #[serde(skip)]
    pub gas_ml: f64,
    pub volume_ratio: f64,
    pub rise_ratio: f64,
    pub ripeness: f64,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub ph: Option<f64>,
    #[serde(skip)]
    pub acid: Option<f64>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub tta: Option<f64>,
    /// Stage it belongs to.
    #[serde(skip)]
    pub stage: usize,
}

/// A moment of the course between two of its rows.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Moment {
    /// Minutes from the start.
    pub min: f64,
    /// Dough hours from the start.
    pub dough_h: f64,
    /// Height, times that at the start.
    pub rise_ratio: f64,
}

/// What the model foresees.
#[derive(Debug, Clone, PartialEq)]
pub struct Forecast {
    /// Whose dough time it is.
    pub main: Population,
    /// Moments, rise by rise.
    pub events: Vec<Event>,
    /// The course.
    pub curve: Vec<Row>,
    /// Its last row.
    pub end: Row,
    /// The dough's fixed figures.
    pub body: Body,
    /// For each stage its start in minutes.
    pub stage_starts: Vec<f64>,
    /// For each stage the first stage of its rise, and the spread of ln(rate) over that rise.
    pub rises: Vec<(usize, f64)>,
    /// What lives in the dough at the end.
    pub living: Living,
    /// Acts that fell after ripe and were left out: stage and index.
    pub skipped_acts: Vec<(usize, usize)>,
}

/// What a leaven hands on: lactic bacteria against a ripe leaven's own flour, acid in mmol per kg of flour.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
#[allow(missing_docs, reason = "symbols of docs/science.md")]
pub struct Living {
    pub lactic: f64,
    pub acid: f64,
}

impl Forecast {
    /// A dough without yeast or leaven: it takes the warmth of its places and does nothing else.
    #[must_use]
    pub fn at_rest(rise: &Rise, k: &Constants) -> Self {
        let body = Body::of(&rise.dough, rise.rate, k);
        let still = |min: f64, dough_c: f64, stage: usize| Row {
            min,
            dough_c,
            dough_h: 0.0,
            gas_ml: 0.0,
            volume_ratio: 1.0,
            rise_ratio: 1.0,
            ripeness: 0.0,
            ph: None,
            acid: None,
            tta: None,
            stage,
        };
        let (mut curve, mut stage_starts) = (Vec::new(), Vec::new());
        let (mut min, mut celsius) = (0.0, rise.start_c);
        for (i, stage) in rise.stages.iter().enumerate() {
            let around = Surroundings::of(stage, k);
            stage_starts.push(min);
            curve.push(still(min, celsius, i));
            let minutes = stage.minutes.unwrap_or(0.0);
            celsius = around.place_c + (celsius - around.place_c) * around.decay(minutes, &k.numbers).1;
            min += minutes;
            curve.push(still(min, celsius, i));
        }
        let end = curve.last().copied().unwrap_or_else(|| still(0.0, rise.start_c, 0));
        let rises = rise.stages.iter().map(|_| (0, 0.0)).collect();
        Self {
            main: Population::Bakers,
            events: Vec::new(),
            curve,
            end,
            living: Living::default(),
            body,
            stage_starts,
            rises,
            skipped_acts: Vec::new(),
        }
    }

    /// Ripeness at the end of a rise as a ratio of dough times: its own against the one at which it is
    /// ripe. None where it never is.
    #[must_use]
    pub fn ripeness_of_time(&self, first_stage: usize, ripe: EventKind) -> Option<f64> {
        let id = self.rises.get(first_stage)?.0;
        let of_rise = |r: &&Row| self.rises.get(r.stage).is_some_and(|x| x.0 == id);
        let start = self.curve.iter().find(of_rise)?.dough_h;
        let end = self.curve.iter().rfind(of_rise)?.dough_h;
        let needs = self.events.iter().find(|e| e.kind == ripe)?.dough_h - start;
        (needs > 0.0).then(|| (end - start) / needs)
    }

    /// Moves everything from a stage on by so many minutes: work that lies between two rises.
    pub fn wait_before(&mut self, stage: usize, minutes: f64) {
        for row in self.curve.iter_mut().filter(|r| r.stage >= stage) {
            row.min += minutes;
        }
        for start in self.stage_starts.iter_mut().skip(stage) {
            *start += minutes;
        }
        for e in self.events.iter_mut().filter(|e| e.stage >= stage) {
            e.min += minutes;
            e.min_low = e.min_low.map(|m| m + minutes);
            e.min_high = e.min_high.map(|m| m + minutes);
        }
        if self.end.stage >= stage {
            self.end.min += minutes;
        }
    }

    /// The dough at a minute of its course, straight between rows; before the first and after the last it is as there.
    #[must_use]
    pub fn at(&self, min: f64) -> Option<Row> {
        let after = self.curve.partition_point(|r| r.min <= min);
        let b = self.curve.get(after).copied();
        let a = after.checked_sub(1).and_then(|i| self.curve.get(i)).copied();
        match (a, b) {
            (Some(a), Some(b)) if b.min > a.min => {
                let share = (min - a.min) / (b.min - a.min);
                let between = |x: f64, y: f64| x + share * (y - x);
                Some(Row {
                    min,
                    dough_c: between(a.dough_c, b.dough_c),
                    dough_h: between(a.dough_h, b.dough_h),
                    gas_ml: between(a.gas_ml, b.gas_ml),
                    volume_ratio: between(a.volume_ratio, b.volume_ratio),
                    rise_ratio: between(a.rise_ratio, b.rise_ratio),
                    ripeness: between(a.ripeness, b.ripeness),
                    ..a
                })
            }
            (a, b) => a.or(b),
        }
    }

    /// When it first comes to a ripeness: straight between two rows of the course. None where it is as ripe from
    /// the start, or never.
    #[must_use]
    pub fn reaches(&self, ripeness: f64) -> Option<Moment> {
        let after = self.curve.partition_point(|r| r.ripeness < ripeness);
        let (a, b) = (self.curve.get(after.checked_sub(1)?)?, self.curve.get(after)?);
        let share = (ripeness - a.ripeness) / (b.ripeness - a.ripeness);
        let between = |from: f64, to: f64| from + share * (to - from);
        Some(Moment { min: between(a.min, b.min), dough_h: between(a.dough_h, b.dough_h), rise_ratio: between(a.rise_ratio, b.rise_ratio) })
    }

    /// Its height at a ripeness, times that at the start; at the ends of the course, the height there.
    #[must_use]
    pub fn height_at(&self, ripeness: f64) -> f64 {
        let end = || if ripeness <= self.end.ripeness { self.curve.first().unwrap_or(&self.end) } else { &self.end }.rise_ratio;
        self.reaches(ripeness).map_or_else(end, |m| m.rise_ratio)
    }

    /// The first event of a kind in a stage or later that is not beyond what was asked.
    #[must_use]
    pub fn event(&self, kind: EventKind) -> Option<&Event> {
        self.events.iter().find(|e| e.kind == kind)
    }
}
