//! The starting points, one function each: a new one is a function and a line.

use super::{Ground, Made, Piece, Recipe};
use crate::heights::ladder::least_underside;
use crate::project::survey::ThingKind;

/// All of them.
pub const RECIPES: [Recipe; 6] = [
    Recipe {
        id: "sit_up",
        name: "A bed to sit up in",
        why: "Everybody sits up in bed: to read, to drink something, to look out.",
        pieces: sit_up,
    },
    Recipe {
        id: "all_below",
        name: "Everything under the bed",
        why: "The whole stow list stands below, the bed stays made.",
        pieces: all_below,
    },
    Recipe {
        id: "drawers",
        name: "Bed over drawers",
        why: "What is used every day comes out to the rear without lifting anything.",
        pieces: drawers,
    },
    Recipe {
        id: "seats",
        name: "A bed that gives the seats back",
        why: "By day the seats carry people, by night the bed lies over them.",
        pieces: seats,
    },
    Recipe {
        id: "kitchen",
        name: "Kitchen at the door, bed in front of it",
        why: "You cook standing under the open rear door, and nothing of it is in the bed.",
        pieces: kitchen,
    },
    Recipe {
        id: "day",
        name: "A room for the day",
        why: "A bench with a bay for the heaviest thing, a table and shelves: to sit and to work.",
        pieces: day,
    },
];

/// A bed lower than this is a mattress on the floor, mm (a choice).
const LOWEST: f64 = 100.0;
/// Less than this between mattress and roof and nobody turns over, mm (a choice).
const TURN: f64 = 450.0;
/// Drawers want at least this much under a deck, mm (a choice).
const DRAWERS: f64 = 200.0;
/// A kitchen takes so much of the bay, mm (a choice).
const KITCHEN: f64 = 600.0;
/// A sleeper wants stature and this, mm (common practice, no source).
const LONGER: f64 = 120.0;
/// The shortest bed worth the name where nobody's stature is known, mm (a choice).
const SHORT: f64 = 1700.0;

fn set(field: &str, value: impl Into<String>) -> (String, String) {
    (field.into(), value.into())
}

fn deck(underside: f64, more: &[(&str, &str)]) -> Piece {
    let mut sets = vec![set("underside", mm(underside))];
    sets.extend(more.iter().map(|(f, v)| set(f, *v)));
    ("deck", sets)
}

fn mm(v: f64) -> String {
    format!("{} mm", v.round())
}

impl Ground<'_> {
    /// The greatest height at which everybody sits up, to 5 mm down.
    fn sit_up(&self) -> Option<f64> {
        let each = self.stack.sitters.iter();
        let least = each.map(|s| self.stack.greatest_underside(s));
        least.reduce(f64::min).map(|u| (u / 5.0).floor() * 5.0)
    }

    /// The least height at which everything stands below, and over which nobody turns no more.
    fn below(&self) -> Option<f64> {
        let each = self.stack.items.iter().map(least_underside);
        each.reduce(f64::max).map(f64::ceil)
    }

    /// The highest bed in which one can turn over.
    fn highest(&self) -> f64 {
        let s = &self.stack;
        s.floor_to_roof - s.finish - TURN - s.mattress - s.deck
    }

    /// What is given up at a height: who no longer sits up, what no longer stands below.
    fn lost(&self, underside: f64) -> Vec<String> {
        let at = self.stack.at(underside);
        let mut out = Vec::new();
        let names = |all: Vec<&str>| all.join(", ");
        let sits: Vec<&str> = self.stack.sitters.iter().map(|s| s.name.as_str()).collect();
        let lie: Vec<&str> = sits
            .into_iter()
            .filter(|n| !at.sits.iter().any(|s| s == n))
            .collect();
        if !lie.is_empty() {
            out.push(format!("{} cannot sit up", names(lie)));
        }
        let things = self.stack.items.iter().map(|i| i.name.as_str());
        let tall: Vec<&str> = things.filter(|n| !at.fits.iter().any(|f| f == n)).collect();
        if !tall.is_empty() {
            out.push(format!("no room below for {}", names(tall)));
        }
        out
    }

    /// How long a bed the people want, mm.
    fn bed(&self) -> f64 {
        let tallest = self.project.people.values().filter_map(|p| p.stature);
        tallest.reduce(f64::max).map_or(SHORT, |s| s + LONGER)
    }
}

fn sit_up(g: &Ground) -> Made {
    let Some(u) = g.sit_up() else {
        let words = match g.project.headroom.sit {
            true => "Nobody's height is known: add who sleeps here to the stow list.",
            false => "You said that nobody needs to sit up.",
        };
        return Err(words.into());
    };
    if u < LOWEST {
        let words = g.w.say(u.max(0.0));
        return Err(format!(
            "Under a bed in which everybody sits up {words} would be left."
        ));
    }
    // No higher than what stands below wants.
    let u = u.min(g.below().unwrap_or(u)).max(LOWEST);
    Ok((vec![deck(u, &[])], g.lost(u)))
}

fn all_below(g: &Ground) -> Made {
    let Some(u) = g.below() else {
        return Err("Nothing that stands below is known: add things to the stow list.".into());
    };
    if u > g.highest() {
        return Err(format!(
            "With everything below, less than {} would be left between mattress and roof: nobody turns over there.",
            g.w.say(TURN)
        ));
    }
    Ok((vec![deck(u, &[])], g.lost(u)))
}

fn drawers(g: &Ground) -> Made {
    let wish = g.sit_up().unwrap_or_else(|| g.highest()).min(g.highest());
    let u = wish.max(DRAWERS);
    if u > g.highest() {
        return Err(format!(
            "Drawers want {} under the bed: then less than {} would be left above it.",
            g.w.say(DRAWERS),
            g.w.say(TURN)
        ));
    }
    let pieces = vec![
        deck(u, &[]),
        ("drawer", vec![set("opens", "rear"), set("columns", "2")]),
    ];
    let mut lost = g.lost(u);
    lost.push("long things lie beside the drawers or not at all".into());
    Ok((pieces, lost))
}

fn seats(g: &Ground) -> Made {
    let things = &g.project.survey.things;
    let seat = |id: &String| {
        things
            .get(id)
            .is_some_and(|t| t.kind == ThingKind::FoldedSeat)
    };
    let tops = g.model.things().filter(|o| seat(&o.id)).map(|o| o.up_to());
    // It has to lie over the seats.
    let Some(over) = tops.reduce(f64::max).map(|t| t.ceil().max(LOWEST)) else {
        return Err("No folded seat was measured here: there is none to give back.".into());
    };
    let u = g
        .below()
        .unwrap_or(over)
        .max(over)
        .min(g.highest().max(over));
    if u > g.highest() {
        return Err("Over the folded seats nobody turns over in bed.".into());
    }
    let mut lost = g.lost(u);
    lost.push("the bed is moved every morning".into());
    Ok((vec![deck(u, &[("change", "slide")])], lost))
}

fn kitchen(g: &Ground) -> Made {
    let left = g.length - KITCHEN;
    if left < g.bed() {
        return Err(format!(
            "A kitchen of {} at the door leaves a bed of {}; {} is wanted.",
            g.w.say(KITCHEN),
            g.w.say(left.max(0.0)),
            g.w.say(g.bed())
        ));
    }
    let u = g
        .sit_up()
        .unwrap_or_else(|| g.highest())
        .min(g.highest())
        .max(LOWEST);
    let from = mm(KITCHEN);
    let pieces = vec![
        deck(u, &[("from", &from)]),
        (
            "pull_out",
            vec![set("opens", "rear"), set("across", "left_wall")],
        ),
        (
            "cabinet",
            vec![set("opens", "rear"), set("across", "right_wall")],
        ),
    ];
    let mut lost = g.lost(u);
    lost.push(format!("{} of the bay's length", g.w.say(KITCHEN)));
    Ok((pieces, lost))
}

fn day(g: &Ground) -> Made {
    let gear = g.project.gear.iter();
    let heaviest = gear
        .filter(|(_, t)| t.w.is_some() && t.d.is_some() && t.h.is_some())
        .filter_map(|(id, t)| Some((id, t.mass?)))
        .max_by(|a, b| a.1.total_cmp(&b.1));
    let mut bench = vec![set("across", "left_wall")];
    bench.extend(heaviest.map(|(id, _)| set("appliance", id.as_str())));
    let pieces = vec![
        ("bench", bench),
        (
            "pull_out",
            vec![set("opens", "left"), set("across", "right_wall")],
        ),
        (
            "shelves",
            vec![set("opens", "left"), set("across", "right_wall")],
        ),
    ];
    Ok((pieces, vec!["nobody sleeps on it".into()]))
}
