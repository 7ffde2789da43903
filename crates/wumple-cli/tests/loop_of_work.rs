//! The loop of work as its users go through it: start, compare, judge, practise, and lose nothing.

mod shared;

use std::fs;
use std::process::Stdio;
use std::time::{Duration, Instant};

use shared::{demo_file, json, keys, output, wumple};

#[test]
fn new_says_four_commands_and_all_of_them_work_as_they_stand() {
    for name in ["kiln", "a kiln's folder"] {
        let folder = tempfile::tempdir().unwrap();
        let (status, out, _) = output(wumple(&["new", name]).current_dir(folder.path()));
        assert_eq!(status, 0);
        assert_eq!(out.lines().filter(|line| line.starts_with("wrote ")).count(), 8);
        let commands: Vec<&str> = out.lines().filter_map(|line| line.strip_prefix("  wumple ")).collect();
        assert_eq!(commands.len(), 4, "{out}");
        for command in &commands {
            // As a shell splits it.
            let script = format!("\"$WUMPLE\" {command}");
            let program = assert_cmd::cargo::cargo_bin("wumple");
            let mut shell = assert_cmd::Command::new("sh");
            let (status, out, said) =
                output(shell.args(["-c", &script]).env("WUMPLE", program).current_dir(folder.path()));
            assert_eq!(status, 0, "{command}: {said}");
            assert!(!out.is_empty());
        }
        for made in ["run.svg", "arcs.svg"] {
            assert!(folder.path().join(name).join(made).exists(), "{made}");
        }
        let (status, _, said) = output(wumple(&["new", name]).current_dir(folder.path()));
        assert_eq!(status, 2);
        assert!(said.contains("is there already; --force overwrites it"), "{said}");
    }
}

#[test]
fn the_demos_trials_pass_and_are_counted() {
    let (status, out, said) = output(&mut wumple(&["trial", "."]));
    let trials = fs::read_dir(demo_file("")).unwrap().map(|e| e.unwrap().file_name().into_string().unwrap());
    let count = trials.filter(|name| name.ends_with(".trial.toml")).count();
    assert_eq!((status, said.as_str()), (0, ""));
    assert_eq!(out.lines().filter(|line| line.starts_with("pass  ")).count(), count);
    assert!(out.ends_with(&format!("\n{count} trials: {count} passed\n")) && count >= 3, "{out}");
}

/// A folder with what there is to start from, with a part of the tuning replaced.
fn started(from: &str, to: &str) -> tempfile::TempDir {
    let folder = tempfile::tempdir().unwrap();
    wumple::starter::write(folder.path(), false).unwrap();
    let path = folder.path().join("apprentice.tuning.toml");
    let text = fs::read_to_string(&path).unwrap();
    assert!(text.contains(from));
    fs::write(path, text.replace(from, to)).unwrap();
    folder
}

#[test]
fn a_trial_that_fails_says_what_when_why_and_where_it_is_drawn() {
    let folder = started("height = \"3.2 tiles\"", "height = \"2.9 tiles\"");
    let (status, out, _) = output(wumple(&["trial", "first-jump.trial.toml"]).current_dir(folder.path()));
    assert_eq!(status, 1);
    for words in [
        "FAIL  first-jump.trial.toml: The step, the gap, the goal (1 of 4 expectations, 245 ticks)\n",
        "  first-jump.trial.toml:11: expected apex at least 49.6 px and at most 52.8 px in ticks 100 to 130\n",
        "    instead: apex is 46.375 px (tick 139)",
        "    decided in tick 100: jump pressed in tick 100: used, from the ground\n",
        "  figure: trial-figures/first-jump.trial.svg\n",
        "\n1 trial: 0 passed, 1 failed\n",
    ] {
        assert!(out.contains(words), "{words}\n{out}");
    }
    assert!(folder.path().join("trial-figures/first-jump.trial.svg").exists());

    let (status, out, _) = output(wumple(&["trial", ".", "--format", "json"]).current_dir(folder.path()));
    assert_eq!(status, 1);
    let report = json(&out);
    assert_eq!(keys(&report), ["failed", "format", "passed", "trials", "wrong"]);
    assert_eq!((&report["format"], &report["failed"]), (&"wumple-trial 1".into(), &1.into()));
    assert_eq!(keys(&report["trials"][0]), ["checks", "figure", "file", "name", "passed", "ticks"]);
    let check = &report["trials"][0]["checks"][1];
    assert_eq!(keys(check), ["expected", "failure", "line"]);
    assert_eq!(keys(&check["failure"]), ["decisions", "instead", "tick"]);
    assert_eq!(keys(&check["failure"]["decisions"][0]), ["last_tick", "tick", "why"]);

    let (status, out, _) = output(wumple(&["trial", ".", "--format", "csv"]).current_dir(folder.path()));
    assert_eq!((status, out.lines().next()), (1, Some("file,trial,line,expected,passed,tick,instead")));
    assert_eq!(out.lines().count(), 11);
}

#[test]
fn one_wrong_trial_does_not_keep_the_others_from_running() {
    let folder = started("", "");
    fs::write(folder.path().join("wrong.trial.toml"), "level = 3\n").unwrap();
    fs::create_dir(folder.path().join("empty")).unwrap();
    let (status, out, said) = output(wumple(&["trial", "."]).current_dir(folder.path()));
    assert_eq!(status, 2);
    assert!(
        out.contains("pass  ./first-jump.trial.toml") && out.contains("3 trials: 2 passed, 1 could not be run"),
        "{out}"
    );
    assert!(said.contains("./wrong.trial.toml:1:9: level needs a text, such as \"room.level.toml\""), "{said}");
    let (status, _, said) = output(wumple(&["trial", "empty"]).current_dir(folder.path()));
    assert_eq!((status, said.as_str()), (2, "wumple: empty has no *.trial.toml in it\n"));
}

#[test]
fn trials_of_one_name_in_two_folders_are_drawn_apart() {
    let folder = tempfile::tempdir().unwrap();
    for inside in ["one", "two"] {
        let started = started("height = \"3.2 tiles\"", "height = \"2.9 tiles\"");
        fs::rename(started.path(), folder.path().join(inside)).unwrap();
    }
    let (status, out, _) = output(wumple(&["trial", "one", "two"]).current_dir(folder.path()));
    assert_eq!(status, 1);
    for inside in ["one", "two"] {
        let figure = format!("trial-figures/{inside}/first-jump.trial.svg");
        assert!(out.contains(&figure) && folder.path().join(figure).exists(), "{out}");
    }
}

const PAIR: [&str; 7] = [
    "compare",
    "steps/3-fall.tuning.toml",
    "dab.tuning.toml",
    "--level",
    "throwing-room.level.toml",
    "--buttons",
    "too-late.buttons",
];

#[test]
fn compare_says_where_two_tunings_part_and_what_each_press_led_to() {
    let folder = tempfile::tempdir().unwrap();
    let figures = ["both.svg", "both.png", "time.svg"].map(|name| folder.path().join(name).display().to_string());
    let [svg, png, time] = figures.each_ref().map(String::as_str);
    let (status, out, said) = output(wumple(&PAIR).args(["--figure", svg, "--time-figure", time]));
    assert_eq!(status, 0, "{said}");
    for words in [
        "first apart, with different events, at 1.4 s\n",
        "jump refused: in the air for 2 ticks, coyote time is 0; not kept",
        "jump pressed in tick 84: used, from the ground lost 2 ticks ago",
        "pressed at s",
        "died:bottom",
    ] {
        assert!(out.contains(words), "{words}\n{out}");
    }
    let drawn = fs::read_to_string(svg).unwrap();
    for words in ["Throwing room: Quick fall, Dab", "apart from 1.4 s", "Quick fall: died:bottom in tick 115"] {
        assert!(drawn.contains(words), "{words}");
    }
    let drawn = fs::read_to_string(time).unwrap();
    for words in ["Over time: Quick fall, Dab", "height, tiles", "sideways, tiles/s", "upward, tiles/s", "\njump\n"] {
        assert!(drawn.contains(words), "{words}");
    }
    assert_eq!(output(wumple(&PAIR).args(["--figure", png])).0, 0);

    let (_, out, _) = output(wumple(&PAIR).args(["--format", "json"]));
    let report = json(&out);
    assert_eq!(keys(&report), ["apart", "format", "happened", "presses", "runs", "tile_px"]);
    assert_eq!(report["format"], "wumple-compare 1");
    assert_eq!(report["apart"]["runs"][1]["events"][0], "jumped:ground");
    assert_eq!(keys(&report["presses"][0][1]), ["led_to", "pressed_tick", "tick", "why"]);
    let (_, out, _) = output(wumple(&PAIR).args(["--format", "csv"]));
    assert_eq!(out.lines().count(), 3);
}

#[test]
fn tunings_of_two_rates_practise_the_same_for_the_same_time() {
    let folder = tempfile::tempdir().unwrap();
    let fast = folder.path().join("fast.tuning.toml");
    let dab = fs::read_to_string(demo_file("dab.tuning.toml")).unwrap();
    fs::write(&fast, dab.replace("rate = 60 ", "rate = 120 ").replace("name = \"Dab\"", "name = \"Fast\"")).unwrap();
    let level = ["--level", "throwing-room.level.toml", "--format", "json"];
    let practice = ["--press-every", "40", "--vary", "4", "--ticks", "150"];
    let mut command = wumple(&["compare", "dab.tuning.toml", fast.to_str().unwrap()]);
    let (status, out, said) = output(command.args(level).args(practice));
    assert_eq!(status, 0, "{said}");
    let report = json(&out);
    assert_eq!((&report["runs"][0]["ticks"], &report["runs"][1]["ticks"]), (&150.into(), &300.into()));
    let pressed = |run: usize| -> Vec<u64> {
        report["presses"][run].as_array().unwrap().iter().map(|press| press["pressed_tick"].as_u64().unwrap()).collect()
    };
    assert_eq!(pressed(1), pressed(0).iter().map(|tick| 2 * tick - 1).collect::<Vec<_>>());
    assert_eq!(pressed(0).len(), 3);
}

#[test]
fn traces_are_compared_with_tunings_and_drawn_as_the_run_was() {
    let folder = tempfile::tempdir().unwrap();
    let path = |name: &str| folder.path().join(name).display().to_string();
    let room = ["throwing-room.level.toml", "--tuning", "dab.tuning.toml"];
    let held = ["--buttons", "throwing-room.buttons"];
    for trace in ["run.csv", "run.jsonl"] {
        let (trace, run, back) = (path(trace), path("run.svg"), path("back.svg"));
        let (run_time, back_time) = (path("run-time.svg"), path("back-time.svg"));
        let ran = output(wumple(&["run"]).args(room).args(held).args([
            "--trace",
            &trace,
            "--figure",
            &run,
            "--time-figure",
            &run_time,
        ]));
        let drawn = output(wumple(&["draw"]).args(room).args(held).args([
            "--trace",
            &trace,
            "--figure",
            &back,
            "--time-figure",
            &back_time,
        ]));
        assert_eq!((ran.0, drawn.0), (0, 0), "{}", drawn.2);
        let same = |one: &str, other: &str| fs::read(one).unwrap() == fs::read(other).unwrap();
        assert!(same(&run, &back) && same(&run_time, &back_time), "{trace}");
        let body = path("body.svg");
        let also = ["--trace", &trace, "--figure", &back, "--body-figure", &body];
        assert_eq!(output(wumple(&["draw"]).args(room).args(also)).0, 0);
        assert!(fs::read_to_string(&body).unwrap().contains("hitbox"), "the rest of draw is done, too");
        let level = ["--level", "throwing-room.level.toml"];
        let (status, out, said) = output(wumple(&["compare", &trace, "dab.tuning.toml"]).args(level).args(held));
        assert_eq!(status, 0, "{said}");
        assert!(out.starts_with("first apart at 6.3") || out.starts_with("the runs are the same"), "{out}");
    }
    let (status, _, said) = output(&mut wumple(&["compare", "dab.tuning.toml", "climbing-dab.tuning.toml"]));
    assert_eq!((status, said.as_str()), (2, "wumple: Dab is a tuning: --level says where it is to run\n"));
}

#[test]
fn buttons_as_a_table_and_made_to_practise_on() {
    let (status, out, _) = output(&mut wumple(&["buttons", "too-late.buttons"]));
    assert_eq!(status, 0);
    assert!(out.contains("from tick") && out.contains("right jump"), "{out}");
    let folder = tempfile::tempdir().unwrap();
    let made = folder.path().join("p.buttons").display().to_string();
    let practice = ["--press-every", "0.5 s", "--vary", "6", "--with", "right", "--seed", "3", "--ticks", "200"];
    assert_eq!(output(wumple(&["buttons", "--write", &made]).args(practice)).0, 0);
    assert_eq!(output(wumple(&["buttons", "--write", &made]).args(practice)).0, 2, "it is there already");
    let run = |arguments: &[&str]| {
        output(
            wumple(&["run", "throwing-room.level.toml", "--tuning", "dab.tuning.toml", "--ticks", "200"])
                .args(arguments),
        )
        .1
    };
    assert_eq!(run(&practice[..8]), run(&["--buttons", &made]));
    assert_ne!(run(&practice[..8]), run(&practice[..6]), "another seed");
    let (_, out, _) = output(wumple(&["buttons", "too-late.buttons", "--format", "json"]).args(["--rate", "120"]));
    let report = json(&out);
    assert_eq!((&report["format"], &report["rows"][1]["tick"]), (&"wumple-buttons 1".into(), &79.into()));
    let (status, _, said) = output(&mut wumple(&["buttons", "--press-every", "9", "--vary", "4"]));
    assert_eq!((status, said.contains("must be at least 10 ticks apart, not 9")), (2, true), "{said}");
}

/// Kills the program again and again while it overwrites files: each is the old one or the new one.
#[test]
fn killed_at_any_moment_it_leaves_the_old_file_or_the_new_one() {
    let folder = tempfile::tempdir().unwrap();
    let names = ["run.csv", "run.svg", "time.png"];
    let command = || {
        let mut command = std::process::Command::new(assert_cmd::cargo::cargo_bin("wumple"));
        command.args(["run", "throwing-room.level.toml", "--tuning", "dab.tuning.toml", "--ticks", "2000"]);
        command.args(["--press-every", "40", "--with", "right"]).current_dir(demo_file(""));
        for (option, name) in ["--trace", "--figure", "--time-figure"].into_iter().zip(names) {
            command.arg(option).arg(folder.path().join(name));
        }
        command.stdout(Stdio::null()).stderr(Stdio::null());
        command
    };
    let began = Instant::now();
    assert!(command().status().unwrap().success());
    let whole = began.elapsed();
    let new = names.map(|name| fs::read(folder.path().join(name)).unwrap());
    let (mut old_seen, mut new_seen) = (0, 0);
    const KILLS: u32 = 30;
    for kill in 0..KILLS {
        names.iter().for_each(|name| fs::write(folder.path().join(name), "old").unwrap());
        let mut child = command().spawn().unwrap();
        std::thread::sleep(whole * kill / (KILLS - 4) + Duration::from_micros(u64::from(kill) * 37));
        child.kill().unwrap();
        child.wait().unwrap();
        for (name, new) in names.iter().zip(&new) {
            let found = fs::read(folder.path().join(name)).unwrap();
            assert!(found == b"old" || &found == new, "{name}, killed the {kill}th time: {} bytes", found.len());
            if found == b"old" { old_seen += 1 } else { new_seen += 1 }
        }
    }
    assert!(old_seen > 0 && new_seen > 0, "killed before and after: {old_seen} old, {new_seen} new");
}
