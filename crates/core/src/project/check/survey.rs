//! The survey: what was measured, where, and what stands in the vehicle.

use super::words::{optional, text};
use crate::input::{MAX_LENGTH, count, escape, tape_problem, within};
use crate::problem::Problem;
use crate::project::Project;
use crate::project::survey::{OpeningDim, Quantity, REAR, Reading, Survey, ThingDim};
use crate::project::things::STEEPEST;
use crate::units::tape;

pub(super) fn survey(p: &Project) -> Result<(), Problem> {
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
        within(t.slope, &format!("{at}/slope"), -STEEPEST, STEEPEST)?;
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
        optional(o.from, &format!("{at}/from"), -MAX_LENGTH, MAX_LENGTH)?;
        within(o.sill, &format!("{at}/sill"), -1000.0, 5000.0)?;
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
    let w = p.writer();
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
            format!("{} is not possible here.", w.say(mm))
        };
        let allowed = format!("{} to {}", w.say(lo), w.say(hi));
        return Err(Problem::out_of_range(typed, detail, allowed));
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
