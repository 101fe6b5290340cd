//! Reading a recipe as people write it: each line of the text ends as an ingredient line, a step,
//! a heading, a remark or an unread line; nothing is lost and nothing is guessed in silence.
//!
//! A recipe has no syntax errors: what is not understood is a result. Only text that is too long is
//! refused.

mod amount;
mod ask;
mod findings;
mod line;
mod mention;
mod normal;
mod questions;
mod section;
mod steps;
mod tokens;
mod weigh;

pub use findings::{RULES, ToldRise, of_lines, of_steps};
pub use line::ReadLine;
pub use questions::{Answer, Question};
pub use steps::{Stated, Step, StepKind, read_steps};

use section::{Section, heading, inline, is_title};
use serde::{Deserialize, Serialize};

use crate::{
    Tables,
    findings::Finding,
    formula::{Formula, Line, OvenTold, Pieces, Stage},
    input::{Errors, InputErrors, Pointer},
    kitchen::Kitchen,
    measure::Band,
    pantry::{Family, Pantry, fold},
};

/// Longest text that is read, bytes.
pub const MOST_BYTES: usize = 64 * 1024;
/// Most lines that are read.
pub const MOST_LINES: usize = 400;
/// A line longer than this is left unread, characters.
const LONGEST_LINE: usize = 1000;

/// How the household measures.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct Choices {
    /// `us`, `metric`, `imperial`, or `own` where the household has told its own.
    pub cup: String,
    /// `spooned`, `scooped`, `sifted`.
    pub flour_measure: String,
    /// BCP 47.
    pub locale: String,
    /// Key of the egg the household buys, `uk-eu-m`; none: by the locale.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub egg: Option<String>,
    /// Grams of the dry yeast's packet the household buys; none: by the locale.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub packet_g: Option<f64>,
}

impl From<&Kitchen> for Choices {
    fn from(k: &Kitchen) -> Self {
        Self {
            cup: k.cup.clone(),
            flour_measure: k.flour_measure.clone(),
            locale: k.locale.clone(),
            egg: k.egg.clone(),
            packet_g: k.packet_g,
        }
    }
}

impl Default for Choices {
    fn default() -> Self {
        Self { cup: "us".into(), flour_measure: "spooned".into(), locale: "en-US".into(), egg: None, packet_g: None }
    }
}

impl Choices {
    /// Whether eggs, sachets and spoons are the American ones.
    #[must_use]
    pub fn is_american(&self) -> bool {
        self.locale.ends_with("-US") || self.locale == "en"
    }
    /// Whether pints are the British ones.
    #[must_use]
    pub fn is_british(&self) -> bool {
        self.locale.ends_with("-GB") || self.locale.ends_with("-IE") || self.cup == "imperial"
    }
    /// Checks the words.
    ///
    /// # Errors
    /// Each one that is not known.
    pub fn check(&self, pantry: &Pantry) -> Result<(), InputErrors> {
        let root = Pointer::root();
        let mut errors = Errors::default();
        let own = self.cup == "own" && pantry.measures.by_id("cup-own").is_some();
        if !own && !["us", "metric", "imperial"].contains(&self.cup.as_str()) {
            errors.add(root.at("cup"), format!("“{}” is no kind of cup: us, metric, imperial.", self.cup));
        }
        if !["spooned", "scooped", "sifted"].contains(&self.flour_measure.as_str()) {
            errors.add(root.at("flour_measure"), format!("“{}” is no way of filling a cup: spooned, scooped, sifted.", self.flour_measure));
        }
        if self.locale.len() > 35 || !self.locale.chars().all(|c| c.is_ascii_alphanumeric() || c == '-') || self.locale.is_empty() {
            errors.add(root.at("locale"), "A locale is written like en-US or de-DE.");
        }
        errors.finish(())
    }
}

/// An answer to a question of an earlier reading.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Answered {
    /// Line of the text.
    pub source_line: usize,
    /// Question.
    pub id: String,
    /// Answer.
    pub answer: String,
}

/// A line that could not be read.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
pub struct Unread {
    /// As written.
    pub source: String,
    /// Line of the text.
    pub source_line: usize,
}

/// A recipe, read.
#[derive(Debug, Clone)]
pub struct Reading {
    /// What can be worked with.
    pub formula: Formula,
    /// One for each ingredient read.
    pub lines: Vec<ReadLine>,
    /// What was not understood.
    pub unread: Vec<Unread>,
    /// What is to be done.
    pub steps: Vec<Step>,
    /// Headings and remarks, with their line.
    pub remarks: Vec<(usize, String)>,
    /// How the household measured when it was read.
    pub choices: Choices,
}

impl Reading {
    /// What to say of a recipe that is all in percent: nothing can be worked out before one weight is told.
    #[must_use]
    pub fn lacks_a_weight(&self) -> Option<&'static str> {
        (self.formula.lines.is_empty() && self.lines.iter().any(|l| l.percent.is_some()))
            .then_some("This recipe is all in percent. Write the weight of one flour, for example 500 g flour, and read it again.")
    }
    /// Findings of formula, lines and steps together.
    #[must_use]
    pub fn findings(&self, tables: &Tables) -> Vec<Finding> {
        let analysis = self.formula.analyse(&tables.pantry, &tables.styles);
        let mut all = crate::formula::find(&analysis, tables);
        let source: Vec<usize> = self.lines.iter().filter(|l| l.grams.is_some()).map(|l| l.source_line).collect();
        for f in &mut all {
            f.source_line = f.line.and_then(|i| source.get(i).copied());
        }
        all.extend(of_lines(&self.lines, &self.unread));
        all.extend(of_steps(self, &analysis, tables));
        all
    }
}

/// Reads a recipe.
///
/// Text up to 64 KiB and 400 lines; linear in its length. Same text, same answer.
///
/// # Errors
/// Text that is too long, or choices that are not known.
pub fn read(text: &str, choices: &Choices, answers: &[Answered], tables: &Tables) -> Result<Reading, InputErrors> {
    let here = Pointer::root().at("text");
    choices.check(&tables.pantry)?;
    if text.len() > MOST_BYTES {
        return Err(InputErrors::one(here, "That is too long: a recipe has 64 KiB at most. Paste one recipe at a time."));
    }
    let source_lines: Vec<&str> = text.lines().collect();
    if source_lines.len() > MOST_LINES {
        return Err(InputErrors::one(
            here,
            format!("That is too long: a recipe has {MOST_LINES} lines at most; these are {}.", source_lines.len()),
        ));
    }
    let mut reading = Reading {
        formula: Formula::default(),
        lines: Vec::new(),
        unread: Vec::new(),
        steps: Vec::new(),
        remarks: Vec::new(),
        choices: choices.clone(),
    };
    let mut section = Section::Ingredients(None);
    let (mut title, mut begun) = (None, false);
    for (number, source) in source_lines.iter().enumerate() {
        if source.chars().count() > LONGEST_LINE {
            reading.unread.push(Unread { source: (*source).to_owned(), source_line: number });
            continue;
        }
        let plain = normal::plain(source);
        let bare = normal::without_bullet(&plain);
        if bare.is_empty() {
            continue;
        }
        let first = !std::mem::replace(&mut begun, true);
        if first && heading(bare).is_none() && is_title(bare) && source_lines.iter().skip(number + 1).any(|l| !l.trim().is_empty()) {
            reading.steps.extend(read_steps(bare, number).into_iter().filter(|s| s.pieces.is_some()));
            title = Some(as_title(source));
            reading.remarks.push((number, bare.to_owned()));
            continue;
        }
        if let Some((next, words)) = heading(bare) {
            // Under its own heading a leaven is built; named again below, the whole of it goes in.
            let again = next == Section::Ingredients(Some(Stage::Leaven)) && reading.lines.iter().any(|l| l.stage == Stage::Leaven);
            if !again {
                section = next;
            }
            if first && next == Section::Ingredients(None) {
                title = Some(as_title(source));
            }
            reading.remarks.push((number, words));
            continue;
        }
        if let Some((part, words, list)) = inline(bare) {
            reading.remarks.push((number, words.to_owned()));
            read_line(source.trim(), list, number, part, choices, tables, &mut reading);
            continue;
        }
        read_line(source.trim(), bare, number, section, choices, tables, &mut reading);
    }
    built_once(&mut reading, &tables.pantry);
    ask::of_recipe(&mut reading.lines, choices);
    apply_answers(&mut reading, answers, tables)?;
    finish(&mut reading, text, title);
    Ok(reading)
}

fn read_line(source: &str, bare: &str, number: usize, section: Section, choices: &Choices, tables: &Tables, reading: &mut Reading) {
    let Section::Ingredients(stage) = section else {
        reading.steps.extend(read_steps(bare, number));
        return;
    };
    let bare = spoken_list(bare, reading.lines.is_empty());
    let amount_first = amount::starts_with_amount(bare);
    let spoken = amount_first && bare.split(' ').count() > 14;
    if !spoken && steps::is_step(bare) && (!amount_first || bare_is_pieces(bare)) {
        reading.steps.extend(read_steps(bare, number));
        return;
    }
    // What is told in one breath: the list first, then what to do with it.
    let told = if bare.len() > 60 { steps::sentences(bare) } else { Vec::new() };
    if told.len() > 1 && told.iter().skip(1).any(|s| steps::is_step(s)) {
        for sentence in told {
            read_line(sentence, sentence.trim_end_matches('.'), number, section, choices, tables, reading);
        }
        return;
    }
    if bare.get(..6).is_some_and(|w| w.eq_ignore_ascii_case("total ")) {
        reading.remarks.push((number, bare.to_owned()));
        return;
    }
    for part in parts(bare, &tables.pantry) {
        let source = if part.len() == bare.len() { source } else { part };
        let before = reading.lines.last().filter(|l| l.source_line == number).map(|l| l.ingredient.clone());
        match (line::Written { source, source_line: number, section: stage, pantry: &tables.pantry, choices, before: before.as_ref() })
            .read(part)
        {
            line::Outcome::Lines(lines) => reading.lines.extend(lines),
            line::Outcome::Unread => {
                // `1 tbsp oil, plus a little extra for oiling`
                let extra = fold(part);
                if part.len() < bare.len() && ["a little", "extra", "some more"].iter().any(|w| extra.starts_with(w)) {
                    reading.remarks.push((number, part.to_owned()));
                    continue;
                }
                // A size or a yield is no ingredient: `1 lb. loaf`, `12 rolls`.
                let steps = read_steps(part, number);
                if steps.iter().any(|s| s.pieces.is_some() || s.oven_c.is_some()) {
                    reading.steps.extend(steps);
                } else {
                    reading.unread.push(Unread { source: part.to_owned(), source_line: number });
                }
            }
            line::Outcome::Remark => reading.remarks.push((number, part.to_owned())),
        }
    }
}

/// A title as it was written, without its marks and what stands in brackets behind it.
fn as_title(source: &str) -> String {
    source.split('(').next().unwrap_or(source).trim_matches(|c: char| c.is_whitespace() || matches!(c, '#' | '*' | ':')).to_owned()
}

/// What a list begins with when it is told: `so I take five hundred grams of flour`.
fn spoken_list(bare: &str, first: bool) -> &str {
    const LEADS: &[&str] = &[
        "so ",
        "well ",
        "now ",
        "ok ",
        "okay ",
        "and ",
        "then ",
        "also ",
        "plus ",
        "we need ",
        "we use ",
        "we take ",
        "you need ",
        "you'll need ",
        "you will need ",
        "you take ",
        "you use ",
        "i take ",
        "i use ",
        "i need ",
        "i have ",
        "it's ",
        "it is ",
        "there's ",
        "there is ",
        "next ",
        "we have ",
        "you want ",
        "i put in ",
        "we put in ",
        "i add ",
        "we add ",
        "man nehme ",
    ];
    // Most lists are written, and begin with a figure.
    if bare.starts_with(|c: char| c.is_ascii_digit()) {
        return bare;
    }
    let mut rest = bare;
    let strip = |rest: &str| {
        LEADS.iter().chain(first.then_some(&"take ")).find_map(|lead| {
            let (head, tail) = rest.split_at_checked(lead.len())?;
            head.eq_ignore_ascii_case(lead).then(|| rest.len() - tail.trim_start_matches([',', ' ']).len())
        })
    };
    while let Some(next) = strip(rest).and_then(|used| rest.get(used..)).filter(|r| !r.is_empty()) {
        rest = next;
    }
    if amount::starts_with_amount(rest) && rest.len() < bare.len() { rest } else { bare }
}

/// A leaven that is built in its own list and named again in the dough is one leaven: what the dough
/// takes of it is what is built, and only that is counted.
fn built_once(reading: &mut Reading, pantry: &Pantry) {
    // `all of the tangzhong`: nothing new
    let whole = |l: &ReadLine| l.grams.is_none() && fold(&l.source).starts_with("all ");
    let (again, lines): (Vec<_>, Vec<_>) = std::mem::take(&mut reading.lines).into_iter().partition(whole);
    reading.lines = lines;
    reading.remarks.extend(again.into_iter().map(|l| (l.source_line, l.source)));
    let rye: f64 = built_flour(reading, true);
    if rye > built_flour(reading, false) {
        for seed in reading.lines.iter_mut().filter(|l| l.stage == Stage::Leaven && l.ingredient.kind == "leaven-wheat") {
            seed.ingredient = pantry.get("leaven-rye").unwrap_or(&seed.ingredient).clone();
        }
    }
    let built: f64 = reading.lines.iter().filter(|l| l.stage == Stage::Leaven).filter_map(|l| l.grams.map(|g| g.likely)).sum();
    if built <= 0.0 {
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

/// Grams of rye, or of other flour, in the list of the leaven; a seed fed with rye is a rye sour.
fn built_flour(reading: &Reading, rye: bool) -> f64 {
    let flour = reading.lines.iter().filter(|l| l.stage == Stage::Leaven && l.ingredient.family == Family::Flour);
    flour.filter(|l| l.ingredient.kind.starts_with("rye-") == rye).filter_map(|l| l.grams.map(|g| g.likely)).sum()
}

fn bare_is_pieces(bare: &str) -> bool {
    read_steps(bare, 0).iter().any(|s| s.pieces.is_some() || s.oven_c.is_some())
}

/// One line may hold several: `10 g salt and 5 g yeast`, `500 g flour; 300 g water`, a spoken list.
fn parts<'t>(bare: &'t str, pantry: &Pantry) -> Vec<&'t str> {
    let mut out = Vec::new();
    // A semicolon inside brackets parts two measures of one amount.
    let mut depth = 0_i32;
    let outside = |c: char| {
        depth += i32::from(c == '(') - i32::from(c == ')');
        c == ';' && depth <= 0
    };
    for piece in bare.split(outside) {
        let mut rest = piece.trim();
        let mut from = 0;
        while let Some((at, len)) = joint(rest, from) {
            let (left, right) = (rest.get(..at).unwrap_or_default().trim(), rest.get(at + len..).unwrap_or_default().trim());
            if amount::starts_with_amount(left) && amount::starts_a_line(right) && has_name(left, pantry) {
                out.push(left);
                rest = right;
                from = 0;
            } else {
                from = at + len;
            }
        }
        if !rest.is_empty() {
            out.push(rest);
        }
    }
    out
}

/// Where a list goes on, from a byte on: a comma, an "and".
fn joint(text: &str, from: usize) -> Option<(usize, usize)> {
    if !text.contains(',') && !text.to_ascii_lowercase().contains(" and ") {
        return None;
    }
    let lower = text.to_lowercase();
    if lower.len() != text.len() {
        return None;
    }
    let tail = lower.get(from..)?;
    if tail.contains('(') {
        return None;
    }
    [", and then ", ", then add ", ", add ", " and then ", ", then ", ", and ", " and ", ", plus ", ", "]
        .iter()
        .filter_map(|j| tail.find(j).map(|i| (from + i, j.len())))
        .min_by_key(|(i, len)| (*i, usize::MAX - len))
}

/// Whether a part names something beyond its amount: `1 cup and 2 tablespoons sugar` is one line.
fn has_name(left: &str, pantry: &Pantry) -> bool {
    let last = left.rsplit(' ').next().unwrap_or_default().to_lowercase();
    let counts = tokens::is_number_word(&last) || matches!(last.as_str(), "a" | "an");
    !counts && pantry.measures.word(&last).is_none() && !last.chars().all(|c| c.is_ascii_digit() || c == '/' || c == '.')
}

fn apply_answers(reading: &mut Reading, answers: &[Answered], tables: &Tables) -> Result<(), InputErrors> {
    let mut errors = Errors::default();
    for (i, a) in answers.iter().enumerate() {
        let here = Pointer::root().at("answers").at(i);
        let Some(line) = reading.lines.iter_mut().find(|l| l.source_line == a.source_line && l.questions.iter().any(|q| q.id == a.id))
        else {
            errors.add(here.at("id"), format!("Nothing like “{}” is asked at line {}.", a.id, a.source_line));
            continue;
        };
        let Some(question) = line.questions.iter().position(|q| q.id == a.id).map(|at| line.questions.remove(at)) else { continue };
        let Some(answer) = question.answers.iter().find(|x| x.answer == a.answer) else {
            let known: Vec<&str> = question.answers.iter().map(|x| x.answer).collect();
            errors.add(here.at("answer"), format!("“{}” is no answer here: {}.", a.answer, known.join(", ")));
            continue;
        };
        if let Some(grams) = answer.grams {
            line.grams = Some(if answer.doubt > 0.0 { Band::within(grams, answer.doubt) } else { Band::exact(grams) });
        }
        if let Some(ingredient) = answer.ingredient.as_deref().and_then(|id| tables.pantry.get(id)) {
            line.ingredient = ingredient.clone();
        }
    }
    errors.finish(())
}

/// Percent lines become grams, steps become pieces and oven, lines become the formula.
fn finish(reading: &mut Reading, text: &str, title: Option<String>) {
    let weighed: f64 = reading.lines.iter().filter_map(|l| l.grams.map(|g| g.likely * l.ingredient.flour_share)).sum();
    let told = |l: &ReadLine| l.percent.filter(|_| l.grams.is_none());
    let open: f64 = reading.lines.iter().filter(|l| l.ingredient.family == Family::Flour).filter_map(told).sum();
    // Flour that stands there in percent too is the rest of the hundred.
    let flour = if open < 100.0 { weighed / (1.0 - open / 100.0) } else { 0.0 };
    for line in &mut reading.lines {
        if let (None, Some(percent)) = (line.grams, line.percent) {
            line.grams = (flour > 0.0).then(|| Band::exact(flour * percent / 100.0)).filter(|b| b.likely > 0.0);
        }
    }
    let formula = &mut reading.formula;
    formula.name = title.filter(|t| !t.is_empty() && t.chars().count() <= 200);
    formula.lines = reading
        .lines
        .iter()
        .filter_map(|l| {
            l.grams.map(|grams| Line { ingredient: l.ingredient.clone(), grams, stage: l.stage, source: Some(l.source.clone()) })
        })
        .collect();
    formula.text = (!text.trim().is_empty()).then(|| text.to_owned());
    let pieces = reading.steps.iter().filter_map(|s| s.pieces.map(|n| (n, s.piece_g, s.shape)));
    let weight = reading.steps.iter().find_map(|s| s.piece_g);
    let shape = reading.steps.iter().find_map(|s| s.shape);
    if let Some((count, piece_g, own)) = pieces.into_iter().next() {
        formula.pieces = Some(Pieces {
            count,
            piece_g: piece_g.or(weight).filter(|g| (1.0..=20_000.0).contains(g)),
            shape: own.or(shape),
            vessel: None,
            lid: false,
            pan: None,
            strands: None,
        });
    }
    let baking: Vec<&Step> = reading.steps.iter().filter(|s| s.bakes() || s.oven_c.is_some()).collect();
    let set_c = baking.iter().find_map(|s| s.oven_c).filter(|c| (100.0..=300.0).contains(c));
    let timed: Vec<Band> = baking.iter().filter_map(|s| s.minutes).collect();
    let minutes = timed.into_iter().reduce(Band::plus).map(|b| (b.low, b.high)).filter(|(l, h)| *l >= 1.0 && *h <= 600.0);
    formula.oven = (set_c.is_some() || minutes.is_some()).then_some(OvenTold { set_c, minutes });
}

#[cfg(test)]
mod tests;
