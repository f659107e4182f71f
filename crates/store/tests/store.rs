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

/// A file of a store as an earlier version of the program wrote it: tables of the first step, documents
/// of version 1.
fn old_file(dir: &Path, document: &Value) -> std::path::PathBuf {
    let path = dir.join("old.sqlite");
    let db = rusqlite::Connection::open(&path).unwrap();
    db.execute_batch(
        "PRAGMA user_version = 1;
         CREATE TABLE project (id TEXT PRIMARY KEY, created TEXT NOT NULL) STRICT;
         CREATE TABLE revision (project TEXT NOT NULL REFERENCES project(id), rev INTEGER NOT NULL,
            at TEXT NOT NULL, kind TEXT NOT NULL CHECK (kind IN ('start', 'edit', 'undo', 'redo')),
            patch TEXT NOT NULL, inverse TEXT NOT NULL, PRIMARY KEY (project, rev)) STRICT;
         CREATE TABLE snapshot (project TEXT NOT NULL REFERENCES project(id), rev INTEGER NOT NULL,
            document TEXT NOT NULL, PRIMARY KEY (project, rev)) STRICT;
         CREATE TABLE version (project TEXT NOT NULL REFERENCES project(id), name TEXT NOT NULL,
            rev INTEGER NOT NULL, at TEXT NOT NULL, PRIMARY KEY (project, name)) STRICT;
         INSERT INTO project VALUES ('moth', 't');
         INSERT INTO revision VALUES ('moth', 1, 't', 'start', '[]', '[]');",
    )
    .unwrap();
    db.execute(
        "INSERT INTO snapshot VALUES ('moth', 1, ?1)",
        [document.to_string()],
    )
    .unwrap();
    let patch = json!([{"op": "add", "path": "/stock/a", "value":
        {"material": "birch-ply", "thickness": 15.0, "w": 2440, "h": 1220}}]);
    let inverse = json!([{"op": "remove", "path": "/stock/a"}]);
    db.execute(
        "INSERT INTO revision VALUES ('moth', 2, 't', 'edit', ?1, ?2)",
        [patch.to_string(), inverse.to_string()],
    )
    .unwrap();
    path
}

fn version_1() -> Value {
    let path = "../core/tests/fixtures/v1/moth.json";
    let path = Path::new(env!("CARGO_MANIFEST_DIR")).join(path);
    serde_json::from_str(&std::fs::read_to_string(path).unwrap()).unwrap()
}

/// History works across an upgrade: what was edited before it is undone and redone after it, in today's
/// form, and every old state can still be read.
#[test]
fn undo_goes_across_an_upgrade() {
    let dir = tempfile::tempdir().unwrap();
    let path = old_file(dir.path(), &version_1());
    let mut store = Store::open(&path).unwrap();
    let head = store.head("moth").unwrap();
    assert_eq!(head.revision, 2, "looking changes nothing");
    assert_eq!(head.project.stock["a"].name, "15 mm");
    assert_eq!(head.project.version, jigfit_core::project::VERSION);
    let head = store.edit("moth", 2, &gear("x", 90), AT).unwrap().head;
    assert_eq!(head.revision, 4, "the upgrade and the edit");
    assert!(
        !store
            .edit("moth", 2, &gear("y", 90), AT)
            .unwrap()
            .head
            .project
            .gear["y"]
            .name
            .is_empty()
    );
    store.undo("moth", AT).unwrap();
    store.undo("moth", AT).unwrap();
    let head = store.undo("moth", AT).unwrap();
    assert!(
        !head.project.stock.contains_key("a"),
        "the edit before the upgrade is undone"
    );
    assert!(!head.can_undo);
    let head = store.redo("moth", AT).unwrap();
    assert_eq!(head.project.stock["a"].name, "15 mm");
    assert_eq!(
        store.redo("moth", AT).unwrap().project.gear["x"].h,
        Some(90.0)
    );
    assert_eq!(
        store.stored("moth", 2).unwrap()["version"],
        1,
        "what was stored is not rewritten"
    );
    assert_eq!(
        store.at("moth", 1).unwrap()["version"],
        jigfit_core::project::VERSION
    );
}

/// Laser readings of the demo's own project are right and stay; all others of that time are set aside.
#[rstest]
#[case(true)]
#[case(false)]
fn old_laser_readings_are_set_aside(#[case] demo: bool) {
    let dir = tempfile::tempdir().unwrap();
    let mut document = version_1();
    document["survey"]["readings"]["r05"]["instrument"] = json!("laser");
    let path = old_file(dir.path(), &document);
    let mut store = Store::open(&path).unwrap();
    if demo {
        store.mark_demo("moth", "moth").unwrap();
    }
    let readings = store.head("moth").unwrap().project.survey.readings;
    assert_eq!(readings["r05"].aside, !demo);
    assert!(!readings["r06"].aside);
}

/// One project that is damaged hides no other; its last good state and its file can be had.
#[rstest]
#[case(
    "UPDATE snapshot SET document = CAST(x'ff7b' AS TEXT) WHERE project = 'b'",
    None
)]
#[case("DELETE FROM snapshot WHERE project = 'b'", None)]
#[case(
    "UPDATE revision SET patch = '[{' WHERE project = 'b' AND rev = 3",
    Some(2)
)]
#[case(
    "UPDATE revision SET patch = CAST(x'ff' AS TEXT) WHERE project = 'b' AND rev = 2",
    Some(1)
)]
fn damage_is_told(#[case] damage: &str, #[case] good: Option<u32>) {
    let dir = tempfile::tempdir().unwrap();
    let path = dir.path().join("s.sqlite");
    let mut store = Store::open(&path).unwrap();
    store.create("a", &start(), AT).unwrap();
    store.create("b", &start(), AT).unwrap();
    store.edit("b", 1, &gear("x", 1), AT).unwrap();
    store.edit("b", 2, &gear("y", 2), AT).unwrap();
    rusqlite::Connection::open(&path)
        .unwrap()
        .execute_batch(damage)
        .unwrap();
    let all = store.list().unwrap();
    let of = |id: &str| all.iter().find(|s| s.id == id).unwrap();
    assert!(of("a").damaged.is_none());
    assert!(of("b").damaged.is_some());
    assert_eq!(of("b").last_good, good);
    assert_eq!(store.rescue("b").is_ok(), good.is_some());
    assert_eq!(
        store.raw("b").unwrap()["edits"].as_array().unwrap().len(),
        3
    );
    assert!(store.head("b").is_err());
    store.delete("b", AT).unwrap();
    assert_eq!(store.list().unwrap().len(), 1);
}

/// A sound older snapshot stands in for a damaged newer one.
#[test]
fn a_damaged_snapshot_is_stepped_over() {
    let dir = tempfile::tempdir().unwrap();
    let path = dir.path().join("s.sqlite");
    let mut store = Store::open(&path).unwrap();
    store.create("a", &start(), AT).unwrap();
    for rev in 1..=60 {
        store.edit("a", rev, &gear("x", rev), AT).unwrap();
    }
    let db = rusqlite::Connection::open(&path).unwrap();
    db.execute("UPDATE snapshot SET document = '{' WHERE rev = 50", [])
        .unwrap();
    assert_eq!(store.head("a").unwrap().project.gear["x"].h, Some(60.0));
}

/// A file that vanishes, alone or with its folder, or is replaced while it is open takes no more edits, and
/// says so.
#[rstest]
#[case("file")]
#[case("folder")]
#[case("replaced")]
#[case("folder moved")]
fn a_file_that_is_gone_is_noticed(#[case] what: &str) {
    let around = tempfile::tempdir().unwrap();
    let dir = around.path().join("data");
    std::fs::create_dir(&dir).unwrap();
    let path = dir.join("s.sqlite");
    let mut store = Store::open(&path).unwrap();
    store.create("a", &start(), AT).unwrap();
    match what {
        "replaced" => {
            std::fs::rename(&path, dir.join("elsewhere")).unwrap();
            std::fs::write(&path, "").unwrap();
        }
        "folder" => std::fs::remove_dir_all(&dir).unwrap(),
        "folder moved" => std::fs::rename(&dir, around.path().join("elsewhere")).unwrap(),
        _ => std::fs::remove_file(&path).unwrap(),
    }
    let edit = store.edit("a", 1, &gear("x", 1), AT);
    assert!(matches!(edit, Err(StoreError::Gone)), "{edit:?}");
}

/// To look at: everything is there, nothing is taken, and the file and its folder are not touched.
#[test]
fn a_file_can_be_only_looked_at() {
    let dir = tempfile::tempdir().unwrap();
    let path = dir.path().join("s.sqlite");
    let mut store = Store::open(&path).unwrap();
    store.create("a", &start(), AT).unwrap();
    drop(store);
    let before = std::fs::read(&path).unwrap();
    let mut store = Store::open_to_look(&path).unwrap();
    assert!(store.is_read_only());
    assert_eq!(store.list().unwrap().len(), 1);
    let edit = store.edit("a", 1, &gear("x", 1), AT);
    assert!(matches!(edit, Err(StoreError::ReadOnly)), "{edit:?}");
    drop(store);
    assert_eq!(std::fs::read(&path).unwrap(), before);
    assert_eq!(std::fs::read_dir(dir.path()).unwrap().count(), 1);
}

/// Another program's database is refused in words, and not a byte of it changes.
#[rstest]
#[case("CREATE TABLE notes (x TEXT); PRAGMA user_version = 7;")]
#[case("CREATE TABLE project (x TEXT);")]
#[case("PRAGMA application_id = 42;")]
fn another_programs_file_is_refused(#[case] theirs: &str) {
    let dir = tempfile::tempdir().unwrap();
    let path = dir.path().join("s.sqlite");
    rusqlite::Connection::open(&path)
        .unwrap()
        .execute_batch(theirs)
        .unwrap();
    let before = std::fs::read(&path).unwrap();
    let opened = Store::open(&path);
    assert!(matches!(opened, Err(StoreError::Foreign)));
    assert_eq!(std::fs::read(&path).unwrap(), before);
}

#[rstest]
fn what_was_deleted_long_ago_goes(mut store: Store) {
    store.delete("moth", "2026-01-01T00:00:00Z").unwrap();
    store.purge("2026-01-01T00:00:00Z").unwrap();
    assert_eq!(store.deleted().unwrap().len(), 1);
    store.purge("2026-02-01T00:00:00Z").unwrap();
    assert!(store.deleted().unwrap().is_empty());
    assert!(!store.taken("moth").unwrap());
}

/// [100, 200, 300]: one takes the first out while another, who has not seen it, changes the second.
#[rstest]
fn elements_of_lists_are_not_merged_by_number(mut store: Store) {
    let list = |v: Value| set("/survey/things/well_l/heights", v);
    store
        .edit("moth", 1, &list(json!([100, 200, 300])), AT)
        .unwrap();
    let first = patch(json!([{"op": "remove", "path": "/survey/things/well_l/heights/0"}]));
    store.edit("moth", 2, &first, AT).unwrap();
    let second =
        patch(json!([{"op": "replace", "path": "/survey/things/well_l/heights/1", "value": 210}]));
    let refused = store.edit("moth", 2, &second, AT);
    assert!(
        matches!(refused, Err(StoreError::Conflict { .. })),
        "{refused:?}"
    );
}

/// A document may leave out what is as usual, such as a choice that a later program knows. An edit points to it all the same,
/// and undo brings back what was stored to the last byte.
#[rstest]
#[case("/modules/deck/choices/hatch_places/h", json!({"along": 400}), "/modules/deck/choices/hatch_places/h/along", json!(400.0))]
#[case("/modules/b/choices/each/2/width", json!(350.0), "/modules/b/choices/each/2/width", json!(350.0))]
fn an_edit_reaches_what_is_left_out(
    #[case] at: &str,
    #[case] value: Value,
    #[case] look: &str,
    #[case] is: Value,
) {
    let mut s = Store::in_memory().unwrap();
    s.create("moth", &start(), AT).unwrap();
    let lean = patch(json!([
        {"op": "replace", "path": "/modules", "value": {
            "deck": {"kind": "deck", "choices": {"underside": 300.0}},
            "b": {"kind": "bench", "choices": {"width": 1200.0}}}}
    ]));
    s.edit("moth", 1, &lean, AT).unwrap();
    let before = s.stored("moth", 2).unwrap();
    let head = s.edit("moth", 2, &set(at, value), AT).unwrap().head;
    let full = head.project.to_json().unwrap();
    assert_eq!(full.pointer(look), Some(&is));
    s.undo("moth", AT).unwrap();
    assert_eq!(s.stored("moth", 4).unwrap(), before);
    // What no project has is refused as before.
    let nowhere = s.edit(
        "moth",
        4,
        &set("/modules/ghost/choices/width", json!(1)),
        AT,
    );
    assert!(nowhere.is_err());
}

/// What is kept as a variant stays kept when the edit before it is undone and done again; taken away, it can be brought back.
#[rstest]
fn undo_passes_over_what_was_kept(mut store: Store) {
    store.edit("moth", 1, &gear("a", 100), AT).unwrap();
    let kept = json!({"name": "as it was", "modules": {}, "states": {"drive": {"name": "drive", "order": 1, "open": {}}}});
    let head = store
        .edit("moth", 2, &set("/variants/v", kept), AT)
        .unwrap()
        .head;
    assert!(head.can_undo);
    let head = store.undo("moth", AT).unwrap();
    assert!(head.project.gear.is_empty() && head.project.variants.contains_key("v"));
    assert!(!head.can_undo && head.can_redo);
    let head = store.redo("moth", AT).unwrap();
    assert!(head.project.gear.contains_key("a") && head.project.variants.contains_key("v"));
    // Another name for it, and its end, are edits like any other.
    store
        .edit("moth", 5, &set("/variants/v/name", json!("before")), AT)
        .unwrap();
    let gone = patch(json!([{"op": "remove", "path": "/variants/v"}]));
    store.edit("moth", 6, &gone, AT).unwrap();
    assert!(
        store
            .undo("moth", AT)
            .unwrap()
            .project
            .variants
            .contains_key("v")
    );
    assert_eq!(
        store.undo("moth", AT).unwrap().project.variants["v"].name,
        "as it was"
    );
}
