//! A captured curve turned over for the other side: right only where the two sides agree.

use std::collections::BTreeMap;

use crate::project::templates::{Face, Side, Station, Template, Way};

/// The same curve for the opposite wall: the card turned over, its landmarks at the same places.
pub fn mirrored(t: &Template) -> Option<Template> {
    let place = t.place.as_ref()?;
    let of = match place.of {
        Face::Left => Face::Right,
        Face::Right => Face::Left,
        Face::Front => return None,
    };
    let minus = |v: Option<f64>| v.map(|v| -v);
    let mut out = t.clone();
    out.surface = match t.surface {
        Side::Left => Side::Right,
        Side::Right => Side::Left,
    };
    out.direction = -t.direction;
    // Depths and distances are what they are; points of a card change sides.
    if matches!(t.way, Way::OffsetBlock | Way::Scribe | Way::Drawn) {
        let turned = t.stations.iter().map(|(id, s)| {
            let own = Station {
                a: s.a,
                b: minus(s.b),
                ..*s
            };
            (id.clone(), own)
        });
        out.stations = turned.collect::<BTreeMap<_, _>>();
    }
    if let Some(p) = &mut out.place {
        p.of = of;
        for tie in p.landmarks.values_mut() {
            tie.b = minus(tie.b);
        }
    }
    Some(out)
}
