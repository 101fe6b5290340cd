//! The one thing templates ask of the edge: the address of a shipped file.

use super::assets;

/// Address of a shipped file, with its content hash.
#[must_use]
pub fn asset(path: &str) -> String {
    assets::address(path)
}
