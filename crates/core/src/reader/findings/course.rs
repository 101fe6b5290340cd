//! Findings on the course of the steps: what a whole method leaves out, and what stands too long.

use super::{at_step, baking_step, finding};
use crate::{
    Tables,
    findings::{
        Change, Finding, Remedy,
        Severity::{Caution, Note, Stop},
    },
    formula::{Analysis, StyleId},
    measure::{Band, show, show_grams, to_nearest, weighable},
    pantry::fold,
    reader::{Reading, Step, mention},
};

/// A method of fewer steps is a hint, not a method: what it leaves out says nothing.
const WHOLE_METHOD: usize = 4;
/// A rest shorter than this is no rise, minutes.
const LEAST_RISE_MIN: f64 = 20.0;
/// Egg or milk dough in the warm: caution and stop, minutes.
const WARM_CAUTION_MIN: f64 = 240.0;
const WARM_STOP_MIN: f64 = 480.0;
/// A big sweet piece in a hot oven.
const BIG_PIECE_G: f64 = 500.0;
const SWEET_PCT: f64 = 8.0;
const HOT_C: f64 = 200.0;
/// Rolls may be eaten warm; a piece from this weight on is cut cold, grams. Common practice, no source.
const CUT_COLD_G: f64 = 250.0;

/// Beginnings of words, folded; with a space behind it, a whole word: `ice ` is not in slice, nor `pot ` in potato.
type Words = &'static [&'static str];
const RISES: Words = &["rise ", "rises ", "rising", "proof", "prov", "bulk", "ferment", "gehen", "lever ", "lievit"];
const RESTS: Words = &["stand ", "doubl", "let ", "leave ", "rest ", "cover "];
const NO_RISE: Words = &["cool", "yeast", "autolys"];
const COLD: Words = &["fridge", "refrigerat", "chill", "cold", "kuhlschrank", "frigo"];
const SIGNS: Words = &["until", "till ", "doubl", "puff", "ripe", "risen", "dome", "spring", "by half", "bubbl", "bis ", "jusqu"];
const HEATS: Words = &["preheat", "pre heat", "heat the oven", "heat oven", "oven to ", "oven on ", "hot oven", "vorheiz", "prechauff"];
const STEAMS: Words = &[
    "steam",
    "lid ",
    "lidded",
    "pot ",
    "dutch",
    "cover",
    "cloche",
    "spray",
    "mist ",
    "ice ",
    "tray of water",
    "pan of water",
    "schwaden",
    "dampf",
    "vapeur",
    "tin ",
];
const SHAPES: Words = &[
    "shap", "form ", "roll", "divid", "braid", "plait", "ball", "boule", "batard", "loaf", "loaves", "tin ", "pan ", "stretch", "press",
    "cut ",
];

/// A step with its words, folded once.
struct Told<'a> {
    step: &'a Step,
    words: String,
}

impl Told<'_> {
    fn says(&self, words: Words) -> bool {
        words.iter().any(|w| self.words.match_indices(w).any(|(at, _)| self.words.get(..at).is_some_and(|before| before.ends_with(" "))))
    }
    fn is_cold(&self) -> bool {
        self.says(COLD)
    }
    /// Whether a dough rises in it: long enough, not in the oven, not the yeast in its cup.
    fn is_rise(&self) -> bool {
        (self.says(RISES) || self.says(RESTS))
            && !self.step.bakes()
            && self.step.oven_c.is_none()
            && !self.says(NO_RISE)
            && self.step.minutes.is_some_and(|m| m.high >= LEAST_RISE_MIN)
    }
    fn is_at_the_oven(&self) -> bool {
        self.step.bakes() || self.step.oven_c.is_some() || self.says(&["oven"])
    }
}

/// A rise a recipe tells by the clock.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct ToldRise {
    /// Its step.
    pub step: usize,
    /// Line of the text.
    pub source_line: usize,
    /// How long.
    pub minutes: Band,
    /// Whether it stands in the cold.
    pub cold: bool,
    /// How warm it stands, if that is told, °C.
    pub place_c: Option<f64>,
    /// Whether it comes before the shaping.
    pub is_first: bool,
}

/// A place a dough rises at; hotter is water, or an oven. °C.
const PLACE_C: std::ops::RangeInclusive<f64> = 1.0..=45.0;

/// `a warm place`: airing cupboard, oven with its light on. °C. Common practice, no source.
const WARM_PLACE_C: f64 = 27.0;
const WARM: Words = &[
    "warm place",
    "warm spot",
    "somewhere warm",
    "warm corner",
    "warmen ort",
    "endroit chaud",
    "endroit tiede",
    "luogo tiepido",
    "proof box",
    "oven light",
    "light on",
];

impl Reading {
    /// The rises its steps tell by the clock, in their order.
    #[must_use]
    pub fn told_rises(&self) -> Vec<ToldRise> {
        rises(&told(self))
    }
}

fn told(reading: &Reading) -> Vec<Told<'_>> {
    reading.steps.iter().map(|step| Told { step, words: format!(" {} ", fold(&step.text)) }).collect()
}

/// What parts a first rise from a second; a title's rolls do not.
const PARTS: Words = &[
    "shap",
    "form into",
    "divid",
    "braid",
    "plait",
    "balls ",
    "boule",
    "batard",
    "roll out",
    "roll up",
    "roll into",
    "roll each",
    "formen ",
    "faconn",
    "formare",
];

/// Whether the dough is divided or shaped in it.
fn shapes(t: &Told<'_>) -> bool {
    t.says(PARTS) && !t.step.bakes() && !t.is_rise()
}

fn rises(steps: &[Told<'_>]) -> Vec<ToldRise> {
    let shaped = steps.iter().position(shapes);
    let all = steps.iter().enumerate().filter(|(_, t)| t.is_rise() && t.says(RISES));
    let rise = |(nth, (at, t)): (usize, (usize, &Told<'_>))| {
        Some(ToldRise {
            step: at,
            source_line: t.step.source_line,
            minutes: t.step.minutes?,
            cold: t.is_cold(),
            place_c: t.step.liquid_c.filter(|c| PLACE_C.contains(c)).or_else(|| t.says(WARM).then_some(WARM_PLACE_C)),
            is_first: shaped.map_or(nth == 0, |s| at < s),
        })
    };
    all.enumerate().filter_map(rise).collect()
}

/// One rise only, and rises in the cold that are too long for such a dough.
fn one_rise_and_cold(steps: &[Told<'_>], a: &Analysis<'_>, tables: &Tables) -> Vec<Here> {
    let rises = rises(steps);
    let mut found = Vec::new();
    let has_bulk = tables.ferment.styles.get(a.style.id.word()).is_some_and(|s| s.bulk_ratio.is_some());
    let raised = a.yeast_instant_pct.likely > 0.0 || a.leaven_flour_pct.likely > 0.0;
    if steps.len() >= WHOLE_METHOD
        && has_bulk
        && raised
        && let Some(only) = rises.first().filter(|r| !r.is_first)
    {
        let sentence = "One rise only: shape at once and prove until it has well risen. Quick and plainer in taste; it fits gluten-free and tin bread. A first rise before shaping brings flavour.";
        found.push((only.step, finding("no-bulk", Note, sentence.into(), vec![Remedy::meant("Meant so")])));
    }
    for r in rises.iter().filter(|r| r.cold) {
        let longest = a.longest_cold_h(!r.is_first);
        if r.minutes.low > 60.0 * longest {
            let sentence = format!("Longer than {} h cold turns such a dough sour and slack.", show(longest, 0));
            found.push((r.step, finding("retard-long", Note, sentence, vec![Remedy::meant("I look at it in between")])));
        }
    }
    found
}

/// What a whole method leaves out or lets stand too long.
pub(super) fn find(reading: &Reading, a: &Analysis<'_>, tables: &Tables, found: &mut Vec<Finding>) {
    if a.formula.lines.is_empty() {
        found.extend(only_steps(reading, tables));
        return;
    }
    let steps = told(reading);
    let seen = [by_clock(&steps), out_too_long(&steps, a), salt_on_yeast(&steps)].into_iter().flatten();
    let more = divided(reading, a, tables).into_iter().chain(one_rise_and_cold(&steps, a, tables));
    for (index, f) in seen.chain(more).chain(bake(&steps, reading, a)).chain(lid_and_knife(&steps, a)) {
        let here = found.len();
        found.push(f);
        if let Some(step) = reading.steps.get(index) {
            at_step(found, here, index, step);
        }
    }
}

/// A finding at a step.
type Here = (usize, Finding);

fn by_clock(steps: &[Told<'_>]) -> Option<Here> {
    let warmth = |t: &Told<'_>| t.step.liquid_c.is_some() || !t.step.stated.is_empty() || t.is_cold();
    let at = steps.iter().position(|t| t.says(RISES) && t.is_rise() && !t.says(SIGNS) && !warmth(t))?;
    let sentence =
        "This rise tells a time but no warmth. Look for the sign too: up by half to double, full of bubbles, a poke springs back slowly.";
    Some((at, finding("time-by-clock-only", Note, sentence.into(), vec![Remedy::meant("I have read it")])))
}

fn out_too_long(steps: &[Told<'_>], a: &Analysis<'_>) -> Option<Here> {
    if !a.has_egg_or_milk() {
        return None;
    }
    let warm = |t: &&Told<'_>| t.is_rise() && !t.is_cold();
    let minutes: f64 = steps.iter().filter(warm).filter_map(|t| t.step.minutes).map(|m| m.low).sum();
    let last = steps.iter().rposition(|t| warm(&t)).filter(|_| minutes > WARM_CAUTION_MIN)?;
    let severity = if minutes > WARM_STOP_MIN { Stop } else { Caution };
    let sentence = format!("A dough with egg or milk is out for {} h. Over 4 h, use the fridge: 5 °C or colder.", show(minutes / 60.0, 1));
    Some((last, finding("raw-egg-time", severity, sentence, vec![Remedy::meant("It rises in the cold")])))
}

fn salt_on_yeast(steps: &[Told<'_>]) -> Option<Here> {
    let wet = |t: &Told<'_>| t.says(&["yeast"]) && t.says(&["salt"]) && t.says(&["water", "milk", "liquid"]) && !t.says(&["flour"]);
    let mixed = |t: &Told<'_>| matches!(t.step.verb.as_str(), "mix" | "stir" | "dissolve" | "whisk" | "combine" | "add" | "put");
    let at = steps.iter().position(|t| wet(t) && mixed(t))?;
    let sentence = "Salt straight on yeast in the water: no harm in the minute it takes to mix, but do not let them stand.";
    Some((at, finding("salt-on-yeast", Note, sentence.into(), vec![Remedy::meant("Mixed at once")])))
}

/// A recipe that tells its amounts only in its steps: they are offered as lines, never taken by themselves.
fn only_steps(reading: &Reading, tables: &Tables) -> Option<Finding> {
    let told: Vec<_> = reading.steps.iter().flat_map(|s| mention::amounts(&s.text, &tables.pantry, &reading.choices)).collect();
    if told.len() < 2 {
        return None;
    }
    let adds = told.iter().map(|(i, g)| Change::Add { ingredient: i.id.clone().into(), grams: weighable(g.likely) }).collect();
    let take = Remedy::new(format!("Make lines of the {} amounts", told.len()), adds);
    let sentence = "There is no list of ingredients; the steps tell amounts.";
    Some(finding("flour-missing", Stop, sentence.into(), vec![take, Remedy::meant("It is no recipe")]))
}

/// Lines said to be divided, whose parts in the steps do not make the whole.
fn divided(reading: &Reading, a: &Analysis<'_>, tables: &Tables) -> Vec<Here> {
    let mut found = Vec::new();
    let said = a.formula.lines.iter().enumerate().filter(|(_, l)| l.source.as_deref().is_some_and(|s| s.contains("divided")));
    for (line, l) in said {
        let mut parts = Vec::new();
        for (i, step) in reading.steps.iter().enumerate() {
            let of_it = mention::amounts(&step.text, &tables.pantry, &reading.choices).into_iter().filter(|(x, _)| x.id == l.ingredient.id);
            parts.extend(of_it.map(|(_, g)| (i, g.likely)));
        }
        let sum: f64 = parts.iter().map(|p| p.1).sum();
        if parts.len() < 2 || (sum / l.grams.likely - 1.0).abs() <= 0.03 {
            continue;
        }
        let grams = l.grams.times(sum / l.grams.likely);
        let (list, steps) = (show_grams(l.grams.likely), show_grams(sum));
        let use_steps = Remedy::answering(format!("Use {steps} g"), vec![Change::Grams { line, grams, interval: !l.grams.is_exact() }]);
        let sentence = format!("The list says {list} g, the steps use {steps} g.");
        let mut f = finding("divided-mismatch", Caution, sentence, vec![use_steps, Remedy::meant(format!("Use {list} g"))]);
        f.line = Some(line);
        found.extend(parts.first().map(|(i, _)| (*i, f)));
    }
    found
}

/// A lid closed when the dough is at the rim; a loaf cut hot.
fn lid_and_knife(steps: &[Told<'_>], a: &Analysis<'_>) -> Vec<Here> {
    let mut found = Vec::new();
    let closed = a.formula.pieces.as_ref().is_some_and(|p| p.lid);
    let rim =
        |t: &Told<'_>| t.says(&["to the rim", "reaches the rim", "at the rim", "level with the", "to the top", "reaches the top", "brim"]);
    if let Some(at) =
        steps.iter().position(|t| t.says(&["lid ", "lids ", "cover "]) && rim(t) && (closed || t.says(&["tin ", "pan ", "slide"])))
    {
        let sentence = "Close the lid at 80–85 %, a good finger below the rim. Beyond that the dough presses out.";
        found.push((at, finding("lid-late", Caution, sentence.into(), vec![Remedy::meant("Mine has room")])));
    }
    let hot = |t: &Told<'_>| {
        t.says(&["slice", "cut ", "serve", "eat "])
            && t.says(&["while hot", "still hot", "hot from the oven", "straight from the oven", "while warm", "still warm", "immediately"])
    };
    let is_big = a.piece_g() >= CUT_COLD_G;
    if let Some(at) = steps.iter().rposition(hot).filter(|_| is_big && !matches!(a.style.id, StyleId::Flat)) {
        let sentence = "Still steaming inside a loaf is gummy under the knife. Let it cool for an hour or two; the plan tells when.";
        found.push((at, finding("slice-early", Note, sentence.into(), vec![Remedy::meant("We like it so")])));
    }
    found
}

/// What the bake wants and nothing in the method gives.
fn bake(steps: &[Told<'_>], reading: &Reading, a: &Analysis<'_>) -> Vec<Here> {
    let Some((at, step)) = baking_step(&reading.steps) else { return Vec::new() };
    let mut found = Vec::new();
    let mut add = |id, severity, sentence: String, remedies| found.push((at, finding(id, severity, sentence, remedies)));
    let whole = steps.len() >= WHOLE_METHOD;
    if whole && !steps.iter().any(|t| t.says(HEATS)) {
        let sentence = "No word of heating the oven. Light it 20 to 30 min before the bread goes in, 45 with a stone or pot.";
        add("preheat-missing", Caution, sentence.into(), vec![Remedy::meant("I light it in time")]);
    }
    let crisp = matches!(a.style.id, StyleId::Lean | StyleId::LongNoKnead | StyleId::SourdoughLean | StyleId::Rye);
    if whole && crisp && a.flour_g.likely > 0.0 && !steps.iter().any(|t| t.is_at_the_oven() && t.says(STEAMS)) {
        let sentence = "No steam and no lid: the skin sets early and tears. A tray of boiling water on the oven floor helps; stand aside from the steam.";
        add("steam-missing", Note, sentence.into(), vec![Remedy::meant("Meant so")]);
    }
    let pieces = a.formula.pieces.as_ref();
    if whole && pieces.is_some_and(|p| p.count > 1) && !steps.iter().any(|t| t.says(SHAPES) && !t.step.bakes()) {
        let sentence = "Pieces are told, but no shaping. Divide, shape, and let them rise once more.";
        add("step-shape-missing", Note, sentence.into(), vec![Remedy::meant("Left out on purpose")]);
    }
    let piece_g = pieces.map_or(0.0, |_| a.piece_g());
    let set_c = step.oven_c.or(a.formula.oven.and_then(|o| o.set_c)).unwrap_or(0.0);
    if piece_g >= BIG_PIECE_G && a.sugar_pct.likely >= SWEET_PCT && set_c >= HOT_C {
        let cooler = to_nearest(set_c - 25.0, 5.0);
        let cool = Remedy::answering(format!("Set {} °C, longer", show(cooler, 0)), vec![Change::Oven { set_c: cooler }]);
        let sentence = format!("A big sweet loaf at {} °C goes black before it is done.", show(set_c, 0));
        add("crust-ahead-of-core", Caution, sentence, vec![cool, Remedy::meant("Keep it")]);
    }
    found
}
