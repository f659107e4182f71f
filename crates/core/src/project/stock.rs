//! Sheets to cut from, and the saw.
//!
//! A board has a name, which is what the shop sells ("15 mm", "3/4 in"), and a thickness, which is what
//! the calliper says (18.3 mm). Choices ask for a board; everything is worked out with its thickness.

use std::collections::{BTreeMap, BTreeSet};

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use serde_json::{Map, Value};

use super::Project;
use super::accepted::Accepted;
use crate::mechanics::material::SheetGrain;
use crate::units::INCH;
use crate::units::figure::System;
use crate::units::print::{millimetres, nearest_inch};
use crate::units::{Unit, tape};

/// A kind of sheet that can be had.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Sheet {
    /// Material identifier.
    pub material: String,
    /// What it is sold as, such as `15 mm` or `3/4 in`; by its thickness if empty.
    #[serde(default)]
    pub name: String,
    /// Thickness as measured, mm.
    pub thickness: f64,
    /// Width, mm.
    pub w: f64,
    /// Height, mm.
    pub h: f64,
    /// How many there are; null for as many as needed.
    #[serde(default)]
    pub count: Option<u32>,
    /// Price of one.
    #[serde(default)]
    pub cost: Option<f64>,
    /// Which way its grain runs.
    #[serde(default)]
    pub grain: SheetGrain,
}

/// The saw.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields, default)]
pub struct Cutting {
    /// Width of the cut, mm.
    pub kerf: f64,
    /// Taken off every factory edge, mm.
    pub trim: f64,
    /// Cuts that were made, by their key, with the time.
    pub ticked: BTreeMap<String, String>,
    /// The layout that was accepted: it stays until another one is.
    pub accepted: Option<Accepted>,
    /// Boards, by identifier (`module/board`), whose grain runs the other way than their kind asks for.
    #[serde(skip_serializing_if = "BTreeSet::is_empty")]
    pub turned: BTreeSet<String>,
}

impl Default for Cutting {
    fn default() -> Self {
        Cutting {
            kerf: 3.0,
            trim: 5.0,
            ticked: BTreeMap::new(),
            accepted: None,
            turned: BTreeSet::new(),
        }
    }
}

/// Sizes sold by the inch, in 1/8 in, and the metric ones a seller calls the same board (common
/// practice, no source).
const TRADE: [(f64, &[f64]); 6] = [
    (2.0, &[6.0, 6.5]),
    (3.0, &[9.0, 9.5]),
    (4.0, &[12.0, 12.5]),
    (5.0, &[15.0, 16.0]),
    (6.0, &[18.0, 19.0]),
    (8.0, &[25.0]),
];
const EIGHTH: f64 = 25.4 / 8.0;
/// Two metric sizes this close are one, mm.
const CLOSE: f64 = 0.3;

/// What a board of that thickness is called: by the inch where it is an inch size, else in millimetres.
pub fn board_name(mm: f64) -> String {
    let inch = TRADE.iter().any(|(n, _)| (n * EIGHTH - mm).abs() < 0.03);
    if inch {
        format!("{} in", nearest_inch(mm, 8).0)
    } else {
        format!("{} mm", millimetres(mm))
    }
}

/// A seller would say that boards sold as `a` and `b` (mm) are the same board.
pub fn same_board(a: f64, b: f64) -> bool {
    let partners = |inch: f64, metric: f64| {
        TRADE.iter().any(|(n, sizes)| {
            (n * EIGHTH - inch).abs() < 0.03 && sizes.iter().any(|s| (s - metric).abs() < 0.05)
        })
    };
    (a - b).abs() < CLOSE || partners(a, b) || partners(b, a)
}

impl Sheet {
    /// What it is sold as, mm: its name read as a length, or its thickness.
    pub fn nominal(&self) -> f64 {
        tape::parse(&self.name, Unit::Mm).unwrap_or(self.thickness)
    }

    /// What it is called.
    pub fn called(&self) -> String {
        if self.name.trim().is_empty() {
            board_name(self.thickness)
        } else {
            self.name.trim().to_string()
        }
    }
}

impl Project {
    /// The sheet in stock that a choice of `thickness` means: the one sold as that, else one that a
    /// seller would call the same.
    pub fn sheet_for(&self, material: &str, thickness: f64) -> Option<&Sheet> {
        let own = || {
            let all = self.stock.values();
            all.filter(|s| s.material == material && s.count != Some(0))
        };
        let off = |s: &&Sheet| (s.nominal() - thickness).abs();
        let exact = own().find(|s| off(s) < 0.05 || (s.thickness - thickness).abs() < 0.05);
        exact.or_else(|| {
            own()
                .filter(|s| same_board(s.nominal(), thickness))
                .min_by(|a, b| off(a).total_cmp(&off(b)))
        })
    }

    /// What the board of that measured thickness is called.
    pub fn board_called(&self, material: &str, thickness: f64) -> String {
        let own = self
            .stock
            .values()
            .find(|s| s.material == material && (s.thickness - thickness).abs() < 0.05);
        own.map_or_else(|| board_name(thickness), Sheet::called)
    }

    /// The same project with the thickness of every board as measured in the stock.
    #[must_use]
    pub fn with_measured_boards(&self) -> Project {
        let mut out = self.clone();
        let measured = |material: &str, t: f64| {
            // A bar has one thickness, whatever was said before it was chosen.
            let bar = || self.material(material).and_then(|m| m.section());
            let own = self.sheet_for(material, t).map(|s| s.thickness);
            own.or_else(|| Some(bar()?.0)).unwrap_or(t)
        };
        for m in out.modules.values_mut() {
            measure_boards(&mut m.choices, &measured);
        }
        out
    }
}

/// Choices of any kind that say how thick a board is, beside the choice `material`.
pub const BOARDS: [&str; 9] = [
    "thickness",
    "sides",
    "bottom",
    "back",
    "table",
    "top",
    "lid",
    "slat",
    "sheet",
];

/// Nominal sizes of plywood sold by the inch, and what the calliper says of them, in: the sanding takes 1/32 in (from memory).
pub const INCH_BOARDS: [(f64, f64); 4] = [
    (0.25, 7.0 / 32.0),
    (0.375, 11.0 / 32.0),
    (0.5, 15.0 / 32.0),
    (0.75, 23.0 / 32.0),
];

/// The board sold by the inch that serves for one of `mm`, mm: nominal (a choice: 3/4 in from 15 mm on).
pub fn inch_board(mm: f64) -> f64 {
    let sizes = INCH_BOARDS.map(|(nominal, _)| nominal * INCH);
    match mm {
        mm if mm < 8.0 => sizes[0],
        mm if mm < 11.0 => sizes[1],
        mm if mm < 14.0 => sizes[2],
        _ => sizes[3],
    }
}

/// The boards thicker than `now`, mm, thinnest first: in steps of 3 mm, or as they are sold by the inch.
pub fn thicker(system: System, now: f64) -> Vec<f64> {
    /// Boards of that many millimetres more, and so many of them.
    const STEP: f64 = 3.0;
    const STEPS: u32 = 6;
    match system {
        System::Mm => (1..=STEPS).map(|n| now + STEP * f64::from(n)).collect(),
        System::In => {
            let sold = INCH_BOARDS.iter().map(|(nominal, _)| nominal * INCH);
            let all = sold.chain([INCH, 1.5 * INCH]);
            all.filter(|mm| *mm > now + 1.0).collect()
        }
    }
}

/// The sheets that a project in inches begins with: 96 x 48 in of birch ply in the nominal sizes, thick as they are sold.
pub fn inch_stock() -> BTreeMap<String, Sheet> {
    let sheet = |(nominal, is): (f64, f64)| Sheet {
        material: "birch-ply".into(),
        name: board_name(nominal * INCH),
        thickness: is * INCH,
        w: 96.0 * INCH,
        h: 48.0 * INCH,
        count: None,
        cost: None,
        grain: SheetGrain::W,
    };
    let ids = (1..).map(|n| format!("s{n}"));
    ids.zip(INCH_BOARDS.map(sheet)).collect()
}

/// Wherever choices name a material and beside it the thickness of boards, in whatever kind.
fn measure_boards(choices: &mut Map<String, Value>, measured: &impl Fn(&str, f64) -> f64) {
    let material = choices.get("material").and_then(Value::as_str);
    if let Some(m) = material.map(str::to_string) {
        for board in BOARDS {
            if let Some(t) = choices.get(board).and_then(Value::as_f64) {
                choices.insert(board.into(), measured(&m, t).into());
            }
        }
    }
    for inner in choices.values_mut().filter_map(Value::as_object_mut) {
        measure_boards(inner, measured);
    }
}

/// What is taken off every factory edge, mm: nothing off a bar.
pub fn trim(project: &Project, material: &str) -> f64 {
    let bar = project.material(material).and_then(|m| m.bar);
    bar.map_or(project.cutting.trim, |_| 0.0)
}

/// The sheet assumed where the stock has none of that material and thickness, mm: 2440 x 1220, or
/// 96 x 48 in where the tape reads inches; a bar as it is sold.
pub fn usual_sheet(project: &Project, material: &str) -> (f64, f64) {
    if let Some(bar) = project.material(material).and_then(|m| m.bar) {
        return (bar.length, bar.width);
    }
    match project.units.system {
        System::Mm => (2440.0, 1220.0),
        System::In => (96.0 * INCH, 48.0 * INCH),
    }
}

/// The largest usable sheet of that material and thickness.
pub fn usable(project: &Project, material: &str, thickness: f64) -> (f64, f64) {
    let trim = 2.0 * trim(project, material);
    let own = project
        .stock
        .values()
        .filter(|s| s.material == material && (s.thickness - thickness).abs() < 0.05)
        .map(|s| (s.w, s.h))
        .max_by(|a, b| (a.0 * a.1).total_cmp(&(b.0 * b.1)));
    let (w, h) = own.unwrap_or_else(|| usual_sheet(project, material));
    (w - trim, h - trim)
}
