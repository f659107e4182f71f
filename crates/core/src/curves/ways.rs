//! From a captured curve in the document to its way of capturing, and what each way asks for.

use serde::Serialize;
use utoipa::ToSchema;

use super::capture::{
    Capture, OffsetBlock, Ordinate, Ordinates, Run, Runs, Scribe, TwoPin, TwoReadings,
};
use crate::geometry::Point;
use crate::project::templates::{Station, Template, Way};

/// A further number of a reading, beside its first two.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct More {
    /// The field.
    pub field: String,
    /// What it is called.
    pub label: String,
    /// It is an angle in degrees, not a length.
    pub degrees: bool,
}

/// What the first two numbers of a reading are called.
pub fn asks(way: Way) -> [&'static str; 2] {
    match way {
        Way::Ordinates => ["along the straight edge", "depth"],
        Way::TwoPin => ["from the first pin", "from the second pin"],
        Way::Runs => ["length of the run", "across its corner"],
        Way::OffsetBlock | Way::Scribe | Way::Drawn => ["right", "up"],
    }
}

/// What else a reading may say.
pub fn more(t: &Template) -> Vec<More> {
    let of = |field: &str, label: &str, degrees| More {
        field: field.into(),
        label: label.into(),
        degrees,
    };
    match t.way {
        Way::TwoPin if third(t).is_some() => vec![of("c", "from the third pin", false)],
        Way::Runs => vec![
            of("angle", "or angle °", true),
            of("radius", "radius", false),
        ],
        _ => vec![],
    }
}

/// Where the third pin is: on the side away from the surface.
fn third(t: &Template) -> Option<Point> {
    let (a, b) = (t.third_a?, t.third_b?);
    let x = (a * a - b * b + t.apart * t.apart) / (2.0 * t.apart);
    let square = a * a - x * x;
    (square > 0.0).then(|| [x, -t.surface.sign() * square.sqrt()])
}

/// The readings that are whole, in order.
pub fn whole(t: &Template) -> Vec<(&String, Station)> {
    let last = t.stations.len().saturating_sub(1);
    let all = t.stations.iter().enumerate();
    let known = |(i, (_, s)): &(usize, (&String, &Station))| gaps(t.way, s, *i == last) == 0;
    match t.way {
        // Behind a run that is not known nothing is.
        Way::Runs => all.take_while(known).map(|(_, (id, s))| (id, *s)).collect(),
        _ => all.filter(known).map(|(_, (id, s))| (id, *s)).collect(),
    }
}

/// Which of the readings are marked as corners. Runs have theirs between them.
pub fn corners(t: &Template, read: &[(&String, Station)]) -> Vec<usize> {
    let marked = |(i, (_, s)): (usize, &(&String, Station))| s.corner.then_some(i);
    match t.way {
        Way::Runs => vec![],
        _ => read.iter().enumerate().filter_map(marked).collect(),
    }
}

/// Numbers that are missing of a reading; the last run has no corner.
pub fn gaps(way: Way, s: &Station, last: bool) -> usize {
    let second = match way {
        Way::Runs => last || s.b.is_some() || s.angle.is_some(),
        _ => s.b.is_some(),
    };
    usize::from(s.a.is_none()) + usize::from(!second)
}

/// Numbers still missing of a curve.
pub fn missing(t: &Template) -> usize {
    let last = t.stations.len().saturating_sub(1);
    let all = t.stations.values().enumerate();
    all.map(|(i, s)| gaps(t.way, s, i == last)).sum()
}

/// The straight edge or the pins.
pub fn base(t: &Template) -> Vec<Point> {
    let two = vec![[0.0, 0.0], [t.apart, 0.0]];
    match t.way {
        Way::Ordinates => two,
        Way::TwoPin => two.into_iter().chain(third(t)).collect(),
        Way::Runs | Way::OffsetBlock | Way::Scribe | Way::Drawn => vec![],
    }
}

/// Where the readings lie, before anything is faired.
pub fn spots(t: &Template, read: &[(&String, Station)]) -> Vec<Point> {
    let side = t.surface.sign();
    let numbers = read.iter().map(|(_, s)| pair(s));
    match t.way {
        Way::Ordinates => numbers.map(|[a, b]| [a, side * b]).collect(),
        Way::TwoPin => numbers
            .map(|[a, b]| {
                let x = (a * a - b * b + t.apart * t.apart) / (2.0 * t.apart);
                [x, side * (a * a - x * x).max(0.0).sqrt()]
            })
            .collect(),
        Way::Runs => runs(t, read).ends(),
        Way::OffsetBlock | Way::Scribe | Way::Drawn => numbers.collect(),
    }
}

fn pair(s: &Station) -> [f64; 2] {
    [s.a.unwrap_or(0.0), s.b.unwrap_or(0.0)]
}

fn runs(t: &Template, read: &[(&String, Station)]) -> Runs {
    Runs {
        runs: read
            .iter()
            .map(|(_, s)| Run {
                long: s.a.unwrap_or(0.0),
                across: s.b,
                angle: s.angle,
                radius: s.radius.unwrap_or(0.0),
            })
            .collect(),
        surface: t.surface,
        behind: t.behind,
    }
}

/// The way of capturing with its readings.
pub fn way(t: &Template, read: &[(&String, Station)]) -> Box<dyn Capture> {
    let pins = [[0.0, 0.0], [t.apart, 0.0]];
    let numbers = || read.iter().map(|(_, s)| pair(s));
    match t.way {
        Way::Ordinates => Box::new(Ordinates {
            base: pins,
            readings: numbers()
                .map(|[at, depth]| Ordinate { at, depth })
                .collect(),
            surface: t.surface,
            tip_radius: t.tip_radius,
        }),
        Way::TwoPin => Box::new(TwoPin {
            pins,
            third: third(t),
            readings: read
                .iter()
                .map(|(_, s)| TwoReadings {
                    a: s.a.unwrap_or(0.0),
                    b: s.b.unwrap_or(0.0),
                    c: s.c,
                })
                .collect(),
            surface: t.surface,
        }),
        Way::Runs => Box::new(runs(t, read)),
        Way::OffsetBlock => Box::new(OffsetBlock {
            trace: numbers().collect(),
            offset: t.offset,
            surface: t.surface,
            contact_width: t.contact_width,
        }),
        Way::Drawn => Box::new(OffsetBlock {
            trace: numbers().collect(),
            offset: 0.0,
            surface: t.surface,
            contact_width: 0.0,
        }),
        Way::Scribe => {
            let (s, c) = t.direction.to_radians().sin_cos();
            Box::new(Scribe {
                trace: numbers().collect(),
                direction: [c, s],
                distance: t.offset,
            })
        }
    }
}
