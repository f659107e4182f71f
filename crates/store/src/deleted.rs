//! Deleted projects: kept for a while, brought back, removed for good.

use rusqlite::params;

use crate::error::StoreError;
use crate::list::Summary;
use crate::store::Store;

impl Store {
    /// Deleted projects that can still be brought back, last changed first.
    ///
    /// # Errors
    /// Database trouble.
    pub fn deleted(&self) -> Result<Vec<Summary>, StoreError> {
        self.summaries("deleted IS NOT NULL")
    }

    /// Deletes a project; it is kept until `purge`.
    ///
    /// # Errors
    /// No such project; database trouble.
    pub fn delete(&mut self, id: &str, at: &str) -> Result<(), StoreError> {
        let tx = self.write()?;
        let done = tx.execute(
            "UPDATE project SET deleted = ?2 WHERE id = ?1 AND deleted IS NULL",
            params![id, at],
        )?;
        if done == 0 {
            return Err(StoreError::NotFound(format!("project \"{id}\"")));
        }
        Ok(tx.commit()?)
    }

    /// Brings a deleted project back.
    ///
    /// # Errors
    /// No such project among the deleted; database trouble.
    pub fn undelete(&mut self, id: &str) -> Result<(), StoreError> {
        let tx = self.write()?;
        let done = tx.execute(
            "UPDATE project SET deleted = NULL WHERE id = ?1 AND deleted IS NOT NULL",
            [id],
        )?;
        if done == 0 {
            return Err(StoreError::NotFound(format!("deleted project \"{id}\"")));
        }
        Ok(tx.commit()?)
    }

    /// Removes for good what was deleted before `when` (RFC 3339), and forgets requests answered
    /// before it.
    ///
    /// # Errors
    /// Database trouble.
    pub fn purge(&mut self, when: &str) -> Result<(), StoreError> {
        let tx = self.write()?;
        for table in ["photo", "version", "snapshot", "revision"] {
            tx.execute(
                &format!(
                    "DELETE FROM {table} WHERE project IN (SELECT id FROM project WHERE deleted < ?1)"
                ),
                [when],
            )?;
        }
        tx.execute("DELETE FROM project WHERE deleted < ?1", [when])?;
        tx.execute("DELETE FROM request WHERE at < ?1", [when])?;
        Ok(tx.commit()?)
    }
}
