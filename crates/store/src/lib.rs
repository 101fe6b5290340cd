//! What a household keeps, in one SQLite file: formulas with their versions, bakes with their logs,
//! the kitchen's figures. Functions take a connection and give core types.
//!
//! Every write is one transaction on a connection with `synchronous=FULL`: on `Ok` it is on disk.

pub mod archive;
pub mod bakes;
pub mod bodies;
pub mod copy;
mod error;
pub mod formulas;
pub mod kitchen;
pub mod leavens;
mod listed;
mod open;
mod schema;
pub mod shelf;

pub use diesel::SqliteConnection;
pub use error::{StoreError, Trouble};
pub use listed::{Listed, Unreadable};
pub use open::{Database, Pooled};
