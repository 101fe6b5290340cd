//! An oven setting as a recipe states it.

use crate::oven::{DegreeScale, SettingRead};

/// A setting as it was stated.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Stated {
    /// The figure.
    pub value: f64,
    /// On which scale.
    pub scale: DegreeScale,
    /// As read.
    pub read: SettingRead,
    /// Said for a fan oven.
    pub fan: bool,
}
