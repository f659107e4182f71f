//! Lengths that remember how they were made. Arithmetic on values *is* the explanation that is shown: the same
//! expression makes the number and its lines.

use std::ops::{Add, Mul, Neg, Sub};
use std::sync::Arc;

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::figure::{Step, Why, Writer};

/// Factors closer than this are one.
const SAME: f64 = 1e-9;

/// What is surveyed.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Surface {
    /// The left wall: at x in, z high.
    LeftWall,
    /// The right wall: at x in, z high.
    RightWall,
    /// The front: at y from the centre line, z high.
    Front,
    /// The floor: at x in, y from the centre line.
    Floor,
    /// Floor to roof, as read: at x in.
    Roof,
}

/// Where a number comes from that is not worked out from others.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "kind", rename_all = "snake_case")]
pub enum Source {
    /// A surveyed place: where it lies, in the two directions that its surface has.
    Place {
        /// Of what.
        surface: Surface,
        /// The two coordinates, mm.
        #[schema(value_type = Vec<f64>)]
        at: [f64; 2],
    },
    /// The doubt of a surveyed place, one standard deviation.
    Doubt {
        /// Of what.
        surface: Surface,
        /// The two coordinates, mm.
        #[schema(value_type = Vec<f64>)]
        at: [f64; 2],
    },
    /// A measured dimension of a thing in the way, or its doubt.
    Thing {
        /// Identifier.
        id: String,
        /// Its doubt is meant, one standard deviation.
        doubt: bool,
    },
    /// A choice in the document.
    Choice {
        /// JSON Pointer.
        pointer: String,
    },
    /// A named constant of the rules.
    Rule {
        /// Its name.
        name: String,
    },
}

/// A length, mm, and how it was made.
#[derive(Debug, Clone, PartialEq)]
pub struct Value {
    /// The number.
    pub mm: f64,
    made: Arc<Made>,
}

#[derive(Debug, PartialEq)]
struct Made {
    /// What it is called; empty for a sum on its way.
    label: String,
    how: How,
}

#[derive(Debug, PartialEq)]
enum How {
    Leaf(Source),
    /// Each so many times.
    Sum(Vec<(f64, Value)>),
}

impl Value {
    /// A number with a source.
    pub fn leaf(source: Source, label: impl Into<String>, mm: f64) -> Value {
        Value {
            mm,
            made: Arc::new(Made {
                label: label.into(),
                how: How::Leaf(source),
            }),
        }
    }

    /// A choice in the document at `pointer`.
    pub fn choice(pointer: impl Into<String>, label: impl Into<String>, mm: f64) -> Value {
        let pointer = pointer.into();
        Value::leaf(Source::Choice { pointer }, label, mm)
    }

    /// A named constant of the rules.
    pub fn rule(name: impl Into<String>, label: impl Into<String>, mm: f64) -> Value {
        Value::leaf(Source::Rule { name: name.into() }, label, mm)
    }

    /// Nothing: where a sum begins.
    pub fn zero() -> Value {
        Value::sum(String::new(), vec![])
    }

    fn sum(label: String, items: Vec<(f64, Value)>) -> Value {
        Value {
            mm: items.iter().map(|(k, v)| k * v.mm).sum(),
            made: Arc::new(Made {
                label,
                how: How::Sum(items),
            }),
        }
    }

    /// The same under a name: one line in what is made of it.
    #[must_use]
    pub fn named(self, label: impl Into<String>) -> Value {
        let label = label.into();
        let made = match &self.made.how {
            How::Leaf(source) => How::Leaf(source.clone()),
            // A name over a name keeps both.
            How::Sum(_) if !self.made.label.is_empty() => How::Sum(vec![(1.0, self.clone())]),
            How::Sum(items) => How::Sum(items.clone()),
        };
        Value {
            mm: self.mm,
            made: Arc::new(Made { label, how: made }),
        }
    }

    /// `share` of the way from this to `other`.
    pub fn towards(&self, other: &Value, share: f64) -> Value {
        /// Nearer to an end than this is at it.
        const AT: f64 = 1e-5;
        if share.abs() < AT {
            return self.clone();
        }
        if (share - 1.0).abs() < AT {
            return other.clone();
        }
        self.clone() * (1.0 - share) + other.clone() * share
    }

    /// The larger of two.
    #[must_use]
    pub fn max(self, other: Value) -> Value {
        if other.mm > self.mm { other } else { self }
    }

    /// Its lines: a sum's own, or itself.
    fn items(&self) -> Vec<(f64, Value)> {
        match &self.made.how {
            How::Sum(items) if self.made.label.is_empty() => items.clone(),
            _ => vec![(1.0, self.clone())],
        }
    }

    /// The lines of a number, for people.
    pub fn why(&self, about: impl Into<String>, w: &Writer) -> Why {
        let items = match &self.made.how {
            How::Sum(items) => items.clone(),
            How::Leaf(_) => vec![(1.0, self.clone())],
        };
        Why {
            about: about.into(),
            total: w.figure(self.mm),
            steps: steps(&items, w),
        }
    }
}

fn steps(items: &[(f64, Value)], w: &Writer) -> Vec<Step> {
    let first = |i: usize| if i == 0 { "" } else { "+" };
    let line = |(i, (k, v)): (usize, &(f64, Value))| {
        let (source, nested) = match &v.made.how {
            How::Leaf(source) => (Some(source.clone()), vec![]),
            // A name for another name alone says nothing more.
            How::Sum(items) => (None, steps(items, w)),
        };
        Step {
            op: if *k < 0.0 { "-" } else { first(i) }.into(),
            label: times(k.abs(), &v.made.label),
            figure: Some(w.figure(k.abs() * v.mm)),
            times: k.abs(),
            source,
            steps: nested,
        }
    };
    items.iter().enumerate().map(line).collect()
}

/// `2 x the side`, `the width / 3`, `0.7 x doubt here`.
fn times(k: f64, label: &str) -> String {
    let near = |a: f64, b: f64| (a - b).abs() < SAME;
    // A slight slant is in the number, not in the words.
    if (k - 1.0).abs() < 5e-4 {
        label.into()
    } else if k > 0.0 && k < 1.0 && near((1.0 / k).round(), 1.0 / k) {
        format!("{label} / {}", (1.0 / k).round())
    } else {
        let digits = format!("{k:.3}");
        format!(
            "{} x {label}",
            digits.trim_end_matches('0').trim_end_matches('.')
        )
    }
}

impl Add for Value {
    type Output = Value;

    fn add(self, other: Value) -> Value {
        let mut items = self.items();
        for (k, v) in other.items() {
            match items.iter_mut().find(|(_, old)| *old == v) {
                Some(old) => old.0 += k,
                None => items.push((k, v)),
            }
        }
        items.retain(|(k, _)| k.abs() > SAME);
        Value::sum(String::new(), items)
    }
}

impl Mul<f64> for Value {
    type Output = Value;

    fn mul(self, k: f64) -> Value {
        let items = self.items().into_iter();
        Value::sum(String::new(), items.map(|(f, v)| (f * k, v)).collect())
    }
}

impl Neg for Value {
    type Output = Value;

    fn neg(self) -> Value {
        self * -1.0
    }
}

impl Sub for Value {
    type Output = Value;

    fn sub(self, other: Value) -> Value {
        self + -other
    }
}

macro_rules! by_reference {
    ($op:ident, $f:ident) => {
        impl $op<&Value> for &Value {
            type Output = Value;
            fn $f(self, other: &Value) -> Value {
                self.clone().$f(other.clone())
            }
        }
        impl $op<Value> for &Value {
            type Output = Value;
            fn $f(self, other: Value) -> Value {
                self.clone().$f(other)
            }
        }
        impl $op<&Value> for Value {
            type Output = Value;
            fn $f(self, other: &Value) -> Value {
                self.$f(other.clone())
            }
        }
    };
}
by_reference!(Add, add);
by_reference!(Sub, sub);

impl Mul<f64> for &Value {
    type Output = Value;

    fn mul(self, k: f64) -> Value {
        self.clone() * k
    }
}
