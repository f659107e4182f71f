//! What is cut and marked, at full size: captured curves and boards as lines on layers, for paper and for cutters.

use jigfit_core::curves::view::TemplateView;
use jigfit_core::geometry::Point;
use jigfit_core::parts::{Feature, Part};
use jigfit_core::plan::Plan;

/// What is done along a line.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Layer {
    /// Cut through.
    Cut,
    /// Only marked.
    Mark,
    /// Drilled.
    Drill,
    /// Taken out to a part of the thickness.
    Pocket,
    /// Beside an edge that may be sawn with the saw tilted.
    Bevel,
}

impl Layer {
    /// All of them.
    pub const ALL: [Layer; 5] = [
        Layer::Cut,
        Layer::Mark,
        Layer::Drill,
        Layer::Pocket,
        Layer::Bevel,
    ];

    /// Its name in files.
    pub fn name(self) -> &'static str {
        match self {
            Layer::Cut => "CUT",
            Layer::Mark => "MARK",
            Layer::Drill => "DRILL",
            Layer::Pocket => "POCKET",
            Layer::Bevel => "BEVEL",
        }
    }
}

/// A line.
#[derive(Debug, Clone, PartialEq)]
pub struct Line {
    /// Its points, mm, y up.
    pub points: Vec<Point>,
    /// It ends where it begins.
    pub closed: bool,
    /// What is done along it.
    pub layer: Layer,
}

/// A round hole.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Round {
    /// Its middle.
    pub at: Point,
    /// Its diameter, mm.
    pub diameter: f64,
}

/// A curve or a board.
#[derive(Debug, Clone, PartialEq)]
pub struct Drawing {
    /// What it is called.
    pub name: String,
    /// What is written on it, where, and on which layer.
    pub words: Vec<(Point, String, Layer)>,
    /// Its lines.
    pub lines: Vec<Line>,
    /// Its round holes.
    pub rounds: Vec<Round>,
    /// The straight edge from which a curve was read, with marks along it.
    pub base: Option<[Point; 2]>,
}

impl Drawing {
    /// The least and the greatest place of what is drawn.
    pub fn bounds(&self) -> Option<(Point, Point)> {
        let lines = self.lines.iter().flat_map(|l| l.points.iter().copied());
        let rounds = self.rounds.iter().flat_map(|r| {
            let d = r.diameter / 2.0;
            [[r.at[0] - d, r.at[1] - d], [r.at[0] + d, r.at[1] + d]]
        });
        let all = || lines.clone().chain(rounds.clone());
        let least = |k: usize| all().map(|p| p[k]).fold(f64::INFINITY, f64::min);
        let most = |k: usize| all().map(|p| p[k]).fold(f64::NEG_INFINITY, f64::max);
        let (low, high) = ([least(0), least(1)], [most(0), most(1)]);
        low.iter()
            .chain(&high)
            .all(|v| v.is_finite())
            .then_some((low, high))
    }
}

/// All captured curves that are cut.
pub fn curves(plan: &Plan) -> Vec<Drawing> {
    plan.templates
        .iter()
        .filter(|t| t.cut.len() >= 2)
        .map(curve)
        .collect()
}

fn curve(t: &TemplateView) -> Drawing {
    let base = t
        .table
        .as_ref()
        .and_then(|t| <[Point; 2]>::try_from(t.edge.to_vec()).ok());
    let mut lines = vec![Line {
        points: t.cut.clone(),
        closed: false,
        layer: Layer::Cut,
    }];
    lines.extend(base.map(|b| Line {
        points: b.to_vec(),
        closed: false,
        layer: Layer::Mark,
    }));
    Drawing {
        name: t.name.clone(),
        words: vec![],
        lines,
        rounds: vec![],
        base,
    }
}

/// All boards, or the one of that mark.
pub fn boards(plan: &Plan, mark: Option<&str>) -> Vec<Drawing> {
    let wanted = |p: &&Part| mark.is_none_or(|m| p.mark == m);
    plan.parts.iter().filter(wanted).map(board).collect()
}

/// A line beside an edge, on the board.
fn beside(edge: &[Point], middle: Point) -> Vec<Point> {
    /// So far in, mm.
    const IN: f64 = 12.0;
    let n = edge.len();
    let each = edge.iter().enumerate().map(|(i, p)| {
        // Square to the edge there.
        let (a, b) = (edge[i.saturating_sub(1)], edge[(i + 1).min(n - 1)]);
        let long = (b[0] - a[0]).hypot(b[1] - a[1]).max(1e-9);
        let out = [-(b[1] - a[1]) / long, (b[0] - a[0]) / long];
        let side = (middle[0] - p[0]) * out[0] + (middle[1] - p[1]) * out[1];
        let by = IN * side.signum();
        [p[0] + by * out[0], p[1] + by * out[1]]
    });
    each.collect()
}

/// The two lines of a cross on a board; nothing of them lies outside the blank.
fn cross([u, v]: Point, p: &Part) -> [Line; 2] {
    /// So long is each to either side, mm.
    const ARM: f64 = 3.0;
    let within = |[u, v]: Point| [u.clamp(0.0, p.w.value), v.clamp(0.0, p.h.value)];
    let line = |a: Point, b: Point| Line {
        points: vec![within(a), within(b)],
        closed: false,
        layer: Layer::Mark,
    };
    [
        line([u - ARM, v], [u + ARM, v]),
        line([u, v - ARM], [u, v + ARM]),
    ]
}

fn board(p: &Part) -> Drawing {
    let round = |f: &Feature| {
        Some(Round {
            at: f.at,
            diameter: f.diameter.as_ref()?.value,
        })
    };
    // A hole that is drilled is a circle, not the many lines of its ring.
    let vents: Vec<Round> = p
        .features
        .iter()
        .filter(|f| f.kind == "vent" || f.kind == "hole")
        .filter_map(round)
        .collect();
    let drilled = |ring: &&Vec<Point>| {
        !vents.iter().any(|v| {
            ring.iter()
                .all(|q| ((q[0] - v.at[0]).hypot(q[1] - v.at[1]) - v.diameter / 2.0).abs() < 0.5)
        })
    };
    let ring = |points: &Vec<Point>, layer| Line {
        points: points.clone(),
        closed: true,
        layer,
    };
    let middle = [p.w.value / 2.0, p.h.value / 2.0];
    let mut lines = vec![ring(&p.outline.outer, Layer::Cut)];
    lines.extend(
        p.outline
            .holes
            .iter()
            .filter(drilled)
            .map(|h| ring(h, Layer::Cut)),
    );
    // A bore does not go through: on the layer of pockets, as a ring.
    for bore in p.features.iter().filter(|f| f.kind == "bore") {
        let Some(r) = round(bore) else { continue };
        let turn = |i: i32| (f64::from(i) * 10.0).to_radians();
        let points = (0..36).map(|i| {
            let (s, c) = turn(i).sin_cos();
            [
                r.at[0] + r.diameter / 2.0 * c,
                r.at[1] + r.diameter / 2.0 * s,
            ]
        });
        lines.push(ring(&points.collect(), Layer::Pocket));
    }
    for f in p.features.iter().filter(|f| f.kind == "groove") {
        if let Some((w, h)) = &f.size {
            let (w, h) = (w.value / 2.0, h.value / 2.0);
            let [x, y] = f.at;
            let corners = vec![
                [x - w, y - h],
                [x + w, y - h],
                [x + w, y + h],
                [x - w, y + h],
            ];
            lines.push(ring(&corners, Layer::Pocket));
        }
    }
    lines.extend(p.way.centre.map(|c| Line {
        points: c.to_vec(),
        closed: false,
        layer: Layer::Mark,
    }));
    // Where screws go that all boards cut like this have: marked, not drilled.
    let screws = p.screws.iter().filter(|r| r.which.is_empty());
    lines.extend(screws.flat_map(|r| &r.at).flat_map(|at| cross(*at, p)));
    let mut words = vec![(middle, p.mark.clone(), Layer::Mark)];
    for b in &p.bevels {
        // Nothing of it lies outside the blank, whose corner is the drawing's.
        let within = |[u, v]: Point| [u.clamp(0.0, p.w.value), v.clamp(0.0, p.h.value)];
        let points: Vec<Point> = beside(&b.along, middle).into_iter().map(within).collect();
        let Some(at) = points.get(points.len() / 2).copied() else {
            continue;
        };
        let larger = format!("{:.0}deg,{}larger", b.deg, b.larger);
        words.push((at, larger, Layer::Bevel));
        lines.push(Line {
            points,
            closed: false,
            layer: Layer::Bevel,
        });
    }
    Drawing {
        name: format!("{} {}", p.mark, p.name),
        words,
        lines,
        rounds: vents,
        base: None,
    }
}
