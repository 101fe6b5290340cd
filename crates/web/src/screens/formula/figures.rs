//! The dough's figures as the sheet shows them: percentages, character, what it is divided into.

use cerealis_core::{
    formula::{Analysis, Pieces},
    measure::{Band, show_percent, weight},
};

use crate::draw::{Lead, Percentages};

/// What each bread is woven from, and what all of them take of the dough.
pub(super) fn divided(a: &Analysis<'_>) -> Vec<String> {
    let main = a.formula.pieces.iter().map(|p| (p, a.piece_g()));
    let all: Vec<(&Pieces, f64)> = main.chain(a.formula.further.iter().map(|p| (p, p.piece_g.unwrap_or_default()))).collect();
    let woven = all.iter().filter_map(|(p, g)| {
        let s = p.strand(*g)?;
        let odd = if s.length_cm < 20.0 {
            ": short, hard to weave"
        } else if s.length_cm > 80.0 {
            ": longer than most boards"
        } else {
            ""
        };
        Some(format!("{}: {}{odd}.", weight(*g), p.woven(*g)?))
    });
    let woven: Vec<String> = woven.collect();
    let sum = (all.len() > 1).then(|| {
        let each: Vec<String> = all.iter().map(|(p, g)| format!("{} × {}", p.count, weight(*g))).collect();
        let needs: f64 = all.iter().map(|(p, g)| f64::from(p.count) * g).sum();
        let over = needs - a.dough_g.likely;
        let rest = if over > 0.5 { format!("{} more than there is", weight(over)) } else { format!("{} are left", weight(-over)) };
        format!("{} take {} of {}: {rest}.", each.join(" and "), weight(needs), weight(a.dough_g.likely))
    });
    sum.into_iter().chain(woven).collect()
}

fn range_words(b: Band) -> String {
    if b.high - b.low < 0.02 * b.likely.max(0.5) {
        show_percent(b.likely)
    } else {
        format!("{}–{}", show_percent(b.low), show_percent(b.high))
    }
}

pub(super) fn water_words(b: Band) -> String {
    format!("Water {} % of the flour", range_words(b))
}

pub(super) fn percentages(a: &Analysis<'_>) -> Percentages {
    let lead = |name: &'static str, b: Band, usual: (f64, f64), low_matters: bool| {
        let (low, high) = usual;
        let out = (b.likely > high * 1.3 + 0.05) || (low_matters && b.likely < low * 0.75 - 0.02);
        Lead {
            name,
            figure: if b.likely <= 0.0 { "none".into() } else { show_percent(b.likely) },
            value: b.likely,
            range: (!b.is_exact()).then_some((b.low, b.high)),
            usual,
            out,
        }
    };
    let style = a.style;
    let leaven = a.leaven_flour_pct.likely > 0.0;
    let leads = [
        lead("yeast", a.yeast_instant_pct, style.yeast_instant, !leaven),
        lead("salt", a.salt_pct, style.salt, true),
        lead("fat", a.fat_added_pct, style.fat, false),
        lead("sugar", a.sugar_pct, style.sugar, false),
        lead("leaven", a.leaven_flour_pct, style.leaven_flour, a.yeast_instant_pct.likely <= 0.0),
        lead("water", a.effective_hydration_pct, style.hydration, true),
    ];
    let words = leads
        .iter()
        .map(|l| format!("{} {}{}", l.name, l.figure, if l.out { ", outside the usual" } else { "" }))
        .collect::<Vec<_>>()
        .join("; ");
    Percentages::draw(&leads, format!("In percent of flour: {words}. Usual for {}.", style.name))
}

pub(super) fn facts(a: &Analysis<'_>) -> Vec<(&'static str, String, &'static str)> {
    let mut facts = vec![
        ("Water, as poured", format!("{} %", range_words(a.hydration_pct)), "liquids by weight, milk whole, eggs not: as bakers reckon"),
        ("Water, all of it", format!("{} %", range_words(a.effective_hydration_pct)), "with the water in milk, egg, butter, honey, leaven"),
        ("Salt", format!("{} %", range_words(a.salt_pct)), "salt added, and that in salted butter"),
        ("Sugar", format!("{} %", range_words(a.sugar_pct)), "sugars in sugar, honey, syrup"),
        ("Fat", format!("{} %", range_words(a.fat_pct)), "in everything but flour"),
        ("Yeast, as instant", format!("{} %", range_words(a.yeast_instant_pct)), "fresh counts a third, active dry four fifths"),
    ];
    if a.prefermented_flour_pct > 0.0 {
        facts.push(("Prefermented flour", format!("{} %", show_percent(a.prefermented_flour_pct)), "flour in leaven and preferment"));
    }
    if !a.allergens.is_empty() {
        facts.push(("Holds", a.allergens.join(", "), "glaze and toppings counted; packs change: read them"));
    }
    facts
}
