//! Places by relation: a piece that begins where another ends, or stands on it. Resolved before anything is worked
//! out, in an order that goes; a circle is an error with both names.

use std::collections::{BTreeMap, BTreeSet};

use super::built::Claim;
use super::deck::shared;
use super::spot::BESIDE;
use super::{Kind, Site, kind};
use crate::input::escape;
use crate::problem::Problem;
use crate::project::Project;
use crate::project::module::{Across, ModulePlace};
use crate::survey::model::Model;
use crate::template::fill::{CLEAR, LEAN};

/// What a place hangs on: the field, and the module it names.
fn hangs_on(place: &ModulePlace) -> impl Iterator<Item = (&'static str, &String)> {
    let named = [
        ("after", &place.after),
        ("beside", &place.beside),
        ("on", &place.on),
    ];
    named
        .into_iter()
        .filter_map(|(f, id)| Some((f, id.as_ref()?)))
}

/// On which side of a piece another stands, and where that face lies: on the left or right if so wanted, else towards
/// the middle of the bay.
pub(super) fn beside(claim: &Claim, wanted: Across) -> (Across, f64) {
    let (_, y0, _, y1) = claim.plan.bounds();
    let left = match wanted {
        Across::LeftWall => true,
        Across::RightWall => false,
        Across::Centred | Across::WallToWall => y0 + y1 < 0.0,
    };
    // Both claims keep half the distance between neighbours.
    if left {
        (Across::LeftWall, y1 + BESIDE / 2.0)
    } else {
        (Across::RightWall, y0 - BESIDE / 2.0)
    }
}

/// Where a thing ends towards the front, with what every board keeps to it: the rule of edges, the piece's finish, and half of what
/// neighbours keep, mm.
pub(super) fn before(model: &Model, thing: &str, finish: f64) -> Option<f64> {
    let thing = model.things().find(|o| o.id == thing)?;
    let walls = model.bay((thing.z.0 + thing.z.1) / 2.0);
    let most = walls.map_or(0.0, |b| shared(&b, &b).sd).max(thing.sd);
    let clearance = CLEAR * most + LEAN * thing.sd + finish;
    Some(thing.x.1 + thing.extra + clearance + BESIDE / 2.0)
}

/// How much of the bay is left before a piece, up to the front at its height; none if it does not go in, mm.
fn spare(model: &Model, claim: &Claim) -> f64 {
    let (_, y0, x1, y1) = claim.plan.bounds();
    let z = f64::midpoint(claim.z.0, claim.z.1);
    let reach = [y0, f64::midpoint(y0, y1), y1].map(|y| model.reach(y, z));
    let front = reach.into_iter().flatten().reduce(f64::min);
    // The claim keeps half the distance between neighbours more than the piece takes.
    front.map_or(0.0, |front| (front - x1 + BESIDE / 2.0).max(0.0))
}

/// The modules in an order in which everything comes after what it hangs on.
fn ordered(project: &Project) -> Result<Vec<&String>, Problem> {
    let mut out: Vec<&String> = Vec::new();
    let mut done: BTreeSet<&String> = BTreeSet::new();
    while done.len() < project.modules.len() {
        let next = project.modules.iter().find(|(id, m)| {
            let free = |(_, on): (_, &String)| done.contains(on);
            !done.contains(id) && hangs_on(&m.place).all(free)
        });
        match next {
            Some((id, _)) => {
                done.insert(id);
                out.push(id);
            }
            None => return Err(circle(project, &done)),
        }
    }
    Ok(out)
}

/// Of those that are left each hangs on another that is left: following them comes round.
fn circle(project: &Project, done: &BTreeSet<&String>) -> Problem {
    let left = || project.modules.iter().filter(|(id, _)| !done.contains(id));
    let mut seen: Vec<&String> = Vec::new();
    let mut at = left().next().map(|(id, _)| id);
    while let Some(id) = at.filter(|id| !seen.contains(id)) {
        seen.push(id);
        let on = project.modules.get(id).map(|m| &m.place);
        at = on.and_then(|p| {
            let mut all = hangs_on(p).map(|(_, on)| on);
            all.find(|on| !done.contains(on))
        });
    }
    let start = at.cloned().unwrap_or_default();
    let name = |id: &String| {
        let m = project.modules.get(id);
        m.map_or(id.clone(), |m| format!("the {}", m.called()))
    };
    let round = seen.iter().skip_while(|id| ***id != start);
    let names: Vec<String> = round.map(|id| name(id)).collect();
    let place = project.modules.get(&start).map(|m| &m.place);
    let field = place
        .and_then(|p| hangs_on(p).next())
        .map_or("after", |f| f.0);
    let words = match names.as_slice() {
        [one] => format!("{one} cannot stand after or on itself."),
        many => format!(
            "{} wait for each other: one of them has to begin somewhere else.",
            many.join(" and ")
        ),
    };
    let mut words = words;
    if let Some(first) = words.get_mut(..1) {
        first.make_ascii_uppercase();
    }
    Problem::new(
        "circle",
        "In a circle",
        format!("/modules/{}/place/{field}", escape(&start)),
        words,
    )
}

/// Checks that relations lead somewhere and not in a circle.
///
/// # Errors
/// A module that is not there; a circle, with the names.
pub fn check(project: &Project) -> Result<(), Problem> {
    for (id, m) in &project.modules {
        if let Some(thing) = &m.place.against
            && !project.survey.things.contains_key(thing)
        {
            let at = format!("/modules/{}/place/against", escape(id));
            let words = format!(
                "There is nothing \"{thing}\" in the vehicle in front of which the {} could begin.",
                m.called()
            );
            return Err(Problem::missing(at, words));
        }
        for (field, on) in hangs_on(&m.place) {
            if !project.modules.contains_key(on) {
                let at = format!("/modules/{}/place/{field}", escape(id));
                let words = format!(
                    "There is no piece \"{on}\" on which the {} hangs.",
                    m.called()
                );
                return Err(Problem::missing(at, words));
            }
        }
    }
    ordered(project).map(|_| ())
}

/// The project with every place counted from the threshold and the floor.
pub fn resolved(project: &Project, model: &Model, kinds: &[&dyn Kind]) -> Project {
    let related = |p: &Project| {
        p.modules.values().any(|m| {
            let halfway = !m.place.lengthwise.is_off();
            halfway || m.place.against.is_some() || hangs_on(&m.place).next().is_some()
        })
    };
    let mut out = project.clone();
    if !related(project) {
        return out;
    }
    let Ok(order) = ordered(project) else {
        return out;
    };
    let nothing = BTreeMap::new();
    let w = project.writer();
    let mut claims: BTreeMap<&String, Claim> = BTreeMap::new();
    for id in order {
        let Some(module) = out.modules.get(id).cloned() else {
            continue;
        };
        let Some(k) = kind(kinds, &module.kind) else {
            continue;
        };
        let claim = |out: &Project| {
            let module = out.modules.get(id)?;
            let site = Site {
                project: out,
                model,
                id,
                claims: &nothing,
                w,
            };
            k.claim(module, &site)
        };
        let mut place = module.place.clone();
        let halfway = !place.lengthwise.is_off();
        if halfway {
            place.along = 0.0;
        }
        if let Some(from) = place
            .against
            .as_ref()
            .and_then(|id| before(model, id, module.finish))
        {
            place.along += from;
        }
        if let Some(by) = place.beside.as_ref().and_then(|b| claims.get(b)) {
            let (across, face) = beside(by, place.across);
            (place.across, place.face) = (across, Some(face));
        }
        if let Some(before) = module.place.after.as_ref().and_then(|a| claims.get(a)) {
            // Both claims keep half the distance between neighbours.
            place.along += before.plan.bounds().2 + BESIDE / 2.0;
        }
        if let Some(m) = out.modules.get_mut(id) {
            m.place = ModulePlace {
                up: 0.0,
                ..place.clone()
            };
        }
        // Its own floor, once it is known where along it stands.
        let floor = claim(&out).map_or(0.0, |c| c.z.0);
        if let Some(below) = module.place.on.as_ref().and_then(|o| claims.get(o)) {
            place.up += below.z.1 - floor;
        }
        if let Some(m) = out.modules.get_mut(id) {
            m.place = place.clone();
        }
        if let Some(claim) = claim(&out).filter(|_| halfway) {
            place.along += spare(model, &claim) / 2.0;
            if let Some(m) = out.modules.get_mut(id) {
                m.place = place;
            }
        }
        if let Some(claim) = claim(&out) {
            claims.insert(id, claim);
        }
    }
    out
}
