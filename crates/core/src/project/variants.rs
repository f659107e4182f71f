//! Other ways to furnish the same vehicle, kept beside the one that is worked on.

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::Project;
use super::module::Module;
use super::states::{self, State};

/// Furniture by name: the vehicle, the people and what is stowed are the project's.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Variant {
    /// What it is called.
    pub name: String,
    /// Its furniture.
    #[serde(default)]
    pub modules: BTreeMap<String, Module>,
    /// What is open in which state.
    #[serde(default = "states::usual")]
    pub states: BTreeMap<String, State>,
}

impl Project {
    /// The project furnished as the variant has it, without its variants.
    #[must_use]
    pub fn furnished(&self, variant: &Variant) -> Project {
        Project {
            modules: variant.modules.clone(),
            states: variant.states.clone(),
            variants: BTreeMap::new(),
            ..self.clone()
        }
    }
}
