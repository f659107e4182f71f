//! What a plan says of itself besides its stages' own results: how each stage stands, and the materials there are.

use serde::Serialize;
use utoipa::ToSchema;

use super::Plan;
use crate::checks::Severity;
use crate::mechanics::material::{BUILT_IN, Material};
use crate::project::Project;

/// A material that can be chosen.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct MaterialView {
    /// Identifier.
    pub id: String,
    /// The user's own numbers, not the built-in ones.
    pub own: bool,
    /// How a bar is sold, in words; nothing for sheets.
    pub sold: Option<String>,
    /// Its numbers.
    pub material: Material,
}

/// How a stage stands.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct StageState {
    /// `survey`, `stow`, `heights`, `layout`, `templates`, `parts`, `cut`.
    pub id: String,
    /// `empty`, `needs` or `done`.
    pub state: String,
    /// Numbers it still needs.
    pub needs: usize,
    /// In a few words.
    pub note: String,
    /// The worst finding that belongs to it.
    pub worst: Option<Severity>,
}

pub(super) fn materials(project: &Project) -> Vec<MaterialView> {
    let mut ids: Vec<&str> = BUILT_IN.to_vec();
    ids.extend(
        project
            .materials
            .keys()
            .map(String::as_str)
            .filter(|k| !BUILT_IN.contains(k)),
    );
    ids.into_iter()
        .filter_map(|id| {
            let material = project.material(id)?;
            let w = project.writer();
            let sold = material.section().zip(material.bar).map(|((a, b), bar)| {
                format!(
                    "{} x {}, in lengths of {}",
                    w.bare(a),
                    w.say(b),
                    w.say(bar.length)
                )
            });
            Some(MaterialView {
                id: id.into(),
                own: project.materials.contains_key(id),
                sold,
                material,
            })
        })
        .collect()
}

pub(super) fn stages(project: &Project, plan: &Plan) -> Vec<StageState> {
    let count = |n: usize, one: &str, many: &str| match n {
        1 => format!("1 {one}"),
        n => format!("{n} {many}"),
    };
    let readings = project.survey.readings.len();
    let pieces: usize = plan.parts.iter().map(|p| p.count as usize).sum();
    let sheets: usize = plan.sheets.iter().map(|g| g.nest.sheets_used).sum();
    let stowed = project.gear.len() + project.people.len();
    let stow = format!(
        "{}, {}",
        count(project.gear.len(), "thing", "things"),
        count(project.people.len(), "sleeper", "sleepers")
    );
    let chosen = plan.ladder.as_ref().and_then(|l| l.chosen.as_ref());
    let height = match (chosen, &plan.ladder) {
        (Some(c), _) => project.writer().say(c.underside.value),
        (None, Some(_)) => "choose one".into(),
        (None, None) => "needs the roof".into(),
    };
    let rows = [
        (
            "survey",
            readings > 0,
            count(readings, "reading", "readings"),
        ),
        (
            "stow",
            stowed > 0,
            if stowed > 0 {
                stow
            } else {
                "nothing yet".into()
            },
        ),
        ("heights", chosen.is_some(), height),
        (
            "layout",
            plan.modules.iter().any(|m| m.boards > 0),
            count(plan.modules.len(), "piece", "pieces"),
        ),
        (
            "templates",
            !plan.templates.is_empty(),
            match plan.templates.len() {
                0 => "no curve yet".into(),
                n => count(n, "curve", "curves"),
            },
        ),
        ("parts", pieces > 0, count(pieces, "part", "parts")),
        ("cut", sheets > 0, count(sheets, "sheet", "sheets")),
    ];
    rows.into_iter()
        .map(|(id, some, note)| {
            let asked = plan.asks.iter().filter(|a| a.stage == id && a.needed);
            let needs = asked.count();
            let state = match (needs, some) {
                (0, true) => "done",
                (0, false) => "empty",
                _ => "needs",
            };
            let own = plan.findings.iter().filter(|f| f.stage == id);
            StageState {
                id: id.into(),
                state: state.into(),
                needs,
                note,
                worst: own.map(|f| f.level).min(),
            }
        })
        .collect()
}
