//! What has to stay free above a piece, such as a stove.

use super::{Ctx, Finding, Severity};
use crate::furniture::built::Keep;
use crate::solids::Solid;

/// Less in the way is a touch, mm.
const TOUCH: f64 = 0.5;

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let keeps = ctx
        .built
        .iter()
        .flat_map(|(m, b)| b.keeps.iter().map(move |k| (m.as_str(), k)));
    keeps
        .map(|(module, keep)| judge(ctx, module, keep))
        .collect()
}

fn judge(ctx: &Ctx, module: &str, keep: &Keep) -> Finding {
    let (low, high) = keep.ends();
    let solids = ctx.boards.iter().map(|b| Solid::at(b, b.shut));
    let mut in_it: Vec<(f64, String)> = solids
        .filter(|s| s.board.module != module)
        .filter(|s| (0..3).all(|k| s.low[k] < high[k] - TOUCH && s.high[k] > low[k] + TOUCH))
        .map(|s| {
            let name = ctx.project.modules.get(&s.board.module);
            let name = name.map_or(String::new(), |m| m.called());
            (
                (s.low[2] - low[2]).max(0.0),
                format!("the {name} ({})", s.board.mark),
            )
        })
        .collect();
    let x = (low[0] + high[0]) / 2.0;
    let roof = ctx.model.floor_to_roof(x).map(|r| r + ctx.model.floor(x));
    if let Some(roof) = roof.filter(|r| *r < high[2] - TOUCH) {
        in_it.push(((roof - low[2]).max(0.0), "the roof".into()));
    }
    in_it.sort_by(|a, b| a.0.total_cmp(&b.0));
    let wanted = high[2] - low[2];
    let (level, words) = match in_it.first() {
        Some((free, what)) => (
            Severity::Stop,
            format!(
                "Above {} only {} are free: there is {what}.",
                keep.why,
                ctx.w.say(*free)
            ),
        ),
        None => (
            Severity::Look,
            format!("Above {} {} are free.", keep.why, ctx.w.say(wanted)),
        ),
    };
    let caution = if keep.flame {
        " A stove burns air: its maker's clearances count, to the sides too; an open door or vent, a carbon-monoxide alarm, and licensed work on gas."
    } else {
        ""
    };
    let mut f = Finding::new(
        format!("keep.{module}.{}", keep.id),
        level,
        "layout",
        format!("{words}{caution}"),
    )
    .rule(
        "what has to stay free is held against every board and the roof",
        "geometry; usual caution, local codes and the maker decide",
    )
    .numbers(vec![ctx.w.step("", "wanted free", wanted)])
    .show("layout", module);
    f.subject = format!("{module}/{}", keep.id);
    f
}
