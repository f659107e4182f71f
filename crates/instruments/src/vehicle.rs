//! Virtual vehicles: the file of the compute contract, and what is true at any place of one.

use jigfit_core::geometry::region::Region;
use jigfit_core::geometry::{Point, interpolate};
use jigfit_core::input::{MAX_LENGTH, count, from_value, within};
use jigfit_core::problem::Problem;
use jigfit_core::project::VehicleKind;
use jigfit_core::project::survey::Side;
use serde::Deserialize;
use serde_json::Value;

/// A vehicle of known shape.
#[derive(Debug, Clone, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Vehicle {
    /// What it is called.
    pub name: String,
    /// What kind it is.
    pub kind: VehicleKind,
    /// Free space in plan, ascending.
    pub sections: Vec<Section>,
    /// Roof across the bay, ascending in x.
    #[serde(default)]
    pub roof: Vec<RoofSection>,
    /// Things in the way.
    #[serde(default)]
    pub obstacles: Vec<Body>,
    /// Openings.
    #[serde(default)]
    pub openings: Vec<Opening>,
    /// Places to fix to.
    #[serde(default)]
    pub fixings: Vec<Fixing>,
    /// What gives.
    #[serde(default)]
    pub soft: Vec<Soft>,
    /// Corners and ridges that a person would see.
    #[serde(default)]
    pub marks: Vec<Mark>,
}

/// A plan outline at a height.
#[derive(Debug, Clone, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Section {
    /// Height over the load floor, mm.
    pub z: f64,
    /// Outline.
    pub outline: Vec<Point>,
}

/// A roof profile across the bay.
#[derive(Debug, Clone, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct RoofSection {
    /// Where along the bay.
    pub x: f64,
    /// `[y, z]`.
    pub profile: Vec<Point>,
}

/// A thing in the way.
#[derive(Debug, Clone, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Body {
    /// What it is called.
    pub name: String,
    /// `wheel_well`, `post`, `bolt`, `hump` or `pipe`.
    pub kind: String,
    /// Outlines, ascending; nothing above the last.
    pub sections: Vec<Section>,
}

/// An opening in a plane.
#[derive(Debug, Clone, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Opening {
    /// What it is called.
    pub name: String,
    /// Its plane.
    pub plane: Plane,
    /// Outline in the plane: `[y, z]` for a plane across the bay.
    pub outline: Vec<Point>,
}

/// An axis-parallel plane.
#[derive(Debug, Clone, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Plane {
    /// `x` or `y`.
    pub axis: String,
    /// Where on that axis.
    pub at: f64,
}

/// A place to fix to.
#[derive(Debug, Clone, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Fixing {
    /// What it is called.
    pub name: String,
    /// What it is.
    pub kind: String,
    /// Where.
    pub at: [f64; 3],
    /// Thread.
    #[serde(default)]
    pub thread: Option<String>,
}

/// Something that gives.
#[derive(Debug, Clone, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Soft {
    /// What.
    pub what: String,
    /// By how much.
    pub flex_mm: f64,
}

/// A corner or ridge.
#[derive(Debug, Clone, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Mark {
    /// What it is called.
    pub name: String,
    /// Where.
    pub at: [f64; 3],
}

impl Vehicle {
    /// Reads and checks a vehicle.
    ///
    /// # Errors
    /// A wrong or unknown field, sections that do not match, an outline that is none.
    pub fn read(value: Value) -> Result<Vehicle, Problem> {
        let v: Vehicle = from_value(value)?;
        sections(&v.sections, "/sections")?;
        count(v.obstacles.len(), "/obstacles", 0, 200)?;
        for (i, o) in v.obstacles.iter().enumerate() {
            sections(&o.sections, &format!("/obstacles/{i}/sections"))?;
        }
        for (i, r) in v.roof.iter().enumerate() {
            within(r.x, &format!("/roof/{i}/x"), -MAX_LENGTH, MAX_LENGTH)?;
            count(r.profile.len(), &format!("/roof/{i}/profile"), 1, 1000)?;
        }
        for (i, o) in v.openings.iter().enumerate() {
            count(o.outline.len(), &format!("/openings/{i}/outline"), 3, 1000)?;
        }
        Ok(v)
    }

    /// The true outline of the bay at a height.
    pub fn outline(&self, z: f64) -> Region {
        at(&self.sections, z)
    }

    /// The true free space at a height: the bay less what stands there.
    pub fn free(&self, z: f64) -> Vec<Region> {
        let things: Vec<Region> = self.bodies(z).map(|b| at(&b.sections, z)).collect();
        self.outline(z).minus(&things)
    }

    /// Things that stand at a height.
    pub fn bodies(&self, z: f64) -> impl Iterator<Item = &Body> {
        self.obstacles.iter().filter(move |b| {
            let first = b.sections.first().is_some_and(|s| s.z <= z);
            first && b.sections.last().is_some_and(|s| s.z >= z)
        })
    }

    /// From the centre line straight out to the wall; `None` outside the bay, and where the tape
    /// would end on a front that stands across.
    pub fn wall(&self, side: Side, x: f64, z: f64) -> Option<f64> {
        let outline = self.outline(z);
        let way = [0.0, side.sign()];
        let near = |x| hit(&outline, [x, 0.0], way);
        let (here, before) = (near(x)?, near((x - 1.0).max(0.25)));
        let steep = before.is_some_and(|b| b - here > 3.0);
        (!steep).then_some(here)
    }

    /// From the threshold straight forward to the front.
    pub fn front(&self, y: f64, z: f64) -> Option<f64> {
        hit(&self.outline(z), [1.0, y], [1.0, 0.0]).map(|d| d + 1.0)
    }

    /// How far something stands in the way of a ray, if anything does.
    pub fn blocked(&self, from: Point, along: Point, z: f64) -> Option<f64> {
        self.bodies(z)
            .filter_map(|b| hit(&at(&b.sections, z), from, along))
            .reduce(f64::min)
    }

    /// Floor to roof.
    pub fn roof(&self, x: f64, y: f64) -> Option<f64> {
        let list: Vec<(f64, f64)> = self
            .roof
            .iter()
            .filter_map(|r| {
                let profile: Vec<_> = r.profile.iter().map(|p| (p[0], p[1])).collect();
                Some((r.x, interpolate(&profile, y)?))
            })
            .collect();
        interpolate(&list, x)
    }

    /// How much the ceiling gives.
    pub fn ceiling_flex(&self) -> Option<f64> {
        let soft = self.soft.iter().find(|s| s.what == "ceiling");
        soft.map(|s| s.flex_mm)
    }
}

impl Body {
    /// Its extent in plan at a height.
    pub fn outline(&self, z: f64) -> Region {
        at(&self.sections, z)
    }
}

fn sections(list: &[Section], at: &str) -> Result<(), Problem> {
    count(list.len(), at, 1, 200)?;
    for (i, s) in list.iter().enumerate() {
        within(s.z, &format!("{at}/{i}/z"), -1000.0, 5000.0)?;
        if i > 0 && s.z <= list[i - 1].z {
            return Err(Problem::impossible(
                format!("{at}/{i}/z"),
                "Sections go upwards.",
            ));
        }
        let n = list[0].outline.len();
        if s.outline.len() != n {
            return Err(Problem::impossible(
                format!("{at}/{i}/outline"),
                format!("Every section has the same number of corners: {n}."),
            ));
        }
        let region = Region {
            outer: s.outline.clone(),
            holes: vec![],
        };
        region.check(&format!("{at}/{i}"))?;
    }
    Ok(())
}

/// Linear between sections, corner by corner; the nearest beyond.
fn at(list: &[Section], z: f64) -> Region {
    let corner = |i: usize, axis: usize| {
        let line: Vec<_> = list.iter().map(|s| (s.z, s.outline[i][axis])).collect();
        interpolate(&line, z).unwrap_or(0.0)
    };
    Region {
        outer: (0..list[0].outline.len())
            .map(|i| [corner(i, 0), corner(i, 1)])
            .collect(),
        holes: vec![],
    }
}

/// Distance from `from` along the unit vector `along` to the first crossing of the outline.
fn hit(region: &Region, from: Point, along: Point) -> Option<f64> {
    let ring = &region.outer;
    let n = ring.len();
    (0..n)
        .filter_map(|i| {
            let (a, b) = (ring[i], ring[(i + 1) % n]);
            let e = [b[0] - a[0], b[1] - a[1]];
            let cross = along[0] * e[1] - along[1] * e[0];
            if cross.abs() < 1e-12 {
                return None;
            }
            let d = [a[0] - from[0], a[1] - from[1]];
            let t = (d[0] * e[1] - d[1] * e[0]) / cross;
            let s = (d[0] * along[1] - d[1] * along[0]) / cross;
            (t > 1e-9 && (-1e-9..=1.0 + 1e-9).contains(&s)).then_some(t)
        })
        .reduce(f64::min)
}
