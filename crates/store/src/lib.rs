//! Projects as revisioned documents in SQLite.
//!
//! Every accepted edit is one appended revision with its inverse; undo and redo are revisions too.
//! Nothing is ever overwritten: what was acknowledged is on disk (`synchronous=FULL`).
#![forbid(unsafe_code)]
#![cfg_attr(test, allow(clippy::unwrap_used, clippy::expect_used, clippy::panic))]

mod error;
mod history;
mod merge;
mod schema;
mod store;

pub use error::{Conflict, StoreError};
pub use store::{Edit, Head, Kind, Named, Store, Summary};
