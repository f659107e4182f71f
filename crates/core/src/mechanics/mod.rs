//! What boards are made of and how they bend.

pub mod beam;
pub mod column;
pub mod fixing;
pub mod lid;
pub mod load;
pub mod material;
pub mod strut;
