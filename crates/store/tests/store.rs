//! Nothing acknowledged is lost, nothing half-written stays, and what is in the way is said.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)]

use std::path::Path;

use jigfit_core::project::{Project, Units, VehicleKind};
use jigfit_store::{Store, StoreError};
use json_patch::Patch;
use rstest::{fixture, rstest};
use serde_json::{Value, json};

const AT: &str = "2026-11-14T10:00:00Z";

#[fixture]
fn store() -> Store {
    let mut s = Store::in_memory().unwrap();
    s.create("moth", &start(), AT).unwrap();
    s
}

fn start() -> Project {
    Project::start("Moth", VehicleKind::Van, Units::default())
}

fn patch(v: Value) -> Patch {
    serde_json::from_value(v).unwrap()
}

fn gear(id: &str, h: u32) -> Patch {
    patch(json!([{"op": "add", "path": format!("/gear/{id}"), "value": {"name": id, "h": h}}]))
}

fn set(path: &str, v: Value) -> Patch {
    patch(json!([{"op": "add", "path": path, "value": v}]))
}

#[rstest]
fn edits_undo_and_redo(mut store: Store) {
    store.edit("moth", 1, &gear("a", 100), AT).unwrap();
    store.edit("moth", 2, &gear("b", 200), AT).unwrap();
    let head = store.undo("moth", AT).unwrap();
    assert_eq!(head.revision, 4, "an undo is a revision of its own");
    assert_eq!(head.project.gear.len(), 1);
    assert!(head.can_undo && head.can_redo);
    store.undo("moth", AT).unwrap();
    assert!(matches!(
        store.undo("moth", AT),
        Err(StoreError::Nothing("undo"))
    ));
    assert!(store.head("moth").unwrap().project.gear.is_empty());
    store.redo("moth", AT).unwrap();
    let head = store.redo("moth", AT).unwrap();
    assert_eq!(head.project.gear.len(), 2);
    assert!(!head.can_redo);
    // A new edit ends the way back forward.
    store.undo("moth", AT).unwrap();
    let now = store.head("moth").unwrap().revision;
    let head = store.edit("moth", now, &gear("c", 1), AT).unwrap().head;
    assert!(!head.can_redo);
    assert!(matches!(
        store.redo("moth", AT),
        Err(StoreError::Nothing("redo"))
    ));
    // What was, is still there.
    assert_eq!(store.at("moth", 3).unwrap()["gear"]["b"]["h"], 200);
}

#[rstest]
fn edits_of_different_places_merge(mut store: Store) {
    store.edit("moth", 1, &gear("a", 100), AT).unwrap();
    let edit = store.edit("moth", 1, &gear("b", 200), AT).unwrap();
    assert!(edit.merged);
    assert_eq!(edit.head.project.gear.len(), 2);
}

#[rstest]
fn edits_of_one_place_give_both_values(mut store: Store) {
    store
        .edit("moth", 1, &set("/name", json!("Theirs")), AT)
        .unwrap();
    let refused = store.edit("moth", 1, &set("/name", json!("Mine")), AT);
    let Err(StoreError::Conflict {
        revision,
        conflicts,
    }) = refused
    else {
        panic!("{refused:?}")
    };
    assert_eq!(revision, 2);
    assert_eq!(conflicts[0].pointer, "/name");
    assert_eq!(conflicts[0].theirs, json!("Theirs"));
    assert_eq!(conflicts[0].yours, json!("Mine"));
    assert_eq!(
        store.head("moth").unwrap().revision,
        2,
        "nothing was stored"
    );
}

#[rstest]
#[case(json!([{"op": "add", "path": "/gear/a", "value": {"name": "a", "h": -5}}]), "/gear/a/h")]
#[case(json!([{"op": "add", "path": "/nonsense", "value": 1}]), "/nonsense")]
#[case(json!([{"op": "remove", "path": "/gear/ghost"}]), "/gear/ghost")]
#[case(json!([{"op": "remove", "path": "/name"}]), "/name")]
#[case(json!([{"op": "replace", "path": "", "value": 5}]), "/format")]
fn what_would_not_be_a_project_is_refused(
    mut store: Store,
    #[case] p: Value,
    #[case] pointer: &str,
) {
    let refused = store.edit("moth", 1, &patch(p), AT);
    let Err(StoreError::Refused(problem)) = refused else {
        panic!("{refused:?}")
    };
    assert_eq!(problem.pointer, pointer);
    assert_eq!(store.head("moth").unwrap().revision, 1);
}

#[rstest]
fn revisions_and_projects_that_are_not_there(mut store: Store) {
    assert!(matches!(store.head("ghost"), Err(StoreError::NotFound(_))));
    assert!(matches!(
        store.edit("moth", 9, &gear("a", 1), AT),
        Err(StoreError::NotFound(_))
    ));
    assert!(matches!(
        store.edit("moth", 0, &gear("a", 1), AT),
        Err(StoreError::NotFound(_))
    ));
    assert!(matches!(
        store.restore("moth", "never", AT),
        Err(StoreError::NotFound(_))
    ));
    assert!(store.create("moth", &start(), AT).is_err());
}

#[rstest]
fn a_named_version_comes_back_and_that_can_be_undone(mut store: Store) {
    store.edit("moth", 1, &gear("a", 100), AT).unwrap();
    store.name("moth", "before I cut the deck", AT).unwrap();
    assert!(store.name("moth", "before I cut the deck", AT).is_err());
    assert!(store.name("moth", "   ", AT).is_err());
    store.edit("moth", 2, &gear("b", 200), AT).unwrap();
    let head = store.restore("moth", "before I cut the deck", AT).unwrap();
    assert_eq!(head.project.gear.len(), 1);
    assert_eq!(store.undo("moth", AT).unwrap().project.gear.len(), 2);
    assert_eq!(store.versions("moth").unwrap()[0].revision, 2);
}

/// Past several snapshots the document is what a plain replay of all edits gives.
#[test]
fn many_edits_and_a_reopened_file() {
    let dir = tempfile::tempdir().unwrap();
    let file = dir.path().join("jigfit.sqlite");
    let mut store = Store::open(&file).unwrap();
    store.create("moth", &start(), AT).unwrap();
    for i in 0..130_u32 {
        store
            .edit("moth", i + 1, &gear(&format!("g{}", i % 7), i + 1), AT)
            .unwrap();
    }
    drop(store);
    let store = Store::open(&file).unwrap();
    let head = store.head("moth").unwrap();
    assert_eq!(head.revision, 131);
    for i in 123..130_u32 {
        assert_eq!(head.document["gear"][format!("g{}", i % 7)]["h"], i + 1);
    }
    assert_eq!(store.at("moth", 52).unwrap()["gear"]["g1"]["h"], 51);
}

#[test]
fn a_backup_is_a_whole_store() {
    let dir = tempfile::tempdir().unwrap();
    let mut store = Store::open(&dir.path().join("a.sqlite")).unwrap();
    store.create("moth", &start(), AT).unwrap();
    store.edit("moth", 1, &gear("a", 100), AT).unwrap();
    let copy = dir.path().join("copy.sqlite");
    store.backup(&copy).unwrap();
    let other = Store::open(&copy).unwrap();
    assert_eq!(
        other.head("moth").unwrap().document,
        store.head("moth").unwrap().document
    );
    assert!(
        store
            .backup(Path::new("/no/such/folder/copy.sqlite"))
            .is_err()
    );
}

#[test]
fn a_damaged_file_is_told_and_left_alone() {
    let dir = tempfile::tempdir().unwrap();
    let file = dir.path().join("jigfit.sqlite");
    std::fs::write(
        &file,
        b"this was never a database, but it is long enough to look at".repeat(40),
    )
    .unwrap();
    let before = std::fs::read(&file).unwrap();
    let refused = Store::open(&file);
    assert!(
        matches!(refused, Err(StoreError::Corrupt(_))),
        "{:?}",
        refused.err()
    );
    assert_eq!(std::fs::read(&file).unwrap(), before);
}

#[test]
fn a_locked_file_is_told() {
    let dir = tempfile::tempdir().unwrap();
    let file = dir.path().join("jigfit.sqlite");
    let mut store = Store::open(&file).unwrap();
    store.create("moth", &start(), AT).unwrap();
    let other = rusqlite::Connection::open(&file).unwrap();
    other.execute_batch("BEGIN IMMEDIATE").unwrap();
    let refused = store.edit("moth", 1, &gear("a", 100), AT);
    assert!(matches!(refused, Err(StoreError::Locked)), "{refused:?}");
    other.execute_batch("ROLLBACK").unwrap();
    store.edit("moth", 1, &gear("a", 100), AT).unwrap();
}

#[test]
fn a_folder_that_is_none_is_told() {
    let refused = Store::open(Path::new("/no/such/folder/jigfit.sqlite"));
    assert!(
        matches!(refused, Err(StoreError::ReadOnly)),
        "{:?}",
        refused.err()
    );
}

#[test]
fn a_newer_file_is_told() {
    let dir = tempfile::tempdir().unwrap();
    let file = dir.path().join("jigfit.sqlite");
    drop(Store::open(&file).unwrap());
    let db = rusqlite::Connection::open(&file).unwrap();
    db.pragma_update(None, "user_version", 99).unwrap();
    drop(db);
    assert!(matches!(Store::open(&file), Err(StoreError::Newer)));
}
