//! Drawing knows pixels, not bread: scales, paths and ticks from values the core gave.

mod bake;
mod cooling;
mod crossing;
mod jar;
mod kneading;
mod percentages;
mod ruler;
mod scale;
mod section;
mod tide;
mod upright;

pub use bake::{Act, BakeChart, BakeFrame, bake_chart};
pub use cooling::{CoolingChart, cooling_chart};
pub use crossing::{CrossingChart, CrossingFrame, crossing_chart};
pub use jar::{BarIn, Bars, Curve, Glass, JarFrame, bars, curve, glass};
pub use kneading::{KneadFrame, Kneading, Moment, draw as kneading, small as kneading_small};
pub use percentages::{Lead, Percentages};
pub use ruler::{Ruler, ruler};
pub use scale::{PixelScale, path, px};
pub use section::{Cut, Outline, Section, Slab};
pub use tide::{Frame, Mark, Place, Point, Spell, Tide, tide};
pub use upright::{Row as UprightRow, Upright, upright};
