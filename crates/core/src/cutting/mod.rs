//! From parts to sheets: layouts, cuts in order, offcuts.

pub mod accepted;
pub mod guillotine;
mod kept;
pub mod nest;
pub mod search;
pub mod sheets;
mod view;
