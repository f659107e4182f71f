//! An edit may point to whatever a project has, also to what its stored document leaves out because it is as usual: a choice
//! that a later program knows, the list of what was never added.

use json_patch::jsonptr::PointerBuf;
use json_patch::{AddOperation, Patch, PatchOperation};
use serde_json::Value;

/// The patch with what `document` leaves out on its way put before it, as the project that it is has it. The same patch where
/// nothing is missing, or where the document cannot be read.
pub fn reaching(patch: &Patch, document: &Value) -> Patch {
    let missing: Vec<&str> = patch.iter().filter_map(|op| lacks(op, document)).collect();
    if missing.is_empty() {
        return patch.clone();
    }
    let project = jigfit_core::furniture::read(document.clone()).ok();
    let Some(full) = project.and_then(|p| p.to_json().ok()) else {
        return patch.clone();
    };
    let mut out: Vec<PatchOperation> = Vec::new();
    let mut added: Vec<&str> = Vec::new();
    for place in missing {
        let (Some(value), false) = (full.pointer(place), added.contains(&place)) else {
            continue;
        };
        let Ok(path) = PointerBuf::parse(place) else {
            continue;
        };
        added.push(place);
        out.push(PatchOperation::Add(AddOperation {
            path,
            value: value.clone(),
        }));
    }
    out.extend(patch.iter().cloned());
    Patch(out)
}

/// The first place on the way of an operation that the document does not have: of what it adds the parents, of what it changes
/// that itself too.
fn lacks<'a>(op: &'a PatchOperation, document: &Value) -> Option<&'a str> {
    let (at, itself) = match op {
        PatchOperation::Add(o) => (o.path.as_str(), false),
        PatchOperation::Replace(o) => (o.path.as_str(), true),
        PatchOperation::Remove(o) => (o.path.as_str(), true),
        PatchOperation::Test(o) => (o.path.as_str(), true),
        PatchOperation::Copy(_) | PatchOperation::Move(_) => return None,
    };
    let ends = at.match_indices('/').skip(1).map(|(i, _)| i);
    let ends = ends.chain(itself.then_some(at.len()));
    ends.map(|end| &at[..end])
        .find(|place| document.pointer(place).is_none())
}
