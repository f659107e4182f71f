//! Applying an edit that comes from anywhere: what it makes is bounded before it is built.
//!
//! A few `copy` operations that nest a document into itself double it each time; so the size and depth
//! that a `copy` would make are worked out before it is done.

use jigfit_core::problem::Problem;
use json_patch::{Patch, PatchOperation};
use serde_json::Value;

/// Most operations in one edit.
pub const MAX_OPERATIONS: usize = 6000;
/// Most values (numbers, texts, lists, maps) in a document.
const MAX_VALUES: usize = 400_000;
/// Most bytes of text in a document.
const MAX_TEXT: usize = 16 << 20;
/// Deepest nesting of a document.
const MAX_DEPTH: usize = 24;
/// Most that all operations of one edit may carry about, as values and bytes of text together: list
/// elements move up at every insertion.
const MAX_WORK: usize = 64 << 20;

/// How large a value is.
#[derive(Debug, Clone, Copy, Default)]
struct Size {
    values: usize,
    text: usize,
    depth: usize,
}

/// Without recursion: what comes from a request may be as deep as it likes.
fn size(value: &Value) -> Size {
    let mut out = Size::default();
    let mut open = vec![(value, 1)];
    while let Some((v, depth)) = open.pop() {
        out.values += 1;
        out.depth = out.depth.max(depth);
        match v {
            Value::String(s) => out.text += s.len(),
            Value::Array(list) => open.extend(list.iter().map(|v| (v, depth + 1))),
            Value::Object(map) => {
                out.text += map.keys().map(String::len).sum::<usize>();
                open.extend(map.values().map(|v| (v, depth + 1)));
            }
            _ => {}
        }
    }
    out
}

fn depth_of(pointer: &str) -> usize {
    pointer.matches('/').count()
}

/// Applies `patch` to `document`.
///
/// # Errors
/// Too many operations; a result too large or too deep; an operation that does not apply, with its
/// pointer. The document is then of no use any more.
pub fn apply(document: &mut Value, patch: &Patch) -> Result<(), Problem> {
    if patch.len() > MAX_OPERATIONS {
        return Err(Problem::out_of_range(
            "",
            format!("{} operations in one edit.", patch.len()),
            format!("at most {MAX_OPERATIONS}"),
        ));
    }
    let mut all = size(document);
    let mut work = 0;
    for op in patch.iter() {
        let (at, brings) = match op {
            PatchOperation::Add(o) => (o.path.as_str(), size(&o.value)),
            PatchOperation::Replace(o) => (o.path.as_str(), size(&o.value)),
            PatchOperation::Test(o) => (o.path.as_str(), Size::default()),
            PatchOperation::Remove(o) => (o.path.as_str(), Size::default()),
            PatchOperation::Copy(o) => {
                let what = document.pointer(o.from.as_str());
                (o.path.as_str(), what.map(size).unwrap_or_default())
            }
            PatchOperation::Move(o) => {
                let what = document.pointer(o.from.as_str());
                let s = what.map(size).unwrap_or_default();
                // Nothing is added, but it may go deeper.
                work += s.values;
                (
                    o.path.as_str(),
                    Size {
                        depth: s.depth,
                        ..Size::default()
                    },
                )
            }
        };
        all.values += brings.values;
        all.text += brings.text;
        work += brings.values + brings.text + 1;
        let depth = depth_of(at) + brings.depth;
        if all.values > MAX_VALUES || all.text > MAX_TEXT || depth > MAX_DEPTH || work > MAX_WORK {
            return Err(Problem::out_of_range(
                at,
                "This edit would make the document too large or too deep.",
                format!("at most {MAX_VALUES} values, {MAX_DEPTH} deep"),
            ));
        }
        json_patch::patch_unsafe(document, std::slice::from_ref(op)).map_err(|e| {
            Problem::shape(
                e.path.to_string(),
                format!("The edit does not apply: {}.", e.kind),
            )
        })?;
    }
    Ok(())
}

#[cfg(test)]
mod tests {
    use super::*;
    use serde_json::json;

    /// 2^n copies of the gear into itself, by n operations.
    #[test]
    fn copies_that_double_are_refused_before_they_are_built() {
        let ops: Vec<Value> = (0..60)
            .map(|i| json!({"op": "copy", "from": "/gear", "path": format!("/gear/n{i}")}))
            .collect();
        let patch: Patch = serde_json::from_value(json!(ops)).unwrap();
        let mut document = json!({"gear": {"a": 1}});
        let p = apply(&mut document, &patch).unwrap_err();
        assert!(p.detail.contains("too large or too deep"));
        assert!(size(&document).values < MAX_VALUES);
    }

    #[test]
    fn nesting_is_bounded() {
        let ops: Vec<Value> = (0..2000)
            .map(|i| json!({"op": "copy", "from": "/a", "path": format!("/a{}", "/b".repeat(i + 1))}))
            .collect();
        let patch: Patch = serde_json::from_value(json!(ops)).unwrap();
        assert!(apply(&mut json!({"a": {}}), &patch).is_err());
    }

    #[test]
    fn what_does_not_apply_is_named() {
        let patch: Patch =
            serde_json::from_value(json!([{"op": "remove", "path": "/ghost"}])).unwrap();
        assert_eq!(apply(&mut json!({}), &patch).unwrap_err().pointer, "/ghost");
    }
}
