//! The recipe as it was written, each piece underlined as we took it, and the words that are not read.

use cerealis_core::{
    formula::Line,
    pantry::Pantry,
    reader::{PartKind, Reading, left_out},
};

/// A piece of the text.
pub struct Piece {
    /// Class of its underline; empty for what stands between.
    pub class: &'static str,
    pub text: String,
    /// The field of the line it became.
    pub field: Option<String>,
}

/// How many pieces were taken for what.
pub struct Tally {
    pub class: &'static str,
    pub name: &'static str,
    pub count: usize,
}

/// Words that are not read, and what they could be.
pub struct Doubt {
    /// The words asked about.
    pub words: String,
    /// The piece they stand in.
    pub source: String,
    /// Label and value of each answer, nearest first.
    pub answers: Vec<(String, String)>,
    /// Value of the answer that it is no ingredient.
    pub leave: String,
}

/// The text and what is asked of it.
pub struct ReadingView {
    pub heading: String,
    pub pieces: Vec<Piece>,
    pub tallies: Vec<Tally>,
    pub doubts: Vec<Doubt>,
    /// Shown open: something is not read, or the text is no plain list.
    pub open: bool,
}

const KINDS: [(&str, &str); 7] = [
    ("rd-title", "title"),
    ("rd-heading", "heading"),
    ("rd-line", "ingredient"),
    ("rd-step", "step"),
    ("rd-oven", "oven"),
    ("rd-remark", "remark"),
    ("rd-unread", "not read"),
];

const fn class(kind: PartKind) -> &'static str {
    match kind {
        PartKind::Title => "rd-title",
        PartKind::Heading => "rd-heading",
        PartKind::Line(_) => "rd-line",
        PartKind::Step => "rd-step",
        PartKind::Oven => "rd-oven",
        PartKind::Remark => "rd-remark",
        PartKind::Unread(_) => "rd-unread",
    }
}

/// A text of so many words in one line is told, not listed.
const TOLD_WORDS: usize = 30;

impl ReadingView {
    /// The view of a reading; `lines` are the formula's as they stand now.
    pub fn new(text: &str, reading: &Reading, lines: &[Line], pantry: &Pantry) -> Self {
        let field_of = |i: usize| {
            let read = reading.lines.get(i)?;
            let at = lines.iter().position(|l| l.source.as_deref() == Some(read.source.as_str()))?;
            Some(format!("ing-{at}"))
        };
        let mut pieces = Vec::new();
        let mut at = 0;
        for part in &reading.parts {
            pieces.push(Piece { class: "", text: text.get(at..part.start).unwrap_or_default().to_owned(), field: None });
            let field = if let PartKind::Line(i) = part.kind { field_of(i) } else { None };
            pieces.push(Piece { class: class(part.kind), text: text.get(part.start..part.end).unwrap_or_default().to_owned(), field });
            at = part.end.max(at);
        }
        pieces.push(Piece { class: "", text: text.get(at..).unwrap_or_default().to_owned(), field: None });
        pieces.retain(|p| !p.text.is_empty());
        let count = |of: &str| pieces.iter().filter(|p| p.class == of).count();
        let tallies = KINDS.map(|(class, name)| Tally { class, name, count: count(class) }).into_iter().filter(|t| t.count > 0).collect();
        let doubts: Vec<Doubt> = reading.unread.iter().map(|u| doubt(&u.words, &u.source, &u.near, pantry)).collect();
        let told = text.lines().any(|l| l.split_whitespace().count() >= TOLD_WORDS);
        let heading = match doubts.len() {
            0 => "As you wrote it".to_owned(),
            1 => "Read, all but one thing".to_owned(),
            n => format!("Read, all but {n} things"),
        };
        Self { heading, pieces, tallies, open: !doubts.is_empty() || told, doubts }
    }
}

fn doubt(words: &str, source: &str, near: &[String], pantry: &Pantry) -> Doubt {
    let words = words.trim();
    let known = near.iter().filter_map(|id| pantry.get(id)).filter(|_| !words.is_empty());
    Doubt {
        words: words.to_owned(),
        source: source.to_owned(),
        answers: known.map(|i| (i.short_name().to_owned(), format!("word:{}:{words}", i.id))).collect(),
        leave: left_out(source),
    }
}
