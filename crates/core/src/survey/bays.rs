//! Bays that were worked out before: a plan asks for the same heights again and again, and the next plan for most of them.

use std::sync::{Arc, Mutex};

use super::bay::Bay;

/// So many heights are kept, what was asked for last at the end.
const MOST: usize = 24;

/// A height as bits, and what was answered for it.
type Answer = (u64, Option<Arc<Bay>>);

/// Answers by height, for as long as the vehicle stays as it is.
#[derive(Debug, Default)]
pub struct Bays(Mutex<Vec<Answer>>);

/// A copy starts empty: nobody waits for two at once.
impl Clone for Bays {
    fn clone(&self) -> Self {
        Bays::default()
    }
}

impl Bays {
    /// What was answered for this height, or what `work` gives.
    pub fn of(&self, z: f64, work: impl FnOnce() -> Option<Bay>) -> Option<Arc<Bay>> {
        let key = z.to_bits();
        // A lock that somebody's panic left behind keeps what was stored whole before it.
        let known = self.0.lock().ok().and_then(|mut kept| {
            let at = kept.iter().position(|(k, _)| *k == key)?;
            let found = kept.remove(at);
            kept.push(found.clone());
            Some(found.1)
        });
        if let Some(known) = known {
            return known;
        }
        let new = work().map(Arc::new);
        let gone = self.0.lock().ok().and_then(|mut kept| {
            kept.push((key, new.clone()));
            (kept.len() > MOST).then(|| kept.remove(0))
        });
        // What goes is taken apart when the lock is free again.
        drop(gone);
        new
    }
}
