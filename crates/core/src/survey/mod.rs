//! Readings -> what is known of the vehicle, what disagrees, and what to measure next.

pub mod drawing;
pub mod known;
pub mod model;
pub mod place;
pub mod protocol;
