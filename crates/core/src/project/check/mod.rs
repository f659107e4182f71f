//! Ranges: what is impossible is refused and named, before it can reach a formula.

mod survey;
mod words;

use self::survey::survey;
pub(crate) use self::words::text;
pub(crate) use self::words::{known, optional, sheet};
use super::Project;
use super::module::{Covers, Module};
use crate::input::{MAX_LENGTH, count, escape, positive, within};
use crate::problem::Problem;

pub use self::survey::reading;

const MAX_ITEMS: usize = 5000;
const MAX_MASS: f64 = 2000.0;

/// Checks every number and text of the project.
///
/// # Errors
/// The first that is out of range, with its pointer.
pub fn check(p: &Project) -> Result<(), Problem> {
    all(p).map_err(|problem| p.in_own_units(problem))
}

impl Project {
    /// The problem with its numbers in the project's own units.
    #[must_use]
    pub fn in_own_units(&self, problem: Problem) -> Problem {
        let field = problem.pointer.rsplit('/').next().unwrap_or("");
        if field == "mass" {
            return problem.in_units(|kg| self.writer().mass(kg));
        }
        if PLAIN.contains(&field) {
            return problem;
        }
        problem.in_units(|mm| self.writer().say(mm))
    }
}

/// What every module has, whatever its kind.
fn module(m: &Module, at: &str) -> Result<(), Problem> {
    text(&m.name, &format!("{at}/name"))?;
    text(&m.notes, &format!("{at}/notes"))?;
    within(m.finish, &format!("{at}/finish"), 0.0, 20.0)?;
    covers(&m.covers, &format!("{at}/covers"))?;
    within(m.place.along, &format!("{at}/place/along"), 0.0, MAX_LENGTH)?;
    within(m.place.gap, &format!("{at}/place/gap"), 0.0, 2000.0)?;
    within(m.place.up, &format!("{at}/place/up"), 0.0, 5000.0)?;
    optional(m.held.floor, &format!("{at}/held/floor"), 1.0, 100.0)?;
    let named = [
        (&m.place.after, "place/after"),
        (&m.place.against, "place/against"),
        (&m.place.beside, "place/beside"),
        (&m.place.on, "place/on"),
        (&m.held.to, "held/to"),
    ];
    for (id, field) in named {
        text(id.as_deref().unwrap_or_default(), &format!("{at}/{field}"))?;
    }
    Ok(())
}

/// What covers the edges of a piece.
pub(crate) fn covers(c: &Covers, at: &str) -> Result<(), Problem> {
    for (edge, mm) in [("left", c.left), ("right", c.right), ("front", c.front)] {
        within(mm, &format!("{at}/{edge}"), 0.0, 50.0)?;
    }
    Ok(())
}

/// Numbers that are no lengths, by the last part of their pointer.
const PLAIN: [&str; 16] = [
    "direction",
    "order",
    "dividers",
    "denominator",
    "count",
    "cost",
    "density",
    "e_along",
    "e_across",
    "f_along",
    "f_across",
    "lines",
    "grades",
    "folded_slope",
    "slope",
    "span_over",
];

/// What is shared first, so that a refusal names its own field and not a variant in which it is wrong as well.
fn all(p: &Project) -> Result<(), Problem> {
    own(p)?;
    for (id, v) in &p.variants {
        let at = format!("/variants/{}", escape(id));
        text(&v.name, &format!("{at}/name"))?;
        own(&p.furnished(v)).map_err(|e| e.under(&at))?;
    }
    Ok(())
}

fn own(p: &Project) -> Result<(), Problem> {
    text(&p.name, "/name")?;
    if p.name.trim().is_empty() {
        return Err(Problem::missing("/name", "The project needs a name."));
    }
    super::templates::check(&p.templates)?;
    super::transfers::check(&p.transfers)?;
    super::fits::check(&p.fits)?;
    // A printer that is further off than this prints at another scale.
    optional(p.units.printed_across, "/units/printed_across", 90.0, 110.0)?;
    optional(p.units.printed_up, "/units/printed_up", 90.0, 110.0)?;
    text(&p.vehicle.note, "/vehicle/note")?;
    within(
        f64::from(p.units.denominator),
        "/units/denominator",
        1.0,
        128.0,
    )?;
    survey(p)?;
    gear(p)?;
    within(p.headroom.finish, "/headroom/finish", 0.0, 500.0)?;
    within(p.headroom.clearance, "/headroom/clearance", 0.0, 500.0)?;
    sizes(p)?;
    for (id, c) in &p.candidates {
        let at = format!("/candidates/{}", escape(id));
        within(c.underside, &format!("{at}/underside"), 0.0, 5000.0)?;
        text(&c.note, &format!("{at}/note"))?;
    }
    for (id, m) in &p.modules {
        module(m, &format!("/modules/{}", escape(id)))?;
    }
    states(p)?;
    for (id, s) in &p.stock {
        let at = format!("/stock/{}", escape(id));
        known(p, &s.material, &format!("{at}/material"))?;
        text(&s.name, &format!("{at}/name"))?;
        within(s.thickness, &format!("{at}/thickness"), 1.0, 100.0)?;
        within(s.w, &format!("{at}/w"), 50.0, 10_000.0)?;
        within(s.h, &format!("{at}/h"), 10.0, 10_000.0)?;
        optional(s.cost, &format!("{at}/cost"), 0.0, 1e6)?;
        within(
            f64::from(s.count.unwrap_or(1)),
            &format!("{at}/count"),
            0.0,
            1000.0,
        )?;
    }
    materials(p)?;
    within(p.cutting.kerf, "/cutting/kerf", 0.0, 20.0)?;
    within(p.cutting.trim, "/cutting/trim", 0.0, 100.0)?;
    count(p.cutting.turned.len(), "/cutting/turned", 0, MAX_ITEMS)?;
    for (i, id) in p.cutting.turned.iter().enumerate() {
        text(id, &format!("/cutting/turned/{i}"))?;
    }
    if let Some(accepted) = &p.cutting.accepted {
        accepted.check("/cutting/accepted")?;
    }
    for (key, when) in &p.cutting.ticked {
        text(when, &format!("/cutting/ticked/{}", escape(key)))?;
    }
    Ok(())
}

fn states(p: &Project) -> Result<(), Problem> {
    count(p.states.len(), "/states", 1, 8)?;
    for (id, s) in &p.states {
        let at = format!("/states/{}", escape(id));
        text(&s.name, &format!("{at}/name"))?;
        within(f64::from(s.order), &format!("{at}/order"), 0.0, 1000.0)?;
        count(s.open.len(), &format!("{at}/open"), 0, 200)?;
        for (body, share) in &s.open {
            text(body, &format!("{at}/open/{}", escape(body)))?;
            within(*share, &format!("{at}/open/{}", escape(body)), 0.0, 1.0)?;
        }
    }
    Ok(())
}

fn sizes(p: &Project) -> Result<(), Problem> {
    let maps = [
        ("/survey/readings", p.survey.readings.len(), MAX_ITEMS),
        ("/survey/stations", p.survey.stations.len(), 200),
        ("/survey/levels", p.survey.levels.len(), 50),
        ("/survey/things", p.survey.things.len(), 100),
        ("/survey/fixings", p.survey.fixings.len(), 300),
        ("/survey/openings", p.survey.openings.len(), 20),
        ("/survey/seats", p.survey.seats.len(), 20),
        ("/survey/datums", p.survey.datums.len(), 50),
        ("/survey/landmarks", p.survey.landmarks.len(), 100),
        ("/survey/skipped", p.survey.skipped.len(), MAX_ITEMS),
        ("/gear", p.gear.len(), 300),
        ("/people", p.people.len(), 20),
        ("/candidates", p.candidates.len(), 50),
        ("/modules", p.modules.len(), 60),
        ("/variants", p.variants.len(), 12),
        ("/stock", p.stock.len(), 50),
        ("/materials", p.materials.len(), 50),
        ("/cutting/ticked", p.cutting.ticked.len(), MAX_ITEMS),
    ];
    maps.iter()
        .try_for_each(|(at, n, most)| count(*n, at, 0, *most))?;
    // Identifiers end up in answers and pages too.
    let ids = p.survey.things.keys().map(|k| ("/survey/things", k));
    let ids = ids
        .chain(p.survey.openings.keys().map(|k| ("/survey/openings", k)))
        .chain(p.gear.keys().map(|k| ("/gear", k)))
        .chain(p.people.keys().map(|k| ("/people", k)))
        .chain(p.modules.keys().map(|k| ("/modules", k)))
        .chain(p.variants.keys().map(|k| ("/variants", k)))
        .chain(p.states.keys().map(|k| ("/states", k)))
        .chain(p.stock.keys().map(|k| ("/stock", k)))
        .chain(p.materials.keys().map(|k| ("/materials", k)));
    for (at, id) in ids {
        text(id, &format!("{at}/{}", escape(id)))?;
    }
    Ok(())
}

fn gear(p: &Project) -> Result<(), Problem> {
    for (id, g) in &p.gear {
        let at = format!("/gear/{}", escape(id));
        text(&g.name, &format!("{at}/name"))?;
        for (v, field) in [(g.w, "w"), (g.d, "d"), (g.h, "h")] {
            optional(v, &format!("{at}/{field}"), 1.0, 5000.0)?;
        }
        for (v, field) in [
            (g.lid_clearance, "lid_clearance"),
            (g.slide, "slide"),
            (g.air, "air"),
        ] {
            within(v, &format!("{at}/{field}"), 0.0, 1000.0)?;
        }
        within(f64::from(g.count), &format!("{at}/count"), 1.0, 100.0)?;
        optional(g.mass, &format!("{at}/mass"), 0.0, MAX_MASS)?;
    }
    for (id, person) in &p.people {
        let at = format!("/people/{}", escape(id));
        text(&person.name, &format!("{at}/name"))?;
        optional(person.stature, &format!("{at}/stature"), 300.0, 2600.0)?;
        optional(
            person.sitting_height,
            &format!("{at}/sitting_height"),
            200.0,
            1500.0,
        )?;
        optional(person.mass, &format!("{at}/mass"), 1.0, 400.0)?;
    }
    let m = &p.mattress;
    optional(m.thickness, "/mattress/thickness", 0.0, 600.0)?;
    optional(m.length, "/mattress/length", 200.0, 4000.0)?;
    optional(m.width, "/mattress/width", 200.0, 4000.0)?;
    optional(m.sag, "/mattress/sag", 0.0, m.thickness.unwrap_or(600.0))?;
    optional(m.mass, "/mattress/mass", 0.0, 200.0)
}

fn materials(p: &Project) -> Result<(), Problem> {
    for (id, m) in &p.materials {
        let at = format!("/materials/{}", escape(id));
        text(&m.name, &format!("{at}/name"))?;
        text(&m.source, &format!("{at}/source"))?;
        positive(m.density, &format!("{at}/density"), 3000.0)?;
        count(m.grades.len(), &format!("{at}/grades"), 1, 50)?;
        let mut before = 0.0;
        for (i, g) in m.grades.iter().enumerate() {
            let at = format!("{at}/grades/{i}");
            within(
                g.thickness,
                &format!("{at}/thickness"),
                before + 1e-6,
                100.0,
            )?;
            before = g.thickness;
            positive(g.e_along, &format!("{at}/e_along"), 1e5)?;
            positive(g.e_across, &format!("{at}/e_across"), 1e5)?;
            positive(g.f_along, &format!("{at}/f_along"), 1e4)?;
            positive(g.f_across, &format!("{at}/f_across"), 1e4)?;
        }
        if let Some(bar) = &m.bar {
            // One section has one thickness.
            count(m.grades.len(), &format!("{at}/grades"), 1, 1)?;
            within(bar.width, &format!("{at}/bar/width"), 10.0, 300.0)?;
            within(bar.length, &format!("{at}/bar/length"), 300.0, 10_000.0)?;
        }
    }
    Ok(())
}
