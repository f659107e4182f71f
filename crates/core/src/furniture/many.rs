//! How much a project may hold: bounded by what its choices would be made of, before it is made.

use super::{Kind, kind};
use crate::input::escape;
use crate::problem::Problem;
use crate::project::Project;

/// What a piece would be made of at the most.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Amount {
    /// Boards, about; a deck counts for the supports that are looked for under it as well.
    pub boards: usize,
    /// The choice that decides it: a pointer below the module.
    pub pointer: &'static str,
}

impl Amount {
    /// So many boards, whatever is chosen.
    pub fn plain(boards: usize) -> Amount {
        Amount {
            boards,
            pointer: "",
        }
    }

    /// A few boards, and so many for each of `n` that the choice at `pointer` asks for.
    pub fn of(each: usize, n: u32, pointer: &'static str) -> Amount {
        /// Sides, bottom, top, back and feet.
        const ROUND: usize = 12;
        Amount {
            boards: ROUND + each * n as usize,
            pointer,
        }
    }
}

/// More boards than this are no project for a vehicle, and a plan of them takes long (a choice: the largest fit-outs tried had 600).
pub const MOST: usize = 2000;

/// Refuses a project whose pieces would be made of too many boards, at the choice that asks for the most.
///
/// # Errors
/// The piece and its choice, with how many boards there would be.
pub(super) fn check(project: &Project, kinds: &[&dyn Kind]) -> Result<(), Problem> {
    let amounts: Vec<(&String, Amount)> = project
        .modules
        .iter()
        .filter_map(|(id, m)| Some((id, kind(kinds, &m.kind)?.amount(m))))
        .collect();
    let all: usize = amounts.iter().map(|a| a.1.boards).sum();
    let most = amounts.iter().max_by_key(|a| a.1.boards);
    let Some((id, amount)) = most.filter(|_| all > MOST) else {
        return Ok(());
    };
    Err(Problem::out_of_range(
        format!("/modules/{}{}", escape(id), amount.pointer),
        format!("All pieces together would have about {all} boards."),
        format!("about {MOST} boards in all"),
    ))
}
