//! The program's own JSON: the formula whole and exact, named and numbered so that a later program can read it.

use cerealis_core::formula::{Formula, FormulaBody, FormulaDraft};
use serde::{Deserialize, Serialize};
use serde_json::{Value, json};

const FORMAT: &str = "cerealis-formula";
const VERSION: u32 = 1;

#[derive(Serialize, Deserialize)]
struct File {
    format: String,
    version: u32,
    formula: FormulaBody,
}

pub fn write(formula: &Formula) -> Value {
    json!({ "format": FORMAT, "version": VERSION, "formula": formula.body() })
}

/// The formula of a file of this format; nothing if it is another format.
pub fn read(value: &Value) -> Option<Result<FormulaDraft, String>> {
    if value.get("format")? != FORMAT {
        return None;
    }
    if value.get("version").and_then(Value::as_u64).is_none_or(|v| v > u64::from(VERSION)) {
        return Some(Err("This file was made by a newer version of this program. Nothing was read.".into()));
    }
    let file = File::deserialize(value).map_err(|e| format!("This file names itself a formula of this program, but {e}."));
    Some(file.map(|f| FormulaDraft::from(f.formula)))
}
