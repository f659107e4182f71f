//! Sheet materials: bending stiffness, strength and density from published tables.
//!
//! Birch plywood: Handbook of Finnish Plywood, birch, unsanded thin veneers, mean modulus of
//! elasticity in bending along and across the face grain, characteristic bending strength, mean
//! density 680 kg/m3 (from memory). Softwood plywood: EN 636 class F20/10 E60/20, whose numbers
//! are the class (from memory; look for the stamp on your sheet), density 500 kg/m3 (from memory).
//! OSB/3: EN 12369-1, mean modulus and characteristic bending strength, 550 kg/m3 (from memory).
//!
//! Besides sheets, bars: one section all along, sold by length. Spruce: EN 338 class C24, mean modulus, characteristic
//! bending strength, mean density 420 kg/m3 (from memory). Steel angle: EN 10056-1, L 40 x 40 x 4, 2.42 kg/m, second moment
//! of area 4.47 cm4, section modulus 1.55 cm3, S235 (from memory). An angle counts as a solid bar of the square round it, with
//! the density, modulus and strength that give the angle's weight, stiffness and strength.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// Which way a sheet's grain runs.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum SheetGrain {
    /// Along its width.
    #[default]
    W,
    /// Along its height.
    H,
    /// It has none.
    None,
}

/// Which way a part wants the grain.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum PartGrain {
    /// Along the part's width.
    Along,
    /// Along the part's height.
    Across,
    /// Either way.
    #[default]
    Free,
}

/// Stiffness and strength at one thickness.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Grade {
    /// Thickness, mm.
    pub thickness: f64,
    /// Modulus of elasticity in bending along the face grain, N/mm2.
    pub e_along: f64,
    /// Across the face grain, N/mm2.
    pub e_across: f64,
    /// Bending strength along, characteristic, N/mm2.
    pub f_along: f64,
    /// Bending strength across, characteristic, N/mm2.
    pub f_across: f64,
}

/// A sheet material.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Material {
    /// What people call it.
    pub name: String,
    /// Density, kg/m3.
    pub density: f64,
    /// Grades by thickness, ascending.
    pub grades: Vec<Grade>,
    /// Where the numbers come from.
    pub source: String,
    /// Whether the two directions of the sheet differ.
    pub has_grain: bool,
    /// It is no sheet but sold by length, of one section; the thickness of its grade is the section's.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub bar: Option<Bar>,
}

/// What is sold by length.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Bar {
    /// Width of its section, square to its thickness, mm.
    pub width: f64,
    /// How long one is, mm.
    pub length: f64,
    /// It is bored and bolted, not screwed into.
    #[serde(default)]
    pub metal: bool,
}

/// Which way the face grain runs against the span.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum Grain {
    /// Along the span.
    #[default]
    Along,
    /// Across the span.
    Across,
}

impl Material {
    /// Thickness and width of its section, mm, if it is sold by length.
    pub fn section(&self) -> Option<(f64, f64)> {
        Some((self.grades.first()?.thickness, self.bar?.width))
    }

    /// The grade for `thickness`: the listed one, between two listed by straight line, and the
    /// nearest beyond the ends.
    pub fn grade(&self, thickness: f64) -> Option<Grade> {
        let first = self.grades.first()?;
        let last = self.grades.last()?;
        if thickness <= first.thickness {
            return Some(*first);
        }
        if thickness >= last.thickness {
            return Some(*last);
        }
        self.grades.windows(2).find_map(|w| {
            let (a, b) = (w[0], w[1]);
            if !(a.thickness..=b.thickness).contains(&thickness) {
                return None;
            }
            let t = (thickness - a.thickness) / (b.thickness - a.thickness);
            let mix = |x: f64, y: f64| x + t * (y - x);
            Some(Grade {
                thickness,
                e_along: mix(a.e_along, b.e_along),
                e_across: mix(a.e_across, b.e_across),
                f_along: mix(a.f_along, b.f_along),
                f_across: mix(a.f_across, b.f_across),
            })
        })
    }

    /// Modulus of elasticity for a span along or across the face grain, N/mm2.
    pub fn modulus(&self, thickness: f64, grain: Grain) -> Option<f64> {
        let g = self.grade(thickness)?;
        Some(match grain {
            Grain::Along => g.e_along,
            Grain::Across => g.e_across,
        })
    }
}

/// Identifiers of the materials that are built in.
pub const BUILT_IN: [&str; 5] = [
    "birch-ply",
    "softwood-ply",
    "osb",
    "spruce-38x89",
    "steel-angle-40",
];

/// A steel angle: its legs, mm; kg/m; second moment of area, mm4; section modulus, mm3; steel's modulus and yield, N/mm2.
const ANGLE: f64 = 40.0;
const ANGLE_MASS: f64 = 2.42;
const ANGLE_I: f64 = 44_700.0;
const ANGLE_W: f64 = 1550.0;
const STEEL: f64 = 210_000.0;
const YIELD: f64 = 235.0;

/// The built-in material of that identifier.
pub fn built_in(id: &str) -> Option<Material> {
    let grade =
        |(thickness, e_along, e_across, f_along, f_across): (f64, f64, f64, f64, f64)| Grade {
            thickness,
            e_along,
            e_across,
            f_along,
            f_across,
        };
    let grades = |rows: &[(f64, f64, f64, f64, f64)]| rows.iter().copied().map(grade).collect();
    Some(match id {
        "birch-ply" => Material {
            name: "birch ply".into(),
            density: 680.0,
            grades: grades(&[
                (6.5, 12737.0, 4763.0, 50.9, 29.0),
                (9.0, 11395.0, 6105.0, 45.6, 32.1),
                (12.0, 10719.0, 6781.0, 42.9, 33.2),
                (15.0, 10316.0, 7184.0, 41.3, 33.8),
                (18.0, 10048.0, 7452.0, 40.2, 34.1),
                (21.0, 9858.0, 7642.0, 39.4, 34.3),
                (24.0, 9717.0, 7783.0, 38.9, 34.4),
            ]),
            source: "Handbook of Finnish Plywood, birch (from memory)".into(),
            has_grain: true,
            bar: None,
        },
        "softwood-ply" => Material {
            name: "softwood sheathing ply".into(),
            density: 500.0,
            grades: grades(&[
                (9.0, 6000.0, 2000.0, 20.0, 10.0),
                (24.0, 6000.0, 2000.0, 20.0, 10.0),
            ]),
            source: "EN 636 class F20/10 E60/20 (from memory); check the stamp".into(),
            has_grain: true,
            bar: None,
        },
        "osb" => Material {
            name: "OSB/3".into(),
            density: 550.0,
            grades: grades(&[
                (9.0, 4930.0, 1980.0, 18.0, 9.0),
                (15.0, 4930.0, 1980.0, 16.4, 8.2),
                (22.0, 4930.0, 1980.0, 14.8, 7.4),
            ]),
            source: "EN 12369-1, OSB/3 (from memory)".into(),
            has_grain: true,
            bar: None,
        },
        // Sold as 2 x 4.
        "spruce-38x89" => Material {
            name: "spruce 38 x 89 (2x4)".into(),
            density: 420.0,
            grades: grades(&[(38.0, 11000.0, 370.0, 24.0, 2.4)]),
            source: "EN 338 class C24 (from memory); look for the stamp".into(),
            has_grain: true,
            bar: Some(Bar {
                width: 89.0,
                length: 2400.0,
                metal: false,
            }),
        },
        "steel-angle-40" => Material {
            name: "steel angle 40 x 40 x 4".into(),
            density: ANGLE_MASS / (ANGLE * ANGLE * 1e-6),
            grades: {
                let e = STEEL * ANGLE_I / (ANGLE.powi(4) / 12.0);
                let f = YIELD * ANGLE_W / (ANGLE.powi(3) / 6.0);
                let (e, f) = (e.round(), (f * 10.0).round() / 10.0);
                grades(&[(ANGLE, e, e, f, f)])
            },
            source: "EN 10056-1, L 40 x 40 x 4; S235 (from memory)".into(),
            has_grain: false,
            bar: Some(Bar {
                width: ANGLE,
                length: 3000.0,
                metal: true,
            }),
        },
        _ => return None,
    })
}
