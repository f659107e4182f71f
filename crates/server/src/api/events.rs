//! Live updates: every accepted change is announced to every open window.

use std::convert::Infallible;
use std::time::Duration;

use axum::extract::State;
use axum::response::sse::{Event, KeepAlive, Sse};
use futures_util::{Stream, StreamExt};
use tokio_stream::wrappers::BroadcastStream;

use crate::app::App;
use crate::extract::Path;
use crate::problem::{ApiError, Body as ProblemBody};

/// Server-sent events: `change` with the newest revision of the project, first the one there is when
/// the window begins to listen, so that nothing stored just before is missed; `laser` with a distance.
#[utoipa::path(
    get, path = "/api/projects/{id}/events", params(("id" = String, Path)),
    responses((status = 200, content_type = "text/event-stream", body = String), (status = 404, body = ProblemBody))
)]
pub async fn events(
    State(app): State<App>,
    Path(id): Path<String>,
) -> Result<Sse<impl Stream<Item = Result<Event, Infallible>>>, ApiError> {
    // Listening before looking: between the two nothing gets lost.
    let changes = app.changes.subscribe();
    let which = id.clone();
    let now = app.with(move |store| store.head(&which)).await?.revision;
    let first = futures_util::stream::once(async move { Ok(change(now)) });
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
    let changes = BroadcastStream::new(changes).filter_map(move |next| {
        // A window that lagged behind is told to look: it reads the newest state anyway.
        let event = match next {
            Ok(c) if c.project == id => Some(change(c.revision)),
            Ok(_) => None,
            Err(_) => Some(change(0)),
        };
        async move { event.map(Ok) }
    });
    let both = first.chain(futures_util::stream::select(changes, shots));
    Ok(Sse::new(both.take_until(Box::pin(stopped)))
        .keep_alive(KeepAlive::new().interval(Duration::from_secs(15))))
}

fn change(revision: u32) -> Event {
    Event::default().event("change").data(revision.to_string())
}
