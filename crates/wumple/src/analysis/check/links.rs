//! Files that a level or a trial names: whether they are there, and where the way from level to level leads.

use std::path::{Path, PathBuf};

use super::{Finding, FindingKind};
use crate::files::{Diagnostic, FileError, Level, NextLevel, named_files, read_next};

/// The levels after a level, each read.
pub(super) fn check_next(
    level: &Level,
    file: &Path,
    read: impl Fn(&Path) -> Result<Level, FileError>,
) -> Option<Finding> {
    let (mut level, mut files) = (level.clone(), vec![file.to_owned()]);
    while let Some(NextLevel::File(next)) = level.next.clone() {
        match read_next(&level, &next, &files, &read) {
            Ok(after) => {
                files.push(next);
                level = after;
            }
            Err(error) => return Some(broken_next(&level, &next, error)),
        }
    }
    None
}

fn broken_next(level: &Level, next: &Path, error: FileError) -> Finding {
    let own = level.places().file();
    let (place, what) = match error {
        // At its own line if it is said there; one that is wrong itself says so where it is wrong.
        FileError::Wrong(wrong) => {
            let first = wrong.iter().next();
            let what = first.map_or(String::new(), |first| first.message().to_owned());
            match first.filter(|first| first.file() != own.file()) {
                Some(first) => (first.clone(), format!("the next level cannot be read: {what}")),
                None => (level.at_next(String::new()), what),
            }
        }
        other => (level.at_next(String::new()), other.to_string()),
    };
    let leads_to = "the game cannot go on when this level is finished".to_owned();
    let remedy = format!("a level at {}, or next = \"none\" if this is the last", next.display());
    Finding::new(FindingKind::BrokenLink, place, [what, leads_to, remedy])
}

/// The files that a level or a trial names and that are not there.
pub(super) fn check_named(path: &Path) -> Vec<Finding> {
    let missing = named_files(path).into_iter().filter(|(_, named)| !named.exists());
    let finding = |(place, named): (Diagnostic, PathBuf)| {
        let words = [
            format!("{} is not there", named.display()),
            format!("{} cannot be read", path.display()),
            "the file at that place, or its name as it is written on the disk, large and small letters too".into(),
        ];
        Finding::new(FindingKind::BrokenLink, place, words)
    };
    missing.map(finding).collect()
}
