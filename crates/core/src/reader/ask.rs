//! Which questions a line raises by what it is, and which only the whole recipe raises.

use enumset::enum_set;

use super::{
    Choices,
    clue::{Clue, Clues},
    questions::{Answer, Question},
    read_line::ReadLine,
};
use crate::pantry::{Fact, Family};

/// Words that settle which yeast is meant.
const YEAST_TOLD: Clues = enum_set!(Clue::Instant | Clue::Dry | Clue::Active | Clue::Fresh | Clue::Quick | Clue::YeastForm | Clue::Sachet);
/// Below this share of the flour it does not matter.
const LITTLE_PCT: f64 = 2.0;
/// Butter over this share of the flour brings salt that counts.
const MUCH_BUTTER_PCT: f64 = 5.0;
/// Eggs over this share of the flour: their size counts.
const MANY_EGGS_PCT: f64 = 10.0;

/// Questions that hang on the ingredient, whatever the unit.
pub(super) fn of_line(line: &mut ReadLine) {
    let clues = line.clues;
    let grams = line.grams.map_or(0.0, |g| g.likely);
    let bare_yeast = line.ingredient.family == Family::Yeast && clues.is_disjoint(YEAST_TOLD);
    if bare_yeast && line.ingredient.yeast_kind().is_some() && grams > 0.0 {
        line.questions.push(Question::new(
            "yeast-kind",
            vec![
                Answer::kind("instant", "Instant", "yeast-instant"),
                Answer::kind("active-dry", "Active dry", "yeast-active-dry"),
                Answer::kind("fresh", "Fresh", "yeast-fresh"),
            ],
        ));
    }
    if line.ingredient.is(Fact::Leaven) && !tells_hydration(&line.source) && !clues.contains(Clue::Hydration) {
        line.questions.push(Question::new(
            "leaven-hydration",
            vec![
                Answer::kind("100", "Half water", if line.ingredient.is(Fact::Rye) { "leaven-rye" } else { "leaven-wheat" }),
                Answer::kind("50", "Stiff, one third water", "leaven-stiff"),
            ],
        ));
    }
    if clues.contains(Clue::Divided) {
        line.questions
            .push(Question::new("divided-check", vec![Answer::grams("total", format!("{} in all", crate::measure::weight(grams)), grams)]));
    }
    let kind = |answer, label: &str| Answer::kind(answer, label, &line.ingredient.id);
    let asked = match line.ingredient.kind.as_str() {
        "malt-powder" if !clues.contains(Clue::Diastatic) => {
            Some(("malt-kind", vec![kind("diastatic", "Diastatic"), kind("non-diastatic", "Not diastatic")]))
        }
        "gf-blend" if !clues.contains(Clue::Gum) => {
            Some(("gf-blend-gum", vec![kind("gum", "It holds gum"), kind("no-gum", "No gum in it")]))
        }
        _ => None,
    };
    line.questions.extend(asked.map(|(id, answers)| Question::new(id, answers)));
}

/// `100 %` beside a leaven is its water on its flour; `20 %` is its share of the dough.
fn tells_hydration(source: &str) -> bool {
    let before = source.split('%').next().filter(|b| b.len() < source.len()).map(str::trim_end);
    let digits = before.map(|b| b.len() - b.trim_end_matches(|c: char| c.is_ascii_digit()).len());
    before.zip(digits).and_then(|(b, n)| b.get(b.len() - n..)).and_then(|d| d.parse::<u32>().ok()).is_some_and(|pct| pct >= 40)
}

/// Questions that only matter in the dough as a whole: the butter's salt, the size of many eggs, a vague knob of butter.
pub(super) fn of_recipe(lines: &mut [ReadLine], choices: &Choices) {
    let flour: f64 = lines.iter().filter_map(|l| l.grams.map(|g| g.likely * l.ingredient.flour_share)).sum();
    // A recipe all in percent waits for one weight.
    if flour <= 0.0
        && lines.len() > 2
        && lines.iter().all(|l| l.percent.is_some() && l.grams.is_none())
        && let Some(line) = lines.iter_mut().find(|l| l.ingredient.family == Family::Flour)
    {
        let part = line.percent.unwrap_or(100.0) / 100.0;
        let of = |answer, flour: f64| Answer::grams(answer, format!("{} flour in all", crate::measure::weight(flour)), flour * part);
        line.questions.push(Question::new("vague-amount", vec![of("500", 500.0), of("1000", 1000.0)]));
    }
    let salted = lines.iter().any(|l| l.ingredient.family == Family::Salt);
    let share = |l: &ReadLine| l.grams.map_or(0.0, |g| if flour > 0.0 { 100.0 * g.likely / flour } else { f64::INFINITY });
    for line in lines.iter_mut() {
        if flour > 0.0 && line.ingredient.family == Family::Fat && share(line) < LITTLE_PCT {
            line.questions.retain(|q| q.id != "vague-amount" || line.grams.is_none());
        }
        // Only butter and eggs are asked about here.
        if !matches!(line.ingredient.kind.as_str(), "butter-unsalted" | "egg-whole") {
            continue;
        }
        let percent = share(line);
        if line.ingredient.kind == "butter-unsalted"
            && line.questions.is_empty()
            && !line.clues.contains(Clue::Unsalted)
            && line.stage != crate::formula::Stage::Finish
            && percent > MUCH_BUTTER_PCT
            && (salted || (flour <= 0.0 && line.grams.is_some_and(|g| !g.is_exact())))
        {
            line.questions.push(Question::new(
                "butter-salt",
                vec![Answer::kind("unsalted", "Unsalted", "butter-unsalted"), Answer::kind("salted", "Salted", "butter-salted")],
            ));
        }
        let by_piece = line.ingredient.kind == "egg-whole" && line.grams.is_some_and(|g| !g.is_exact()) && !line.by_volume;
        if by_piece && flour > 0.0 && percent > MANY_EGGS_PCT && !line.sized {
            let grams = line.grams.map_or(0.0, |g| g.likely);
            let count = (grams
                / line.ingredient.piece(if choices.is_american() { "us-large" } else { "uk-eu-m" }).map_or(50.0, |e| e.likely))
            .round();
            let sizes: [(&'static str, &str, &str); 3] = if choices.is_american() {
                [("medium", "Medium", "us-medium"), ("large", "Large", "us-large"), ("extra-large", "Extra large", "us-xl")]
            } else {
                [("small", "Small", "uk-eu-s"), ("medium", "Medium", "uk-eu-m"), ("large", "Large", "uk-eu-l")]
            };
            let answers = sizes.iter().filter_map(|(answer, label, key)| {
                line.ingredient.piece(key).map(|e| {
                    Answer::grams(answer, format!("{label}, {}", crate::measure::weight(count * e.likely)), count * e.likely).within(0.06)
                })
            });
            line.questions.push(Question::new("egg-size", answers.collect()));
        }
    }
}
