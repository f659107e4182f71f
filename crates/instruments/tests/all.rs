//! One program of all tests: it is linked once, and where one test takes long the others go on beside it.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)]

mod common;

mod captured;
mod closure;
mod fitted;
mod instruments;
mod sections;
mod solids;
mod surveys;
mod why;
