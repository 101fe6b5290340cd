//! What has happened of a bake, read from its log.

use jiff::Timestamp;

use super::{RestPlan, Seen, StepKind};
use crate::{kitchen::Stay, knead::WindowWord};

/// What has happened, read from the log.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct Actual {
    /// Now: what is not done by then is done later. None as planned.
    pub now: Option<Timestamp>,
    /// Acts at the bowl that are over, and when.
    pub bowl: Vec<(StepKind, Timestamp)>,
    /// Windows pulled, and when.
    pub windows: Vec<(WindowWord, Timestamp)>,
    /// When the dough was mixed.
    pub mixed: Option<Timestamp>,
    /// Dough temperatures taken: when, °C.
    pub dough_c: Vec<(Timestamp, f64)>,
    /// The place the dough stands in from an instant on, and its °C.
    pub places: Vec<Stay<Timestamp>>,
    /// Folds done.
    pub folds: Vec<Timestamp>,
    /// When it was knocked back.
    pub knocks: Vec<Timestamp>,
    /// When it was shaped.
    pub shaped: Option<Timestamp>,
    /// When the oven was lit.
    pub lit: Option<Timestamp>,
    /// When each load went into the oven.
    pub loads: Vec<Timestamp>,
    /// When each came out.
    pub outs: Vec<Timestamp>,
    /// When a rise was last said not to be ripe.
    pub not_yet: Option<Timestamp>,
    /// When a rise was seen ripe.
    pub ripe: Option<Timestamp>,
    /// Every look at a rise, in order.
    pub seen: Vec<Seen>,
    /// What was laid anew for the rest of the bake.
    pub rest: Option<Box<RestPlan>>,
}
