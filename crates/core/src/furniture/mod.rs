//! Kinds of furniture, and the kit they are made of.

pub mod kit;
