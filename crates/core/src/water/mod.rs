//! Water temperature for the dough temperature wanted: the trade's factor method, the heat balance
//! of the bowl, friction of the mixer, ice when the tap is too warm.
//!
//! Source: conservation of energy; specific heats and friction in `data/fermentation.json` with
//! their marks. ±1 K if the friction is known to ±1 K; friction itself ±40 %.

use serde::Serialize;

use crate::{
    Tables,
    ferment::{Constants, Numbers},
    findings::{Finding, Rule, Severity, rule},
    formula::{Analysis, Line, kneading_in},
    input::{Errors, InputErrors, Pointer},
    kitchen::Kitchen,
    knead::Work,
    measure::{Celsius, Grams, Kelvins, Working, between, degrees, show},
    pantry::{Fact, Family, Ingredient},
};

/// Which way of reckoning.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, serde::Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Method {
    /// A multiple of the target less the temperatures of flour, room and preferment.
    Factor,
    /// The heat of everything in the bowl.
    HeatBalance,
}

/// Something in the bowl beside the water.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Part {
    /// Weight.
    pub grams: Grams,
    /// Specific heat, kJ/(kg K).
    pub heat: f64,
    /// Its temperature.
    pub at: Celsius,
}

/// Rise of the dough's temperature by mixing.
///
/// `minutes` 0 to 60, `mass` of the dough. Common practice, no source; ±40 %.
#[must_use]
pub fn friction(mixer: &str, minutes: f64, mass: Grams, k: &Constants) -> Option<Kelvins> {
    let row = k.mixers.get(mixer)?;
    Kelvins::new(row.k_per_min * minutes * row.by_mass(mass.get(), &k.numbers)).ok()
}

/// The trade's factor method: `n·target − flour − room − [preferment] − n·friction`.
#[must_use]
pub fn factor_method(target: Celsius, flour: Celsius, room: Celsius, preferment: Option<Celsius>, friction: Kelvins) -> f64 {
    let n = if preferment.is_some() { 4.0 } else { 3.0 };
    n * target.get() - flour.get() - room.get() - preferment.map_or(0.0, Celsius::get) - n * friction.get()
}

/// Heat balance of the bowl: `T_b + Σ m c (T_b − T) / (m_w c_w)`, `T_b` the target less the friction.
///
/// Neglects heat lost to bowl and room. `None` for no water.
///
/// ```
/// use cerealis_core::{ferment::Constants, measure::{Celsius, Grams, Kelvins}, water::{Part, heat_balance}};
/// let k = Constants::built_in().unwrap();
/// // 100 g of flour at 20 °C, 100 g of water, no friction, 24 °C wanted: the water is warmer by 4 K · 1.8 / 4.18.
/// let part = Part { grams: Grams::constant(100.0), heat: 1.8, at: Celsius::constant(20.0) };
/// let water = heat_balance(Celsius::constant(24.0), Grams::constant(100.0), &[part], Kelvins::constant(0.0), &k.numbers).unwrap();
/// assert!((water - (24.0 + 4.0 * 1.8 / 4.18)).abs() < 1e-9);
/// ```
#[must_use]
pub fn heat_balance(target: Celsius, water: Grams, parts: &[Part], friction: Kelvins, n: &Numbers) -> Option<f64> {
    let capacity = water.get() * n.c_water;
    if capacity <= 0.0 {
        return None;
    }
    let base = target.get() - friction.get();
    let needed: f64 = parts.iter().map(|p| p.grams.get() * p.heat * (base - p.at.get())).sum();
    Some(base + needed / capacity)
}

/// Grams of ice among the water, when the tap is warmer than the water wanted. 0 when it is not.
///
/// # Errors
/// A sentence, if even all of it as ice leaves the dough too warm.
pub fn ice(water: Grams, wanted_c: f64, tap: Celsius, ice_c: f64, n: &Numbers) -> Result<Grams, &'static str> {
    if wanted_c >= tap.get() {
        return Ok(Grams::constant(0.0));
    }
    let grams = water.get() * n.c_water * (tap.get() - wanted_c) / (n.latent_ice - n.c_ice * ice_c + n.c_water * tap.get());
    if grams > water.get() {
        return Err("Even with all the water as ice the dough stays too warm: chill the flour.");
    }
    Grams::new(grams).map_err(|_| "The weight of the ice is out of range.")
}

/// How the water's warmth bears on the yeast: caution above 45 °C, stop above 50 °C.
#[must_use]
pub fn yeast_caution(water_c: f64) -> Option<Severity> {
    match water_c {
        c if c > 50.0 => Some(Severity::Stop),
        c if c > 45.0 => Some(Severity::Caution),
        _ => None,
    }
}

/// What mixing and kneading add to the dough's temperature.
#[derive(Debug, Clone, PartialEq)]
pub enum MixRise {
    /// By friction: a mixer's word, and minutes.
    Friction(String, f64),
    /// As the bread is kneaded.
    Kneaded {
        /// K by friction, bowl and room together.
        rise_k: f64,
        /// K by friction alone, as the trade's sum takes it: it counts the room itself.
        friction_k: f64,
        /// How, in words.
        words: String,
    },
}

impl MixRise {
    /// How it is mixed and kneaded, in words.
    #[must_use]
    pub fn words(&self) -> String {
        match self {
            Self::Friction(mixer, minutes) => format!("{mixer}, {minutes} min"),
            Self::Kneaded { words, .. } => words.clone(),
        }
    }

    /// As a dough is kneaded that starts as warm as it does.
    #[must_use]
    pub fn by(work: &Work<'_>) -> Self {
        let (rise_k, friction_k) = work.warms_k();
        let minutes = show(work.kneading().knead_min, 0);
        Self::Kneaded { rise_k, friction_k, words: format!("{}, {minutes} min", work.method().title()) }
    }

    /// As a bread is kneaded in a household, leaving the bowl at a temperature, °C.
    #[must_use]
    pub fn of(a: &Analysis<'_>, kitchen: &Kitchen, target_c: f64, t: &Tables) -> Self {
        match kneading_in(a, kitchen).check(&t.knead, &t.styles, &t.ferment) {
            Ok(work) => Self::by(&work.leaving_at(target_c)),
            // Nothing to knead: nothing warms it.
            Err(_) => Self::Friction("none".to_owned(), 0.0),
        }
    }
}

/// A dough that starts nearer to the room than this loses next to nothing to it while it is kneaded, K. Engineering estimate.
const NEAR_ROOM_K: f64 = 5.0;

/// What is asked.
#[derive(Debug, Clone, PartialEq)]
#[allow(missing_docs, reason = "names of the API")]
pub struct WaterAsk {
    pub target_c: f64,
    pub flour_c: f64,
    pub room_c: f64,
    pub tap_c: f64,
    pub fridge_c: f64,
    pub preferment_c: Option<f64>,
    pub line_c: Vec<(usize, f64)>,
    pub mixing: MixRise,
    pub method: Option<Method>,
}

/// The answer.
#[derive(Debug, Clone, PartialEq)]
#[allow(missing_docs, reason = "names of the API")]
pub struct WaterAnswer {
    pub method: Method,
    pub water_c: f64,
    /// The other method's answer.
    pub other_c: f64,
    /// What is warmed: water, or the milk of a dough without any.
    pub liquid: String,
    pub water_g: f64,
    pub tap_water_g: f64,
    pub ice_g: f64,
    pub friction_k: f64,
    /// Why this method.
    pub reason: &'static str,
    pub working: Vec<Working>,
    pub findings: Vec<Finding>,
}

fn heat_of(i: &Ingredient, k: &Constants) -> f64 {
    let key = match i.family {
        Family::Flour | Family::Starch | Family::Gum | Family::Spice => "flour",
        Family::Liquid if i.is(Fact::Water) => "water",
        Family::Liquid | Family::Dairy => "milk",
        Family::Egg => "egg",
        Family::Fat if i.is(Fact::Oil) => "oil",
        Family::Fat => "butter",
        Family::Sugar if i.water_pct > 12.0 => "honey",
        Family::Sugar => "sugar",
        Family::Salt | Family::Alkali | Family::LeavenChemical => "salt",
        Family::Leaven | Family::Yeast => "leaven-100",
        Family::Fruit | Family::Nut | Family::Seed | Family::Topping => "fruit",
    };
    k.heats.get(key).copied().unwrap_or(2.0)
}

/// Warmest water for a dough, °C: a degree short of where yeast begins to suffer.
const WARMEST_WATER_C: f64 = 44.0;

/// How warm a household's dough leaves the bowl at the warmest, °C: with water as warm as the yeast bears. None for a dough without
/// water or milk.
#[must_use]
pub fn warmest_c(work: &Work<'_>, a: &Analysis<'_>, kitchen: &Kitchen, t: &Tables) -> Option<f64> {
    // What mixing adds is reckoned by the work itself.
    let ask = WaterAsk::in_kitchen(kitchen, work.ask().start_c, MixRise::Friction("none".to_owned(), 0.0));
    let (water_g, parts) = ask.bowl(a, &t.ferment);
    let capacity = water_g * t.ferment.numbers.c_water;
    let (heat, all) = parts.iter().fold((capacity * WARMEST_WATER_C, capacity), |(heat, all), p| {
        let c = p.grams.get() * p.heat;
        (heat + c * p.at.get(), all + c)
    });
    (capacity > 0.0).then(|| work.starting_at(heat / all).leaves_at())
}

impl WaterAsk {
    /// What the kitchen reckons its water with where nothing else is said.
    #[must_use]
    pub fn usual(a: &Analysis<'_>, kitchen: &Kitchen, target_c: f64, t: &Tables) -> Self {
        Self::in_kitchen(kitchen, target_c, MixRise::of(a, kitchen, target_c, t))
    }

    /// The same, mixed otherwise.
    #[must_use]
    pub fn in_kitchen(kitchen: &Kitchen, target_c: f64, mixing: MixRise) -> Self {
        Self {
            target_c,
            flour_c: kitchen.flour_c,
            room_c: kitchen.room_c,
            tap_c: kitchen.tap_c,
            fridge_c: kitchen.fridge_c.unwrap_or(kitchen.room_c),
            preferment_c: None,
            line_c: Vec::new(),
            mixing,
            method: None,
        }
    }

    /// How warm a line is that goes into the bowl, °C.
    fn line_at(&self, i: usize, line: &Line) -> f64 {
        let dry = matches!(line.ingredient.family, Family::Flour | Family::Starch | Family::Sugar | Family::Salt)
            || line.ingredient.is(Fact::Oil);
        let usual = match self.preferment_c {
            Some(c) if line.is_prefermented() => c,
            _ if line.ingredient.is(Fact::KeptCold) => self.fridge_c,
            _ if dry => self.flour_c,
            _ => self.room_c,
        };
        self.line_c.iter().find(|(l, _)| *l == i).map_or(usual, |(_, c)| *c)
    }

    /// What stands in for the water, as grams of water that hold as much heat, and everything else in the bowl.
    fn bowl(&self, a: &Analysis<'_>, k: &Constants) -> (f64, Vec<Part>) {
        let grams: f64 = a.formula.liquids().iter().map(|(_, l)| l.grams.likely).sum();
        // Milk counts as the water that would hold as much heat.
        let as_water = a.formula.main_liquid().map_or(1.0, |(_, l)| heat_of(&l.ingredient, k) / k.numbers.c_water);
        let parts = beside_liquid(a).filter_map(|(i, l)| {
            Some(Part { grams: Grams::new(l.grams.likely).ok()?, heat: heat_of(&l.ingredient, k), at: within(self.line_at(i, l)) })
        });
        (grams * as_water, parts.collect())
    }

    /// Each of its fields outside its range.
    fn checked(&self, a: &Analysis<'_>, k: &Constants) -> Errors {
        let root = Pointer::root();
        let mut errors = Errors::default();
        errors.range(root.at("target_c"), self.target_c, 10.0, 40.0, between!("The dough's target must be", 10, 40, celsius));
        for (name, value) in [
            ("flour_c", Some(self.flour_c)),
            ("room_c", Some(self.room_c)),
            ("tap_c", Some(self.tap_c)),
            ("fridge_c", Some(self.fridge_c)),
            ("preferment_c", self.preferment_c),
        ] {
            if let Some(value) = value {
                errors.range(root.at(name), value, -30.0, 60.0, between!("This temperature must be", -30, 60, celsius));
            }
        }
        if let MixRise::Friction(mixer, minutes) = &self.mixing {
            errors.range(root.at("mix_min"), *minutes, 0.0, 60.0, "Mixing takes between 0 and 60 minutes.");
            if !k.mixers.contains_key(mixer) {
                let known: Vec<&str> = k.mixers.keys().map(String::as_str).collect();
                errors.add(root.at("mixer"), format!("“{mixer}” is no way of mixing known here: {}.", known.join(", ")));
            }
        }
        for (i, (line, c)) in self.line_c.iter().enumerate() {
            let here = root.at("line_c").at(i);
            if *line >= a.formula.lines.len() {
                errors.add(here.at("line"), format!("The formula has {} lines, counted from 0.", a.formula.lines.len()));
            }
            errors.range(here.at("c"), *c, -30.0, 60.0, between!("This temperature must be", -30, 60, celsius));
        }
        errors
    }
}

/// A temperature inside what can be measured.
fn within(c: f64) -> Celsius {
    Celsius::new(c).unwrap_or(Celsius::constant(20.0))
}

/// Everything in the bowl whose warmth is as it is.
fn beside_liquid<'a>(a: &'a Analysis<'_>) -> impl Iterator<Item = (usize, &'a Line)> {
    let liquid: Vec<usize> = a.formula.liquids().iter().map(|(i, _)| *i).collect();
    a.formula.lines.iter().enumerate().filter(move |(i, l)| l.in_dough() && !liquid.contains(i))
}

/// Finds the water temperature for a formula.
///
/// Ranges: target 10–40 °C, other temperatures −30 to 60 °C, mixing 0–60 min. The water is that of
/// the lines `water` outside leaven and preferment.
///
/// # Errors
/// Each field outside its range; a formula without such water.
pub fn for_formula(a: &Analysis<'_>, ask: &WaterAsk, k: &Constants) -> Result<WaterAnswer, InputErrors> {
    let mut errors = ask.checked(a, k);
    let water_g: f64 = a.formula.liquids().iter().map(|(_, l)| l.grams.likely).sum();
    if water_g <= 0.0 {
        errors.add(Pointer::root().at("formula"), "There is no water or milk in this formula whose warmth could be chosen.");
    }
    let dough = Grams::new(a.dough_g.likely.min(100_000.0)).unwrap_or(Grams::constant(1000.0));
    let kneaded = matches!(ask.mixing, MixRise::Kneaded { .. });
    let (friction_k, rise_k) = match &ask.mixing {
        MixRise::Friction(mixer, minutes) => {
            let rub = friction(mixer, *minutes, dough, k).map_or(0.0, Kelvins::get);
            (rub, rub)
        }
        MixRise::Kneaded { rise_k, friction_k, .. } => (*friction_k, *rise_k),
    };
    errors.finish(())?;

    let target = within(ask.target_c);
    let rub = Kelvins::new(friction_k).unwrap_or(Kelvins::constant(0.0));
    let net = Kelvins::new(rise_k).unwrap_or(rub);
    let (as_water_g, parts) = ask.bowl(a, k);
    let (mut cold_lines, mut preferment_g) = (false, 0.0);
    let mut working = vec![
        Working::given("dough wanted", ask.target_c, "°C"),
        Working::given("rise by mixing", friction_k, "K").by(ask.mixing.words()).from("common practice, no source; ±40 %"),
    ];
    if kneaded {
        working.push(
            Working::given("lost to bowl and room", friction_k - rise_k, "K")
                .by("Newton's cooling while it is kneaded; the bowl takes its share"),
        );
    }
    for (i, line) in beside_liquid(a) {
        let (at, heat) = (ask.line_at(i, line), heat_of(&line.ingredient, k));
        cold_lines |= (at - ask.flour_c).abs() > 6.0 && line.grams.likely > 0.03 * a.dough_g.likely;
        if line.is_prefermented() {
            preferment_g += line.grams.likely;
        }
        if line.grams.likely * heat > 0.01 * a.dough_g.likely * 2.8 {
            working.push(
                Working::given(line.ingredient.name.clone(), at, "°C")
                    .by(format!("{:.0} g × {heat} kJ/(kg K)", line.grams.likely))
                    .from("specific heat, from memory"),
            );
        }
    }
    let preferment = (preferment_g > 0.0).then(|| within(ask.preferment_c.unwrap_or(ask.room_c)));
    let factor = factor_method(target, within(ask.flour_c), within(ask.room_c), preferment, rub);
    let liquid = a.formula.main_liquid().map_or_else(|| "Water".to_owned(), |(_, l)| l.ingredient.name.clone());
    let grams = |g: f64| Grams::new(g.min(100_000.0)).unwrap_or(Grams::constant(1.0));
    let balance = heat_balance(target, grams(as_water_g), &parts, net, &k.numbers).unwrap_or(factor);
    let lean = (60.0..=70.0).contains(&a.effective_hydration_pct.likely) && a.fat_pct.likely < 5.0 && a.sugar_pct.likely < 5.0;
    // The trade's sum knows no bowl and no cool room: where the dough is to be far from it, what they take is reckoned.
    let near_room = !kneaded || (ask.target_c - rise_k - ask.room_c).abs() <= NEAR_ROOM_K;
    let mild = near_room && [ask.flour_c, ask.room_c].iter().all(|c| (15.0..=28.0).contains(c));
    let quarter = preferment_g == 0.0 || (0.15..=0.35).contains(&(preferment_g / a.dough_g.likely));
    let needs_ice = balance < ask.tap_c - 0.5 && balance < 8.0;
    let (chosen, reason) = if lean && mild && quarter && !cold_lines && !needs_ice {
        (Method::Factor, "A lean dough near room temperature: the trade's sum is close enough.")
    } else if lean && quarter && !cold_lines && !near_room {
        (Method::HeatBalance, "The room is cooler or warmer than the dough by more than a little: what bowl and room take counts too.")
    } else {
        (Method::HeatBalance, "Something in the bowl is cold, rich or out of proportion: the heat of each part is added up.")
    };
    let method = ask.method.unwrap_or(chosen);
    let (water_c, other_c) = if method == Method::Factor { (factor, balance) } else { (balance, factor) };
    working.push(Working::given("by factor", factor, "°C").by("n × target − flour − room − preferment − n × friction"));
    working.push(
        Working::given("by heat balance", balance, "°C").by("T + Σ m c (T − Tᵢ) / (m c of the water)").from("conservation of energy"),
    );
    let ice_g = ice(grams(as_water_g), water_c, within(ask.tap_c), -10.0, &k.numbers)
        .map(Grams::get)
        .map_err(|m| InputErrors::one(Pointer::root().at("tap_c"), m))?;
    if ice_g > 0.0 {
        working.push(
            Working::given("ice", ice_g, "g")
                .by("water × 4.18 × (tap − wanted) / (334 + 2.1 × 10 + 4.18 × tap)")
                .from("latent heat, from memory"),
        );
    }
    Ok(WaterAnswer {
        method,
        water_c,
        other_c,
        liquid,
        water_g,
        tap_water_g: water_g - ice_g,
        ice_g,
        friction_k,
        reason,
        working,
        findings: yeast_caution(water_c).map(|s| hot(water_c, s)).into_iter().collect(),
    })
}

/// The rules of the findings raised here.
pub const RULES: &[Rule] = &[Rule::new("water-too-hot", between!("Yeast dies", 50, 60, celsius), "common practice, no source")];

/// The finding on water that would hurt the yeast.
#[must_use]
pub fn hot(water_c: f64, severity: Severity) -> Finding {
    let verb = if severity == Severity::Stop { "kills yeast" } else { "weakens yeast" };
    let message =
        format!("{} {verb}. Warm the flour or the bowl instead, or take a cooler dough and the longer rise.", degrees(water_c).to(0));
    rule!("water-too-hot").raised(severity, message, Vec::new())
}
