//! From a formula to what the models take: one place for pages and API alike.

use super::{Analysis, Stage, StyleId};
use crate::{
    ferment::{Dough, LeavenState, YeastDose},
    kitchen::Kitchen,
    knead::{KneadAsk, Method, SPEED},
    oven::{Bake, Glaze, Shape, Vessel},
    pantry::{Fact, Family, Gluten, PanShape, Pantry},
};

/// What the rise model takes of a formula.
#[must_use]
pub fn dough_of(a: &Analysis<'_>, pantry: &Pantry, leaven: Option<LeavenState>) -> Dough {
    let flour = a.flour_g.likely;
    let percent = |grams: f64| if flour > 0.0 { 100.0 * grams / flour } else { 0.0 };
    let mut mix: Vec<(String, f64)> = Vec::new();
    let (mut solids, mut yeasts, mut instant) = (0.0, Vec::new(), 0.0);
    for line in a.formula.lines.iter().filter(|l| l.in_dough()) {
        let (i, grams) = (&line.ingredient, line.grams.likely);
        if i.flour_share > 0.0 {
            let class = match i.family {
                Family::Leaven => i.leaven_flour().0,
                _ => pantry.flour_kind(&i.id).map_or(if i.gluten == Gluten::No { "gluten-free" } else { "plain-white" }, |k| k.gas_class),
            };
            let amount = percent(grams * i.flour_share);
            match mix.iter_mut().find(|(c, _)| c == class) {
                Some(entry) => entry.1 += amount,
                None => mix.push((class.to_owned(), amount)),
            }
        }
        let cheese = i.is(Fact::Cheese);
        if matches!(i.family, Family::Dairy | Family::Egg | Family::Liquid) && !cheese {
            let dry = (100.0 - i.water_pct - i.fat_pct - i.alcohol_pct).max(0.0) / 100.0;
            solids += grams * (dry - i.flour_share).max(0.0);
        }
        if let Some(kind) = i.yeast_kind() {
            instant += grams * pantry.instant_equivalent(kind);
            yeasts.push((kind, grams));
        }
    }
    let yeast = match yeasts.as_slice() {
        [] => None,
        [(kind, first), others @ ..] if others.iter().all(|(k, _)| k == kind) => {
            let grams = first + others.iter().map(|(_, g)| g).sum::<f64>();
            Some(YeastDose { kind: kind.word().to_owned(), pct: percent(grams), viable: 1.0 })
        }
        _ => Some(YeastDose { kind: "instant".to_owned(), pct: percent(instant), viable: 1.0 }),
    };
    Dough {
        flour: mix,
        water_pct: a.effective_hydration_pct.likely,
        salt_pct: a.salt_pct.likely,
        sugar_pct: a.sugar_pct.likely,
        fat_pct: a.fat_in_dough_pct(),
        solids_pct: percent(solids),
        yeast,
        leaven: (a.leaven_flour_pct.likely > 0.0).then_some((a.leaven_flour_pct.likely, leaven)),
        preferment_yeast_pct: 0.0,
        spice_factor: 1.0,
    }
}

impl Analysis<'_> {
    /// Fat in the dough itself, percent of the flour: what nuts, seeds and cheese keep to themselves is not in it.
    #[must_use]
    pub fn fat_in_dough_pct(&self) -> f64 {
        let flour = self.flour_g.likely;
        let kept = self.formula.lines.iter().filter(|l| l.stage == Stage::Inclusion && l.ingredient.family != Family::Flour);
        let kept: f64 = kept.map(|l| l.grams.likely * l.ingredient.fat_pct / 100.0).sum();
        if flour > 0.0 { (self.fat_pct.likely - 100.0 * kept / flour).max(0.0) } else { 0.0 }
    }

    /// Takes the yeast that stands in the preferment off a dough: what it has grown to is told beside it.
    pub fn leave_preferment_out(&self, dough: &mut Dough, pantry: &Pantry) {
        let flour = self.flour_g.likely;
        let early: f64 = self
            .formula
            .lines
            .iter()
            .filter(|l| l.is_early())
            .filter_map(|l| l.ingredient.yeast_kind().map(|kind| l.grams.likely * pantry.instant_equivalent(kind)))
            .sum();
        let own = self.formula.lines.iter().filter(|l| l.in_dough()).find_map(|l| l.ingredient.yeast_kind());
        if let (Some(yeast), Some(kind)) = (dough.yeast.as_mut(), own)
            && flour > 0.0
        {
            let factor = if yeast.kind == kind.word() { pantry.instant_equivalent(kind) } else { 1.0 };
            yeast.pct = (yeast.pct - 100.0 * early / (flour * factor)).max(0.0);
        }
    }
}

/// Protein of a flour that tells none worth counting, percent.
const USUAL_PROTEIN_PCT: f64 = 12.0;

/// What the kneading takes of a formula: as it tells, else by hand, in a room at 21 °C until the kitchen says otherwise.
#[must_use]
pub fn kneading_of(a: &Analysis<'_>) -> KneadAsk {
    let flour = a.flour_g.likely;
    let percent = |grams: f64| if flour > 0.0 { 100.0 * grams / flour } else { 0.0 };
    let inside = || a.formula.lines.iter().filter(|l| l.in_dough());
    let flours = || inside().filter(|l| l.ingredient.family == Family::Flour && l.ingredient.gluten != Gluten::No);
    let of_flour: f64 = flours().map(|l| l.grams.likely).sum();
    let protein: f64 = flours().map(|l| l.grams.likely * l.ingredient.protein_pct).sum();
    let ask = KneadAsk {
        style: a.style.id.word().to_owned(),
        h_adj: a.hydration_adjusted_pct,
        protein: if of_flour > 0.0 { (protein / of_flour).clamp(6.0, 18.0) } else { USUAL_PROTEIN_PCT },
        wholegrain_pct: a.wholegrain_pct.min(100.0),
        rye_pct: a.rye_pct.min(100.0),
        fat_pct: a.fat_in_dough_pct(),
        butter_late: inside().any(|l| l.stage == Stage::Late && l.ingredient.family == Family::Fat),
        sugar_pct: a.sugar_pct.likely,
        salt_pct: a.salt_pct.likely,
        inclusions_pct: percent(inside().filter(|l| l.stage == Stage::Inclusion).map(|l| l.grams.likely).sum()),
        yeast_pct: a.yeast_instant_pct.likely,
        flour_g: flour,
        dough_g: a.dough_g.likely,
        ..KneadAsk::default()
    };
    match a.formula.kneading {
        None => ask,
        Some(told) => KneadAsk {
            method: told.method.word().to_owned(),
            minutes: told.minutes,
            rest_min: told.rest_min.unwrap_or(ask.rest_min),
            folds: told.folds.map(f64::from),
            butter_late: told.butter_late.filter(|_| has_butter(a)).unwrap_or(ask.butter_late),
            ..ask
        },
    }
}

/// Whether a fat goes into it that is worked in early or late: butter, lard and their like, no oil.
#[must_use]
pub fn has_butter(a: &Analysis<'_>) -> bool {
    a.formula.lines.iter().any(|l| l.in_dough() && l.ingredient.family == Family::Fat && !l.ingredient.is(Fact::Oil))
}

/// The same in a household: by its mixer where the formula tells no way, in its room, at the dough's usual temperature.
#[must_use]
pub fn kneading_in(a: &Analysis<'_>, kitchen: &Kitchen) -> KneadAsk {
    let ask = kneading_of(a);
    KneadAsk {
        method: a.formula.kneading.map_or_else(|| usual_method(a, &ask, kitchen), |told| told.method).word().to_owned(),
        room_c: kitchen.room_c,
        start_c: kitchen.room_c,
        fridge_c: kitchen.fridge_c.unwrap_or(ask.fridge_c),
        mixer_size: kitchen.mixer_size.word().to_owned(),
        speed_factor: kitchen.knead_speed.unwrap_or(1.0).clamp(SPEED.0, SPEED.1),
        ..ask
    }
}

/// Stiffer than this a dough is not folded to strength, percent of water; richer neither, percent of fat. Common practice, no source.
const FOLDS_FROM_PCT: f64 = 62.0;
const FOLDS_TO_FAT_PCT: f64 = 20.0;

/// How a dough is kneaded that nobody says it of: one that is folded or left by custom so, any other as the household does.
fn usual_method(a: &Analysis<'_>, ask: &KneadAsk, kitchen: &Kitchen) -> Method {
    let folds = ask.h_adj >= FOLDS_FROM_PCT && ask.fat_pct < FOLDS_TO_FAT_PCT;
    match (a.style.id, Method::from_word(&kitchen.mixer)) {
        (StyleId::LongNoKnead, _) => Method::NoKnead,
        (StyleId::SourdoughLean, _) if folds => Method::Fold,
        (_, Some(method)) => method,
        (_, None) if folds => Method::Fold,
        (_, None) => Method::Hand,
    }
}

/// From this weight on one piece is a loaf, g.
const LOAF_G: f64 = 300.0;

/// The shape of a bread that tells none: by its tin, else by its style. Common practice, no source.
fn usual_shape(a: &Analysis<'_>) -> Shape {
    let pan = a.formula.pieces.as_ref().and_then(|p| p.pan.as_ref());
    let vessel = a.formula.pieces.as_ref().and_then(|p| p.vessel);
    let lid = a.formula.pieces.as_ref().is_some_and(|p| p.lid);
    match (pan.map(|p| p.shape), a.style.id) {
        _ if pan.is_some_and(|p| p.cavities.is_some()) => Shape::Muffin,
        (None, _) if vessel == Some(Vessel::MuffinTin) => Shape::Muffin,
        (None, _) if vessel.is_some_and(Vessel::is_pan) && (a.piece_g() >= LOAF_G || lid) => Shape::Pan,
        (None, StyleId::PanSoft | StyleId::GlutenFree) if vessel.is_some() => Shape::Ball,
        (Some(PanShape::Loaf), _) => Shape::Pan,
        (Some(_), _) => Shape::Ball,
        (None, StyleId::BraidedEgg) => Shape::Braid,
        (None, StyleId::Flat) => Shape::Flat,
        (None, StyleId::PanSoft | StyleId::GlutenFree) if a.piece_g() >= LOAF_G => Shape::Pan,
        (None, _) => Shape::Ball,
    }
}

/// What a piece bakes in where that is not told: its tin, else what its shape stands in.
fn usual_vessel(a: &Analysis<'_>, shape: Shape) -> Vessel {
    let pan = a.formula.pieces.as_ref().and_then(|p| p.pan.as_ref());
    match (pan.map(|p| p.shape), shape) {
        (_, Shape::Muffin) => Vessel::MuffinTin,
        (Some(PanShape::Pot), _) => Vessel::Pot,
        (Some(PanShape::Basket), _) => Vessel::Sheet,
        (Some(_), _) | (None, Shape::Pan | Shape::Tall) => Vessel::PanMetal,
        // A lid over one loaf is a pot's; rolls are covered with foil.
        (None, Shape::Ball | Shape::Batard) if a.formula.tells_a_lid() && a.piece_g() >= LOAF_G => Vessel::Pot,
        (None, _) => Vessel::Sheet,
    }
}

/// What the oven model takes of a formula; `piece_g` where neither formula nor request says.
#[must_use]
pub fn oven_of(a: &Analysis<'_>, pantry: &Pantry) -> Bake {
    let dough = dough_of(a, pantry, None);
    let pieces = a.formula.pieces.as_ref();
    let finish = |test: &dyn Fn(&super::Line) -> bool| a.formula.lines.iter().any(|l| l.goes_on_top() && test(l));
    let egg = finish(&|l| l.ingredient.family == Family::Egg);
    let yolk = finish(&|l| l.ingredient.kind == "egg-yolk");
    let milk = finish(&|l| l.ingredient.is(Fact::Milk));
    let glaze = if finish(&|l| l.ingredient.family == Family::Alkali) {
        Glaze::Soda
    } else if yolk && milk {
        Glaze::YolkMilk
    } else if egg {
        Glaze::Egg
    } else if milk {
        Glaze::Milk
    } else if finish(&|l| l.ingredient.family == Family::Sugar && l.ingredient.water_pct > 12.0) {
        Glaze::Syrup
    } else {
        Glaze::None
    };
    let shape = pieces.and_then(super::Pieces::told_shape).unwrap_or_else(|| usual_shape(a));
    let vessel = pieces.and_then(|p| p.vessel).unwrap_or_else(|| usual_vessel(a, shape));
    Bake {
        piece_g: a.piece_g(),
        pieces: pieces.map_or(1, |p| p.count),
        shape,
        vessel,
        // A lid is a tin's; a pot has its own.
        lid: vessel.is_pan() && shape == Shape::Pan && pieces.is_some_and(|p| p.lid),
        touching: pieces.is_some_and(super::Pieces::lie_touching),
        // Thickness is a flat bread's: another shape has its own.
        thickness_cm: pieces.and_then(|p| p.thickness_cm).filter(|_| shape == Shape::Flat),
        prove_in: pieces.and_then(super::Pieces::told_proof),
        hydration_pct: a.effective_hydration_pct.likely,
        sugar_pct: a.sugar_pct.likely,
        fat_pct: dough.fat_pct,
        egg_pct: a.egg_pct,
        milk_pct: a.milk_pct,
        fruit_pct: a.fruit_pct,
        wholegrain_pct: a.wholegrain_pct,
        rye_pct: a.rye_pct,
        gluten_free: a.gluten_flour_pct < 1e-9,
        glaze,
        coats: a.formula.coats.unwrap_or(1),
        caustic: finish(&|l| l.ingredient.is_caustic()),
        ..Bake::default()
    }
}
