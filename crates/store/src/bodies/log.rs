//! An event of a bake as it is written.

use serde_with::skip_serializing_none;

use super::{plan::RestV1, stored};

stored! {
    /// An event.
    #[with(skip_serializing_none)]
    EventV1 of cerealis_core::bake::EventBody {
        kind: String,
        at: Option<String>,
        value: Option<f64>,
        unit: Option<String>,
        stage: Option<String>,
        what: Option<String>,
        line: Option<u32>,
        seen: Option<String>,
        note: Option<String>,
        rest: Option<Box<RestV1>>,
    }
}
