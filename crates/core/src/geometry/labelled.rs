//! Regions whose edges know what they come from. Labels are carried through every boolean by the overlay itself:
//! none is found again by nearness.

use i_overlay::core::edge_data::{EdgeDataMerge, OverlayEdgeData};
use i_overlay::core::edge_overlay::{EdgeOverlay, InputEdge};
use i_overlay::core::fill_rule::FillRule;
use i_overlay::core::overlay::ShapeType;
use i_overlay::core::overlay_rule::OverlayRule;
use i_overlay::i_float::int::point::IntPoint;
use i_overlay::segm::boolean::ShapeCountBoolean;

use super::region::{Region, SAME, STRAIGHT};
use super::{Point, beside, distance, sides};

/// The overlay works on whole numbers up to 2^30: coordinates are scaled to 2^28.
const GRID: f64 = 268_435_456.0;

/// What an edge comes from: a rank, that decides where two coincide (the lower stays), and a number that means
/// something to whoever gave it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Default)]
pub struct Label {
    /// A thing in the way over a wall over a cut line.
    pub rank: Rank,
    /// Which.
    pub number: u32,
}

/// What stays where two edges coincide.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Default)]
pub enum Rank {
    /// A thing in the way.
    Thing,
    /// A wall, the front, the threshold.
    Wall,
    /// A cut line.
    Cut,
    /// Nothing in particular.
    #[default]
    None,
}

impl Label {
    /// A wall's, the front's or the threshold's.
    pub fn wall(number: usize) -> Label {
        Label {
            rank: Rank::Wall,
            number: number as u32,
        }
    }

    /// A thing's.
    pub fn thing(number: usize) -> Label {
        Label {
            rank: Rank::Thing,
            number: number as u32,
        }
    }

    /// A cut line's.
    pub fn cut(number: usize) -> Label {
        Label {
            rank: Rank::Cut,
            number: number as u32,
        }
    }
}

impl OverlayEdgeData for Label {
    type Store = ();

    fn merge(ctx: EdgeDataMerge<ShapeCountBoolean, Self>, _: &mut ()) -> Self {
        ctx.lhs_data.min(ctx.rhs_data)
    }
}

/// A closed line: every corner with the label of the edge that begins there.
pub type Ring = Vec<(Point, Label)>;

/// A region with a label on every edge: its outline counter-clockwise, then its holes, clockwise.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct Labelled {
    /// The outline, then the holes.
    pub rings: Vec<Ring>,
}

impl Labelled {
    /// A region with one label all round.
    pub fn new(region: &Region, label: Label) -> Labelled {
        Labelled::with(region, &mut |_, _| label)
    }

    /// A region whose edges are labelled by `label(from, to)`.
    pub fn with(region: &Region, label: &mut dyn FnMut(Point, Point) -> Label) -> Labelled {
        let mut ring = |points: &Vec<Point>| -> Ring {
            sides(points).map(|(a, b)| (a, label(a, b))).collect()
        };
        let mut rings = vec![ring(&region.outer)];
        rings.extend(region.holes.iter().map(ring));
        Labelled { rings }
    }

    /// The same without labels.
    pub fn region(&self) -> Region {
        let points = |ring: &Ring| ring.iter().map(|(p, _)| *p).collect();
        let mut rings = self.rings.iter().map(points);
        Region {
            outer: rings.next().unwrap_or_default(),
            holes: rings.collect(),
        }
    }

    /// With every label through `f`.
    #[must_use]
    pub fn relabelled(mut self, f: &dyn Fn(Label) -> Label) -> Labelled {
        for corner in self.rings.iter_mut().flatten() {
            corner.1 = f(corner.1);
        }
        self
    }

    /// Every edge: from, to, label.
    pub fn edges(&self) -> impl Iterator<Item = (Point, Point, Label)> + '_ {
        let rings = self.rings.iter();
        rings.flat_map(|ring| sides(ring).map(|(a, b)| (a.0, b.0, a.1)))
    }

    /// The parts of this region not in `others`, which may lie over each other.
    pub fn minus(&self, others: &[Labelled]) -> Vec<Labelled> {
        combine(&[self], others, OverlayRule::Difference)
    }

    /// The parts of this region also in `other`.
    pub fn and(&self, other: &Labelled) -> Vec<Labelled> {
        combine(&[self], std::slice::from_ref(other), OverlayRule::Intersect)
    }

    /// With as few corners as leave its outline by at most `near` mm (Ramer, Douglas and Peucker). An edge that
    /// stands for several gets its label from `straight(from, to)`: the two corners, each with the label of an
    /// old edge that ends there.
    pub fn simplified(
        &self,
        near: f64,
        straight: &mut dyn FnMut((Point, Label), (Point, Label)) -> Label,
    ) -> Labelled {
        let simple = self.region().simplified(near);
        let kept: Vec<&Vec<Point>> = std::iter::once(&simple.outer)
            .chain(&simple.holes)
            .collect();
        let rings = self.rings.iter().map(|ring| {
            let n = ring.len();
            let stays = |p: Point| {
                kept.iter()
                    .any(|k| k.iter().any(|q| distance(p, *q) < 1e-9))
            };
            let corners: Vec<usize> = (0..n).filter(|i| stays(ring[*i].0)).collect();
            let m = corners.len();
            (0..m)
                .map(|k| {
                    let (i, j) = (corners[k], corners[(k + 1) % m]);
                    let next = (i + 1) % n == j;
                    let label = if next {
                        ring[i].1
                    } else {
                        straight((ring[i].0, ring[i].1), (ring[j].0, ring[(j + n - 1) % n].1))
                    };
                    (ring[i].0, label)
                })
                .collect()
        });
        let rings: Vec<Ring> = rings.filter(|r: &Ring| r.len() >= 3).collect();
        if rings.is_empty() {
            return self.clone();
        }
        Labelled { rings }
    }
}

/// `from` less or with `others`, largest first, ties from the lower left.
pub fn combine(from: &[&Labelled], others: &[Labelled], rule: OverlayRule) -> Vec<Labelled> {
    let all = || from.iter().copied().chain(others);
    let most = all()
        .flat_map(Labelled::edges)
        .fold(1.0_f64, |m, (p, ..)| m.max(p[0].abs()).max(p[1].abs()));
    // A power of two: whole millimetres stay whole.
    let scale = (GRID / most).log2().floor().exp2();
    let at = |p: Point| IntPoint::new((p[0] * scale).round() as i32, (p[1] * scale).round() as i32);
    let mut overlay: EdgeOverlay<i32, Label> =
        EdgeOverlay::new(all().map(|r| r.edges().count()).sum());
    let mut add = |r: &Labelled, kind: ShapeType| {
        for (i, ring) in r.rings.iter().enumerate() {
            // Regions lie left of their edges, whichever way they were given.
            let forward = (turn(ring) > 0.0) == (i == 0);
            overlay.add_edges(
                sides(ring).map(|((a, data), (b, _))| {
                    let (a, b) = (at(a), at(b));
                    let (a, b) = if forward { (a, b) } else { (b, a) };
                    InputEdge { a, b, data }
                }),
                kind,
            );
        }
    };
    for r in from {
        add(r, ShapeType::Subject);
    }
    for r in others {
        add(r, ShapeType::Clip);
    }
    let shapes = overlay.build_vector_shapes(rule, FillRule::NonZero);
    let back = |p: IntPoint<i32>| [f64::from(p.x) / scale, f64::from(p.y) / scale];
    let mut out: Vec<(f64, Region, Labelled)> = shapes
        .into_iter()
        .filter_map(|shape| {
            let rings = shape.into_iter().enumerate().filter_map(|(i, path)| {
                let ring: Ring = path.iter().map(|e| (back(e.a), e.data)).collect();
                oriented(clean(ring), i == 0)
            });
            let rings: Vec<Ring> = rings.collect();
            let labelled = Labelled { rings };
            let region = labelled.region();
            (region.outer.len() >= 3).then(|| (region.area(), region, labelled))
        })
        .collect();
    out.sort_by(|a, b| {
        let (ba, bb) = (a.1.bounds(), b.1.bounds());
        b.0.total_cmp(&a.0)
            .then(ba.0.total_cmp(&bb.0))
            .then(ba.1.total_cmp(&bb.1))
    });
    out.into_iter().map(|(.., labelled)| labelled).collect()
}

/// Twice the area to the left of a ring.
fn turn(ring: &Ring) -> f64 {
    sides(ring)
        .map(|((a, _), (b, _))| a[0] * b[1] - b[0] * a[1])
        .sum()
}

/// An outline counter-clockwise, a hole clockwise; nothing if it has no area.
fn oriented(ring: Ring, outer: bool) -> Option<Ring> {
    if ring.len() < 3 {
        return None;
    }
    if (turn(&ring) > 0.0) == outer {
        return Some(ring);
    }
    // Backwards the edge that begins at a corner is the one that ended there.
    let n = ring.len();
    let back = (0..n).rev().map(|i| (ring[i].0, ring[(i + n - 1) % n].1));
    Some(back.collect())
}

/// Without doubled corners and corners on a straight line; of two edges that become one the longer gives its label.
fn clean(mut ring: Ring) -> Ring {
    let mut i = 0;
    while ring.len() > 1 && i < ring.len() {
        let (_, next) = beside(i, ring.len());
        if distance(ring[i].0, ring[next].0) <= SAME {
            // The short edge goes; the next begins here.
            ring[i].1 = ring[next].1;
            ring.remove(next);
            i = i.saturating_sub(usize::from(next == 0));
        } else {
            i += 1;
        }
    }
    let mut i = 0;
    while ring.len() > 3 && i < ring.len() {
        let n = ring.len();
        let (before, after) = beside(i, n);
        let (a, p, b) = (ring[before].0, ring[i].0, ring[after].0);
        let (dx, dy) = (b[0] - a[0], b[1] - a[1]);
        let length = dx.hypot(dy);
        let off = ((p[0] - a[0]) * dy - (p[1] - a[1]) * dx).abs();
        if length > SAME && off / length < STRAIGHT {
            if distance(p, b) > distance(a, p) {
                ring[before].1 = ring[i].1;
            }
            ring.remove(i);
        } else {
            i += 1;
        }
    }
    ring
}
