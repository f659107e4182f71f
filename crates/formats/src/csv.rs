//! Lists as CSV (RFC 4180), units in the header.

use jigfit_core::plan::Plan;

use crate::FormatError;

fn failed(e: impl std::fmt::Display) -> FormatError {
    FormatError {
        format: "CSV",
        detail: e.to_string(),
    }
}

fn table(header: &[&str], rows: Vec<Vec<String>>) -> Result<Vec<u8>, FormatError> {
    let mut w = csv::Writer::from_writer(vec![]);
    w.write_record(header).map_err(failed)?;
    for row in rows {
        w.write_record(row.iter().map(|cell| safe(cell)))
            .map_err(failed)?;
    }
    w.into_inner().map_err(failed)
}

/// A cell that a spreadsheet would run as a formula is quoted as text.
fn safe(cell: &str) -> String {
    let number = cell.parse::<f64>().is_ok();
    if !number && cell.starts_with(['=', '+', '-', '@']) {
        format!("'{cell}")
    } else {
        cell.to_string()
    }
}

/// The cuts in order, and after them the parts.
///
/// # Errors
/// None in practice.
pub fn cuts(plan: &Plan) -> Result<Vec<u8>, FormatError> {
    let mut rows = Vec::new();
    for g in &plan.sheets {
        for s in &g.sheets {
            for c in &s.cuts {
                rows.push(vec![
                    "cut".into(),
                    s.mark.clone(),
                    c.n.to_string(),
                    g.stuff.clone(),
                    c.axis.clone(),
                    c.set.mm.clone(),
                    c.set.inch.clone(),
                    c.length.mm.clone(),
                    c.length.inch.clone(),
                    String::new(),
                ]);
            }
        }
    }
    for p in &plan.parts {
        rows.push(vec![
            "part".into(),
            p.mark.clone(),
            p.count.to_string(),
            p.stuff.clone(),
            p.name.clone(),
            p.w.mm.clone(),
            p.w.inch.clone(),
            p.h.mm.clone(),
            p.h.inch.clone(),
            format!("{:.2}", p.mass),
        ]);
    }
    table(
        &[
            "row",
            "sheet_or_part",
            "cut_number_or_count",
            "stuff",
            "axis_or_name",
            "set_or_width_mm",
            "set_or_width_in",
            "length_or_height_mm",
            "length_or_height_in",
            "mass_kg",
        ],
        rows,
    )
}

/// The readings.
///
/// # Errors
/// None in practice.
pub fn readings(plan: &Plan) -> Result<Vec<u8>, FormatError> {
    let rows = plan.survey.marks.iter().flat_map(|m| {
        m.readings.iter().map(|r| {
            vec![
                r.id.clone(),
                m.key.clone(),
                m.what.clone(),
                r.typed.clone(),
                r.unit.clone(),
                r.figure.mm.clone(),
                r.figure.inch.clone(),
                r.when.clone(),
                if r.soft { "yes" } else { "" }.into(),
                if r.aside { "yes" } else { "" }.into(),
                format!("{:.2}", r.sd),
                m.residual.map_or(String::new(), |v| format!("{v:.2}")),
            ]
        })
    });
    table(
        &[
            "reading",
            "quantity",
            "what",
            "typed",
            "unit",
            "value_mm",
            "value_in",
            "when",
            "soft",
            "set_aside",
            "sd_mm",
            "residual_mm",
        ],
        rows.collect(),
    )
}
