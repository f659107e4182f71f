//! Readings -> what is known of the vehicle, and what disagrees.

pub mod bay;
mod bays;
pub mod blunder;
pub mod cloud;
pub mod doors;
pub mod drawing;
pub mod field;
mod key;
pub mod known;
pub mod landmark;
mod likely;
mod memo;
pub mod model;
pub mod observe;
pub mod obstacle;
mod opening;
pub mod place;
pub mod places;
pub mod section;
pub mod signal;
mod thin;
pub mod witness;
