//! What can be done about a finding. What its check offers is worked out over the whole plan before it is shown. Against a stop
//! that nothing of it settles, changes of the pieces it concerns are tried, and those are offered after which it is gone
//! and nothing else stops; of a piece that could not be built at all, nothing but its own moves, which is told.

mod effect;

use std::collections::BTreeSet;
use std::sync::Arc;

use serde::Serialize;
use serde_json::{Value, json};
use utoipa::ToSchema;

use self::effect::Effect;
use crate::boards::ModuleView;
use crate::checks::{Finding, Offer, Severity};
use crate::curves::view::TemplateView;
use crate::furniture::built::Vec3;
use crate::furniture::{FieldValue, KINDS, elsewhere, read};
use crate::plan::{Plan, solve_while};
use crate::project::Project;
use crate::solids::boxes;
use crate::survey::model::Model;

/// No more are offered.
const OFFERS: usize = 4;
/// No more are tried.
const TRIES: usize = 160;
/// Pieces within this of what is concerned are changed too, mm; no more than so many.
const NEAR: f64 = 60.0;
/// See `NEAR`.
const OTHERS: usize = 3;
/// A length is tried smaller and larger by these shares of it.
const SHARES: [f64; 6] = [-0.1, 0.1, -0.25, 0.25, -0.45, 0.5];
/// A length of what does not go in at all is tried smaller only, by more and more.
const SMALLER: [f64; 6] = [-0.1, -0.25, -0.45, -0.65, -0.8, -0.9];
/// The least change that helps is looked for in so many halvings.
const HALVINGS: usize = 3;
/// Lengths are offered in steps of this, mm, or in round lengths of the tape if those are further apart.
const STEP: f64 = 5.0;
/// Smaller lengths are a matter of stock or of fit, mm.
const SMALL: f64 = 40.0;

/// A change to be tried.
struct Try {
    label: String,
    patch: Value,
}

/// Where the vehicle and the captured curves of a project come from; nothing if nobody waits any more.
pub type Know<'a> = &'a dyn Fn(&Project) -> Option<(Arc<Model>, Arc<Vec<TemplateView>>)>;

/// What can be done about the finding of that identifier, what helps most first: the changes that its check offers, each with
/// what it does to the whole plan (those after which all is as it was are left out); against a stop that none of them settles,
/// and against what has none, changes that are found by trying, as long as `more` says so. `None` if nobody waits any more.
pub fn remedies(
    project: &Project,
    know: Know,
    finding: &str,
    go_on: &(dyn Fn() -> bool + Sync),
    more: &dyn Fn() -> bool,
) -> Option<Remedies> {
    let (model, curves) = know(project)?;
    let plan = solve_while(project, (&model, &curves), go_on)?;
    let Some(against) = plan.findings.iter().find(|f| f.id == finding) else {
        return Some(Remedies::default());
    };
    let document = project.to_json().ok()?;
    let mut search = Search {
        project,
        document,
        known: (&model, &curves),
        plan: &plan,
        against,
        tried: 0,
        cut: false,
        go_on,
        more,
    };
    let (mut good, rest) = search.offered(know)?;
    let enough = match against.level {
        Severity::Stop => !good.is_empty(),
        _ => !against.offers.is_empty(),
    };
    // A reading that is wrong is put right where it is, and a sheet that is too small at the saw: not by the furniture.
    if !enough && !["survey", "templates", "cut"].contains(&against.stage.as_str()) {
        good.extend(search.found()?);
    }
    good.extend(rest);
    Some(Remedies {
        offers: good,
        all: !search.cut,
    })
}

/// What can be done about a finding.
#[derive(Debug, Clone, Default, PartialEq, Serialize, ToSchema)]
pub struct Remedies {
    /// The changes, what helps most first.
    pub offers: Vec<Offer>,
    /// All changes that come into question were tried; else the time was over before.
    pub all: bool,
}

/// Nothing of what the vehicle's shape and the captured curves follow from differs.
fn same_vehicle(a: &Project, b: &Project) -> bool {
    a.survey == b.survey && a.templates == b.templates && a.fits == b.fits && a.units == b.units
}

/// The pieces that a finding is about, then those beside them; all, where it is about none.
fn concerned<'p>(plan: &'p Plan, against: &Finding) -> Vec<&'p ModuleView> {
    let named: BTreeSet<&str> = against.subject.split(['.', '/']).collect();
    let shown = against.show.as_ref().map(|s| s.mark.as_str());
    let is = |m: &&ModuleView| named.contains(m.id.as_str()) || shown == Some(m.id.as_str());
    let mut out: Vec<&ModuleView> = plan.modules.iter().filter(is).collect();
    let mut places = boxes(&plan.boards);
    places.extend(boxes(&plan.bought));
    let near = |a: &(Vec3, Vec3), b: &(Vec3, Vec3)| {
        (0..3).all(|k| a.0[k] < b.1[k] + NEAR && b.0[k] < a.1[k] + NEAR)
    };
    let own: Vec<_> = out
        .iter()
        .filter_map(|m| places.get(m.id.as_str()))
        .collect();
    let others = plan.modules.iter().filter(|m| !is(m)).filter(|m| {
        let place = places.get(m.id.as_str());
        place.is_some_and(|p| own.iter().any(|o| near(o, p)))
    });
    let others: Vec<_> = others.take(OTHERS).collect();
    out.extend(others);
    match out.is_empty() {
        true => plan.modules.iter().collect(),
        false => out,
    }
}

/// Every other option of every choice.
fn choices(module: &ModuleView) -> Vec<Try> {
    let mut out = Vec::new();
    for field in &module.form {
        let FieldValue::Choice { now, options } = &field.value else {
            continue;
        };
        for (value, words) in options.iter().filter(|(value, _)| value != now) {
            out.push(Try {
                label: format!("The {}, {}: {words}", module.name, low(&field.label)),
                patch: set(&field.pointer, json!(value)),
            });
        }
    }
    out
}

fn set(pointer: &str, value: Value) -> Value {
    json!([{"op": "add", "path": pointer, "value": value}])
}

/// A label within a sentence.
fn low(label: &str) -> String {
    let mut chars = label.chars();
    let first = chars.next().map(char::to_lowercase);
    first.into_iter().flatten().chain(chars).collect()
}

struct Search<'a> {
    project: &'a Project,
    document: Value,
    known: (&'a Model, &'a [TemplateView]),
    plan: &'a Plan,
    against: &'a Finding,
    tried: usize,
    /// The time was over before all was tried.
    cut: bool,
    go_on: &'a (dyn Fn() -> bool + Sync),
    more: &'a dyn Fn() -> bool,
}

impl Search<'_> {
    /// What the check itself offers, as far as it changes anything: what settles the finding and leaves nothing worse behind,
    /// then the rest.
    fn offered(&self, know: Know) -> Option<(Vec<Offer>, Vec<Offer>)> {
        let (mut good, mut rest) = (Vec::new(), Vec::new());
        for offer in &self.against.offers {
            let Some(project) = self.changed(&offer.patch) else {
                continue;
            };
            let then = if same_vehicle(&project, self.project) {
                solve_while(&project, self.known, self.go_on)?
            } else {
                let (model, curves) = know(&project)?;
                solve_while(&project, (&model, &curves), self.go_on)?
            };
            let effect = Effect::of(self.plan, &then, self.against);
            let told = Offer {
                cost: effect.words(&offer.cost),
                ..offer.clone()
            };
            if effect.helps() {
                good.push(told);
            } else if !effect.nothing() {
                rest.push(told);
            }
        }
        Some((good, rest))
    }

    /// What is found by trying.
    fn found(&mut self) -> Option<Vec<Offer>> {
        let mut out: Vec<Offer> = Vec::new();
        for module in concerned(self.plan, self.against) {
            for one in self.places(module).into_iter().chain(choices(module)) {
                out.extend(self.helps(&one)?);
            }
            for field in &module.form {
                if out.len() >= OFFERS {
                    break;
                }
                if let FieldValue::Length { now: Some(now) } = &field.value
                    && now.value >= SMALL
                {
                    out.extend(self.length(module, (&field.pointer, &field.label), now.value)?);
                }
            }
            if out.len() >= OFFERS {
                break;
            }
        }
        out.truncate(OFFERS);
        Some(out)
    }

    /// The same piece where it is free.
    fn places(&self, module: &ModuleView) -> Vec<Try> {
        let found = elsewhere::places(self.project, self.known.0, KINDS, &module.id);
        let w = self.project.writer();
        let at = format!("/modules/{}", crate::input::escape(&module.id));
        found
            .into_iter()
            .map(|(words, there)| Try {
                label: format!(
                    "Move the {} {words}, {} from the threshold",
                    module.name,
                    w.say(there.place.along)
                ),
                patch: json!([
                    {"op": "add", "path": format!("{at}/place"), "value": there.place},
                    {"op": "add", "path": format!("{at}/choices"), "value": there.choices},
                ]),
            })
            .collect()
    }

    /// The least change of a length that helps.
    fn length(
        &mut self,
        module: &ModuleView,
        (pointer, label): (&str, &str),
        now: f64,
    ) -> Option<Option<Offer>> {
        let w = self.project.writer();
        let to = |share: f64| {
            let step = STEP.max(w.rounding());
            let value = (now * (1.0 + share) / step).round() * step;
            Try {
                label: format!("The {}, {}: {}", module.name, low(label), w.say(value)),
                patch: set(pointer, json!(value)),
            }
        };
        let shares = match self.against.check.as_str() {
            "unbuilt" => SMALLER,
            _ => SHARES,
        };
        for (i, share) in shares.iter().copied().enumerate() {
            let Some(mut best) = self.helps(&to(share))? else {
                continue;
            };
            // Between the last of these that did not help and what does.
            let before = shares[..i].iter().rfind(|s| **s * share > 0.0);
            let (mut not, mut does) = (before.copied().unwrap_or(0.0), share);
            for _ in 0..HALVINGS {
                let middle = f64::midpoint(not, does);
                match self.helps(&to(middle))? {
                    Some(offer) => (best, does) = (offer, middle),
                    None => not = middle,
                }
            }
            return Some(Some(best));
        }
        Some(None)
    }

    /// The offer, if the finding is gone after it, nothing else stops, and no piece is lost.
    fn helps(&mut self, one: &Try) -> Option<Option<Offer>> {
        self.tried += 1;
        if self.tried > TRIES || !(self.more)() {
            self.cut = true;
            return Some(None);
        }
        let Some(project) = self.changed(&one.patch) else {
            return Some(None);
        };
        let then = solve_while(&project, self.known, self.go_on)?;
        let mut effect = Effect::of(self.plan, &then, self.against);
        let (own, others): (Vec<&Finding>, Vec<&Finding>) =
            effect.stops.iter().partition(|f| self.shows_first(f));
        // What comes to light with it is told, and does not speak against it.
        effect.stops = others;
        if !effect.helps() {
            return Some(None);
        }
        effect.stops = own.into_iter().take(1).collect();
        Some(Some(Offer {
            label: one.label.clone(),
            cost: effect.words(""),
            patch: one.patch.clone(),
        }))
    }

    /// How a piece moves nobody can say while nothing of it can be built: that stop comes to light with it, and is told.
    fn shows_first(&self, f: &Finding) -> bool {
        let moves = ["moves", "evening"].contains(&f.check.as_str());
        let of = f.subject.split(['.', '/']).next();
        self.against.check == "unbuilt" && moves && of == Some(&self.against.subject)
    }

    /// The project with the change, if it can be.
    fn changed(&self, patch: &Value) -> Option<Project> {
        let patch: json_patch::Patch = serde_json::from_value(patch.clone()).ok()?;
        let mut document = self.document.clone();
        json_patch::patch(&mut document, &patch).ok()?;
        read(document).ok()
    }
}
