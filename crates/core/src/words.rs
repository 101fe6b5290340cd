//! Choices of one word: an enum, the word the API writes for it, and back.

macro_rules! words {
    ($($(#[$doc:meta])* $name:ident { $($variant:ident $word:literal),* $(,)? })*) => { $(
        $(#[$doc])*
        #[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, serde::Serialize, serde::Deserialize)]
        #[serde(rename_all = "kebab-case")]
        #[allow(missing_docs, reason = "the names say it")]
        pub enum $name { $($variant),* }
        impl $name {
            /// As the API writes it.
            #[must_use]
            pub const fn word(self) -> &'static str { match self { $(Self::$variant => $word),* } }
            /// From that word.
            #[must_use]
            pub fn from_word(word: &str) -> Option<Self> { match word { $($word => Some(Self::$variant),)* _ => None } }
            /// All the words.
            #[must_use]
            pub fn words() -> Vec<&'static str> { vec![$($word),*] }
        }
    )* };
}
