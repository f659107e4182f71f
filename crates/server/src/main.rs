//! Entry point of `jigfit`.
#![forbid(unsafe_code)]

use std::process::ExitCode;

use clap::Parser;
use jigfit_server::cli::Cli;
use jigfit_server::commands;

fn main() -> ExitCode {
    commands::run(Cli::parse())
}
