//! What can go wrong with the store, in words a person can act on.

use jigfit_core::problem::Problem;
use serde::Serialize;
use serde_json::Value;

/// Two edits of the same place.
#[derive(Debug, Clone, PartialEq, Serialize)]
pub struct Conflict {
    /// JSON Pointer of the place.
    pub pointer: String,
    /// What is there now; null if nothing.
    pub theirs: Value,
    /// What this edit wanted.
    pub yours: Value,
}

/// Why the store refused.
#[derive(Debug, thiserror::Error)]
pub enum StoreError {
    /// No such project, version or revision.
    #[error("There is no {0}.")]
    NotFound(String),
    /// The edit or document is not acceptable.
    #[error("{0}")]
    Refused(Problem),
    /// The same place was edited since the revision the edit is based on.
    #[error("The same place was changed meanwhile.")]
    Conflict {
        /// The revision now.
        revision: u32,
        /// The places with both values.
        conflicts: Vec<Conflict>,
    },
    /// Nothing to undo or redo.
    #[error("There is nothing to {0}.")]
    Nothing(&'static str),
    /// Another program holds the database.
    #[error(
        "The data file is locked by another program. Close it and try again; nothing was written."
    )]
    Locked,
    /// The file or its folder cannot be written.
    #[error(
        "The data file cannot be written: it or its folder is read-only, or the disk is full. Nothing was written."
    )]
    ReadOnly,
    /// The file is no database or is damaged.
    #[error(
        "The data file is damaged or is not one of Jig Fit's: {0}. Nothing was written; restore a backup or move the file away."
    )]
    Corrupt(String),
    /// The file is another program's.
    #[error(
        "This is an SQLite file, but not one of Jig Fit's. Nothing was written to it; choose another folder with --data."
    )]
    Foreign,
    /// The file is gone or was replaced while the program runs.
    #[error(
        "The data file is no longer where it was: it was moved, deleted or replaced while the program runs. Nothing was stored. Put it back, or stop and start the program."
    )]
    Gone,
    /// A request with a key that was used for another request.
    #[error("This request has the key of another one.")]
    OtherRequest,
    /// A newer program wrote the file.
    #[error("The data file was written by a newer version of this program.")]
    Newer,
    /// Anything else.
    #[error("The data file could not be used: {0}")]
    Other(String),
}

impl From<rusqlite::Error> for StoreError {
    fn from(e: rusqlite::Error) -> Self {
        use rusqlite::ErrorCode;
        if let rusqlite::Error::FromSqlConversionFailure(..) | rusqlite::Error::Utf8Error(..) = &e {
            return StoreError::Corrupt(e.to_string());
        }
        match e.sqlite_error_code() {
            Some(ErrorCode::DatabaseBusy | ErrorCode::DatabaseLocked) => StoreError::Locked,
            Some(
                ErrorCode::ReadOnly
                | ErrorCode::CannotOpen
                | ErrorCode::DiskFull
                | ErrorCode::PermissionDenied,
            ) => StoreError::ReadOnly,
            Some(ErrorCode::DatabaseCorrupt | ErrorCode::NotADatabase) => {
                StoreError::Corrupt(e.to_string())
            }
            _ => StoreError::Other(e.to_string()),
        }
    }
}

impl From<Problem> for StoreError {
    fn from(p: Problem) -> Self {
        StoreError::Refused(p)
    }
}
