//! `lid`: how far a hinged lid opens, what stops it, and how hard it is to lift.

use serde::Deserialize;
use serde_json::{Value, json};

use crate::input::{MAX_LENGTH, from_value, positive, within};
use crate::mechanics::lid::{self, Limit};
use crate::problem::Problem;
use crate::units::print::millimetres;

const MAX_MASS: f64 = 1000.0;
const MAX_FORCE: f64 = 100_000.0;
/// The force at the free edge is told every so often, degrees.
const EVERY: usize = 5;
/// A force at the edge that is a heave for one hand, N (a choice).
const HEAVE: f64 = 150.0;

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct In {
    length: f64,
    thickness: f64,
    mass: f64,
    cg: f64,
    wall_distance: f64,
    #[serde(default)]
    mattress: Option<Mattress>,
    #[serde(default)]
    strut: Option<Strut>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Mattress {
    mass: f64,
    thickness: f64,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Strut {
    force: f64,
    #[serde(default = "one")]
    count: u32,
    closed: f64,
    open: f64,
    lid_at: [f64; 2],
    frame_at: [f64; 2],
}

fn one() -> u32 {
    1
}

fn read(input: Value) -> Result<lid::Lid, Problem> {
    let i: In = from_value(input)?;
    let strut = i.strut.map(|s| -> Result<lid::Strut, Problem> {
        for (at, p) in [("lid_at", s.lid_at), ("frame_at", s.frame_at)] {
            for (k, v) in p.iter().enumerate() {
                within(*v, &format!("/strut/{at}/{k}"), -MAX_LENGTH, MAX_LENGTH)?;
            }
        }
        let closed = positive(s.closed, "/strut/closed", MAX_LENGTH)?;
        Ok(lid::Strut {
            force: within(s.force, "/strut/force", 0.0, MAX_FORCE)?,
            count: within(f64::from(s.count), "/strut/count", 0.0, 20.0)?,
            closed,
            open: within(s.open, "/strut/open", closed, MAX_LENGTH)?,
            lid_at: s.lid_at,
            frame_at: s.frame_at,
        })
    });
    let mattress = i.mattress.map(|m| -> Result<lid::Mattress, Problem> {
        Ok(lid::Mattress {
            mass: within(m.mass, "/mattress/mass", 0.0, MAX_MASS)?,
            thickness: within(m.thickness, "/mattress/thickness", 0.0, MAX_LENGTH)?,
        })
    });
    let length = positive(i.length, "/length", MAX_LENGTH)?;
    Ok(lid::Lid {
        length,
        thickness: positive(i.thickness, "/thickness", MAX_LENGTH)?,
        mass: within(i.mass, "/mass", 0.0, MAX_MASS)?,
        cg: within(i.cg, "/cg", 0.0, length)?,
        wall_distance: within(i.wall_distance, "/wall_distance", 0.0, MAX_LENGTH)?,
        mattress: mattress.transpose()?,
        strut: strut.transpose()?,
    })
}

pub fn run(input: Value) -> Result<Value, Problem> {
    let lid = read(input)?;
    let (most, limit) = lid.opens();
    let limited_by = match limit {
        Limit::Wall => "wall",
        Limit::Strut => "strut",
        Limit::None => "none",
    };
    let degrees = (0..=180).step_by(EVERY).map(f64::from);
    let hand: Vec<(f64, f64)> = degrees
        .filter(|d| *d <= most + 1e-9)
        .map(|d| (d, lid.hand_force(d)))
        .collect();
    let stays = lid.stays_open_from();
    let mut warnings = Vec::new();
    if most < 90.0 {
        warnings.push(format!(
            "It opens to {most:.0} degrees only: move the hinge forward of the wall, or let the lid stop at a prop."
        ));
    }
    if let (false, Some(shut), Some(s)) = (lid.strut_fits(), lid.strut_length(0.0), lid.strut) {
        warnings.push(format!(
            "Shut, the strut would be {} long: it goes from {} to {}.",
            millimetres(shut),
            millimetres(s.closed),
            millimetres(s.open)
        ));
    }
    if stays.is_none() {
        warnings.push("It does not stay open by itself: it wants a prop with a stop.".into());
    }
    if let Some((deg, n)) = hand.iter().copied().find(|h| h.1 > HEAVE) {
        warnings.push(format!(
            "At {deg:.0} degrees it takes {n:.0} N at the edge, about {:.0} kg.",
            n / crate::units::GRAVITY
        ));
    }
    let table = hand.iter().map(|(deg, n)| json!({ "deg": deg, "n": n }));
    Ok(json!({
        "max_opening_deg": most,
        "limited_by": limited_by,
        "hand_force": table.collect::<Vec<_>>(),
        "stays_open_from_deg": stays,
        "strut_ok": lid.strut_fits(),
        "strut_length": lid.strut.map(|_| json!({
            "shut": lid.strut_length(0.0),
            "open": lid.strut_length(most),
        })),
        "warnings": warnings,
    }))
}
