//! `*.trial.toml` files: a level, a tuning, buttons, and what must come of them.

use std::path::{Path, PathBuf};

use toml_edit::Document;
use wumple_core::{DVec2, State, Support};

use super::buttons::{ButtonsFile, Timeline};
use super::diagnostic::{Diagnostic, Diagnostics, Notes};
use super::disk::{FileError, read_text};
use super::level::Level;
use super::reader::{self, MOST_TICKS, Section, listed, nearest};
use super::tuning::{TuningFile, file_stem};
use crate::names::Names;
use crate::quantity::{Kind, Scale, short};

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
/// outcome.draw_failures(Path::new("target/trials"))?;
/// assert!(outcome.passed(), "{outcome}");
/// # Ok(())
/// # }
/// ```
#[derive(Clone, Debug)]
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
    /// What must come of it.
    pub(crate) expectations: Vec<Expectation>,
}

/// One `[[expect]]` of a trial.
#[derive(Clone, Debug)]
pub(crate) struct Expectation {
    /// Where it stands in the file; the message is what it says, in words.
    pub(crate) place: Diagnostic,
    pub(crate) subject: Subject,
    /// The first and the last tick that it looks at, the last only if the file says one.
    pub(crate) from: u64,
    pub(crate) to: Option<u64>,
    pub(crate) demand: Demand,
}

/// What an expectation is about.
#[derive(Clone, Debug, PartialEq)]
pub(crate) enum Subject {
    /// An event in the words of a trace, or the part of them before the colon.
    Event(String),
    State(State),
    Support(Support),
    /// Feet no further from a place than this, px.
    Place(DVec2, f64),
    Number(Number),
}

/// What is asked of it.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) enum Demand {
    /// In one tick at least.
    Once,
    Never,
    Always,
    /// How often, how long (s), or how much (in px and s).
    Between {
        least: Option<f64>,
        most: Option<f64>,
        /// For a number of every tick: whether no tick may have one like that, instead of all.
        never: bool,
    },
}

/// A number that a run has.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Number {
    X,
    Y,
    Height,
    SidewaysSpeed,
    UpwardSpeed,
    Apex,
    Reach,
    AirTime,
    LandingSpeed,
    GoalTime,
}

impl Number {
    const NAMES: [(&'static str, Number); 10] = [
        ("x", Number::X),
        ("y", Number::Y),
        ("height", Number::Height),
        ("sideways_speed", Number::SidewaysSpeed),
        ("upward_speed", Number::UpwardSpeed),
        ("apex", Number::Apex),
        ("reach", Number::Reach),
        ("air_time", Number::AirTime),
        ("landing_speed", Number::LandingSpeed),
        ("goal_time", Number::GoalTime),
    ];

    pub(crate) fn name(self) -> &'static str {
        Number::NAMES.iter().find(|(_, number)| *number == self).expect("every number has a name").0
    }

    fn kind(self) -> Kind {
        match self {
            Number::X | Number::Y | Number::Height | Number::Apex | Number::Reach => Kind::Length,
            Number::SidewaysSpeed | Number::UpwardSpeed | Number::LandingSpeed => Kind::Speed,
            Number::AirTime | Number::GoalTime => Kind::Time,
        }
    }

    /// Its unit in messages.
    pub(crate) fn unit(self) -> &'static str {
        match self.kind() {
            Kind::Speed => "px/s",
            Kind::Time => "s",
            _ => "px",
        }
    }

    /// Whether every tick has one of its own.
    pub(crate) fn is_of_a_tick(self) -> bool {
        matches!(self, Number::X | Number::Y | Number::Height | Number::SidewaysSpeed | Number::UpwardSpeed)
    }
}

/// How near the feet must be to a place if nothing is said, px.
const NEAR_ENOUGH: f64 = 0.5;

const KEYS: [&str; 13] = [
    "event", "state", "support", "place", "number", "at", "before", "after", "between", "within", "at_least",
    "at_most", "never",
];

impl TrialFile {
    /// Reads and checks a trial, and the files that it names, which are found from its folder.
    ///
    /// # Errors
    ///
    /// If it or a file that it names cannot be read, or is wrong: all that is wrong with them, with the
    /// places.
    pub fn read(path: &Path) -> Result<TrialFile, FileError> {
        Ok(TrialFile::parse(&path.display().to_string(), &read_text(path)?)?)
    }

    /// Reads and checks the text of a trial; `name` is what messages call it, and the folder in it is where
    /// the files that it names are found.
    ///
    /// # Errors
    ///
    /// Like [`TrialFile::read`].
    pub fn parse(name: &str, text: &str) -> Result<TrialFile, Diagnostics> {
        let mut notes = Notes::new(name, text);
        let trial = reader::parse(&mut notes).and_then(|document| read(&mut notes, &document, name));
        notes.finish()?;
        Ok(trial.expect("no error was noted"))
    }

    /// How many expectations it has.
    pub fn expectations(&self) -> usize {
        self.expectations.len()
    }
}

fn read(notes: &mut Notes, document: &Document<String>, name: &str) -> Option<TrialFile> {
    let mut top = Section::top(document, Scale { tile: 16.0, frames_per_second: 60.0 });
    top.knows(notes, &["name", "level", "tuning", "buttons", "press", "ticks", "expect"]);
    let called = top.text(notes, "name", "The gap is jumped").map_or_else(|| file_stem(name), str::to_owned);
    let level = file_named(notes, &top, name, "level", "room.level.toml")
        .and_then(|path| noted(notes, &top, "level", Level::read(&path)));
    let tuning = file_named(notes, &top, name, "tuning", "dab.tuning.toml")
        .and_then(|path| noted(notes, &top, "tuning", TuningFile::read(&path)));
    let scale = tuning.as_ref().map_or(Scale { tile: 16.0, frames_per_second: 60.0 }, |tuning| tuning.scale);
    let rate = tuning.as_ref().map_or(60.0, |tuning| tuning.tuning.rate());
    top.set_scale(scale);
    let buttons = read_buttons(notes, &top, name, &scale);
    let names = level.as_ref().map(|level| level.names.clone()).unwrap_or_default();
    let sections = top.sections(notes, "expect");
    if sections.is_empty() && !notes.has_errors() {
        notes.error(0..0, "nothing is expected; add an [[expect]], such as event = \"jumped:ground\" and at = 30");
    }
    let expectations: Vec<Expectation> =
        sections.iter().filter_map(|section| read_expectation(notes, section, &names, rate)).collect();
    let ticks = top.moment(notes, "ticks", rate);
    let timeline = buttons.map(|buttons| buttons.at_rate(rate).0).unwrap_or_default();
    let latest = expectations.iter().map(|expectation| expectation.to.unwrap_or(0).max(expectation.from)).max();
    if let (Some(ticks), Some(latest)) = (ticks, latest.filter(|latest| ticks.is_some_and(|ticks| *latest > ticks))) {
        let message = format!("the run has {ticks} ticks, and something is expected of tick {latest}; make it longer");
        notes.error(top.place_of("ticks"), message);
    }
    let ticks = ticks.unwrap_or_else(|| timeline.ticks_to_run(rate).max(latest.unwrap_or(0)));
    if ticks as f64 > MOST_TICKS {
        notes.error(0..0, format!("the run would have {ticks} ticks; it may have {MOST_TICKS}"));
    }
    let (level, tuning) = (level?, tuning?);
    Some(TrialFile { file: name.to_owned(), name: called, level, tuning, timeline, ticks, expectations })
}

/// The path of a file that the trial names: from the trial's folder.
fn file_named(notes: &mut Notes, top: &Section<'_>, trial: &str, key: &str, example: &str) -> Option<PathBuf> {
    if !top.has(key) {
        notes.error(0..0, format!("the trial has no \"{key}\"; it needs a file, such as {key} = \"{example}\""));
    }
    let file = top.text(notes, key, example)?;
    Some(Path::new(trial).parent().unwrap_or(Path::new("")).join(file))
}

/// What a file that the trial names says; what is wrong with it is noted.
fn noted<T>(notes: &mut Notes, top: &Section<'_>, key: &str, read: Result<T, FileError>) -> Option<T> {
    match read {
        Ok(value) => Some(value),
        Err(FileError::Wrong(diagnostics)) => {
            notes.add(diagnostics);
            None
        }
        Err(error) => {
            notes.error(top.place_of(key), error.to_string());
            None
        }
    }
}

fn read_buttons(notes: &mut Notes, top: &Section<'_>, trial: &str, scale: &Scale) -> Option<ButtonsFile> {
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
            let path = file_named(notes, top, trial, "buttons", "room.buttons")?;
            noted(notes, top, "buttons", ButtonsFile::read(&path, scale))
        }
    }
}

fn read_expectation(notes: &mut Notes, section: &Section<'_>, names: &Names, rate: f64) -> Option<Expectation> {
    section.knows(notes, &[&KEYS[..], &["always"]].concat());
    let subjects: Vec<&str> = KEYS[..5].iter().copied().filter(|key| section.has(key)).collect();
    let [subject] = subjects[..] else {
        let found = if subjects.is_empty() { "none".to_owned() } else { listed(subjects.iter().copied()) };
        let message = format!(
            "{} is about one of {}; this one is about {found}",
            section.name(),
            listed(KEYS[..5].iter().copied())
        );
        notes.error(section.span(), message);
        return None;
    };
    let (subject, words) = read_subject(notes, section, subject, names)?;
    let (from, to, when) = read_window(notes, section, &subject, rate)?;
    let demand = read_demand(notes, section, &subject)?;
    let words = in_words(&subject, &words, &demand, &when);
    Some(Expectation { place: notes.at(section.span(), words), subject, from, to, demand })
}

fn read_subject(notes: &mut Notes, section: &Section<'_>, key: &str, names: &Names) -> Option<(Subject, String)> {
    let unknown = |notes: &mut Notes, word: &str, known: &[&str]| {
        let remedy = nearest(word, known.iter().copied()).map_or_else(
            || format!("it is one of {}", listed(known.iter().copied())),
            |near| format!("did you mean \"{near}\"?"),
        );
        notes.error(section.place_of(key), format!("{}: unknown {key} \"{word}\"; {remedy}", section.name_of(key)));
    };
    match key {
        "event" => {
            let word = section.text(notes, key, "jumped:ground")?;
            let known = names.event_words();
            if !known.iter().any(|known| known == word) {
                unknown(notes, word, &known.iter().map(String::as_str).collect::<Vec<_>>());
                return None;
            }
            Some((Subject::Event(word.to_owned()), word.to_owned()))
        }
        "state" => {
            let state = section.word(notes, key, &State::ALL.map(|state| (state.name(), state)))?;
            Some((Subject::State(state), format!("state {state}")))
        }
        "support" => {
            let word = section.text(notes, key, "solid")?;
            let known = names.support_words();
            let Some((_, support)) = known.iter().find(|(name, _)| name == word) else {
                unknown(notes, word, &known.iter().map(|(name, _)| name.as_str()).collect::<Vec<_>>());
                return None;
            };
            Some((Subject::Support(*support), format!("support {word}")))
        }
        "place" => {
            let (x, y) = section.pair(notes, key, Kind::Length)?;
            let within = section.quantity(notes, "within", Kind::Length).unwrap_or(NEAR_ENOUGH);
            if within < 0.0 {
                notes.error(section.place_of("within"), format!("{} cannot be negative", section.name_of("within")));
            }
            let words = format!("feet within {} px of ({}, {}) px", short(within), short(x), short(y));
            Some((Subject::Place(DVec2::new(x, y), within), words))
        }
        _ => {
            let number = section.word(notes, key, &Number::NAMES)?;
            Some((Subject::Number(number), number.name().to_owned()))
        }
    }
}

/// The ticks that an expectation looks at, and how that is said.
fn read_window(
    notes: &mut Notes,
    section: &Section<'_>,
    subject: &Subject,
    rate: f64,
) -> Option<(u64, Option<u64>, String)> {
    let said: Vec<&str> = ["at", "between", "before", "after"].into_iter().filter(|key| section.has(key)).collect();
    let is_place = matches!(subject, Subject::Place(..));
    if !is_place && section.has("within") && (said[..] != ["at"] || matches!(subject, Subject::Number(_))) {
        let message = format!(
            "{} goes with \"place\", as a length, or with \"at\" of an event, state or support, as a time",
            section.name_of("within")
        );
        notes.error(section.place_of("within"), message);
        return None;
    }
    let moment = |notes: &mut Notes, key: &str| section.moment(notes, key, rate);
    match said[..] {
        [] => Some((0, None, String::new())),
        ["at"] => {
            let at = moment(notes, "at")?;
            let within = if is_place || !section.has("within") { 0 } else { moment(notes, "within")? };
            let when =
                if within == 0 { format!(" in tick {at}") } else { format!(" in tick {at}, give or take {within}") };
            Some((at.saturating_sub(within), Some(at + within), when))
        }
        ["between"] => {
            let (from, to) = section.moments(notes, "between", rate)?;
            Some((from, Some(to), format!(" in ticks {from} to {to}")))
        }
        ["before"] => {
            let before = moment(notes, "before")?;
            if before == 0 {
                notes.error(section.place_of("before"), "there is no tick before tick 0");
                return None;
            }
            Some((0, Some(before - 1), format!(" before tick {before}")))
        }
        ["after"] => {
            let after = moment(notes, "after")?;
            Some((after + 1, None, format!(" after tick {after}")))
        }
        _ => {
            let message = format!("{} says {}; keep one of them", section.name(), listed(said.iter().copied()));
            notes.error(section.place_of(said[1]), message);
            None
        }
    }
}

fn read_demand(notes: &mut Notes, section: &Section<'_>, subject: &Subject) -> Option<Demand> {
    let (never, always) = (section.switch(notes, "never"), section.switch(notes, "always"));
    let bounded = section.has("at_least") || section.has("at_most");
    let mut refuse = |key: &str, why: &str| {
        notes.error(section.place_of(key), format!("{}: {why}", section.name_of(key)));
        None
    };
    if never && always {
        return refuse("always", "never and always cannot both be; keep one");
    }
    match subject {
        Subject::Number(number) => {
            if !bounded {
                return refuse("number", "a number needs \"at_least\" or \"at_most\", or both");
            }
            if number.is_of_a_tick() && !(section.has("at") || never || always) {
                return refuse("number", "every tick has one: say which with \"at\", or \"always\" or \"never\"");
            }
            if !number.is_of_a_tick() && (never || always) {
                let key = if never { "never" } else { "always" };
                return refuse(key, "a run has one such number, not one in every tick; leave it out");
            }
        }
        _ if bounded && (never || always) => {
            let key = if never { "never" } else { "always" };
            return refuse(key, "goes without \"at_least\" and \"at_most\" here");
        }
        Subject::Event(_) if always => {
            return refuse("always", "an event is of one moment; say \"at\", or how often with \"at_least\"");
        }
        Subject::Place(..) if bounded => {
            let key = if section.has("at_least") { "at_least" } else { "at_most" };
            return refuse(key, "a place has no measure; say how near with \"within\"");
        }
        _ => {}
    }
    if !bounded {
        return Some(if never {
            Demand::Never
        } else if always {
            Demand::Always
        } else {
            Demand::Once
        });
    }
    let mut bound = |key: &str| -> Option<Option<f64>> {
        if !section.has(key) {
            return Some(None);
        }
        let value = match subject {
            Subject::Event(_) => section.number(notes, key),
            Subject::Number(number) => section.quantity(notes, key, number.kind()),
            _ => section.quantity(notes, key, Kind::Time),
        };
        value.map(Some)
    };
    let (least, most) = (bound("at_least")?, bound("at_most")?);
    if let (Some(least), Some(most)) = (least, most)
        && least > most
    {
        let message = format!("{} is below at_least: nothing can be both", section.name_of("at_most"));
        notes.error(section.place_of("at_most"), message);
        return None;
    }
    Some(Demand::Between { least, most, never })
}

/// An expectation in words: `never bumped:head before tick 30`.
fn in_words(subject: &Subject, words: &str, demand: &Demand, when: &str) -> String {
    let unit = match subject {
        Subject::Event(_) => "times".to_owned(),
        Subject::Number(number) => number.unit().to_owned(),
        _ => "s".to_owned(),
    };
    match demand {
        Demand::Once => format!("{words}{when}"),
        Demand::Never => format!("never {words}{when}"),
        Demand::Always => format!("always {words}{when}"),
        Demand::Between { least, most, never } => {
            let bound = |word: &str, bound: &Option<f64>| bound.map(|bound| format!("{word} {} {unit}", short(bound)));
            let bounds: Vec<String> =
                [bound("at least", least), bound("at most", most)].into_iter().flatten().collect();
            let never = if *never { "never " } else { "" };
            format!("{never}{words} {}{when}", bounds.join(" and "))
        }
    }
}
