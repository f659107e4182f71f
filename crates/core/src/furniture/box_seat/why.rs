//! Why the boards of a box seat are as wide as they are: from its front to where the wall lets each of them go.

use super::FOLLOW;
use super::boards::Work;
use crate::furniture::board::{Axis, Board, Measure};
use crate::furniture::kit::lid::GAP;
use crate::furniture::spot::back_why;
use crate::geometry::Point;
use crate::units::value::Value;

/// An explanation is of the number that it comes to, mm.
const SAME: f64 = 1e-3;

impl Work<'_> {
    /// Adds how wide each board is across the bay, where that can be told.
    pub(super) fn explain_widths(&self, boards: &mut [Board]) {
        let Some(side) = self.spot.side else {
            self.free_standing(boards);
            return;
        };
        let site = self.site;
        let place = &site.project.modules.get(site.id).map(|m| m.place.clone());
        let Some(place) = place else { return };
        // As the place was found: over the floor as the document says it, all along the box.
        let heights = (place.up, self.b.height);
        let back = back_why(site, self.cross, (side, self.spot.x), heights, place.gap);
        let Some(back) = back else { return };
        let depth = site.choice("depth", "depth of the seat", self.b.depth);
        let front = site.choice("thickness", "front", self.b.thickness);
        let hinge = site.choice("hinge", "hinge off the wall", self.b.hinge);
        let gap = Value::rule("lid/gap", "gap at the hinge", GAP);
        // Behind the front, or behind the lid.
        let inside = (&back - &depth + front).named("from the centre line to behind the front");
        let behind = (&back - hinge + gap).named("from the centre line to behind the lid");
        for b in boards {
            let (axis, from) = match b.role {
                "end" | "divider" => (Axis::U, &inside),
                "bottom" => (Axis::V, &inside),
                "strip" => (Axis::V, &behind),
                _ => continue,
            };
            let Some(reach) = self.reach_why(b, axis, &back) else {
                continue;
            };
            let wide = reach.named("how far out it reaches") - from.clone();
            let (w, h) = b.shape.size();
            let is = if axis == Axis::U { w } else { h };
            if (wide.mm - is).abs() < SAME {
                b.measures.push(Measure::whole(axis, "width", wide));
            }
        }
    }

    /// What stands free is as deep as was chosen.
    fn free_standing(&self, boards: &mut [Board]) {
        let site = self.site;
        let depth = site.choice("depth", "depth of the seat", self.b.depth);
        let front = site.choice("thickness", "front", self.b.thickness);
        let back = site.choice("thickness", "back", self.b.thickness);
        let hinge = site.choice("hinge", "hinge off the back", self.b.hinge);
        let gap = Value::rule("lid/gap", "gap at the hinge", GAP);
        for b in boards {
            let (axis, wide) = match b.role {
                "end" => (Axis::U, &depth - &front),
                "divider" => (Axis::U, &depth - &front - &back),
                "bottom" => (Axis::V, &depth - &front - &back),
                "strip" => (Axis::V, &hinge - &gap),
                _ => continue,
            };
            b.measures.push(Measure::whole(axis, "width", wide));
        }
    }

    /// Why a board reaches as far out as it does: `back` is where the box as a whole ends.
    fn reach_why(&self, b: &Board, axis: Axis, back: &Value) -> Option<Value> {
        let side = self.spot.side?;
        let out = |p: &Point| side.sign() * if axis == Axis::U { p[0] } else { p[1] };
        let corners = b.shape.outer.iter();
        let far = corners.max_by(|a, b| out(a).total_cmp(&out(b)))?;
        if (out(far) - self.far()).abs() < SAME {
            let follow = Value::rule("box_seat/follow", "no further after the wall", FOLLOW);
            return Some(back.clone().named("back of the box") + follow);
        }
        let clearance = self.cross.clearance_why();
        let why = |x, z| self.cross.why(side, x, z, out(far), &clearance);
        if axis == Axis::U {
            // An upright, cut to the wall's course: its lowest corner was looked at half a millimetre higher.
            let x = b.pose.origin[0];
            let x = (x, x + b.thickness);
            let heights = [far[1], far[1] + 0.5];
            return heights.into_iter().find_map(|z| why(x, z));
        }
        let (x0, _, x1, _) = b.shape.bounds();
        let z = b.pose.origin[2];
        let heights = self.cross.heights(z + 0.5, z + b.thickness);
        self.cells((x0, x1))
            .into_iter()
            .filter(|(a, b)| far[0] >= a - SAME && far[0] <= b + SAME)
            .find_map(|x| heights.iter().find_map(|z| why(x, *z)))
    }
}
