//! A bench with bays: each closed or open in front, under a lid, under a fixed top or open above, wide as said or as the
//! thing needs that it is made for.

mod bay;
mod boards;

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

pub use self::bay::Bay;
use self::bay::Front;
use super::built::Built;
use super::form::Form;
use super::kit::frame::Opens;
use super::kit::grip::Grip;
use super::kit::hinges::Hinges;
use super::kit::lid::Stay;
use super::stands::{Piece, Stance, Standing};
use super::{Amount, Field, Site};
use crate::input::within;
use crate::problem::Problem;
use crate::project::Project;
use crate::project::check::optional;
use crate::project::module::named;

/// Least width of a bay with a board, depth and height, mm.
const LEAST: [f64; 3] = [180.0, 260.0, 200.0];
/// Most bays.
const MOST: u32 = 6;

/// At which end the appliance stands, seen from the front.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum End {
    /// At the right one.
    #[default]
    Right,
    /// At the left one.
    Left,
}

/// The choices about a bench.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields, default)]
pub struct Bench {
    /// To which side its front looks.
    pub opens: Opens,
    /// Width along its front, mm.
    pub width: f64,
    /// Depth from front to back, mm.
    pub depth: f64,
    /// Height with its lids, mm.
    pub height: f64,
    /// Bays.
    pub bays: u32,
    /// The thing of the stow list that an open bay is made for, by identifier; none if null.
    #[serde(deserialize_with = "named")]
    pub appliance: Option<String>,
    /// At which end it stands.
    pub end: End,
    /// What is chosen about single bays, by number from the right, seen from the front: `1`, `2`...
    pub each: BTreeMap<String, Bay>,
    /// Room for fingers and slide beside the appliance, mm.
    pub fingers: f64,
    /// The hinges lie so far before the back, mm.
    pub hinge: f64,
    /// What the lids hang on.
    pub hinges: Hinges,
    /// What holds the lids up.
    pub stay: Stay,
    /// By what the lids are lifted.
    pub grip: Grip,
    /// Diameter of a hole for cables through each board between two bays, mm; none if null.
    pub cable: Option<f64>,
    /// Material identifier.
    pub material: String,
    /// Thickness of its uprights, mm.
    pub thickness: f64,
    /// Thickness of its lids, mm.
    pub lid: f64,
    /// Clearance to walls and wells, mm; from the readings and the finish if null.
    pub clearance: Option<f64>,
}

impl Default for Bench {
    fn default() -> Self {
        Bench {
            opens: Opens::Right,
            width: 1000.0,
            depth: 450.0,
            height: 400.0,
            bays: 2,
            appliance: None,
            end: End::Right,
            each: BTreeMap::new(),
            // 19 in and 1 in: uprights 20 in (common practice, no source).
            fingers: 25.4,
            hinge: 60.0,
            hinges: Hinges::Butt,
            stay: Stay::Prop,
            grip: Grip::Handle,
            cable: None,
            material: "birch-ply".into(),
            thickness: 15.0,
            lid: 12.0,
            clearance: None,
        }
    }
}

impl Bench {
    /// Something comes out of it to the front: the floor there stays free.
    fn comes_out(&self) -> bool {
        let bays = self.each_bay();
        let mut out = bays
            .iter()
            .map(|b| b.gear.is_some() && b.front == Front::Open);
        out.any(|comes| comes)
    }
}

/// A bench.
pub struct BenchKind;

impl Piece for BenchKind {
    type Choices = Bench;

    fn name(&self) -> &'static str {
        "bench"
    }

    fn purpose(&self) -> &'static str {
        "To sit on, over bays with lids and a place for an appliance."
    }

    fn stance(&self, c: &Bench) -> Stance {
        let [bay, deep, high] = LEAST;
        Stance {
            opens: c.opens,
            size: [c.width, c.depth, c.height],
            least: [
                bay * f64::from(c.bays.clamp(1, MOST)) + c.thickness,
                deep.max(2.0 * c.hinge + c.thickness),
                high,
            ],
            clearance: c.clearance,
            material: c.material.clone(),
            thickness: c.thickness,
            reach: if c.comes_out() { c.depth } else { 0.0 },
        }
    }

    fn resize(&self, c: &mut Bench, size: [f64; 3]) {
        [c.width, c.depth, c.height] = size;
    }

    fn suit(&self, c: &mut Bench, site: &Site, said: &dyn Fn(&str) -> bool) {
        let n = f64::from(c.count());
        if !said("width") {
            c.width = c.width.max(400.0 * n);
        }
        let bays = c.each_bay();
        let needs = bays.iter().filter_map(|b| c.needs(site.project, b));
        let Some([_, deep, high]) = needs.reduce(|a, b| [0, 1, 2].map(|k| a[k].max(b[k]))) else {
            return;
        };
        // Front, back, bottom and lid are round it.
        if !said("depth") {
            c.depth = c.depth.max(deep + 2.0 * c.thickness);
        }
        if !said("height") {
            c.height = c.height.max(high + c.thickness + c.lid);
        }
    }

    fn fill(&self, c: &mut Bench) {
        for k in 1..=MOST {
            c.each.entry(k.to_string()).or_default();
        }
    }

    fn amount(&self, c: &Bench) -> Amount {
        Amount::of(4, c.bays, "/choices/bays")
    }

    fn check(&self, c: &Bench, project: &Project, _: f64) -> Result<(), Problem> {
        within(f64::from(c.bays), "/choices/bays", 1.0, f64::from(MOST))?;
        within(c.lid, "/choices/lid", 6.0, 30.0)?;
        optional(c.cable, "/choices/cable", 8.0, 80.0)?;
        within(c.fingers, "/choices/fingers", 0.0, 200.0)?;
        within(c.hinge, "/choices/hinge", 20.0, c.depth / 2.0)?;
        bay::check(c, project)
    }

    fn fields(&self, c: &Bench, f: &Form, site: &Site) -> Vec<Field> {
        let gear = site.project.gear.iter();
        let mut things = vec![(String::new(), "nothing".to_string())];
        things.extend(gear.map(|(id, g)| (id.clone(), g.name.clone())));
        let mut out = vec![
            f.count("bays", "Bays", Some(c.bays)),
            f.some_of(
                "appliance",
                "An open bay for",
                c.appliance.as_deref(),
                things.clone(),
            ),
            f.choice(
                "end",
                "It stands",
                &[("right", "at the right end"), ("left", "at the left end")],
            )
            .why("seen from the front: mirrored where something is in the way"),
            f.length("fingers", "Room beside it", Some(c.fingers))
                .why("for fingers, and the slide it stands on"),
            f.length("hinge", "Hinges off the back", Some(c.hinge))
                .why("far enough that the lids stand up"),
            f.choice("hinges", "Lids hang on", &Hinges::LIDS),
            f.choice("stay", "Lids held up by", &Stay::WORDS),
            f.choice("grip", "Lids lifted by", &Grip::WORDS),
            f.length("lid", "Lids", Some(c.lid)),
            f.length("cable", "Cable holes", c.cable)
                .empty("none")
                .why("from bay to bay, low at the back"),
        ];
        out.extend(bay::fields(c, f, &things));
        out
    }

    fn built(&self, c: &Bench, at: &Standing) -> Option<Built> {
        boards::built(c, at)
    }
}
