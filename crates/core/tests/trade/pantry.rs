//! The pantry's table against itself and against what everyone knows.

use std::collections::BTreeMap;

use cerealis_core::pantry::{Family, Gluten, YeastKind};

use super::bench::tables;

#[test]
fn there_are_enough_ingredients_and_each_name_finds_its_own() {
    let pantry = &tables().pantry;
    assert!(pantry.all().len() >= 70, "{}", pantry.all().len());
    for i in pantry.all() {
        assert_eq!(pantry.get(&i.id).map(|x| &x.id), Some(&i.id));
        assert_eq!(pantry.find(&i.name).map(|x| x.id.clone()), Ok(i.id.clone()), "{}", i.name);
    }
}

#[test]
fn ids_are_plain_and_stand_once() {
    let mut seen = BTreeMap::new();
    for i in tables().pantry.all() {
        assert!(i.id.chars().all(|c| c.is_ascii_lowercase() || c.is_ascii_digit() || c == '-'), "{}", i.id);
        assert_eq!(seen.insert(i.id.clone(), i.name.clone()), None, "{} twice", i.id);
    }
}

#[test]
fn nothing_holds_more_than_itself() {
    for i in tables().pantry.all() {
        let sum = i.water_pct + i.fat_pct + i.sugars_pct.max(0.0) + i.alcohol_pct;
        assert!(sum <= 104.0, "{}: {sum}", i.id);
        for (what, share) in [("water", i.water_pct), ("fat", i.fat_pct), ("sugars", i.sugars_pct)] {
            assert!((0.0..=100.5).contains(&share), "{} {what} {share}", i.id);
        }
        assert!((0.0..=1.0).contains(&i.flour_share), "{}", i.id);
        assert!((0.0..=1.0).contains(&i.hydration_share), "{}", i.id);
    }
}

#[test]
fn every_row_names_its_source() {
    for i in tables().pantry.all() {
        assert!(!i.source.trim().is_empty(), "{}", i.id);
    }
}

#[test]
fn flour_is_flour_and_water_is_water() {
    let pantry = &tables().pantry;
    for i in pantry
        .all()
        .iter()
        .filter(|i| ["wheat-", "rye-", "spelt-"].iter().any(|p| i.id.starts_with(p)) && i.family == Family::Flour && i.gluten != Gluten::No)
    {
        let loose = ["wheat-gluten", "wheat-bran", "wheat-germ"].contains(&i.id.as_str());
        assert!(loose || i.flour_share > 0.99, "{} {}", i.id, i.flour_share);
    }
    let water = pantry.get("water").unwrap();
    assert!((water.water_pct - 100.0).abs() < 1e-9 && (water.hydration_share - 1.0).abs() < 1e-9 && water.flour_share == 0.0);
}

/// Something, its family, and whether its flour has gluten.
const KNOWN: &[(&str, Family)] = &[
    ("wheat-bread", Family::Flour),
    ("wheat-ap", Family::Flour),
    ("wheat-whole", Family::Flour),
    ("rye-dark", Family::Flour),
    ("salt-fine", Family::Salt),
    ("sugar-white", Family::Sugar),
    ("honey", Family::Sugar),
    ("egg-whole", Family::Egg),
    ("egg-yolk", Family::Egg),
    ("egg-white", Family::Egg),
];

#[test]
fn things_stand_in_their_families() {
    for (id, family) in KNOWN {
        assert_eq!(tables().pantry.get(id).unwrap().family, *family, "{id}");
    }
}

#[test]
fn butter_is_four_fifths_fat_and_the_rest_nearly_water() {
    // Codex Alimentarius 279-1971, from memory: butter holds at least 80 % fat and at most 16 % water.
    let butter = tables().pantry.get("butter-unsalted").unwrap();
    assert!(butter.fat_pct >= 80.0 && butter.fat_pct < 84.0, "{}", butter.fat_pct);
    assert!(butter.water_pct >= 15.0 && butter.water_pct <= 19.0, "{}", butter.water_pct);
}

#[test]
fn an_egg_is_three_quarters_water_and_a_tenth_fat() {
    let egg = tables().pantry.get("egg-whole").unwrap();
    assert!((74.0..78.0).contains(&egg.water_pct) && (9.0..11.5).contains(&egg.fat_pct), "{egg:?}");
}

#[test]
fn honey_is_a_sixth_water() {
    // Codex Alimentarius 12-1981, from memory: honey holds at most 20 % water.
    let honey = tables().pantry.get("honey").unwrap();
    assert!((15.0..=20.0).contains(&honey.water_pct), "{}", honey.water_pct);
}

#[test]
fn wheat_rye_and_spelt_hold_gluten_and_rice_and_maize_do_not() {
    for i in tables().pantry.all().iter().filter(|i| i.family == Family::Flour) {
        let cereal = ["wheat-", "rye-", "spelt-"].iter().any(|p| i.id.starts_with(p));
        if cereal {
            assert_ne!(i.gluten, Gluten::No, "{}", i.id);
        }
        if i.id.starts_with("rice-") || i.id.starts_with("maize-") {
            assert_eq!(i.gluten, Gluten::No, "{}", i.id);
        }
    }
}

#[test]
fn three_grams_of_fresh_yeast_are_one_of_instant() {
    let pantry = &tables().pantry;
    assert!((pantry.instant_equivalent(YeastKind::Fresh) - 1.0 / 3.0).abs() < 0.01);
    assert!((pantry.instant_equivalent(YeastKind::ActiveDry) - 0.8).abs() < 0.01);
    assert!((pantry.instant_equivalent(YeastKind::Instant) - 1.0).abs() < 1e-9);
}

#[test]
fn names_people_use_find_what_they_mean() {
    let cases = [
        ("strong flour", "wheat-bread"),
        ("Strong White Bread Flour", "wheat-bread"),
        ("bread flour", "wheat-bread"),
        ("plain flour", "wheat-ap"),
        ("all-purpose flour", "wheat-ap"),
        ("AP flour", "wheat-ap"),
        ("wholemeal", "wheat-whole"),
        ("whole wheat flour", "wheat-whole"),
        ("tipo 00", "wheat-00"),
        ("salt", "salt-fine"),
        ("sugar", "sugar-white"),
        ("instant yeast", "yeast-instant"),
        ("fresh yeast", "yeast-fresh"),
        ("olive oil", "oil-olive"),
        ("milk", "milk-whole"),
        ("butter", "butter-unsalted"),
        ("egg", "egg-whole"),
        ("Mehl", "wheat-ap"),
        ("farine", "wheat-ap"),
        ("harina", "wheat-ap"),
    ];
    for (typed, id) in cases {
        assert_eq!(tables().pantry.find(typed).map(|i| i.id.clone()).ok().as_deref(), Some(id), "{typed}");
    }
}

#[test]
fn a_slip_of_the_finger_gets_a_near_name() {
    for typed in ["bred flour", "watter", "instnat yeast", "buter"] {
        let near = tables().pantry.find(typed).unwrap_err();
        assert!(near.to_string().contains("pantry"), "{near}");
    }
}

#[test]
fn densities_are_those_of_kitchens() {
    // g per ml, from a US cup of 236.588 ml; water by definition, the others common practice.
    for (id, low, high) in
        [("water", 0.99, 1.0), ("milk-whole", 1.02, 1.04), ("honey", 1.36, 1.45), ("oil-olive", 0.90, 0.93), ("salt-fine", 1.1, 1.4)]
    {
        let density = tables().pantry.get(id).unwrap().cup_us_g.unwrap() / 236.588;
        assert!((low..=high).contains(&density), "{id} {density}");
    }
}
