//! Do the parts come out of the sheets there are?

use serde_json::json;

use super::{Ctx, Finding, Severity};
use crate::cutting::accepted::one_thickness;
use crate::cutting::sheets::{Lies, SheetGroup, lies};
use crate::furniture::platform::Dial;
use crate::parts::Part;
use crate::project::stock::usual_sheet;

/// What lies on no sheet of a group, and the change that turns its grain where that is enough.
fn too_large(ctx: &Ctx, g: &SheetGroup, problem: &str) -> Finding {
    let own = ctx.parts.iter().filter(|p| {
        p.material == g.material && one_thickness(p.thickness.value, g.thickness.value)
    });
    let how: Vec<_> = own.map(|p| (p, lies(ctx.project, p))).collect();
    let named = |is: Lies| {
        let own = how.iter().filter(|(_, l)| *l == is);
        own.map(|(p, _)| *p).collect::<Vec<_>>()
    };
    let (turned, no) = (named(Lies::Turned), named(Lies::No));
    let list = |parts: &[&Part]| {
        let each = parts.iter().map(|p| {
            let (w, h) = (ctx.w.bare(p.w.value), ctx.w.say(p.h.value));
            format!("{} ({}, {w} × {h})", p.mark, p.name)
        });
        each.collect::<Vec<_>>().join("; ")
    };
    let sentence = match (turned.is_empty(), no.is_empty()) {
        (true, true) => format!("{}: {problem}", g.stuff),
        (_, false) => format!("{}: larger than each sheet: {}.", g.stuff, list(&no)),
        _ => format!(
            "{}: longer than each sheet across its grain: {}.",
            g.stuff,
            list(&turned)
        ),
    };
    let id = format!("nest.{}.{}", g.material, g.thickness.mm);
    let mut f = Finding::new(id, Severity::Stop, "cut", sentence).rule(
        "grain kept, kerf between, inside the trimmed sheet",
        "saw practice",
    );
    if !turned.is_empty() {
        let mut all = ctx.project.cutting.turned.clone();
        all.extend(turned.iter().flat_map(|p| p.boards.iter().cloned()));
        f = f.offer(
            "Turn their grain".into(),
            "less stiff across the grain; the grain is seen the other way".into(),
            json!([{ "op": "add", "path": "/cutting/turned", "value": all }]),
        );
    }
    f
}

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let mut out = Vec::new();
    for d in ctx.platforms {
        let Some(worked) = d.worked.filter(|w| !w.parting.on_sheet) else {
            continue;
        };
        let (w, h) = worked.demands.sheet;
        let too = |(a, b): &(f64, f64)| !(*a <= w && *b <= h || *b <= w && *a <= h);
        let sizes = worked.parting.pieces.iter().map(|p| p.size());
        let Some(piece) = sizes.into_iter().find(too) else {
            continue;
        };
        out.push(
            Finding::new(
                format!("sheet.{}", d.id),
                Severity::Stop,
                "layout",
                format!(
                    "A piece of the {}, {} × {}, is larger than the sheet, {} × {}, whichever way it lies.",
                    d.platform.name,
                    ctx.w.bare(piece.0),
                    ctx.w.say(piece.1),
                    ctx.w.bare(w),
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
            out.push(too_large(ctx, g, problem));
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
