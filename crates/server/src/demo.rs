//! The two demo projects.

use jigfit_core::problem::Problem;
use jigfit_core::project::Project;
use jigfit_store::{Store, StoreError};

use crate::app::now;

const DEMOS: [(&str, &str); 2] = [
    ("kingfisher", include_str!("../demo/kingfisher.json")),
    ("moth", include_str!("../demo/moth.json")),
];

/// Stores the demo projects that are not there yet, the van last so that it heads the list, and
/// returns their identifiers.
///
/// # Errors
/// Database trouble.
pub fn load(store: &mut Store) -> Result<Vec<String>, StoreError> {
    let mut ids = Vec::new();
    for (id, text) in DEMOS {
        if !store.exists(id)? {
            let value = serde_json::from_str(text)
                .map_err(|e| Problem::shape("", format!("demo {id}: {e}")))?;
            store.create(id, &Project::read(value)?, &now())?;
        }
        ids.push(id.to_string());
    }
    Ok(ids)
}
