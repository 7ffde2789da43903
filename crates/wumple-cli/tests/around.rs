//! What stands around the program: shells, manual pages, build servers, terminals.

mod shared;

use std::fs;
use std::process::Command;

use shared::{demo_file, output, wumple};

#[test]
fn editors_get_a_schema_of_each_kind_of_file() {
    let folder = tempfile::tempdir().unwrap();
    let schemas = |options: &[&str]| output(wumple(&[&["schemas", "s"], options].concat()).current_dir(folder.path()));
    let (status, out, _) = schemas(&[]);
    assert_eq!((status, out.lines().count()), (0, 3));
    for of in wumple::files::SchemaOf::ALL {
        let path = folder.path().join(format!("s/{}.schema.json", of.name()));
        assert_eq!(fs::read_to_string(path).unwrap(), of.schema());
    }
    let (status, _, said) = schemas(&[]);
    assert!(status == 2 && said.contains("--force overwrites it"), "{said}");
    assert_eq!(schemas(&["--force"]).0, 0);
}

/// The commands that `--help` lists.
fn commands() -> Vec<String> {
    let (_, help, _) = output(&mut wumple(&["--help"]));
    let (_, listed) = help.split_once("Commands:\n").unwrap();
    let lines = listed.lines().take_while(|line| !line.is_empty());
    let names = lines.filter_map(|line| line.strip_prefix("  ")?.split(' ').next().map(str::to_owned));
    names.filter(|name| !name.is_empty() && name != "help").collect()
}

#[test]
fn every_shell_completes_every_command() {
    let commands = commands();
    assert!(commands.len() >= 17, "{commands:?}");
    for shell in ["bash", "zsh", "fish", "elvish", "powershell"] {
        let (status, text, _) = output(&mut wumple(&["completions", shell]));
        assert_eq!(status, 0);
        for word in commands.iter().map(String::as_str).chain(["watch", "time-figure", "junit"]) {
            assert!(text.contains(word), "{word} in {shell}");
        }
        if shell == "bash" {
            let script = tempfile::NamedTempFile::new().unwrap();
            fs::write(&script, text).unwrap();
            if let Ok(done) = Command::new("bash").arg("-n").arg(script.path()).status() {
                assert!(done.success());
            }
        }
    }
    let (status, _, said) = output(&mut wumple(&["completions", "tcl"]));
    assert!(status == 2 && said.contains("bash, elvish, fish, powershell, zsh"), "{said}");
}

#[test]
fn there_is_a_page_for_every_command() {
    let folder = tempfile::tempdir().unwrap();
    let manual = |options: &[&str]| output(wumple(&[&["manual", "man1"], options].concat()).current_dir(folder.path()));
    assert_eq!(manual(&[]).0, 0);
    let page = |name: &str| fs::read_to_string(folder.path().join("man1").join(name)).unwrap();
    assert!(page("wumple.1").contains("wumple\\-run(1)"));
    for command in commands() {
        let page = page(&format!("wumple-{command}.1"));
        assert!(
            page.contains(".SH OPTIONS") && page.contains(".SH EXTRA") && page.contains("Example"),
            "{command}: {page}"
        );
    }
    fs::write(folder.path().join("man1/wumple-run.1"), "mine").unwrap();
    let (status, _, said) = manual(&[]);
    assert!(status == 2 && said.contains("--force overwrites it"), "{said}");
    assert_eq!(page("wumple-run.1"), "mine");
    assert_eq!(manual(&["--force"]).0, 0);
    assert!(page("wumple-run.1").contains("wumple"));
}

/// A trial that passes, one that fails, one whose tuning is wrong.
fn trials() -> tempfile::TempDir {
    let folder = tempfile::tempdir().unwrap();
    for file in ["gap.trial.toml", "throwing-room.level.toml", "throwing-room.buttons", "dab.tuning.toml"] {
        fs::copy(demo_file(file), folder.path().join(file)).unwrap();
    }
    let of = |tuning: &str| {
        let text = fs::read_to_string(demo_file("gap.trial.toml")).unwrap();
        text.replace("dab.tuning.toml", tuning)
    };
    let dab = fs::read_to_string(demo_file("dab.tuning.toml")).unwrap();
    let write = |name: &str, text: &str| fs::write(folder.path().join(name), text).unwrap();
    write("high.tuning.toml", &dab.replace("height = \"3.4 tiles\"", "height = \"3.6 tiles\""));
    write("high.trial.toml", &of("high.tuning.toml"));
    write("wrong.tuning.toml", &dab.replace("height = \"3.4 tiles\"", "height = \"3.4 <tils>\""));
    write("wrong.trial.toml", &of("wrong.tuning.toml"));
    folder
}

#[test]
fn build_servers_are_told_what_passed_failed_and_could_not_be_run() {
    let folder = trials();
    let (status, out, said) = output(wumple(&["trial", ".", "--junit", "trials.xml"]).current_dir(folder.path()));
    assert!(status == 2 && out.contains("3 trials: 1 passed, 1 failed, 1 could not be run"), "{out}{said}");
    assert!(said.contains("JUnit: trials.xml"));
    let xml = fs::read_to_string(folder.path().join("trials.xml")).unwrap();
    assert!(
        xml.contains("<testsuites name=\"wumple trial\" tests=\"11\" skipped=\"0\" failures=\"1\" errors=\"1\">"),
        "{xml}"
    );
    assert!(
        xml.contains("<failure message=\"apex is 57.6 px (tick 72)\">./high.trial.toml:11: expected apex"),
        "{xml}"
    );
    // What XML has for itself is written as it must be.
    assert!(xml.contains("3.4 &lt;tils") && !xml.contains("<tils"), "{xml}");

    let check = ["check", "high.tuning.toml", "throwing-room.level.toml", "--junit", "check.xml"];
    assert_eq!(output(wumple(&check).current_dir(folder.path())).0, 0);
    let xml = fs::read_to_string(folder.path().join("check.xml")).unwrap();
    assert!(xml.contains("tests=\"2\" skipped=\"0\" failures=\"0\"") && xml.contains("nothing found"), "{xml}");
    let tuning = folder.path().join("high.tuning.toml");
    fs::write(&tuning, fs::read_to_string(&tuning).unwrap().replace("3.6 tiles", "360 tiles")).unwrap();
    assert_eq!(output(wumple(&check).current_dir(folder.path())).0, 1);
    let xml = fs::read_to_string(folder.path().join("check.xml")).unwrap();
    assert!(xml.contains("failures=\"1\"") && xml.contains("high.tuning.toml:29:13: "), "{xml}");

    // What is found in a file that a given one names is told, too.
    let trial = ["check", "high.trial.toml", "--junit", "check.xml"];
    assert_eq!(output(wumple(&trial).current_dir(folder.path())).0, 1);
    let xml = fs::read_to_string(folder.path().join("check.xml")).unwrap();
    assert!(
        xml.contains("tests=\"2\" skipped=\"0\" failures=\"1\"") && xml.contains("high.tuning.toml:29:13: "),
        "{xml}"
    );

    // Nothing that is read is written over.
    let over = ["trial", "gap.trial.toml", "--junit", "gap.trial.toml"];
    let (status, _, said) = output(wumple(&over).current_dir(folder.path()));
    assert!(status == 2 && said.contains("would be overwritten"), "{said}");
}

#[test]
fn colours_and_links_are_there_when_they_are_asked_for() {
    let folder = trials();
    let trial = |options: &[&str]| {
        let mut command = wumple(&[&["trial", "gap.trial.toml", "high.trial.toml"], options].concat());
        output(command.env_remove("NO_COLOR").current_dir(folder.path())).1
    };
    let (plain, always) = (trial(&[]), trial(&["--color", "always"]));
    assert!(!plain.contains('\x1b') && plain == trial(&["--color", "never"]), "{plain:?}");
    assert!(
        always.contains("\x1b[32mpass\x1b[0m  gap.trial.toml") && always.contains("\x1b[31mFAIL\x1b[0m  high"),
        "{always:?}"
    );
    let figure = folder.path().canonicalize().unwrap().join("trial-figures/high.trial.svg");
    assert!(always.contains(&format!("\x1b]8;;file://{}\x1b\\", figure.display())), "{always:?}");
    let (status, _, said) = output(&mut wumple(&["check", ".", "--color", "green"]));
    assert!(status == 2 && said.contains("always"), "{said}");
}

/// The folder that `wumple new` writes.
fn started() -> tempfile::TempDir {
    let folder = tempfile::tempdir().unwrap();
    wumple::starter::write(folder.path(), false).unwrap();
    fs::create_dir(folder.path().join("inside")).unwrap();
    folder
}

#[test]
fn a_project_says_what_is_meant_where_nothing_is_named() {
    let folder = started();
    let files = ["yard.level.toml", "--tuning", "apprentice.tuning.toml", "--buttons", "first-jump.buttons"];
    let inside = |arguments: &[&str]| output(wumple(arguments).current_dir(folder.path().join("inside")));
    let named = |arguments: &[&str]| output(wumple(arguments).current_dir(folder.path()));
    let whole = named(&[&["run"], &files[..]].concat());
    assert!(whole.0 == 0 && whole.1.contains("entered:goal"), "{whole:?}");
    assert_eq!(named(&["run"]), whole);
    assert_eq!(inside(&["run"]), whole, "from a folder within");
    assert_eq!(named(&["arcs"]), named(&["arcs", files[2]]));
    assert!(inside(&["trial"]).1.ends_with("2 trials: 2 passed\n"));
    assert!(inside(&["check"]).1.starts_with("nothing found in "));
    assert_eq!(named(&["reach"]), named(&["reach", files[0], files[1], files[2]]));
    assert_eq!(named(&["draw"]).2, "figure: level.svg\n");
    // What is given comes first.
    let still = named(&["run", "--press", "0 -", "--ticks", "30"]);
    assert!(still.1.contains("30 ticks") && !still.1.contains("entered:goal"), "{still:?}");
    assert!(named(&["run", "cellar.level.toml"]).1 != whole.1);
}

#[test]
fn what_is_wrong_with_a_project_is_said_at_its_place() {
    let folder = started();
    let run = |text: &str| {
        fs::write(folder.path().join("wumple.toml"), text).unwrap();
        let (status, _, said) = output(wumple(&["trial"]).current_dir(folder.path()));
        assert_eq!(status, 2, "{text}");
        said
    };
    for (text, words) in [
        ("tunning = \"a.tuning.toml\"\n", "wumple.toml:1:1: unknown key \"tunning\"; did you mean \"tuning\"?"),
        ("trials = \"trials\"\n", "wumple.toml:1:10: trials needs a list of texts, such as [\"trials\"]"),
        ("level = 3\n", "wumple.toml:1:9: level needs a text, such as \"yard.level.toml\""),
        ("", "no file is given: name some, or write trials = [\"trials\"] into wumple.toml"),
        ("trials = [\"away\"]\n", "away: "),
        ("trials = [\n", "wumple.toml:"),
    ] {
        let said = run(text);
        assert!(said.contains(words), "{text}: {said}");
    }
    let run = |arguments: &[&str]| output(wumple(arguments).current_dir(folder.path()));
    let (status, _, said) = run(&["run"]);
    assert!(status == 2 && said.contains("trials = ["), "{said}");
    fs::remove_file(folder.path().join("wumple.toml")).unwrap();
    for (arguments, words) in [
        (&["run"][..], "no level is given: name it, or write level = \"room.level.toml\" into wumple.toml"),
        (
            &["run", "yard.level.toml"],
            "no tuning is given: name it with --tuning, or write tuning = \"hero.tuning.toml\"",
        ),
        (&["draw", "yard.level.toml", "--body-figure", "body.svg"], "no tuning is given"),
        (&["check"], "no file is given: name some, or write check = [\"levels\"] into wumple.toml"),
    ] {
        let (status, _, said) = run(arguments);
        assert!(status == 2 && said.contains(words), "{arguments:?}: {said}");
    }
}

#[test]
fn a_trial_is_run_as_it_is_or_with_another_tuning_or_other_buttons() {
    let folder = trials();
    let run = |arguments: &[&str]| output(wumple(&[&["run"], arguments].concat()).current_dir(folder.path()));
    let whole = run(&["throwing-room.level.toml", "--tuning", "dab.tuning.toml", "--buttons", "throwing-room.buttons"]);
    let trial = run(&["gap.trial.toml"]);
    assert_eq!(trial.1, whole.1);
    let high = run(&["gap.trial.toml", "--tuning", "high.tuning.toml"]);
    assert!(high.0 == 0 && high.1 != trial.1);
    assert!(run(&["gap.trial.toml", "--press", "0 right", "--ticks", "20"]).1.contains("20 ticks"));
    let (status, _, said) = run(&["gap.trial.toml", "--on"]);
    assert!(status == 2 && said.contains("--on goes on from a level"), "{said}");
}

/// Where there is a Python: what it writes is drawn, compared and measured.
#[test]
fn a_game_in_another_language_writes_traces() {
    let folder = tempfile::tempdir().unwrap();
    let script = demo_file("../examples/write_a_trace.py");
    let Ok(done) = Command::new("python3").arg(script).arg(folder.path().join("jump.csv")).status() else { return };
    assert!(done.success());
    for file in ["throwing-room.level.toml", "dab.tuning.toml"] {
        fs::copy(demo_file(file), folder.path().join(file)).unwrap();
    }
    let run = |arguments: &[&str]| output(wumple(arguments).current_dir(folder.path()));
    let level = "throwing-room.level.toml";
    let drawn = run(&["draw", level, "--tuning", "dab.tuning.toml", "--trace", "jump.csv", "--figure", "jump.svg"]);
    assert_eq!((drawn.0, drawn.2.as_str()), (0, "figure: jump.svg\n"));
    assert!(fs::read_to_string(folder.path().join("jump.svg")).unwrap().contains("jumped:ground"));
    let press = ["--press", "0 right; 12 right jump", "--ticks", "70"];
    let compared = run(&[&["compare", "jump.csv", "dab.tuning.toml", "--level", level], &press[..]].concat());
    assert!(compared.0 == 0 && compared.1.contains("apex, tiles"), "{compared:?}");
    let matched = run(&["match", "jump.csv", "--rate", "60", "--tile", "16", "--y", "down"]);
    assert!(matched.0 == 0 && matched.1.contains("top_speed"), "{matched:?}");
}
