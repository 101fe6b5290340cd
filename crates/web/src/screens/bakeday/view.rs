//! Bake day as it is shown: the act and its deed, the line to weigh, what can be measured, the record.

use std::collections::HashSet;

use askama::Template;
use cerealis_core::{
    bake::{Event, EventKind, Summary, summary},
    formula::{Spoons, oven_of, spoons},
    kitchen::{Kitchen, Place},
    measure::{degrees, degrees_about, show, show_minutes, weight},
    pantry::Family,
    plan::{Actual, Beside, PlanStep, StepKind, minutes_between},
};
use jiff::Timestamp;
use uuid::Uuid;

use super::{
    Refused, Standing,
    at_bowl::{AtBowl, wanted_warmth},
    event_words,
    held_back::HeldBack,
    rest::{Rest, rest},
    spots::{Spot, spots},
};
use crate::{
    State,
    draw::{Tide, tide},
    edge::{Local, in_words},
    screens::{frame, symbol},
};

/// Entries of a log that bake day shows; all of them stand in the logbook.
const LATEST: usize = 100;

#[derive(Template)]
#[template(path = "bakeday/page.html")]
pub struct BakedayPage {
    id: String,
    name: String,
    /// Hours and minutes as digits, and `am` or `pm`.
    digits: Vec<String>,
    half: &'static str,
    now: Now,
    measure: Measure,
    places: Vec<(&'static str, String)>,
    /// How the running rise would go on in each place.
    spots: Vec<Spot>,
    /// The rest planned anew.
    rest: Option<Rest>,
    weigh: Vec<Weigh>,
    held_back: Option<HeldBack>,
    /// The kneading under way.
    bowl: Option<AtBowl>,
    /// Seconds a side in the bath, where that is due.
    bath: Option<(u32, u32)>,
    /// Asks how warm the dough came out of the bowl.
    warmth: Option<String>,
    wide: Tide,
    narrow: Tide,
    log: Log,
    key: String,
    errors: Vec<String>,
    /// The other breads of its day: id, name.
    others: Vec<(String, String)>,
    /// The plan it was begun from, while nothing is noted and it can be taken back.
    fresh: Option<String>,
    note: String,
    /// A reading as it was typed.
    other: String,
    finished: bool,
    outcome: Outcome,
    now_ms: i64,
    zone_minutes: i64,
    cautions: Vec<&'static str>,
    noted: Vec<String>,
}

/// The act at hand, its sign, what follows it.
struct Now {
    title: String,
    symbol: &'static str,
    when: String,
    instruction: String,
    /// What the recipe says of it.
    words: Vec<String>,
    sign: String,
    under: String,
    over: String,
    number: String,
    lateness: String,
    next: Vec<NextRow>,
    changed: Vec<(&'static str, String, String)>,
    deed: String,
    deed_kind: String,
    deed_value: String,
    /// What the deed is about: a place, or a step that has no event of its own.
    deed_what: String,
    /// The rise whose ripeness is asked.
    wait: Option<&'static str>,
    poke: bool,
}

struct NextRow {
    clock: String,
    symbol: &'static str,
    title: &'static str,
    sign: String,
    span: String,
}

/// What can be measured now.
struct Measure {
    of: &'static str,
    stage: &'static str,
    kind: &'static str,
    /// As shown, as sent, whether it is the likeliest.
    values: Vec<(String, String, bool)>,
    /// The household's other ovens, and the setting, while the oven is lit and empty.
    other_oven: Option<(Vec<String>, String)>,
    dough: String,
}

struct Weigh {
    index: usize,
    name: String,
    grams: String,
    spoons: String,
    bowl: String,
    done: bool,
    salt: bool,
    value: String,
}

struct Log {
    rows: Vec<LogRow>,
    /// Entries before these.
    older: usize,
}

struct LogRow {
    seq: i32,
    clock: String,
    words: String,
    undone: bool,
    can_undo: bool,
    /// Whether the course is worked out without it.
    aside: bool,
}

/// How it came out.
struct Outcome {
    baked: bool,
    colours: Vec<(&'static str, bool)>,
    rating: Vec<(u8, bool)>,
}

fn deed(step: Option<&PlanStep>, event: Option<EventKind>, oven_c: f64) -> (String, String, String) {
    let Some(step) = step else { return ("Done".into(), "note".into(), String::new()) };
    let kind = event.map_or("note", EventKind::word).to_owned();
    let (label, value) = match step.kind {
        StepKind::Bloom => ("It is stirred in", String::new()),
        StepKind::Mix => ("Mixed", String::new()),
        StepKind::Soak => ("It has soaked", String::new()),
        StepKind::Knead => ("It holds", String::new()),
        StepKind::Butter => ("Butter is in", String::new()),
        StepKind::Fold => ("Folded", String::new()),
        StepKind::KnockBack => ("Knocked back", String::new()),
        StepKind::Shape => ("Shaped", String::new()),
        StepKind::OvenOn => ("Oven is on", show(oven_c, 0)),
        StepKind::Load => ("It is in", show(oven_c, 0)),
        StepKind::SteamOff => ("Steam is out", String::new()),
        StepKind::LidOff => ("Lid is off", String::new()),
        StepKind::Turn => ("Turned", String::new()),
        StepKind::Dial => ("Dial is turned", String::new()),
        StepKind::Dry => ("It dries", String::new()),
        StepKind::Foil => ("Foil is on", String::new()),
        StepKind::Check | StepKind::Out => ("It is out", String::new()),
        StepKind::Ready => ("Sliced", String::new()),
        StepKind::Bulk | StepKind::Proof => ("Ripe now", String::new()),
        StepKind::Move => ("It is there", String::new()),
        StepKind::Feed => ("Fed", String::new()),
        StepKind::Stir => ("Stirred", String::new()),
        StepKind::Scald => ("Scalded", String::new()),
        StepKind::Finish => ("Brushed", String::new()),
        StepKind::Dip => ("Dipped", String::new()),
        StepKind::LidOn => ("Lid is on", String::new()),
        StepKind::Leaven | StepKind::Preferment | StepKind::BenchRest => ("Ready", String::new()),
    };
    (label.into(), kind, value)
}

fn lateness(late: f64, ready: &str) -> String {
    match late {
        l if l >= 5.0 => format!("{} late. Ready {ready}.", show_minutes(l)),
        l if l <= -5.0 => format!("{} early. Ready {ready}.", show_minutes(-l)),
        _ => format!("On time. Ready {ready}."),
    }
}

/// All that bake day is shown from.
struct Seen<'a> {
    s: &'a Standing,
    kitchen: &'a Kitchen,
    local: Local,
    at: Timestamp,
}

impl Seen<'_> {
    fn times(&self, kind: StepKind) -> usize {
        self.s.state.done.iter().filter(|d| d.step.kind == kind).count()
    }

    /// Whether the first load has gone in.
    fn loaded(&self) -> bool {
        self.times(StepKind::Load) > 0
    }

    /// Whether the oven is lit and empty.
    fn lit(&self) -> bool {
        self.times(StepKind::OvenOn) > 0 && !self.loaded()
    }

    fn span(&self, p: &PlanStep) -> String {
        p.low.zip(p.high).filter(|(l, h)| l < h).map_or_else(String::new, |(l, h)| self.local.span(l, h))
    }

    /// When the step is due: by the clock, in how long, and between which hours where nobody can know.
    fn when(&self, p: &PlanStep) -> String {
        let waits = p.kind.waits();
        let at = if waits { self.s.state.act().map_or(p.start, |a| a.start) } else { p.start };
        let (clock, words) = (self.local.clock_to(at, 5.0), in_words(minutes_between(self.at, at)));
        let range = if waits { self.span(p) } else { String::new() };
        if range.is_empty() { format!("{clock}, {words}") } else { format!("Likeliest {clock}, {words}; between {range}") }
    }

    fn now(&self) -> Now {
        let state = &self.s.state;
        let (act, waiting) = (state.act(), state.waiting());
        let step = waiting.or(act);
        let title = match (waiting.map(|w| w.kind), act) {
            (Some(StepKind::Bulk), _) => "Ready to shape?".to_owned(),
            (Some(StepKind::Proof), _) => "Poke the loaf".to_owned(),
            (_, Some(a)) => a.kind.title().to_owned(),
            (_, None) => "It is done".to_owned(),
        };
        let tap = state.told_by_tap();
        let (deed, deed_kind, deed_value) = deed(tap, tap.and_then(|a| state.event_of(a)), self.s.kept.plan.oven.set_c);
        let ready = self.local.clock_to(state.course.ready_at, 5.0);
        let total = state.course.steps.iter().filter(|p| !p.kind.waits()).count();
        let done = state.done.iter().filter(|d| !d.step.kind.waits()).count();
        let next = state.next.iter().filter(|p| act.is_none_or(|a| a != *p) && !p.kind.waits()).take(3).map(|p| NextRow {
            clock: self.local.clock_to(p.start, 5.0),
            symbol: symbol(p.kind),
            title: p.kind.title(),
            sign: p.sign.clone(),
            span: self.span(p),
        });
        let deed_what = |a: &PlanStep| match a.kind {
            StepKind::Move => Place::ALL.into_iter().find(|p| p.name() == a.place).map_or("", Place::word).to_owned(),
            StepKind::OvenOn => self.kitchen.oven.name.clone(),
            kind if state.event_of(a).is_none() && !kind.waits() => kind.word().to_owned(),
            _ => String::new(),
        };
        Now {
            title,
            symbol: step.map_or("slice", |p| symbol(p.kind)),
            when: step.map_or_else(String::new, |p| self.when(p)),
            instruction: act.map_or_else(String::new, |a| a.instruction.clone()),
            words: step.map_or_else(Vec::new, |s| s.words.clone()),
            sign: step.map_or_else(String::new, |p| p.sign.clone()),
            under: step.map_or_else(String::new, |p| p.under.clone()),
            over: step.map_or_else(String::new, |p| p.over.clone()),
            number: format!("act {} of {total}", (done + 1).min(total)),
            lateness: if state.finished { String::new() } else { lateness(state.late_min, &ready) },
            next: next.collect(),
            changed: state
                .changed
                .iter()
                .map(|c| (c.kind.title(), self.local.clock_seen(c.was, c.now), self.local.clock_to(c.now, 5.0)))
                .collect(),
            deed,
            deed_kind,
            deed_value,
            deed_what: tap.map_or_else(String::new, deed_what),
            wait: waiting.map(|w| if w.kind == StepKind::Bulk { "bulk" } else { "proof" }),
            poke: waiting.is_some_and(|w| w.kind == StepKind::Proof),
        }
    }

    fn measure(&self) -> Measure {
        let (kitchen, oven, dough) = (self.kitchen, &self.s.kept.plan.oven, self.s.state.dough);
        // Between two loads nothing is in it.
        let (of, stage, kind, likely) = if self.times(StepKind::Load) > self.times(StepKind::Out) {
            ("Core now", "", "core", oven.core_c.round())
        } else if self.lit() {
            ("Oven thermometer", "oven", "temperature", oven.set_c + kitchen.oven.offset_c.unwrap_or(0.0).round())
        } else if let Some(d) = dough.filter(|_| !self.loaded()) {
            ("Dough now", "dough", "temperature", d.dough_c.round())
        } else {
            ("Room now", "room", "temperature", kitchen.room_c.round())
        };
        let readings = degrees_about(likely, self.lit(), kitchen.units.temperature);
        let values = readings.iter().enumerate().map(|(i, c)| (degrees(*c).to(0).short().to_string(), c.to_string(), i == 2));
        Measure {
            of,
            stage,
            kind,
            values: values.collect(),
            other_oven: (self.lit() && !kitchen.other_ovens.is_empty())
                .then(|| (kitchen.other_ovens.iter().map(|o| o.name.clone()).collect(), show(oven.set_c, 0))),
            dough: dough.map_or_else(String::new, |d| {
                let (hours, ratio) = (show(d.dough_h, 1), show(d.volume_ratio, 1));
                format!("Dough {}, {hours} dough hours, {ratio} times its volume", degrees(d.dough_c).to(0).short())
            }),
        }
    }

    /// What is to be weighed, until it is mixed.
    fn weigh(&self, undone: &HashSet<i32>, with: Spoons) -> Vec<Weigh> {
        // While the yeast wakes the rest is weighed.
        let bowl = self.s.state.actual.bowl.iter().any(|(act, _)| *act != StepKind::Bloom);
        if bowl || self.s.state.dough.is_some() {
            return Vec::new();
        }
        let ticked = |e: &&Event| e.event.kind == EventKind::Weighed && !e.event.is_held_back() && !undone.contains(&e.seq);
        let weighed: Vec<u32> = self.s.log.iter().filter(ticked).filter_map(|e| e.event.body.line).collect();
        let held = self.s.formula.held();
        let mut bowl = 0.0;
        let lines = self.s.formula.lines.iter().enumerate().filter(|(_, l)| self.s.state.weighs(l));
        let row = |(i, l): (usize, &cerealis_core::formula::Line)| {
            let held_g = held.filter(|(at, _)| *at == i).map_or(0.0, |(_, g)| g);
            let grams = l.grams.likely - held_g;
            bowl += grams;
            Weigh {
                index: i,
                name: l.ingredient.name.clone(),
                grams: weight(grams).to_string(),
                spoons: if held_g > 0.0 {
                    format!("{} held back", weight(held_g))
                } else {
                    spoons(&l.ingredient, grams, with).unwrap_or_default()
                },
                bowl: weight(bowl).to_string(),
                done: u32::try_from(i).is_ok_and(|i| weighed.contains(&i)),
                salt: l.ingredient.family == Family::Salt,
                value: format!("{grams:.2}"),
            }
        };
        lines.map(row).collect()
    }

    fn log(&self, undone: &HashSet<i32>) -> Log {
        let row = |e: &Event| LogRow {
            seq: e.seq,
            clock: self.local.clock(e.event.at),
            words: event_words(e, &self.s.formula, &self.s.log),
            undone: undone.contains(&e.seq),
            can_undo: e.event.kind != EventKind::Undo && !undone.contains(&e.seq),
            aside: self.s.state.set_aside.contains(&e.seq),
        };
        Log { rows: self.s.log.iter().rev().take(LATEST).map(row).collect(), older: self.s.log.len().saturating_sub(LATEST) }
    }

    fn outcome(&self, sum: &Summary) -> Outcome {
        Outcome {
            baked: self.s.kept.plan.taken_out(&sum.outs).is_some(),
            colours: ["pale", "golden", "brown", "dark", "burnt"].map(|c| (c, sum.colour.as_deref() == Some(c))).to_vec(),
            rating: (1..=5).map(|r| (r, sum.rating.is_some_and(|x| (x - f64::from(r)).abs() < 0.5))).collect(),
        }
    }
}

impl BakedayPage {
    /// The same page with the other breads of its day.
    pub fn beside(self, others: Vec<(String, String)>) -> Self {
        Self { others, ..self }
    }

    pub fn new(s: &Standing, kitchen: &Kitchen, state: &State, taken: &[Beside], refused: Refused) -> Self {
        let Refused { from, errors, note, other } = refused;
        let at = state.clock.now();
        let seen = Seen { s, kitchen, local: Local::of(kitchen), at };
        let t = &state.tables();
        let plan = &s.kept.plan;
        let planned = plan.course(&s.formula, &Actual::default(), kitchen, t).ok();
        let hours = minutes_between(plan.ask.start, s.state.course.ready_at) / 60.0;
        let every = if hours > 14.0 { 2.0 } else { 1.0 };
        let draw = |w, h, every| tide(&frame(&s.state.course, planned.as_ref(), &seen.local, Some(at), every), w, h, true);
        let undone: HashSet<i32> = s.log.iter().filter_map(|e| e.event.undoes()).collect();
        let sum = summary(&s.log);
        let rest = rest(s, kitchen, (at, taken), state);
        let bake = oven_of(&s.formula.analyse(&t.pantry, &t.styles), &t.pantry);
        let face = seen.local.face(at);
        let late = |id: &str| id == "preheat-late" && rest.as_ref().is_some_and(|r| r.oven_cold);
        Self {
            id: s.kept.id.clone(),
            name: s.kept.name.clone(),
            digits: face.0.chars().map(|c| c.to_string().trim().to_owned()).collect(),
            half: face.1,
            now: seen.now(),
            measure: seen.measure(),
            places: kitchen.places().into_iter().map(|(p, c)| (p.word(), format!("{}, {}", p.name(), degrees(c).short()))).collect(),
            spots: spots(s, kitchen, at, state),
            noted: s.state.findings(at).into_iter().filter(|f| !late(f.id)).map(|f| f.message).collect(),
            rest,
            bowl: AtBowl::of(s, at, t),
            bath: s.state.act().filter(|act| act.kind == StepKind::Dip).and_then(|_| bake.bath_seconds()),
            warmth: wanted_warmth(s),
            held_back: HeldBack::asked(s, sum.went_in),
            weigh: seen.weigh(&undone, Spoons::of(kitchen, &t.pantry)),
            wide: draw(1216, 300, every),
            narrow: draw(358, 262, if hours > 7.0 { every.max(2.0) * 2.0 } else { 2.0 }),
            log: seen.log(&undone),
            key: Uuid::now_v7().to_string(),
            errors,
            others: Vec::new(),
            fresh: s.log.is_empty().then_some(from),
            note,
            other,
            finished: s.state.finished,
            outcome: seen.outcome(&sum),
            now_ms: at.as_millisecond(),
            zone_minutes: i64::from(kitchen.time_zone().to_offset(at).seconds() / 60),
            cautions: s.state.cautions(&bake),
        }
    }
}
