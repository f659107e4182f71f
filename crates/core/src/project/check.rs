//! Ranges: what is impossible is refused and named, before it can reach a formula.

use super::Project;
use super::module::Module;
use super::survey::Survey;
use super::survey::{OpeningDim, Quantity, REAR, Reading, ThingDim};
use crate::input::tape_problem;
use crate::input::{MAX_LENGTH, count, escape, positive, within};
use crate::problem::Problem;
use crate::units::tape;

const MAX_ITEMS: usize = 5000;
const MAX_TEXT: usize = 2000;
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

/// Numbers that are no lengths, by the last part of their pointer.
const PLAIN: [&str; 15] = [
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
        within(s.h, &format!("{at}/h"), 50.0, 10_000.0)?;
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

fn survey(p: &Project) -> Result<(), Problem> {
    let s = &p.survey;
    within(s.sd, "/survey/sd", 0.01, 50.0)?;
    count(s.heights.len(), "/survey/heights", 0, 12)?;
    for (i, z) in s.heights.iter().enumerate() {
        within(*z, &format!("/survey/heights/{i}"), 0.0, 5000.0)?;
    }
    for (id, st) in &s.stations {
        let at = format!("/survey/stations/{}/x", escape(id));
        within(st.x, &at, 0.0, MAX_LENGTH)?;
    }
    for (id, l) in &s.levels {
        let at = format!("/survey/levels/{}", escape(id));
        within(l.z, &format!("{at}/z"), 0.0, 5000.0)?;
        text(&l.name, &format!("{at}/name"))?;
    }
    for (id, t) in &s.things {
        let at = format!("/survey/things/{}", escape(id));
        text(&t.name, &format!("{at}/name"))?;
        count(t.heights.len(), &format!("{at}/heights"), 0, 20)?;
        for (i, z) in t.heights.iter().enumerate() {
            within(*z, &format!("{at}/heights/{i}"), 0.0, 5000.0)?;
        }
        within(t.clearance, &format!("{at}/clearance"), 0.0, 500.0)?;
        within(t.sweep, &format!("{at}/sweep"), 0.0, 1500.0)?;
    }
    fittings(s)?;
    for (key, why) in &s.skipped {
        text(why, &format!("/survey/skipped/{}", escape(key)))?;
    }
    for (id, r) in &s.readings {
        reading(p, id, r, &format!("/survey/readings/{}", escape(id)))?;
    }
    Ok(())
}

fn fittings(s: &Survey) -> Result<(), Problem> {
    for (id, f) in &s.fixings {
        let at = format!("/survey/fixings/{}", escape(id));
        text(&f.name, &format!("{at}/name"))?;
        text(&f.thread, &format!("{at}/thread"))?;
        for (i, v) in f.at.iter().enumerate() {
            within(*v, &format!("{at}/at/{i}"), -MAX_LENGTH, MAX_LENGTH)?;
        }
        optional(f.depth, &format!("{at}/depth"), 0.0, 500.0)?;
    }
    for (id, o) in &s.openings {
        let at = format!("/survey/openings/{}", escape(id));
        text(&o.name, &format!("{at}/name"))?;
        optional(o.depth, &format!("{at}/depth"), 0.0, MAX_LENGTH)?;
        count(o.heights.len(), &format!("{at}/heights"), 0, 20)?;
        for (i, z) in o.heights.iter().enumerate() {
            within(*z, &format!("{at}/heights/{i}"), 1.0, 5000.0)?;
        }
    }
    for (id, seat) in &s.seats {
        let at = format!("/survey/seats/{}", escape(id));
        text(&seat.name, &format!("{at}/name"))?;
        optional(seat.travel, &format!("{at}/travel"), 0.0, 2000.0)?;
        optional(
            seat.folded_height,
            &format!("{at}/folded_height"),
            -500.0,
            2000.0,
        )?;
        optional(
            seat.folded_slope,
            &format!("{at}/folded_slope"),
            -45.0,
            45.0,
        )?;
    }
    for (id, d) in &s.datums {
        let at = format!("/survey/datums/{}", escape(id));
        text(&d.name, &format!("{at}/name"))?;
        within(d.z, &format!("{at}/z"), -1000.0, 5000.0)?;
    }
    for (id, l) in &s.landmarks {
        let at = format!("/survey/landmarks/{}", escape(id));
        text(&l.name, &format!("{at}/name"))?;
        for (field, values) in [("inside", l.inside), ("outside", l.outside)] {
            for (i, v) in values.iter().enumerate() {
                within(*v, &format!("{at}/{field}/{i}"), -MAX_LENGTH, MAX_LENGTH)?;
            }
        }
    }
    Ok(())
}

/// A reading as it would be stored under `id` at the pointer `at`.
///
/// # Errors
/// What is out of range or refers to nothing, with its pointer.
pub fn reading(p: &Project, id: &str, r: &Reading, at: &str) -> Result<(), Problem> {
    text(id, at)?;
    let typed = format!("{at}/typed");
    let mm = tape::parse(&r.typed, r.unit).map_err(|e| tape_problem(&e, &typed))?;
    let signed = matches!(
        r.quantity,
        Quantity::Floor { .. }
            | Quantity::Slope { .. }
            | Quantity::Thing {
                dim: ThingDim::Face | ThingDim::Far | ThingDim::Shoulder,
                ..
            }
    );
    let (lo, hi) = match r.quantity {
        Quantity::Floor { .. } => (-1000.0, 2000.0),
        Quantity::Slope { .. } => (-300.0, 300.0),
        Quantity::Thing {
            dim: ThingDim::Face | ThingDim::Far | ThingDim::Shoulder,
            ..
        } => (-5000.0, 5000.0),
        Quantity::Length { .. } => (100.0, MAX_LENGTH),
        Quantity::Wall { .. } => (0.0, 5000.0),
        Quantity::Width { .. } => (0.0, 10_000.0),
        _ => (0.0, MAX_LENGTH),
    };
    if mm < lo || mm > hi {
        let detail = if mm < 0.0 && !signed {
            "A length measured here cannot be less than nothing.".to_string()
        } else {
            format!("{mm:.1} mm is not possible here.")
        };
        return Err(Problem::out_of_range(
            typed,
            detail,
            format!("{lo} to {hi} mm"),
        ));
    }
    let q = format!("{at}/quantity");
    match &r.quantity {
        Quantity::Length { z, y } => {
            within(*z, &format!("{q}/z"), 0.0, 5000.0)?;
            within(*y, &format!("{q}/y"), -5000.0, 5000.0)?;
        }
        Quantity::Slope { x } => optional(*x, &format!("{q}/x"), 0.0, MAX_LENGTH)?,
        Quantity::Wall { x, z, .. }
        | Quantity::Width { x, z }
        | Quantity::Diagonal { x, z, .. } => {
            within(*x, &format!("{q}/x"), 0.0, MAX_LENGTH)?;
            within(*z, &format!("{q}/z"), 0.0, 5000.0)?;
        }
        Quantity::Floor { x, y } | Quantity::Roof { x, y } => {
            within(*x, &format!("{q}/x"), 0.0, MAX_LENGTH)?;
            within(*y, &format!("{q}/y"), -5000.0, 5000.0)?;
        }
        Quantity::Thing { id, .. } if !p.survey.things.contains_key(id) => {
            return Err(Problem::missing(
                format!("{q}/id"),
                format!("There is no thing \"{id}\" in the survey."),
            ));
        }
        Quantity::Thing { z, .. } => optional(*z, &format!("{q}/z"), 0.0, 5000.0)?,
        Quantity::Opening { id, .. } if id != REAR && !p.survey.openings.contains_key(id) => {
            return Err(Problem::missing(
                format!("{q}/id"),
                format!("There is no opening \"{id}\" in the survey."),
            ));
        }
        Quantity::Opening { dim, z, .. } => {
            if (*dim == OpeningDim::Width) != z.is_some() {
                return Err(Problem::impossible(
                    format!("{q}/z"),
                    "A width has the height it was taken at, and only a width has one.",
                ));
            }
            optional(*z, &format!("{q}/z"), 1.0, 5000.0)?;
        }
    }
    if let Some(d) = &r.datum
        && !p.survey.datums.contains_key(d)
    {
        return Err(Problem::missing(
            format!("{at}/datum"),
            format!("There is no datum \"{d}\" in the survey."),
        ));
    }
    optional(r.sd, &format!("{at}/sd"), 0.01, 50.0)?;
    text(&r.note, &format!("{at}/note"))?;
    text(&r.when, &format!("{at}/when"))
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
    }
    Ok(())
}

/// There is such a material.
pub(crate) fn known(p: &Project, material: &str, at: &str) -> Result<(), Problem> {
    if p.material(material).is_some() {
        return Ok(());
    }
    Err(Problem::missing(
        at,
        format!("There is no material \"{material}\"."),
    ))
}

/// Within the range, if it is given.
pub(crate) fn optional(v: Option<f64>, at: &str, lo: f64, hi: f64) -> Result<(), Problem> {
    v.map_or(Ok(()), |v| within(v, at, lo, hi).map(|_| ()))
}

/// A text that a person may type: printable, of bounded length.
pub(super) fn text(s: &str, at: &str) -> Result<(), Problem> {
    if s.chars().count() > MAX_TEXT {
        return Err(Problem::out_of_range(
            at,
            "This text is too long.",
            format!("at most {MAX_TEXT} characters"),
        ));
    }
    // Printed pages are XML, which has no way to write these.
    if let Some(c) = s.chars().find(|c| !printable(*c)) {
        return Err(Problem::out_of_range(
            at,
            format!(
                "This text holds a character that cannot be printed (U+{:04X}).",
                u32::from(c)
            ),
            "letters, digits, signs, line ends",
        ));
    }
    Ok(())
}

/// Line ends and tabs, and everything but control characters and code points that are no characters.
fn printable(c: char) -> bool {
    let code = u32::from(c);
    let no_character = (0xfdd0..=0xfdef).contains(&code) || code & 0xfffe == 0xfffe;
    matches!(c, '\n' | '\r' | '\t') || !(c.is_control() || no_character)
}
