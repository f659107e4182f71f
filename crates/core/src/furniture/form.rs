//! Choices of a kind: read, described, and asked for.

use serde::Serialize;
use serde::de::DeserializeOwned;
use serde_json::{Map, Value};
use utoipa::openapi::{RefOr, Schema};
use utoipa::{PartialSchema, ToSchema};

use super::{Field, FieldValue, Site};
use crate::input::{escape, from_value};
use crate::problem::Problem;
use crate::project::module::Module;
use crate::units::figure::Writer;

/// The choices of a module, typed.
///
/// # Errors
/// What does not belong there, with its pointer below the module.
pub fn choices<T: DeserializeOwned>(module: &Module) -> Result<T, Problem> {
    from_value(Value::Object(module.choices.clone())).map_err(|p| p.under("/choices"))
}

/// The choices with all that were not made; as they are, if they cannot be read.
pub fn complete<T: DeserializeOwned + Serialize>(
    choices: &Map<String, Value>,
) -> Map<String, Value> {
    let read = from_value::<T>(Value::Object(choices.clone())).ok();
    match read.and_then(|all| serde_json::to_value(all).ok()) {
        Some(Value::Object(map)) => map,
        _ => choices.clone(),
    }
}

/// JSON Schema of a type of choices, complete in itself.
pub fn schema<T: ToSchema + PartialSchema>() -> Value {
    let mut parts: Vec<(String, RefOr<Schema>)> = Vec::new();
    T::schemas(&mut parts);
    let mut out = serde_json::to_value(T::schema()).unwrap_or_default();
    let defs: Map<String, Value> = parts
        .into_iter()
        .map(|(name, schema)| (name, serde_json::to_value(schema).unwrap_or_default()))
        .collect();
    if let Some(object) = out.as_object_mut() {
        object.insert("$defs".into(), Value::Object(defs));
    }
    point_inside(&mut out);
    out
}

/// References lead to the definitions beside them.
fn point_inside(value: &mut Value) {
    match value {
        Value::Object(map) => map.values_mut().for_each(point_inside),
        Value::Array(list) => list.iter_mut().for_each(point_inside),
        Value::String(s) => {
            if let Some(name) = s.strip_prefix("#/components/schemas/") {
                *s = format!("#/$defs/{name}");
            }
        }
        _ => {}
    }
}

/// Writes the fields of one module.
pub struct Form {
    at: String,
    choices: Value,
    w: Writer,
}

impl Form {
    /// For the module of the site with these choices.
    pub fn new(site: &Site, choices: &impl Serialize) -> Form {
        Form {
            at: format!("/modules/{}", escape(site.id)),
            choices: serde_json::to_value(choices).unwrap_or_default(),
            w: site.w,
        }
    }

    fn field(&self, pointer: String, label: &str, value: FieldValue) -> Field {
        Field {
            pointer,
            label: label.into(),
            value,
            empty: None,
            why: String::new(),
        }
    }

    fn path(&self, path: &str) -> String {
        format!("{}/choices/{path}", self.at)
    }

    /// A length anywhere in the document.
    pub fn at(&self, pointer: String, label: &str, now: Option<f64>) -> Field {
        let now = now.map(|mm| self.w.figure(mm));
        self.field(pointer, label, FieldValue::Length { now })
    }

    /// What covers the faces of a piece: kept free at every wall, and in drawers at every side.
    pub fn finish(&self, module: &Module) -> Field {
        let at = format!("{}/finish", self.at);
        self.at(at, "Coat, carpet or foam", Some(module.finish))
            .why("thickness on a face: kept free at walls and beside what slides")
    }

    /// What covers the edges of a piece beside that.
    pub fn covers(&self, module: &Module) -> [Field; 3] {
        let own = module.covers;
        [
            ("left", own.left),
            ("right", own.right),
            ("front", own.front),
        ]
        .map(|(edge, mm)| {
            let at = format!("{}/covers/{edge}", self.at);
            self.at(at, &format!("Carpet or foam, {edge} edge"), Some(mm))
        })
    }

    /// A length of the choices.
    pub fn length(&self, path: &str, label: &str, now: Option<f64>) -> Field {
        self.at(self.path(path), label, now)
    }

    /// A length of the place.
    pub fn place(&self, path: &str, label: &str, now: f64) -> Field {
        self.at(format!("{}/place/{path}", self.at), label, Some(now))
    }

    /// A whole number.
    pub fn count(&self, path: &str, label: &str, now: Option<u32>) -> Field {
        self.field(self.path(path), label, FieldValue::Count { now })
    }

    /// A short text.
    pub fn text(&self, path: &str, label: &str, now: &str) -> Field {
        let now = now.to_string();
        self.field(self.path(path), label, FieldValue::Text { now })
    }

    /// A mass, kg.
    pub fn mass(&self, path: &str, label: &str, now: f64) -> Field {
        self.field(self.path(path), label, FieldValue::Mass { now })
    }

    /// A material.
    pub fn material(&self, path: &str, label: &str, now: &str) -> Field {
        let now = now.to_string();
        self.field(
            self.path(path),
            label,
            FieldValue::Material { now, bars: false },
        )
    }

    /// A material: a sheet, or what is sold by length.
    pub fn material_or_bar(&self, path: &str, label: &str, now: &str) -> Field {
        let now = now.to_string();
        self.field(
            self.path(path),
            label,
            FieldValue::Material { now, bars: true },
        )
    }

    /// One of several: value and words.
    pub fn choice(&self, path: &str, label: &str, options: &[(&str, &str)]) -> Field {
        let now = self.choices.pointer(&format!("/{path}"));
        let now = now.and_then(Value::as_str).unwrap_or("");
        self.one_of(self.path(path), label, now, options)
    }

    /// One of several, or none of them.
    pub fn some_of(
        &self,
        path: &str,
        label: &str,
        now: Option<&str>,
        options: Vec<(String, String)>,
    ) -> Field {
        let now = now.unwrap_or("").into();
        self.field(self.path(path), label, FieldValue::Choice { now, options })
    }

    /// The same anywhere in the document.
    pub fn one_of(&self, at: String, label: &str, now: &str, options: &[(&str, &str)]) -> Field {
        let options = options.iter().map(|(v, w)| ((*v).into(), (*w).into()));
        let value = FieldValue::Choice {
            now: now.into(),
            options: options.collect(),
        };
        self.field(at, label, value)
    }

    /// Where it begins along the bay: off the threshold, after another piece or in front of a thing, or halfway from there
    /// to the front. The things come last: they are asked elsewhere.
    pub fn along(&self, module: &Module, site: &Site) -> (Vec<Field>, Field) {
        let place = &module.place;
        let off = match (&place.after, &place.against) {
            (Some(_), _) => "Off that piece",
            (None, Some(_)) => "Off that",
            (None, None) => "From the threshold",
        };
        let things = site.project.survey.things.iter();
        let things = things.map(|(id, t)| (id.clone(), format!("in front of the {}", t.name)));
        let at = format!("{}/place/against", self.at);
        let none = [(String::new(), "nothing".to_string())];
        let value = FieldValue::Choice {
            now: place.against.clone().unwrap_or_default(),
            options: none.into_iter().chain(things).collect(),
        };
        let against = self.field(at, "Against", value);
        let from = self.relation(
            site,
            ("after", "Begins"),
            &place.after,
            ("at the threshold", "after the"),
        );
        let halfway = self.one_of(
            format!("{}/place/lengthwise", self.at),
            "Along",
            if place.lengthwise.is_off() {
                "off"
            } else {
                "middle"
            },
            &[("off", "so far off"), ("middle", "halfway to the front")],
        );
        let mut fields = vec![from, halfway];
        if place.lengthwise.is_off() {
            fields.push(self.place("along", off, place.along));
        }
        (fields, against)
    }

    /// The piece beside which it stands.
    pub fn beside(&self, module: &Module, site: &Site) -> Field {
        let now = &module.place.beside;
        self.relation(site, ("beside", "Beside"), now, ("nothing", "the"))
            .why("on its left or right as it stands, in the middle towards the middle")
    }

    /// What it stands on: the floor, or another piece.
    pub fn on(&self, module: &Module, site: &Site) -> Field {
        self.relation(site, ("on", "On"), &module.place.on, ("the floor", "the"))
    }

    fn relation(
        &self,
        site: &Site,
        (field, label): (&str, &str),
        now: &Option<String>,
        (none, some): (&str, &str),
    ) -> Field {
        let others = site.project.modules.iter().filter(|(id, _)| *id != site.id);
        let others = others.map(|(id, m)| (id.clone(), format!("{some} {}", m.called())));
        let none = [(String::new(), none.to_string())];
        let value = FieldValue::Choice {
            now: now.clone().unwrap_or_default(),
            options: none.into_iter().chain(others).collect(),
        };
        self.field(format!("{}/place/{field}", self.at), label, value)
    }

    /// Across the bay: at a wall or in the middle.
    pub fn walls(&self, module: &Module) -> Field {
        let now = serde_json::to_value(module.place.across).unwrap_or_default();
        let at = format!("{}/place/across", self.at);
        let options = [
            ("left_wall", "at the left wall"),
            ("right_wall", "at the right wall"),
            ("centred", "in the middle"),
        ];
        self.one_of(at, "Stands", now.as_str().unwrap_or(""), &options)
    }
}

impl Field {
    /// With what an empty field means.
    #[must_use]
    pub fn empty(mut self, words: &str) -> Field {
        self.empty = Some(words.into());
        self
    }

    /// With what it decides or what is allowed.
    #[must_use]
    pub fn why(mut self, words: &str) -> Field {
        self.why = words.into();
        self
    }
}
