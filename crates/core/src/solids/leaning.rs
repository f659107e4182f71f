//! Boards that lean: whether two share space, worked out on three-sided prisms. Of two convex bodies that do not meet, some
//! plane keeps them apart, square to a face of one or to an edge of each (separating axis theorem, textbook knowledge,
//! from memory).

use geo::TriangulateEarcut;

use super::{Solid, TOUCH};
use crate::furniture::built::Vec3;
use crate::geometry::pose::around;

/// A prism over a triangle.
struct Prism {
    corners: [Vec3; 6],
    /// Along its edges: three round the triangle, one through the board.
    edges: [Vec3; 4],
    low: Vec3,
    high: Vec3,
}

/// They share space by more than a touch.
pub(super) fn clash(a: &Solid, b: &Solid) -> bool {
    let (mine, theirs) = (prisms(a, b), prisms(b, a));
    mine.iter().any(|m| theirs.iter().any(|t| m.meets(t)))
}

/// The board cut into prisms, those of them that come near the other.
fn prisms(solid: &Solid, other: &Solid) -> Vec<Prism> {
    let triangles = solid.board.outline.polygon().earcut_triangles();
    let all = triangles.into_iter().map(|t| {
        let corner = |i: usize, thick: f64| {
            let at = [t.v1(), t.v2(), t.v3()][i];
            solid.pose.at(at.x, at.y, thick)
        };
        let thick = solid.board.thickness;
        let corners: [Vec3; 6] =
            std::array::from_fn(|i| corner(i % 3, if i < 3 { 0.0 } else { thick }));
        let side = |i: usize| minus(corners[(i + 1) % 3], corners[i]);
        let (low, high) = around(corners.iter().copied());
        Prism {
            edges: [side(0), side(1), side(2), solid.pose.w()],
            low,
            high,
            corners,
        }
    });
    all.filter(|p| (0..3).all(|k| p.high[k] > other.low[k] && p.low[k] < other.high[k]))
        .collect()
}

impl Prism {
    /// Square to its faces.
    fn normals(&self) -> [Vec3; 4] {
        let [a, b, c, w] = self.edges;
        [cross(a, w), cross(b, w), cross(c, w), w]
    }

    fn meets(&self, other: &Prism) -> bool {
        let apart = |axis: Vec3| {
            let length = dot(axis, axis).sqrt();
            // Of edges that run alike there is no direction square to both that the faces do not give.
            if length < 1e-9 {
                return false;
            }
            let span = |p: &Prism| {
                let along = p.corners.map(|c| dot(c, axis) / length);
                along
                    .iter()
                    .fold((f64::INFINITY, f64::NEG_INFINITY), |s, v| {
                        (s.0.min(*v), s.1.max(*v))
                    })
            };
            let (a, b) = (span(self), span(other));
            a.1.min(b.1) - a.0.max(b.0) <= TOUCH
        };
        let between = self
            .edges
            .iter()
            .flat_map(|a| other.edges.map(|b| cross(*a, b)));
        !(self.normals().into_iter().any(apart)
            || other.normals().into_iter().any(apart)
            || between.into_iter().any(apart))
    }
}

fn minus(a: Vec3, b: Vec3) -> Vec3 {
    std::array::from_fn(|i| a[i] - b[i])
}

fn dot(a: Vec3, b: Vec3) -> f64 {
    (0..3).map(|i| a[i] * b[i]).sum()
}

fn cross(a: Vec3, b: Vec3) -> Vec3 {
    std::array::from_fn(|i| {
        let (j, k) = ((i + 1) % 3, (i + 2) % 3);
        a[j] * b[k] - a[k] * b[j]
    })
}
