//! The oven: which setting, how many minutes, when to look, and why.
//!
//! Model, constants and their marks: `docs/science.md`, section "The oven". The physics gives the
//! pattern, habit gives the level: minutes are when to start looking.

mod advice;
mod air;
mod bake;
mod care;
mod colour;
mod constants;
mod course;
mod crossing;
mod crust;
mod dial;
mod fan;
mod film;
mod findings;
mod geometry;
mod practice;
mod preheat;
mod setting;
mod sides;
mod sizes;
mod solver;
mod stages;
mod together;

pub use advice::{Advice, BakeEvent, CurveRow, SettingRow, advise, at_settings, compare};
pub use air::air;
pub use bake::{
    Bake, BakeBody, BakeClass, Colour, Crust, Glaze, ProveIn, ROLL_MOST_G, Shape, THICKNESS, THICKNESS_CM, USUAL_DOUGH_C, Vessel,
};
pub use care::{CAUSTIC, COAT, Care, DIP, POACH, SYRUP, after, before, cooling, cut, done_sign};
pub use colour::{boiling_c, colour_word, lightness, pressure_pa, swatch};
pub use constants::Constants;
pub use course::{Meets, Status, at_its_setting, at_known_setting, clock, setting_limits, usual_setting};
pub use crossing::{CrossRow, Crossing, crossing};
pub use dial::Dial;
pub use fan::{FAN_K, fan_equivalent};
pub use film::{Film, Frame, Isotherm, film};
pub use findings::{RULES, cautions, find};
pub use geometry::{Geometry, Kind};
pub use practice::{Agreement, Near, agreement, near};
pub use preheat::{heavy_body, preheat_lead_min};
pub use setting::{DegreeScale, SettingFinding, SettingRead, read_setting};
pub use sides::{Sides, sides};
pub use sizes::{Size, SizeKind, heaviest_within, sizes};
pub use solver::{Goal, Instant, OvenRun, Setup, run};
pub use stages::{DialTurn, Drying, Fall, MOST_TURNS};
pub use together::{InLoads, ShareAct, Sharing, between_loads_min, in_loads, share};
