//! Where something that is fixed in the vehicle left its mark on a board: an imprint in tape, chalk that was rubbed off.

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::check::text;
use crate::input::{MAX_LENGTH, escape, within};
use crate::problem::Problem;

/// Most of them.
const MOST: usize = 500;

/// A mark on a board, measured from two of its edges.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields, default)]
#[schema(as = FixingMark)]
pub struct Transfer {
    /// What it is the mark of.
    pub name: String,
    /// The board, by identifier.
    pub board: String,
    /// From the left edge of its card, mm.
    pub left: Option<f64>,
    /// From the lower edge of its card, mm.
    pub low: Option<f64>,
    /// Diameter of the bolt or stud, mm.
    pub bolt: f64,
    /// How sure each of the two is, one standard deviation, mm.
    pub sd: f64,
}

impl Default for Transfer {
    fn default() -> Self {
        Transfer {
            name: String::new(),
            board: String::new(),
            left: None,
            low: None,
            bolt: 8.0,
            // A rule, and the middle of a smudge (a choice).
            sd: 0.7,
        }
    }
}

/// Checks all marks.
///
/// # Errors
/// The first number that cannot be.
pub fn check(all: &BTreeMap<String, Transfer>) -> Result<(), Problem> {
    if all.len() > MOST {
        let words = format!("{} are too many.", all.len());
        return Err(Problem::out_of_range(
            "/transfers",
            words,
            format!("at most {MOST}"),
        ));
    }
    for (id, t) in all {
        let at = format!("/transfers/{}", escape(id));
        text(&t.name, &format!("{at}/name"))?;
        text(&t.board, &format!("{at}/board"))?;
        within(t.bolt, &format!("{at}/bolt"), 2.0, 60.0)?;
        within(t.sd, &format!("{at}/sd"), 0.0, 20.0)?;
        for (v, field) in [(t.left, "left"), (t.low, "low")] {
            if let Some(v) = v {
                within(v, &format!("{at}/{field}"), 0.0, MAX_LENGTH)?;
            }
        }
    }
    Ok(())
}
