//! A model's file of constants, each of which has its unit, range, mark and source beside it there.

use serde::de::DeserializeOwned;
use serde_json::Value;

use crate::pantry::TableError;

/// Such a file, read.
pub(crate) struct DataFile {
    name: &'static str,
    json: Value,
}

impl DataFile {
    /// Reads it.
    pub fn read(name: &'static str, text: &str) -> Result<Self, TableError> {
        let json = serde_json::from_str(text).map_err(|e| TableError { file: name, row: "?".to_owned(), what: e.to_string() })?;
        Ok(Self { name, json })
    }

    /// What is wrong with a row.
    pub fn wrong(&self, row: &str, what: impl ToString) -> TableError {
        TableError { file: self.name, row: row.to_owned(), what: what.to_string() }
    }

    /// A part of it, by its JSON pointer.
    pub fn part<T: DeserializeOwned>(&self, pointer: &str) -> Result<T, TableError> {
        let part = self.json.pointer(pointer).cloned().unwrap_or(Value::Null);
        serde_json::from_value(part).map_err(|e| self.wrong(pointer, e))
    }

    /// A single number of its constants.
    pub fn number(&self, name: &str) -> Result<f64, TableError> {
        let value = self.json.get("constants").and_then(|c| c.get(name)).and_then(|c| c.get("value")).and_then(Value::as_f64);
        value.ok_or_else(|| self.wrong(name, "no value"))
    }
}

/// The single numbers of a model, by their names in its file; where a name is no word of ours it is told.
macro_rules! numbers {
    ($($field:ident $(= $key:literal)?),* $(,)?) => {
        /// Single numbers of the model.
        #[derive(Debug, Clone, Copy)]
        #[allow(missing_docs, reason = "named and documented in the model's file of data")]
        pub struct Numbers { $(pub $field: f64),* }
        impl Numbers {
            fn read(file: &$crate::data::DataFile) -> Result<Self, $crate::pantry::TableError> {
                Ok(Self { $($field: file.number(numbers!(@key $field $($key)?))?),* })
            }
        }
    };
    (@key $field:ident $key:literal) => { $key };
    (@key $field:ident) => { stringify!($field) };
}
