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
    if method != "GET" && !headers.iter().any(|(k, _)| *k == "content-type") {
        let address = path.split('?').next().unwrap();
        let kind = match address {
            a if ["/scan", "/curves", "/photo"]
                .iter()
                .any(|e| a.ends_with(e)) =>
            {
                "application/octet-stream"
            }
            a if a.ends_with("/readings") => "text/csv",
            _ => "application/json",
        };
        request = request.header("content-type", kind);
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
        6
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
        4
    );
}

/// *Open the demo* adds all that are missing, deleted ones too.
#[tokio::test]
async fn the_demo_is_opened_whole() {
    let app = app();
    send(&app, "DELETE", "/api/projects/moth", &[], "").await;
    let listed = |all: Answer| all.body.as_array().unwrap().len();
    assert_eq!(listed(get(&app, "/api/projects").await), 3);
    let opened = post(&app, "/api/demo", json!({})).await;
    assert_eq!(listed(opened), 4);
    assert_eq!(listed(get(&app, "/api/projects").await), 4);
}

/// A vehicle's kind is part of what its model follows from: a hull's two sides are no copies of each other.
#[tokio::test]
async fn another_kind_of_vehicle_is_another_model() {
    let app = app();
    let bay = |a: &Answer| a.body["plan"]["survey"]["bays"].to_string();
    let van = get(&app, "/api/projects/kingfisher").await;
    let kind = json!([{"op": "add", "path": "/vehicle/kind", "value": "van"}]);
    let path = "/api/projects/kingfisher";
    let other = send(
        &app,
        "PATCH",
        path,
        &[
            ("content-type", "application/json-patch+json"),
            ("if-match", "\"1\""),
        ],
        kind.to_string(),
    )
    .await;
    assert_eq!(other.status, StatusCode::OK);
    assert!(bay(&van) != bay(&other));
}

/// A search for what helps that has no time finds nothing and says that it did not look at everything.
#[tokio::test]
async fn a_short_search_says_so() {
    let app = app();
    let path = "/api/projects/moth-whole/remedies?finding=moves.bench/lid-2&seconds=0";
    let none = get(&app, path).await;
    assert_eq!(none.status, StatusCode::OK);
    assert_eq!(none.body, json!({"offers": [], "all": false}));
    let long = get(&app, &path.replace("seconds=0", "seconds=1e9")).await;
    assert_eq!(long.status, StatusCode::UNPROCESSABLE_ENTITY);
    assert_eq!(long.body["pointer"], "/seconds");
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
    let patch = json!([{"op": "add", "path": "/modules/deck/choices/underside", "value": 348}]);
    let seen = post(&app, "/api/projects/moth/preview", patch).await;
    assert_eq!(seen.body["ladder"]["chosen"]["underside"]["value"], 348.0);
    assert_eq!(get(&app, "/api/projects/moth").await.body["revision"], 1);
}

/// While something is dragged only what is shown is asked for; what is no field of a plan is named.
#[tokio::test]
async fn a_preview_answers_with_what_is_wanted() {
    let app = app();
    let patch = json!([{"op": "add", "path": "/modules/deck/choices/underside", "value": 348}]);
    let whole = post(&app, "/api/projects/moth/preview", patch.clone()).await;
    let some = post(
        &app,
        "/api/projects/moth/preview?only=ladder,findings",
        patch.clone(),
    )
    .await;
    let keys: Vec<&String> = some.body.as_object().unwrap().keys().collect();
    assert_eq!(keys, ["ladder", "findings"]);
    for key in keys {
        assert_eq!(some.body[key], whole.body[key]);
    }
    for odd in [
        "only=",
        "only=ladder,",
        "only=ladder&only=parts",
        "only=%00",
        "only=constructor",
    ] {
        let refused = post(
            &app,
            &format!("/api/projects/moth/preview?{odd}"),
            patch.clone(),
        )
        .await;
        assert_eq!(refused.status, StatusCode::BAD_REQUEST, "{odd}");
        assert!(refused.body["detail"].is_string(), "{odd}");
    }
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
        4
    );
}

#[rstest]
#[case(&[("host", "example.org")])]
#[case(&[("host", "127.0.0.1.example.org")])]
#[case(&[("origin", "http://example.org")])]
#[case(&[("origin", "null")])]
#[case(&[("origin", "http://localhost:3000")])]
#[case(&[("origin", "http://127.0.0.1")])]
#[case(&[("sec-fetch-site", "cross-site")])]
#[case(&[("sec-fetch-site", "same-site")])]
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

/// What is wanted of an export and is not there is told.
#[rstest]
#[case("boards.dxf?part=Z9", StatusCode::NOT_FOUND, "/part")]
#[case("boards.dxf?release=13", StatusCode::NOT_FOUND, "/release")]
#[case("templates.pdf?paper=b5", StatusCode::NOT_FOUND, "/paper")]
#[case("boards.dxf?colour=red", StatusCode::BAD_REQUEST, "")]
#[tokio::test]
async fn exports_refused(#[case] kind: &str, #[case] status: StatusCode, #[case] pointer: &str) {
    let answer = get(&app(), &format!("/api/projects/moth/export/{kind}")).await;
    assert_eq!(answer.status, status);
    assert_eq!(answer.body["pointer"], pointer);
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
#[case("steps.pdf", "application/pdf", "%PDF-")]
#[case("cuts.csv", "text/csv", "sheet,")]
#[case("parts.csv", "text/csv", "part,")]
#[case("hardware.csv", "text/csv", "what,size,count,spare,for")]
#[case("boards.svg", "image/svg+xml", "<?xml")]
#[case("boards.dxf?part=D1&release=2000", "image/vnd.dxf", "0\r\nSECTION")]
#[case("boards.pdf?part=D1&paper=a3", "application/pdf", "%PDF-")]
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

/// What the document says is so: every refusal is a problem, every write says that it may be refused for
/// what it carries, and a module is not shut out of its own schema.
#[test]
fn openapi_tells_the_truth() {
    let document = serde_json::to_value(api::document()).unwrap();
    let paths = document["paths"].as_object().unwrap();
    assert!(paths.len() > 20);
    for (path, item) in paths.iter().filter(|(p, _)| p.starts_with("/api/")) {
        for (method, operation) in item.as_object().unwrap() {
            let responses = operation["responses"].as_object().unwrap();
            for status in ["401", "403", "500"] {
                assert!(responses.contains_key(status), "{method} {path} {status}");
            }
            assert!(
                method == "get" || responses.contains_key("415"),
                "{method} {path}"
            );
            for (status, response) in responses.iter().filter(|(s, _)| s.as_str() >= "400") {
                let kinds = response["content"].as_object().unwrap();
                let kinds: Vec<_> = kinds.keys().collect();
                assert_eq!(
                    kinds,
                    ["application/problem+json"],
                    "{method} {path} {status}"
                );
            }
        }
    }
    let deck = &document["components"]["schemas"]["Deck"];
    assert_ne!(deck["additionalProperties"], false);
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

/// The simulated laser stands in the vehicle in which the demo put the project: the left wall of Moth
/// at the threshold is 705 mm from the centre line.
#[tokio::test]
async fn the_simulated_laser_measures_the_vehicle() {
    let app = app();
    let press = json!({"quantity": {"of": "wall", "side": "left", "x": 0, "z": 0}});
    let mut read = 0;
    for _ in 0..20 {
        let heard = post(&app, "/api/projects/moth/laser/press", press.clone()).await;
        assert_eq!(heard.status, StatusCode::OK);
        if heard.body["what"] == "reading" {
            assert!((heard.body["mm"].as_f64().unwrap() - 705.0).abs() < 6.0);
            read += 1;
        } else {
            assert_eq!(heard.body["what"], "lost");
        }
    }
    assert!(read > 10, "{read}");
}

/// It answers nowhere else: not in a project of that name, not in a copy of the demo, and never what
/// the other readings lead one to expect.
#[tokio::test]
async fn the_simulated_laser_answers_only_where_the_demo_put_it() {
    let app = app();
    let named = json!({"name": "Moth", "kind": "van"});
    let named = post(&app, "/api/projects", named).await.body;
    let file = get(&app, "/api/projects/moth/export/project.json")
        .await
        .body;
    let taken = post(&app, "/api/projects/import", file).await.body;
    let copied = post(&app, "/api/projects/moth/duplicate", json!({}))
        .await
        .body;
    let press = json!({"quantity": {"of": "wall", "side": "left", "x": 0, "z": 0}});
    for project in [named, taken, copied] {
        let id = project["id"].as_str().unwrap();
        assert_eq!(project["simulated"], false, "{id}");
        let answer = post(
            &app,
            &format!("/api/projects/{id}/laser/press"),
            press.clone(),
        )
        .await;
        assert_eq!(answer.status, StatusCode::UNPROCESSABLE_ENTITY, "{id}");
        assert_eq!(answer.body["mm"], Value::Null);
    }
    // Its name may change: it is still the demo's.
    let renamed = edit(
        &app,
        1,
        json!([{"op": "replace", "path": "/name", "value": "Halcyon"}]),
    )
    .await;
    assert_eq!(renamed.body["simulated"], true);
    // Where the tape cannot be laid the meter says nothing, though the readings would.
    let behind = json!({"quantity": {"of": "wall", "side": "left", "x": 1e9, "z": 0}});
    let answer = post(&app, "/api/projects/moth/laser/press", behind).await;
    assert_eq!(answer.status, StatusCode::UNPROCESSABLE_ENTITY);
}

/// A drawing is read and answered with curves to take; the unit can be said; what cannot be read is told in words.
#[tokio::test]
async fn curves_of_a_file() {
    let app = app();
    let table = "x;y in cm\n0;0\n10;2\n20;0\n";
    let path = "/api/projects/moth/curves";
    let found = send(&app, "POST", path, &[], table).await;
    assert_eq!(found.status, StatusCode::OK);
    assert_eq!(
        (&found.body["unit"], &found.body["sure"]),
        (&json!("cm"), &json!(true))
    );
    let wide = |a: &Answer| a.body["curves"][0]["size"][0]["value"].as_f64().unwrap();
    assert!((wide(&found) - 200.0).abs() < 1e-9);
    let said = send(&app, "POST", &format!("{path}?unit=in"), &[], table).await;
    assert!((wide(&said) - 508.0).abs() < 1e-9);
    // It is a captured curve: the plan has its edge.
    let curve = &found.body["curves"][0]["template"];
    let taken = edit(
        &app,
        1,
        json!([{"op": "add", "path": "/templates/file", "value": curve}]),
    )
    .await;
    assert_eq!(taken.status, StatusCode::OK);
    let all = taken.body["plan"]["templates"].as_array().unwrap();
    let own = all.iter().find(|t| t["id"] == "file").unwrap();
    assert_eq!(own["edge"][0], json!([0.0, 0.0]));
    for (path, body, words) in [
        (path.to_string(), "nothing here", "no curve"),
        (format!("{path}?unit=ell"), table, "no unit"),
    ] {
        let refused = send(&app, "POST", &path, &[], body).await;
        assert_eq!(refused.status, StatusCode::UNPROCESSABLE_ENTITY);
        assert!(refused.body["detail"].as_str().unwrap().contains(words));
    }
}

/// All the way of a drawer: four places, the furthest out by its travel; of what is not there, none.
#[tokio::test]
async fn the_way_of_a_piece() {
    let app = app();
    let path = "/api/projects/moth/sweep";
    let all = send(&app, "GET", &format!("{path}?piece=drawer"), &[], "").await;
    assert_eq!(all.status, StatusCode::OK);
    let shapes = all.body["above"].as_array().unwrap();
    let of = |board: &str| shapes.iter().filter(|s| s["board"] == board).count();
    assert_eq!((of("drawer/face"), of("drawer/carcass-top")), (4, 0));
    for (query, status) in [("?piece=nobody", 422), ("", 400)] {
        let answer = send(&app, "GET", &format!("{path}{query}"), &[], "").await;
        assert_eq!(answer.status.as_u16(), status, "{}", answer.body);
    }
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
    // The same walls as curves that lie in the vehicle: every 30 mm from 15 on, the right one 590 off the middle.
    let sections = cut.body["sections"].as_array().unwrap();
    assert_eq!(sections.len(), 2);
    let right = &sections[1]["template"];
    let place = &right["place"];
    assert_eq!(
        (&place["of"], &place["at"]),
        (&json!("right"), &json!(400.0))
    );
    let first = &place["landmarks"]["first"];
    assert_eq!((&first["a"], &first["u"]), (&json!(0.0), &json!(15.0)));
    assert!((first["v"].as_f64().unwrap() - 590.0).abs() < 0.1);
    let add = json!([{"op": "add", "path": "/templates/scan", "value": right}]);
    let path = "/api/projects/kingfisher";
    let taken = send(&app, "PATCH", path, &[("if-match", "2")], add.to_string()).await;
    assert_eq!(taken.status, StatusCode::OK, "{}", taken.body);
    let all = taken.body["plan"]["templates"].as_array().unwrap();
    let own = all.iter().find(|t| t["id"] == "scan").unwrap();
    let edge: Vec<[f64; 2]> = serde_json::from_value(own["edge"].clone()).unwrap();
    assert!(edge.iter().all(|p| p[1].abs() < 0.1), "{edge:?}");
    for (path, body) in [
        ("/api/projects/kingfisher/scan", "not a ply"),
        ("/api/projects/kingfisher/scan?heights=abc", "ply\n"),
        ("/api/projects/kingfisher/scan?pairs=[]&heights=1", "ply\n"),
    ] {
        let refused = send(&app, "POST", path, &[], body).await;
        assert_eq!(refused.status, StatusCode::UNPROCESSABLE_ENTITY, "{path}");
    }
}

/// Walls of a bay cut across, 600 + 0.1 z off the middle from the floor up to a roof at 1000, with the points of floor and roof and a few strays
/// between them: as curves upwards that lie in the vehicle, on the line within 0.2 mm.
#[tokio::test]
async fn a_scan_cut_across_gives_upright_curves() {
    let app = app();
    let mut points: Vec<[f64; 3]> = vec![];
    for i in 0..=200 {
        let z = f64::from(i) * 5.0;
        for dx in [-4.0, 0.0, 4.0] {
            let out = 600.0 + 0.1 * z;
            points.extend([[700.0 + dx, out, z], [700.0 + dx, -out, z]]);
        }
    }
    for i in -29..30 {
        let y = f64::from(i) * 20.0;
        points.extend([[700.0, y, 0.0], [700.0, y, 1000.0]]);
    }
    points.extend([300.0, 305.0, 310.0, 640.0].map(|z| [702.0, 250.0, z]));
    let mut text = format!(
        "ply\nformat ascii 1.0\nelement vertex {}\nproperty float x\nproperty float y\nproperty float z\nend_header\n",
        points.len()
    );
    for [x, y, z] in &points {
        text.push_str(&format!("{x} {y} {z}\n"));
    }
    let path = "/api/projects/kingfisher/scan?across=700";
    let cut = send(&app, "POST", path, &[], text).await;
    assert_eq!(cut.status, StatusCode::OK, "{}", cut.body);
    let sections = cut.body["sections"].as_array().unwrap();
    assert_eq!(sections.len(), 2);
    for (i, side) in ["left", "right"].into_iter().enumerate() {
        let place = &sections[i]["template"]["place"];
        assert_eq!(
            (&place["of"], &place["plane"], &place["at"]),
            (&json!(side), &json!("across"), &json!(700.0))
        );
        let add = json!([{"op": "add", "path": format!("/templates/scan-{side}"), "value": sections[i]["template"]}]);
        let base = (i + 1).to_string();
        let taken = send(
            &app,
            "PATCH",
            "/api/projects/kingfisher",
            &[("if-match", &base)],
            add.to_string(),
        )
        .await;
        assert_eq!(taken.status, StatusCode::OK, "{}", taken.body);
        let all = taken.body["plan"]["templates"].as_array().unwrap();
        let own = all
            .iter()
            .find(|t| t["id"] == format!("scan-{side}"))
            .unwrap();
        // In its own frame from its lowest and innermost place: 0.1 out for each up, to the left or to the right of that.
        let edge: Vec<[f64; 2]> = serde_json::from_value(own["edge"].clone()).unwrap();
        assert!(edge.last().unwrap()[0] - edge[0][0] > 900.0, "{edge:?}");
        let sign = if side == "left" { 1.0 } else { -1.0 };
        let rise: Vec<f64> = edge.iter().map(|p| p[1] - sign * 0.1 * p[0]).collect();
        let (low, high) = (
            rise.iter().copied().fold(f64::INFINITY, f64::min),
            rise.iter().copied().fold(f64::NEG_INFINITY, f64::max),
        );
        assert!(high - low < 0.2, "{side}: {low} {high}");
        let ends = ["first", "last"].map(|l| place["landmarks"][l].clone());
        for l in ends {
            let (u, v) = (l["u"].as_f64().unwrap(), l["v"].as_f64().unwrap());
            assert!((v - 600.0 - 0.1 * u).abs() < 0.2, "{l}");
        }
    }
    let refused = send(
        &app,
        "POST",
        "/api/projects/kingfisher/scan?across=-1",
        &[],
        "ply\n",
    )
    .await;
    assert_eq!(refused.status, StatusCode::UNPROCESSABLE_ENTITY);
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

/// Sent twice with one key it is one request; another request may not use the key.
#[tokio::test]
async fn one_press_one_thing() {
    let app = app();
    let key = [("idempotency-key", "press-0001"), ("if-match", "1")];
    let patch = json!([{"op": "add", "path": "/gear/water/h", "value": 301}]).to_string();
    let first = send(&app, "PATCH", "/api/projects/moth", &key, patch.clone()).await;
    let again = send(&app, "PATCH", "/api/projects/moth", &key, patch).await;
    assert_eq!(
        (first.status, again.status),
        (StatusCode::OK, StatusCode::OK)
    );
    assert_eq!(again.body["revision"], 2);
    let other = json!([{"op": "add", "path": "/gear/water/h", "value": 302}]).to_string();
    let refused = send(&app, "PATCH", "/api/projects/moth", &key, other).await;
    assert_eq!(refused.status, StatusCode::UNPROCESSABLE_ENTITY);
    let key = [("idempotency-key", "start-0001")];
    let new = json!({"name": "Finch", "kind": "estate"}).to_string();
    let one = send(&app, "POST", "/api/projects", &key, new.clone()).await;
    let two = send(&app, "POST", "/api/projects", &key, new).await;
    assert_eq!(
        (&one.body["id"], &two.body["id"]),
        (&json!("finch"), &json!("finch"))
    );
    let key = [("idempotency-key", "undo-00001")];
    send(&app, "POST", "/api/projects/moth/undo", &key, "").await;
    let undone = send(&app, "POST", "/api/projects/moth/undo", &key, "").await;
    assert_eq!(undone.body["revision"], 3);
    let short = send(
        &app,
        "POST",
        "/api/projects/moth/undo",
        &[("idempotency-key", "x")],
        "",
    )
    .await;
    assert_eq!(short.status, StatusCode::UNPROCESSABLE_ENTITY);
}

/// What is sent says what it is.
#[rstest]
#[case("PATCH", "/api/projects/moth", "text/plain", 415)]
#[case("PATCH", "/api/projects/moth", "application/json-patch+json", 200)]
#[case("POST", "/api/projects", "application/x-www-form-urlencoded", 415)]
#[case("POST", "/api/projects/moth/scan", "application/json", 415)]
#[case("POST", "/api/projects/moth/readings", "text/plain", 415)]
#[case("POST", "/api/compute/tape", "text/csv; charset=utf-8", 415)]
#[tokio::test]
async fn media_types(
    #[case] method: &str,
    #[case] path: &str,
    #[case] kind: &str,
    #[case] status: u16,
) {
    let headers = [("content-type", kind), ("if-match", "1")];
    let answer = send(&app(), method, path, &headers, "[]").await;
    assert_eq!(answer.status.as_u16(), status, "{}", answer.body);
}

/// Its own pages' requests pass, port included; so does a command line that says nothing of itself.
#[tokio::test]
async fn own_pages_are_let_in() {
    let own = [
        ("origin", "http://127.0.0.1:1"),
        ("sec-fetch-site", "same-origin"),
    ];
    let answer = send(&app(), "POST", "/api/demo", &own, "").await;
    assert_eq!(answer.status, StatusCode::OK);
    let bare = send(&app(), "POST", "/api/demo", &[], "").await;
    assert_eq!(bare.status, StatusCode::OK);
}

/// A project called "Import" opens, is edited and deleted; any printable name is taken.
#[tokio::test]
async fn names_are_not_addresses() {
    let app = app();
    for name in [
        "Import", "..", "%2F", "import-2", "🚐", "a/b?c#d", "deleted", "undo",
    ] {
        let new = json!({"name": name, "kind": "van"});
        let made = post(&app, "/api/projects", new).await;
        assert_eq!(made.status, StatusCode::CREATED, "{name}");
        let id = made.body["id"].as_str().unwrap();
        let opened = get(&app, &format!("/api/projects/{id}")).await;
        assert_eq!(opened.body["project"]["name"], name, "{id}");
        assert_eq!(opened.headers["etag"], "\"1\"");
    }
    for name in ["\u{7}", "a\u{0}b", "x\u{fffe}", "\u{fdd0}"] {
        let new = json!({"name": name, "kind": "van"});
        let refused = post(&app, "/api/projects", new).await;
        assert_eq!(refused.status, StatusCode::UNPROCESSABLE_ENTITY, "{name:?}");
        assert_eq!(refused.body["pointer"], "/name");
    }
}

#[tokio::test]
async fn deleted_projects_can_be_brought_back() {
    let app = app();
    let gone = send(&app, "DELETE", "/api/projects/moth", &[], "").await;
    assert_eq!(gone.status, StatusCode::NO_CONTENT);
    assert_eq!(
        get(&app, "/api/projects/moth").await.status,
        StatusCode::NOT_FOUND
    );
    assert_eq!(
        get(&app, "/api/projects")
            .await
            .body
            .as_array()
            .unwrap()
            .len(),
        3
    );
    assert_eq!(get(&app, "/api/deleted").await.body[0]["id"], "moth");
    // Its identifier is not given to another meanwhile.
    let new = post(
        &app,
        "/api/projects",
        json!({"name": "Moth", "kind": "van"}),
    )
    .await;
    assert_eq!(new.body["id"], "moth-2");
    let back = post(&app, "/api/deleted/moth", json!({})).await;
    assert_eq!(back.status, StatusCode::NO_CONTENT);
    assert_eq!(
        get(&app, "/api/projects/moth").await.body["project"]["name"],
        "Moth"
    );
    let twice = post(&app, "/api/deleted/moth", json!({})).await;
    assert_eq!(twice.status, StatusCode::NOT_FOUND);
}

/// A damaged project hides no other, says so, and gives out its last good state and all that is stored of it.
#[tokio::test]
async fn a_damaged_project_can_be_rescued() {
    let dir = tempfile::tempdir().unwrap();
    let path = dir.path().join("s.sqlite");
    let mut store = Store::open(&path).unwrap();
    demo::load(&mut store).unwrap();
    let (state, stop) = App::new(store);
    std::mem::forget(stop);
    let app = router(state);
    let named = |name: &str| json!([{"op": "replace", "path": "/name", "value": name}]);
    assert_eq!(edit(&app, 1, named("Good")).await.status, StatusCode::OK);
    assert_eq!(edit(&app, 2, named("Lost")).await.status, StatusCode::OK);
    rusqlite::Connection::open(&path)
        .unwrap()
        .execute_batch("UPDATE revision SET patch = '[{' WHERE project = 'moth' AND rev = 3")
        .unwrap();
    let all = get(&app, "/api/projects").await.body;
    let all = all.as_array().unwrap();
    assert_eq!(all.len(), 4);
    let moth = all.iter().find(|p| p["id"] == "moth").unwrap();
    assert!(moth["damaged"].is_string(), "{moth}");
    assert_eq!(moth["last_good"], 2);
    let opened = get(&app, "/api/projects/moth").await;
    assert_eq!(opened.status, StatusCode::INTERNAL_SERVER_ERROR);
    let told = opened.body["detail"].as_str().unwrap();
    assert!(told.contains("damaged"), "{told}");
    let raw = get(&app, "/api/projects/moth/raw.json").await.body;
    assert_eq!(raw["edits"].as_array().unwrap().len(), 3);
    let rescued = post(&app, "/api/projects/moth/rescue", json!({})).await;
    assert_eq!(rescued.status, StatusCode::CREATED);
    assert_eq!(rescued.body["project"]["name"], "Good");
}

/// What changed since a version is said in words, and a version can be forgotten.
#[tokio::test]
async fn versions_are_compared() {
    let app = app();
    post(
        &app,
        "/api/projects/moth/versions",
        json!({"name": "first / cut"}),
    )
    .await;
    edit(
        &app,
        1,
        json!([
            {"op": "add", "path": "/modules/deck/choices/underside", "value": 300},
            {"op": "remove", "path": "/gear/water"},
        ]),
    )
    .await;
    let path = "/api/projects/moth/versions/first%20%2F%20cut";
    let told = get(&app, path).await;
    assert_eq!(told.status, StatusCode::OK);
    let sentences = told.body["changes"].to_string();
    assert!(
        sentences.contains("underside: 300 mm, was 252 mm."),
        "{sentences}"
    );
    assert!(sentences.contains("Water can is gone."), "{sentences}");
    assert_eq!(told.body["then"]["decks"][0]["underside"]["value"], 252.0);
    let gone = send(&app, "DELETE", path, &[], "").await;
    assert_eq!(gone.status, StatusCode::NO_CONTENT);
    assert_eq!(get(&app, path).await.status, StatusCode::NOT_FOUND);
}

/// Addresses that cannot be read are told as problems too.
#[tokio::test]
async fn no_refusal_is_plain_text() {
    let app = app();
    for path in ["/api/projects/%ff", "/api/projects/%ff/export/parts.pdf"] {
        let answer = get(&app, path).await;
        assert_eq!(answer.status, StatusCode::BAD_REQUEST, "{path}");
        assert_eq!(answer.headers["content-type"], "application/problem+json");
    }
    let answer = send(&app, "POST", "/api/projects/moth/scan?step=x", &[], "ply").await;
    assert_eq!(answer.headers["content-type"], "application/problem+json");
}

/// A scan that reaches further than any vehicle ends (a point at 1e20 kept it going for ever), and
/// what lies beyond is left out.
#[tokio::test]
async fn a_scan_without_end_ends() {
    let mut text = String::from(
        "ply\nformat ascii 1.0\nelement vertex 12\nproperty float x\nproperty float y\nproperty float z\nend_header\n",
    );
    for i in 0..12 {
        text.push_str(if i % 2 == 0 {
            "1e20 600 400\n"
        } else {
            "1e20 -600 400\n"
        });
    }
    let app = app();
    for query in [
        "heights=400&step=30",
        "heights=400&scale=10000",
        "across=100",
    ] {
        let path = format!("/api/projects/kingfisher/scan?{query}");
        let cut = send(&app, "POST", &path, &[], text.clone()).await;
        assert_eq!(cut.status, StatusCode::OK, "{}", cut.body);
        assert_eq!(cut.body["found"], json!([]));
    }
}

/// Operations that copy a document into itself are refused before it is built, in preview too.
#[tokio::test]
async fn edits_that_explode_are_refused() {
    let app = app();
    let ops: Vec<Value> = (0..500)
        .map(|i| json!({"op": "copy", "from": "/survey", "path": format!("/survey/x{i}")}))
        .collect();
    let refused = edit(&app, 1, json!(ops)).await;
    assert_eq!(refused.status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(
        refused.body["detail"]
            .as_str()
            .unwrap()
            .contains("too large or too deep")
    );
    let deep: Vec<Value> = (0..400)
        .map(|_| json!({"op": "copy", "from": "/gear", "path": "/gear/a"}))
        .collect();
    let refused = post(&app, "/api/projects/moth/preview", json!(deep)).await;
    assert_eq!(refused.status, StatusCode::UNPROCESSABLE_ENTITY);
    assert_eq!(get(&app, "/api/projects/moth").await.body["revision"], 1);
}
