//! Listening at a local address until told to stop.

use std::net::Ipv4Addr;
use std::path::{Path, PathBuf};
use std::time::Duration;

use jigfit_store::{Store, StoreError};
use tokio::net::TcpListener;
use tokio::sync::watch;

use crate::app::{App, router};
use crate::lan::addresses;
use crate::listen::serve;

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

/// Serves `store` at `127.0.0.1:port` until Ctrl-C or SIGTERM; prints the address once it answers. With
/// `lan` the doors to the local network are open from the start.
///
/// # Errors
/// The port is taken; the runtime cannot start.
pub fn run(store: Store, port: u16, lan: bool) -> Result<(), String> {
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
        if store.is_read_only() {
            say(format_args!(
                "The data folder cannot be written: you can look, but nothing is stored."
            ));
        }
        let (app, stop) = App::new(store);
        say(format_args!(
            "Jig Fit is at http://{address}  (Ctrl-C to stop)"
        ));
        app.lan.wanted.send_replace(lan);
        let doors = tokio::spawn(doors(app.clone(), address.port(), stop.subscribe()));
        let stopping = stop.subscribe();
        tokio::spawn(told(stop));
        serve(listener, router(app), false, stopping).await;
        doors.abort();
        Ok(())
    });
    runtime.shutdown_timeout(Duration::from_secs(1));
    result
}

/// Opens and shuts the doors to the local network as it is wanted.
async fn doors(app: App, port: u16, mut stop: watch::Receiver<bool>) {
    let mut wanted = app.lan.wanted.subscribe();
    loop {
        if wanted.wait_for(|w| *w).await.is_err() {
            return;
        }
        let (shut, shutting) = watch::channel(false);
        let mut open = Vec::new();
        let mut trouble = Some("This machine has no address on a local network.".to_string());
        for ip in addresses() {
            match TcpListener::bind((ip, port)).await {
                Ok(listener) => {
                    open.extend(listener.local_addr());
                    let served = serve(listener, router(app.clone()), true, shutting.clone());
                    tokio::spawn(served);
                }
                Err(e) => trouble = Some(format!("{ip} cannot be listened at: {e}.")),
            }
        }
        let trouble = trouble.filter(|_| open.is_empty());
        for door in &open {
            say(format_args!(
                "Paired devices find it at http://{door}  (not encrypted: your own network only)"
            ));
        }
        app.lan.opened(open, trouble);
        tokio::select! {
            _ = wanted.wait_for(|w| !*w) => {}
            _ = stop.wait_for(|s| *s) => {
                let _ = shut.send(true);
                return;
            }
        }
        let _ = shut.send(true);
    }
}

/// Tells the person at the terminal; a terminal that is gone is no reason to stop.
fn say(words: std::fmt::Arguments) {
    use std::io::Write;
    let _ = writeln!(std::io::stdout(), "{words}");
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
