//! How far two points of a drawing lie apart.

use serde_json::json;

/// 3, 4 and 5; 127 mm are 5 in exactly.
#[test]
fn between_two_points() {
    let run = |input| jigfit_core::compute::run("between", input).unwrap();
    let out = run(json!({"from": [10, 20], "to": [13, 24]})).unwrap();
    assert_eq!(out["distance"]["value"], 5.0);
    assert_eq!(
        (out["right"]["value"].as_f64(), out["up"]["value"].as_f64()),
        (Some(3.0), Some(4.0))
    );
    let out = run(json!({"from": [0, 0], "to": [127, 0]})).unwrap();
    assert_eq!(out["distance"]["inch"], "5");
    let problem = run(json!({"from": [0, 0], "to": [1e9, 0]})).unwrap_err();
    assert_eq!(problem.pointer, "/to/0");
}
