//! Drawing knows pixels, not bread: scales, paths and ticks from values the core gave.

mod scale;
mod soundings;
mod tide;

pub use scale::{LogScale, Scale, area, path};
pub use soundings::{Lead, Soundings};
pub use tide::{Frame, Mark, Place, Point, Tide, tide};
