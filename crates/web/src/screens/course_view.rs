//! A course of the core as a drawing and as rows: what is printed, as it is printed.

use cerealis_core::{
    kitchen::Place as KitchenPlace,
    measure::{say, show},
    plan::{Course, PlanStep, StepKind, minutes_between},
};
use jiff::Timestamp;

use crate::{
    draw::{Frame, Mark, Place, Point, Tide, UprightRow, tide},
    edge::Local,
};

/// The act's mark in the sprite.
#[must_use]
pub const fn symbol(kind: StepKind) -> &'static str {
    match kind {
        StepKind::Mix | StepKind::Stir | StepKind::Bloom => "mix",
        StepKind::Fold | StepKind::KnockBack => "fold",
        StepKind::Bulk | StepKind::Proof | StepKind::Leaven | StepKind::Preferment | StepKind::Soak | StepKind::BenchRest => "wait",
        StepKind::Knead => "knead",
        StepKind::Butter => "butter",
        StepKind::Feed => "feed",
        StepKind::Scald => "steam",
        StepKind::Move => "move",
        StepKind::Finish => "brush",
        StepKind::Dip => "steam",
        StepKind::Shape => "shape",
        StepKind::OvenOn => "heat",
        StepKind::Load => "bake",
        StepKind::SteamOff => "steam",
        StepKind::LidOff | StepKind::LidOn => "lid",
        StepKind::Turn => "turn",
        StepKind::Dial => "heat",
        StepKind::Dry => "wait",
        StepKind::Foil => "foil",
        StepKind::Check => "check",
        StepKind::Out | StepKind::Ready => "slice",
    }
}

const fn place_kind(place: KitchenPlace) -> &'static str {
    match place {
        KitchenPlace::Room => "room",
        KitchenPlace::Pantry | KitchenPlace::Fridge => "cold",
        KitchenPlace::ProofBox | KitchenPlace::OvenLight => "warm",
    }
}

/// A row of the table of acts.
#[derive(Debug, Clone)]
pub struct StepRow {
    /// `18:10`.
    pub clock: String,
    /// `Sat`, where the day changed.
    pub day: String,
    /// Mark.
    pub symbol: &'static str,
    /// `Fold`.
    pub title: &'static str,
    /// What to do.
    pub instruction: String,
    /// What the recipe says of it.
    pub words: Vec<String>,
    /// What to look for.
    pub sign: String,
    /// When it may be, `04:50–06:20`.
    pub span: String,
}

impl StepRow {
    /// Rows of steps, small oven acts included.
    #[must_use]
    pub fn all(steps: &[PlanStep], local: &Local) -> Vec<Self> {
        let mut before: Option<Timestamp> = None;
        steps
            .iter()
            .map(|s| {
                let day = if before.is_none_or(|b| !local.same_day(b, s.start)) { local.day(s.start) } else { String::new() };
                before = Some(s.start);
                let until = if s.kind.waits() { "until " } else { "" };
                let span =
                    s.low.zip(s.high).filter(|(l, h)| l < h).map_or_else(String::new, |(l, h)| format!("{until}{}", local.span(l, h)));
                let clock = if s.kind.is_at_oven() { local.clock(s.start) } else { local.clock_to(s.start, 5.0) };
                Self {
                    clock,
                    day,
                    symbol: symbol(s.kind),
                    title: s.kind.title(),
                    instruction: s.instruction.clone(),
                    words: s.words.clone(),
                    sign: s.sign.clone(),
                    span,
                }
            })
            .collect()
    }
}

struct Heights {
    rises: Vec<Vec<Point>>,
}

impl Heights {
    /// Ripeness as height: the second tide starts at what shaping left.
    fn of(course: &Course, from: Timestamp) -> Self {
        let start = minutes_between(from, course.mixed);
        let band = course.forecast.band();
        let mut rises: Vec<Vec<Point>> = Vec::new();
        let mut ids: Vec<usize> = band.iter().map(|b| b.rise).collect();
        ids.dedup();
        for id in ids {
            let rows: Vec<_> = band.iter().filter(|b| b.rise == id).collect();
            let volume = |r: Option<&&cerealis_core::ferment::BandRow>| r.map_or(1.0, |r| r.volume_ratio);
            let (first, top) = (volume(rows.first()), rows.iter().map(|r| r.volume_ratio).fold(1.0, f64::max));
            let kept = if rises.is_empty() || top <= 1.01 { 0.0 } else { ((first - 1.0) / (top - 1.0)).clamp(0.0, 0.6) };
            let lift = |r: f64| kept + (1.0 - kept) * r;
            rises.push(
                rows.iter()
                    .map(|r| Point {
                        min: start + r.min,
                        slow: lift(r.slow),
                        likely: lift(r.likely),
                        fast: lift(r.fast),
                        dough_c: r.dough_c,
                    })
                    .collect(),
            );
        }
        Self { rises }
    }

    fn at(&self, min: f64) -> f64 {
        let rise = self.rises.iter().find(|r| r.last().is_some_and(|l| min <= l.min + 1e-6)).or_else(|| self.rises.last());
        let points = rise.map_or(&[][..], Vec::as_slice);
        let after = points.partition_point(|p| p.min < min);
        match (after.checked_sub(1).and_then(|i| points.get(i)), points.get(after)) {
            (Some(a), Some(b)) if b.min > a.min => a.likely + (b.likely - a.likely) * (min - a.min) / (b.min - a.min),
            (a, b) => b.or(a).map_or(0.0, |p| p.likely),
        }
    }
}

/// Where a drawing of this course alone begins.
#[must_use]
pub fn drawn_from(course: &Course) -> Timestamp {
    cerealis_core::plan::later(course.steps.first().map_or(course.mixed, |s| s.start), -12.0)
}

/// The acts beside an upright drawing; what is done at the oven in between is left to the table.
#[must_use]
pub fn upright_rows(course: &Course, local: &Local) -> Vec<UprightRow> {
    let from = drawn_from(course);
    let small = |kind: StepKind| kind.is_at_oven() && kind != StepKind::Out;
    let mut rows: Vec<UprightRow> = Vec::new();
    let mut folded = false;
    for s in course.steps.iter().filter(|s| !s.kind.waits() && !small(s.kind) && s.kind != StepKind::Out) {
        if s.kind == StepKind::Fold {
            if folded {
                continue;
            }
            folded = true;
        }
        rows.push(UprightRow {
            min: minutes_between(from, s.start),
            clock: local.clock_to(s.start, 5.0),
            title: s.kind.title().to_owned(),
            sign: say(&s.sign, local.units()).into_owned(),
        });
    }
    rows
}

/// The course as values to be drawn; `planned` is the course as it was planned, for both in one.
#[must_use]
pub fn frame(course: &Course, planned: Option<&Course>, local: &Local, now: Option<Timestamp>, label_every: f64) -> Frame {
    let first = course.steps.first().map_or(course.mixed, |s| s.start);
    let from = cerealis_core::plan::later(planned.and_then(|p| p.steps.first()).map_or(first, |s| s.start.min(first)), -12.0);
    let last = planned.map_or(course.ready_at, |p| p.ready_at.max(course.ready_at));
    // The range of the load is shown whole, unless it would squeeze the rest.
    let late = course.steps.iter().find(|s| s.kind == StepKind::Load).and_then(|s| s.high).unwrap_or(last);
    let widest = cerealis_core::plan::later(last, 0.3 * minutes_between(from, last));
    let to = cerealis_core::plan::later(late.min(widest).max(last), 25.0);
    frame_within((from, to), course, planned, local, now, label_every)
}

/// A course longer than this is told by its days, minutes.
const BY_DAYS_MIN: f64 = 5.0 * 1440.0;

/// The same over hours that are given: several breads on one clock.
#[must_use]
pub fn frame_within(
    (from, to): (Timestamp, Timestamp),
    course: &Course,
    planned: Option<&Course>,
    local: &Local,
    now: Option<Timestamp>,
    label_every: f64,
) -> Frame {
    let at = |t: Timestamp| minutes_between(from, t);
    let heights = Heights::of(course, from);
    let mut marks = Vec::new();
    let mut folds = 0;
    for s in &course.steps {
        let min = at(s.start);
        let (height, label) = match s.kind {
            StepKind::Mix => (0.0, "mix"),
            StepKind::Fold => {
                folds += 1;
                (heights.at(min), if folds == 1 { "folds" } else { "" })
            }
            StepKind::Shape => (if course.proof_stage > 0 { heights.at(min - 0.01) } else { 0.0 }, "shape"),
            StepKind::Feed => (0.0, "feed"),
            StepKind::Stir => (0.0, "stir"),
            StepKind::Move => (heights.at(min), ""),
            StepKind::OvenOn => (0.0, "preheat"),
            // Later loads stand on the ground: the dough is drawn to the first.
            StepKind::Load if s.start > course.load => (0.0, ""),
            StepKind::Load => (heights.at(min), "bake"),
            StepKind::Ready => (0.0, "slice"),
            _ => continue,
        };
        let min = if s.kind == StepKind::Mix { at(course.mixed) } else { min };
        marks.push(Mark { min, height, symbol: symbol(s.kind), label: label.to_owned() });
    }
    let bulk_end = course.steps.iter().find(|s| s.kind == StepKind::Proof).map_or(course.load, |s| s.start);
    let out = course.loads.last().map_or(course.load, |l| l.out);
    let mut places = Vec::new();
    let mut place = |from: Timestamp, to: Timestamp, label: String, kind| places.push(Place { from: at(from), to: at(to), label, kind });
    for s in course.steps.iter().filter(|s| matches!(s.kind, StepKind::Leaven | StepKind::Preferment)) {
        let what = if s.kind == StepKind::Leaven { "leaven" } else { "preferment" };
        place(s.start, s.end, format!("{what}, {}", s.place), "warm");
    }
    for s in &course.stays {
        place(s.span.from, s.span.to, s.told(), place_kind(s.place));
    }
    place(course.load, out, "oven".into(), "hot");
    place(out, course.ready_at, "rack".into(), "room");
    let rows = &course.forecast.curve;
    let mut dough_hours = Vec::new();
    for pair in rows.windows(2) {
        if let [a, b] = pair {
            let next = (a.dough_h.floor() + 1.0).max(1.0);
            if b.dough_h >= next && b.dough_h > a.dough_h && next - a.dough_h <= 1.0 {
                #[allow(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "hours of a dough")]
                dough_hours.push((at(course.mixed) + a.min + (b.min - a.min) * (next - a.dough_h) / (b.dough_h - a.dough_h), next as u32));
            }
        }
    }
    let ripe = course
        .steps
        .iter()
        .filter(|s| s.kind == StepKind::Shape || (s.kind == StepKind::Load && s.start <= course.load))
        .filter_map(|s| s.low.zip(s.high))
        .filter(|(l, h)| l < h);
    let hours = local.hours(from, to);
    // Over many days the days are told, not their hours.
    let by_days = minutes_between(from, to) > BY_DAYS_MIN;
    let told = |t: Timestamp, hour: i8| match (by_days, f64::from(hour) % label_every == 0.0) {
        (true, _) => local.short_day(t),
        (false, true) => local.whole_hour(hour),
        (false, false) => String::new(),
    };
    let clock = hours.iter().filter(|h| !by_days || h.1 == 0).map(|(t, hour)| (at(*t), told(*t, *hour))).collect();
    let load = course.steps.iter().find(|s| s.kind == StepKind::Load);
    let words = format!(
        "Ripeness over the clock: mixed {}, shaped {}, ripe for the oven {}, into the oven {}, ready to slice {}. {} dough hours at 24 degrees. The table gives the same times.",
        local.clock(course.mixed),
        local.clock_to(bulk_end, 5.0),
        load.and_then(|s| s.low.zip(s.high)).map_or_else(|| local.clock_to(course.load, 5.0), |(l, h)| local.span(l, h)),
        local.clock_to(course.load, 5.0),
        local.clock_to(course.ready_at, 5.0),
        show(course.forecast.end.dough_h, 1),
    );
    let dark = local
        .darkness(from, to)
        .into_iter()
        .map(|n| (at(n.from), at(n.to), [format!("sunset {}", local.clock(n.from)), format!("sunrise {}", local.clock(n.to))]))
        .collect();
    Frame {
        dark,
        marks,
        places,
        dough_hours,
        clock,
        words,
        ripe: ripe.map(|(l, h)| (at(l), at(h), local.span(l, h))).collect(),
        planned: planned
            .map_or_else(Vec::new, |p| Heights::of(p, from).rises.iter().map(|r| r.iter().map(|p| (p.min, p.likely)).collect()).collect()),
        now: now.map(at),
        span: minutes_between(from, to),
        rises: heights.rises,
        ..Frame::default()
    }
}

/// The course as a miniature.
#[must_use]
pub fn mini(course: &Course, planned: Option<&Course>, local: &Local, now: Option<Timestamp>) -> Tide {
    let mut f = frame(course, planned, local, now, 24.0);
    f.marks.retain(|m| m.symbol == "bake");
    tide(&f, 250, 56, false)
}
