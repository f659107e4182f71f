//! Lists as CSV (RFC 4180), units in the header.

use jigfit_core::plan::Plan;
use jigfit_core::project::Project;
use jigfit_core::survey::drawing::what;
use jigfit_core::survey::known::value;

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

/// A cell that a spreadsheet would run as a formula is quoted as text: also one whose formula begins
/// after blanks, tabs or line ends, which some of them skip.
fn safe(cell: &str) -> String {
    let number = cell.parse::<f64>().is_ok();
    let first = cell.trim_start_matches(|c: char| c.is_whitespace() || c.is_control());
    let runs = first.starts_with([
        '=', '+', '-', '@', '\u{ff1d}', '\u{ff0b}', '\u{ff0d}', '\u{ff20}',
    ]);
    if !number && (runs || cell.starts_with(['\t', '\r', '\n'])) {
        format!("'{cell}")
    } else {
        cell.to_string()
    }
}

/// The cuts in order.
///
/// # Errors
/// None in practice.
pub fn cuts(plan: &Plan) -> Result<Vec<u8>, FormatError> {
    let sheets = plan
        .sheets
        .iter()
        .flat_map(|g| g.sheets.iter().map(move |s| (g, s)));
    let rows = sheets.flat_map(|(g, s)| {
        s.cuts.iter().map(move |c| {
            vec![
                s.mark.clone(),
                c.n.to_string(),
                g.stuff.clone(),
                c.axis.clone(),
                c.set.mm.clone(),
                c.set.inch.clone(),
                c.length.mm.clone(),
                c.length.inch.clone(),
                c.text.clone(),
            ]
        })
    });
    table(
        &[
            "sheet",
            "cut",
            "stuff",
            "axis",
            "set_mm",
            "set_in",
            "length_mm",
            "length_in",
            "words",
        ],
        rows.collect(),
    )
}

/// The parts.
///
/// # Errors
/// None in practice.
pub fn parts(plan: &Plan) -> Result<Vec<u8>, FormatError> {
    let rows = plan.parts.iter().map(|p| {
        vec![
            p.mark.clone(),
            p.name.clone(),
            p.count.to_string(),
            p.stuff.clone(),
            p.w.mm.clone(),
            p.w.inch.clone(),
            p.h.mm.clone(),
            p.h.inch.clone(),
            format!("{:.2}", p.mass),
        ]
    });
    table(
        &[
            "part",
            "name",
            "count",
            "stuff",
            "width_mm",
            "width_in",
            "height_mm",
            "height_in",
            "mass_kg",
        ],
        rows.collect(),
    )
}

/// All readings, those set aside among them and marked so.
///
/// # Errors
/// None in practice.
pub fn readings(project: &Project, plan: &Plan) -> Result<Vec<u8>, FormatError> {
    let w = project.writer();
    let rows = project.survey.readings.iter().map(|(id, r)| {
        let key = r.quantity.key();
        let (mm, sd) = value(project, r).unwrap_or((0.0, project.survey.sd));
        let figure = w.figure(mm);
        let mark = plan.survey.marks.iter().find(|m| m.key == key);
        let residual = mark.filter(|_| !r.aside).and_then(|m| m.residual);
        vec![
            id.clone(),
            key,
            what(project, &r.quantity),
            r.typed.clone(),
            r.unit.word().into(),
            figure.mm,
            figure.inch,
            r.when.clone(),
            r.instrument.word().into(),
            if r.soft { "yes" } else { "" }.into(),
            if r.aside { "yes" } else { "" }.into(),
            format!("{sd:.2}"),
            residual.map_or(String::new(), |v| format!("{v:.2}")),
            r.note.clone(),
        ]
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
            "instrument",
            "soft",
            "set_aside",
            "sd_mm",
            "residual_mm",
            "note",
        ],
        rows.collect(),
    )
}

/// What is bought besides boards, one row a line.
///
/// # Errors
/// The table cannot be written.
pub fn hardware(plan: &Plan) -> Result<Vec<u8>, FormatError> {
    let rows = plan.hardware.iter().map(|h| {
        vec![
            h.what.clone(),
            h.size.clone(),
            h.count.to_string(),
            h.spare.to_string(),
            h.places.join(", "),
        ]
    });
    table(&["what", "size", "count", "spare", "for"], rows.collect())
}

/// Ordinates of all captured curves, one row a station.
///
/// # Errors
/// The table cannot be written.
pub fn ordinates(plan: &Plan) -> Result<Vec<u8>, FormatError> {
    let rows = plan.templates.iter().flat_map(|t| {
        let rows = t.table.iter().flat_map(|table| &table.rows);
        rows.map(|[along, depth]| {
            vec![
                t.name.clone(),
                along.mm.clone(),
                depth.mm.clone(),
                along.inch.clone(),
                depth.inch.clone(),
            ]
        })
    });
    table(
        &["curve", "along_mm", "out_mm", "along_in", "out_in"],
        rows.collect(),
    )
}
