//! The files of a command: what it reads, and that it writes none of that over.

use std::cell::RefCell;
use std::path::{Path, PathBuf};

use clap::Args;
use wumple::advanced::Names;
use wumple::figures::Figure;
use wumple::files::{files_named_in, read_text};
use wumple::units::Scale;
use wumple::{ButtonsFile, FileError, Level, Levels, Trace, TrialFile, TuningFile};

use crate::failure::Failure;
use crate::options::ending;
use crate::output::link;
use crate::say::{say, warn};
use crate::watch::{Contents, content};

/// Where levels may find their maps.
#[derive(Args)]
pub(crate) struct Maps {
    /// Let levels take their maps (*.csv, *.png) from anywhere in this folder [default: the level's own]
    #[arg(long = "maps", value_name = "FOLDER")]
    pub(crate) folder: Option<PathBuf>,
}

/// Says which numbers of a tuning look like another unit.
pub(crate) fn say_warnings(tuning: &TuningFile) {
    tuning.warnings().iter().for_each(warn);
}

/// What is in a folder, in the order of its names.
pub(crate) fn files_in(folder: &Path) -> Result<Vec<PathBuf>, Failure> {
    let failed = |cause| Failure::from(FileError::Read { path: folder.to_owned(), cause });
    let entries = std::fs::read_dir(folder).map_err(failed)?;
    let mut files: Vec<PathBuf> =
        entries.map(|entry| entry.map(|entry| entry.path())).collect::<Result<_, _>>().map_err(failed)?;
    files.sort();
    Ok(files)
}

/// The files that a command has read and written.
#[derive(Default)]
pub(crate) struct Files {
    maps: Option<PathBuf>,
    read: RefCell<Contents>,
    /// Whether what is in them matters, which takes reading them once more.
    watched: bool,
    written: RefCell<Vec<PathBuf>>,
}

impl Files {
    pub(crate) fn new(maps: &Maps) -> Files {
        Files { maps: maps.folder.clone(), ..Files::default() }
    }

    /// The same where files that change are waited for.
    pub(crate) fn watched(maps: &Maps) -> Files {
        Files { watched: true, ..Files::new(maps) }
    }

    pub(crate) fn level(&self, path: &Path) -> Result<Level, Failure> {
        self.note(path);
        let level = match &self.maps {
            Some(maps) => Level::read_within(path, maps)?,
            None => Level::read(path)?,
        };
        level.map_file.iter().for_each(|map| self.note(map));
        level.warnings().iter().for_each(warn);
        Ok(level)
    }

    /// A level and all that come after it.
    pub(crate) fn levels(&self, first: &Path) -> Result<Vec<Level>, Failure> {
        self.note(first);
        let chain = match &self.maps {
            Some(maps) => Levels::read_within(first, maps)?,
            None => Levels::read(first)?,
        };
        chain.files.iter().for_each(|file| self.note(file));
        for level in &chain.levels {
            level.map_file.iter().for_each(|map| self.note(map));
            level.warnings().iter().for_each(warn);
        }
        Ok(chain.levels)
    }

    pub(crate) fn tuning(&self, path: &Path) -> Result<TuningFile, FileError> {
        Ok(self.tuning_and_text(path)?.0)
    }

    /// A tuning, and its file as it is.
    pub(crate) fn tuning_and_text(&self, path: &Path) -> Result<(TuningFile, String), FileError> {
        self.note(path);
        let text = read_text(path)?;
        let tuning = TuningFile::parse(&path.display().to_string(), &text)?;
        say_warnings(&tuning);
        Ok((tuning, text))
    }

    pub(crate) fn trial(&self, path: &Path) -> Result<TrialFile, FileError> {
        self.note(path);
        match &self.maps {
            Some(maps) => TrialFile::read_within(path, maps),
            None => TrialFile::read(path),
        }
    }

    pub(crate) fn buttons(&self, path: &Path, scale: &Scale) -> Result<ButtonsFile, FileError> {
        self.note(path);
        ButtonsFile::read(path, scale)
    }

    pub(crate) fn trace(&self, path: &Path, names: &Names) -> Result<Trace, FileError> {
        self.note(path);
        Trace::read(path, names)
    }

    /// Notes that a file is going to be read, or a folder.
    pub(crate) fn note(&self, path: &Path) {
        if self.read.borrow().contains_key(path) {
            return;
        }
        let content = if self.watched { content(path) } else { None };
        self.read.borrow_mut().insert(path.to_owned(), content);
        if self.watched && path.is_file() {
            files_named_in(path).iter().for_each(|named| self.note(named));
        }
    }

    /// What was in the files that were read, or were to be, before they were.
    pub(crate) fn contents(&self) -> Contents {
        self.read.borrow().clone()
    }

    /// Writes a figure, a trace or points: over what is there, unless it was read or written by this very command.
    pub(crate) fn write(&self, path: &Path, contents: &[u8]) -> Result<(), Failure> {
        let is_same = |other: &PathBuf| match (path.canonicalize(), other.canonicalize()) {
            (Ok(path), Ok(other)) => path == other,
            _ => path == other,
        };
        let refuse =
            |what: &str| Err(Failure::Usage(format!("{} {what}; give what is written another name", path.display())));
        if self.read.borrow().keys().any(is_same) {
            return refuse("is read by this command, and would be overwritten");
        }
        if self.written.borrow().iter().any(is_same) {
            return refuse("is written by this command already");
        }
        wumple::files::write_whole(path, contents, true)?;
        self.written.borrow_mut().push(path.to_owned());
        Ok(())
    }

    /// Writes a figure in the form that its name asks for, and says so.
    pub(crate) fn write_figure(&self, path: &Path, figure: &Figure) -> Result<(), Failure> {
        let contents = match ending(path) {
            Some("png") => figure.png()?,
            _ => figure.svg().as_bytes().to_vec(),
        };
        self.write(path, &contents)?;
        say(format_args!("figure: {}", link(path)));
        Ok(())
    }
}
