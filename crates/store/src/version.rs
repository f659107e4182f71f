//! Versions: names that people give to revisions.

use jigfit_core::problem::Problem;
use rusqlite::params;
use serde::{Deserialize, Serialize};
use serde_json::Value;

use crate::edit::Kind;
use crate::error::StoreError;
use crate::history::{append, bring_up, head};
use crate::store::{Head, Store};

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

impl Store {
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

    /// Forgets a named version; the states themselves stay in the history.
    ///
    /// # Errors
    /// No such version; database trouble.
    pub fn forget(&mut self, id: &str, name: &str) -> Result<(), StoreError> {
        let tx = self.write()?;
        let gone = tx.execute(
            "DELETE FROM version WHERE project = ?1 AND name = ?2",
            params![id, name],
        )?;
        if gone == 0 {
            return Err(StoreError::NotFound(format!("version \"{name}\"")));
        }
        Ok(tx.commit()?)
    }

    /// The document that a name stands for, in today's form.
    ///
    /// # Errors
    /// No such version; database trouble.
    pub fn named(&self, id: &str, name: &str) -> Result<Value, StoreError> {
        let named = self.versions(id)?.into_iter().find(|v| v.name == name);
        let named = named.ok_or_else(|| StoreError::NotFound(format!("version \"{name}\"")))?;
        self.at(id, named.revision)
    }

    /// Brings a named version back, as a new edit that can be undone.
    ///
    /// # Errors
    /// No such version; database trouble.
    pub fn restore(&mut self, id: &str, name: &str, at: &str) -> Result<Head, StoreError> {
        let then = self.named(id, name)?;
        let tx = self.write()?;
        bring_up(&tx, id, at)?;
        let now = head(&tx, id)?;
        let patch = json_patch::diff(&now.document, &then);
        if !patch.is_empty() {
            append(&tx, id, &now, &patch, Kind::Edit, at)?;
        }
        tx.commit()?;
        self.head(id)
    }
}
