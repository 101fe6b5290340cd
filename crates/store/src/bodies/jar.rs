//! A jar and what happens to it, as they are written.

use std::collections::BTreeMap;

use serde_with::skip_serializing_none;

use super::stored;

stored! {
    /// A jar.
    JarV1 of cerealis_core::leaven::JarBody { name: String, flour_mix: BTreeMap<String, f64>, hydration_pct: f64 }

    /// An event of its log.
    #[with(skip_serializing_none)]
    JarEventV1 of cerealis_core::leaven::JarEventBody {
        kind: String,
        at: Option<String>,
        seed: Option<f64>,
        water: Option<f64>,
        flour: Option<f64>,
        value: Option<f64>,
        unit: Option<String>,
        what: Option<String>,
        note: Option<String>,
    }
}
