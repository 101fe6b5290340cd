use crate::pantry::{Added, Ingredient};

words! {
    /// Where in the making a line goes in, in the order of the work.
    Stage {
        Leaven "leaven", Preferment "preferment", Soaker "soaker", Scald "scald", Dough "dough", Late "late",
        Inclusion "inclusion", Finish "finish",
    }
}

words! {
    /// What a line of the finish is for, where it is neither brushed, strewn nor dipped.
    Used { Filling "filling", Icing "icing" }
}

impl Stage {
    /// Where an ingredient goes in when nothing else is said.
    #[must_use]
    pub const fn usual(ingredient: &Ingredient) -> Self {
        match ingredient.added {
            Added::WithFlour | Added::InLiquid => Self::Dough,
            Added::AfterGluten => Self::Late,
            Added::LastMinute => Self::Inclusion,
            Added::Soaker => Self::Soaker,
            Added::OnTop | Added::Filling | Added::Dip => Self::Finish,
        }
    }
}
