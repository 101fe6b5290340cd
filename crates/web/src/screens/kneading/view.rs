//! The page of a kneading: its ways as rows, the chosen one as a drawing and as acts with their signs.

use askama::Template;
use cerealis_core::{
    Tables,
    formula::{Analysis, Formula, ToldAct, ToldStep, has_butter, kneading_in},
    input::{InputErrors, Pointer},
    kitchen::Kitchen,
    knead::{KneadAsk, KneadPhase, Kneading, LONG_REST, Method, PhaseKind, Until, Way, Work, findings::find, way_title},
    measure::{Band, degrees, show, show_half, show_minutes},
    plan::{StepKind, at_its_best},
    safety,
    water::{MixRise, WaterAnswer, WaterAsk, for_formula},
};

use super::Asked;
use crate::{
    State,
    draw::{self, KneadFrame, Moment},
    edge::{Failure, PageFailure},
    screens::{Chrome, Field, FindingView, worked_out},
};

/// What the page is made from.
pub struct Seen<'a> {
    pub id: String,
    /// As it is kept.
    pub kept: &'a Formula,
    /// Kneaded as asked.
    pub formula: &'a Formula,
    pub kitchen: &'a Kitchen,
    pub asked: &'a Asked,
    pub wrong: Option<&'a InputErrors>,
    pub state: &'a State,
}

/// A way in the list.
struct WayRow {
    key: String,
    name: &'static str,
    chosen: bool,
    /// Whether the formula tells it.
    own: bool,
    figure: String,
    hands: String,
    water: String,
    hot: bool,
    /// Its course in small: the area, the line, the line it goes for.
    course: (String, String, String),
}

/// An act with its sign.
struct ActRow {
    minutes: String,
    range: String,
    symbol: &'static str,
    what: String,
    how: &'static str,
    sign: String,
}

#[derive(Template)]
#[template(path = "kneading/page.html")]
pub struct KneadingPage {
    chrome: Chrome,
    id: String,
    name: String,
    headline: String,
    sub: String,
    ways: Vec<WayRow>,
    way: String,
    wide: draw::Kneading,
    narrow: draw::Kneading,
    acts: Vec<ActRow>,
    water: String,
    findings: Vec<FindingView>,
    working: Vec<(String, String, String)>,
    fields: Vec<Field>,
    /// Whether butter goes in late, in a dough that has some.
    butter_late: Option<bool>,
    wrong: Vec<String>,
    /// What is said of a mixer, where one kneads.
    machine: Option<&'static str>,
    /// How fast this household's kneading is, as its windows taught.
    learned: Option<String>,
    /// What the recipe says of it, in its own words.
    words: Vec<String>,
    /// What is said of raw flour.
    raw: &'static str,
}

impl KneadingPage {
    pub fn new(seen: &Seen<'_>) -> Result<Self, PageFailure> {
        let t = &seen.state.tables();
        let a = seen.formula.analyse(&t.pantry, &t.styles);
        let ask = kneading_in(&a, seen.kitchen);
        let of =
            |ask: &KneadAsk| ask.check(&t.knead, &t.styles, &t.ferment).map(|w| at_its_best(&w, &a, seen.kitchen, t).0).map_err(refused);
        let work = of(&ask)?;
        let done = work.kneading();
        let way = work.way(&done);
        let kept = kneading_in(&seen.kept.analyse(&t.pantry, &t.styles), seen.kitchen);
        let chosen = ask.way().to_owned();
        let own = seen.formula.kneading == seen.kept.kneading;
        let mut ways = Vec::new();
        for (name, other) in ask.ways(&t.knead, &t.styles, &t.ferment).map_err(refused)? {
            if name == chosen {
                ways.push(WayRow::new(name, &work, &a, seen.kitchen, t, (true, own)));
            } else if Method::from_word(&other.method).is_some_and(|method| seen.kitchen.kneads(method)) {
                // What was told of rest and minutes is of the way that was chosen; the others are as they would be planned.
                let rest_min = if name == LONG_REST { other.rest_min } else { 0.0 };
                let work = of(&KneadAsk { rest_min, ..other })?;
                ways.push(WayRow::new(name, &work, &a, seen.kitchen, t, (false, name == kept.way())));
            }
        }
        if !ways.iter().any(|w: &WayRow| w.chosen) {
            ways.insert(0, WayRow::new(&chosen, &work, &a, seen.kitchen, t, (true, own)));
        }
        let root = Pointer::root().at("kneading");
        let told = seen.formula.kneading;
        let field = |name: &'static str, label, unit, typed: &str, told: Option<f64>| Field {
            name,
            label,
            value: if typed.trim().is_empty() { told.map_or_else(String::new, |v| show(v, 0)) } else { typed.to_owned() },
            unit,
            wrong: seen.wrong.map_or_else(Vec::new, |e| e.at(&root.at(name))),
        };
        let fields = vec![
            field("rest_min", "Soak before kneading", "min", &seen.asked.rest_min, Some(ask.rest_min).filter(|m| *m > 0.0)),
            field("minutes", "Knead for (or to the sign)", "min", &seen.asked.minutes, told.and_then(|k| k.minutes)),
            field("folds", "Folds (or ours)", "", &seen.asked.folds, told.and_then(|k| k.folds).map(f64::from)),
        ];
        let placed: Vec<Pointer> = fields.iter().map(|f| root.at(f.name)).collect();
        let elsewhere =
            seen.wrong.map_or_else(Vec::new, |e| e.0.iter().filter(|e| !placed.contains(&e.pointer)).map(|e| e.message.clone()).collect());
        let name = seen.kept.name.clone().unwrap_or_else(|| "Unnamed bread".into());
        let frame = frame(&way, &work, &done);
        let water = water(&work, &a, seen.kitchen, t);
        Ok(Self {
            chrome: Chrome::new("Formula", seen.kitchen, seen.state.clock.now()),
            headline: format!("{name}: {}", in_short(&work, &done)),
            sub: sub(&done),
            wide: draw::kneading(&frame, 936, 330),
            narrow: draw::kneading(&frame, 358, 300),
            acts: acts(&done, &a, t),
            water: water_words(water.as_ref(), &done),
            findings: find(&work, &done).iter().chain(water.iter().flat_map(|w| &w.findings)).map(FindingView::new).collect(),
            working: worked_out(&done.working(work.ask())),
            fields,
            butter_late: has_butter(&a).then_some(ask.butter_late),
            wrong: elsewhere,
            machine: work.is_machine().then_some(safety::MIXER),
            learned: seen.kitchen.knead_speed.map(|speed| show(speed, 2)),
            words: words(seen.kept),
            raw: safety::RAW_FLOUR,
            way: chosen,
            ways,
            name,
            id: seen.id.clone(),
        })
    }
}

/// What a recipe says of mixing, kneading and folding.
fn words(f: &Formula) -> Vec<String> {
    let of_kneading = |s: &&ToldStep| {
        let act = s.act.as_deref().and_then(ToldAct::from_word);
        matches!(act, Some(ToldAct::Mix | ToldAct::Knead | ToldAct::Fold))
    };
    f.steps.iter().filter(of_kneading).map(|s| s.text.clone()).collect()
}

/// A dough that cannot be kneaded says so.
fn refused(e: InputErrors) -> PageFailure {
    Failure::Input(e).into()
}

/// The water that brings the dough to its temperature, °C; none where it cannot be had.
fn water(work: &Work<'_>, a: &Analysis<'_>, kitchen: &Kitchen, t: &Tables) -> Option<WaterAnswer> {
    for_formula(a, &WaterAsk::in_kitchen(kitchen, work.leaves_at(), MixRise::by(work)), &t.ferment).ok()
}

fn water_words(water: Option<&WaterAnswer>, done: &Kneading) -> String {
    let leaves = format!(
        "{} ({}–{})",
        degrees(done.dough_c.likely).to(0).short(),
        degrees(done.dough_c.low).to(0).short(),
        degrees(done.dough_c.high).to(0).short()
    );
    match water {
        Some(w) if w.ice_g >= 1.0 => format!("With iced water the dough leaves the bowl at {leaves}."),
        Some(w) => {
            format!("With {} at {} the dough leaves the bowl at {leaves}.", w.liquid.to_lowercase(), degrees(w.water_c).to(0).short())
        }
        None => "No water is cold enough for it: chill the flour too, or knead it otherwise.".to_owned(),
    }
}

impl WayRow {
    fn new(key: &str, work: &Work<'_>, a: &Analysis<'_>, kitchen: &Kitchen, t: &Tables, (chosen, own): (bool, bool)) -> Self {
        let done = work.kneading();
        let way = work.way(&done);
        let water = water(work, a, kitchen, t);
        let moments = moments(&way);
        Self {
            key: key.to_owned(),
            name: way_title(key),
            chosen,
            own,
            figure: if done.knead_min > 0.0 {
                format!("{} min of kneading", show_half(done.knead_min))
            } else if done.folds > 0 {
                let last = done.fold_at_min.last().copied().unwrap_or_default();
                format!("{} over {}", folds(done.folds), show_minutes(last))
            } else {
                "mixed, no more".to_owned()
            },
            hands: show_minutes(done.hands_on_min),
            hot: water.as_ref().is_none_or(|w| !w.findings.is_empty()) || done.dough_c.likely > work.stop_c(),
            water: match water {
                Some(w) if w.ice_g >= 1.0 => "with ice".to_owned(),
                Some(w) => degrees(w.water_c).to(0).short().to_string(),
                None => "out of reach".to_owned(),
            },
            course: draw::kneading_small(&moments, (done.target > 0.0).then_some(done.target), 216, 38),
        }
    }
}

fn folds(n: u32) -> String {
    if n == 1 { "one fold".to_owned() } else { format!("{n} folds") }
}

/// How it is done, in a few words.
fn in_short(work: &Work<'_>, done: &Kneading) -> String {
    let how = match work.method() {
        Method::Hand => "by hand",
        Method::Slap => "slapped and folded",
        Method::PlanetaryLow | Method::PlanetaryMedium => "in the mixer",
        Method::SpiralLow | Method::SpiralHigh => "in the spiral mixer",
        Method::Processor => "in the food processor",
        Method::Fold | Method::NoKnead => "",
    };
    match (done.knead_min > 0.0, done.folds) {
        (true, _) if work.method() == Method::Processor => format!("about {} min {how}", show_half(done.knead_min.max(0.5))),
        (true, _) => format!("{} min {how}", show_half(done.knead_min)),
        (false, 0) => "mixed, not kneaded".to_owned(),
        (false, n) => format!("not kneaded, {}", folds(n)),
    }
}

/// How a formula is kneaded here, as its sheet says it; nothing where there is nothing to knead.
pub fn kneaded(a: &Analysis<'_>, kitchen: &Kitchen, t: &Tables) -> Option<String> {
    let work = kneading_in(a, kitchen).check(&t.knead, &t.styles, &t.ferment).ok()?;
    let work = at_its_best(&work, a, kitchen, t).0;
    let done = work.kneading();
    let rest = soak(&done);
    let rest = if rest > 0.0 { format!(", after a soak of {}", show_minutes(rest)) } else { String::new() };
    let folds = if done.knead_min > 0.0 && done.folds > 0 { format!(", {} in the rise", folds(done.folds)) } else { String::new() };
    Some(format!("{}{rest}{folds}", in_short(&work, &done)))
}

/// The sign the kneading goes for; none where it is not kneaded.
fn goes_for(done: &Kneading) -> Option<Until> {
    done.phases.iter().rfind(|p| p.kind == PhaseKind::Knead).map(|p| p.until)
}

fn soak(done: &Kneading) -> f64 {
    done.phases.iter().filter(|p| p.kind == PhaseKind::Soak).map(|p| p.minutes.likely).sum()
}

fn sub(done: &Kneading) -> String {
    let rest = soak(done);
    let rest = if rest > 0.0 { format!(", {} of them rest", show_minutes(rest)) } else { String::new() };
    let batches = if done.batches > 1 { format!(" In {} batches.", done.batches) } else { String::new() };
    let hands = show_minutes(done.hands_on_min);
    let sign = match goes_for(done) {
        None => return format!("Strength comes from folds and time. Your hands: {hands}.{batches}"),
        Some(Until::Window) => "A thin window",
        Some(Until::ClearsBowl) => "It clears the bowl",
        Some(_) => "It is smooth",
    };
    format!("{sign} after about {} from the first mixing{rest}. Your hands: {hands}.{batches}", show_minutes(done.elapsed_min))
}

fn moments(way: &Way) -> Vec<Moment> {
    let of = |b: Band| (b.low, b.likely, b.high);
    way.points.iter().map(|p| (p.min, of(p.gluten), of(p.celsius))).collect()
}

/// What a phase is called in the drawing.
const fn called(kind: PhaseKind) -> &'static str {
    match kind {
        PhaseKind::Mix => "mix",
        PhaseKind::Soak => "soak",
        PhaseKind::Salt => "salt",
        PhaseKind::Knead => "knead",
        PhaseKind::Butter => "butter",
        PhaseKind::Inclusions => "fold in",
        PhaseKind::Fold => "fold",
    }
}

fn frame(way: &Way, work: &Work<'_>, done: &Kneading) -> KneadFrame {
    let mut phases: Vec<(f64, f64, &'static str)> =
        way.phases.iter().filter(|p| p.0 != PhaseKind::Fold).map(|(kind, from, to)| (*from, *to, called(*kind))).collect();
    let end = way.points.last().map_or(way.out_min, |p| p.min);
    phases.push((way.out_min, end, "first rise"));
    let stop = work.stop_c();
    let hot = done.dough_c.likely > stop;
    let coldest = way.points.iter().map(|p| p.celsius.low).fold(f64::INFINITY, f64::min).min(stop - 4.0);
    let cold = (coldest - 1.0).floor();
    // The last sign may come as early, or as late, as all before it and itself.
    let last = done.phases.iter().rposition(|p| p.kind == PhaseKind::Knead);
    let sign = last.map(|last| {
        let until = |end: fn(&Band) -> f64| done.phases.iter().take(last + 1).map(|p| end(&p.minutes)).sum::<f64>();
        let (from, likely, to) = (until(|b| b.low), until(|b| b.likely), until(|b| b.high));
        (from, to, format!("{}–{} min, likeliest {}", show(from, 0), show(to, 0), show(likely, 0)))
    });
    let leaves = format!("{} leaving the bowl", degrees(done.dough_c.likely).to(0).short());
    let development =
        done.development.map_or_else(String::new, |d| format!("{} % of the strength this bread wants", show(100.0 * d.likely, 0)));
    KneadFrame {
        moments: moments(way),
        target: (done.target > 0.0).then(|| {
            let name = match goes_for(done) {
                Some(Until::Window) => "thin window",
                Some(Until::ClearsBowl) => "clears the bowl",
                Some(_) => "smooth",
                None => "strong enough",
            };
            (done.target, name)
        }),
        stop: (stop, format!("{} at most", degrees(stop).to(0).short())),
        out: (way.out_min, leaves.clone()),
        sign,
        phases,
        folds: way.phases.iter().filter(|p| p.0 == PhaseKind::Fold).map(|p| p.1).collect(),
        hot,
        cold: (cold, degrees(cold).to(0).short().to_string()),
        words: format!("Strength and warmth of the dough over {}: {} {development}; {leaves}.", show_minutes(end), in_short(work, done)),
    }
}

const fn symbol(kind: PhaseKind) -> &'static str {
    match kind {
        PhaseKind::Mix => "mix",
        PhaseKind::Soak => "wait",
        PhaseKind::Salt | PhaseKind::Butter | PhaseKind::Inclusions => "butter",
        PhaseKind::Knead => "knead",
        PhaseKind::Fold => "fold",
    }
}

fn what(p: &KneadPhase, waits: (bool, bool)) -> String {
    match p.kind {
        PhaseKind::Mix => match waits {
            (true, true) => "Mix flour and liquid alone".to_owned(),
            (true, false) => "Mix all but salt and what raises it".to_owned(),
            (false, true) => "Mix all but the butter".to_owned(),
            (false, false) => "Mix".to_owned(),
        },
        PhaseKind::Soak => "Let it soak, covered".to_owned(),
        PhaseKind::Salt => "Salt in, and what raises it".to_owned(),
        PhaseKind::Knead => "Knead".to_owned(),
        PhaseKind::Butter => format!("Butter in, in {} pieces", show(p.portions, 0)),
        PhaseKind::Inclusions => "What is folded in".to_owned(),
        PhaseKind::Fold => "Fold".to_owned(),
    }
}

fn acts(done: &Kneading, a: &Analysis<'_>, t: &Tables) -> Vec<ActRow> {
    let has = |kind: PhaseKind| done.phases.iter().any(|p| p.kind == kind);
    let waits = (has(PhaseKind::Salt), has(PhaseKind::Butter));
    let mut rows: Vec<ActRow> = done
        .phases
        .iter()
        .filter(|p| p.kind != PhaseKind::Fold)
        .map(|p| ActRow {
            minutes: show_half(p.minutes.likely.max(0.5)),
            range: if p.minutes.high - p.minutes.low < 1.5 {
                String::new()
            } else {
                format!("{}–{}", show(p.minutes.low, 0), show(p.minutes.high, 0))
            },
            symbol: symbol(p.kind),
            what: what(p, waits),
            how: p.speed_words().unwrap_or_default(),
            sign: t.signs.kneaded(p.until).right,
        })
        .collect();
    for (i, at) in done.fold_at_min.iter().enumerate() {
        let sign = t.signs.of(StepKind::Fold, a.style.id.word(), cerealis_core::ferment::Pace::Usual, 2.0, false);
        rows.push(ActRow {
            minutes: show_minutes(*at),
            range: String::new(),
            symbol: "fold",
            what: format!("Fold {}", i + 1),
            how: "into the first rise",
            sign: sign.right,
        });
    }
    rows
}
