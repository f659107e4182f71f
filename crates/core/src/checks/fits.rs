//! Boards held in place: what does not go together with the survey, what becomes of the board.

use serde_json::json;

use super::{Ctx, Finding, Severity, set};
use crate::input::escape;
use crate::project::fits::Went;
use crate::survey::witness::Origin;

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let mut out = Vec::new();
    for b in ctx.fits {
        let Some(last) = b.rounds.last() else {
            continue;
        };
        let at = format!("/fits/{}", escape(&last.id));
        let show = |f: Finding| f.show("parts", b.mark.clone());
        for p in last.places.iter().filter(|p| p.doubted) {
            let sentence = format!(
                "{} at the {}: {} was seen; everything else says {}. It is not counted. Look again, or measure the wall there.",
                b.mark,
                p.words,
                p.said.as_deref().unwrap_or("something else"),
                ctx.w.say(p.expected.value)
            );
            let f = Finding::new(
                format!("fit.{}.{}", last.id, p.key),
                Severity::Look,
                "parts",
                sentence,
            )
            .rule(
                "what is seen at a board and what was surveyed agree within 3.9 times the noise of their difference",
                "data snooping (Baarda 1968); the critical value is a choice",
            )
            .offer(
                "Set what was seen aside".into(),
                "kept, but not counted".into(),
                set(format!("{at}/places/{}/aside", escape(&p.key)), json!(true)),
            );
            out.push(show(f));
        }
        let mut judged = ctx.model.judged.bodies.iter();
        let astray = judged.find(|f| {
            f.origin == Origin::Fit && f.mark.is_none() && f.id == last.id && last.answered > 0
        });
        if let Some(fault) = astray {
            let sentence = format!(
                "{}: by what was seen it lay up to {} beside its place, or a wall is not where it was read. Push it to its mark and look again, or measure the wall there.",
                b.mark,
                ctx.w.say((fault.others - fault.says).abs())
            );
            let f = Finding::new(
                format!("fit.{}.place", last.id),
                Severity::Look,
                "parts",
                sentence,
            )
            .rule(
                "a board lies within a few millimetres of its mark",
                "a choice",
            );
            out.push(show(f));
        }
        if last.went == Went::NotIn && last.answered == 0 {
            let sentence = format!(
                "{} does not go in. Hold it against its place and say where it is proud and by how much: the plan corrects its edge.",
                b.mark
            );
            out.push(show(
                Finding::new(
                    format!("fit.{}.in", last.id),
                    Severity::Stop,
                    "parts",
                    sentence,
                )
                .rule(
                    "a board goes in with a little air all round",
                    "common practice, no source",
                ),
            ));
        }
        if let Some(v) = &b.verdict {
            let level = match v.trims.is_empty() && v.strips.is_empty() && !v.recut {
                true => Severity::Fine,
                false => Severity::Look,
            };
            let sentence = format!("{}, as it was held in place: {}", b.mark, v.sentence);
            out.push(show(
                Finding::new(
                    format!("fit.{}", last.id),
                    level,
                    "parts",
                    sentence,
                )
                .rule(
                    "less than 1 mm of air is too tight, up to 8 mm is hidden, up to 30 mm is a strip",
                    "choices",
                ),
            ));
        }
    }
    out
}
