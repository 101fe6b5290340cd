//! Findings: doughs without gluten.

use super::*;
use crate::measure::weight;

pub(super) const CHECKS: &[Check] = &[
    Check {
        rule: Rule::new("gluten-in-gf", "The formula is said to be gluten-free.", "Reg. (EU) 828/2014 (20 mg/kg), from memory"),
        find: gluten_in_gf,
    },
    Check {
        rule: Rule::new("gf-cross-contact", "Oats and what is milled beside wheat carry traces of it.", "Reg. (EU) 828/2014, from memory"),
        find: cross_contact,
    },
    Check { rule: Rule::new("gf-no-gum", "Without gluten, a gum must hold the gas.", TRADE), find: no_gum },
    Check { rule: Rule::new("gf-gum-high", "Too much gum makes a rubbery crumb.", TRADE), find: gum_high },
];

fn gluten_in_gf(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    if !a.formula.gluten_free {
        return Vec::new();
    }
    let holds = a.formula.lines.iter().enumerate().filter(|(_, l)| l.ingredient.gluten == Gluten::Yes);
    holds
        .map(|(i, l)| Found {
            severity: Stop,
            message: format!("{} holds gluten.", l.ingredient.name),
            line: Some(i),
            remedies: vec![Remedy::new("Take it out", vec![Change::Remove { line: i }])],
        })
        .collect()
}

fn cross_contact(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    let unsure = a.formula.lines.iter().enumerate().filter(|(_, l)| a.formula.gluten_free && l.ingredient.gluten == Gluten::CrossContact);
    unsure
        .map(|(i, l)| Found {
            severity: Caution,
            message: format!("{}: only where the pack says gluten-free.", l.ingredient.name),
            line: Some(i),
            remedies: vec![Remedy::meant("The pack says so")],
        })
        .collect()
}

fn is_gum(l: &Line) -> bool {
    l.ingredient.is(Fact::Binder)
}

fn no_gum(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    if !has_flour(a) || a.style.id != StyleId::GlutenFree || share(a, is_gum) >= 0.5 {
        return Vec::new();
    }
    let grams = weighable(a.grams_at(5.0));
    one(
        Caution,
        "Nothing here holds the gas.".into(),
        None,
        vec![
            Remedy::new(format!("Add {} psyllium", weight(grams)), vec![Change::Add { ingredient: "psyllium".into(), grams }]),
            Remedy::meant("The blend holds gum"),
        ],
    )
}

fn gum_high(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    let over = [("xanthan", 4.0, 2.0), ("psyllium", 9.0, 5.0)].into_iter().filter_map(|(id, limit, usual)| {
        let percent = share(a, |l| l.ingredient.kind == id);
        let (line, _) = main_line(a, |l| l.ingredient.kind == id).filter(|_| percent > limit)?;
        let grams = a.grams_at(usual);
        Some(Found {
            severity: Note,
            message: format!("{} % {id} makes a rubbery crumb.", show_percent(percent)),
            line: Some(line),
            remedies: vec![
                Remedy::new(format!("Set {} %, {}", show(usual, 0), weight(weighable(grams))), vec![set(a, line, grams)]),
                Remedy::meant("Meant so"),
            ],
        })
    });
    over.collect()
}
