//! Lines, arcs, polylines with bulges, circles, ellipses, splines and blocks of a DXF in text form. Read by hand: a file
//! is pairs of a code and a value and comes from anywhere; another library's writer checks it (group codes from memory).

use std::collections::BTreeMap;
use std::f64::consts::TAU;

use super::flat::arc;
use super::join::joined;
use super::nurbs::Nurbs;
use super::{Drawing, FileUnit, Line, NEAR, Point};

/// Deepest nesting of blocks, and most entities after they are put in.
const DEEP: usize = 8;
const ENTITIES: usize = 50_000;

type Pair<'a> = (i32, &'a str);

/// An entity: its kind, and what follows it; a polyline has its vertices with it.
#[derive(Debug, Clone)]
struct Entity<'a> {
    kind: &'a str,
    pairs: Vec<Pair<'a>>,
    vertices: Vec<Vec<Pair<'a>>>,
}

impl<'a> Entity<'a> {
    fn text(&self, code: i32) -> Option<&'a str> {
        self.pairs.iter().find(|p| p.0 == code).map(|p| p.1)
    }

    fn number(&self, code: i32) -> Option<f64> {
        number(&self.pairs, code)
    }

    fn all(&self, code: i32) -> Vec<f64> {
        let own = self.pairs.iter().filter(|p| p.0 == code);
        own.filter_map(|p| p.1.parse().ok()).collect()
    }

    fn point(&self, code: i32) -> Option<Point> {
        Some([self.number(code)?, self.number(code + 10)?])
    }

    /// Drawn from below: its x runs the other way.
    fn mirrored(&self) -> bool {
        self.number(230).is_some_and(|z| z < 0.0)
    }
}

fn number(pairs: &[Pair], code: i32) -> Option<f64> {
    let own = pairs.iter().find(|p| p.0 == code)?;
    own.1.parse().ok().filter(|v: &f64| v.is_finite())
}

/// A code on the first line, `SECTION` or a comment on the second.
pub fn looks_like(text: &str) -> bool {
    let mut lines = text.lines().map(str::trim);
    let code = lines.next().and_then(|c| c.parse::<i32>().ok());
    match (code, lines.next()) {
        (Some(0), Some(word)) => word.eq_ignore_ascii_case("SECTION"),
        (Some(999), Some(_)) => true,
        _ => false,
    }
}

/// Reads it.
pub fn read(text: &str) -> Result<Drawing, String> {
    let pairs = pairs(text)?;
    let mut sections: BTreeMap<&str, &[Pair]> = BTreeMap::new();
    let mut i = 0;
    while i < pairs.len() {
        if pairs[i] == (0, "SECTION")
            && let Some((2, name)) = pairs.get(i + 1)
        {
            let rest = &pairs[i + 2..];
            let n = rest
                .iter()
                .position(|p| *p == (0, "ENDSEC"))
                .unwrap_or(rest.len());
            sections.insert(name, &rest[..n]);
            i += 2 + n;
        }
        i += 1;
    }
    let of = |name: &str| sections.get(name).copied().unwrap_or(&[]);
    let (unit, sure, why) = unit(of("HEADER"));
    let blocks = blocks(of("BLOCKS"));
    let mut out = Out {
        near: 0.0,
        lines: vec![],
        left_out: BTreeMap::new(),
        budget: ENTITIES,
    };
    let all = entities(of("ENTITIES"));
    // Its size first, roughly: chords are as fine as that.
    out.near = NEAR * size(of("ENTITIES")).max(size(of("BLOCKS")));
    for e in &all {
        out.put(e, &blocks, &Frame::ONE, 0)?;
    }
    let near = 5.0 * out.near;
    Ok(Drawing {
        lines: joined(out.lines, near),
        unit,
        sure,
        why,
        left_out: out.left_out,
    })
}

fn pairs(text: &str) -> Result<Vec<Pair<'_>>, String> {
    let mut out = Vec::new();
    let mut lines = text.lines().enumerate();
    while let Some((i, code)) = lines.next() {
        let code = code.trim();
        if code.is_empty() {
            continue;
        }
        let Ok(code) = code.parse() else {
            let words: String = code.chars().take(20).collect();
            return Err(format!(
                "Line {}: \"{words}\" is no group code of a DXF.",
                i + 1
            ));
        };
        let Some((_, value)) = lines.next() else {
            break;
        };
        out.push((code, value.trim()));
    }
    Ok(out)
}

/// Units of the header (`$INSUNITS`: 1 inch, 2 foot, 4 mm, 5 cm, 6 m).
fn unit(header: &[Pair]) -> (FileUnit, bool, String) {
    let after = |name: &str| {
        let at = header.iter().position(|p| *p == (9, name))?;
        header.get(at + 1).map(|p| p.1)
    };
    let said = match after("$INSUNITS") {
        Some("1") => Some(FileUnit::In),
        Some("2") => Some(FileUnit::Ft),
        Some("4") => Some(FileUnit::Mm),
        Some("5") => Some(FileUnit::Cm),
        Some("6") => Some(FileUnit::M),
        _ => None,
    };
    if let Some(u) = said {
        return (u, true, format!("the drawing says {}", u.word()));
    }
    match after("$MEASUREMENT") {
        Some("0") => (
            FileUnit::In,
            false,
            "the drawing says that it is in inch measure, not in which unit".into(),
        ),
        _ => (
            FileUnit::Mm,
            false,
            "the drawing does not say its unit".into(),
        ),
    }
}

fn entities<'a>(section: &[Pair<'a>]) -> Vec<Entity<'a>> {
    let mut out: Vec<Entity> = Vec::new();
    let mut polyline = false;
    for (code, value) in section {
        match (code, *value) {
            (0, "VERTEX") if polyline => {
                if let Some(e) = out.last_mut() {
                    e.vertices.push(vec![]);
                }
            }
            (0, "SEQEND") => polyline = false,
            (0, kind) => {
                polyline = kind == "POLYLINE";
                out.push(Entity {
                    kind,
                    pairs: vec![],
                    vertices: vec![],
                });
            }
            pair => {
                if let Some(e) = out.last_mut() {
                    let own = e.vertices.last_mut().filter(|_| polyline);
                    own.unwrap_or(&mut e.pairs).push((*pair.0, pair.1));
                }
            }
        }
    }
    out
}

/// Blocks by name: their base point, and what is in them.
type Blocks<'a> = BTreeMap<&'a str, (Point, Vec<Entity<'a>>)>;

fn blocks<'a>(section: &[Pair<'a>]) -> Blocks<'a> {
    let mut out = Blocks::new();
    let mut name = None;
    for e in entities(section) {
        match e.kind {
            "BLOCK" => {
                name = e.text(2);
                if let Some(n) = name {
                    out.insert(n, (e.point(10).unwrap_or_default(), vec![]));
                }
            }
            "ENDBLK" => name = None,
            _ => {
                if let Some(b) = name.and_then(|n| out.get_mut(n)) {
                    b.1.push(e);
                }
            }
        }
    }
    out
}

/// How far coordinates reach.
fn size(section: &[Pair]) -> f64 {
    let all = section.iter().filter(|p| matches!(p.0, 10 | 11 | 20 | 21));
    let (lo, hi) = all
        .filter_map(|p| p.1.parse::<f64>().ok().filter(|v| v.is_finite()))
        .fold((0.0_f64, 0.0_f64), |(a, b), v| (a.min(v), b.max(v)));
    (hi - lo).clamp(1e-6, 1e9)
}

/// Where a block is put: a plane affine map.
#[derive(Debug, Clone, Copy)]
struct Frame {
    u: Point,
    v: Point,
    o: Point,
}

impl Frame {
    const ONE: Frame = Frame {
        u: [1.0, 0.0],
        v: [0.0, 1.0],
        o: [0.0, 0.0],
    };

    fn way(&self, [x, y]: Point) -> Point {
        [0, 1].map(|k| x * self.u[k] + y * self.v[k])
    }

    fn at(&self, p: Point) -> Point {
        let d = self.way(p);
        [self.o[0] + d[0], self.o[1] + d[1]]
    }
}

struct Out {
    near: f64,
    lines: Vec<Line>,
    left_out: BTreeMap<String, usize>,
    budget: usize,
}

impl Out {
    fn put(&mut self, e: &Entity, blocks: &Blocks, f: &Frame, deep: usize) -> Result<(), String> {
        self.budget = self
            .budget
            .checked_sub(1)
            .ok_or_else(|| format!("There are more than {ENTITIES} entities in this drawing."))?;
        let mirror = |p: Point| if e.mirrored() { [-p[0], p[1]] } else { p };
        let name = e.text(8).unwrap_or("0").to_string();
        let shape = match e.kind {
            "INSERT" => {
                let Some((base, inner)) = e.text(2).and_then(|n| blocks.get(n)) else {
                    return Ok(());
                };
                if deep >= DEEP {
                    self.skip("blocks nested too deeply");
                    return Ok(());
                }
                let (sin, cos) = e.number(50).unwrap_or(0.0).to_radians().sin_cos();
                let (sx, sy) = (e.number(41).unwrap_or(1.0), e.number(42).unwrap_or(1.0));
                let (u, v) = ([sx * cos, sx * sin], [-sy * sin, sy * cos]);
                let place = Frame {
                    u,
                    v,
                    o: e.point(10).unwrap_or_default(),
                };
                let shift = place.at([-base[0], -base[1]]);
                let to = |p: Point| mirror(p);
                let own = Frame {
                    u: f.way(to(u)),
                    v: f.way(to(v)),
                    o: f.at(to(shift)),
                };
                for inner in inner {
                    self.put(inner, blocks, &own, deep + 1)?;
                }
                return Ok(());
            }
            "LINE" => e
                .point(10)
                .zip(e.point(11))
                .map(|(a, b)| (vec![a, b], false)),
            "ARC" => self.arc(e),
            "CIRCLE" => e
                .point(10)
                .zip(e.number(40))
                .map(|(c, r)| (arc(c, [[r, 0.0], [0.0, r]], (0.0, TAU), self.near), true)),
            "ELLIPSE" => self.ellipse(e),
            "LWPOLYLINE" => Some(self.light(e)),
            "POLYLINE" => self.polyline(e),
            "SPLINE" => self.spline(e),
            "SEQEND" | "VIEWPORT" | "ATTRIB" => return Ok(()),
            other => {
                self.skip(&other.to_lowercase());
                return Ok(());
            }
        };
        let Some((points, closed)) = shape else {
            self.skip(&format!("{} that cannot be read", e.kind.to_lowercase()));
            return Ok(());
        };
        // The other system of an entity drawn from below holds for flat ones only.
        let flat = !matches!(e.kind, "LINE" | "SPLINE" | "ELLIPSE");
        let points = points
            .into_iter()
            .map(|p| f.at(if flat { mirror(p) } else { p }))
            .collect();
        self.lines.push(Line {
            name,
            points,
            closed,
        });
        Ok(())
    }

    fn skip(&mut self, what: &str) {
        let what: String = what.chars().filter(|c| !c.is_control()).take(40).collect();
        *self.left_out.entry(what).or_default() += 1;
    }

    fn arc(&self, e: &Entity) -> Option<(Vec<Point>, bool)> {
        let (c, r) = (e.point(10)?, e.number(40)?);
        let (a, b) = (e.number(50)?.to_radians(), e.number(51)?.to_radians());
        let by = (b - a).rem_euclid(TAU);
        let by = if by < 1e-9 { TAU } else { by };
        Some((arc(c, [[r, 0.0], [0.0, r]], (a, by), self.near), false))
    }

    fn ellipse(&self, e: &Entity) -> Option<(Vec<Point>, bool)> {
        let (c, u) = (e.point(10)?, e.point(11)?);
        let ratio = e.number(40)?;
        let turn = if e.mirrored() { -1.0 } else { 1.0 };
        let v = [-turn * u[1] * ratio, turn * u[0] * ratio];
        let (a, b) = (e.number(41).unwrap_or(0.0), e.number(42).unwrap_or(TAU));
        let by = (b - a).rem_euclid(TAU);
        let whole = by < 1e-9 || TAU - by < 1e-9;
        let by = if whole { TAU } else { by };
        Some((arc(c, [u, v], (a, by), self.near), whole))
    }

    /// A polyline whose vertices are among its own pairs.
    fn light(&self, e: &Entity) -> (Vec<Point>, bool) {
        let mut vertices: Vec<(Point, f64)> = Vec::new();
        let mut x = None;
        for (code, value) in &e.pairs {
            let v = value.parse::<f64>().ok().filter(|v| v.is_finite());
            match (code, v) {
                (10, v) => x = v,
                (20, Some(y)) => {
                    if let Some(x) = x.take() {
                        vertices.push(([x, y], 0.0));
                    }
                }
                (42, Some(b)) => {
                    if let Some(last) = vertices.last_mut() {
                        last.1 = b;
                    }
                }
                _ => {}
            }
        }
        let closed = e.number(70).is_some_and(|f| f as i64 & 1 == 1);
        (self.bulged(&vertices, closed), closed)
    }

    fn polyline(&self, e: &Entity) -> Option<(Vec<Point>, bool)> {
        let flags = e.number(70).unwrap_or(0.0) as i64;
        // Meshes are no curves.
        if flags & (16 | 64) != 0 {
            return None;
        }
        let vertices = e.vertices.iter().filter_map(|v| {
            // The frame of a fitted spline is not the curve.
            let frame = number(v, 70).is_some_and(|f| f as i64 & 16 != 0);
            let p = [number(v, 10)?, number(v, 20)?];
            (!frame).then(|| (p, number(v, 42).unwrap_or(0.0)))
        });
        let vertices: Vec<(Point, f64)> = vertices.collect();
        let closed = flags & 1 == 1;
        Some((self.bulged(&vertices, closed), closed))
    }

    /// Vertices with bulges: the tangent of a quarter of the angle that the arc to the next one turns.
    fn bulged(&self, vertices: &[(Point, f64)], closed: bool) -> Vec<Point> {
        let n = vertices.len();
        let mut out = Vec::new();
        for (i, (a, bulge)) in vertices.iter().enumerate() {
            out.push(*a);
            let last = i + 1 == n;
            if bulge.abs() < 1e-9 || (last && !closed) {
                continue;
            }
            let b = vertices[(i + 1) % n].0;
            let angle = 4.0 * bulge.atan();
            let (dx, dy) = (b[0] - a[0], b[1] - a[1]);
            let chord = dx.hypot(dy);
            if chord < 1e-12 {
                continue;
            }
            // The centre lies square to the chord, on the left for an arc that turns left by less than half.
            let r = chord / 2.0 / (angle / 2.0).sin();
            let off = r * (angle / 2.0).cos();
            let c = [
                (a[0] + b[0]) / 2.0 - off * dy / chord,
                (a[1] + b[1]) / 2.0 + off * dx / chord,
            ];
            let r = r.abs();
            let from = (a[1] - c[1]).atan2(a[0] - c[0]);
            let mut way = arc(
                c,
                [[r, 0.0], [0.0, r]],
                (from, angle.clamp(-TAU, TAU)),
                self.near,
            );
            way.pop();
            out.extend(way.into_iter().skip(1));
        }
        out
    }

    fn spline(&self, e: &Entity) -> Option<(Vec<Point>, bool)> {
        let zip = |x: Vec<f64>, y: Vec<f64>| -> Vec<Point> {
            x.into_iter().zip(y).map(|(x, y)| [x, y]).collect()
        };
        let n = Nurbs {
            degree: e.number(71)? as usize,
            knots: e.all(40),
            points: zip(e.all(10), e.all(20)),
            weights: e.all(41),
        };
        let closed = e.number(70).is_some_and(|f| f as i64 & 1 == 1);
        n.flat(self.near).map(|p| (p, closed))
    }
}
