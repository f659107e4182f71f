//! What each command does.

use std::io::{IsTerminal, Read, Write};
use std::path::Path;
use std::process::ExitCode;

use jigfit_core::compute;
use jigfit_core::cutting::accepted::{accept, ticks};
use jigfit_core::cutting::sheets::{Keep, lay_out};
use jigfit_core::furniture;
use jigfit_core::furniture::add::suggest;
use jigfit_core::input::{count, within};
use jigfit_core::plan::solve;
use jigfit_core::problem::Problem;
use jigfit_core::project::survey::{Instrument, Thoroughness};
use jigfit_core::survey::model::Model;
use jigfit_instruments::simulate::{Walk, survey};
use jigfit_instruments::tape::Errors;
use jigfit_instruments::vehicle::Vehicle;
use jigfit_store::StoreError;
use serde_json::Value;

use crate::api::export::{Export, Wanted, write};
use crate::api::projects::free_id;
use crate::app::now;
use crate::cli::{Accept, Add, Cli, Command, Data, Protocol, Serve, Simulate, SurveyCommand, With};
use crate::demo;
use crate::problem::ApiError;
use crate::serve::{data_dir, open, run as listen};

/// Why a command failed.
enum Failed {
    /// Bad input: exit code 2, the problem as JSON on standard error.
    Input(Problem),
    /// Anything else: exit code 1, a sentence on standard error.
    Told(String),
}

impl From<ApiError> for Failed {
    fn from(e: ApiError) -> Self {
        Failed::Input(e.body.problem)
    }
}

impl From<Problem> for Failed {
    fn from(p: Problem) -> Self {
        Failed::Input(p)
    }
}

impl From<StoreError> for Failed {
    fn from(e: StoreError) -> Self {
        match e {
            StoreError::Refused(p) => Failed::Input(p),
            other => Failed::Told(other.to_string()),
        }
    }
}

impl From<String> for Failed {
    fn from(s: String) -> Self {
        Failed::Told(s)
    }
}

/// Runs a command and says how it went.
pub fn run(cli: Cli) -> ExitCode {
    log(cli.log_json);
    match dispatch(cli.command) {
        Ok(()) => ExitCode::SUCCESS,
        Err(Failed::Input(problem)) => {
            eprintln!("{}", serde_json::to_string(&problem).unwrap_or_default());
            ExitCode::from(2)
        }
        Err(Failed::Told(text)) => {
            eprintln!("{text}");
            ExitCode::FAILURE
        }
    }
}

fn log(json: bool) {
    use tracing_subscriber::Layer;
    use tracing_subscriber::filter::{LevelFilter, Targets};
    use tracing_subscriber::prelude::*;

    let usual = Targets::new()
        .with_default(LevelFilter::INFO)
        .with_target("rusqlite_migration", LevelFilter::WARN);
    let wanted = std::env::var("RUST_LOG").ok();
    let filter = wanted.and_then(|w| w.parse().ok()).unwrap_or(usual);
    let lines = tracing_subscriber::fmt::layer().with_writer(std::io::stderr);
    let lines = if json {
        lines.json().with_filter(filter).boxed()
    } else {
        let colour = std::io::stderr().is_terminal();
        lines.with_ansi(colour).with_filter(filter).boxed()
    };
    // A second initialisation in one process is harmless.
    let _ = tracing_subscriber::registry().with(lines).try_init();
}

fn dispatch(command: Command) -> Result<(), Failed> {
    match command {
        Command::Serve(s) => serve(&s, false),
        Command::Demo(s) => serve(&s, true),
        Command::Plan { file } => {
            let project = furniture::read(read_json(&file)?)?;
            print(&solve(&project))
        }
        Command::Kinds => print(&kinds()),
        Command::Add(a) => add(&a),
        Command::Accept(a) => accept_sheets(&a),
        Command::Compute { name } => match compute::run(&name, read_json(Path::new("-"))?) {
            Some(answer) => print(&answer?),
            None => Err(Problem::new(
                "not-found",
                "No such calculator",
                "",
                format!("There is no calculator \"{name}\"."),
            )
            .allowing(compute::names().collect::<Vec<_>>().join(", "))
            .into()),
        },
        Command::Survey {
            what: SurveyCommand::Simulate(s),
        } => simulate(&s),
        Command::Export {
            id,
            kind,
            part,
            paper,
            release,
            data,
        } => {
            let wanted = Wanted {
                part,
                paper,
                release,
            };
            let kind = Export::of(&kind)?;
            let store = open(&data_dir(data.data.as_deref())?)?;
            let head = store.head(&id)?;
            out(&write(kind, &head, &solve(&head.project), &wanted)?)
        }
        Command::Import { file, data } => import(&file, &data),
        Command::Backup { file, data } => {
            open(&data_dir(data.data.as_deref())?)?.backup(&file)?;
            println!("Copied to {}.", file.display());
            Ok(())
        }
        Command::Openapi => print(&crate::api::document()),
    }
}

/// Every kind of furniture.
fn kinds() -> Vec<Value> {
    let kinds = furniture::KINDS.iter();
    kinds
        .map(|k| serde_json::json!({ "kind": k.name(), "purpose": k.purpose(), "schema": k.schema() }))
        .collect()
}

fn add(a: &Add) -> Result<(), Failed> {
    let mut project = furniture::read(read_json(&a.file)?)?;
    let mut sets = Vec::new();
    for set in &a.set {
        let Some((field, value)) = set.split_once('=') else {
            let words = format!("\"{set}\" is no FIELD=VALUE.");
            return Err(Problem::shape("/set", words).into());
        };
        sets.push((field.trim().to_string(), value.to_string()));
    }
    let model = Model::new(&project);
    let (id, module) = suggest(
        &project,
        &model,
        furniture::KINDS,
        &a.kind,
        a.id.as_deref(),
        &sets,
    )?;
    project.modules.insert(id, module);
    print(&project)
}

fn accept_sheets(a: &Accept) -> Result<(), Failed> {
    within(a.effort, "/effort", 0.0, 20.0)?;
    let mut project = furniture::read(read_json(&a.file)?)?;
    let plan = solve(&project);
    if let Some(problem) = plan.sheets.iter().find_map(|g| g.problem.clone()) {
        return Err(Problem::impossible("/cutting", problem).into());
    }
    let groups = if a.effort == 0.0 && project.cutting.accepted.is_none() {
        plan.sheets
    } else {
        lay_out(
            &project,
            &plan.parts,
            Keep::Begun,
            a.effort.max(0.05),
            &mut |_| true,
        )
        .unwrap_or_default()
    };
    let ticked = ticks(&project, &groups);
    project.cutting.accepted = Some(accept(&groups, &plan.parts, &project));
    project.cutting.ticked = ticked;
    print(&project)
}

fn simulate(s: &Simulate) -> Result<(), Failed> {
    let vehicle = Vehicle::read(read_json(&s.vehicle)?)?;
    within(s.noise, "/noise", 0.0, 50.0)?;
    within(s.blunder_mm, "/blunder_mm", -1000.0, 1000.0)?;
    count(s.heights.len(), "/heights", 0, 12)?;
    for (i, z) in s.heights.iter().enumerate() {
        within(*z, &format!("/heights/{i}"), 0.0, 5000.0)?;
    }
    let taken = survey(
        &vehicle,
        &Walk {
            errors: match s.with {
                With::Plain => Errors::noise(s.noise),
                With::Tape => Errors::tape(),
                With::Inches => Errors::inches(),
                With::Laser => Errors::laser(),
            },
            instrument: match s.with {
                With::Laser => Instrument::Laser,
                _ => Instrument::Tape,
            },
            blunders: s.blunders,
            blunder_mm: s.blunder_mm,
            seed: s.seed,
            heights: s.heights.clone(),
            protocol: match s.protocol {
                Protocol::Full => Thoroughness::Full,
                Protocol::Quick => Thoroughness::Quick,
            },
        },
    );
    if let Some(file) = &s.truth {
        let truth = serde_json::json!({ "blunders": taken.blunders }).to_string();
        std::fs::write(file, truth)
            .map_err(|e| format!("{} cannot be written: {e}", file.display()))?;
    }
    print(&taken.project)
}

fn serve(s: &Serve, with_demo: bool) -> Result<(), Failed> {
    let dir = match (&s.data.data, with_demo) {
        (Some(dir), _) => data_dir(Some(dir))?,
        (None, false) => data_dir(None)?,
        (None, true) => data_dir(Some(&data_dir(None)?.join("demo")))?,
    };
    let mut store = open(&dir)?;
    if with_demo {
        demo::load(&mut store)?;
    }
    Ok(listen(store, s.port, s.lan)?)
}

fn import(file: &Path, data: &Data) -> Result<(), Failed> {
    let project = furniture::read(read_json(file)?)?;
    let mut store = open(&data_dir(data.data.as_deref())?)?;
    let id = free_id(&store, &project.name)?;
    store.create(&id, &project, &now())?;
    println!("{id}");
    Ok(())
}

/// Reads a JSON file, or standard input for `-`.
fn read_json(file: &Path) -> Result<Value, Failed> {
    let mut bytes = Vec::new();
    let read = if file == Path::new("-") {
        std::io::stdin().lock().read_to_end(&mut bytes)
    } else {
        std::fs::File::open(file).and_then(|mut f| f.read_to_end(&mut bytes))
    };
    read.map_err(|e| Failed::Told(format!("{} cannot be read: {e}", file.display())))?;
    serde_json::from_slice(&bytes)
        .map_err(|e| Problem::new("not-json", "Not JSON", "", e.to_string()).into())
}

fn print<T: serde::Serialize>(value: &T) -> Result<(), Failed> {
    let mut text = serde_json::to_vec_pretty(value).map_err(|e| e.to_string())?;
    text.push(b'\n');
    out(&text)
}

fn out(bytes: &[u8]) -> Result<(), Failed> {
    let mut stdout = std::io::stdout().lock();
    match stdout.write_all(bytes).and_then(|()| stdout.flush()) {
        // A reader that has seen enough is no failure.
        Err(e) if e.kind() == std::io::ErrorKind::BrokenPipe => Ok(()),
        done => done.map_err(|e| Failed::Told(e.to_string())),
    }
}
