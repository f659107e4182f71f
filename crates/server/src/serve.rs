//! Listening at a local address until told to stop.

use std::net::Ipv4Addr;
use std::path::{Path, PathBuf};
use std::time::Duration;

use jigfit_store::{Store, StoreError};
use tokio::net::TcpListener;
use tokio::sync::watch;

use crate::app::{App, router};

/// Open answers get this long to end when the server stops.
const PATIENCE: Duration = Duration::from_secs(5);

/// The data folder: the one given, or the platform's own.
///
/// # Errors
/// The folder cannot be made.
pub fn data_dir(given: Option<&Path>) -> Result<PathBuf, String> {
    let dir = match given {
        Some(dir) => dir.to_path_buf(),
        None => directories::ProjectDirs::from("", "", "jigfit")
            .map(|d| d.data_dir().to_path_buf())
            .ok_or("This platform names no data folder: give one with --data.")?,
    };
    std::fs::create_dir_all(&dir)
        .map_err(|e| format!("The data folder {} cannot be made: {e}", dir.display()))?;
    Ok(dir)
}

/// Opens the database in a data folder.
///
/// # Errors
/// As `Store::open`.
pub fn open(dir: &Path) -> Result<Store, StoreError> {
    Store::open(&dir.join("jigfit.sqlite"))
}

/// Serves `store` at `127.0.0.1:port` until Ctrl-C or SIGTERM; prints the address once it answers.
///
/// # Errors
/// The port is taken; the runtime cannot start.
pub fn run(store: Store, port: u16) -> Result<(), String> {
    let runtime = tokio::runtime::Builder::new_multi_thread()
        .worker_threads(2)
        .enable_all()
        .build()
        .map_err(|e| e.to_string())?;
    let result = runtime.block_on(async {
        let listener = TcpListener::bind((Ipv4Addr::LOCALHOST, port))
            .await
            .map_err(|e| format!("Port {port} cannot be used: {e}. Choose another with --port."))?;
        let address = listener.local_addr().map_err(|e| e.to_string())?;
        let (app, stop) = App::new(store);
        println!("Jig Fit is at http://{address}  (Ctrl-C to stop)");
        let served = axum::serve(listener, router(app)).with_graceful_shutdown(told(stop.clone()));
        let mut stopping = stop.subscribe();
        tokio::select! {
            done = async { served.await } => done.map_err(|e| e.to_string()),
            () = async {
                // Resolves once stopping and the patience is over.
                let _ = stopping.wait_for(|s| *s).await;
                tokio::time::sleep(PATIENCE).await;
            } => Ok(()),
        }
    });
    runtime.shutdown_timeout(Duration::from_secs(1));
    result
}

/// Waits for the signal and passes it on to long answers.
async fn told(stop: watch::Sender<bool>) {
    let interrupt = async {
        let _ = tokio::signal::ctrl_c().await;
    };
    #[cfg(unix)]
    let terminate = async {
        use tokio::signal::unix::{SignalKind, signal};
        match signal(SignalKind::terminate()) {
            Ok(mut s) => {
                s.recv().await;
            }
            Err(_) => std::future::pending().await,
        }
    };
    #[cfg(not(unix))]
    let terminate = std::future::pending::<()>();
    tokio::select! { () = interrupt => {}, () = terminate => {} }
    tracing::info!("stopping");
    let _ = stop.send(true);
}
