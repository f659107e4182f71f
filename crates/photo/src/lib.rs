//! A template photographed on the floor among four marker sheets becomes an outline in millimetres: the sheets are found, the
//! perspective and the lens are taken out by them and by what was taped between them, and the edge is followed.
#![forbid(unsafe_code)]

pub mod find;
mod line;
pub mod outline;
pub mod picture;
pub mod plane;
mod read;
mod segment;
pub mod sheet;

pub use read::{Photo, Stage, read};
