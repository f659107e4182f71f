//! One file for each kind of furniture: choices and vehicle in, parts out.

pub mod deck;
mod ground;
pub mod joint;
pub mod span;
pub mod supports;
mod top;
pub mod vents;
mod why;
