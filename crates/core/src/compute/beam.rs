//! `beam`: a continuous beam over its supports.

use serde::Deserialize;
use serde_json::{Value, json};

use crate::input::{MAX_LENGTH, count, from_value, positive, within};
use crate::mechanics::beam::{Beam, Load};
use crate::mechanics::material::{BUILT_IN, Grain, built_in};
use crate::problem::Problem;

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct In {
    spans: Vec<f64>,
    width: f64,
    thickness: f64,
    #[serde(default)]
    material: Option<String>,
    #[serde(default)]
    e: Option<f64>,
    #[serde(default)]
    grain: Grain,
    loads: Vec<LoadIn>,
    #[serde(default)]
    moisture: Moisture,
}

/// Wet board is less stiff: factor 0.85 on stiffness above 16 % moisture (APA Panel Design
/// Specification, from memory).
#[derive(Deserialize, Clone, Copy, Default)]
#[serde(rename_all = "lowercase")]
enum Moisture {
    #[default]
    Dry,
    Wet,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct LoadIn {
    kind: Kind,
    n_per_mm: Option<f64>,
    from: Option<f64>,
    to: Option<f64>,
    n: Option<f64>,
    at: Option<f64>,
}

#[derive(Deserialize, Clone, Copy, PartialEq)]
#[serde(rename_all = "lowercase")]
enum Kind {
    Uniform,
    Point,
}

/// The largest force or line load taken seriously, N or N/mm.
const MAX_FORCE: f64 = 1.0e7;

impl LoadIn {
    fn load(&self, at: &str, total: f64) -> Result<Load, Problem> {
        let refuse = |field: &str, present: bool| match present {
            true => Err(Problem::shape(
                format!("{at}/{field}"),
                "This field does not belong to this kind of load.",
            )),
            false => Ok(()),
        };
        let place = |v: f64, field: &str| {
            // Positions come out of sums of spans: forgive the last digits.
            let v = if v > total && v < total + 1e-6 {
                total
            } else {
                v
            };
            within(v, &format!("{at}/{field}"), 0.0, total)
        };
        let need = |v: Option<f64>, field: &str| {
            v.ok_or_else(|| {
                Problem::missing(
                    format!("{at}/{field}"),
                    format!("The field `{field}` is needed."),
                )
            })
        };
        match self.kind {
            Kind::Uniform => {
                refuse("n", self.n.is_some())?;
                refuse("at", self.at.is_some())?;
                let q = within(
                    need(self.n_per_mm, "n_per_mm")?,
                    &format!("{at}/n_per_mm"),
                    0.0,
                    MAX_FORCE,
                )?;
                let from = place(self.from.unwrap_or(0.0), "from")?;
                let to = place(self.to.unwrap_or(total), "to")?;
                if to < from {
                    return Err(Problem::out_of_range(
                        format!("{at}/to"),
                        "The load ends before it begins.",
                        format!("{from} to {total}"),
                    ));
                }
                Ok(Load::Uniform { q, from, to })
            }
            Kind::Point => {
                refuse("n_per_mm", self.n_per_mm.is_some())?;
                refuse("from", self.from.is_some())?;
                refuse("to", self.to.is_some())?;
                let n = within(need(self.n, "n")?, &format!("{at}/n"), 0.0, MAX_FORCE)?;
                Ok(Load::Point {
                    n,
                    at: place(need(self.at, "at")?, "at")?,
                })
            }
        }
    }
}

impl In {
    fn modulus(&self) -> Result<f64, Problem> {
        let dry = match (&self.material, self.e) {
            (Some(_), Some(_)) => {
                return Err(Problem::shape(
                    "/e",
                    "Give a material or a modulus, not both.",
                ));
            }
            (None, None) => {
                return Err(Problem::missing(
                    "/material",
                    "A material or a modulus `e` is needed.",
                ));
            }
            (None, Some(e)) => positive(e, "/e", 1.0e7)?,
            (Some(id), None) => built_in(id)
                .and_then(|m| m.modulus(self.thickness, self.grain))
                .ok_or_else(|| {
                    Problem::shape("/material", format!("\"{id}\" is not a known material."))
                        .allowing(BUILT_IN.join(", "))
                })?,
        };
        Ok(match self.moisture {
            Moisture::Dry => dry,
            Moisture::Wet => 0.85 * dry,
        })
    }
}

pub fn run(input: Value) -> Result<Value, Problem> {
    let input: In = from_value(input)?;
    count(input.spans.len(), "/spans", 1, 100)?;
    for (i, s) in input.spans.iter().enumerate() {
        within(*s, &format!("/spans/{i}"), 1.0, MAX_LENGTH)?;
    }
    positive(input.width, "/width", MAX_LENGTH)?;
    positive(input.thickness, "/thickness", 1000.0)?;
    count(input.loads.len(), "/loads", 0, 200)?;
    let e = input.modulus()?;
    let total: f64 = input.spans.iter().sum();
    let loads = input.loads.iter().enumerate();
    let loads: Result<Vec<_>, _> = loads
        .map(|(i, l)| l.load(&format!("/loads/{i}"), total))
        .collect();
    let beam = Beam {
        spans: input.spans,
        width: input.width,
        depth: input.thickness,
        e,
        loads: loads?,
    };
    let bent = beam.bend().ok_or_else(|| {
        Problem::impossible(
            "",
            "The beam has no solution with these numbers: too far apart in size.",
        )
    })?;
    Ok(json!({
        "max_deflection": bent.max_deflection, "at": bent.at, "span_over": bent.span_over,
        "reactions": bent.reactions, "max_moment": bent.max_moment, "max_stress": bent.max_stress,
        "sag_by_span": bent.sag_by_span,
        "trace": [
            format!("E = {e:.0} N/mm2"),
            format!("I = {} x {}^3 / 12 = {:.0} mm4", beam.width, beam.depth, beam.width * beam.depth.powi(3) / 12.0),
        ],
    }))
}
