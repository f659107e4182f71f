//! How well a panel cut from a survey would fit: its edge against the true edge less clearance.

use jigfit_core::geometry::inset::inset;
use jigfit_core::geometry::labelled::{Label, Labelled};
use jigfit_core::geometry::region::Region;
use jigfit_core::geometry::{Point, distance_to_segment};
use jigfit_core::project::Project;
use jigfit_core::project::deck::{DECK, Deck, Split};

use crate::vehicle::Vehicle;

/// Edges are looked at every so many mm.
const STEP: f64 = 10.0;

/// A cut-out round a well, post or pipe may be this generous, mm: a strip hides it.
pub const GENEROUS: f64 = 8.0;
/// An edge this much further from a thing than the clearance is an edge along it, mm.
const ALONG: f64 = 25.0;

/// Deviations of a panel's edge, mm: positive where it is too big.
#[derive(Debug, Clone, Default)]
pub struct Fit {
    /// One for each place along the edge.
    pub off: Vec<f64>,
    /// The edge there runs along a thing, not along a wall.
    pub thing: Vec<bool>,
    /// The places.
    pub at: Vec<Point>,
}

impl Fit {
    /// Compares panels with the true free space at `z` less `clearance`.
    pub fn of(v: &Vehicle, panels: &[Region], z: f64, clearance: f64) -> Fit {
        Fit::of_board(v, panels, (z, z), clearance)
    }

    /// The same for a board between two heights: it must go in at both its faces.
    pub fn of_board(v: &Vehicle, panels: &[Region], faces: (f64, f64), clearance: f64) -> Fit {
        let (low, high) = (v.free(faces.0), v.free(faces.1));
        let both = low.iter().flat_map(|a| high.iter().flat_map(|b| a.and(b)));
        let truth: Vec<Region> = both
            .flat_map(|r| inset(&[Labelled::new(&r, Label::default())], &|_| clearance))
            .map(|r| r.region())
            .collect();
        let rings: Vec<&Vec<Point>> = truth
            .iter()
            .flat_map(|r| std::iter::once(&r.outer).chain(&r.holes))
            .collect();
        let bodies = v.obstacles.iter().flat_map(|b| {
            let (foot, top) = (b.sections[0].z, b.sections[b.sections.len() - 1].z);
            let faces = [faces.0, faces.1].into_iter();
            faces
                .filter(move |z| *z >= foot && *z <= top)
                .map(|z| b.outline(z).outer)
        });
        let bodies: Vec<Vec<Point>> = bodies.collect();
        let mut off = Vec::new();
        let mut thing = Vec::new();
        let mut places = Vec::new();
        for p in panels {
            for ring in std::iter::once(&p.outer).chain(&p.holes) {
                for at in along(ring) {
                    let near = rings
                        .iter()
                        .flat_map(|r| {
                            (0..r.len())
                                .map(|i| distance_to_segment(at, r[i], r[(i + 1) % r.len()]))
                        })
                        .fold(f64::INFINITY, f64::min);
                    let inside = rings.iter().filter(|r| contains(r, at)).count() % 2 == 1;
                    let beside = |b: &Vec<Point>| {
                        let n = b.len();
                        (0..n).any(|i| {
                            distance_to_segment(at, b[i], b[(i + 1) % n]) < clearance + ALONG
                        })
                    };
                    thing.push(bodies.iter().any(beside));
                    off.push(if inside { -near } else { near });
                    places.push(at);
                }
            }
        }
        Fit {
            off,
            thing,
            at: places,
        }
    }

    /// Share of the edge within `mm` either way; round things it may be generous.
    pub fn within(&self, mm: f64) -> f64 {
        let good = self.off.iter().zip(&self.thing);
        let good = good.filter(|(d, thing)| {
            let least = if **thing { GENEROUS.max(mm) } else { mm };
            **d <= mm && **d >= -least
        });
        good.count() as f64 / self.off.len().max(1) as f64
    }

    /// Share of the edge too big by more than `mm`.
    pub fn too_big(&self, mm: f64) -> f64 {
        self.share(|d| d > mm)
    }

    fn share(&self, f: impl Fn(f64) -> bool) -> f64 {
        let n = self.off.iter().filter(|d| f(**d)).count();
        n as f64 / self.off.len().max(1) as f64
    }
}

fn along(ring: &[Point]) -> Vec<Point> {
    let n = ring.len();
    let mut out = Vec::new();
    for i in 0..n {
        let (a, b) = (ring[i], ring[(i + 1) % n]);
        let length = (b[0] - a[0]).hypot(b[1] - a[1]);
        let steps = (length / STEP).ceil().max(1.0) as usize;
        out.extend((0..steps).map(|k| {
            let t = (k as f64 + 0.5) / steps as f64;
            [a[0] + t * (b[0] - a[0]), a[1] + t * (b[1] - a[1])]
        }));
    }
    out
}

fn contains(ring: &[Point], p: Point) -> bool {
    let n = ring.len();
    (0..n)
        .filter(|i| {
            let (a, b) = (ring[*i], ring[(i + 1) % n]);
            (a[1] > p[1]) != (b[1] > p[1])
                && p[0] < (b[0] - a[0]) * (p[1] - a[1]) / (b[1] - a[1]) + a[0]
        })
        .count()
        % 2
        == 1
}

/// The project with one whole deck at a height, without reliefs: the board whose edge is compared.
#[must_use]
pub fn with_deck(project: &Project, underside: f64) -> Project {
    let deck = Deck {
        underside: Some(underside),
        split: Split::Whole,
        internal_radius: 0.0,
        ..Deck::default()
    };
    let mut out = project.clone();
    out.modules.insert(DECK.into(), deck.module());
    out
}
