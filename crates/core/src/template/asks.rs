//! Numbers of captured curves still to be read, one after the other.

use crate::curves::ways::gaps;
use crate::input::escape;
use crate::project::Project;
use crate::project::templates::{Station, Template, Way};
use crate::protocol::Ask;
use crate::units::figure::Writer;

/// What is still to be read of the curves, in the order of their readings.
pub fn asks(project: &Project) -> Vec<Ask> {
    let w = project.writer();
    let curves = project.templates.iter();
    let each = curves.flat_map(|(id, t)| {
        let w = &w;
        let stations = t.stations.iter().enumerate();
        let last = t.stations.len().saturating_sub(1);
        let open = stations.filter(move |(n, (_, own))| gaps(t.way, own, *n == last) > 0);
        open.filter_map(move |(n, (s, own))| ask((id, t), (n, s, own), w))
    });
    each.collect()
}

fn ask(
    (id, t): (&String, &Template),
    (n, s, own): (usize, &String, &Station),
    w: &Writer,
) -> Option<Ask> {
    let (field, words, how) = match (own.a, own.b, t.way) {
        (Some(_), Some(_), _) => return None,
        (None, _, Way::Ordinates) => (
            "a",
            format!("reading {}, along the straight edge", n + 1),
            "Where along the straight edge the rule is put.",
        ),
        (Some(a), None, Way::Ordinates) => (
            "b",
            format!("depth at {} along", w.say(a)),
            "Push the rule out square to the straight edge until it touches, without force.",
        ),
        (None, _, Way::Runs) => (
            "a",
            format!("run {}, its length", n + 1),
            "From corner to corner, along the wall.",
        ),
        (Some(_), None, Way::Runs) => (
            "b",
            format!("across corner {}", n + 1),
            "From where this run begins straight to where the next one ends; minus where the corner stands out.",
        ),
        (None, _, Way::TwoPin) => (
            "a",
            format!("reading {}, from the first pin", n + 1),
            "Keep the tape straight and level.",
        ),
        (_, None, Way::TwoPin) => (
            "b",
            format!("reading {}, from the second pin", n + 1),
            "To the very same point.",
        ),
        (None, ..) => (
            "a",
            format!("point {}, to the right", n + 1),
            "From the lower left corner of the card.",
        ),
        (_, None, _) => (
            "b",
            format!("point {}, up", n + 1),
            "From the lower left corner of the card.",
        ),
    };
    let pointer = format!("/templates/{}/stations/{}/{field}", escape(id), escape(s));
    let name = if t.name.is_empty() { "curve" } else { &t.name };
    let prompt = format!("{name}: {words}");
    let why = "The curve goes by it.";
    Some(Ask::field("templates", pointer, prompt, how, why))
}
