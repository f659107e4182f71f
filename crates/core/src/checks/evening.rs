//! From driving to the night: does every step go, and is all shut on the road?

use super::change::changes;
use super::{Ctx, Finding, Severity, set};
use crate::evening::BodyState;
use crate::input::escape;
use crate::project::states::DRIVE;

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let mut out = Vec::new();
    let shut = |state: &str, body: &str| {
        let at = format!("/states/{}/open/{}", escape(state), escape(body));
        set(at, 0.0.into())
    };
    for state in ctx.evening.states.iter().filter(|s| s.id == DRIVE) {
        let access = |b: &&BodyState| b.open > 0.0 && !changes(ctx, &b.id);
        for body in state.bodies.iter().filter(access) {
            let sentence = format!("The {} is {} while driving.", body.name, body.words);
            let mut finding = Finding::new(
                format!("open.{}", body.id),
                Severity::Stop,
                "layout",
                sentence,
            )
            .rule(
                "what can open is shut and latched on the road",
                "common practice, no source",
            )
            .show("layout", &body.module)
            .offer(
                "Shut it for the road".into(),
                String::new(),
                shut(DRIVE, &body.id),
            );
            finding.state = Some(DRIVE.into());
            out.push(finding);
        }
    }
    for m in &ctx.evening.moves {
        let name = |id: &str| {
            let own = ctx.project.states.get(id);
            own.map_or(id.to_string(), |s| s.name.clone())
        };
        for step in &m.steps {
            let Some(meets) = &step.meets else {
                continue;
            };
            let mut finding = Finding::new(
                format!("evening.{}.{}", m.to, step.body),
                Severity::Stop,
                "layout",
                format!(
                    "From {} to {}: {}, but it meets {meets}.",
                    name(&m.from),
                    name(&m.to),
                    step.words
                ),
            )
            .rule(
                "followed along its way in small steps, everything else as it lies then",
                "geometry",
            )
            .show("layout", &step.module);
            let to = ctx.project.states.get(&m.to);
            if to.is_some_and(|s| s.open(&step.body) > 0.0) {
                finding = finding.offer(
                    format!("Leave it shut for {}", name(&m.to)),
                    "it is not open then".into(),
                    shut(&m.to, &step.body),
                );
            }
            finding.state = Some(m.to.clone());
            finding.subject.clone_from(&step.body);
            out.push(finding);
        }
    }
    out
}
