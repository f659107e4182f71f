//! The tables, by numbered steps.

use rusqlite::Connection;
use rusqlite_migration::{M, Migrations};

use crate::error::StoreError;

const STEPS: &[M] = &[M::up(
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
)];

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
    // A damaged file may still open: ask before anything is written.
    let sound: String = db.query_row("PRAGMA quick_check(1)", [], |r| r.get(0))?;
    if sound != "ok" {
        return Err(StoreError::Corrupt(sound));
    }
    Ok(())
}
