//! The oven: which setting, how many minutes, when to look, and why.
//!
//! Model, constants and their marks: `docs/science.md`, section "The oven". The physics gives the
//! pattern, habit gives the level: minutes are when to start looking.

mod advice;
mod bake;
mod colour;
mod constants;
mod findings;
mod geometry;
mod practice;
mod preheat;
mod setting;
mod sides;
mod solver;

pub use advice::{Advice, BakeEvent, CurveRow, Meets, SettingRow, Status, advise, clock, compare, setting_limits, usual_setting};
pub use bake::{Bake, BakeBody, BakeClass, Colour, Crust, Glaze, Shape, Vessel};
pub use colour::{boiling_c, colour_word, lightness, pressure_pa, swatch};
pub use constants::Constants;
pub use findings::{cautions, find};
pub use geometry::{Geometry, Kind};
pub use practice::{Near, near};
pub use preheat::{heavy_body, preheat_lead_min};
pub use setting::{Scale, SettingFinding, SettingRead, read_setting};
pub use sides::{Sides, sides};
pub use solver::{Course, Goal, Instant, Setup, run};
