//! Curves and boards as DXF, in millimetres, for cutters and other programs (from memory of what the format asks for): release
//! 12, which everything reads, and release 2000. Polylines whose parts bulge to arcs, circles, a layer for each thing that is done.

use jigfit_core::geometry::arcs::fit;

use crate::drawing::{Drawing, Layer};

/// Gap between drawings, mm.
const GAP: f64 = 40.0;
/// Lines and arcs leave the drawing by no more than this, mm.
const TOL: f64 = 0.03;
/// Height of a mark, mm.
const TEXT: f64 = 20.0;

/// Which form of the format.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub enum Release {
    /// Release 12.
    #[default]
    R12,
    /// Release 2000.
    R2000,
}

/// Pairs of a code and a value; in release 2000 every object has a handle of its own.
struct Text {
    out: String,
    release: Release,
    handle: u32,
}

impl Text {
    fn pair(&mut self, code: u32, value: impl std::fmt::Display) {
        self.out.push_str(&format!("{code}\r\n{value}\r\n"));
    }

    fn number(&mut self, code: u32, value: f64) {
        self.pair(code, format!("{value:.5}"));
    }

    fn is_new(&self) -> bool {
        self.release == Release::R2000
    }

    /// A new object of a kind, owned by another.
    fn object(&mut self, kind: &str, owner: &str, classes: &[&str]) -> String {
        let handle = format!("{:X}", self.handle);
        self.handle += 1;
        self.pair(0, kind);
        if self.is_new() {
            self.pair(if kind == "DIMSTYLE" { 105 } else { 5 }, &handle);
            self.pair(330, owner);
            for c in classes {
                self.pair(100, c);
            }
        }
        handle
    }

    fn entity(&mut self, kind: &str, layer: Layer, class: &str) {
        self.object(kind, MODEL_SPACE, &["AcDbEntity"]);
        self.pair(8, layer.name());
        if self.is_new() {
            self.pair(100, class);
        }
    }

    fn polyline(&mut self, points: &[[f64; 2]], closed: bool, layer: Layer) {
        let vertices = fit(points, closed, TOL);
        if vertices.len() < 2 {
            return;
        }
        if self.is_new() {
            self.entity("LWPOLYLINE", layer, "AcDbPolyline");
            self.pair(90, vertices.len());
            self.pair(70, u8::from(closed));
        } else {
            self.entity("POLYLINE", layer, "");
            self.pair(66, 1);
            for code in [10, 20, 30] {
                self.number(code, 0.0);
            }
            self.pair(70, u8::from(closed));
        }
        for v in &vertices {
            if !self.is_new() {
                self.pair(0, "VERTEX");
                self.pair(8, layer.name());
            }
            self.number(10, v.at[0]);
            self.number(20, v.at[1]);
            if !self.is_new() {
                self.number(30, 0.0);
            }
            if v.bulge != 0.0 {
                self.pair(42, format!("{:.9}", v.bulge));
            }
        }
        if !self.is_new() {
            self.pair(0, "SEQEND");
            self.pair(8, layer.name());
        }
    }

    fn drawing(&mut self, d: &Drawing, by: [f64; 2]) {
        let moved = |p: &[f64; 2]| [p[0] + by[0], p[1] + by[1]];
        for line in &d.lines {
            let points: Vec<[f64; 2]> = line.points.iter().map(moved).collect();
            self.polyline(&points, line.closed, line.layer);
        }
        for r in &d.rounds {
            let at = moved(&r.at);
            self.entity("CIRCLE", Layer::Drill, "AcDbCircle");
            self.number(10, at[0]);
            self.number(20, at[1]);
            self.number(30, 0.0);
            self.number(40, r.diameter / 2.0);
        }
        for (at, words, layer) in &d.words {
            let at = moved(at);
            self.entity("TEXT", *layer, "AcDbText");
            self.number(10, at[0]);
            self.number(20, at[1]);
            self.number(30, 0.0);
            self.number(40, TEXT);
            self.pair(
                1,
                words
                    .chars()
                    .filter(char::is_ascii_graphic)
                    .collect::<String>(),
            );
            if self.is_new() {
                self.pair(100, "AcDbText");
            }
        }
    }

    fn table(&mut self, name: &str, rows: &[(&str, &[(u32, String)])]) {
        self.pair(0, "TABLE");
        self.pair(2, name);
        let own = format!("{:X}", self.handle);
        if self.is_new() {
            self.handle += 1;
            self.pair(5, &own);
            self.pair(330, 0);
            self.pair(100, "AcDbSymbolTable");
        }
        self.pair(70, rows.len());
        if self.is_new() && name == "DIMSTYLE" {
            self.pair(100, "AcDbDimStyleTable");
        }
        let class = match name {
            "LTYPE" => "AcDbLinetypeTableRecord",
            "LAYER" => "AcDbLayerTableRecord",
            "STYLE" => "AcDbTextStyleTableRecord",
            "APPID" => "AcDbRegAppTableRecord",
            "DIMSTYLE" => "AcDbDimStyleTableRecord",
            "BLOCK_RECORD" => "AcDbBlockTableRecord",
            _ => "AcDbViewportTableRecord",
        };
        for (row, pairs) in rows {
            match (name, *row) {
                ("BLOCK_RECORD", row) => {
                    // The spaces that entities and blocks name.
                    let handle = if row == "*Model_Space" {
                        MODEL_SPACE
                    } else {
                        PAPER_SPACE
                    };
                    self.pair(0, name);
                    self.pair(5, handle);
                    self.pair(330, &own);
                    self.pair(100, "AcDbSymbolTableRecord");
                    self.pair(100, class);
                }
                _ => {
                    self.object(name, &own, &["AcDbSymbolTableRecord", class]);
                }
            }
            self.pair(2, row);
            for (code, value) in *pairs {
                self.pair(*code, value);
            }
        }
        self.pair(0, "ENDTAB");
    }

    fn section(&mut self, name: &str) {
        self.pair(0, "SECTION");
        self.pair(2, name);
    }
}

/// Handles that are named before they are given.
const MODEL_SPACE: &str = "1F";
const PAPER_SPACE: &str = "1E";
const ROOT: &str = "C";
const GROUPS: &str = "D";
/// The first handle that is given freely, and one past all that will be.
const FIRST: u32 = 0x30;

/// These drawings, one above the other.
pub fn write(drawings: &[Drawing], release: Release) -> Vec<u8> {
    let mut out = Text {
        out: String::new(),
        release,
        handle: FIRST,
    };
    let new = release == Release::R2000;
    if !new {
        out.pair(999, "lengths in millimetres");
    }
    out.section("HEADER");
    out.pair(9, "$ACADVER");
    out.pair(1, if new { "AC1015" } else { "AC1009" });
    if new {
        out.pair(9, "$INSUNITS");
        out.pair(70, 4);
        out.pair(9, "$HANDSEED");
        out.pair(5, "FFFFFF");
    }
    out.pair(0, "ENDSEC");
    out.section("TABLES");
    let flag = || (70, "0".to_string());
    let line_type = [
        flag(),
        (3, String::new()),
        (72, "65".into()),
        (73, "0".into()),
        (40, "0.0".into()),
    ];
    if new {
        out.table("VPORT", &[]);
        out.table(
            "LTYPE",
            &[
                ("ByBlock", &line_type),
                ("ByLayer", &line_type),
                ("CONTINUOUS", &line_type),
            ],
        );
    } else {
        out.table("LTYPE", &[("CONTINUOUS", &line_type)]);
    }
    let layer = |colour: &str| {
        [
            flag(),
            (62, colour.to_string()),
            (6, "CONTINUOUS".to_string()),
        ]
    };
    let colours = ["7", "1", "5", "3", "6"].map(layer);
    let zero = layer("7");
    let mut layers: Vec<(&str, &[(u32, String)])> = vec![("0", &zero)];
    layers.extend(
        Layer::ALL
            .iter()
            .zip(&colours)
            .map(|(l, c)| (l.name(), c.as_slice())),
    );
    out.table("LAYER", &layers);
    if new {
        let style = [
            flag(),
            (40, "0.0".into()),
            (41, "1.0".into()),
            (50, "0.0".into()),
            (71, "0".into()),
            (42, "2.5".into()),
            (3, "txt".into()),
            (4, String::new()),
        ];
        out.table("STYLE", &[("Standard", &style)]);
        out.table("VIEW", &[]);
        out.table("UCS", &[]);
        out.table("APPID", &[("ACAD", &[flag()])]);
        out.table("DIMSTYLE", &[("Standard", &[flag()])]);
        out.table(
            "BLOCK_RECORD",
            &[("*Model_Space", &[]), ("*Paper_Space", &[])],
        );
    }
    out.pair(0, "ENDSEC");
    if new {
        out.section("BLOCKS");
        for (name, owner) in [("*Model_Space", MODEL_SPACE), ("*Paper_Space", PAPER_SPACE)] {
            out.object("BLOCK", owner, &["AcDbEntity"]);
            out.pair(8, 0);
            out.pair(100, "AcDbBlockBegin");
            out.pair(2, name);
            out.pair(70, 0);
            for code in [10, 20, 30] {
                out.number(code, 0.0);
            }
            out.pair(3, name);
            out.pair(1, "");
            out.object("ENDBLK", owner, &["AcDbEntity"]);
            out.pair(8, 0);
            out.pair(100, "AcDbBlockEnd");
        }
        out.pair(0, "ENDSEC");
    }
    out.section("ENTITIES");
    let mut up = 0.0;
    for d in drawings {
        let Some((low, high)) = d.bounds() else {
            continue;
        };
        out.drawing(d, [-low[0], up - low[1]]);
        up += high[1] - low[1] + GAP;
    }
    out.pair(0, "ENDSEC");
    if new {
        // The root dictionary, and the one of groups that it has to name.
        out.section("OBJECTS");
        for (handle, owner) in [(ROOT, "0"), (GROUPS, ROOT)] {
            out.pair(0, "DICTIONARY");
            out.pair(5, handle);
            out.pair(330, owner);
            out.pair(100, "AcDbDictionary");
            if handle == ROOT {
                out.pair(3, "ACAD_GROUP");
                out.pair(350, GROUPS);
            }
        }
        out.pair(0, "ENDSEC");
    }
    out.pair(0, "EOF");
    out.out.into_bytes()
}
