//! The tables, by numbered steps, and how a database file is opened.

use std::path::Path;

use rusqlite::{Connection, OpenFlags, OptionalExtension};
use rusqlite_migration::{M, Migrations};

use crate::error::StoreError;

/// Says in the file's header whose it is ("JigF").
const APPLICATION: i64 = 0x4a69_6746;
/// Tables that have been there since the first step.
const FIRST_TABLES: [&str; 4] = ["project", "revision", "snapshot", "version"];

const STEPS: &[M] = &[
    M::up(
        "CREATE TABLE project (
        id TEXT PRIMARY KEY,
        created TEXT NOT NULL
     ) STRICT;
     CREATE TABLE revision (
        project TEXT NOT NULL REFERENCES project(id),
        rev INTEGER NOT NULL,
        at TEXT NOT NULL,
        kind TEXT NOT NULL CHECK (kind IN ('start', 'edit', 'undo', 'redo')),
        patch TEXT NOT NULL,
        inverse TEXT NOT NULL,
        PRIMARY KEY (project, rev)
     ) STRICT;
     CREATE TABLE snapshot (
        project TEXT NOT NULL REFERENCES project(id),
        rev INTEGER NOT NULL,
        document TEXT NOT NULL,
        PRIMARY KEY (project, rev)
     ) STRICT;
     CREATE TABLE version (
        project TEXT NOT NULL REFERENCES project(id),
        name TEXT NOT NULL,
        rev INTEGER NOT NULL,
        at TEXT NOT NULL,
        PRIMARY KEY (project, name)
     ) STRICT;",
    ),
    // Documents grow: a revision may be an upgrade. Projects of the demo are marked, deleted ones kept
    // for a while. Requests that were answered, so that a retried one is the same one. Paired devices.
    M::up(
        "CREATE TABLE revision2 (
        project TEXT NOT NULL REFERENCES project(id),
        rev INTEGER NOT NULL,
        at TEXT NOT NULL,
        kind TEXT NOT NULL CHECK (kind IN ('start', 'edit', 'undo', 'redo', 'upgrade')),
        patch TEXT NOT NULL,
        inverse TEXT NOT NULL,
        PRIMARY KEY (project, rev)
     ) STRICT;
     INSERT INTO revision2 SELECT project, rev, at, kind, patch, inverse FROM revision;
     DROP TABLE revision;
     ALTER TABLE revision2 RENAME TO revision;
     ALTER TABLE project ADD COLUMN demo TEXT;
     ALTER TABLE project ADD COLUMN deleted TEXT;
     CREATE TABLE request (
        key TEXT PRIMARY KEY,
        print TEXT NOT NULL,
        project TEXT NOT NULL,
        rev INTEGER NOT NULL,
        at TEXT NOT NULL
     ) STRICT;
     CREATE TABLE device (
        id TEXT PRIMARY KEY,
        name TEXT NOT NULL,
        token TEXT NOT NULL UNIQUE,
        at TEXT NOT NULL,
        seen TEXT NOT NULL
     ) STRICT;",
    ),
    // Photos of templates lie beside a project, by their content.
    M::up(
        "CREATE TABLE photo (
        project TEXT NOT NULL REFERENCES project(id),
        print TEXT NOT NULL,
        at TEXT NOT NULL,
        bytes BLOB NOT NULL,
        PRIMARY KEY (project, print)
     ) STRICT;",
    ),
];

/// Opens the database file, or, where it cannot be written, a copy of it in memory to look at; `true`
/// says that it may be written.
pub fn open(path: &Path) -> Result<(Connection, bool), StoreError> {
    match writable(path) {
        Ok(db) => Ok((db, true)),
        Err(StoreError::ReadOnly) if path.is_file() => Ok((copy(path)?, false)),
        Err(e) => Err(e),
    }
}

fn writable(path: &Path) -> Result<Connection, StoreError> {
    let mut db = Connection::open(path)?;
    ours(&db)?;
    prepare(&mut db)?;
    // An empty write tells whether the folder takes any, before a person has typed something.
    db.execute_batch("BEGIN IMMEDIATE; COMMIT;")?;
    Ok(db)
}

/// The file read into memory. In a read-only folder SQLite cannot make its helper files: the file is
/// then read as one that nobody changes.
pub fn copy(path: &Path) -> Result<Connection, StoreError> {
    let flags = OpenFlags::SQLITE_OPEN_READ_ONLY | OpenFlags::SQLITE_OPEN_URI;
    let name = path.to_string_lossy();
    let name = name
        .replace('%', "%25")
        .replace('?', "%3f")
        .replace('#', "%23");
    let read = |how: &str| -> Result<Connection, StoreError> {
        let source = Connection::open_with_flags(format!("file:{name}?{how}"), flags)?;
        ours(&source)?;
        let mut db = Connection::open_in_memory()?;
        {
            let all = rusqlite::backup::Backup::new(&source, &mut db)?;
            all.run_to_completion(256, std::time::Duration::ZERO, None)?;
        }
        prepare(&mut db)?;
        Ok(db)
    };
    // What was written last may still stand in the log beside the file.
    let log = std::fs::metadata(format!("{}-wal", path.display())).is_ok_and(|m| m.len() > 0);
    if log && let Ok(db) = read("mode=ro") {
        return Ok(db);
    }
    read("immutable=1")
}

/// Refuses a database that another program made, before anything is written to it.
fn ours(db: &Connection) -> Result<(), StoreError> {
    let id: i64 = db.query_row("PRAGMA application_id", [], |r| r.get(0))?;
    let tables: Vec<String> = db
        .prepare("SELECT name FROM sqlite_master WHERE type = 'table'")?
        .query_map([], |r| r.get(0))?
        .collect::<Result<_, _>>()?;
    let first = FIRST_TABLES.iter().all(|t| tables.iter().any(|n| n == t));
    match (id, tables.is_empty()) {
        (APPLICATION, _) | (0, true) => Ok(()),
        // Databases from before the mark was set.
        (0, false) if first => Ok(()),
        _ => Err(StoreError::Foreign),
    }
}

/// Sets the connection up and brings the tables to the newest step.
pub fn prepare(db: &mut Connection) -> Result<(), StoreError> {
    db.busy_timeout(std::time::Duration::from_secs(2))?;
    db.pragma_update(None, "journal_mode", "WAL")?;
    db.pragma_update(None, "synchronous", "FULL")?;
    db.pragma_update(None, "foreign_keys", "ON")?;
    Migrations::from_slice(STEPS)
        .to_latest(db)
        .map_err(|e| match e {
            rusqlite_migration::Error::RusqliteError { err, .. } => StoreError::from(err),
            rusqlite_migration::Error::MigrationDefinition(_) => StoreError::Newer,
            other => StoreError::Other(other.to_string()),
        })?;
    let id: i64 = db.query_row("PRAGMA application_id", [], |r| r.get(0))?;
    if id != APPLICATION {
        db.pragma_update(None, "application_id", APPLICATION)?;
    }
    // A damaged file may still open: ask before anything is written.
    let sound: Option<String> = db
        .query_row("PRAGMA quick_check(1)", [], |r| r.get(0))
        .optional()?;
    match sound.as_deref() {
        Some("ok") => Ok(()),
        // A cell that is no text is one project's damage, not the file's.
        Some(told) if told.contains("value in ") => Ok(()),
        told => Err(StoreError::Corrupt(told.unwrap_or("no answer").into())),
    }
}
