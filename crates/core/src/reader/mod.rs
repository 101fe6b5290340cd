//! Reading a recipe as people write, paste or say it: each piece of the text ends as a title, a heading, an ingredient,
//! a step, a remark or unread; nothing is lost and nothing is guessed in silence.
//!
//! A recipe has no syntax errors: what is not understood is a result. Only text that is too long is refused.
//!
//! The way of a text: its tokens ([`text`]) with the phrases found at each ([`lexicon`], [`scan`]); numbers and amounts
//! ([`number`], [`amount`]); what a number is ([`figure`]); what a sentence holds ([`sentence`]); ingredients ([`line`],
//! [`weigh`]) and steps ([`steps`]); the recipe as a whole ([`recipe`], [`whole`]).

mod amount;
mod answered;
mod ask;
mod clue;
mod event;
mod figure;
mod findings;
mod heading;
mod lexicon;
mod line;
mod mention;
mod number;
mod overnight;
mod parts;
mod percent;
mod questions;
mod read_line;
mod recipe;
mod scan;
mod sentence;
mod spelled;
mod stated;
mod steps;
mod telling;
mod text;
mod token;
mod unread;
mod weigh;
mod whole;

pub use answered::{left_out, word_means, words_told};
pub use findings::{RULES, ToldRise, of_lines, of_steps};
pub use lexicon::Lexicon;
pub use parts::{Part, PartKind};
pub use questions::{Answer, Question};
pub use read_line::ReadLine;
pub use stated::Stated;
pub use steps::{Step, StepKind};

use serde::{Deserialize, Serialize};

use crate::{
    Tables,
    findings::Finding,
    formula::Formula,
    input::{Errors, InputErrors, Pointer},
    kitchen::Kitchen,
    measure::Band,
    pantry::Pantry,
};

/// Longest text that is read, bytes.
pub const MOST_BYTES: usize = 64 * 1024;
/// Most lines that are read.
pub const MOST_LINES: usize = 400;

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
    /// Whether eggs are graded as in North America.
    #[must_use]
    pub fn has_american_eggs(&self) -> bool {
        self.is_american() || self.locale.ends_with("-CA")
    }
    /// The country of the locale, `DE` of `de-DE`.
    #[must_use]
    pub fn country(&self) -> Option<&str> {
        self.locale.split('-').nth(1).filter(|c| c.len() == 2)
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

/// A piece of the text that tells an amount of something we do not know.
#[derive(Debug, Clone, PartialEq, Serialize)]
pub struct Unread {
    /// As written.
    pub source: String,
    /// Line of the text.
    pub source_line: usize,
    /// The words that could be its name.
    #[serde(skip_serializing_if = "String::is_empty")]
    pub words: String,
    /// Ingredients whose name is near, nearest first.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub near: Vec<String>,
    /// First byte in the text, and the one behind the last.
    #[serde(skip)]
    pub span: (usize, usize),
    /// Grams, where a weight is told.
    #[serde(skip)]
    pub grams: Option<f64>,
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
    /// Titles, headings and remarks, with their line.
    pub remarks: Vec<(usize, String)>,
    /// Every piece of the text and what it was taken for.
    pub parts: Vec<Part>,
    /// How the household measured when it was read.
    pub choices: Choices,
    /// Shape the bread's name tells.
    pub title_shape: Option<crate::oven::Shape>,
}

/// Findings that rest on nothing but a single line: they are told even of half a recipe.
const OF_ONE_LINE: &[&str] =
    &["honey-infant", "alkali-caution", "allergens-present", "leaven-in-cups", "yeast-kind-unclear", "gluten-in-gf"];

impl Reading {
    /// What to say of a recipe that is all in percent: nothing can be worked out before one weight is told.
    #[must_use]
    pub fn lacks_a_weight(&self) -> Option<&'static str> {
        (self.formula.lines.is_empty() && self.lines.iter().any(|l| l.percent.is_some()))
            .then_some("This recipe is all in percent. Write the weight of one flour, for example 500 g flour, and read it again.")
    }

    /// Whether an amount that counts could not be read: what rests on the flour then waits.
    #[must_use]
    pub fn is_half(&self) -> bool {
        let dough: f64 = self.lines.iter().filter_map(|l| l.grams.map(|g| g.likely)).sum();
        self.unread.iter().any(|u| u.grams.is_none_or(|g| g >= LEAST_UNREAD * dough))
    }

    /// Whether a finding of the dough may be told now: of half a recipe only what rests on a single line.
    #[must_use]
    pub fn may_tell(&self, id: &str) -> bool {
        !self.is_half() || OF_ONE_LINE.contains(&id)
    }

    /// Findings of formula, lines and steps together; of half a recipe only what rests on a single line or step.
    #[must_use]
    pub fn findings(&self, tables: &Tables) -> Vec<Finding> {
        let analysis = self.formula.analyse(&tables.pantry, &tables.styles);
        let mut all = crate::formula::find(&analysis, tables);
        all.retain(|f| self.may_tell(f.id));
        let source: Vec<usize> = self.lines.iter().filter(|l| l.grams.is_some()).map(|l| l.source_line).collect();
        for f in &mut all {
            f.source_line = f.line.and_then(|i| source.get(i).copied());
        }
        all.extend(of_lines(&self.lines, &self.unread));
        all.extend(of_steps(self, &analysis, tables));
        all
    }
}

/// From this share of the dough on an unread amount counts.
const LEAST_UNREAD: f64 = 0.05;

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
    let lines = text.split('\n').count();
    if lines > MOST_LINES + 1 {
        return Err(InputErrors::one(here, format!("That is too long: a recipe has {MOST_LINES} lines at most; these are {lines}.")));
    }
    let mut reading = recipe::read(text, choices, tables);
    apply_answers(&mut reading, answers, tables)?;
    whole::finish(&mut reading, text);
    overnight::left_overnight(&mut reading, tables);
    Ok(reading)
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

#[cfg(test)]
mod tests;
