//! The words recipes are written in, as data: phrase, language, role. A language or a word more is a row of the table.

use super::{clue::Clue, token::Token};
use crate::{
    formula::{Stage, Used},
    measure::Band,
    oven::Shape,
    pantry::{Languages, MeasureKind, Measures, Phrases, TableError, Vocabulary, fold, words_of},
};

const WORDS: &str = include_str!("../../data/recipe_words.csv");
const FILE: &str = "recipe_words.csv";

/// What a heading says of the lines below it.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Head {
    /// Ingredients of one stage; the dough's, at their usual moment.
    Stage(Option<Stage>),
    /// Water that pieces are boiled or dipped in.
    Bath,
    /// What is to be done.
    Method,
    /// What is told beside the recipe.
    Notes,
    /// A heading that is in no table: what its list holds says what it is.
    Unknown,
}

/// What a step is about.
#[derive(Debug, Clone, Copy, PartialEq, Eq, strum::EnumString)]
#[strum(serialize_all = "kebab-case")]
#[allow(missing_docs, reason = "the names say it")]
pub enum Act {
    Mix,
    Knead,
    Rest,
    Rise,
    Fold,
    Shape,
    Bake,
    Heat,
    Finish,
    Boil,
    Cool,
    Feed,
}

/// What pieces bake or prove in.
#[derive(Debug, Clone, Copy, PartialEq, Eq, strum::EnumString)]
#[strum(serialize_all = "kebab-case")]
#[allow(missing_docs, reason = "the names say it")]
pub enum Holder {
    Tin,
    MuffinTin,
    Pot,
    Sheet,
    Stone,
    Steel,
    Skillet,
    Basket,
    Cloth,
    Bowl,
}

/// How a spoon or cup was filled.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Filled {
    /// Factor on the amount; nothing where only the way of filling is told.
    pub factor: Option<Band>,
    /// Heaped, which a liquid cannot be.
    pub heaped: bool,
    /// Pressed in.
    pub packed: bool,
}

impl Filled {
    /// `good`, `big`: before the spoon it is well filled, behind it they praise what is in it.
    #[must_use]
    pub fn is_generous(&self) -> bool {
        !self.heaped && !self.packed && self.factor.is_some_and(|f| f.likely > 1.0)
    }
}

/// What a line is for, told behind its name.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Purpose {
    /// A stage.
    Stage(Stage),
    /// The bench's flour.
    Dusting,
}

/// An amount left open.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[allow(missing_docs, reason = "the names say it")]
pub enum Vague {
    ToTaste,
    AsNeeded,
    Optional,
}

/// What a phrase is for.
#[derive(Debug, Clone, Copy, PartialEq)]
#[allow(missing_docs, reason = "the rows of the table say it")]
pub enum Role {
    Number(f64),
    Article,
    Part(f64),
    Times(f64),
    Of,
    And,
    Plus,
    Minus,
    Or,
    Range,
    Approx,
    Filled(Filled),
    Size(&'static str),
    Unit(u32),
    Minutes(f64),
    LongTime(Band),
    Degree,
    Celsius,
    Fahrenheit,
    Gas,
    Thermostat,
    Fan,
    Oven,
    OvenBand(Band),
    /// An oven's word that stands without the word oven, behind `down to`.
    LoneBand(Band),
    Braid,
    Steam,
    LidOn,
    LidOff,
    DoorAjar,
    OvenOff,
    /// Pieces lie so close that they grow together, or apart.
    Touching(bool),
    /// The lid of a tin, not a cover of any kind.
    TinLid,
    /// Another coat, beside a brush.
    Coat(u32),
    /// What a list of the finish is for.
    Used(Used),
    /// The gas is pressed out of a risen dough.
    KnockBack,
    Then,
    At,
    Core,
    Length,
    Total,
    Yield,
    Serves,
    Each,
    Divide,
    Into,
    Piece(Option<Shape>),
    Strand,
    Holder(Holder),
    Verb(Act),
    Take,
    Lead,
    Correct,
    No,
    Rest,
    Same,
    More,
    Head(Head),
    ForThe,
    Purpose(Purpose),
    Vague(Vague),
    Extra,
    Soaked,
    /// What an egg is thinned with to be brushed on.
    Beaten,
    Zest,
    Juice,
    Fruit(&'static str),
    GlutenFree,
    Hydration,
    Temp(f64),
    Stop,
    Function,
    Grams,
    DustingFlour,
    /// Settles what is meant.
    Tells(Clue),
    /// What a measured content comes in.
    Container,
}

/// A phrase found at a token: its role and how many tokens it takes.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Hit {
    /// What it is for.
    pub role: Role,
    /// Tokens, with the marks between.
    pub len: usize,
}

/// The table of phrases, with the kitchen measures among them.
#[derive(Debug, Clone, Default)]
pub struct Lexicon {
    /// Its words.
    pub words: Vocabulary,
    phrases: Phrases<(Role, Languages)>,
    /// Languages each word is used in, by its number.
    languages: Vec<Languages>,
    /// Parts of a number written in one word.
    pub(super) spelled: Spelled,
}

/// What joins a number written in one word: `zwei-hundert-fünf-und-zwanzig`.
#[derive(Debug, Clone, Default)]
pub(super) struct Spelled {
    /// A hundred.
    pub hundreds: Vec<String>,
    /// And.
    pub joints: Vec<String>,
}

#[derive(serde::Deserialize)]
struct Row {
    role: String,
    value: String,
    language: String,
    phrases: String,
}

impl Lexicon {
    /// Reads the built-in table; the measures' words join it.
    ///
    /// # Errors
    /// [`TableError`] naming the row.
    pub fn built_in(measures: &Measures) -> Result<Self, TableError> {
        let mut lexicon = Self {
            words: Vocabulary::default(),
            phrases: Phrases::default(),
            languages: vec![Languages::default()],
            spelled: Spelled::default(),
        };
        for row in csv::Reader::from_reader(WORDS.as_bytes()).deserialize() {
            let row: Row = row.map_err(|e| TableError { file: FILE, row: "?".into(), what: e.to_string() })?;
            let wrong = |what: String| TableError { file: FILE, row: format!("{} {} {}", row.role, row.value, row.language), what };
            let language = Languages::of(&row.language);
            if language == Languages::default() {
                return Err(wrong(format!("“{}” is no language of the table", row.language)));
            }
            let parts = match row.role.as_str() {
                "spelled-hundred" => Some(&mut lexicon.spelled.hundreds),
                "spelled-joint" => Some(&mut lexicon.spelled.joints),
                _ => None,
            };
            if let Some(parts) = parts {
                parts.extend(row.phrases.split('|').map(fold));
                continue;
            }
            let role = role(&row.role, &row.value, measures).map_err(wrong)?;
            for phrase in row.phrases.split('|') {
                lexicon.add(phrase, role, language);
            }
        }
        for (index, spelling, language) in measures.spellings() {
            // `stick of butter` is a stick, and butter is its name.
            let Some(measure) = measures.at(index).filter(|_| !spelling.contains(" of ") || spelling.contains("size of")) else { continue };
            let role = match measure.kind {
                MeasureKind::Volume | MeasureKind::Mass | MeasureKind::Piece => u32::try_from(index).map_or(Role::Function, Role::Unit),
                MeasureKind::Time if measure.id.contains("overnight") || measure.id.contains("half") => Role::LongTime(measure.value),
                MeasureKind::Time => Role::Minutes(measure.value.likely),
                MeasureKind::OvenWord => Role::OvenBand(measure.value),
                MeasureKind::Factor => continue,
            };
            lexicon.add(spelling, role, language);
        }
        Ok(lexicon)
    }

    fn add(&mut self, phrase: &str, role: Role, language: Languages) {
        let ids: Vec<u32> = words_of(phrase).map(|w| self.words.intern(&w)).collect();
        for id in &ids {
            let at = *id as usize;
            if self.languages.len() <= at {
                self.languages.resize(at + 1, Languages::default());
            }
            if let Some(of_word) = self.languages.get_mut(at) {
                *of_word = of_word.with(if language == Languages::ANY { Languages::ENGLISH } else { language });
            }
        }
        self.phrases.add(ids.into_iter(), (role, language));
    }

    /// The languages a text is written in: English, the household's, and any whose own words are frequent in it.
    pub(super) fn languages_of(&self, tokens: &[Token<'_>], locale: &str) -> Languages {
        /// So many words of a language, and so large a share of the text.
        const LEAST: usize = 3;
        const SHARE: usize = 12;
        let mut counts = [0_usize; Languages::COUNT];
        let mut words = 0;
        for t in tokens.iter().filter(|t| t.is_word()) {
            words += 1;
            let of = self.languages.get(t.word as usize).copied().unwrap_or_default();
            if of.shares(Languages::ENGLISH) {
                continue;
            }
            for (i, count) in counts.iter_mut().enumerate() {
                *count += usize::from(of.shares(Languages::nth(i)));
            }
        }
        let own = Languages::of(locale.split('-').next().unwrap_or("en"));
        let frequent = counts.iter().enumerate().filter(|(_, n)| **n >= LEAST && **n * SHARE >= words);
        frequent.fold(Languages::ENGLISH.with(own), |all, (i, _)| all.with(Languages::nth(i)))
    }

    /// The value of a single folded word that counts.
    pub(super) fn number_word(&self, word: &str, languages: Languages) -> Option<f64> {
        let node = self.phrases.step(0, self.words.id(word))?;
        self.phrases.ends(node).iter().find_map(|(role, of)| match role {
            Role::Number(v) if of.shares(languages) => Some(*v),
            _ => None,
        })
    }

    /// Whether a single word is a clue, in whatever language.
    pub(super) fn tells(&self, word: u32, clue: Clue) -> bool {
        self.phrases.step(0, word).is_some_and(|node| self.phrases.ends(node).iter().any(|(role, _)| *role == Role::Tells(clue)))
    }

    /// Every phrase that begins at a token, into `found`.
    pub(super) fn hits_at(&self, tokens: &[Token<'_>], at: usize, languages: Languages, found: &mut Vec<Hit>) {
        let (mut node, mut i) = (0, at);
        // A long word that English has not is read in any text; one it has, only where its language is used.
        let mut foreign = tokens.get(at).is_some_and(|t| t.folded.len() >= 4);
        while let Some(t) = tokens.get(i) {
            // A point, a dash or a quote inside a phrase is no part of it: `c. à s.`, `lid-off`.
            if i > at && matches!(t.kind, super::token::Kind::Mark('.' | '-' | '\'' | '/' | '&')) {
                i += 1;
                continue;
            }
            let Some(next) = self.phrases.step(node, t.word) else { return };
            node = next;
            i += 1;
            foreign &= !self.languages.get(t.word as usize).copied().unwrap_or_default().shares(Languages::ENGLISH);
            for (role, of) in self.phrases.ends(node) {
                let counts = matches!(role, Role::Number(_) | Role::Part(_) | Role::Times(_) | Role::Article);
                if of.shares(languages) || (foreign && !counts) {
                    found.push(Hit { role: *role, len: i - at });
                }
            }
        }
    }
}

fn role(name: &str, value: &str, measures: &Measures) -> Result<Role, String> {
    let number = || value.parse::<f64>().map_err(|_| format!("{value} is no number"));
    let stage = |word: &str| Stage::from_word(word).ok_or_else(|| format!("{word} is no stage"));
    Ok(match name {
        "number" => Role::Number(number()?),
        "article" => Role::Article,
        "part" => Role::Part(if value == "0.333333" { 1.0 / 3.0 } else { number()? }),
        "times" => Role::Times(number()?),
        "of" => Role::Of,
        "and" => Role::And,
        "plus" => Role::Plus,
        "minus" => Role::Minus,
        "or" => Role::Or,
        "range" => Role::Range,
        "approx" => Role::Approx,
        "level" => {
            let factor = measures.by_id(&format!("factor-{value}")).map(|m| m.value).ok_or_else(|| format!("no measure factor-{value}"))?;
            Role::Filled(Filled {
                factor: (!factor.is_exact()).then_some(factor),
                heaped: matches!(value, "heaped" | "rounded"),
                packed: value == "packed",
            })
        }
        "size" => Role::Size(match value {
            "small" => "small",
            "medium" => "medium",
            "large" => "large",
            _ => "extra-large",
        }),
        "degree" => Role::Degree,
        "scale" if value == "c" => Role::Celsius,
        "scale" => Role::Fahrenheit,
        "gas" => Role::Gas,
        "thermostat" => Role::Thermostat,
        "fan" => Role::Fan,
        "oven" => Role::Oven,
        "oven-band" => Role::LoneBand(measures.by_id(value).map(|m| m.value).ok_or_else(|| format!("no measure {value}"))?),
        "braid" => Role::Braid,
        "steam" => Role::Steam,
        "lid" if value == "on" => Role::LidOn,
        "lid" => Role::LidOff,
        "door" => Role::DoorAjar,
        "oven-off" => Role::OvenOff,
        "lies" => Role::Touching(value == "touching"),
        "tin-lid" => Role::TinLid,
        "coats" => Role::Coat(if value == "3" { 3 } else { 2 }),
        "knock-back" => Role::KnockBack,
        "used" => Role::Used(Used::from_word(value).ok_or_else(|| format!("no use {value}"))?),
        "then" => Role::Then,
        "at" => Role::At,
        "core" => Role::Core,
        "length" => Role::Length,
        "total" => Role::Total,
        "yield" => Role::Yield,
        "serves" => Role::Serves,
        "each" => Role::Each,
        "divide" => Role::Divide,
        "into" => Role::Into,
        "piece" => Role::Piece(Shape::from_word(value)),
        "strand" => Role::Strand,
        "vessel" => Role::Holder(word(value)?),
        "verb" => Role::Verb(word(value)?),
        "take" => Role::Take,
        "lead" => Role::Lead,
        "correct" => Role::Correct,
        "no" => Role::No,
        "rest" => Role::Rest,
        "same" => Role::Same,
        "more" => Role::More,
        "head" => Role::Head(match value {
            "method" => Head::Method,
            "notes" => Head::Notes,
            "bath" => Head::Bath,
            "dough" => Head::Stage(None),
            "tin" => Head::Stage(Some(Stage::Finish)),
            other => Head::Stage(Some(stage(other)?)),
        }),
        "for-the" => Role::ForThe,
        "purpose" if value == "dusting" => Role::Purpose(Purpose::Dusting),
        "purpose" => Role::Purpose(Purpose::Stage(stage(value)?)),
        "vague" => Role::Vague(match value {
            "to-taste" => Vague::ToTaste,
            "as-needed" => Vague::AsNeeded,
            _ => Vague::Optional,
        }),
        "extra" => Role::Extra,
        "soaked" => Role::Soaked,
        "beaten" => Role::Beaten,
        "zest" => Role::Zest,
        "juice" => Role::Juice,
        "fruit" => Role::Fruit(match value {
            "orange" => "orange",
            "lemon" => "lemon",
            _ => "lime",
        }),
        "gluten-free" => Role::GlutenFree,
        "hydration" => Role::Hydration,
        "temp" => Role::Temp(number()?),
        "stop" => Role::Stop,
        "function" => Role::Function,
        "grams" => Role::Grams,
        "dusting-flour" => Role::DustingFlour,
        "tells" => Role::Tells(word(value)?),
        "container" => Role::Container,
        other => return Err(format!("“{other}” is no role")),
    })
}

/// A value that is one of a few words.
fn word<T: std::str::FromStr>(value: &str) -> Result<T, String> {
    value.parse().map_err(|_| format!("“{value}” is no word for it"))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::pantry::Pantry;

    #[test]
    fn every_row_of_the_table_holds_together() {
        let pantry = Pantry::built_in().unwrap();
        let lexicon = Lexicon::built_in(&pantry.measures).unwrap();
        assert!(lexicon.languages.len() > 500);
        assert_eq!(Languages::of("nb"), Languages::of("no"));
    }
}
