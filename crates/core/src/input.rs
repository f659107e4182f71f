//! Reading JSON strictly: a wrong field is named by its JSON Pointer, a number is finite and in range.

use serde::de::DeserializeOwned;
use serde_json::Value;
use serde_path_to_error::Segment;

use crate::problem::{Problem, Range};
use crate::units::tape::TapeError;

/// The longest length accepted anywhere, mm. Nobody fits out a vehicle of 30 m.
pub const MAX_LENGTH: f64 = 30_000.0;

/// Deserialises `value`, turning serde's path into a JSON Pointer.
pub fn from_value<T: DeserializeOwned>(value: Value) -> Result<T, Problem> {
    serde_path_to_error::deserialize(value).map_err(told)
}

/// What is wrong, and where. Apart from the reading, which is made anew for every type.
fn told(err: serde_path_to_error::Error<serde_json::Error>) -> Problem {
    let mut pointer = String::new();
    for segment in err.path().iter() {
        match segment {
            Segment::Seq { index } => pointer.push_str(&format!("/{index}")),
            Segment::Map { key } => pointer.push_str(&format!("/{}", escape(key))),
            Segment::Enum { .. } | Segment::Unknown => {}
        }
    }
    let detail = err.inner().to_string();
    // serde reports an unknown field at its parent or at itself, depending on the container.
    if let Some(field) = unknown_field(&detail)
        && !pointer.ends_with(&format!("/{}", escape(field)))
    {
        pointer.push_str(&format!("/{}", escape(field)));
    }
    if let Some(field) = detail
        .strip_prefix("missing field `")
        .and_then(|rest| rest.split('`').next())
    {
        pointer.push_str(&format!("/{}", escape(field)));
        return Problem::missing(pointer, format!("The field `{field}` is needed."));
    }
    Problem::shape(pointer, plain(&detail))
}

/// What the reader of JSON says, in words that are no machine's.
fn plain(detail: &str) -> String {
    let Some((what, expected)) = detail
        .strip_prefix("invalid type: ")
        .or_else(|| detail.strip_prefix("invalid value: "))
        .and_then(|rest| rest.rsplit_once(", expected "))
    else {
        return detail.to_string();
    };
    let wanted = match expected {
        "u8" | "u16" | "u32" | "u64" | "usize" => "a whole number from 0 on",
        "i8" | "i16" | "i32" | "i64" | "isize" => "a whole number",
        "f32" | "f64" => "a number",
        "a string" | "str" => "a text",
        "a boolean" => "true or false",
        "a map" => "an object with fields",
        "a sequence" => "a list",
        e if e.starts_with("struct ") => "an object with fields",
        e => e,
    };
    // What was typed stands in quotation marks behind the sort of value: it is said as it was typed.
    let (sort, typed) = match what.find(['"', '`']) {
        Some(at) => what.split_at(at),
        None => (what, ""),
    };
    let sort = sort
        .replace("integer", "the number")
        .replace("floating point", "the number")
        .replace("string", "the text")
        .replace("boolean", "the answer")
        .replace("null", "nothing")
        .replace("sequence", "a list")
        .replace("map", "an object");
    let found = format!("{sort}{typed}");
    format!("Here is {found}; {wanted} belongs here.")
}

fn unknown_field(detail: &str) -> Option<&str> {
    detail.strip_prefix("unknown field `")?.split('`').next()
}

/// Escapes a key for use in a JSON Pointer.
pub fn escape(key: &str) -> String {
    key.replace('~', "~0").replace('/', "~1")
}

/// A finite number within `lo..=hi`, or the problem that says so.
pub fn within(v: f64, pointer: &str, lo: f64, hi: f64) -> Result<f64, Problem> {
    if v.is_finite() && v >= lo && v <= hi {
        return Ok(v);
    }
    let detail = if v.is_finite() {
        format!("{v} is not possible here.")
    } else {
        "This is not a finite number.".into()
    };
    let range = Range {
        value: v,
        least: lo,
        most: hi,
    };
    Err(Problem {
        range: Some(range),
        ..Problem::out_of_range(pointer, detail, format!("{lo} to {hi}"))
    })
}

/// A finite number above zero and at most `hi`.
pub fn positive(v: f64, pointer: &str, hi: f64) -> Result<f64, Problem> {
    if v.is_finite() && v > 0.0 && v <= hi {
        return Ok(v);
    }
    let detail = if v.is_finite() {
        format!("{v} is not possible here.")
    } else {
        "This is not a finite number.".into()
    };
    Err(Problem::out_of_range(
        pointer,
        detail,
        format!("more than 0, at most {hi}"),
    ))
}

/// At most `most` items.
pub fn count(n: usize, pointer: &str, least: usize, most: usize) -> Result<(), Problem> {
    if n < least || n > most {
        return Err(Problem::out_of_range(
            pointer,
            format!("{n} items are not possible here."),
            format!("{least} to {most} items"),
        ));
    }
    Ok(())
}

/// The problem that an unreadable entry is.
pub fn tape_problem(error: &TapeError, pointer: &str) -> Problem {
    Problem::new("tape", "Cannot be read", pointer, error.to_string()).at(error.at)
}
