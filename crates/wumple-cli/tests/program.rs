//! The program as its users meet it.

use std::fs;
use std::path::{Path, PathBuf};

use assert_cmd::Command;

fn demo_file(name: &str) -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo").join(name)
}

fn wumple(arguments: &[&str]) -> Command {
    let mut command = Command::cargo_bin("wumple").unwrap();
    command.args(arguments).env("NO_COLOR", "1").current_dir(demo_file(""));
    command
}

fn output(command: &mut Command) -> (i32, String, String) {
    let output = command.output().unwrap();
    let text = |bytes| String::from_utf8(bytes).unwrap();
    (output.status.code().unwrap(), text(output.stdout), text(output.stderr))
}

const ROOM: [&str; 4] = ["run", "throwing-room.level.toml", "--tuning", "dab.tuning.toml"];

#[test]
fn the_demo_needs_nothing_and_leaves_figures_that_can_be_read() {
    let folder = tempfile::tempdir().unwrap();
    let mut command = wumple(&["demo"]);
    let (status, out, _) = output(command.current_dir(folder.path()));
    assert_eq!(status, 0);
    assert!(out.contains("3.4 tiles") && out.contains("bumped:head") && out.contains("wumple-demo"));
    let mut names: Vec<String> = fs::read_dir(folder.path().join("wumple-demo"))
        .unwrap()
        .map(|entry| entry.unwrap().file_name().into_string().unwrap())
        .collect();
    names.sort();
    insta::assert_snapshot!(
        names.join(" "),
        @"dab-arcs.png dab-arcs.svg dab.tuning.toml throwing-room-run.csv throwing-room-run.png throwing-room-run.svg throwing-room.buttons throwing-room.level.toml throwing-room.png throwing-room.svg"
    );

    // What it says to try next works as it stands.
    let (_, next) = out.split_once("\n  wumple ").unwrap();
    let arguments: Vec<&str> = next.split_whitespace().filter(|word| *word != "\\").collect();
    let (status, _, said) = output(wumple(&arguments).current_dir(folder.path()));
    assert_eq!((status, said.as_str()), (0, "figure: wumple-demo/throwing-room-run.svg\n"));

    // A second demo leaves what was changed.
    let tuning = folder.path().join("wumple-demo/dab.tuning.toml");
    fs::write(&tuning, "mine").unwrap();
    let (status, _, said) = output(wumple(&["demo"]).current_dir(folder.path()));
    assert_eq!((status, said.as_str()), (0, "left as you changed them: dab.tuning.toml\n"));
    assert_eq!(fs::read_to_string(&tuning).unwrap(), "mine");
}

#[test]
fn arcs_as_json_have_the_fields_of_their_format() {
    let (status, out, said) = output(&mut wumple(&["arcs", "dab.tuning.toml", "--format", "json"]));
    assert_eq!((status, said.as_str()), (0, ""));
    let report: serde_json::Value = serde_json::from_str(&out).unwrap();
    assert_eq!(report["format"], "wumple-arcs 1");
    let tuning = &report["tunings"][0];
    assert_eq!((&tuning["name"], tuning["tile_px"].as_f64()), (&"Dab".into(), Some(16.0)));
    assert_eq!((tuning["rate_hz"].as_f64(), &tuning["scheme"]), (Some(60.0), &"exact".into()));
    let running = tuning["arcs"].as_array().unwrap().iter().find(|arc| arc["kind"] == "running").unwrap();
    let keys: Vec<&String> = running.as_object().unwrap().keys().collect();
    let expected = [
        "air_ticks",
        "air_time_s",
        "apex_height_px",
        "apex_height_tiles",
        "apex_tick",
        "apex_time_s",
        "held_ticks",
        "kind",
        "landing_speed_px_s",
        "reach_px",
        "reach_tiles",
    ];
    assert!(expected.iter().all(|key| keys.iter().any(|found| found == key)), "{keys:?}");
    assert!((running["apex_height_tiles"].as_f64().unwrap() - 3.4).abs() < 1e-9);
}

#[test]
fn arcs_as_csv_and_as_a_figure() {
    let folder = tempfile::tempdir().unwrap();
    for name in ["arcs.svg", "arcs.png"] {
        let figure = folder.path().join(name);
        let arguments = ["arcs", "dab.tuning.toml", "dab.tuning.toml", "--format", "csv", "--figure"];
        let (status, out, _) = output(wumple(&arguments).arg(&figure));
        assert_eq!(status, 0);
        assert!(out.starts_with("tuning,kind,held_ticks,apex_height_px,"));
        assert!(fs::metadata(&figure).unwrap().len() > 5000);
    }
}

#[test]
fn a_run_as_a_table_a_trace_and_json() {
    let folder = tempfile::tempdir().unwrap();
    let trace = folder.path().join("new/run.csv");
    let press = ["--press", "0 right; 40 right jump; 60 right", "--ticks", "90"];
    let mut command = wumple(&ROOM);
    let (status, out, _) = output(command.args(press).arg("--trace").arg(&trace));
    assert_eq!(status, 0);
    insta::assert_snapshot!(out, @r"
     tick   time s    x px      y px   state   events
    ──────────────────────────────────────────────────────────
       40    0.667    97.4   250.942   rise    jumped:ground
       74    1.233   165.4       224   run     landed:207.238
       82    1.367   181.4       224   fall    lost-ground

    90 ticks, 1.5 s; at the end: fall at (197.4, 231.895) px
    ");
    let written = fs::read_to_string(&trace).unwrap();
    assert_eq!(written.lines().count(), 92);
    let (_, printed, _) = output(wumple(&ROOM).args(press).args(["--format", "csv"]));
    assert_eq!(printed, written);
    let (_, json, _) = output(wumple(&ROOM).args(press).args(["--format", "json"]));
    let report: serde_json::Value = serde_json::from_str(&json).unwrap();
    assert_eq!((&report["format"], report["rows"].as_array().unwrap().len()), (&"wumple-run 1".into(), 91));
}

#[test]
fn a_run_goes_on_for_two_seconds_after_the_last_line() {
    let (_, out, _) = output(wumple(&ROOM).args(["--press", "0 right; 30 -", "--format", "csv"]));
    assert_eq!(out.lines().count(), 1 + 1 + 30 + 120);
}

#[test]
fn wrong_commands_and_files_end_with_status_2_and_a_remedy() {
    let folder = tempfile::tempdir().unwrap();
    let wrong = folder.path().join("wrong.tuning.toml");
    fs::write(&wrong, "[body]\nwidth = \"10 s\"\n").unwrap();
    let wrong = wrong.to_str().unwrap();
    let table: [(&[&str], &str); 8] = [
        (&["run", "throwing-room.level.toml"], "--tuning <FILE>"),
        (&["arcs", "nowhere.tuning.toml"], "wumple: nowhere.tuning.toml: No such file"),
        (&["arcs", wrong], "wrong.tuning.toml:2:9: \"10 s\" is a time; body.width needs a length"),
        (&["arcs", wrong], "2 | width = \"10 s\""),
        (&["arcs", "dab.tuning.toml", "--figure", "arcs.pdf"], "a figure's name must end in .svg or .png"),
        (&["run", "throwing-room.level.toml", "--tuning", "dab.tuning.toml", "--trace", "t.txt"], ".csv or .jsonl"),
        (
            &["run", "throwing-room.level.toml", "--tuning", "dab.tuning.toml", "--press", "0 rihgt"],
            "--press:1:3: unknown button",
        ),
        (&["jumps"], "unrecognized subcommand"),
    ];
    for (arguments, expected) in table {
        let (status, out, said) = output(&mut wumple(arguments));
        assert_eq!((status, out.as_str()), (2, ""), "{arguments:?}");
        assert!(said.contains(expected), "{arguments:?}: {said}");
    }
}

#[test]
fn draw_shows_a_character_that_fits_and_refuses_one_that_does_not() {
    let folder = tempfile::tempdir().unwrap();
    let figure = folder.path().join("room.svg");
    let draw = ["draw", "throwing-room.level.toml", "--tuning", "dab.tuning.toml", "--figure"];
    let (status, out, said) = output(wumple(&draw).arg(&figure));
    assert_eq!((status, out.as_str()), (0, ""));
    assert!(said.starts_with("figure: ") && fs::read_to_string(&figure).unwrap().starts_with("<svg"));

    let giant = folder.path().join("giant.tuning.toml");
    let text = fs::read_to_string(demo_file("dab.tuning.toml"))
        .unwrap()
        .replace("\"10 px\"", "\"40 px\"")
        .replace("\"22 px\"", "\"90 px\"");
    fs::write(&giant, text.replace("tile = 16", "tile = 20")).unwrap();
    let (status, _, said) = output(wumple(&["draw", "throwing-room.level.toml", "--tuning"]).arg(&giant));
    assert_eq!(status, 2);
    assert!(said.contains("spawn at column 1, row 15 is inside a solid tile"), "{said}");
}

#[test]
fn a_tile_of_another_size_is_a_warning() {
    let folder = tempfile::tempdir().unwrap();
    let other = folder.path().join("other.tuning.toml");
    let text = fs::read_to_string(demo_file("dab.tuning.toml")).unwrap();
    fs::write(&other, text.replace("tile = 16", "tile = 8")).unwrap();
    let (status, _, said) =
        output(wumple(&["run", "throwing-room.level.toml", "--ticks", "1", "--tuning"]).arg(&other));
    assert_eq!(status, 0);
    assert!(said.starts_with("warning: throwing-room.level.toml: a tile is 16 px here but 8 px"), "{said}");
}

#[test]
fn every_command_has_help_with_an_example() {
    for command in ["demo", "arcs", "run", "draw"] {
        let (status, out, _) = output(&mut wumple(&[command, "--help"]));
        assert_eq!(status, 0);
        assert!(out.contains("Example") && out.contains(&format!("wumple {command} ")), "{command}: {out}");
    }
}

#[test]
fn the_examples_run_on_the_demo_data() {
    let root = Path::new(env!("CARGO_MANIFEST_DIR")).join("../..");
    let mut run = 0;
    for entry in fs::read_dir(root.join("examples")).unwrap() {
        let file = entry.unwrap().path();
        let name = file.file_stem().unwrap().to_str().unwrap().to_owned();
        let folder = tempfile::tempdir().unwrap();
        let mut cargo = Command::new(env!("CARGO"));
        let cargo = cargo.args(["run", "--quiet", "--package", "wumple", "--example", &name, "--manifest-path"]);
        let (status, out, said) = output(cargo.arg(root.join("Cargo.toml")).current_dir(folder.path()));
        assert_eq!(status, 0, "{name}: {said}");
        assert!(!out.is_empty(), "{name} shows something");
        run += 1;
    }
    assert!(run >= 3);
}
