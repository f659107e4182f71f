//! The program `jigfit`: command line, API and the embedded web application.
#![forbid(unsafe_code)]
#![cfg_attr(test, allow(clippy::unwrap_used, clippy::expect_used, clippy::panic))]

pub mod api;
pub mod app;
pub mod assets;
pub mod cli;
pub mod commands;
pub mod demo;
pub mod extract;
pub mod guard;
pub mod lan;
pub mod listen;
pub mod planner;
pub mod problem;
pub mod serve;
