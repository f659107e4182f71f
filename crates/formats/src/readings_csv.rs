//! Readings from a table (RFC 4180). The header names the columns with their units: `quantity` (the
//! key, as exported), and `typed` with `unit`, or `value_mm`, `value_cm` or `value_in`; optional are
//! `reading`, `when`, `instrument`, `soft`, `set_aside`, `sd_mm`, `note`.

use std::collections::BTreeMap;

use jigfit_core::project::survey::{Instrument, Quantity, Reading};
use jigfit_core::project::{Project, check};
use jigfit_core::units::Unit;
use serde_json::{Value, json};

use crate::FormatError;

/// The most rows read.
const MAX_ROWS: usize = 5000;

/// Readings found in a table.
#[derive(Debug, Clone, Default)]
pub struct Read {
    /// Readings that are new, by identifier.
    pub new: BTreeMap<String, Reading>,
    /// Rows that are in the project already.
    pub known: usize,
    /// Rows that could not be read: line and reason.
    pub refused: Vec<(u64, String)>,
}

impl Read {
    /// The edit that adds them.
    pub fn patch(&self) -> Vec<Value> {
        self.new
            .iter()
            .map(|(id, r)| json!({"op": "add", "path": format!("/survey/readings/{}", jigfit_core::input::escape(id)), "value": r}))
            .collect()
    }
}

/// Reads a table against a project.
///
/// # Errors
/// No table at all, or a header without the columns needed. Single bad rows are told in the answer.
pub fn read(bytes: &[u8], project: &Project) -> Result<Read, FormatError> {
    let bad = |detail: String| FormatError {
        format: "CSV",
        detail,
    };
    // A byte order mark from a spreadsheet is no part of the first name.
    let bytes = bytes.strip_prefix(b"\xef\xbb\xbf").unwrap_or(bytes);
    let mut reader = csv::ReaderBuilder::new()
        .flexible(true)
        .trim(csv::Trim::All)
        .from_reader(bytes);
    let header = reader.headers().map_err(|e| bad(e.to_string()))?.clone();
    let column = |name: &str| header.iter().position(|h| h.eq_ignore_ascii_case(name));
    let quantity =
        column("quantity").ok_or_else(|| bad("there is no column \"quantity\"".into()))?;
    let typed = column("typed");
    let values = [
        ("value_mm", Unit::Mm),
        ("value_cm", Unit::Cm),
        ("value_in", Unit::In),
    ];
    let value = values
        .iter()
        .find_map(|(name, unit)| Some((column(name)?, *unit)));
    let unit = column("unit");
    if (typed.is_none() || unit.is_none()) && value.is_none() {
        return Err(bad("there is no column \"value_mm\", \"value_cm\" or \"value_in\", and no \"typed\" with \"unit\"".into()));
    }
    let mut out = Read::default();
    let mut doubled: BTreeMap<String, usize> = BTreeMap::new();
    for (i, row) in reader.records().enumerate() {
        if i >= MAX_ROWS {
            return Err(bad(format!("more than {MAX_ROWS} rows")));
        }
        let row = row.map_err(|e| bad(e.to_string()))?;
        let line = row.position().map_or(i as u64 + 2, csv::Position::line);
        let cell = |at: Option<usize>| at.and_then(|at| row.get(at)).unwrap_or("").trim();
        let yes = |name: &str| {
            matches!(
                cell(column(name)).to_lowercase().as_str(),
                "yes" | "true" | "1"
            )
        };
        let Some(q) = Quantity::from_key(cell(Some(quantity))) else {
            out.refused
                .push((line, format!("\"{}\" is no quantity", cell(Some(quantity)))));
            continue;
        };
        let (text, own) = match (typed.filter(|_| unit.is_some()), value) {
            (Some(t), _) => match unit_of(cell(unit)) {
                Some(u) => (cell(Some(t)), u),
                None => {
                    out.refused
                        .push((line, format!("\"{}\" is no unit", cell(unit))));
                    continue;
                }
            },
            (None, Some((at, unit))) => (cell(Some(at)), unit),
            (None, None) => continue,
        };
        let reading = Reading {
            quantity: q,
            // A leading apostrophe keeps spreadsheets from calculating.
            typed: text.trim_start_matches('\'').to_string(),
            unit: own,
            when: cell(column("when")).into(),
            instrument: instrument_of(cell(column("instrument"))),
            soft: yes("soft"),
            datum: None,
            sd: cell(column("sd_mm")).parse().ok(),
            aside: yes("set_aside"),
            note: cell(column("note")).into(),
        };
        let wanted = cell(column("reading")).trim_start_matches('\'');
        let mut id = if wanted.is_empty() {
            format!("csv{line}")
        } else {
            wanted.to_string()
        };
        let same =
            |r: &Reading| r.quantity.key() == reading.quantity.key() && r.typed == reading.typed;
        if project.survey.readings.get(&id).is_some_and(same) {
            out.known += 1;
            continue;
        }
        // Of many rows with one name each gets the next number, without trying all before it.
        while project.survey.readings.contains_key(&id) || out.new.contains_key(&id) {
            let n = doubled.entry(wanted.to_string()).or_insert(1);
            *n += 1;
            id = format!("{}-{n}", if wanted.is_empty() { "csv" } else { wanted });
        }
        let at = format!("/survey/readings/{}", jigfit_core::input::escape(&id));
        match check::reading(project, &id, &reading, &at) {
            Ok(()) => {
                out.new.insert(id, reading);
            }
            Err(p) => out.refused.push((line, p.detail)),
        }
    }
    Ok(out)
}

/// What it was taken with; a table of unknown origin is neither tape nor laser.
fn instrument_of(word: &str) -> Instrument {
    let found = Instrument::ALL
        .into_iter()
        .find(|i| i.word() == word.to_lowercase());
    found.unwrap_or(Instrument::Other)
}

fn unit_of(word: &str) -> Option<Unit> {
    Some(match word.to_lowercase().as_str() {
        "mm" => Unit::Mm,
        "cm" => Unit::Cm,
        "m" => Unit::M,
        "in" | "inch" => Unit::In,
        "ft" => Unit::Ft,
        _ => return None,
    })
}
