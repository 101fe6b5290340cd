//! Bodies inside a larger file: for `#[serde(with = "bodies::said")]`.

use serde::{Deserialize, Deserializer, Serialize, Serializer, de::Error};
use serde_json::Value;

use super::{Body, Field, Kept, Versioned, read};

/// Writes it with its version.
///
/// # Errors
/// If a figure of it cannot be written.
pub fn serialize<T: Kept, S: Serializer>(core: &T, to: S) -> Result<S::Ok, S::Error> {
    Versioned { v: <T::As as Body>::VERSION, body: T::As::keep(core) }.serialize(to)
}

/// Reads it, in whatever version.
///
/// # Errors
/// If it is of a newer version, or not what it should be.
pub fn deserialize<'de, T: Kept, D: Deserializer<'de>>(from: D) -> Result<T, D::Error> {
    read(&Value::deserialize(from)?.to_string()).map_err(D::Error::custom)
}
