//! `solve`: the whole plan from the document, stage by stage. Pure and deterministic.

mod told;

use std::collections::BTreeMap;

use serde::Serialize;
use utoipa::ToSchema;

pub use self::told::{MaterialView, StageState};
use self::told::{materials, stages};
use crate::assembly::{Assembly, assemblies};
use crate::boards::{self, BoardView, ModuleView};
use crate::checks::{self, Ctx, Finding, PlatformCtx, Severity};
use crate::curves::view::{TemplateView, templates};
use crate::cutting::accepted;
use crate::cutting::sheets::{self, SheetGroup};
use crate::evening::{Evening, evening};
use crate::furniture::built::Built;
use crate::furniture::platform::DeckPlan;
use crate::furniture::riding::Bodies;
use crate::furniture::{self, KINDS, Kind, relation};
use crate::heights::view::{Ladder, ladder, stack};
use crate::holds::{self, HoldView, Holds, TakingOut};
use crate::joints::{self, HardwareLine, JointView};
use crate::motion::stops;
use crate::parts::{Part, marking};
use crate::project::Project;
use crate::projection::{self, Views};
use crate::protocol::{self, Ask, Progress};
use crate::side_by_side::{beside, within};
use crate::stow;
use crate::survey::drawing::{SurveyView, view};
use crate::survey::model::Model;
use crate::template::over::{Over, over};
use crate::testfit::{self, FitBoard};
use crate::transfer::{Transferred, transfer};

/// Everything worked out from a project.
#[derive(Debug, Clone, Default, PartialEq, Serialize, ToSchema)]
pub struct Plan {
    /// How each stage stands.
    pub stages: Vec<StageState>,
    /// Numbers still to be taken, the most needed first.
    pub asks: Vec<Ask>,
    /// How far the survey is.
    pub progress: Progress,
    /// The vehicle as measured.
    pub survey: SurveyView,
    /// The height ladder, once the roof is measured.
    pub ladder: Option<Ladder>,
    /// The decks, once the bay is measured and a height chosen.
    pub decks: Vec<DeckPlan>,
    /// All furniture, worked out or not.
    pub modules: Vec<ModuleView>,
    /// All boards where they lie.
    pub boards: Vec<BoardView>,
    /// What is bought and stands in it as it is: the boxes round it, where they lie.
    pub bought: Vec<BoardView>,
    /// All furniture from above, from the side and from behind.
    pub views: Views,
    /// Drive, day, night, and what is moved between them.
    pub evening: Evening,
    /// What holds boards together.
    pub joints: Vec<JointView>,
    /// What holds each piece to the vehicle.
    pub holds: Vec<HoldView>,
    /// In which order everything comes out again.
    pub out: TakingOut,
    /// What of the stow list has its place, by name.
    pub stowed: Vec<String>,
    /// What is bought besides boards.
    pub hardware: Vec<HardwareLine>,
    /// All parts.
    pub parts: Vec<Part>,
    /// All sheets.
    pub sheets: Vec<SheetGroup>,
    /// What will go wrong, worst first.
    pub findings: Vec<Finding>,
    /// What the sheets cost that have a price.
    pub cost: f64,
    /// How many sheets have no price.
    #[serde(default)]
    pub unpriced: usize,
    /// What the build weighs, kg.
    pub mass: f64,
    /// The same in the project's units.
    pub weighs: String,
    /// Captured curves.
    pub templates: Vec<TemplateView>,
    /// Whether they may be turned over for the other side.
    pub over: Vec<Over>,
    /// Boards that can be held in place, and what was seen.
    pub fits: Vec<FitBoard>,
    /// Holes for what is fixed in the vehicle already.
    pub transferred: Vec<Transferred>,
    /// How each piece is put together.
    pub assembly: Vec<Assembly>,
    /// The materials there are, the user's own corrections in place.
    pub materials: Vec<MaterialView>,
}

/// Works out the plan.
pub fn solve(project: &Project) -> Plan {
    let (model, curves) = known(project);
    solve_while(project, (&model, &curves), &|| true).unwrap_or_else(|| Plan::broken(project))
}

/// The vehicle and the captured curves.
fn known(project: &Project) -> (Model, Vec<TemplateView>) {
    let curves = templates(project);
    let model = Model::new_while(project, &curves, &|| true).unwrap_or_default();
    (model, curves)
}

/// Works out the plan over a vehicle and captured curves that are known already, as long as `go_on` says so: between
/// stages it is asked, and `None` is the answer when nobody waits any more.
pub fn solve_while(
    project: &Project,
    known: (&Model, &[TemplateView]),
    go_on: &(dyn Fn() -> bool + Sync),
) -> Option<Plan> {
    within(|| work_out(project, known, KINDS, go_on))
}

/// Works out the plan with kinds of furniture of one's own.
pub fn solve_with(project: &Project, kinds: &[&dyn Kind]) -> Plan {
    let (model, curves) = known(project);
    let plan = within(|| work_out(project, (&model, &curves), kinds, &|| true));
    plan.unwrap_or_else(|| Plan::broken(project))
}

fn work_out(
    asked: &Project,
    (model, captured): (&Model, &[TemplateView]),
    kinds: &[&dyn Kind],
    go_on: &(dyn Fn() -> bool + Sync),
) -> Option<Plan> {
    let project = &asked.with_measured_boards();
    if !go_on() {
        return None;
    }
    // What does not wait for each other is worked out side by side.
    let (measured, placed) = beside(
        || Measured::of(project, model, captured),
        || place(project, model, kinds),
    );
    let Placed {
        built,
        transferred,
        mut parts,
    } = placed;
    if !go_on() {
        return None;
    }
    let boards = boards::views(project, &built, &parts);
    let called = |id: &str| {
        project
            .modules
            .get(id)
            .map_or(id.to_string(), |m| m.called())
    };
    let laid_out = || {
        let sheets = sheets::groups(project, &parts);
        let decks = project.decks();
        let ladder = decks
            .first()
            .and_then(|(id, d)| ladder(project, model, (id, d)));
        (sheets, projection::views(model, &boards), ladder)
    };
    let put_together = || {
        let fits = testfit::boards(project, model, &boards, &parts);
        let evening = evening(project, model, &built, &boards);
        let (joints, bill) = joints::joints(&built, &boards, &called, &project.writer());
        let assembly = assemblies(&built, &boards, &parts, &joints, &called);
        // Forms show what was chosen: the board by its nominal size.
        let modules = boards::modules(asked, model, kinds, &built);
        (fits, evening, joints, bill, assembly, modules)
    };
    let ((sheets, views, ladder), (stops, together)) = beside(laid_out, || {
        beside(|| stops((project, model), &built, &boards), put_together)
    });
    let (fits, evening, joints, mut bill, assembly, modules) = together;
    if !go_on() {
        return None;
    }
    let Measured {
        mut asks,
        progress,
        survey,
        over,
    } = measured;

    let platforms: Vec<PlatformCtx> = project
        .modules
        .iter()
        .filter_map(|(id, m)| {
            let kind = furniture::kind(kinds, &m.kind)?;
            let platform = kind.platform(project, id, m)?;
            Some(PlatformCtx {
                id,
                stack: stack(project, model, platform.surface.thickness),
                worked: built.get(id).and_then(|b| b.platform.as_deref()),
                platform,
            })
        })
        .collect();
    let bodies = Bodies::new(built.values().flat_map(|b| &b.bodies));
    let ctx = Ctx {
        assembly: &assembly,
        bodies: &bodies,
        transferred: &transferred,
        joints: &joints,
        holds: &Holds::default(),
        templates: captured,
        fits: &fits,
        boards: &boards,
        project,
        model,
        platforms: &platforms,
        parts: &parts,
        sheets: &sheets,
        stops: &stops,
        evening: &evening,
        built: &built,
        w: project.writer(),
    };
    checks::latch::buy(&ctx, &called, &mut bill);
    let stowed = checks::stowed::within(&ctx);
    let holds = holds::holds(project, &built, &boards, &joints, &stowed, &mut bill);
    let findings = checks::findings(&Ctx {
        holds: &holds,
        ..ctx
    });
    asks.extend(holds.asks);
    let mut placed: Vec<String> = stowed
        .iter()
        .filter_map(|(_, g)| Some(project.gear.get(*g)?.name.clone()))
        .collect();
    let below = ladder.as_ref().and_then(|l| l.chosen.as_ref());
    placed.extend(below.into_iter().flat_map(|c| c.fits.clone()));
    placed.sort();
    placed.dedup();
    let decks: Vec<DeckPlan> = built
        .values()
        .filter_map(|b| Some(b.platform.as_ref()?.plan.clone()))
        .collect();
    let step = project.units.marks().mm();
    let bored = (&joints[..], &holds.bored[..]);
    joints::screws(&mut parts, bored, &boards, &project.writer(), step);
    let (bought, boards) = boards.into_iter().partition(|b| b.bought);
    let mut plan = Plan {
        stages: vec![],
        survey,
        progress,
        ladder,
        decks,
        modules,
        views,
        evening,
        templates: captured.to_vec(),
        over,
        fits,
        transferred,
        assembly,
        joints,
        hardware: bill.lines(),
        stowed: placed,
        holds: holds.pieces,
        out: holds.out,
        boards,
        bought,
        cost: sheets.iter().map(|g| g.nest.cost).sum(),
        unpriced: sheets.iter().map(|g| g.unpriced).sum(),
        mass: mass(&parts),
        weighs: project.writer().mass(mass(&parts)),
        asks,
        materials: materials(project),
        parts,
        sheets,
        findings,
    };
    plan.stages = stages(project, &plan);
    Some(plan)
}

/// What follows from the survey alone.
struct Measured {
    asks: Vec<Ask>,
    progress: Progress,
    survey: SurveyView,
    over: Vec<Over>,
}

impl Measured {
    fn of(project: &Project, model: &Model, captured: &[TemplateView]) -> Measured {
        let (mut asks, progress) = protocol::asks(project, model);
        asks.extend(stow::asks(project));
        asks.extend(crate::template::asks::asks(project));
        Measured {
            asks,
            progress,
            survey: view(project, model),
            over: over(project, model, captured),
        }
    }
}

/// The furniture worked out, and the parts it is cut from.
struct Placed {
    built: BTreeMap<String, Built>,
    transferred: Vec<Transferred>,
    parts: Vec<Part>,
}

fn place(project: &Project, model: &Model, kinds: &[&dyn Kind]) -> Placed {
    let placed = relation::resolved(project, model, kinds);
    let mut built = furniture::work(&placed, model, kinds);
    let transferred = transfer(project, &mut built, &project.writer());
    let mut parts = marking::parts(project, &built);
    accepted::tell(project, &mut parts, &project.writer());
    Placed {
        built,
        transferred,
        parts,
    }
}

impl Plan {
    /// A plan with nothing in it but the sentence that it could not be worked out.
    pub fn broken(project: &Project) -> Plan {
        let sentence = "The plan could not be worked out: this is a fault of the program. Your numbers are safe. Take the last change back, or take the project file away and report it.";
        let mut plan = Plan {
            findings: vec![
                Finding::new("broken", Severity::Stop, "survey", sentence.into())
                    .rule("every project has a plan", "the program itself"),
            ],
            materials: materials(project),
            ..Plan::default()
        };
        plan.stages = stages(project, &plan);
        plan
    }
}

fn mass(parts: &[Part]) -> f64 {
    parts.iter().map(|p| p.mass * f64::from(p.count)).sum()
}
