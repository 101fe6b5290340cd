//! The whole core against facts of the trade, along the baker's journey. Where nothing else is said:
//! common practice, no source. Figures of books and laws are named where they stand.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::indexing_slicing, clippy::panic, reason = "tests")]

mod alarms;
mod amount;
mod bench;
mod catalogue;
mod dividing;
mod dose;
mod elsewhere;
mod finish;
mod fitted;
mod formula;
mod kitchen;
mod label;
mod leaven;
mod loads;
mod log;
mod mending;
mod mixing;
mod models;
mod night;
mod oven;
mod own;
mod own_words;
mod pans;
mod pantry;
mod plan;
mod preferment;
mod reading;
mod recipes;
mod refusals;
mod replan;
mod rise;
mod scaling;
mod schools;
mod share;
mod stages;
mod stands;
mod sun;
mod swap;
mod versions;
mod water;
mod wishes;
