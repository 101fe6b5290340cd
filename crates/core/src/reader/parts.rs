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
    // The narrower first: it is cut out of the wider.
    parts.sort_by_key(|p| (p.end - p.start, p.start));
    let mut taken: Vec<Part> = Vec::new();
    for p in parts {
        let mut free = vec![(p.start, p.end)];
        for t in &taken {
            free = free.into_iter().flat_map(|(a, b)| cut(a, b, t.start, t.end)).collect();
        }
        taken.extend(free.into_iter().map(|span| Part::new(p.kind, span)));
    }
    taken.sort_by_key(|p| p.start);
    taken
}

/// What is left of `a..b` without `from..to`.
fn cut(a: usize, b: usize, from: usize, to: usize) -> impl Iterator<Item = (usize, usize)> {
    let (left, right) = ((a, b.min(from)), (a.max(to), b));
    let apart = to <= a || from >= b;
    let pieces = if apart { [(a, b), (0, 0)] } else { [left, right] };
    pieces.into_iter().filter(|(s, e)| e > s)
}
