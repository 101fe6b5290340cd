//! A formula as it is written.

use serde_with::skip_serializing_none;

use super::stored;

stored! {
    /// A formula.
    #[with(skip_serializing_none)]
    FormulaV1 of cerealis_core::formula::FormulaBody {
        name: Option<String>,
        variant: Option<String>,
        style: Option<String>,
        yeast_kind: Option<String>,
        gluten_free: Option<bool>,
        accepted: Option<Vec<String>>,
        lines: Vec<LineV1>,
        pieces: Option<PiecesV1>,
        further: Option<Vec<PiecesV1>>,
        hold: Option<HoldV1>,
        oven: Option<OvenV1>,
        kneading: Option<KneadingV1>,
        coats: Option<f64>,
        rises: Option<RisesV1>,
        steps: Option<Vec<StepV1>>,
        text: Option<String>,
        note: Option<String>,
        tags: Option<Vec<String>>,
    }

    /// A line.
    #[with(skip_serializing_none)]
    LineV1 of cerealis_core::formula::LineBody {
        ingredient: String,
        grams: f64,
        grams_low: Option<f64>,
        grams_high: Option<f64>,
        stage: Option<String>,
        source: Option<String>,
        hydration_pct: Option<f64>,
        used: Option<String>,
    }

    /// Its pieces.
    #[with(skip_serializing_none)]
    PiecesV1 of cerealis_core::formula::PiecesBody {
        count: f64,
        piece_g: Option<f64>,
        shape: Option<String>,
        vessel: Option<String>,
        lid: Option<bool>,
        pan: Option<String>,
        strands: Option<f64>,
        arrangement: Option<String>,
        thickness_cm: Option<f64>,
        prove_in: Option<String>,
    }

    /// What is held back.
    HoldV1 of cerealis_core::formula::HoldBody { ingredient: String, grams: f64 }

    /// What is told of the oven.
    #[with(skip_serializing_none)]
    OvenV1 of cerealis_core::formula::OvenBody {
        set_c: Option<f64>,
        minutes_low: Option<f64>,
        minutes_high: Option<f64>,
        fan: Option<bool>,
        ours: Option<bool>,
        stages: Option<Vec<PhaseV1>>,
    }

    /// How it is kneaded.
    #[with(skip_serializing_none)]
    KneadingV1 of cerealis_core::formula::KneadingBody {
        method: String,
        minutes: Option<f64>,
        rest_min: Option<f64>,
        folds: Option<f64>,
        butter_late: Option<bool>,
    }

    /// How it rises.
    #[with(skip_serializing_none)]
    RisesV1 of cerealis_core::formula::RisesBody { bulks: Option<f64>, knock_back: Option<bool> }

    /// A phase of the bake.
    #[with(skip_serializing_none)]
    PhaseV1 of cerealis_core::formula::PhaseBody {
        set_c: Option<f64>,
        minutes_low: Option<f64>,
        minutes_high: Option<f64>,
        lid: Option<String>,
        door: Option<String>,
        off: Option<bool>,
    }

    /// A step in the recipe's own words.
    #[with(skip_serializing_none)]
    StepV1 of cerealis_core::formula::ToldStep {
        text: String,
        act: Option<String>,
        #[serde(default)]
        start: usize,
        #[serde(default)]
        end: usize,
    }
}
