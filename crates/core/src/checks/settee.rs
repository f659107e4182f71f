//! A bed that is sat on by day: its mattress cut into seat and back, how deep and high one sits, what is left over.

use super::bed::beds;
use super::{Ctx, Finding, Severity, set};
use crate::furniture::built::{Bed, Sat};
use crate::input::escape;

/// A seat is so deep before the back, mm (from memory: 400 to 500 is usual, deeper is lounged on).
const DEEP: f64 = 400.0;
/// A seat is so high when it is sat down, mm (from memory: 400 to 450 is usual; the back of a small knee is at 370, that of a
/// large one at 500, ISO 7250 tables).
const HIGH: (f64, f64) = (370.0, 500.0);
/// A back is no lower, mm (a choice: below the shoulder blades it does not hold).
const BACK: f64 = 280.0;

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let all = beds(ctx).into_iter();
    all.filter_map(|(module, bed)| one(ctx, &module, &bed, bed.sat?))
        .collect()
}

fn one(ctx: &Ctx, module: &str, bed: &Bed, sat: Sat) -> Option<Finding> {
    let w = ctx.w;
    let mattress = &ctx.project.mattress;
    let thick = mattress.thickness?;
    let sag = mattress.sag.unwrap_or(0.0);
    let back = sat.whole - sat.seat;
    let deep = sat.seat - thick;
    let floor = ctx.model.floor_at(
        f64::midpoint(bed.low[0], bed.high[0]),
        f64::midpoint(bed.low[1], bed.high[1]),
    );
    let high = bed.top - floor + thick - sag;
    let mut wrong = Vec::new();
    if deep < DEEP {
        wrong.push(format!("one sits only {} deep", w.say(deep)));
    }
    if high < HIGH.0 {
        wrong.push(format!("one sits only {} high", w.say(high)));
    } else if high > HIGH.1 {
        wrong.push(format!("one sits {} high", w.say(high)));
    }
    if back < BACK {
        wrong.push(format!("the back is only {} high", w.say(back)));
    }
    let level = if wrong.is_empty() {
        Severity::Fine
    } else {
        Severity::Look
    };
    let mut words = format!(
        "By day the mattress of the {} is seat and back: cut along at {} of {}, {} to sit on and {} to lean on",
        bed.name,
        w.say(sat.seat),
        w.say(sat.whole),
        w.say(sat.seat),
        w.say(back)
    );
    match wrong.is_empty() {
        true => words.push_str(&format!(
            ". One sits {} high and {} deep.",
            w.say(high),
            w.say(deep)
        )),
        false => words.push_str(&format!("; {}.", wrong.join(", "))),
    }
    if let Some(wide) = mattress.width {
        let left = wide - sat.whole;
        if left >= 1.0 {
            words.push_str(&format!(" {} of its width are left over.", w.say(left)));
        } else if left <= -1.0 {
            words.push_str(&format!(
                " It is {} too narrow: a strip more is wanted.",
                w.say(-left)
            ));
        }
    }
    let mut f = Finding::new(format!("settee.{module}"), level, "layout", words)
        .rule(
            format!(
                "the back stands on the seat and takes its thickness of the depth: {} deep, {} to {} high, a back of {}",
                w.say(DEEP),
                w.bare(HIGH.0),
                w.say(HIGH.1),
                w.say(BACK)
            ),
            "from memory; a choice for the back",
        )
        .numbers(vec![
            w.step("", "what the mattress lies on, over the floor", bed.top - floor),
            w.step("+", "mattress", thick),
            w.step("-", "it gives", sag),
            w.step("=", "one sits so high", high),
            w.step("", "seat", sat.seat),
            w.step("-", "back standing on it", thick),
            w.step("=", "one sits so deep", deep),
        ])
        .show("layout", module);
    let choice = |field: &str| format!("/modules/{}/choices/{field}", escape(module));
    if high < HIGH.0 || high > HIGH.1 {
        // Well inside the range after it is rounded.
        let to = high.clamp(HIGH.0 + 5.0, HIGH.1 - 5.0) - high;
        let up = ((sat.height + to) / 5.0).round() * 5.0;
        f = f.offer(
            format!("Make it {} high", w.say(up)),
            "less or more room under it".into(),
            set(choice("height"), up.into()),
        );
    }
    if deep < DEEP {
        let seat = ((thick + DEEP) / 5.0).ceil() * 5.0;
        f = f.offer(
            format!("Make it {} deep", w.say(seat)),
            "the bed gets wider by twice as much less what overlaps".into(),
            set(choice("depth"), seat.into()),
        );
    }
    Some(f)
}
