//! Captured curves as DXF (release 12, from memory): polylines in millimetres, on layers for what is cut and what is
//! only marked.

use jigfit_core::plan::Plan;

/// What is cut.
const CUT: &str = "CUT";
/// What is marked.
const MARK: &str = "MARK";
/// Gap between curves, mm.
const GAP: f64 = 40.0;

struct Text(String);

impl Text {
    fn pair(&mut self, code: u32, value: impl std::fmt::Display) {
        self.0.push_str(&format!("{code}\r\n{value}\r\n"));
    }

    fn line(&mut self, layer: &str, points: &[[f64; 2]]) {
        self.pair(0, "POLYLINE");
        self.pair(8, layer);
        self.pair(66, 1);
        for code in [10, 20, 30] {
            self.pair(code, "0.0");
        }
        self.pair(70, 0);
        for p in points {
            self.pair(0, "VERTEX");
            self.pair(8, layer);
            self.pair(10, format!("{:.4}", p[0]));
            self.pair(20, format!("{:.4}", p[1]));
            self.pair(30, "0.0");
        }
        self.pair(0, "SEQEND");
        self.pair(8, layer);
    }
}

/// All captured curves, one above the other.
pub fn templates(plan: &Plan) -> Vec<u8> {
    let mut out = Text(String::new());
    out.pair(999, "lengths in millimetres");
    out.pair(0, "SECTION");
    out.pair(2, "HEADER");
    out.pair(9, "$ACADVER");
    out.pair(1, "AC1009");
    out.pair(0, "ENDSEC");
    out.pair(0, "SECTION");
    out.pair(2, "TABLES");
    out.pair(0, "TABLE");
    out.pair(2, "LAYER");
    out.pair(70, 2);
    for (layer, colour) in [(CUT, 7), (MARK, 1)] {
        out.pair(0, "LAYER");
        out.pair(2, layer);
        out.pair(70, 0);
        out.pair(62, colour);
        out.pair(6, "CONTINUOUS");
    }
    out.pair(0, "ENDTAB");
    out.pair(0, "ENDSEC");
    out.pair(0, "SECTION");
    out.pair(2, "ENTITIES");
    let mut up = 0.0;
    for t in plan.templates.iter().filter(|t| t.cut.len() >= 2) {
        let straight: Vec<[f64; 2]> = t.table.as_ref().map_or(vec![], |t| t.edge.to_vec());
        let all = || t.cut.iter().chain(&straight);
        let low = all().map(|p| p[1]).fold(f64::INFINITY, f64::min);
        let high = all().map(|p| p[1]).fold(f64::NEG_INFINITY, f64::max);
        let moved = |p: &[f64; 2]| [p[0], p[1] - low + up];
        out.line(CUT, &t.cut.iter().map(moved).collect::<Vec<_>>());
        if straight.len() == 2 {
            out.line(MARK, &straight.iter().map(moved).collect::<Vec<_>>());
        }
        up += high - low + GAP;
    }
    out.pair(0, "ENDSEC");
    out.pair(0, "EOF");
    out.0.into_bytes()
}
