//! Lists in which one row that cannot be read takes no other with it.

use std::ops::Deref;

use crate::StoreError;

/// A row that cannot be read.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Unreadable {
    /// Its name, as far as it is known, else its id.
    pub name: String,
    /// What is wrong with it.
    pub why: String,
}

/// What stands in a log where an entry cannot be read.
pub(crate) const UNREADABLE_ENTRY: &str = "An entry stood here that cannot be read. It is left as it is.";

/// The rows of a list, and those that cannot be read.
#[derive(Debug, Clone, PartialEq)]
pub struct Listed<T> {
    /// Those that can.
    pub rows: Vec<T>,
    /// Those that cannot.
    pub unreadable: Vec<Unreadable>,
}

impl<T> Listed<T> {
    /// Reads each row of its own; a row is told by its name.
    pub(crate) fn of<R>(rows: Vec<R>, name: impl Fn(&R) -> String, read: impl Fn(R) -> Result<T, StoreError>) -> Self {
        let mut listed = Self { rows: Vec::with_capacity(rows.len()), unreadable: Vec::new() };
        for row in rows {
            let name = name(&row);
            match read(row) {
                Ok(row) => listed.rows.push(row),
                Err(e) => listed.unreadable.push(Unreadable { name, why: e.to_string() }),
            }
        }
        listed
    }
}

impl<T> Deref for Listed<T> {
    type Target = Vec<T>;
    fn deref(&self) -> &Vec<T> {
        &self.rows
    }
}

impl<T> IntoIterator for Listed<T> {
    type Item = T;
    type IntoIter = std::vec::IntoIter<T>;
    fn into_iter(self) -> Self::IntoIter {
        self.rows.into_iter()
    }
}
