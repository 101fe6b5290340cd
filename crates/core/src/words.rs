//! Choices of one word: an enum, the word the API writes for it, and back; where a page says it otherwise, its title. And a
//! sentence's first letter.

macro_rules! words {
    ($($(#[$meta:meta])* $name:ident { $($(#[$of:meta])* $variant:ident $word:literal $($title:literal)?),* $(,)? })*) => { $(
        $(#[$meta])*
        #[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, serde::Serialize, serde::Deserialize)]
        #[serde(rename_all = "kebab-case")]
        #[allow(missing_docs, reason = "the names say it")]
        pub enum $name { $($(#[$of])* $variant),* }
        impl $name {
            /// All of them, in their order.
            pub const ALL: [Self; { [$(words!(@count $variant)),*].len() }] = [$(Self::$variant),*];
            /// As the API writes it.
            #[must_use]
            pub const fn word(self) -> &'static str { match self { $(Self::$variant => $word),* } }
            /// From that word.
            #[must_use]
            pub fn from_word(word: &str) -> Option<Self> { match word { $($word => Some(Self::$variant),)* _ => None } }
            /// All the words.
            #[must_use]
            pub fn words() -> Vec<&'static str> { vec![$($word),*] }
            words!(@titles $($variant [$($title)?])*);
        }
    )* };
    (@count $variant:ident) => { () };
    (@titles $($variant:ident [])*) => {};
    (@titles $($variant:ident [$title:literal])*) => {
        /// As a page says it.
        #[must_use]
        pub const fn title(self) -> &'static str { match self { $(Self::$variant => $title),* } }
        /// Word and title of each, to choose from.
        #[must_use]
        pub fn choices() -> Vec<(&'static str, &'static str)> { Self::ALL.map(|one| (one.word(), one.title())).to_vec() }
    };
}

/// With its first letter large, as a sentence begins.
pub fn capitalized(words: &str) -> String {
    let mut letters = words.chars();
    letters.next().map_or_else(String::new, |first| first.to_uppercase().chain(letters).collect())
}
