//! What each piece of the text was taken for, in its order: what the sheet underlines.

use serde::Serialize;

/// What a piece of the text is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "kebab-case")]
pub enum PartKind {
    /// The bread's name.
    Title,
    /// A heading.
    Heading,
    /// An ingredient; the number is its place among the lines.
    Line(usize),
    /// Something to do.
    Step,
    /// Something to do at the oven.
    Oven,
    /// Told beside the recipe.
    Remark,
    /// Not understood; the number is its place among what is unread.
    Unread(usize),
}

/// A piece of the text.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Part {
    /// What.
    pub kind: PartKind,
    /// First byte.
    pub start: usize,
    /// Byte after the last.
    pub end: usize,
}

impl Part {
    /// A piece from its bytes.
    pub(super) const fn new(kind: PartKind, span: (usize, usize)) -> Self {
        Self { kind, start: span.0, end: span.1 }
    }
}

/// The pieces of a text in its order, none over another: an ingredient goes before the step it is told in, and what a
/// step holds beside its ingredients stays the step's.
pub(super) fn in_order(mut parts: Vec<Part>) -> Vec<Part> {
    parts.retain(|p| p.end > p.start);
    parts.sort_by_key(|p| (p.start, p.end));
    let told = |p: &Part| matches!(p.kind, PartKind::Line(_) | PartKind::Unread(_) | PartKind::Title | PartKind::Heading);
    let (narrow, wide): (Vec<Part>, Vec<Part>) = parts.into_iter().partition(told);
    let narrow = apart(narrow.into_iter());
    // What is told beside them keeps the room between.
    let mut free = Vec::new();
    for p in apart(wide.into_iter()) {
        let mut start = p.start;
        let from = narrow.partition_point(|n| n.end <= p.start);
        for n in narrow.iter().skip(from).take_while(|n| n.start < p.end) {
            free.push(Part::new(p.kind, (start, n.start)));
            start = start.max(n.end);
        }
        free.push(Part::new(p.kind, (start, p.end)));
    }
    let mut all: Vec<Part> = narrow.into_iter().chain(free).filter(|p| p.end > p.start).collect();
    all.sort_by_key(|p| p.start);
    all
}

/// Pieces in order, each beginning where the one before it ends.
fn apart(parts: impl Iterator<Item = Part>) -> Vec<Part> {
    let mut at = 0;
    let clipped = parts.map(|p| {
        let start = p.start.max(at);
        at = at.max(p.end);
        Part::new(p.kind, (start, p.end))
    });
    clipped.filter(|p| p.end > p.start).collect()
}
