//! Live updates: every accepted change is announced to every open window.

use std::convert::Infallible;
use std::time::Duration;

use axum::extract::{Path, State};
use axum::response::sse::{Event, KeepAlive, Sse};
use futures_util::{Stream, StreamExt};
use tokio_stream::wrappers::BroadcastStream;

use crate::app::App;

/// Server-sent events: `change` with the newest revision of the project.
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
    Sse::new(changes.take_until(Box::pin(stopped)))
        .keep_alive(KeepAlive::new().interval(Duration::from_secs(15)))
}
