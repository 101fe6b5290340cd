//! A hundred recipes as people write them: cards, messages, notes, letters, tables, talk; English of seven countries and
//! nine other languages; thirteen with a planted slip. All invented; what is true of each was settled by reading it as a
//! baker, its grams follow from the pantry's table. Common practice, no source.

use cerealis_core::{
    formula::FormulaDraft,
    kitchen::Kitchen,
    plan,
    reader::{Choices, Reading, read},
};
use serde_json::Value;

use super::tables;

const RECIPES: &str = include_str!("../cases/recipes.json");
/// Share of the expectations that must hold.
const NEEDED: f64 = 0.97;

fn reading(recipe: &Value) -> Reading {
    let settings = &recipe["settings"];
    let of = |name: &str, usual: &str| settings[name].as_str().unwrap_or(usual).to_owned();
    let choices = Choices {
        cup: of("cup", "us"),
        flour_measure: of("flour_measure", "spooned"),
        locale: of("locale", "en-US"),
        ..Choices::default()
    };
    read(recipe["text"].as_str().unwrap(), &choices, &[], tables()).unwrap()
}

fn within(value: Option<f64>, range: &Value) -> bool {
    let end = |i: usize| range[i].as_f64().unwrap();
    value.is_some_and(|v| v >= end(0) - 1e-9 && v <= end(1) + 1e-9)
}

/// What of a recipe's expectations is not met.
fn misses(recipe: &Value) -> (usize, Vec<String>) {
    let (expect, r) = (&recipe["expect"], reading(recipe));
    let mut asked = 0;
    let mut missed = Vec::new();
    let mut check = |what: &str, met: bool, found: String| {
        asked += 1;
        if !met {
            missed.push(format!("{what}: {found}"));
        }
    };
    let t = tables();
    let formula = FormulaDraft::from(r.formula.body()).check(&t.pantry).unwrap();
    let a = formula.analyse(&t.pantry, &t.styles);
    let mut ids: Vec<&str> = r.findings(t).iter().map(|f| f.id).collect();
    ids.extend(plan::findings::of_recipe(Some(&r), &a, &Kitchen::default(), t).iter().map(|f| f.id));
    ids.extend(cerealis_core::formula::find(&a, t).iter().map(|f| f.id));
    ids.sort_unstable();
    ids.dedup();
    let figures = [
        ("flour_g", a.flour_g.likely),
        ("hydration_pct", a.hydration_pct.likely),
        ("effective_hydration_pct", a.effective_hydration_pct.likely),
        ("salt_pct", a.salt_pct.likely),
        ("sugar_pct", a.sugar_pct.likely),
        ("fat_pct", a.fat_pct.likely),
        ("yeast_instant_pct", a.yeast_instant_pct.likely),
        ("prefermented_flour_pct", a.prefermented_flour_pct),
        ("dough_g", a.dough_g.likely),
    ];
    for (name, value) in figures {
        if !expect[name].is_null() {
            check(name, within(Some(value), &expect[name]), format!("{value:.2} not in {}", expect[name]));
        }
    }
    let style = a.style.id.word();
    check("style", expect["style"].as_array().unwrap().iter().any(|s| s == style), format!("{style} not of {}", expect["style"]));
    let told: Vec<String> =
        r.steps.iter().map(|s| format!("{:?} {:?} {:?} {:?}", s.oven_c, s.minutes.map(|m| (m.low, m.high)), s.pieces, s.piece_g)).collect();
    if !expect["oven_c"].is_null() {
        check("oven_c", r.steps.iter().any(|s| within(s.oven_c, &expect["oven_c"])), format!("no {} in {told:?}", expect["oven_c"]));
    }
    if let (Some(low), Some(high)) = (expect["bake_min"][0].as_f64(), expect["bake_min"][1].as_f64()) {
        let fits = |m: f64| m >= low - 0.5 && m <= high + 0.5;
        let baked = r.steps.iter().filter(|s| s.oven_c.is_some()).filter_map(|s| s.minutes);
        let sum = baked.fold((0.0, 0.0), |(l, h), m| (l + m.low, h + m.high));
        let any = r.steps.iter().filter_map(|s| s.minutes).any(|m| fits(m.low) || fits(m.high));
        check("bake_min", any || (low - 0.5 <= sum.0 && sum.1 <= high + 0.5 && sum.1 > 0.0), format!("no {low}-{high} in {told:?}"));
    }
    if let Some(n) = expect["pieces"].as_u64() {
        let kept = r.formula.pieces.as_ref().map(|p| u64::from(p.count));
        check("pieces", kept == Some(n) || r.steps.iter().any(|s| s.pieces.map(u64::from) == Some(n)), format!("not {n} in {told:?}"));
    }
    if !expect["piece_g"].is_null() {
        check("piece_g", r.steps.iter().any(|s| within(s.piece_g, &expect["piece_g"])), format!("no {} in {told:?}", expect["piece_g"]));
    }
    for id in expect["findings"].as_array().unwrap() {
        check("slip", ids.iter().any(|i| id == i), format!("{id} not among {ids:?}"));
    }
    let alarms: Vec<&&str> = ids.iter().filter(|i| expect["no_findings"].as_array().unwrap().iter().any(|n| n == **i)).collect();
    check("alarm", alarms.is_empty(), format!("{alarms:?}"));
    let most = expect["unread_max"].as_u64().unwrap();
    check("unread", r.unread.len() as u64 <= most, format!("{:?}", r.unread.iter().map(|u| &u.source).collect::<Vec<_>>()));
    if let Some(least) = expect["unread_min"].as_u64() {
        let asks = r.lines.iter().filter(|l| !l.questions.is_empty()).count();
        check("asks", (r.unread.len() + asks) as u64 >= least, "nothing left unread and nothing asked".into());
    }
    (asked, missed)
}

#[test]
fn recipes_are_read_as_people_write_them() {
    let recipes: Vec<Value> = serde_json::from_str(RECIPES).unwrap();
    let (mut asked, mut lines, mut slips, mut alarms) = (0, Vec::new(), 0, 0);
    for recipe in &recipes {
        let (n, missed) = misses(recipe);
        asked += n;
        slips += missed.iter().filter(|m| m.starts_with("slip")).count();
        alarms += missed.iter().filter(|m| m.starts_with("alarm")).count();
        lines.extend(missed.into_iter().map(|m| format!("{} {m}", recipe["id"].as_str().unwrap())));
    }
    let met = 1.0 - lines.len() as f64 / asked as f64;
    let report = format!(
        "{}\n{} of {asked} not met, {:.1} %; {slips} slips not named; {alarms} false alarms",
        lines.join("\n"),
        lines.len(),
        100.0 * met
    );
    if std::env::var("SHOW").is_ok() {
        println!("{report}");
    }
    assert!(recipes.len() == 100 && asked >= 1200, "{asked}");
    assert!(met >= NEEDED && slips <= 2 && alarms <= 2, "{report}");
}

/// Lines as they were read, for a look at one recipe: `ONE=V011 cargo test -p cerealis-core one_recipe -- --nocapture`.
#[test]
fn one_recipe_can_be_looked_at() {
    let Ok(id) = std::env::var("ONE") else { return };
    let recipes: Vec<Value> = serde_json::from_str(RECIPES).unwrap();
    for recipe in recipes.iter().filter(|r| id.split(',').any(|i| r["id"] == i)) {
        let r = reading(recipe);
        println!("== {}\n{}\ntitle {:?}", recipe["id"], recipe["text"].as_str().unwrap(), r.formula.name);
        for l in &r.lines {
            println!(
                "  {} {:?} {} {}% step {} | {}",
                l.ingredient.id,
                l.grams.map(|g| (g.low, g.likely, g.high)),
                l.stage.word(),
                l.percent.unwrap_or(0.0),
                l.in_step,
                l.source
            );
        }
        for s in &r.steps {
            println!(
                "  > {} oven {:?} min {:?} n {:?} g {:?} lid {:?} | {}",
                s.verb,
                s.oven_c,
                s.minutes.map(|m| (m.low, m.high)),
                s.pieces,
                s.piece_g,
                s.lid,
                s.text
            );
        }
        println!("  unread {:?}\n  remarks {:?}\n  {:?}", r.unread, r.remarks, misses(recipe));
    }
}

/// Any text, read and shown: `TEXT="500 g flour …" cargo test -p cerealis-core any_text -- --nocapture`.
#[test]
fn any_text_can_be_looked_at() {
    let Ok(text) = std::env::var("TEXT") else { return };
    let locale = std::env::var("LOC").unwrap_or("en-GB".into());
    for text in text.split("\n====\n") {
        let r = read(text, &Choices { locale: locale.clone(), ..Choices::default() }, &[], tables()).unwrap();
        println!("== {text}\ntitle {:?}", r.formula.name);
        for l in &r.lines {
            println!(
                "  {} {:?} {} {}% step {} {:?} | {}",
                l.ingredient.id,
                l.grams.map(|g| (g.low.round(), (g.likely * 10.0).round() / 10.0, g.high.round())),
                l.stage.word(),
                l.percent.unwrap_or(0.0),
                l.in_step,
                l.questions.iter().map(|q| q.id).collect::<Vec<_>>(),
                l.source
            );
        }
        for s in &r.steps {
            println!(
                "  > {} oven {:?} min {:?} n {:?} g {:?} lid {:?} core {:?} | {}",
                s.verb,
                s.oven_c.map(f64::round),
                s.minutes.map(|m| (m.low, m.high)),
                s.pieces,
                s.piece_g,
                s.lid,
                s.core_c,
                s.text
            );
        }
        println!("  unread {:?}\n  remarks {:?}", r.unread.iter().map(|u| (&u.source, &u.words, &u.near)).collect::<Vec<_>>(), r.remarks);
        let loud: Vec<_> =
            r.findings(tables()).into_iter().filter(|f| f.severity != cerealis_core::findings::Severity::Note).map(|f| f.id).collect();
        println!("  findings {loud:?}");
    }
}
