//! Figures beside their files, the page of trials, and `-` for standard input and output.

mod shared;

use std::fs;
use std::path::Path;

use shared::{demo_file, output, wumple};

const ROOM: [&str; 6] =
    ["run", "throwing-room.level.toml", "--tuning", "dab.tuning.toml", "--buttons", "throwing-room.buttons"];

fn demo_text(name: &str) -> String {
    fs::read_to_string(demo_file(name)).unwrap()
}

#[test]
fn a_dark_figure_is_the_same_in_other_colours() {
    let folder = tempfile::tempdir().unwrap();
    let drawn = |name: &str, more: &[&str]| {
        let path = folder.path().join(name);
        let (status, _, said) = output(&mut wumple(&[&ROOM[..], &["--figure", path.to_str().unwrap()], more].concat()));
        assert!(status == 0 && said.contains("figure: "), "{said}");
        fs::read_to_string(path).unwrap()
    };
    let (light, dark) = (drawn("light.svg", &[]), drawn("dark.svg", &["--dark"]));
    assert!(light.contains("\"#FBF9F4\"") && !dark.contains("\"#FBF9F4\"") && dark.contains("\"#1C1F24\""));
    assert_eq!(light.lines().count(), dark.lines().count());
}

/// Every command that draws shows its figure without a file, and writes none.
#[test]
fn figures_are_shown_in_the_terminal() {
    let folder = tempfile::tempdir().unwrap();
    let demo = |name: &str| demo_file(name).display().to_string();
    let (room, dab) = (demo("throwing-room.level.toml"), demo("dab.tuning.toml"));
    let (quick, buttons, kept) =
        (demo("steps/3-fall.tuning.toml"), demo("throwing-room.buttons"), demo("practice.csv"));
    let all: [&[&str]; 7] = [
        &["run", &room, "--tuning", &dab, "--buttons", &buttons],
        &["arcs", &dab],
        &["compare", &dab, &quick, "--level", &room, "--buttons", &buttons],
        &["reach", &room, "--tuning", &dab, "--to", "goal"],
        &["vary", &dab, "--over", "jump.height = 2..4 tiles, 3", "--measure", "full:apex_height"],
        &["course", &dab, "--steps", "2"],
        &["match", &kept, "--rate", "60", "--tile", "16", "--y", "down"],
    ];
    for arguments in all {
        let show = |how: &str| {
            let mut command = wumple(&[arguments, &[how]].concat());
            output(command.env("COLUMNS", "60").env("TERM", "xterm-kitty").current_dir(folder.path()))
        };
        let (status, out, said) = show("--show=blocks");
        assert_eq!(status, 0, "{arguments:?}: {said}");
        let rows: Vec<&str> = out.lines().filter(|line| line.contains('▀')).collect();
        assert!(rows.len() > 8 && rows.iter().all(|row| row.matches('▀').count() == 60), "{arguments:?}");
        let (_, out, _) = show("--show");
        assert!(out.contains("\x1b_Ga=T,f=100,c=60,m=1;"), "{arguments:?}");
        let (_, out, _) = show("--show=sixel");
        assert!(out.contains("\x1bP") && out.contains("\x1b\\"), "{arguments:?}");
    }
    assert_eq!(fs::read_dir(folder.path()).unwrap().count(), 0);
    let (status, out, _) = output(&mut wumple(&["draw", "throwing-room.level.toml", "--figure", "-", "--show"]));
    assert!(status == 0 && !out.contains("\x1b_G") && out.ends_with("</svg>\n"), "a file takes its place");
}

/// A viewer that writes down what it is given.
#[cfg(unix)]
fn viewer(folder: &Path) -> String {
    use std::os::unix::fs::PermissionsExt;
    let program = folder.join("xdg-open");
    fs::write(&program, "#!/bin/sh\necho \"$1\" >> \"$(dirname \"$0\")/opened\"\n").unwrap();
    fs::set_permissions(&program, fs::Permissions::from_mode(0o755)).unwrap();
    format!("{}:{}", folder.display(), std::env::var("PATH").unwrap())
}

/// What it was given, once it was: it runs by itself.
#[cfg(unix)]
fn opened(folder: &Path, count: usize) -> Vec<String> {
    for _ in 0..400 {
        let text = fs::read_to_string(folder.join("opened")).unwrap_or_default();
        if text.lines().count() >= count {
            return text.lines().map(str::to_owned).collect();
        }
        std::thread::sleep(std::time::Duration::from_millis(25));
    }
    panic!("nothing was opened");
}

#[cfg(target_os = "linux")]
#[test]
fn figures_and_reports_are_opened() {
    let folder = tempfile::tempdir().unwrap();
    let path = viewer(folder.path());
    let open = |arguments: &[&str]| {
        let (status, _, said) =
            output(wumple(&[arguments, &["--open"]].concat()).env("PATH", &path).env("TMPDIR", folder.path()));
        assert_eq!(status, 0, "{said}");
    };
    let figure = folder.path().join("a b.svg").display().to_string();
    open(&["arcs", "dab.tuning.toml", "--figure", &figure]);
    let report = folder.path().join("trials.html").display().to_string();
    open(&["trial", "gap.trial.toml", "--report", &report]);
    let two = opened(folder.path(), 2);
    assert!(two.contains(&figure) && two.contains(&report), "{two:?}");
    // With no name it has one of its own.
    open(&["arcs", "dab.tuning.toml"]);
    let third = opened(folder.path(), 3).pop().unwrap();
    assert!(third.contains("wumple-") && fs::read_to_string(third).unwrap().contains("<svg"));
    let (status, _, said) = output(&mut wumple(&["trial", "gap.trial.toml", "--open"]));
    assert!(status == 2 && said.contains("--report <FILE>"), "{said}");
}

/// What is piped into a command comes to what the file comes to.
#[test]
fn a_file_may_come_from_standard_input() {
    let named = |out: String| out.replace("standard input", "dab");
    let cases: [(&str, &[&str], &[&str]); 3] = [
        ("dab.tuning.toml", &["arcs", "-"], &["arcs", "dab.tuning.toml"]),
        (
            "throwing-room.level.toml",
            &["run", "-", "--tuning", "dab.tuning.toml", "--buttons", "throwing-room.buttons"],
            &ROOM,
        ),
        (
            "throwing-room.buttons",
            &["run", "throwing-room.level.toml", "--tuning", "dab.tuning.toml", "--buttons", "-"],
            &ROOM,
        ),
    ];
    for (file, piped, plain) in &cases {
        let (status, out, said) = output(wumple(piped).write_stdin(demo_text(file)));
        assert_eq!((status, said.as_str()), (0, ""), "{piped:?}");
        assert_eq!(named(out), output(&mut wumple(plain)).1, "{piped:?}");
    }
    let (status, out, _) = output(wumple(&["trial", "-"]).write_stdin(demo_text("gap.trial.toml")));
    assert!(status == 0 && out.ends_with("1 trial: 1 passed\n"), "{out}");
    let wrong = "[body]\nwidth = \"10 s\"\n";
    let (status, _, said) = output(wumple(&["arcs", "-"]).write_stdin(wrong));
    assert!(status == 2 && said.contains("standard input:2:9: \"10 s\" is a time"), "{said}");
    let two = ["run", "throwing-room.level.toml", "--tuning", "-", "--buttons", "-"];
    let (status, _, said) = output(wumple(&two).write_stdin(demo_text("dab.tuning.toml")));
    assert!(status == 2 && said.contains("standard input is one file"), "{said}");
    let (status, _, said) = output(wumple(&["arcs", "-", "--watch"]).write_stdin(wrong));
    assert!(status == 2 && said.contains("standard input can be read but once"), "{said}");
    let on = ["run", "-", "--on", "--tuning", "dab.tuning.toml"];
    let (status, _, said) = output(wumple(&on).write_stdin(demo_text("throwing-room.level.toml")));
    assert!(status == 2 && said.contains("--on goes on from one, not from standard input"), "{said}");
}

#[test]
fn a_tuning_is_converted_and_buttons_are_rewritten_in_a_pipe() {
    let (status, converted, said) =
        output(wumple(&["convert", "-", "--rate", "30", "--write", "-"]).write_stdin(demo_text("dab.tuning.toml")));
    assert_eq!((status, said.as_str()), (0, ""));
    let tuning = wumple::TuningFile::parse("piped", &converted).unwrap();
    assert_eq!(tuning.tuning.rate(), 30.0);
    let (status, out, _) = output(wumple(&["arcs", "-"]).write_stdin(converted));
    assert!(status == 0 && out.contains("apex"), "{out}");
    let buttons = ["buttons", "-", "--write", "-"];
    let (status, written, said) = output(wumple(&buttons).write_stdin(demo_text("throwing-room.buttons")));
    assert_eq!((status, said.as_str()), (0, ""));
    let again = output(wumple(&buttons).write_stdin(written.clone()));
    assert!(again.0 == 0 && again.1 == written && written.contains("right"), "{written}");
}

/// A run goes through a pipe: written as a trace, drawn and compared as the game's own would be.
#[test]
fn a_trace_goes_from_one_command_into_another() {
    let (status, trace, said) = output(&mut wumple(&[&ROOM[..], &["--trace", "-"]].concat()));
    assert_eq!((status, said.as_str()), (0, ""));
    let (_, printed, _) = output(&mut wumple(&[&ROOM[..], &["--format", "csv"]].concat()));
    assert_eq!(trace, printed);
    let draw = ["draw", "throwing-room.level.toml", "--tuning", "dab.tuning.toml", "--trace", "-", "--figure", "-"];
    let (status, figure, said) = output(wumple(&draw).write_stdin(trace.clone()));
    assert_eq!((status, said.as_str()), (0, ""));
    assert!(figure.starts_with("<svg") && figure.ends_with("</svg>\n"), "nothing but the figure");
    let compare = ["compare", "dab.tuning.toml", "-", "--level", "throwing-room.level.toml"];
    let buttons = ["--buttons", "throwing-room.buttons"];
    let (status, out, said) = output(wumple(&[&compare[..], &buttons].concat()).write_stdin(trace));
    assert!(status == 0 && out.contains("the runs are the same"), "{out} {said}");
    let both = ["--trace", "-", "--figure", "-"];
    let (status, _, said) = output(&mut wumple(&[&ROOM[..], &both].concat()));
    assert!(status == 2 && said.contains("is written by this command already"), "{said}");
}

#[test]
fn a_page_of_trials_has_all_in_it_and_failures_first() {
    let folder = tempfile::tempdir().unwrap();
    wumple::starter::write(folder.path(), false).unwrap();
    let first = "name = \"<b>First & last</b>\"\nlevel = \"yard.level.toml\"\ntuning = \"apprentice.tuning.toml\"\n\
                 press = \"0 right\"\n[[expect]]\nevent = \"jumped:ground\"\n[[expect]]\nsupport = \"solid\"\n";
    fs::write(folder.path().join("zz.trial.toml"), first).unwrap();
    fs::write(folder.path().join("wrong.trial.toml"), "level = 3\n").unwrap();
    let trial = |report: &str| output(wumple(&["trial", ".", "--report", report]).current_dir(folder.path()));
    let (status, out, said) = trial("t.html");
    assert_eq!(status, 2, "{out}");
    assert!(said.contains("report: ") && said.contains("wrong.trial.toml"), "{said}");
    let page = fs::read_to_string(folder.path().join("t.html")).unwrap();
    let places = ["&lt;b&gt;First &amp; last&lt;/b&gt;", "could not be run</b>", "class=\"passed\">passed"];
    let places = places.map(|words| page.rfind(&format!("{words}</h2>")).or(page.find(words)).expect(words));
    assert!(places.is_sorted(), "{places:?}");
    assert!(page.contains("1 failed") && page.contains("jumped:ground") && !page.contains("<b>First"));
    let figures = page.matches("<svg").count();
    assert_eq!(figures, page.matches("<section>").count() - 1, "each has its run drawn but the one that did not run");
    // Nothing is fetched: the one address is the name of SVG.
    let addresses = page.match_indices("http").map(|(at, _)| &page[at..]);
    assert!(addresses.into_iter().all(|rest| rest.starts_with("http://www.w3.org/2000/svg\"")));
    assert!(!page.contains("<script") && !page.contains("<link"));
    let again = trial("again.html");
    assert_eq!(again.0, 2);
    assert_eq!(fs::read_to_string(folder.path().join("again.html")).unwrap(), page, "the same again");
    let (status, _, said) = trial("t.txt");
    assert!(status == 2 && said.contains("a report's name must end in .html"), "{said}");
    let (_, out, _) = trial("-");
    assert_eq!(out, page);
}
