//! Projects as revisioned documents in SQLite.
//!
//! Every accepted edit is one appended revision with its inverse; undo and redo are revisions too.
//! Nothing is ever overwritten: what was acknowledged is on disk (`synchronous=FULL`).
#![forbid(unsafe_code)]
#![cfg_attr(test, allow(clippy::unwrap_used, clippy::expect_used, clippy::panic))]

mod apply;
mod deleted;
mod device;
mod edit;
mod error;
mod history;
mod list;
mod merge;
mod photos;
mod reach;
mod request;
mod schema;
mod store;
mod version;

pub use apply::apply;
pub use device::Device;
pub use edit::{Edit, Kind};
pub use error::{Conflict, StoreError};
pub use list::Summary;
pub use reach::reaching;
pub use request::Request;
pub use store::{Head, Store};
pub use version::Named;
