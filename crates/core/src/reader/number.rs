//! Numbers as people write and say them, in figures and in the words of ten languages.

use super::{clue::Clue, lexicon::Role, scan::Scan, token::Kind};
use crate::measure::Band;

/// A number and the token behind it.
type Found = (f64, usize);

impl Scan<'_> {
    /// One number: `1 3/4`, `1½`, `one and a half`, `three hundred and twenty`, `three forty`.
    pub fn number(&self, at: usize) -> Option<Found> {
        if matches!(self.tok(at)?.kind, Kind::Number { .. }) {
            return self.in_figures(at);
        }
        self.in_words(at)
    }

    fn plain(&self, at: usize) -> Option<f64> {
        match self.tok(at)?.kind {
            Kind::Number { value, vulgar: false, .. } => Some(value),
            Kind::Number { .. } | Kind::Broken | Kind::Word | Kind::Mark(_) => None,
        }
    }

    fn vulgar(&self, at: usize) -> Option<f64> {
        match self.tok(at)?.kind {
            Kind::Number { value, vulgar: true, .. } => Some(value),
            Kind::Number { .. } | Kind::Broken | Kind::Word | Kind::Mark(_) => None,
        }
    }

    /// `3/4`, with a denominator that cooks use.
    fn fraction(&self, at: usize) -> Option<Found> {
        let (over, under) = (self.plain(at)?, self.plain(at + 2)?);
        let cooks = [2.0, 3.0, 4.0, 5.0, 6.0, 8.0, 16.0].contains(&under);
        let close = self.tok(at + 1).is_some_and(|t| t.is('/') && !t.spaced) && self.tok(at + 2).is_some_and(|t| !t.spaced);
        (close && cooks && over < under && over > 0.0 && over.fract() == 0.0).then_some((over / under, at + 3))
    }

    fn in_figures(&self, at: usize) -> Option<Found> {
        if let Some(found) = self.fraction(at) {
            return Some(found);
        }
        if let Some(value) = self.vulgar(at) {
            return Some((value, at + 1));
        }
        let mut value = self.plain(at)?;
        let mut end = at + 1;
        // `1 000 g`: a thin group of exactly three digits.
        while let (Some(next), Some(a), Some(b)) = (self.plain(end), self.tok(end - 1), self.tok(end)) {
            let lead = a.end - a.start <= if end == at + 1 { 2 } else { 3 };
            let group = b.text.len() == 3 && b.start <= a.end + 3 && b.spaced && lead && value >= 1.0 && value.fract() == 0.0;
            if !group || self.fraction(end).is_some() {
                break;
            }
            value = value * 1000.0 + next;
            end += 1;
        }
        if value.fract() == 0.0 {
            let joined = usize::from(self.mark(end, '-'));
            if let Some((part, behind)) = self.vulgar(end).map(|v| (v, end + 1)).or_else(|| self.fraction(end + joined)) {
                return Some((value + part, behind));
            }
        }
        Some(self.and_part(value, end))
    }

    /// A number below a hundred in words: `twenty-five`.
    fn small(&self, at: usize) -> Option<Found> {
        // `Four à 220 °C`: the French oven is no number.
        if self.role(at, Role::Oven).is_some() {
            return None;
        }
        let (value, end) = self.pick(at, |r| if let Role::Number(v) = r { Some(v) } else { None })?;
        if (20.0..100.0).contains(&value) && value % 10.0 == 0.0 {
            let joined = end + usize::from(self.mark(end, '-'));
            let unit =
                self.pick(joined, |r| if let Role::Number(v) = r { Some(v).filter(|v| *v < 10.0 && v.fract() == 0.0) } else { None });
            if let Some((unit, behind)) = unit {
                return Some((value + unit, behind));
            }
        }
        Some((value, end))
    }

    fn in_words(&self, at: usize) -> Option<Found> {
        let part = self.pick(at, |r| if let Role::Part(v) = r { Some(v) } else { None });
        let counted = self.small(at);
        let article = self.role(at, Role::Article).map(|end| (1.0, end));
        // The longest phrase says it: `half a dozen` before `half a`, `a third` before `a`.
        let (mut value, mut end) = [counted, part, article].into_iter().flatten().reduce(|a, b| if b.1 > a.1 { b } else { a })?;
        if part.is_some_and(|p| p.1 == end) {
            return Some((value, end));
        }
        // `three quarters`, `two thirds`
        if (1.0..8.0).contains(&value)
            && let Some((each, behind)) =
                self.pick(end + usize::from(self.mark(end, '-')), |r| if let Role::Part(v) = r { Some(v) } else { None })
            && each != 0.5
            && self.role(end, Role::Article).is_none()
        {
            return Some((value * each, behind));
        }
        // `three forty` is said for three hundred and forty
        if (1.0..10.0).contains(&value)
            && value.fract() == 0.0
            && article.is_none_or(|a| a.1 != end || counted.is_some())
            && let Some((tens, behind)) = self.small(end).filter(|(v, _)| (20.0..100.0).contains(v) || *v == 10.0)
        {
            return Some((value * 100.0 + tens, behind));
        }
        // Hundreds are told of what stands before them, thousands of all of it: `one thousand one hundred and five`.
        let (mut thousands, mut told) = (0.0, false);
        loop {
            if let Some((times, behind)) = self.pick(end, |r| if let Role::Times(v) = r { Some(v) } else { None }) {
                end = behind;
                told = true;
                if times >= 1000.0 {
                    (thousands, value) = (thousands + value * times, 0.0);
                } else {
                    value *= times;
                }
                continue;
            }
            let joined = self.role(end, Role::And).unwrap_or(end);
            let rest = self.small(joined).filter(|(v, _)| told && *v < 100.0 && v.fract() == 0.0 && value % 100.0 == 0.0);
            let Some((rest, behind)) = rest else { break };
            (value, end) = (value + rest, behind);
        }
        value += thousands;
        Some(self.and_part(value, end))
    }

    /// `… and a half`, `… and three quarters`, `… 1/2`.
    pub fn and_part(&self, value: f64, end: usize) -> Found {
        let Some(behind) = self.role(end, Role::And) else { return (value, end) };
        if value.fract() != 0.0 {
            return (value, end);
        }
        if let Some((part, last)) = self.vulgar(behind).map(|v| (v, behind + 1)).or_else(|| self.fraction(behind)) {
            return (value + part, last);
        }
        let part_at = |at: usize| self.pick(at, |r| if let Role::Part(v) = r { Some(v) } else { None });
        if let Some((part, last)) = part_at(behind).or_else(|| self.role(behind, Role::Article).and_then(part_at)) {
            // `two cups and half a teaspoon` are two amounts
            let another = self.pick(last, |r| matches!(r, Role::Unit(_) | Role::Minutes(_)).then_some(())).is_some()
                && self.role(last - 1, Role::Article).is_some();
            if !another {
                return (value + part, last);
            }
        }
        if let Some((n, middle)) = self.small(behind).filter(|(n, _)| *n < 8.0)
            && let Some((part, last)) = part_at(middle + usize::from(self.mark(middle, '-')))
        {
            return (value + n * part, last);
        }
        (value, end)
    }

    /// A number or a range of two: `20-25`, `2 to 3`, `between 2 and 3`.
    pub fn range(&self, at: usize) -> Option<(Band, usize)> {
        let between = self.tells(at, Clue::Between);
        let (first, end) = self.number(at + usize::from(between))?;
        let joint = if self.mark(end, '-') || self.mark(end, '~') {
            Some(end + 1)
        } else {
            self.role(end, Role::Range).or_else(|| self.role(end, Role::And).filter(|_| between))
        };
        let written = |at: usize| self.tok(at).is_some_and(|t| t.value().is_some()) || self.small(at).is_some();
        if let Some((second, behind)) = joint.filter(|j| written(*j)).and_then(|j| self.number(j)).filter(|(s, _)| *s > first) {
            return Some((Band::new(first, f64::midpoint(first, second), second), behind));
        }
        Some((Band::exact(first), end))
    }
}
