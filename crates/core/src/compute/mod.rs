//! The calculators of the compute contract: JSON in, JSON out, no project needed. Each file holds one
//! calculator's shapes and checks; the rule itself is the one that `solve` uses.

mod adjust;
mod beam;
mod between;
mod drawer;
mod edge;
mod heights;
mod lid;
mod load;
mod mass;
mod nest;
mod outline;
mod panel;
mod pass;
mod pull;
mod tape;

use serde_json::{Value, json};

use crate::problem::Problem;

type Calculator = fn(Value) -> Result<Value, Problem>;

/// Every calculator by name: a new one is one file and one line here.
const CALCULATORS: [(&str, Calculator); 15] = [
    ("tape", tape::run),
    ("mass", mass::run),
    ("between", between::run),
    ("adjust", adjust::run),
    ("heights", heights::run),
    ("pass", pass::run),
    ("beam", beam::run),
    ("lid", lid::run),
    ("drawer", drawer::run),
    ("load", load::run),
    ("pull", pull::run),
    ("edge", edge::run),
    ("outline", outline::run),
    ("nest", nest::run),
    ("panel", panel::run),
];

/// Most elements in a batch.
const MAX_BATCH: usize = 10_000;

/// The names of all calculators.
pub fn names() -> impl Iterator<Item = &'static str> {
    CALCULATORS.iter().map(|(name, _)| *name)
}

/// Runs the calculator `name`. An array is a batch: the answer has the same length and a failed
/// element is `{"error": PROBLEM}`. `None` if there is no calculator of that name.
pub fn run(name: &str, input: Value) -> Option<Result<Value, Problem>> {
    let (_, calculator) = CALCULATORS.iter().find(|(n, _)| *n == name)?;
    Some(match input {
        Value::Array(items) if items.len() > MAX_BATCH => Err(Problem::out_of_range(
            "",
            format!("{} elements in one batch.", items.len()),
            format!("at most {MAX_BATCH}"),
        )),
        Value::Array(items) => {
            let answers = items.into_iter().map(|item| match calculator(item) {
                Ok(answer) => answer,
                Err(problem) => json!({ "error": problem }),
            });
            Ok(Value::Array(answers.collect()))
        }
        one => calculator(one),
    })
}

/// Serialises an answer. The shapes here always serialise; should one not, that is told, not hidden.
fn answer<T: serde::Serialize>(out: &T) -> Result<Value, Problem> {
    serde_json::to_value(out)
        .map_err(|e| Problem::shape("", format!("The answer cannot be written: {e}")))
}
