//! The files of a command: what it reads, and that it writes none of that over.

use std::borrow::Cow;
use std::cell::{OnceCell, RefCell};
use std::path::{Path, PathBuf};

use clap::Args;
use wumple::advanced::Names;
use wumple::figures::Figure;
use wumple::files::{Project, files_named_in, read_text, read_text_from};
use wumple::units::Scale;
use wumple::{ButtonsFile, Diagnostics, FileError, Level, Levels, Trace, TrialFile, TuningFile};

use crate::failure::Failure;
use crate::options::{ending, is_standard};
use crate::output::{self, link};
use crate::pictures::{self, Pictures};
use crate::say::{say, warn};
use crate::table::width;
use crate::watch::{Contents, content};

/// What messages call the file that came from there.
pub(crate) const STANDARD_INPUT: &str = "standard input";

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

/// Whether a file is a trial, by its name.
pub(crate) fn is_trial(path: &Path) -> bool {
    path.file_name().is_some_and(|name| name.to_string_lossy().ends_with(".trial.toml"))
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
    /// Whether the command has done its work before.
    is_again: bool,
    written: RefCell<Vec<PathBuf>>,
    /// What came from standard input, once something did.
    input: OnceCell<String>,
    pictures: Pictures,
    project: OnceCell<Option<Project>>,
}

/// A file that a project can mean where none is named.
#[derive(Clone, Copy)]
pub(crate) enum Meant {
    Level,
    Tuning,
    Buttons,
}

impl Meant {
    fn of(self, project: &Project) -> Option<&PathBuf> {
        match self {
            Meant::Level => project.level.as_ref(),
            Meant::Tuning => project.tuning.as_ref(),
            Meant::Buttons => project.buttons.as_ref(),
        }
    }
}

impl Files {
    pub(crate) fn new(maps: &Maps) -> Files {
        Files { maps: maps.folder.clone(), ..Files::default() }
    }

    /// The same where files that change are waited for.
    pub(crate) fn watched(maps: &Maps) -> Files {
        Files { watched: true, ..Files::new(maps) }
    }

    /// The same, of a command that has done its work before.
    pub(crate) fn again(self, is_again: bool) -> Files {
        Files { is_again, ..self }
    }

    /// The same, with what is done with figures beside writing them.
    pub(crate) fn with_pictures(self, pictures: &Pictures) -> Files {
        Files { pictures: pictures.clone(), ..self }
    }

    /// What came from standard input.
    pub(crate) fn input(&self) -> Result<&str, Failure> {
        if self.watched {
            return Err(Failure::ReadOnce);
        }
        match self.input.get() {
            // Two files of two kinds are hardly the same text.
            Some(_) => Err(Failure::Usage("standard input is one file: name the others".into())),
            None => {
                let text = read_text_from(STANDARD_INPUT, std::io::stdin().lock())?;
                Ok(self.input.get_or_init(|| text))
            }
        }
    }

    /// The project of the folder in which the program runs, if it has one.
    pub(crate) fn project(&self) -> Result<Option<&Project>, FileError> {
        if self.project.get().is_none() {
            let found = Project::find(Path::new(""))?;
            if let Some(project) = &found {
                self.note(&project.file);
            }
            return Ok(self.project.get_or_init(|| found).as_ref());
        }
        Ok(self.project.get().and_then(Option::as_ref))
    }

    /// The file that is given, or else the one that the project means, if it does.
    pub(crate) fn given_or_meant(&self, given: Option<&Path>, meant: Meant) -> Result<Option<PathBuf>, FileError> {
        match given {
            Some(given) => Ok(Some(given.to_owned())),
            None => Ok(self.project()?.and_then(|project| meant.of(project)).cloned()),
        }
    }

    /// The same of a file that must be there.
    pub(crate) fn needed(&self, given: Option<&Path>, meant: Meant) -> Result<PathBuf, Failure> {
        self.given_or_meant(given, meant)?.ok_or_else(|| {
            let (what, example) = match meant {
                Meant::Level => ("level", "name it, or write level = \"room.level.toml\""),
                Meant::Tuning => ("tuning", "name it with --tuning, or write tuning = \"hero.tuning.toml\""),
                Meant::Buttons => ("buttons", "name them with --buttons, or write buttons = \"way.buttons\""),
            };
            Failure::Usage(format!("no {what} is given: {example} into {}", Project::NAME))
        })
    }

    /// The files and folders that are given, or else those that the project means.
    pub(crate) fn several(
        &self,
        given: &[PathBuf],
        meant: impl Fn(&Project) -> &[PathBuf],
        example: &str,
    ) -> Result<Vec<PathBuf>, Failure> {
        if !given.is_empty() {
            return Ok(given.to_vec());
        }
        let of_project = self.project()?.map(|project| meant(project).to_vec()).filter(|files| !files.is_empty());
        of_project.ok_or_else(|| {
            Failure::Usage(format!("no file is given: name some, or write {example} into {}", Project::NAME))
        })
    }

    /// Where levels may find their maps.
    pub(crate) fn maps(&self) -> Result<Option<PathBuf>, FileError> {
        match &self.maps {
            Some(maps) => Ok(Some(maps.clone())),
            None => Ok(self.project()?.and_then(|project| project.maps.clone())),
        }
    }

    pub(crate) fn level(&self, path: &Path) -> Result<Level, Failure> {
        let maps = self.maps()?;
        let level = if is_standard(path) {
            let text = self.input()?;
            match &maps {
                Some(maps) => Level::parse_within(STANDARD_INPUT, text, maps)?,
                None => Level::parse(STANDARD_INPUT, text)?,
            }
        } else {
            self.note(path);
            match &maps {
                Some(maps) => Level::read_within(path, maps)?,
                None => Level::read(path)?,
            }
        };
        level.map_file.iter().for_each(|map| self.note(map));
        level.warnings().iter().for_each(warn);
        Ok(level)
    }

    /// A level and all that come after it.
    pub(crate) fn levels(&self, first: &Path) -> Result<Vec<Level>, Failure> {
        if is_standard(first) {
            let words =
                "the levels that come next are found beside a file: --on goes on from one, not from standard input";
            return Err(Failure::Usage(words.into()));
        }
        self.note(first);
        let chain = match &self.maps()? {
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

    /// A text as it is, with what messages call it.
    pub(crate) fn text(&self, path: &Path) -> Result<(String, String), Failure> {
        if is_standard(path) {
            return Ok((STANDARD_INPUT.to_owned(), self.input()?.to_owned()));
        }
        self.note(path);
        Ok((path.display().to_string(), read_text(path)?))
    }

    pub(crate) fn tuning(&self, path: &Path) -> Result<TuningFile, Failure> {
        Ok(self.tuning_and_text(path)?.0)
    }

    /// A tuning, and its file as it is.
    pub(crate) fn tuning_and_text(&self, path: &Path) -> Result<(TuningFile, String), Failure> {
        let (name, text) = self.text(path)?;
        let tuning = TuningFile::parse(&name, &text)?;
        say_warnings(&tuning);
        Ok((tuning, text))
    }

    pub(crate) fn trial(&self, path: &Path) -> Result<TrialFile, Failure> {
        let maps = self.maps()?;
        if is_standard(path) {
            return Ok(trial_of_text(self.input()?, maps.as_deref())?);
        }
        self.note(path);
        Ok(match &maps {
            Some(maps) => TrialFile::read_within(path, maps)?,
            None => TrialFile::read(path)?,
        })
    }

    pub(crate) fn buttons(&self, path: &Path, scale: &Scale) -> Result<ButtonsFile, Failure> {
        if is_standard(path) {
            return Ok(ButtonsFile::parse(STANDARD_INPUT, self.input()?, scale)?);
        }
        self.note(path);
        Ok(ButtonsFile::read(path, scale)?)
    }

    pub(crate) fn trace(&self, path: &Path, names: &Names) -> Result<Trace, Failure> {
        if is_standard(path) {
            return Ok(Trace::parse(STANDARD_INPUT, self.input()?, names)?);
        }
        self.note(path);
        Ok(Trace::read(path, names)?)
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
        output::write(path, contents, true)?;
        self.written.borrow_mut().push(path.to_owned());
        Ok(())
    }

    /// The same, and says so: `trace: run.csv`.
    pub(crate) fn write_and_say(&self, what: &str, path: &Path, contents: &[u8]) -> Result<(), Failure> {
        self.write(path, contents)?;
        if !is_standard(path) {
            say(format_args!("{what}: {}", link(path)));
        }
        Ok(())
    }

    /// The figure of a command: written if a file is named for it, and drawn too if one is to be shown or opened.
    pub(crate) fn figure(&self, path: Option<&Path>, draw: impl FnOnce() -> Figure) -> Result<(), Failure> {
        match path {
            Some(path) => self.write_figure(path, &draw()),
            None if self.pictures.open => self.write_figure(&self.nameless(), &draw()),
            None if self.pictures.want_one() => self.show(&self.coloured(&draw())),
            None => Ok(()),
        }
    }

    /// Writes a figure in the form that its name asks for, and says so; shows and opens it if that is asked.
    pub(crate) fn write_figure(&self, path: &Path, figure: &Figure) -> Result<(), Failure> {
        let figure = &self.coloured(figure);
        let contents = match ending(path) {
            Some("png") => figure.png()?,
            _ => figure.svg().as_bytes().to_vec(),
        };
        self.write_and_say("figure", path, &contents)?;
        self.show(figure)?;
        if self.pictures.open { self.open(path) } else { Ok(()) }
    }

    /// Opens a file that was written; what is watched is open since the first time.
    pub(crate) fn open(&self, path: &Path) -> Result<(), Failure> {
        if self.is_again || is_standard(path) { Ok(()) } else { pictures::open(path) }
    }

    /// Where a figure is that is to be opened, and that no file is named for.
    fn nameless(&self) -> PathBuf {
        let name = format!("wumple-{}-{}.svg", std::process::id(), self.written.borrow().len());
        std::env::temp_dir().join(name)
    }

    fn coloured<'f>(&self, figure: &'f Figure) -> Cow<'f, Figure> {
        if self.pictures.dark { Cow::Owned(figure.dark()) } else { Cow::Borrowed(figure) }
    }

    fn show(&self, figure: &Figure) -> Result<(), Failure> {
        match self.pictures.show {
            Some(show) => output::show(&pictures::for_terminal(figure, show, width())?),
            None => Ok(()),
        }
    }
}

/// A trial that came from standard input.
pub(crate) fn trial_of_text(text: &str, maps: Option<&Path>) -> Result<TrialFile, Diagnostics> {
    match maps {
        Some(maps) => TrialFile::parse_within(STANDARD_INPUT, text, maps),
        None => TrialFile::parse(STANDARD_INPUT, text),
    }
}
