//! The files that a file names, though it cannot be read itself.

use std::path::{Path, PathBuf};

use super::diagnostic::{Diagnostic, Notes};
use super::disk::read_text;
use super::reader::{self, Section};
use crate::units::Scale;

/// What a trial names at its top, and a level in its map.
const KEYS: [&str; 3] = ["level", "tuning", "buttons"];
const MAPS: [&str; 2] = ["csv", "png"];

/// The files that a level or a trial names, found from its folder: its map; level, tuning and buttons. As far as its text can be read: none if it is no
/// TOML. Nothing is said of whether they are there.
#[must_use]
pub fn files_named_in(path: &Path) -> Vec<PathBuf> {
    named_files(path).into_iter().map(|(_, file)| file).collect()
}

/// Every file that a level or a trial names, found from its folder, with where it is named. Nothing if it is no TOML.
pub(crate) fn named_files(path: &Path) -> Vec<(Diagnostic, PathBuf)> {
    let Ok(text) = read_text(path) else { return Vec::new() };
    let mut notes = Notes::new(&path.display().to_string(), &text);
    let Some(document) = reader::parse(&mut notes) else { return Vec::new() };
    let top = Section::top(&document, Scale { tile: 16.0, frames_per_second: 60.0 });
    let map = if top.is_table("map") { top.section(&mut notes, "map") } else { None };
    let of_map = map.iter().flat_map(|map| MAPS.iter().map(move |key| (map, *key)));
    let named = KEYS.iter().map(|key| (&top, *key)).chain(of_map);
    let folder = path.parent().unwrap_or(Path::new(""));
    named
        .filter_map(|(section, key)| {
            let file = section.peek_text(key)?;
            Some((notes.at(section.place_of(key), String::new()), folder.join(file)))
        })
        .collect()
}
