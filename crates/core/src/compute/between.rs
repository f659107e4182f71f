//! `between`: how far two points of a drawing lie apart, in both systems.

use serde::{Deserialize, Serialize};
use serde_json::Value;

use super::answer;
use crate::geometry::{Point, distance};
use crate::input::{MAX_LENGTH, from_value, within};
use crate::problem::Problem;
use crate::units::figure::{Figure, Writer};

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct In {
    from: Point,
    to: Point,
    #[serde(default)]
    denominator: Option<u32>,
}

#[derive(Serialize)]
struct Out {
    distance: Figure,
    right: Figure,
    up: Figure,
}

pub fn run(input: Value) -> Result<Value, Problem> {
    let i: In = from_value(input)?;
    for (p, at) in [(i.from, "/from"), (i.to, "/to")] {
        for (k, v) in p.iter().enumerate() {
            within(*v, &format!("{at}/{k}"), -MAX_LENGTH, MAX_LENGTH)?;
        }
    }
    let mut w = Writer::default();
    if let Some(d) = i.denominator {
        w.denominator = within(f64::from(d), "/denominator", 1.0, 128.0)? as u32;
    }
    answer(&Out {
        distance: w.figure(distance(i.from, i.to)),
        right: w.figure(i.to[0] - i.from[0]),
        up: w.figure(i.to[1] - i.from[1]),
    })
}
