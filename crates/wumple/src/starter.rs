//! The files to start from: a commented tuning, two small levels in order, buttons through each, trials that pass, and a project that means them.

use std::path::{Path, PathBuf};

use crate::files::{FileError, Project, write_whole};

/// Their names and texts.
pub const FILES: [(&str, &str); 8] = [
    ("apprentice.tuning.toml", include_str!("../starter/apprentice.tuning.toml")),
    ("yard.level.toml", include_str!("../starter/yard.level.toml")),
    ("first-jump.buttons", include_str!("../starter/first-jump.buttons")),
    ("first-jump.trial.toml", include_str!("../starter/first-jump.trial.toml")),
    ("cellar.level.toml", include_str!("../starter/cellar.level.toml")),
    ("through-the-cellar.buttons", include_str!("../starter/through-the-cellar.buttons")),
    ("through-the-cellar.trial.toml", include_str!("../starter/through-the-cellar.trial.toml")),
    (Project::NAME, include_str!("../starter/wumple.toml")),
];

/// Writes them into a folder, which is made if it is not there; returns their paths.
///
/// # Errors
///
/// If one of them is there already and `overwrite` is false: then none is written. If the system refuses.
pub fn write(folder: &Path, overwrite: bool) -> Result<Vec<PathBuf>, FileError> {
    let files = FILES.map(|(name, text)| (folder.join(name), text));
    if let Some((path, _)) = files.iter().find(|(path, _)| !overwrite && path.exists()) {
        return Err(FileError::Exists { path: path.clone() });
    }
    files
        .into_iter()
        .map(|(path, text)| {
            write_whole(&path, text.as_bytes(), overwrite)?;
            Ok(path)
        })
        .collect()
}
