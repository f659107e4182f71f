//! `edge`: a captured curve -> the true edge.

use serde::Deserialize;
use serde_json::{Map, Value};

use super::answer;
use crate::curves::capture::{Capture, Corners, OffsetBlock, Ordinates, Scribe, TwoPin, capture};
use crate::input::{from_value, within};
use crate::problem::Problem;

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Common {
    #[serde(default)]
    sd: f64,
    #[serde(default)]
    corners: Corners,
}

/// Ways of capturing by name: a new one is one line here.
fn way(name: &str, own: Value) -> Result<Box<dyn Capture>, Problem> {
    Ok(match name {
        "offset_block" => Box::new(from_value::<OffsetBlock>(own)?),
        "scribe" => Box::new(from_value::<Scribe>(own)?),
        "ordinates" => Box::new(from_value::<Ordinates>(own)?),
        "two_pin" => Box::new(from_value::<TwoPin>(own)?),
        _ => {
            let words = format!("There is no way of capturing called \"{name}\".");
            return Err(Problem::shape("/method", words)
                .allowing("offset_block, scribe, ordinates, two_pin"));
        }
    })
}

pub fn run(input: Value) -> Result<Value, Problem> {
    let Value::Object(mut own) = input else {
        return Err(Problem::shape("", "An object is expected."));
    };
    let method = match own.remove("method") {
        Some(Value::String(name)) => name,
        Some(_) => return Err(Problem::shape("/method", "A name in quotes is expected.")),
        None => {
            return Err(Problem::shape(
                "/method",
                "The way of capturing is missing.",
            ));
        }
    };
    let mut common = Map::new();
    for field in ["sd", "corners"] {
        if let Some(v) = own.remove(field) {
            common.insert(field.into(), v);
        }
    }
    let common: Common = from_value(Value::Object(common))?;
    let sd = within(common.sd, "/sd", 0.0, 50.0)?;
    let way = way(&method, Value::Object(own))?;
    let mut captured = capture(way.as_ref(), sd, common.corners, &[])?;
    captured.warnings.extend(captured.doubted.take());
    answer(&captured)
}
