//! The setting a bread is baked at: the recipe's own or ours, chosen once, on the dial of the household's oven.

use super::{Analysis, Formula, OvenTold, Phase, oven_of};
use crate::{
    kitchen::{HouseOven, Kitchen},
    measure::to_nearest,
    oven::{Bake, Constants, DialTurn, Drying, FAN_K, MOST_TURNS, at_its_setting},
    pantry::Pantry,
};

/// Dials are turned in steps of so many °C.
const DIAL_STEP_C: f64 = 5.0;

impl OvenTold {
    /// What to turn a dial to for the heat the recipe means, °C in steps of five: less what the oven is hotter than
    /// its dial, and less 20 for a fan the recipe does not have. Recipes mean top and bottom heat unless they say
    /// otherwise. Common practice, no source.
    #[must_use]
    pub fn on_dial(&self, oven: &HouseOven) -> Option<f64> {
        self.set_c.map(|c| self.turned_to(c, oven))
    }

    /// The same of another setting this recipe tells.
    fn turned_to(&self, c: f64, oven: &HouseOven) -> f64 {
        let fan = f64::from(i8::from(self.fan) - i8::from(oven.fan)) * FAN_K;
        to_nearest(c - oven.offset_c.unwrap_or(0.0) + fan, DIAL_STEP_C)
    }
}

impl Formula {
    /// The recipe's own setting on this dial; none where it tells none, or the household takes ours.
    #[must_use]
    pub fn own_setting(&self, oven: &HouseOven) -> Option<f64> {
        self.oven.filter(|told| !told.ours).and_then(|told| told.on_dial(oven))
    }
}

impl Formula {
    /// When each phase of its bake begins, minutes after loading, as far as their minutes are told.
    fn phases_from(&self) -> Vec<(f64, &Phase)> {
        let mut from = Some(0.0);
        let begins = |phase| {
            let at: Option<f64> = from;
            from = at.zip(Phase::likely_min(phase)).map(|(at, minutes)| at + minutes);
            at.map(|at| (at, phase))
        };
        self.phases.iter().map_while(begins).collect()
    }

    /// The dial turned in its later phases, on this oven.
    fn turns_on(&self, oven: &HouseOven) -> Vec<DialTurn> {
        let Some(told) = self.oven.filter(|told| !told.ours) else { return Vec::new() };
        let mut set = told.on_dial(oven);
        let turn = |(after_min, phase): (f64, &Phase)| {
            let to_c = told.turned_to(phase.set_c.filter(|_| after_min > 0.0 && !phase.dries())?, oven);
            (set.replace(to_c) != Some(to_c)).then_some(DialTurn { after_min, to_c })
        };
        self.phases_from().into_iter().filter_map(turn).take(MOST_TURNS).collect()
    }

    /// When its lid comes off, minutes after loading, if it tells that.
    fn lid_comes_off(&self) -> Option<f64> {
        self.phases_from().into_iter().find(|(at, phase)| *at > 0.0 && phase.lid == Some(false)).map(|(at, _)| at)
    }

    /// What it does in the oven once it is done.
    fn drying(&self) -> Option<Drying> {
        let after = self.phases.iter().rev().take_while(|p| p.dries());
        let drying = after.fold(Drying { minutes: 0.0, off: false, ajar: false }, |d, p| Drying {
            minutes: d.minutes + p.likely_min().unwrap_or(0.0),
            off: d.off || p.off,
            ajar: d.ajar || p.ajar,
        });
        (drying.minutes > 0.0 && self.phases.iter().any(|p| !p.dries())).then_some(drying)
    }

    /// Whether its phases tell of a lid.
    pub(super) fn tells_a_lid(&self) -> bool {
        self.phases.iter().any(|p| p.lid.is_some())
    }
}

/// The bake of a formula in a household's oven, at the recipe's own settings where it goes by them.
#[must_use]
pub fn bake_in(a: &Analysis<'_>, kitchen: &Kitchen, pantry: &Pantry) -> Bake {
    bake_at(a, a.formula.own_setting(&kitchen.oven), kitchen, pantry)
}

/// The same at a setting that was chosen; the later settings of the recipe go with its first.
#[must_use]
pub fn bake_at(a: &Analysis<'_>, set_c: Option<f64>, kitchen: &Kitchen, pantry: &Pantry) -> Bake {
    let f = a.formula;
    let theirs = set_c.is_some() && set_c == f.own_setting(&kitchen.oven);
    let turns = if theirs { f.turns_on(&kitchen.oven) } else { Vec::new() };
    Bake { set_c, turns, lid_off_min: f.lid_comes_off(), drying: f.drying(), ..oven_of(a, pantry).in_kitchen(kitchen) }
}

/// What the dial would be turned to the other way: ours where a bread goes by its recipe, the recipe's where it goes by ours; none
/// where the recipe tells no setting.
#[must_use]
pub fn other_setting(told: Option<OvenTold>, bread: &Bake, oven: &HouseOven, k: &Constants) -> Option<f64> {
    let theirs = told?.on_dial(oven)?;
    let ours = || at_its_setting(&Bake { set_c: None, ..bread.clone() }, k).set_c;
    if told?.ours { Some(theirs) } else { ours() }
}

/// Whose setting a bread is baked at on this dial, and why.
#[must_use]
pub fn setting_words(told: Option<OvenTold>, oven: &HouseOven) -> String {
    match told.filter(|t| t.set_c.is_some()) {
        Some(t) if t.ours => "Ours, in place of the recipe’s: for this dough, size and shape.".to_owned(),
        Some(t) => recipes_words(&t, oven),
        None => "Ours, for this dough, size and shape: the recipe tells none.".to_owned(),
    }
}

/// `The recipe’s own 200 °C, 15 less for your oven, which runs hotter.`
fn recipes_words(told: &OvenTold, oven: &HouseOven) -> String {
    let figure = oven.dial.told(told.set_c.unwrap_or_default());
    let fan = match (told.fan, oven.fan) {
        (false, true) => Some(format!("{} less for your fan", oven.dial.apart(FAN_K))),
        (true, false) => Some(format!("{} more: it means a fan, and yours is off", oven.dial.apart(FAN_K))),
        (true, true) | (false, false) => None,
    };
    let off = oven.offset_c.filter(|o| o.abs() >= 1.0).map(|o| {
        let (less, runs) = if o > 0.0 { ("less", "hotter") } else { ("more", "cooler") };
        format!("{} {less}, for your oven runs {runs} than its dial", oven.dial.apart(o.abs()))
    });
    let moved: Vec<String> = fan.into_iter().chain(off).collect();
    let said = if told.fan { " with a fan" } else { "" };
    if moved.is_empty() {
        format!("The recipe’s own: {figure}{said}.")
    } else {
        format!("The recipe’s own {figure}{said}, {}.", moved.join(", "))
    }
}
