//! Requests that carry a key, so that one that is sent twice is done once.

use rusqlite::{Connection, OptionalExtension, Transaction, params};

use crate::error::StoreError;

/// A request that may be sent again.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Request {
    /// The key that its sender made for it.
    pub key: String,
    /// A fingerprint of what it asks: the same key with another is a mistake.
    pub print: String,
}

impl Request {
    /// The project it was about, if it was answered already.
    pub(crate) fn find(&self, db: &Connection) -> Result<Option<String>, StoreError> {
        let found: Option<(String, String)> = db
            .query_row(
                "SELECT print, project FROM request WHERE key = ?1",
                [&self.key],
                |r| Ok((r.get(0)?, r.get(1)?)),
            )
            .optional()?;
        match found {
            Some((print, _)) if print != self.print => Err(StoreError::OtherRequest),
            found => Ok(found.map(|f| f.1)),
        }
    }

    /// Remembers that it was answered, in the same transaction as what it did.
    pub(crate) fn answered(
        &self,
        tx: &Transaction,
        project: &str,
        rev: u32,
        at: &str,
    ) -> Result<(), StoreError> {
        tx.execute(
            "INSERT INTO request (key, print, project, rev, at) VALUES (?1, ?2, ?3, ?4, ?5)",
            params![self.key, self.print, project, rev, at],
        )?;
        Ok(())
    }
}
