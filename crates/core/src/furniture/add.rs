//! Adding a piece of furniture: what is wanted, as typed, over what suits.

use std::collections::BTreeMap;

use serde_json::{Map, Value};

use super::built::Claim;
use super::relation::resolved as resolved_places;
use super::relation::{before, beside};
use super::spot::BESIDE;
use super::{Kind, Site, Wanted, kind, unknown};
use crate::input::tape_problem;
use crate::problem::Problem;
use crate::project::Project;
use crate::project::check::check as check_document;
use crate::project::module::{Across, FINISH, Module};
use crate::project::stock::{BOARDS, inch_board};
use crate::survey::model::Model;
use crate::units::figure::System;
use crate::units::tape;

/// A module that suits, and the identifier it gets. `sets` are choices or parts of the place, as typed:
/// `width` and `16 1/2 in`; a choice inside another has a dot, `supports.manner`.
///
/// # Errors
/// An unknown kind or field, a value that cannot be, no room.
pub fn suggest(
    project: &Project,
    model: &Model,
    kinds: &[&dyn Kind],
    name: &str,
    id: Option<&str>,
    sets: &[(String, String)],
) -> Result<(String, Module), Problem> {
    let kind = kind(kinds, name).ok_or_else(|| unknown(kinds, name, "/kind"))?;
    let id = free_id(project, name, id)?;
    let wanted = wanted(project, kind, sets)?;
    let claims = claims(project, model, kinds);
    let site = Site {
        project,
        model,
        id: &id,
        claims: &claims,
        w: project.writer(),
    };
    let module = hung(&site, kind, &wanted)?;
    let mut with = project.clone();
    with.modules.insert(id.clone(), module.clone());
    check_document(&with)?;
    super::check(&with, kinds)?;
    Ok((id, module))
}

/// The space that each piece wants.
pub(super) fn claims(
    project: &Project,
    model: &Model,
    kinds: &[&dyn Kind],
) -> BTreeMap<String, Claim> {
    let nothing = BTreeMap::new();
    let placed = &resolved_places(project, model, kinds);
    let known = placed.modules.iter();
    let known = known.filter_map(|(id, m)| Some((id, m, super::kind(kinds, &m.kind)?)));
    known
        .filter_map(|(id, m, k)| {
            let site = Site {
                project: placed,
                model,
                id,
                claims: &nothing,
                w: project.writer(),
            };
            Some((id.clone(), k.claim(m, &site)?))
        })
        .collect()
}

/// What suits where it is wanted: beside another piece its place is looked for from there and counted from there.
fn hung(site: &Site, kind: &dyn Kind, wanted: &Wanted) -> Result<Module, Problem> {
    let mut plain = wanted.clone();
    (plain.after, plain.on, plain.against, plain.beside) = (None, None, None, None);
    let claim = |id: &Option<String>| id.as_ref().and_then(|id| site.claims.get(id));
    if let Some(c) = claim(&wanted.after) {
        plain.along = Some(c.plan.bounds().2 + BESIDE / 2.0 + wanted.along.unwrap_or(0.0));
    }
    if let Some(from) = wanted
        .against
        .as_ref()
        .and_then(|id| before(site.model, id, wanted.finish.unwrap_or(FINISH)))
    {
        plain.along = Some(from + wanted.along.unwrap_or(0.0));
    }
    if let Some(c) = claim(&wanted.beside) {
        let (across, face) = beside(c, wanted.across.unwrap_or_default());
        (plain.across, plain.face) = (Some(across), Some(face));
    }
    if let Some(c) = claim(&wanted.on) {
        plain.up = Some(c.z.1 + wanted.up.unwrap_or(0.0));
    }
    let mut module = kind.defaults(site, &plain)?;
    if let Some(after) = &wanted.after {
        module.place.after = Some(after.clone());
        module.place.along = wanted.along.unwrap_or(0.0);
    }
    if let Some(against) = &wanted.against {
        module.place.against = Some(against.clone());
        module.place.along = wanted.along.unwrap_or(0.0);
    }
    if let Some(by) = &wanted.beside {
        module.place.beside = Some(by.clone());
        module.place.face = None;
    }
    if let Some(on) = &wanted.on {
        module.place.on = Some(on.clone());
        module.place.up = wanted.up.unwrap_or(0.0);
    }
    Ok(module)
}

/// The identifier asked for, or the kind's name with a number where there is one already.
fn free_id(project: &Project, name: &str, id: Option<&str>) -> Result<String, Problem> {
    let taken = |id: &str| project.modules.contains_key(id);
    if let Some(id) = id {
        if id.trim().is_empty() || id.contains('/') {
            let words = "An identifier is some letters, without a slash.";
            return Err(Problem::shape("/id", words));
        }
        if taken(id) {
            let words = format!("There is furniture with the identifier \"{id}\" already.");
            return Err(Problem::new("taken", "Taken", "/id", words));
        }
        return Ok(id.into());
    }
    let mut ids = std::iter::once(name.to_string()).chain((2..).map(|n| format!("{name}-{n}")));
    Ok(ids.find(|id| !taken(id)).unwrap_or_default())
}

fn wanted(
    project: &Project,
    kind: &dyn Kind,
    sets: &[(String, String)],
) -> Result<Wanted, Problem> {
    let schema = kind.schema();
    let mut out = Wanted {
        choices: by_the_inch(project, kind),
        ..Wanted::default()
    };
    for (field, typed) in sets {
        let path: Vec<&str> = field.split(['.', '/']).filter(|p| !p.is_empty()).collect();
        let at = format!("/choices/{}", path.join("/"));
        let length =
            |at: &str| tape::parse(typed, project.units.tape).map_err(|e| tape_problem(&e, at));
        if let Some(shape) = property(&schema, &path) {
            let value = read(shape, &schema, typed, project).map_err(|p| p.under(&at))?;
            put(&mut out.choices, &path, value);
            continue;
        }
        match path.as_slice() {
            ["name"] => out.name.clone_from(typed),
            ["finish"] => out.finish = Some(length("/finish")?),
            ["covers", edge @ ("left" | "right" | "front")] => {
                let mm = length(&format!("/covers/{edge}"))?;
                match *edge {
                    "left" => out.covers.left = mm,
                    "right" => out.covers.right = mm,
                    _ => out.covers.front = mm,
                }
            }
            ["along"] | ["place", "along"] => out.along = Some(length("/place/along")?),
            ["lengthwise"] | ["place", "lengthwise"] => {
                out.lengthwise = crate::input::from_value(Value::String(typed.clone()))
                    .map_err(|p| p.under("/place/lengthwise"))?;
            }
            ["after"] | ["place", "after"] => out.after = module(project, typed, "/place/after")?,
            ["beside"] | ["place", "beside"] => {
                out.beside = module(project, typed, "/place/beside")?;
            }
            ["against"] | ["place", "against"] => out.against = thing(project, typed)?,
            ["on"] | ["place", "on"] => out.on = module(project, typed, "/place/on")?,
            ["gap"] | ["place", "gap"] => out.gap = Some(length("/place/gap")?),
            ["up"] | ["place", "up"] => out.up = Some(length("/place/up")?),
            ["across"] | ["place", "across"] => {
                let across: Across = crate::input::from_value(Value::String(typed.clone()))
                    .map_err(|p| p.under("/place/across"))?;
                out.across = Some(across);
            }
            _ => {
                let words = format!("A {} has no choice \"{field}\".", kind.name());
                return Err(Problem::missing(at, words).allowing(names(&schema)));
            }
        }
    }
    Ok(out)
}

/// What a project in inches chooses unasked: boards as they are sold by the inch, sizes in quarters of one.
fn by_the_inch(project: &Project, kind: &dyn Kind) -> Map<String, Value> {
    /// Shorter lengths are as they are: gaps, hinges, slides, mm.
    const SHORT: f64 = 100.0;
    let w = project.writer();
    if w.system != System::In {
        return Map::new();
    }
    let board = |mm: f64| -> Value { inch_board(mm).into() };
    let usual = kind.complete(&Map::new());
    let mut out = Map::new();
    for (field, value) in &usual {
        // Counts are whole numbers; a mass is none of these.
        let Some(mm) = value.as_f64().filter(|_| value.is_f64()) else {
            continue;
        };
        if BOARDS.contains(&field.as_str()) {
            out.insert(field.clone(), board(mm));
        } else if mm >= SHORT && field != "mass" {
            out.insert(field.clone(), w.round(mm).into());
        }
    }
    if let Some(Value::Object(supports)) = usual.get("supports") {
        let mut own = supports.clone();
        if let Some(mm) = own.get("thickness").and_then(Value::as_f64) {
            own.insert("thickness".into(), board(mm));
        }
        out.insert("supports".into(), own.into());
    }
    out
}

/// The identifier of a piece that is there.
fn module(project: &Project, typed: &str, at: &str) -> Result<Option<String>, Problem> {
    let id = typed.trim();
    if id.is_empty() || project.modules.contains_key(id) {
        return Ok(Some(id.to_string()).filter(|id| !id.is_empty()));
    }
    let ids: Vec<&str> = project.modules.keys().map(String::as_str).collect();
    let words = format!("There is no piece \"{id}\".");
    Err(Problem::missing(at, words).allowing(ids.join(", ")))
}

/// The identifier of a thing in the vehicle.
fn thing(project: &Project, typed: &str) -> Result<Option<String>, Problem> {
    let id = typed.trim();
    let things = &project.survey.things;
    if id.is_empty() || things.contains_key(id) {
        return Ok(Some(id.to_string()).filter(|id| !id.is_empty()));
    }
    let ids: Vec<&str> = things.keys().map(String::as_str).collect();
    let words = format!("There is nothing \"{id}\" in the vehicle.");
    Err(Problem::missing("/place/against", words).allowing(ids.join(", ")))
}

fn names(schema: &Value) -> String {
    let fields = schema.get("properties").and_then(Value::as_object);
    let names: Vec<&str> = fields.map_or(vec![], |f| f.keys().map(String::as_str).collect());
    names.join(", ")
}

/// The schema of a property, references followed.
fn property<'a>(schema: &'a Value, path: &[&str]) -> Option<&'a Value> {
    let mut at = schema;
    for part in path {
        at = resolved(at, schema).get("properties")?.get(part)?;
    }
    (!path.is_empty()).then(|| resolved(at, schema))
}

/// Behind a reference, or behind what may be null.
fn resolved<'a>(at: &'a Value, root: &'a Value) -> &'a Value {
    if let Some(to) = at.get("$ref").and_then(Value::as_str) {
        return root.pointer(to.trim_start_matches('#')).unwrap_or(at);
    }
    for key in ["oneOf", "allOf", "anyOf"] {
        let some = at.get(key).and_then(Value::as_array);
        let some = some.and_then(|l| l.iter().find(|s| s.get("$ref").is_some()));
        if let Some(inner) = some {
            return resolved(inner, root);
        }
    }
    at
}

/// A value as typed, by what the schema wants there.
fn read(shape: &Value, root: &Value, typed: &str, project: &Project) -> Result<Value, Problem> {
    let shape = resolved(shape, root);
    let is = |name: &str| match shape.get("type") {
        Some(Value::String(t)) => t == name,
        Some(Value::Array(list)) => list.iter().any(|t| t == name),
        _ => false,
    };
    let typed = typed.trim();
    if (typed.is_empty() || typed == "null") && is("null") {
        return Ok(Value::Null);
    }
    if is("integer") {
        let n = typed.parse::<u32>();
        return n
            .map(Value::from)
            .map_err(|_| Problem::shape("", format!("\"{typed}\" is no whole number.")));
    }
    if is("number") {
        let mm = tape::parse(typed, project.units.tape).map_err(|e| tape_problem(&e, ""))?;
        return Ok(Value::from(mm));
    }
    if is("boolean") {
        return match typed {
            "true" | "yes" => Ok(true.into()),
            "false" | "no" => Ok(false.into()),
            _ => Err(Problem::shape("", "Yes or no?")),
        };
    }
    if is("object") {
        return Err(Problem::shape("", "Name one of its fields, with a dot."));
    }
    Ok(typed.into())
}

fn put(map: &mut Map<String, Value>, path: &[&str], value: Value) {
    match path {
        [] => {}
        [last] => {
            map.insert((*last).into(), value);
        }
        [first, rest @ ..] => {
            let inner = map
                .entry(*first)
                .or_insert_with(|| Value::Object(Map::new()));
            if let Some(inner) = inner.as_object_mut() {
                put(inner, rest, value);
            }
        }
    }
}
