//! The boards of a box seat.

use super::{BoxSeat, FOLLOW, LEAST, NARROW, PENCIL};
use crate::furniture::Site;
use crate::furniture::built::{
    Axis, Board, Built, Ease, FIXED, Fasten, Joint, Measure, Met, Pose, Room, Span, Under,
};
use crate::furniture::cross::Cross;
use crate::furniture::kit::grip::FROM_EDGE;
use crate::furniture::kit::lid::{self, GAP};
use crate::furniture::kit::maker::{THICKEST, thicker};
use crate::furniture::spot::Spot;
use crate::furniture::way::Way;
use crate::geometry::Point;
use crate::geometry::region::Region;
use crate::project::survey::Side;
use crate::units::value::Value;

/// The front is screwed to ends and dividers, these to the bottom; what is at the wall lies on them.
fn joints(boards: &[Board]) -> Vec<Joint> {
    let of = |role: &'static str| boards.iter().filter(move |b| b.role == role);
    let uprights = || of("end").chain(of("divider"));
    let butt = |a: &Board, b: &Board| Joint::new(Fasten::Butt, a.id.clone(), b.id.clone());
    let mut out = Vec::new();
    for u in uprights() {
        out.extend(of("front").map(|w| butt(w, u)));
        // The back lies between the ends, behind the dividers.
        out.extend(of("back").map(|w| match u.role {
            "end" => butt(u, w),
            _ => butt(w, u),
        }));
        out.extend(of("strip").map(|s| butt(s, u)));
    }
    for bottom in of("bottom") {
        out.extend(
            of("front")
                .chain(of("end"))
                .chain(of("back"))
                .map(|w| butt(w, bottom)),
        );
        out.extend(of("divider").map(|d| butt(bottom, d)));
    }
    out
}

/// Uprights leave the wall's course by at most this, mm, down to heights so close, at so many places at the most.
const NEAR: f64 = 0.3;
const FINE: f64 = 1.0;
const MOST_PLACES: usize = 240;

pub(super) struct Work<'a> {
    pub(super) cross: &'a Cross<'a>,
    pub(super) spot: Spot,
    pub(super) name: String,
    pub(super) site: &'a Site<'a>,
    pub(super) b: &'a BoxSeat,
}

impl Work<'_> {
    /// Towards the wall, or to the left where it stands free.
    fn out(&self) -> f64 {
        self.spot.side.map_or(1.0, Side::sign)
    }

    /// The side of the box that is reached from the bay, and the one at the wall: distances from the centre
    /// line towards the wall.
    fn depth(&self) -> (f64, f64) {
        let s = self.out();
        let (a, b) = (s * self.spot.y.0, s * self.spot.y.1);
        (a.min(b), a.max(b))
    }

    fn board(
        &self,
        (id, role, words): (String, &'static str, String),
        pose: Pose,
        shape: Region,
        face: &str,
    ) -> Board {
        let mut board = Board::new(id, role, "B", shape, pose);
        board.name = format!("{}, {words}", self.name);
        board.material.clone_from(&self.b.material);
        board.thickness = self.b.thickness;
        board.way = Way::seen(face);
        if role == "lid" {
            board.body = "lid".into();
            return board;
        }
        // Walls and bottom of a box are neither seen nor bear across their width.
        board.any_grain()
    }

    /// A rectangle in plan between two distances from the centre line.
    fn level(&self, x: (f64, f64), d: (f64, f64)) -> Region {
        let s = self.out();
        let (a, b) = (s * d.0, s * d.1);
        Region::rectangle(x.0, a.min(b), x.1, a.max(b))
    }

    /// As far as boards may follow the wall.
    pub(super) fn far(&self) -> f64 {
        let (_, back) = self.depth();
        if self.spot.side.is_some() {
            back + FOLLOW
        } else {
            back
        }
    }

    /// An upright board across the bay, its rear face at `x`, cut to the wall.
    fn upright(&self, x: f64, near: f64, z: (f64, f64)) -> Option<Region> {
        let t = self.b.thickness;
        let s = self.out();
        let (_, back) = self.depth();
        let follows = self.spot.side.is_some();
        let out = |h: f64| {
            let reach = if follows {
                self.reach((x, x + t), h)?
            } else {
                back
            };
            (reach > near).then_some([s * reach, h])
        };
        let heights = self.cross.heights(z.0 + 0.5, z.1);
        let mut wall: Vec<Point> = heights.into_iter().map(out).collect::<Option<_>>()?;
        // Between two heights a sloping well begins or ends: looked at closer wherever the wall is not straight.
        let mut i = 0;
        while i + 1 < wall.len() {
            let (a, b) = (wall[i], wall[i + 1]);
            let middle = out((a[1] + b[1]) / 2.0)?;
            let bent = (middle[0] - (a[0] + b[0]) / 2.0).abs() > NEAR;
            if bent && b[1] - a[1] > FINE && wall.len() < MOST_PLACES {
                wall.insert(i + 1, middle);
            } else {
                i += 1;
            }
        }
        wall.first_mut()?[1] = z.0;
        let mut outer = vec![[s * near, z.1], [s * near, z.0]];
        outer.extend(wall);
        if s < 0.0 {
            outer.reverse();
        }
        let region = Region {
            outer,
            holes: vec![],
        };
        region.check("").ok()?;
        let simple = region.simplified(NEAR);
        simple
            .and(&region)
            .into_iter()
            .max_by(|a, b| a.area().total_cmp(&b.area()))
    }

    /// How far out it is free over a stretch, but not further than boards follow a wall.
    fn reach(&self, x: (f64, f64), z: f64) -> Option<f64> {
        let (right, left) = self.cross.across(x, z)?;
        let reach = if self.out() > 0.0 { left } else { -right };
        Some(reach.min(self.far()))
    }

    /// The short stretches over which a wall is followed.
    pub(super) fn cells(&self, x: (f64, f64)) -> Vec<(f64, f64)> {
        /// The wall is looked at every so often, mm.
        const EVERY: f64 = 30.0;
        let n = ((x.1 - x.0) / EVERY).ceil().clamp(2.0, 200.0) as usize;
        let at = |i: usize| x.0 + (x.1 - x.0) * i as f64 / n as f64;
        (0..n).map(|i| (at(i), at(i + 1))).collect()
    }

    /// A level board from `near` out to the wall, cut along it.
    fn follow(&self, x: (f64, f64), near: f64, z: (f64, f64)) -> Option<Region> {
        let s = self.out();
        let stretches = self.cells(x);
        let n = stretches.len();
        let at = |i: usize| stretches.get(i).map_or(x.1, |c| c.0);
        let heights = self.cross.heights(z.0 + 0.5, z.1);
        // Each place counts for the stretches on both its sides: where a well begins, the board ends before it.
        let cells: Vec<f64> = stretches
            .iter()
            .map(|c| {
                let mut all = heights.iter().map(|z| self.reach(*c, *z));
                all.try_fold(f64::INFINITY, |least, r| Some(least.min(r?)))
            })
            .collect::<Option<_>>()?;
        let edge = |i: usize| {
            let before = cells[i.saturating_sub(1)];
            let after = cells[i.min(n - 1)];
            before.min(after)
        };
        if (0..=n).any(|i| edge(i) <= near + 1.0) {
            return None;
        }
        let mut outer: Vec<Point> = vec![[x.1, s * near], [x.0, s * near]];
        outer.extend((0..=n).map(|i| [at(i), s * edge(i)]));
        if s > 0.0 {
            outer.reverse();
        }
        let region = Region {
            outer,
            holes: vec![],
        };
        region.check("").ok()?;
        let simple = region.simplified(PENCIL);
        simple
            .and(&region)
            .into_iter()
            .max_by(|a, b| a.area().total_cmp(&b.area()))
    }

    /// Of its boards, kg/m3.
    fn density(&self) -> f64 {
        let material = self.site.project.material(&self.b.material);
        material.map_or(0.0, |m| m.density)
    }

    /// How far behind its back edge the wall stands, if there is one: nothing where it stands against it.
    fn spare(&self) -> f64 {
        if self.spot.side.is_some() {
            0.0
        } else {
            f64::INFINITY
        }
    }

    pub(super) fn built(&self) -> Option<Built> {
        let (b, t) = (self.b, self.b.thickness);
        let (x0, x1) = self.spot.x;
        let (z0, z1) = self.spot.z;
        let (near, back) = self.depth();
        let s = self.out();
        let top = z1 - t;
        let follows = self.spot.side.is_some();
        let mut boards = Vec::new();
        // Two ends behind the front, cut to the wall.
        let ends = [
            ("end-rear", "end, rear", x0),
            ("end-front", "end, front", x1 - t),
        ];
        for (id, words, x) in ends {
            let shape = self.upright(x, near + t, (z0, top))?;
            let mut end = self.board(
                (id.into(), "end", words.into()),
                Pose::across(x),
                shape,
                "front face, seen from the front",
            );
            if follows {
                end.then
                    .push("cut to the wall: offer it up and mark what touches".into());
            }
            boards.push(end);
        }
        // The front, over both ends.
        let front = Region::rectangle(x0, z0, x1, top);
        let y = if s > 0.0 { near + t } else { -near };
        boards.push(self.board(
            ("front".into(), "front", "front".into()),
            Pose::along(y),
            front,
            "face seen from the right",
        ));
        if !follows {
            let y = self.spot.y.1;
            // It stands free: its own back, between the ends.
            let shape = Region::rectangle(x0 + t, z0, x1 - t, top);
            boards.push(self.board(
                ("back".into(), "back", "back".into()),
                Pose::along(y),
                shape,
                "face seen from the right",
            ));
        }
        // The bottom between ends and front, cut to the wall.
        let inner = (x0 + t, x1 - t);
        let bottom = if follows {
            self.follow(inner, near + t, (z0, z0 + t))?
        } else {
            self.level(inner, (near + t, back - t))
        };
        boards.push(self.board(
            ("bottom".into(), "bottom", "bottom".into()),
            Pose::level(z0),
            bottom,
            "top face, seen from above",
        ));
        let bay = (x1 - x0 - 2.0 * t) / f64::from(b.dividers + 1);
        for i in 1..=b.dividers {
            let x = x0 + t + bay * f64::from(i) - t / 2.0;
            let mut shape = self.upright(x, near + t, (z0 + t, top))?;
            if !follows {
                let within = Region::rectangle(near + t, z0 + t, back - t, top);
                shape = shape.and(&within).into_iter().next()?;
            }
            boards.push(self.board(
                (format!("divider-{i}"), "divider", format!("divider {i}")),
                Pose::across(x),
                shape,
                "front face, seen from the front",
            ));
        }
        // The strip at the wall on which the lid hangs, and the lid.
        let hinge = back - b.hinge;
        let strip = if follows {
            self.follow((x0, x1), hinge + GAP, (top, z1))
        } else {
            Some(self.level((x0, x1), (hinge + GAP, back)))
        };
        let strip = strip.filter(|r| r.size().1 >= NARROW);
        let edge = if let Some(strip) = strip {
            boards.push(self.board(
                ("strip".into(), "strip", "fixed strip at the wall".into()),
                Pose::level(top),
                strip,
                "top face, seen from above",
            ));
            hinge
        } else {
            back
        };
        let mut lid = self.board(
            ("lid".into(), "lid", "lid".into()),
            Pose::level(top),
            self.level((x0, x1), (near, edge)),
            "top face, seen from above",
        );
        lid.then.push(format!(
            "hinged along its edge towards the {}",
            self.spot.side.map_or("left", Side::word)
        ));
        let before = [(x0 + x1) / 2.0, s * (near + FROM_EDGE)];
        b.grip.cut(&mut lid, before, true, self.site);
        let depth = self.site.choice("depth", "depth of the seat", b.depth);
        let hinge = self.site.choice("hinge", "hinge off the wall", b.hinge);
        let wide = if edge < back { depth - hinge } else { depth };
        lid.measures.push(Measure::whole(Axis::V, "width", wide));
        boards.push(lid);
        self.explain(&mut boards, bay);
        self.explain_widths(&mut boards);
        // The pin lies on the upper edge, or the lid's back would be chewed by the strip.
        let sizes = lid::Sizes {
            long: x1 - x0,
            deep: edge - near,
            thickness: t,
            mass: (x1 - x0) * (edge - near) * t * self.density() * 1e-9,
            wall: if edge < back { b.hinge } else { self.spare() },
            inside: edge - near - t,
            down: z1 - z0 - t,
        };
        let lift = lid::Lift::new("lid", sizes, (b.stay, b.hinges), "/choices/stay");
        let body = lid::body(
            format!("{}/lid", self.site.id),
            format!("{}, lid", self.name),
            ([x0, s * edge, z1], [-s, 0.0, 0.0]),
            self.eases(),
        );
        let inside = [
            bay - if b.dividers > 0 { t } else { 0.0 },
            edge - near - t,
            top - z0 - t,
        ];
        let room = Room {
            name: self.name.clone(),
            size: inside,
            body: FIXED.into(),
            opened_by: "lid".into(),
        };
        Some(Built {
            joints: joints(&boards),
            spans: vec![self.seat(x1 - x0, bay, edge - near)],
            hardware: lid::hardware(self.site, &lift, sizes),
            lifts: vec![lift],
            boards,
            bodies: vec![body],
            rooms: vec![room; b.dividers as usize + 1],
            ..Built::default()
        })
    }

    /// Somebody sits on the lid, which lies on ends and dividers, or, if that is shorter, on front and strip.
    fn seat(&self, long: f64, bay: f64, deep: f64) -> Span {
        let t = self.b.thickness;
        let across = deep - t < bay;
        Span {
            board: "lid".into(),
            name: format!("lid of the {}", self.name),
            spans: match across {
                true => vec![deep - t],
                false => vec![bay; self.b.dividers as usize + 1],
            },
            width: if across { long } else { deep },
            along: !across,
            under: Under::Seat,
            eases: thicker(self.site, ("thickness", THICKEST), t),
        }
    }

    /// How the sizes came about, by board, and what is done after cutting.
    fn explain(&self, boards: &mut [Board], bay: f64) {
        let (b, site) = (self.b, self.site);
        let t = site.choice("thickness", "board", b.thickness);
        let length = site.choice("length", "length", b.length);
        let high = site.choice("height", "height of the seat", b.height) - t.clone().named("lid");
        let inner = &length - t.clone().named("end") * 2.0;
        let long = |v: &Value| Measure::whole(Axis::U, "length", v.clone());
        let tall = |v: &Value| Measure::whole(Axis::V, "height", v.clone());
        let over = &high - t.clone().named("bottom");
        for board in boards {
            let own = match board.role {
                "front" => vec![long(&length), tall(&high)],
                "back" => vec![long(&inner), tall(&high)],
                "bottom" => vec![long(&inner)],
                "divider" => vec![tall(&over)],
                "strip" | "lid" => vec![long(&length)],
                _ => vec![tall(&high)],
            };
            board.measures.extend(own);
            if board.role == "divider" {
                let w = &self.site.w;
                board.places.push(format!(
                    "{} from its neighbour, middle to middle",
                    w.say(bay)
                ));
            }
            board
                .then
                .push("pilot every screw into an edge; dry fit before glue".into());
        }
    }

    /// What may help a lid that meets something.
    fn eases(&self) -> Vec<Ease> {
        let b = self.b;
        let w = &self.site.w;
        let mut out = Vec::new();
        let further = b.hinge + 2.0 * b.thickness;
        if further <= b.depth / 2.0 && self.spot.side.is_some() {
            out.push(Ease {
                against: Some(Met::Vehicle),
                label: format!("Hinge it {} off the wall", w.say(further)),
                cost: format!("the lid is {} narrower", w.say(2.0 * b.thickness)),
                pointer: "/choices/hinge".into(),
                value: further.into(),
            });
        }
        let lower = (b.height - 100.0).max(LEAST[2]);
        if lower < b.height {
            out.push(Ease {
                against: None,
                label: format!("Make it {} high", w.say(lower)),
                cost: "less room in it".into(),
                pointer: "/choices/height".into(),
                value: lower.into(),
            });
        }
        out
    }
}
