//! What to mind in the oven, each with its remedy in words.

use super::{Advice, Bake, Constants, Meets, Status, Vessel, colour_word, sides};
use crate::findings::{Change, Finding, Remedy, Rule, Severity, rule};
use crate::measure::{between, centimetres, dial, length, setting, show, to_nearest};
use crate::safety::{self, authority};

/// Thinner than this a sheet is dried crisp, cm.
const CRISP_SHEET_CM: f64 = 0.5;
const TRADE: &str = "common practice, no source";

/// The rules of the findings raised here.
pub const RULES: &[Rule] = &[
    Rule::new("oven-too-cool", concat!("Below about ", dial!(140), " the heat does not get in before the crust is dry."), TRADE),
    Rule::new("cool-for-bread", between!("Bread bakes", 165, 250, dial), TRADE),
    Rule::new("hotter-than-most-home-ovens", "The dial may end before.", TRADE),
    Rule::new("crust-ahead-of-core", "Sugar, egg and milk brown early; a big piece takes long.", "oven model; common practice, no source"),
    Rule::new("very-dark", concat!("EU 2017/2158 sets benchmarks for soft bread, from memory. ", authority!()), TRADE),
    Rule::new("too-wide-for-oven", concat!("Most home ovens are ", centimetres!(40), " wide."), TRADE),
    Rule::new("sides-differ", "The oven is hotter on one side.", TRADE),
    Rule::new("frozen-dough", "The heat that melts the ice is not counted.", TRADE),
    Rule::new("lid-never-off", "The bread is done before the lid would come off.", TRADE),
    Rule::new("lid-on-longer", "Under the lid it steams and hardly colours.", TRADE),
    Rule::new("crisp-sheet", "The model bakes to a done middle and knows nothing of drying through.", TRADE),
    Rule::new("paper-limit", "Above its rating it fumes, chars or cracks; paper chars above its printed limit.", "pack labels"),
];

fn finding(rule: &'static Rule, severity: Severity, message: String, remedies: Vec<Remedy>) -> Finding {
    rule.raised(severity, message, remedies)
}

/// Findings on a bake and its advice.
#[must_use]
pub fn find(bake: &Bake, a: &Advice, k: &Constants) -> Vec<Finding> {
    let mut found = Vec::new();
    let set = setting(a.set_c);
    if a.status == Status::NotDone || a.set_c < 140.0 {
        found.push(finding(
            rule!("oven-too-cool"),
            Severity::Caution,
            format!("The middle will not be done at {set} in good time."),
            vec![Remedy::new(concat!("Set ", dial!(180)), vec![Change::Oven { set_c: 180.0, fan: false }])],
        ));
    } else if a.set_c < 150.0 {
        found.push(finding(rule!("cool-for-bread"), Severity::Note, format!("{set} is cool for bread: check the figure."), Vec::new()));
    }
    if a.set_c > 275.0 {
        found.push(finding(
            rule!("hotter-than-most-home-ovens"),
            Severity::Note,
            format!("{}: many ovens end at {}–{}.", set, setting(250.0).bare(), setting(275.0)),
            Vec::new(),
        ));
    }
    if a.status == Status::ColourFirst {
        // Under a closed lid nothing can be laid over it, and the lid itself slows the crust.
        let cooler = to_nearest(a.set_c - if bake.lid { 10.0 } else { 25.0 }, 5.0).max(160.0);
        let foil = a.foil_min.map_or_else(String::new, |m| format!(" Lay foil over it at {} min.", show(m, 0)));
        let remedies = if cooler < a.set_c {
            vec![Remedy::new(format!("Set {}", setting(cooler)), vec![Change::Oven { set_c: cooler, fan: false }])]
        } else {
            Vec::new()
        };
        found.push(finding(
            rule!("crust-ahead-of-core"),
            Severity::Caution,
            format!("At {set} the crust is too dark before the middle is done.{foil}"),
            remedies,
        ));
    }
    if a.colour_index >= 1.4 {
        found.push(finding(rule!("very-dark"), Severity::Note, "Dark crust carries more acrylamide: golden is enough.".into(), Vec::new()));
    }
    if a.geometry.length > 0.40 || a.geometry.width > 0.40 {
        found.push(finding(
            rule!("too-wide-for-oven"),
            Severity::Caution,
            format!("{} long: does it fit your oven?", length((100.0 * a.geometry.length).round())),
            Vec::new(),
        ));
    }
    if let Some(s) = sides(bake, a.set_c, k)
        && colour_word(s.cool) != colour_word(s.hot)
    {
        let half = a.turn_min.or_else(|| a.minutes.map(|m| m / 2.0));
        let turn = half.map_or_else(|| "turn it half way".to_owned(), |m| format!("turn it at {} min", show(m, 0)));
        found.push(finding(
            rule!("sides-differ"),
            Severity::Note,
            format!(
                "One side {}, the other {}: {turn}, and it comes out {}.",
                colour_word(s.cool),
                colour_word(s.hot),
                colour_word(s.turned)
            ),
            Vec::new(),
        ));
    }
    if bake.dough_c <= 0.0 {
        found.push(finding(rule!("frozen-dough"), Severity::Note, "Frozen dough takes longer than this says.".into(), Vec::new()));
    }
    if bake.lid_off_min.is_some() && a.lid_off_min.is_none() && bake.vessel.covers() {
        found.push(finding(rule!("lid-never-off"), Severity::Note, "The lid stays on to the end: a pale, soft crust.".into(), Vec::new()));
    }
    if a.meets == Some(Meets::ColourAheadAtCoolest) && bake.vessel.covers() {
        found.push(finding(
            rule!("lid-on-longer"),
            Severity::Note,
            "Paler than a pot usually bakes: keep the lid on to near the end.".into(),
            Vec::new(),
        ));
    }
    if bake.thickness_cm.is_some_and(|cm| cm < CRISP_SHEET_CM) {
        found.push(finding(
            rule!("crisp-sheet"),
            Severity::Note,
            "So thin it is dried, not baked: about twice the minutes, until it is crisp.".into(),
            Vec::new(),
        ));
    }
    found.extend(rated(bake.vessel, a.set_c));
    found
}

/// What a vessel, or the paper in it, is rated for, °C, with what is said above it; pack labels.
fn rated(vessel: Vessel, set_c: f64) -> Option<Finding> {
    let (limit_c, words) = match vessel {
        Vessel::PanSilicone => (230.0, concat!("Silicone ends at ", dial!(230), ": a metal tin, or a cooler oven.")),
        Vessel::PanGlass => {
            (220.0, concat!("Many glass dishes end at ", dial!(220 bare), "–", dial!(230), ": read the base, or take metal."))
        }
        Vessel::PanMetal | Vessel::MuffinTin => {
            (230.0, concat!("Non-stick coatings end at ", dial!(230 bare), "–", dial!(260), ": read the label, or take bare metal."))
        }
        Vessel::Sheet | Vessel::Pot => (
            220.0,
            concat!(
                "Baking paper chars above its printed limit, often ",
                dial!(220 bare),
                "–",
                dial!(230),
                ": read the pack, or flour instead."
            ),
        ),
        Vessel::Stone | Vessel::Steel | Vessel::Dish | Vessel::Cover => return None,
    };
    (set_c > limit_c).then(|| finding(rule!("paper-limit"), Severity::Caution, words.to_owned(), Vec::new()))
}

/// Usual care at the oven, where it belongs; `steam` if it is steamed. Defers to local rules.
#[must_use]
pub fn cautions(bake: &Bake, steam: bool) -> Vec<&'static str> {
    let egg = bake.egg_pct > 0.0 || bake.glaze == super::Glaze::Egg || bake.glaze == super::Glaze::YolkMilk;
    let all = [
        (steam, safety::STEAM),
        (bake.vessel.covers(), safety::HOT_POT),
        (bake.vessel == Vessel::PanGlass, safety::GLASS),
        (egg, safety::RAW_EGG),
    ];
    let bath = bake.finish_caution().filter(|_| bake.glaze == super::Glaze::Soda);
    all.into_iter().filter(|c| c.0).map(|c| c.1).chain(bath).collect()
}
