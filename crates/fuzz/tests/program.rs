//! The program itself, for a moment.

use std::process::{Command, Output};

fn fuzz(arguments: &[&str]) -> Output {
    Command::new(env!("CARGO_BIN_EXE_wumple-fuzz")).args(arguments).output().unwrap()
}

#[test]
fn what_is_spoiled_for_a_moment_breaks_nothing() {
    let out = fuzz(&["--seconds", "2", "--seed", "7"]);
    let said = String::from_utf8_lossy(&out.stderr);
    assert!(out.status.success(), "{said}");
    let tried = |line: &str| line.split_whitespace().nth(1).is_some_and(|count| count.parse::<u64>().unwrap() > 0);
    assert!(said.lines().count() > 5 && said.lines().all(tried), "{said}");
}

#[test]
fn an_unknown_target_is_refused() {
    let out = fuzz(&["--target", "nothing"]);
    assert!(!out.status.success() && String::from_utf8_lossy(&out.stderr).contains("there is no such target"));
}
