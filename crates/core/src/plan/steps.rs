//! The acts of a course: in words, with their hours and their ranges.

use jiff::Timestamp;

use super::{
    Actual, FittedRise, Load, OvenPlan, PlanAsk, PlanStep, StepKind, finish, later, minutes_between,
    mixing::bloom_words,
    search::{schedule, schedule::FOLD_MIN},
};
use crate::{
    Tables,
    ferment::{EventKind, Forecast, Pace},
    formula::{Analysis, StyleId, setting_words},
    kitchen::{Kitchen, Place},
    measure::{degrees, length, weight},
    oven::{Bake, Crust, ROLL_MOST_G, Shape, Vessel, cut, done_sign},
    safety,
};

/// Minutes of hands at an act. Common practice, no source.
pub(super) const SHAPE_MIN: f64 = 15.0;
/// A step of the oven while the door is open or a hand is in it, minutes.
pub(super) const DOOR_MIN: f64 = 1.0;
/// Putting a load in, and taking one out, minutes.
pub(super) const LOAD_MIN: f64 = 3.0;
const OUT_MIN: f64 = 2.0;

/// Said where a dough leaves the oven.
const OUT_OF_OVEN: &str = "Take the dough out of the oven: it is heated next.";

/// What hands do to a dough in its first rise.
const FOLD: &str = "Wet hand under the far edge, lift till it resists, lay it over; quarter turn, four times.";
const KNOCK_BACK: &str = "Press the gas out with your knuckles, fold the edges in, turn it over, cover it again.";

/// What the acts are made from.
pub(super) struct Steps<'a> {
    pub(super) ask: &'a PlanAsk,
    pub(super) analysis: &'a Analysis<'a>,
    pub(super) bake: &'a Bake,
    pub(super) oven: &'a OvenPlan,
    pub(super) forecast: &'a Forecast,
    pub(super) tables: &'a Tables,
    pub(super) mixed: Timestamp,
    /// The oven loads, one at least.
    pub(super) loads: &'a [Load],
    pub(super) load_low: Option<Timestamp>,
    pub(super) load_high: Option<Timestamp>,
    pub(super) proof_stage: usize,
    /// When the first rise ends.
    pub(super) bulk_end: Timestamp,
    /// How long its end may wait, where that is planned.
    pub(super) bulk_slack: Option<&'a FittedRise>,
    /// Whether the act that ends the running rise is due already.
    pub(super) due: bool,
    /// Minutes of the proof after which it leaves the oven, in a plan by hand.
    pub(super) out_min: Option<f64>,
    pub(super) kitchen: &'a Kitchen,
}

impl Steps<'_> {
    fn step(&self, kind: StepKind, start: Timestamp, minutes: f64, place: &str, instruction: String) -> PlanStep {
        let style = self.analysis.style.id.word();
        let rise = if kind == StepKind::Bulk { self.ask.bulk.unwrap_or(self.ask.proof) } else { self.ask.proof };
        let row = self.tables.ferment.styles.get(style);
        let ratio = row.and_then(|r| match (kind, rise.pace) {
            (StepKind::Bulk, Pace::Quick) => r.quick.bulk_ratio,
            (StepKind::Bulk, Pace::Patient) => r.patient.bulk_ratio,
            (StepKind::Bulk, Pace::Usual) => r.bulk_ratio,
            _ => Some(r.proof_ratio),
        });
        let mut sign = self.tables.signs.of(kind, style, rise.pace, ratio.unwrap_or(2.0), self.bake.stands_in_tin());
        // A dough that is to be closed in is judged by its height, whatever its style.
        if self.bake.lid && matches!(kind, StepKind::Proof | StepKind::LidOn) {
            sign = finish::lid_sign(self.analysis.formula.pieces.as_ref().and_then(|p| p.pan.as_deref()));
        }
        if kind == StepKind::Out {
            done_sign(self.bake).clone_into(&mut sign.right);
        }
        let hands = if kind.waits() { 0.0 } else { minutes };
        PlanStep {
            kind,
            start,
            end: later(start, minutes),
            low: None,
            high: None,
            hands_on_min: hands,
            place: place.to_owned(),
            sign: sign.right,
            under: sign.under,
            over: sign.over,
            instruction,
            words: Vec::new(),
        }
    }

    /// All acts in order of the clock.
    pub(super) fn all(&self, actual: &Actual, ready: (Timestamp, Option<Timestamp>, Option<Timestamp>)) -> Vec<PlanStep> {
        let mut steps = self.mix();
        let rest = self.ask.laid.as_deref().is_some_and(|l| l.family == schedule::ScheduleFamily::Rest);
        let proof_start = if rest {
            self.rests(&mut steps)
        } else if self.proof_stage > 0 {
            self.first_rise(actual, &mut steps)
        } else {
            // A batter goes straight from the bowl into its tin.
            if self.ask.laid.is_none() || self.analysis.is_shaped_at_once() {
                steps.push(self.shape(self.mixed));
            }
            self.mixed
        };
        self.proof(proof_start, rest, &mut steps);
        self.heat(&mut steps);
        for n in 0..self.loads.len() {
            self.bake(n, actual, &mut steps);
        }
        let icing = finish::icing(self.analysis).map_or_else(String::new, |icing| format!("{icing} "));
        let words = format!("{icing}Cut with a long blade, no pressure.");
        let mut slice = self.step(StepKind::Ready, ready.0, 0.0, "rack", words);
        (slice.low, slice.high) = (ready.1, ready.2);
        steps.push(slice);
        steps.sort_by_key(|s| s.start);
        steps
    }

    /// When the first load goes in.
    fn load(&self) -> Timestamp {
        self.loads.first().map_or(self.mixed, |l| l.at)
    }

    /// What goes before the mix, and the mix.
    fn mix(&self) -> Vec<PlanStep> {
        let start = later(self.mixed, -self.ask.mix_min);
        let laid = self.ask.laid.as_deref();
        let mut steps = laid.map_or_else(Vec::new, |l| l.before.clone());
        if self.ask.mixing.is_empty() {
            let words = format!("{} {}", self.mixing(), "Then knead it.");
            let mix = self.step(StepKind::Mix, start, self.ask.mix_min, "bench", words);
            steps.push(PlanStep { hands_on_min: laid.map_or(self.ask.mix_min, |l| l.mix_hands_min), ..mix });
        }
        let mut at = start;
        for act in &self.ask.mixing {
            let words = if act.kind == StepKind::Mix { self.mixing() } else { act.words.clone() };
            let sign = self.tables.signs.kneaded(act.until);
            let step = self.step(act.kind, at, act.minutes, "bench", words);
            steps.push(PlanStep { hands_on_min: act.hands_min, sign: sign.right, under: sign.under, over: sign.over, ..step });
            at = later(at, act.minutes);
        }
        steps
    }

    fn shape(&self, at: Timestamp) -> PlanStep {
        let (minutes, hands) = self.ask.laid.as_deref().map_or((SHAPE_MIN, SHAPE_MIN), |l| l.shape_min);
        PlanStep { hands_on_min: hands, ..self.step(StepKind::Shape, at, minutes, "bench", self.shaping()) }
    }

    /// The first rise with its folds and moves, and the shaping that ends it; when the proof begins.
    fn first_rise(&self, actual: &Actual, steps: &mut Vec<PlanStep>) -> Timestamp {
        let laid = self.ask.laid.as_deref();
        let bulk = self.ask.bulk.unwrap_or(self.ask.proof);
        let end = self.bulk_end;
        // Once it is to be shaped nothing is folded any more.
        let open = if self.due { usize::MAX } else { actual.folds.len() + actual.knocks.len() };
        let knocks = self.analysis.is_knocked_back(&self.tables.ferment);
        let half_way = 0.5 * minutes_between(self.mixed, end);
        let planned = if knocks && laid.is_none() { vec![half_way] } else { self.ask.fold_minutes(self.tables) };
        let kind = if knocks { StepKind::KnockBack } else { StepKind::Fold };
        let planned = planned.into_iter().skip(open).map(|m| (later(self.mixed, m), kind));
        let noted = |at: &[Timestamp], kind| at.iter().map(|at| (*at, kind)).collect::<Vec<_>>();
        let done = [noted(&actual.folds, StepKind::Fold), noted(&actual.knocks, StepKind::KnockBack)].concat();
        let handled = done.into_iter().chain(planned).filter(|(at, _)| *at < end);
        let mut wait = self.step(
            StepKind::Bulk,
            self.mixed,
            minutes_between(self.mixed, end),
            bulk.place.name(),
            format!("Cover it and leave it in the {}, {}.", bulk.place.name(), degrees(bulk.place_c).short()),
        );
        let mut shape = self.shape(end);
        if self.due && actual.shaped.is_none() {
            // It has waited long enough to be told when.
        } else if let (Some(l), None) = (self.bulk_slack, actual.shaped) {
            (shape.low, shape.high) = (Some(later(end, -l.early_min)), Some(later(end, l.late_min)));
        } else if actual.shaped.is_none() {
            let ripe = self.forecast.events.iter().find(|e| e.kind == EventKind::BulkRipe && !e.ahead);
            shape.low = ripe.and_then(|e| e.min_low).map(|m| later(self.mixed, m));
            shape.high = ripe.and_then(|e| e.min_high).map(|m| later(self.mixed, m));
        }
        (wait.low, wait.high) = (shape.low, shape.high);
        let shaped = shape.end;
        steps.push(wait);
        let mut folds = 0;
        for (at, kind) in handled {
            let words = if kind == StepKind::KnockBack {
                KNOCK_BACK.to_owned()
            } else {
                folds += 1;
                format!("{} time. {FOLD}", ordinal(folds - 1))
            };
            steps.push(self.step(kind, at, f64::from(FOLD_MIN), bulk.place.name(), words));
        }
        steps.push(shape);
        if let Some(l) = laid.and_then(|l| l.bulk.as_ref()) {
            self.moves(l, self.mixed, steps);
        }
        // A fitted proof begins when the last piece is shaped.
        if laid.is_some() && actual.shaped.is_none() { shaped } else { end }
    }

    fn proof(&self, start: Timestamp, rest: bool, steps: &mut Vec<PlanStep>) {
        let place = self.ask.proof.place;
        if let Some(l) = self.ask.laid.as_deref().filter(|_| !rest) {
            self.moves(&l.proof, start, steps);
        }
        if let Some(m) = self.out_min {
            let words = format!("{OUT_OF_OVEN} Into the room, {}.", degrees(self.kitchen.room_c).short());
            steps.push(self.step(StepKind::Move, later(start, m), f64::from(schedule::MOVE_MIN), Place::Room.name(), words));
        }
        let minutes = minutes_between(start, self.load()).max(0.0);
        let words = format!("Cover it; in the {}, {}.", place.name(), degrees(self.ask.proof.place_c).short());
        let kind = if rest { StepKind::BenchRest } else { StepKind::Proof };
        let proof = self.step(StepKind::Proof, start, minutes, place.name(), words);
        steps.push(PlanStep { kind, low: self.load_low, high: self.load_high, ..proof });
    }

    /// The oven heats up.
    fn heat(&self, steps: &mut Vec<PlanStep>) {
        let lead = self.oven.preheat_min;
        let thing = match self.bake.vessel {
            Vessel::Pot => " with the pot inside",
            Vessel::Stone => " with the stone inside",
            Vessel::Steel => " with the steel inside",
            Vessel::Cover => " with stone and cover inside",
            Vessel::Sheet | Vessel::PanMetal | Vessel::PanGlass | Vessel::PanSilicone | Vessel::Dish | Vessel::MuffinTin => "",
        };
        let oven = &self.kitchen.oven;
        let set = oven.dial.told(self.oven.set_c);
        // Where the recipe's figure was moved for this oven, whoever knows the recipe will ask why.
        let told = self.analysis.formula.oven;
        let theirs = told.filter(|t| !t.ours && t.on_dial(oven) == Some(self.oven.set_c)).and_then(|t| t.set_c);
        let moved = theirs.is_some_and(|c| oven.dial.told(c) != set);
        let why = if moved { format!(" {}", setting_words(told, oven)) } else { String::new() };
        let words = format!("Empty it first. Set {set}{}{thing}.{why}", if oven.fan { ", fan" } else { "" });
        let on = self.step(StepKind::OvenOn, later(self.load(), -lead), lead, "oven", words);
        steps.push(PlanStep { hands_on_min: DOOR_MIN, low: self.load_low.map(|l| later(l, -lead)), ..on });
    }

    /// One oven load from its brushing to the rack.
    fn bake(&self, n: usize, actual: &Actual, steps: &mut Vec<PlanStep>) {
        let Some(load) = self.loads.get(n) else { return };
        let laid = self.ask.laid.as_deref();
        let (first, last) = (n == 0, n + 1 == self.loads.len());
        // The range of the first is that of every load.
        let after = minutes_between(self.load(), load.at);
        let shifted = |at: Option<Timestamp>, minutes: f64| at.map(|at| later(at, after + minutes));
        let finish_min = laid.map_or_else(|| self.bake.before_load_min(self.analysis.formula.all_pieces()), |l| l.glaze_min);
        let apart = self.bake.before_load().filter(|_| first && finish_min > 0.0);
        if let Some(kind) = apart {
            for (nth, before) in self.bake.coats_before(finish_min).into_iter().enumerate() {
                let words = finish::words(self.analysis, self.bake, &self.tables.oven, nth);
                steps.push(self.step(kind, later(load.at, -before), finish_min, "bench", words));
            }
        }
        let words = if first {
            self.loading(apart.is_some())
        } else {
            format!("Load {}: the tin or tray that waited. {}", n + 1, self.loading(false))
        };
        let load_min = laid.map_or(LOAD_MIN, |l| l.load_min);
        let going_in = self.step(StepKind::Load, load.at, load_min, "oven", words);
        steps.push(PlanStep { low: shifted(self.load_low, 0.0), high: shifted(self.load_high, 0.0), ..going_in });
        for e in self.oven.acts_after(laid.map_or(0.0, |l| l.load_min), if laid.is_some() { DOOR_MIN } else { 0.0 }) {
            let at_min = e.at_min;
            let words = match e.kind {
                StepKind::SteamOff => "Open the door at arm's length, take the water out.".to_owned(),
                StepKind::LidOff => safety::LID_OFF.to_owned(),
                StepKind::Dial => self.dial(e.set_c.unwrap_or(self.oven.set_c)),
                StepKind::Dry => self.bake.drying.as_ref().map_or_else(String::new, |d| d.words().to_owned()),
                StepKind::Turn => "Back to front.".to_owned(),
                StepKind::Foil => "Only if it is golden already.".to_owned(),
                _ => format!("Probe the thickest place: {} is done.", degrees(self.oven.core_c).to(0)),
            };
            let mut step = self.step(e.kind, later(load.at, at_min), DOOR_MIN, "oven", words);
            if self.load_low != self.load_high {
                (step.low, step.high) = (shifted(self.load_low, at_min), shifted(self.load_high, at_min));
            }
            steps.push(step);
        }
        let words = if last { self.cooling() } else { format!("Load {} out. The oven heats up again. {}", n + 1, self.cooling()) };
        let mut done = self.step(StepKind::Out, load.out, OUT_MIN, "rack", words);
        if actual.outs.get(n).is_none() {
            (done.low, done.high) = (shifted(self.load_low, self.oven.minutes_low), shifted(self.load_high, self.oven.minutes_high));
        }
        steps.push(done);
    }

    /// The dial turned while it bakes.
    fn dial(&self, set_c: f64) -> String {
        format!("To {}.", self.kitchen.oven.dial.told(set_c))
    }

    /// Carrying the dough from one planned place to the next.
    fn moves(&self, rise: &FittedRise, from: Timestamp, steps: &mut Vec<PlanStep>) {
        let stands = rise.from(from);
        for (before, next) in stands.iter().zip(stands.iter().skip(1)) {
            let out = if before.place == Place::OvenLight { OUT_OF_OVEN } else { "" };
            let place = next.place.name();
            let words = format!("{out} Into the {place}, {}.", degrees(next.celsius).short()).trim_start().to_owned();
            steps.push(self.step(StepKind::Move, next.span, f64::from(schedule::MOVE_MIN), place, words));
        }
    }

    /// A dough without yeast: it rests, is shaped, and rests again.
    fn rests(&self, steps: &mut Vec<PlanStep>) -> Timestamp {
        let Some(l) = self.ask.laid.as_deref() else { return self.mixed };
        let first = l.bulk.as_ref().map_or(0.0, FittedRise::minutes);
        let at = later(self.mixed, first);
        steps.push(self.step(StepKind::BenchRest, self.mixed, first, "bench", "Cover it, so that it does not dry.".into()));
        steps.push(self.shape(at));
        later(at, l.shape_min.0)
    }

    fn mixing(&self) -> String {
        let mut words = vec!["Weigh out, tick each line, the salt above all."];
        let wakes = bloom_words(self.analysis);
        if self.ask.mixing.iter().any(|act| act.kind == StepKind::Bloom) {
            words.push("The yeast with its foam goes in with the liquid.");
        } else {
            // In a plan from before, or with its minutes told, it is part of the mix.
            words.extend(wakes.as_deref());
        }
        let later = |kind: StepKind| self.ask.mixing.iter().any(|act| act.kind == kind);
        words.push(match (later(StepKind::Soak), later(StepKind::Butter)) {
            (true, true) => "Salt, butter and what raises it wait.",
            (true, false) => "Salt and what raises it wait.",
            (false, true) => "All but the butter.",
            (false, false) => "All of it together.",
        });
        words.push(safety::RAW_FLOUR);
        // What is never shaped goes straight from the bowl into its tin.
        if self.analysis.style.id == StyleId::GlutenFree && self.ask.laid.is_some() {
            words.extend(finish::prepared(self.bake));
        }
        words.join(" ")
    }

    fn shaping(&self) -> String {
        let (n, g) = (self.bake.pieces, weight(self.bake.piece_g));
        let woven = self.analysis.formula.pieces.as_ref().and_then(|p| p.woven(self.bake.piece_g));
        let shape = match self.bake.shape {
            Shape::Ball if self.bake.piece_g < ROLL_MOST_G => "Roll under a cupped hand.",
            Shape::Ball => "Round it, rest 15 min, round it tight.",
            Shape::Batard => "Round it, rest, fold and roll to an oval, seam down.",
            Shape::Baton => "Roll out long from the middle.",
            Shape::Ring => "Roll a strand, close the ring with a wet finger.",
            Shape::Braid if woven.is_some() => "Braid from the middle, tuck the ends.",
            Shape::Braid => "Roll even strands, braid from the middle, tuck the ends.",
            Shape::Flat => "Press out with wet fingers.",
            Shape::Pan | Shape::Tall => "Press out, roll up no wider than the tin, seam down.",
            Shape::Muffin => "Round pieces into the cups.",
        };
        let pieces = if n > 1 { format!("{n} × {g}") } else { format!("One piece, {g}") };
        let each = if n > 1 { "each " } else { "" };
        let divided = match woven {
            Some(strands) => format!("{pieces}: {each}{strands}. {shape}"),
            None => format!("{pieces}. {shape}"),
        };
        let thick = self.bake.thickness_cm.map(|cm| format!("{} thick all over.", length(cm)));
        let own = |words: &str| words.to_owned();
        let lie = self.analysis.formula.pieces.as_ref().and_then(|p| finish::lie(p, self.bake));
        let parts = [
            finish::prepared(self.bake).map(own),
            Some(divided),
            thick,
            finish::filling(self.analysis),
            self.bake.prove_in.and_then(|place| finish::laid_in(place, self.bake.pieces)).map(own),
            lie.map(own),
        ];
        parts.into_iter().flatten().collect::<Vec<_>>().join(" ")
    }

    /// `finished`: brushed or dipped already, as an act of its own.
    fn loading(&self, finished: bool) -> String {
        let mut words = Vec::new();
        if let Some(from) = self.bake.prove_in.and_then(finish::turned_out) {
            words.push(from);
        }
        let finish = finish::words(self.analysis, self.bake, &self.tables.oven, 0);
        if !finished && self.bake.before_load().is_some() {
            words.push(finish.as_str());
        }
        let strewn = finish::strewn(self.analysis).filter(|_| self.bake.before_load().is_none());
        words.extend(strewn.as_deref());
        words.extend(cut(self.bake).filter(|_| !self.bake.lid));
        words.push(if self.bake.vessel.covers() {
            "Lower it in on paper, lid on. The pot looks cold and is not."
        } else if self.oven.steam {
            "Load, water into a hot metal tray, stand aside from the steam."
        } else {
            "Load, middle shelf."
        });
        words.join(" ")
    }

    fn cooling(&self) -> String {
        let rack = if self.oven.crust == Some(Crust::Soft) {
            "Turn out, under a cloth for a soft crust."
        } else {
            "Onto a rack at once for a crisp crust."
        };
        finish::after_bake(self.analysis, self.bake.glaze).map_or_else(|| rack.to_owned(), |first| format!("{first} {rack}"))
    }
}

const fn ordinal(i: usize) -> &'static str {
    match i {
        0 => "First",
        1 => "Second",
        2 => "Third",
        3 => "Fourth",
        _ => "Another",
    }
}
