//! Words that settle what is meant, beside a name or in a heading: rows of the table, gathered once for a line.

use enumset::{EnumSet, EnumSetType};

/// What a word settles.
#[derive(Debug, EnumSetType, strum::EnumString)]
#[strum(serialize_all = "kebab-case")]
#[allow(missing_docs, reason = "the rows of the table say it")]
pub enum Clue {
    Instant,
    Dry,
    Active,
    Fresh,
    Quick,
    /// A word for yeast that only one kind is sold under.
    YeastForm,
    Sachet,
    /// Written in French, it is the French sachet.
    FrenchSachet,
    Cake,
    Rye,
    Olive,
    Stiff,
    /// Of flour: much gluten.
    Strong,
    Salted,
    Unsalted,
    Yolk,
    White,
    ZestOnly,
    JuiceOnly,
    Divided,
    Hydration,
    Diastatic,
    Gum,
    Bath,
    Little,
    Stirred,
    Powder,
    Husk,
    Spooned,
    Scooped,
    Sifted,
    Packed,
    /// Salt as it comes on the table.
    Fine,
    Quail,
    European,
    /// Head of any column of a table.
    Column,
    /// Head of the column of names.
    NameColumn,
    Dough,
    /// A bread is named.
    Bread,
    /// Leads to a name and is no part of it: `here's the recipe for …`.
    Introduces,
    /// Head of a letter's subject.
    Subject,
    /// Who tells it, not what: `Gran says:`.
    Speaks,
    /// What a list is of, before its heading: `seed soaker`.
    KindOfList,
    /// Names a part only beside another word.
    NoHeadingAlone,
    /// A word cut short before a point.
    Shortened,
    /// A word cut short before a point and a figure.
    ShortenedBeforeFigure,
    /// Said behind an amount: about.
    Afterthought,
    Other,
    Between,
    /// Stands where a number should.
    NoNumber,
    /// No line ends with it: the next goes on.
    OpenEnd,
}

/// Every clue some words hold.
pub(super) type Clues = EnumSet<Clue>;
