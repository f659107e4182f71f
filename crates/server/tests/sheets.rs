//! The search for a layout over the API: lines, patch, one at a time, ended by who stops listening.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)]

use axum::body::{Body, to_bytes};
use axum::http::Request;
use axum::response::Response;
use futures_util::StreamExt;
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

async fn send(app: &axum::Router, method: &str, path: &str, base: u32, body: Value) -> Response {
    let request = Request::builder()
        .method(method)
        .uri(path)
        .header("host", "127.0.0.1:1")
        .header("content-type", "application/json")
        .header("if-match", base.to_string())
        .body(Body::from(body.to_string()))
        .unwrap();
    app.clone().oneshot(request).await.unwrap()
}

async fn search(app: &axum::Router, effort: f64) -> Response {
    let body = json!({ "effort": effort });
    send(app, "POST", "/api/projects/moth/sheets", 0, body).await
}

async fn json_of(response: Response) -> Value {
    let bytes = to_bytes(response.into_body(), usize::MAX).await.unwrap();
    serde_json::from_slice(&bytes).unwrap()
}

/// The lines of an answer.
async fn lines(response: Response) -> Vec<Value> {
    assert_eq!(response.headers()["content-type"], "application/x-ndjson");
    let bytes = to_bytes(response.into_body(), usize::MAX).await.unwrap();
    let text = String::from_utf8(bytes.to_vec()).unwrap();
    text.lines()
        .map(|l| serde_json::from_str(l).unwrap())
        .collect()
}

// One test: there is one search at a time in a process.
#[tokio::test]
async fn a_layout_is_searched_accepted_undone_and_stopped() {
    let app = app();
    // As it is shown: no search, one line.
    let answer = lines(search(&app, 0.0).await).await;
    let [found] = answer.as_slice() else {
        panic!("{answer:?}");
    };
    assert_eq!(found["sheets"], found["before"]);
    let opened = json_of(send(&app, "GET", "/api/projects/moth", 0, json!(null)).await).await;
    let base = opened["revision"].as_u64().unwrap() as u32;
    let before = opened["plan"]["sheets"].clone();
    assert_eq!(before[0]["sheets"][0]["accepted"], false);
    // Accepted like any other edit, undone like any other.
    let edited = send(
        &app,
        "PATCH",
        "/api/projects/moth",
        base,
        found["patch"].clone(),
    )
    .await;
    let edited = json_of(edited).await;
    let sheet = &edited["plan"]["sheets"][0]["sheets"][0];
    assert_eq!(sheet["accepted"], true);
    assert_eq!(
        sheet["parts"].as_array().map(Vec::len),
        before[0]["sheets"][0]["parts"].as_array().map(Vec::len)
    );
    let undone =
        json_of(send(&app, "POST", "/api/projects/moth/undo", base + 1, json!({})).await).await;
    assert_eq!(undone["plan"]["sheets"], before);

    // A real search says how far it is.
    let answer = lines(search(&app, 0.2).await).await;
    assert!(answer.len() > 2 && answer[0]["of"].as_u64().unwrap() > 0);
    let found = answer.last().unwrap();
    assert!(found["sheets"].as_u64() <= found["before"].as_u64());

    // While one runs another is refused; when its listener is gone, there is room again.
    let mut long = search(&app, 20.0).await.into_body().into_data_stream();
    assert!(long.next().await.is_some());
    assert_eq!(search(&app, 1.0).await.status(), 429);
    drop(long);
    let free = async {
        while search(&app, 0.0).await.status() == 429 {
            tokio::task::yield_now().await;
        }
    };
    tokio::time::timeout(std::time::Duration::from_secs(20), free)
        .await
        .unwrap();

    for (effort, status) in [(-1.0, 422), (1e9, 422)] {
        assert_eq!(search(&app, effort).await.status(), status);
    }
    let ghost = send(
        &app,
        "POST",
        "/api/projects/ghost/sheets",
        0,
        json!({"effort": 0.0}),
    )
    .await;
    assert_eq!(ghost.status(), 404);
}
