//! The bays of a bench: which are wide as said, which are made for a thing, what closes each in front and above, and where
//! air passes.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::{Bench, End, MOST};
use crate::furniture::Field;
use crate::furniture::form::Form;
use crate::problem::Problem;
use crate::project::Project;
use crate::project::check::{optional, text};
use crate::project::module::named;

/// Clear width of a bay, mm: from, to.
const WIDE: [f64; 2] = [60.0, 2000.0];

/// What closes a bay in front.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum Front {
    /// A board.
    #[default]
    Board,
    /// Nothing.
    Open,
}

/// What closes a bay above.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum Above {
    /// A lid of its own.
    #[default]
    Lid,
    /// A board that is screwed down.
    Top,
    /// Nothing: what stands in it is opened from above.
    Open,
}

/// Where air passes through the boards of a bay.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum Air {
    /// Nowhere.
    #[default]
    None,
    /// Through holes in the front.
    Front,
    /// Through holes in the back.
    Back,
    /// Through holes in both.
    Both,
}

impl Air {
    /// Value and words of all.
    pub const WORDS: [(&'static str, &'static str); 4] = [
        ("none", "no holes"),
        ("front", "holes in front"),
        ("back", "holes at the back"),
        ("both", "holes in front and back"),
    ];

    /// Holes in the front, holes in the back.
    pub fn sides(self) -> [bool; 2] {
        [
            matches!(self, Air::Front | Air::Both),
            matches!(self, Air::Back | Air::Both),
        ]
    }
}

impl Front {
    /// Value and words of all.
    pub const WORDS: [(&'static str, &'static str); 2] = [("board", "a board"), ("open", "open")];
}

impl Above {
    /// Value and words of all.
    pub const WORDS: [(&'static str, &'static str); 3] = [
        ("lid", "its own lid"),
        ("top", "a fixed top"),
        ("open", "open above"),
    ];
}

/// What is chosen about one bay.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields, default)]
pub struct Bay {
    /// What it is called; by its number if empty.
    pub name: String,
    /// Its clear width, mm; as its thing needs, or what is left shared with the others, if null.
    pub width: Option<f64>,
    /// The thing of the stow list that it is made for, by identifier; none if null.
    #[serde(deserialize_with = "named")]
    pub gear: Option<String>,
    /// What closes it in front.
    pub front: Front,
    /// What closes it above.
    pub above: Above,
    /// Where air passes.
    pub air: Air,
}

impl Bench {
    /// How many bays there are.
    pub(super) fn count(&self) -> u32 {
        self.bays.clamp(1, MOST)
    }

    /// The bays from the right, seen from the front; the one of the choice `appliance` open in front under a fixed top.
    pub(super) fn each_bay(&self) -> Vec<Bay> {
        let n = self.count();
        let at = match self.end {
            End::Right => 1,
            End::Left => n,
        };
        let own = |k: u32| self.each.get(&k.to_string()).cloned().unwrap_or_default();
        let bay = |k: u32| match &self.appliance {
            Some(gear) if k == at => Bay {
                gear: Some(gear.clone()),
                front: Front::Open,
                above: Above::Top,
                ..own(k)
            },
            _ => own(k),
        };
        (1..=n).map(bay).collect()
    }

    /// What a thing asks of a bay: width, depth, height, mm; nothing while it is not measured.
    pub(super) fn needs(&self, project: &Project, bay: &Bay) -> Option<[f64; 3]> {
        let g = project.gear.get(bay.gear.as_ref()?)?;
        Some([g.w? + self.fingers, g.d? + g.air, g.h? + g.slide + g.air])
    }

    /// The clear width that is given for a bay, mm.
    pub(super) fn given(&self, project: &Project, bay: &Bay) -> Option<f64> {
        bay.width.or_else(|| Some(self.needs(project, bay)?[0]))
    }
}

/// What a bay is called in a sentence.
pub(super) fn called(bay: &Bay, k: usize) -> String {
    match bay.name.trim() {
        "" => format!("bay {}", k + 1),
        name => name.into(),
    }
}

/// Refuses what cannot be of the bays; pointers begin with `/choices`.
pub(super) fn check(c: &Bench, project: &Project) -> Result<(), Problem> {
    let keys: Vec<String> = (1..=MOST).map(|k| k.to_string()).collect();
    if let Some(key) = c.each.keys().find(|k| !keys.contains(k)) {
        return Err(Problem::impossible(
            format!("/choices/each/{}", crate::input::escape(key)),
            format!("Bays are numbered from 1 to {MOST}, from the right."),
        ));
    }
    let known = |id: &str, at: String| {
        if project.gear.contains_key(id) {
            return Ok(());
        }
        let ids: Vec<&str> = project.gear.keys().map(String::as_str).collect();
        let words = format!("There is nothing \"{id}\" on the stow list.");
        Err(Problem::missing(at, words).allowing(ids.join(", ")))
    };
    if let Some(id) = &c.appliance {
        known(id, "/choices/appliance".into())?;
    }
    for (key, bay) in &c.each {
        let at = format!("/choices/each/{key}");
        text(&bay.name, &format!("{at}/name"))?;
        optional(bay.width, &format!("{at}/width"), WIDE[0], WIDE[1])?;
        if let Some(id) = &bay.gear {
            known(id, format!("{at}/gear"))?;
        }
    }
    let bays = c.each_bay();
    let mut given: Vec<f64> = bays.iter().filter_map(|b| c.given(project, b)).collect();
    if given.is_empty() {
        return Ok(());
    }
    // Where every bay has a width the last one takes what is left of the whole.
    if given.len() == bays.len() {
        given.pop();
    }
    let others = (bays.len() - given.len()) as f64;
    let boards = c.thickness * (bays.len() + 1) as f64;
    let least = boards + given.iter().sum::<f64>() + others * WIDE[0];
    if c.width >= least - 1e-6 {
        return Ok(());
    }
    let w = project.writer();
    Err(Problem::out_of_range(
        "/choices/width",
        format!(
            "The bays and the boards between them need {} of it.",
            w.say(least)
        ),
        format!("at least {}", w.say(least)),
    ))
}

/// The fields of each bay.
pub(super) fn fields(c: &Bench, f: &Form, things: &[(String, String)]) -> Vec<Field> {
    (1..=c.count())
        .flat_map(|k| {
            let bay = c.each.get(&k.to_string()).cloned().unwrap_or_default();
            let at = |field: &str| format!("each/{k}/{field}");
            let label = |what: &str| format!("Bay {k}: {what}");
            let width = f
            .length(&at("width"), &label("width"), bay.width)
            .empty("shares what is left")
            .why(
                "clear, between its boards; bays are numbered from the right, seen from the front",
            );
            vec![
                f.text(&at("name"), &label("called"), &bay.name),
                width,
                f.some_of(
                    &at("gear"),
                    &label("for"),
                    bay.gear.as_deref(),
                    things.to_vec(),
                ),
                f.choice(&at("front"), &label("in front"), &Front::WORDS),
                f.choice(&at("above"), &label("above"), &Above::WORDS),
                f.choice(&at("air"), &label("air"), &Air::WORDS)
                    .why("rows of holes low and high: warm air leaves above"),
            ]
        })
        .collect()
}
