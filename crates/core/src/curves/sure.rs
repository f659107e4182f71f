//! How sure a captured curve is along its way, and how far each reading lies off it: what is drawn, enlarged, under it.

use serde::Serialize;
use utoipa::ToSchema;

use super::capture::Captured;
use super::fair::{Mark, sureness};
use super::view::MarkView;
use crate::geometry::distance;
use crate::units::figure::{Figure, Writer};

/// The curve is looked at, at so many places.
const PLACES: f64 = 80.0;
/// Of more readings each tells little, and they are not drawn one by one.
const MANY: usize = 60;

/// How sure a curve is.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
#[schema(as = CurveSureness)]
pub struct Sure {
    /// Along the drawing, mm, and what the curve may be off there, two standard deviations, mm: corner to corner.
    #[schema(value_type = Vec<Vec<Vec<f64>>>)]
    pub band: Vec<Vec<[f64; 2]>>,
    /// The readings in their order along it.
    pub off: Vec<Off>,
    /// Where the band is widest, from the middle to its border.
    pub widest: Figure,
    /// What the furthest reading lies off, the one that is wrong aside.
    pub furthest: Figure,
    /// What that one lies off the curve through the others.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub astray: Option<Figure>,
}

/// How far a reading lies off the curve.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
#[schema(as = ReadingOff)]
pub struct Off {
    /// Identifier of the reading.
    pub id: String,
    /// Along the drawing, mm.
    pub at: f64,
    /// How far off, mm; up as it is drawn. Of a reading that is wrong: off the curve through the others.
    pub mm: f64,
}

/// Along the drawing, and one standard deviation of the curve there, mm; a list for each part from corner to corner.
/// A part is empty where it turns far from its chord or has fewer than three readings; nothing at all where all are, or where
/// there are very many readings.
pub fn band(c: &Captured) -> Option<Vec<Vec<(f64, f64)>>> {
    if c.seen.len() > MANY {
        return None;
    }
    let long = |(a, b): (usize, usize)| distance(c.seen[a].p, c.seen[b].p);
    let whole: f64 = c.parts.iter().map(|p| long(*p)).sum();
    let part = |p: &(usize, usize)| {
        let n = (PLACES * long(*p) / whole.max(1e-9)).ceil().max(2.0);
        let all = sureness(&c.seen[p.0..=p.1], c.along, n as usize)?;
        Some(all.into_iter().map(|(p, sd)| (p[0], sd)).collect())
    };
    let all: Vec<Vec<_>> = c
        .parts
        .iter()
        .map(|p| part(p).unwrap_or_default())
        .collect();
    all.iter().any(|p| !p.is_empty()).then_some(all)
}

/// The same with the readings, to be drawn; not of a curve that runs upwards more than along, for it is drawn under it.
pub fn sure(
    c: &Captured,
    band: &[Vec<(f64, f64)>],
    marks: &[MarkView],
    w: &Writer,
) -> Option<Sure> {
    let (first, last) = (c.seen.first()?, c.seen.last()?);
    let [right, rise] = [0, 1].map(|k| last.p[k] - first.p[k]);
    if right.abs() < rise.abs() {
        return None;
    }
    // To the left is up where the curve goes to the right.
    let up = right.signum();
    let seen = c.seen.iter().zip(&c.off).zip(&c.readings);
    let one = |((m, off), reading): ((&Mark, &f64), &usize)| {
        Some(Off {
            id: marks.get(*reading)?.id.clone(),
            at: m.p[0],
            // The curve follows a reading that is wrong; the others do not.
            mm: up
                * if c.misfit == Some(*reading) {
                    c.astray
                } else {
                    *off
                },
        })
    };
    let off: Vec<Off> = seen.filter_map(one).collect();
    let most = |all: &mut dyn Iterator<Item = f64>| all.fold(0.0, |m: f64, v| m.max(v.abs()));
    let widest = most(&mut band.iter().flatten().map(|b| 2.0 * b.1));
    let wrong = c.misfit.and_then(|i| Some(marks.get(i)?.id.as_str()));
    let others = || off.iter().filter(|o| Some(o.id.as_str()) != wrong);
    let furthest = most(&mut others().map(|o| o.mm));
    Some(Sure {
        band: band
            .iter()
            .map(|part| part.iter().map(|(x, sd)| [*x, 2.0 * sd]).collect())
            .collect(),
        off,
        widest: w.figure(widest),
        furthest: w.figure(furthest),
        astray: wrong.map(|_| w.figure(c.astray.abs())),
    })
}
