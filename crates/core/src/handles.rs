//! What of a piece can be pulled at in the drawing, and which number that changes. Found by trying: each length of its form
//! is changed a little, and what moves is the handle. So a new kind has handles without a line of its own, and a handle
//! never moves anything but what it is at. An empty length, which the piece chooses itself, has one where typing what it
//! chose leaves everything where it is.

mod catches;

use std::collections::BTreeMap;

use serde::Serialize;
use serde_json::Value;
use utoipa::ToSchema;

use crate::furniture::built::{Board, Built, Vec3};
use crate::furniture::{FieldValue, Kind, Site, kind, relation, work, work_one};
use crate::geometry::pose::around;
use crate::problem::Problem;
use crate::project::Project;
use crate::project::module::Module;
use crate::side_by_side::each;
use crate::survey::model::Model;
pub use catches::Catch;
use catches::{Pulled, catches};

/// A number is changed by so much to see what moves, mm.
const TRY: f64 = 8.0;
/// What moves less than this share of the number, or more than this many times, is not pulled at (choices).
const LEAST: f64 = 0.3;
/// See `LEAST`.
const MOST: f64 = 3.0;
/// Handles of one axis nearer than this to each other are one, mm.
const APART: f64 = 15.0;

/// A choice smaller than this is a matter of stock or of fit: a thickness, a covering, a finish, mm.
const SMALL: f64 = 40.0;

/// Typed instead of left empty a number leaves every board within this of where it is, mm.
const SAME: f64 = 0.6;
/// So many faces of boards are tried for what an empty number stands for.
const FACES: usize = 12;

/// Something to pull at.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Handle {
    /// JSON Pointer of the number.
    pub pointer: String,
    /// What that is called.
    pub label: String,
    /// The number now, mm.
    pub value: f64,
    /// The axis along which it is pulled: 0 along the vehicle, 1 to the left, 2 up.
    pub axis: usize,
    /// The middle of what moves, mm.
    #[schema(value_type = Vec<f64>)]
    pub at: Vec3,
    /// So many mm it moves for one mm of the number.
    pub per: f64,
    /// Numbers at which it meets what holds: there it catches while it is pulled.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub catches: Vec<Catch>,
}

/// The box round something: least and greatest coordinates.
type Box3 = (Vec3, Vec3);

/// The handles of a piece.
///
/// # Errors
/// No such piece.
pub fn handles(
    project: &Project,
    model: &Model,
    kinds: &[&dyn Kind],
    piece: &str,
) -> Result<Vec<Handle>, Problem> {
    let module = project
        .modules
        .get(piece)
        .ok_or_else(|| Problem::missing("/piece", format!("There is no piece \"{piece}\".")))?;
    let project = project.with_measured_boards();
    let nothing = BTreeMap::new();
    let site = || Site {
        project: &project,
        model,
        id: piece,
        claims: &nothing,
        w: project.writer(),
    };
    let form = kind(kinds, &module.kind).map(|k| k.form(module, &site()));
    let lengths: Vec<(String, String, Option<f64>)> = form
        .unwrap_or_default()
        .into_iter()
        .filter_map(|f| match f.value {
            FieldValue::Length { now } => {
                let placed = f.pointer.contains("/place/");
                let now = now.map(|n| n.value);
                (placed || now.is_none_or(|mm| mm >= SMALL)).then_some((f.pointer, f.label, now))
            }
            _ => None,
        })
        .collect();
    let mut others = work(&relation::resolved(&project, model, kinds), model, kinds);
    let Some(now) = others.remove(piece) else {
        return Ok(vec![]);
    };
    let built = |module: Module| -> Option<Built> {
        let mut tried = project.clone();
        kind(kinds, &module.kind)?.check(&tried, &module).ok()?;
        tried.modules.insert(piece.to_string(), module);
        let placed = relation::resolved(&tried, model, kinds);
        work_one(&placed, model, kinds, piece)
    };
    let told = chosen(&now);
    let found = each(&lengths, |(pointer, label, value)| {
        let with = |mm: f64| built(changed(module, pointer, mm)?);
        let stays = |(mm, _): &(f64, usize)| with(*mm).is_some_and(|then| same(&now, &then));
        let stands = match value {
            Some(_) => None,
            None => Some(told.iter().copied().find(stays)?),
        };
        let value = &value.or(stands.map(|s| s.0))?;
        let typed = stands.and_then(|s| with(s.0));
        let now = typed.as_ref().unwrap_or(&now);
        [TRY, -TRY].into_iter().find_map(|by| {
            let then = built(changed(module, pointer, value + by)?)?;
            let Moved {
                axis,
                at,
                by: moves,
                planes,
            } = moved(now, &then)?;
            let per = moves / by;
            let own = stands.is_none_or(|s| s.1 == axis);
            let of_use = own && per.abs() > LEAST && per.abs() < MOST;
            of_use.then(|| {
                let pulled = Pulled {
                    value: *value,
                    axis,
                    at,
                    planes: &planes,
                    per,
                };
                Handle {
                    pointer: pointer.clone(),
                    label: label.clone(),
                    value: *value,
                    axis,
                    at,
                    per,
                    catches: catches(&site(), &others, &pulled),
                }
            })
        })
    });
    let mut out: Vec<Handle> = Vec::new();
    for handle in found.into_iter().flatten() {
        let same = |o: &Handle| {
            o.axis == handle.axis && (0..3).all(|k| (o.at[k] - handle.at[k]).abs() < APART)
        };
        if !out.iter().any(same) {
            out.push(handle);
        }
    }
    Ok(out)
}

/// What an empty number of a piece may stand for, and along which axis: where it begins and ends, how large it is, where its
/// boards begin along the vehicle.
fn chosen(now: &Built) -> Vec<(f64, usize)> {
    let boxes: Vec<Box3> = now.boards.iter().map(round).collect();
    let Some((low, high)) = all(boxes.iter()) else {
        return vec![];
    };
    let whole = (0..3).flat_map(|k| [low[k], high[k], high[k] - low[k]].map(|mm| (mm, k)));
    // Of what lies level first: it meets over the middle of what carries it, a little beside where that begins.
    let begins = |level: bool| {
        let own = now.boards.iter().zip(&boxes);
        let own = own.filter(|(b, _)| (b.pose.w()[2].abs() > 0.5) == level);
        let mut all: Vec<f64> = own.map(|(_, b)| b.0[0]).collect();
        all.sort_by(f64::total_cmp);
        all.dedup_by(|a, b| (*a - *b).abs() < APART);
        all
    };
    let faces = begins(true).into_iter().chain(begins(false));
    let faces = faces.take(FACES).map(|mm| (mm, 0));
    let mut out: Vec<(f64, usize)> = whole.chain(faces).collect();
    out.retain(|(mm, _)| *mm > 0.0);
    out
}

/// Every board is where it was.
fn same(now: &Built, then: &Built) -> bool {
    let near = |a: &Vec3, b: &Vec3| (0..3).all(|k| (a[k] - b[k]).abs() < SAME);
    let ends = |a: &Board, b: &Board| {
        let ((al, ah), (bl, bh)) = (round(a), round(b));
        a.id == b.id && near(&al, &bl) && near(&ah, &bh)
    };
    let pairs = now.boards.iter().zip(&then.boards);
    now.boards.len() == then.boards.len() && pairs.into_iter().all(|(a, b)| ends(a, b))
}

/// The module with another number at a pointer of its own.
fn changed(module: &Module, pointer: &str, value: f64) -> Option<Module> {
    // "/modules/id/..." without the first two.
    let own = pointer.splitn(4, '/').nth(3)?;
    let mut whole = serde_json::to_value(module).ok()?;
    let (parent, last) = own.rsplit_once('/').unwrap_or(("", own));
    let parent = match parent {
        "" => &mut whole,
        path => whole.pointer_mut(&format!("/{path}"))?,
    };
    parent
        .as_object_mut()?
        .insert(last.into(), Value::from(value));
    crate::input::from_value(whole).ok()
}

/// What has moved.
struct Moved {
    axis: usize,
    /// The middle of it.
    at: Vec3,
    /// How far.
    by: f64,
    /// Its planes along the axis: a face, or both ends and the middle of a board within.
    planes: Vec<f64>,
}

/// What has moved: a face of the whole before a board within it.
fn moved(now: &Built, then: &Built) -> Option<Moved> {
    let boxes = |b: &Built| -> BTreeMap<String, Box3> {
        b.boards.iter().map(|b| (b.id.clone(), round(b))).collect()
    };
    let (now, then) = (boxes(now), boxes(then));
    let (a, b) = (all(now.values())?, all(then.values())?);
    let middle =
        |(low, high): &Box3| -> Vec3 { std::array::from_fn(|k| f64::midpoint(low[k], high[k])) };
    // The axis on which most moves; what follows from that on another is not pulled at.
    let faces = (0..3).flat_map(|k| [(k, false, b.0[k] - a.0[k]), (k, true, b.1[k] - a.1[k])]);
    let most = faces
        .clone()
        .max_by(|x, y| x.2.abs().total_cmp(&y.2.abs()))?;
    if most.2.abs() > LEAST * TRY {
        let (axis, upper, by) = most;
        let other = if upper {
            b.0[axis] - a.0[axis]
        } else {
            b.1[axis] - a.1[axis]
        };
        let mut at = middle(&a);
        let mut planes = vec![a.0[axis], a.1[axis]];
        // As a whole it is pulled in the middle.
        if (other - by).abs() > 0.1 * by.abs() {
            at[axis] = if upper { a.1[axis] } else { a.0[axis] };
            planes = vec![at[axis]];
        }
        return Some(Moved {
            axis,
            at,
            by,
            planes,
        });
    }
    let inner = now.iter().filter_map(|(id, was)| {
        let is = then.get(id)?;
        let by = (0..3).map(|k| (k, is.0[k] - was.0[k], is.1[k] - was.1[k]));
        let (axis, low, high) = by.max_by(|x, y| x.1.abs().total_cmp(&y.1.abs()))?;
        let whole = (low - high).abs() < 0.1 * low.abs();
        (whole && low.abs() > LEAST * TRY).then(|| Moved {
            axis,
            at: middle(was),
            by: low,
            planes: vec![middle(was)[axis], was.0[axis], was.1[axis]],
        })
    });
    inner.max_by(|x, y| x.by.abs().total_cmp(&y.by.abs()))
}

fn round(b: &Board) -> Box3 {
    let corners = b.shape.outer.iter();
    let corners = corners.flat_map(|p| [0.0, b.thickness].map(|t| b.pose.at(p[0], p[1], t)));
    around(corners)
}

fn all<'a>(boxes: impl Iterator<Item = &'a Box3>) -> Option<Box3> {
    boxes.copied().reduce(|a, b| {
        (
            std::array::from_fn(|k| a.0[k].min(b.0[k])),
            std::array::from_fn(|k| a.1[k].max(b.1[k])),
        )
    })
}
