//! What the reader asks when two readings differ: a closed list, each with its answers.

use serde::Serialize;

/// An answer a baker can tap.
#[derive(Debug, Clone, PartialEq, Serialize)]
pub struct Answer {
    /// Its word.
    pub answer: &'static str,
    /// As the button says it.
    pub label: String,
    /// What the line would weigh, in grams.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub grams: Option<f64>,
    /// Which ingredient it would be.
    #[serde(skip)]
    pub ingredient: Option<String>,
    /// Doubt that stays, as a share.
    #[serde(skip)]
    pub doubt: f64,
}

impl Answer {
    pub(super) fn grams(answer: &'static str, label: impl Into<String>, grams: f64) -> Self {
        Self { answer, label: label.into(), grams: Some(grams), ingredient: None, doubt: 0.0 }
    }
    pub(super) fn kind(answer: &'static str, label: impl Into<String>, ingredient: &str) -> Self {
        Self { answer, label: label.into(), grams: None, ingredient: Some(ingredient.to_owned()), doubt: 0.0 }
    }
    pub(super) const fn within(mut self, doubt: f64) -> Self {
        self.doubt = doubt;
        self
    }
}

/// A question at a line.
#[derive(Debug, Clone, PartialEq, Serialize)]
pub struct Question {
    /// Fixed name.
    pub id: &'static str,
    /// The sentence.
    pub ask: &'static str,
    /// What can be tapped.
    pub answers: Vec<Answer>,
}

/// The sentences of the questions.
#[must_use]
pub fn sentence(id: &str) -> &'static str {
    match id {
        "flour-measure" => "How was the cup filled: spooned, scooped, sifted?",
        "salt-kind" => "Which salt: fine, dense flake, light flake?",
        "yeast-kind" => "Instant, active dry or fresh?",
        "packet-size" => "How many grams in the packet (7, 8, 11)?",
        "oz-mass-or-volume" => "Ounces by weight or fluid ounces?",
        "both-units-disagree" => "The two amounts differ: which holds?",
        "vague-amount" => "About how much is that?",
        "to-taste" => "How much? (2 % of flour offered)",
        "alternative" => "Which of the two?",
        "size-of-piece" => "How big (grams or ml)?",
        "packed-or-loose" => "Packed or loose?",
        "leaven-hydration" => "How wet is the leaven (100 % = equal weights)?",
        "leaven-state" => "Risen or stirred down when measured?",
        "butter-salt" => "Salted or unsalted?",
        "malt-kind" => "Diastatic or not?",
        "psyllium-form" => "Whole husk or powder?",
        "milk-powder-form" => "Instant granules or fine powder?",
        "gf-blend-gum" => "Does the blend already hold gum?",
        "number-unclear" => "What number is meant?",
        "bare-number" => "Grams?",
        "ingredient-unknown" => "Is this the ingredient?",
        "divided-check" => "Do the parts add up to the total?",
        "egg-size" => "Which egg size?",
        _ => "What is meant?",
    }
}

impl Question {
    pub(super) fn new(id: &'static str, answers: Vec<Answer>) -> Self {
        Self { id, ask: sentence(id), answers }
    }
}
