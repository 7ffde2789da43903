//! `*.trial.toml` files: a level, a tuning, buttons, and what must come of them.

use std::path::Path;

use toml_edit::Document;

mod expect;

use super::buttons::{ButtonsFile, Timeline};
use super::diagnostic::{Diagnostic, Diagnostics, Notes};
use super::disk::{FileError, read_text};
use super::fields::{Field, Value};
use super::level::Level;
use super::reader::{self, MOST_TICKS, Named, Section, is_another};
use super::tuning::{TuningFile, file_stem};
use crate::names::Names;
use crate::units::Scale;
use expect::read_expectation;

pub(crate) use expect::{Demand, Expectation, Number, Subject};

/// A `*.trial.toml` file: a run, and what is expected of it.
///
/// In a test of a game:
///
/// ```no_run
/// # use std::path::Path;
/// # use wumple::TrialFile;
/// # fn the_gap_is_jumped() -> Result<(), Box<dyn std::error::Error>> {
/// let mut outcome = TrialFile::read(Path::new("trials/gap.trial.toml"))?.run()?;
/// # #[cfg(feature = "figures")]
/// outcome.draw_failures(Path::new("target/trials"));
/// assert!(outcome.passed(), "{outcome}");
/// # Ok(())
/// # }
/// ```
#[derive(Clone, Debug)]
#[non_exhaustive]
pub struct TrialFile {
    /// What messages call the file: its path.
    pub file: String,
    /// The trial's name; the file's if it has none.
    pub name: String,
    /// Where it runs.
    pub level: Level,
    /// How the character moves.
    pub tuning: TuningFile,
    /// What is held.
    pub timeline: Timeline,
    /// How many ticks it runs.
    pub ticks: u64,
    /// Its file, for what is found in its run.
    pub(crate) place: Diagnostic,
    /// What must come of it.
    pub(crate) expectations: Vec<Expectation>,
}

impl TrialFile {
    /// Reads and checks a trial, and the files that it names, which are found from its folder.
    ///
    /// # Errors
    ///
    /// If it or a file that it names cannot be read, or is wrong: all that is wrong with them, with the
    /// places.
    pub fn read(path: &Path) -> Result<TrialFile, FileError> {
        TrialFile::read_from(path, None)
    }

    /// The same with a level whose map may be anywhere in the folder `maps`, instead of the level's own.
    ///
    /// # Errors
    ///
    /// Like [`TrialFile::read`].
    pub fn read_within(path: &Path, maps: &Path) -> Result<TrialFile, FileError> {
        TrialFile::read_from(path, Some(maps))
    }

    fn read_from(path: &Path, maps: Option<&Path>) -> Result<TrialFile, FileError> {
        Ok(TrialFile::parse_from(&path.display().to_string(), &read_text(path)?, maps)?)
    }

    /// Reads and checks the text of a trial; `name` is what messages call it, and the folder in it is where
    /// the files that it names are found.
    ///
    /// # Errors
    ///
    /// Like [`TrialFile::read`].
    pub fn parse(name: &str, text: &str) -> Result<TrialFile, Diagnostics> {
        TrialFile::parse_from(name, text, None)
    }

    /// The same with a level whose map may be anywhere in the folder `maps`, instead of the level's own.
    ///
    /// # Errors
    ///
    /// Like [`TrialFile::read`].
    pub fn parse_within(name: &str, text: &str, maps: &Path) -> Result<TrialFile, Diagnostics> {
        TrialFile::parse_from(name, text, Some(maps))
    }

    fn parse_from(name: &str, text: &str, maps: Option<&Path>) -> Result<TrialFile, Diagnostics> {
        let mut notes = Notes::new(name, text);
        let trial = reader::parse(&mut notes).and_then(|document| read(&mut notes, &document, name, maps));
        notes.finish()?;
        Ok(trial.expect("no error was noted"))
    }

    /// How many expectations it has.
    #[must_use]
    pub fn expectations(&self) -> usize {
        self.expectations.len()
    }
}

/// The keys of a trial.
pub(crate) const TRIAL: [Field; 7] = [
    Field::new("name", Value::Text, "what it is about; the file's name unless given"),
    Field::new("level", Value::TextLike("\\.toml$"), "where it runs").needed(),
    Field::new("tuning", Value::TextLike("\\.toml$"), "how the character moves").needed(),
    Field::new("buttons", Value::TextLike("\\.buttons$"), "what is held"),
    Field::new("press", Value::Text, "the same in a line, such as \"0 right; 30 right jump\""),
    Field::new("ticks", Value::Moment, "how long it runs"),
    Field::new("expect", Value::Sections(&[&expect::SUBJECTS, &expect::REST]), "what must come of it").needed(),
];

fn read(notes: &mut Notes, document: &Document<String>, name: &str, maps: Option<&Path>) -> Option<TrialFile> {
    if is_another(notes, document, "a trial") {
        return None;
    }
    let mut top = Section::top(document, Scale { tile: 16.0, frames_per_second: 60.0 });
    top.knows(notes, &[&TRIAL]);
    let called = top.title(notes, "The gap is jumped").unwrap_or_else(|| file_stem(name));
    let named = |ending, example| Named { ending, example, within: None };
    let level = needed_file(notes, &top, "level", &named(".toml", "room.level.toml"), |path| match maps {
        Some(maps) => Level::read_within(path, maps),
        None => Level::read(path),
    });
    let tuning = needed_file(notes, &top, "tuning", &named(".toml", "dab.tuning.toml"), TuningFile::read);
    let scale = tuning.as_ref().map_or(Scale { tile: 16.0, frames_per_second: 60.0 }, |tuning| tuning.scale);
    let rate = tuning.as_ref().map_or(60.0, |tuning| tuning.tuning.rate());
    top.set_scale(scale);
    let mut known = level.as_ref().map_or_else(|| Names::default().words(), |level| level.names.words());
    if let Some(round) = level.as_ref().and_then(|level| level.round.as_ref()) {
        let numbers = round.rules.numbers();
        known.round_numbers.extend(["attempt", "picked"]);
        known.round_numbers.extend(numbers.health.map(|_| "health"));
        known.round_numbers.extend(numbers.lives.map(|_| "lives"));
    }
    let sections = top.sections(notes, "expect");
    if sections.is_empty() && !notes.has_errors() {
        notes.error(0..0, "nothing is expected; add an [[expect]], such as event = \"jumped:ground\" and at = 30");
    }
    let expectations: Vec<Expectation> =
        sections.iter().filter_map(|section| read_expectation(notes, section, &known, rate)).collect();
    let ticks = top.moment(notes, "ticks", rate);
    // What can be reached asks for no run.
    let asks_for_run = expectations.iter().any(|expectation| !matches!(expectation.subject, Subject::Reach(_)));
    let has_run = top.has("buttons") || top.has("press");
    let buttons =
        (asks_for_run || has_run || expectations.is_empty()).then(|| read_buttons(notes, &top, &scale)).flatten();
    let timeline = match buttons.map(|buttons| buttons.at_rate(rate)) {
        Some(Ok((timeline, _))) => timeline,
        Some(Err(wrong)) => {
            notes.add(wrong);
            Timeline::default()
        }
        None => Timeline::default(),
    };
    let latest = expectations.iter().map(|expectation| expectation.to.unwrap_or(0).max(expectation.from)).max();
    if let (Some(ticks), Some(latest)) = (ticks, latest.filter(|latest| ticks.is_some_and(|ticks| *latest > ticks))) {
        let message = format!("the run has {ticks} ticks, and something is expected of tick {latest}; make it longer");
        notes.error(top.place_of("ticks"), message);
    }
    let ticks =
        ticks.unwrap_or_else(|| if !has_run { 0 } else { timeline.ticks_to_run(rate).max(latest.unwrap_or(0)) });
    if ticks as f64 > MOST_TICKS {
        notes.error(0..0, format!("the run would have {ticks} ticks; it may have {MOST_TICKS}"));
    }
    let (level, tuning) = (level?, tuning?);
    let place = notes.at(0..0, String::new());
    Some(TrialFile { file: name.to_owned(), name: called, level, tuning, timeline, ticks, place, expectations })
}

/// What a file that the trial must name says.
fn needed_file<T>(
    notes: &mut Notes,
    top: &Section<'_>,
    key: &str,
    named: &Named<'_>,
    read: impl FnOnce(&Path) -> Result<T, FileError>,
) -> Option<T> {
    if !top.has(key) {
        notes
            .error(0..0, format!("the trial has no \"{key}\"; it needs a file, such as {key} = \"{}\"", named.example));
    }
    top.file(notes, key, named, read).map(|(_, contents)| contents)
}

fn read_buttons(notes: &mut Notes, top: &Section<'_>, scale: &Scale) -> Option<ButtonsFile> {
    match (top.has("buttons"), top.has("press")) {
        (true, true) => {
            notes.error(top.place_of("press"), "the trial has \"buttons\" and \"press\"; keep one of them");
            None
        }
        (false, true) => {
            let text = top.text(notes, "press", "0 right; 30 right jump")?;
            let parsed = ButtonsFile::parse("press", text, scale);
            parsed
                .map_err(|errors| {
                    let messages: Vec<&str> = errors.iter().map(Diagnostic::message).collect();
                    notes.error(top.place_of("press"), format!("press: {}", messages.join("; ")));
                })
                .ok()
        }
        _ => {
            let named = Named { ending: ".buttons", example: "room.buttons", within: None };
            needed_file(notes, top, "buttons", &named, |path| ButtonsFile::read(path, scale))
        }
    }
}
