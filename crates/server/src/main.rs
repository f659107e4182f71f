//! Entry point of `jigfit`.
#![forbid(unsafe_code)]

use std::process::ExitCode;

use clap::Parser;
use jigfit_server::cli::Cli;
use jigfit_server::commands;

/// Plans are many small values, made and dropped.
#[global_allocator]
static ALLOCATOR: mimalloc::MiMalloc = mimalloc::MiMalloc;

fn main() -> ExitCode {
    commands::run(Cli::parse())
}
