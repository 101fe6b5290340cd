//! From an amount of one ingredient to grams: by mass, by volume, by the piece.

use super::{
    Choices,
    amount::Amount,
    clue::{Clue, Clues},
    questions::{Answer, Question},
};
use enumset::enum_set;

use crate::{
    measure::{Band, CUP_US_ML},
    pantry::{Fact, Family, Ingredient, MeasureKind, MeasureWord, Pantry, YeastKind},
};

/// Whether a line can weigh that: a range from nothing is no weight, nor is more than a bakery's trough.
pub(super) fn is_weight(g: Band) -> bool {
    g.low > 0.0 && g.likely <= 100_000.0 && g.high <= 200_000.0
}

/// Everything that turns an amount of one ingredient into grams.
#[derive(Clone, Copy)]
pub(super) struct Weighing<'a> {
    /// Of what.
    pub ingredient: &'a Ingredient,
    /// For other kinds of the same thing.
    pub pantry: &'a Pantry,
    /// How the household measures.
    pub choices: &'a Choices,
    /// What the words beside it settle.
    pub clues: Clues,
    /// `small`, `medium`, `large`, `extra-large`.
    pub size: Option<&'a str>,
}

impl Weighing<'_> {
    fn has(&self, clue: Clue) -> bool {
        self.clues.contains(clue)
    }

    /// Grams, and whether they come from a volume. `None`: no sense.
    pub fn grams(&self, a: &Amount<'_>, questions: &mut Vec<Question>) -> Option<(Band, bool)> {
        let (band, volume) = match a.unit {
            Some(unit) => match unit.kind {
                MeasureKind::Mass => (self.mass(a, unit, questions)?, false),
                MeasureKind::Volume => (self.volume(a, unit, questions)?, true),
                MeasureKind::Piece => (self.piece(a, &unit.id, questions)?, false),
                MeasureKind::Factor | MeasureKind::Time | MeasureKind::OvenWord => return None,
            },
            None => (self.bare(a, questions)?, false),
        };
        if a.doubtful {
            questions.push(Question::new("number-unclear", Vec::new()));
        }
        let factor = a.level.filter(|_| !a.heaped || !self.ingredient.pours());
        let levelled = factor.map_or(band, |f| Band::new(band.low * f.low, band.likely * f.likely, band.high * f.high));
        if a.heaped && factor.is_some() {
            questions.push(Question::new("vague-amount", Vec::new()));
        }
        let wide = if a.approx { Band::new(levelled.low * 0.9, levelled.likely, levelled.high * 1.1) } else { levelled };
        is_weight(wide).then_some((wide, volume))
    }

    fn mass(&self, a: &Amount<'_>, unit: &MeasureWord, questions: &mut Vec<Question>) -> Option<Band> {
        if unit.id == "stick" && !self.ingredient.is(Fact::InSticks) {
            return None;
        }
        let u = if unit.value.is_exact() || unit.id == "stick" { Band::exact(unit.value.likely) } else { unit.value };
        let band = Band::new(a.value.low * u.low, a.value.likely * u.likely, a.value.high * u.high);
        if matches!(unit.id.as_str(), "handful" | "knob") {
            questions.push(Question::new("vague-amount", Vec::new()));
        }
        if unit.id == "oz" && self.ingredient.family == Family::Liquid {
            let fluid = a.value.likely * 29.574 * self.ingredient.cup_us_g.unwrap_or(CUP_US_ML) / CUP_US_ML;
            questions.push(Question::new(
                "oz-mass-or-volume",
                vec![Answer::grams("mass", "By weight", band.likely), Answer::grams("volume", "Fluid", fluid)],
            ));
            return Some(band.spanning(Band::exact(fluid)));
        }
        Some(band)
    }

    fn volume(&self, a: &Amount<'_>, unit: &MeasureWord, questions: &mut Vec<Question>) -> Option<Band> {
        let i = self.ingredient;
        // A US cup is a cup; the law's 240 ml is for labels.
        let size = if unit.id.starts_with("cup") { Band::exact(unit.value.likely) } else { unit.value };
        let ml = Band::new(a.value.low * size.low, a.value.likely * size.likely, a.value.high * size.high);
        if matches!(unit.id.as_str(), "splash" | "glug" | "glass" | "mug" | "spoon") {
            questions.push(Question::new("vague-amount", Vec::new()));
        }
        if unit.id == "can"
            && let Some(can) = i.piece("can")
        {
            questions.push(Question::new("size-of-piece", Vec::new()));
            return Some(Band::new(can.likely * a.value.low * 0.4, can.likely * a.value.likely, can.likely * a.value.high * 1.03));
        }
        if let Some(salt) = self.salt_by_volume(ml, questions) {
            return Some(salt);
        }
        let cup = i.cup_us_g?;
        let per_ml = |cup: f64| cup / CUP_US_ML;
        let bounds = (i.cup_us_low_g.unwrap_or(cup), i.cup_us_high_g.unwrap_or(cup));
        let by_cup = |likely: f64| {
            Band::new(ml.low * per_ml(bounds.0.min(likely)), ml.likely * per_ml(likely), ml.high * per_ml(bounds.1.max(likely)))
        };
        if i.pours() || i.family == Family::Fat {
            return Some(by_cup(cup));
        }
        if i.family == Family::Leaven {
            let stirred = self.has(Clue::Stirred);
            let risen = Band::new(ml.low * 0.59, ml.likely * 0.634, ml.high * 0.68);
            if stirred {
                return Some(Band::within(ml.likely * per_ml(240.0), 0.07));
            }
            questions.push(Question::new(
                "leaven-state",
                vec![Answer::grams("risen", "Risen", risen.likely), Answer::grams("stirred", "Stirred down", ml.likely * per_ml(240.0))],
            ));
            return Some(risen.spanning(Band::exact(ml.likely * 1.12)));
        }
        if ml.likely < 30.0 || unit.id.starts_with("tsp") {
            let teaspoon = i
                .piece("teaspoon")
                .map_or_else(|| Band::within(5.0 * per_ml(cup), 0.15), |t| if t.is_exact() { Band::within(t.likely, 0.15) } else { t });
            let spoons = Band::new(ml.low, ml.likely, ml.high).times(1.0 / self.spoon_ml(unit));
            let grams = Band::new(teaspoon.low * spoons.low, teaspoon.likely * spoons.likely, teaspoon.high * spoons.high);
            if i.kind == "psyllium" && !self.has(Clue::Powder) && !self.has(Clue::Husk) {
                return Some(self.husk_or_powder(ml, questions));
            }
            if i.family == Family::Yeast && !self.yeast_told() {
                return Some(Band::new(grams.likely * 0.9, grams.likely, grams.likely * 4.0 / 3.1));
            }
            return Some(grams);
        }
        Some(self.powder(a, ml, by_cup, questions))
    }

    /// The teaspoon this spoon is a multiple of, so that three make a tablespoon.
    fn spoon_ml(&self, unit: &MeasureWord) -> f64 {
        if unit.id.ends_with("-us") || self.choices.is_american() { 4.929 } else { 5.0 }
    }

    fn yeast_told(&self) -> bool {
        !self.clues.is_disjoint(enum_set!(Clue::Instant | Clue::Dry | Clue::Active | Clue::Quick))
    }

    fn powder(&self, a: &Amount<'_>, ml: Band, by_cup: impl Fn(f64) -> Band, questions: &mut Vec<Question>) -> Band {
        let i = self.ingredient;
        let method = |name: &str| i.measure_methods.iter().find(|(m, _)| m == name).map(|(_, g)| *g);
        let told = if self.has(Clue::Spooned) {
            Some("spooned")
        } else if self.has(Clue::Scooped) {
            Some("scooped")
        } else if self.has(Clue::Sifted) {
            Some("sifted")
        } else if a.packed || self.has(Clue::Packed) {
            Some("packed")
        } else {
            None
        };
        if let Some(grams) = told.and_then(method).or_else(|| if told == Some("packed") { i.cup_us_g.map(|g| g * 1.03) } else { None }) {
            return Band::within(ml.likely * grams / CUP_US_ML, 0.07);
        }
        let usual = method(&self.choices.flour_measure).or_else(|| method("spooned")).or(i.cup_us_g).unwrap_or(120.0);
        let band = by_cup(usual);
        // A spoon is filled one way; a cup or a jug of flour in three.
        let by_spoon = a.unit.is_some_and(|u| u.id.starts_with("tbsp") || u.id.starts_with("tsp"));
        if i.family == Family::Flour && (by_spoon || i.flour_share == 0.0) {
            return band;
        }
        if i.family == Family::Flour && i.measure_methods.is_empty() {
            // No figures for each way of filling: the usual weight and the ends of its interval.
            let ways = [("spooned", "Spooned", band.likely), ("scooped", "Scooped", band.high), ("sifted", "Sifted", band.low)];
            let answers = ways.map(|(m, label, g)| Answer::grams(m, format!("{label}, {}", crate::measure::weight(g)), g));
            questions.push(Question::new("flour-measure", answers.to_vec()));
        } else if i.kind == "milk-powder-skim" {
            let of = |m: &str| method(m).map_or(band.likely, |g| ml.likely * g / CUP_US_ML);
            questions.push(Question::new(
                "milk-powder-form",
                vec![Answer::grams("instant", "Instant granules", of("instant")), Answer::grams("powder", "Fine powder", of("powder"))],
            ));
        } else if i.family == Family::Flour {
            let answers = ["spooned", "scooped", "sifted"]
                .into_iter()
                .filter_map(|m| {
                    method(m).map(|g| {
                        let grams = ml.likely * g / CUP_US_ML;
                        let mut label = m.to_owned();
                        if let Some(first) = label.get_mut(..1) {
                            first.make_ascii_uppercase();
                        }
                        Answer::grams(m, format!("{label}, {}", crate::measure::weight(grams)), grams).within(0.07)
                    })
                })
                .collect();
            questions.push(Question::new("flour-measure", answers));
        } else if i.is(Fact::BrownSugar) {
            questions.push(Question::new(
                "packed-or-loose",
                vec![
                    Answer::grams("packed", "Packed", ml.likely * 220.0 / CUP_US_ML).within(0.07),
                    Answer::grams("loose", "Loose", ml.likely * 150.0 / CUP_US_ML).within(0.07),
                ],
            ));
            return band.spanning(Band::exact(ml.likely * 144.0 / CUP_US_ML));
        }
        band
    }

    /// Husk weighs half as much by the spoon as powder: the middle is taken, the interval holds both.
    fn husk_or_powder(&self, ml: Band, questions: &mut Vec<Question>) -> Band {
        let of = |how: &str| {
            let cup = self.ingredient.measure_methods.iter().find(|(m, _)| m == how).map_or(0.0, |(_, g)| *g);
            Band::within(ml.likely * cup / CUP_US_ML, 0.15)
        };
        let (husk, powder) = (of("husk"), of("powder"));
        questions.push(Question::new(
            "psyllium-form",
            vec![
                Answer::grams("husk", "Whole husk", husk.likely).within(0.15),
                Answer::grams("powder", "Powder", powder.likely).within(0.15),
            ],
        ));
        Band::new(husk.low, f64::midpoint(husk.likely, powder.likely), powder.high)
    }

    /// A spoon of salt weighs 2.5 to 6 g by the kind.
    fn salt_by_volume(&self, ml: Band, questions: &mut Vec<Question>) -> Option<Band> {
        let i = self.ingredient;
        if i.family != Family::Salt || i.salt_pct < 90.0 {
            return None;
        }
        let spoons = ml.likely / if self.choices.is_american() { 4.929 } else { 5.0 };
        let kind = |id: &str| self.pantry.get(id).and_then(|s| s.piece("teaspoon")).map_or(6.0, |t| t.likely) * spoons;
        let fine_told = self.has(Clue::Fine);
        let own = kind(&i.id);
        if own < 1.0 {
            return Some(Band::new(own * 0.55, own, own * 1.85));
        }
        if (i.kind == "salt-fine" && fine_told) || matches!(i.kind.as_str(), "salt-flaky" | "salt-coarse" | "salt-kosher-light") {
            return Some(Band::within(own, 0.15));
        }
        let (fine, dense, light) = (kind("salt-fine"), kind("salt-kosher-dense"), kind("salt-kosher-light"));
        let answers = vec![
            Answer::grams("fine", "Fine", fine),
            Answer::grams("dense-flake", "Dense flake", dense),
            Answer::grams("light-flake", "Light flake", light),
        ];
        questions.push(Question::new("salt-kind", answers));
        Some(if i.kind == "salt-fine" { Band::new(kind("salt-flaky"), own, own * 1.15) } else { Band::new(light * 0.9, own, own * 1.1) })
    }

    fn piece(&self, a: &Amount<'_>, unit: &str, questions: &mut Vec<Question>) -> Option<Band> {
        let i = self.ingredient;
        let each = |band: Band| Band::new(a.value.low * band.low, a.value.likely * band.likely, a.value.high * band.high);
        let keys: &[&str] = match unit {
            // Written in French, it is the French sachet.
            "packet" if self.has(Clue::FrenchSachet) => &["sachet-fr", "packet-fr", "sachet-de", "packet-us"],
            "packet" if self.choices.is_american() => &["packet-us", "sachet-uk", "sachet-de", "packet-de"],
            "packet" if self.choices.is_british() => &["sachet-uk", "packet-us", "sachet-de"],
            "packet" if self.choices.locale.starts_with("fr") => &["packet-fr", "sachet-fr", "packet-us", "sachet-de"],
            "packet" => &["packet-de", "sachet-de", "sachet-uk", "packet-us"],
            "cube" if self.choices.locale.starts_with("en-US") && self.has(Clue::Cake) => &["cake-us"],
            "cube" => &["cube-de"],
            "clove-piece" => &["clove"],
            "slice" | "sheet" => &["sheet", "piece"],
            _ => &["piece"],
        };
        // As the country's shops sell yeast.
        let form = if unit == "cube" { "cube" } else { "sachet" };
        let sold = self
            .choices
            .country()
            .and_then(|c| self.pantry.yeast_pack(i.yeast_kind()?, form, c))
            .filter(|_| matches!(unit, "packet" | "cube"));
        if let Some(grams) = self.choices.packet_g.filter(|_| unit == "packet" && i.yeast_kind().is_some_and(YeastKind::is_dry)) {
            return Some(each(Band::exact(grams)));
        }
        let sachet = self.has(Clue::Sachet);
        let weight = sold.map(Band::exact).filter(|_| !self.choices.is_american()).or_else(|| keys.iter().find_map(|k| i.piece(k)));
        if unit == "packet" && weight.is_some() && i.family == Family::Yeast && i.kind == "yeast-active-dry" && !sachet {
            questions.push(Question::new(
                "packet-size",
                vec![
                    Answer::grams("7", "7 g", 7.0 * a.value.likely),
                    Answer::grams("8", "8 g", 8.0 * a.value.likely),
                    Answer::grams("11", "11 g", 11.0 * a.value.likely),
                ],
            ));
            return weight.map(|w| each(w).spanning(Band::exact(11.0 * a.value.likely)));
        }
        weight.map(each)
    }

    fn bare(&self, a: &Amount<'_>, questions: &mut Vec<Question>) -> Option<Band> {
        let i = self.ingredient;
        let each = |band: Band| Band::new(a.value.low * band.low, a.value.likely * band.likely, a.value.high * band.high);
        // An egg of another bird is not in the pantry by itself; its weight is.
        if let Some(weight) = i.piece("quail").filter(|_| self.has(Clue::Quail)) {
            questions.push(Question::new("ingredient-unknown", vec![Answer::kind("yes", "Yes, whole egg", "egg-whole")]));
            return Some(each(weight));
        }
        if i.family == Family::Egg && a.value.likely <= 60.0 {
            let prefix = if self.choices.has_american_eggs() {
                "us-"
            } else if self.choices.locale.starts_with("en-AU") {
                "au-"
            } else {
                "uk-eu-"
            };
            let british = prefix == "uk-eu-" || self.has(Clue::European);
            let size = self.size;
            let key = match (british, size) {
                (true, Some("small")) => "uk-eu-s",
                (true, Some("extra-large")) => "uk-eu-xl",
                (true, Some("large")) => "uk-eu-l",
                (true, _) => "uk-eu-m",
                (false, Some("small")) => "us-small",
                (false, Some("medium")) => "us-medium",
                (false, Some("extra-large")) => "us-xl",
                (false, _) => "us-large",
            };
            // No size told: the one the household buys, exactly.
            if let Some(own) = self.choices.egg.as_deref().filter(|_| size.is_none() && i.family == Family::Egg).and_then(|k| i.piece(k)) {
                return Some(each(own));
            }
            let weight = i.piece(key).or_else(|| i.piece("us-large")).or_else(|| i.piece("uk-eu-m"))?;
            return Some(if size.is_none() && i.kind == "egg-whole" { each(Band::new(44.0, weight.likely, 60.0)) } else { each(weight) });
        }
        let sized = self
            .size
            .map(|s| if s == "extra-large" { "large" } else { s })
            .and_then(|s| i.piece(s))
            .or_else(|| i.piece("medium"))
            .or_else(|| i.piece("piece"))
            .or_else(|| i.piece("clove"));
        if let Some(weight) = sized.filter(|_| a.value.likely <= 60.0) {
            let weight = if weight.is_exact() { Band::within(weight.likely, 0.1) } else { weight };
            return Some(each(weight));
        }
        // A bare figure is grams: from 20 on of flour and liquid, of which fewer would be cups; of the rest from 1 on.
        let least = match i.family {
            Family::Flour | Family::Starch | Family::Liquid | Family::Leaven => 20.0,
            // `yeast .8` in a list of percentages.
            Family::Yeast => 0.1,
            _ => 1.0,
        };
        if a.value.likely >= least && !(i.family == Family::Egg && a.value.likely < 20.0) {
            questions.push(Question::new("bare-number", vec![Answer::grams("grams", "Yes, grams", a.value.likely)]));
            return Some(a.value);
        }
        None
    }

    /// The best of several other measures of the same amount, `(1 stick; 113 g)`: a mass before a volume. The interval
    /// and whether it is a mass.
    pub fn best_alternative(&self, told: &[Amount<'_>]) -> Option<(Band, bool)> {
        let all: Vec<(Band, bool)> = told.iter().filter_map(|a| self.alternative_measure(a)).collect();
        all.iter().find(|(band, mass)| *mass && band.is_exact()).or_else(|| all.first()).copied()
    }

    fn alternative_measure(&self, a: &Amount<'_>) -> Option<(Band, bool)> {
        let unit = a.unit?;
        match unit.kind {
            MeasureKind::Mass => a.mass().map(|mass| (mass, true)),
            MeasureKind::Volume => self.volume(a, unit, &mut Vec::new()).map(|b| (b, false)),
            MeasureKind::Piece | MeasureKind::Factor | MeasureKind::Time | MeasureKind::OvenWord => None,
        }
    }

    /// Two measures of one amount: mass is the value; where they do not agree both are kept in the interval.
    pub fn settle(&self, main: Band, main_is_volume: bool, alt: (Band, bool), questions: &mut Vec<Question>, by_volume: &mut bool) -> Band {
        let (other, other_is_mass) = alt;
        let (mass, volume) = match (main_is_volume, other_is_mass) {
            (true, true) => (other, main),
            (false, false) => (main, other),
            // `3 eggs (150 g)`: weighed beats counted.
            (false, true) if !main.is_exact() => (other, main),
            _ => {
                // Two masses or two volumes: within 3 % they say the same.
                let near = |by: f64| (main.likely / other.likely * by - 1.0).abs() <= 0.03;
                // `1 cup (250 ml)`: a metric cup, by law of the figure.
                let metric_cup = !other_is_mass && (near(250.0 / CUP_US_ML) || near(CUP_US_ML / 250.0));
                if metric_cup {
                    return if main.likely > other.likely { main } else { other };
                }
                if near(1.0) {
                    questions.retain(|q| q.id != "oz-mass-or-volume");
                } else {
                    questions.push(disagree(main.likely, other.likely));
                    return main.spanning(other);
                }
                return main;
            }
        };
        *by_volume = false;
        questions.retain(|q| !matches!(q.id, "flour-measure" | "packed-or-loose" | "salt-kind" | "leaven-state" | "oz-mass-or-volume"));
        let agrees = (volume.low * 0.999..=volume.high * 1.001).contains(&mass.likely) || (mass.likely / volume.likely - 1.0).abs() <= 0.03;
        if agrees {
            return mass;
        }
        questions.push(disagree(mass.likely, volume.likely));
        mass.spanning(volume)
    }
}

fn disagree(a: f64, b: f64) -> Question {
    let label = |g: f64| crate::measure::weight(g).to_string();
    Question::new("both-units-disagree", vec![Answer::grams("first", label(a), a), Answer::grams("second", label(b), b)])
}
