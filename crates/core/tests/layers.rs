//! The layers of the core: what each folder imports lies above it in this list, so that there is no circle.

use std::fs;
use std::path::{Path, PathBuf};

/// From the ground up: a folder uses the ones before it, never those after it.
const LAYERS: [&str; 38] = [
    "side_by_side",
    "units",
    "problem",
    "input",
    "geometry",
    "mechanics",
    "network",
    "project",
    "curves",
    "survey",
    "protocol",
    "template",
    "heights",
    "furniture",
    "stow",
    "transfer",
    "handles",
    "parts",
    "boards",
    "weight",
    "projection",
    "solids",
    "joints",
    "holds",
    "tools",
    "assembly",
    "testfit",
    "motion",
    "evening",
    "sweep",
    "cutting",
    "cushions",
    "checks",
    "plan",
    "remedies",
    "starts",
    "compare",
    "compute",
];

fn files(dir: &Path) -> Vec<PathBuf> {
    let entries = fs::read_dir(dir).unwrap().map(|e| e.unwrap().path());
    entries
        .flat_map(|p| if p.is_dir() { files(&p) } else { vec![p] })
        .collect()
}

/// The folder, or the file at the top, that a source file belongs to.
fn layer(root: &Path, file: &Path) -> String {
    let inside = file.strip_prefix(root).unwrap();
    let first = inside.components().next().unwrap();
    let first = first.as_os_str().to_str().unwrap();
    first.trim_end_matches(".rs").to_string()
}

#[test]
fn nothing_imports_from_a_higher_layer() {
    let root = Path::new(env!("CARGO_MANIFEST_DIR")).join("../src");
    let place = |name: &str| LAYERS.iter().position(|l| *l == name);
    let mut imports = 0;
    for file in files(&root) {
        let own = layer(&root, &file);
        if own == "lib" {
            continue;
        }
        let here = place(&own).unwrap_or_else(|| panic!("{own} has no layer"));
        let text = fs::read_to_string(&file).unwrap();
        for rest in text.split("crate::").skip(1) {
            let end = rest.find(|c: char| !c.is_alphanumeric() && c != '_');
            let name = &rest[..end.unwrap_or(rest.len())];
            let Some(there) = place(name) else {
                panic!("{}: crate::{name} is no layer", file.display());
            };
            imports += 1;
            assert!(there <= here, "{} uses {name}", file.display());
        }
    }
    assert!(imports > 300, "{imports}");
}

/// A judgement reads what a piece says of itself; which kind it is, it never asks.
#[test]
fn no_judgement_knows_a_kind() {
    let facts = ["built", "platform", "riding", "kit"];
    let root = Path::new(env!("CARGO_MANIFEST_DIR")).join("../src/checks");
    let mut imports = 0;
    for file in files(&root) {
        let text = fs::read_to_string(&file).unwrap();
        let name = file.display();
        assert!(!text.contains("project::deck"), "{name}");
        for rest in text.split("furniture::").skip(1) {
            let end = rest.find(|c: char| !c.is_alphanumeric() && c != '_');
            let of = &rest[..end.unwrap_or(rest.len())];
            assert!(facts.contains(&of), "{name} uses furniture::{of}");
            imports += 1;
        }
    }
    assert!(imports > 20, "{imports}");
}
