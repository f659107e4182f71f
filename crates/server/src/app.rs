//! What the handlers share: the store, the clock, live updates, and the router around them.

use std::sync::{Arc, Mutex};
use std::time::Duration;

use axum::Router;
use axum::body::Body;
use axum::extract::Request;
use axum::http::StatusCode;
use axum::middleware;
use jigfit_store::Store;
use serde::Serialize;
use tokio::sync::{broadcast, watch};
use tower_http::catch_panic::CatchPanicLayer;
use tower_http::compression::CompressionLayer;
use tower_http::request_id::{MakeRequestUuid, PropagateRequestIdLayer, SetRequestIdLayer};
use tower_http::timeout::TimeoutLayer;
use tower_http::trace::TraceLayer;

use crate::api;
use crate::assets;
use crate::guard;
use crate::problem::ApiError;

/// A project changed.
#[derive(Debug, Clone, Serialize)]
pub struct Change {
    /// Which.
    pub project: String,
    /// Its newest revision.
    pub revision: u32,
}

/// Shared by all handlers.
#[derive(Clone)]
pub struct App {
    store: Arc<Mutex<Store>>,
    /// Where changes are announced.
    pub changes: broadcast::Sender<Change>,
    /// Becomes true when the server stops; long answers end then.
    pub stopping: watch::Receiver<bool>,
}

impl App {
    /// Around an open store. The sender ends long answers when it says true or is dropped.
    pub fn new(store: Store) -> (App, watch::Sender<bool>) {
        let (stop, stopping) = watch::channel(false);
        let app = App {
            store: Arc::new(Mutex::new(store)),
            changes: broadcast::channel(256).0,
            stopping,
        };
        (app, stop)
    }

    /// Runs `work` with the store, off the async threads.
    ///
    /// # Errors
    /// What `work` returns, or that it broke.
    pub async fn with<T, E>(
        &self,
        work: impl FnOnce(&mut Store) -> Result<T, E> + Send + 'static,
    ) -> Result<T, ApiError>
    where
        T: Send + 'static,
        E: Into<ApiError> + Send + 'static,
    {
        let store = self.store.clone();
        let done = tokio::task::spawn_blocking(move || {
            // A panic of another request cannot have left the store half changed: every change is
            // one transaction.
            let mut store = store
                .lock()
                .unwrap_or_else(|poisoned| poisoned.into_inner());
            work(&mut store).map_err(Into::into)
        });
        done.await.map_err(|e| ApiError::internal(e.to_string()))?
    }

    /// Tells the other windows.
    pub fn announce(&self, project: &str, revision: u32) {
        // Nobody listening is fine.
        let _ = self.changes.send(Change {
            project: project.into(),
            revision,
        });
    }
}

/// The time now, RFC 3339, to the second.
pub fn now() -> String {
    let now = time::OffsetDateTime::now_utc();
    let now = now.replace_nanosecond(0).unwrap_or(now);
    now.format(&time::format_description::well_known::Rfc3339)
        .unwrap_or_default()
}

/// The whole server.
pub fn router(app: App) -> Router {
    let panicked = |_: Box<dyn std::any::Any + Send>| {
        use axum::response::IntoResponse;
        ApiError::internal("This request could not be answered. Nothing saved is lost.")
            .into_response()
    };
    api::router(app)
        .fallback(assets::serve)
        .layer(middleware::from_fn(guard::guard))
        .layer(CompressionLayer::new())
        .layer(TimeoutLayer::with_status_code(
            StatusCode::GATEWAY_TIMEOUT,
            Duration::from_secs(60),
        ))
        .layer(CatchPanicLayer::custom(panicked))
        .layer(PropagateRequestIdLayer::x_request_id())
        .layer(
            TraceLayer::new_for_http().make_span_with(|r: &Request<Body>| {
                let id = r
                    .headers()
                    .get("x-request-id")
                    .and_then(|v| v.to_str().ok())
                    .unwrap_or("");
                tracing::info_span!("request", method = %r.method(), path = %r.uri().path(), id)
            }),
        )
        .layer(SetRequestIdLayer::x_request_id(MakeRequestUuid))
}
