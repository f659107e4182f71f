//! Boards that were held in place: what was seen along their edges. A board is kept as it was then, for the plan goes on.

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::templates::Face;
use crate::geometry::Point;
use crate::geometry::pose::Pose;
use crate::geometry::region::Region;
use crate::input::{MAX_LENGTH, escape, within};
use crate::problem::Problem;

/// Most rounds.
const ROUNDS: usize = 200;
/// Most places of one round.
const PLACES: usize = 200;
/// Most corners of a board as it was.
const CORNERS: usize = 4000;

/// A board held in place once.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Fit {
    /// The board, `module/board`.
    pub board: String,
    /// What was written on it then.
    #[serde(default)]
    pub mark: String,
    /// When, RFC 3339.
    #[serde(default)]
    pub when: String,
    /// Its shape as it was cut, in its own plane.
    pub outline: Region,
    /// Its thickness, mm.
    pub thickness: f64,
    /// Where it was to lie.
    pub pose: Pose,
    /// How it went as a whole.
    #[serde(default)]
    pub went: Went,
    /// What was seen along its edges.
    #[serde(default)]
    pub places: BTreeMap<String, FitPlace>,
    /// Kept, but the plan does not go by it.
    #[serde(default)]
    pub aside: bool,
}

/// How a board went in.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Went {
    /// It lies where it belongs.
    #[default]
    In,
    /// It does not go in: held against its place.
    NotIn,
    /// It lies there and rocks.
    Rocks,
}

/// A place on a board's edge and what was seen there.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct FitPlace {
    /// Which face of the vehicle the edge runs along.
    pub of: Face,
    /// Where on the board, in its own plane, mm.
    #[schema(value_type = Vec<f64>)]
    pub at: Point,
    /// Square to the edge, outwards, of length one.
    #[schema(value_type = Vec<f64>)]
    pub out: Point,
    /// What was seen.
    pub says: Says,
    /// How much, mm; nothing for `touches`.
    #[serde(default)]
    pub mm: Option<f64>,
    /// Set aside by the user: kept, but not counted.
    #[serde(default)]
    pub aside: bool,
}

/// What is seen at an edge.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Says {
    /// There is air.
    Gap,
    /// So much would have to come off.
    Proud,
    /// It touches.
    Touches,
}

impl FitPlace {
    /// From the edge to the face, mm: negative where too much board is there. `None` without its number.
    pub fn gap(&self) -> Option<f64> {
        match self.says {
            Says::Gap => self.mm,
            Says::Proud => self.mm.map(|v| -v),
            Says::Touches => Some(0.0),
        }
    }
}

/// Checks all rounds.
///
/// # Errors
/// The first number that cannot be.
pub fn check(fits: &BTreeMap<String, Fit>) -> Result<(), Problem> {
    let many = |at: String, n: usize, most: usize| match n > most {
        true => {
            let words = format!("{n} are too many.");
            Err(Problem::out_of_range(at, words, format!("at most {most}")))
        }
        false => Ok(()),
    };
    many("/fits".into(), fits.len(), ROUNDS)?;
    for (id, fit) in fits {
        let at = format!("/fits/{}", escape(id));
        for (words, field) in [
            (&fit.board, "board"),
            (&fit.mark, "mark"),
            (&fit.when, "when"),
        ] {
            super::check::text(words, &format!("{at}/{field}"))?;
        }
        let rings = fit.outline.every();
        many(format!("{at}/outline"), rings.map(Vec::len).sum(), CORNERS)?;
        fit.outline.check(&format!("{at}/outline"))?;
        within(fit.thickness, &format!("{at}/thickness"), 0.5, 200.0)?;
        pose(&fit.pose, &format!("{at}/pose"))?;
        many(format!("{at}/places"), fit.places.len(), PLACES)?;
        for (key, p) in &fit.places {
            let at = format!("{at}/places/{}", escape(key));
            for k in 0..2 {
                within(p.at[k], &format!("{at}/at/{k}"), -MAX_LENGTH, MAX_LENGTH)?;
            }
            unit(&p.out, &format!("{at}/out"))?;
            if let Some(mm) = p.mm {
                within(mm, &format!("{at}/mm"), 0.0, 500.0)?;
            }
        }
    }
    Ok(())
}

fn unit(d: &[f64], at: &str) -> Result<(), Problem> {
    for (k, v) in d.iter().enumerate() {
        within(*v, &format!("{at}/{k}"), -1.0, 1.0)?;
    }
    let long = d.iter().map(|v| v * v).sum::<f64>();
    if (long - 1.0).abs() > 1e-3 {
        return Err(Problem::impossible(
            at,
            "This direction has to be of length one.",
        ));
    }
    Ok(())
}

fn pose(p: &Pose, at: &str) -> Result<(), Problem> {
    for k in 0..3 {
        within(
            p.origin[k],
            &format!("{at}/origin/{k}"),
            -MAX_LENGTH,
            MAX_LENGTH,
        )?;
    }
    unit(&p.u, &format!("{at}/u"))?;
    unit(&p.v, &format!("{at}/v"))?;
    let along: f64 = (0..3).map(|k| p.u[k] * p.v[k]).sum();
    if along.abs() > 1e-3 {
        let words = "Its two directions have to be square to each other.";
        return Err(Problem::impossible(format!("{at}/v"), words));
    }
    Ok(())
}
