//! Where other furniture leaves no room for a support under a platform, and how far it has to bridge there.

use super::Surface;
use super::span::{Burden, Sag, runs, sag};
use crate::furniture::Site;
use crate::furniture::built::{Board, Vec3};
use crate::geometry::region::Region;

/// Width of wood left round a window in a frame, mm, so the least that passes over other furniture (a choice).
pub const BORDER: f64 = 60.0;
/// Supports stay so far off other furniture, mm (a choice: a thumb's nail and finish on both).
pub const BESIDE: f64 = 2.0;

/// A gap in a line of supports narrower than this is bridged by any board, mm (a choice).
const BRIDGED: f64 = 150.0;
/// A board held at one end only bends under a load at its tip as one that lies on both ends and is so many times as long does under the
/// same load in its middle: `P c^3 / 3 E I = P L^3 / 48 E I`, so `L = 16^(1/3) c`.
const FREE_END: f64 = 2.519_842_1;

/// A stretch across the bay in which a line of supports carries nothing.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Gap {
    /// The line, mm in.
    pub x: f64,
    /// From right to left, mm.
    pub y: (f64, f64),
}

/// What has to be bridged at a gap.
#[derive(Debug, Clone, PartialEq)]
pub struct Bridge {
    /// Where.
    pub gap: Gap,
    /// Across the bay, from support to support beside the furniture; else along it, over the furniture.
    pub across: bool,
    /// How it bends there.
    pub sag: Sag,
}

/// From right to left, mm.
type Stretch = (f64, f64);

/// A line of supports.
#[derive(Debug, Clone)]
struct Line {
    /// mm in.
    x: f64,
    /// How thick what stands on it is, mm.
    thick: f64,
    /// The platform there.
    whole: Vec<Stretch>,
    /// What of it is carried.
    carried: Vec<Stretch>,
}

/// Lines of supports, and over which stretches across the bay each of them carries.
#[derive(Debug, Clone)]
pub struct Lines {
    /// Where the boards are parted, along and across.
    joints: (Vec<f64>, Vec<f64>),
    each: Vec<Line>,
    /// What takes a support's place, where none stands.
    under: Vec<(Gap, Under)>,
}

impl Lines {
    /// What carries `whole`, whose underside is so high, at each line of its supports, which are `boards` so thick.
    pub fn new(
        site: &Site,
        (underside, thick): (f64, f64),
        (whole, lines): (&[Region], &[f64]),
        boards: &[Board],
        joints: (&[f64], &[f64]),
    ) -> Lines {
        let each = lines.iter().map(|x| Line {
            x: *x,
            thick,
            whole: stretches(whole, (*x, thick)),
            carried: vec![],
        });
        let bare = Lines {
            joints: (joints.0.to_vec(), joints.1.to_vec()),
            each: each.collect(),
            under: vec![],
        };
        let boxes = boards.iter().map(|b| (b, around(b)));
        let reach = boxes.filter(|(_, at)| (at.1[2] - underside).abs() < 0.1);
        let tops: Vec<Region> = reach.flat_map(|(b, at)| top(b, &at)).collect();
        let own = bare.with(&tops, 0.0);
        let under = own.gaps().into_iter();
        let under = under.filter_map(|g| Some((g, beside(site, underside, g)?)));
        Lines {
            under: under.collect(),
            ..own
        }
    }

    /// With what else carries it. At its two ends that is what lies within `reach` mm of the edge: a carcass that begins an
    /// inch from the threshold carries the edge.
    pub fn with(&self, tops: &[Region], reach: f64) -> Lines {
        let mut out = self.clone();
        let last = out.each.len().saturating_sub(1);
        for (i, line) in out.each.iter_mut().enumerate() {
            let behind = if i == last { reach } else { 0.0 };
            let before = if i == 0 { reach } else { 0.0 };
            let at = (
                line.x + (before - behind) / 2.0,
                line.thick + before + behind,
            );
            line.carried.extend(stretches(tops, at));
            line.carried.sort_by(|a, b| a.0.total_cmp(&b.0));
        }
        out
    }

    /// Which furniture takes a support's place at a gap. A gap that none makes is the hull's.
    pub fn under(&self, gap: Gap) -> Option<&Under> {
        let over = |g: &Gap| g.x == gap.x && g.y.0 < gap.y.1 && g.y.1 > gap.y.0;
        self.under.iter().find(|(g, _)| over(g)).map(|u| &u.1)
    }

    /// The gaps that are too wide to be passed over in silence.
    pub fn gaps(&self) -> Vec<Gap> {
        let mut out = Vec::new();
        for Line {
            x, whole, carried, ..
        } in &self.each
        {
            for (y0, y1) in whole {
                let mut from = *y0;
                let ends = carried.iter().filter(|c| c.1 > *y0 && c.0 < *y1);
                for (a, b) in ends.copied().chain([(*y1, *y1)]) {
                    if a - from > BRIDGED {
                        let y = (from, a);
                        out.push(Gap { x: *x, y });
                    }
                    from = from.max(b);
                }
            }
        }
        out
    }

    /// How it bends at a gap: across it, or along, whichever holds better. `e` is the modulus along the bay, and across it.
    pub fn bridge(&self, on: &Surface, gap: Gap, e: (f64, f64), who: &Burden) -> Option<Bridge> {
        let along = self.along(gap).and_then(|runs| sag(on, e.0, &runs, who));
        let across = self
            .across(on, gap)
            .and_then(|span| sag(on, e.1, &[vec![span]], who));
        let made = |across: bool| move |sag: Sag| Bridge { gap, across, sag };
        let each = [along.map(made(false)), across.map(made(true))];
        let bends = |b: &Bridge| b.sag.knee.max_deflection;
        each.into_iter()
            .flatten()
            .min_by(|a, b| bends(a).total_cmp(&bends(b)))
    }

    /// The spans along the bay over the gap, if boards go through there from a line before it to one behind it.
    fn along(&self, gap: Gap) -> Option<Vec<Vec<f64>>> {
        let y = (gap.y.0 + gap.y.1) / 2.0;
        let carries = |l: &&Line| l.carried.iter().any(|s| s.0 <= y && s.1 >= y);
        let here = self.each.iter().filter(carries);
        let lines: Vec<f64> = here.map(|l| l.x).collect();
        let before = lines
            .iter()
            .copied()
            .filter(|x| *x < gap.x)
            .reduce(f64::max)?;
        let behind = lines
            .iter()
            .copied()
            .filter(|x| *x > gap.x)
            .reduce(f64::min)?;
        let parted = self
            .joints
            .0
            .iter()
            .any(|j| *j > before + 1.0 && *j < behind - 1.0);
        (!parted).then(|| runs(&lines, &self.joints.0))
    }

    /// What a board has to span across the bay, as if it lay on both ends.
    fn across(&self, on: &Surface, gap: Gap) -> Option<f64> {
        if on.slats.is_some() {
            return None;
        }
        let line = self.each.iter().find(|l| l.x == gap.x)?;
        let free = |y: f64| {
            line.whole
                .iter()
                .any(|d| (d.0 - y).abs() < 0.1 || (d.1 - y).abs() < 0.1)
        };
        let width = gap.y.1 - gap.y.0;
        if free(gap.y.0) || free(gap.y.1) {
            return Some(FREE_END * width);
        }
        // Boards that part there hold on to one side each.
        let parted = self
            .joints
            .1
            .iter()
            .filter(|j| **j > gap.y.0 && **j < gap.y.1);
        let tips = parted.map(|j| FREE_END * (j - gap.y.0).max(gap.y.1 - j));
        Some(tips.fold(width, f64::max))
    }
}

/// The stretches across the bay of what lies over a line `at.1` thick.
fn stretches(regions: &[Region], at: (f64, f64)) -> Vec<Stretch> {
    let half = at.1 / 2.0;
    let band = Region::rectangle(at.0 - half, -1e5, at.0 + half, 1e5);
    let all = regions.iter().flat_map(|r| r.and(&band));
    all.map(|r| (r.bounds().1, r.bounds().3)).collect()
}

/// The furniture that takes a support's place.
#[derive(Debug, Clone, PartialEq)]
pub struct Under {
    /// Its module.
    pub id: String,
    /// What it is called.
    pub name: String,
    /// How much lower it would have to be for a frame to pass over it, mm.
    pub lower: f64,
}

/// Which furniture is under it there, or opens there.
fn beside(site: &Site, underside: f64, gap: Gap) -> Option<Under> {
    let y = (gap.y.0 + gap.y.1) / 2.0;
    let over = |r: &Region| {
        let (x0, y0, x1, y1) = r.bounds();
        let near = BESIDE + 20.0;
        gap.x > x0 - near && gap.x < x1 + near && y > y0 && y < y1
    };
    // What it keeps free for its drawers and doors counts as it does.
    let mut others = site.others();
    let (id, claim) = others.find(|(_, c)| over(&c.plan) || c.keeps.iter().any(over))?;
    let room = underside - claim.z.1;
    Some(Under {
        id: id.clone(),
        name: site.project.modules.get(id)?.called(),
        lower: BORDER - room,
    })
}

/// The box round a board where it lies: its least and greatest coordinates.
pub fn around(b: &Board) -> (Vec3, Vec3) {
    let (mut low, mut high) = ([f64::INFINITY; 3], [f64::NEG_INFINITY; 3]);
    for p in &b.shape.outer {
        for t in [0.0, b.thickness] {
            let at = b.pose.at(p[0], p[1], t);
            for k in 0..3 {
                low[k] = low[k].min(at[k]);
                high[k] = high[k].max(at[k]);
            }
        }
    }
    (low, high)
}

/// Where a board on edge reaches up to what it carries, in plan.
pub fn top(b: &Board, (low, high): &(Vec3, Vec3)) -> Vec<Region> {
    /// Of a board on edge so much of its height is looked at, mm.
    const EDGE: f64 = 1.0;
    let (_, _, _, z) = b.shape.bounds();
    let (x0, _, x1, _) = b.shape.bounds();
    let band = Region::rectangle(x0, z - EDGE, x1, z);
    let across = (high[0] - low[0]) < (high[1] - low[1]);
    let stretches = b.shape.and(&band).into_iter().map(|r| {
        let (a, _, c, _) = r.bounds();
        let ends = [a, c].map(|u| b.pose.at(u, z, 0.0));
        if across {
            let (p, q) = (ends[0][1], ends[1][1]);
            Region::rectangle(low[0], p.min(q), high[0], p.max(q))
        } else {
            let (p, q) = (ends[0][0], ends[1][0]);
            Region::rectangle(p.min(q), low[1], p.max(q), high[1])
        }
    });
    stretches.collect()
}
