//! Gear and people: which of their numbers are still missing.

use crate::input::escape;
use crate::project::Project;
use crate::protocol::Ask;

/// Numbers of the stow list and the heights still to be taken.
pub fn asks(project: &Project) -> Vec<Ask> {
    let mut out = Vec::new();
    for (id, g) in &project.gear {
        let at = format!("/gear/{}", escape(id));
        let rows = [
            (
                g.h,
                "h",
                "height",
                "With lid and handle: the highest point.",
            ),
            (g.w, "w", "width", "Outside, handles included."),
            (g.d, "d", "depth", "Outside, handles included."),
        ];
        for (value, key, word, how) in rows {
            if value.is_none() {
                out.push(Ask::field(
                    "stow",
                    format!("{at}/{key}"),
                    format!("{}, {word}", g.name),
                    how,
                    "Decides what stands under the deck, and beside what.",
                ));
            }
        }
    }
    for (id, p) in &project.people {
        if p.stature.is_none() {
            out.push(Ask::field(
                "stow",
                format!("/people/{}/stature", escape(id)),
                format!("{}, stature", p.name),
                "Without shoes, heels to the wall.",
                "Bed length and headroom come from it.",
            ));
        }
    }
    if !project.people.is_empty() || project.mattress.thickness.is_some() {
        let m = &project.mattress;
        if m.thickness.is_none() {
            out.push(Ask::field(
                "stow",
                "/mattress/thickness".into(),
                "Mattress, thickness".into(),
                "At the edge, lying free.",
                "It costs headroom, millimetre for millimetre.",
            ));
        } else if m.sag.is_none() {
            out.push(Ask::field(
                "stow",
                "/mattress/sag".into(),
                "Mattress, how far it goes down when sat on".into(),
                "Kneel on it beside a rule.",
                "Headroom is measured from the seat, not from the sleeping surface.",
            ));
        }
    }
    for (id, d) in project.decks() {
        if d.underside.is_none() {
            out.push(Ask::field(
                "heights",
                format!("/modules/{}/choices/underside", escape(id)),
                format!("{}, height of its underside", d.name),
                "Pick a rung of the ladder, or type a height over the load floor.",
                "Everything above and below it follows.",
            ));
        }
    }
    out
}
