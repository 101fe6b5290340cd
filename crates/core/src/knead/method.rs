//! Ways of kneading, and the sizes of a mixer.

words! {
    /// Ways of kneading. Common practice, no source.
    Method {
        Hand "hand" "by hand",
        Slap "slap" "slap and fold",
        PlanetaryLow "planetary-low" "stand mixer, slow",
        PlanetaryMedium "planetary-medium" "stand mixer, middle",
        SpiralLow "spiral-low" "spiral mixer, slow",
        SpiralHigh "spiral-high" "spiral mixer, fast",
        Processor "processor" "food processor",
        Fold "fold" "folds only",
        NoKnead "no-knead" "no kneading, a long rest",
    }

    /// What kneads by itself.
    Machine { StandMixer "stand-mixer", Spiral "spiral", Processor "processor" }

    /// How large a stand mixer is: a bowl of 4 to 5 litres, or of 6 to 7.
    #[derive(Default)]
    MixerSize {
        #[default]
        Small "small" "4 to 5 litres",
        Large "large" "6 to 7 litres",
    }
}

impl Method {
    /// Whether it is left to folds and time.
    #[must_use]
    pub const fn is_passive(self) -> bool {
        matches!(self, Self::Fold | Self::NoKnead)
    }
    /// The machine it takes; none by hand.
    #[must_use]
    pub const fn machine(self) -> Option<Machine> {
        match self {
            Self::PlanetaryLow | Self::PlanetaryMedium => Some(Machine::StandMixer),
            Self::SpiralLow | Self::SpiralHigh => Some(Machine::Spiral),
            Self::Processor => Some(Machine::Processor),
            Self::Hand | Self::Slap | Self::Fold | Self::NoKnead => None,
        }
    }
}
