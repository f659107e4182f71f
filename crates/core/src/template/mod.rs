//! From what bounds a panel to the panel.

pub mod asks;
pub mod fill;
pub mod outline;
pub mod over;
