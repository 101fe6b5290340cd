use askama::Template;
use cerealis_core::{
    Tables,
    findings::{Finding, Severity},
    formula::{Amount, Analysis, Dilution, Formula, FormulaDraft, Line, LineDraft, Spoons, Stage, Used, WEAVES, dilution, spoons},
    input::{InputErrors, Pointer},
    kitchen::Kitchen,
    measure::{Units, degrees, show, show_percent, spread, weight},
    pantry::{Family, Ingredient, Pantry},
    reader::Reading,
    swap::Swap,
};

use cerealis_exchange::Format;
use cerealis_store::Unreadable;

use super::{
    amount::{AmountView, Told},
    figures::{facts, percentages, water_words},
    form::{Sheet, ToldForm},
    lower::{HoldTold, OvenTold, PiecesTold, StandsTold, Typed, WordsTold},
    reading::ReadingView,
};
use crate::{
    State,
    draw::Percentages,
    screens::{Choosing, Chrome, FindingView, kneading::kneaded, shapes},
};

/// The empty sheet.
#[derive(Template)]
#[template(path = "formula/first.html")]
pub struct FirstPage {
    chrome: Chrome,
    text: String,
    errors: Vec<String>,
    kept: Choosing,
    unreadable: Vec<Unreadable>,
    q: String,
    away: bool,
    before: Option<i64>,
    after: Option<i64>,
}

impl FirstPage {
    /// The same page for those found by a word, or put away; on the page of this number.
    pub fn seeking(self, q: String, away: bool, number: i64, unreadable: Vec<Unreadable>) -> Self {
        let before = (number > 1).then_some(number - 1);
        let after = (self.kept.more > 0).then_some(number + 1);
        Self { q, away, unreadable, before, after, kept: Choosing { more: 0, ..self.kept }, ..self }
    }

    pub fn new(chrome: Chrome, text: String, errors: Vec<String>, kept: Choosing) -> Self {
        Self { chrome, text, errors, kept, unreadable: Vec::new(), q: String::new(), away: false, before: None, after: None }
    }
}

/// A question at a line.
pub struct QuestionView {
    pub ask: &'static str,
    pub answers: Vec<(String, String)>,
}

/// One line of the sheet.
pub struct LineRow {
    pub index: usize,
    pub source: String,
    pub ingredient: String,
    pub grams: String,
    pub exact: String,
    pub low: String,
    pub high: String,
    pub hydration: String,
    pub spread: Option<String>,
    pub percent: Option<String>,
    pub spoons: String,
    /// How yeast too little for the scale is weighed.
    pub dilution: String,
    pub stage: String,
    pub stages: Vec<(&'static str, bool)>,
    pub ingredient_errors: Vec<String>,
    pub grams_errors: Vec<String>,
    pub findings: Vec<FindingView>,
    pub questions: Vec<QuestionView>,
    pub first: bool,
    pub last: bool,
}

/// What else would do for a line.
pub struct SwapsView {
    pub name: String,
    pub grams: String,
    pub options: Vec<SwapView>,
}

/// One of them.
pub struct SwapView {
    pub what: String,
    pub with: String,
    pub words: String,
    pub source: String,
    pub value: String,
}

impl SwapsView {
    fn new(at: usize, formula: &Formula, state: &State) -> Option<Self> {
        let line = formula.lines.get(at)?;
        let name = |i: &Ingredient| i.short_name().to_lowercase();
        let option = |s: Swap| SwapView {
            what: if s.stays_g > 0.0 {
                format!("{} {}, {} stay", weight(s.grams), name(&s.ingredient), weight(s.stays_g))
            } else {
                format!("{} {}", weight(s.grams), name(&s.ingredient))
            },
            with: s
                .with
                .iter()
                .map(|(i, g)| format!("{} {} {}", weight(g.abs()), name(i), if *g > 0.0 { "more" } else { "less" }))
                .collect::<Vec<_>>()
                .join(", "),
            words: s.words,
            source: s.source,
            value: format!("swap:{at}:{}", s.id),
        };
        let options = state.tables().swaps.of(formula, at, &state.tables()).into_iter().map(option).collect();
        Some(Self { name: name(&line.ingredient), grams: weight(line.grams.likely).to_string(), options })
    }
}

/// What belongs to no line: the findings of a step, or of something that is not there.
pub struct LooseRow {
    pub source: String,
    pub missing: bool,
    pub findings: Vec<FindingView>,
}

impl LooseRow {
    /// A sentence is shown once, with all that is said of it.
    fn grouped(rows: impl Iterator<Item = Self>) -> Vec<Self> {
        let mut all: Vec<Self> = Vec::new();
        for row in rows {
            match all.iter_mut().find(|r| r.source == row.source && r.missing == row.missing) {
                Some(same) => same.findings.extend(row.findings),
                None => all.push(row),
            }
        }
        all
    }
}

/// The sheet with its figures.
#[derive(Template)]
#[template(path = "formula/page.html")]
pub struct SheetPage {
    chrome: Chrome,
    id: String,
    name: String,
    text: String,
    cup: String,
    flour_measure: String,
    cup_words: &'static str,
    accepted: Vec<String>,
    /// The style the baker wants it taken for.
    own_style: String,
    yeast_kind: String,
    gluten_free: bool,
    rows: Vec<LineRow>,
    loose: Vec<LooseRow>,
    errors: Vec<String>,
    names: Vec<(String, String)>,
    dough: Option<String>,
    flour: Option<String>,
    style: Option<String>,
    stops: usize,
    cautions: usize,
    /// Questions that are open; the dough works without their answers.
    asks: usize,
    /// Stops, and words that are not read: what stands before a plan.
    to_answer: usize,
    percentages: Option<Percentages>,
    water: Vec<(String, String, String)>,
    water_sum: String,
    water_words: String,
    facts: Vec<(&'static str, String, &'static str)>,
    steps: Vec<(String, String)>,
    shapes: Vec<(&'static str, &'static str)>,
    weaves: [(u32, &'static str); 4],
    pieces: PiecesTold,
    hold: HoldTold,
    /// How it is kneaded.
    kneaded: Option<String>,
    told_oven: OvenTold,
    stands: StandsTold,
    amount: AmountView,
    visit: String,
    targets: String,
    focus: String,
    formats: Vec<(&'static str, &'static str)>,
    words: WordsTold,
    /// The text as it was read.
    reading: Option<ReadingView>,
    /// Why percentages are not known yet; empty where they are.
    waits: String,
    /// Steps and phases, as JSON.
    told: String,
    swappable: Vec<(usize, String, bool)>,
    swaps: Option<SwapsView>,
}

pub fn plain(value: f64) -> String {
    let text = format!("{value:.2}");
    text.trim_end_matches('0').trim_end_matches('.').to_owned()
}

/// A weight in a field: as a scale shows it, without the thin spaces of print.
pub fn in_field(grams: f64, units: &Units) -> String {
    weight(grams).field().said(units).replace('\u{2009}', "")
}

/// All that a sheet is shown from.
#[derive(Clone, Copy)]
pub struct Seen<'a> {
    pub sheet: &'a Sheet,
    /// The formula, or what is wrong with it.
    pub checked: Result<&'a Formula, &'a InputErrors>,
    pub found: &'a [Finding],
    pub reading: Option<&'a Reading>,
    /// What was typed and could not be read, with its sentence.
    pub wrong: &'a [(Pointer, String)],
    /// What the sentence of the amount makes of it.
    pub amount: Option<&'a Amount>,
    pub state: &'a State,
}

impl Seen<'_> {
    /// One line of the sheet; its percentage only where percentages are known.
    fn line(&self, (i, d): (usize, &LineDraft), analysis: Option<&Analysis<'_>>, with: Spoons, pantry: &Pantry) -> LineRow {
        let kitchen = &self.sheet.kitchen;
        let (here, last) = (Pointer::root().at("lines").at(i), self.sheet.draft.lines.len().saturating_sub(1));
        let errors = |name: &str| self.checked.err().map_or_else(Vec::new, |e| e.at(&here.at(name)));
        let formula = self.checked.ok();
        let line = formula.and_then(|f| f.lines.get(i));
        let band = line.map(|l| l.grams);
        let wide = band.filter(|b| !b.is_exact());
        let stage = line.map_or_else(|| d.stage.clone().unwrap_or_default(), |l| l.stage.word().to_owned());
        LineRow {
            index: i,
            source: d.source.clone().unwrap_or_default(),
            ingredient: line.map_or_else(|| d.ingredient.clone(), |l| short_name(&l.ingredient, pantry)),
            grams: band.map_or_else(|| d.grams.text(), |b| in_field(b.likely, &kitchen.units)),
            exact: band.map_or_else(String::new, |b| b.likely.to_string()),
            low: wide.map_or_else(String::new, |b| b.low.to_string()),
            high: wide.map_or_else(String::new, |b| b.high.to_string()),
            hydration: d.hydration_pct.map(plain).unwrap_or_default(),
            spread: band.and_then(spread).map(|g| weight(g).bare().to_string()),
            percent: analysis.and_then(|a| a.line_pct.get(i).copied().flatten()).map(show_percent),
            spoons: line.and_then(|l| spoons(&l.ingredient, l.grams.likely, with)).unwrap_or_default(),
            dilution: line
                .filter(|l| l.ingredient.family == Family::Yeast)
                .and_then(|l| dilution(l.grams.likely, kitchen.scale_step_g))
                .zip(formula.and_then(main_liquid))
                .filter(|(d, liquid)| d.water_g < liquid.grams.likely)
                .map_or_else(String::new, |(d, liquid)| dilution_words(&d, &liquid.ingredient, kitchen.scale_step_g)),
            stages: {
                let used = d.used.as_deref();
                let stages = Stage::ALL.iter().map(|s| (s.word(), s.word() == stage && used.is_none()));
                stages.chain(Used::ALL.iter().map(|u| (u.word(), used == Some(u.word())))).collect()
            },
            stage,
            ingredient_errors: errors("ingredient"),
            grams_errors: ["grams", "grams_low", "grams_high"].map(errors).concat(),
            findings: self.found.iter().filter(|f| f.line == Some(i)).map(FindingView::new).collect(),
            questions: line.map_or_else(Vec::new, |l| questions(i, l, formula, self.reading)),
            first: i == 0 || i > last,
            last: i >= last,
        }
    }

    /// What belongs to no line.
    fn loose(&self) -> Vec<LooseRow> {
        let reading = self.reading;
        let loose = self.found.iter().filter(|f| f.line.is_none()).map(|f| {
            let step = f.step.and_then(|s| reading.and_then(|r| r.steps.get(s))).map(|s| s.text.clone());
            let unread = f
                .source_line
                .filter(|_| f.step.is_none())
                .and_then(|l| reading.and_then(|r| r.unread.iter().find(|u| u.source_line == l)))
                .map(|u| u.source.clone());
            let source = step.or(unread);
            LooseRow {
                missing: source.is_none() && f.severity != Severity::Note,
                source: source.unwrap_or_else(|| if f.id.ends_with("-missing") { "not written".into() } else { "the whole dough".into() }),
                findings: vec![FindingView::new(f)],
            }
        });
        let unweighed = reading.map_or(&[][..], |r| &r.lines).iter().filter(|l| l.grams.is_none()).map(|l| LooseRow {
            source: l.source.clone(),
            missing: false,
            findings: vec![FindingView::unweighed(&l.ingredient.name)],
        });
        LooseRow::grouped(loose.chain(unweighed))
    }

    /// What is wrong and has no field of its own.
    fn page_errors(&self) -> Vec<String> {
        let placed = ["/lines/", "/scale", "/pieces", "/further/", "/hold", "/oven", "/note", "/tags", "/variant"];
        let all = self.checked.err().map_or(&[][..], |e| &e.0);
        all.iter().filter(|e| !placed.iter().any(|p| e.pointer.as_str().starts_with(p))).map(|e| e.message.clone()).collect()
    }

    /// Lines that something else would do for: index, name, whether it is asked for.
    fn swappable(&self, t: &Tables) -> Vec<(usize, String, bool)> {
        let lines = self.checked.map_or(&[][..], |f| &f.lines).iter().enumerate();
        let knows = |l: &Line| t.swaps.knows(&l.ingredient.kind);
        lines.filter(|(_, l)| knows(l)).map(|(i, l)| (i, short_name(&l.ingredient, &t.pantry), self.sheet.instead == Some(i))).collect()
    }
}

/// The parts of the page that are fetched anew with each letter typed.
fn targets(lines: usize, draft: &FormulaDraft) -> String {
    let parts = [
        "weights",
        "loose",
        "percentages",
        "workings",
        "deeds",
        "amount-wrong",
        "becomes",
        "kneaded",
        "wrong-pieces",
        "wrong-hold",
        "wrong-oven",
        "tin",
        "wrong-note",
    ];
    let of_lines = (0..lines).map(|i| format!("pct-{i} spoon-{i} spread-{i} found-{i}"));
    let stages = draft.oven.as_ref().and_then(|o| o.stages.as_ref()).map_or(0, Vec::len);
    let rows = |name: &'static str, count: usize| (0..count).map(move |i| format!("wrong-{name}-{i}"));
    let of_rows = rows("further", draft.further.len()).chain(rows("stage", stages));
    of_lines.chain(of_rows).chain(parts.map(String::from)).collect::<Vec<_>>().join(" ")
}

/// Whether each remedy is the one the focus goes to.
fn focus_remedies(rows: &mut [LineRow], loose: &mut [LooseRow], focus: &str) {
    let all = rows.iter_mut().flat_map(|r| &mut r.findings).chain(loose.iter_mut().flat_map(|l| &mut l.findings));
    for remedy in all.flat_map(|f| &mut f.remedies) {
        remedy.focused = remedy.value == focus;
    }
}

fn cup_words(cup: &str) -> &'static str {
    match cup {
        "metric" => "metric, 250 ml",
        "imperial" => "imperial, 284 ml",
        "own" => "your own",
        _ => "US, 237 ml",
    }
}

impl SheetPage {
    pub fn new(chrome: Chrome, seen: Seen<'_>, focus: Option<String>) -> Self {
        let Seen { sheet, checked, found, reading, wrong, amount, state } = seen;
        let t = &state.tables();
        let Sheet { draft, choices, id, scale, blank, unread, instead, kitchen, visit, .. } = sheet;
        let none = InputErrors(Vec::new());
        let formula = checked.ok();
        let analysis = formula.map(|f| f.analyse(&t.pantry, &t.styles));
        let waits = reading.filter(|r| r.is_half()).map_or_else(String::new, waits_for);
        // Without flour, or while a word waits to be read, no percentage says anything.
        let known = analysis.as_ref().filter(|a| a.flour_g.likely > 0.0 && waits.is_empty());
        let with = Spoons::of(kitchen, &t.pantry);
        let blank_line = LineDraft::blank();
        let drafts = draft.lines.iter().chain(std::iter::repeat_n(&blank_line, *blank)).enumerate();
        let mut rows: Vec<LineRow> = drafts.map(|draft| seen.line(draft, known, with, &t.pantry)).collect();
        let mut loose = seen.loose();
        let text = draft.text.as_deref().unwrap_or_default();
        let read = reading.map(|r| ReadingView::new(text, r, formula.map_or(&[][..], |f| &f.lines), &t.pantry));
        let focus = where_focus_goes(focus.as_deref().unwrap_or_default(), &rows, &loose, read.as_ref());
        focus_remedies(&mut rows, &mut loose, &focus);
        let count = |severity: Severity| found.iter().filter(|f| f.severity == severity).count();
        let typed = Typed { draft, unread, wrong, errors: checked.err().unwrap_or(&none), units: &kitchen.units };
        let on = |pick: &dyn Fn(&Analysis<'_>) -> f64| analysis.as_ref().map(pick);
        let water = |a: &Analysis<'_>| {
            let line = |(name, share, grams)| (name, format!("{} %", show(100.0 * share, 0)), weight(grams).to_string());
            a.water_by_line().into_iter().map(line).collect()
        };
        Self {
            chrome,
            id: id.clone(),
            name: draft.name.clone().unwrap_or_default(),
            text: text.to_owned(),
            cup: choices.cup.clone(),
            flour_measure: choices.flour_measure.clone(),
            cup_words: cup_words(&choices.cup),
            accepted: draft.accepted.clone(),
            own_style: draft.style.clone().unwrap_or_default(),
            yeast_kind: draft.yeast_kind.clone().unwrap_or_default(),
            gluten_free: draft.gluten_free,
            errors: seen.page_errors(),
            names: t.pantry.offered().map(|i| (i.name.clone(), i.id.clone())).collect(),
            dough: on(&|a| a.dough_g.likely).map(|g| weight(g).to_string()),
            flour: on(&|a| a.flour_g.likely).filter(|f| *f > 0.0).map(|g| weight(g).to_string()),
            style: known.map(|a| a.style.name.clone()),
            stops: count(Severity::Stop),
            cautions: count(Severity::Caution),
            asks: rows.iter().map(|r| r.questions.len()).sum(),
            to_answer: count(Severity::Stop) + if waits.is_empty() { 0 } else { read.as_ref().map_or(0, |r| r.doubts.len()) },
            percentages: known.map(percentages),
            water_sum: on(&|a| a.grams_at(a.effective_hydration_pct.likely)).map(|g| weight(g).to_string()).unwrap_or_default(),
            water_words: known.map_or_else(String::new, |a| water_words(a.effective_hydration_pct)),
            water: analysis.as_ref().map_or_else(Vec::new, water),
            facts: known.map_or_else(Vec::new, facts),
            steps: reading.map_or_else(Vec::new, |r| r.steps.iter().map(|s| (s.text.clone(), step_words(s))).collect()),
            shapes: shapes().to_vec(),
            weaves: WEAVES,
            pieces: PiecesTold::new(&typed),
            hold: HoldTold::new(&typed, formula, &t.pantry),
            kneaded: known.and_then(|a| kneaded(a, kitchen, t)),
            told_oven: OvenTold::new(&typed),
            stands: StandsTold::new(&typed, analysis.as_ref(), &t.pantry),
            amount: AmountView::new(Told {
                scale,
                draft,
                now: analysis.as_ref(),
                amount,
                errors: typed.wrong("/scale"),
                kitchen,
                tables: t,
                steps: state.visits.ways(*visit),
            }),
            visit: visit.to_string(),
            words: WordsTold::new(&typed),
            targets: targets(rows.len(), draft),
            swappable: seen.swappable(t),
            swaps: formula.and_then(|f| SwapsView::new((*instead)?, f, state)),
            formats: Format::ALL.map(|f| (f.extension(), f.words())).to_vec(),
            focus,
            reading: read,
            waits,
            told: told_form(draft),
            rows,
            loose,
        }
    }
}

/// Why no percentage is told yet.
fn waits_for(r: &Reading) -> String {
    let word = r.unread.iter().find(|u| !u.words.is_empty()).or_else(|| r.unread.first());
    word.map_or_else(String::new, |u| {
        let words = if u.words.is_empty() { &u.source } else { &u.words };
        format!("not yet known: “{words}” is not read")
    })
}

/// What passes through the form unchanged.
fn told_form(draft: &FormulaDraft) -> String {
    let oven = draft.oven.clone().unwrap_or_default();
    let told = ToldForm { steps: draft.steps.clone(), fan: oven.fan, ours: oven.ours, kneading: draft.kneading.clone() };
    serde_json::to_string(&told).unwrap_or_default()
}

/// After an answer the focus goes to the next one nearest to it: at the same line, below it, else to the line itself.
fn where_focus_goes(focus: &str, rows: &[LineRow], loose: &[LooseRow], read: Option<&ReadingView>) -> String {
    let Some(rest) = focus.strip_prefix("after:") else { return focus.to_owned() };
    let of_row = |r: &LineRow| {
        let remedy = r.findings.iter().flat_map(|f| &f.remedies).map(|x| x.value.clone()).next();
        remedy.or_else(|| r.questions.iter().flat_map(|q| &q.answers).map(|a| a.1.clone()).next())
    };
    let of_loose = || loose.iter().flat_map(|l| &l.findings).flat_map(|f| &f.remedies).map(|x| x.value.clone()).next();
    let of_doubt = || read.and_then(|r| r.doubts.first()).map(|d| d.answers.first().map_or_else(|| d.leave.clone(), |a| a.1.clone()));
    let cell = |i: usize| format!("lines[{i}][grams]");
    match rest.split_once(':').map_or((rest, ""), |(a, b)| (a, b)) {
        ("doubt", line) => of_doubt().or_else(|| line.parse().ok().map(cell)).or_else(of_loose).unwrap_or_else(|| "add".into()),
        ("loose", _) => of_loose().unwrap_or_else(|| "add".into()),
        (line, _) => {
            let at: usize = line.parse().unwrap_or(0);
            rows.iter().skip(at).find_map(of_row).filter(|_| !rows.is_empty()).unwrap_or_else(|| cell(at))
        }
    }
}

/// The liquid of the dough that weighs most.
fn main_liquid(f: &Formula) -> Option<&Line> {
    let liquids =
        f.lines.iter().filter(|l| l.in_dough() && l.ingredient.pours() && matches!(l.ingredient.family, Family::Liquid | Family::Dairy));
    liquids.max_by(|a, b| a.grams.likely.total_cmp(&b.grams.likely))
}

fn dilution_words(d: &Dilution, liquid: &Ingredient, step_g: f64) -> String {
    let liquid = liquid.short_name().to_lowercase();
    format!(
        "On a scale of {} steps: stir {} into {} of the {liquid}, use {} of that, and take {} less {liquid}.",
        weight(step_g),
        weight(d.yeast_g),
        weight(d.water_g),
        weight(d.take_g),
        weight(d.less_water_g)
    )
}

/// How many whole eggs come nearest to what the formula holds.
pub fn whole_eggs(f: &Formula, kitchen: &Kitchen, pantry: &Pantry) -> Option<f64> {
    let grams: f64 = f.lines.iter().filter(|l| l.ingredient.kind == "egg-whole").map(|l| l.grams.likely).sum();
    (grams > 0.0).then(|| (grams / kitchen.egg_g(pantry)).round().max(1.0))
}

/// The name without its bracket, where that still finds the same ingredient.
pub fn short_name(i: &cerealis_core::pantry::Ingredient, pantry: &cerealis_core::pantry::Pantry) -> String {
    let short = i.short_name();
    if pantry.find(short).is_ok_and(|found| found.id == i.id) { short.to_owned() } else { i.name.clone() }
}

fn questions(index: usize, line: &cerealis_core::formula::Line, formula: Option<&Formula>, reading: Option<&Reading>) -> Vec<QuestionView> {
    let (Some(source), Some(f), Some(r)) = (line.source.as_deref(), formula, reading) else { return Vec::new() };
    let Some(read) = r.lines.iter().find(|l| l.source == source && l.ingredient.id == line.ingredient.id) else { return Vec::new() };
    // Two of them stand there as findings already.
    let asked =
        read.questions.iter().filter(|q| !q.answers.is_empty() && !matches!(q.id, "salt-kind" | "flour-measure" | "leaven-hydration"));
    let open = asked.filter(|q| !f.accepted.iter().any(|a| *a == format!("ask:{}:{source}", q.id)));
    open.map(|q| QuestionView {
        ask: q.ask,
        answers: q.answers.iter().map(|a| (a.label.clone(), format!("ask:{index}:{}:{}", q.id, a.answer))).collect(),
    })
    .collect()
}

fn step_words(s: &cerealis_core::reader::Step) -> String {
    let mut words = Vec::new();
    if let Some(c) = s.oven_c {
        words.push(degrees(c).to(0).to_string());
    }
    if let Some(m) = s.minutes {
        words.push(if m.is_exact() {
            format!("{} min", show(m.likely, 0))
        } else {
            format!("{}–{} min", show(m.low, 0), show(m.high, 0))
        });
    }
    if let Some(n) = s.pieces {
        words.push(if n == 1 { "one piece".to_owned() } else { format!("{n} pieces") });
    }
    if let Some(g) = s.piece_g {
        words.push(format!("{} each", weight(g)));
    }
    words.join(", ")
}
