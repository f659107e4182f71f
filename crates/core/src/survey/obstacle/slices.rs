//! What the readings say of a thing at each height at which it was read.

use crate::project::survey::{Thing, ThingDim};
use crate::survey::model::Model;

/// A thing at one height: along the bay, and from the centre line outwards.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) struct Slice {
    pub(super) z: f64,
    pub(super) start: f64,
    pub(super) end: f64,
    pub(super) face: f64,
    pub(super) far: f64,
    /// Of a thing whose ends are not square: where its inner face begins and ends, and where its ends begin to
    /// run in.
    pub(super) inner: (f64, f64),
    pub(super) shoulder: f64,
}

/// The slices from its foot up to `top`, and the largest standard deviation of its faces.
pub(super) fn read(
    model: &Model,
    (id, thing): (&str, &Thing),
    foot: f64,
    top: f64,
) -> Option<(Vec<Slice>, f64)> {
    let mut heights = vec![None];
    heights.extend(model.thing_heights(id).into_iter().map(Some));
    let mut slices = Vec::new();
    let mut sd: f64 = 0.0;
    for z in heights {
        // What was not read at a height is as it is at the foot; one end that was not, leans
        // like the other.
        let own = |dim| model.number(id, dim, z);
        let get = |dim| own(dim).or_else(|| model.number(id, dim, None));
        let (mut start, mut end) = (get(ThingDim::Start)?, get(ThingDim::End)?);
        if let (Some(a), Some(b), Some(_)) = (
            model.number(id, ThingDim::Start, None),
            model.number(id, ThingDim::End, None),
            z,
        ) {
            match (own(ThingDim::Start), own(ThingDim::End)) {
                (Some(s), None) => end.0 = b.0 - (s.0 - a.0),
                (None, Some(e)) => start.0 = a.0 + (b.0 - e.0),
                _ => {}
            }
        }
        let (end, end_sd) = (end.0.max(start.0 + 1.0), end.1);
        let face = get(ThingDim::Face)?;
        let far = get(ThingDim::Far);
        sd = [start.1, end_sd, face.1, far.map_or(0.0, |f| f.1)]
            .into_iter()
            .fold(sd, f64::max);
        // Bevels and curves are as large at every height as at the foot.
        let (mut inner, mut shoulder) = ((start.0, end), face.0);
        if !thing.ends.are_square() {
            let mut beside = |dim, of, now: f64| {
                let foot_of = |dim| model.number(id, dim, None);
                let (a, b) = (foot_of(dim)?, foot_of(of)?);
                sd = sd.max(a.1);
                Some(now + a.0 - b.0)
            };
            let from = beside(ThingDim::FaceStart, ThingDim::Start, start.0);
            let to = beside(ThingDim::FaceEnd, ThingDim::End, end);
            shoulder = beside(ThingDim::Shoulder, ThingDim::Face, face.0).unwrap_or(face.0);
            inner.0 = from.unwrap_or(start.0).clamp(start.0, end);
            inner.1 = to.unwrap_or(end).clamp(inner.0, end);
        }
        slices.push(Slice {
            z: z.unwrap_or(foot),
            start: start.0,
            end,
            face: face.0,
            far: far.map_or(f64::NAN, |f| f.0.max(face.0 + 1.0)),
            inner,
            shoulder: shoulder.max(face.0),
        });
    }
    slices.sort_by(|a, b| a.z.total_cmp(&b.z));
    if thing.slope != 0.0 && thing.kind.carries() {
        let last = *slices.last()?;
        slices.extend(wedge(last, top, thing.slope));
    }
    Some((slices, sd))
}

/// What a thing becomes above `last` when its top rises by `slope` degrees to its highest: the end away from that runs in.
fn wedge(last: Slice, top: f64, slope: f64) -> Vec<Slice> {
    /// The highest end keeps this much, mm: a body has no edge of nothing.
    const EDGE: f64 = 0.1;
    if top <= last.z + EDGE {
        return vec![];
    }
    let tangent = slope.abs().to_radians().tan().max(1e-6);
    let long = last.end - last.start;
    // Where it begins to run in, no lower than what was read; and how long it is there at the top.
    let from = (top - long * tangent).max(last.z);
    let left = (long - (top - from) / tangent).max(EDGE.min(long));
    let mut high = Slice { z: top, ..last };
    if slope > 0.0 {
        high.start = last.end - left;
    } else {
        high.end = last.start + left;
    }
    let run_in = |x: f64| x.clamp(high.start, high.end);
    high.inner = (run_in(last.inner.0), run_in(last.inner.1));
    vec![Slice { z: from, ..last }, high]
}
