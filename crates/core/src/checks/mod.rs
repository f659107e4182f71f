//! Judgements: what will go wrong, worst first. One file each; every finding carries its sentence,
//! its numbers, the rule and the rule's source, and where possible changes the tool can make.

mod accepted;
mod air;
mod appliance;
mod bay;
mod bears;
mod bed;
mod before;
mod behind;
mod bend;
mod bridge;
mod caution;
mod change;
mod clash;
mod clearance;
mod cover;
mod cushions;
mod datum;
mod door;
mod entry;
mod evening;
mod exits;
mod fits;
mod gear;
mod hatch;
mod headroom;
mod keep;
mod knee;
pub mod latch;
mod leaf;
mod lift;
mod master;
mod moves;
mod near;
mod pierce;
mod pull;
mod racking;
mod rattle;
mod reach;
mod readings;
mod restraint;
mod rests;
mod sag;
mod settee;
mod sheet;
mod sleep;
mod stand;
pub mod stowed;
mod straight;
mod templates;
mod tight;
mod tips;
mod tool;
mod transferred;
mod unbuilt;
mod warp;
mod weight;

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};
use serde_json::{Value, json};
use utoipa::ToSchema;

use crate::assembly::Assembly;
use crate::boards::BoardView;
use crate::curves::view::TemplateView;
use crate::cutting::sheets::SheetGroup;
use crate::evening::Evening;
use crate::furniture::built::Built;
use crate::furniture::platform::{Dial, Platform, Worked};
use crate::furniture::riding::Bodies;
use crate::heights::ladder::Stack;
use crate::holds::Holds;
use crate::joints::JointView;
use crate::motion::Free;
use crate::parts::Part;
use crate::project::Project;
use crate::side_by_side::each;
use crate::survey::model::Model;
use crate::testfit::FitBoard;
use crate::transfer::Transferred;
use crate::units::figure::{Step, Writer};

type Check = fn(&Ctx) -> Vec<Finding>;

/// All checks by name: a new one is one file and one line here.
const CHECKS: [(&str, Check); 54] = [
    ("readings", readings::check),
    ("datum", datum::check),
    ("bay", bay::check),
    ("gear", gear::check),
    ("headroom", headroom::check),
    ("knee", knee::check),
    ("reach", reach::check),
    ("clearance", clearance::check),
    ("cover", cover::check),
    ("sag", sag::check),
    ("bears", bears::check),
    ("bend", bend::check),
    ("bridge", bridge::check),
    ("stand", stand::check),
    ("rests", rests::check),
    ("sleep", sleep::check),
    ("bed", bed::check),
    ("settee", settee::check),
    ("cushions", cushions::check),
    ("door", door::check),
    ("entry", entry::check),
    ("sheet", sheet::check),
    ("straight", straight::check),
    ("tips", tips::check),
    ("accepted", accepted::check),
    ("unbuilt", unbuilt::check),
    ("air", air::check),
    ("weight", weight::check),
    ("clash", clash::check),
    ("keep", keep::check),
    ("appliance", appliance::check),
    ("behind", behind::check),
    ("hatch", hatch::check),
    ("leaf", leaf::check),
    ("moves", moves::check),
    ("near", near::check),
    ("pierce", pierce::check),
    ("pull", pull::check),
    ("latch", latch::check),
    ("lift", lift::check),
    ("warp", warp::check),
    ("tight", tight::check),
    ("rattle", rattle::check),
    ("change", change::check),
    ("evening", evening::check),
    ("exits", exits::check),
    ("racking", racking::check),
    ("templates", templates::check),
    ("fits", fits::check),
    ("master", master::check),
    ("transferred", transferred::check),
    ("tool", tool::check),
    ("restraint", restraint::check),
    ("caution", caution::check),
];

/// How bad it is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum Severity {
    /// Do not cut.
    Stop,
    /// Deserves thought.
    Look,
    /// Checked and good.
    Fine,
}

/// One judgement.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Finding {
    /// Stable identifier, once in a plan.
    pub id: String,
    /// The check that judged.
    pub check: String,
    /// Identifier of what is judged: a module, a part, a thing, a reading's key; empty for the whole project.
    pub subject: String,
    /// The state of the vehicle in which it holds, if not in all.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub state: Option<String>,
    /// How bad.
    pub level: Severity,
    /// Stage at which it can be changed.
    pub stage: String,
    /// The judgement in a sentence.
    pub sentence: String,
    /// The numbers behind it.
    pub numbers: Vec<Step>,
    /// The rule.
    pub rule: String,
    /// Where the rule comes from.
    pub source: String,
    /// What to show.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub show: Option<Show>,
    /// Changes the tool can make.
    pub offers: Vec<Offer>,
}

/// What "show me" shows.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Show {
    /// Stage to go to.
    pub stage: String,
    /// Identifier of what to mark there: a reading's key, a part, a thing, a rung.
    pub mark: String,
}

/// A change and what it costs.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Offer {
    /// What is changed.
    pub label: String,
    /// What it costs or brings.
    pub cost: String,
    /// The change, as JSON Patch (RFC 6902).
    #[schema(value_type = Vec<Object>)]
    pub patch: Value,
}

/// What the checks look at.
pub struct Ctx<'a> {
    /// The document.
    pub project: &'a Project,
    /// The vehicle.
    pub model: &'a Model,
    /// How each piece is put together.
    pub assembly: &'a [Assembly],
    /// Captured curves.
    pub templates: &'a [TemplateView],
    /// Boards that can be held in place, and what was seen.
    pub fits: &'a [FitBoard],
    /// The sleeping platforms.
    pub platforms: &'a [PlatformCtx<'a>],
    /// All parts.
    pub parts: &'a [Part],
    /// All sheets.
    pub sheets: &'a [SheetGroup],
    /// All boards where they lie.
    pub boards: &'a [BoardView],
    /// What stops each body on its way, by `module/body`.
    pub stops: &'a BTreeMap<String, Free>,
    /// The states and the moves between them.
    pub evening: &'a Evening,
    /// Holes for what is fixed in the vehicle.
    pub transferred: &'a [Transferred],
    /// What holds boards together.
    pub joints: &'a [JointView],
    /// What holds each piece.
    pub holds: &'a Holds,
    /// All modules worked out.
    pub built: &'a BTreeMap<String, Built>,
    /// Everything that moves, and what rides on what.
    pub bodies: &'a Bodies<'a>,
    /// Writes lengths.
    pub w: Writer,
}

/// A sleeping platform as the checks see it.
pub struct PlatformCtx<'a> {
    /// Module identifier.
    pub id: &'a str,
    /// What is wanted of it.
    pub platform: Platform,
    /// Heights, once the roof is measured.
    pub stack: Option<Stack>,
    /// The result, once the bay is measured and a height chosen.
    pub worked: Option<&'a Worked>,
}

impl PlatformCtx<'_> {
    /// The change of one of its choices, if it has that.
    pub fn set(&self, dial: Dial, value: Value) -> Option<Value> {
        self.turn(&[(dial, value)])
    }

    /// The change of several of its choices at once, if it has them all.
    pub fn turn(&self, dials: &[(Dial, Value)]) -> Option<Value> {
        let one = |(dial, value): &(Dial, Value)| {
            let path = self.platform.dials.0.get(dial)?;
            Some(json!({ "op": "add", "path": path, "value": value }))
        };
        dials.iter().map(one).collect()
    }

    /// Height, heights and result, if all are there.
    pub fn whole(&self) -> Option<(f64, &Stack, &Worked)> {
        Some((self.platform.underside?, self.stack.as_ref()?, self.worked?))
    }
}

/// A one-field change.
pub fn set(pointer: String, value: Value) -> Value {
    json!([{ "op": "add", "path": pointer, "value": value }])
}

impl Finding {
    /// A finding without numbers or offers yet.
    pub fn new(id: impl Into<String>, level: Severity, stage: &str, sentence: String) -> Self {
        let id: String = id.into();
        let subject = id.split_once('.').map_or("", |(_, subject)| subject);
        Finding {
            check: String::new(),
            subject: subject.into(),
            state: None,
            id,
            level,
            stage: stage.into(),
            sentence,
            numbers: vec![],
            rule: String::new(),
            source: String::new(),
            show: None,
            offers: vec![],
        }
    }

    /// With the rule and its source.
    #[must_use]
    pub fn rule(mut self, rule: impl Into<String>, source: &str) -> Self {
        self.rule = rule.into();
        self.source = source.into();
        self
    }

    /// With its numbers.
    #[must_use]
    pub fn numbers(mut self, numbers: Vec<Step>) -> Self {
        self.numbers = numbers;
        self
    }

    /// With what to show.
    #[must_use]
    pub fn show(mut self, stage: &str, mark: impl Into<String>) -> Self {
        self.show = Some(Show {
            stage: stage.into(),
            mark: mark.into(),
        });
        self
    }

    /// With an offer, if there is a change that makes it.
    #[must_use]
    pub fn offer(mut self, label: String, cost: String, patch: impl Into<Option<Value>>) -> Self {
        let patch = patch.into();
        self.offers
            .extend(patch.map(|patch| Offer { label, cost, patch }));
        self
    }
}

/// All findings, worst first, otherwise in the order of the checks.
pub fn findings(ctx: &Ctx) -> Vec<Finding> {
    let named = |(name, check): &(&str, Check)| {
        let mut found = check(ctx);
        for f in &mut found {
            f.check = (*name).to_string();
        }
        found
    };
    let mut all: Vec<Finding> = each(&CHECKS, named).into_iter().flatten().collect();
    all.sort_by_key(|f| f.level);
    // Who sits up on one bed of two, or what stands under one, does: the mildest judgement on a subject
    // holds. Each came once for every deck.
    let mut mildest: BTreeMap<String, usize> = BTreeMap::new();
    for (i, f) in all.iter().enumerate() {
        mildest.insert(f.id.clone(), i);
    }
    let mut keep = mildest.into_values().collect::<Vec<_>>();
    keep.sort_unstable();
    let mut all: Vec<Option<Finding>> = all.into_iter().map(Some).collect();
    keep.into_iter().filter_map(|i| all[i].take()).collect()
}

/// What changes between two heights, in words: `headroom +25, bin C no longer fits`.
pub fn cost_of_height(stack: &Stack, from: f64, to: f64, w: &Writer) -> String {
    let (a, b) = (stack.at(from), stack.at(to));
    let sign = if b.headroom >= a.headroom { "+" } else { "-" };
    let mut parts = vec![format!(
        "headroom {sign}{}",
        w.say((b.headroom - a.headroom).abs())
    )];
    let lost = |before: &[String], after: &[String]| -> Vec<String> {
        let gone = before.iter().filter(|n| !after.contains(n));
        gone.cloned().collect()
    };
    for name in lost(&a.fits, &b.fits) {
        parts.push(format!("{name} no longer fits"));
    }
    for name in lost(&b.fits, &a.fits) {
        parts.push(format!("{name} fits"));
    }
    for name in lost(&a.sits, &b.sits) {
        parts.push(format!("{name} no longer sits up"));
    }
    for name in lost(&b.sits, &a.sits) {
        parts.push(format!("{name} sits up"));
    }
    parts.join(", ")
}

/// Doubt of the roof height, mm: three standard deviations.
fn datum_doubt(ctx: &Ctx) -> f64 {
    let sd = ctx.model.lowest_roof().map_or(ctx.model.sd, |k| k.sd);
    crate::template::fill::SIGMAS * sd
}
