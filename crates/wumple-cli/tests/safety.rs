//! What the program must not do to its users' files, terminals and patience.

mod shared;

use std::fs;
use std::path::Path;

use shared::{demo_file, output, wumple};

const ROOM: &str = "[map]\nrows = '''\n..........\n.@........\n##########\n'''\n";

/// A folder with a tuning and a small room.
fn folder() -> tempfile::TempDir {
    let folder = tempfile::tempdir().unwrap();
    fs::copy(demo_file("dab.tuning.toml"), folder.path().join("dab.tuning.toml")).unwrap();
    fs::write(folder.path().join("room.level.toml"), ROOM).unwrap();
    folder
}

fn run(folder: &Path, arguments: &[&str]) -> (i32, String, String) {
    output(wumple(arguments).current_dir(folder))
}

#[test]
fn what_a_command_reads_is_not_written_over() {
    let folder = folder();
    let at = |name: &str| folder.path().join(name);
    for name in ["store-room-painted.level.toml", "store-room.png"] {
        fs::copy(demo_file(name), at(name)).unwrap();
    }
    let before = fs::read(at("store-room.png")).unwrap();
    fs::write(at("map.level.toml"), "[map]\ncsv = \"map.csv\"\n").unwrap();
    fs::write(at("map.csv"), "@,.\n#,#\n").unwrap();
    for (arguments, file) in [
        (&["draw", "store-room-painted.level.toml", "--figure", "store-room.png"][..], "store-room.png"),
        (&["draw", "store-room-painted.level.toml", "--figure", "../FOLDER/./store-room.png"], "store-room.png"),
        (&["run", "map.level.toml", "--tuning", "dab.tuning.toml", "--ticks", "9", "--trace", "map.csv"], "map.csv"),
        (&["arcs", "dab.tuning.toml", "--figure", "a.svg", "--time-figure", "a.svg"], "a.svg"),
    ] {
        let own = folder.path().file_name().unwrap().to_str().unwrap();
        let arguments: Vec<String> = arguments.iter().map(|argument| argument.replace("FOLDER", own)).collect();
        let (status, _, said) = run(folder.path(), &arguments.iter().map(String::as_str).collect::<Vec<_>>());
        assert_eq!(status, 2, "{said}");
        assert!(said.contains(file) && said.contains("give what is written another name"), "{said}");
    }
    assert_eq!(fs::read(at("store-room.png")).unwrap(), before);
    assert_eq!(fs::read_to_string(at("map.csv")).unwrap(), "@,.\n#,#\n");
}

#[test]
fn maps_elsewhere_are_read_where_that_is_allowed() {
    let folder = folder();
    fs::create_dir(folder.path().join("levels")).unwrap();
    fs::write(folder.path().join("map.csv"), "@,.\n#,#\n").unwrap();
    fs::write(folder.path().join("levels/l.level.toml"), "[map]\ncsv = \"../map.csv\"\n").unwrap();
    let command = ["run", "levels/l.level.toml", "--tuning", "dab.tuning.toml", "--ticks", "9", "--press", "0 right"];
    let (status, _, said) = run(folder.path(), &command);
    assert!(status == 2 && said.contains("is outside levels"), "{said}");
    let (status, _, said) = run(folder.path(), &[&command[..], &["--maps", "."]].concat());
    assert_eq!((status, said.as_str()), (0, ""));
}

#[test]
fn absurd_runs_are_refused_before_they_are_run() {
    let folder = folder();
    let press = |text: &'static str, more: &[&'static str]| {
        let plain = ["run", "room.level.toml", "--tuning", "dab.tuning.toml", "--press", text];
        run(folder.path(), &[&plain[..], more].concat())
    };
    let (status, _, said) = press("0 right; 900000000 -", &[]);
    assert!(status == 2 && said.contains("is tick 900000000 at 60 Hz; a run has at most 10000000 ticks"), "{said}");
    let (status, _, said) = press("0 right", &["--ticks", "200000 s"]);
    assert!(status == 2 && said.contains("would have 12000000 ticks, and may have 10000000"), "{said}");
    let (status, out, _) = press("0 right", &["--ticks", "0.5 s"]);
    assert!(status == 0 && out.contains("30 ticks, 0.5 s"), "{out}");
    let (status, _, said) = press("0 right", &["--ticks", "2 px"]);
    assert!(status == 2 && said.contains("a number of ticks, such as 24, or a time"), "{said}");
}

/// Ten thousand faults are told as twenty, and how many more.
#[test]
fn floods_of_faults_are_told_in_few_lines() {
    let folder = folder();
    fs::write(folder.path().join("bad.buttons"), "5 jmup\n".repeat(10_000)).unwrap();
    let (status, _, said) =
        run(folder.path(), &["run", "room.level.toml", "--tuning", "dab.tuning.toml", "--buttons", "bad.buttons"]);
    assert_eq!(status, 2);
    assert!(said.contains("bad.buttons:21:3: and 9980 more of this kind, from here on"), "{said}");
    assert!(said.lines().count() < 130, "{} lines", said.lines().count());
}

#[test]
fn what_is_odd_is_said_and_what_is_told_is_not_obeyed() {
    let folder = folder();
    fs::write(folder.path().join("spikes.level.toml"), ROOM.replace(".@........", ".@..^.....")).unwrap();
    let plain = ["run", "spikes.level.toml", "--tuning", "dab.tuning.toml"];
    let (status, _, said) = run(folder.path(), &[&plain[..], &["--press", "0 right"]].concat());
    assert_eq!(status, 0);
    assert!(
        said.contains("note: a hazard was entered in tick ") && said.contains("what follows is your game's"),
        "{said}"
    );
    let (_, _, said) = run(folder.path(), &[&plain[..], &["--ticks", "5"]].concat());
    assert_eq!(said, "note: nothing is held: --buttons or --press says what is\n");
    let (_, _, said) = run(folder.path(), &[&plain[..], &["--press-every", "600", "--ticks", "100"]].concat());
    assert!(said.contains("warning: 100 ticks of practice press nothing; the first press comes after 600"), "{said}");
    let (status, _, said) = run(folder.path(), &["fit", "--height", "-3 tiles", "--time-to-apex", "0.4 s"]);
    assert_eq!(
        (status, said.as_str()),
        (2, "wumple: the height is -48 px; it must be from 0.0009765625 to 524288 px\n")
    );
    let odd = "[body]\nwidth = 10\nheight = 20\n[run]\ntop_speed = 2\n[fall]\ngravity = 900\n";
    fs::write(folder.path().join("odd.tuning.toml"), odd).unwrap();
    let wish = ["fit", "--height", "48", "--time-to-apex", "0.4", "--write", "odd.tuning.toml"];
    let (status, _, said) = run(folder.path(), &wish);
    assert!(status == 0 && said.contains("run.top_speed = 2 px/s makes a run of 0.125 tiles a second"), "{said}");
    let (status, _, said) = run(folder.path(), &["draw", "room.level.toml", "--figure", "x.PNG"]);
    assert!(status == 2 && said.contains("must end in .svg or .png, in small letters, not .PNG"), "{said}");
    let (status, _, said) = run(folder.path(), &["convert", "dab.tuning.toml", "--rate", "1e12"]);
    assert_eq!((status, said.as_str()), (2, "wumple: the rate is 1000000000000 Hz; it must be from 1 to 10000 Hz\n"));
}

/// A trial that fails says why even where its figure cannot be written.
#[test]
fn a_failure_is_told_without_its_figure() {
    let folder = folder();
    let text = "level = \"room.level.toml\"\ntuning = \"dab.tuning.toml\"\npress = \"0 right\"\nticks = 20\n[[expect]]\nevent = \"jumped:ground\"\n";
    fs::write(folder.path().join("t.trial.toml"), text).unwrap();
    fs::write(folder.path().join("in-the-way"), "").unwrap();
    let (status, out, _) = run(folder.path(), &["trial", "t.trial.toml", "--figures", "in-the-way"]);
    assert_eq!(status, 1, "{out}");
    assert!(out.contains("expected jumped:ground") && out.contains("no figure: in-the-way"), "{out}");
    assert!(!out.contains(".wumple-"), "no temporary names: {out}");
}

#[cfg(unix)]
#[test]
fn an_interrupt_leaves_nothing_behind() {
    use std::process::{Command, Stdio};
    use std::time::Duration;
    let folder = folder();
    let out = folder.path().join("out");
    fs::create_dir(&out).unwrap();
    let mut interrupted = 0;
    for attempt in 0..12 {
        let mut child = Command::new(assert_cmd::cargo::cargo_bin("wumple"))
            .args(["run", "room.level.toml", "--tuning", "dab.tuning.toml", "--press", "0 right"])
            .args(["--ticks", "200000", "--trace", "out/x.csv", "--format", "csv"])
            .current_dir(folder.path())
            .stdout(Stdio::null())
            .stderr(Stdio::null())
            .spawn()
            .unwrap();
        std::thread::sleep(Duration::from_millis(100 + 60 * attempt));
        let signal = if attempt % 2 == 0 { "-INT" } else { "-TERM" };
        // It may be done already.
        Command::new("kill").args([signal, &child.id().to_string()]).stderr(Stdio::null()).status().unwrap();
        interrupted += u32::from(child.wait().unwrap().code() == Some(130));
        let left: Vec<_> = fs::read_dir(&out)
            .unwrap()
            .map(|entry| entry.unwrap().file_name())
            .filter(|name| name != "x.csv")
            .collect();
        assert!(left.is_empty(), "{left:?}");
    }
    assert!(interrupted > 0, "at least one was caught at work");
}

/// What long work prints that is interrupted: what it has by then.
#[cfg(unix)]
fn interrupted(endless: &[&str]) -> String {
    use std::process::{Command, Stdio};
    let mut command = Command::new(env!("CARGO_BIN_EXE_wumple"));
    command.current_dir(demo_file("")).args(endless).stdout(Stdio::piped()).stderr(Stdio::piped());
    let child = command.spawn().unwrap();
    // Long enough to have begun; what is easy is found by then, or not.
    std::thread::sleep(std::time::Duration::from_secs(2));
    let kill = Command::new("kill").args(["-INT", &child.id().to_string()]).status().unwrap();
    let ended = child.wait_with_output().unwrap();
    let (out, said) = (String::from_utf8_lossy(&ended.stdout), String::from_utf8_lossy(&ended.stderr));
    assert!(kill.success() && ended.status.success(), "{:?} {said}", ended.status);
    assert!(said.contains("interrupted: this is what there was by then"), "{said}");
    out.into_owned()
}

#[cfg(unix)]
#[test]
fn an_interrupt_ends_long_work_with_what_it_has() {
    let room = ["reach", "jar-lift.level.toml", "--tuning", "climbing-dab.tuning.toml"];
    let out = interrupted(&[&room[..], &["--most", "1000000000000"]].concat());
    assert!(out.contains("platform:slab   not found") && out.contains("ticks tried"), "{out}");
    let out = interrupted(&["course", "dab.tuning.toml", "--steps", "500", "--rise", "2..3.4 tiles"]);
    let steps = out.lines().filter(|line| line.contains("shelf")).count();
    assert!((1..500).contains(&steps) && out.contains("climbed in"), "{out}");
}
