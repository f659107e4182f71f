//! Long answers: one JSON object a line, as they come.

use axum::body::Body;
use axum::http::header;
use axum::response::{IntoResponse, Response};
use futures_util::StreamExt;
use serde::Serialize;
use tokio::sync::mpsc::Receiver;
use tokio_stream::wrappers::ReceiverStream;

/// The answer whose lines come out of that channel.
pub fn answer<T: Serialize + Send + 'static>(lines: Receiver<T>) -> Response {
    let lines = ReceiverStream::new(lines).map(|line| {
        let mut text = serde_json::to_vec(&line).unwrap_or_default();
        text.push(b'\n');
        Ok::<_, std::convert::Infallible>(text)
    });
    let kind = [(header::CONTENT_TYPE, "application/x-ndjson")];
    (kind, Body::from_stream(lines)).into_response()
}
