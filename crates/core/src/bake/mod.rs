//! A bake is its log: events that only grow, and the state that follows from them.

mod at_bowl;
mod cautions;
mod event;
pub mod findings;
mod oven_log;
mod reading;
mod reckoned;
mod state;
mod told;

pub use at_bowl::{AtBowl, last_pull};
pub use event::{ByFeel, Event, EventBody, EventKind, NewEvent};
pub use oven_log::{OvenEntry, learned_off_k, mean_off_k, oven_entry};
pub use state::{BakeState, Changed, Summary, is_finished, summary};

#[cfg(test)]
mod tests;
