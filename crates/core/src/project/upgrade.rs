//! Documents grow: a file or revision of an older form is brought to today's, step by step, when it
//! is read. What was stored is never rewritten.

use serde_json::{Map, Value, json};

use super::VERSION;
use crate::problem::Problem;
use crate::project::stock::board_name;

/// One step for each version that there was: the first takes version 1 to version 2. A step is total:
/// what it does not understand it leaves alone, and reading the result refuses it with its pointer.
pub const UPGRADES: [fn(Value) -> Value; 2] = [to_2, to_3];

/// A key that says that a document is one of the demo's, set by the store while it upgrades and never
/// kept: readings of the simulated meter are right there.
pub const IN_DEMO: &str = "in_demo";

/// Note on a laser reading that may have come from the program's own prediction.
pub const UNSURE_LASER: &str =
    "set aside: an earlier version of the program may have made this number up; measure it again";

/// The version a document says it has.
///
/// # Errors
/// None, or one that is newer than this program.
pub fn version(value: &Value) -> Result<u32, Problem> {
    match value.get("version").and_then(Value::as_u64) {
        Some(v) if (1..=u64::from(VERSION)).contains(&v) => Ok(v as u32),
        Some(v) => Err(Problem::new(
            "version",
            "Another version",
            "/version",
            format!("This file has version {v}; this program reads versions 1 to {VERSION}."),
        )
        .allowing(format!("1 to {VERSION}"))),
        None => Err(Problem::missing("/version", "The version is needed.")),
    }
}

/// The document in today's form.
///
/// # Errors
/// No version, or one that is newer than this program.
pub fn upgrade(mut value: Value) -> Result<Value, Problem> {
    let from = version(&value)?;
    for (step, to) in UPGRADES.iter().zip(2..).skip(from as usize - 1) {
        value = step(value);
        if let Some(document) = value.as_object_mut() {
            document.insert("version".into(), json!(to));
        }
    }
    if let Some(document) = value.as_object_mut() {
        document.shift_remove(IN_DEMO);
    }
    Ok(value)
}

fn map<'a>(value: &'a mut Value, pointer: &str) -> Option<&'a mut Map<String, Value>> {
    value.pointer_mut(pointer)?.as_object_mut()
}

/// Boards get a name besides their thickness; laser readings outside the demo are set aside.
fn to_2(mut value: Value) -> Value {
    let demo = value.get(IN_DEMO).is_some();
    if let Some(stock) = map(&mut value, "/stock") {
        for sheet in stock.values_mut().filter_map(Value::as_object_mut) {
            if let Some(t) = sheet.get("thickness").and_then(Value::as_f64)
                && !sheet.contains_key("name")
            {
                sheet.insert("name".into(), json!(board_name(t)));
            }
        }
    }
    if let Some(readings) = map(&mut value, "/survey/readings").filter(|_| !demo) {
        for reading in readings.values_mut().filter_map(Value::as_object_mut) {
            if reading.get("instrument") != Some(&json!("laser")) {
                continue;
            }
            let old = reading.get("note").and_then(Value::as_str).unwrap_or("");
            let note = if old.is_empty() {
                UNSURE_LASER.to_string()
            } else {
                format!(
                    "{} ({UNSURE_LASER})",
                    old.chars().take(1500).collect::<String>()
                )
            };
            reading.insert("note".into(), json!(note));
            reading.insert("aside".into(), json!(true));
        }
    }
    value
}

/// What belongs to every kind of furniture stays with the module; the rest are the choices of its kind.
fn to_3(mut value: Value) -> Value {
    const OWN: [&str; 5] = ["kind", "name", "place", "finish", "notes"];
    if let Some(modules) = map(&mut value, "/modules") {
        for module in modules.values_mut().filter_map(Value::as_object_mut) {
            let (own, choices): (Map<String, Value>, Map<String, Value>) = std::mem::take(module)
                .into_iter()
                .partition(|(key, _)| OWN.contains(&key.as_str()));
            *module = own;
            module.insert("choices".into(), Value::Object(choices));
        }
    }
    value
}
