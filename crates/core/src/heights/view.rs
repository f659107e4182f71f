//! The ladder of a project: its stack, the rungs in words, and the answer at any height.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::ladder::{Item, Rung, SITTING_RATIO, Sitter, Stack, least_underside};
use crate::input::escape;
use crate::project::Project;
use crate::project::deck::Deck;
use crate::project::gear::Gear;
use crate::project::survey::{Quantity, Side};
use crate::survey::model::Model;
use crate::units::figure::{Figure, Step, Writer};
use crate::units::value::{Source, Surface, Value};

/// The ladder as it is drawn.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Ladder {
    /// Lowest measured floor to roof.
    pub floor_to_roof: Figure,
    /// The roof was measured to something that gives.
    pub soft: bool,
    /// Deck thickness.
    pub deck: Figure,
    /// Mattress thickness.
    pub mattress: Figure,
    /// Mattress sat on.
    pub sat_on: Figure,
    /// Heights at which an answer changes, lowest first.
    pub rungs: Vec<RungView>,
    /// The chosen height, if there is one.
    pub chosen: Option<RungView>,
    /// Heights under comparison.
    pub candidates: Vec<CandidateView>,
    /// What stands under the deck.
    pub items: Vec<ItemView>,
    /// What belongs to the vehicle and stands in the way: wells, folded seats.
    pub fixed: Vec<FixedView>,
    /// Who sits on it.
    pub people: Vec<PersonView>,
}

/// A rung in words.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct RungView {
    /// Deck underside over the floor.
    pub underside: Figure,
    /// What changes here.
    pub label: String,
    /// `gear`, `person` or `both`: what the label speaks of.
    pub kind: String,
    /// Mattress top.
    pub sleep_surface: Figure,
    /// Seat.
    pub seat: Figure,
    /// Seat to roof.
    pub headroom: Figure,
    /// What stands under it.
    pub fits: Vec<String>,
    /// Who sits up.
    pub sits: Vec<String>,
    /// It is the chosen height.
    pub chosen: bool,
}

/// A height under comparison.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct CandidateView {
    /// Its identifier.
    pub id: String,
    /// Why it is one.
    pub note: String,
    /// The answers at it.
    pub rung: RungView,
    /// What does not stand under it.
    pub misses: Vec<String>,
    /// Who does not sit up.
    pub stoops: Vec<String>,
}

/// A thing under the deck.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct ItemView {
    /// Its identifier.
    pub id: String,
    /// Its name.
    pub name: String,
    /// Its height.
    pub h: Figure,
    /// Free height it wants above.
    pub clearance: Figure,
    /// Height it needs in all.
    pub needs: Figure,
    /// It stands under the chosen height.
    pub fits: Option<bool>,
    /// How the need came about.
    pub why: Vec<Step>,
}

/// A part of the vehicle that stands in the way.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct FixedView {
    /// Its identifier in the survey.
    pub id: String,
    /// Its name.
    pub name: String,
    /// At which side it stands.
    pub side: Side,
    /// Its underside over the floor, mm.
    pub from: f64,
    /// Its top over the floor.
    pub top: Figure,
}

/// A person on the deck.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct PersonView {
    /// Its identifier.
    pub id: String,
    /// The name.
    pub name: String,
    /// Seat to crown.
    pub sitting: Figure,
    /// Air over the head at the chosen height; negative if the head is through the roof.
    pub spare: Option<Figure>,
    /// How it came about.
    pub why: Vec<Step>,
}

/// The height a thing needs, lid and slide included, and the clearance above it.
pub fn item(g: &Gear) -> Option<Item> {
    Some(Item {
        name: g.name.clone(),
        h: g.h? + g.slide,
        clearance: g.lid_clearance + g.air,
    })
}

/// The stack of heights over the floor for a board so thick, once the roof has been measured.
pub fn stack(project: &Project, model: &Model, thickness: f64) -> Option<Stack> {
    let roof = model.lowest_roof()?;
    let height = model.roof()?;
    Some(Stack {
        floor_to_roof: height,
        roof_floor: height - roof.mm,
        roof_at: match roof.quantity {
            Quantity::Roof { x, .. } => x,
            _ => 0.0,
        },
        deck: thickness,
        mattress: project.mattress.thickness.unwrap_or(0.0),
        sag: project.mattress.sag.unwrap_or(0.0),
        finish: project.headroom.finish,
        head_clearance: project.headroom.clearance,
        tops: model
            .things()
            .map(|o| (o.name.clone(), o.up_to().ceil()))
            .collect(),
        items: project
            .gear
            .values()
            .filter(|g| g.under_deck)
            .filter_map(item)
            .collect(),
        // Where nobody needs to sit up, heads make no rungs and no findings.
        sitters: project
            .people
            .iter()
            .filter(|_| project.headroom.sit)
            .filter_map(|(id, p)| {
                Some(Sitter {
                    id: id.clone(),
                    name: p.name.clone(),
                    sitting: p
                        .sitting_height
                        .or_else(|| p.stature.map(|s| SITTING_RATIO * s))?,
                })
            })
            .collect(),
    })
}

/// The ladder for the project's deck.
pub fn ladder(project: &Project, model: &Model, (id, deck): (&str, &Deck)) -> Option<Ladder> {
    let s = stack(project, model, deck.thickness)?;
    let w = project.writer();
    let view = |r: Rung, label: (String, &str)| RungView {
        chosen: deck
            .underside
            .is_some_and(|u| (u - r.underside).abs() < 0.5),
        underside: w.figure(r.underside),
        label: label.0,
        kind: label.1.into(),
        sleep_surface: w.figure(r.sleep_surface),
        seat: w.figure(r.seat),
        headroom: w.figure(r.headroom),
        fits: r.fits,
        sits: r.sits,
    };
    let rungs = s
        .rungs()
        .into_iter()
        .map(|r| {
            let label = label(&s, r.underside);
            view(r, label)
        })
        .collect();
    let candidates = project.candidates.iter().map(|(id, c)| {
        let rung = s.at(c.underside);
        let missing = |all: Vec<&String>, some: &[String]| {
            let rest = all.into_iter().filter(|n| !some.contains(n));
            rest.cloned().collect::<Vec<_>>()
        };
        CandidateView {
            id: id.clone(),
            note: c.note.clone(),
            misses: missing(s.items.iter().map(|i| &i.name).collect(), &rung.fits),
            stoops: missing(s.sitters.iter().map(|i| &i.name).collect(), &rung.sits),
            rung: view(rung, (c.note.clone(), "both")),
        }
    });
    let mut candidates: Vec<_> = candidates.collect();
    candidates.sort_by(|a, b| a.rung.underside.value.total_cmp(&b.rung.underside.value));
    Some(Ladder {
        floor_to_roof: w.figure(s.floor_to_roof),
        soft: model.lowest_roof().is_some_and(|k| k.soft),
        deck: w.figure(s.deck),
        mattress: w.figure(s.mattress),
        sat_on: w.figure(s.mattress - s.sag),
        rungs,
        chosen: deck
            .underside
            .map(|u| view(s.at(u), ("chosen".into(), "both"))),
        candidates,
        items: items(project, deck, &w),
        fixed: model
            .things()
            .map(|o| FixedView {
                id: o.id.clone(),
                name: o.name.clone(),
                side: o.side,
                from: o.z.0,
                top: w.figure(o.z.1),
            })
            .collect(),
        people: people(project, &s, (id, deck), &w),
    })
}

/// What changes at `underside`: who fits from here, who sits no higher.
fn label(s: &Stack, underside: f64) -> (String, &'static str) {
    let near = |u: f64| (u - underside).abs() < 1e-5;
    let gear: Vec<_> = s
        .items
        .iter()
        .filter(|i| near(least_underside(i)))
        .map(|i| format!("{} fits", i.name))
        .collect();
    let clears = s.tops.iter().filter(|t| near(t.1));
    let gear = [gear, clears.map(|t| format!("over the {}", t.0)).collect()].concat();
    let people: Vec<_> = s
        .sitters
        .iter()
        .filter(|p| near(s.greatest_underside(p)))
        .map(|p| format!("{} just sits up", p.name))
        .collect();
    let kind = match (gear.is_empty(), people.is_empty()) {
        (false, true) => "gear",
        (true, false) => "person",
        _ => "both",
    };
    ([gear, people].concat().join("; "), kind)
}

fn items(project: &Project, deck: &Deck, w: &Writer) -> Vec<ItemView> {
    let under = project.gear.iter().filter(|(_, g)| g.under_deck);
    under
        .filter_map(|(id, g)| {
            let i = item(g)?;
            let own = |field: &str, label: &str, mm| {
                Value::choice(format!("/gear/{}/{field}", escape(id)), label, mm)
            };
            let mut needs = own("h", "height with lid and handle", g.h?);
            for (field, label, mm) in [
                ("slide", "slide below it", g.slide),
                ("lid_clearance", "free above the lid", g.lid_clearance),
                ("air", "air above it", g.air),
            ] {
                if mm > 0.0 {
                    needs = needs + own(field, label, mm);
                }
            }
            Some(ItemView {
                id: id.clone(),
                name: g.name.clone(),
                h: w.figure(i.h),
                clearance: w.figure(i.clearance),
                needs: w.figure(needs.mm),
                fits: deck.underside.map(|u| needs.mm <= u + 1e-6),
                why: needs.why("height it needs", w).steps,
            })
        })
        .collect()
}

fn people(
    project: &Project,
    s: &Stack,
    (deck_id, deck): (&str, &Deck),
    w: &Writer,
) -> Vec<PersonView> {
    project
        .people
        .iter()
        .filter_map(|(id, p)| {
            let own = |field: &str, label: &str, mm| {
                Value::choice(format!("/people/{}/{field}", escape(id)), label, mm)
            };
            let sitting = match (p.sitting_height, p.stature) {
                (Some(mm), _) => own("sitting_height", "sitting height, measured", mm),
                (None, Some(mm)) => (own("stature", "stature", mm) * SITTING_RATIO)
                    .named("sitting height (ratio of published means, from memory)"),
                _ => return None,
            };
            let spare = deck.underside.map(|u| {
                let choice = |pointer: &str, label: &str, mm| Value::choice(pointer, label, mm);
                let deck_choice = |field: &str, label: &str, mm| {
                    Value::choice(
                        format!("/modules/{}/choices/{field}", escape(deck_id)),
                        label,
                        mm,
                    )
                };
                let floor_to_roof = Source::Place {
                    surface: Surface::Roof,
                    at: [s.roof_at, 0.0],
                };
                let less = [
                    choice("/headroom/finish", "lining to come", s.finish),
                    choice(
                        "/headroom/clearance",
                        "air wanted over the head",
                        s.head_clearance,
                    ),
                    deck_choice("underside", "deck underside", u),
                    deck_choice("thickness", "deck", s.deck),
                    (choice("/mattress/thickness", "mattress", s.mattress)
                        - choice("/mattress/sag", "how far it goes down", s.sag))
                    .named("mattress sat on"),
                    sitting.clone(),
                ];
                let read = s.floor_to_roof - s.roof_floor;
                let roof = Value::leaf(floor_to_roof, "floor to roof", read);
                // Heights count from the load floor's datum; the floor there may lie lower or higher.
                let floor = Source::Place {
                    surface: Surface::Floor,
                    at: [s.roof_at, 0.0],
                };
                let roof = match s.roof_floor {
                    0.0 => roof,
                    z => roof + Value::leaf(floor, "height of the floor there", z),
                };
                let less = less.into_iter().filter(|v| v.mm != 0.0);
                less.fold(roof, |sum, v| sum - v)
            });
            let why = spare
                .as_ref()
                .map_or(vec![], |v| v.why("air over the head", w).steps);
            let spare = spare.map(|v| w.figure(v.mm));
            Some(PersonView {
                id: id.clone(),
                name: p.name.clone(),
                sitting: w.figure(sitting.mm),
                spare,
                why,
            })
        })
        .collect()
}
