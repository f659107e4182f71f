//! Accepting connections at one address, each with the door through which it came.

use std::net::SocketAddr;
use std::time::Duration;

use axum::Router;
use axum::body::Body;
use axum::http::header;
use hyper::body::Incoming;
use hyper::server::conn::http1;
use hyper::service::service_fn;
use hyper_util::rt::{TokioIo, TokioTimer};
use hyper_util::server::graceful::GracefulShutdown;
use tokio::net::{TcpListener, TcpStream};
use tokio::sync::watch;
use tower::ServiceExt;

use crate::lan::Door;

/// A request's header has to be there within this time.
const HEADER: Duration = Duration::from_secs(10);
/// Open answers get this long to end.
const PATIENCE: Duration = Duration::from_secs(5);
/// A connection that failed to be accepted is no reason to spin.
const BREATH: Duration = Duration::from_millis(50);

/// Serves until `stop` says true or its sender is gone; then lets open answers end.
pub async fn serve(listener: TcpListener, app: Router, lan: bool, mut stop: watch::Receiver<bool>) {
    let door = match listener.local_addr() {
        Ok(address) if lan => Door::Lan(address),
        _ => Door::Own,
    };
    let open = GracefulShutdown::new();
    loop {
        let accepted = tokio::select! {
            accepted = listener.accept() => accepted,
            _ = stop.wait_for(|s| *s) => break,
        };
        match accepted {
            Ok((stream, peer)) => connection(stream, peer, door, app.clone(), &open),
            Err(_) => tokio::time::sleep(BREATH).await,
        }
    }
    drop(listener);
    let _ = tokio::time::timeout(PATIENCE, open.shutdown()).await;
}

fn connection(
    stream: TcpStream,
    peer: SocketAddr,
    door: Door,
    app: Router,
    open: &GracefulShutdown,
) {
    let service = service_fn(move |request: hyper::Request<Incoming>| {
        let mut request = request.map(Body::new);
        if door == Door::Own {
            // Within one machine packing a plan takes longer than handing it over.
            request.headers_mut().remove(header::ACCEPT_ENCODING);
        }
        request.extensions_mut().insert(door);
        app.clone().oneshot(request)
    });
    let connection = http1::Builder::new()
        .timer(TokioTimer::new())
        .header_read_timeout(HEADER)
        .serve_connection(TokioIo::new(stream), service);
    let watched = open.watch(connection);
    tokio::spawn(async move {
        if let Err(e) = watched.await {
            tracing::debug!(%peer, error = %e, "connection ended");
        }
    });
}

#[cfg(test)]
#[allow(clippy::unwrap_used)]
mod tests {
    use std::io::{Read, Write};

    use axum::routing::get;
    use tower_http::compression::CompressionLayer;

    use super::*;

    /// The head of the answer to a request that would take it packed.
    async fn head(lan: bool) -> String {
        let app = Router::new()
            .route("/", get(|| async { "a".repeat(100_000) }))
            .layer(CompressionLayer::new());
        let listener = TcpListener::bind("127.0.0.1:0").await.unwrap();
        let address = listener.local_addr().unwrap();
        let (stop, stopped) = watch::channel(false);
        let served = tokio::spawn(serve(listener, app, lan, stopped));
        let asked = tokio::task::spawn_blocking(move || {
            let mut stream = std::net::TcpStream::connect(address).unwrap();
            let request = "GET / HTTP/1.1\r\nhost: here\r\naccept-encoding: gzip\r\nconnection: close\r\n\r\n";
            stream.write_all(request.as_bytes()).unwrap();
            let mut answer = Vec::new();
            stream.read_to_end(&mut answer).unwrap();
            answer
        });
        let answer = asked.await.unwrap();
        stop.send(true).unwrap();
        served.await.unwrap();
        let text = String::from_utf8_lossy(&answer).to_lowercase();
        text.split("\r\n\r\n").next().unwrap().into()
    }

    #[tokio::test]
    async fn only_what_goes_over_a_network_is_packed() {
        assert!(!head(false).await.contains("content-encoding"));
        assert!(head(true).await.contains("content-encoding: gzip"));
    }
}
