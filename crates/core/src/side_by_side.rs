//! Work that does not wait for each other, done at the same time. The answers are those of doing it in turn, in the same
//! order, and a panic in any of it is the caller's.
//!
//! Whoever waits here may meanwhile do other work that waits: nobody may ask while holding a lock.

use std::sync::OnceLock;
use std::thread::available_parallelism;

use rayon::prelude::*;
use rayon::{ThreadPool, ThreadPoolBuilder};

/// More than so many workers at one list wait for memory more than they work (a choice).
const MOST: usize = 4;

/// A worker that waits takes other work on top of its own: it has room for that, bytes (a choice; untouched it costs nothing).
const STACK: usize = 16 << 20;

/// Both answers.
pub fn beside<A: Send, B: Send>(
    first: impl FnOnce() -> A + Send,
    second: impl FnOnce() -> B + Send,
) -> (A, B) {
    match workers() {
        Some(pool) => pool.install(|| rayon::join(first, second)),
        None => (first(), second()),
    }
}

/// The answer for each item, in their order.
pub fn each<T: Sync, R: Send>(items: &[T], work: impl Fn(&T) -> R + Sync + Send) -> Vec<R> {
    match workers() {
        // Few items that take unlike times: each may go to another worker.
        Some(pool) => pool.install(|| items.par_iter().with_max_len(1).map(work).collect()),
        None => items.iter().map(work).collect(),
    }
}

/// Work that asks for much of it side by side: it goes to the workers once instead of each time.
pub fn within<R: Send>(work: impl FnOnce() -> R + Send) -> R {
    match workers() {
        Some(pool) => pool.install(work),
        None => work(),
    }
}

/// Threads that stay: one that is made for a moment's work takes longer to come by its memory than to do it. Where the
/// system gives none, everything is done in turn.
fn workers() -> Option<&'static ThreadPool> {
    static KNOWN: OnceLock<Option<ThreadPool>> = OnceLock::new();
    let made = KNOWN.get_or_init(|| {
        // Asked once: the system reads files to answer.
        let threads = available_parallelism().map_or(1, |n| n.get().min(MOST));
        let pool = ThreadPoolBuilder::new()
            .num_threads(threads)
            .stack_size(STACK);
        pool.build().ok()
    });
    made.as_ref()
}
