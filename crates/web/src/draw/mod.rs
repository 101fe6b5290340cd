//! Drawing knows pixels, not bread: scales, paths and ticks from values the core gave.

mod jar;
mod scale;
mod soundings;
mod tide;
mod upright;

pub use jar::{BarIn, Bars, Curve, Glass, JarFrame, bars, curve, glass};
pub use scale::{LogScale, Scale, area, path};
pub use soundings::{Lead, Soundings};
pub use tide::{Frame, Mark, Place, Point, Spell, Tide, tide};
pub use upright::{Row as UprightRow, Upright, upright};
