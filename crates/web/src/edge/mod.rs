//! The border: requests in, units and local time out, errors as a baker reads them.

pub mod assets;
mod clock;
mod db;
mod fields;
mod filters;
mod guard;
mod household;
mod in_time;
mod local;
mod methods;
mod moment;
mod piece;
mod problem;
mod said;
mod sent;

pub use clock::Clock;
pub use db::{off_loop, on_disk};
pub use fields::Fields;
pub use filters::{asset, degree_unit, degrees, difference, length, length_unit, weight_unit};
pub use guard::{Guard, guard, headers};
pub use household::Household;
pub use in_time::in_time;
pub use local::{Local, in_words, to_step};
pub use methods::methods;
pub use moment::Lies;
pub use piece::in_one_piece;
pub use problem::{Failure, PageFailure, answer_at, nothing_here, problem};
pub use said::{carried, in_units};
pub use sent::{Form, Sent, Written, query_config, too_large};

/// Largest body, bytes.
pub const BODY_LIMIT: usize = 1024 * 1024;
/// Largest archive, bytes.
pub const ARCHIVE_LIMIT: usize = 64 * 1024 * 1024;
