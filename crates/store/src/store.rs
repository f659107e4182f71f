//! The store: create, read, edit, undo, redo, back up.

use std::path::{Path, PathBuf};

use jigfit_core::problem::Problem;
use jigfit_core::project::Project;
use json_patch::Patch;
use rusqlite::{Connection, OptionalExtension, Transaction, TransactionBehavior, params};
use serde::{Deserialize, Serialize};
use serde_json::Value;

use crate::error::StoreError;
use crate::history::{
    append, bring_up, demo, document, exists, head, last_good, newest, patches, stacks, step,
    stored, taken,
};
use crate::merge::conflicts;
use crate::request::Request;
use crate::schema;

/// A project database.
pub struct Store {
    pub(crate) db: Connection,
    /// The file, and what it was when it was opened.
    file: Option<(PathBuf, Identity)>,
    /// It is only looked at: a copy in memory of a file that cannot be written.
    look: bool,
}

/// Which file of the file system it is, where the system tells.
type Identity = Option<(u64, u64)>;

fn identity(path: &Path) -> std::io::Result<Identity> {
    let data = std::fs::metadata(path)?;
    #[cfg(unix)]
    {
        use std::os::unix::fs::MetadataExt;
        Ok(Some((data.dev(), data.ino())))
    }
    #[cfg(not(unix))]
    {
        drop(data);
        Ok(None)
    }
}

/// The newest state of a project.
#[derive(Debug, Clone, PartialEq)]
pub struct Head {
    /// Revision.
    pub revision: u32,
    /// The document.
    pub document: Value,
    /// The document, read and checked.
    pub project: Project,
    /// Something can be undone.
    pub can_undo: bool,
    /// Something can be redone.
    pub can_redo: bool,
    /// When the newest revision was made.
    pub at: String,
    /// The virtual vehicle in which the demo put it.
    pub demo: Option<String>,
}

/// A project in a list.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct Summary {
    /// Identifier.
    pub id: String,
    /// Name.
    pub name: String,
    /// Kind of vehicle.
    pub kind: String,
    /// Newest revision.
    pub revision: u32,
    /// When it was last changed.
    pub changed: String,
    /// Why its newest state cannot be read.
    pub damaged: Option<String>,
    /// Of a damaged one: the newest revision that can.
    pub last_good: Option<u32>,
}

/// What a revision is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Kind {
    /// The first.
    Start,
    /// An edit by a person.
    Edit,
    /// The taking back of an edit.
    Undo,
    /// The doing again of an edit taken back.
    Redo,
}

impl Kind {
    pub(crate) fn word(self) -> &'static str {
        match self {
            Kind::Start => "start",
            Kind::Edit => "edit",
            Kind::Undo => "undo",
            Kind::Redo => "redo",
        }
    }
}

/// An accepted edit.
#[derive(Debug, Clone, PartialEq)]
pub struct Edit {
    /// The state after it.
    pub head: Head,
    /// It was put on top of others' edits since its base.
    pub merged: bool,
}

impl Store {
    /// Opens or creates the database file. One that cannot be written is opened to look at.
    ///
    /// # Errors
    /// Locked, damaged, another program's, or written by a newer program.
    pub fn open(path: &Path) -> Result<Store, StoreError> {
        let (db, writable) = schema::open(path)?;
        let file = match identity(path) {
            Ok(id) if writable => Some((path.to_path_buf(), id)),
            _ => None,
        };
        Ok(Store {
            db,
            file,
            look: !writable,
        })
    }

    /// Opens a database file only to look at: nothing is written beside it or into it.
    ///
    /// # Errors
    /// Damaged, another program's, or written by a newer program.
    pub fn open_to_look(path: &Path) -> Result<Store, StoreError> {
        Ok(Store {
            db: schema::copy(path)?,
            file: None,
            look: true,
        })
    }

    /// A database in memory, for tests.
    ///
    /// # Errors
    /// None in practice.
    pub fn in_memory() -> Result<Store, StoreError> {
        let mut db = Connection::open_in_memory()?;
        schema::prepare(&mut db)?;
        Ok(Store {
            db,
            file: None,
            look: false,
        })
    }

    /// It can only be looked at.
    pub fn is_read_only(&self) -> bool {
        self.look
    }

    /// All projects, last changed first. One that cannot be read is listed as damaged.
    ///
    /// # Errors
    /// Database trouble.
    pub fn list(&self) -> Result<Vec<Summary>, StoreError> {
        self.summaries("deleted IS NULL")
    }

    pub(crate) fn summaries(&self, which: &str) -> Result<Vec<Summary>, StoreError> {
        let ids: Vec<String> = self
            .db
            .prepare(&format!(
                "SELECT id FROM project WHERE {which} ORDER BY rowid DESC"
            ))?
            .query_map([], |r| r.get(0))?
            .collect::<Result<_, _>>()?;
        let mut all: Vec<Summary> = ids
            .into_iter()
            .map(|id| self.summary(id))
            .collect::<Result<_, _>>()?;
        // Stable: of two changed in one second the newer project comes first.
        all.sort_by(|a, b| b.changed.cmp(&a.changed));
        Ok(all)
    }

    fn summary(&self, id: String) -> Result<Summary, StoreError> {
        let at = self.db.query_row(
            "SELECT rev, at FROM revision WHERE project = ?1 ORDER BY rev DESC LIMIT 1",
            [&id],
            |r| Ok((r.get::<_, u32>(0)?, r.get::<_, String>(1)?)),
        );
        let (revision, changed) = at.optional()?.unwrap_or_default();
        let read = document(&self.db, &id, revision)
            .and_then(|d| Ok((jigfit_core::furniture::read(d.clone())?, d)));
        Ok(match read {
            Ok((project, document)) => {
                let kind = document.pointer("/vehicle/kind").and_then(Value::as_str);
                Summary {
                    name: project.name,
                    kind: kind.unwrap_or("").into(),
                    revision,
                    changed,
                    damaged: None,
                    last_good: None,
                    id,
                }
            }
            // One project that cannot be read must not hide the others.
            Err(StoreError::Refused(_) | StoreError::Corrupt(_) | StoreError::NotFound(_)) => {
                let why = read.err().map(|e| match e {
                    StoreError::Refused(p) => p.to_string(),
                    StoreError::Corrupt(why) => why,
                    other => other.to_string(),
                });
                Summary {
                    name: id.clone(),
                    kind: String::new(),
                    revision,
                    changed,
                    damaged: why,
                    last_good: last_good(&self.db, &id).ok().flatten(),
                    id,
                }
            }
            Err(e) => return Err(e),
        })
    }
    /// Everything stored of a project as it is, sound or not: to take away when it cannot be read.
    ///
    /// # Errors
    /// No such project; database trouble.
    pub fn raw(&self, id: &str) -> Result<Value, StoreError> {
        newest(&self.db, id)?;
        let rows = |sql: &str| -> Result<Vec<Value>, StoreError> {
            let mut q = self.db.prepare(sql)?;
            let mut rows = q.query([id])?;
            let mut out = Vec::new();
            while let Some(row) = rows.next()? {
                let cell = row.get_ref(1)?.as_bytes().unwrap_or_default().to_vec();
                out.push(serde_json::json!({
                    "revision": row.get::<_, u32>(0)?,
                    "stored": serde_json::from_slice::<Value>(&cell)
                        .unwrap_or_else(|_| Value::String(String::from_utf8_lossy(&cell).into())),
                }));
            }
            Ok(out)
        };
        Ok(serde_json::json!({
            "project": id,
            "snapshots": rows("SELECT rev, document FROM snapshot WHERE project = ?1 ORDER BY rev")?,
            "edits": rows("SELECT rev, patch FROM revision WHERE project = ?1 ORDER BY rev")?,
        }))
    }

    /// The newest state of a damaged project that can still be read.
    ///
    /// # Errors
    /// None can be read; no such project; database trouble.
    pub fn rescue(&self, id: &str) -> Result<Project, StoreError> {
        let rev = last_good(&self.db, id)?;
        let rev = rev.ok_or_else(|| StoreError::NotFound("revision that can be read".into()))?;
        Ok(jigfit_core::furniture::read(document(&self.db, id, rev)?)?)
    }

    /// Stores a new project under `id`.
    ///
    /// # Errors
    /// The identifier is taken; database trouble.
    pub fn create(&mut self, id: &str, project: &Project, at: &str) -> Result<Head, StoreError> {
        self.create_once(id, project, at, None)
    }

    /// The same for a request with a key: sent again, it answers with the project it made.
    ///
    /// # Errors
    /// As `create`; the key of another request.
    pub fn create_once(
        &mut self,
        id: &str,
        project: &Project,
        at: &str,
        request: Option<&Request>,
    ) -> Result<Head, StoreError> {
        let document = project.to_json()?;
        let tx = self.write()?;
        if taken(&tx, id)? {
            return Err(
                Problem::shape("/id", format!("There is a project \"{id}\" already.")).into(),
            );
        }
        tx.execute(
            "INSERT INTO project (id, created) VALUES (?1, ?2)",
            params![id, at],
        )?;
        tx.execute(
            "INSERT INTO revision (project, rev, at, kind, patch, inverse)
             VALUES (?1, 1, ?2, 'start', '[]', '[]')",
            params![id, at],
        )?;
        tx.execute(
            "INSERT INTO snapshot (project, rev, document) VALUES (?1, 1, ?2)",
            params![id, document.to_string()],
        )?;
        if let Some(request) = request {
            request.answered(&tx, id, 1, at)?;
        }
        tx.commit()?;
        self.head(id)
    }

    /// The project that a request with a key made or changed before, if it was answered already.
    ///
    /// # Errors
    /// The key of another request; database trouble.
    pub fn answered(&self, request: Option<&Request>) -> Result<Option<String>, StoreError> {
        request.map_or(Ok(None), |r| r.find(&self.db))
    }

    /// Says that the demo put the project into a virtual vehicle.
    ///
    /// # Errors
    /// Database trouble.
    pub fn mark_demo(&mut self, id: &str, vehicle: &str) -> Result<(), StoreError> {
        let tx = self.write()?;
        tx.execute(
            "UPDATE project SET demo = ?2 WHERE id = ?1",
            params![id, vehicle],
        )?;
        Ok(tx.commit()?)
    }

    /// The virtual vehicle in which the demo put the project.
    ///
    /// # Errors
    /// Database trouble.
    pub fn demo(&self, id: &str) -> Result<Option<String>, StoreError> {
        demo(&self.db, id)
    }

    /// The identifier was given to a project, be it deleted.
    ///
    /// # Errors
    /// Database trouble.
    pub fn taken(&self, id: &str) -> Result<bool, StoreError> {
        taken(&self.db, id)
    }

    /// Whether there is a project of that identifier.
    ///
    /// # Errors
    /// Database trouble.
    pub fn exists(&self, id: &str) -> Result<bool, StoreError> {
        exists(&self.db, id)
    }

    /// The newest state of a project.
    ///
    /// # Errors
    /// No such project; database trouble.
    pub fn head(&self, id: &str) -> Result<Head, StoreError> {
        head(&self.db, id)
    }

    /// The document at a revision.
    ///
    /// # Errors
    /// No such project or revision; database trouble.
    pub fn at(&self, id: &str, revision: u32) -> Result<Value, StoreError> {
        document(&self.db, id, revision)
    }

    /// Applies `patch`, made against revision `base`. Edits of other places since then are merged.
    ///
    /// # Errors
    /// A conflict with both values, a patch that does not apply or gives an impossible project.
    pub fn edit(
        &mut self,
        id: &str,
        base: u32,
        patch: &Patch,
        at: &str,
    ) -> Result<Edit, StoreError> {
        self.edit_once(id, base, patch, at, None)
    }

    /// The same for a request with a key: sent again, it is not done again.
    ///
    /// # Errors
    /// As `edit`; the key of another request.
    pub fn edit_once(
        &mut self,
        id: &str,
        base: u32,
        patch: &Patch,
        at: &str,
        request: Option<&Request>,
    ) -> Result<Edit, StoreError> {
        let tx = self.write()?;
        let seen = newest(&tx, id)?.0;
        if base > seen || base == 0 {
            return Err(StoreError::NotFound(format!("revision {base}")));
        }
        bring_up(&tx, id, at)?;
        let now = head(&tx, id)?;
        let since = patches(&tx, id, base)?;
        let merged = !since.is_empty();
        if merged {
            let then = document(&tx, id, base)?;
            let found = conflicts(patch, &since, &then, &now.document);
            if !found.is_empty() {
                return Err(StoreError::Conflict {
                    revision: now.revision,
                    conflicts: found,
                });
            }
        }
        append(&tx, id, &now, patch, Kind::Edit, at)?;
        if let Some(request) = request {
            request.answered(&tx, id, now.revision + 1, at)?;
        }
        tx.commit()?;
        Ok(Edit {
            head: self.head(id)?,
            merged,
        })
    }

    /// Takes the last edit back.
    ///
    /// # Errors
    /// Nothing to undo; database trouble.
    pub fn undo(&mut self, id: &str, at: &str) -> Result<Head, StoreError> {
        self.step(id, Kind::Undo, at, None)
    }

    /// Does the last undone edit again.
    ///
    /// # Errors
    /// Nothing to redo; database trouble.
    pub fn redo(&mut self, id: &str, at: &str) -> Result<Head, StoreError> {
        self.step(id, Kind::Redo, at, None)
    }

    /// Undoes or redoes once for a request with a key.
    ///
    /// # Errors
    /// As `undo`; the key of another request.
    pub fn step(
        &mut self,
        id: &str,
        kind: Kind,
        at: &str,
        request: Option<&Request>,
    ) -> Result<Head, StoreError> {
        let tx = self.write()?;
        bring_up(&tx, id, at)?;
        let now = head(&tx, id)?;
        let (done, undone) = stacks(&tx, id)?;
        let rev = match kind {
            Kind::Undo => done.last().copied(),
            _ => undone.last().copied(),
        };
        let Some(rev) = rev else {
            return Err(StoreError::Nothing(kind.word()));
        };
        let patch = step(&tx, id, &now, rev, kind)?;
        append(&tx, id, &now, &patch, kind, at)?;
        if let Some(request) = request {
            request.answered(&tx, id, now.revision + 1, at)?;
        }
        tx.commit()?;
        self.head(id)
    }

    /// Copies the whole database to `to` while it is in use. The copy is written beside it first,
    /// so that a half-written backup never has the name asked for.
    ///
    /// # Errors
    /// The file cannot be written; database trouble.
    pub fn backup(&self, to: &Path) -> Result<(), StoreError> {
        let half = to.with_extension("part");
        let copy = || -> Result<(), StoreError> {
            let mut target = Connection::open(&half)?;
            let backup = rusqlite::backup::Backup::new(&self.db, &mut target)?;
            backup.run_to_completion(256, std::time::Duration::ZERO, None)?;
            Ok(())
        };
        let done = copy();
        if done.is_err() {
            let _ = std::fs::remove_file(&half);
            return done;
        }
        std::fs::rename(&half, to).map_err(|_| StoreError::ReadOnly)
    }

    /// The document at a revision as it was stored then.
    ///
    /// # Errors
    /// No such project or revision; database trouble.
    pub fn stored(&self, id: &str, revision: u32) -> Result<Value, StoreError> {
        stored(&self.db, id, revision)
    }

    pub(crate) fn write(&mut self) -> Result<Transaction<'_>, StoreError> {
        if self.look {
            return Err(StoreError::ReadOnly);
        }
        // SQLite would go on writing into a file that has no name any more.
        if let Some((path, was)) = &self.file
            && identity(path).ok().as_ref() != Some(was)
        {
            return Err(StoreError::Gone);
        }
        Ok(self
            .db
            .transaction_with_behavior(TransactionBehavior::Immediate)?)
    }
}
