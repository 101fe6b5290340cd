//! Baker's percentages: what each line and the whole dough are, on all flour.
//!
//! What counts as what is fixed here and nowhere else; the definitions stand in `docs/science.md`.
//! Doubts of several cups are independent, so they combine as the root of the sum of squares.

use super::{Formula, Line, Stage, Style, StyleId, Styles};
use crate::{
    measure::{Band, Working},
    oven::Shape,
    pantry::{Fact, Family, Gluten, Pantry},
};

/// Below this little leaven does not count beside yeast, percent of the flour.
const LITTLE_LEAVEN_PCT: f64 = 3.0;

/// Below this little yeast it only makes a leaven safe, percent of the flour.
const SAFETY_YEAST_PCT: f64 = 0.1;

/// What raises a dough and sets its pace: its dose is a dose of this.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Raising {
    /// Baker's yeast.
    Yeast,
    /// Leaven.
    Leaven,
}

/// A formula in figures. Percentages are on total flour; they are 0 where there is no flour.
#[derive(Debug, Clone, PartialEq)]
#[allow(missing_docs, reason = "names of the API; definitions in docs/science.md")]
pub struct Analysis<'a> {
    pub formula: &'a Formula,
    pub style: &'a Style,
    pub flour_g: Band,
    pub dough_g: Band,
    pub hydration_pct: Band,
    pub effective_hydration_pct: Band,
    /// Effective hydration less the flour's own thirst; what styles compare.
    pub hydration_adjusted_pct: f64,
    pub salt_pct: Band,
    pub sugar_pct: Band,
    pub fat_pct: Band,
    pub yeast_instant_pct: Band,
    pub prefermented_flour_pct: f64,
    pub leaven_flour_pct: Band,
    pub fat_added_pct: Band,
    pub butter_pct: f64,
    pub egg_pct: f64,
    pub milk_pct: f64,
    pub milk_share: f64,
    pub fruit_pct: f64,
    pub wholegrain_pct: f64,
    pub rye_pct: f64,
    pub gluten_flour_pct: f64,
    /// Percent of each line on flour, in the order of the lines; `None` for what goes on the finish.
    pub line_pct: Vec<Option<f64>>,
    pub allergens: Vec<String>,
}

/// A sum over lines divided by flour, with its interval.
struct Share<'a> {
    lines: Vec<(&'a Line, f64)>,
    flour: Vec<(&'a Line, f64)>,
}

impl Share<'_> {
    fn percent(&self) -> Band {
        let sum = |weights: &[(&Line, f64)], pick: &dyn Fn(&Band) -> f64| weights.iter().map(|(l, w)| w * pick(&l.grams)).sum::<f64>();
        let likely = |b: &Band| b.likely;
        let (amount, flour) = (sum(&self.lines, &likely), sum(&self.flour, &likely));
        if flour <= 0.0 {
            return Band::exact(0.0);
        }
        let value = 100.0 * amount / flour;
        let (mut below, mut above) = (0.0, 0.0);
        let flour_share = |line: &Line| self.flour.iter().find(|(l, _)| std::ptr::eq(*l, line)).map_or(0.0, |f| f.1);
        let amount_share = |line: &Line| self.lines.iter().filter(|(l, _)| std::ptr::eq(*l, line)).map(|f| f.1).sum::<f64>();
        let mut moved = |line: &Line, a: f64, f: f64| {
            for end in [line.grams.low, line.grams.high] {
                let by = end - line.grams.likely;
                let there = 100.0 * (amount + a * by) / (flour + f * by).max(1e-9) - value;
                if there < 0.0 { below += there * there } else { above += there * there }
            }
        };
        for (line, a) in self.lines.iter().filter(|(l, _)| !l.grams.is_exact()) {
            moved(line, *a, flour_share(line));
        }
        for (line, f) in self.flour.iter().filter(|(l, _)| !l.grams.is_exact()) {
            if amount_share(line) == 0.0 {
                moved(line, 0.0, *f);
            }
        }
        Band::new((value - below.sqrt()).max(0.0), value, value + above.sqrt())
    }
}

impl Formula {
    /// Works out every figure of the dough.
    #[must_use]
    pub fn analyse<'a>(&'a self, pantry: &Pantry, styles: &'a Styles) -> Analysis<'a> {
        let dough: Vec<&Line> = self.lines.iter().filter(|l| l.in_dough()).collect();
        let flour: Vec<(&Line, f64)> =
            dough.iter().filter(|l| l.ingredient.flour_share > 0.0).map(|l| (*l, l.ingredient.flour_share)).collect();
        let share = |weight: &dyn Fn(&Line) -> f64| {
            let lines = dough.iter().map(|l| (*l, weight(l))).filter(|(_, w)| *w != 0.0).collect();
            Share { lines, flour: flour.clone() }.percent()
        };
        let when = |yes: bool, value: f64| if yes { value } else { 0.0 };
        let family = |l: &Line| l.ingredient.family;
        let milk = |l: &Line| l.ingredient.is(Fact::Milk);
        let fatty =
            |l: &Line| family(l) == Family::Fat || (matches!(family(l), Family::Dairy | Family::Liquid) && l.ingredient.fat_pct >= 8.0);
        let sum = |weight: &dyn Fn(&Line) -> f64| dough.iter().map(|l| l.grams.likely * weight(l)).sum::<f64>();
        let hydration_share = |l: &Line| l.ingredient.hydration_share;
        let effective = share(&hydration_share);
        let milk_grams = sum(&|l| when(milk(l), 1.0));
        let liquids = sum(&|l| when(milk(l) || family(l) == Family::Liquid, 1.0));
        let flour_likely = flour.iter().map(|(l, w)| l.grams.likely * w).sum::<f64>();
        let on_flour = |grams: f64| if flour_likely > 0.0 { 100.0 * grams / flour_likely } else { 0.0 };
        let mut analysis = Analysis {
            formula: self,
            style: styles.get(StyleId::Lean),
            flour_g: root_sum(&flour),
            dough_g: root_sum(&dough.iter().map(|l| (*l, 1.0)).collect::<Vec<_>>()),
            hydration_pct: share(&|l| {
                let liquid = when(family(l) == Family::Liquid, 1.0 - l.ingredient.flour_share);
                liquid + when(family(l) == Family::Leaven, hydration_share(l))
            }),
            hydration_adjusted_pct: effective.likely - thirst(&dough, flour_likely, pantry),
            effective_hydration_pct: effective,
            salt_pct: share(&salt_share),
            sugar_pct: share(&|l| when(family(l) == Family::Sugar, l.ingredient.sugars_pct / 100.0)),
            fat_pct: share(&|l| when(family(l) != Family::Flour, l.ingredient.fat_pct / 100.0)),
            yeast_instant_pct: share(&|l| l.ingredient.yeast_kind().map_or(0.0, |k| pantry.instant_equivalent(k))),
            prefermented_flour_pct: share(&|l| when(l.is_prefermented(), l.ingredient.flour_share)).likely,
            leaven_flour_pct: share(&|l| when(l.is_leaven(), l.ingredient.flour_share)),
            fat_added_pct: share(&|l| when(fatty(l), l.ingredient.fat_pct / 100.0)),
            butter_pct: share(&|l| when(l.ingredient.is(Fact::Butter), l.ingredient.fat_pct / 100.0)).likely,
            egg_pct: on_flour(sum(&|l| {
                when(family(l) == Family::Egg && !matches!(l.ingredient.kind.as_str(), "egg-wash" | "egg-dried"), 1.0)
            })),
            milk_pct: on_flour(milk_grams),
            milk_share: if liquids > 0.0 { milk_grams / liquids } else { 0.0 },
            fruit_pct: on_flour(sum(&|l| when(family(l) == Family::Fruit && l.ingredient.sugars_pct >= 35.0, 1.0))),
            wholegrain_pct: share(&|l| when(l.ingredient.is(Fact::Wholegrain), l.ingredient.flour_share)).likely,
            rye_pct: share(&|l| when(l.ingredient.is(Fact::Rye), l.ingredient.flour_share)).likely,
            gluten_flour_pct: share(&|l| when(l.ingredient.gluten == Gluten::Yes, l.ingredient.flour_share)).likely,
            line_pct: self.lines.iter().map(|l| l.in_dough().then(|| on_flour(l.grams.likely))).collect(),
            allergens: allergens(self),
        };
        analysis.style = styles.get(self.style.unwrap_or_else(|| recognise(&analysis)));
        analysis
    }
}

fn root_sum(lines: &[(&Line, f64)]) -> Band {
    let sum: f64 = lines.iter().map(|(l, w)| l.grams.likely * w).sum();
    let (below, above) = lines.iter().fold((0.0, 0.0), |(b, a), (l, w)| {
        let (lo, hi) = ((l.grams.likely - l.grams.low) * w, (l.grams.high - l.grams.likely) * w);
        (b + lo * lo, a + hi * hi)
    });
    Band::new(sum - below.sqrt(), sum, sum + above.sqrt())
}

/// Salt counts by its weight, as bakers weigh it; a paste or salted butter by what salt it holds.
fn salt_share(line: &Line) -> f64 {
    let i = &line.ingredient;
    match i.family {
        Family::Salt if i.salt_pct >= 90.0 => 1.0,
        Family::Salt => i.salt_pct / 100.0,
        _ if i.is(Fact::Butter) && i.is(Fact::BringsSalt) => i.salt_pct / 100.0,
        _ => 0.0,
    }
}

/// Points of water the flours and dry inclusions drink beyond a white bread flour.
fn thirst(dough: &[&Line], flour_g: f64, pantry: &Pantry) -> f64 {
    if flour_g <= 0.0 {
        return 0.0;
    }
    let points = |l: &&Line| {
        let share = l.grams.likely / flour_g;
        let soaked = matches!(l.stage, Stage::Soaker | Stage::Scald);
        let kind = pantry.flour_kind(&l.ingredient.id).map_or(0.0, |k| k.absorption_points);
        let own = share * l.ingredient.flour_share * kind;
        let dry = if soaked { 0.0 } else { l.ingredient.drinks };
        own + 100.0 * share * dry
    };
    dough.iter().map(points).sum()
}

fn allergens(formula: &Formula) -> Vec<String> {
    let mut all: Vec<String> = formula.lines.iter().flat_map(|l| l.ingredient.allergens.iter().cloned()).collect();
    all.sort();
    all.dedup();
    all
}

impl Analysis<'_> {
    /// Grams that would be `percent` of the flour.
    #[must_use]
    pub fn grams_at(&self, percent: f64) -> f64 {
        self.flour_g.likely * percent / 100.0
    }

    /// The steps behind the figures.
    #[must_use]
    pub fn working(&self) -> Vec<Working> {
        let flour = self.flour_g.likely;
        if flour <= 0.0 {
            return Vec::new();
        }
        let mut steps = vec![
            Working::given("all flour", flour, "g").by("Σ grams × flour share of the ingredient"),
            Working::given("dough", self.dough_g.likely, "g").by("Σ grams of every line but the finish"),
        ];
        type Share<'s> = (&'s str, Band, &'s dyn Fn(&Line) -> f64, &'s str);
        let shares: [Share<'_>; 4] = [
            ("salt on flour", self.salt_pct, &salt_share, "salt by weight, the salt of salted butter with it"),
            (
                "water on flour",
                self.effective_hydration_pct,
                &|l| l.ingredient.hydration_share,
                "water share of every ingredient but flour",
            ),
            (
                "fat on flour",
                self.fat_pct,
                &|l| if l.ingredient.family == Family::Flour { 0.0 } else { l.ingredient.fat_pct / 100.0 },
                "fat of every ingredient but flour",
            ),
            (
                "sugar on flour",
                self.sugar_pct,
                &|l| if l.ingredient.family == Family::Sugar { l.ingredient.sugars_pct / 100.0 } else { 0.0 },
                "sugars in sugar, honey, syrup",
            ),
        ];
        for (label, band, weight, what) in shares {
            let grams: f64 = self.formula.lines.iter().filter(|l| l.in_dough()).map(|l| l.grams.likely * weight(l)).sum();
            steps.push(Working::given(label, band.likely, "%").by(format!("100 × {grams:.3} / {flour:.3}")).from(what));
        }
        steps
    }

    /// Water of each line that brings any: name, share of its weight, grams.
    #[must_use]
    pub fn water_by_line(&self) -> Vec<(String, f64, f64)> {
        self.formula
            .lines
            .iter()
            .filter(|l| l.in_dough() && l.ingredient.hydration_share > 0.0)
            .map(|l| (l.ingredient.name.clone(), l.ingredient.hydration_share, l.grams.likely * l.ingredient.hydration_share))
            .collect()
    }
}

impl Analysis<'_> {
    /// What sets this dough's pace. Baker's yeast where it makes more gas; a little beside a leaven is for safety.
    #[must_use]
    pub fn raising(&self) -> Option<Raising> {
        let (yeast, leaven) = (self.yeast_instant_pct.likely, self.leaven_flour_pct.likely);
        if yeast > 0.0 && (leaven < LITTLE_LEAVEN_PCT || yeast >= SAFETY_YEAST_PCT) {
            Some(Raising::Yeast)
        } else {
            (leaven > 0.0).then_some(Raising::Leaven)
        }
    }
}

/// Recognises the style: the rules of the table in their order, first match wins.
fn recognise(a: &Analysis<'_>) -> StyleId {
    let shape = a.formula.pieces.as_ref().and_then(super::Pieces::told_shape);
    let dipped = a.formula.lines.iter().any(|l| l.stage == Stage::Finish && l.ingredient.family == Family::Alkali);
    let (yeast, leaven) = (a.yeast_instant_pct.likely, a.leaven_flour_pct.likely);
    let (sugar, fat) = (a.sugar_pct.likely, a.fat_added_pct.likely);
    let sour = leaven >= LITTLE_LEAVEN_PCT && a.raising() == Some(Raising::Leaven);
    if a.flour_g.likely > 0.0 && a.gluten_flour_pct < 1.0 {
        StyleId::GlutenFree
    } else if dipped {
        StyleId::SodaDipped
    } else if a.rye_pct >= 40.0 {
        StyleId::Rye
    } else if shape == Some(Shape::Flat) || (yeast == 0.0 && leaven == 0.0 && a.flour_g.likely > 0.0) {
        StyleId::Flat
    } else if a.fruit_pct >= 25.0 {
        StyleId::Fruit
    } else if (shape == Some(Shape::Braid) && a.egg_pct >= 8.0)
        || (a.egg_pct >= 12.0 && (4.0..20.0).contains(&fat) && a.butter_pct < fat / 2.0 && a.milk_share < 0.2)
    {
        StyleId::BraidedEgg
    } else if fat >= 20.0 && a.egg_pct >= 20.0 {
        StyleId::Brioche
    } else if a.wholegrain_pct >= 60.0 {
        StyleId::Wholegrain
    } else if sour && (fat >= 3.0 || sugar >= 4.0) {
        StyleId::SourdoughSoft
    } else if sour {
        StyleId::SourdoughLean
    } else if yeast > 0.0 && yeast <= 0.25 && a.effective_hydration_pct.likely >= 68.0 && fat < 3.0 && sugar < 3.0 {
        StyleId::LongNoKnead
    } else if sugar >= 10.0 && fat >= 5.0 {
        StyleId::SweetBun
    } else if sugar >= 6.0 || fat >= 8.0 || a.egg_pct >= 10.0 {
        StyleId::Enriched
    } else if a.milk_share >= 0.5 {
        StyleId::Milk
    } else if fat >= 2.0 || sugar >= 2.0 || shape == Some(Shape::Pan) {
        StyleId::PanSoft
    } else {
        StyleId::Lean
    }
}
