//! Pieces of which furniture is made. None of them knows the vehicle.

pub mod drawer_box;
