//! The observation equations: what a reading would be at given coordinates, and how it changes.

/// A reading in the network. Points are indices.
#[derive(Debug, Clone, PartialEq)]
pub struct Observation {
    /// Its identifier.
    pub id: String,
    /// Of what.
    pub kind: Kind,
    /// What it says, mm.
    pub value: f64,
    /// Its standard deviation, mm.
    pub sd: f64,
}

/// What a reading is a reading of.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Kind {
    /// Between two points.
    Distance(usize, usize),
    /// The x of a point.
    X(usize),
    /// The y of a point.
    Y(usize),
    /// From the line through the first two, square to it, left positive, to the third.
    Offset(usize, usize, usize),
    /// Along the line through the first two, from the first, to the foot of the third.
    Along(usize, usize, usize),
}

/// A linearised observation: the value at the present coordinates, and its derivatives by the
/// coordinates of the points it touches.
#[derive(Debug, Clone)]
pub struct Row {
    /// The value there, mm.
    pub value: f64,
    by: Vec<(usize, [f64; 2])>,
}

impl Row {
    /// The derivatives by number of the unknown; held coordinates are left out.
    pub fn terms(&self, numbers: &[[Option<usize>; 2]]) -> Vec<(usize, f64)> {
        let mut out = Vec::with_capacity(6);
        for (p, d) in &self.by {
            for axis in 0..2 {
                if let Some(k) = numbers[*p][axis] {
                    out.push((k, d[axis]));
                }
            }
        }
        out
    }
}

impl Observation {
    /// The points it touches.
    pub fn points(&self) -> Vec<usize> {
        match self.kind {
            Kind::Distance(a, b) => vec![a, b],
            Kind::X(p) | Kind::Y(p) => vec![p],
            Kind::Offset(a, b, p) | Kind::Along(a, b, p) => vec![a, b, p],
        }
    }

    /// Linearised at `xy`.
    pub fn row(&self, xy: &[[f64; 2]]) -> Row {
        let between = |a: usize, b: usize| {
            let d = [xy[b][0] - xy[a][0], xy[b][1] - xy[a][1]];
            let length = d[0].hypot(d[1]);
            if length > 0.0 {
                ([d[0] / length, d[1] / length], length)
            } else {
                // Coincident points have no direction; any will do for the next step.
                ([1.0, 0.0], 1e-9)
            }
        };
        match self.kind {
            Kind::Distance(a, b) => {
                let (u, length) = between(a, b);
                Row {
                    value: length,
                    by: vec![(a, [-u[0], -u[1]]), (b, u)],
                }
            }
            Kind::X(p) => Row {
                value: xy[p][0],
                by: vec![(p, [1.0, 0.0])],
            },
            Kind::Y(p) => Row {
                value: xy[p][1],
                by: vec![(p, [0.0, 1.0])],
            },
            Kind::Offset(a, b, p) | Kind::Along(a, b, p) => {
                let (u, length) = between(a, b);
                let n = [-u[1], u[0]];
                let d = [xy[p][0] - xy[a][0], xy[p][1] - xy[a][1]];
                let along = d[0] * u[0] + d[1] * u[1];
                let across = d[0] * n[0] + d[1] * n[1];
                let t = along / length;
                let s = across / length;
                // Turning the line moves offset by `along` and along by `-across` per radian.
                if matches!(self.kind, Kind::Offset(..)) {
                    Row {
                        value: across,
                        by: vec![
                            (p, n),
                            (a, [n[0] * (t - 1.0), n[1] * (t - 1.0)]),
                            (b, [-n[0] * t, -n[1] * t]),
                        ],
                    }
                } else {
                    Row {
                        value: along,
                        by: vec![
                            (p, u),
                            (a, [-u[0] - n[0] * s, -u[1] - n[1] * s]),
                            (b, [n[0] * s, n[1] * s]),
                        ],
                    }
                }
            }
        }
    }
}
