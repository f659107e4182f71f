//! Captured curves: ways to capture one, the fair curve through what was read, where it lies in the vehicle.

pub mod bends;
pub mod capture;
pub mod fair;
pub mod mirror;
pub mod ordinate_table;
pub mod place;
pub mod sure;
pub mod view;
pub mod ways;
