//! Answers of a solved field that were given before. Plans ask for the same places again and again, and for most of them
//! again after every edit that leaves the survey alone.

use std::sync::Mutex;

use rustc_hash::FxHashMap;

use super::signal::{Signal, Term};

/// So many places are kept; later ones are worked out each time.
const MOST: usize = 60_000;

type Key = (Signal, u64, u64);

/// Answers by place. The same place has the same answer for as long as its field is there, whoever asks.
#[derive(Debug)]
pub struct Memo<T>(Mutex<FxHashMap<Key, T>>);

impl<T> Default for Memo<T> {
    fn default() -> Self {
        Memo(Mutex::default())
    }
}

/// A copy starts empty: nobody waits for two at once.
impl<T> Clone for Memo<T> {
    fn clone(&self) -> Self {
        Memo::default()
    }
}

impl<T: Copy> Memo<T> {
    /// What was answered for this term, or what `work` gives. Only a signal itself at one place is kept.
    pub fn of(&self, terms: &[Term], work: impl FnOnce() -> T) -> T {
        let [t] = terms else { return work() };
        if t.by.to_bits() != 1.0_f64.to_bits() {
            return work();
        }
        let key = (t.signal, t.u.to_bits(), t.v.to_bits());
        // A lock that somebody's panic left behind keeps what was stored whole before it.
        let known = self.0.lock().ok().and_then(|kept| kept.get(&key).copied());
        if let Some(known) = known {
            return known;
        }
        let new = work();
        if let Ok(mut kept) = self.0.lock()
            && kept.len() < MOST
        {
            kept.insert(key, new);
        }
        new
    }
}
