//! Layouts that were searched before. Most edits leave most sheets as they are, and the same task has the same answer.

use std::sync::Mutex;

use super::nest::{NestIn, NestOut};

/// So many are kept, the newest last.
const MOST: usize = 16;
/// Of more kinds of part than these it is not: such tasks would fill the memory.
const PARTS: usize = 400;

static KEPT: Mutex<Vec<(NestIn, NestOut)>> = Mutex::new(Vec::new());

/// What was found for this task.
pub fn get(task: &NestIn) -> Option<NestOut> {
    let kept = KEPT.lock().ok()?;
    let found = kept.iter().find(|(t, _)| t == task)?;
    Some(found.1.clone())
}

/// Keeps what was found; what was asked for longest ago goes.
pub fn put(task: &NestIn, out: &NestOut) {
    if task.parts.len() > PARTS {
        return;
    }
    let new = (task.clone(), out.clone());
    let gone = KEPT.lock().ok().and_then(|mut kept| {
        let same = kept.iter().position(|(t, _)| t == task);
        let goes = same.or_else(|| (kept.len() >= MOST).then_some(0));
        let gone = goes.map(|at| kept.remove(at));
        kept.push(new);
        gone
    });
    // What goes is taken apart when the lock is free again.
    drop(gone);
}
