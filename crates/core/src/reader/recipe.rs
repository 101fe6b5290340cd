//! A recipe from its first line to its last: title, headings, lists, tables, paragraphs, talk.

use super::{
    Choices, Reading, Unread,
    lexicon::{Head, Role},
    parts::{self, Part, PartKind},
    scan::Scan,
    text::{self, TextLine},
    token::Kind,
    whole,
};
use crate::{
    Tables,
    formula::{Formula, Stage, Used},
    measure::Band,
};
use rustc_hash::FxHashMap;

/// A line longer than this is left unread, bytes.
const LONGEST_LINE: usize = 8000;
/// So many percent signs make a recipe in percent.
const PERCENT_LINES: usize = 3;
/// Words a title has at most.
pub(super) const LONGEST_TITLE: usize = 12;
/// Reads a text of a length that may be read.
pub(super) fn read(text: &str, choices: &Choices, tables: &Tables) -> Reading {
    let (tokens, lines) = text::tokens(text, &tables.words, tables.pantry.stems());
    let scan = Scan::new(&tokens, &tables.pantry, &tables.words, choices);
    let mut recipe = Recipe {
        scan: &scan,
        text,
        head: Head::Stage(None),
        title: None,
        begun: false,
        table_in_grams: false,
        gluten_free: false,
        total: None,
        list: 0,
        braided: (0..tokens.len()).any(|i| scan.role(i, Role::Braid).is_some()),
        last: None,
        in_percent: tokens.iter().filter(|t| t.is('%')).count() >= PERCENT_LINES,
        found: Found::default(),
        reading: Reading {
            formula: Formula::default(),
            lines: Vec::new(),
            unread: Vec::new(),
            steps: Vec::new(),
            remarks: Vec::new(),
            parts: Vec::new(),
            choices: choices.clone(),
            title_shape: None,
        },
    };
    let last = lines.iter().rposition(|l| l.to > l.from).unwrap_or(0);
    for (i, line) in lines.iter().enumerate() {
        if line.to > line.from {
            recipe.line(line, i == last);
        }
    }
    recipe.done(tables)
}

/// What was found where, to be ordered at the end.
#[derive(Default)]
pub(super) struct Found {
    pub(super) parts: Vec<Part>,
    /// Lists whose heading is in no table.
    pub(super) unknown_lists: Vec<usize>,
    /// What a list of the finish is for, where its heading says so.
    pub(super) uses: FxHashMap<usize, Used>,
}

pub(super) struct Recipe<'s, 'a, 't> {
    pub(super) scan: &'s Scan<'a>,
    pub(super) text: &'t str,
    pub(super) head: Head,
    pub(super) title: Option<String>,
    pub(super) begun: bool,
    pub(super) table_in_grams: bool,
    pub(super) gluten_free: bool,
    pub(super) total: Option<(Band, bool)>,
    pub(super) list: usize,
    pub(super) in_percent: bool,
    pub(super) braided: bool,
    /// The last line of the text's line being read: what a correction is of.
    pub(super) last: Option<usize>,
    pub(super) found: Found,
    pub(super) reading: Reading,
}

/// What became of an ingredient told.
pub(super) enum Taken {
    /// A line, at this place.
    Line(usize),
    /// Listed before, denied, or only named.
    Passed,
    /// An amount that makes no sense of it.
    Unknown,
}

/// Where a sentence stands.
#[derive(Clone, Copy)]
pub(super) struct Around {
    pub(super) line: TextLine,
    pub(super) head: Head,
    pub(super) acted: bool,
}

impl<'a> Recipe<'_, 'a, '_> {
    pub(super) fn span(&self, from: usize, to: usize) -> (usize, usize) {
        let start = self.scan.tok(from).map_or(0, |t| t.start);
        (start, start + self.scan.source(self.text, from, to).len())
    }

    pub(super) fn remark(&mut self, line: usize, from: usize, to: usize, kind: PartKind) {
        let words = self.scan.source(self.text, from, to);
        if words.is_empty() {
            return;
        }
        self.reading.remarks.push((line, words.to_owned()));
        let span = self.span(from, to);
        self.found.parts.push(Part::new(kind, span));
    }

    fn line(&mut self, line: &TextLine, is_last: bool) {
        if line.end - line.start > LONGEST_LINE {
            let source = self.text.get(line.start..line.end).unwrap_or_default().to_owned();
            self.unread(Unread {
                source,
                source_line: line.number,
                words: String::new(),
                near: Vec::new(),
                span: (line.start, line.end),
                grams: None,
            });
            return;
        }
        self.gluten_free |=
            (line.from..line.to).any(|i| self.scan.role(i, Role::GlutenFree).is_some() && self.scan.number(line.from).is_none());
        let first = !std::mem::replace(&mut self.begun, true);
        self.last = None;
        if self.is_rule(line) || self.table_head(line, first) {
            return;
        }
        if first && !is_last && !self.scan.mark(line.to - 1, ',') && self.title_line(line) {
            return;
        }
        // `My dear girl,`: what greets is no title; the next line may be one.
        if first && self.scan.mark(line.to - 1, ',') && line.to - line.from < LONGEST_TITLE && !is_last {
            self.begun = false;
            self.remark(line.number, line.from, line.to, PartKind::Remark);
            return;
        }
        if self.heading(line, first) {
            return;
        }
        let mut from = line.from;
        if first {
            from = self.title_before_list(line);
        }
        self.sentences(line, from);
    }

    fn sentences(&mut self, line: &TextLine, from: usize) {
        let mut at = from;
        let mut head = self.head;
        let mut depth = 0_i32;
        let mut from = from;
        while at < line.to {
            depth += i32::from(self.scan.mark(at, '(')) - i32::from(self.scan.mark(at, ')'));
            let ends = depth <= 0 && self.scan.ends_sentence(at) && !self.is_cell_edge(line, at);
            if ends || at + 1 == line.to {
                let to = at + 1;
                // A heading told inside the line holds to its end, or to the next.
                let around = Around { line: *line, head, acted: head == Head::Method };
                head = self.sentence(around, from, to);
                from = to;
            }
            at += 1;
        }
    }

    /// `Salt;9`: a semicolon between a name and its figure parts cells, not sentences.
    fn is_cell_edge(&self, line: &TextLine, at: usize) -> bool {
        self.scan.mark(at, ';')
            && self.scan.tok(at + 1).is_some_and(|t| t.value().is_some())
            && self.scan.name_at(line.from, at, true).is_some()
            && self.scan.number(line.from).is_none()
    }

    /// What joins two things and belongs to neither.
    pub(super) fn is_joint(&self, at: usize) -> bool {
        let Some(t) = self.scan.tok(at) else { return true };
        match t.kind {
            Kind::Mark(m) => !matches!(m, ')' | '%' | '°' | '"'),
            Kind::Word => {
                self.scan
                    .pick(at, |r| {
                        matches!(r, Role::And | Role::Plus | Role::Then | Role::Lead | Role::Approx | Role::Article).then_some(())
                    })
                    .is_some_and(|(_, end)| end == at + 1)
                    && self.scan.name_at(at, at + 1, true).is_none()
                    && self.scan.pick(at, |r| matches!(r, Role::Vague(_)).then_some(())).is_none()
            }
            Kind::Number { .. } | Kind::Broken => false,
        }
    }

    fn done(mut self, tables: &Tables) -> Reading {
        let mut parts = std::mem::take(&mut self.found.parts);
        if !self.braided {
            for step in &mut self.reading.steps {
                step.strands = None;
            }
        }
        whole::resolve(&mut self.reading, &tables.pantry, self.total, &self.found.unknown_lists, &self.found.uses);
        parts.extend(self.reading.lines.iter().enumerate().map(|(i, l)| Part::new(PartKind::Line(i), l.span)));
        self.reading.parts = parts::in_order(parts);
        self.reading.formula.name = self.title.filter(|t| !t.is_empty() && t.chars().count() <= 200);
        self.reading.formula.gluten_free = self.gluten_free;
        self.reading
    }
}

/// The stage of lines below a heading.
pub(super) const fn stage_of(head: Head) -> Option<Stage> {
    match head {
        Head::Stage(s) => s,
        Head::Bath => Some(Stage::Finish),
        Head::Method | Head::Notes | Head::Unknown => None,
    }
}

/// A title as it was written, in one line, without its marks and what stands in brackets behind it.
pub(super) fn as_title(source: &str) -> String {
    let title = source.split('(').next().unwrap_or(source);
    let words = title.split(|c: char| c.is_whitespace() || c.is_control()).filter(|w| !w.is_empty()).collect::<Vec<_>>().join(" ");
    words.trim_matches(|c: char| c.is_whitespace() || matches!(c, '#' | '*' | ':' | '|' | '"')).to_owned()
}
