//! What a household adds to the shelf: its own flours and ingredients, its own pans, its own cup.
//!
//! An own ingredient is like a built-in one and says what differs; the rules of that one hold for it,
//! and it is checked by the same code as the built-in table.

use std::sync::Arc;

use serde::{Deserialize, Serialize};

use super::{Fact, Family, Ingredient, Inside, OwnWord, Pan, PanShape, Pantry, PieceWeight, allergens::read_allergen, fold};
use crate::{
    input::{Errors, InputErrors, Pointer},
    measure::{Band, centimetres, millilitres},
};

/// Points of water for a point of protein in white wheat flour: the slope through the rows of flours.csv
/// (10 % −4, 14 % +3), held by a test. Estimate.
const POINTS_PER_PROTEIN: f64 = 1.6;
/// White wheat flour holds gas as a strong one from this protein on, as in flours.csv.
const STRONG_FROM_PCT: f64 = 11.7;
/// How far a cup weighed once may be from the next. Common practice, no source.
const CUP_SPREAD: f64 = 0.1;

const LONGEST_NAME: usize = 80;
const MOST_SYNONYMS: usize = 20;

/// A household's ingredient, as it came and as it is kept.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[serde(default, deny_unknown_fields)]
pub struct OwnIngredient {
    /// As the household calls it.
    pub name: String,
    /// Other words that shall be read as it.
    pub also: Vec<String>,
    /// Id of the built-in ingredient it is like.
    pub like: String,
    /// Protein, % of its weight.
    pub protein_pct: Option<f64>,
    /// Points of water it takes more or less than a white bread flour.
    pub absorption_points: Option<f64>,
    /// Water, %.
    pub water_pct: Option<f64>,
    /// Fat, %.
    pub fat_pct: Option<f64>,
    /// Sugars, %.
    pub sugars_pct: Option<f64>,
    /// Salt, %.
    pub salt_pct: Option<f64>,
    /// Energy of 100 g.
    pub kcal_100g: Option<f64>,
    /// Grams of a US cup.
    pub cup_g: Option<f64>,
    /// Grams of a teaspoon.
    pub teaspoon_g: Option<f64>,
    /// Further allergens, beside those of the one it is like.
    pub allergens: Vec<String>,
    /// Who says so: the pack, the mill.
    pub source: String,
    /// No longer offered; formulas that hold it keep it.
    pub away: bool,
}

/// A household's pan, as it came and as it is kept. Inner sizes.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[serde(default, deny_unknown_fields)]
pub struct OwnPan {
    /// As the household calls it.
    pub name: String,
    /// `loaf`, `round`, `ring`, `rect`, `pot`, `basket`.
    pub shape: String,
    /// What it holds to the rim, ml.
    pub volume_ml: Option<f64>,
    /// Length, or diameter, cm; instead of the volume.
    pub length_cm: Option<f64>,
    /// Width, cm.
    pub width_cm: Option<f64>,
    /// Height, cm.
    pub height_cm: Option<f64>,
    /// Whether it is closed with a lid.
    pub lid: bool,
    /// No longer offered.
    pub away: bool,
}

/// All of a household's own things, each with its id.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct Shelf {
    /// Ingredients.
    pub ingredients: Vec<(String, OwnIngredient)>,
    /// Pans.
    pub pans: Vec<(String, OwnPan)>,
    /// What the household calls things.
    pub words: Vec<OwnWord>,
    /// Its own cup, ml.
    pub cup_ml: Option<f64>,
}

/// The id of a household's own thing, from its name: letters of other scripts by their number, since an id
/// stands in addresses.
fn own_id(name: &str) -> String {
    let letter = |c: char| match c {
        ' ' => "-".to_owned(),
        c if c.is_ascii_alphanumeric() => c.to_string(),
        c => format!("{:x}", u32::from(c)),
    };
    format!("own-{}", fold(name).chars().map(letter).collect::<String>())
}

fn named(name: &str, errors: &mut Errors) {
    let letters = name.trim().chars().count();
    if !(1..=LONGEST_NAME).contains(&letters) || fold(name).is_empty() {
        errors.add(Pointer::root().at("name"), format!("Give it a name of 1 to {LONGEST_NAME} letters."));
    }
}

impl OwnIngredient {
    /// Its id.
    #[must_use]
    pub fn id(&self) -> String {
        own_id(&self.name)
    }

    /// Checks its allergens as they are told: each one of the list.
    ///
    /// # Errors
    /// Each that is none.
    pub fn check_allergens(&self) -> Result<(), InputErrors> {
        let mut errors = Errors::default();
        for typed in self.allergens.iter().filter(|a| !a.trim().is_empty()) {
            errors.keep(Pointer::root().at("allergens"), read_allergen(typed));
        }
        errors.finish(())
    }

    /// The row it becomes, checked as the built-in rows are.
    ///
    /// # Errors
    /// Every field that is wrong.
    pub fn check(&self, built_in: &Pantry) -> Result<Ingredient, InputErrors> {
        let root = Pointer::root();
        let mut errors = Errors::default();
        named(&self.name, &mut errors);
        if let Some(other) =
            built_in.get(&fold(&self.name).replace(' ', "-")).or_else(|| built_in.all().iter().find(|i| fold(&i.name) == fold(&self.name)))
        {
            errors.add(root.at("name"), format!("“{}” stands on the shelf already: give yours a name of its own.", other.name));
        }
        if self.also.len() > MOST_SYNONYMS || self.also.iter().any(|a| a.chars().count() > LONGEST_NAME) {
            errors.add(root.at("also"), format!("{MOST_SYNONYMS} other words at most, of {LONGEST_NAME} letters at most."));
        }
        if self.source.chars().count() > 200 {
            errors.add(root.at("source"), "200 letters at most.");
        }
        if self.absorption_points.is_some_and(|p| !(-30.0..=60.0).contains(&p)) {
            errors
                .add(root.at("absorption_points"), "Flours take between 30 points less and 60 points more water than a white bread flour.");
        }
        let Some(like) = errors.keep(root.at("like"), built_in.find(&self.like)).cloned() else {
            // Without the one it is like there is no row to check: at least the shares are told.
            let shares = [
                ("protein_pct", self.protein_pct),
                ("water_pct", self.water_pct),
                ("fat_pct", self.fat_pct),
                ("sugars_pct", self.sugars_pct),
                ("salt_pct", self.salt_pct),
            ];
            for (name, pct) in shares.into_iter().filter_map(|(name, pct)| pct.map(|p| (name, p))) {
                errors.range(root.at(name), pct, 0.0, 100.0, "A share lies between 0 and 100 %.");
            }
            return errors.finish(()).and_then(|()| Err(InputErrors::one(root, "Say what it is like.")));
        };
        if self.absorption_points.is_some() && like.flour_share == 0.0 {
            errors.add(root.at("absorption_points"), format!("{} is no flour, so it has no water of its own to take.", like.name));
        }
        let row = self.row(&like);
        if let Err((column, what)) = row.check() {
            let field = match column {
                "cup_us_g" => "cup_g",
                "piece_g" => "teaspoon_g",
                other => other,
            };
            errors.add(root.at(field), what);
        }
        errors.finish(row)
    }

    /// The row of the one it is like with what differs; starch and fibre take up the difference.
    fn row(&self, like: &Ingredient) -> Ingredient {
        let mut row = Ingredient {
            id: self.id(),
            name: self.name.trim().to_owned(),
            synonyms: self.also.iter().map(|a| a.trim().to_owned()).filter(|a| !a.is_empty()).collect(),
            water_pct: self.water_pct.unwrap_or(like.water_pct),
            fat_pct: self.fat_pct.unwrap_or(like.fat_pct),
            sugars_pct: self.sugars_pct.unwrap_or(like.sugars_pct),
            protein_pct: self.protein_pct.unwrap_or(like.protein_pct),
            salt_pct: self.salt_pct.unwrap_or(like.salt_pct),
            kcal_100g: self.kcal_100g.unwrap_or(like.kcal_100g),
            note: format!("Yours. What is not said is as in {}", like.short_name()),
            source: if self.source.trim().is_empty() { "the household".to_owned() } else { self.source.trim().to_owned() },
            ..like.clone()
        };
        let sum = |i: &Ingredient| i.water_pct + i.fat_pct + i.sugars_pct + i.protein_pct + i.salt_pct;
        row.starch_fibre_pct = (like.starch_fibre_pct + sum(like) - sum(&row)).max(0.0);
        if let Some(salt) = self.salt_pct {
            // 1 g of sodium is in 2.54 g of salt, by their molar masses.
            row.sodium_mg_100g = like.sodium_mg_100g + (salt - like.salt_pct) * 1000.0 / 2.54;
        }
        // Water counts in the dough as it does in the one it is like, as far as there is more or less of it.
        if self.water_pct.is_some() && like.hydration_share > 0.0 && like.water_pct > 0.0 {
            row.hydration_share = (like.hydration_share * row.water_pct / like.water_pct).min(1.0);
        }
        if let Some(cup) = self.cup_g {
            (row.cup_us_g, row.cup_us_low_g, row.cup_us_high_g) =
                (Some(cup), Some(cup * (1.0 - CUP_SPREAD)), Some(cup * (1.0 + CUP_SPREAD)));
            row.measure_methods = Vec::new();
        }
        if let Some(grams) = self.teaspoon_g {
            row.pieces.retain(|p| p.key != "teaspoon");
            row.pieces.push(PieceWeight { key: "teaspoon".to_owned(), grams: Band::within(grams, CUP_SPREAD) });
        }
        // A word that was kept before there was a list stays on the label: one too many harms nobody.
        let word = |typed: &String| read_allergen(typed).map_or_else(|_| typed.trim().to_lowercase(), str::to_owned);
        for allergen in self.allergens.iter().map(word).filter(|a| !a.is_empty()) {
            if !row.allergens.contains(&allergen) {
                row.allergens.push(allergen);
            }
        }
        row
    }

    /// What the models need to know of it, if it is a flour.
    fn flour_kind(&self, like: &Ingredient, pantry: &Pantry) -> Option<super::FlourKind> {
        let kind = pantry.flour_kind(&like.id)?;
        let white = like.is(Fact::WhiteWheat);
        let more = self.protein_pct.filter(|_| white).map_or(0.0, |p| (p - like.protein_pct) * POINTS_PER_PROTEIN);
        let gas_class = match self.protein_pct.filter(|_| white) {
            Some(p) if p >= STRONG_FROM_PCT => "strong-white",
            Some(_) => "plain-white",
            None => kind.gas_class,
        };
        Some(super::FlourKind {
            gas_class,
            absorption_points: self.absorption_points.unwrap_or(kind.absorption_points + more),
            source: if self.absorption_points.is_some() { "the household".to_owned() } else { kind.source.clone() },
        })
    }
}

impl OwnPan {
    /// Its id.
    #[must_use]
    pub fn id(&self) -> String {
        own_id(&self.name)
    }

    /// The pan it becomes. Volume as told, else length × width × height, or the cylinder of a round one.
    ///
    /// # Errors
    /// Every field that is wrong.
    pub fn check(&self, built_in: &Pantry) -> Result<Pan, InputErrors> {
        let root = Pointer::root();
        let mut errors = Errors::default();
        named(&self.name, &mut errors);
        if built_in.pans().any(|p| fold(&p.name) == fold(&self.name)) {
            errors.add(root.at("name"), "There is one of that name already: give yours a name of its own.");
        }
        let shape = errors
            .keep(root.at("shape"), PanShape::from_word(&self.shape).ok_or("Say what it is like: loaf, round, ring, rect, pot or basket."));
        for (name, cm) in [("length_cm", self.length_cm), ("width_cm", self.width_cm), ("height_cm", self.height_cm)] {
            if let Some(cm) = cm {
                errors.range(
                    root.at(name),
                    cm,
                    1.0,
                    80.0,
                    concat!("Between ", centimetres!(1 bare), " and ", centimetres!(80), ", measured inside."),
                );
            }
        }
        let round = matches!(shape, Some(PanShape::Round | PanShape::Pot));
        let measured = match (self.length_cm, self.width_cm, self.height_cm) {
            (Some(across), _, Some(h)) if round => Some(std::f64::consts::PI / 4.0 * across * across * h),
            (Some(l), Some(w), Some(h)) => Some(l * w * h),
            _ => None,
        };
        let volume_ml = self.volume_ml.or(measured);
        if volume_ml.is_none() {
            errors.add(root.at("volume_ml"), "Say what it holds: the grams of water that fill it, or its inner length, width and height.");
        }
        if let Some(ml) = volume_ml {
            errors.range(
                root.at("volume_ml"),
                ml,
                30.0,
                20_000.0,
                concat!("A pan holds between ", millilitres!(30), " and ", millilitres!(20000), "."),
            );
        }
        errors.finish(()).map(|()| Pan {
            id: self.id(),
            name: self.name.trim().to_owned(),
            shape: shape.unwrap_or(PanShape::Loaf),
            volume_ml: volume_ml.unwrap_or_default(),
            inside: self.height_cm.map(|depth_cm| Inside { depth_cm, taper: (1.0, 1.0) }),
            lid: self.lid,
            cavities: None,
            rolls: None,
            source: "the household".to_owned(),
            is_own: true,
            away: self.away,
        })
    }
}

impl Pantry {
    /// This pantry with a household's own things in it, and those that no longer can be, with the reason.
    #[must_use]
    pub fn with(&self, shelf: &Shelf) -> (Self, Vec<(String, InputErrors)>) {
        let mut pantry = self.clone();
        let mut refused = Vec::new();
        let built_in = pantry.ingredients.len();
        let mut offered = Vec::new();
        for (id, own) in &shelf.ingredients {
            match own.check(self) {
                Ok(row) => {
                    let at = pantry.ingredients.len();
                    if let Some(kind) = self.get(&row.kind).and_then(|like| own.flour_kind(like, self)) {
                        pantry.flours.insert(id.clone(), kind);
                    }
                    pantry.by_id.insert(id.clone(), at);
                    pantry.ingredients.push(Arc::new(Ingredient { id: id.clone(), ..row }));
                    if own.away {
                        pantry.away.push(at);
                    } else {
                        offered.push(at);
                    }
                }
                Err(e) => refused.push((id.clone(), e)),
            }
        }
        // A household's own words come before the table's.
        let order = offered.into_iter().chain(0..built_in);
        pantry.names = super::names::NameIndex::new(&pantry.ingredients, order, &shelf.words, &pantry.synonyms);
        for (id, own) in &shelf.pans {
            match own.check(self) {
                Ok(pan) => pantry.pans.push(Arc::new(Pan { id: id.clone(), ..pan })),
                Err(e) => refused.push((id.clone(), e)),
            }
        }
        if let Some(ml) = shelf.cup_ml {
            pantry.measures.own_cup(ml);
        }
        (pantry, refused)
    }

    /// Whether an ingredient is the household's own.
    #[must_use]
    pub fn is_own(i: &Ingredient) -> bool {
        i.id != i.kind
    }
}

/// Families an own ingredient can usefully be like, in the order of the shelf.
#[must_use]
pub fn likenesses(pantry: &Pantry) -> Vec<&Arc<Ingredient>> {
    pantry.all().iter().filter(|i| !Pantry::is_own(i) && !matches!(i.family, Family::Alkali | Family::Topping)).collect()
}
