//! A formula as a page to read, in Markdown: lists by stage, weights with baker's percent, steps.

use cerealis_core::{
    Tables,
    formula::{Formula, Stage, Used},
    measure::show_percent,
};

use crate::words;

const fn heading(stage: Stage, used: Option<Used>) -> &'static str {
    match used {
        Some(Used::Filling) => return "Filling",
        Some(Used::Icing) => return "Icing",
        None => {}
    }
    match stage {
        Stage::Leaven => "Leaven",
        Stage::Preferment => "Preferment",
        Stage::Soaker => "Soaker",
        Stage::Scald => "Scald",
        Stage::Dough => "Dough",
        Stage::Late => "Late, after kneading",
        Stage::Inclusion => "Inclusions, folded in last",
        Stage::Finish => "Finish",
    }
}

pub fn write(formula: &Formula, tables: &Tables) -> String {
    let a = formula.analyse(&tables.pantry, &tables.styles);
    // Marks of Markdown in a name would change the page.
    let quoted =
        |text: &str| text.replace(['*', '_', '`', '#', '<', '>', '[', ']', '|'], " ").split_whitespace().collect::<Vec<_>>().join(" ");
    let mut page = format!("# {}\n", quoted(formula.name.as_deref().unwrap_or("Unnamed bread")));
    let lists = Stage::ALL.map(|stage| (stage, None)).into_iter().chain(Used::ALL.map(|used| (Stage::Finish, Some(used))));
    for (stage, used) in lists {
        let lines: Vec<_> = formula.lines.iter().zip(&a.line_pct).filter(|(l, _)| (l.stage, l.used) == (stage, used)).collect();
        if lines.is_empty() {
            continue;
        }
        page += &format!("\n## {}\n\n", heading(stage, used));
        for (l, percent) in lines {
            let share =
                percent.filter(|_| a.flour_g.likely > 0.0).map(|p| format!(" ({} % of flour)", show_percent(p))).unwrap_or_default();
            page += &format!("- {} g {}{share}\n", words::grams(l.grams.likely), words::name(&l.ingredient, tables));
        }
    }
    let steps = words::steps(formula, tables);
    let makes = words::makes(formula);
    if !steps.is_empty() || makes.is_some() {
        page += "\n## Method\n\n";
        for (i, step) in steps.iter().enumerate() {
            page += &format!("{}. {}\n", i + 1, quoted(step));
        }
        // Told in the steps, it is not told again.
        if let Some(makes) = makes.filter(|_| !steps.iter().any(|s| s.to_lowercase().starts_with("make"))) {
            page += &format!("\nMakes {makes}.\n");
        }
    }
    page
}
