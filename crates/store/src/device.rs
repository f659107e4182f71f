//! Devices that were paired: each has a token of its own, of which only a fingerprint is kept.

use rusqlite::{OptionalExtension, params};
use serde::{Deserialize, Serialize};

use crate::error::StoreError;
use crate::store::Store;

/// A paired device.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct Device {
    /// Identifier.
    pub id: String,
    /// What it is called.
    pub name: String,
    /// When it was paired.
    pub at: String,
    /// When it was last seen, to the day.
    pub seen: String,
}

impl Store {
    /// Remembers a device by the fingerprint of its token.
    ///
    /// # Errors
    /// Database trouble.
    pub fn pair(&mut self, id: &str, name: &str, print: &str, at: &str) -> Result<(), StoreError> {
        let tx = self.write()?;
        tx.execute(
            "INSERT INTO device (id, name, token, at, seen) VALUES (?1, ?2, ?3, ?4, ?4)",
            params![id, name, print, at],
        )?;
        Ok(tx.commit()?)
    }

    /// The device whose token has that fingerprint.
    ///
    /// # Errors
    /// Database trouble.
    pub fn device(&self, print: &str) -> Result<Option<Device>, StoreError> {
        let row = self.db.query_row(
            "SELECT id, name, at, seen FROM device WHERE token = ?1",
            [print],
            device,
        );
        Ok(row.optional()?)
    }

    /// Notes the day on which a device was seen.
    ///
    /// # Errors
    /// Database trouble.
    pub fn seen(&mut self, id: &str, at: &str) -> Result<(), StoreError> {
        let tx = self.write()?;
        tx.execute("UPDATE device SET seen = ?2 WHERE id = ?1", params![id, at])?;
        Ok(tx.commit()?)
    }

    /// All paired devices, oldest first.
    ///
    /// # Errors
    /// Database trouble.
    pub fn devices(&self) -> Result<Vec<Device>, StoreError> {
        let mut q = self
            .db
            .prepare("SELECT id, name, at, seen FROM device ORDER BY rowid")?;
        let rows = q.query_map([], device)?;
        Ok(rows.collect::<Result<_, _>>()?)
    }

    /// Takes a device's token away.
    ///
    /// # Errors
    /// No such device; database trouble.
    pub fn revoke(&mut self, id: &str) -> Result<(), StoreError> {
        let tx = self.write()?;
        let gone = tx.execute("DELETE FROM device WHERE id = ?1", [id])?;
        if gone == 0 {
            return Err(StoreError::NotFound(format!("device \"{id}\"")));
        }
        Ok(tx.commit()?)
    }
}

fn device(r: &rusqlite::Row) -> rusqlite::Result<Device> {
    Ok(Device {
        id: r.get(0)?,
        name: r.get(1)?,
        at: r.get(2)?,
        seen: r.get(3)?,
    })
}
