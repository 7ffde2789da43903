//! What is meant in a folder where nothing is named: `wumple.toml`.

use std::path::{Path, PathBuf};

use super::diagnostic::{Diagnostics, Notes};
use super::disk::{FileError, read_text};
use super::reader::{self, Section};
use crate::units::Scale;

/// What is meant where a command is given no file. Paths are found from the folder of the file.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
#[non_exhaustive]
pub struct Project {
    /// The file itself.
    pub file: PathBuf,
    /// How the character moves.
    pub tuning: Option<PathBuf>,
    /// Where it runs.
    pub level: Option<PathBuf>,
    /// What is held.
    pub buttons: Option<PathBuf>,
    /// Trials, and folders with some.
    pub trials: Vec<PathBuf>,
    /// What is checked: files, and folders with some.
    pub check: Vec<PathBuf>,
    /// Where levels may find their maps.
    pub maps: Option<PathBuf>,
}

const KEYS: [&str; 6] = ["tuning", "level", "buttons", "trials", "check", "maps"];

impl Project {
    /// What the file is called.
    pub const NAME: &str = "wumple.toml";

    /// The nearest one, in a folder or in one that it is in. None if there is none.
    ///
    /// # Errors
    ///
    /// Like [`Project::read`].
    pub fn find(folder: &Path) -> Result<Option<Project>, FileError> {
        let whole = std::env::current_dir().unwrap_or_default().join(folder);
        // As short as can be: what is said of its files names them as the user does.
        let mut near = folder.to_owned();
        for above in whole.ancestors() {
            if above.join(Project::NAME).is_file() {
                return Project::read(&near.join(Project::NAME)).map(Some);
            }
            near.push("..");
        }
        Ok(None)
    }

    /// Reads and checks one. Whether the files that it names are there is said when they are read.
    ///
    /// # Errors
    ///
    /// If it cannot be read, or is wrong: all that is wrong with it, with the places.
    pub fn read(path: &Path) -> Result<Project, FileError> {
        Ok(Project::parse(&path.display().to_string(), &read_text(path)?)?)
    }

    /// Reads and checks the text of one; `name` is what messages call it, and the folder in it is where the files that it names are found.
    ///
    /// # Errors
    ///
    /// Like [`Project::read`].
    pub fn parse(name: &str, text: &str) -> Result<Project, Diagnostics> {
        let mut notes = Notes::new(name, text);
        let project = reader::parse(&mut notes).map(|document| {
            let top = Section::top(&document, Scale { tile: 16.0, frames_per_second: 60.0 });
            read(&mut notes, &top, Path::new(name))
        });
        notes.finish()?;
        Ok(project.expect("no error was noted"))
    }
}

fn read(notes: &mut Notes, top: &Section<'_>, file: &Path) -> Project {
    top.knows_keys(notes, &KEYS);
    let folder = file.parent().unwrap_or(Path::new(""));
    let mut one = |key, example| top.text(notes, key, example).map(|path| folder.join(path));
    let (tuning, level) = (one("tuning", "hero.tuning.toml"), one("level", "yard.level.toml"));
    let (buttons, maps) = (one("buttons", "way.buttons"), one("maps", "maps"));
    let mut several = |key, example| -> Vec<PathBuf> {
        let texts = top.texts(notes, key, example);
        texts.into_iter().map(|path| folder.join(path)).collect()
    };
    let (trials, check) = (several("trials", "trials"), several("check", "levels"));
    Project { file: file.to_owned(), tuning, level, buttons, trials, check, maps }
}
