//! Kinds of furniture, and the kit they are made of. A kind says what it is made of (`built`); a new one
//! is one file and one line in `KINDS`.

pub mod add;
mod bench;
mod bevels;
mod board;
mod body;
mod bought;
mod box_seat;
pub mod built;
mod cabinet;
pub mod cross;
pub mod deck;
mod drawer;
pub(crate) mod elsewhere;
pub mod form;
pub mod free;
mod grain;
pub mod kit;
mod kitchen;
mod locker;
mod many;
pub mod platform;
mod pull_bed;
mod pull_out;
mod reaches;
pub mod relation;
pub mod riding;
mod shelves;
mod slide_seat;
pub mod spot;
pub mod stands;
mod table;
mod turns;
pub mod way;

use std::collections::BTreeMap;

use serde::Serialize;
use serde_json::{Map, Value};
use utoipa::ToSchema;

pub use self::many::Amount;
use crate::geometry::sawn::sawable;
use crate::input::escape;
use crate::problem::Problem;
use crate::project::Project;
use crate::project::module::{Across, Covers, Lengthwise, Module, ModulePlace};
use crate::project::stock::inch_board;
use crate::side_by_side::each;
use crate::survey::model::Model;
use crate::units::figure::{Figure, System, Writer};
use crate::units::value::Value as Length;
use built::{Board, Built, Claim};
use platform::Platform;

/// All kinds of furniture: a new one is one file and one line here.
pub const KINDS: &[&dyn Kind] = &[
    &deck::DeckKind,
    &box_seat::BoxSeatKind,
    &drawer::DrawerKind,
    &cabinet::CabinetKind,
    &shelves::ShelvesKind,
    &pull_out::PullOutKind,
    &bench::BenchKind,
    &locker::LockerKind,
    &table::TableKind,
    &pull_bed::PullBedKind,
    &kitchen::KitchenKind,
    &slide_seat::SlideSeatKind,
    &bought::BoughtKind,
];

/// What a kind sees of the project while it works.
pub struct Site<'a> {
    /// The document.
    pub project: &'a Project,
    /// The vehicle.
    pub model: &'a Model,
    /// The module's identifier.
    pub id: &'a str,
    /// What the other modules claim, by identifier.
    pub claims: &'a BTreeMap<String, Claim>,
    /// Writes lengths.
    pub w: Writer,
}

impl Site<'_> {
    /// JSON Pointer of the module.
    pub fn pointer(&self) -> String {
        format!("/modules/{}", escape(self.id))
    }

    /// A length that the module's choices hold.
    pub fn choice(&self, field: &str, label: &str, mm: f64) -> Length {
        Length::choice(format!("{}/choices/{field}", self.pointer()), label, mm)
    }

    /// How thick a board is that the kind itself chose for `mm`: as it is sold in the project's system, and as the calliper says
    /// where the stock has it.
    pub fn board(&self, material: &str, mm: f64) -> f64 {
        let nominal = match self.w.system {
            System::Mm => mm,
            System::In => inch_board(mm),
        };
        let own = self.project.sheet_for(material, nominal);
        own.map_or(nominal, |s| s.thickness)
    }

    /// Claims of the other modules.
    pub fn others(&self) -> impl Iterator<Item = (&String, &Claim)> {
        self.claims.iter().filter(|(id, _)| *id != self.id)
    }

    /// A claim lies free of all others.
    pub fn is_free(&self, claim: &Claim) -> bool {
        self.others().all(|(_, c)| !c.meets(claim))
    }
}

/// A kind of furniture.
pub trait Kind: Sync {
    /// Its name in documents.
    fn name(&self) -> &'static str;
    /// What one wants it for, in a sentence.
    fn purpose(&self) -> &'static str;
    /// JSON Schema of its choices.
    fn schema(&self) -> Value;
    /// Refuses choices that cannot be; pointers lie below the module.
    ///
    /// # Errors
    /// The first that is wrong.
    fn check(&self, project: &Project, module: &Module) -> Result<(), Problem>;
    /// What the piece would be made of at the most, by its choices alone.
    fn amount(&self, _: &Module) -> Amount {
        Amount::plain(30)
    }
    /// The choices with those that were not made as the kind has them.
    fn complete(&self, choices: &Map<String, Value>) -> Map<String, Value>;
    /// A module that suits this vehicle and what is already there, with what is `wanted`.
    ///
    /// # Errors
    /// There is no room for it.
    fn defaults(&self, site: &Site, wanted: &Wanted) -> Result<Module, Problem>;
    /// Its choices as a form.
    fn form(&self, module: &Module, site: &Site) -> Vec<Field>;
    /// The space it wants, once that is known.
    fn claim(&self, module: &Module, site: &Site) -> Option<Claim>;
    /// What is wanted of it as a sleeping platform, if it is one; judged before it can be worked out, too.
    fn platform(&self, _project: &Project, _id: &str, _module: &Module) -> Option<Platform> {
        None
    }
    /// What it is made of, as far as the numbers allow; everybody's claims are known.
    fn work(&self, module: &Module, site: &Site) -> Option<Built>;
}

/// What is fixed already when a module is added.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct Wanted {
    /// What it is to be called.
    pub name: String,
    /// Choices of its kind.
    pub choices: Map<String, Value>,
    /// Forward of the threshold, mm.
    pub along: Option<f64>,
    /// So far off, or halfway to the front.
    pub lengthwise: Lengthwise,
    /// Across the bay.
    pub across: Option<Across>,
    /// Off the wall, mm.
    pub gap: Option<f64>,
    /// Over the floor, mm.
    pub up: Option<f64>,
    /// The module after which it comes.
    pub after: Option<String>,
    /// The module on which it stands.
    pub on: Option<String>,
    /// The thing in front of which it begins.
    pub against: Option<String>,
    /// The module beside which it stands.
    pub beside: Option<String>,
    /// Where the face of that module lies, mm.
    pub face: Option<f64>,
    /// Finish on a face, mm.
    pub finish: Option<f64>,
    /// What covers its edges.
    pub covers: Covers,
}

impl Wanted {
    /// What is fixed of the place.
    pub fn fixed(&self) -> spot::Fixed {
        spot::Fixed {
            along: self.along,
            across: self.across,
        }
    }

    /// The module with the wanted choices over the usual ones.
    pub fn module(&self, kind: &str, usual: &impl Serialize) -> Module {
        let mut module = Module::new(kind).with(usual);
        module.choices.extend(self.choices.clone());
        module.place = ModulePlace {
            along: self.along.unwrap_or(0.0),
            lengthwise: self.lengthwise,
            across: self.across.unwrap_or_default(),
            gap: self.gap.unwrap_or(0.0),
            up: self.up.unwrap_or(0.0),
            after: self.after.clone(),
            on: self.on.clone(),
            against: self.against.clone(),
            beside: self.beside.clone(),
            face: self.face,
        };
        module.finish = self.finish.unwrap_or(module.finish);
        module.covers = self.covers;
        module.name.clone_from(&self.name);
        module
    }
}

/// One choice as it is asked for.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Field {
    /// JSON Pointer in the document.
    pub pointer: String,
    /// What it is called.
    pub label: String,
    /// What is typed or chosen.
    pub value: FieldValue,
    /// What an empty field means, if it may be empty.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub empty: Option<String>,
    /// What it decides, or what is allowed.
    pub why: String,
}

/// What a field holds.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
#[serde(tag = "kind", rename_all = "snake_case")]
pub enum FieldValue {
    /// A length, typed in the tape language.
    Length {
        /// Now.
        now: Option<Figure>,
    },
    /// A whole number.
    Count {
        /// Now.
        now: Option<u32>,
    },
    /// A short text.
    Text {
        /// Now.
        now: String,
    },
    /// A mass.
    Mass {
        /// Now, kg.
        now: f64,
    },
    /// One of several.
    Choice {
        /// Now.
        now: String,
        /// Value and words.
        #[schema(value_type = Vec<Vec<String>>)]
        options: Vec<(String, String)>,
    },
    /// A material.
    Material {
        /// Its identifier.
        now: String,
        /// What is sold by length may be chosen too.
        bars: bool,
    },
}

/// The kind of that name.
pub fn kind<'a>(kinds: &[&'a dyn Kind], name: &str) -> Option<&'a dyn Kind> {
    kinds.iter().find(|k| k.name() == name).copied()
}

/// Reads and checks a project of any version, its furniture too.
///
/// # Errors
/// As `Project::read`; an unknown kind; choices that cannot be.
pub fn read(value: Value) -> Result<Project, Problem> {
    let mut project = Project::read(value)?;
    check(&project, KINDS)?;
    // What was not chosen is as the kind has it: edits may point to any choice.
    let kept = project.variants.values_mut();
    let kept = kept.flat_map(|v| v.modules.values_mut());
    for module in project.modules.values_mut().chain(kept) {
        if let Some(kind) = kind(KINDS, &module.kind) {
            module.choices = kind.complete(&module.choices);
        }
    }
    Ok(project)
}

/// Checks the furniture of a project.
///
/// # Errors
/// An unknown kind; choices that cannot be.
pub fn check(project: &Project, kinds: &[&dyn Kind]) -> Result<(), Problem> {
    for (id, v) in &project.variants {
        let at = format!("/variants/{}", escape(id));
        check(&project.furnished(v), kinds).map_err(|p| p.under(&at))?;
    }
    relation::check(project)?;
    for (id, module) in &project.modules {
        let at = format!("/modules/{}", escape(id));
        let Some(kind) = kind(kinds, &module.kind) else {
            return Err(unknown(kinds, &module.kind, &format!("{at}/kind")));
        };
        kind.check(project, module)
            .map_err(|p| project.in_own_units(p.under(&at)))?;
    }
    many::check(project, kinds)
}

/// There is no such kind.
pub fn unknown(kinds: &[&dyn Kind], name: &str, at: &str) -> Problem {
    let names: Vec<&str> = kinds.iter().map(|k| k.name()).collect();
    Problem::missing(at, format!("There is no furniture of the kind \"{name}\"."))
        .allowing(names.join(", "))
}

/// All modules worked out, by identifier; those whose numbers are still missing are left out.
pub fn work(project: &Project, model: &Model, kinds: &[&dyn Kind]) -> BTreeMap<String, Built> {
    some(project, model, kinds, &|_| true)
}

/// One of them, with what the others claim.
pub fn work_one(
    project: &Project,
    model: &Model,
    kinds: &[&dyn Kind],
    which: &str,
) -> Option<Built> {
    some(project, model, kinds, &|id| id == which).remove(which)
}

/// Those that are wanted, each with what all the others claim.
fn some(
    project: &Project,
    model: &Model,
    kinds: &[&dyn Kind],
    wanted: &(dyn Fn(&str) -> bool + Sync),
) -> BTreeMap<String, Built> {
    let nothing = BTreeMap::new();
    let w = project.writer();
    let site = |id, claims| Site {
        project,
        model,
        id,
        claims,
        w,
    };
    let modules = project.modules.iter();
    let mut known: Vec<_> = modules
        .filter_map(|(id, m)| Some((id, m, kind(kinds, &m.kind)?)))
        .collect();
    let claims = each(&known, |(id, m, k)| {
        Some(((*id).clone(), k.claim(m, &site(id, &nothing))?))
    });
    let claims: BTreeMap<String, Claim> = claims.into_iter().flatten().collect();
    known.retain(|(id, ..)| wanted(id));
    let built = each(&known, |(id, m, k)| {
        let mut built = k.work(m, &site(id, &claims))?;
        for board in &mut built.boards {
            board.shape = sawable(&board.shape);
            grain::settle(board, &built.spans);
        }
        grain::turned(project, id, &mut built);
        if !built.bevelled {
            let tilted = |b: &Board| match b.body == body::FIXED {
                true => bevels::of_board(b, &built.boards, model),
                false => vec![],
            };
            let all: Vec<_> = built.boards.iter().map(tilted).collect();
            for (board, bevels) in built.boards.iter_mut().zip(all) {
                board.then.extend(bevels.iter().map(|b| b.words(&w)));
                board.bevels = bevels;
            }
        }
        Some(((*id).clone(), built))
    });
    built.into_iter().flatten().collect()
}
