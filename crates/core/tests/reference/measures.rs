//! Kitchen measures against their legal definitions.

use cerealis_core::pantry::Pantry;

/// Word, what it is by definition, who says so. The table is printed to 5–6 digits: tolerance 2e-5.
const DEFINED: &[(&str, f64, &str)] = &[
    ("lb", 453.592_37, "NIST SP 811 (2008), App. B: 0.453 592 37 kg exactly (from memory)"),
    ("oz", 28.349_523_125, "1/16 lb, same source (from memory)"),
    ("floz", 29.573_529_562_5, "NIST Handbook 44, App. C: US gallon = 231 in³, 128 fl oz (from memory)"),
    ("cup", 236.588_236_5, "8 US fl oz, same source (from memory)"),
    ("pint", 473.176_473, "16 US fl oz, same source (from memory)"),
    ("quart", 946.352_946, "32 US fl oz, same source (from memory)"),
    ("tbsp", 14.786_764_781_25, "1/2 US fl oz, same source (from memory)"),
    ("tsp", 4.928_921_593_75, "1/6 US fl oz, same source (from memory)"),
    ("kg", 1000.0, "BIPM SI Brochure"),
    ("dl", 100.0, "BIPM SI Brochure"),
    ("imperial pint", 568.261_25, "Weights and Measures Act 1985: 4.546 09 l / 8 (from memory)"),
];

#[test]
fn measures_are_what_the_law_says() {
    let pantry = Pantry::built_in().unwrap();
    for (word, value, source) in DEFINED {
        let row = pantry.measures.spellings().find(|(_, spelling, _)| spelling == word).and_then(|(at, ..)| pantry.measures.at(at));
        let got = row.unwrap_or_else(|| panic!("{word} is unknown")).value.likely;
        assert!((got / value - 1.0).abs() < 4e-5, "{word} is {got}, not {value}: {source}");
    }
}

#[test]
fn a_cup_of_flour_weighs_what_the_handbook_says() {
    let pantry = Pantry::built_in().unwrap();
    // USDA Agriculture Handbook 456 (Adams 1975), from memory: all-purpose 125 g spooned, sugar 200 g, water 237 g, butter 227 g.
    for (id, grams) in
        [("wheat-ap", 125.0), ("sugar-white", 200.0), ("water", 236.6), ("butter-unsalted", 227.0), ("honey", 339.0), ("milk-whole", 244.0)]
    {
        let cup = pantry.get(id).unwrap().cup_us_g.unwrap();
        assert!((cup / grams - 1.0).abs() < 0.01, "{id}: {cup} g, not {grams} g");
    }
}
