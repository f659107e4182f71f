//! Photos beside a project: kept by their content, so that the same one is there once.

use rusqlite::{OptionalExtension, params};

use crate::error::StoreError;
use crate::history::{exists, head};
use crate::store::Store;

/// Photos of a project that no curve names: so many of the newest are kept, for curves that are taken next or brought back by undo.
const LOOSE: usize = 12;

impl Store {
    /// Keeps a photo under its print. Those that no curve of the newest document names make room, the oldest first.
    ///
    /// # Errors
    /// No such project; database trouble.
    pub fn keep_photo(
        &mut self,
        project: &str,
        print: &str,
        bytes: &[u8],
        at: &str,
    ) -> Result<(), StoreError> {
        let tx = self.write()?;
        if !exists(&tx, project)? {
            return Err(StoreError::NotFound(format!("project \"{project}\"")));
        }
        tx.execute(
            "INSERT INTO photo (project, print, at, bytes) VALUES (?1, ?2, ?3, ?4)
             ON CONFLICT (project, print) DO UPDATE SET at = excluded.at",
            params![project, print, at, bytes],
        )?;
        let document = head(&tx, project)?.project;
        let named = |print: &String| {
            let mut own = document.templates.values();
            own.any(|t| t.photo.as_ref() == Some(print))
        };
        let all: Vec<String> = tx
            .prepare("SELECT print FROM photo WHERE project = ?1 ORDER BY at DESC, rowid DESC")?
            .query_map([project], |r| r.get(0))?
            .collect::<Result<_, _>>()?;
        for old in all.iter().filter(|p| !named(p)).skip(LOOSE) {
            tx.execute(
                "DELETE FROM photo WHERE project = ?1 AND print = ?2",
                params![project, old],
            )?;
        }
        Ok(tx.commit()?)
    }

    /// The photo of that print.
    ///
    /// # Errors
    /// No such project or photo; database trouble.
    pub fn photo(&self, project: &str, print: &str) -> Result<Vec<u8>, StoreError> {
        let bytes = self
            .db
            .query_row(
                "SELECT bytes FROM photo WHERE project = ?1 AND print = ?2",
                params![project, print],
                |r| r.get(0),
            )
            .optional()?;
        bytes.ok_or_else(|| StoreError::NotFound(format!("photo \"{print}\"")))
    }

    /// Copies the photos of one project to another that was made of it.
    ///
    /// # Errors
    /// Database trouble.
    pub fn copy_photos(&mut self, from: &str, to: &str) -> Result<(), StoreError> {
        let tx = self.write()?;
        tx.execute(
            "INSERT OR IGNORE INTO photo (project, print, at, bytes)
             SELECT ?2, print, at, bytes FROM photo WHERE project = ?1",
            params![from, to],
        )?;
        Ok(tx.commit()?)
    }
}
