//! A bake in stages: the dial turned while the bread is in, and the last minutes in the dying oven.

/// A big rye's oven falls so many minutes after loading.
pub(super) const FALLS_AFTER_MIN: f64 = 15.0;
/// Most turns of the dial in one bake.
pub const MOST_TURNS: usize = 12;

/// The dial turned while it bakes.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct DialTurn {
    /// Minutes after loading.
    pub after_min: f64,
    /// To what, °C on the dial.
    pub to_c: f64,
}

/// What dries in the oven once it is done: the oven turned off, its door ajar, or both. No model: the crust gets crisper, the middle
/// is done before. Common practice, no source.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Drying {
    /// Minutes beyond the bake.
    pub minutes: f64,
    /// Whether the oven is turned off.
    pub off: bool,
    /// Whether the door stands ajar.
    pub ajar: bool,
}

/// The oven's air falling or rising to a second setting, in the solver's seconds.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Fall {
    /// When, s; never, where infinite.
    pub at: f64,
    /// To what, °C true.
    pub to_c: f64,
}

impl Fall {
    /// None.
    pub const NEVER: Self = Self { at: f64::INFINITY, to_c: 0.0 };

    /// So many as there may be, the first ones these.
    #[must_use]
    pub fn these(falls: impl Iterator<Item = Self>) -> [Self; MOST_TURNS] {
        let mut all = [Self::NEVER; MOST_TURNS];
        for (place, fall) in all.iter_mut().zip(falls) {
            *place = fall;
        }
        all
    }
}

impl Drying {
    /// What to do.
    #[must_use]
    pub const fn words(&self) -> &'static str {
        match (self.off, self.ajar) {
            (true, true) => "Turn the oven off, leave the bread in, the door ajar on a wooden spoon.",
            (true, false) => "Turn the oven off and leave the bread in.",
            (false, true | false) => "Leave the bread in, the door ajar on a wooden spoon.",
        }
    }
}
