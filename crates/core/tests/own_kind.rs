//! A kind of furniture from outside the core, through `solve_with`: nothing else is touched.

use crate::common::*;
use jigfit_core::furniture::built::{Board, Built, Claim, Pose};
use jigfit_core::furniture::{Field, KINDS, Kind, Site, Wanted};
use jigfit_core::geometry::region::Region;
use jigfit_core::mechanics::material::PartGrain;
use jigfit_core::plan::solve_with;
use jigfit_core::problem::Problem;
use jigfit_core::project::Project;
use jigfit_core::project::module::Module;
use serde_json::{Map, Value, json};

/// A plank across the bay at a height.
struct Plank;

impl Kind for Plank {
    fn name(&self) -> &'static str {
        "plank"
    }
    fn purpose(&self) -> &'static str {
        "To put a cup on."
    }
    fn schema(&self) -> Value {
        json!({"type": "object", "properties": {"height": {"type": "number"}}})
    }
    fn check(&self, _: &Project, m: &Module) -> Result<(), Problem> {
        let ok = m.choices.get("height").and_then(Value::as_f64).is_some();
        ok.then_some(())
            .ok_or_else(|| Problem::missing("/choices/height", "How high?"))
    }
    fn complete(&self, choices: &Map<String, Value>) -> Map<String, Value> {
        choices.clone()
    }
    fn defaults(&self, _: &Site, wanted: &Wanted) -> Result<Module, Problem> {
        Ok(wanted.module("plank", &json!({"height": 600})))
    }
    fn form(&self, _: &Module, _: &Site) -> Vec<Field> {
        vec![]
    }
    fn claim(&self, m: &Module, site: &Site) -> Option<Claim> {
        let z = m.choices.get("height")?.as_f64()?;
        let (_, y0, _, y1) = site.model.bay(z)?.region.bounds();
        let plan = Region::rectangle(m.place.along, y0, m.place.along + 200.0, y1);
        Some(Claim {
            plan,
            z: (z, z + 18.0),
            keeps: vec![],
        })
    }
    fn work(&self, m: &Module, site: &Site) -> Option<Built> {
        let z = m.choices.get("height")?.as_f64()?;
        let cross = jigfit_core::furniture::cross::Cross::new(site, None, m.finish, z);
        let (y0, y1) = cross.across((m.place.along, m.place.along + 200.0), z)?;
        let shape = Region::rectangle(m.place.along, y0, m.place.along + 200.0, y1);
        let mut board = Board::new("board", "plank", "P", shape, Pose::level(z));
        board.name = m.called();
        board.thickness = 18.0;
        board.grain = PartGrain::Across;
        Some(Built {
            boards: vec![board],
            ..Built::default()
        })
    }
}

#[test]
fn a_kind_from_outside_is_drawn_cut_and_judged() {
    let mut doc = box_van();
    doc["modules"]["cups"] =
        json!({"kind": "plank", "place": {"along": 900}, "choices": {"height": 305}});
    let project = Project::read(doc).unwrap();
    let kinds: Vec<&dyn Kind> = KINDS.iter().copied().chain([&Plank as &dyn Kind]).collect();
    let p = solve_with(&project, &kinds);
    let part = p.parts.iter().find(|p| p.mark == "P1").unwrap();
    // 1400 less the clearance on both sides, 200 along.
    assert_eq!(part.w.mm, "200");
    assert!((1388.0..1396.0).contains(&part.h.value), "{}", part.h.value);
    assert!(p.views.above.iter().any(|s| s.module == "cups"));
    assert!(p.sheets.iter().any(|s| s.thickness.mm == "18"));
    // The deck of 15 lies at 300: they are in each other.
    assert!(finding(&p, "clash.cups.deck").is_some());
    assert!(p.modules.iter().any(|m| m.kind == "plank" && m.boards == 1));
}
