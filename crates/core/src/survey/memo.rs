//! Answers of a solved field that were given before. Plans ask for the same places again and again, and for most of them
//! again after every edit that leaves the survey alone.

use std::hash::{BuildHasher, BuildHasherDefault};
use std::mem::take;
use std::sync::Mutex;

use rustc_hash::{FxHashMap, FxHasher};

use super::signal::{Signal, Term};

/// Answers lie in so many drawers, so that who asks at the same time seldom waits for the same lock.
const DRAWERS: usize = 16;
/// So many places are new in a drawer before what nobody asked for meanwhile is let go of.
const MOST: usize = 2_500;

type Key = (Signal, u64, u64);

/// Answers by place. The same place has the same answer for as long as its field is there, whoever asks.
#[derive(Debug)]
pub struct Memo<T>([Mutex<Drawer<T>>; DRAWERS]);

/// What was asked for of late, and what was before that.
#[derive(Debug)]
struct Drawer<T> {
    new: FxHashMap<Key, T>,
    old: FxHashMap<Key, T>,
}

impl<T> Default for Drawer<T> {
    fn default() -> Self {
        Drawer {
            new: FxHashMap::default(),
            old: FxHashMap::default(),
        }
    }
}

impl<T: Copy> Drawer<T> {
    fn get(&mut self, key: &Key) -> Option<T> {
        if let Some(known) = self.new.get(key) {
            return Some(*known);
        }
        let known = *self.old.get(key)?;
        self.put(*key, known);
        Some(known)
    }

    fn put(&mut self, key: Key, value: T) {
        if self.new.len() >= MOST {
            self.old = take(&mut self.new);
        }
        self.new.insert(key, value);
    }
}

impl<T> Default for Memo<T> {
    fn default() -> Self {
        Memo(std::array::from_fn(|_| Mutex::default()))
    }
}

/// A copy starts empty: nobody waits for two at once.
impl<T> Clone for Memo<T> {
    fn clone(&self) -> Self {
        Memo::default()
    }
}

/// The drawer of a term and its key in there. Only a signal itself at one place is kept.
fn place(terms: &[Term]) -> Option<(usize, Key)> {
    let [t] = terms else { return None };
    if t.by.to_bits() != 1.0_f64.to_bits() {
        return None;
    }
    let key = (t.signal, t.u.to_bits(), t.v.to_bits());
    // The upper bits: the lower ones place a key within its drawer.
    let hash = BuildHasherDefault::<FxHasher>::default().hash_one(key);
    Some(((hash >> 40) as usize % DRAWERS, key))
}

impl<T: Copy> Memo<T> {
    /// What was answered for this term, or what `work` gives.
    pub fn of(&self, terms: &[Term], work: impl FnOnce() -> T) -> T {
        let known = self.get(terms);
        known.unwrap_or_else(|| {
            let new = work();
            self.put(terms, new);
            new
        })
    }

    /// What was answered for this term.
    pub fn get(&self, terms: &[Term]) -> Option<T> {
        let (drawer, key) = place(terms)?;
        // A lock that somebody's panic left behind keeps what was stored whole before it.
        self.0[drawer].lock().ok()?.get(&key)
    }

    /// An answer.
    pub fn put(&self, terms: &[Term], answer: T) {
        if let Some((drawer, key)) = place(terms)
            && let Ok(mut kept) = self.0[drawer].lock()
        {
            kept.put(key, answer);
        }
    }
}
