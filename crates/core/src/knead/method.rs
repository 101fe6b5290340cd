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
    /// Whether it is a stand mixer, of which there are two sizes.
    #[must_use]
    pub const fn is_planetary(self) -> bool {
        matches!(self, Self::PlanetaryLow | Self::PlanetaryMedium)
    }
}
