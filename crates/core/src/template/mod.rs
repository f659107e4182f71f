//! From what bounds a panel to the panel.

pub mod capture;
pub mod fair;
pub mod fill;
pub mod ordinate_table;
pub mod outline;
pub mod view;
