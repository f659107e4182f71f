//! The store: create, read, edit, undo, redo, name, back up.

use std::path::Path;

use jigfit_core::problem::Problem;
use jigfit_core::project::Project;
use json_patch::Patch;
use rusqlite::{Connection, Transaction, TransactionBehavior, params};
use serde::{Deserialize, Serialize};
use serde_json::Value;

use crate::error::StoreError;
use crate::history::{append, document, exists, head, patches, stacks};
use crate::merge::conflicts;
use crate::schema::prepare;

/// Most operations in one edit.
const MAX_OPERATIONS: usize = 1000;

/// A project database.
pub struct Store {
    db: Connection,
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
}

/// A named version.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct Named {
    /// Its name.
    pub name: String,
    /// The revision it names.
    pub revision: u32,
    /// When it was named.
    pub at: String,
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
    /// Opens or creates the database file.
    ///
    /// # Errors
    /// Locked, read-only, damaged, or written by a newer program.
    pub fn open(path: &Path) -> Result<Store, StoreError> {
        let mut db = Connection::open(path)?;
        prepare(&mut db)?;
        Ok(Store { db })
    }

    /// A database in memory, for tests.
    ///
    /// # Errors
    /// None in practice.
    pub fn in_memory() -> Result<Store, StoreError> {
        let mut db = Connection::open_in_memory()?;
        prepare(&mut db)?;
        Ok(Store { db })
    }

    /// All projects, last changed first.
    ///
    /// # Errors
    /// Database trouble.
    pub fn list(&self) -> Result<Vec<Summary>, StoreError> {
        let ids: Vec<String> = self
            .db
            .prepare("SELECT id FROM project ORDER BY rowid DESC")?
            .query_map([], |r| r.get(0))?
            .collect::<Result<_, _>>()?;
        let mut all = Vec::new();
        for id in ids {
            let head = match self.head(&id) {
                Ok(head) => head,
                // One project that cannot be read must not hide the others.
                Err(StoreError::Refused(_) | StoreError::Corrupt(_)) => {
                    all.push(Summary {
                        name: format!("{id} (cannot be read)"),
                        kind: String::new(),
                        revision: 0,
                        changed: String::new(),
                        id,
                    });
                    continue;
                }
                Err(e) => return Err(e),
            };
            let kind = head.document.pointer("/vehicle/kind");
            all.push(Summary {
                name: head.project.name.clone(),
                kind: kind.and_then(Value::as_str).unwrap_or("").into(),
                revision: head.revision,
                changed: head.at,
                id,
            });
        }
        // Stable: of two changed in one second the newer project comes first.
        all.sort_by(|a, b| b.changed.cmp(&a.changed));
        Ok(all)
    }

    /// Stores a new project under `id`.
    ///
    /// # Errors
    /// The identifier is taken; database trouble.
    pub fn create(&mut self, id: &str, project: &Project, at: &str) -> Result<Head, StoreError> {
        let document = project.to_json()?;
        let tx = self.write()?;
        if exists(&tx, id)? {
            return Err(
                Problem::shape("/id", format!("There is a project \"{id}\" already.")).into(),
            );
        }
        tx.execute("INSERT INTO project VALUES (?1, ?2)", params![id, at])?;
        tx.execute(
            "INSERT INTO revision VALUES (?1, 1, ?2, 'start', '[]', '[]')",
            params![id, at],
        )?;
        tx.execute(
            "INSERT INTO snapshot VALUES (?1, 1, ?2)",
            params![id, document.to_string()],
        )?;
        tx.commit()?;
        self.head(id)
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
        if patch.len() > MAX_OPERATIONS {
            return Err(Problem::out_of_range(
                "",
                format!("{} operations in one edit.", patch.len()),
                format!("at most {MAX_OPERATIONS}"),
            )
            .into());
        }
        let tx = self.write()?;
        let now = head(&tx, id)?;
        if base > now.revision || base == 0 {
            return Err(StoreError::NotFound(format!("revision {base}")));
        }
        let merged = base < now.revision;
        if merged {
            let since = patches(&tx, id, base)?;
            let found = conflicts(patch, &since, &now.document);
            if !found.is_empty() {
                return Err(StoreError::Conflict {
                    revision: now.revision,
                    conflicts: found,
                });
            }
        }
        append(&tx, id, &now, patch, Kind::Edit, at)?;
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
        self.step(id, Kind::Undo, at)
    }

    /// Does the last undone edit again.
    ///
    /// # Errors
    /// Nothing to redo; database trouble.
    pub fn redo(&mut self, id: &str, at: &str) -> Result<Head, StoreError> {
        self.step(id, Kind::Redo, at)
    }

    fn step(&mut self, id: &str, kind: Kind, at: &str) -> Result<Head, StoreError> {
        let tx = self.write()?;
        let now = head(&tx, id)?;
        let (done, undone) = stacks(&tx, id)?;
        let word = kind.word();
        let (rev, column) = match kind {
            Kind::Undo => (done.last().copied(), "inverse"),
            _ => (undone.last().copied(), "patch"),
        };
        let Some(rev) = rev else {
            return Err(StoreError::Nothing(word));
        };
        let text: String = tx.query_row(
            &format!("SELECT {column} FROM revision WHERE project = ?1 AND rev = ?2"),
            params![id, rev],
            |r| r.get(0),
        )?;
        let patch: Patch =
            serde_json::from_str(&text).map_err(|e| StoreError::Corrupt(e.to_string()))?;
        append(&tx, id, &now, &patch, kind, at)?;
        tx.commit()?;
        self.head(id)
    }

    /// Names the newest revision.
    ///
    /// # Errors
    /// No name, or one that is taken.
    pub fn name(&mut self, id: &str, name: &str, at: &str) -> Result<Named, StoreError> {
        let name = name.trim();
        if name.is_empty() || name.chars().count() > 200 {
            return Err(Problem::out_of_range(
                "/name",
                "A version needs a name.",
                "1 to 200 characters",
            )
            .into());
        }
        let tx = self.write()?;
        let now = head(&tx, id)?;
        let added = tx.execute(
            "INSERT OR IGNORE INTO version VALUES (?1, ?2, ?3, ?4)",
            params![id, name, now.revision, at],
        )?;
        if added == 0 {
            return Err(Problem::shape("/name", "There is a version of that name already.").into());
        }
        tx.commit()?;
        Ok(Named {
            name: name.into(),
            revision: now.revision,
            at: at.into(),
        })
    }

    /// The named versions, newest first.
    ///
    /// # Errors
    /// No such project; database trouble.
    pub fn versions(&self, id: &str) -> Result<Vec<Named>, StoreError> {
        self.head(id)?;
        let mut q = self.db.prepare(
            "SELECT name, rev, at FROM version WHERE project = ?1 ORDER BY rev DESC, name",
        )?;
        let rows = q.query_map([id], |r| {
            Ok(Named {
                name: r.get(0)?,
                revision: r.get(1)?,
                at: r.get(2)?,
            })
        })?;
        Ok(rows.collect::<Result<_, _>>()?)
    }

    /// Brings a named version back, as a new edit that can be undone.
    ///
    /// # Errors
    /// No such version; database trouble.
    pub fn restore(&mut self, id: &str, name: &str, at: &str) -> Result<Head, StoreError> {
        let named = self
            .versions(id)?
            .into_iter()
            .find(|v| v.name == name)
            .ok_or_else(|| StoreError::NotFound(format!("version \"{name}\"")))?;
        let then = self.at(id, named.revision)?;
        let tx = self.write()?;
        let now = head(&tx, id)?;
        let patch = json_patch::diff(&now.document, &then);
        if !patch.is_empty() {
            append(&tx, id, &now, &patch, Kind::Edit, at)?;
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

    fn write(&mut self) -> Result<Transaction<'_>, StoreError> {
        Ok(self
            .db
            .transaction_with_behavior(TransactionBehavior::Immediate)?)
    }
}
