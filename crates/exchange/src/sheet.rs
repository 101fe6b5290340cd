//! A table of the lines (RFC 4180), the unit in each heading. A cell that would begin a spreadsheet's formula is quoted.

use cerealis_core::{
    Tables,
    formula::{Formula, FormulaDraft, LineDraft, Typed},
    input::number,
};

const HEADINGS: [&str; 8] = ["ingredient", "name", "weight_g", "low_g", "high_g", "flour_pct", "stage", "as_written"];

/// Text that a spreadsheet does not take for a formula of its own.
fn cell(text: &str) -> String {
    if text.starts_with(['=', '+', '-', '@', '\t', '\r']) { format!("'{text}") } else { text.to_owned() }
}

pub fn write(formula: &Formula, tables: &Tables) -> String {
    let a = formula.analyse(&tables.pantry, &tables.styles);
    let mut rows = vec![HEADINGS.map(str::to_owned).to_vec()];
    for (l, percent) in formula.lines.iter().zip(&a.line_pct) {
        let end = |g: f64| if l.grams.is_exact() { String::new() } else { g.to_string() };
        rows.push(vec![
            l.ingredient.id.clone(),
            cell(&l.ingredient.name),
            l.grams.likely.to_string(),
            end(l.grams.low),
            end(l.grams.high),
            percent.filter(|_| a.flour_g.likely > 0.0).map(|p| format!("{p:.2}")).unwrap_or_default(),
            l.stage.word().to_owned(),
            cell(l.source.as_deref().unwrap_or_default()),
        ]);
    }
    let mut out = csv::WriterBuilder::new().terminator(csv::Terminator::CRLF).from_writer(Vec::new());
    // Writing to memory does not fail.
    let written = rows.iter().all(|row| out.write_record(row).is_ok());
    let bytes = out.into_inner().ok().filter(|_| written).unwrap_or_default();
    String::from_utf8(bytes).unwrap_or_default()
}

fn columns(line: &str) -> Vec<String> {
    line.split([',', ';', '\t']).map(|c| c.trim().trim_matches('"').to_lowercase()).collect()
}

fn is_name(column: &str) -> bool {
    matches!(column, "ingredient" | "name" | "item")
}

fn is_weight(column: &str) -> bool {
    matches!(column, "weight_g" | "grams" | "g" | "weight" | "weight (g)" | "grams_g")
}

/// Whether a text is such a table: its first line names an ingredient and a weight.
pub fn is_table(text: &str) -> bool {
    let first = columns(text.lines().next().unwrap_or_default());
    first.iter().any(|c| is_name(c)) && first.iter().any(|c| is_weight(c))
}

pub fn read(text: &str) -> Result<FormulaDraft, String> {
    let first = text.lines().next().unwrap_or_default();
    let comma = [',', ';', '\t'].into_iter().max_by_key(|c| first.matches(*c).count()).unwrap_or(',');
    let delimiter = u8::try_from(comma).unwrap_or(b',');
    let mut table = csv::ReaderBuilder::new().delimiter(delimiter).flexible(true).trim(csv::Trim::All).from_reader(text.as_bytes());
    let heads: Vec<String> = table.headers().map_err(|e| e.to_string())?.iter().map(str::to_lowercase).collect();
    let at = |is: &dyn Fn(&str) -> bool| heads.iter().position(|h| is(h));
    let (name, weight) = (at(&is_name), at(&is_weight));
    let (Some(name), Some(weight)) = (name, weight) else { return Err("This table has no columns for ingredient and weight.".into()) };
    let (low, high) = (at(&|h| h == "low_g"), at(&|h| h == "high_g"));
    let (stage, written) = (at(&|h| h == "stage"), at(&|h| h == "as_written"));
    let mut lines = Vec::new();
    for record in table.records() {
        let row = record.map_err(|e| format!("This table cannot be read: {e}."))?;
        let cell = |column: Option<usize>| {
            column.and_then(|c| row.get(c)).map(|t| t.strip_prefix('\'').unwrap_or(t)).filter(|t| !t.is_empty()).map(str::to_owned)
        };
        let Some(ingredient) = cell(Some(name)) else { continue };
        lines.push(LineDraft {
            ingredient,
            grams: Typed::Text(cell(Some(weight)).unwrap_or_default()),
            grams_low: cell(low).and_then(|t| number(&t).ok()),
            grams_high: cell(high).and_then(|t| number(&t).ok()),
            stage: cell(stage),
            source: cell(written),
            hydration_pct: None,
            used: None,
        });
    }
    if lines.is_empty() {
        return Err("This table has a heading and no lines.".into());
    }
    Ok(FormulaDraft { lines, ..FormulaDraft::default() })
}
