use super::{TableError, field_number};
use crate::measure::weight;

const FILE: &str = "ingredients.csv";
/// A table's figures are rounded each by itself: together they may pass 100 by a little.
const MOST_TOGETHER_PCT: f64 = 101.0;
/// Pure fat holds 900 kcal in 100 g (Regulation (EU) 1169/2011, Annex XIV, from memory).
const MOST_KCAL: f64 = 905.0;

words! {
    /// The shelf an ingredient stands on; it decides what counts as liquid, salt, fat.
    Family {
        Flour "flour" "Flours",
        Starch "starch" "Starches",
        Liquid "liquid" "Liquids",
        Dairy "dairy" "Dairy",
        Egg "egg" "Eggs",
        Fat "fat" "Fats",
        Sugar "sugar" "Sugars, syrups, malt",
        Salt "salt" "Salts",
        Yeast "yeast" "Yeasts",
        Leaven "leaven" "Leavens",
        LeavenChemical "leaven-chemical" "Baking powders",
        Alkali "alkali" "Soda and lye",
        Fruit "fruit" "Fruit and vegetables",
        Nut "nut" "Nuts",
        Seed "seed" "Seeds and grains",
        Spice "spice" "Spices and aromas",
        Gum "gum" "Gums and acids",
        Topping "topping" "Toppings",
    }
    /// What the rules ask of an ingredient beside its shelf and its composition: the column `facts`.
    Fact {
        /// Plain water: what is warmed or cooled, and costs nothing.
        Water "water",
        /// Milk, cream and what is drunk instead: browns and softens.
        Milk "milk",
        /// Flour of the whole grain.
        Wholegrain "wholegrain",
        /// Rye, as flour or leaven.
        Rye "rye",
        /// White wheat flour, whose gluten follows from its protein.
        WhiteWheat "white-wheat",
        /// Butter and ghee.
        Butter "butter",
        /// Oil: pours, and does not wait for the gluten.
        Oil "oil",
        /// Fat that is sold in sticks.
        InSticks "in-sticks",
        /// Cheese that counts as cheese, not as milk.
        Cheese "cheese",
        /// Brings salt of its own into a dough.
        BringsSalt "brings-salt",
        /// Sours a dough.
        Sour "sour",
        /// Drinks what gluten needs unless it is soaked.
        Fibre "fibre",
        /// Holds the gas where there is no gluten.
        Binder "binder",
        /// Flour with baking powder in it.
        SelfRaising "self-raising",
        /// Baking soda.
        Soda "soda",
        /// Baker's leaven, ready or to be built.
        Leaven "leaven",
        /// Dough of the day before.
        OldDough "old-dough",
        /// Malt whose enzymes still work, unless it says otherwise.
        MaltEnzymes "malt-enzymes",
        /// Brown sugar: packed or loose in the cup.
        BrownSugar "brown-sugar",
        /// Onion and garlic, raw unless it says otherwise.
        Allium "allium",
        /// Comes out of the fridge.
        KeptCold "kept-cold",
    }
    /// When it goes in; gives the default stage of a line.
    Added {
        WithFlour "with-flour", InLiquid "in-liquid", AfterGluten "after-gluten", LastMinute "last-minute", Soaker "soaker",
        OnTop "on-top", Filling "filling", Dip "dip",
    }
    /// Kinds of baker's yeast.
    YeastKind {
        Instant "instant", Osmotolerant "osmotolerant", ActiveDry "active-dry", Fresh "fresh",
    }
}

/// Whether it holds gluten.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[allow(missing_docs, reason = "the names say it")]
pub enum Gluten {
    Yes,
    No,
    CrossContact,
}

impl YeastKind {
    /// Whether it is sold dry, in packets.
    #[must_use]
    pub const fn is_dry(self) -> bool {
        !matches!(self, Self::Fresh)
    }
    /// Its row in the pantry.
    #[must_use]
    pub const fn ingredient(self) -> &'static str {
        match self {
            Self::Instant => "yeast-instant",
            Self::Osmotolerant => "yeast-osmotolerant",
            Self::ActiveDry => "yeast-active-dry",
            Self::Fresh => "yeast-fresh",
        }
    }
}

/// What one piece weighs: an egg, a stick, a packet.
#[derive(Debug, Clone, PartialEq)]
pub struct PieceWeight {
    /// Which piece: `us-large`, `packet-us`, `teaspoon`.
    pub key: String,
    /// Grams, with their interval.
    pub grams: crate::measure::Band,
}

/// One row of the pantry. Percentages are of the ingredient's own weight.
#[derive(Debug, Clone, PartialEq)]
#[allow(missing_docs, reason = "columns of the table, named alike")]
pub struct Ingredient {
    pub id: String,
    /// The row of the built-in table whose rules hold for it: its own id, or the one a household's ingredient is like.
    pub kind: String,
    pub name: String,
    pub synonyms: Vec<String>,
    pub family: Family,
    pub flour_share: f64,
    pub hydration_share: f64,
    pub cup_us_g: Option<f64>,
    pub cup_us_low_g: Option<f64>,
    pub cup_us_high_g: Option<f64>,
    /// Grams per US cup by way of filling: `spooned`, `scooped`, `sifted`, `packed`, …
    pub measure_methods: Vec<(String, f64)>,
    pub pieces: Vec<PieceWeight>,
    pub water_pct: f64,
    pub fat_pct: f64,
    pub sugars_pct: f64,
    pub protein_pct: f64,
    pub salt_pct: f64,
    /// Carbohydrate beside the sugars, fibre included.
    pub starch_fibre_pct: f64,
    pub alcohol_pct: f64,
    pub sodium_mg_100g: f64,
    pub kcal_100g: f64,
    /// Whether nothing in it comes from an animal.
    pub vegan: bool,
    pub allergens: Vec<String>,
    pub gluten: Gluten,
    pub added: Added,
    /// What else the rules ask of it.
    pub facts: Vec<Fact>,
    /// Acetic acid, or what acts like it, % of its weight.
    pub acid_pct: f64,
    /// Its weight in water that it drinks where it goes in dry.
    pub drinks: f64,
    /// From this share of the flour on it holds yeast back, %.
    pub slows_yeast_from_pct: Option<f64>,
    pub source: String,
    pub note: String,
}

impl Ingredient {
    /// Whether its bath burns skin and eyes: any alkali but baking soda.
    #[must_use]
    pub fn is_caustic(&self) -> bool {
        self.family == Family::Alkali && self.kind != "baking-soda"
    }

    /// Whether a fact of the table holds for it.
    #[must_use]
    pub fn is(&self, fact: Fact) -> bool {
        self.facts.contains(&fact)
    }

    /// Of a leaven: the class of its flour as the rise model knows it, and its water on that flour, percent.
    #[must_use]
    pub fn leaven_flour(&self) -> (&'static str, f64) {
        let class = if self.is(Fact::Rye) { "light-rye" } else { "plain-white" };
        (class, 100.0 * self.hydration_share / self.flour_share.max(0.01))
    }

    /// This leaven with so much water on its flour, percent: what of it is flour keeps its make-up, the rest is water.
    #[must_use]
    pub fn leaven_at(&self, hydration_pct: f64) -> Self {
        let flour_share = 100.0 / (100.0 + hydration_pct);
        let part = if self.flour_share > 0.0 { flour_share / self.flour_share } else { 1.0 };
        let mut row = self.clone();
        row.flour_share = flour_share;
        row.hydration_share = 1.0 - flour_share;
        for pct in [
            &mut row.fat_pct,
            &mut row.sugars_pct,
            &mut row.protein_pct,
            &mut row.salt_pct,
            &mut row.starch_fibre_pct,
            &mut row.alcohol_pct,
            &mut row.sodium_mg_100g,
            &mut row.kcal_100g,
        ] {
            *pct *= part;
        }
        row.water_pct = 100.0 - (100.0 - self.water_pct) * part;
        row
    }

    /// Whether the row can be: its parts together are no more than itself, its shares are shares.
    ///
    /// # Errors
    /// The column that cannot be, and why.
    pub fn check(&self) -> Result<(), (&'static str, String)> {
        let parts = [
            ("water_pct", self.water_pct),
            ("fat_pct", self.fat_pct),
            ("sugars_pct", self.sugars_pct),
            ("protein_pct", self.protein_pct),
            ("salt_pct", self.salt_pct),
            ("alcohol_pct", self.alcohol_pct),
            ("acid_pct", self.acid_pct),
        ];
        if let Some((name, pct)) = parts.into_iter().find(|(_, pct)| !(0.0..=100.0).contains(pct)) {
            return Err((name, format!("A share lies between 0 and 100 %; {pct} does not.")));
        }
        let together = self.water_pct + self.fat_pct + self.sugars_pct + self.protein_pct + self.alcohol_pct;
        if together > MOST_TOGETHER_PCT {
            return Err(("water_pct", format!("Water, fat, sugars and protein are {together:.0} % together: more than there is.")));
        }
        for (name, share) in [("flour_share", self.flour_share), ("hydration_share", self.hydration_share)] {
            if !(0.0..=1.0).contains(&share) {
                return Err((name, format!("A share lies between 0 and 1; {share} does not.")));
            }
        }
        if !(0.0..=MOST_KCAL).contains(&self.kcal_100g) {
            return Err(("kcal_100g", format!("100 g hold between 0 and {MOST_KCAL} kcal.")));
        }
        if self.source.is_empty() {
            return Err(("source", "Say where the figures come from.".to_owned()));
        }
        if let Some(grams) = self.cup_us_g.filter(|g| !(1.0..=1000.0).contains(g)) {
            return Err((
                "cup_us_g",
                format!("A cup of anything weighs between {} and {}; {} does not.", weight(1.0).bare(), weight(1000.0), weight(grams)),
            ));
        }
        if let Some(piece) = self.pieces.iter().find(|p| !(0.01..=5000.0).contains(&p.grams.likely)) {
            return Err((
                "piece_g",
                format!(
                    "A spoon or a piece weighs between {} and {}; {} does not.",
                    weight(0.01).bare(),
                    weight(5000.0),
                    weight(piece.grams.likely)
                ),
            ));
        }
        Ok(())
    }

    /// Its name without what stands in brackets behind it.
    #[must_use]
    pub fn short_name(&self) -> &str {
        self.name.split(" (").next().unwrap_or(&self.name)
    }
    /// Which baker's yeast it is, if one.
    #[must_use]
    pub fn yeast_kind(&self) -> Option<YeastKind> {
        YeastKind::ALL.into_iter().find(|k| k.ingredient() == self.kind)
    }
    /// The weight of a piece by its key.
    #[must_use]
    pub fn piece(&self, key: &str) -> Option<crate::measure::Band> {
        self.pieces.iter().find(|p| p.key == key).map(|p| p.grams)
    }
    /// Whether it pours: measured by volume it has a narrow weight.
    #[must_use]
    pub fn pours(&self) -> bool {
        matches!(self.family, Family::Liquid | Family::Egg)
            || (self.family == Family::Dairy && self.water_pct > 40.0)
            || self.is(Fact::Oil)
            || (self.family == Family::Sugar && self.water_pct > 12.0)
    }
}

#[derive(serde::Deserialize)]
struct Row {
    id: String,
    name: String,
    synonyms: String,
    family: String,
    flour_share: String,
    hydration_share: String,
    cup_us_g: String,
    cup_us_low_g: String,
    cup_us_high_g: String,
    measure_methods: String,
    piece_g: String,
    water_pct: String,
    fat_pct: String,
    sugars_pct: String,
    protein_pct: String,
    salt_pct: String,
    starch_fibre_pct: String,
    alcohol_pct: String,
    sodium_mg_100g: String,
    kcal_100g: String,
    vegan: String,
    allergens: String,
    gluten: String,
    added: String,
    facts: String,
    acid_pct: String,
    drinks: String,
    slows_yeast_from_pct: String,
    composition_source: String,
    density_source: String,
    note: String,
}

pub(super) fn list(cell: &str) -> impl Iterator<Item = &str> {
    cell.split('|').map(str::trim).filter(|s| !s.is_empty())
}

pub(super) fn read(csv: &str) -> Result<Vec<Ingredient>, TableError> {
    let bad = |row: &str, what: String| TableError { file: FILE, row: row.to_owned(), what };
    let mut rows = Vec::new();
    for row in csv::Reader::from_reader(csv.as_bytes()).deserialize() {
        let r: Row = row.map_err(|e| bad("?", e.to_string()))?;
        let number = |name: &str, text: &str| field_number(FILE, &r.id, name, text);
        let share = |name: &str, text: &str| number(name, text).map(|v| v.unwrap_or(0.0));
        let mut methods = Vec::new();
        for cell in list(&r.measure_methods) {
            let (key, grams) = cell.split_once('=').ok_or_else(|| bad(&r.id, format!("measure_methods: {cell}")))?;
            methods.push((key.to_owned(), share("measure_methods", grams)?));
        }
        let mut pieces = Vec::new();
        for cell in list(&r.piece_g) {
            let (key, grams) = cell.split_once('=').ok_or_else(|| bad(&r.id, format!("piece_g: {cell}")))?;
            let parts = grams.split(':').map(|g| share("piece_g", g)).collect::<Result<Vec<_>, _>>()?;
            let grams = match parts.as_slice() {
                [likely] => crate::measure::Band::exact(*likely),
                [likely, low, high] => crate::measure::Band::new(*low, *likely, *high),
                _ => return Err(bad(&r.id, format!("piece_g: {cell}"))),
            };
            pieces.push(PieceWeight { key: key.to_owned(), grams });
        }
        rows.push(Ingredient {
            family: Family::from_word(&r.family).ok_or_else(|| bad(&r.id, format!("family {}", r.family)))?,
            gluten: match r.gluten.as_str() {
                "yes" => Gluten::Yes,
                "no" => Gluten::No,
                "cross-contact" => Gluten::CrossContact,
                other => return Err(bad(&r.id, format!("gluten {other}"))),
            },
            added: Added::from_word(&r.added).ok_or_else(|| bad(&r.id, format!("added {}", r.added)))?,
            facts: list(&r.facts)
                .map(|word| Fact::from_word(word).ok_or_else(|| bad(&r.id, format!("facts: {word} is none"))))
                .collect::<Result<_, _>>()?,
            acid_pct: share("acid_pct", &r.acid_pct)?,
            drinks: share("drinks", &r.drinks)?,
            slows_yeast_from_pct: number("slows_yeast_from_pct", &r.slows_yeast_from_pct)?,
            flour_share: share("flour_share", &r.flour_share)?,
            hydration_share: share("hydration_share", &r.hydration_share)?,
            cup_us_g: number("cup_us_g", &r.cup_us_g)?,
            cup_us_low_g: number("cup_us_low_g", &r.cup_us_low_g)?,
            cup_us_high_g: number("cup_us_high_g", &r.cup_us_high_g)?,
            water_pct: share("water_pct", &r.water_pct)?,
            fat_pct: share("fat_pct", &r.fat_pct)?,
            sugars_pct: share("sugars_pct", &r.sugars_pct)?,
            protein_pct: share("protein_pct", &r.protein_pct)?,
            salt_pct: share("salt_pct", &r.salt_pct)?,
            alcohol_pct: share("alcohol_pct", &r.alcohol_pct)?,
            starch_fibre_pct: share("starch_fibre_pct", &r.starch_fibre_pct)?,
            sodium_mg_100g: share("sodium_mg_100g", &r.sodium_mg_100g)?,
            kcal_100g: share("kcal_100g", &r.kcal_100g)?,
            vegan: r.vegan == "yes",
            synonyms: list(&r.synonyms).map(str::to_owned).collect(),
            allergens: list(&r.allergens).map(str::to_owned).collect(),
            source: [r.composition_source, r.density_source].iter().filter(|s| !s.is_empty()).cloned().collect::<Vec<_>>().join("; "),
            measure_methods: methods,
            pieces,
            kind: r.id.clone(),
            id: r.id,
            name: r.name,
            note: r.note,
        });
    }
    for i in &rows {
        i.check().map_err(|(column, what)| bad(&i.id, format!("{column}: {what}")))?;
    }
    Ok(rows)
}
