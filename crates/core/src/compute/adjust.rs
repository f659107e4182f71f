//! `adjust`: a least-squares network in the plane.

use std::collections::BTreeMap;

use indexmap::IndexMap;
use serde::Deserialize;
use serde_json::{Map, Value, json};

use crate::input::{MAX_LENGTH, count, escape, from_value, positive, within};
use crate::network::{Kind, Network, Node, Observation, Snooped, Unsolved, snoop};
use crate::problem::Problem;

/// The most points and readings.
const MAX_POINTS: usize = 1000;
const MAX_READINGS: usize = 10_000;

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct In {
    points: IndexMap<String, PointIn>,
    readings: Vec<ReadingIn>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct PointIn {
    #[serde(default)]
    xy: Option<[f64; 2]>,
    #[serde(default)]
    fixed: bool,
    #[serde(default)]
    fixed_y: bool,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct ReadingIn {
    id: String,
    kind: String,
    #[serde(default)]
    from: Option<String>,
    #[serde(default)]
    to: Option<String>,
    #[serde(default)]
    point: Option<String>,
    #[serde(default)]
    line: Option<[String; 2]>,
    value: f64,
    sd: f64,
}

pub fn run(input: Value) -> Result<Value, Problem> {
    let net = network(from_value(input)?)?;
    let found = snoop(&net).map_err(|e| match e {
        Unsolved::Undetermined(names) => Problem::impossible(
            format!("/points/{}", names.first().map_or(String::new(), |n| escape(n))),
            format!(
                "The readings do not determine {}. Measure {} to two known points, or give a first guess.",
                names.join(", "),
                if names.len() == 1 { "it" } else { "them" }
            ),
        ),
        Unsolved::Restless => Problem::impossible(
            "/readings",
            "The readings contradict each other so much that no place for the points can be found.",
        ),
    })?;
    Ok(answer(&net, &found))
}

fn network(input: In) -> Result<Network, Problem> {
    count(input.points.len(), "/points", 1, MAX_POINTS)?;
    count(input.readings.len(), "/readings", 0, MAX_READINGS)?;
    let mut net = Network::default();
    let mut number = BTreeMap::new();
    for (name, p) in input.points {
        let at = format!("/points/{}", escape(&name));
        for (i, v) in p.xy.iter().flatten().enumerate() {
            within(
                *v,
                &format!("{at}/xy/{i}"),
                -MAX_LENGTH * 10.0,
                MAX_LENGTH * 10.0,
            )?;
        }
        if (p.fixed || p.fixed_y) && p.xy.is_none() {
            return Err(Problem::missing(
                format!("{at}/xy"),
                "A point that is held needs its coordinates.",
            ));
        }
        number.insert(name.clone(), net.points.len());
        net.points.push(Node {
            name,
            xy: p.xy,
            fixed: [p.fixed, p.fixed || p.fixed_y],
        });
    }
    let mut ids = std::collections::BTreeSet::new();
    for (i, r) in input.readings.into_iter().enumerate() {
        let at = format!("/readings/{i}");
        if !ids.insert(r.id.clone()) {
            return Err(Problem::impossible(
                format!("{at}/id"),
                format!("The identifier \"{}\" is there twice.", r.id),
            ));
        }
        net.readings.push(observation(r, &at, &number)?);
    }
    Ok(net)
}

fn observation(
    r: ReadingIn,
    at: &str,
    number: &BTreeMap<String, usize>,
) -> Result<Observation, Problem> {
    let find = |name: Option<&String>, field: &str| -> Result<usize, Problem> {
        let pointer = format!("{at}/{field}");
        let Some(name) = name else {
            return Err(Problem::missing(
                pointer,
                format!("The field `{field}` is needed."),
            ));
        };
        number
            .get(name)
            .copied()
            .ok_or_else(|| Problem::missing(pointer, format!("There is no point \"{name}\".")))
    };
    let line = || -> Result<(usize, usize), Problem> {
        let l = r.line.as_ref();
        Ok((
            find(
                l.map(|l| &l[0]),
                if l.is_some() { "line/0" } else { "line" },
            )?,
            find(l.map(|l| &l[1]), "line/1")?,
        ))
    };
    const KINDS: [&str; 5] = ["distance", "x", "y", "offset", "along"];
    if !KINDS.contains(&r.kind.as_str()) {
        return Err(Problem::shape(
            format!("{at}/kind"),
            format!("There is no kind of reading \"{}\".", r.kind),
        )
        .allowing(KINDS.join(", ")));
    }
    let extra: &[(&str, bool)] = match r.kind.as_str() {
        "distance" => &[("point", r.point.is_some()), ("line", r.line.is_some())],
        "x" | "y" => &[
            ("from", r.from.is_some()),
            ("to", r.to.is_some()),
            ("line", r.line.is_some()),
        ],
        _ => &[("from", r.from.is_some()), ("to", r.to.is_some())],
    };
    if let Some((field, _)) = extra.iter().find(|(_, there)| *there) {
        return Err(Problem::shape(
            format!("{at}/{field}"),
            format!("A reading of kind `{}` has no `{field}`.", r.kind),
        ));
    }
    let kind = match r.kind.as_str() {
        "distance" => Kind::Distance(find(r.from.as_ref(), "from")?, find(r.to.as_ref(), "to")?),
        "x" => Kind::X(find(r.point.as_ref(), "point")?),
        "y" => Kind::Y(find(r.point.as_ref(), "point")?),
        other => {
            let ((a, b), p) = (line()?, find(r.point.as_ref(), "point")?);
            if other == "offset" {
                Kind::Offset(a, b, p)
            } else {
                Kind::Along(a, b, p)
            }
        }
    };
    match kind {
        Kind::Distance(a, b) if a == b => {
            return Err(Problem::impossible(
                format!("{at}/to"),
                "A distance from a point to itself.",
            ));
        }
        Kind::Offset(a, b, p) | Kind::Along(a, b, p) if a == b || p == a || p == b => {
            return Err(Problem::impossible(
                format!("{at}/line"),
                "A line needs two points, and a third to measure to.",
            ));
        }
        _ => {}
    }
    let low = if r.kind == "distance" {
        0.0
    } else {
        -MAX_LENGTH * 10.0
    };
    Ok(Observation {
        value: within(r.value, &format!("{at}/value"), low, MAX_LENGTH * 10.0)?,
        sd: positive(r.sd, &format!("{at}/sd"), 1e4)?,
        id: r.id,
        kind,
    })
}

fn answer(net: &Network, found: &Snooped) -> Value {
    let a = &found.adjusted;
    let id = |i: &usize| net.readings[*i].id.clone();
    let mut points = Map::new();
    for (i, p) in net.points.iter().enumerate() {
        let [xx, yy, xy] = a.cov[i];
        let middle = (xx + yy) / 2.0;
        let reach = ((xx - yy) / 2.0).hypot(xy);
        points.insert(
            p.name.clone(),
            json!({
                "xy": a.xy[i], "sd": [xx.max(0.0).sqrt(), yy.max(0.0).sqrt()],
                "ellipse": {
                    "a": (middle + reach).max(0.0).sqrt(), "b": (middle - reach).max(0.0).sqrt(),
                    "angle": (0.5 * (2.0 * xy).atan2(xx - yy)).to_degrees(),
                },
            }),
        );
    }
    let readings: Vec<Value> = (0..net.readings.len())
        .map(|i| {
            json!({
                "id": id(&i), "residual": a.residual[i], "standardized": found.standardized[i],
                "redundancy": a.redundancy[i],
            })
        })
        .collect();
    let ids = |list: &[usize]| -> Vec<String> { list.iter().map(id).collect() };
    let mut out = json!({
        "points": points, "readings": readings, "dof": a.dof,
        "variance_factor": a.variance_factor, "suspects": ids(&found.suspects),
        "iterations": a.iterations,
    });
    if !found.kept.is_empty() {
        out["undetermined_check"] = json!(ids(&found.kept));
    }
    if !found.alike.is_empty() {
        let groups: Vec<Value> = found
            .alike
            .iter()
            .map(|g| {
                json!({
                    "readings": ids(g),
                    "decide": format!("Nothing tells {} apart. Read {} again: the new reading decides.",
                        ids(g).join(" and "), id(&g[0])),
                })
            })
            .collect();
        out["cannot_tell_apart"] = json!(groups);
    }
    out
}
