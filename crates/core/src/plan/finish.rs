//! What goes onto the pieces and when: coats before the bake, a bath, syrup after it; each with its own weigh-out.

use super::{Sign, StepKind};
use crate::{
    formula::{Analysis, Line, Pieces, Stage, Used, oven_of},
    measure::{length, show, to_nearest, weight},
    oven::{Bake, CAUSTIC, COAT, Constants, DIP, Geometry, Glaze, POACH, ProveIn, SYRUP, Vessel},
    pantry::{Family, Pan, Pantry},
};

/// Grams of soda to a litre of bath where the recipe does not tell it, and litres in a pot half full. Common practice, no source.
const SODA_G_PER_L: f64 = 40.0;
const BATH_L: f64 = 2.0;

/// Minutes a coat dries before the next; grams of wash for one coat of a square centimetre. Common practice, no source.
const DRIES_MIN: f64 = 10.0;
const COAT_G_CM2: f64 = 0.02;
/// A closed tin takes its lid when the dough stands so high, shares of its depth; past the last it is pressed out. Common
/// practice, no source.
const LIDDED: (f64, f64, f64) = (0.80, 0.85, 0.88);

impl Bake {
    /// The work just before it goes in, where there is any: a lid to close, a coat, a bath.
    #[must_use]
    pub fn before_load(&self) -> Option<StepKind> {
        if self.lid { Some(StepKind::LidOn) } else { self.glaze.before_bake() }
    }

    /// Minutes of hands it takes for all pieces. Common practice, no source.
    #[must_use]
    pub fn before_load_min(&self, pieces: u32) -> f64 {
        let n = f64::from(pieces);
        match self.before_load() {
            Some(StepKind::Dip) => (2.0 + 0.5 * n).ceil(),
            Some(_) => (1.0 + 0.3 * n).ceil(),
            None => 0.0,
        }
    }

    /// When that is done, minutes before the load, each coat in its turn; one takes so many minutes.
    pub(super) fn coats_before(&self, minutes: f64) -> Vec<f64> {
        let coats = if self.before_load() == Some(StepKind::Finish) { self.coats.max(1) } else { 1 };
        (0..coats).rev().map(|after| minutes + f64::from(after) * (minutes + DRIES_MIN)).collect()
    }

    /// Grams of wash all its coats take.
    fn wash_g(&self, k: &Constants) -> f64 {
        let body = Geometry::of(self, k);
        f64::from(self.pieces * self.coats.max(1)) * 1e4 * body.area * body.top_share * COAT_G_CM2
    }
}

impl Analysis<'_> {
    /// How full its tin is and where its lid is closed, as one says it; empty where it stands in no tin of a known size.
    #[must_use]
    pub fn tin_words(&self, pantry: &Pantry) -> String {
        let Some(fill) = self.tin_fill() else { return String::new() };
        let pan = self.formula.pieces.as_ref().and_then(|p| p.pan.as_deref());
        let level = fill
            .level_cm
            .map_or_else(String::new, |(up, deep)| format!(", {} of its {}", length(to_nearest(up, 0.1)).bare(), length(deep)));
        let lid = if oven_of(self, pantry).lid { format!(" Close the lid when it stands {}.", lid_heights(pan)) } else { String::new() };
        format!("Shaped, the dough fills {} % of the tin{level}.{lid}", show(fill.full_pct, 0))
    }
}

/// A share of the tin's depth as one measures it from the bottom, bare and with its unit: in cm, or in percent of a tin nobody
/// measured.
fn up_the_tin(pan: Option<&Pan>, share: f64) -> (String, String) {
    let Some(inside) = pan.and_then(|pan| pan.inside) else {
        let percent = show(100.0 * share, 0);
        return (percent.clone(), format!("{percent} %"));
    };
    let up = length(to_nearest(share * inside.depth_cm, 0.1));
    (up.bare().to_string(), up.to_string())
}

/// How high the dough stands when the lid goes on: `8.2–8.7 cm`.
fn lid_heights(pan: Option<&Pan>) -> String {
    format!("{}–{}", up_the_tin(pan, LIDDED.0).0, up_the_tin(pan, LIDDED.1).1)
}

/// The sign for closing a tin: how high the dough stands, from the bottom.
pub(super) fn lid_sign(pan: Option<&Pan>) -> Sign {
    let of = match pan.and_then(|pan| pan.inside) {
        None => "of the tin’s depth".to_owned(),
        Some(inside) => format!("up the tin, which is {} deep", length(inside.depth_cm)),
    };
    Sign {
        right: format!("{} {of}", lid_heights(pan)),
        under: "lower: wait, the lid can stay off".to_owned(),
        over: format!("higher than {}: bake it without the lid", up_the_tin(pan, LIDDED.2).1),
    }
}

impl Glaze {
    /// The work just before the bake; none for what goes on after it.
    #[must_use]
    pub const fn before_bake(self) -> Option<StepKind> {
        match self {
            Self::Egg | Self::YolkMilk | Self::Milk => Some(StepKind::Finish),
            Self::Soda | Self::Poached => Some(StepKind::Dip),
            // Before the bake syrup would burn.
            Self::None | Self::Syrup => None,
        }
    }
}

/// What is done with a closed tin.
const LID: &str =
    "Slide the lid on and leave it on to the end: do not look in before the time. The tin is hot on every side when it comes out.";

/// Some lines of the finish as they are weighed: `55 g Whole egg, 20 g Whole milk`; empty where there are none.
fn weighed(a: &Analysis<'_>, of: impl Fn(&Line) -> bool) -> String {
    let lines = a.formula.lines.iter().filter(|l| l.stage == Stage::Finish && of(l));
    lines.map(|l| format!("{} {}", weight(l.grams.likely), l.ingredient.name)).collect::<Vec<_>>().join(", ")
}

/// Butter and its like on top: brushed on while the bread is hot.
fn is_brushed_hot(l: &Line) -> bool {
    l.goes_on_top() && l.ingredient.family == Family::Fat
}

/// What is rolled in or laid in as it is shaped.
pub(super) fn filling(a: &Analysis<'_>) -> Option<String> {
    let all = weighed(a, |l| l.used == Some(Used::Filling));
    (!all.is_empty()).then(|| format!("Filling: weigh {all}. Spread it, a finger free along the far edge."))
}

/// What is poured over the baked bread.
pub(super) fn icing(a: &Analysis<'_>) -> Option<String> {
    let all = weighed(a, |l| l.used == Some(Used::Icing));
    (!all.is_empty()).then(|| format!("Icing: weigh {all}. Stir it smooth, over the bread once it is hardly warm."))
}

/// What is strewn on where nothing is brushed on under it.
pub(super) fn strewn(a: &Analysis<'_>) -> Option<String> {
    let dry = |l: &Line| {
        l.goes_on_top()
            && matches!(l.ingredient.family, Family::Seed | Family::Nut | Family::Topping | Family::Salt | Family::Spice | Family::Flour)
    };
    let all = weighed(a, dry);
    (!all.is_empty()).then(|| format!("Wet the top, strew on {all}."))
}

/// How it is done: words for the act before the bake, the coat of that number.
pub(super) fn words(a: &Analysis<'_>, bake: &Bake, k: &Constants, nth: usize) -> String {
    if bake.lid {
        return LID.to_owned();
    }
    let coats = bake.coats_before(0.0).len();
    if nth > 0 {
        return format!("Coat {} of {coats}, once the one before is dull. {COAT}", nth + 1);
    }
    let wash = || {
        let about = to_nearest(bake.wash_g(k), 5.0).max(5.0);
        let takes = if coats > 1 { format!("{coats} coats, {} min apart, take", show(DRIES_MIN, 0)) } else { "It takes".to_owned() };
        format!("{takes} about {}. ", weight(about))
    };
    let all = weighed(a, |l| l.goes_on_top() && !is_brushed_hot(l));
    let start = if all.is_empty() { String::new() } else { format!("Weigh {all}. ") };
    let how = match bake.glaze {
        Glaze::Egg | Glaze::YolkMilk => format!("{}Beat it with a pinch of salt. {COAT}", wash()),
        Glaze::Milk => format!("{}{COAT}", wash()),
        Glaze::Soda if bake.caustic => CAUSTIC.to_owned(),
        Glaze::Soda => bath(a),
        Glaze::Poached => POACH.to_owned(),
        Glaze::None | Glaze::Syrup => String::new(),
    };
    format!("{start}{how}")
}

/// `40 g of soda to the litre, just under the boil. 20–30 s a side, drain, salt while it is wet.`
fn bath(a: &Analysis<'_>) -> String {
    let told = |family: Family| -> f64 {
        let lines = a.formula.lines.iter().filter(|l| l.stage == Stage::Finish && l.ingredient.family == family);
        lines.map(|l| l.grams.likely).sum()
    };
    let (soda, water) = (told(Family::Alkali), told(Family::Liquid));
    let strength = if soda > 0.0 && water > 0.0 {
        format!("{} of soda to the litre", weight(1000.0 * soda / water))
    } else if soda > 0.0 {
        format!("{} of water for it, {} to the litre", weight(1000.0 * soda / SODA_G_PER_L), weight(SODA_G_PER_L))
    } else {
        format!("{} of water, {} of soda to the litre", weight(1000.0 * BATH_L), weight(SODA_G_PER_L))
    };
    format!("{strength}, just under the boil. {DIP}")
}

/// What is done to it as it comes out of the oven.
pub(super) fn after_bake(a: &Analysis<'_>, glaze: Glaze) -> Option<String> {
    let butter = weighed(a, is_brushed_hot);
    match glaze {
        Glaze::Syrup => Some(SYRUP.to_owned()),
        _ if butter.is_empty() => None,
        _ => Some(format!("Brush it with {butter} while it is hot.")),
    }
}

/// Where the shaped pieces prove, as one does it.
pub(super) const fn laid_in(place: ProveIn, pieces: u32) -> Option<&'static str> {
    match place {
        ProveIn::Bowl => Some("Into a bowl lined with a floured cloth, seam up."),
        ProveIn::Basket => Some("Into a floured basket, seam up."),
        ProveIn::Cloth if pieces > 1 => Some("Onto a floured cloth, a fold of it between them, seam up."),
        ProveIn::Cloth => Some("Onto a floured cloth, seam up."),
        ProveIn::Tin => None,
    }
}

/// How they come out of it before they are cut.
pub(super) const fn turned_out(place: ProveIn) -> Option<&'static str> {
    match place {
        ProveIn::Bowl | ProveIn::Basket => Some("Turn it out onto paper, seam down."),
        ProveIn::Cloth => Some("Roll it off the cloth onto paper, seam down."),
        ProveIn::Tin => None,
    }
}

/// How several lie beside each other, where that is told.
pub(super) fn lie(pieces: &Pieces, bake: &Bake) -> Option<&'static str> {
    if bake.touching {
        return Some("Side by side, a finger apart: they grow together.");
    }
    (pieces.touching == Some(false) && bake.pieces > 1).then_some("A hand apart, so that they do not touch.")
}

/// What is made ready before a piece is shaped for it.
pub(super) const fn prepared(bake: &Bake) -> Option<&'static str> {
    match bake.vessel {
        Vessel::PanMetal | Vessel::PanGlass => Some("Butter the tin first."),
        Vessel::PanSilicone => Some("Set the tin on a tray first: it bends."),
        Vessel::Dish => Some("Butter the dish first."),
        Vessel::MuffinTin => Some("Butter the cups first."),
        Vessel::Sheet => Some("Paper on the tray first."),
        // In the heat they wait for it.
        Vessel::Stone | Vessel::Steel | Vessel::Pot | Vessel::Cover => None,
    }
}
