//! The height ladder: what stands under a deck, who sits up on it, and where that changes.

pub mod ladder;
pub mod view;
