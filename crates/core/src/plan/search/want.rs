//! What matters most to the baker.

words! {
    /// What matters most, in the order of the page.
    Want {
        Sleep "sleep" "let me sleep longest",
        FewActs "few-acts" "fewest acts",
        Flavour "flavour" "most flavour",
        Soon "soon" "as soon as it can be",
    }
}
