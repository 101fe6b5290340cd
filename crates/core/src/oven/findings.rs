//! What to mind in the oven, each with its remedy in words.

use super::{Advice, Bake, Constants, Meets, Status, Vessel, colour_word, sides};
use crate::findings::{Change, Finding, Remedy, Severity};
use crate::measure::{show, to_nearest};

/// Thinner than this a sheet is dried crisp, cm.
const CRISP_SHEET_CM: f64 = 0.5;
const TRADE: &str = "common practice, no source";

fn finding(id: &'static str, severity: Severity, message: String, why: &'static str, remedies: Vec<Remedy>) -> Finding {
    Finding { id, severity, message, why, source: TRADE, line: None, step: None, source_line: None, remedies }
}

/// Findings on a bake and its advice.
#[must_use]
pub fn find(bake: &Bake, a: &Advice, k: &Constants) -> Vec<Finding> {
    let mut found = Vec::new();
    let set = show(a.set_c, 0);
    if a.status == Status::NotDone || a.set_c < 140.0 {
        found.push(finding(
            "oven-too-cool",
            Severity::Caution,
            format!("The middle will not be done at {set} °C in good time."),
            "Below about 140 °C the heat does not get in before the crust is dry.",
            vec![Remedy::new("Set 180 °C", vec![Change::Oven { set_c: 180.0, fan: false }])],
        ));
    } else if a.set_c < 150.0 {
        found.push(finding(
            "cool-for-bread",
            Severity::Note,
            format!("{set} °C is cool for bread: check the figure."),
            "Bread bakes between 165 and 250 °C.",
            Vec::new(),
        ));
    }
    if a.set_c > 275.0 {
        found.push(finding(
            "hotter-than-most-home-ovens",
            Severity::Note,
            format!("{set} °C: many ovens end at 250–275 °C."),
            "The dial may end before.",
            Vec::new(),
        ));
    }
    if a.status == Status::ColourFirst {
        // Under a closed lid nothing can be laid over it, and the lid itself slows the crust.
        let cooler = to_nearest(a.set_c - if bake.lid { 10.0 } else { 25.0 }, 5.0).max(160.0);
        let foil = a.foil_min.map_or_else(String::new, |m| format!(" Lay foil over it at {} min.", show(m, 0)));
        let remedies = if cooler < a.set_c {
            vec![Remedy::new(format!("Set {} °C", show(cooler, 0)), vec![Change::Oven { set_c: cooler, fan: false }])]
        } else {
            Vec::new()
        };
        found.push(finding(
            "crust-ahead-of-core",
            Severity::Caution,
            format!("At {set} °C the crust is too dark before the middle is done.{foil}"),
            "Sugar, egg and milk brown early; a big piece takes long.",
            remedies,
        ));
    }
    if a.colour_index >= 1.4 {
        found.push(finding(
            "very-dark",
            Severity::Note,
            "Dark crust carries more acrylamide: golden is enough.".into(),
            "EU 2017/2158 sets benchmarks for soft bread, from memory. Follow your local food safety authority.",
            Vec::new(),
        ));
    }
    if a.geometry.length > 0.40 || a.geometry.width > 0.40 {
        found.push(finding(
            "too-wide-for-oven",
            Severity::Caution,
            format!("{} cm long: does it fit your oven?", show(100.0 * a.geometry.length, 0)),
            "Most home ovens are 40 cm wide.",
            Vec::new(),
        ));
    }
    if let Some(s) = sides(bake, a.set_c, k)
        && colour_word(s.cool) != colour_word(s.hot)
    {
        let half = a.turn_min.or_else(|| a.minutes.map(|m| m / 2.0));
        let turn = half.map_or_else(|| "turn it half way".to_owned(), |m| format!("turn it at {} min", show(m, 0)));
        found.push(finding(
            "sides-differ",
            Severity::Note,
            format!(
                "One side {}, the other {}: {turn}, and it comes out {}.",
                colour_word(s.cool),
                colour_word(s.hot),
                colour_word(s.turned)
            ),
            "The oven is hotter on one side.",
            Vec::new(),
        ));
    }
    if bake.dough_c <= 0.0 {
        found.push(finding(
            "frozen-dough",
            Severity::Note,
            "Frozen dough takes longer than this says.".into(),
            "The heat that melts the ice is not counted.",
            Vec::new(),
        ));
    }
    if bake.lid_off_min.is_some() && a.lid_off_min.is_none() && bake.vessel.covers() {
        found.push(finding(
            "lid-never-off",
            Severity::Note,
            "The lid stays on to the end: a pale, soft crust.".into(),
            "The bread is done before the lid would come off.",
            Vec::new(),
        ));
    }
    if a.meets == Some(Meets::ColourAheadAtCoolest) && bake.vessel.covers() {
        found.push(finding(
            "lid-on-longer",
            Severity::Note,
            "Paler than a pot usually bakes: keep the lid on to near the end.".into(),
            "Under the lid it steams and hardly colours.",
            Vec::new(),
        ));
    }
    if bake.thickness_cm.is_some_and(|cm| cm < CRISP_SHEET_CM) {
        found.push(finding(
            "crisp-sheet",
            Severity::Note,
            "So thin it is dried, not baked: about twice the minutes, until it is crisp.".into(),
            "The model bakes to a done middle and knows nothing of drying through.",
            Vec::new(),
        ));
    }
    found.extend(rated(bake.vessel, a.set_c));
    found
}

/// What a vessel, or the paper in it, is rated for, °C, with what is said above it; pack labels.
fn rated(vessel: Vessel, set_c: f64) -> Option<Finding> {
    let (limit_c, words) = match vessel {
        Vessel::PanSilicone => (230.0, "Silicone ends at 230 °C: a metal tin, or a cooler oven."),
        Vessel::PanGlass => (220.0, "Many glass dishes end at 220–230 °C: read the base, or take metal."),
        Vessel::PanMetal | Vessel::MuffinTin => (230.0, "Non-stick coatings end at 230–260 °C: read the label, or take bare metal."),
        Vessel::Sheet | Vessel::Pot => {
            (220.0, "Baking paper chars above its printed limit, often 220–230 °C: read the pack, or flour instead.")
        }
        Vessel::Stone | Vessel::Steel | Vessel::Dish | Vessel::Cover => return None,
    };
    let why = "Above its rating it fumes, chars or cracks. Pack labels.";
    (set_c > limit_c).then(|| finding("paper-limit", Severity::Caution, words.to_owned(), why, Vec::new()))
}

/// Usual care at the oven, where it belongs; `steam` if it is steamed. Defers to local rules.
#[must_use]
pub fn cautions(bake: &Bake, steam: bool) -> Vec<&'static str> {
    let mut all = Vec::new();
    if steam {
        all.push("Steam: stand aside, open slowly, dry gloves. No water on the oven glass or lamp.");
    }
    if bake.vessel.covers() {
        all.push("The pot looks cold and is as hot as the oven. Two dry mitts; leave a mitt on the lid.");
    }
    if bake.vessel == Vessel::PanGlass {
        all.push("Never cold glass into a hot oven, nor hot glass onto a wet or cold surface.");
    }
    if bake.glaze == super::Glaze::Soda {
        all.push("Soda bath: spoon the soda in off the heat, it boils over; no aluminium. Lye is another thing: it burns skin and eyes.");
    }
    if bake.egg_pct > 0.0 || bake.glaze == super::Glaze::Egg || bake.glaze == super::Glaze::YolkMilk {
        all.push("Raw egg: wash hands, keep the glaze cold, throw it away after 2 h. Follow your local food safety authority; it may ask for more.");
    }
    all
}
