//! The store: the database file opened, a project read as it is now or was, a backup.

use std::path::{Path, PathBuf};

use jigfit_core::project::Project;
use rusqlite::{Connection, Transaction, TransactionBehavior, params};
use serde_json::Value;

use crate::error::StoreError;
use crate::history::{demo, document, exists, head, newest, stored, taken};
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

    /// The newest document as it is stored, in today's form. What is made of it is for the caller to read and check.
    ///
    /// # Errors
    /// No such project; database trouble.
    pub fn newest(&self, id: &str) -> Result<Value, StoreError> {
        let (revision, _) = newest(&self.db, id)?;
        document(&self.db, id, revision)
    }

    /// The document at a revision.
    ///
    /// # Errors
    /// No such project or revision; database trouble.
    pub fn at(&self, id: &str, revision: u32) -> Result<Value, StoreError> {
        document(&self.db, id, revision)
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
