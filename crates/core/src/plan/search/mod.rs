//! Plans that fit the day: given a dough, a kitchen and the hours the baker is free, the truly
//! different ways to have the bread when it is wanted, or why there is none.
//!
//! Dough time depends on clock times and places alone; the dose only sets how much of it is needed. So
//! each rise is a wait of `[first, likeliest, last]` minutes, each piece of work is rigid, and a plan is
//! a chain of both that lies in the baker's windows. The starts that can be are found exactly, by
//! intervals (Dechter, Meiri & Pearl 1991, from memory): no grid of time, no chance.

pub mod answer;
pub mod ask;
pub mod bread;
pub mod compare;
mod cost;
pub mod curve;
pub mod day;
pub mod dose;
pub mod dough;
pub mod families;
pub mod find;
pub mod hours;
pub mod judge;
pub mod many;
pub mod offer;
pub mod placing;
pub mod relax;
pub mod schedule;
pub mod solve;
pub mod want;
pub mod wish;

use crate::findings::Rule;

const FOLDS_MISSED: Rule = Rule::new("folds-missed", "Folds build the strength that kneading leaves out.", "common practice, no source");

/// The rules of the findings raised on a plan.
pub const RULES: &[Rule] = &[FOLDS_MISSED];
