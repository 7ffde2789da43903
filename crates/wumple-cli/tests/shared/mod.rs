//! Running the program in the demo's folder.

use std::path::{Path, PathBuf};

use assert_cmd::Command;

/// A file of the demo.
pub(crate) fn demo_file(name: &str) -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo").join(name)
}

/// The program with these arguments.
pub(crate) fn wumple(arguments: &[&str]) -> Command {
    let mut command = Command::cargo_bin("wumple").unwrap();
    command.args(arguments).env("NO_COLOR", "1").env_remove("COLUMNS").current_dir(demo_file(""));
    command
}

/// Runs it: the exit status, what it printed, and what it said on standard error.
pub(crate) fn output(command: &mut Command) -> (i32, String, String) {
    let output = command.output().unwrap();
    let text = |bytes| String::from_utf8(bytes).unwrap();
    (output.status.code().unwrap(), text(output.stdout), text(output.stderr))
}
