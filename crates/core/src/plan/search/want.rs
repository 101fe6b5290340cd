//! What matters most to the baker.

words! {
    /// What matters most.
    Want { Sleep "sleep", FewActs "few-acts", Flavour "flavour", Soon "soon" }
}

impl Want {
    /// All of them, in the order of the page.
    pub const ALL: [Self; 4] = [Self::Sleep, Self::FewActs, Self::Flavour, Self::Soon];
    /// As a baker says it.
    #[must_use]
    pub const fn title(self) -> &'static str {
        match self {
            Self::Sleep => "let me sleep longest",
            Self::FewActs => "fewest acts",
            Self::Flavour => "most flavour",
            Self::Soon => "as soon as it can be",
        }
    }
}
