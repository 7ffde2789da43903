use std::collections::BTreeSet;
use std::path::{Path, PathBuf};

use clap::Args;
use serde::Serialize;
use wumple::analysis::{
    Finding, FindingColumns, check_level, check_links, check_links_within, check_named_files, check_run, check_tuning,
};
use wumple::{FileError, Level, TrialFile, TuningFile};

use crate::failure::Failure;
use crate::files::{Files, Maps, files_in};
use crate::junit;
use crate::options::{self, Format};
use crate::output;
use crate::pictures::Pictures;
use crate::watch::{Fact, Outcome, Watch};

/// Finds what is wrong with levels, tunings and trials before a run
///
/// What can be read and is wrong all the same: a next level that is missing, a goal that can never be open, a ladder that
/// ends below its ledge, a number in another unit. Each finding says where, what it leads to, and what would be right. A
/// folder stands for the files in it. Levels are looked at with the tuning of --tuning, with those of the trials that run
/// them, or with the only one in their folder. Exit status: 0 if nothing was found, 1 if something was, 2 if a file
/// cannot be read.
#[derive(Args)]
#[command(after_help = "Examples, on what `wumple demo` writes:\n  \
    wumple check wumple-demo\n  \
    wumple check wumple-demo/jar-cellar.level.toml --tuning wumple-demo/climbing-dab.tuning.toml --format json")]
pub(crate) struct Check {
    /// Levels, tunings, trials (*.toml), or folders with some [default: the project's]
    #[arg(value_name = "FILE")]
    files: Vec<PathBuf>,
    #[command(flatten)]
    maps: Maps,
    /// Who goes through the levels (*.tuning.toml)
    #[arg(long, value_name = "FILE")]
    tuning: Option<PathBuf>,
    /// How to print what is found
    #[arg(long, value_enum, default_value_t)]
    format: Format,
    /// Write what is found to this file too, as JUnit XML, which build servers show
    #[arg(long, value_name = "FILE", value_parser = options::output_file)]
    junit: Option<PathBuf>,
    #[command(flatten)]
    watch: Watch,
}

/// What is found as JSON: `wumple-check 1`.
#[derive(Serialize)]
struct CheckReport<'a> {
    format: &'static str,
    files: usize,
    findings: Vec<FindingColumns<'a>>,
}

impl Check {
    pub(crate) fn execute(&self) -> Result<(), Failure> {
        self.watch.run(|read, prints| self.once(read, prints), &self.maps, &Pictures::default(), self.format)
    }

    fn once(&self, read: &Files, prints: bool) -> Result<Outcome, Failure> {
        let files = self.files(read)?;
        let maps = read.maps()?;
        let mut checked = Checked { maps: maps.as_deref(), ..Checked::default() };
        for tuning in self.tuning.iter().chain(&files.tunings) {
            checked.tuning(tuning);
        }
        for trial in &files.trials {
            checked.trial(trial);
        }
        for level in &files.levels {
            let alone = files.only_tuning_beside(level);
            checked.level(level, self.tuning.as_deref().or(alone));
        }
        let Checked { mut findings, errors, .. } = checked;
        let place = |of: &Finding| (of.place.file().to_owned(), of.place.line(), of.place.column());
        findings.sort_by_key(place);
        let count = files.levels.len() + files.tunings.len() + files.trials.len();
        let columns = || findings.iter().map(Finding::columns);
        match self.format {
            _ if !prints => {}
            Format::Table => {
                findings.iter().try_for_each(|finding| output::print(&finding.to_string()))?;
                output::print(&counted(findings.len(), count))?;
            }
            Format::Json => {
                let findings = columns().collect();
                output::print_json(&CheckReport { format: "wumple-check 1", files: count, findings })?;
            }
            Format::Csv => output::print_csv(columns())?,
        }
        if let Some(path) = &self.junit {
            let all = files.levels.iter().chain(&files.tunings).chain(&files.trials).map(PathBuf::as_path);
            junit::write(read, path, &junit::of_findings(all, &findings, &errors))?;
        }
        if !errors.is_empty() {
            return Err(Failure::Files(errors));
        }
        let facts = findings.iter().map(|finding| Fact::said(finding.to_string())).collect();
        Ok(Outcome { found: !findings.is_empty(), ..Outcome::of(facts) })
    }

    /// The files given, and those in the folders given, by what they are.
    fn files(&self, read: &Files) -> Result<ToCheck, Failure> {
        let mut all = ToCheck::default();
        let given = read.several(&self.files, |project| &project.check, "check = [\"levels\"]")?;
        given.iter().chain(&self.tuning).for_each(|path| read.note(path));
        for path in &given {
            if !path.is_dir() {
                all.add(path, path)?;
                continue;
            }
            let before = all.count();
            files_in(path)?.iter().filter(|file| kind_of(file).is_some()).try_for_each(|file| all.add(file, path))?;
            if all.count() == before {
                let message = format!("{} has no *.level.toml, *.tuning.toml or *.trial.toml in it", path.display());
                return Err(Failure::Usage(message));
            }
        }
        all.levels.iter().chain(&all.tunings).chain(&all.trials).for_each(|path| read.note(path));
        Ok(all)
    }
}

/// What a file is, by its name.
#[derive(Clone, Copy)]
enum Kind {
    Level,
    Tuning,
    Trial,
}

fn kind_of(path: &Path) -> Option<Kind> {
    let name = path.file_name()?.to_str()?;
    let kinds = [(".level.toml", Kind::Level), (".tuning.toml", Kind::Tuning), (".trial.toml", Kind::Trial)];
    kinds.into_iter().find(|(ending, _)| name.ends_with(ending)).map(|(_, kind)| kind)
}

/// The files to be looked at.
#[derive(Default)]
struct ToCheck {
    levels: Vec<PathBuf>,
    tunings: Vec<PathBuf>,
    trials: Vec<PathBuf>,
}

impl ToCheck {
    fn count(&self) -> usize {
        self.levels.len() + self.tunings.len() + self.trials.len()
    }

    fn add(&mut self, file: &Path, given: &Path) -> Result<(), Failure> {
        let list = match kind_of(file) {
            Some(Kind::Level) => &mut self.levels,
            Some(Kind::Tuning) => &mut self.tunings,
            Some(Kind::Trial) => &mut self.trials,
            None => {
                return Err(Failure::Usage(format!(
                    "{}: what is checked is a *.level.toml, *.tuning.toml or *.trial.toml, or a folder with some",
                    given.display()
                )));
            }
        };
        if !list.iter().any(|known| known == file) {
            list.push(file.to_owned());
        }
        Ok(())
    }

    /// The tuning in a level's folder, if it is the only one of those given.
    fn only_tuning_beside(&self, level: &Path) -> Option<&Path> {
        let mut beside = self.tunings.iter().filter(|tuning| tuning.parent() == level.parent());
        beside.next().filter(|_| beside.next().is_none()).map(PathBuf::as_path)
    }
}

/// What was found so far, each thing once.
#[derive(Default)]
struct Checked<'a> {
    maps: Option<&'a Path>,
    findings: Vec<Finding>,
    known: BTreeSet<(String, usize, usize, &'static str)>,
    errors: Vec<FileError>,
}

impl Checked<'_> {
    fn add(&mut self, found: Vec<Finding>) {
        for finding in found {
            let place = &finding.place;
            let key = (place.file().to_owned(), place.line(), place.column(), finding.kind.word());
            if self.known.insert(key) {
                self.findings.push(finding);
            }
        }
    }

    /// What a file says; if it cannot be read, why not is kept, once.
    fn read<T>(&mut self, read: Result<T, FileError>) -> Option<T> {
        match read {
            Ok(read) => Some(read),
            Err(error) => {
                let words = error.to_string();
                if !self.errors.iter().any(|known| known.to_string() == words) {
                    self.errors.push(error);
                }
                None
            }
        }
    }

    /// The same of a file that names others: one that is not there is a finding.
    fn read_naming<T>(&mut self, path: &Path, read: Result<T, FileError>) -> Option<T> {
        let missing = if read.is_err() { check_named_files(path) } else { Vec::new() };
        if missing.is_empty() {
            return self.read(read);
        }
        self.add(missing);
        None
    }

    fn tuning(&mut self, path: &Path) {
        if let Some(tuning) = self.read(TuningFile::read(path)) {
            self.add(check_tuning(&tuning));
        }
    }

    fn level(&mut self, path: &Path, tuning: Option<&Path>) {
        let level = match self.maps {
            Some(maps) => Level::read_within(path, maps),
            None => Level::read(path),
        };
        let Some(level) = self.read_naming(path, level) else { return };
        let tuning = tuning.and_then(|tuning| self.read(TuningFile::read(tuning)));
        self.add(check_level(&level, tuning.as_ref()));
        self.add(match self.maps {
            Some(maps) => check_links_within(&level, path, maps),
            None => check_links(&level, path),
        });
    }

    fn trial(&mut self, path: &Path) {
        let trial = match self.maps {
            Some(maps) => TrialFile::read_within(path, maps),
            None => TrialFile::read(path),
        };
        if let Some(trial) = self.read_naming(path, trial) {
            self.add(check_tuning(&trial.tuning));
            self.add(check_level(&trial.level, Some(&trial.tuning)));
            // That its character does not fit there is said by `trial`.
            self.add(check_run(&trial).unwrap_or_default());
        }
    }
}

fn counted(findings: usize, files: usize) -> String {
    let files = if files == 1 { "1 file".to_owned() } else { format!("{files} files") };
    match findings {
        0 => format!("nothing found in {files}"),
        1 => format!("1 finding in {files}"),
        _ => format!("{findings} findings in {files}"),
    }
}
