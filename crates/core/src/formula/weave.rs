//! Plaits.

/// Strands a piece can be woven from.
pub const WEAVES: [(u32, &str); 4] = [(2, "twist of two"), (3, "plait of three"), (4, "plait of four"), (6, "plait of six")];
