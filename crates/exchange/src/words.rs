//! How a line is written so that it is read back as the same: a weight, a name, what it is for.

use cerealis_core::{
    Tables,
    formula::{Formula, Line, Stage, Used},
    pantry::{Family, Ingredient},
    reader::{self, Choices},
};

/// Grams with as many digits as are needed, and no more than a hundredth.
pub fn grams(g: f64) -> String {
    let text = format!("{g:.2}");
    text.trim_end_matches('0').trim_end_matches('.').to_owned()
}

/// The shortest of its names that the reader takes for it.
pub fn name(i: &Ingredient, tables: &Tables) -> String {
    let short = i.short_name();
    let same = |name: &&str| {
        let line = format!("100 g {name}");
        reader::read(&line, &Choices::default(), &[], tables).is_ok_and(|r| matches!(r.lines.as_slice(), [l] if l.ingredient.id == i.id))
    };
    let by_id = i.id.replace('-', " ");
    let mut names = [short, i.name.as_str()].into_iter().chain(i.synonyms.iter().map(String::as_str)).chain([by_id.as_str()]);
    names.find(same).unwrap_or(short).to_owned()
}

/// What a line is for, where that is not what its ingredient is usually for.
pub fn purpose(line: &Line) -> &'static str {
    match line.used {
        Some(Used::Filling) => return ", for the filling",
        Some(Used::Icing) => return ", for the icing",
        None => {}
    }
    match line.stage {
        // Flakes alone would be read as the dough's salt.
        Stage::Finish if line.ingredient.family == Family::Salt => ", to finish",
        s if s == Stage::usual(&line.ingredient) => "",
        Stage::Leaven => ", for the leaven",
        Stage::Preferment => ", for the preferment",
        Stage::Soaker => ", for the soaker",
        Stage::Scald => ", for the scald",
        Stage::Dough => ", for the dough",
        Stage::Late => ", after kneading",
        Stage::Inclusion => ", folded in last",
        Stage::Finish => ", for the glaze",
    }
}

/// The steps of the recipe, as they were written; where there is none, what is known of the oven.
pub fn steps(formula: &Formula, tables: &Tables) -> Vec<String> {
    let written = formula.text.as_deref().and_then(|t| reader::read(t, &Choices::default(), &[], tables).ok());
    let mut steps: Vec<String> = Vec::new();
    for s in written.iter().flat_map(|r| &r.steps) {
        // A sentence with two settings is two steps with the same words.
        if steps.last() != Some(&s.text) {
            steps.push(s.text.clone());
        }
    }
    let oven = formula.oven.map(|o| {
        let at = o.set_c.map(|c| format!(" at {c:.0} °C")).unwrap_or_default();
        let long = o.minutes.map(|(l, h)| if l < h { format!(" for {l:.0}-{h:.0} minutes") } else { format!(" for {l:.0} minutes") });
        format!("Bake{at}{}.", long.unwrap_or_default())
    });
    if steps.is_empty() { oven.into_iter().collect() } else { steps }
}

/// What it makes: `12 pieces of 75 g`.
pub fn makes(formula: &Formula) -> Option<String> {
    formula.pieces.as_ref().map(|p| {
        let what = if p.count == 1 { "piece" } else { "pieces" };
        p.piece_g.map_or_else(|| format!("{} {what}", p.count), |g| format!("{} {what} of {} g", p.count, grams(g)))
    })
}
