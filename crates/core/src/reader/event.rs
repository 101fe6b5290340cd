//! What a sentence holds, in its order: amounts with their names, times, settings, pieces, what is done.

use super::{
    amount::Sum,
    lexicon::{Act, Head},
    scan::Named,
    stated::Stated,
};
use crate::{measure::Band, oven::Shape};

/// An amount with the name it is of.
#[derive(Debug, Clone)]
pub(super) struct Told<'a> {
    /// How much; nothing for a name alone.
    pub sum: Sum<'a>,
    /// Of what.
    pub name: Named,
    /// Baker's percent, where that is told.
    pub percent: Option<f64>,
    /// Behind the amount: other measures of it may stand from here on.
    pub measured: usize,
    /// Said to be part of what is listed: `the remaining 25 g of water`.
    pub rest: bool,
    /// Corrects what was said before it.
    pub corrects: bool,
    /// The second of "A or B", and how much of it.
    pub or: Option<(Named, Sum<'a>)>,
    /// From here on the words say how it is prepared or what it is for.
    pub tail: usize,
    /// Only half of it, the other half elsewhere.
    pub half: bool,
}

impl<'a> Told<'a> {
    /// An amount of something; `measured` is the token behind the amount, `tail` that behind all of it.
    pub fn new(sum: Sum<'a>, name: Named, measured: usize, tail: usize) -> Self {
        Self { sum, name, percent: None, measured, rest: false, corrects: false, or: None, tail, half: false }
    }
}

/// Pieces told.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub(super) struct PiecesTold {
    /// How many.
    pub count: Option<u32>,
    /// Grams of one.
    pub piece_g: Option<f64>,
    /// Of what shape.
    pub shape: Option<Shape>,
    /// Strands one is woven from.
    pub strands: Option<u32>,
}

/// What was found.
#[derive(Debug, Clone)]
pub(super) enum What<'a> {
    /// An ingredient.
    Line(Box<Told<'a>>),
    /// An amount whose name is not known, or not told.
    Nameless {
        /// How much.
        sum: Sum<'a>,
        /// Whether it corrects what was said before it.
        corrects: bool,
    },
    /// A number without a unit or a name.
    Bare(Band),
    /// A setting of the oven.
    Setting(Stated),
    /// The oven told in a word, °C.
    OvenBand(Band),
    /// Minutes.
    Minutes(Band),
    /// Warmth inside the bread, °C.
    Core(f64),
    /// Warmth of water, dough or place, °C.
    Warmth(f64),
    /// Pieces.
    Pieces(PiecesTold),
    /// Something done.
    Verb(Act),
    /// `take`, `add`, `tip in`: a list goes on.
    Take,
    /// A lid or cover, on or off.
    Lid(bool),
    /// The oven turned off, or its door left ajar.
    Drying {
        /// Turned off.
        off: bool,
    },
    /// `then`, `turn down to`.
    Then,
    /// A word for the oven or its steam.
    Oven,
    /// What holds the dough.
    Holder,
    /// A heading inside the line.
    Head(Head),
    /// The weight of all of it: flour, or dough.
    Total,
    /// Said not to be there, or listed before.
    Passed,
    /// Digits that are no number.
    Unreadable,
}

/// What was found and where.
#[derive(Debug, Clone)]
pub(super) struct Event<'a> {
    /// What.
    pub what: What<'a>,
    /// First token.
    pub at: usize,
    /// Behind the last.
    pub end: usize,
    /// Clause of the sentence, from 0.
    pub clause: usize,
}
