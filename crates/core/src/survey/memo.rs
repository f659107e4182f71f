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

impl<T: Copy> Memo<T> {
    /// What was answered for this term, or what `work` gives. Only a signal itself at one place is kept.
    pub fn of(&self, terms: &[Term], work: impl FnOnce() -> T) -> T {
        let [t] = terms else { return work() };
        if t.by.to_bits() != 1.0_f64.to_bits() {
            return work();
        }
        let key = (t.signal, t.u.to_bits(), t.v.to_bits());
        // The upper bits: the lower ones place a key within its drawer.
        let hash = BuildHasherDefault::<FxHasher>::default().hash_one(key);
        let drawer = &self.0[(hash >> 40) as usize % DRAWERS];
        // A lock that somebody's panic left behind keeps what was stored whole before it.
        let known = drawer.lock().ok().and_then(|mut kept| kept.get(&key));
        if let Some(known) = known {
            return known;
        }
        let new = work();
        if let Ok(mut kept) = drawer.lock() {
            kept.put(key, new);
        }
        new
    }
}
