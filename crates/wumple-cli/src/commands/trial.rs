use std::collections::HashSet;
use std::path::{Component, Path, PathBuf};

use clap::Args;
use rayon::prelude::*;
use serde::Serialize;
use wumple::analysis::TrialOutcome;
use wumple::figures::trial_report;
use wumple::{FileError, TrialFile};

use crate::failure::Failure;
use crate::files::{Files, Maps, files_in, is_trial, say_warnings, trial_of_text};
use crate::junit;
use crate::options::{self, Format, is_standard};
use crate::output;
use crate::pictures::Pictures;
use crate::watch::{Fact, Outcome, Watch};

/// Runs trials: what is expected of a run, and whether it came so
///
/// One line for each trial, and a count. A failed expectation says in which tick, what happened instead, the
/// last decisions before it, and where the run is drawn. A folder stands for the trials in it. Exit status: 0
/// if all passed, 1 if an expectation failed, 2 if a file is wrong.
#[derive(Args)]
#[command(after_help = "Examples, on what `wumple demo` writes:\n  \
    wumple trial wumple-demo/gap.trial.toml\n  \
    wumple trial wumple-demo --format json\n  \
    wumple trial wumple-demo --report trials.html")]
pub(crate) struct Trial {
    /// Trials (*.trial.toml), or folders with some [default: the project's]
    #[arg(value_name = "FILE")]
    files: Vec<PathBuf>,
    #[command(flatten)]
    maps: Maps,
    /// The folder for the figures of trials that fail
    #[arg(long, value_name = "DIR", default_value = "trial-figures")]
    figures: PathBuf,
    /// How to print the outcomes
    #[arg(long, value_enum, default_value_t)]
    format: Format,
    /// Write the outcomes to this file too, as JUnit XML, which build servers show
    #[arg(long, value_name = "FILE", value_parser = options::output_file)]
    junit: Option<PathBuf>,
    /// Write the outcomes to this file too, as a page for a browser, with every run drawn: failures first (.html)
    #[arg(long, value_name = "FILE", value_parser = report_path)]
    report: Option<PathBuf>,
    /// Open that page
    #[arg(long, requires = "report")]
    open: bool,
    #[command(flatten)]
    watch: Watch,
}

fn report_path(text: &str) -> Result<PathBuf, String> {
    match options::output_file(text) {
        Ok(path) if is_standard(&path) || options::ending(&path) == Some("html") => Ok(path),
        _ => Err("a report's name must end in .html".into()),
    }
}

/// Trials as JSON.
#[derive(Serialize)]
struct TrialReport<'a> {
    format: &'static str,
    passed: usize,
    failed: usize,
    wrong: usize,
    trials: Vec<TrialEntry<'a>>,
}

#[derive(Serialize)]
struct TrialEntry<'a> {
    passed: bool,
    #[serde(flatten)]
    outcome: &'a TrialOutcome,
}

/// An expectation as a row.
#[derive(Serialize)]
struct CheckRow<'a> {
    file: &'a str,
    trial: &'a str,
    line: usize,
    expected: &'a str,
    passed: bool,
    tick: Option<u64>,
    instead: Option<&'a str>,
}

impl Trial {
    pub(crate) fn execute(&self) -> Result<(), Failure> {
        self.watch.run(|read, prints| self.once(read, prints), &self.maps, &Pictures::default(), self.format)
    }

    fn once(&self, read: &Files, prints: bool) -> Result<Outcome, Failure> {
        let files = self.trials(read)?;
        let same_names = {
            let mut seen = HashSet::new();
            !files.iter().all(|file| seen.insert(file.file_name()))
        };
        let maps = read.maps()?;
        // In the order given, whoever is ready first.
        let input = if files.iter().any(|file| is_standard(file)) { read.input()? } else { "" };
        let run = |file: &PathBuf| {
            let maps = maps.as_deref();
            let trial = if is_standard(file) {
                trial_of_text(input, maps).map_err(FileError::Wrong)
            } else if let Some(maps) = maps {
                TrialFile::read_within(file, maps)
            } else {
                TrialFile::read(file)
            };
            outcome_of(&trial?, &self.figures_of(file, same_names))
        };
        let ran: Vec<Result<TrialOutcome, FileError>> = files.par_iter().map(run).collect();
        let count = ran.len();
        let (mut outcomes, mut errors): (Vec<TrialOutcome>, Vec<FileError>) = (Vec::new(), Vec::new());
        for ran in ran {
            match ran {
                Ok(outcome) => outcomes.push(outcome),
                Err(error) => errors.push(error),
            }
        }
        let outcomes: Vec<&TrialOutcome> = outcomes.iter().collect();
        let passed = outcomes.iter().filter(|outcome| outcome.passed()).count();
        let (failed, wrong) = (outcomes.len() - passed, errors.len());
        // What is wrong with a file that several trials name is said once.
        let mut said = HashSet::new();
        errors.retain(|error| said.insert(error.to_string()));
        match self.format {
            _ if !prints => {}
            Format::Table => {
                for outcome in &outcomes {
                    output::print(&coloured(outcome))?;
                }
                output::print(&count_words(count, passed, failed, wrong))?;
            }
            Format::Json => {
                let entry = |outcome| TrialEntry { passed: TrialOutcome::passed(outcome), outcome };
                let trials = outcomes.iter().copied().map(entry).collect();
                output::print_json(&TrialReport { format: "wumple-trial 1", passed, failed, wrong, trials })?;
            }
            Format::Csv => output::print_csv(outcomes.iter().copied().flat_map(rows_of))?,
        }
        let facts = outcomes.iter().map(|outcome| fact(outcome)).collect();
        if let Some(path) = &self.junit {
            junit::write(read, path, &junit::of_trials(&outcomes, &errors))?;
        }
        if let Some(path) = &self.report {
            let page = trial_report(outcomes.iter().copied(), &errors);
            read.write_and_say("report", path, page.as_bytes())?;
            if self.open {
                read.open(path)?;
            }
        }
        if !errors.is_empty() {
            return Err(Failure::Files(errors));
        }
        Ok(Outcome { found: failed > 0, ..Outcome::of(facts) })
    }

    /// The files given, and those in the folders given.
    fn trials(&self, read: &Files) -> Result<Vec<PathBuf>, Failure> {
        let mut files = Vec::new();
        for path in &read.several(&self.files, |project| &project.trials, "trials = [\"trials\"]")? {
            if is_standard(path) {
                files.push(path.clone());
                continue;
            }
            read.note(path);
            if !path.is_dir() {
                files.push(path.clone());
                continue;
            }
            let mut inside = files_in(path)?;
            inside.retain(|file| is_trial(file));
            inside.iter().for_each(|file| read.note(file));
            if inside.is_empty() {
                return Err(Failure::Usage(format!("{} has no *.trial.toml in it", path.display())));
            }
            files.append(&mut inside);
        }
        Ok(files)
    }

    /// The folder for a trial's figure: where several files have one name, their own folders are kept apart.
    fn figures_of(&self, file: &Path, same_names: bool) -> PathBuf {
        if !same_names {
            return self.figures.clone();
        }
        let parts = file.parent().into_iter().flat_map(Path::components);
        self.figures.join(parts.filter(|part| matches!(part, Component::Normal(_))).collect::<PathBuf>())
    }
}

/// Runs a trial, and draws it if it fails.
fn outcome_of(trial: &TrialFile, figures: &Path) -> Result<TrialOutcome, FileError> {
    say_warnings(&trial.tuning);
    let mut outcome = trial.run().map_err(|error| FileError::Wrong(error.into()))?;
    outcome.draw_failures(figures);
    Ok(outcome)
}

/// In the words of the outcome, its verdict in colour and its figure as a link.
fn coloured(outcome: &TrialOutcome) -> String {
    let words = outcome.to_string();
    let (verdict, rest) = words.split_once(' ').unwrap_or((&words, ""));
    let rest = match &outcome.figure {
        Some(figure) => {
            rest.replace(&format!("figure: {}", figure.display()), &format!("figure: {}", output::link(figure)))
        }
        None => rest.to_owned(),
    };
    format!("{} {rest}", output::verdict(outcome.passed(), verdict))
}

/// Whether a trial passes; if not, all that it says of that.
fn fact(outcome: &TrialOutcome) -> Fact {
    let passes = if outcome.passed() { "passes".to_owned() } else { format!("fails\n{}", coloured(outcome)) };
    Fact::new(&outcome.file, passes, "")
}

fn rows_of(outcome: &TrialOutcome) -> impl Iterator<Item = CheckRow<'_>> {
    outcome.checks.iter().map(|check| CheckRow {
        file: &outcome.file,
        trial: &outcome.name,
        line: check.line,
        expected: &check.expected,
        passed: check.failure.is_none(),
        tick: check.failure.as_ref().map(|failure| failure.tick),
        instead: check.failure.as_ref().map(|failure| failure.instead.as_str()),
    })
}

fn count_words(all: usize, passed: usize, failed: usize, wrong: usize) -> String {
    let trials = if all == 1 { "trial" } else { "trials" };
    let mut words = format!("\n{all} {trials}: {passed} passed");
    for (count, what) in [(failed, "failed"), (wrong, "could not be run")] {
        if count > 0 {
            words += &format!(", {count} {what}");
        }
    }
    words
}
