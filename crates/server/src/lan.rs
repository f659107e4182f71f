//! A phone can join: doors to the local network, one-time codes, tokens of paired devices.
//!
//! Nothing is encrypted: this is for a network of one's own. A code is good for two minutes and one
//! device; five wrong ones close pairing for a minute.

use std::net::{IpAddr, SocketAddr};
use std::sync::{Arc, Mutex};
use std::time::{Duration, Instant};

use axum::http::{HeaderMap, header};
use jigfit_store::StoreError;
use rand::Rng;
use sha2::{Digest, Sha256};
use tokio::sync::watch;

use crate::app::{App, now};
use crate::problem::ApiError;

/// How long a code is good.
const GOOD: Duration = Duration::from_secs(120);
/// So many wrong codes close pairing for `CLOSED`.
const WRONG: u32 = 5;
const CLOSED: Duration = Duration::from_secs(60);
/// The name of the cookie with a device's token.
const COOKIE: &str = "jigfit";
/// Letters that cannot be mistaken for each other.
const LETTERS: &[u8] = b"abcdefghjkmnpqrstuvwxyz23456789";

/// Through which door a request came. Requests without one came from this machine.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Door {
    /// A loopback address.
    Own,
    /// An address on the local network.
    Lan(SocketAddr),
}

/// What is open to the local network.
#[derive(Clone)]
pub struct Lan {
    state: Arc<Mutex<State>>,
    /// Whether doors are to be open, for the task that listens.
    pub wanted: watch::Sender<bool>,
}

#[derive(Default)]
struct State {
    /// Addresses that are listened at.
    doors: Vec<SocketAddr>,
    /// Why there are none, if they are wanted.
    trouble: Option<String>,
    code: Option<(String, Instant)>,
    wrong: u32,
    closed_until: Option<Instant>,
}

impl Default for Lan {
    fn default() -> Self {
        Lan {
            state: Arc::default(),
            wanted: watch::channel(false).0,
        }
    }
}

fn random(n: usize) -> String {
    let mut rng = rand::rng();
    (0..n)
        .map(|_| char::from(LETTERS[rng.random_range(0..LETTERS.len())]))
        .collect()
}

/// The fingerprint of a token: tokens themselves are not kept.
pub fn print(token: &str) -> String {
    let hash = Sha256::digest(token.as_bytes());
    hash.iter().map(|b| format!("{b:02x}")).collect()
}

/// The token that a request carries.
pub fn cookie(headers: &HeaderMap) -> Option<String> {
    let all = headers.get_all(header::COOKIE).iter();
    let pairs = all
        .filter_map(|v| v.to_str().ok())
        .flat_map(|v| v.split(';'));
    pairs
        .filter_map(|p| p.trim().split_once('='))
        .find(|(name, _)| *name == COOKIE)
        .map(|(_, token)| token.to_string())
}

/// The header that gives a device its token: for pages of this address only, out of reach of scripts.
pub fn set_cookie(token: &str) -> String {
    format!("{COOKIE}={token}; Path=/; HttpOnly; SameSite=Strict; Max-Age=31536000")
}

/// Addresses of this machine on networks that are not routed on the internet, loopback apart.
pub fn addresses() -> Vec<IpAddr> {
    let all = if_addrs::get_if_addrs().unwrap_or_default();
    let own = all.into_iter().map(|i| i.ip()).filter(|ip| match ip {
        IpAddr::V4(v4) => {
            let [a, b, ..] = v4.octets();
            let shared = a == 100 && (64..128).contains(&b);
            v4.is_private() || v4.is_link_local() || v4.is_documentation() || shared
        }
        // Link-local addresses need a zone that browsers do not take.
        IpAddr::V6(_) => false,
    });
    own.collect()
}

impl Lan {
    fn with<T>(&self, work: impl FnOnce(&mut State) -> T) -> T {
        work(&mut self.state.lock().unwrap_or_else(|p| p.into_inner()))
    }

    /// Says where the doors are, or why there are none.
    pub fn opened(&self, doors: Vec<SocketAddr>, trouble: Option<String>) {
        self.with(|s| {
            s.doors = doors;
            s.trouble = trouble;
            if s.doors.is_empty() {
                s.code = None;
            }
        });
    }

    /// The doors, and why there are none.
    pub fn doors(&self) -> (Vec<SocketAddr>, Option<String>) {
        self.with(|s| (s.doors.clone(), s.trouble.clone()))
    }

    /// A new code; the one before is worth nothing any more.
    pub fn code(&self) -> (String, Duration) {
        let code = random(10);
        self.with(|s| s.code = Some((code.clone(), Instant::now() + GOOD)));
        (code, GOOD)
    }

    /// Takes a code: true once for the right one, within its time.
    fn take(&self, code: &str, now: Instant) -> bool {
        self.with(|s| {
            if s.closed_until.is_some_and(|until| now < until) {
                return false;
            }
            let right = s
                .code
                .as_ref()
                .is_some_and(|(good, until)| good == code && now < *until);
            if right {
                s.code = None;
                s.wrong = 0;
            } else {
                s.wrong += 1;
                if s.wrong >= WRONG {
                    s.wrong = 0;
                    s.code = None;
                    s.closed_until = Some(now + CLOSED);
                }
            }
            right
        })
    }
}

impl App {
    /// Pairs a device with a code: its token.
    ///
    /// # Errors
    /// A wrong, old or used code gives `None`; database trouble.
    pub async fn pair(&self, code: &str, name: &str) -> Result<Option<String>, ApiError> {
        if !self.lan.take(code, Instant::now()) {
            return Ok(None);
        }
        let token = random(40);
        let (id, print) = (random(8), print(&token));
        let name = name.to_string();
        self.with(move |s| s.pair(&id, &name, &print, &now()))
            .await?;
        Ok(Some(token))
    }

    /// Whether a token is a paired device's.
    ///
    /// # Errors
    /// Database trouble.
    pub async fn paired(&self, token: Option<String>) -> Result<bool, ApiError> {
        let Some(token) = token else {
            return Ok(false);
        };
        self.with(move |s| -> Result<bool, StoreError> {
            let Some(device) = s.device(&print(&token))? else {
                return Ok(false);
            };
            let now = now();
            // Once a day is enough, and a disc that is full is no reason to shut it out.
            if device.seen.get(..10) != now.get(..10) {
                let _ = s.seen(&device.id, &now);
            }
            Ok(true)
        })
        .await
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_code_is_good_once_and_for_two_minutes() {
        let lan = Lan::default();
        let t = Instant::now();
        let (code, _) = lan.code();
        assert!(!lan.take("wrong", t));
        assert!(lan.take(&code, t));
        assert!(!lan.take(&code, t), "used");
        let (code, good) = lan.code();
        assert!(!lan.take(&code, t + good + Duration::from_secs(5)), "old");
    }

    #[test]
    fn guessing_closes_pairing() {
        let lan = Lan::default();
        let t = Instant::now();
        let (code, _) = lan.code();
        for _ in 0..WRONG {
            assert!(!lan.take("guess", t));
        }
        assert!(!lan.take(&code, t), "the code is gone");
        let (code, _) = lan.code();
        assert!(!lan.take(&code, t + CLOSED / 2), "closed for a while");
        assert!(lan.take(&code, t + CLOSED + Duration::from_millis(1)));
    }

    #[test]
    fn the_cookie_is_found_among_others() {
        let mut headers = HeaderMap::new();
        headers.insert(header::COOKIE, "a=1; jigfit=token; b=2".parse().unwrap());
        assert_eq!(cookie(&headers).as_deref(), Some("token"));
        assert!(set_cookie("x").contains("HttpOnly"));
    }
}
