//! Revisions in the database: the document at any of them, what can be undone, and the next one.

use jigfit_core::problem::Problem;
use jigfit_core::project::VERSION;
use jigfit_core::project::upgrade::{self, IN_DEMO};
use json_patch::Patch;
use rusqlite::{Connection, OptionalExtension, Transaction, params};
use serde_json::{Value, json};

use crate::apply::apply;
use crate::edit::Kind;
use crate::error::StoreError;
use crate::store::Head;

/// A snapshot is kept every so many revisions.
const SNAPSHOT_EVERY: u32 = 50;

/// There is a project of that identifier that is not deleted.
pub fn exists(db: &Connection, id: &str) -> Result<bool, StoreError> {
    Ok(db
        .query_row(
            "SELECT 1 FROM project WHERE id = ?1 AND deleted IS NULL",
            [id],
            |_| Ok(()),
        )
        .optional()?
        .is_some())
}

/// The identifier was given to a project, deleted or not.
pub fn taken(db: &Connection, id: &str) -> Result<bool, StoreError> {
    Ok(db
        .query_row("SELECT 1 FROM project WHERE id = ?1", [id], |_| Ok(()))
        .optional()?
        .is_some())
}

/// The virtual vehicle in which the demo put the project.
pub fn demo(db: &Connection, id: &str) -> Result<Option<String>, StoreError> {
    let demo = db.query_row("SELECT demo FROM project WHERE id = ?1", [id], |r| r.get(0));
    Ok(demo.optional()?.flatten())
}

/// The newest revision and when it was made.
pub fn newest(db: &Connection, id: &str) -> Result<(u32, String), StoreError> {
    let newest = db
        .query_row(
            "SELECT rev, revision.at FROM revision JOIN project ON id = project
             WHERE project = ?1 AND deleted IS NULL ORDER BY rev DESC LIMIT 1",
            [id],
            |r| Ok((r.get(0)?, r.get(1)?)),
        )
        .optional()?;
    newest.ok_or_else(|| StoreError::NotFound(format!("project \"{id}\"")))
}

pub fn head(db: &Connection, id: &str) -> Result<Head, StoreError> {
    let (revision, at) = newest(db, id)?;
    let document = document(db, id, revision)?;
    let project = jigfit_core::furniture::read(document.clone())?;
    let (done, undone) = stacks(db, id)?;
    Ok(Head {
        revision,
        document,
        project,
        can_undo: !done.is_empty(),
        can_redo: !undone.is_empty(),
        at,
        demo: demo(db, id)?,
    })
}

/// The document at `revision` in today's form.
pub fn document(db: &Connection, id: &str, revision: u32) -> Result<Value, StoreError> {
    let mut stored = stored(db, id, revision)?;
    if upgrade::version(&stored)? == VERSION {
        return Ok(stored);
    }
    if demo(db, id)?.is_some()
        && let Some(map) = stored.as_object_mut()
    {
        map.insert(IN_DEMO.into(), json!(true));
    }
    Ok(upgrade::upgrade(stored)?)
}

/// The document at `revision` as it was stored: the nearest sound snapshot before it and the patches
/// since.
pub fn stored(db: &Connection, id: &str, revision: u32) -> Result<Value, StoreError> {
    let mut q = db.prepare_cached(
        "SELECT rev, document FROM snapshot WHERE project = ?1 AND rev <= ?2 ORDER BY rev DESC",
    )?;
    let mut rows = q.query(params![id, revision])?;
    let mut why = None;
    while let Some(row) = rows.next()? {
        let rev: u32 = row.get(0)?;
        // Bytes, not text: a cell may be damaged.
        let cell = row.get_ref(1)?;
        let read: Result<Value, String> = cell
            .as_bytes()
            .map_err(|e| e.to_string())
            .and_then(|b| serde_json::from_slice(b).map_err(|e| e.to_string()));
        match read {
            Ok(document) => return replay(db, id, document, rev, revision),
            Err(e) => why = why.or(Some(e)),
        }
    }
    match why {
        Some(why) => Err(StoreError::Corrupt(format!(
            "a snapshot cannot be read: {why}"
        ))),
        None if revision == 0 => Err(StoreError::NotFound("revision 0".into())),
        None => Err(StoreError::Corrupt("its first state is gone".into())),
    }
}

fn replay(
    db: &Connection,
    id: &str,
    mut document: Value,
    from: u32,
    to: u32,
) -> Result<Value, StoreError> {
    let mut next = from;
    each_patch(db, id, from, to, |rev, patch| {
        next += 1;
        if rev != next {
            return Err(StoreError::Corrupt(format!("revision {next} is gone")));
        }
        json_patch::patch(&mut document, &patch).map_err(|e| StoreError::Corrupt(e.to_string()))
    })?;
    if next < to {
        return Err(StoreError::NotFound(format!("revision {to}")));
    }
    Ok(document)
}

/// Hands over the patches after `from` up to `to`, in order.
fn each_patch(
    db: &Connection,
    id: &str,
    from: u32,
    to: u32,
    mut take: impl FnMut(u32, Patch) -> Result<(), StoreError>,
) -> Result<(), StoreError> {
    let mut q = db.prepare_cached(
        "SELECT rev, patch FROM revision WHERE project = ?1 AND rev > ?2 AND rev <= ?3 ORDER BY rev",
    )?;
    let mut rows = q.query(params![id, from, to])?;
    while let Some(row) = rows.next()? {
        let corrupt = |e: String| StoreError::Corrupt(format!("an edit cannot be read: {e}"));
        let cell = row.get_ref(1)?;
        let bytes = cell.as_bytes().map_err(|e| corrupt(e.to_string()))?;
        let patch = serde_json::from_slice(bytes).map_err(|e| corrupt(e.to_string()))?;
        take(row.get(0)?, patch)?;
    }
    Ok(())
}

/// The newest revision that can still be read, of a project whose newest cannot.
pub fn last_good(db: &Connection, id: &str) -> Result<Option<u32>, StoreError> {
    /// Looked back over this many; a whole history is replayed for each.
    const BACK: u32 = 200;
    let (newest, _) = newest(db, id)?;
    let sound =
        |rev: &u32| document(db, id, *rev).is_ok_and(|d| jigfit_core::furniture::read(d).is_ok());
    Ok((newest.saturating_sub(BACK).max(1)..=newest)
        .rev()
        .find(sound))
}

/// Edits made after a revision. Upgrades are none: what a person saw was in today's form already.
pub fn patches(db: &Connection, id: &str, after: u32) -> Result<Vec<Patch>, StoreError> {
    let mut q = db.prepare_cached(
        "SELECT patch FROM revision WHERE project = ?1 AND rev > ?2 AND kind <> 'upgrade' ORDER BY rev",
    )?;
    let rows = q.query_map(params![id, after], |r| r.get::<_, String>(0))?;
    rows.map(|row| serde_json::from_str(&row?).map_err(|e| StoreError::Corrupt(e.to_string())))
        .collect()
}

/// An edit that only keeps what is there as one more variant. It changes nothing that is worked on, so undo passes over it: what
/// was kept stays kept. The beginning of the text is looked at first, for most edits are long and none of these.
const KEEPS: &str = "kind = 'edit'
     AND substr(patch, 1, 60) LIKE '[{\"op\":\"add\",\"path\":\"/variants/%'
     AND json_array_length(patch) = 1
     AND json_extract(patch, '$[0].path') NOT LIKE '/variants/%/%'
     AND json_array_length(inverse) = 1
     AND json_extract(inverse, '$[0].op') = 'remove'";

/// Revisions that can be undone and redone, the next one last.
pub fn stacks(db: &Connection, id: &str) -> Result<(Vec<u32>, Vec<u32>), StoreError> {
    let mut q = db.prepare_cached(&format!(
        "SELECT rev, kind FROM revision WHERE project = ?1 AND NOT ({KEEPS}) ORDER BY rev"
    ))?;
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

/// The patch that undoes or redoes revision `rev`: as stored, or, where an upgrade lies between, worked
/// out from the state before or after it.
pub fn step(
    db: &Connection,
    id: &str,
    now: &Head,
    rev: u32,
    kind: Kind,
) -> Result<Patch, StoreError> {
    let upgraded: Option<u32> = db.query_row(
        "SELECT max(rev) FROM revision WHERE project = ?1 AND kind = 'upgrade'",
        [id],
        |r| r.get(0),
    )?;
    if upgraded.is_some_and(|border| border > rev) {
        let then = document(db, id, if kind == Kind::Undo { rev - 1 } else { rev })?;
        return Ok(json_patch::diff(&now.document, &then));
    }
    let column = if kind == Kind::Undo {
        "inverse"
    } else {
        "patch"
    };
    let text: String = db.query_row(
        &format!("SELECT {column} FROM revision WHERE project = ?1 AND rev = ?2"),
        params![id, rev],
        |r| r.get(0),
    )?;
    serde_json::from_str(&text).map_err(|e| StoreError::Corrupt(e.to_string()))
}

/// Brings what is stored to today's form with a revision of its own and a snapshot, if it is older.
pub fn bring_up(tx: &Transaction, id: &str, at: &str) -> Result<(), StoreError> {
    let (revision, _) = newest(tx, id)?;
    let old = stored(tx, id, revision)?;
    if upgrade::version(&old)? == VERSION {
        return Ok(());
    }
    let new = document(tx, id, revision)?;
    let rev = revision + 1;
    tx.execute(
        "INSERT INTO revision (project, rev, at, kind, patch, inverse)
         VALUES (?1, ?2, ?3, 'upgrade', ?4, ?5)",
        params![
            id,
            rev,
            at,
            text(&json_patch::diff(&old, &new))?,
            text(&json_patch::diff(&new, &old))?
        ],
    )?;
    snapshot(tx, id, rev, &new)
}

fn text(p: &Patch) -> Result<String, StoreError> {
    serde_json::to_string(p).map_err(|e| StoreError::Other(e.to_string()))
}

fn snapshot(tx: &Transaction, id: &str, rev: u32, document: &Value) -> Result<(), StoreError> {
    tx.execute(
        "INSERT INTO snapshot (project, rev, document) VALUES (?1, ?2, ?3)",
        params![id, rev, document.to_string()],
    )?;
    Ok(())
}

/// Stores a patch as the next revision.
pub fn append(
    tx: &Transaction,
    id: &str,
    now: &Head,
    patch: &Patch,
    kind: Kind,
    at: &str,
) -> Result<(), StoreError> {
    let mut next = now.document.clone();
    apply(&mut next, patch)?;
    // What is stored must be readable again: refuse here, not at the next start.
    jigfit_core::furniture::read(next.clone())?;
    if upgrade::version(&next)? != VERSION {
        return Err(Problem::shape("/version", "The version is not changed by an edit.").into());
    }
    let inverse = json_patch::diff(&next, &now.document);
    let rev = now.revision + 1;
    tx.execute(
        "INSERT INTO revision (project, rev, at, kind, patch, inverse)
         VALUES (?1, ?2, ?3, ?4, ?5, ?6)",
        params![id, rev, at, kind.word(), text(patch)?, text(&inverse)?],
    )?;
    if rev.is_multiple_of(SNAPSHOT_EVERY) {
        snapshot(tx, id, rev, &next)?;
    }
    Ok(())
}
