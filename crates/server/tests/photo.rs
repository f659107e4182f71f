//! Photos of templates through the API: read line by line, kept beside the project, taken as curves.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)]

use axum::body::{Body, to_bytes};
use axum::http::{Request, StatusCode};
use jigfit_server::app::{App, router};
use jigfit_server::demo;
use jigfit_store::Store;
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

async fn send(
    app: &axum::Router,
    method: &str,
    path: &str,
    kind: &str,
    body: Vec<u8>,
) -> (StatusCode, Vec<u8>) {
    let request = Request::builder()
        .method(method)
        .uri(path)
        .header("host", "127.0.0.1:1")
        .header("if-match", "1")
        .header("content-type", kind)
        .body(Body::from(body))
        .unwrap();
    let response = app.clone().oneshot(request).await.unwrap();
    let status = response.status();
    (
        status,
        to_bytes(response.into_body(), usize::MAX)
            .await
            .unwrap()
            .to_vec(),
    )
}

async fn photo(app: &axum::Router, ways: &str, body: Vec<u8>) -> (StatusCode, Vec<Value>) {
    let path = format!("/api/projects/kingfisher/photo?{ways}");
    let (status, bytes) = send(app, "POST", &path, "application/octet-stream", body).await;
    let text = String::from_utf8(bytes).unwrap();
    let lines = text.lines().map(|l| serde_json::from_str(l).unwrap());
    (status, lines.collect())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_photo_is_read_kept_and_taken() {
    let app = app();
    let (status, lines) = photo(&app, "simulated=true", vec![]).await;
    assert_eq!(status, StatusCode::OK);
    let (found, on) = lines.split_last().unwrap();
    assert!(!on.is_empty() && on.iter().all(|l| l["of"] == 4), "{on:?}");
    assert_eq!(found["sheets"].as_array().unwrap().len(), 4);
    assert_eq!(found["warnings"], json!([]));
    let print = found["print"].as_str().unwrap().to_string();

    // It is there to look at, and to read again without sending it: with a distance that is an inch off.
    let kept = format!("/api/projects/kingfisher/photos/{print}");
    let (status, bytes) = send(&app, "GET", &kept, "text/plain", vec![]).await;
    assert_eq!(status, StatusCode::OK);
    assert!(bytes.starts_with(b"\x89PNG"));
    let mm = |i: usize| found["taped"][i]["long"]["value"].as_f64().unwrap();
    let ways = format!("print={print}&taped=1-3:{},2-4:{}", mm(0) + 25.4, mm(1));
    let (_, again) = photo(&app, &ways, vec![]).await;
    let told = again.last().unwrap()["warnings"].to_string();
    assert!(told.contains("From sheet 1 to sheet 3 you taped"), "{told}");

    // Its longest side is the hull: a curve of the plan, within 2 mm of what the card was cut to.
    let curve = &found["curves"][0];
    let patch = json!([{"op": "add", "path": "/templates/card", "value": curve["template"]}]);
    let path = "/api/projects/kingfisher";
    let (status, bytes) = send(
        &app,
        "PATCH",
        path,
        "application/json-patch+json",
        patch.to_string().into_bytes(),
    )
    .await;
    assert_eq!(status, StatusCode::OK);
    let opened: Value = serde_json::from_slice(&bytes).unwrap();
    assert_eq!(
        opened["project"]["templates"]["card"]["photo"],
        json!(print)
    );
    let all = opened["plan"]["templates"].as_array().unwrap();
    let own = all.iter().find(|t| t["id"] == "card").unwrap();
    let edge: Vec<[f64; 2]> = serde_json::from_value(own["edge"].clone()).unwrap();
    let truth = hull();
    let off = edge.iter().map(|p| near(*p, &truth));
    let worst = off.fold(0.0, f64::max);
    assert!(worst < 2.0, "{worst}");
}

/// The hull of the demo's boat where the simulated card was cut to it, its chord along the first axis.
fn hull() -> Vec<[f64; 2]> {
    let text = include_str!("../../instruments/vehicles/kingfisher.json");
    let v =
        jigfit_instruments::vehicle::Vehicle::read(serde_json::from_str(text).unwrap()).unwrap();
    let card =
        jigfit_instruments::camera::card(&v, jigfit_core::project::survey::Side::Left, 300.0)
            .unwrap();
    let wall = &card[..card.len() - 2];
    let (a, b) = (wall[0], wall[wall.len() - 1]);
    let long = (b[0] - a[0]).hypot(b[1] - a[1]);
    let (c, s) = ((b[0] - a[0]) / long, (b[1] - a[1]) / long);
    let laid: Vec<[f64; 2]> = wall
        .iter()
        .map(|p| [p[0] - a[0], p[1] - a[1]])
        .map(|[x, y]| [c * x + s * y, c * y - s * x])
        .collect();
    // Curves are kept from the lower left of what they span.
    let low = laid.iter().map(|p| p[1]).fold(f64::INFINITY, f64::min);
    laid.iter().map(|p| [p[0], p[1] - low]).collect()
}

fn near(p: [f64; 2], line: &[[f64; 2]]) -> f64 {
    let each = line
        .windows(2)
        .map(|w| jigfit_core::geometry::distance_to_segment(p, w[0], w[1]));
    each.fold(f64::INFINITY, f64::min)
}

#[tokio::test(flavor = "multi_thread")]
async fn what_cannot_be_read_is_said() {
    let app = app();
    let (status, lines) = photo(&app, "", b"GIF89a".to_vec()).await;
    assert_eq!(status, StatusCode::OK);
    let told = lines.last().unwrap()["problem"]["detail"]
        .as_str()
        .unwrap()
        .to_string();
    assert!(told.contains("neither a JPEG nor a PNG"), "{told}");
    for (ways, pointer) in [
        ("taped=1-9:2000", "/taped"),
        ("taped=1-1:2000", "/taped"),
        ("taped=1-3", "/taped"),
        ("taped=1-3:NaN", "/taped"),
        ("taped=1-3:5", "/taped"),
        ("at=1;2", "/at"),
        ("at=-1,2", "/at"),
    ] {
        let (status, lines) = photo(&app, ways, vec![]).await;
        assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{ways}");
        assert_eq!(lines[0]["pointer"], pointer, "{ways}");
    }
    let (status, _) = photo(&app, "print=00", vec![]).await;
    assert_eq!(status, StatusCode::NOT_FOUND);
    // A curve names only what can be a photo.
    let patch = json!([{"op": "add", "path": "/templates/x", "value": {"photo": "../../etc"}}]);
    let path = "/api/projects/kingfisher";
    let (status, bytes) = send(
        &app,
        "PATCH",
        path,
        "application/json-patch+json",
        patch.to_string().into_bytes(),
    )
    .await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    let problem: Value = serde_json::from_slice(&bytes).unwrap();
    assert_eq!(problem["pointer"], "/templates/x/photo");
}

#[tokio::test(flavor = "multi_thread")]
async fn the_simulated_camera_stands_in_the_demo_only() {
    let app = app();
    let new = json!({"name": "Kingfisher", "kind": "boat"})
        .to_string()
        .into_bytes();
    let (status, bytes) = send(&app, "POST", "/api/projects", "application/json", new).await;
    assert_eq!(status, StatusCode::CREATED);
    let id = serde_json::from_slice::<Value>(&bytes).unwrap()["id"]
        .as_str()
        .unwrap()
        .to_string();
    let path = format!("/api/projects/{id}/photo?simulated=true");
    let (status, _) = send(&app, "POST", &path, "application/octet-stream", vec![]).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
}
