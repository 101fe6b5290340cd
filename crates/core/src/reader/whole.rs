//! What only the whole recipe tells: parts of what is listed, a leaven that is built and named again, percent, pieces,
//! the bake.

use std::sync::Arc;

use rustc_hash::FxHashMap;

use super::{Reading, ask, lexicon::Holder, read_line::ReadLine, steps::Step, weigh::is_weight};
use crate::{
    formula::{Line, OvenTold, Phase, Pieces, Stage, ToldAct, ToldStep, Used, WEAVES, whole_bake},
    measure::Band,
    oven::{ProveIn, Shape, Vessel},
    pantry::{Fact, Family, Pantry},
};

/// After the text is read and before questions are answered.
pub(super) fn resolve(
    reading: &mut Reading,
    pantry: &Pantry,
    total: Option<(Band, bool)>,
    unknown_lists: &[usize],
    uses: &FxHashMap<usize, Used>,
) {
    of_unknown_heads(reading, unknown_lists);
    painted_on(reading);
    spent_in_steps(reading);
    preferments(reading, pantry);
    built_once(reading);
    bare_percentages(reading);
    to_scale(reading, total);
    only_salt(reading);
    baked_as_heated(&mut reading.steps);
    flour_first(reading);
    filled_and_iced(reading, uses);
    let choices = reading.choices.clone();
    ask::of_recipe(&mut reading.lines, &choices);
}

/// What stands in a list of its own for a filling or an icing is for that; what names it itself, for what it names.
fn filled_and_iced(reading: &mut Reading, uses: &FxHashMap<usize, Used>) {
    for l in &mut reading.lines {
        let listed = || uses.get(&l.list).copied().filter(|_| !l.in_step);
        l.used = l.used.or_else(listed).filter(|_| l.stage == Stage::Finish);
    }
}

/// A list under a heading we do not know goes on at the end if it holds sugar, spice, fat, egg, fruit and the like
/// alone; with flour, water or yeast it is dough.
fn of_unknown_heads(reading: &mut Reading, lists: &[usize]) {
    let finishes = |f: Family| {
        matches!(
            f,
            Family::Sugar
                | Family::Spice
                | Family::Fat
                | Family::Egg
                | Family::Fruit
                | Family::Nut
                | Family::Seed
                | Family::Dairy
                | Family::Topping
        )
    };
    for list in lists {
        let here = |l: &&ReadLine| l.list == *list && !l.in_step;
        let elsewhere = reading.lines.iter().any(|l| l.list != *list && l.ingredient.family == Family::Flour);
        if elsewhere && reading.lines.iter().filter(here).all(|l| finishes(l.ingredient.family)) {
            for l in reading.lines.iter_mut().filter(|l| l.list == *list && !l.in_step) {
                l.stage = Stage::Finish;
            }
        }
    }
}

/// A paste with yeast in it is painted on: a scald has none.
fn painted_on(reading: &mut Reading) {
    let yeasted = |l: &&ReadLine| l.stage == Stage::Scald && l.ingredient.family == Family::Yeast;
    let lists: Vec<usize> = reading.lines.iter().filter(yeasted).map(|l| l.list).collect();
    for l in reading.lines.iter_mut().filter(|l| l.stage == Stage::Scald && lists.contains(&l.list)) {
        l.stage = Stage::Finish;
    }
}

/// Where most of the flour is not read, a word by a real weight is offered as flour first.
fn flour_first(reading: &mut Reading) {
    const FLOURS: [&str; 3] = ["wheat-bread", "wheat-ap", "wheat-whole"];
    let flour: f64 = reading.lines.iter().filter_map(|l| l.grams.map(|g| g.likely * l.ingredient.flour_share)).sum();
    for u in reading.unread.iter_mut().filter(|u| !u.words.is_empty() && u.grams.is_some_and(|g| g > flour && g >= 100.0)) {
        let known = u.near.iter().any(|id| FLOURS.contains(&id.as_str()));
        if !known {
            u.near.splice(0..0, FLOURS.map(str::to_owned));
            u.near.truncate(4);
        }
    }
}

/// An amount told in a step is part of the line it spends, where one is listed that holds as much.
fn spent_in_steps(reading: &mut Reading) {
    // The most that is listed of each thing, in the dough and for the end.
    let mut listed: FxHashMap<(&str, bool), f64> = FxHashMap::default();
    for l in reading.lines.iter().filter(|l| !l.in_step) {
        if let Some(g) = l.grams {
            let most = listed.entry((l.ingredient.kind.as_str(), l.stage == Stage::Finish)).or_insert(0.0);
            *most = most.max(g.high);
        }
    }
    let holds =
        |l: &ReadLine, finish: bool, much: f64| listed.get(&(l.ingredient.kind.as_str(), finish)).is_some_and(|g| *g >= 0.95 * much);
    // What is listed for the filling does not hold the dough's butter.
    let spends = |l: &ReadLine| {
        let much = l.grams.map_or(0.0, |g| g.low);
        l.in_step && (holds(l, false, much) || (l.stage == Stage::Finish && holds(l, true, much)))
    };
    let spent: Vec<bool> = reading.lines.iter().map(spends).collect();
    let mut spent = spent.into_iter();
    reading.lines.retain(|_| !spent.next().unwrap_or(false));
}

/// A sponge of flour, water and starter is a leaven; fed with rye it is a rye sour.
fn preferments(reading: &mut Reading, pantry: &Pantry) {
    overnight(reading);
    let stage = |s: Stage| move |l: &&ReadLine| l.stage == s;
    let has = |reading: &Reading, family| reading.lines.iter().filter(stage(Stage::Preferment)).any(|l| l.ingredient.family == family);
    if has(reading, Family::Leaven) && !has(reading, Family::Yeast) {
        for l in reading.lines.iter_mut().filter(|l| l.stage == Stage::Preferment) {
            l.stage = Stage::Leaven;
        }
    }
    if built_flour(reading, true) > built_flour(reading, false) {
        for seed in reading.lines.iter_mut().filter(|l| l.stage == Stage::Leaven && l.ingredient.kind == "leaven-wheat") {
            seed.ingredient = pantry.get("leaven-rye").unwrap_or(&seed.ingredient).clone();
        }
    }
}

/// `Night before: 20 g starter, 300 g rye, 300 g water`: a first list of flour, water and something that raises it,
/// without salt, is a leaven or a preferment whatever its heading says, if the dough's flour comes in a later list.
fn overnight(reading: &mut Reading) {
    let first = reading.lines.iter().map(|l| l.list).min().unwrap_or(0);
    let in_first = |l: &&ReadLine| l.list == first && l.stage == Stage::Dough;
    let has = |family: Family| reading.lines.iter().filter(in_first).any(|l| l.ingredient.family == family);
    let goes_on = reading.lines.iter().any(|l| l.list > first && l.stage == Stage::Dough && l.ingredient.family == Family::Flour);
    if !goes_on || !has(Family::Flour) || !has(Family::Liquid) || has(Family::Salt) {
        return;
    }
    let stage = if has(Family::Leaven) {
        Stage::Leaven
    } else if has(Family::Yeast) {
        Stage::Preferment
    } else {
        return;
    };
    for l in reading.lines.iter_mut().filter(|l| l.list == first && l.stage == Stage::Dough) {
        l.stage = stage;
    }
}

/// Grams of rye, or of other flour, in the list of the leaven.
fn built_flour(reading: &Reading, rye: bool) -> f64 {
    let flour = reading.lines.iter().filter(|l| l.stage == Stage::Leaven && l.ingredient.family == Family::Flour);
    flour.filter(|l| l.ingredient.is(Fact::Rye) == rye).filter_map(|l| l.grams.map(|g| g.likely)).sum()
}

/// A leaven that is built in its own list and named again in the dough is one leaven: what the dough takes of it is
/// what is built, and only that is counted.
fn built_once(reading: &mut Reading) {
    let built: f64 = reading.lines.iter().filter(|l| l.stage == Stage::Leaven).filter_map(|l| l.grams.map(|g| g.likely)).sum();
    let made = reading.lines.iter().any(|l| l.stage == Stage::Leaven && l.ingredient.family == Family::Flour);
    if built <= 0.0 || !made {
        return;
    }
    let named_again = reading.lines.iter().position(|l| {
        l.stage == Stage::Dough
            && l.ingredient.family == Family::Leaven
            && l.grams.is_none_or(|g| (0.3 * built..=1.1 * built).contains(&g.likely))
    });
    let Some(again) = named_again.map(|at| reading.lines.remove(at)) else { return };
    if let Some(taken) = again.grams.map(|g| g.likely).filter(|g| *g < 0.97 * built) {
        for line in reading.lines.iter_mut().filter(|l| l.stage == Stage::Leaven) {
            line.grams = line.grams.map(|g| g.times(taken / built));
        }
    }
    reading.remarks.push((again.source_line, again.source));
}

/// Flakes that are all the salt a dough has are no topping.
fn only_salt(reading: &mut Reading) {
    let salted = reading.lines.iter().any(|l| l.ingredient.family == Family::Salt && l.stage != Stage::Finish && l.grams.is_some());
    let list = reading.lines.iter().find(|l| l.ingredient.family == Family::Flour).map(|l| l.list);
    if salted {
        return;
    }
    let flakes = |l: &&mut ReadLine| l.ingredient.kind == "salt-flaky" && l.grams.is_some() && !l.purposed && Some(l.list) == list;
    if let Some(l) = reading.lines.iter_mut().find(flakes) {
        l.stage = Stage::Dough;
    }
}

/// A bake without a setting of its own is at what the oven was heated to; so is a time behind it that says nothing else.
fn baked_as_heated(steps: &mut [Step]) {
    let mut heated: Option<f64> = None;
    let last_told = steps.iter().rposition(|s| s.tells_oven() && s.minutes.is_some());
    for (i, s) in steps.iter_mut().enumerate() {
        if let Some(c) = s.oven_c {
            heated = Some(c);
            continue;
        }
        let lone = s.verb.is_empty() && last_told.is_none_or(|l| l < i) && s.minutes.is_some_and(|m| m.likely <= 120.0);
        if s.minutes.is_some() && (s.bakes() || lone) && heated.is_some() {
            s.oven_c = heated;
            "bake".clone_into(&mut s.verb);
        }
    }
}

/// `flour 100, water 68, salt 2`: bare figures whose flour is just a hundred are shares of it.
fn bare_percentages(reading: &mut Reading) {
    const LEAST: usize = 3;
    const MOST_SALT: f64 = 4.0;
    let bare = |l: &&ReadLine| l.questions.iter().any(|q| q.id == "bare-number");
    let sum =
        |of: &dyn Fn(&ReadLine) -> bool| -> f64 { reading.lines.iter().filter(|l| of(l)).filter_map(|l| l.grams.map(|g| g.likely)).sum() };
    let flour = sum(&|l| l.ingredient.family == Family::Flour);
    let salt = sum(&|l| l.ingredient.family == Family::Salt);
    let all = reading.lines.len() >= LEAST && reading.lines.iter().all(|l| bare(&l));
    if !all || (flour - 100.0).abs() > 1e-6 || !(0.0..=MOST_SALT).contains(&salt) || salt <= 0.0 {
        return;
    }
    for line in &mut reading.lines {
        line.percent = line.grams.take().map(|g| g.likely);
        line.questions.retain(|q| q.id != "bare-number");
    }
}

/// Percent lines become grams where one weight is told: a flour's, all the flour's, or the dough's.
fn to_scale(reading: &mut Reading, total: Option<(Band, bool)>) {
    let told = |l: &ReadLine| l.percent.filter(|_| l.grams.is_none());
    if !reading.lines.iter().any(|l| told(l).is_some()) {
        return;
    }
    let in_dough = |l: &&ReadLine| l.stage != Stage::Finish;
    let sum: f64 = reading.lines.iter().filter(in_dough).filter_map(told).sum();
    let weighed: f64 = reading.lines.iter().filter(in_dough).filter_map(|l| l.grams.map(|g| g.likely * l.ingredient.flour_share)).sum();
    let all: f64 = reading.lines.iter().filter(in_dough).filter_map(|l| l.grams.map(|g| g.likely)).sum();
    let open: f64 = reading.lines.iter().filter(|l| l.ingredient.family == Family::Flour).filter_map(told).sum();
    let flour = match total {
        Some((grams, true)) => grams.likely,
        Some((grams, false)) if weighed <= 0.0 && sum > 100.0 => (grams.likely - all).max(0.0) * 100.0 / sum,
        // Flour that stands there in percent too is the rest of the hundred.
        _ if open < 100.0 => weighed / (1.0 - open / 100.0),
        _ => 0.0,
    };
    for line in &mut reading.lines {
        if let (None, Some(percent)) = (line.grams, line.percent) {
            line.grams = (flour > 0.0).then(|| Band::exact(flour * percent / 100.0)).filter(|b| is_weight(*b));
        }
    }
}

/// Lines and steps become the formula.
pub(super) fn finish(reading: &mut Reading, text: &str) {
    // An answered question may have told the weight a recipe in percent waited for.
    to_scale(reading, None);
    let phases = phases(&reading.steps);
    let rises = reading.first_rise();
    let (pieces, oven) = (pieces(&reading.steps, reading.title_shape), whole_bake(&phases).map(in_range));
    let formula = &mut reading.formula;
    formula.lines = reading
        .lines
        .iter()
        .filter_map(|l| {
            // A leaven told with its water counts by that.
            let ingredient = l.hydration_pct.map_or_else(|| l.ingredient.clone(), |h| Arc::new(l.ingredient.leaven_at(h)));
            let hydration_pct = l.hydration_pct;
            l.grams.map(|grams| Line { ingredient, grams, stage: l.stage, source: Some(l.source.clone()), hydration_pct, used: l.used })
        })
        .collect();
    formula.text = (!text.trim().is_empty()).then(|| text.to_owned());
    formula.pieces = pieces;
    formula.oven = oven;
    formula.phases = if phases.len() > 1 { phases } else { Vec::new() };
    formula.rises = rises;
    formula.coats = reading.steps.iter().filter_map(|s| s.coats).max();
    formula.steps = told_steps(&reading.steps);
}

/// Each step once, in its own words: a bake of two phases is one sentence.
fn told_steps(steps: &[Step]) -> Vec<ToldStep> {
    let mut told: Vec<ToldStep> = Vec::new();
    let from = first_bake(steps);
    for (i, s) in steps.iter().enumerate().filter(|(_, s)| !s.text.trim().is_empty() && s.text.chars().count() <= 2000) {
        let dries = i > from && (s.off || s.ajar) && told.last().is_none_or(|t| t.start != s.span.0);
        // `Makes 2 plaits` is told where the dough is divided.
        let by_verb = || ToldAct::from_word(&s.verb).or_else(|| s.pieces.map(|_| ToldAct::Shape));
        let act = dries.then_some(ToldAct::Dry).or_else(by_verb).map(|act| act.word().to_owned());
        let step = ToldStep { text: s.text.clone(), act, start: s.span.0, end: s.span.1 };
        if told.last() != Some(&step) && told.len() < 200 {
            told.push(step);
        }
    }
    told
}

fn pieces(steps: &[Step], title_shape: Option<Shape>) -> Option<Pieces> {
    let counted = steps.iter().filter(|s| s.pieces.is_some());
    // Where a weight is told beside the number, that is the dividing.
    let told = counted.clone().find(|s| s.piece_g.is_some()).or_else(|| counted.clone().next());
    let weight = steps.iter().find_map(|s| s.piece_g);
    let shape = steps.iter().find_map(|s| s.shape).or(title_shape);
    let strands = steps.iter().find_map(|s| s.strands).filter(|n| WEAVES.iter().any(|w| w.0 == *n));
    let vessel = vessel(steps);
    let prove_in = prove_in(steps);
    // Nobody says of one loaf in its pot, tin or basket that it is one.
    let one = vessel.is_some() || prove_in == Some(ProveIn::Basket);
    let count = told.and_then(|s| s.pieces).or(strands.map(|_| 1)).or(one.then_some(1))?;
    let flat = title_shape.filter(|s| *s == Shape::Flat);
    Some(Pieces {
        count,
        piece_g: told.and_then(|s| s.piece_g).or(weight).filter(|g| (1.0..=20_000.0).contains(g)),
        shape: strands.filter(|_| count == 1).map(|_| Shape::Braid).or(flat).or_else(|| told.and_then(|s| s.shape)).or(shape),
        vessel,
        lid: closed_tin(steps, vessel),
        pan: None,
        strands: strands.filter(|_| count == 1),
        touching: steps.iter().find_map(|s| s.touching).filter(|_| count > 1),
        thickness_cm: None,
        prove_in,
    })
}

/// What it bakes in or on: the pot, stone or steel the oven is heated with, else where the pieces were laid last.
fn vessel(steps: &[Step]) -> Option<Vessel> {
    let at = |verbs: &'static [&'static str]| {
        move |s: &&Step| verbs.contains(&s.verb.as_str()) || (s.tells_oven() && !matches!(s.verb.as_str(), "boil" | "mix"))
    };
    let heavy = |s: &Step| match s.holder {
        Some(Holder::Pot) => Some(Vessel::Pot),
        Some(Holder::Stone) => Some(Vessel::Stone),
        Some(Holder::Steel) => Some(Vessel::Steel),
        _ => None,
    };
    let laid = |s: &Step| match s.holder {
        Some(Holder::MuffinTin) => Some(Vessel::MuffinTin),
        Some(Holder::Tin) => Some(Vessel::PanMetal),
        Some(Holder::Sheet) => Some(Vessel::Sheet),
        _ => None,
    };
    let baked = steps.iter().filter(at(&["bake", "heat"])).find_map(heavy);
    baked.or_else(|| steps.iter().filter(at(&["shape", "bake", "rise", "rest", ""])).filter_map(laid).next_back())
}

/// Whether its tin is closed: a lid laid on over a loaf in a tin, and not taken off while it bakes.
fn closed_tin(steps: &[Step], vessel: Option<Vessel>) -> bool {
    vessel == Some(Vessel::PanMetal) && steps.iter().any(|s| s.lidded) && !steps.iter().any(|s| s.lid == Some(false))
}

/// What the shaped pieces prove in, where a basket or a cloth is told.
fn prove_in(steps: &[Step]) -> Option<ProveIn> {
    let told = |s: &Step| match s.holder {
        Some(Holder::Basket) => Some(ProveIn::Basket),
        Some(Holder::Cloth) => Some(ProveIn::Cloth),
        _ => None,
    };
    steps.iter().filter(|s| matches!(s.verb.as_str(), "shape" | "rise" | "rest" | "")).find_map(told)
}

/// The first step that is baked by the clock: what is told before it of a door ajar or an oven turned off is of a rise.
fn first_bake(steps: &[Step]) -> usize {
    steps.iter().position(|s| s.bakes() && s.minutes.is_some()).unwrap_or(steps.len())
}

/// The phases of the bake: what each step at the oven tells. Heating it is none by itself.
fn phases(steps: &[Step]) -> Vec<Phase> {
    let first = first_bake(steps);
    let dries = |i: usize, s: &Step| i > first && (s.off || s.ajar);
    let baking = steps.iter().enumerate().filter(|(i, s)| s.bakes() || s.tells_oven() || dries(*i, s)).map(|(_, s)| s);
    let timed = baking.clone().any(|s| s.minutes.is_some());
    let phase = |s: &Step| Phase {
        set_c: s.oven_c.filter(|c| (30.0..=300.0).contains(c)),
        minutes: s.minutes.map(|b| (b.low, b.high)),
        lid: s.lid,
        ajar: s.ajar,
        off: s.off,
    };
    let told = |p: &Phase| p.minutes.is_some_and(|m| m.1 <= 600.0) || (p.minutes.is_none() && p.set_c.is_some() && !timed);
    let heated = baking.clone().find_map(|s| s.oven_c);
    let mut phases: Vec<Phase> = baking.map(phase).filter(told).take(12).collect();
    // A time alone is at what the oven was heated to.
    if let Some(first) = phases.first_mut().filter(|p| p.set_c.is_none()) {
        first.set_c = heated.filter(|c| (30.0..=300.0).contains(c));
    }
    phases
}

/// A setting no bread is baked at is no setting of the formula.
fn in_range(told: OvenTold) -> OvenTold {
    OvenTold { set_c: told.set_c.filter(|c| (100.0..=300.0).contains(c)), ..told }
}
