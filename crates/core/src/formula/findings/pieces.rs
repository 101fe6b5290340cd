//! Findings: pieces and their weight.

use super::*;
use crate::measure::{grams, weight};

pub(super) const CHECKS: &[Check] = &[
    Check {
        rule: Rule::new(
            "piece-unit",
            concat!(
                "1 oz is 28.35 g; a bun weighs ",
                grams!(40 bare),
                " to ",
                grams!(150),
                ", a roll ",
                grams!(50 bare),
                " to ",
                grams!(120),
                "."
            ),
            "NIST Handbook 44, from memory; sizes common practice, no source",
        ),
        find: piece_unit,
    },
    Check { rule: Rule::new("piece-sum-mismatch", "Pieces times their weight is the dough.", "arithmetic"), find: piece_sum },
    Check { rule: Rule::new("piece-loss", "1 to 3 % of a dough stays on bowl, hands and bench.", TRADE), find: piece_loss },
    Check {
        rule: Rule::new("pan-too-small", "A dough grows to about twice its size, and once more in the oven.", TRADE),
        find: pan_too_small,
    },
    Check { rule: Rule::new("pan-too-large", "A loaf that does not reach the rim stays pale and low.", TRADE), find: pan_too_large },
];

/// Dough that further breads leave for the main one, grams.
fn for_main(a: &Analysis<'_>) -> f64 {
    a.dough_g.likely - a.formula.further_g()
}

fn piece_unit(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    let Some((count, piece_g)) = a.formula.pieces.as_ref().and_then(|p| p.piece_g.map(|g| (p.count, g))) else { return Vec::new() };
    let mut words = a.formula.text.as_deref().unwrap_or_default().split(|c: char| !c.is_alphanumeric());
    let small = words.any(|w| ["bun", "buns", "roll", "rolls"].iter().any(|s| w.eq_ignore_ascii_case(s)));
    let ounces = piece_g / OUNCE_G;
    let as_ounces = (ounces - ounces.round()).abs() < 0.01 && (10.0..=400.0).contains(&ounces);
    let odd = (piece_g > 400.0 && count >= 4) || (small && piece_g > 300.0) || !(10.0..=5000.0).contains(&piece_g);
    // Four loaves of 800 g are four loaves, if the dough is there.
    let fits = a.dough_g.likely > 0.0 && (f64::from(count) * piece_g / for_main(a) - 1.0).abs() < 0.05;
    if !odd || (fits && (400.0..=1500.0).contains(&piece_g) && !small) {
        return Vec::new();
    }
    let share = for_main(a) / f64::from(count);
    let (message, grams) = if as_ounces {
        (format!("{} oz is {} for one piece. {} meant?", show(ounces, 0), weight(piece_g), weight(ounces).to(0)), ounces.round())
    } else {
        (
            format!("{} for one of {count} pieces is out of the usual. This dough makes {count} × {}.", weight(piece_g), weight(share)),
            share.round().max(1.0),
        )
    };
    one(
        Stop,
        message,
        None,
        vec![Remedy::new(format!("Read as {}", weight(grams)), vec![Change::Pieces { count, piece_g: grams }]), Remedy::meant("Keep it")],
    )
}

fn piece_sum(a: &Analysis<'_>, tables: &Tables) -> Vec<Found> {
    let Some((count, piece_g)) = a.formula.pieces.as_ref().and_then(|p| p.piece_g.map(|g| (p.count, g))) else { return Vec::new() };
    let (needs, dough) = (f64::from(count) * piece_g, for_main(a));
    if a.dough_g.likely <= 0.0 || (needs - dough).abs() <= (0.05 * dough).max(0.4 * piece_g) || !piece_unit(a, tables).is_empty() {
        return Vec::new();
    }
    let wanted = needs + a.formula.further_g();
    let each = (dough / f64::from(count)).floor().max(1.0);
    let mut remedies = vec![Remedy::new(format!("{count} × {}", weight(each)), vec![Change::Pieces { count, piece_g: each }])];
    let whole = (dough / piece_g).floor();
    if (1.0..=500.0).contains(&whole) && (whole - f64::from(count)).abs() > 0.5 {
        #[allow(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "1 to 500")]
        let n = whole as u32;
        remedies.push(Remedy::new(
            format!("{n} × {}, {} over", weight(piece_g), weight(dough - whole * piece_g)),
            vec![Change::Pieces { count: n, piece_g }],
        ));
    }
    let all = a.formula.lines.iter().enumerate().map(|(line, l)| Change::Grams {
        line,
        grams: l.grams.times(wanted / a.dough_g.likely),
        interval: !l.grams.is_exact(),
    });
    remedies.push(Remedy::new(format!("Make {} of dough", weight(wanted)), all.collect()));
    remedies.push(Remedy::meant("Keep it"));
    one(Caution, format!("{count} × {} needs {}; this makes {}.", weight(piece_g), weight(needs), weight(dough)), None, remedies)
}

fn piece_loss(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    let Some((count, piece_g)) = a.formula.pieces.as_ref().and_then(|p| p.piece_g.map(|g| (p.count, g))) else { return Vec::new() };
    let (needs, dough) = (f64::from(count) * piece_g, for_main(a));
    if a.dough_g.likely <= 0.0 || !(1.01..=1.05).contains(&(needs / dough)) {
        return Vec::new();
    }
    let factor = 1.03 * (needs + a.formula.further_g()) / a.dough_g.likely;
    let more = a.formula.lines.iter().enumerate().map(|(line, l)| Change::Grams {
        line,
        grams: l.grams.times(factor),
        interval: !l.grams.is_exact(),
    });
    one(
        Note,
        "Nothing spare for what sticks to the bowl.".into(),
        None,
        vec![Remedy::new("Make 3 % more", more.collect()), Remedy::meant("Meant so")],
    )
}

/// What lies in one pan or cavity, and what it takes.
struct Filled<'a> {
    pan: &'a Pan,
    count: u32,
    grams: f64,
    takes: Band,
}

fn filled<'a>(a: &'a Analysis<'_>) -> Option<Filled<'a>> {
    let told = a.formula.pieces.as_ref()?;
    let pan = told.pan.as_deref()?;
    let (_, takes) = a.pan_takes(pan)?;
    let grams = a.piece_g();
    (has_flour(a) && grams > 0.0).then_some(Filled { pan, count: told.count, grams, takes })
}

impl Filled<'_> {
    /// Another pan of its kind that takes the dough; the whole dough made to fit.
    fn remedies(&self, a: &Analysis<'_>, tables: &Tables) -> Vec<Remedy> {
        let kind = |p: &&std::sync::Arc<Pan>| {
            p.shape == self.pan.shape
                && p.lid == self.pan.lid
                && p.cavities.is_some() == self.pan.cavities.is_some()
                && p.rolls.is_none() == self.pan.rolls.is_none()
        };
        let fits = tables.pantry.pans().filter(kind).filter_map(|p| a.pan_takes(p).map(|(_, takes)| (p, takes)));
        let best = fits
            .filter(|(_, takes)| (takes.low..=takes.high).contains(&self.grams))
            .min_by(|x, y| (x.1.likely - self.grams).abs().total_cmp(&(y.1.likely - self.grams).abs()));
        let other = best.map(|(p, _)| Remedy::new(format!("Use the {}", p.name), vec![Change::Pan { pan: p.id.clone() }]));
        let (each, factor) = (to_nearest(self.takes.likely, 5.0).max(1.0), f64::from(self.count) * self.takes.likely / a.dough_g.likely);
        let mut scale: Vec<Change> = a
            .formula
            .lines
            .iter()
            .enumerate()
            .map(|(line, l)| Change::Grams { line, grams: l.grams.times(factor), interval: !l.grams.is_exact() })
            .collect();
        scale.push(Change::Pieces { count: self.count, piece_g: each });
        other
            .into_iter()
            .chain([Remedy::new(format!("Make {} of dough for it", weight(f64::from(self.count) * each)), scale), Remedy::meant("Keep it")])
            .collect()
    }
}

impl Filled<'_> {
    /// What lies in it, and what it takes.
    fn words(&self) -> String {
        let (low, high) = (weight(self.takes.low).bare(), weight(self.takes.high));
        format!("{} in the {}; {low}–{high} fits.", weight(self.grams), self.pan.name)
    }
}

fn pan_too_small(a: &Analysis<'_>, tables: &Tables) -> Vec<Found> {
    let Some(f) = filled(a).filter(|f| f.grams > f.takes.high) else { return Vec::new() };
    let severity = if f.grams > 1.3 * f.takes.high { Stop } else { Caution };
    one(severity, format!("It will run over: {}", f.words()), None, f.remedies(a, tables))
}

fn pan_too_large(a: &Analysis<'_>, tables: &Tables) -> Vec<Found> {
    let Some(f) = filled(a).filter(|f| f.grams < f.takes.low) else { return Vec::new() };
    one(Note, format!("It will stay below the rim: {}", f.words()), None, f.remedies(a, tables))
}
