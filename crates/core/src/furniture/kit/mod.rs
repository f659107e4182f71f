//! Pieces of which furniture is made. None of them knows the vehicle.

pub mod carcass;
pub mod comb;
pub mod crate_dividers;
pub mod door;
pub mod drawer;
pub mod drawer_box;
pub mod face_frame;
pub mod foot;
pub mod frame;
pub mod grip;
pub mod hinges;
pub mod lid;
pub mod maker;
pub mod slide_board;
pub mod style;
