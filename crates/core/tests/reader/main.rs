//! The reader held to whole recipes, in every way people write them down.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::indexing_slicing, clippy::panic, reason = "tests")]
#![allow(clippy::cast_precision_loss, reason = "counts of a test")]

mod registers;
mod written;

use std::sync::OnceLock;

use cerealis_core::Tables;

fn tables() -> &'static Tables {
    static TABLES: OnceLock<Tables> = OnceLock::new();
    TABLES.get_or_init(|| Tables::built_in().unwrap())
}
