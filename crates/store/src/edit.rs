//! What changes a project: it is made, edited, an edit is taken back and done again.

use jigfit_core::problem::Problem;
use jigfit_core::project::Project;
use json_patch::Patch;
use rusqlite::params;

use crate::error::StoreError;
use crate::history::{append, bring_up, document, head, newest, patches, stacks, step, taken};
use crate::merge::conflicts;
use crate::reach::reaching;
use crate::request::Request;
use crate::store::{Head, Store};

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
        let patch = reaching(patch, &now.document);
        append(&tx, id, &now, &patch, Kind::Edit, at)?;
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
}
