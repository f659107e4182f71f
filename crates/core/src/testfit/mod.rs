//! A board held in place: where its edge is looked at, what was seen, what that makes of the board. The vehicle has
//! learnt from it already (`survey/witness.rs`); here it is told.

pub mod edge;
mod verdict;

use serde::Serialize;
use utoipa::ToSchema;

use crate::boards::BoardView;
use crate::geometry::pose::Pose;
use crate::geometry::region::Region;
use crate::geometry::{Point, distance};
use crate::parts::Part;
use crate::project::Project;
use crate::project::fits::{Fit, FitPlace, Says, Went};
use crate::project::templates::{Face, Plane};
use crate::survey::model::Model;
use crate::survey::witness::{Origin, plane};
use crate::units::INCH;
use crate::units::figure::{Figure, System, Writer};
use edge::{Lying, NEAR, Spot, runs_along, stretches};
pub use verdict::{Stretch, Verdict};

/// A board that can be held in place: some of its edge runs along the vehicle.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct FitBoard {
    /// `module/board`.
    pub board: String,
    /// What is written on it.
    pub mark: String,
    /// What it is.
    pub name: String,
    /// How it is looked at: `above` (forward to the right, left up) or `behind` (left to the left).
    pub seen: String,
    /// As it is to be cut now, mm as it is seen.
    pub outline: Region,
    /// A new round, ready to be stored.
    pub fresh: Fit,
    /// What is tapped for how much: few enough for a thumb.
    pub gauge: Vec<Figure>,
    /// The rounds so far, the oldest first.
    pub rounds: Vec<Round>,
    /// What becomes of the board of the last round.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub verdict: Option<Verdict>,
}

/// A round: the board was held in place once.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
#[schema(as = FitRound)]
pub struct Round {
    /// Identifier.
    pub id: String,
    /// When.
    pub when: String,
    /// How it went.
    pub went: Went,
    /// The board as it was, mm as it is seen.
    pub outline: Region,
    /// Where to look.
    pub places: Vec<Place>,
    /// In the board's last round: where else along the edge a finger may tap, because the gap changes there.
    pub between: Vec<Place>,
    /// How many of them were answered.
    pub answered: usize,
    /// The plan does not go by it.
    pub aside: bool,
}

/// A place on the edge.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
#[schema(as = FitSpot)]
pub struct Place {
    /// Its key in the round.
    pub key: String,
    /// Where it is, in words.
    pub words: String,
    /// Where it is drawn, mm as it is seen.
    #[schema(value_type = Vec<f64>)]
    pub at: Point,
    /// Square to the edge, outwards, as it is seen.
    #[schema(value_type = Vec<f64>)]
    pub out: Point,
    /// What the plan expects to be seen now.
    pub expected: Figure,
    /// An answer ready to be stored, but for what is seen.
    pub answer: FitPlace,
    /// The same as briefly as a drawing wants it: `5`, `0`, `-3` for proud.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub tag: Option<String>,
    /// What was seen, in words: `gap 5 mm`.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub said: Option<String>,
    /// It does not go together with the rest: it is asked again and not counted.
    pub doubted: bool,
}

/// Places are so far apart along an edge, mm.
const APART: f64 = 140.0;
/// So far apart a finger tells places between them from each other, mm.
const FINGER: f64 = 30.0;
/// Keys of places that a person chose between the usual ones begin so.
const CHOSEN: char = '+';
/// No more of them for a board.
const MOST: usize = 40;
/// They stay so far from the ends of a stretch, mm.
const ENDS: f64 = 15.0;

/// All boards that can be held in place.
pub fn boards(
    project: &Project,
    model: &Model,
    boards: &[BoardView],
    parts: &[Part],
) -> Vec<FitBoard> {
    let one = |b: &BoardView| board(project, model, (b, boards), parts);
    boards.iter().filter_map(one).collect()
}

fn board(
    project: &Project,
    model: &Model,
    (b, all): (&BoardView, &[BoardView]),
    parts: &[Part],
) -> Option<FitBoard> {
    let part = parts.iter().find(|p| p.boards.contains(&b.id))?;
    let first = all.iter().find(|o| part.boards.first() == Some(&o.id))?;
    // Of boards alike the part says where the first lies; the others lie as much beside their exact shape.
    let off: [f64; 3] = std::array::from_fn(|i| part.at[i] - first.shut.origin[i]);
    let along = |d: &[f64; 3]| -> f64 { (0..3).map(|i| off[i] * d[i]).sum() };
    let (a, c) = (along(&first.shut.u), along(&first.shut.v));
    let pose = b.shut.from(b.shut.at(a, c, 0.0));
    let own = project.fits.iter().filter(|(_, f)| f.board == b.id);
    let mut rounds: Vec<(&String, &Fit)> = own.collect();
    rounds.sort_by(|a, b| (&a.1.when, a.0).cmp(&(&b.1.when, b.0)));
    let lying = Lying {
        outline: &part.outline,
        thickness: b.thickness,
        pose: &pose,
    };
    let plane = plane(&pose)?;
    if rounds.is_empty() && !runs_along(lying, model) {
        return None;
    }
    let w = project.writer();
    let last = rounds.last();
    let verdict = last.and_then(|(id, fit)| {
        let step = project.units.marks().mm();
        verdict::verdict((id, fit), model, parts, part, (&w, step))
    });
    Some(FitBoard {
        board: b.id.clone(),
        mark: b.mark.clone(),
        name: part.name.clone(),
        seen: match plane {
            Plane::Level => "above",
            Plane::Across => "behind",
        }
        .into(),
        outline: seen(&part.outline, &pose, plane),
        fresh: Fit {
            board: b.id.clone(),
            mark: b.mark.clone(),
            when: String::new(),
            outline: part.outline.clone(),
            thickness: b.thickness,
            pose,
            went: Went::In,
            places: Default::default(),
            aside: false,
        },
        gauge: gauge(project, &w),
        rounds: {
            let last = rounds.len().saturating_sub(1);
            let each = rounds.into_iter().enumerate();
            each.filter_map(|(i, (id, fit))| round((id, fit), i == last, model, &w))
                .collect()
        },
        verdict,
    })
}

/// As it is seen: from above forward to the right, from behind left to the left.
pub(crate) fn flat(plane: Plane, p: [f64; 3]) -> Point {
    match plane {
        Plane::Level => [p[0], p[1]],
        Plane::Across => [-p[1], p[2]],
    }
}

fn seen(outline: &Region, pose: &Pose, plane: Plane) -> Region {
    outline.map(|p| flat(plane, pose.at(p[0], p[1], 0.0)))
}

fn round((id, fit): (&str, &Fit), last: bool, model: &Model, w: &Writer) -> Option<Round> {
    let plane = plane(&fit.pose)?;
    let lying = Lying {
        outline: &fit.outline,
        thickness: fit.thickness,
        pose: &fit.pose,
    };
    // Answers stay where they were given, whatever the vehicle is thought to be by now; all in the order of the edge.
    let mut given: Vec<(&String, &FitPlace)> = fit.places.iter().collect();
    let mut places: Vec<Place> = Vec::new();
    let runs = stretches(lying, NEAR, model);
    let name = |s: &Spot| {
        let [a, b] = s.at.map(|v| v.round() as i64);
        format!("{a}.{b}")
    };
    for s in chosen(&runs) {
        let near = |a: &FitPlace| a.of == s.of && distance(a.at, s.at) < APART / 2.0;
        let own: Vec<_> = given.extract_if(.., |(_, a)| near(a)).collect();
        // What was seen beside it does not answer it.
        let usual = |key: &str| !key.starts_with(CHOSEN);
        let answers = own.iter().any(|(key, _)| usual(key));
        if !answers && !places.iter().any(|p| usual(&p.key) && near(&p.answer)) {
            places.push(place(&name(&s), (id, fit, plane), &s, model, w));
        }
        places.extend(own.iter().map(|a| answered(a, (id, fit, plane), model, w)));
    }
    places.extend(
        given
            .iter()
            .map(|a| answered(a, (id, fit, plane), model, w)),
    );
    let mut between: Vec<Place> = Vec::new();
    for s in runs.iter().flatten().filter(|_| last) {
        let near = |p: &Place| p.answer.of == s.of && distance(p.answer.at, s.at) < 0.9 * FINGER;
        if !places.iter().chain(&between).any(near) && between.len() < 4 * MOST {
            let key = format!("{CHOSEN}{}", name(s));
            between.push(place(&key, (id, fit, plane), s, model, w));
        }
    }
    let doubted = |key: &str| {
        let mut all = model.judged.bodies.iter();
        all.any(|b| b.origin == Origin::Fit && b.id == id && b.mark.as_deref() == Some(key))
    };
    for p in &mut places {
        p.doubted = p.said.is_some() && doubted(&p.key);
    }
    Some(Round {
        id: id.into(),
        when: fit.when.clone(),
        went: fit.went,
        outline: seen(&fit.outline, &fit.pose, plane),
        answered: fit.places.values().filter(|p| p.gap().is_some()).count(),
        aside: fit.aside,
        places,
        between,
    })
}

/// A place of which something was said.
fn answered(
    (key, a): &(&String, &FitPlace),
    round: (&str, &Fit, Plane),
    model: &Model,
    w: &Writer,
) -> Place {
    let spot = Spot {
        of: a.of,
        at: a.at,
        out: a.out,
        gap: 0.0,
        seen: 0.0,
    };
    place(key, round, &spot, model, w)
}

/// Widths of gaps to choose from, in the project's own system.
fn gauge(project: &Project, w: &Writer) -> Vec<Figure> {
    let sizes: &[f64] = match project.units.system {
        System::Mm => &[1.0, 2.0, 3.0, 4.0, 5.0, 6.0, 8.0, 10.0, 12.0, 15.0, 20.0],
        System::In => &[
            0.0625, 0.125, 0.1875, 0.25, 0.3125, 0.375, 0.5, 0.625, 0.75, 1.0,
        ],
    };
    let mm = match project.units.system {
        System::Mm => 1.0,
        System::In => INCH,
    };
    sizes.iter().map(|s| w.figure(s * mm)).collect()
}

/// A few spots of each stretch: near its ends, and evenly between.
fn chosen(stretches: &[Vec<Spot>]) -> Vec<Spot> {
    let mut out = Vec::new();
    for run in stretches {
        let (Some(a), Some(b)) = (run.first(), run.last()) else {
            continue;
        };
        let long: f64 = run.windows(2).map(|w| distance(w[0].at, w[1].at)).sum();
        if long < 2.0 * ENDS {
            // Too short to be seen along: a corner, a relief.
            continue;
        }
        let inner: Vec<&Spot> = run
            .iter()
            .filter(|s| distance(s.at, a.at) >= ENDS && distance(s.at, b.at) >= ENDS)
            .collect();
        let n = (long / APART).round().clamp(1.0, 20.0) as usize;
        let pick = |i: usize| inner.get(i * (inner.len() - 1) / n.max(1));
        if inner.is_empty() {
            continue;
        }
        let picked: Vec<Spot> = (0..=n).filter_map(pick).map(|s| **s).collect();
        out.extend(picked);
    }
    // Too many: an even share, so that no stretch is left out.
    let n = out.len();
    match n > MOST {
        true => (0..MOST).map(|i| out[i * n / MOST]).collect(),
        false => out,
    }
}

fn place(
    key: &str,
    (id, fit, plane): (&str, &Fit, Plane),
    s: &Spot,
    model: &Model,
    w: &Writer,
) -> Place {
    let way: [f64; 3] =
        std::array::from_fn(|i| s.out[0] * fit.pose.u[i] + s.out[1] * fit.pose.v[i]);
    let ends = [0.0, fit.thickness].map(|t| fit.pose.at(s.at[0], s.at[1], t));
    let p = ends[plane.seen(ends)];
    let answer = fit.places.get(key);
    // As the board lay: a person shoves it.
    let lay = model.lay(id);
    let shoved = lay.map_or(0.0, |l| l.along(plane.flat(p).0, plane.flat(way).0));
    let words = match (s.of, plane) {
        (Face::Front, _) => format!(
            "front, {} {} of the middle",
            w.say(p[1].abs().round()),
            if p[1] >= 0.0 { "left" } else { "right" }
        ),
        (of, Plane::Level) => format!("{}, {} forward", of.word(), w.say(p[0].round())),
        (of, Plane::Across) => format!("{}, {} over the floor", of.word(), w.say(p[2].round())),
    };
    Place {
        key: key.into(),
        words,
        at: flat(plane, p),
        out: flat(plane, way),
        expected: w.figure(edge::air(s.of, p, way, model).unwrap_or(0.0) - shoved),
        answer: answer.cloned().unwrap_or(FitPlace {
            of: s.of,
            at: s.at,
            out: s.out,
            says: Says::Gap,
            mm: None,
            aside: false,
        }),
        tag: answer.and_then(|a| {
            Some(match a.says {
                Says::Touches => "0".into(),
                Says::Gap => w.bare(a.mm?),
                Says::Proud => format!("\u{2212}{}", w.bare(a.mm?)),
            })
        }),
        said: answer.and_then(|a| said(a, w)),
        doubted: false,
    }
}

/// What was seen, in words.
fn said(a: &FitPlace, w: &Writer) -> Option<String> {
    Some(match a.says {
        Says::Touches => "touches".into(),
        Says::Gap => format!("gap {}", w.say(a.mm?)),
        Says::Proud => format!("proud {}", w.say(a.mm?)),
    })
}
