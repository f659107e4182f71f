//! What there is: the list of projects, and what can still be had of a damaged one.

use jigfit_core::project::Project;
use rusqlite::OptionalExtension;
use serde::{Deserialize, Serialize};
use serde_json::Value;

use crate::error::StoreError;
use crate::history::{document, last_good, newest};
use crate::store::Store;

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

impl Store {
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
}
