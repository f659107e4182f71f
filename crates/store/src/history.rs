//! Revisions in the database: the document at any of them, what can be undone, and the next one.

use jigfit_core::problem::Problem;
use jigfit_core::project::Project;
use json_patch::Patch;
use rusqlite::{Connection, OptionalExtension, Transaction, params};
use serde_json::Value;

use crate::error::StoreError;
use crate::store::{Head, Kind};

/// A snapshot is kept every so many revisions.
const SNAPSHOT_EVERY: u32 = 50;

pub fn exists(db: &Connection, id: &str) -> Result<bool, StoreError> {
    Ok(db
        .query_row("SELECT 1 FROM project WHERE id = ?1", [id], |_| Ok(()))
        .optional()?
        .is_some())
}

pub fn head(db: &Connection, id: &str) -> Result<Head, StoreError> {
    let newest: Option<(u32, String)> = db
        .query_row(
            "SELECT rev, at FROM revision WHERE project = ?1 ORDER BY rev DESC LIMIT 1",
            [id],
            |r| Ok((r.get(0)?, r.get(1)?)),
        )
        .optional()?;
    let Some((revision, at)) = newest else {
        return Err(StoreError::NotFound(format!("project \"{id}\"")));
    };
    let document = document(db, id, revision)?;
    let project = Project::read(document.clone())?;
    let (done, undone) = stacks(db, id)?;
    Ok(Head {
        revision,
        document,
        project,
        can_undo: !done.is_empty(),
        can_redo: !undone.is_empty(),
        at,
    })
}

/// The document at `revision`: the nearest snapshot before it and the patches since.
pub fn document(db: &Connection, id: &str, revision: u32) -> Result<Value, StoreError> {
    let found: Option<(u32, String)> = db
        .query_row(
            "SELECT rev, document FROM snapshot WHERE project = ?1 AND rev <= ?2
             ORDER BY rev DESC LIMIT 1",
            params![id, revision],
            |r| Ok((r.get(0)?, r.get(1)?)),
        )
        .optional()?;
    let Some((rev, text)) = found else {
        return Err(StoreError::NotFound(format!("revision {revision}")));
    };
    let corrupt = |e: String| StoreError::Corrupt(e);
    let mut document: Value = serde_json::from_str(&text).map_err(|e| corrupt(e.to_string()))?;
    let mut q = db.prepare_cached(
        "SELECT patch FROM revision WHERE project = ?1 AND rev > ?2 AND rev <= ?3 ORDER BY rev",
    )?;
    let rows = q.query_map(params![id, rev, revision], |r| r.get::<_, String>(0))?;
    for row in rows {
        let patch: Patch = serde_json::from_str(&row?).map_err(|e| corrupt(e.to_string()))?;
        json_patch::patch(&mut document, &patch).map_err(|e| corrupt(e.to_string()))?;
    }
    Ok(document)
}

pub fn patches(db: &Connection, id: &str, after: u32) -> Result<Vec<Patch>, StoreError> {
    let mut q = db.prepare_cached(
        "SELECT patch FROM revision WHERE project = ?1 AND rev > ?2 ORDER BY rev",
    )?;
    let rows = q.query_map(params![id, after], |r| r.get::<_, String>(0))?;
    rows.map(|row| serde_json::from_str(&row?).map_err(|e| StoreError::Corrupt(e.to_string())))
        .collect()
}

/// Revisions that can be undone and redone, the next one last.
pub fn stacks(db: &Connection, id: &str) -> Result<(Vec<u32>, Vec<u32>), StoreError> {
    let mut q =
        db.prepare_cached("SELECT rev, kind FROM revision WHERE project = ?1 ORDER BY rev")?;
    let rows = q.query_map([id], |r| Ok((r.get::<_, u32>(0)?, r.get::<_, String>(1)?)))?;
    let (mut done, mut undone): (Vec<u32>, Vec<u32>) = (vec![], vec![]);
    for row in rows {
        let (rev, kind) = row?;
        match kind.as_str() {
            "edit" => {
                done.push(rev);
                undone.clear();
            }
            "undo" => undone.extend(done.pop()),
            "redo" => done.extend(undone.pop()),
            _ => {}
        }
    }
    Ok((done, undone))
}

pub fn append(
    tx: &Transaction,
    id: &str,
    now: &Head,
    patch: &Patch,
    kind: Kind,
    at: &str,
) -> Result<(), StoreError> {
    let mut next = now.document.clone();
    json_patch::patch(&mut next, patch).map_err(|e| {
        Problem::shape(
            e.path.to_string(),
            format!("The edit does not apply: {}.", e.kind),
        )
    })?;
    // What is stored must be readable again: refuse here, not at the next start.
    Project::read(next.clone())?;
    let inverse = json_patch::diff(&next, &now.document);
    let rev = now.revision + 1;
    let text = |p: &Patch| serde_json::to_string(p).map_err(|e| StoreError::Other(e.to_string()));
    tx.execute(
        "INSERT INTO revision VALUES (?1, ?2, ?3, ?4, ?5, ?6)",
        params![id, rev, at, kind.word(), text(patch)?, text(&inverse)?],
    )?;
    if rev.is_multiple_of(SNAPSHOT_EVERY) {
        tx.execute(
            "INSERT INTO snapshot VALUES (?1, ?2, ?3)",
            params![id, rev, next.to_string()],
        )?;
    }
    Ok(())
}
