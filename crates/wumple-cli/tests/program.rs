//! The program as its users meet it.

mod shared;

use std::fs;

use shared::{demo_file, output, wumple};

const ROOM: [&str; 4] = ["run", "throwing-room.level.toml", "--tuning", "dab.tuning.toml"];

#[test]
fn the_demo_needs_nothing_and_leaves_figures_that_can_be_read() {
    let folder = tempfile::tempdir().unwrap();
    let mut command = wumple(&["demo"]);
    let (status, out, _) = output(command.current_dir(folder.path()));
    assert_eq!(status, 0);
    assert!(out.contains("3.4        54.4") && out.contains("bumped:head") && out.contains("wumple-demo"));
    let mut names: Vec<String> = fs::read_dir(folder.path().join("wumple-demo"))
        .unwrap()
        .map(|entry| entry.unwrap().file_name().into_string().unwrap())
        .collect();
    names.sort();
    let of_a_run = |room: &str| {
        ["csv", "png", "svg"]
            .map(|ending| format!("{room}-run.{ending}"))
            .into_iter()
            .chain(["png", "svg"].map(|ending| format!("{room}-run-over-time.{ending}")))
    };
    let first_part = |name: String| name.split('/').next().unwrap_or_default().to_owned();
    let mut expected: Vec<String> = wumple::demo::files().into_iter().map(|(name, _)| first_part(name)).collect();
    expected.extend(wumple::demo::ROOMS.iter().flat_map(|room| of_a_run(room.name)));
    expected.extend(wumple::demo::OTHERS.iter().flat_map(|other| of_a_run(other.room.name)));
    expected.extend(of_a_run("throwing-room"));
    for room in ["hoist-yard", "drying-loft", "ember-walk", "jar-lift"] {
        expected.extend(["png", "svg"].map(|ending| format!("{room}-ride.{ending}")));
    }
    for figure in ["dab-arcs", "dab-jump-over-time", "throwing-room", "climbing-dab-hitbox", "a-late-press-compared"] {
        expected.extend(["png", "svg"].map(|ending| format!("{figure}.{ending}")));
    }
    expected.sort();
    assert_eq!(names, expected);
    assert!(!out.contains("never"), "every room is led through to its goal: {out}");

    // What it says to try next works as it stands.
    let (_, next) = out.split_once("\n  wumple ").unwrap();
    let arguments: Vec<&str> = next.split_whitespace().filter(|word| *word != "\\").collect();
    let (status, why, said) = output(wumple(&arguments).env("COLUMNS", "160").current_dir(folder.path()));
    assert_eq!((status, said.as_str()), (0, "figure: wumple-demo/chimney-run.svg\n"));
    assert!(why.contains("used, off the wall"));

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
fn two_tunings_are_put_side_by_side_with_what_differs() {
    let folder = tempfile::tempdir().unwrap();
    let other = folder.path().join("heavy.tuning.toml");
    let text = fs::read_to_string(demo_file("dab.tuning.toml")).unwrap();
    fs::write(&other, text.replace("\"Dab\"", "\"Heavy\"").replace("\"3.4 tiles\"", "\"3 tiles\"")).unwrap();
    let (status, out, _) = output(wumple(&["arcs", "dab.tuning.toml"]).arg(&other));
    assert_eq!(status, 0);
    let differs = out.split_once(" what differs").unwrap().1;
    assert!(differs.contains(" full           height, tiles            3.4        3      -0.4\n"), "{differs}");
    let (_, same, _) = output(&mut wumple(&["arcs", "dab.tuning.toml", "dab.tuning.toml"]));
    assert!(same.ends_with("nothing differs\n"), "{same}");
}

#[test]
fn points_and_a_figure_over_time_on_request() {
    let folder = tempfile::tempdir().unwrap();
    let path = |name: &str| folder.path().join(name);
    let mut command = wumple(&["arcs", "dab.tuning.toml"]);
    command.arg("--points").arg(path("points.csv")).arg("--time-figure").arg(path("time.svg"));
    assert_eq!(output(&mut command).0, 0);
    let points = fs::read_to_string(path("points.csv")).unwrap();
    assert!(points.starts_with("tuning,kind,held_ticks,tick,time_s,x_px,height_px,upward_speed_px_s\nDab,tap,1,0,"));
    assert!(fs::read_to_string(path("time.svg")).unwrap().contains("hang"));
    let mut command = wumple(&["arcs", "dab.tuning.toml", "--points"]);
    assert_eq!(output(command.arg(path("points.jsonl"))).0, 0);
    let lines = fs::read_to_string(path("points.jsonl")).unwrap();
    assert_eq!(lines.lines().count(), points.lines().count() - 1);
}

#[test]
fn arcs_from_a_place_in_a_level() {
    let there = ["arcs", "dab.tuning.toml", "--level", "throwing-room.level.toml", "--at"];
    let (status, out, _) = output(wumple(&there).args(["9,13", "--format", "csv"]));
    assert_eq!(status, 0);
    assert!(out.contains("Dab,full left,") && out.contains(",lands,6,10,") && out.contains(",solid\n"), "{out}");
    let (_, json, _) = output(wumple(&there).args(["9,13", "--format", "json"]));
    let report: serde_json::Value = serde_json::from_str(&json).unwrap();
    assert_eq!((&report["format"], report["arcs"].as_array().unwrap().len()), (&"wumple-level-arcs 1".into(), 8));
    for (at, message) in [
        ("9,12", "--at: nothing is there to stand on; name the tile above the ground"),
        ("99,2", "--at: column 99, row 2 is outside the map of 36 x 20 tiles"),
        ("9,15", "--at: the hitbox would be inside the solid tile at column 9, row 14"),
        ("nine", "a place is a column and a row, such as 8,14"),
    ] {
        let (status, _, said) = output(wumple(&there).arg(at));
        assert_eq!(status, 2);
        assert!(said.contains(message), "{said}");
    }
}

#[test]
fn fit_as_json_has_the_fields_of_its_format() {
    let wishes =
        ["fit", "--height", "3.5 tiles", "--time-to-apex", "0.38 s", "--scheme", "velocity-first", "--format", "json"];
    let (status, out, said) = output(&mut wumple(&wishes));
    assert_eq!(status, 0);
    assert!(said.starts_with("warning: 0.38 s to the apex is 22.8 ticks at 60 Hz"), "{said}");
    let found: serde_json::Value = serde_json::from_str(&out).unwrap();
    assert_eq!((&found["format"], &found["scheme"]), (&"wumple-fit 1".into(), &"velocity-first".into()));
    let number = |a: &str, b: &str| found[a][b].as_f64().unwrap();
    // g = 2H/(dt*dt*n*(n-1)), v0 = g*n*dt for 56 px in 23 ticks of 1/60 s.
    let gravity = 112.0 * 3600.0 / (23.0 * 22.0);
    assert!((number("rise_gravity", "px_s2") / gravity - 1.0).abs() < 1e-9);
    assert!((number("rise_gravity", "px_frame2") * 3600.0 / gravity - 1.0).abs() < 1e-9);
    assert!((number("speed", "tiles_s") * 16.0 * 60.0 / (gravity * 23.0) - 1.0).abs() < 1e-9);
    assert_eq!(found["predicted"]["apex_tick"].as_u64(), Some(23));
    assert_eq!(number("fall_gravity", "px_s2"), number("rise_gravity", "px_s2"));
}

#[test]
fn fit_writes_a_tuning_or_changes_one() {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("mine.tuning.toml");
    let wish = |height: &str, more: &[&str]| {
        let mut command = wumple(&["fit", "--height", height, "--time-to-apex", "0.4 s", "--write"]);
        output(command.arg(&path).args(more))
    };
    let (status, _, said) = wish("3 tiles", &["--scheme", "position-first"]);
    assert_eq!((status, said.contains("written to")), (0, true), "{said}");
    let edited = fs::read_to_string(&path).unwrap().replace("[fall]", "[fall] # mine");
    fs::write(&path, edited).unwrap();
    let (status, _, said) = wish("4 tiles", &[]);
    assert_eq!((status, said.contains("changed in")), (0, true), "{said}");
    let text = fs::read_to_string(&path).unwrap();
    assert!(text.contains("[fall] # mine") && text.contains("height = \"4 tiles\""), "{text}");
    let (status, _, said) = wish("4 tiles", &["--rate", "50"]);
    assert_eq!(status, 2);
    assert!(said.contains("the tuning to be changed has 60 Hz, position-first and tiles of 16 px"), "{said}");
}

#[test]
fn convert_says_what_changes_and_writes_what_is_asked() {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("other.tuning.toml");
    let convert = ["convert", "dab.tuning.toml", "--scheme", "velocity-first", "--rate", "50"];
    let (status, out, _) = output(&mut wumple(&convert));
    assert_eq!(status, 0);
    assert!(out.contains("full height stays 3.4 tiles\ntime to the apex changes from 0.35 to 0.36 s (+0.01)"), "{out}");
    assert!(out.contains("\n[tick]\nrate = 50"), "{out}");
    let (status, out, said) = output(wumple(&convert).arg("--write").arg(&path));
    assert_eq!(status, 0);
    assert!(!out.contains("[tick]") && said.starts_with("written to "));
    let (status, _, said) = output(wumple(&convert).arg("--write").arg(&path));
    assert_eq!((status, said.contains("is there already; --force overwrites it")), (2, true), "{said}");
    assert_eq!(output(wumple(&convert).args(["--force", "--write"]).arg(&path)).0, 0);
    let (_, json, _) = output(wumple(&convert).args(["--format", "json"]));
    let done: serde_json::Value = serde_json::from_str(&json).unwrap();
    assert_eq!((&done["format"], &done["after"]["rate_hz"].as_f64()), (&"wumple-convert 1".into(), &Some(50.0)));
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
     tick   time s    x px      y px   state   on      events
    ─────────────────────────────────────────────────────────────────
       40    0.667    97.4   250.745   rise            jumped:ground
       72      1.2   161.4       224   run     solid   landed:256
       82    1.367   181.4       224   fall            lost-ground

    90 ticks, 1.5 s; at the end: fall at (197.4, 238.557) px
    ");
    let written = fs::read_to_string(&trace).unwrap();
    assert_eq!(written.lines().count(), 92);
    let (_, printed, _) = output(wumple(&ROOM).args(press).args(["--format", "csv"]));
    assert_eq!(printed, written);
    let (_, json, _) = output(wumple(&ROOM).args(press).args(["--format", "json"]));
    let report: serde_json::Value = serde_json::from_str(&json).unwrap();
    assert_eq!((&report["format"], report["rows"].as_array().unwrap().len()), (&"wumple-run 1".into(), 91));
}

const CLIMB: [&str; 6] =
    ["run", "drying-racks.level.toml", "--tuning", "climbing-dab.tuning.toml", "--buttons", "drying-racks.buttons"];

#[test]
fn why_says_what_was_refused_and_what_came_of_it() {
    let (status, out, said) = output(wumple(&[&CLIMB[..], &["--why"]].concat()).env("COLUMNS", "160"));
    assert_eq!((status, said.as_str()), (0, ""));
    for line in [
        "jump refused: in the air for 11 ticks, coyote time is 5; no wall touched; kept until tick 307",
        "jump pressed in tick 300: used, from the ground",
        "jump pressed in tick 230: forgotten, dropped through instead",
        "walked up a step of 5 px",
    ] {
        assert!(out.contains(line), "{line} in {out}");
    }
    let (_, json, _) = output(&mut wumple(&[&CLIMB[..], &["--why", "--format", "json"]].concat()));
    let report: serde_json::Value = serde_json::from_str(&json).unwrap();
    assert_eq!((report["format"].as_str(), report["rate_hz"].as_f64()), (Some("wumple-why 1"), Some(60.0)));
    let lines = report["lines"].as_array().unwrap();
    let refused = lines.iter().find(|line| line["tick"] == 300).unwrap();
    assert!(refused["why"].as_str().unwrap().starts_with("jump refused") && refused["last_tick"] == 300);
    let (_, csv, _) = output(&mut wumple(&[&CLIMB[..], &["--why", "--format", "csv"]].concat()));
    assert_eq!(csv.lines().next(), Some("tick,last_tick,why"));
    assert_eq!(csv.lines().count(), lines.len() + 1);
}

#[test]
fn a_run_names_blocks_by_their_ids_and_draws_itself_over_time() {
    let folder = tempfile::tempdir().unwrap();
    let figure = folder.path().join("time.svg");
    let time = ["--time-figure", figure.to_str().unwrap(), "--format", "csv"];
    let (status, out, _) = output(&mut wumple(&[&CLIMB[..], &time].concat()));
    assert!(
        status == 0 && out.contains(",block:bat,") && out.contains(",block:two-bats,") && out.contains(",one-way,")
    );
    let drawn = fs::read_to_string(&figure).unwrap();
    for words in ["Drying racks over time", "upward speed", "seconds", "jump", "down", "state"] {
        assert!(drawn.contains(words), "{words}");
    }
}

#[test]
fn draw_says_what_sticks_out_and_what_does_not_fit() {
    let folder = tempfile::tempdir().unwrap();
    let (level, body) = (folder.path().join("level.svg"), folder.path().join("body.svg"));
    let draw = |tuning: &str, more: &[&str]| {
        let base = ["draw", "throwing-room.level.toml", "--tuning", tuning, "--figure", level.to_str().unwrap()];
        output(&mut wumple(&[&base[..], more].concat()))
    };
    let (status, out, _) = draw("climbing-dab.tuning.toml", &["--body-figure", body.to_str().unwrap()]);
    assert_eq!(status, 0);
    assert!(out.contains("the picture sticks out 4 px on the right") && !out.contains("does not fit"));
    assert!(fs::read_to_string(&body).unwrap().contains("hitbox 10 x 22 px, 0.625 x 1.375 tiles"));
    let (status, out, _) = draw("../docs/tall.tuning.toml", &[]);
    let tight = "does not fit: the passage at columns 17 to 22, rows 11 to 13 is 48 px high, the hitbox 51.2 px";
    assert!(status == 0 && out.contains(tight), "{out}");
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
        (&["run", "throwing-room.level.toml"], "wumple: no tuning is given: name it with --tuning"),
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
        output(wumple(&["run", "throwing-room.level.toml", "--press", "0 -", "--ticks", "1", "--tuning"]).arg(&other));
    assert_eq!(status, 0);
    assert!(said.starts_with("warning: throwing-room.level.toml: a tile is 16 px here but 8 px"), "{said}");
}

/// The examples of every command's help can be copied, after `wumple demo`.
#[test]
fn the_examples_of_every_help_work() {
    let folder = tempfile::tempdir().unwrap();
    let run = |arguments: &[String]| {
        let arguments: Vec<&str> = arguments.iter().map(String::as_str).collect();
        output(wumple(&arguments).current_dir(folder.path()))
    };
    assert_eq!(run(&["demo".into()]).0, 0);
    for command in ["new", "demo", "arcs", "fit", "convert", "run", "compare", "buttons", "draw", "trial"] {
        let (status, help, _) = run(&[command.into(), "--help".into()]);
        assert_eq!(status, 0);
        let (_, examples) = help.split_once("Example").unwrap_or_else(|| panic!("{command} has no example: {help}"));
        let lines = examples.replace("\\\n", " ");
        let examples = lines.lines().filter_map(|line| line.trim().strip_prefix("wumple "));
        let mut count = 0;
        for example in examples {
            let (status, _, said) = run(&words_of(example));
            assert_eq!(status, 0, "wumple {example}: {said}");
            count += 1;
        }
        assert!(count > 0, "{command}: {help}");
    }
}

/// The words of a command as a shell takes them, with what is quoted as one.
fn words_of(line: &str) -> Vec<String> {
    let (mut words, mut word, mut quoted) = (Vec::new(), String::new(), false);
    for letter in line.chars().chain([' ']) {
        match letter {
            '"' => quoted = !quoted,
            ' ' if !quoted => {
                if !word.is_empty() {
                    words.push(std::mem::take(&mut word));
                }
            }
            letter => word.push(letter),
        }
    }
    words
}

const YARD: [&str; 6] =
    ["run", "hoist-yard.level.toml", "--tuning", "climbing-dab.tuning.toml", "--buttons", "hoist-yard.buttons"];

#[test]
fn a_run_names_platforms_and_props_and_draws_a_ride() {
    let folder = tempfile::tempdir().unwrap();
    let figure = folder.path().join("ride.svg");
    let draw = |more: &[&str]| {
        let mut command = wumple(&YARD);
        output(command.args(["--format", "csv", "--ride-figure"]).arg(&figure).args(more))
    };
    let (status, csv, _) = draw(&[]);
    assert_eq!(status, 0);
    for support in [",platform:cart,", ",prop:clay,", ",platform:hoist,", ",platform:swing,"] {
        assert!(csv.contains(support), "{support}");
    }
    assert!(fs::read_to_string(&figure).unwrap().contains("Hoist yard: Climbing Dab on "));
    assert_eq!(draw(&["--ride", "clay"]).0, 0);
    assert!(fs::read_to_string(&figure).unwrap().contains("Hoist yard: Climbing Dab on clay"));
    let (status, _, said) = draw(&["--ride", "clock"]);
    let expected = "wumple: --ride clock: the level has no such platform or prop; it has cart, hoist, swing, clay";
    assert_eq!((status, said.lines().next()), (2, Some(expected)));
    let (status, _, said) = output(wumple(&ROOM).args(["--press", "0 -", "--ride-figure"]).arg(&figure));
    let expected = "wumple: --ride-figure: no platform or prop is ridden in this run";
    assert_eq!((status, said.lines().next()), (2, Some(expected)));

    let why = |room: &str| {
        let (level, buttons) = (format!("{room}.level.toml"), format!("{room}.buttons"));
        let arguments = ["run", &level, "--tuning", "climbing-dab.tuning.toml", "--buttons", &buttons, "--why"];
        output(wumple(&arguments).env("COLUMNS", "200")).1
    };
    for (room, line) in [
        ("hoist-yard", "left a platform: its -80 px/s sideways taken along"),
        ("drying-loft", "what is stood on begins to crumble"),
        ("drying-loft", "bounced:bellows"),
    ] {
        assert!(why(room).contains(line), "{line} in {}", why(room));
    }
}

/// The page of the JSON forms names every form and every key that is printed.
#[test]
fn the_page_of_json_forms_names_every_key() {
    let page = fs::read_to_string(demo_file("../docs/json-forms.md")).unwrap();
    let from = ["--level", "throwing-room.level.toml", "--at", "9,13"];
    let too_late = ["--level", "throwing-room.level.toml", "--buttons", "too-late.buttons"];
    let forms: [Vec<&str>; 9] = [
        vec!["arcs", "dab.tuning.toml"],
        [&["arcs", "dab.tuning.toml"][..], &from].concat(),
        vec!["fit", "--height", "48", "--time-to-apex", "0.4", "--tap-height", "20"],
        vec!["convert", "dab.tuning.toml", "--rate", "50"],
        [&ROOM[..], &["--press", "0 right jump"]].concat(),
        [&ROOM[..], &["--press", "0 right jump", "--why"]].concat(),
        [&["compare", "steps/3-fall.tuning.toml", "dab.tuning.toml"][..], &too_late].concat(),
        vec!["buttons", "too-late.buttons"],
        vec!["trial", "."],
    ];
    for arguments in forms {
        let (status, out, said) = output(wumple(&arguments).args(["--format", "json"]));
        assert_eq!(status, 0, "{arguments:?}: {said}");
        let report: serde_json::Value = serde_json::from_str(&out).unwrap();
        let head = report["format"].as_str().unwrap();
        let (_, own) = part_of(&page, head);
        // What a part says of itself, it may say by another's name.
        let others = ["wumple-arcs 1", "wumple-why 1"].map(|other| part_of(&page, other));
        for key in keys_of(&report) {
            let named = |text: &str| text.contains(&format!("`{key}`"));
            let elsewhere = others.iter().any(|other| own.contains(&other.0) && named(&other.1));
            assert!(key == "format" || named(&own) || elsewhere, "{head}: {key} is not named");
        }
    }
}

/// The form's name, and its part of the page.
fn part_of(page: &str, form: &str) -> (String, String) {
    let (_, part) = page.split_once(&format!("## `{form}`")).unwrap();
    (form.to_owned(), part.split("\n## ").next().unwrap().to_owned())
}

fn keys_of(value: &serde_json::Value) -> Vec<String> {
    match value {
        serde_json::Value::Object(object) => {
            object.iter().flat_map(|(key, value)| [vec![key.clone()], keys_of(value)].concat()).collect()
        }
        serde_json::Value::Array(array) => array.iter().flat_map(keys_of).collect(),
        _ => Vec::new(),
    }
}

#[test]
fn what_is_reached_is_written_as_buttons_that_go_there() {
    let folder = tempfile::tempdir().unwrap();
    let ways = folder.path().join("ways");
    let room = ["reach", "throwing-room.level.toml", "--tuning", "dab.tuning.toml"];
    let written = ["--write", ways.to_str().unwrap(), "--format", "csv"];
    let (status, out, _) = output(&mut wumple(&[&room[..], &written].concat()));
    assert_eq!((status, out.lines().count()), (0, 14), "{out}");
    assert!(out.lines().skip(1).all(|line| line.contains(",reached,")), "{out}");
    let goal = ways.join("goal-33-18.buttons");
    let run = ["--buttons", goal.to_str().unwrap()];
    let (status, out, _) = output(&mut wumple(&[&ROOM[..], &run].concat()));
    assert!(status == 0 && out.contains("entered:goal@33,18"), "{out}");
    // From elsewhere, and from where nobody fits.
    let (_, out, _) = output(&mut wumple(&[&room[..], &["--from", "17,12"]].concat()));
    assert!(out.contains("13 reached, 0 out of reach"), "{out}");
    let (status, _, said) = output(&mut wumple(&[&room[..], &["--from", "90,17"]].concat()));
    assert!(status == 2 && said.contains("beyond the solid right edge"), "{said}");
    // Too few ticks: what is not found says so.
    let (_, out, _) = output(&mut wumple(&[&room[..], &["--most", "100"]].concat()));
    assert!(out.contains("not found;"), "{out}");
}

#[test]
fn what_is_out_of_reach_is_told_with_what_would_do() {
    let folder = tempfile::tempdir().unwrap();
    let figure = folder.path().join("closed.png");
    let room = ["reach", "throwing-room.level.toml", "--tuning", "steps/3-fall.tuning.toml", "--to", "top@26-29,6"];
    let (status, out, said) =
        output(&mut wumple(&[&room[..], &["--changes", "--figure", figure.to_str().unwrap()]].concat()));
    assert!(status == 0 && out.contains("    jump.air_jumps = 1, not 0\n"), "{out}");
    assert!(said.contains("figure: ") && fs::read(&figure).unwrap().starts_with(b"\x89PNG"), "{said}");
    let (_, out, _) = output(&mut wumple(&[&room[..], &["--changes", "--format", "json"]].concat()));
    let report: serde_json::Value = serde_json::from_str(&out).unwrap();
    let changes = report["targets"][0]["changes"].as_array().unwrap();
    assert!(changes.iter().any(|change| change["key"] == "jump.height" && change["unit"] == "px"), "{out}");
    let (status, _, said) = output(&mut wumple(&[&room[..], &["--to", "gaol"]].concat()));
    assert!(status == 2 && said.contains("nothing is called \"gaol\" there; did you mean \"goal\"?"), "{said}");
}

#[test]
fn many_tunings_are_measured_drawn_and_written() {
    let folder = tempfile::tempdir().unwrap();
    let figure = folder.path().join("varied.svg");
    let dab = ["vary", "dab.tuning.toml", "--over", "jump.height = 2..4 tiles, 3"];
    let two = ["--over", "run.top_speed = 5..10 tiles/s, 2", "--measure", "running:reach", "--at-least", "5 tiles"];
    let drawn = ["--format", "csv", "--figure", figure.to_str().unwrap()];
    let (status, out, _) = output(&mut wumple(&[&dab[..], &two, &drawn].concat()));
    let rows: Vec<&str> = out.lines().collect();
    assert_eq!((status, rows.len()), (0, 7), "{out}");
    assert_eq!(rows[0], "jump.height_tiles,run.top_speed_tiles_s,running_reach_tiles,passes,why");
    assert!(rows[1].starts_with("2,5,3.") && rows[1].ends_with(",no,") && rows[2].starts_with("2,10,"), "{out}");
    assert!(fs::read_to_string(&figure).unwrap().contains("running:reach over jump.height and run.top_speed"));
    let room = ["--level", "throwing-room.level.toml"];
    for (more, expected) in [
        (&["--trial", "gap.trial.toml"][..], "expectations met"),
        (&[&room[..], &["--to", "pickup@3,10"]].concat(), "pickup@3,10 reached"),
        (&[&room[..], &["--buttons", "throwing-room.buttons", "--measure", "goal_time"]].concat(), "goal_time, s"),
    ] {
        let (status, out, said) = output(&mut wumple(&[&dab[..], more].concat()));
        assert!(status == 0 && out.contains(expected) && out.contains("Dab: 3 tunings"), "{out}{said}");
    }
    for (more, expected) in [
        (&[][..], "--measure says what is measured"),
        (&["--measure", "full:apexheight"], "did you mean \"full:apex_height\"?"),
        (&["--measure", "full:apex_height", "--at-most", "3 s"], "what is measured is a length"),
    ] {
        let (status, _, said) = output(&mut wumple(&[&dab[..], more].concat()));
        assert!(status == 2 && said.contains(expected), "{said}");
    }
    let (status, _, said) = output(&mut wumple(&[
        "vary",
        "dab.tuning.toml",
        "--over",
        "jump.height = 2..3 tils",
        "--measure",
        "running:reach",
    ]));
    assert!(status == 2 && said.contains("has the unknown unit \"tils\""), "{said}");
}

#[test]
fn a_recording_gives_a_tuning_that_is_written_and_drawn() {
    let folder = tempfile::tempdir().unwrap();
    let (to, figure) = (folder.path().join("mine.tuning.toml"), folder.path().join("match.svg"));
    let asked = ["match", "practice.csv", "--rate", "60", "--tile", "16", "--scheme", "velocity-first"];
    let written = ["--y", "down", "--write", to.to_str().unwrap(), "--figure", figure.to_str().unwrap()];
    let (status, out, said) = output(&mut wumple(&[&asked[..], &written, &["--format", "json"]].concat()));
    assert!(status == 0 && said.contains("written to "), "{said}");
    let report: serde_json::Value = serde_json::from_str(&out).unwrap();
    assert_eq!(report["format"].as_str(), Some("wumple-match 1"));
    // What the recording was made with.
    for (key, truth) in
        [("run.top_speed", 102.4), ("jump.speed", 310.0), ("jump.gravity", 860.0), ("fall.top_speed", 240.0)]
    {
        let number = report["numbers"].as_array().unwrap().iter().find(|number| number["key"] == key).unwrap();
        let (value, error) = (number["value"].as_f64().unwrap(), number["error"].as_f64().unwrap());
        assert!((value - truth).abs() <= error && error < 0.05 * truth, "{key}: {value} +- {error}, not {truth}");
    }
    assert!(fs::read_to_string(&figure).unwrap().contains("the recording, and the tuning found from it"));
    let (status, out, _) = output(&mut wumple(&["arcs", to.to_str().unwrap()]));
    assert!(status == 0 && out.contains("full"), "{out}");
    // Into a file that is there only these numbers are written.
    fs::copy(demo_file("dab.tuning.toml"), &to).unwrap();
    let (status, out, said) = output(&mut wumple(&[&asked[..], &written, &["--format", "csv"]].concat()));
    assert!(status == 0 && said.contains("changed in "), "{said}");
    assert!(out.starts_with("number,value,unit,error,at_once,lines,why_not\nrun.top_speed,102.4"), "{out}");
    assert!(fs::read_to_string(&to).unwrap().contains("name = \"Dab\""));
    let (status, _, said) = output(&mut wumple(&asked));
    assert!(status == 2 && said.contains("does y grow the other way?"), "{said}");
    // What is no tuning stays as it is.
    let recording = folder.path().join("mine.csv");
    fs::copy(demo_file("practice.csv"), &recording).unwrap();
    let path = recording.to_str().unwrap();
    let (status, _, said) = output(&mut wumple(&[&asked[..], &["--y", "down", "--write", path]].concat()));
    assert!(status == 2 && !said.contains("changed in"), "{said}");
    assert_eq!(fs::read(&recording).unwrap(), fs::read(demo_file("practice.csv")).unwrap());
    let (status, _, said) = output(&mut wumple(&["match", "dab.tuning.toml", "--rate", "60", "--tile", "16"]));
    assert!(status == 2 && said.contains("there is no column frame"), "{said}");
}

#[test]
fn a_course_is_written_with_a_trial_that_passes() {
    let folder = tempfile::tempdir().unwrap();
    let (to, figure) = (folder.path().join("course"), folder.path().join("course.svg"));
    let asked = ["course", "dab.tuning.toml", "--steps", "6", "--seed", "3", "--slabs", "1", "--bellows", "1"];
    let written = ["--write", to.to_str().unwrap(), "--figure", figure.to_str().unwrap(), "--format", "json"];
    let (status, out, said) = output(&mut wumple(&[&asked[..], &written].concat()));
    assert!(status == 0 && said.contains("figure: "), "{said}");
    let report: serde_json::Value = serde_json::from_str(&out).unwrap();
    assert_eq!((report["format"].as_str(), report["steps"].as_array().unwrap().len()), (Some("wumple-course 1"), 6));
    assert!(fs::read_to_string(&figure).unwrap().contains("Course 3 of Dab"));
    let (status, out, _) = output(&mut wumple(&["trial", to.to_str().unwrap()]));
    assert!(status == 0 && out.contains("1 trial: 1 passed"), "{out}");
    let (_, out, _) = output(&mut wumple(&[&asked[..], &["--format", "csv"]].concat()));
    assert_eq!(out.lines().count(), 7, "{out}");
    let (status, _, said) =
        output(&mut wumple(&["course", "dab.tuning.toml", "--rise", "9..10 tiles", "--steps", "2"]));
    assert!(status == 2 && said.contains("the nearest that is rises "), "{said}");
    let (status, _, said) = output(&mut wumple(&["course", "dab.tuning.toml", "--share", "2"]));
    assert!(status == 2 && said.contains("the share is above 0 and at most 1"), "{said}");
}
