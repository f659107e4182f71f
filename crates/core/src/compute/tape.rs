//! `tape`: what a tape says, in millimetres and to the nearest fraction.

use serde::{Deserialize, Serialize};
use serde_json::{Value, json};

use super::answer;
use crate::input::{count, from_value, tape_problem, within};
use crate::problem::Problem;
use crate::units::print::nearest_inch;
use crate::units::tape::parse;
use crate::units::{INCH, Unit};

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct In {
    entries: Vec<String>,
    #[serde(default)]
    unit: Unit,
    #[serde(default = "sixteen")]
    denominator: u32,
}

fn sixteen() -> u32 {
    16
}

#[derive(Serialize)]
struct Reading {
    mm: f64,
    #[serde(rename = "in")]
    inch: f64,
    nearest: String,
    off_mm: f64,
}

pub fn run(input: Value) -> Result<Value, Problem> {
    let input: In = from_value(input)?;
    count(input.entries.len(), "/entries", 0, 10_000)?;
    within(f64::from(input.denominator), "/denominator", 1.0, 128.0)?;
    let results = input.entries.iter().enumerate().map(|(i, entry)| {
        let mm = match parse(entry, input.unit) {
            Ok(mm) => mm,
            Err(e) => return Ok(json!({ "error": tape_problem(&e, &format!("/entries/{i}")) })),
        };
        let (nearest, value) = nearest_inch(mm, input.denominator);
        let off_mm = mm - value;
        answer(&Reading {
            mm,
            inch: mm / INCH,
            nearest,
            // Below a nanometre it is the arithmetic, not the tape.
            off_mm: if off_mm.abs() < 1e-9 { 0.0 } else { off_mm },
        })
    });
    let results: Result<Vec<_>, Problem> = results.collect();
    Ok(json!({ "results": results? }))
}
