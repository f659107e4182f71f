//! Do the parts come out of the sheets there are?

use super::{Ctx, Finding, Severity};
use crate::furniture::platform::Dial;
use crate::project::stock::usual_sheet;

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let mut out = Vec::new();
    for d in ctx.platforms {
        let Some(worked) = d.worked.filter(|w| !w.parting.on_sheet) else {
            continue;
        };
        let (w, h) = worked.demands.sheet;
        out.push(
            Finding::new(
                format!("sheet.{}", d.id),
                Severity::Stop,
                "layout",
                format!(
                    "A piece of the {} is larger than the sheet ({} x {}).",
                    d.platform.name,
                    ctx.w.say(w),
                    ctx.w.say(h)
                ),
            )
            .rule("every piece must lie on one trimmed sheet", "geometry")
            .offer(
                "Part it as sheet and door allow".into(),
                "one joint or two to carry".into(),
                d.set(Dial::Split, "auto".into()),
            )
            .offer(
                "Part it in four".into(),
                "two joints to carry".into(),
                d.set(Dial::Split, "quarters".into()),
            ),
        );
    }
    for g in ctx.sheets {
        if let Some(problem) = &g.problem {
            out.push(
                Finding::new(
                    format!("nest.{}.{}", g.material, g.thickness.mm),
                    Severity::Stop,
                    "cut",
                    format!("{}: {problem}", g.stuff),
                )
                .rule(
                    "grain kept, kerf between, inside the trimmed sheet",
                    "saw practice",
                ),
            );
            continue;
        }
        let n = g.nest.sheets_used;
        let what = if g.bar { "bar" } else { "sheet" };
        let sheets = if n == 1 {
            what.to_string()
        } else {
            format!("{n} {what}s")
        };
        let assumed = if g.assumed {
            let (w, h) = usual_sheet(ctx.project, &g.material);
            format!(
                " No such {what} is in your stock: a usual {} x {} was assumed.",
                ctx.w.bare(w),
                ctx.w.say(h)
            )
        } else {
            String::new()
        };
        out.push(
            Finding::new(
                format!("nest.{}.{}", g.material, g.thickness.mm),
                if g.assumed {
                    Severity::Look
                } else {
                    Severity::Fine
                },
                "cut",
                format!(
                    "{}: {} {sheets}, {:.0} % becomes parts.{assumed}",
                    g.stuff,
                    if n == 1 { "one" } else { "" },
                    g.used_percent
                )
                .replace("  ", " "),
            )
            .rule(
                if g.nest.proven {
                    "fewest sheets: no layout can do with less, by area"
                } else {
                    "best of many layouts; not proven the fewest"
                },
                "area bound",
            )
            .show("cut", g.stuff.clone()),
        );
    }
    out
}
