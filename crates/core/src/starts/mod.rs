//! Starting points: whole fit-outs that are worked out for this vehicle and this stow list, each with why one would
//! want it and what it gives up. Each is solved before it is offered; where one does not go, it says why.

mod recipes;

use serde::Serialize;
use serde_json::{Value, json};
use utoipa::ToSchema;

use crate::checks::Severity;
use crate::curves::view::{TemplateView, templates};
use crate::furniture::KINDS;
use crate::furniture::add::suggest;
use crate::heights::ladder::Stack;
use crate::heights::view::stack;
use crate::plan::{Plan, solve_while};
use crate::project::Project;
use crate::project::deck::Deck;
use crate::survey::model::Model;
use crate::units::figure::{Figure, Writer};
pub use recipes::RECIPES;

/// A starting point.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct StartingPoint {
    /// Identifier.
    pub id: String,
    /// What it is called.
    pub name: String,
    /// Why one would want it.
    pub why: String,
    /// What it gives up here.
    pub gives_up: Vec<String>,
    /// Why it does not go here, if it does not.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub cannot: Option<String>,
    /// The pieces of furniture, by name.
    pub pieces: Vec<String>,
    /// What comes of it.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub measures: Option<Measures>,
    /// The edit that makes it: it takes the place of all furniture that is there.
    #[schema(value_type = Vec<Object>)]
    pub patch: Value,
}

/// A fit-out in a few figures, to be laid beside another.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Measures {
    /// What the sheets cost that have a price.
    pub cost: f64,
    /// How many sheets have no price.
    pub unpriced: usize,
    /// How many sheets.
    pub sheets: usize,
    /// Boards to cut.
    pub boards: u32,
    /// What the furniture weighs, in the project's units.
    pub weighs: String,
    /// Room over the bed for somebody who sits on it.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub headroom: Option<Figure>,
    /// What of the stow list has its place.
    pub stowed: Vec<String>,
    /// Who sits up in bed.
    pub sits: Vec<String>,
    /// How long it takes from the road to the night, in words.
    pub evening: String,
    /// What would stop it, in sentences.
    pub stops: Vec<String>,
    /// How many things deserve a look.
    pub looks: usize,
}

impl Measures {
    /// Of a plan.
    pub fn of(plan: &Plan) -> Measures {
        let chosen = plan.ladder.as_ref().and_then(|l| l.chosen.as_ref());
        let of = |level| plan.findings.iter().filter(move |f| f.level == level);
        // What the survey still wants is the same for all.
        let stops = of(Severity::Stop).filter(|f| f.stage != "survey");
        let seconds: u32 = plan.evening.moves.iter().map(|m| m.seconds).sum();
        let persons = plan.evening.moves.iter().map(|m| m.persons).max();
        Measures {
            cost: plan.cost,
            unpriced: plan.unpriced,
            sheets: plan.sheets.iter().map(|g| g.nest.sheets_used).sum(),
            boards: plan.parts.iter().map(|p| p.count).sum(),
            weighs: plan.weighs.clone(),
            headroom: chosen.map(|c| c.headroom.clone()),
            stowed: plan.stowed.clone(),
            sits: chosen.map(|c| c.sits.clone()).unwrap_or_default(),
            evening: match (seconds, persons) {
                (0, _) | (_, None) => "nothing to move".into(),
                (s, Some(1)) => format!("{s} s, alone"),
                (s, Some(n)) => format!("{s} s, {n} persons"),
            },
            stops: stops.map(|f| f.sentence.clone()).collect(),
            looks: of(Severity::Look).count(),
        }
    }
}

/// What a recipe goes by.
pub struct Ground<'a> {
    /// The document without furniture.
    pub project: &'a Project,
    /// The vehicle.
    pub model: &'a Model,
    /// Everything between floor and roof.
    pub stack: Stack,
    /// Length of the bay on the floor, mm.
    pub length: f64,
    /// Writes lengths.
    pub w: Writer,
}

/// The choice of a bench for which a bay is made, where one goes.
const APPLIANCE: &str = "appliance";

/// A piece to be added: its kind, and its choices as typed.
pub type Piece = (&'static str, Vec<(String, String)>);

/// Pieces, the first first, and what is given up; or why it does not go.
pub type Made = Result<(Vec<Piece>, Vec<String>), String>;

/// How a starting point comes about.
pub struct Recipe {
    /// Identifier.
    pub id: &'static str,
    /// What it is called.
    pub name: &'static str,
    /// Why one would want it.
    pub why: &'static str,
    /// Its pieces, the first first, and what it gives up; or why it does not go.
    pub pieces: fn(&Ground) -> Made,
}

/// All starting points, as long as `go_on` says so.
pub fn starting_points(
    project: &Project,
    go_on: &(dyn Fn() -> bool + Sync),
) -> Option<Vec<StartingPoint>> {
    let curves = templates(project);
    let model = Model::new_while(project, &curves, go_on)?;
    let mut bare = project.clone();
    bare.modules.clear();
    bare.cutting.accepted = None;
    bare.cutting.ticked.clear();
    let each = RECIPES.iter().map(|r| {
        let mut out = StartingPoint {
            id: r.id.into(),
            name: r.name.into(),
            why: r.why.into(),
            gives_up: vec![],
            cannot: None,
            pieces: vec![],
            measures: None,
            patch: json!([]),
        };
        if !go_on() {
            return None;
        }
        match made(&bare, &model, r) {
            Ok((with, gives_up)) => {
                let (with, plan) = bettered(with, (&model, &curves), go_on)?;
                out.gives_up = gives_up;
                out.pieces = with.modules.values().map(|m| m.called()).collect();
                out.measures = Some(Measures::of(&plan));
                out.patch = json!([{"op": "add", "path": "/modules", "value": with.modules}]);
            }
            Err(words) => out.cannot = Some(words),
        }
        Some(out)
    });
    each.collect()
}

/// The fit-out with what the plan itself offers against its stops, as long as that leaves fewer of them.
fn bettered(
    mut with: Project,
    known: (&Model, &[TemplateView]),
    go_on: &(dyn Fn() -> bool + Sync),
) -> Option<(Project, Plan)> {
    /// So many offers are tried for one starting point.
    const TRIES: usize = 6;
    let stops = |plan: &Plan| Measures::of(plan).stops.len();
    let mut plan = solve_while(&with, known, go_on)?;
    let mut tried = 0;
    'next: loop {
        let own = plan.findings.iter().filter(|f| f.level == Severity::Stop);
        let offers = own.flat_map(|f| &f.offers).map(|o| o.patch.clone());
        // Only the furniture is anybody's to choose here.
        let of_modules = |patch: &Value| {
            let all = patch.as_array().map_or(&[][..], |a| a);
            let path = |op: &Value| {
                op["path"]
                    .as_str()
                    .is_some_and(|p| p.starts_with("/modules/"))
            };
            all.iter().all(path)
        };
        for patch in offers.filter(of_modules).collect::<Vec<_>>() {
            if tried == TRIES {
                break;
            }
            tried += 1;
            let Some(next) = patched(&with, patch) else {
                continue;
            };
            let better = solve_while(&next, known, go_on)?;
            if stops(&better) < stops(&plan) && next.modules.len() == with.modules.len() {
                (with, plan) = (next, better);
                continue 'next;
            }
        }
        return Some((with, plan));
    }
}

/// The document after an offer.
fn patched(project: &Project, patch: Value) -> Option<Project> {
    let patch: json_patch::Patch = serde_json::from_value(patch).ok()?;
    let mut document = project.to_json().ok()?;
    json_patch::patch(&mut document, &patch).ok()?;
    crate::furniture::read(document).ok()
}

/// The document with the pieces of a recipe, or why they do not go.
fn made(bare: &Project, model: &Model, r: &Recipe) -> Result<(Project, Vec<String>), String> {
    let stack = stack(bare, model, Deck::default().thickness)
        .ok_or("Floor to roof was not measured yet: every height hangs on it.")?;
    let length = model
        .length(0.0)
        .filter(|_| model.bay(0.0).is_some())
        .ok_or("The bay was not measured yet: its length and both walls.")?;
    let ground = Ground {
        project: bare,
        model,
        stack,
        length,
        w: bare.writer(),
    };
    let (pieces, mut gives_up) = (r.pieces)(&ground)?;
    let mut with = bare.clone();
    for (kind, mut sets) in pieces {
        let mut found = suggest(&with, model, KINDS, kind, None, &sets);
        if found.is_err() && sets.iter().any(|s| s.0 == APPLIANCE) {
            sets.retain(|s| s.0 != APPLIANCE);
            gives_up.push("no bay for an appliance goes in".into());
            found = suggest(&with, model, KINDS, kind, None, &sets);
        }
        let (id, module) = found.map_err(|p| bare.in_own_units(p).detail)?;
        with.modules.insert(id, module);
    }
    Ok((with, gives_up))
}
