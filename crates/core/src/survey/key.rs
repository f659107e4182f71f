//! Keys of quantities read back: the form in which readings travel in tables.

use crate::project::survey::{OpeningDim, Quantity, REAR, Side, ThingDim};

impl Quantity {
    /// The quantity of a key as `Quantity::key` writes it.
    pub fn from_key(key: &str) -> Option<Quantity> {
        let parts: Vec<&str> = key.trim().split('.').collect();
        let mm = |s: &str| s.parse::<f64>().ok().filter(|v| v.is_finite());
        let side = |s: &str| match s {
            "left" => Some(Side::Left),
            "right" => Some(Side::Right),
            _ => None,
        };
        Some(match parts.as_slice() {
            ["length", z] => Quantity::Length { z: mm(z)?, y: 0.0 },
            ["length", z, y] => Quantity::Length {
                z: mm(z)?,
                y: mm(y)?,
            },
            ["wall", s, x, z] => Quantity::Wall {
                side: side(s)?,
                x: mm(x)?,
                z: mm(z)?,
            },
            ["diagonal", s, x, z] => Quantity::Diagonal {
                side: side(s)?,
                x: mm(x)?,
                z: mm(z)?,
            },
            ["width", x, z] => Quantity::Width {
                x: mm(x)?,
                z: mm(z)?,
            },
            ["floor", x] => Quantity::Floor { x: mm(x)?, y: 0.0 },
            ["floor", x, y] => Quantity::Floor {
                x: mm(x)?,
                y: mm(y)?,
            },
            ["roof", x] => Quantity::Roof { x: mm(x)?, y: 0.0 },
            ["roof", x, y] => Quantity::Roof {
                x: mm(x)?,
                y: mm(y)?,
            },
            ["slope", "datum"] => Quantity::Slope { x: None },
            ["slope", x] => Quantity::Slope { x: Some(mm(x)?) },
            ["opening", dim] => Quantity::opening(REAR, opening(dim)?),
            ["opening", "width", z] if mm(z).is_some() => Quantity::Opening {
                dim: OpeningDim::Width,
                id: REAR.into(),
                z: mm(z),
            },
            ["opening", id, dim] => Quantity::opening(id, opening(dim)?),
            ["opening", id, "width", z] => Quantity::Opening {
                dim: OpeningDim::Width,
                id: (*id).into(),
                z: Some(mm(z)?),
            },
            ["thing", id, dim] => Quantity::Thing {
                id: (*id).into(),
                dim: thing(dim)?,
                z: None,
            },
            ["thing", id, dim, z] => Quantity::Thing {
                id: (*id).into(),
                dim: thing(dim)?,
                z: Some(mm(z)?),
            },
            _ => return None,
        })
    }
}

fn opening(s: &str) -> Option<OpeningDim> {
    Some(match s {
        "widthfloor" => OpeningDim::WidthFloor,
        "widthtop" => OpeningDim::WidthTop,
        "height" => OpeningDim::Height,
        _ => return None,
    })
}

fn thing(s: &str) -> Option<ThingDim> {
    Some(match s {
        "start" => ThingDim::Start,
        "length" => ThingDim::Length,
        "end" => ThingDim::End,
        "width" => ThingDim::Width,
        "face" => ThingDim::Face,
        "facestart" => ThingDim::FaceStart,
        "faceend" => ThingDim::FaceEnd,
        "shoulder" => ThingDim::Shoulder,
        "far" => ThingDim::Far,
        "height" => ThingDim::Height,
        "bottom" => ThingDim::Bottom,
        _ => return None,
    })
}
