//! The program from outside: exit codes, standard streams, files, a kill in the middle.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)]

use std::io::{BufRead, BufReader, Read, Write};
use std::net::TcpStream;
use std::path::Path;
use std::process::{Child, Command, Output, Stdio};

use rstest::rstest;
use serde_json::{Value, json};

fn jigfit(args: &[&str], input: &str) -> Output {
    let mut child = Command::new(env!("CARGO_BIN_EXE_jigfit"))
        .args(args)
        .stdin(Stdio::piped())
        .stdout(Stdio::piped())
        .stderr(Stdio::piped())
        .spawn()
        .unwrap();
    // A command that does not read its input closes it early.
    let _ = child.stdin.take().unwrap().write_all(input.as_bytes());
    child.wait_with_output().unwrap()
}

fn demo_file(name: &str) -> String {
    format!("{}/demo/{name}.json", env!("CARGO_MANIFEST_DIR"))
}

/// A served data folder; the process ends with the test.
struct Served {
    child: Child,
    port: u16,
}

impl Served {
    fn start(data: &Path) -> Served {
        let mut child = Command::new(env!("CARGO_BIN_EXE_jigfit"))
            .args(["demo", "--port", "0", "--data", data.to_str().unwrap()])
            .stdout(Stdio::piped())
            .stderr(Stdio::null())
            .spawn()
            .unwrap();
        let mut line = String::new();
        BufReader::new(child.stdout.take().unwrap())
            .read_line(&mut line)
            .unwrap();
        let port = line.split("127.0.0.1:").nth(1).unwrap();
        let port = port.split_whitespace().next().unwrap().parse().unwrap();
        Served { child, port }
    }

    fn send(&self, method: &str, path: &str, headers: &str, body: &str) -> (u16, Value) {
        let mut stream = TcpStream::connect(("127.0.0.1", self.port)).unwrap();
        write!(
            stream,
            "{method} {path} HTTP/1.1\r\nHost: 127.0.0.1\r\nConnection: close\r\n{headers}Content-Length: {}\r\n\r\n{body}",
            body.len()
        )
        .unwrap();
        let mut text = String::new();
        stream.read_to_string(&mut text).unwrap();
        let status = text.split(' ').nth(1).unwrap().parse().unwrap();
        let body = text.split_once("\r\n\r\n").unwrap().1;
        (status, serde_json::from_str(body).unwrap_or(Value::Null))
    }
}

impl Drop for Served {
    fn drop(&mut self) {
        let _ = self.child.kill();
        let _ = self.child.wait();
    }
}

#[test]
fn compute_answers_on_standard_output() {
    let out = jigfit(
        &["compute", "tape"],
        r#"{"entries": ["23 3/16"], "unit": "in"}"#,
    );
    assert!(out.status.success());
    let answer: Value = serde_json::from_slice(&out.stdout).unwrap();
    assert_eq!(answer["results"][0]["mm"], 588.9625);
}

#[rstest]
#[case(&["compute", "tape"], "{\"entries\": 5}", "/entries")]
#[case(&["compute", "tape"], "not json", "")]
#[case(&["compute", "horoscope"], "{}", "")]
#[case(&["plan", "-"], "{\"format\": \"jigfit-project\", \"version\": 7}", "/version")]
#[case(&["export", "moth", "parts.dwg"], "", "")]
fn bad_input_exits_with_two_and_the_problem(
    #[case] args: &[&str],
    #[case] input: &str,
    #[case] pointer: &str,
) {
    let out = jigfit(args, input);
    assert_eq!(out.status.code(), Some(2));
    assert!(out.stdout.is_empty());
    let problem: Value = serde_json::from_slice(&out.stderr).unwrap();
    assert_eq!(problem["pointer"], pointer);
    assert!(problem["type"].is_string() && problem["detail"].is_string());
}

#[test]
fn plan_reads_a_file_or_standard_input() {
    let file = demo_file("moth");
    let from_file = jigfit(&["plan", &file], "");
    let from_input = jigfit(&["plan", "-"], &std::fs::read_to_string(&file).unwrap());
    assert!(from_file.status.success());
    assert_eq!(from_file.stdout, from_input.stdout);
    let plan: Value = serde_json::from_slice(&from_file.stdout).unwrap();
    assert!(plan["parts"].as_array().unwrap().len() > 4);
}

#[test]
fn import_export_backup() {
    let dir = tempfile::tempdir().unwrap();
    let data = dir.path().join("data");
    let data = data.to_str().unwrap();
    let id = jigfit(&["import", &demo_file("kingfisher"), "--data", data], "");
    assert_eq!(String::from_utf8_lossy(&id.stdout).trim(), "kingfisher");
    let out = jigfit(
        &["export", "kingfisher", "project.json", "--data", data],
        "",
    );
    let exported: Value = serde_json::from_slice(&out.stdout).unwrap();
    assert_eq!(exported["name"], "Kingfisher");
    assert!(
        jigfit(&["export", "kingfisher", "parts.pdf", "--data", data], "")
            .stdout
            .starts_with(b"%PDF")
    );
    let copy = dir.path().join("copy");
    std::fs::create_dir(&copy).unwrap();
    let file = copy.join("jigfit.sqlite");
    assert!(
        jigfit(&["backup", file.to_str().unwrap(), "--data", data], "")
            .status
            .success()
    );
    let again = jigfit(
        &[
            "export",
            "kingfisher",
            "project.json",
            "--data",
            copy.to_str().unwrap(),
        ],
        "",
    );
    assert_eq!(again.stdout, out.stdout);
    let missing = jigfit(&["export", "ghost", "cuts.csv", "--data", data], "");
    assert_eq!(missing.status.code(), Some(1));
    assert!(String::from_utf8_lossy(&missing.stderr).contains("ghost"));
}

#[test]
fn help_and_version() {
    let help = String::from_utf8(jigfit(&["--help"], "").stdout).unwrap();
    // As many demos as there are files of them.
    let demos = std::fs::read_dir(concat!(env!("CARGO_MANIFEST_DIR"), "/demo")).unwrap();
    assert_eq!(demos.count(), 4);
    assert!(help.contains("four demo projects"));
    for command in [
        "serve", "demo", "plan", "compute", "export", "import", "backup",
    ] {
        assert!(help.contains(command));
    }
    assert!(
        String::from_utf8(jigfit(&["--version"], "").stdout)
            .unwrap()
            .starts_with("jigfit ")
    );
}

/// Killed without warning between edits: every acknowledged one is there at the next start.
#[test]
fn a_kill_loses_no_acknowledged_edit() {
    let dir = tempfile::tempdir().unwrap();
    let mut base = 1;
    for round in 0..3 {
        let mut served = Served::start(dir.path());
        for i in 0..5 {
            let h = 100 + round * 10 + i;
            let patch = json!([{"op": "add", "path": "/gear/water/h", "value": h}]).to_string();
            let (status, body) = served.send(
                "PATCH",
                "/api/projects/moth",
                &format!("content-type: application/json\r\nif-match: {base}\r\n"),
                &patch,
            );
            assert_eq!(status, 200, "{body}");
            base = body["revision"].as_u64().unwrap();
        }
        served.child.kill().unwrap();
        served.child.wait().unwrap();
    }
    let served = Served::start(dir.path());
    let (_, moth) = served.send("GET", "/api/projects/moth", "", "");
    assert_eq!(moth["revision"], 16);
    assert_eq!(moth["project"]["gear"]["water"]["h"], 124.0);
}

#[cfg(unix)]
#[test]
fn it_stops_when_asked_even_with_an_open_event_stream() {
    let dir = tempfile::tempdir().unwrap();
    let mut served = Served::start(dir.path());
    let mut events = TcpStream::connect(("127.0.0.1", served.port)).unwrap();
    write!(
        events,
        "GET /api/projects/moth/events HTTP/1.1\r\nHost: localhost\r\n\r\n"
    )
    .unwrap();
    let mut first = [0_u8; 12];
    events.read_exact(&mut first).unwrap();
    assert_eq!(&first, b"HTTP/1.1 200");
    let asked = Command::new("kill")
        .arg(served.child.id().to_string())
        .status()
        .unwrap();
    assert!(asked.success());
    assert!(served.child.wait().unwrap().success());
}

/// A survey is simulated, its slip kept in a file of its own, its panel worked out: pipes as a person
/// would lay them.
#[test]
fn a_simulated_survey_to_a_panel() {
    let dir = tempfile::tempdir().unwrap();
    let truth = dir.path().join("truth.json");
    let vehicle = format!(
        "{}/../instruments/vehicles/crate.json",
        env!("CARGO_MANIFEST_DIR")
    );
    let args = |seed: &'static str| {
        vec![
            "survey",
            "simulate",
            "--vehicle",
            &*vehicle,
            "--noise",
            "1.0",
            "--blunders",
            "1",
            "--blunder-mm",
            "25",
            "--truth",
            truth.to_str().unwrap(),
            "--seed",
            seed,
            "--protocol",
            "full",
        ]
    };
    let taken = jigfit(&args("7"), "");
    assert!(
        taken.status.success(),
        "{}",
        String::from_utf8_lossy(&taken.stderr)
    );
    assert_eq!(taken.stdout, jigfit(&args("7"), "").stdout);
    let project: Value = serde_json::from_slice(&taken.stdout).unwrap();
    let slips: Value = serde_json::from_str(&std::fs::read_to_string(&truth).unwrap()).unwrap();
    let asked = json!({"project": project, "height": 320, "clearance": 3});
    let panel = jigfit(&["compute", "panel"], &asked.to_string());
    assert!(panel.status.success());
    let panel: Value = serde_json::from_slice(&panel.stdout).unwrap();
    assert_eq!(panel["suspects"], slips["blunders"]);
    assert_eq!(panel["panels"].as_array().unwrap().len(), 1);
    assert!(panel["sd_max"].as_f64().unwrap() < 5.0);
    // Its plan can be worked out as any other project's.
    let plan = jigfit(&["plan", "-"], &project.to_string());
    assert!(plan.status.success());
}

#[rstest]
#[case(&["survey", "simulate", "--vehicle", "/nowhere.json"], 1)]
#[case(&["survey", "simulate", "--vehicle", "-", "--noise", "-1"], 2)]
#[case(&["survey", "simulate", "--vehicle", "-", "--protocol", "slow"], 2)]
#[case(&["compute", "panel"], 2)]
#[case(&["compute", "adjust"], 2)]
fn simulations_refused(#[case] args: &[&str], #[case] code: i32) {
    let done = jigfit(args, r#"{"name": "x", "kind": "van"}"#);
    assert_eq!(done.status.code(), Some(code));
    assert!(done.stdout.is_empty() && !done.stderr.is_empty());
}

/// Another instrument says other things: an inch tape sixteenths, typed as one would.
#[rstest]
#[case("inches", "in", "tape")]
#[case("laser", "mm", "laser")]
fn simulated_instruments(#[case] with: &str, #[case] unit: &str, #[case] instrument: &str) {
    let vehicle = concat!(
        env!("CARGO_MANIFEST_DIR"),
        "/../instruments/vehicles/crate.json"
    );
    let args = ["survey", "simulate", "--vehicle", vehicle, "--with", with];
    let done = jigfit(&args, "");
    assert!(done.status.success());
    let project: Value = serde_json::from_slice(&done.stdout).unwrap();
    let readings = project["survey"]["readings"].as_object().unwrap();
    assert!(readings.len() > 30);
    for r in readings.values() {
        assert_eq!(r["unit"], unit);
        assert_eq!(r["instrument"], instrument);
    }
}

/// A request whose header never ends is cut off, while others are answered.
#[test]
fn a_header_without_end_is_cut_off() {
    use std::io::{Read, Write};
    let dir = tempfile::tempdir().unwrap();
    let served = Served::start(dir.path());
    let mut slow = std::net::TcpStream::connect(("127.0.0.1", served.port)).unwrap();
    let limit = std::time::Duration::from_secs(30);
    slow.set_read_timeout(Some(limit)).unwrap();
    slow.write_all(b"GET /healthz HTTP/1.1\r\nhost: localhost\r\nx: ")
        .unwrap();
    let (status, _) = served.send("GET", "/healthz", "", "");
    assert_eq!(status, 200);
    let mut rest = Vec::new();
    // It ends by the server's hand, not by our patience: that would be an error here.
    slow.read_to_end(&mut rest).unwrap();
}

/// Kinds, a fit-out added from the command line, and the solids of its plan, in the shapes of the compute
/// contract.
#[test]
fn a_fit_out_from_the_command_line() {
    let kinds = jigfit(&["kinds"], "");
    let kinds: Value = serde_json::from_slice(&kinds.stdout).unwrap();
    let names: Vec<&str> = kinds
        .as_array()
        .unwrap()
        .iter()
        .map(|k| k["kind"].as_str().unwrap())
        .collect();
    assert!(
        ["deck", "box_seat", "drawer"]
            .iter()
            .all(|k| names.contains(k))
    );
    assert!(kinds[0]["schema"]["properties"].is_object() && kinds[0]["purpose"].is_string());
    let vehicle = format!(
        "{}/../instruments/vehicles/moth.json",
        env!("CARGO_MANIFEST_DIR")
    );
    let taken = jigfit(
        &["survey", "simulate", "--vehicle", &vehicle, "--seed", "5"],
        "",
    );
    let mut file = String::from_utf8(taken.stdout).unwrap();
    let bare: Value = serde_json::from_str(&file).unwrap();
    assert_eq!(bare["modules"], json!({}));
    for args in [
        vec![
            "add",
            "drawer",
            "-",
            "--id",
            "left",
            "--set",
            "width=16 1/2 in",
        ],
        vec!["add", "box_seat", "-", "--set", "height=300"],
        vec!["add", "deck", "-"],
    ] {
        let out = jigfit(&args, &file);
        assert!(
            out.status.success(),
            "{}",
            String::from_utf8_lossy(&out.stderr)
        );
        file = String::from_utf8(out.stdout).unwrap();
    }
    let plan = jigfit(&["plan", "-"], &file);
    let plan: Value = serde_json::from_slice(&plan.stdout).unwrap();
    let boards = plan["boards"].as_array().unwrap();
    let modules: std::collections::BTreeSet<&str> = boards
        .iter()
        .map(|b| b["module"].as_str().unwrap())
        .collect();
    assert_eq!(
        modules.into_iter().collect::<Vec<_>>(),
        ["box_seat", "deck", "left"]
    );
    for b in boards {
        let id = b["id"].as_str().unwrap();
        assert!(id.starts_with(&format!("{}/", b["module"].as_str().unwrap())));
        for state in ["drive", "day", "night"] {
            assert_eq!(b["poses"][state]["origin"].as_array().unwrap().len(), 3);
        }
        assert!(b["outline"]["outer"].is_array() && b["pockets"].is_array());
        assert!(
            b["thickness"].as_f64().unwrap() > 0.0
                && b["mark"].is_string()
                && b["body"].is_string()
        );
    }
    assert!(
        boards
            .iter()
            .any(|b| b["pockets"][0]["depth"].as_f64() > Some(0.0))
    );
    assert!(plan["parts"][0]["boards"][0].is_string());
    assert!(plan["sheets"][0]["nest"]["sheets_used"].as_u64() > Some(0));
    assert!(
        plan["findings"]
            .as_array()
            .unwrap()
            .iter()
            .all(|f| f["check"].is_string() && f["subject"].is_string())
    );
    // What cannot be: exit code 2 and the pointer.
    for (args, pointer) in [
        (vec!["add", "shelf", "-"], "/kind"),
        (vec!["add", "drawer", "-", "--id", "left"], "/id"),
        (
            vec!["add", "drawer", "-", "--set", "wings=2"],
            "/choices/wings",
        ),
        (vec!["add", "drawer", "-", "--set", "width"], "/set"),
    ] {
        let out = jigfit(&args, &file);
        assert_eq!(out.status.code(), Some(2));
        let problem: Value = serde_json::from_slice(&out.stderr).unwrap();
        assert_eq!(problem["pointer"], pointer);
    }
}

/// Accepted sheets are in the printed project, and its plan says that they are right; a change is told.
#[test]
fn sheets_are_accepted_from_the_command_line() {
    let demo = format!("{}/demo/kingfisher.json", env!("CARGO_MANIFEST_DIR"));
    let out = jigfit(&["accept", &demo], "");
    let mut project: Value = serde_json::from_slice(&out.stdout).unwrap();
    assert!(project["cutting"]["accepted"]["sheets"]["S1"]["cuts"].is_array());
    let plan = jigfit(&["plan", "-"], &project.to_string());
    let plan: Value = serde_json::from_slice(&plan.stdout).unwrap();
    let has = |plan: &Value, id: &str| {
        let all = plan["findings"].as_array().unwrap();
        all.iter().any(|f| f["id"] == id)
    };
    assert!(has(&plan, "accepted") && plan["sheets"][0]["sheets"][0]["accepted"] == true);
    project["modules"]["box_seat"]["choices"]["length"] = json!(650.0);
    let plan = jigfit(&["plan", "-"], &project.to_string());
    let plan: Value = serde_json::from_slice(&plan.stdout).unwrap();
    assert!(has(&plan, "accepted.changed"));
    let out = jigfit(&["accept", &demo, "--effort", "99"], "");
    assert_eq!(out.status.code(), Some(2));
}
