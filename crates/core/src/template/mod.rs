//! From what bounds a panel to the panel.

pub mod fill;
pub mod outline;
