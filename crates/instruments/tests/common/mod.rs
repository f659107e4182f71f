//! Vehicles of known shape, surveyed, and fit-outs made in them at random.
#![allow(dead_code)]

pub mod prisms;

use jigfit_core::furniture::add::suggest;
use jigfit_core::furniture::{self, KINDS};
use jigfit_core::project::Project;
use jigfit_core::project::survey::{Instrument, Thoroughness};
use jigfit_core::survey::model::Model;
use jigfit_instruments::simulate::{Walk, survey};
use jigfit_instruments::tape::Errors;
use jigfit_instruments::vehicle::Vehicle;
use rand::Rng;

/// All vehicles.
pub const ALL: [&str; 9] = [
    "arrow",
    "badger",
    "crate",
    "heron",
    "kingfisher",
    "lapwing",
    "moth",
    "otter",
    "snail",
];

/// A vehicle that ships.
pub fn vehicle(name: &str) -> Vehicle {
    let path = format!("{}/vehicles/{name}.json", env!("CARGO_MANIFEST_DIR"));
    Vehicle::read(serde_json::from_slice(&std::fs::read(path).unwrap()).unwrap()).unwrap()
}

/// A survey in full with a tape, without slips.
pub fn walk(seed: u64) -> Walk {
    Walk {
        errors: Errors::noise(1.0),
        blunders: 0,
        blunder_mm: 0.0,
        seed,
        protocol: Thoroughness::Full,
        instrument: Instrument::Tape,
        heights: vec![],
    }
}

/// Surveyed so.
pub fn surveyed(v: &Vehicle, seed: u64) -> Project {
    survey(v, &walk(seed)).project
}

/// Adds a kind as the program would; whether it found a place.
pub fn add(project: &mut Project, model: &Model, kind: &str, sets: &[(String, String)]) -> bool {
    let Ok((id, module)) = suggest(project, model, KINDS, kind, None, sets) else {
        return false;
    };
    project.modules.insert(id, module);
    // As it would be stored.
    *project = furniture::read(project.to_json().unwrap()).unwrap();
    true
}

/// Random choices of a kind.
pub fn sets(kind: &str, rng: &mut impl Rng) -> Vec<(String, String)> {
    let mut of = |list: &[&str]| list[rng.random_range(0..list.len())].to_string();
    let mut sets: Vec<(String, String)> = Vec::new();
    match kind {
        "drawer" => {
            sets.push(("opens".into(), of(&["rear", "left", "right"])));
            sets.push(("motion".into(), of(&["side_slides", "strips", "bare"])));
            sets.push(("joint".into(), of(&["groove_box", "pocket", "rabbet"])));
            sets.push(("face".into(), of(&["overlay", "inset"])));
            sets.push(("thickness".into(), of(&["12", "15", "18"])));
            sets.push(("columns".into(), of(&["1", "1", "2", "3"])));
            sets.push(("rows".into(), of(&["1", "1", "2"])));
            sets.push(("cells_across".into(), of(&["1", "1", "2"])));
            sets.push(("cells_deep".into(), of(&["1", "2", "3"])));
            sets.push(("front".into(), of(&["fast", "fast", "drops"])));
            match of(&["table", "nested", "neither"]).as_str() {
                "table" => sets.push(("table".into(), of(&["12", "15"]))),
                "nested" => {
                    sets.retain(|s| s.0 != "motion");
                    sets.push(("inner".into(), "nested".into()));
                }
                _ => {}
            }
            if of(&["no", "no", "yes"]) == "yes" {
                sets.push(("width".into(), of(&["16 1/2 in", "500", "700"])));
            }
            sets.push(("grip".into(), of(&["handle", "hole", "slot"])));
        }
        "cabinet" => {
            sets.push(("opens".into(), of(&["rear", "left", "right"])));
            sets.push(("front".into(), of(&["open", "doors", "flaps"])));
            sets.push(("columns".into(), of(&["1", "2", "3"])));
            sets.push(("rows".into(), of(&["1", "2", "3"])));
            sets.push(("thickness".into(), of(&["12", "15", "18"])));
            sets.push(("lip".into(), of(&["0", "30"])));
            if sets.iter().any(|s| s.0 == "thickness" && s.1 != "12") {
                sets.push(("hinges".into(), of(&["butt", "long", "flush", "cup"])));
            }
            sets.push(("rim".into(), of(&["edges", "frame"])));
            sets.push(("foot".into(), of(&["floor", "plinth", "feet"])));
            sets.push(("bottom".into(), of(&["board", "slats"])));
            sets.push(("top".into(), of(&["board", "slats", "rails"])));
            let joins = ["butt", "pocket", "groove", "blocks", "brackets"];
            sets.push(("join".into(), of(&joins)));
            if of(&["no", "no", "yes"]) == "yes" {
                sets.push(("reach".into(), "80".into()));
            }
            sets.push(("grip".into(), of(&["handle", "hole", "slot"])));
        }
        "shelves" => {
            sets.push(("opens".into(), of(&["rear", "left", "right"])));
            sets.push(("levels".into(), of(&["1", "2", "3"])));
            sets.push(("thickness".into(), of(&["9", "12", "15"])));
            sets.push(("lip".into(), of(&["0", "40"])));
            sets.push(("pieces".into(), of(&["1", "1", "2", "3"])));
            match of(&["plain", "pins", "pipe"]).as_str() {
                "pins" => sets.push(("on".into(), "pins".into())),
                "pipe" => {
                    sets.push(("pipe".into(), of(&["22", "50"])));
                    sets.push(("pipe_at".into(), of(&["90", "110"])));
                }
                _ => {}
            }
        }
        "pull_out" => {
            sets.push(("opens".into(), of(&["rear", "left", "right"])));
            sets.push(("table".into(), of(&["12", "15", "18"])));
            sets.push(("thickness".into(), of(&["12", "15"])));
        }
        "bench" => {
            sets.push(("opens".into(), of(&["rear", "left", "right"])));
            sets.push(("bays".into(), of(&["1", "2", "3"])));
            sets.push(("thickness".into(), of(&["12", "15", "18"])));
            sets.push(("hinge".into(), of(&["40", "60", "90"])));
            sets.push(("end".into(), of(&["right", "left"])));
            sets.push(("cable".into(), of(&["null", "32"])));
            sets.push(("hinges".into(), of(&["butt", "long", "flush"])));
            sets.push(("grip".into(), of(&["handle", "hole", "slot"])));
        }
        "kitchen" => {
            sets.push(("opens".into(), of(&["rear", "left", "right"])));
            sets.push(("thickness".into(), of(&["12", "15", "18"])));
            sets.push(("height".into(), of(&["450", "600"])));
        }
        "pull_bed" => {
            sets.push(("opens".into(), of(&["rear", "left", "right"])));
            sets.push(("width".into(), of(&["700", "1200", "1900"])));
            sets.push(("thickness".into(), of(&["12", "15", "18"])));
            sets.push(("slat".into(), of(&["12", "15", "18"])));
            sets.push(("overlap".into(), of(&["50", "75", "150"])));
        }
        "bought" => {
            sets.push(("opens".into(), of(&["rear", "left", "right"])));
            sets.push(("width".into(), of(&["300", "450", "800"])));
            sets.push(("depth".into(), of(&["300", "500", "700"])));
            sets.push(("height".into(), of(&["150", "280", "420"])));
            sets.push(("reach".into(), of(&["0", "300"])));
            sets.push(("base".into(), of(&["board", "bare"])));
            sets.push(("thickness".into(), of(&["9", "12", "18"])));
        }
        "slide_seat" => {
            sets.push(("opens".into(), of(&["rear", "left", "right"])));
            sets.push(("width".into(), of(&["700", "1200", "1900"])));
            sets.push(("depth".into(), of(&["450", "520", "600"])));
            sets.push(("leaf".into(), of(&["200", "260", "320"])));
            sets.push(("thickness".into(), of(&["12", "15", "18"])));
            sets.push(("top".into(), of(&["15", "18", "21"])));
        }
        "table" => {
            sets.push(("opens".into(), of(&["rear", "left", "right"])));
            sets.push(("thickness".into(), of(&["12", "15", "18"])));
            sets.push(("top".into(), of(&["15", "18", "21"])));
            if of(&["half", "low"]) == "low" {
                sets.push(("low".into(), of(&["180", "240", "300"])));
            }
        }
        "locker" => {
            sets.push(("dividers".into(), of(&["0", "1", "2"])));
            sets.push(("across".into(), of(&["left_wall", "right_wall"])));
            sets.push(("thickness".into(), of(&["9", "12", "15"])));
            sets.push(("grip".into(), of(&["handle", "hole", "slot"])));
        }
        "box_seat" => {
            sets.push(("thickness".into(), of(&["12", "15", "18"])));
            sets.push(("dividers".into(), of(&["0", "1", "2"])));
            sets.push(("hinge".into(), of(&["30", "50", "90"])));
            sets.push(("across".into(), of(&["left_wall", "right_wall", "centred"])));
            sets.push(("height".into(), of(&["200", "300", "380"])));
            sets.push(("grip".into(), of(&["handle", "hole", "slot"])));
        }
        _ => {
            sets.push(("underside".into(), of(&["180", "250", "320", "410"])));
            sets.push(("supports.manner".into(), of(&["frames", "legs", "ledgers"])));
            if sets.iter().any(|s| s.1 == "legs" || s.1 == "ledgers") {
                let made = ["birch-ply", "spruce-38x89", "steel-angle-40"];
                sets.push(("supports.material".into(), of(&made)));
            }
            if of(&["no", "yes"]) == "yes" {
                sets.push(("hatches".into(), "bays".into()));
                sets.push(("hatch_length".into(), of(&["150", "300"])));
            }
            if of(&["fixed", "moves"]) == "moves" {
                sets.push(("change".into(), of(&["slide", "fold", "flip", "lift"])));
                sets.push(("joint".into(), of(&["700", "1000", "1300"])));
            } else {
                sets.push(("top".into(), of(&["solid", "slats"])));
                sets.push(("rest".into(), of(&["edge", "strips"])));
                sets.push(("split".into(), of(&["auto", "lengthwise", "quarters"])));
            }
            // By what was drawn so far: what is drawn after it stays as it was.
            let stays =
                |s: &(String, String)| !matches!(s.1.as_str(), "slats" | "slide" | "fold" | "flip");
            if sets.iter().all(stays) {
                let drawn = sets.iter().flat_map(|s| s.1.bytes());
                let drawn: usize = drawn.map(usize::from).sum();
                let leaf = ["none", "left", "right", "both"][drawn % 4];
                let long = ["120", "250", "420"][drawn % 3];
                sets.push(("leaf".into(), leaf.into()));
                sets.push(("leaf_length".into(), long.into()));
            }
        }
    }
    sets
}
