//! A bake is its log: events that only grow, and the state that follows from them.

mod event;
pub mod findings;
mod state;

pub use event::{Event, EventBody, EventKind, NewEvent};
pub use state::{Changed, State, Summary, actual, is_finished, summary};

#[cfg(test)]
mod tests;
