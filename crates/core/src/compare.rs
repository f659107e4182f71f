//! What changed between two states of a project, in words: choices, readings, parts, judgements.

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};
use serde_json::{Map, Value};
use utoipa::ToSchema;

use crate::checks::Severity;
use crate::plan::Plan;
use crate::project::Project;
use crate::units::figure::Writer;

/// The most sentences of one kind; the rest is counted.
const MOST: usize = 12;

/// One change.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Change {
    /// `part`, `finding`, `choice` or `reading`.
    pub kind: String,
    /// In a sentence.
    pub sentence: String,
}

/// Everything that changed from `before` to `after`: parts first, then judgements, choices, readings.
pub fn compare(before: (&Project, &Plan), after: (&Project, &Plan)) -> Vec<Change> {
    let w = after.0.writer();
    let mut out = Vec::new();
    push(&mut out, "part", parts(before.1, after.1, &w));
    push(&mut out, "finding", findings(before.1, after.1));
    push(&mut out, "choice", choices(before.0, after.0, &w));
    push(&mut out, "reading", readings(before.0, after.0));
    out
}

fn push(out: &mut Vec<Change>, kind: &str, mut sentences: Vec<String>) {
    let more = sentences.len().saturating_sub(MOST);
    sentences.truncate(MOST);
    if more > 0 {
        sentences.push(format!("And {more} more."));
    }
    out.extend(sentences.into_iter().map(|sentence| Change {
        kind: kind.into(),
        sentence,
    }));
}

fn parts(before: &Plan, after: &Plan, w: &Writer) -> Vec<String> {
    let size = |plan: &Plan| -> BTreeMap<String, (f64, f64, u32)> {
        let each = plan.parts.iter();
        each.map(|p| {
            (
                format!("{} {}", p.mark, p.name),
                (p.w.value, p.h.value, p.count),
            )
        })
        .collect()
    };
    let (then, now) = (size(before), size(after));
    let mut out = Vec::new();
    for (name, (w1, h1, n1)) in &now {
        match then.get(name) {
            None => out.push(format!("{name} is new: {} x {}.", w.bare(*w1), w.say(*h1))),
            Some((w0, h0, n0)) if n0 != n1 => {
                out.push(format!(
                    "{name}: {n1} instead of {n0}, {} x {} was {} x {}.",
                    w.bare(*w1),
                    w.say(*h1),
                    w.bare(*w0),
                    w.say(*h0)
                ));
            }
            Some((w0, h0, _)) if w.say(*w0) != w.say(*w1) || w.say(*h0) != w.say(*h1) => {
                out.push(format!(
                    "{name} is {} x {}, was {} x {}.",
                    w.bare(*w1),
                    w.say(*h1),
                    w.bare(*w0),
                    w.say(*h0)
                ));
            }
            Some(_) => {}
        }
    }
    let gone = then.keys().filter(|name| !now.contains_key(*name));
    out.extend(gone.map(|name| format!("{name} is gone.")));
    let sheets = |p: &Plan| p.sheets.iter().map(|g| g.nest.sheets_used).sum::<usize>();
    if sheets(before) != sheets(after) {
        out.push(format!(
            "Sheets: {}, were {}.",
            sheets(after),
            sheets(before)
        ));
    }
    out
}

fn findings(before: &Plan, after: &Plan) -> Vec<String> {
    let bad = |plan: &Plan| -> BTreeMap<String, String> {
        let bad = plan.findings.iter().filter(|f| f.level != Severity::Fine);
        bad.map(|f| (f.id.clone(), f.sentence.clone())).collect()
    };
    let (then, now) = (bad(before), bad(after));
    let new = now.iter().filter(|(id, _)| !then.contains_key(*id));
    let settled = then.iter().filter(|(id, _)| !now.contains_key(*id));
    new.map(|(_, s)| format!("New: {s}"))
        .chain(settled.map(|(_, s)| format!("Settled: {s}")))
        .collect()
}

/// Fields that are no lengths, by the end of their pointer.
const PLAIN: [&str; 11] = [
    "count",
    "dividers",
    "mass",
    "cost",
    "lines",
    "span_over",
    "denominator",
    "version",
    "density",
    "folded_slope",
    "slope",
];

fn choices(before: &Project, after: &Project, w: &Writer) -> Vec<String> {
    let (Ok(then), Ok(now)) = (before.to_json(), after.to_json()) else {
        return vec![];
    };
    let mut out = Vec::new();
    walk(&then, &now, &mut vec![], &mut |path, a, b| {
        if path.first().is_some_and(|p| p == "cutting")
            && path.get(1).is_some_and(|p| p == "ticked")
            || path.get(1).is_some_and(|p| p == "readings")
        {
            return;
        }
        let found = called(&now, path).or_else(|| called(&then, path));
        let last = path.last().map_or("", String::as_str);
        let length = !PLAIN.contains(&last);
        // What lies between the entry and the field says which of several alike it is: the cover on the left.
        let within = found.as_ref().map_or(path.len().saturating_sub(1), |f| f.1);
        let keys = path.iter().skip(within).filter(|k| *k != "choices");
        let field = keys.map(|k| k.replace('_', " ")).collect::<Vec<_>>();
        let field = field.join(" ");
        let name = found.map(|f| f.0);
        let say = |v: &Value| match v {
            Value::Number(n) if length => w.say(n.as_f64().unwrap_or(0.0)),
            Value::Number(n) => n.as_f64().unwrap_or(0.0).to_string(),
            Value::String(s) => s.clone(),
            Value::Null => "not given".into(),
            Value::Bool(true) => "yes".into(),
            Value::Bool(false) => "no".into(),
            v => v.to_string(),
        };
        let entry = matches!(
            (a, b),
            (Some(Value::Object(_)), _) | (_, Some(Value::Object(_)))
        );
        let what = match (&name, entry) {
            (Some(name), true) => name.clone(),
            (Some(name), false) => format!("{name}, {field}"),
            (None, _) => field,
        };
        out.push(match (a, b) {
            (None, _) if entry => format!("{what} is new."),
            (_, None) if entry => format!("{what} is gone."),
            (a, b) => {
                let none = Value::Null;
                let (a, b) = (a.unwrap_or(&none), b.unwrap_or(&none));
                format!("{what}: {}, was {}.", say(b), say(a))
            }
        });
    });
    out
}

/// What a person calls the entry in which a pointer lies, and how far down that is.
fn called(document: &Value, path: &[String]) -> Option<(String, usize)> {
    (1..=path.len()).rev().find_map(|n| {
        let entry = path[..n].iter().try_fold(document, |v, key| v.get(key))?;
        let words = |key: &str| {
            let word = entry.get(key)?.as_str()?.trim();
            (!word.is_empty()).then(|| word.replace('_', " "))
        };
        // Furniture without a name is called by its kind.
        let kind = || {
            (n == 2 && path[0] == "modules")
                .then(|| words("kind"))
                .flatten()
        };
        entry.get("name")?;
        words("name").or_else(kind).map(|name| (name, n))
    })
}

/// What is told of a place: its path, the value before and after.
type Told<'a> = &'a mut dyn FnMut(&[String], Option<&Value>, Option<&Value>);

/// Every place at which two documents differ; an entry that is new or gone is one place.
fn walk(a: &Value, b: &Value, path: &mut Vec<String>, told: Told) {
    let (Value::Object(x), Value::Object(y)) = (a, b) else {
        if a != b {
            told(path, Some(a), Some(b));
        }
        return;
    };
    let keys = x.keys().chain(y.keys().filter(|k| !x.contains_key(*k)));
    for key in keys {
        path.push(key.clone());
        match (get(x, key), get(y, key)) {
            (Some(p), Some(q)) => walk(p, q, path, told),
            (p, q) => told(path, p, q),
        }
        path.pop();
    }
}

fn get<'a>(map: &'a Map<String, Value>, key: &str) -> Option<&'a Value> {
    map.get(key)
}

fn readings(before: &Project, after: &Project) -> Vec<String> {
    let (then, now) = (&before.survey.readings, &after.survey.readings);
    let new = now.keys().filter(|id| !then.contains_key(*id)).count();
    let gone = then.keys().filter(|id| !now.contains_key(*id)).count();
    let changed = now
        .iter()
        .filter(|(id, r)| then.get(*id).is_some_and(|o| o != *r))
        .count();
    [
        (new, "new"),
        (gone, "gone"),
        (changed, "changed or set aside"),
    ]
    .into_iter()
    .filter(|(n, _)| *n > 0)
    .map(|(n, what)| match n {
        1 => format!("1 reading is {what}."),
        n => format!("{n} readings are {what}."),
    })
    .collect()
}
