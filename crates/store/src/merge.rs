//! Which places an edit touches, and whether two edits touch the same one.

use json_patch::{Patch, PatchOperation};
use serde_json::Value;

use crate::error::Conflict;

/// Pointers written by a patch, with the value wanted there.
pub fn touched(patch: &Patch) -> Vec<(String, Value)> {
    patch
        .iter()
        .flat_map(|op| match op {
            PatchOperation::Add(o) => vec![(o.path.to_string(), o.value.clone())],
            PatchOperation::Replace(o) => vec![(o.path.to_string(), o.value.clone())],
            PatchOperation::Remove(o) => vec![(o.path.to_string(), Value::Null)],
            PatchOperation::Move(o) => vec![
                (o.from.to_string(), Value::Null),
                (o.path.to_string(), Value::Null),
            ],
            PatchOperation::Copy(o) => vec![(o.path.to_string(), Value::Null)],
            PatchOperation::Test(_) => vec![],
        })
        .collect()
}

/// One pointer is the other or lies above it.
fn overlaps(a: &str, b: &str) -> bool {
    let above = |a: &str, b: &str| b.starts_with(a) && b.as_bytes().get(a.len()) == Some(&b'/');
    a == b || a.is_empty() || b.is_empty() || above(a, b) || above(b, a)
}

/// The pointer, cut off at the first list it leads through: an element's number means another element
/// once something was put in or taken out before it.
fn above_lists(pointer: &str, documents: [&Value; 2]) -> String {
    let ends = pointer.match_indices('/').map(|(i, _)| i).skip(1);
    for end in ends {
        let head = &pointer[..end];
        if documents
            .iter()
            .any(|d| d.pointer(head).is_some_and(Value::is_array))
        {
            return head.to_string();
        }
    }
    pointer.to_string()
}

/// Places of `mine` that `theirs` touched too since `base`, unless both leave the same value there.
/// Inside a list every place is the list.
pub fn conflicts(mine: &Patch, theirs: &[Patch], base: &Value, now: &Value) -> Vec<Conflict> {
    let whole = |pointer: &str| above_lists(pointer, [base, now]);
    let others: Vec<String> = theirs
        .iter()
        .flat_map(touched)
        .map(|(pointer, _)| whole(&pointer))
        .collect();
    touched(mine)
        .into_iter()
        .filter(|(pointer, _)| {
            let mine = whole(pointer);
            others.iter().any(|o| overlaps(&mine, o))
        })
        .map(|(pointer, yours)| Conflict {
            theirs: now.pointer(&pointer).cloned().unwrap_or(Value::Null),
            pointer,
            yours,
        })
        .filter(|c| c.theirs != c.yours)
        .collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use rstest::rstest;
    use serde_json::json;

    fn patch(v: Value) -> Patch {
        serde_json::from_value(v).unwrap()
    }

    #[rstest]
    #[case("/gear/a/h", "/gear/a/h", 1)]
    #[case("/gear/a/h", "/gear/a/w", 0)]
    #[case("/gear/a", "/gear/a/w", 1)]
    #[case("/gear/a/w", "/gear/a", 1)]
    #[case("/gear/a", "/gear/ab", 0)]
    #[case("", "/gear/ab", 1)]
    fn places(#[case] mine: &str, #[case] theirs: &str, #[case] n: usize) {
        let mine = patch(json!([{"op": "add", "path": mine, "value": 1}]));
        let theirs = patch(json!([{"op": "add", "path": theirs, "value": 2}]));
        let now = json!({"gear": {"a": {"h": 2, "w": 2}}});
        let found = conflicts(&mine, &[theirs], &now, &now);
        assert_eq!(found.len(), n);
    }

    #[test]
    fn the_same_value_is_no_conflict() {
        let p = patch(json!([{"op": "add", "path": "/a", "value": 2}]));
        let now = json!({"a": 2});
        assert!(conflicts(&p, std::slice::from_ref(&p), &now, &now).is_empty());
    }

    /// [100, 200, 300]: one takes the first out, the other changes the second. By number the third
    /// would be lost.
    #[test]
    fn elements_of_a_list_are_one_place() {
        let base = json!({"t": {"heights": [100, 200, 300]}});
        let now = json!({"t": {"heights": [200, 300]}});
        let theirs = patch(json!([{"op": "remove", "path": "/t/heights/0"}]));
        let mine = patch(json!([{"op": "replace", "path": "/t/heights/1", "value": 210}]));
        let found = conflicts(&mine, &[theirs], &base, &now);
        assert_eq!(found[0].pointer, "/t/heights/1");
    }
}
