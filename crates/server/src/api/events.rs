//! Live updates: every accepted change is announced to every open window.

use std::convert::Infallible;
use std::time::Duration;

use axum::extract::{Path, State};
use axum::response::sse::{Event, KeepAlive, Sse};
use futures_util::{Stream, StreamExt};
use tokio_stream::wrappers::BroadcastStream;

use crate::app::App;

/// Server-sent events: `change` with the newest revision of the project, `laser` with a distance.
#[utoipa::path(
    get, path = "/api/projects/{id}/events", params(("id" = String, Path)),
    responses((status = 200, content_type = "text/event-stream", body = String))
)]
pub async fn events(
    State(app): State<App>,
    Path(id): Path<String>,
) -> Sse<impl Stream<Item = Result<Event, Infallible>>> {
    let mut stopping = app.stopping.clone();
    let stopped = async move {
        let _ = stopping.wait_for(|s| *s).await;
    };
    let own = id.clone();
    let shots = BroadcastStream::new(app.shots.subscribe()).filter_map(move |shot| {
        // A shot missed by a slow window is pressed again; it is not repeated late.
        let event = shot
            .ok()
            .filter(|s| s.project == own)
            .and_then(|s| Event::default().event("laser").json_data(&s).ok());
        async move { event.map(Ok) }
    });
    let changes = BroadcastStream::new(app.changes.subscribe()).filter_map(move |change| {
        // A window that lagged behind is told to look: it reads the newest state anyway.
        let event = match change {
            Ok(c) if c.project == id => Some(
                Event::default()
                    .event("change")
                    .data(c.revision.to_string()),
            ),
            Ok(_) => None,
            Err(_) => Some(Event::default().event("change").data("0")),
        };
        async move { event.map(Ok) }
    });
    let both = futures_util::stream::select(changes, shots);
    Sse::new(both.take_until(Box::pin(stopped)))
        .keep_alive(KeepAlive::new().interval(Duration::from_secs(15)))
}
