//! One bake: what goes into the oven, on what, and what is wished.

use crate::measure::{between, celsius, centimetres, kelvins};
use serde::Deserialize;

use super::stages::{DialTurn, Drying, FALLS_AFTER_MIN};
use crate::input::{Errors, InputErrors, Pointer};

/// How warm a dough usually comes to the oven, °C.
pub const USUAL_DOUGH_C: f64 = 26.0;

/// Up to this weight a piece is a roll, g. Common practice, no source.
pub const ROLL_MOST_G: f64 = 200.0;

/// Most pieces in the oven at once.
pub(super) const MOST_PIECES: u32 = 60;

words! {
    /// Shape of the piece; a roll is a small ball.
    Shape { Ball "ball", Batard "batard", Baton "baton", Ring "ring", Braid "braid", Flat "flat", Pan "pan", Muffin "muffin", Tall "tall" }
    /// What it bakes on or in.
    Vessel {
        Sheet "sheet", Stone "stone", Steel "steel", PanMetal "pan-metal", PanGlass "pan-glass", PanSilicone "pan-silicone",
        Dish "dish", MuffinTin "muffin-tin", Pot "pot", Cover "cover"
    }
    /// What is brushed on, or what it was dipped in.
    Glaze { None "none", Egg "egg", YolkMilk "yolk-milk", Milk "milk", Syrup "syrup", Soda "soda", Poached "poached" }
    /// The colour wished.
    Colour { Pale "pale", Golden "golden", Brown "brown", Dark "dark" }
    /// What the shaped pieces prove in.
    ProveIn { Bowl "bowl" "in a bowl", Basket "basket" "in a basket", Cloth "cloth" "in a cloth", Tin "tin" "in its tin" }
    /// The crust wished.
    Crust { Soft "soft", Crisp "crisp" }
    /// Class of bread in the oven; its borders differ from the styles' on purpose.
    BakeClass { Lean "lean", Enriched "enriched", Brioche "brioche", Wholegrain "wholegrain", Rye "rye", GlutenFree "gluten-free" }
}

impl Vessel {
    /// Pot and cover: the dough bakes in its own steam.
    #[must_use]
    pub const fn covers(self) -> bool {
        matches!(self, Self::Pot | Self::Cover)
    }
    /// Where the bread stands, as one says it.
    #[must_use]
    pub const fn stands(self) -> &'static str {
        match self {
            Self::Sheet => "on a baking sheet",
            Self::Stone => "on a stone",
            Self::Steel => "on a steel",
            Self::PanMetal => "in a metal tin",
            Self::PanGlass => "in a glass tin",
            Self::PanSilicone => "in a silicone tin",
            Self::Dish => "in a dish",
            Self::MuffinTin => "in a muffin tin",
            Self::Pot => "in a lidded pot",
            Self::Cover => "under a cover",
        }
    }
    /// What a loaf lies on with nothing at its sides.
    #[must_use]
    pub const fn is_open(self) -> bool {
        matches!(self, Self::Sheet | Self::Stone | Self::Steel)
    }
    /// Pans that take a lid.
    #[must_use]
    pub const fn is_pan(self) -> bool {
        matches!(self, Self::PanMetal | Self::PanGlass | Self::PanSilicone)
    }
}

/// How thick a flat bread is, cm.
pub const THICKNESS_CM: (f64, f64) = (0.2, 25.0);
/// What is said of a thickness outside it.
pub const THICKNESS: &str = concat!("Thickness between ", centimetres!(0.2 bare), " and ", centimetres!(25), ".");

/// A bake, checked. Percentages on flour.
#[derive(Debug, Clone, PartialEq)]
#[allow(missing_docs, reason = "names of the API")]
pub struct Bake {
    pub piece_g: f64,
    pub pieces: u32,
    pub touching: bool,
    pub shape: Shape,
    pub vessel: Vessel,
    pub lid: bool,
    /// What the pieces prove in, where that is told.
    pub prove_in: Option<ProveIn>,
    pub hydration_pct: f64,
    pub sugar_pct: f64,
    pub fat_pct: f64,
    pub egg_pct: f64,
    pub milk_pct: f64,
    pub fruit_pct: f64,
    pub wholegrain_pct: f64,
    pub rye_pct: f64,
    pub gluten_free: bool,
    pub glaze: Glaze,
    /// Coats of it, where it is brushed on.
    pub coats: u32,
    /// Whether its bath is stronger than baking soda: lye and its like.
    pub caustic: bool,
    pub dough_c: f64,
    pub fan: bool,
    /// True minus set; `None` is unmeasured.
    pub oven_offset_c: Option<f64>,
    pub altitude_m: f64,
    pub colour: Option<Colour>,
    pub crust: Option<Crust>,
    pub set_c: Option<f64>,
    pub thickness_cm: Option<f64>,
    pub steam_min: Option<f64>,
    pub lid_off_min: Option<f64>,
    /// The dial turned while it bakes, in order of time.
    pub turns: Vec<DialTurn>,
    /// What it does in the oven once it is done.
    pub drying: Option<Drying>,
    pub room_c: f64,
    /// Difference between the oven's sides, K.
    pub hot_k: Option<f64>,
}

impl Default for Bake {
    fn default() -> Self {
        Self {
            piece_g: 500.0,
            pieces: 1,
            touching: false,
            shape: Shape::Ball,
            vessel: Vessel::Sheet,
            lid: false,
            prove_in: None,
            hydration_pct: 65.0,
            sugar_pct: 0.0,
            fat_pct: 0.0,
            egg_pct: 0.0,
            milk_pct: 0.0,
            fruit_pct: 0.0,
            wholegrain_pct: 0.0,
            rye_pct: 0.0,
            gluten_free: false,
            glaze: Glaze::None,
            coats: 1,
            caustic: false,
            dough_c: USUAL_DOUGH_C,
            fan: false,
            oven_offset_c: None,
            altitude_m: 0.0,
            colour: None,
            crust: None,
            set_c: None,
            thickness_cm: None,
            steam_min: None,
            lid_off_min: None,
            turns: Vec::new(),
            drying: None,
            room_c: 20.0,
            hot_k: None,
        }
    }
}

impl Bake {
    /// This bake in a household's oven: its dial, fan, sides, height and room.
    #[must_use]
    pub fn in_kitchen(self, k: &crate::kitchen::Kitchen) -> Self {
        Self { oven_offset_c: k.oven.offset_c, hot_k: k.oven.hot_k, fan: k.oven.fan, altitude_m: k.altitude_m, room_c: k.room_c, ..self }
    }
    /// What the pieces prove in, as the rise model knows it.
    #[must_use]
    pub const fn rises_in(&self) -> &'static str {
        match self.prove_in {
            Some(ProveIn::Bowl) => return "bowl",
            Some(ProveIn::Basket) => return "basket",
            Some(ProveIn::Cloth) => return "tray",
            Some(ProveIn::Tin) => return "tin",
            None => {}
        }
        if self.vessel.is_pan() {
            "tin"
        } else if self.piece_g < ROLL_MOST_G || self.pieces > 3 || matches!(self.shape, Shape::Flat) {
            "tray"
        } else {
            "basket"
        }
    }
    /// Whether its walls show how high it has risen.
    #[must_use]
    pub const fn stands_in_tin(&self) -> bool {
        self.vessel.is_pan() && matches!(self.shape, Shape::Pan | Shape::Tall)
    }
    /// The class of bread: first that fits.
    #[must_use]
    pub fn class(&self) -> BakeClass {
        if self.gluten_free {
            BakeClass::GlutenFree
        } else if self.rye_pct >= 40.0 {
            BakeClass::Rye
        } else if self.wholegrain_pct >= 50.0 {
            BakeClass::Wholegrain
        } else if self.fat_pct >= 20.0 || (self.fat_pct >= 15.0 && self.egg_pct >= 15.0) {
            BakeClass::Brioche
        } else if self.sugar_pct >= 4.0 || self.fat_pct >= 4.0 || self.egg_pct >= 5.0 || self.milk_pct >= 30.0 {
            BakeClass::Enriched
        } else {
            BakeClass::Lean
        }
    }
    /// The colour, wished or usual.
    #[must_use]
    pub fn colour(&self) -> Colour {
        self.colour.unwrap_or(if self.crust() == Crust::Crisp || self.glaze == Glaze::Soda { Colour::Brown } else { Colour::Golden })
    }
    /// Whether what its formula keeps of a bake is another: shape, vessel, lid, how the pieces lie, how thick.
    #[must_use]
    pub fn stands_otherwise(&self, base: &Self) -> bool {
        let kept = |b: &Self| (b.shape, b.vessel, b.lid, b.touching, b.thickness_cm);
        kept(self) != kept(base)
    }
    /// Whether something covers it, at least for a while.
    #[must_use]
    pub const fn covered(&self) -> bool {
        self.lid || self.vessel.covers()
    }
    /// Sugar, fat, egg and milk as one figure of richness.
    #[must_use]
    pub fn rich(&self) -> f64 {
        (self.sugar_pct + self.fat_pct + self.egg_pct / 2.0 + self.milk_pct / 10.0).min(40.0)
    }
}

/// A bake as it came over the wire.
#[derive(Debug, Clone, PartialEq, Default, Deserialize)]
#[serde(deny_unknown_fields)]
#[allow(missing_docs, reason = "names of the API")]
pub struct BakeBody {
    pub piece_g: Option<f64>,
    pub pieces: Option<f64>,
    pub arrangement: Option<String>,
    pub shape: Option<String>,
    pub vessel: Option<String>,
    pub lid: Option<bool>,
    pub hydration_pct: Option<f64>,
    pub sugar_pct: Option<f64>,
    pub fat_pct: Option<f64>,
    pub egg_pct: Option<f64>,
    pub milk_pct: Option<f64>,
    pub fruit_pct: Option<f64>,
    pub wholegrain_pct: Option<f64>,
    pub rye_pct: Option<f64>,
    pub gluten_free: Option<bool>,
    pub glaze: Option<String>,
    pub dough_c: Option<f64>,
    pub fan: Option<bool>,
    pub oven_offset_c: Option<f64>,
    pub altitude_m: Option<f64>,
    pub colour: Option<String>,
    pub crust: Option<String>,
    pub set_c: Option<f64>,
    pub thickness_cm: Option<f64>,
    pub steam_min: Option<f64>,
    pub lid_off_min: Option<f64>,
    pub fall_to_c: Option<f64>,
    pub fall_after_min: Option<f64>,
    pub room_c: Option<f64>,
    pub hot_k: Option<f64>,
}

impl BakeBody {
    /// Checks it alone; what is left out takes the usual.
    ///
    /// # Errors
    /// Each field that is wrong.
    pub fn check(&self) -> Result<Bake, InputErrors> {
        self.over(Bake { piece_g: f64::NAN, ..Bake::default() })
    }

    /// Whether a tin loaf is asked for on something that is no tin: then it is asked what the tin is made of.
    #[must_use]
    pub fn wants_tin(&self, base: &Bake) -> bool {
        let shape = self.shape.as_deref().and_then(Shape::from_word).unwrap_or(base.shape);
        let vessel = self.vessel.as_deref().and_then(Vessel::from_word).unwrap_or(base.vessel);
        shape == Shape::Pan && vessel.is_open()
    }

    /// Checks it over a base (a formula's or a style's bake): what is given beats the base.
    ///
    /// # Errors
    /// Each field that is wrong.
    pub fn over(&self, base: Bake) -> Result<Bake, InputErrors> {
        let root = Pointer::root();
        let mut errors = Errors::default();
        fn word<T>(
            errors: &mut Errors,
            at: Pointer,
            typed: Option<&String>,
            read: fn(&str) -> Option<T>,
            words: Vec<&'static str>,
        ) -> Option<T> {
            typed.and_then(|t| errors.keep(at, read(t).ok_or_else(|| format!("“{t}” is not known here: {}.", words.join(", ")))))
        }
        let touching = match self.arrangement.as_deref() {
            None => base.touching,
            Some("free") => false,
            Some("touching") => true,
            Some(other) => {
                errors.add(root.at("arrangement"), format!("“{other}” is not known here: free, touching."));
                false
            }
        };
        let pieces = self.pieces.unwrap_or(f64::from(base.pieces));
        if !(1.0..=f64::from(MOST_PIECES)).contains(&pieces) || pieces.fract() != 0.0 {
            errors.add(root.at("pieces"), "Between 1 and 60 whole pieces go into the oven together.");
        }
        let shape = word(&mut errors, root.at("shape"), self.shape.as_ref(), Shape::from_word, Shape::words());
        let vessel = word(&mut errors, root.at("vessel"), self.vessel.as_ref(), Vessel::from_word, Vessel::words());
        let glaze = word(&mut errors, root.at("glaze"), self.glaze.as_ref(), Glaze::from_word, Glaze::words());
        // A tin loaf that is told brings its tin.
        let tin = shape == Some(Shape::Pan) && vessel.is_none() && base.vessel.is_open();
        let vessel = if tin { Some(Vessel::PanMetal) } else { vessel };
        // Another setting than the recipe's leaves its later ones behind.
        let own_setting = self.set_c.is_none() || self.set_c == base.set_c;
        let after_min = self.fall_after_min.unwrap_or(FALLS_AFTER_MIN);
        errors.range(root.at("fall_after_min"), after_min, 0.0, 240.0, "The oven falls after 0 to 240 minutes.");
        let fall = self.fall_to_c.map(|to_c| {
            errors.range(root.at("fall_to_c"), to_c, 100.0, 300.0, between!("A setting for bread lies", 100, 300, dial));
            DialTurn { after_min, to_c }
        });
        let colour = word(&mut errors, root.at("colour"), self.colour.as_ref(), Colour::from_word, Colour::words());
        let crust = word(&mut errors, root.at("crust"), self.crust.as_ref(), Crust::from_word, Crust::words());
        #[allow(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "1 to 60 was checked; else nothing is built")]
        let bake = Bake {
            piece_g: self.piece_g.unwrap_or(base.piece_g),
            pieces: pieces.clamp(1.0, f64::from(MOST_PIECES)) as u32,
            touching,
            shape: shape.unwrap_or(base.shape),
            vessel: vessel.unwrap_or(base.vessel),
            lid: self.lid.unwrap_or(base.lid),
            prove_in: base.prove_in,
            hydration_pct: self.hydration_pct.unwrap_or(base.hydration_pct),
            sugar_pct: self.sugar_pct.unwrap_or(base.sugar_pct),
            fat_pct: self.fat_pct.unwrap_or(base.fat_pct),
            egg_pct: self.egg_pct.unwrap_or(base.egg_pct),
            milk_pct: self.milk_pct.unwrap_or(base.milk_pct),
            fruit_pct: self.fruit_pct.unwrap_or(base.fruit_pct),
            wholegrain_pct: self.wholegrain_pct.unwrap_or(base.wholegrain_pct),
            rye_pct: self.rye_pct.unwrap_or(base.rye_pct),
            gluten_free: self.gluten_free.unwrap_or(base.gluten_free),
            caustic: base.caustic && glaze.is_none_or(|g| g == base.glaze),
            glaze: glaze.unwrap_or(base.glaze),
            coats: base.coats,
            dough_c: self.dough_c.unwrap_or(base.dough_c),
            fan: self.fan.unwrap_or(base.fan),
            oven_offset_c: self.oven_offset_c.or(base.oven_offset_c),
            altitude_m: self.altitude_m.unwrap_or(base.altitude_m),
            colour: colour.or(base.colour),
            crust: crust.or(base.crust),
            set_c: self.set_c.or(base.set_c),
            thickness_cm: self.thickness_cm.or(base.thickness_cm),
            steam_min: self.steam_min.or(base.steam_min),
            lid_off_min: self.lid_off_min.or(base.lid_off_min),
            turns: fall.map_or(if own_setting { base.turns } else { Vec::new() }, |turn| vec![turn]),
            drying: base.drying,
            room_c: self.room_c.unwrap_or(base.room_c),
            hot_k: self.hot_k.or(base.hot_k),
        };
        bake.check_ranges(&mut errors);
        errors.finish(bake)
    }
}

impl Bake {
    fn check_ranges(&self, errors: &mut Errors) {
        let root = Pointer::root();
        if self.piece_g.is_nan() {
            errors.add(root.at("piece_g"), between!("Say what one piece weighs,", 5, 3000, grams));
        } else {
            errors.range(root.at("piece_g"), self.piece_g, 5.0, 3000.0, between!("One piece weighs", 5, 3000, grams));
        }
        let mut percent = |name: &str, value: f64, low: f64, high: f64, what: &str| {
            errors.range(root.at(name), value, low, high, &format!("{what} between {low} and {high} % of the flour."));
        };
        percent("hydration_pct", self.hydration_pct, 40.0, 200.0, "Water");
        for (name, value, what) in [
            ("sugar_pct", self.sugar_pct, "Sugar"),
            ("fat_pct", self.fat_pct, "Fat"),
            ("egg_pct", self.egg_pct, "Egg"),
            ("milk_pct", self.milk_pct, "Milk"),
            ("fruit_pct", self.fruit_pct, "Fruit"),
        ] {
            percent(name, value, 0.0, 1000.0, what);
        }
        percent("wholegrain_pct", self.wholegrain_pct, 0.0, 100.0, "Wholegrain");
        percent("rye_pct", self.rye_pct, 0.0, 100.0, "Rye");
        errors.range(
            root.at("dough_c"),
            self.dough_c,
            -5.0,
            45.0,
            concat!("The dough is between ", celsius!(-5 bare), " and ", celsius!(45), " when it goes in."),
        );
        errors.range(root.at("altitude_m"), self.altitude_m, -430.0, 5000.0, "Altitude between -430 and 5000 m.");
        errors.range(root.at("room_c"), self.room_c, -10.0, 45.0, between!("The room", -10, 45, celsius));
        for (name, value, low, high, what) in [
            ("set_c", self.set_c, 100.0, 300.0, between!("A setting for bread lies", 100, 300, dial)),
            ("oven_offset_c", self.oven_offset_c, -60.0, 60.0, concat!("An oven is off by ", kelvins!(60), " at most.")),
            ("thickness_cm", self.thickness_cm, THICKNESS_CM.0, THICKNESS_CM.1, THICKNESS),
            ("steam_min", self.steam_min, 0.0, 60.0, "Steam for 0 to 60 minutes."),
            ("lid_off_min", self.lid_off_min, 0.0, 240.0, "The lid comes off between 0 and 240 minutes."),
            ("hot_k", self.hot_k, 0.0, 60.0, concat!("The sides differ by ", kelvins!(0 bare), " to ", kelvins!(60), ".")),
        ] {
            if let Some(value) = value {
                errors.range(root.at(name), value, low, high, what);
            }
        }
        if self.lid && !(self.vessel.is_pan() && self.shape == Shape::Pan) {
            errors.add(root.at("lid"), "Only a pan loaf in a pan takes a lid; a pot has its own.");
        }
        if self.touching && self.pieces < 2 {
            errors.add(root.at("arrangement"), "Touching needs two pieces or more.");
        }
    }
}
