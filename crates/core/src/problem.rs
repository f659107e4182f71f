//! What is wrong with an input, in the shape of RFC 9457.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// A refusal that names the field (`pointer`, a JSON Pointer) and says what is allowed there.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema, thiserror::Error)]
#[error("{title} at {pointer:?}: {detail}")]
pub struct Problem {
    /// URI reference of the kind of problem, for example `urn:jigfit:problem:out-of-range`.
    #[serde(rename = "type")]
    pub kind: String,
    /// The kind in plain words.
    pub title: String,
    /// This occurrence in plain words.
    pub detail: String,
    /// JSON Pointer (RFC 6901) of the field; empty for the whole document.
    pub pointer: String,
    /// What would have been accepted.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub allowed: Option<String>,
    /// Character position in a typed entry, from 0.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub at: Option<usize>,
    /// The number and its range, for whoever knows its unit.
    #[serde(skip)]
    pub range: Option<Range>,
}

/// A number that is out of its range.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Range {
    /// The number.
    pub value: f64,
    /// The least that is allowed.
    pub least: f64,
    /// The most.
    pub most: f64,
}

impl Problem {
    /// A problem of kind `slug` at `pointer`.
    pub fn new(
        slug: &str,
        title: &str,
        pointer: impl Into<String>,
        detail: impl Into<String>,
    ) -> Self {
        Problem {
            kind: format!("urn:jigfit:problem:{slug}"),
            title: title.into(),
            detail: detail.into(),
            pointer: pointer.into(),
            allowed: None,
            at: None,
            range: None,
        }
    }

    /// A number outside its range.
    pub fn out_of_range(
        pointer: impl Into<String>,
        detail: impl Into<String>,
        allowed: impl Into<String>,
    ) -> Self {
        Self::new("out-of-range", "Out of range", pointer, detail).allowing(allowed)
    }

    /// A document or field of the wrong shape.
    pub fn shape(pointer: impl Into<String>, detail: impl Into<String>) -> Self {
        Self::new("shape", "Not what is expected here", pointer, detail)
    }

    /// A reference to something that is not there.
    pub fn missing(pointer: impl Into<String>, detail: impl Into<String>) -> Self {
        Self::new("missing", "Missing", pointer, detail)
    }

    /// An input with which the task has no answer.
    pub fn impossible(pointer: impl Into<String>, detail: impl Into<String>) -> Self {
        Self::new(
            "impossible",
            "No answer with these numbers",
            pointer,
            detail,
        )
    }

    /// Adds what is allowed.
    #[must_use]
    pub fn allowing(mut self, allowed: impl Into<String>) -> Self {
        self.allowed = Some(allowed.into());
        self
    }

    /// Adds the character position.
    #[must_use]
    pub fn at(mut self, at: usize) -> Self {
        self.at = Some(at);
        self
    }

    /// Says the number and its range in the unit that `say` gives them.
    #[must_use]
    pub fn in_units(mut self, say: impl Fn(f64) -> String) -> Self {
        if let Some(Range { value, least, most }) = self.range {
            if value.is_finite() {
                self.detail = format!("{} is not possible here.", say(value));
            }
            self.allowed = Some(format!("{} to {}", say(least), say(most)));
        }
        self
    }

    /// Moves the pointer below `prefix`.
    #[must_use]
    pub fn under(mut self, prefix: &str) -> Self {
        self.pointer = format!("{prefix}{}", self.pointer);
        self
    }
}
