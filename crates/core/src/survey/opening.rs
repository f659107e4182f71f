//! What comes through an opening: rectangles inside its outline.

use super::model::Model;
use super::signal::Term;
use crate::geometry::pass::turned_in;
use crate::project::survey::{OpeningDim, Quantity, REAR};

impl Model {
    /// The outline of an opening as `(height over its sill, width)`, upwards; straight between.
    pub fn opening_outline(&self, id: &str) -> Option<Vec<(f64, f64)>> {
        let get = |dim, z| {
            let q = Quantity::Opening {
                dim,
                id: id.into(),
                z,
            };
            self.get(&q)?;
            let signal = self.signal(&q)?;
            Some(self.field.value(&[Term::new(1.0, signal, 0.0, 0.0)]))
        };
        let height = get(OpeningDim::Height, None)?;
        let mut nodes: Vec<(f64, f64)> = Vec::new();
        nodes.extend(get(OpeningDim::WidthFloor, None).map(|w| (0.0, w)));
        let own = self.known.values().filter_map(|k| match &k.quantity {
            Quantity::Opening {
                dim: OpeningDim::Width,
                id: of,
                z: Some(z),
            } if of == id => Some(*z),
            _ => None,
        });
        nodes.extend(own.filter_map(|z| Some((z, get(OpeningDim::Width, Some(z))?))));
        nodes.extend(get(OpeningDim::WidthTop, None).map(|w| (height, w)));
        nodes.retain(|n| n.0 <= height);
        nodes.sort_by(|a, b| a.0.total_cmp(&b.0));
        let (first, last) = (*nodes.first()?, *nodes.last()?);
        // As wide below the lowest and above the highest as there, for want of more.
        if first.0 > 0.0 {
            nodes.insert(0, (0.0, first.1));
        }
        if last.0 < height {
            nodes.push((height, last.1));
        }
        Some(nodes)
    }

    /// The angle, degrees from level, at which a box goes through the outline of an opening that is no rectangle, smaller by
    /// `doubt` either way; what leads is no longer than `depth`. `None` where it does not, or while it is not measured.
    pub fn turned_through(
        &self,
        id: &str,
        doubt: f64,
        dims: [f64; 3],
        depth: Option<f64>,
    ) -> Option<f64> {
        let outline = self.opening_outline(id)?;
        let half = |w: f64| (w - doubt).max(0.0) / 2.0;
        let top = outline.last()?.0 - doubt;
        let up = outline.iter().map(|(z, w)| [half(*w), z.min(top)]);
        let down = outline.iter().rev().map(|(z, w)| [-half(*w), z.min(top)]);
        let ring: Vec<[f64; 2]> = up.chain(down).collect();
        (0..3)
            .filter(|k| depth.is_none_or(|d| dims[*k] <= d))
            .find_map(|k| turned_in((dims[(k + 1) % 3], dims[(k + 2) % 3]), &ring))
    }

    /// The rear opening as `(width, height)`: its least width.
    pub fn opening(&self) -> Option<(f64, f64)> {
        let outline = self.opening_outline(REAR)?;
        let width = outline.iter().map(|n| n.1).fold(f64::INFINITY, f64::min);
        Some((width, outline.last()?.0))
    }

    /// The rectangles `(width, height)` that an opening leaves free, none inside another; each is
    /// smaller by `doubt` either way. Empty while it is not measured.
    pub fn ways_through(&self, id: &str, doubt: f64) -> Vec<(f64, f64)> {
        let outline = self.opening_outline(id).unwrap_or_default();
        let n = outline.len();
        let mut all: Vec<(f64, f64)> = Vec::new();
        for i in 0..n {
            for j in i + 1..n {
                let width = outline[i..=j].iter().map(|n| n.1);
                let width = width.fold(f64::INFINITY, f64::min);
                let height = outline[j].0 - outline[i].0;
                all.push(((width - doubt).max(0.0), (height - doubt).max(0.0)));
            }
        }
        let inside = |a: &(f64, f64), b: &(f64, f64)| a != b && a.0 <= b.0 && a.1 <= b.1;
        let outer: Vec<(f64, f64)> = all
            .iter()
            .copied()
            .filter(|a| !all.iter().any(|b| inside(a, b)))
            .collect();
        outer.into_iter().fold(vec![], |mut kept, r| {
            if !kept.contains(&r) {
                kept.push(r);
            }
            kept
        })
    }
}
