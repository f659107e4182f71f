//! Readings -> what is known of the vehicle, what disagrees, and what to measure next.

pub mod bay;
pub mod blunder;
pub mod drawing;
pub mod field;
pub mod known;
pub mod model;
pub mod network;
pub mod observe;
pub mod obstacle;
pub mod place;
pub mod protocol;
pub mod signal;
