//! Projects as revisioned documents in SQLite.
//!
//! Every accepted edit is one appended revision with its inverse; undo and redo are revisions too.
//! Nothing is ever overwritten: what was acknowledged is on disk (`synchronous=FULL`).
#![forbid(unsafe_code)]
#![cfg_attr(test, allow(clippy::unwrap_used, clippy::expect_used, clippy::panic))]

mod apply;
mod deleted;
mod device;
mod error;
mod history;
mod merge;
mod photos;
mod request;
mod schema;
mod store;
mod version;

pub use apply::apply;
pub use device::Device;
pub use error::{Conflict, StoreError};
pub use request::Request;
pub use store::{Edit, Head, Kind, Store, Summary};
pub use version::Named;
