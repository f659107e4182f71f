//! Simulated instruments, and vehicles whose true shape is known, to try the program on without a
//! vehicle and to measure how well it does. Nothing that makes panels depends on this crate.
#![forbid(unsafe_code)]

pub mod accuracy;
pub mod camera;
pub mod capture;
pub mod fitter;
pub mod laser;
pub mod person;
pub mod scanner;
pub mod simulate;
pub mod tape;
pub mod vehicle;
