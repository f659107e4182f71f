//! The demo projects.

use jigfit_core::problem::Problem;
use jigfit_store::{Store, StoreError};

use crate::app::now;

/// Identifier, the vehicle that its simulated meter stands in, the document.
const DEMOS: [(&str, &str, &str); 4] = [
    (
        "kingfisher",
        "kingfisher",
        include_str!("../demo/kingfisher.json"),
    ),
    ("wren", "wren", include_str!("../demo/wren.json")),
    (
        "moth-whole",
        "moth",
        include_str!("../demo/moth-whole.json"),
    ),
    ("moth", "moth", include_str!("../demo/moth.json")),
];

/// Stores the demo projects that are not there yet, and brings deleted ones back: the person asks for all of them. The van
/// comes last so that it heads the list. Returns their identifiers.
///
/// # Errors
/// Database trouble.
pub fn open(store: &mut Store) -> Result<Vec<String>, StoreError> {
    for gone in store.deleted()? {
        if DEMOS.iter().any(|d| d.0 == gone.id) && store.demo(&gone.id)?.is_some() {
            store.undelete(&gone.id)?;
        }
    }
    load(store)
}

/// Stores the demo projects that were never there, the van last so that it heads the list, and returns the identifiers of
/// those that are. What was deleted stays deleted.
///
/// # Errors
/// Database trouble.
pub fn load(store: &mut Store) -> Result<Vec<String>, StoreError> {
    let mut ids = Vec::new();
    for (id, vehicle, text) in DEMOS {
        let value = serde_json::from_str(text)
            .map_err(|e| Problem::shape("", format!("demo {id}: {e}")))?;
        let project = jigfit_core::furniture::read(value)?;
        if !store.taken(id)? {
            store.create(id, &project, &now())?;
            store.mark_demo(id, vehicle)?;
        } else if store.exists(id)? && store.demo(id)?.is_none() && began_as(store, id) {
            store.mark_demo(id, vehicle)?;
        }
        if store.exists(id)? {
            ids.push(id.to_string());
        }
    }
    Ok(ids)
}

/// Whether a project without a mark began as the demo of its name: loaded before there were marks.
fn began_as(store: &Store, id: &str) -> bool {
    OLD_DEMOS.iter().any(|(of, text)| {
        let old: Option<serde_json::Value> = serde_json::from_str(text).ok();
        *of == id
            && old.is_some_and(|old| store.stored(id, 1).is_ok_and(|first| same(&first, &old)))
    })
}

/// The same project, however its JSON is written.
fn same(a: &serde_json::Value, b: &serde_json::Value) -> bool {
    let read = |v: &serde_json::Value| jigfit_core::furniture::read(v.clone()).ok();
    read(a).is_some() && read(a) == read(b)
}

/// The demos as they were before projects of the demo were marked.
const OLD_DEMOS: [(&str, &str); 2] = [
    (
        "kingfisher",
        include_str!("../../core/tests/fixtures/v1/kingfisher.json"),
    ),
    (
        "moth",
        include_str!("../../core/tests/fixtures/v1/moth.json"),
    ),
];
