//! The rules of fitting plywood furniture into a vehicle.
//!
//! Data in, data out: no input or output, clock, thread or interface here. The folders follow the
//! job: units and geometry, the project, survey, stow, heights, template, furniture, parts, checks,
//! cutting; `plan::solve` calls them in that order.
#![forbid(unsafe_code)]
#![cfg_attr(test, allow(clippy::unwrap_used, clippy::expect_used, clippy::panic))]

pub mod assembly;
pub mod boards;
pub mod checks;
pub mod compare;
pub mod compute;
pub mod curves;
pub mod cushions;
pub mod cutting;
pub mod evening;
pub mod furniture;
pub mod geometry;
pub mod handles;
pub mod heights;
pub mod holds;
pub mod input;
pub mod joints;
pub mod mechanics;
pub mod motion;
pub mod network;
pub mod parts;
pub mod plan;
pub mod problem;
pub mod project;
pub mod projection;
pub mod protocol;
pub mod remedies;
pub mod side_by_side;
pub mod solids;
pub mod starts;
pub mod stow;
pub mod survey;
pub mod sweep;
pub mod template;
pub mod testfit;
pub mod tools;
pub mod transfer;
pub mod units;
pub mod weight;
