//! Checks against something outside the code: published figures, independent computations of the
//! models' equations, facts of the trade. The source stands beside each check.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::indexing_slicing, clippy::panic, reason = "tests")]

mod baking;
mod composition;
mod fermentation;
mod kneading;
mod measures;
mod percentages;
mod planning;
mod practice;
