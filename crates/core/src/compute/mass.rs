//! `mass`: what a scale says, in kilograms and in words.

use serde::{Deserialize, Serialize};
use serde_json::Value;

use super::answer;
use crate::input::from_value;
use crate::problem::Problem;
use crate::units::figure::{System, Writer};
use crate::units::mass::parse;

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct In {
    entry: String,
    #[serde(default)]
    system: System,
}

#[derive(Serialize)]
struct Out {
    kg: f64,
    says: String,
}

pub fn run(input: Value) -> Result<Value, Problem> {
    let input: In = from_value(input)?;
    let kg = parse(&input.entry, input.system)
        .map_err(|e| Problem::new("mass", "Cannot be read", "/entry", e))?;
    let writer = Writer {
        system: input.system,
        ..Writer::default()
    };
    answer(&Out {
        kg,
        says: writer.mass(kg),
    })
}
