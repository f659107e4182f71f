//! `heights`: the ladder without a project.

use serde::Deserialize;
use serde_json::{Value, json};

use crate::heights::ladder::{Item, SITTING_RATIO, Sitter, Stack};
use crate::input::{MAX_LENGTH, count, from_value, positive, within};
use crate::problem::Problem;
use crate::units::print::millimetres;

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct In {
    floor_to_roof: f64,
    deck: f64,
    mattress: Mattress,
    #[serde(default)]
    finish: f64,
    #[serde(default)]
    head_clearance: f64,
    #[serde(default)]
    gear: Vec<Gear>,
    #[serde(default)]
    people: Vec<Person>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Mattress {
    thickness: f64,
    #[serde(default)]
    sag: f64,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Gear {
    name: String,
    h: f64,
    #[serde(default)]
    lid_clearance: f64,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Person {
    name: String,
    stature: f64,
    #[serde(default)]
    sitting_height: Option<f64>,
}

pub fn run(input: Value) -> Result<Value, Problem> {
    let input: In = from_value(input)?;
    let stack = input.stack()?;
    let rungs: Vec<_> = stack
        .rungs()
        .into_iter()
        .map(|r| {
            json!({
                "deck_underside": r.underside, "deck_top": r.deck_top,
                "sleep_surface": r.sleep_surface, "seat": r.seat, "headroom": r.headroom,
                "fits": r.fits, "sits": r.sits,
            })
        })
        .collect();
    Ok(json!({ "rungs": rungs, "trace": trace(&stack) }))
}

fn trace(s: &Stack) -> Vec<String> {
    let mm = millimetres;
    let mut lines = Vec::new();
    for i in &s.items {
        lines.push(format!(
            "{}: {} + {} above = underside at least {}",
            i.name,
            mm(i.h),
            mm(i.clearance),
            mm(i.h + i.clearance)
        ));
    }
    for p in &s.sitters {
        lines.push(format!(
            "{}: roof {} - lining {} - head {} - sitting {} + sag {} - mattress {} - deck {} = underside at most {}",
            p.name,
            mm(s.floor_to_roof),
            mm(s.finish),
            mm(s.head_clearance),
            mm(p.sitting),
            mm(s.sag),
            mm(s.mattress),
            mm(s.deck),
            mm(s.greatest_underside(p))
        ));
    }
    lines
}

impl In {
    fn stack(self) -> Result<Stack, Problem> {
        positive(self.floor_to_roof, "/floor_to_roof", MAX_LENGTH)?;
        within(self.deck, "/deck", 0.0, MAX_LENGTH)?;
        within(
            self.mattress.thickness,
            "/mattress/thickness",
            0.0,
            MAX_LENGTH,
        )?;
        within(
            self.mattress.sag,
            "/mattress/sag",
            0.0,
            self.mattress.thickness,
        )?;
        within(self.finish, "/finish", 0.0, MAX_LENGTH)?;
        within(self.head_clearance, "/head_clearance", 0.0, MAX_LENGTH)?;
        count(self.gear.len(), "/gear", 0, 1000)?;
        count(self.people.len(), "/people", 0, 100)?;
        let mut items = Vec::new();
        for (i, g) in self.gear.into_iter().enumerate() {
            items.push(Item {
                h: positive(g.h, &format!("/gear/{i}/h"), MAX_LENGTH)?,
                clearance: within(
                    g.lid_clearance,
                    &format!("/gear/{i}/lid_clearance"),
                    0.0,
                    MAX_LENGTH,
                )?,
                name: g.name,
            });
        }
        let mut sitters = Vec::new();
        for (i, p) in self.people.into_iter().enumerate() {
            positive(p.stature, &format!("/people/{i}/stature"), 3000.0)?;
            let sitting = match p.sitting_height {
                Some(own) => positive(own, &format!("/people/{i}/sitting_height"), 2000.0)?,
                None => SITTING_RATIO * p.stature,
            };
            sitters.push(Sitter {
                id: String::new(),
                name: p.name,
                sitting,
            });
        }
        Ok(Stack {
            roof_at: 0.0,
            tops: vec![],
            floor_to_roof: self.floor_to_roof,
            roof_floor: 0.0,
            deck: self.deck,
            mattress: self.mattress.thickness,
            sag: self.mattress.sag,
            finish: self.finish,
            head_clearance: self.head_clearance,
            items,
            sitters,
        })
    }
}
