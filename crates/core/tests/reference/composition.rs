//! The pantry's composition against another table: Indian Food Composition Tables 2017 (Longvah et al.,
//! National Institute of Nutrition), read row by row and kept beside each ingredient in `cross_check`.
//! Ours come from USDA FoodData Central. Two tables of two countries agree as far as two kinds of the food do.

use cerealis_core::Tables;

const INGREDIENTS: &str = include_str!("../../data/ingredients.csv");

/// Ours and theirs for one part of one ingredient.
struct Pair {
    id: String,
    part: String,
    ours: f64,
    theirs: f64,
}

fn pairs() -> Vec<Pair> {
    let mut rows = csv::Reader::from_reader(INGREDIENTS.as_bytes());
    let heads = rows.headers().unwrap().clone();
    let at = |name: &str| heads.iter().position(|h| h == name).unwrap();
    let (id, check) = (at("id"), at("cross_check"));
    let mut all = Vec::new();
    for row in rows.records() {
        let row = row.unwrap();
        let Some((_, figures)) = row[check].split_once("(ours/IFCT, %):") else { continue };
        for figure in figures.split(';') {
            let Some((part, both)) = figure.trim().split_once(' ') else { continue };
            let Some((ours, theirs)) = both.split_once('/') else { continue };
            let read = |t: &str| t.trim().split(' ').next().and_then(|n| n.parse::<f64>().ok());
            if let (Some(ours), Some(theirs)) = (read(ours), read(theirs)) {
                all.push(Pair { id: row[id].to_owned(), part: part.to_owned(), ours, theirs });
            }
        }
    }
    all
}

#[test]
fn more_than_forty_rows_agree_with_another_countrys_table() {
    let pantry = Tables::built_in().unwrap().pantry;
    let all = pairs();
    let mut rows: Vec<&str> = all.iter().map(|p| p.id.as_str()).collect();
    rows.dedup();
    assert!(rows.len() >= 40, "{}", rows.len());
    for p in &all {
        // The figure that was compared is the one that is reckoned with.
        let i = pantry.get(&p.id).unwrap();
        let now = match p.part.as_str() {
            "water" => i.water_pct,
            "fat" => i.fat_pct,
            "protein" => i.protein_pct,
            other => panic!("{}: {other}", p.id),
        };
        assert!((now - p.ours).abs() < 0.01, "{}: {} is {now}, compared was {}", p.id, p.part, p.ours);
    }
    for (part, median) in [("water", 1.5), ("fat", 0.6), ("protein", 0.6)] {
        let mut gaps: Vec<f64> = all.iter().filter(|p| p.part == part).map(|p| (p.ours - p.theirs).abs()).collect();
        gaps.sort_by(f64::total_cmp);
        assert!(gaps[gaps.len() / 2] <= median, "{part}: the middle gap is {}", gaps[gaps.len() / 2]);
    }
}

#[test]
fn energy_follows_from_the_parts() {
    // Atwater's general factors: 4 kcal a gram of protein and carbohydrate, 9 of fat, 7 of alcohol (Merrill and
    // Watt 1973, USDA Handbook 74, from memory). Fibre gives less and the tables know it, so only whole shelves agree.
    let pantry = Tables::built_in().unwrap().pantry;
    let mut close = 0;
    let mut all = 0;
    for i in pantry.all().iter().filter(|i| i.kcal_100g > 20.0) {
        let reckoned = 4.0 * (i.protein_pct + i.sugars_pct + i.starch_fibre_pct) + 9.0 * i.fat_pct + 7.0 * i.alcohol_pct;
        all += 1;
        close += usize::from((reckoned / i.kcal_100g - 1.0).abs() < 0.15);
    }
    assert!(close * 10 >= all * 8, "{close} of {all}");
}
