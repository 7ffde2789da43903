//! The examples, run as they stand.

use std::fs;
use std::path::{Path, PathBuf};
use std::process::Command;

/// An example as `cargo test` has built it; a run of this test alone has it built first.
fn built(name: &str) -> PathBuf {
    let tests = std::env::current_exe().unwrap();
    let examples = tests.parent().and_then(Path::parent).unwrap().join("examples");
    let program = examples.join(format!("{name}{}", std::env::consts::EXE_SUFFIX));
    if !program.exists() {
        let mut cargo = Command::new(env!("CARGO"));
        let cargo = cargo.args(["build", "--quiet", "--example", name]).current_dir(env!("CARGO_MANIFEST_DIR"));
        assert!(cargo.status().unwrap().success(), "{name} does not compile");
    }
    program
}

#[test]
fn every_example_runs_and_shows_something() {
    let mut run = 0;
    for entry in fs::read_dir(Path::new(env!("CARGO_MANIFEST_DIR")).join("../../examples")).unwrap() {
        let file = entry.unwrap().path();
        if file.extension().is_none_or(|ending| ending != "rs") {
            continue;
        }
        let name = file.file_stem().unwrap().to_str().unwrap();
        let folder = tempfile::tempdir().unwrap();
        let output = Command::new(built(name)).current_dir(folder.path()).output().unwrap();
        assert!(output.status.success(), "{name}: {}", String::from_utf8_lossy(&output.stderr));
        assert!(!output.stdout.is_empty(), "{name} shows something");
        run += 1;
    }
    assert!(run >= 9);
}
