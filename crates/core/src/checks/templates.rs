//! Captured curves: what is wrong with one, what deserves a look.

use super::{Ctx, Finding, Severity};

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let mut out = Vec::new();
    for t in ctx.templates {
        let mut say = |n: usize, level, words: &str| {
            let sentence = format!("{}: {words}", t.name);
            let f = Finding::new(
                format!("template.{}.{n}", t.id),
                level,
                "templates",
                sentence,
            )
            .rule("readings of one curve agree with each other", "geometry")
            .show("templates", t.id.clone());
            out.push(f);
        };
        if let Some(wrong) = &t.wrong {
            say(0, Severity::Stop, wrong);
        }
        for (n, words) in t.warnings.iter().enumerate() {
            say(n + 1, Severity::Look, words);
        }
    }
    out
}
