//! The document: what the user knows, measured and chose. Nothing in it is computed.

pub mod accepted;
pub mod check;
pub mod deck;
pub mod fits;
pub mod fittings;
pub mod gear;
pub mod held;
pub mod module;
pub mod start;
pub mod states;
pub mod stock;
pub mod survey;
pub mod templates;
pub mod things;
pub mod transfers;
pub mod upgrade;
pub mod variants;

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};
use serde_json::Value;
use utoipa::ToSchema;

use crate::input::from_value;
use crate::mechanics::material::{Material, built_in};
use crate::problem::Problem;
use crate::units::figure::{System, Writer};
use crate::units::{INCH, Unit};
use deck::Deck;
use fits::Fit;
use gear::{Gear, Mattress, Person};
use module::Module;
use states::State;
use stock::{Cutting, Sheet};
use survey::Survey;
use templates::Template;
use transfers::Transfer;
use variants::Variant;

/// What the file says it is.
pub const FORMAT: &str = "jigfit-project";
/// The version of the document that this code writes.
pub const VERSION: u32 = upgrade::UPGRADES.len() as u32 + 1;

/// One vehicle and what is to be built into it.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Project {
    /// Always `jigfit-project`.
    pub format: String,
    /// Version of the document format.
    pub version: u32,
    /// What the user calls it.
    pub name: String,
    /// The vehicle.
    pub vehicle: Vehicle,
    /// How lengths are typed and shown.
    #[serde(default)]
    pub units: Units,
    /// Readings and what they are readings of.
    #[serde(default)]
    pub survey: Survey,
    /// Things to be stowed.
    #[serde(default)]
    pub gear: BTreeMap<String, Gear>,
    /// Who sleeps and sits in it.
    #[serde(default)]
    pub people: BTreeMap<String, Person>,
    /// The mattress.
    #[serde(default)]
    pub mattress: Mattress,
    /// Lining to come under the roof, and air wanted over a head, mm.
    #[serde(default)]
    pub headroom: Headroom,
    /// Heights to compare.
    #[serde(default)]
    pub candidates: BTreeMap<String, Candidate>,
    /// What is built.
    #[serde(default)]
    pub modules: BTreeMap<String, Module>,
    /// Captured curves.
    #[serde(default, skip_serializing_if = "BTreeMap::is_empty")]
    pub templates: BTreeMap<String, Template>,
    /// Boards that were held in place.
    #[serde(default, skip_serializing_if = "BTreeMap::is_empty")]
    pub fits: BTreeMap<String, Fit>,
    /// Marks that fixings of the vehicle left on boards.
    #[serde(default, skip_serializing_if = "BTreeMap::is_empty")]
    pub transfers: BTreeMap<String, Transfer>,
    /// Driving, day, night: what is open then.
    #[serde(default = "states::usual")]
    pub states: BTreeMap<String, State>,
    /// Other ways to furnish the same vehicle.
    #[serde(default)]
    pub variants: BTreeMap<String, Variant>,
    /// Sheets to cut from.
    #[serde(default)]
    pub stock: BTreeMap<String, Sheet>,
    /// Materials of the user's own, and corrections to the built-in ones.
    #[serde(default)]
    pub materials: BTreeMap<String, Material>,
    /// Saw and trim.
    #[serde(default)]
    pub cutting: Cutting,
}

/// A vehicle by kind only: no maker's dimensions are stored anywhere.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Vehicle {
    /// Its kind, which decides what is asked first.
    pub kind: VehicleKind,
    /// Anything worth noting.
    #[serde(default)]
    pub note: String,
}

/// Kinds of vehicle.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum VehicleKind {
    /// Panel van.
    Van,
    /// Estate car.
    Estate,
    /// Pickup bed.
    Pickup,
    /// Box trailer with a flat front.
    BoxTrailer,
    /// Trailer with a V-shaped front.
    VNoseTrailer,
    /// Caravan.
    Caravan,
    /// Small boat.
    Boat,
}

impl VehicleKind {
    /// As it is called in a sentence.
    pub fn word(self) -> &'static str {
        match self {
            VehicleKind::Van => "van",
            VehicleKind::Estate => "estate car",
            VehicleKind::Pickup => "pickup bed",
            VehicleKind::BoxTrailer => "box trailer",
            VehicleKind::VNoseTrailer => "V-nose trailer",
            VehicleKind::Caravan => "caravan",
            VehicleKind::Boat => "boat",
        }
    }
}

/// How lengths are typed and shown.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields, default)]
pub struct Units {
    /// The system in which sentences speak.
    pub system: System,
    /// The unit of a bare number.
    pub tape: Unit,
    /// Finest fraction of an inch.
    pub denominator: u32,
    /// What cards and layouts are printed on.
    pub paper: Paper,
    /// What numbers on parts are multiples of; as the tape has it if null.
    pub marks: Option<Marks>,
    /// What the bar of 100 mm across a printed page measured, mm; 100 if null.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub printed_across: Option<f64>,
    /// The same up the page.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub printed_up: Option<f64>,
}

/// What the numbers on cards, lists and sheets are multiples of.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub enum Marks {
    /// Whole millimetres.
    #[serde(rename = "1 mm")]
    Millimetre,
    /// Half millimetres.
    #[serde(rename = "1/2 mm")]
    HalfMillimetre,
    /// Sixteenths of an inch.
    #[serde(rename = "1/16 in")]
    Sixteenth,
    /// Thirty-seconds of an inch.
    #[serde(rename = "1/32 in")]
    ThirtySecond,
}

impl Marks {
    /// The step, mm.
    pub fn mm(self) -> f64 {
        match self {
            Marks::Millimetre => 1.0,
            Marks::HalfMillimetre => 0.5,
            Marks::Sixteenth => INCH / 16.0,
            Marks::ThirtySecond => INCH / 32.0,
        }
    }

    /// As it is written.
    pub fn words(self) -> &'static str {
        match self {
            Marks::Millimetre => "1 mm",
            Marks::HalfMillimetre => "1/2 mm",
            Marks::Sixteenth => "1/16 in",
            Marks::ThirtySecond => "1/32 in",
        }
    }
}

impl Units {
    /// Writes lengths in these units.
    pub fn writer(&self) -> Writer {
        Writer {
            system: self.system,
            denominator: self.denominator,
        }
    }

    /// What numbers on parts are multiples of: the user's choice, or what the tape has.
    pub fn marks(&self) -> Marks {
        self.marks.unwrap_or(match self.system {
            System::Mm => Marks::Millimetre,
            System::In => Marks::Sixteenth,
        })
    }
}

/// Paper to print on.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum Paper {
    /// 297 x 210 mm (ISO 216).
    #[default]
    A4,
    /// 11 x 8 1/2 in.
    Letter,
}

impl Default for Units {
    fn default() -> Self {
        Units {
            system: System::Mm,
            tape: Unit::Mm,
            denominator: 16,
            paper: Paper::A4,
            marks: None,
            printed_across: None,
            printed_up: None,
        }
    }
}

/// What is taken off the headroom.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields, default)]
pub struct Headroom {
    /// Lining and insulation still to come, mm.
    pub finish: f64,
    /// Air wanted over a head, mm.
    pub clearance: f64,
    /// Somebody wants to sit up on the bed.
    pub sit: bool,
}

impl Default for Headroom {
    fn default() -> Self {
        Headroom {
            finish: 0.0,
            clearance: 0.0,
            sit: true,
        }
    }
}

/// A height under comparison.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Candidate {
    /// Deck underside over the load floor, mm.
    pub underside: f64,
    /// Why it is a candidate.
    #[serde(default)]
    pub note: String,
}

impl Project {
    /// Reads a project of any version and checks all of it but the choices of its furniture, which
    /// `furniture::read` does besides.
    ///
    /// # Errors
    /// Another format or a version newer than this program, a wrong or unknown field, a number out of range; the
    /// problem's pointer names the place.
    pub fn read(value: Value) -> Result<Project, Problem> {
        let format = value.get("format").and_then(Value::as_str);
        if format != Some(FORMAT) {
            return Err(
                Problem::shape("/format", "This is not a Jig Fit project file.").allowing(FORMAT),
            );
        }
        let project: Project = from_value(upgrade::upgrade(value)?)?;
        check::check(&project)?;
        Ok(project)
    }

    /// The document as JSON.
    ///
    /// # Errors
    /// Only should a number not be writable, which `check` prevents.
    pub fn to_json(&self) -> Result<Value, Problem> {
        serde_json::to_value(self).map_err(|e| Problem::shape("", e.to_string()))
    }

    /// Writes lengths the way this project wants them.
    pub fn writer(&self) -> Writer {
        self.units.writer()
    }

    /// The material of that identifier: the user's own first, then the built-in one.
    pub fn material(&self, id: &str) -> Option<Material> {
        self.materials.get(id).cloned().or_else(|| built_in(id))
    }

    /// The decks, by identifier: the survey and the ladder ask for the heights of sleeping platforms. One
    /// whose choices cannot be read is left out; reading the document refuses it.
    pub fn decks(&self) -> Vec<(&str, Deck)> {
        let decks = self.modules.iter();
        decks
            .filter_map(|(id, m)| Some((id.as_str(), Deck::of(m)?)))
            .collect()
    }
}
