//! Levels with rounds, and what `check` finds, as a user sees them.

mod shared;

use std::fs;

use shared::{demo_file, json, keys, output, wumple};

const ROOMS: [&str; 6] =
    ["run", "jar-cellar.level.toml", "--tuning", "climbing-dab.tuning.toml", "--buttons", "three-rooms.buttons"];

#[test]
fn a_run_goes_on_to_the_next_level_when_one_is_finished() {
    let (status, out, said) = output(wumple(&ROOMS).arg("--on"));
    assert_eq!(status, 0, "{said}");
    for words in [
        "Jar cellar:\n",
        "Ember gallery:\n",
        "Kiln hall:\n",
        "finished in tick 342, 5.7 s; picked 3 of 3\n",
        "in attempt 3; picked 1 of 1; lives left: 1\n",
        "defeated by hazard:stove: tick 96 at (187, 176) px\n",
    ] {
        assert!(out.contains(words), "{words}\n{out}");
    }
    assert!(!said.contains("hurts nobody"), "a round says what follows from a hazard: {said}");

    let (_, out, _) = output(wumple(&ROOMS).args(["--on", "--format", "json"]));
    let report = json(&out);
    assert_eq!((&report["format"], report["runs"].as_array().unwrap().len()), (&"wumple-runs 1".into(), 3));
    let run = &report["runs"][1];
    assert_eq!(keys(run), ["format", "level", "rate_hz", "round", "rows", "tuning"]);
    assert_eq!((&run["round"]["picked"], &run["round"]["finished_tick"]), (&1.into(), &507.into()));
    assert_eq!(run["round"]["defeats"][1]["cause"], "edge-bottom");
    assert_eq!(run["rows"][100]["lives"], 2);
    assert_eq!(report["runs"][0]["rows"][100]["lives"], serde_json::Value::Null);

    let (_, out, _) = output(wumple(&ROOMS).args(["--on", "--format", "csv"]));
    let columns = |line: &str| line.matches(',').count();
    assert!(out.starts_with("level,tick,time_s,"));
    assert_eq!(out.lines().count(), 1 + 343 + 508 + 302);
    assert!(out.lines().skip(1).filter(|line| !line.contains('"')).all(|line| columns(line) == 18), "{out}");

    let (_, out, _) = output(wumple(&ROOMS).args(["--on", "--why"]));
    assert!(out.contains("goal closed: 2 of 3"), "{out}");
}

#[test]
fn files_of_several_levels_have_their_names_in_theirs() {
    let folder = tempfile::tempdir().unwrap();
    let path = |name: &str| folder.path().join(name);
    let (trace, figure) = (path("run.csv"), path("run.svg"));
    let files = ["--on", "--trace", trace.to_str().unwrap(), "--figure", figure.to_str().unwrap()];
    assert_eq!(output(wumple(&ROOMS).args(files)).0, 0);
    for name in ["run-jar-cellar.csv", "run-ember-gallery.svg", "run-kiln-hall.csv"] {
        assert!(path(name).exists(), "{name}");
    }
    assert!(!trace.exists() && !figure.exists());
    // One level alone is written as it is named.
    assert_eq!(output(wumple(&ROOMS).args(["--trace", trace.to_str().unwrap()])).0, 0);
    let kept = fs::read_to_string(&trace).unwrap();
    assert!(kept.lines().next().unwrap().ends_with(",events,attempt,health,lives,picked,pose,picture,flip"));
    // And is drawn as the run was.
    let drawn = path("drawn.svg");
    let draw = ["draw", "jar-cellar.level.toml", "--trace", trace.to_str().unwrap(), "--figure"];
    let (status, _, said) =
        output(wumple(&draw).args([drawn.to_str().unwrap(), "--tuning", "climbing-dab.tuning.toml"]));
    assert_eq!(status, 0, "{said}");
    assert!(fs::read_to_string(&drawn).unwrap().contains("goal-closed:2/3"));
}

#[test]
fn check_finds_nothing_in_the_demo_and_in_what_new_writes() {
    let folder = tempfile::tempdir().unwrap();
    assert_eq!(output(&mut wumple(&["new", folder.path().to_str().unwrap()])).0, 0);
    let (status, out, said) = output(&mut wumple(&["check", folder.path().to_str().unwrap()]));
    assert_eq!((status, out.as_str()), (0, "nothing found in 5 files\n"), "{said}");
    let (status, out, _) = output(&mut wumple(&["check", ".", "--tuning", "climbing-dab.tuning.toml"]));
    assert!(status == 0 && out.starts_with("nothing found in "), "{out}");
}

#[test]
fn check_says_what_it_finds_and_ends_with_1() {
    let folder = tempfile::tempdir().unwrap();
    let write = |name: &str, text: &str| fs::write(folder.path().join(name), text).unwrap();
    write(
        "a.level.toml",
        "next = \"b.level.toml\"\n[edges]\nbottom = \"open\"\n[round]\n[map]\nrows = '''\n.@..\n##.#\n'''\n",
    );
    let dab = fs::read_to_string(demo_file("dab.tuning.toml")).unwrap();
    write("dab.tuning.toml", &dab.replace("7.5 tiles/s", "12 px/s"));
    let mut check = wumple(&["check", "."]);
    let (status, out, said) = output(check.current_dir(folder.path()));
    assert_eq!(status, 1, "{said}");
    for words in [
        "./dab.tuning.toml:",
        ": other-unit: run.top_speed = 12 px/s\n    leads to: a run of 0.75 tiles a second\n",
        "./a.level.toml:2:1: open-edge: the bottom edge is open, and nothing is in column 2\n",
        "./a.level.toml:1:1: no-goal: a level with a [round] and no goal\n    leads to: ",
        "./a.level.toml:1:8: broken-link: the next level ",
        "4 findings in 2 files\n",
    ] {
        assert!(out.contains(words), "{words}\n{out}");
    }
    let (status, out, _) = output(wumple(&["check", ".", "--format", "json"]).current_dir(folder.path()));
    let report = json(&out);
    assert_eq!((status, &report["format"], &report["files"]), (1, &"wumple-check 1".into(), &2.into()));
    assert_eq!(keys(&report["findings"][0]), ["column", "file", "kind", "leads_to", "line", "remedy", "what"]);
    let (_, out, _) = output(wumple(&["check", ".", "--format", "csv"]).current_dir(folder.path()));
    assert!(out.starts_with("kind,file,line,column,what,leads_to,remedy\n"));
    assert_eq!(out.lines().count(), 5);

    // A file that cannot be read is said beside what is found in the others.
    write("c.level.toml", "nothing = 1\n");
    let (status, out, said) = output(wumple(&["check", "."]).current_dir(folder.path()));
    assert!(status == 2 && out.contains("4 findings in 3 files"), "{out}");
    assert!(said.contains("c.level.toml:1:1: unknown key \"nothing\""), "{said}");
    // What is no such file, or a folder without any, is said so.
    let (status, _, said) = output(wumple(&["check", "run.csv"]).current_dir(folder.path()));
    assert!(status == 2 && said.contains("what is checked is a *.level.toml, *.tuning.toml or *.trial.toml"), "{said}");
}
