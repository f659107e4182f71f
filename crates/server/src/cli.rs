//! The command line.

use std::path::PathBuf;

use clap::{Args, Parser, Subcommand};

/// Fit plywood furniture into the vehicle you have.
#[derive(Debug, Parser)]
#[command(name = "jigfit", version, about, long_about = None, arg_required_else_help = true)]
pub struct Cli {
    /// Write log lines as JSON.
    #[arg(long, global = true)]
    pub log_json: bool,
    /// What to do.
    #[command(subcommand)]
    pub command: Command,
}

/// Where the data is.
#[derive(Debug, Args, Clone)]
pub struct Data {
    /// Folder of the data; the platform's own data folder if not given.
    #[arg(long, value_name = "DIR")]
    pub data: Option<PathBuf>,
}

/// Where to serve.
#[derive(Debug, Args, Clone)]
pub struct Serve {
    /// Folder of the data.
    #[command(flatten)]
    pub data: Data,
    /// Port on this machine; 0 for any free one.
    #[arg(long, value_name = "N", default_value_t = 4173)]
    pub port: u16,
    /// Let paired devices of the local network in, not encrypted; a code to pair is in the menu.
    #[arg(long)]
    pub lan: bool,
}

/// What to do.
#[derive(Debug, Subcommand)]
pub enum Command {
    /// Serve the application at a local address, until Ctrl-C.
    Serve(Serve),
    /// The same with the four demo projects loaded, in a folder of their own unless --data is given.
    Demo(Serve),
    /// Read a project file (- for standard input) and print its plan as JSON.
    Plan {
        /// Project JSON.
        file: PathBuf,
    },
    /// Print the kinds of furniture: name, purpose, JSON Schema of the choices.
    Kinds,
    /// Add a piece of furniture that suits the vehicle and what is there; prints the new project.
    Add(Add),
    /// Accept the layout of the sheets: from then on only what no longer matches is told; prints the project.
    Accept(Accept),
    /// Run one calculator: JSON from standard input, JSON to standard output. An array is a batch.
    Compute {
        /// tape, mass, adjust, heights, pass, beam, lid, drawer, outline, nest or panel.
        name: String,
    },
    /// Surveys without a vehicle.
    Survey {
        /// What to do.
        #[command(subcommand)]
        what: SurveyCommand,
    },
    /// Write an export of a stored project to standard output.
    Export {
        /// Project identifier, as in the address.
        id: String,
        /// project.json, readings.csv, model.ply, parts.svg, parts.pdf, sheets.svg, sheets.pdf, steps.pdf, cuts.csv, parts.csv,
        /// hardware.csv, boards.pdf, boards.svg, boards.dxf, templates.pdf, templates.svg, templates.dxf or ordinates.csv.
        kind: String,
        /// Of boards: only the one of that mark.
        #[arg(long)]
        part: Option<String>,
        /// Of pages at full size: a4, letter, a3, roll-594, roll-610 or roll-914; the project's paper if nothing is said.
        #[arg(long)]
        paper: Option<String>,
        /// Of DXF: 12 or 2000.
        #[arg(long)]
        release: Option<String>,
        /// Folder of the data.
        #[command(flatten)]
        data: Data,
    },
    /// Store a project file as a new project and print its identifier.
    Import {
        /// Project JSON (- for standard input).
        file: PathBuf,
        /// Folder of the data.
        #[command(flatten)]
        data: Data,
    },
    /// Copy the whole database to a file, also while it is being served.
    Backup {
        /// The file to write.
        file: PathBuf,
        /// Folder of the data.
        #[command(flatten)]
        data: Data,
    },
    /// Print the OpenAPI document of the server.
    Openapi,
}

/// Sheets to accept.
#[derive(Debug, Args, Clone)]
pub struct Accept {
    /// Project JSON (- for standard input).
    pub file: PathBuf,
    /// How hard to search for fewer sheets: 0 takes the layout as the plan has it, 1 some seconds.
    #[arg(long, default_value_t = 0.0)]
    pub effort: f64,
}

/// A piece of furniture to add.
#[derive(Debug, Args, Clone)]
pub struct Add {
    /// Its kind: see `jigfit kinds`.
    pub kind: String,
    /// Project JSON (- for standard input).
    pub file: PathBuf,
    /// Its identifier; the kind's name, numbered, if not given.
    #[arg(long, value_name = "ID")]
    pub id: Option<String>,
    /// A choice as typed: width=16 1/2 in, supports.manner=legs, across=left_wall.
    #[arg(long, value_name = "FIELD=VALUE")]
    pub set: Vec<String>,
}

/// Surveys without a vehicle.
#[derive(Debug, Subcommand)]
pub enum SurveyCommand {
    /// Survey a virtual vehicle as the program asks, with simulated noise; prints the project.
    Simulate(Simulate),
}

/// A simulated survey.
#[derive(Debug, Args, Clone)]
pub struct Simulate {
    /// The virtual vehicle (JSON).
    #[arg(long, value_name = "FILE")]
    pub vehicle: PathBuf,
    /// Standard deviation of a reading, mm.
    #[arg(long, value_name = "MM", default_value_t = 1.0)]
    pub noise: f64,
    /// How many readings are slips.
    #[arg(long, value_name = "N", default_value_t = 0)]
    pub blunders: usize,
    /// Size of a slip, mm.
    #[arg(long, value_name = "MM", default_value_t = 25.0)]
    pub blunder_mm: f64,
    /// File to write the slips' identifiers to.
    #[arg(long, value_name = "FILE")]
    pub truth: Option<PathBuf>,
    /// Seed of all chance.
    #[arg(long, value_name = "N", default_value_t = 1)]
    pub seed: u64,
    /// Heights at which panels are wanted, mm over the load floor; 0 to 500 if not given.
    #[arg(long, value_name = "MM,MM..", value_delimiter = ',')]
    pub heights: Vec<f64>,
    /// How thoroughly to measure.
    #[arg(long, value_enum, default_value_t = Protocol::Full)]
    pub protocol: Protocol,
    /// What is measured with; all but `plain` err in their own way, and --noise does not count.
    #[arg(long, value_enum, default_value_t = With::Plain)]
    pub with: With,
}

/// What is measured with.
#[derive(Debug, Clone, Copy, PartialEq, Eq, clap::ValueEnum)]
pub enum With {
    /// A tape with nothing but normal noise.
    Plain,
    /// A steel tape read to the millimetre: loose hook, sag, now and then a misread inch.
    Tape,
    /// The same read to sixteenths of an inch, without slips.
    Inches,
    /// A laser distance meter.
    Laser,
}

/// How thoroughly to measure.
#[derive(Debug, Clone, Copy, PartialEq, Eq, clap::ValueEnum)]
pub enum Protocol {
    /// Each reading checked by another: about forty-five in a plain vehicle, sixty-five in a hull.
    Full,
    /// Some twenty-five readings, more with sloping wells or in a hull.
    Quick,
}
