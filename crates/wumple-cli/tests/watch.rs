//! `--watch`: again whenever a file that is read is saved, in whatever way an editor does it.

mod shared;

use std::fs;
use std::io::{BufRead, BufReader, Read};
use std::path::{Path, PathBuf};
use std::process::{Child, Command, Stdio};
use std::sync::mpsc::{Receiver, channel};
use std::thread;
use std::time::Duration;

use shared::demo_file;

/// A command that goes on, in a folder of its own with files of the demo.
struct Watched {
    folder: tempfile::TempDir,
    child: Child,
    lines: Receiver<String>,
}

impl Watched {
    fn start(arguments: &[&str], files: &[&str]) -> Watched {
        let folder = tempfile::tempdir().unwrap();
        for file in files {
            fs::copy(demo_file(file), folder.path().join(file)).unwrap();
        }
        Watched::start_in(folder, arguments)
    }

    fn start_in(folder: tempfile::TempDir, arguments: &[&str]) -> Watched {
        let mut command = Command::new(assert_cmd::cargo::cargo_bin("wumple"));
        command.args(arguments).arg("--watch").current_dir(folder.path()).env("NO_COLOR", "1").env("COLUMNS", "200");
        let mut child = command.stdout(Stdio::piped()).stderr(Stdio::piped()).spawn().unwrap();
        let (tell, lines) = channel();
        let (out, said) = (child.stdout.take().unwrap(), child.stderr.take().unwrap());
        let readers: [Box<dyn Read + Send>; 2] = [Box::new(out), Box::new(said)];
        for reader in readers {
            let tell = tell.clone();
            thread::spawn(move || {
                BufReader::new(reader).lines().map_while(Result::ok).try_for_each(|line| tell.send(line))
            });
        }
        Watched { folder, child, lines }
    }

    fn path(&self, file: &str) -> PathBuf {
        self.folder.path().join(file)
    }

    /// Waits for a line that has these words in it.
    fn says(&self, words: &str) -> String {
        let mut before = Vec::new();
        loop {
            match self.lines.recv_timeout(Duration::from_secs(60)) {
                Ok(line) if line.contains(words) => return line,
                Ok(line) => before.push(line),
                Err(_) => panic!("\"{words}\" is not said after {before:#?}"),
            }
        }
    }

    /// Nothing is printed for a while; what is said of the time before may still come.
    fn is_silent(&self) {
        while let Ok(line) = self.lines.recv_timeout(Duration::from_millis(700)) {
            assert!(line.starts_with("figure: "), "{line}");
        }
    }
}

impl Drop for Watched {
    fn drop(&mut self) {
        let _ = self.child.kill();
        let _ = self.child.wait();
    }
}

fn replaced(file: &Path, from: &str, to: &str) -> String {
    let text = fs::read_to_string(file).unwrap();
    assert!(text.contains(from));
    text.replace(from, to)
}

#[test]
fn a_run_says_what_differs_after_each_way_of_saving() {
    let run = [
        "run",
        "throwing-room.level.toml",
        "--tuning",
        "dab.tuning.toml",
        "--buttons",
        "throwing-room.buttons",
        "--figure",
        "run.svg",
    ];
    let watched = Watched::start(&run, &["throwing-room.level.toml", "dab.tuning.toml", "throwing-room.buttons"]);
    watched.says("entered:goal@33,18");
    watched.says("figure: run.svg");
    // Its own figure, in the same folder, is nothing that it reads.
    watched.is_silent();
    let (tuning, figure) = (watched.path("dab.tuning.toml"), fs::read(watched.path("run.svg")).unwrap());

    // Written over.
    fs::write(&tuning, replaced(&tuning, "height = \"3.4 tiles\"", "height = \"3.6 tiles\"")).unwrap();
    let line = watched.says("dab.tuning.toml: ");
    assert!(line.contains("apex 3.4 -> 3.6 tiles; ") && line.ends_with("first apart at 0.667 s"), "{line}");
    assert_ne!(fs::read(watched.path("run.svg")).unwrap(), figure);

    // Another file put in its place; what is wrong is said, and it goes on.
    fs::write(watched.path("new"), replaced(&tuning, "3.6 tiles", "3.6 tils")).unwrap();
    fs::rename(watched.path("new"), &tuning).unwrap();
    watched.says("dab.tuning.toml:33:10: \"3.6 tils\" has the unknown unit");

    // Away for a moment, then there again: nobody says that it is missing.
    let text = replaced(&tuning, "3.6 tils", "3.4 tiles");
    fs::rename(&tuning, watched.path("dab.tuning.toml~")).unwrap();
    thread::sleep(Duration::from_millis(150));
    fs::write(&tuning, text).unwrap();
    let line = watched.says("toml");
    assert!(line.starts_with("dab.tuning.toml: apex 3.6 -> 3.4 tiles"), "{line}");
    assert_eq!(fs::read(watched.path("run.svg")).unwrap(), figure);

    // Saved as it is.
    fs::write(&tuning, fs::read(&tuning).unwrap()).unwrap();
    watched.is_silent();
    // A word of a comment makes no difference, and the level is read too.
    fs::write(
        watched.path("throwing-room.level.toml"),
        replaced(&watched.path("throwing-room.level.toml"), "[map]", "# again\n[map]"),
    )
    .unwrap();
    assert_eq!(watched.says("level.toml"), "throwing-room.level.toml: nothing differs");
}

#[test]
fn trials_of_a_folder_follow_the_files_that_they_name_and_new_trials() {
    let files = ["gap.trial.toml", "throwing-room.level.toml", "dab.tuning.toml", "throwing-room.buttons"];
    let watched = Watched::start(&["trial", "."], &files);
    watched.says("1 trial: 1 passed");
    let tuning = watched.path("dab.tuning.toml");
    fs::write(&tuning, replaced(&tuning, "height = \"3.4 tiles\"", "height = \"3.6 tiles\"")).unwrap();
    watched.says("./gap.trial.toml passes -> fails");
    watched.says("expected apex at least 53.6 px");
    fs::write(&tuning, replaced(&tuning, "3.6 tiles", "3.4 tiles")).unwrap();
    assert_eq!(watched.says("fails -> passes"), "dab.tuning.toml: ./gap.trial.toml fails -> passes");
    fs::copy(watched.path("gap.trial.toml"), watched.path("another.trial.toml")).unwrap();
    watched.says("new: ./another.trial.toml passes");
}

/// The first level is wrong, then one that only it names.
#[test]
fn levels_in_order_are_waited_for_where_one_of_them_is_wrong() {
    let folder = tempfile::tempdir().unwrap();
    wumple::starter::write(folder.path(), false).unwrap();
    let text = |name: &str| fs::read_to_string(folder.path().join(name)).unwrap();
    let (yard, cellar) = (text("yard.level.toml"), text("cellar.level.toml"));
    for (name, text) in [("yard.level.toml", &yard), ("cellar.level.toml", &cellar)] {
        fs::write(folder.path().join(name), format!("wrong = 1\n{text}")).unwrap();
    }
    let run =
        ["run", "yard.level.toml", "--tuning", "apprentice.tuning.toml", "--buttons", "first-jump.buttons", "--on"];
    let watched = Watched::start_in(folder, &run);
    watched.says("yard.level.toml:1:1: unknown key \"wrong\"");
    fs::write(watched.path("yard.level.toml"), yard).unwrap();
    watched.says("cellar.level.toml:1:1: unknown key \"wrong\"");
    fs::write(watched.path("cellar.level.toml"), cellar).unwrap();
    watched.says("finished");
}

#[test]
fn what_is_found_comes_and_goes() {
    let watched = Watched::start(&["check", "dab.tuning.toml"], &["dab.tuning.toml"]);
    watched.says("nothing found in 1 file");
    let tuning = watched.path("dab.tuning.toml");
    let right = fs::read(&tuning).unwrap();
    fs::write(&tuning, replaced(&tuning, "height = \"3.4 tiles\"", "height = \"340 tiles\"")).unwrap();
    watched.says("new: ");
    fs::write(&tuning, right).unwrap();
    watched.says("gone: ");
}

#[test]
fn arcs_comparisons_and_drawings_are_watched_too() {
    let arcs = Watched::start(&["arcs", "dab.tuning.toml"], &["dab.tuning.toml"]);
    arcs.says("running");
    let tuning = arcs.path("dab.tuning.toml");
    fs::write(&tuning, replaced(&tuning, "height = \"3.4 tiles\"", "height = \"3.6 tiles\"")).unwrap();
    arcs.says("full height 3.4 -> 3.6 tiles");

    let files = ["throwing-room.level.toml", "dab.tuning.toml", "throwing-room.buttons"];
    let compare = [
        "compare",
        "dab.tuning.toml",
        "dab.tuning.toml",
        "--level",
        files[0],
        "--buttons",
        files[2],
        "--format",
        "csv",
    ];
    let compared = Watched::start(&compare, &files);
    // As CSV all of it is printed again.
    let head = compared.says("apex");
    let tuning = compared.path("dab.tuning.toml");
    fs::write(&tuning, replaced(&tuning, "height = \"3.4 tiles\"", "height = \"3.6 tiles\"")).unwrap();
    assert_eq!(compared.says("apex"), head);

    let drawn = Watched::start(&["draw", files[0], "--figure", "room.png"], &files);
    drawn.says("figure: room.png");
    let level = drawn.path(files[0]);
    fs::write(&level, replaced(&level, "[map]", "# again\n[map]")).unwrap();
    drawn.says("throwing-room.level.toml: drawn again");
}
