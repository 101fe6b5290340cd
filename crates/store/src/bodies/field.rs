//! How the parts of a body are made from the core's and back.

use std::collections::BTreeMap;

use cerealis_core::{
    ferment::Pace,
    kitchen::{Assumed, HoursKind, Place},
    knead::{MixerSize, Until},
    measure::{Clock, Decimal, System, Temperature, WeekStart, Weight},
    oven::{Crust, Dial},
    plan::{StepKind, search::schedule::ScheduleFamily},
};
use jiff::Timestamp;

/// A body that cannot be what the core knows.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[error("{0}")]
pub struct Unread(pub String);

/// A part of a body, and what it is in the core.
pub trait Field<T>: Sized {
    /// As it is kept.
    fn keep(core: &T) -> Self;
    /// As the core knows it.
    ///
    /// # Errors
    /// What the core does not know.
    fn lift(self) -> Result<T, Unread>;
}

/// What is kept as it is.
macro_rules! plain {
    ($($t:ty),* $(,)?) => { $(
        impl Field<$t> for $t {
            fn keep(core: &$t) -> Self { core.clone() }
            fn lift(self) -> Result<$t, Unread> { Ok(self) }
        }
    )* };
}
plain! { f64, bool, u8, u32, usize, String, Timestamp, (f64, f64), (u32, f64), BTreeMap<String, f64> }

/// What is kept as the word the API writes.
macro_rules! words {
    ($($t:ty),* $(,)?) => { $(
        impl Field<$t> for String {
            fn keep(core: &$t) -> Self { core.word().to_owned() }
            fn lift(self) -> Result<$t, Unread> {
                <$t>::from_word(&self).ok_or_else(|| Unread(format!("“{self}” is not known here")))
            }
        }
    )* };
}
words! { Assumed, StepKind, Place, Pace, ScheduleFamily, Crust, Dial, HoursKind, System, Temperature, Weight, Clock, Decimal, WeekStart, MixerSize, Until }

impl<A: Field<T>, T> Field<Option<T>> for Option<A> {
    fn keep(core: &Option<T>) -> Self {
        core.as_ref().map(A::keep)
    }
    fn lift(self) -> Result<Option<T>, Unread> {
        self.map(A::lift).transpose()
    }
}

impl<A: Field<T>, T> Field<Box<T>> for Box<A> {
    fn keep(core: &Box<T>) -> Self {
        Self::new(A::keep(core))
    }
    fn lift(self) -> Result<Box<T>, Unread> {
        Ok(Box::new((*self).lift()?))
    }
}

impl<A: Field<T>, T> Field<Vec<T>> for Vec<A> {
    fn keep(core: &Vec<T>) -> Self {
        core.iter().map(A::keep).collect()
    }
    fn lift(self) -> Result<Vec<T>, Unread> {
        self.into_iter().map(A::lift).collect()
    }
}

/// Shapes with a field for each of the core's: a field that the core gains or loses does not compile until it is said what
/// becomes of what was kept.
macro_rules! stored {
    ($($(#[doc = $doc:literal])* $(#[with($with:path)])? $(#[serde($serde:ident)])? $name:ident of $core:path { $($(#[$of_field:meta])* $field:ident: $type:ty),* $(,)? })*) => { $(
        $(#[doc = $doc])*
        $(#[$with])?
        #[derive(Debug, Clone, PartialEq, serde::Serialize, serde::Deserialize, schemars::JsonSchema)]
        $(#[serde($serde)])?
        #[allow(missing_docs, reason = "as in the core and in the API")]
        pub struct $name { $($(#[$of_field])* pub $field: $type),* }
        impl crate::bodies::field::Field<$core> for $name {
            fn keep(core: &$core) -> Self {
                Self { $($field: crate::bodies::field::Field::keep(&core.$field)),* }
            }
            fn lift(self) -> Result<$core, crate::bodies::field::Unread> {
                use $core as Core;
                Ok(Core { $($field: crate::bodies::field::Field::lift(self.$field)?),* })
            }
        }
    )* };
}
pub(super) use stored;
