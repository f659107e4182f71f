//! Projects at random: a plain vehicle of some size, surveyed, in either system of units, with a few pieces of furniture.

use jigfit_core::furniture::KINDS;
use rand::seq::IndexedRandom;
use rand::{Rng, SeedableRng};
use rand_chacha::ChaCha8Rng;
use serde_json::{Value, json};

use super::{add, reading, wall};

/// The project of that number: the same number gives the same project. It has at least one piece.
pub fn random(seed: u64) -> Value {
    let mut rng = ChaCha8Rng::seed_from_u64(seed);
    let inches = rng.random_bool(0.5);
    let long: f64 = rng.random_range(1500.0..3200.0);
    let half: f64 = rng.random_range(560.0..900.0);
    let roof: f64 = rng.random_range(1000.0..1900.0);
    let mut doc = json!({
        "format": "jigfit-project", "version": 3, "name": format!("Random {seed}"), "vehicle": {"kind": "van"},
        "survey": {"sd": 1.0, "levels": {"l1": {"z": 0, "name": "floor"}, "l2": {"z": 500, "name": "up"}}, "readings": {}},
        "modules": {},
    });
    if inches {
        doc["units"] = json!({"system": "in", "tape": "in"});
    }
    let mut all = vec![
        (
            json!({"of": "opening", "dim": "width_floor"}),
            2.0 * half - 150.0,
        ),
        (
            json!({"of": "opening", "dim": "width_top"}),
            2.0 * half - 200.0,
        ),
        (json!({"of": "opening", "dim": "height"}), roof - 80.0),
        (json!({"of": "roof", "x": long / 2.0}), roof),
    ];
    for z in [0.0, 500.0] {
        all.push((json!({"of": "length", "z": z}), long));
        for x in [0.0, long / 3.0, 2.0 * long / 3.0, long] {
            for side in ["left", "right"] {
                let lean = if side == "left" { 0.02 } else { 0.03 };
                all.push((
                    wall(side, x.round(), z),
                    half - lean * z + rng.random_range(-1.0..1.0),
                ));
            }
        }
    }
    for (i, (q, mm)) in all.into_iter().enumerate() {
        doc["survey"]["readings"][format!("r{i:02}")] = reading(q, &format!("{mm:.1}"));
    }
    let n = rng.random_range(1..4);
    while doc["modules"].as_object().map_or(0, serde_json::Map::len) < n {
        let Some(kind) = KINDS.choose(&mut rng) else {
            break;
        };
        // Where the vehicle has no room for one, another is tried; a deck always finds some.
        if add(&mut doc, kind.name(), &[]).is_err() && doc["modules"] == json!({}) {
            let _ = add(&mut doc, "box_seat", &[]);
        }
        if rng.random_bool(0.1) {
            break;
        }
    }
    if doc["modules"] == json!({}) {
        add(&mut doc, "deck", &[]).unwrap();
    }
    doc
}
