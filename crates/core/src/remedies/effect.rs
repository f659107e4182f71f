//! What a change does to what is judged: told of each change that is offered, from the plan as it would be.

use std::collections::BTreeMap;

use crate::checks::{Finding, Severity};
use crate::plan::Plan;

/// No more sentences are told of what is new.
const TOLD: usize = 2;

/// What comes of a finding by a change.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Comes {
    /// It is gone, or fine, or to be looked at only where it stopped.
    Settled,
    /// It is as bad, but says something else.
    Otherwise,
    /// It says what it said before.
    Same,
}

/// What a change does to all that is judged.
pub struct Effect<'a> {
    /// What becomes of the finding that it is made against.
    pub comes: Comes,
    /// Something that could be built cannot be built any more.
    pub lost: bool,
    /// What stops that did not.
    pub stops: Vec<&'a Finding>,
    /// The finding itself afterwards, if it is still there.
    left: Option<&'a Finding>,
    /// So many other stops are gone.
    settled: usize,
    /// What is to be looked at that was not told before.
    looks: Vec<&'a str>,
    /// So many more numbers are asked for.
    asks: usize,
}

impl<'a> Effect<'a> {
    /// From the plan before to the plan after.
    pub fn of(before: &Plan, then: &'a Plan, against: &Finding) -> Self {
        let boards = |plan: &Plan| -> BTreeMap<String, usize> {
            plan.modules
                .iter()
                .map(|m| (m.id.clone(), m.boards))
                .collect()
        };
        let (had, has) = (boards(before), boards(then));
        let lost = had.iter().any(|(id, n)| *n > 0 && has.get(id) == Some(&0));
        let at = |plan: &Plan, level: Severity| -> Vec<String> {
            let all = plan.findings.iter().filter(|f| f.level == level);
            all.map(|f| f.id.clone()).collect()
        };
        let (stopped, stop) = (at(before, Severity::Stop), at(then, Severity::Stop));
        let looked = at(before, Severity::Look);
        let left = then.findings.iter().find(|f| f.id == against.id);
        let comes = match left {
            Some(f) if f.level > against.level => Comes::Settled,
            None => Comes::Settled,
            Some(f) if f.sentence != against.sentence => Comes::Otherwise,
            Some(_) => Comes::Same,
        };
        let new = |level: Severity, known: &[&[String]]| -> Vec<&'a Finding> {
            let all = then.findings.iter().filter(|f| f.level == level);
            all.filter(|f| !known.iter().any(|k| k.contains(&f.id)))
                .collect()
        };
        let gone = stopped.iter().filter(|id| !stop.contains(id));
        Effect {
            comes,
            lost,
            stops: new(Severity::Stop, &[&stopped]),
            left,
            settled: gone.filter(|id| **id != against.id).count(),
            looks: new(Severity::Look, &[&stopped, &looked])
                .into_iter()
                .map(|f| f.sentence.as_str())
                .collect(),
            asks: then.asks.len().saturating_sub(before.asks.len()),
        }
    }

    /// It leaves all as it is.
    pub fn nothing(&self) -> bool {
        self.comes == Comes::Same && self.asks == 0
    }

    /// It settles the finding, or asks for what will, and leaves nothing worse behind.
    pub fn helps(&self) -> bool {
        let way = match self.comes {
            Comes::Settled => true,
            Comes::Otherwise => false,
            Comes::Same => self.asks > 0,
        };
        way && self.stops.is_empty() && !self.lost
    }

    /// In words, after what it costs by itself.
    pub fn words(&self, cost: &str) -> String {
        let mut out: Vec<String> = Vec::new();
        out.extend((!cost.is_empty()).then(|| cost.to_string()));
        // Of what is as it was nothing is told, nor of what is fine.
        if let Some(f) = self.left.filter(|_| self.comes != Comes::Same) {
            match f.level {
                Severity::Stop => out.push(format!("it still stops: {}", first(&f.sentence))),
                Severity::Look => out.push(format!("then to look at: {}", first(&f.sentence))),
                Severity::Fine => {}
            }
        }
        match self.asks {
            0 => {}
            1 => out.push("then one more number is asked for".into()),
            n => out.push(format!("then {n} more numbers are asked for")),
        }
        let stops = self.stops.iter().take(TOLD);
        out.extend(stops.map(|f| format!("then stops: {}", first(&f.sentence))));
        match self.settled {
            0 => {}
            1 => out.push("settles another stop too".into()),
            n => out.push(format!("settles {n} other stops too")),
        }
        out.extend(self.looks.iter().take(TOLD).map(|words| first(words)));
        if out.is_empty() {
            out.push("nothing new to look at".into());
        }
        out.join("; ")
    }
}

/// What it is, without what it asks for.
fn first(words: &str) -> String {
    let words = words.split(". ").next().unwrap_or(words);
    words.trim_end_matches('.').to_string()
}
