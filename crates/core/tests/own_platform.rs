//! A sleeping platform from outside the core: what is judged on decks is judged on it, by what it says of itself.

use crate::common::*;
use jigfit_core::checks::Severity;
use jigfit_core::furniture::built::{Board, Built, Claim, Pose};
use jigfit_core::furniture::platform::gaps::Lines;
use jigfit_core::furniture::platform::parting::{Demands, Parting};
use jigfit_core::furniture::platform::span::{burden, sag};
use jigfit_core::furniture::platform::{
    DeckPlan, Dial, Dials, Hatch, Limits, Manner, Overhang, Platform, Split, Stands, Surface,
    Worked,
};
use jigfit_core::furniture::{Field, KINDS, Kind, Site, Wanted};
use jigfit_core::geometry::region::Region;
use jigfit_core::mechanics::material::Grain;
use jigfit_core::plan::{Plan, solve_with};
use jigfit_core::problem::Problem;
use jigfit_core::project::Project;
use jigfit_core::project::module::Module;
use jigfit_core::units::figure::Why;
use serde_json::{Map, Value, json};

/// A hammock board: 1.9 m long and 1.2 m wide, hung from two lines, no windows below.
struct Shelf;

const THICK: f64 = 12.0;

fn height(m: &Module) -> Option<f64> {
    m.choices.get("height")?.as_f64()
}

fn plan_of() -> Region {
    Region::rectangle(50.0, -600.0, 1950.0, 600.0)
}

impl Kind for Shelf {
    fn name(&self) -> &'static str {
        "hammock"
    }
    fn purpose(&self) -> &'static str {
        "To hang in."
    }
    fn schema(&self) -> Value {
        json!({"type": "object", "properties": {"height": {"type": "number"}}})
    }
    fn check(&self, _: &Project, m: &Module) -> Result<(), Problem> {
        let problem = || Problem::missing("/choices/height", "How high?");
        height(m).map(|_| ()).ok_or_else(problem)
    }
    fn complete(&self, choices: &Map<String, Value>) -> Map<String, Value> {
        choices.clone()
    }
    fn defaults(&self, _: &Site, wanted: &Wanted) -> Result<Module, Problem> {
        Ok(wanted.module("hammock", &json!({"height": 600})))
    }
    fn form(&self, _: &Module, _: &Site) -> Vec<Field> {
        vec![]
    }
    fn claim(&self, m: &Module, _: &Site) -> Option<Claim> {
        let z = height(m)?;
        Some(Claim {
            plan: plan_of(),
            z: (z, z + THICK),
            keeps: vec![],
        })
    }
    fn platform(&self, _: &Project, id: &str, m: &Module) -> Option<Platform> {
        let at = format!("/modules/{id}/choices/height");
        Some(Platform {
            name: m.called(),
            underside: height(m),
            surface: Surface {
                material: "birch-ply".into(),
                thickness: THICK,
                slats: None,
                limits: Limits::default(),
            },
            finish: 0.0,
            stands: Stands {
                manner: Manner::Legs,
                material: "birch-ply".into(),
                thickness: 15.0,
                deep: 70.0,
            },
            hatch: Hatch {
                placed: vec![],
                wanted: false,
                size: (300.0, 400.0),
            },
            rest: None,
            leaf: None,
            dials: Dials([(Dial::Underside, at)].into()),
        })
    }
    fn work(&self, m: &Module, site: &Site) -> Option<Built> {
        let (z, whole) = (height(m)?, plan_of());
        let wanted = self.platform(site.project, site.id, m)?;
        let mut board = Board::new("board", "panel", "H", whole.clone(), Pose::level(z));
        board.name = m.called();
        board.thickness = THICK;
        let lines = vec![60.0, 1940.0];
        let who = burden(site.project);
        let e = site
            .project
            .material("birch-ply")?
            .modulus(THICK, Grain::Along)?;
        let carried = Lines::new(
            site,
            (z, 15.0),
            (std::slice::from_ref(&whole), &lines),
            &[],
            (&[], &[]),
        );
        let plan = DeckPlan {
            id: site.id.into(),
            name: m.called(),
            underside: site.w.figure(z),
            thickness: site.w.figure(THICK),
            bay: whole.clone(),
            obstacles: vec![],
            below: vec![],
            panels: vec![whole.clone()],
            clearance: Why {
                about: "clearance".into(),
                total: site.w.figure(5.0),
                steps: vec![],
            },
            lines: lines.clone(),
            supports: vec![],
            vents: vec![],
            span: None,
            split: Split::Whole,
            area: whole.area(),
        };
        let worked = Worked {
            refused: vec![],
            plan,
            sag: sag(&wanted.surface, e, &[vec![1880.0]], &who),
            burden: who,
            parting: Parting {
                how: Split::Whole,
                pieces: vec![whole.clone()],
                edges: vec![],
                xs: vec![],
                ys: vec![],
                on_sheet: true,
                turned: vec![],
                through: true,
            },
            demands: Demands {
                sheet: (2440.0, 1220.0),
                opening: vec![],
                depth: 2000.0,
                thickness: THICK,
                joint: None,
            },
            clearance: 5.0,
            sd: 1.0,
            free_pieces: 1,
            missing: vec![],
            carried,
            ways: vec![vec![(1100.0, z)]],
            lines,
            hatches: 0,
            leaf: None,
            left_out: 0,
            overhang: Overhang::default(),
        };
        Some(Built {
            boards: vec![board],
            platform: Some(Box::new(worked)),
            ..Built::default()
        })
    }
}

fn with_height(z: f64) -> Plan {
    let mut doc = box_van();
    doc["people"] = json!({"a": {"name": "A", "stature": 1840}});
    let modules = doc["modules"].as_object_mut().unwrap();
    modules.clear();
    modules.insert(
        "h".into(),
        json!({"kind": "hammock", "choices": {"height": z}}),
    );
    let project = Project::read(doc).unwrap();
    let kinds: Vec<&dyn Kind> = KINDS.iter().copied().chain([&Shelf as &dyn Kind]).collect();
    solve_with(&project, &kinds)
}

/// One board of 12 over 1880: `5 q L^4 / 384 E I` is far past span/250, and nothing under a knee holds either.
#[test]
fn it_is_judged_as_decks_are() {
    let p = with_height(300.0);
    for (id, level) in [
        ("sag.sleepers.h", Severity::Stop),
        ("sag.knee.h", Severity::Stop),
        ("air.h", Severity::Look),
        ("clearance.h", Severity::Fine),
        ("door.h", Severity::Look),
    ] {
        let f = finding(&p, id).unwrap_or_else(|| panic!("no {id}"));
        assert_eq!(f.level, level, "{}", f.sentence);
    }
    // It has no supports, thickness or slats to choose: nothing of that is offered.
    for id in ["sag.sleepers.h", "air.h"] {
        assert_eq!(finding(&p, id).unwrap().offers, vec![], "{id}");
    }
}

/// So high that nobody sits up on it: it may be lowered, by its own choice.
#[test]
fn what_it_can_change_is_offered() {
    let p = with_height(800.0);
    let f = finding(&p, "sits.").expect("nobody sits up");
    assert_eq!(f.level, Severity::Stop);
    let paths: Vec<&str> = f
        .offers
        .iter()
        .map(|o| o.patch[0]["path"].as_str().unwrap())
        .collect();
    assert_eq!(paths, ["/modules/h/choices/height"]);
}
