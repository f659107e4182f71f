//! Work that does not wait for each other, done at the same time. The answers are those of doing it in turn, in the same
//! order, and a panic in any of it is the caller's.

use std::panic::resume_unwind;
use std::sync::OnceLock;
use std::sync::atomic::{AtomicUsize, Ordering};
use std::thread::{available_parallelism, scope};

/// More than so many workers at one list wait for memory more than they work (a choice).
const MOST: usize = 4;

/// Both answers.
pub fn beside<A: Send, B>(first: impl FnOnce() -> A + Send, second: impl FnOnce() -> B) -> (A, B) {
    scope(|scope| {
        let first = scope.spawn(first);
        let second = second();
        (
            first.join().unwrap_or_else(|panic| resume_unwind(panic)),
            second,
        )
    })
}

/// The answer for each item, in their order: whoever is free takes the next one.
pub fn each<T: Sync, R: Send>(items: &[T], work: impl Fn(&T) -> R + Sync) -> Vec<R> {
    let next = AtomicUsize::new(0);
    let take = || {
        let mut done = Vec::new();
        loop {
            let i = next.fetch_add(1, Ordering::Relaxed);
            let Some(item) = items.get(i) else {
                return done;
            };
            done.push((i, work(item)));
        }
    };
    let helpers = workers().min(items.len()).saturating_sub(1);
    let mut all = scope(|scope| {
        let helpers: Vec<_> = (0..helpers).map(|_| scope.spawn(take)).collect();
        let mut all = take();
        for helper in helpers {
            all.extend(helper.join().unwrap_or_else(|panic| resume_unwind(panic)));
        }
        all
    });
    all.sort_unstable_by_key(|(i, _)| *i);
    all.into_iter().map(|(_, answer)| answer).collect()
}

/// Asked once: the system reads files to answer.
fn workers() -> usize {
    static KNOWN: OnceLock<usize> = OnceLock::new();
    *KNOWN.get_or_init(|| available_parallelism().map_or(1, |n| n.get().min(MOST)))
}
