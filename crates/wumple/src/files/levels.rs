//! Levels in order: the chain that `next` makes.

use std::path::{Path, PathBuf};

use super::diagnostic::Diagnostics;
use super::disk::FileError;
use super::level::{Level, NextLevel};

/// A level and all that come after it, in order.
#[derive(Clone, Debug)]
#[non_exhaustive]
pub struct Levels {
    /// The levels, at least one.
    pub levels: Vec<Level>,
    /// The file of each.
    pub files: Vec<PathBuf>,
}

impl Levels {
    /// Reads a level, the one that it names as `next`, and so on to the last.
    ///
    /// # Errors
    ///
    /// If one cannot be read or is wrong. A `next` that leads nowhere, or back to a level of the chain, is said at its line.
    pub fn read(first: &Path) -> Result<Levels, FileError> {
        Levels::read_with(first, Level::read)
    }

    /// The same where the maps of levels may be anywhere in the folder `maps`, instead of each level's own.
    ///
    /// # Errors
    ///
    /// Like [`Levels::read`].
    pub fn read_within(first: &Path, maps: &Path) -> Result<Levels, FileError> {
        Levels::read_with(first, |path| Level::read_within(path, maps))
    }

    fn read_with(first: &Path, read: impl Fn(&Path) -> Result<Level, FileError>) -> Result<Levels, FileError> {
        let (mut levels, mut files) = (vec![read(first)?], vec![first.to_owned()]);
        while let Some(NextLevel::File(next)) = &levels[levels.len() - 1].next {
            let next = next.clone();
            let level = read_next(&levels[levels.len() - 1], &next, &files, &read)?;
            levels.push(level);
            files.push(next);
        }
        Ok(Levels { levels, files })
    }
}

/// The level that another names as its next.
pub(crate) fn read_next(
    level: &Level,
    next: &Path,
    before: &[PathBuf],
    read: impl Fn(&Path) -> Result<Level, FileError>,
) -> Result<Level, FileError> {
    let wrong = |message: String| FileError::Wrong(Diagnostics::from(level.at_next(message)));
    let is_same = |other: &PathBuf| match (other.canonicalize(), next.canonicalize()) {
        (Ok(one), Ok(other)) => one == other,
        _ => other == next,
    };
    if before.iter().any(is_same) {
        let message =
            format!("next leads back to {}: the levels never end; the last has next = \"none\"", next.display());
        return Err(wrong(message));
    }
    read(next).map_err(|error| match error {
        FileError::Read { path, cause } => wrong(format!("the next level {} cannot be read: {cause}", path.display())),
        other => other,
    })
}
