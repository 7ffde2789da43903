//! Running the program in the demo's folder.
#![allow(dead_code, reason = "every test file uses a part of it")]

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

/// What a text says as JSON.
pub(crate) fn json(text: &str) -> serde_json::Value {
    serde_json::from_str(text).unwrap_or_else(|error| panic!("{error}: {text}"))
}

/// The keys of an object, by the alphabet.
pub(crate) fn keys(value: &serde_json::Value) -> Vec<&str> {
    value.as_object().unwrap().keys().map(String::as_str).collect()
}
