//! Beds that are no decks: are they made for the night, and for whom are they long and wide enough?

use super::{Ctx, Finding, Severity, set};
use crate::furniture::built::Bed;
use crate::furniture::deck::span::SLEEPER_WIDTH;
use crate::input::escape;
use crate::project::states::asleep;

/// A bed is longer than who lies in it by so much, mm (common practice, no source), less in a pinch.
const OVER: f64 = 120.0;
/// Narrower than this nobody sleeps well, mm (a choice: about shoulder width).
const NARROW: f64 = 480.0;

/// All beds: module and bed.
pub(super) fn beds<'a>(ctx: &'a Ctx) -> impl Iterator<Item = (&'a str, &'a Bed)> {
    let all = ctx.built.iter();
    all.flat_map(|(m, b)| b.beds.iter().map(move |bed| (m.as_str(), bed)))
}

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    beds(ctx)
        .map(|(module, bed)| match shut(ctx, module, bed) {
            Some(finding) => finding,
            None => sizes(ctx, module, bed),
        })
        .collect()
}

/// It is pulled out for the night, or it is not.
fn shut(ctx: &Ctx, module: &str, bed: &Bed) -> Option<Finding> {
    let night = asleep(&ctx.project.states);
    let state = ctx.project.states.get(night)?;
    let body = format!("{module}/{}", bed.body?);
    if state.open(&body) > 1.0 - 1e-6 {
        return None;
    }
    let name = &bed.name;
    let words = format!("In the state \"{}\" the {name} is not made up.", state.name);
    let at = format!("/states/{}/open/{}", escape(night), escape(&body));
    let mut f = Finding::new(format!("bed.{module}"), Severity::Look, "layout", words)
        .rule("what makes a bed is moved for the night", "a choice")
        .show("layout", module)
        .offer(
            "Make it up for the night".into(),
            String::new(),
            set(at, 1.0.into()),
        );
    f.state = Some(night.into());
    Some(f)
}

fn sizes(ctx: &Ctx, module: &str, bed: &Bed) -> Finding {
    let [along, across] = [0, 1].map(|k| bed.high[k] - bed.low[k]);
    let (long, wide) = (along.max(across), along.min(across));
    let people = ctx.project.people.values();
    let short: Vec<String> = people
        .filter_map(|p| Some((&p.name, p.stature?)))
        .filter(|(_, s)| long < s + OVER)
        .map(|(name, s)| format!("{name} wants {}", ctx.w.say(s + OVER)))
        .collect();
    let tallest = ctx.project.people.values().filter_map(|p| p.stature);
    let tallest = tallest.fold(0.0, f64::max);
    let places = ((wide / SLEEPER_WIDTH).floor() as usize).max(1);
    let wanted = ctx.project.people.len();
    let mut words = format!(
        "Made up the {} is {} long and {} wide: for {}",
        bed.name,
        ctx.w.say(long),
        ctx.w.say(wide),
        if places == 1 {
            "one".into()
        } else {
            format!("{places}")
        }
    );
    if !short.is_empty() {
        words.push_str(&format!("; {}", short.join(", ")));
    }
    let level = if long < tallest || wide < NARROW {
        Severity::Stop
    } else if !short.is_empty() || places < wanted {
        Severity::Look
    } else {
        Severity::Fine
    };
    Finding::new(
        format!("bed.{module}"),
        level,
        "layout",
        format!("{words}."),
    )
    .rule(
        format!(
            "stature and {}, less in a pinch; {} for each sleeper, shoulders have no room under {}",
            ctx.w.say(OVER),
            ctx.w.say(SLEEPER_WIDTH),
            ctx.w.say(NARROW)
        ),
        "common practice, no source; choices",
    )
    .numbers(vec![
        ctx.w.step("", "length", long),
        ctx.w.step("", "width", wide),
    ])
    .show("layout", module)
}
