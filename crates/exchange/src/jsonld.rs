//! schema.org Recipe as JSON-LD (W3C JSON-LD 1.1; vocabulary schema.org/Recipe, from memory).

use cerealis_core::{
    Tables,
    formula::{Formula, Label},
};
use serde_json::{Map, Value, json};

use crate::{html, words};

pub fn write(formula: &Formula, tables: &Tables) -> Value {
    let analysis = formula.analyse(&tables.pantry, &tables.styles);
    let lines = formula
        .lines
        .iter()
        .map(|l| format!("{} g {}{}", words::grams(l.grams.likely), words::name(&l.ingredient, tables), words::purpose(l)));
    let steps: Vec<Value> = words::steps(formula, tables).into_iter().map(|text| json!({ "@type": "HowToStep", "text": text })).collect();
    let mut recipe = json!({
        "@context": "https://schema.org",
        "@type": "Recipe",
        "name": formula.name.as_deref().unwrap_or("Unnamed bread"),
        "recipeCategory": "Bread",
        "keywords": analysis.style.name,
        "recipeIngredient": lines.collect::<Vec<_>>(),
        "recipeInstructions": steps,
    });
    if let Some(object) = recipe.as_object_mut() {
        if let Some(makes) = words::makes(formula) {
            object.insert("recipeYield".into(), json!(makes));
        }
        if let Some(label) = analysis.label() {
            object.insert("nutrition".into(), nutrition(&label));
            let diets = diets(&label);
            if !diets.is_empty() {
                object.insert("suitableForDiet".into(), json!(diets));
            }
        }
    }
    recipe
}

fn nutrition(label: &Label) -> Value {
    let n = &label.per_100g;
    let g = |b: cerealis_core::measure::Band| format!("{:.1} g", b.likely);
    json!({
        "@type": "NutritionInformation", "servingSize": "100 g", "calories": format!("{:.0} kcal", n.kcal.likely), "fatContent": g(n.fat),
        "carbohydrateContent": g(n.carbohydrate), "sugarContent": g(n.sugars), "proteinContent": g(n.protein),
        "sodiumContent": format!("{:.0} mg", 1000.0 * n.salt.likely / 2.5),
    })
}

fn diets(label: &Label) -> Vec<&'static str> {
    let known = [("vegan", "https://schema.org/VeganDiet"), ("no gluten", "https://schema.org/GlutenFreeDiet")];
    known.into_iter().filter(|(word, _)| label.diets.contains(word)).map(|(_, term)| term).collect()
}

/// The first Recipe in a JSON-LD document: the document itself, one of an array, one of a graph.
pub fn recipe_in(value: &Value) -> Option<&Map<String, Value>> {
    match value {
        Value::Array(all) => all.iter().find_map(recipe_in),
        Value::Object(object) => {
            let is = |t: &Value| t.as_str().is_some_and(|t| t.rsplit(['/', ':', '#']).next() == Some("Recipe"));
            let typed = object.get("@type").is_some_and(|t| is(t) || t.as_array().is_some_and(|all| all.iter().any(is)));
            if typed {
                return Some(object);
            }
            ["@graph", "mainEntity", "mainEntityOfPage"].iter().filter_map(|key| object.get(*key)).find_map(recipe_in)
        }
        Value::Null | Value::Bool(_) | Value::Number(_) | Value::String(_) => None,
    }
}

/// Every text of a value: a string, a list of them, steps and sections of steps.
fn texts(value: &Value, out: &mut Vec<String>) {
    match value {
        Value::String(s) => out.extend(html::plain(s).lines().map(str::trim).filter(|l| !l.is_empty()).map(str::to_owned)),
        Value::Number(n) => out.push(n.to_string()),
        Value::Array(all) => all.iter().for_each(|v| texts(v, out)),
        Value::Object(o) => {
            if let Some(steps) = o.get("itemListElement") {
                texts(steps, out);
            } else if let Some(text) = ["text", "@value", "name"].iter().find_map(|key| o.get(*key)) {
                texts(text, out);
            }
        }
        Value::Null | Value::Bool(_) => {}
    }
}

fn all(recipe: &Map<String, Value>, keys: &[&str]) -> Vec<String> {
    let mut out = Vec::new();
    if let Some(value) = keys.iter().find_map(|k| recipe.get(*k)) {
        texts(value, &mut out);
    }
    out
}

/// The recipe in words, as the reader takes it.
pub fn words(recipe: &Map<String, Value>) -> String {
    let mut text = String::new();
    if let Some(name) = all(recipe, &["name", "headline"]).first() {
        // A heading, so that a name that sounds like an ingredient is not read as one.
        text += &format!("# {name}\n\n");
    }
    text += "Ingredients:\n";
    for line in all(recipe, &["recipeIngredient", "ingredients"]) {
        text += &format!("{line}\n");
    }
    text += "\nMethod:\n";
    for step in all(recipe, &["recipeInstructions"]) {
        text += &format!("{step}\n");
    }
    if let Some(makes) = all(recipe, &["recipeYield", "yield"]).into_iter().max_by_key(String::len) {
        let lower = makes.to_lowercase();
        let told = ["makes", "serves", "yield", "serving"].iter().any(|w| lower.contains(w));
        text += &if told { format!("{makes}\n") } else { format!("Makes {makes}\n") };
    }
    text
}
