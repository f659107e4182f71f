//! The API through its own router: statuses, problems, merging, limits, headers.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)]

use axum::body::{Body, to_bytes};
use axum::http::{Request, StatusCode};
use jigfit_server::app::{App, router};
use jigfit_server::{api, demo};
use jigfit_store::Store;
use rstest::rstest;
use serde_json::{Value, json};
use tower::ServiceExt;

fn app() -> axum::Router {
    let mut store = Store::in_memory().unwrap();
    demo::load(&mut store).unwrap();
    let (app, stop) = App::new(store);
    // The server lives as long as the test.
    std::mem::forget(stop);
    router(app)
}

struct Answer {
    status: StatusCode,
    headers: axum::http::HeaderMap,
    body: Value,
}

async fn send(
    app: &axum::Router,
    method: &str,
    path: &str,
    headers: &[(&str, &str)],
    body: impl Into<Body>,
) -> Answer {
    let mut request = Request::builder()
        .method(method)
        .uri(path)
        .header("host", "127.0.0.1:1");
    for (k, v) in headers {
        if *k == "host" {
            request = Request::builder().method(method).uri(path);
        }
        request = request.header(*k, *v);
    }
    let response = app
        .clone()
        .oneshot(request.body(body.into()).unwrap())
        .await
        .unwrap();
    let status = response.status();
    let headers = response.headers().clone();
    let bytes = to_bytes(response.into_body(), usize::MAX).await.unwrap();
    let body = serde_json::from_slice(&bytes).unwrap_or(Value::Null);
    Answer {
        status,
        headers,
        body,
    }
}

async fn get(app: &axum::Router, path: &str) -> Answer {
    send(app, "GET", path, &[], "").await
}

async fn post(app: &axum::Router, path: &str, body: Value) -> Answer {
    send(app, "POST", path, &[], body.to_string()).await
}

async fn edit(app: &axum::Router, base: u32, patch: Value) -> Answer {
    send(
        app,
        "PATCH",
        "/api/projects/moth",
        &[("if-match", &base.to_string())],
        patch.to_string(),
    )
    .await
}

#[tokio::test]
async fn a_new_project_from_nothing_to_its_first_answer() {
    let app = app();
    let made = post(
        &app,
        "/api/projects",
        json!({"name": "My Van!", "kind": "van"}),
    )
    .await;
    assert_eq!(made.status, StatusCode::CREATED);
    assert_eq!(made.body["id"], "my-van");
    assert_eq!(made.body["plan"]["asks"][0]["key"], "length.0");
    let again = post(
        &app,
        "/api/projects",
        json!({"name": "My Van!", "kind": "van"}),
    )
    .await;
    assert_eq!(again.body["id"], "my-van-2");
    assert_eq!(
        get(&app, "/api/projects")
            .await
            .body
            .as_array()
            .unwrap()
            .len(),
        4
    );
}

#[tokio::test]
async fn loading_the_demo_twice_does_not_double_it() {
    let app = app();
    post(&app, "/api/demo", json!({})).await;
    post(&app, "/api/demo", json!({})).await;
    assert_eq!(
        get(&app, "/api/projects")
            .await
            .body
            .as_array()
            .unwrap()
            .len(),
        2
    );
}

#[tokio::test]
async fn edits_merge_conflict_undo() {
    let app = app();
    let one = edit(
        &app,
        1,
        json!([{"op": "add", "path": "/gear/water/h", "value": 300}]),
    )
    .await;
    assert_eq!(one.status, StatusCode::OK);
    assert_eq!(one.body["revision"], 2);
    let two = edit(
        &app,
        1,
        json!([{"op": "add", "path": "/gear/power/h", "value": 200}]),
    )
    .await;
    assert_eq!(two.body["project"]["gear"]["water"]["h"], 300.0);
    let clash = edit(
        &app,
        1,
        json!([{"op": "add", "path": "/gear/water/h", "value": 310}]),
    )
    .await;
    assert_eq!(clash.status, StatusCode::CONFLICT);
    assert_eq!(clash.headers["content-type"], "application/problem+json");
    assert_eq!(clash.body["conflicts"][0]["theirs"], 300.0);
    assert_eq!(clash.body["conflicts"][0]["yours"], 310);
    assert_eq!(clash.body["revision"], 3);
    let undone = post(&app, "/api/projects/moth/undo", json!({})).await;
    assert_eq!(undone.body["project"]["gear"]["power"]["h"], 228.0);
    assert_eq!(undone.body["can_redo"], true);
    let redone = post(&app, "/api/projects/moth/redo", json!({})).await;
    assert_eq!(redone.body["project"]["gear"]["power"]["h"], 200.0);
    let nothing = post(&app, "/api/projects/moth/redo", json!({})).await;
    assert_eq!(nothing.status, StatusCode::CONFLICT);
}

#[tokio::test]
async fn preview_stores_nothing() {
    let app = app();
    let patch = json!([{"op": "add", "path": "/modules/deck/underside", "value": 348}]);
    let seen = post(&app, "/api/projects/moth/preview", patch).await;
    assert_eq!(seen.body["ladder"]["chosen"]["underside"]["value"], 348.0);
    assert_eq!(get(&app, "/api/projects/moth").await.body["revision"], 1);
}

#[tokio::test]
async fn versions_are_named_and_brought_back() {
    let app = app();
    let named = post(
        &app,
        "/api/projects/moth/versions",
        json!({"name": "before I cut the deck"}),
    )
    .await;
    assert_eq!(named.status, StatusCode::CREATED);
    edit(&app, 1, json!([{"op": "remove", "path": "/gear/water"}])).await;
    let back = post(
        &app,
        "/api/projects/moth/restore",
        json!({"name": "before I cut the deck"}),
    )
    .await;
    assert_eq!(back.body["project"]["gear"]["water"]["h"], 338.0);
    let listed = get(&app, "/api/projects/moth/versions").await;
    assert_eq!(listed.body[0]["revision"], 1);
}

#[rstest]
#[case("PATCH", "/api/projects/moth", "[]", 428)]
#[case("GET", "/api/projects/ghost", "", 404)]
#[case("GET", "/api/nothing", "", 404)]
#[case("GET", "/missing.js", "", 404)]
#[case("DELETE", "/api/projects", "", 405)]
#[case("POST", "/api/projects", "{", 400)]
#[case(
    "POST",
    "/api/projects",
    "{\"name\": \"x\", \"kind\": \"zeppelin\"}",
    422
)]
#[case("POST", "/api/projects", "{\"name\": \"\", \"kind\": \"van\"}", 422)]
#[case(
    "POST",
    "/api/projects",
    "{\"name\": \"x\", \"kind\": \"van\", \"more\": 1}",
    422
)]
#[case("POST", "/api/projects/import", "\"\\ud800\"", 400)]
#[case(
    "POST",
    "/api/projects/import",
    "{\"format\": \"jigfit-project\", \"version\": 99}",
    422
)]
#[case("GET", "/api/projects/moth/export/parts.dwg", "", 404)]
#[case("POST", "/api/compute/horoscope", "{}", 404)]
#[case("POST", "/api/compute/tape", "{nope", 400)]
#[case("POST", "/api/compute/tape", "{\"entries\": [], \"x\": 1}", 422)]
#[case(
    "POST",
    "/api/compute/pass",
    "{\"panel\": [1e999, 1], \"thickness\": 1, \"opening\": [1, 1]}",
    422
)]
#[tokio::test]
async fn what_is_wrong_is_a_problem(
    #[case] method: &str,
    #[case] path: &str,
    #[case] body: &str,
    #[case] status: u16,
) {
    let answer = send(&app(), method, path, &[], body.to_string()).await;
    assert_eq!(answer.status.as_u16(), status, "{}", answer.body);
    assert_eq!(answer.headers["content-type"], "application/problem+json");
    for field in ["type", "title", "detail", "pointer"] {
        assert!(answer.body[field].is_string(), "{field} in {}", answer.body);
    }
}

#[tokio::test]
async fn fifty_megabytes_are_refused_and_nothing_is_stored() {
    let app = app();
    let answer = send(
        &app,
        "POST",
        "/api/projects/import",
        &[],
        vec![b' '; 50 << 20],
    )
    .await;
    assert_eq!(answer.status, StatusCode::PAYLOAD_TOO_LARGE);
    assert_eq!(answer.body["allowed"], "at most 16 MB");
    assert_eq!(
        get(&app, "/api/projects")
            .await
            .body
            .as_array()
            .unwrap()
            .len(),
        2
    );
}

#[rstest]
#[case(&[("host", "example.org")])]
#[case(&[("host", "127.0.0.1.example.org")])]
#[case(&[("origin", "http://example.org")])]
#[case(&[("origin", "null")])]
#[tokio::test]
async fn strangers_are_refused(#[case] headers: &[(&str, &str)]) {
    let answer = send(&app(), "GET", "/api/projects", headers, "").await;
    assert_eq!(answer.status, StatusCode::FORBIDDEN);
}

#[tokio::test]
async fn every_answer_has_the_security_headers_and_a_request_id() {
    let app = app();
    for path in ["/healthz", "/api/projects/ghost", "/"] {
        let answer = get(&app, path).await;
        let policy = answer.headers["content-security-policy"].to_str().unwrap();
        assert!(policy.contains("default-src 'none'") && !policy.contains("unsafe"));
        assert_eq!(answer.headers["x-content-type-options"], "nosniff");
        assert!(answer.headers.contains_key("x-request-id"));
    }
    assert_eq!(get(&app, "/healthz").await.body["status"], "ok");
}

#[tokio::test]
async fn a_batch_answers_each_element() {
    let answer = post(
        &app(),
        "/api/compute/tape",
        json!([{"entries": ["1"], "unit": "in"}, {"entries": 5}, {"entries": ["2 ft"]}]),
    )
    .await;
    assert_eq!(answer.status, StatusCode::OK);
    assert_eq!(answer.body[0]["results"][0]["mm"], 25.4);
    assert_eq!(answer.body[1]["error"]["pointer"], "/entries");
    assert_eq!(answer.body[2]["results"][0]["mm"], 609.6);
}

#[rstest]
#[case("project.json", "application/json", "{")]
#[case("readings.csv", "text/csv", "reading,")]
#[case("parts.svg", "image/svg+xml", "<?xml")]
#[case("parts.pdf", "application/pdf", "%PDF-")]
#[case("sheets.svg", "image/svg+xml", "<?xml")]
#[case("sheets.pdf", "application/pdf", "%PDF-")]
#[case("cuts.csv", "text/csv", "row,")]
#[tokio::test]
async fn exports(#[case] kind: &str, #[case] mime: &str, #[case] starts: &str) {
    let request = Request::builder()
        .uri(format!("/api/projects/moth/export/{kind}"))
        .header("host", "localhost")
        .body(Body::empty())
        .unwrap();
    let response = app().oneshot(request).await.unwrap();
    assert_eq!(response.status(), StatusCode::OK);
    assert!(
        response.headers()["content-type"]
            .to_str()
            .unwrap()
            .starts_with(mime)
    );
    let bytes = to_bytes(response.into_body(), usize::MAX).await.unwrap();
    assert!(bytes.starts_with(starts.as_bytes()));
}

#[tokio::test]
async fn what_is_exported_imports_again() {
    let app = app();
    let file = get(&app, "/api/projects/moth/export/project.json")
        .await
        .body;
    let taken = post(&app, "/api/projects/import", file.clone()).await;
    assert_eq!(taken.status, StatusCode::CREATED);
    assert_eq!(taken.body["id"], "moth-2");
    assert_eq!(taken.body["project"], file);
}

/// The document that is checked in is the one the handlers describe: `make openapi` refreshes it.
#[test]
fn openapi_is_fresh() {
    let path = format!("{}/../../web/openapi.json", env!("CARGO_MANIFEST_DIR"));
    let stored: Value = serde_json::from_str(&std::fs::read_to_string(path).unwrap()).unwrap();
    assert!(
        stored == serde_json::to_value(api::document()).unwrap(),
        "run make openapi"
    );
}

async fn next_event(events: &mut axum::body::BodyDataStream) -> String {
    use futures_util::StreamExt;
    String::from_utf8(events.next().await.unwrap().unwrap().to_vec()).unwrap()
}

async fn listen(app: &axum::Router, id: &str) -> (StatusCode, axum::body::BodyDataStream) {
    let request = Request::builder()
        .uri(format!("/api/projects/{id}/events"))
        .header("host", "127.0.0.1:1")
        .body(Body::empty())
        .unwrap();
    let response = app.clone().oneshot(request).await.unwrap();
    (response.status(), response.into_body().into_data_stream())
}

/// A window is told of the state there is when it begins to listen, so that an edit between its first
/// look and that moment is not missed; then of every edit, of its own project only.
#[tokio::test]
async fn an_open_window_misses_nothing() {
    let app = app();
    let water = |h: u32| json!([{"op": "add", "path": "/gear/water/h", "value": h}]);
    edit(&app, 1, water(301)).await;
    let (status, mut events) = listen(&app, "moth").await;
    assert_eq!(status, StatusCode::OK);
    assert_eq!(next_event(&mut events).await, "event: change\ndata: 2\n\n");
    let other = json!([{"op": "add", "path": "/name", "value": "Halcyon"}]).to_string();
    send(
        &app,
        "PATCH",
        "/api/projects/kingfisher",
        &[("if-match", "1")],
        other,
    )
    .await;
    edit(&app, 2, water(302)).await;
    assert_eq!(next_event(&mut events).await, "event: change\ndata: 3\n\n");
    post(&app, "/api/projects/moth/undo", json!({})).await;
    assert_eq!(next_event(&mut events).await, "event: change\ndata: 4\n\n");
}

#[tokio::test]
async fn nothing_is_heard_of_a_project_that_is_not_there() {
    assert_eq!(listen(&app(), "ghost").await.0, StatusCode::NOT_FOUND);
}

/// A laser's message reaches the open window once, over the live updates; a repeat does not.
#[tokio::test]
async fn the_laser_reaches_the_tape_bar_once() {
    let app = app();
    let (_, mut events) = listen(&app, "moth").await;
    let message = r#"{"device": "t", "seq": 1, "kind": "reading", "mm": 1403.0}"#;
    let path = "/api/projects/moth/laser";
    let first = send(&app, "POST", path, &[], message).await;
    assert_eq!(
        (first.status, &first.body["what"]),
        (StatusCode::OK, &json!("reading"))
    );
    let again = send(&app, "POST", path, &[], message).await;
    assert_eq!(again.body["what"], "duplicate");
    // First the state there is.
    assert!(next_event(&mut events).await.contains("event: change"));
    let event = next_event(&mut events).await;
    assert!(
        event.contains("event: laser") && event.contains("1403"),
        "{event}"
    );
    let bad = send(
        &app,
        "POST",
        path,
        &[],
        r#"{"device": "t", "seq": 2, "kind": "reading", "mm": -4}"#,
    )
    .await;
    assert_eq!(bad.status, StatusCode::UNPROCESSABLE_ENTITY);
    let nowhere = send(&app, "POST", "/api/projects/none/laser", &[], message).await;
    assert_eq!(nowhere.status, StatusCode::NOT_FOUND);
}

/// The simulated laser stands in the vehicle of the demo's name: the left wall of Moth at the threshold
/// is 705 mm from the centre line.
#[tokio::test]
async fn the_simulated_laser_measures_the_vehicle() {
    let app = app();
    let press = json!({"quantity": {"of": "wall", "side": "left", "x": 0, "z": 0}}).to_string();
    let mut read = 0;
    for _ in 0..20 {
        let heard = send(
            &app,
            "POST",
            "/api/projects/moth/laser/press",
            &[],
            press.clone(),
        )
        .await;
        assert_eq!(heard.status, StatusCode::OK);
        if heard.body["what"] == "reading" {
            assert!((heard.body["mm"].as_f64().unwrap() - 705.0).abs() < 6.0);
            read += 1;
        } else {
            assert_eq!(heard.body["what"], "lost");
        }
    }
    assert!(read > 10, "{read}");
    let nothing = json!({"quantity": {"of": "roof", "x": 1e9, "y": 0}}).to_string();
    let answer = send(
        &app,
        "POST",
        "/api/projects/kingfisher/laser/press",
        &[],
        nothing,
    )
    .await;
    assert!(answer.status == StatusCode::OK || answer.status == StatusCode::UNPROCESSABLE_ENTITY);
}

/// A scan is cut and answered with the edit that adds it; the edit is taken; a broken file is refused.
#[tokio::test]
async fn a_scan_becomes_readings() {
    let app = app();
    let mut text = String::from(
        "ply\nformat ascii 1.0\nelement vertex 800\nproperty float x\nproperty float y\nproperty float z\nend_header\n",
    );
    for i in 0..400 {
        // Walls at 600 and -590 from 0 to 1 m, in metres, 400 up.
        let x = f64::from(i) * 0.0025;
        text.push_str(&format!("{x} 0.6 0.4\n{x} -0.59 0.4\n"));
    }
    let path = "/api/projects/kingfisher/scan?heights=400&step=200&scale=1000";
    let cut = send(&app, "POST", path, &[], text).await;
    assert_eq!(cut.status, StatusCode::OK, "{}", cut.body);
    assert_eq!(cut.body["points"], 800);
    let found = cut.body["found"].as_array().unwrap();
    assert!(found.iter().any(
        |f| f["quantity"]["side"] == "left" && (f["mm"].as_f64().unwrap() - 600.0).abs() < 0.1
    ));
    assert!(found.iter().any(
        |f| f["quantity"]["side"] == "right" && (f["mm"].as_f64().unwrap() - 590.0).abs() < 0.1
    ));
    let patch = cut.body["patch"].to_string();
    let stored = send(
        &app,
        "PATCH",
        "/api/projects/kingfisher",
        &[("if-match", "1")],
        patch,
    )
    .await;
    assert_eq!(stored.status, StatusCode::OK, "{}", stored.body);
    let readings = stored.body["project"]["survey"]["readings"]
        .as_object()
        .unwrap();
    assert!(readings.values().any(|r| r["instrument"] == "scan"));
    for (path, body) in [
        ("/api/projects/kingfisher/scan", "not a ply"),
        ("/api/projects/kingfisher/scan?heights=abc", "ply\n"),
        ("/api/projects/kingfisher/scan?pairs=[]&heights=1", "ply\n"),
    ] {
        let refused = send(&app, "POST", path, &[], body).await;
        assert_eq!(refused.status, StatusCode::UNPROCESSABLE_ENTITY, "{path}");
    }
}

/// A table of readings is answered with the edit that adds what is new.
#[tokio::test]
async fn a_table_becomes_readings() {
    let app = app();
    let table = "quantity,value_cm\nwall.left.300.0,71.2\nwall.nowhere,1\n";
    let read = send(&app, "POST", "/api/projects/moth/readings", &[], table).await;
    assert_eq!(read.status, StatusCode::OK);
    assert_eq!(
        (
            &read.body["added"],
            read.body["refused"].as_array().unwrap().len()
        ),
        (&json!(1), 1)
    );
    let patch = read.body["patch"].to_string();
    let stored = send(
        &app,
        "PATCH",
        "/api/projects/moth",
        &[("if-match", "1")],
        patch,
    )
    .await;
    assert_eq!(stored.status, StatusCode::OK);
    let refused = send(
        &app,
        "POST",
        "/api/projects/moth/readings",
        &[],
        "a,b\n1,2\n",
    )
    .await;
    assert_eq!(refused.status, StatusCode::UNPROCESSABLE_ENTITY);
}
