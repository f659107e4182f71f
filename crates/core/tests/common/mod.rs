//! Projects for tests, written as a person would measure them.

pub mod curves;
pub mod random;

use std::sync::Arc;

use jigfit_core::boards::BoardView;
use jigfit_core::checks::{Finding, Offer, Severity};
use jigfit_core::curves::view::{TemplateView, templates};
use jigfit_core::furniture::add::suggest;
use jigfit_core::furniture::built::Vec3;
use jigfit_core::furniture::{KINDS, read};
use jigfit_core::plan::{Plan, solve};
use jigfit_core::problem::Problem;
use jigfit_core::project::Project;
use jigfit_core::project::module::Module;
use jigfit_core::remedies::remedies;
use jigfit_core::survey::model::Model;
use serde_json::{Value, json};

pub fn reading(quantity: Value, typed: &str) -> Value {
    json!({"quantity": quantity, "typed": typed, "unit": "mm"})
}

pub fn wall(side: &str, x: f64, z: f64) -> Value {
    json!({"of": "wall", "side": side, "x": x, "z": z})
}

pub fn thing(id: &str, dim: &str) -> Value {
    json!({"of": "thing", "id": id, "dim": dim})
}

/// A bay of 2000 x 1400 (700 to each wall) with upright walls read at the floor and 300 up, roof at 1200, opening 1200 x 1100,
/// a deck at 300 of 15 mm birch ply.
pub fn box_van() -> Value {
    let mut doc = json!({
        "format": "jigfit-project", "version": 3, "name": "Box", "vehicle": {"kind": "van"},
        "survey": {"sd": 1.0, "levels": {"l1": {"z": 0, "name": "floor"}, "l2": {"z": 300, "name": "300 up"}}, "readings": {}},
        "modules": {"deck": {"kind": "deck", "choices": {"underside": 300.0}}},
    });
    let mut all = vec![
        reading(json!({"of": "length", "z": 0}), "2000"),
        reading(json!({"of": "opening", "dim": "width_floor"}), "1200"),
        reading(json!({"of": "opening", "dim": "width_top"}), "1200"),
        reading(json!({"of": "opening", "dim": "height"}), "1100"),
        reading(json!({"of": "roof", "x": 700}), "1200"),
    ];
    for x in [0.0, 1000.0, 2000.0] {
        all.push(reading(wall("left", x, 0.0), "700"));
        all.push(reading(wall("right", x, 0.0), "700"));
    }
    all.push(reading(json!({"of": "length", "z": 300}), "2000"));
    for x in [0.0, 1000.0, 2000.0] {
        all.push(reading(wall("left", x, 300.0), "700"));
        all.push(reading(wall("right", x, 300.0), "700"));
    }
    for (i, r) in all.into_iter().enumerate() {
        doc["survey"]["readings"][format!("r{i:02}")] = r;
    }
    doc
}

/// The box van read at a third height, too: what is built up there is no less sure.
pub fn read_up_to(mut doc: Value, z: f64) -> Value {
    let lengths = [(json!({"of": "length", "z": z}), "2000")];
    let walls = ["left", "right"]
        .into_iter()
        .flat_map(|side| [0.0, 1000.0, 2000.0].map(|x| (wall(side, x, z), "700")));
    for (i, (quantity, typed)) in lengths.into_iter().chain(walls).enumerate() {
        doc["survey"]["readings"][format!("u{i}")] = reading(quantity, typed);
    }
    doc["survey"]["levels"]["l3"] = json!({"z": z, "name": "further up"});
    doc
}

/// Two wells from 600 to 1300, standing 200 in, 400 high.
pub fn with_wells(mut doc: Value) -> Value {
    for (id, side) in [("wl", "left"), ("wr", "right")] {
        doc["survey"]["things"][id] =
            json!({"kind": "wheel_well", "side": side, "name": format!("{side} well")});
        for (dim, typed) in [
            ("start", "600"),
            ("length", "700"),
            ("width", "200"),
            ("height", "400"),
        ] {
            doc["survey"]["readings"][format!("{id}-{dim}")] = reading(thing(id, dim), typed);
        }
    }
    doc
}

pub fn project(doc: &Value) -> Project {
    jigfit_core::furniture::read(doc.clone()).unwrap_or_else(|p| panic!("{p}"))
}

pub fn plan(doc: &Value) -> Plan {
    solve(&project(doc))
}

pub fn demo(name: &str) -> Value {
    let path = format!(
        "{}/../../server/demo/{name}.json",
        env!("CARGO_MANIFEST_DIR")
    );
    serde_json::from_str(&std::fs::read_to_string(path).unwrap()).unwrap()
}

/// The finding whose identifier begins so.
pub fn finding<'a>(plan: &'a Plan, id: &str) -> Option<&'a Finding> {
    plan.findings.iter().find(|f| f.id.starts_with(id))
}

pub fn level(plan: &Plan, id: &str) -> Option<Severity> {
    finding(plan, id).map(|f| f.level)
}

/// A box van 2000 long, 1400 wide, roof 1200, without furniture.
pub fn bare() -> Value {
    let mut doc = box_van();
    doc["modules"] = json!({});
    doc
}

/// Adds a kind as the program would.
pub fn add(
    doc: &mut Value,
    kind: &str,
    sets: &[(&str, &str)],
) -> Result<(String, Module), Problem> {
    let project = read(doc.clone()).unwrap();
    let sets: Vec<(String, String)> = sets
        .iter()
        .map(|(a, b)| (a.to_string(), b.to_string()))
        .collect();
    let (id, module) = suggest(&project, &Model::new(&project), KINDS, kind, None, &sets)?;
    doc["modules"][&id] = serde_json::to_value(&module).unwrap();
    Ok((id, module))
}

/// The document after a patch.
pub fn after(doc: &Value, patch: &Value) -> Value {
    let mut out = doc.clone();
    let patch: json_patch::Patch = serde_json::from_value(patch.clone()).unwrap();
    json_patch::patch(&mut out, &patch).unwrap();
    out
}

/// A board of a plan, by `module/board`.
pub fn board<'a>(p: &'a Plan, id: &str) -> &'a BoardView {
    p.boards.iter().find(|b| b.id == id).unwrap_or_else(|| {
        let ids: Vec<&str> = p.boards.iter().map(|b| b.id.as_str()).collect();
        panic!("{id} of {ids:?}")
    })
}

/// Least and greatest of its corners in a state.
pub fn ends(b: &BoardView, state: &str) -> (Vec3, Vec3) {
    let (w, h) = b.outline.size();
    let (mut low, mut high) = ([f64::INFINITY; 3], [f64::NEG_INFINITY; 3]);
    let flat = [(0.0, 0.0), (w, 0.0), (0.0, h), (w, h)];
    for (u, v) in flat {
        for t in [0.0, b.thickness] {
            let p = b.poses[state].at(u, v, t);
            for k in 0..3 {
                (low[k], high[k]) = (low[k].min(p[k]), high[k].max(p[k]));
            }
        }
    }
    (low, high)
}

/// What is known of a project's vehicle.
pub fn know(project: &Project) -> Option<(Arc<Model>, Arc<Vec<TemplateView>>)> {
    Some((Arc::new(Model::new(project)), Arc::new(templates(project))))
}

/// What would help against a finding.
pub fn asked(doc: &Value, finding: &str) -> Vec<Offer> {
    remedies(&project(doc), &know, finding, &|| true, &|| true)
        .unwrap()
        .offers
}
