//! What the oven's form says, over the formula's bake and the household's oven.

use std::collections::BTreeMap;

use actix_web::HttpResponse;
use cerealis_core::{
    formula::{Formula, bake_in},
    input::{InputErrors, Pointer},
    kitchen::{HouseOven, Kitchen},
    measure::{self, Units, setting},
    oven::{Bake, BakeBody, SettingFinding},
};
use serde::Deserialize;

use super::{Chrome, choose, formula_kept, kitchen};
use crate::{State, edge::PageFailure};

#[derive(Debug, Deserialize, Default, Clone)]
pub(super) struct Query {
    #[serde(default)]
    pub(super) formula: String,
    #[serde(default)]
    pub(super) p: BTreeMap<String, String>,
}

impl Query {
    pub(super) fn text(&self, name: &str) -> Option<String> {
        self.p.get(name).map(|v| v.trim().to_owned()).filter(|v| !v.is_empty())
    }
    pub(super) fn typed(&self, name: &str, usual: String) -> String {
        self.p.get(name).cloned().unwrap_or(usual)
    }
    /// The same question on another page of the oven.
    pub(super) fn address(&self, page: &str) -> String {
        let q = serde_qs::to_string(&Asking { formula: &self.formula, p: &self.p }).unwrap_or_default();
        format!("/oven{page}?{q}")
    }
}

#[derive(serde::Serialize)]
struct Asking<'a> {
    formula: &'a str,
    p: &'a BTreeMap<String, String>,
}

/// A bake as it was asked for.
pub(super) struct Asked {
    /// The formula's own bake in this oven.
    pub(super) base: Bake,
    /// What the form says of it.
    pub(super) told: BakeBody,
    /// What is to be baked, where it can be.
    pub(super) bake: Option<Bake>,
    /// What is wrong: field and words.
    pub(super) errors: Vec<(String, String)>,
    /// What was odd about a setting that was read on another scale.
    pub(super) read_as: Option<(f64, SettingFinding)>,
    /// The kitchen with the oven chosen.
    pub(super) kitchen: Kitchen,
    /// Which of the household's ovens.
    pub(super) nth: usize,
    /// Grams of the whole dough.
    pub(super) dough_g: f64,
}

impl Asked {
    pub(super) fn of(q: &Query, formula: &Formula, kitchen: Kitchen, state: &State) -> Self {
        let t = state.tables();
        let a = formula.analyse(&t.pantry, &t.styles);
        let nth = q.text("oven").and_then(|n| n.parse::<usize>().ok()).filter(|n| *n <= kitchen.other_ovens.len()).unwrap_or(0);
        let kitchen = kitchen.with_oven(nth);
        let base = bake_in(&a, &kitchen, &t.pantry);
        let mut errors = Vec::new();
        let (body, read_as) = body(q, (&kitchen.oven, &kitchen.units), &mut errors);
        if body.wants_tin(&base) {
            errors.push(("vessel".to_owned(), "A tin loaf stands in a tin: choose what it is made of.".to_owned()));
        }
        let checked = body.over(base.clone());
        let refused = checked.as_ref().err().map_or_else(Vec::new, |e: &InputErrors| e.0.clone());
        errors.extend(refused.into_iter().map(|e| (e.pointer.as_str().trim_start_matches('/').to_owned(), e.message)));
        let bake = checked.ok().filter(|_| errors.is_empty());
        Self { base, told: body, bake, errors, read_as, kitchen, nth, dough_g: a.dough_g.likely }
    }

    /// The bake to fill the form with.
    pub(super) fn shown(&self) -> &Bake {
        self.bake.as_ref().unwrap_or(&self.base)
    }
    pub(super) const fn oven(&self) -> &HouseOven {
        &self.kitchen.oven
    }
}

/// What the form says. A setting is read on the dial's own scale, or on the one that is written beside it.
fn body(q: &Query, (oven, units): (&HouseOven, &Units), wrong: &mut Vec<(String, String)>) -> (BakeBody, Option<(f64, SettingFinding)>) {
    let mut read_as = None;
    let set_c = q.text("set_c").and_then(|text| match oven.dial.read(&text) {
        Ok(read) => {
            read_as = read.set_c.zip(read.finding);
            read.set_c
        }
        Err(e) => {
            wrong.push(("set_c".to_owned(), e));
            None
        }
    });
    let mut figure = |name: &str| {
        let told = q.text(name)?;
        measure::typed(&told, measure::Asked::by_name(name), units)
            .map_err(|e| wrong.push((Pointer::root().at(name).as_str().trim_start_matches('/').to_owned(), e)))
            .ok()
    };
    let body = BakeBody {
        piece_g: figure("piece_g"),
        pieces: figure("pieces"),
        dough_c: figure("dough_c"),
        thickness_cm: figure("thickness_cm"),
        steam_min: figure("steam_min"),
        lid_off_min: figure("lid_off_min"),
        set_c,
        shape: q.text("shape"),
        vessel: q.text("vessel"),
        glaze: q.text("glaze"),
        colour: q.text("colour"),
        crust: q.text("crust"),
        lid: q.text("lid").map(|l| l == "1"),
        fan: q.text("fan").map(|f| f == "1"),
        arrangement: q.text("touching").map(|t| if t == "1" { "touching".to_owned() } else { "free".to_owned() }),
        ..BakeBody::default()
    };
    (body, read_as)
}

/// What is said of a setting that was read on another scale than it was written.
pub(super) fn said_of(read: (f64, SettingFinding), dial: cerealis_core::oven::Dial) -> String {
    use SettingFinding as F;
    let here = dial.told(read.0);
    match read.1 {
        F::LooksLikeFahrenheit | F::AssumedFahrenheit => {
            format!("Read as °F, which is {here}: no dial of °C goes so high. Right?")
        }
        F::LooksLikeCelsius | F::AssumedCelsius => format!("Read as °C, which is {here}: in °F it is too cool for bread. Right?"),
        F::LooksLikeGasMark | F::AssumedGasMark => format!("Read as a gas mark: {here}. Right?"),
        F::HotterThanMostHomeOvens => "Hotter than most home ovens go: check the figure.".to_owned(),
        F::CoolForBread => {
            format!("Cool for bread, which bakes between {} and {}: check the figure.", setting(165.0).bare(), setting(250.0))
        }
        F::NotABreadSetting => "No setting for bread.".to_owned(),
    }
}

/// What every page of the oven begins with.
pub(super) struct Opened {
    pub(super) chrome: Chrome,
    pub(super) formula: Formula,
    pub(super) name: String,
    pub(super) asked: Asked,
}

impl Opened {
    /// The bread that is asked for in the household's oven; the page for choosing one where none is.
    pub(super) async fn of(q: &Query, path: &'static str, state: &State) -> Result<Result<Self, HttpResponse>, PageFailure> {
        let kitchen = kitchen(state).await?;
        let chrome = Chrome::new("Oven", &kitchen, state.clock.now());
        if q.formula.is_empty() {
            let words = "The oven needs the dough: choose a formula, or read a new one.";
            return choose(state, chrome, "Which bread goes in?", words, path).await.map(Err);
        }
        let formula = formula_kept(state, &q.formula).await?;
        let asked = Asked::of(q, &formula, kitchen, state);
        let name = formula.name.clone().unwrap_or_else(|| "Unnamed bread".into());
        Ok(Ok(Self { chrome, formula, name, asked }))
    }
}
