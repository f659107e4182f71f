//! Open formats: printable pages as SVG and PDF, lists as CSV.
//!
//! A page is a short list of lines and words (`page`); part cards and sheet layouts are drawn on it
//! once and written by two writers.
#![forbid(unsafe_code)]
#![cfg_attr(test, allow(clippy::unwrap_used, clippy::expect_used, clippy::panic))]

pub mod csv;
pub mod curves_in;
mod draw;
pub mod drawing;
pub mod dxf;
mod font;
pub mod full_size;
pub mod marker_sheets;
pub mod model_mesh;
pub mod page;
pub mod part_card;
pub mod pdf;
pub mod ply;
pub mod readings_csv;
pub mod sheet_card;
pub mod steps_card;
pub mod svg;

/// A file could not be written in that format.
#[derive(Debug, thiserror::Error)]
#[error("this cannot be written as {format}: {detail}")]
pub struct FormatError {
    /// Which format.
    pub format: &'static str,
    /// Why.
    pub detail: String,
}
