//! What the handlers share: the store, plans, the clock, live updates, and the router around them.

use std::sync::{Arc, Mutex};
use std::time::Duration;

use axum::Router;
use axum::body::Body;
use axum::extract::Request;
use axum::http::StatusCode;
use axum::middleware;
use jigfit_instruments::laser::{Laser, Link};
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
use crate::lan::Lan;
use crate::planner::Planner;
use crate::problem::ApiError;

/// A project changed.
#[derive(Debug, Clone, Serialize)]
pub struct Change {
    /// Which.
    pub project: String,
    /// Its newest revision.
    pub revision: u32,
}

/// A reading of the laser on its way to the tape bar.
#[derive(Debug, Clone, Serialize)]
pub struct Shot {
    /// For which project.
    pub project: String,
    /// Which meter.
    pub device: String,
    /// Number of its message.
    pub seq: u64,
    /// The distance, mm.
    pub mm: f64,
    /// Messages lost before it.
    pub lost: u64,
    /// It comes from the simulated meter.
    pub simulated: bool,
}

/// Shared by all handlers.
#[derive(Clone)]
pub struct App {
    store: Arc<Mutex<Store>>,
    link: Arc<Mutex<Link>>,
    laser: Arc<Mutex<Laser>>,
    /// Works plans out, outside any lock.
    pub planner: Planner,
    /// Devices of the local network.
    pub lan: Lan,
    /// Where readings of the laser are announced.
    pub shots: broadcast::Sender<Shot>,
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
            link: Arc::default(),
            // A radio that loses one message in twelve and repeats one in six.
            laser: Arc::new(Mutex::new(Laser::new("simulated", 1, 0.08, 0.16))),
            planner: Planner::default(),
            lan: Lan::default(),
            shots: broadcast::channel(64).0,
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

    /// Works with the receiving end of the laser's link.
    pub fn link<T>(&self, work: impl FnOnce(&mut Link) -> T) -> T {
        work(&mut self.link.lock().unwrap_or_else(|p| p.into_inner()))
    }

    /// Works with the simulated laser.
    pub fn laser<T>(&self, work: impl FnOnce(&mut Laser) -> T) -> T {
        work(&mut self.laser.lock().unwrap_or_else(|p| p.into_inner()))
    }

    /// Passes a reading of the laser on.
    pub fn shoot(&self, shot: Shot) {
        // Nobody listening is fine.
        let _ = self.shots.send(shot);
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
    rfc3339(clock())
}

/// So many days before now.
pub fn days_ago(days: i64) -> String {
    rfc3339(clock().saturating_sub(time::Duration::days(days)))
}

/// The time now. Not `now_utc`, which does not bear a clock that stands before 1970.
fn clock() -> time::OffsetDateTime {
    date_of(std::time::SystemTime::now())
}

/// What a clock shows, whatever it shows: outside the years that a date is written with it stays at their end.
fn date_of(system: std::time::SystemTime) -> time::OffsetDateTime {
    let epoch = time::OffsetDateTime::UNIX_EPOCH;
    let seconds = |d: std::time::Duration| {
        time::Duration::seconds(i64::try_from(d.as_secs()).unwrap_or(i64::MAX))
    };
    // The first day of the year 0; days by the proleptic Gregorian calendar.
    let first = epoch.saturating_sub(time::Duration::days(719_528));
    match system.duration_since(std::time::UNIX_EPOCH) {
        Ok(since) => epoch.saturating_add(seconds(since)),
        Err(before) => epoch.saturating_sub(seconds(before.duration())).max(first),
    }
}

fn rfc3339(at: time::OffsetDateTime) -> String {
    at.format(&time::format_description::well_known::Rfc3339)
        .unwrap_or_default()
}

/// The whole server.
pub fn router(app: App) -> Router {
    let panicked = |_: Box<dyn std::any::Any + Send>| {
        use axum::response::IntoResponse;
        ApiError::internal("This request could not be answered. Nothing saved is lost.")
            .into_response()
    };
    let lan = app.clone();
    api::router(app)
        .fallback(assets::serve)
        .layer(middleware::from_fn_with_state(lan, guard::guard))
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

#[cfg(test)]
mod tests {
    use std::time::{Duration, SystemTime, UNIX_EPOCH};

    use super::{date_of, rfc3339};

    /// A machine whose battery is flat stands before 1970, or nowhere sensible: a date is written all the same.
    #[test]
    fn any_clock_gives_a_date() {
        let day = Duration::from_secs(86_400);
        for (clock, date) in [
            (Some(UNIX_EPOCH), "1970-01-01T00:00:00Z"),
            (UNIX_EPOCH.checked_sub(day), "1969-12-31T00:00:00Z"),
            // 2000-02-29: a leap day, day 11,016 of the epoch.
            (UNIX_EPOCH.checked_add(day * 11_016), "2000-02-29T00:00:00Z"),
        ] {
            assert_eq!(clock.map(|c| rfc3339(date_of(c))).as_deref(), Some(date));
        }
        let far = Duration::from_secs(1 << 50);
        for clock in [UNIX_EPOCH.checked_sub(far), UNIX_EPOCH.checked_add(far)] {
            let at: Option<SystemTime> = clock;
            assert!(at.is_none_or(|c| !rfc3339(date_of(c)).is_empty()));
        }
    }
}
