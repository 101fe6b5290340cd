//! How what a household keeps is written: JSON by types of their own, each with its version. The core's types may change as
//! they like; what was once written is read for good.
//!
//! A body says its version in `"v"`; one without is of the first. A newer shape is a new type (`PlanV2`) whose [`Body::lift`]
//! takes the one before: what is old is lifted step by step as it is read, and stays as it is on the disk.

mod field;
mod formula;
mod household;
mod jar;
mod log;
mod plan;
pub mod said;

use schemars::JsonSchema;
use serde::{Deserialize, Serialize, de::DeserializeOwned};

pub use field::Unread;
use field::{Field, stored};
pub use formula::FormulaV1;
pub use household::{KitchenV1, OwnIngredientV1, OwnPanV1};
pub use jar::{JarEventV1, JarV1};
pub use log::EventV1;
pub use plan::PlanV1;

use crate::StoreError;

/// The shape of a body in one version.
pub trait Body: Serialize + DeserializeOwned {
    /// Its version, from 1.
    const VERSION: u32;
    /// The shape before it; [`Nothing`] before the first.
    type Before: Body;
    /// The same from the shape before.
    ///
    /// # Errors
    /// What it cannot be made from.
    fn lift(before: Self::Before) -> Result<Self, Unread>;
}

/// What a core type is written as today.
pub trait Kept: Sized {
    /// Its newest shape.
    type As: Body + Field<Self>;
}

/// Before the first shape there was none.
#[derive(Debug, Clone, Copy, Serialize, Deserialize)]
pub enum Nothing {}

impl Body for Nothing {
    const VERSION: u32 = 0;
    type Before = Self;
    fn lift(before: Self) -> Result<Self, Unread> {
        match before {}
    }
}

/// The newest shapes of what is kept.
macro_rules! kept {
    ($($core:ty => $body:ty),* $(,)?) => { $(
        impl Kept for $core { type As = $body; }
        impl Body for $body {
            const VERSION: u32 = 1;
            type Before = Nothing;
            fn lift(before: Nothing) -> Result<Self, Unread> { match before {} }
        }
    )* };
}
kept! {
    cerealis_core::formula::FormulaBody => FormulaV1,
    cerealis_core::plan::Plan => PlanV1,
    cerealis_core::bake::EventBody => EventV1,
    cerealis_core::leaven::JarBody => JarV1,
    cerealis_core::leaven::JarEventBody => JarEventV1,
    cerealis_core::kitchen::Kitchen => KitchenV1,
    cerealis_core::pantry::OwnIngredient => OwnIngredientV1,
    cerealis_core::pantry::OwnPan => OwnPanV1,
}

/// A body with its version, as it stands in a row.
#[derive(Debug, Clone, PartialEq, Serialize, JsonSchema)]
pub struct Versioned<B> {
    /// Version of its shape.
    pub v: u32,
    /// The rest of it.
    #[serde(flatten)]
    pub body: B,
}

#[derive(Deserialize)]
struct OnlyVersion {
    #[serde(default = "first")]
    v: u32,
}

const fn first() -> u32 {
    1
}

/// Writes something that is to be kept.
///
/// # Errors
/// If a figure of it is no number JSON knows.
pub fn write<T: Kept>(core: &T) -> Result<String, StoreError> {
    Ok(serde_json::to_string(&Versioned { v: <T::As as Body>::VERSION, body: T::As::keep(core) })?)
}

/// Reads something that was kept, in whatever version.
///
/// # Errors
/// [`StoreError::Newer`] if a newer program wrote it; [`StoreError::Unreadable`] if it is not what it should be.
pub fn read<T: Kept>(text: &str) -> Result<T, StoreError> {
    let version = serde_json::from_str::<OnlyVersion>(text)?.v;
    Ok(shape::<T::As>(text, version)?.lift()?)
}

fn shape<B: Body>(text: &str, version: u32) -> Result<B, StoreError> {
    if version == B::VERSION {
        return Ok(serde_json::from_str(text)?);
    }
    if version > B::VERSION {
        return Err(StoreError::Newer);
    }
    if version == 0 {
        return Err(StoreError::Unreadable("its version is none".to_owned()));
    }
    Ok(B::lift(shape::<B::Before>(text, version)?)?)
}

#[cfg(test)]
mod tests;
