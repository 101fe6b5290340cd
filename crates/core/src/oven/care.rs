//! What is done to a bread before it goes in and after it is out: dips, glazes, cuts, cooling, keeping, warming up.
//!
//! All: common practice, no source, where nothing else is said.

use super::{Advice, Bake, BakeClass, Constants, Crust, Glaze, Kind, ROLL_MOST_G, Shape, course::Oven};
use crate::{
    measure::{celsius, centimetres, degrees, grams, millimetres, setting, show, show_minutes, to_nearest},
    safety,
};

/// One thing to do, in words, with its caution where work can hurt.
#[derive(Debug, Clone, PartialEq)]
pub struct Care {
    /// What.
    pub title: &'static str,
    /// How, and how long.
    pub words: String,
    /// What to mind.
    pub caution: Option<&'static str>,
}

const fn care(title: &'static str, words: String, caution: Option<&'static str>) -> Care {
    Care { title, words, caution }
}

/// A coat brushed on, a dip in soda, one in what is stronger, a poaching: said the same on every page and at the act itself.
pub const COAT: &str = "A thin coat, none on the tray.";
/// A dip in soda water just under the boil.
pub const DIP: &str = "20–30 s a side, drain, salt while it is wet.";
/// What is stronger than baking soda: none of our own words on strength or heat.
pub const CAUSTIC: &str = "As your recipe says, cold, in gloves and goggles. Drain it well.";
/// A dip in simmering water.
pub const POACH: &str = "20–60 s a side in simmering water, drain, seeds on while it is wet.";
/// Seconds a side in a bath, from and to, as the words say it; none of what is told by the recipe alone. Common practice, no source.
const SODA_S: (u32, u32) = (20, 30);
const POACH_S: (u32, u32) = (20, 60);

impl Bake {
    /// Seconds each side stays in the bath, from and to; none without one, and none of our own for lye.
    #[must_use]
    pub const fn bath_seconds(&self) -> Option<(u32, u32)> {
        match self.glaze {
            Glaze::Soda if !self.caustic => Some(SODA_S),
            Glaze::Poached => Some(POACH_S),
            Glaze::Soda | Glaze::None | Glaze::Egg | Glaze::YolkMilk | Glaze::Milk | Glaze::Syrup => None,
        }
    }
}

/// Syrup goes on after the bake.
pub const SYRUP: &str = "Brush the hot syrup on as soon as the bread is out, while both are hot.";

impl Bake {
    /// What is to be minded with what goes onto it.
    #[must_use]
    pub const fn finish_caution(&self) -> Option<&'static str> {
        match self.glaze {
            Glaze::Soda if self.caustic => Some(safety::LYE),
            Glaze::Soda => Some(safety::SODA_BATH),
            Glaze::Poached => Some(safety::SIMMERING),
            Glaze::Egg | Glaze::YolkMilk => Some(safety::RAW_EGG),
            Glaze::Syrup => Some(safety::SYRUP),
            Glaze::Milk | Glaze::None => None,
        }
    }
}

/// Before it goes in: dip or glaze with its waits, the cuts.
#[must_use]
pub fn before(bake: &Bake) -> Vec<Care> {
    let (title, words) = match bake.glaze {
        Glaze::Soda if bake.caustic => ("Lye bath", CAUSTIC.to_owned()),
        Glaze::Soda => {
            let bath = concat!(
                grams!(30 bare),
                "–",
                grams!(50),
                " baking soda to the litre, ",
                celsius!(80 bare),
                "–",
                celsius!(95),
                ". Chill the pieces 30 min uncovered so that they hold their shape. "
            );
            ("Soda bath", format!("{bath}{DIP} Cut, bake at once. Longer tastes of soap."))
        }
        Glaze::Poached => {
            ("Poach", format!("{POACH} A spoonful of malt or honey in the water; longer for a thicker, chewier skin. Bake within 10 min."))
        }
        Glaze::Egg | Glaze::YolkMilk => (
            "Egg glaze, two coats",
            format!(
                "Beat with a pinch of salt, rest it 10 min, sieve. First coat after shaping, 10–15 min to dry uncovered; second just \
                 before it goes in. {COAT} It glues the base."
            ),
        ),
        Glaze::Milk => ("Milk", format!("{COAT} Just before it goes in; another as it comes out for a soft skin.")),
        Glaze::Syrup => ("Syrup", format!("Sugar and water 1 to 1, boiled up. {SYRUP} Before the bake it would burn.")),
        Glaze::None if bake.crust() == Crust::Crisp => {
            ("No glaze", "Flour or nothing: steam gives the shine. Brush loose flour off, it stays raw.".to_owned())
        }
        Glaze::None => ("No glaze", "Nothing before; a brush of butter or milk as it comes out keeps it soft.".to_owned()),
    };
    let mut all = vec![care(title, words, bake.finish_caution())];
    if let Some(words) = cut(bake) {
        all.push(care("Cuts", words.to_owned(), Some(safety::BLADE)));
    }
    all
}

/// How it is cut just before it goes in; none where it is not: a small round, a soft or woven one, one in a tin that is not lean.
#[must_use]
pub fn cut(bake: &Bake) -> Option<&'static str> {
    let lean = bake.crust() == Crust::Crisp || bake.class() == BakeClass::Lean;
    match bake.shape {
        _ if bake.glaze == Glaze::Soda => {
            Some(concat!("One cut across the thick part, ", centimetres!(1), " deep, straight down, after the dip."))
        }
        _ if !lean => None,
        Shape::Batard => Some(concat!(
            "One cut from end to end, blade flat at 30°, ",
            millimetres!(5 bare),
            "–",
            millimetres!(10),
            " deep, so that a flap lifts. In one stroke."
        )),
        Shape::Ball if bake.piece_g >= 300.0 => {
            Some(concat!("A cross or a square, blade upright, ", centimetres!(1), " deep. Deeper where it goes in a little early."))
        }
        Shape::Baton => Some(concat!(
            "Three to five cuts along the middle line, each overlapping the next by a third, blade flat, ",
            millimetres!(5),
            "."
        )),
        Shape::Pan => Some(concat!("One cut along the middle, ", centimetres!(1), ", when it stands ", centimetres!(1), " under the rim.")),
        Shape::Ball | Shape::Ring | Shape::Braid | Shape::Flat | Shape::Muffin | Shape::Tall => None,
    }
}

/// The sign that it is done, beside the core temperature.
#[must_use]
pub fn done_sign(bake: &Bake) -> &'static str {
    match bake.class() {
        BakeClass::Rye | BakeClass::GlutenFree => "its core temperature alone: the knock deceives",
        _ if bake.shape == Shape::Flat => "puffed, brown spots, supple when bent",
        _ if bake.vessel.is_pan() => "sides leave the tin; a pressed side springs back",
        _ if bake.shape == Shape::Braid => "colour in the valleys too; a hollow knock",
        _ if bake.crust() == Crust::Crisp => "colour in the cuts too; a hollow knock",
        _ if bake.piece_g < ROLL_MOST_G => "coloured on top, a pressed side springs back",
        _ => "springs back when pressed; a dull knock turning hollow",
    }
}

/// How the middle cools on a rack: minutes and °C from the moment it is out.
#[must_use]
pub fn cooling(bake: &Bake, k: &Constants) -> Vec<(f64, f64)> {
    let rows = Oven::new(bake, k).cooling().rows;
    let every = rows.len() / 120 + 1;
    rows.iter().step_by(every).map(|r| (r.t / 60.0, r.core_c)).collect()
}

/// Days it keeps at room temperature, cut side down or wrapped.
const fn keeps_days(class: BakeClass, boxed: bool) -> (u32, u32) {
    match class {
        BakeClass::Lean if boxed => (2, 3),
        BakeClass::Lean => (1, 2),
        BakeClass::Enriched | BakeClass::Brioche => (3, 4),
        BakeClass::Wholegrain => (3, 5),
        BakeClass::Rye => (5, 7),
        BakeClass::GlutenFree => (1, 2),
    }
}

/// After it is out: cooling, slicing, keeping, freezing, thawing, warming up.
#[must_use]
pub fn after(bake: &Bake, a: &Advice) -> Vec<Care> {
    let boxed = matches!(a.geometry.kind, Kind::Box);
    let mut all = Vec::new();
    let rack = match (a.crust, boxed) {
        (Crust::Crisp, true) => {
            "Out of the tin at once and onto a rack, room all round it. For more snap put it back without the tin for 5 min."
        }
        (Crust::Crisp, false) => {
            "Onto a rack at once, room all round it. In the oven switched off with the door ajar 5–10 min it crackles more."
        }
        (Crust::Soft, true) => {
            "5–10 min in the tin, then onto a rack under a cloth. Brush with butter or milk while hot. Not longer in the tin: its sides get wet."
        }
        (Crust::Soft, false) => "Onto a rack under a cloth: its own steam keeps the crust soft. Brush with butter or milk while hot.",
    };
    all.push(care("Cool", rack.into(), None));
    if bake.class() == BakeClass::Brioche && (boxed || bake.shape == Shape::Tall) {
        all.push(care("If it sags", "Lay it on its side to cool, or hang it upside down.".into(), None));
    }
    if let Some(m) = a.slice_min {
        let why = match bake.class() {
            BakeClass::Rye => "its crumb is gum until it has set",
            BakeClass::GlutenFree => "it must be cold through",
            _ => "the crumb sets as it cools; cut hot it squeezes to paste",
        };
        let about = if m < 60.0 { to_nearest(m, 5.0) } else { to_nearest(m, 10.0) };
        all.push(care("Slice", format!("From about {} on: {why}.", show_minutes(about)), None));
    }
    let (low, high) = keeps_days(bake.class(), boxed);
    all.push(care(
        "Keep",
        format!(
            "{low}–{high} days at room temperature, {}. Not in the fridge: it stales fastest near {}.",
            if a.crust == Crust::Crisp { "cut side down on a board or in paper" } else { "wrapped or in a tin" },
            degrees(4.0)
        ),
        Some("Mould or a sweet smell with threads in the crumb: the whole loaf goes, crust and all."),
    ));
    let thaw = if bake.piece_g < ROLL_MOST_G { "1 h" } else { "3–4 h" };
    all.push(care("Freeze", "The day it is baked, cold through, wrapped tight; up to 3 months.".into(), None));
    all.push(care("Thaw", format!("{thaw} wrapped, at room temperature."), None));
    let again = if bake.piece_g < ROLL_MOST_G { (5.0, 5.0) } else { (8.0, 10.0) };
    let minutes = if again.0 < again.1 { format!("{}–{}", show(again.0, 0), show(again.1, 0)) } else { show(again.0, 0) };
    all.push(care(
        "Warm up",
        format!(
            "{minutes} min at {}–{}{}. Once only.",
            setting(180.0).bare(),
            setting(200.0),
            if a.crust == Crust::Crisp { ", the crust wet with water first" } else { ", under foil" }
        ),
        None,
    ));
    all
}
