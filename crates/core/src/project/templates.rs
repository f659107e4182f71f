//! Captured curves: what was read of a card, a line drawn along a wall, or distances from pins.

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::input::{MAX_LENGTH, escape, within};
use crate::problem::Problem;

/// Most readings of one curve.
pub const MOST: usize = 2000;
/// Most curves.
const CURVES: usize = 200;

/// On which side of what was drawn the surface lies.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
#[schema(as = SurfaceSide)]
pub enum Side {
    /// To the left.
    Left,
    /// To the right.
    Right,
}

impl Side {
    /// 1 to the left, -1 to the right.
    pub fn sign(self) -> f64 {
        match self {
            Side::Left => 1.0,
            Side::Right => -1.0,
        }
    }
}

/// What becomes of corners.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum Corners {
    /// They stay.
    #[default]
    Keep,
    /// They are rounded.
    Smooth,
}

/// A captured curve.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields, default)]
#[schema(as = CurveTemplate)]
pub struct Template {
    /// What it is called.
    pub name: String,
    /// How it is captured.
    pub way: Way,
    /// Noise of a reading, one standard deviation, mm.
    pub sd: f64,
    /// What becomes of corners.
    pub corners: Corners,
    /// On which side of the line, or of the straight edge, the surface lies.
    pub surface: Side,
    /// How far the line was drawn off the surface, mm.
    pub offset: f64,
    /// How far the surface lies behind the runs that were measured: a shell behind its lining, mm.
    #[serde(skip_serializing_if = "nothing")]
    pub behind: f64,
    /// Width of a block's flat face, mm.
    pub contact_width: f64,
    /// Direction in which a pencil was held off, degrees from the first axis.
    pub direction: f64,
    /// Radius of a probe's round tip, mm.
    pub tip_radius: f64,
    /// Length of the straight edge, or how far apart the pins are, mm.
    pub apart: f64,
    /// From the first pin to a third, on the side away from the surface, mm.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub third_a: Option<f64>,
    /// From the second pin to the third, mm.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub third_b: Option<f64>,
    /// The board is cut so much short of the surface, mm.
    pub clearance: f64,
    /// The readings, in the order of their identifiers.
    pub stations: BTreeMap<String, Station>,
    /// Where it lies in the vehicle, if it is of a wall.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub place: Option<Placing>,
    /// The photo that it was read from, kept beside the project: its print, SHA-256 in hexadecimal.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub photo: Option<String>,
}

fn nothing(mm: &f64) -> bool {
    *mm == 0.0
}

/// Where a captured curve lies in the vehicle: then it counts for every board at that wall.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
#[schema(as = CurvePlacing)]
pub struct Placing {
    /// What it is the curve of.
    pub of: Face,
    /// In which plane it was captured.
    #[serde(default)]
    pub plane: Plane,
    /// Height of a level plane over the load floor, or how far forward of the threshold one across lies, mm.
    #[serde(default)]
    pub at: Option<f64>,
    /// Points that were found both in the capture and in the vehicle.
    #[serde(default)]
    pub landmarks: BTreeMap<String, Tie>,
    /// Kept, but the boards do not go by it.
    #[serde(default)]
    pub aside: bool,
}

/// A face of the vehicle.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
#[schema(as = VehicleFace)]
pub enum Face {
    /// The left wall.
    Left,
    /// The right wall.
    Right,
    /// The front end.
    Front,
}

impl Face {
    /// As it is called in a sentence.
    pub fn word(self) -> &'static str {
        match self {
            Face::Left => "left wall",
            Face::Right => "right wall",
            Face::Front => "front",
        }
    }

    /// The side wall that it is, if it is one.
    pub fn side(self) -> Option<super::survey::Side> {
        match self {
            Face::Left => Some(super::survey::Side::Left),
            Face::Right => Some(super::survey::Side::Right),
            Face::Front => None,
        }
    }
}

/// The plane in which a curve was captured.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
#[schema(as = CapturePlane)]
pub enum Plane {
    /// Level, at a height.
    #[default]
    Level,
    /// Upright across the vehicle, at a distance from the threshold.
    Across,
}

impl Plane {
    /// A place or direction of the vehicle in the plane's own two directions, and how far along the third.
    pub fn flat(self, [x, y, z]: [f64; 3]) -> ([f64; 2], f64) {
        match self {
            Plane::Level => ([x, y], z),
            Plane::Across => ([y, z], x),
        }
    }

    /// Which of a board's two faces is seen: of two places on them the upper one, or the one further back.
    pub fn seen(self, [a, b]: [[f64; 3]; 2]) -> usize {
        let (a, b) = (self.flat(a).1, self.flat(b).1);
        usize::from(match self {
            Plane::Level => b >= a,
            Plane::Across => b <= a,
        })
    }
}

/// A point known in both frames. A missing number makes it count for nothing.
#[derive(Debug, Clone, Copy, Default, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields, default)]
#[schema(as = CurveLandmark)]
pub struct Tie {
    /// In the capture: to the right, mm.
    pub a: Option<f64>,
    /// In the capture: up, mm.
    pub b: Option<f64>,
    /// In the vehicle: forward of the threshold; in a plane across, height over the load floor, mm.
    pub u: Option<f64>,
    /// In the vehicle: off the centre line, towards the curve's own wall (of the front: to the left), mm.
    pub v: Option<f64>,
}

/// Most landmarks of one curve.
const LANDMARKS: usize = 50;

impl Default for Template {
    fn default() -> Self {
        Template {
            name: String::new(),
            way: Way::Ordinates,
            sd: 0.5,
            corners: Corners::Keep,
            surface: Side::Left,
            offset: 38.0,
            behind: 0.0,
            contact_width: 0.0,
            direction: 90.0,
            tip_radius: 0.0,
            apart: 1000.0,
            third_a: None,
            third_b: None,
            clearance: 1.0,
            stations: BTreeMap::new(),
            place: None,
            photo: None,
        }
    }
}

/// Ways of capturing.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
#[schema(as = CaptureWay)]
pub enum Way {
    /// Depths from a straight edge.
    #[default]
    Ordinates,
    /// A line drawn at a constant distance from the surface.
    OffsetBlock,
    /// A line drawn at a distance in one direction.
    Scribe,
    /// Distances from two pins, or three.
    TwoPin,
    /// Straight runs with the corners between them.
    Runs,
    /// The curve itself, point by point: out of a file, or traced from a piece that fits.
    Drawn,
}

/// One reading, by the way of capturing: along and depth; from the first and the second pin; right and up; the length of a run,
/// and from its beginning straight to the end of the next (negative where the corner stands out).
#[derive(Debug, Clone, Copy, Default, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields, default)]
#[schema(as = CurveReading)]
pub struct Station {
    /// The first, mm.
    pub a: Option<f64>,
    /// The second, mm.
    pub b: Option<f64>,
    /// From the third pin, mm.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub c: Option<f64>,
    /// By how much the corner after a run turns inwards, degrees; negative where it stands out.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub angle: Option<f64>,
    /// Radius of that corner, mm.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub radius: Option<f64>,
    /// The surface has a corner here: it is not smoothed over. Runs have theirs between them.
    #[serde(skip_serializing_if = "std::ops::Not::not")]
    pub corner: bool,
}

/// Checks all captured curves.
///
/// # Errors
/// The first number that cannot be.
pub fn check(templates: &BTreeMap<String, Template>) -> Result<(), Problem> {
    let many = |at: &str, n: usize, most: usize| {
        (n > most).then(|| {
            Problem::out_of_range(at, format!("{n} are too many."), format!("at most {most}"))
        })
    };
    if let Some(p) = many("/templates", templates.len(), CURVES) {
        return Err(p);
    }
    for (id, t) in templates {
        let at = format!("/templates/{}", escape(id));
        super::check::text(&t.name, &format!("{at}/name"))?;
        within(t.sd, &format!("{at}/sd"), 0.0, 50.0)?;
        within(t.offset, &format!("{at}/offset"), 0.0, 1000.0)?;
        within(t.behind, &format!("{at}/behind"), 0.0, 1000.0)?;
        within(t.contact_width, &format!("{at}/contact_width"), 0.0, 1000.0)?;
        within(t.direction, &format!("{at}/direction"), -360.0, 360.0)?;
        within(t.tip_radius, &format!("{at}/tip_radius"), 0.0, 200.0)?;
        within(t.apart, &format!("{at}/apart"), 10.0, MAX_LENGTH)?;
        for (v, field) in [(t.third_a, "third_a"), (t.third_b, "third_b")] {
            if let Some(v) = v {
                within(v, &format!("{at}/{field}"), 10.0, MAX_LENGTH)?;
            }
        }
        within(t.clearance, &format!("{at}/clearance"), 0.0, 200.0)?;
        if let Some(p) = many(&format!("{at}/stations"), t.stations.len(), MOST) {
            return Err(p);
        }
        if let Some(print) = &t.photo
            && (print.len() != 64 || !print.bytes().all(|b| b.is_ascii_hexdigit()))
        {
            let words = "This is no print of a photo.";
            return Err(
                Problem::shape(format!("{at}/photo"), words).allowing("64 hexadecimal digits")
            );
        }
        if let Some(place) = &t.place {
            check_place(place, &format!("{at}/place"))?;
        }
        for (s, own) in &t.stations {
            let at = format!("{at}/stations/{}", escape(s));
            let all = [
                (own.a, "a"),
                (own.b, "b"),
                (own.c, "c"),
                (own.radius, "radius"),
            ];
            if let Some(deg) = own.angle {
                within(deg, &format!("{at}/angle"), -170.0, 170.0)?;
            }
            for (v, field) in all {
                if let Some(v) = v {
                    within(v, &format!("{at}/{field}"), -MAX_LENGTH, MAX_LENGTH)?;
                }
            }
        }
    }
    Ok(())
}

fn check_place(p: &Placing, at: &str) -> Result<(), Problem> {
    if p.plane == Plane::Across && p.of == Face::Front {
        let words = "The front end is captured in a level plane.";
        return Err(Problem::impossible(format!("{at}/plane"), words));
    }
    if let Some(v) = p.at {
        within(v, &format!("{at}/at"), -MAX_LENGTH, MAX_LENGTH)?;
    }
    if p.landmarks.len() > LANDMARKS {
        let words = format!("{} are too many.", p.landmarks.len());
        let most = format!("at most {LANDMARKS}");
        return Err(Problem::out_of_range(
            format!("{at}/landmarks"),
            words,
            most,
        ));
    }
    for (id, tie) in &p.landmarks {
        let at = format!("{at}/landmarks/{}", escape(id));
        for (v, field) in [(tie.a, "a"), (tie.b, "b"), (tie.u, "u"), (tie.v, "v")] {
            if let Some(v) = v {
                within(v, &format!("{at}/{field}"), -MAX_LENGTH, MAX_LENGTH)?;
            }
        }
    }
    Ok(())
}
