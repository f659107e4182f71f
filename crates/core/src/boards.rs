//! Boards and modules as a plan shows them: exact, where they lie in every state.

use std::collections::BTreeMap;

use geo::Centroid;
use serde::Serialize;
use utoipa::ToSchema;

use crate::furniture::built::{Body, Built, Pocket, Pose, Vec3};
use crate::furniture::riding::Bodies;
use crate::furniture::{Field, Kind, Site, kind};
use crate::geometry::region::{Bounds, Region};
use crate::parts::Part;
use crate::parts::marking::cut_shape;
use crate::project::Project;
use crate::side_by_side::each;
use crate::survey::model::Model;

/// A board where it lies.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct BoardView {
    /// `module/board`.
    pub id: String,
    /// The module.
    pub module: String,
    /// What is written on it.
    pub mark: String,
    /// What it is for.
    pub role: String,
    /// The body it belongs to: what moves as one.
    pub body: String,
    /// Thickness, mm.
    pub thickness: f64,
    /// Exact shape with holes and notches.
    pub outline: Region,
    /// The rectangles round its rings, the outer one first: where a point is, is asked of them again and again.
    #[serde(skip)]
    pub bounds: Vec<Bounds>,
    /// Grooves and rabbets taken out of it.
    pub pockets: Vec<Pocket>,
    /// Where it lies, by state.
    pub poses: BTreeMap<String, Pose>,
    /// Where it lies with everything shut.
    #[serde(skip)]
    pub shut: Pose,
    /// It is bought and stands there as it is: the box round it.
    #[serde(skip)]
    pub bought: bool,
    /// It is bolted, not screwed into.
    #[serde(skip)]
    pub metal: bool,
    /// What it weighs, kg.
    #[serde(skip)]
    pub mass: f64,
    /// Where the middle of that lies with everything shut.
    #[serde(skip)]
    pub middle: Vec3,
}

impl BoardView {
    /// The rectangle round its outline.
    pub fn rectangle(&self) -> Bounds {
        self.bounds.first().copied().unwrap_or_default()
    }
}

/// A piece of furniture as it is listed and chosen.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct ModuleView {
    /// Identifier.
    pub id: String,
    /// Kind.
    pub kind: String,
    /// What it is called.
    pub name: String,
    /// How many boards, and things bought, it is made of; none while numbers are missing.
    pub boards: usize,
    /// What of it moves.
    pub bodies: Vec<Body>,
    /// Its choices as a form.
    pub form: Vec<Field>,
}

/// All boards, in the order of modules.
pub fn views(project: &Project, built: &BTreeMap<String, Built>, parts: &[Part]) -> Vec<BoardView> {
    let mut marks: BTreeMap<&str, &str> = BTreeMap::new();
    for p in parts {
        marks.extend(p.boards.iter().map(|b| (b.as_str(), p.mark.as_str())));
    }
    let pieces: Vec<_> = built.iter().collect();
    let views = each(&pieces, |(module, b)| {
        let mut out = Vec::new();
        let bodies = Bodies::new(&b.bodies);
        let cut = b.boards.iter().map(|board| (board, None));
        let bought = b.bought.iter().map(|b| (&b.body, Some(b.mass)));
        for (board, bought) in cut.chain(bought) {
            let Some(outline) = cut_shape(board) else {
                continue;
            };
            let id = format!("{module}/{}", board.id);
            let (x0, y0, ..) = board.shape.bounds();
            let pose = board.pose.from(board.pose.at(x0, y0, 0.0));
            let body = format!("{module}/{}", board.body);
            let pockets = board.pockets.iter().map(|p| Pocket {
                outline: p.outline.moved(-x0, -y0),
                ..p.clone()
            });
            let material = project
                .material(&board.material)
                .filter(|_| bought.is_none());
            let density = material.as_ref().map_or(0.0, |m| m.density);
            let metal = material.and_then(|m| m.bar).is_some_and(|b| b.metal);
            let middle = outline
                .polygon()
                .centroid()
                .map_or([0.0; 2], |c| [c.x(), c.y()]);
            out.push(BoardView {
                metal,
                bought: bought.is_some(),
                mass: bought.unwrap_or(outline.area() * board.thickness * density * 1e-9),
                middle: pose.at(middle[0], middle[1], board.thickness / 2.0),
                // Nothing is written on what is bought: it is called what it is.
                mark: match bought {
                    Some(_) => board.name.clone(),
                    None => marks.get(id.as_str()).copied().unwrap_or("").into(),
                },
                module: (*module).clone(),
                role: board.role.into(),
                thickness: board.thickness,
                bounds: outline.rectangles(),
                outline,
                pockets: pockets.collect(),
                shut: pose,
                poses: project
                    .states
                    .iter()
                    .map(|(state, s)| (state.clone(), bodies.lies(&body, pose, &|id| s.open(id))))
                    .collect(),
                body,
                id,
            });
        }
        out
    });
    views.into_iter().flatten().collect()
}

/// All furniture of the document.
pub fn modules(
    project: &Project,
    model: &Model,
    kinds: &[&dyn Kind],
    built: &BTreeMap<String, Built>,
) -> Vec<ModuleView> {
    let claims = BTreeMap::new();
    let view = |(id, m): (&String, &crate::project::module::Module)| {
        let site = Site {
            project,
            model,
            id,
            claims: &claims,
            w: project.writer(),
        };
        let own = built.get(id);
        ModuleView {
            id: id.clone(),
            kind: m.kind.clone(),
            name: m.called(),
            boards: own.map_or(0, |b| b.boards.len() + b.bought.len()),
            bodies: own.map_or(vec![], |b| b.bodies.clone()),
            form: kind(kinds, &m.kind).map_or(vec![], |k| k.form(m, &site)),
        }
    };
    project.modules.iter().map(view).collect()
}
