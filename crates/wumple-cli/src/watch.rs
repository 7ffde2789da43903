//! Once, or again and again: whenever a file that a command reads is saved.

use std::collections::BTreeMap;
use std::hash::{DefaultHasher, Hash, Hasher};
use std::path::{Path, PathBuf};
use std::sync::mpsc::{Receiver, RecvTimeoutError, channel};
use std::time::Duration;

use clap::Args;
use notify::{RecommendedWatcher, RecursiveMode, Watcher};

use crate::failure::Failure;
use crate::files::{Files, Maps, files_in};
use crate::options::Format;
use crate::output;
use crate::pictures::Pictures;

/// Whether a command goes on when it is done.
#[derive(Args)]
pub(crate) struct Watch {
    /// Go on: again whenever a file that is read is saved, with what differs from the time before; Ctrl-C ends it
    #[arg(long)]
    watch: bool,
}

/// A result in few words, to be held against that of the time before: `apex`, `3.4`, `tiles`.
#[derive(Clone, Debug, PartialEq, Eq)]
pub(crate) struct Fact {
    what: String,
    value: String,
    unit: &'static str,
}

impl Fact {
    pub(crate) fn new(what: impl Into<String>, value: impl Into<String>, unit: &'static str) -> Fact {
        Fact { what: what.into(), value: value.into(), unit }
    }

    /// Something that is said as it is, or not at all.
    pub(crate) fn said(words: impl Into<String>) -> Fact {
        Fact::new(words, "", "")
    }

    fn value_and_unit(&self) -> String {
        format!("{} {}", self.value, self.unit).trim_end().to_owned()
    }
}

/// What a command came to.
#[derive(Default)]
pub(crate) struct Outcome {
    pub(crate) facts: Vec<Fact>,
    /// What is said of this time alone, beside the facts that differ.
    pub(crate) differences: Vec<String>,
    /// A check found something.
    pub(crate) found: bool,
}

impl Outcome {
    pub(crate) fn of(facts: Vec<Fact>) -> Outcome {
        Outcome { facts, ..Outcome::default() }
    }
}

/// How long nothing must have happened until what was saved is read: an editor writes, renames and writes again.
const QUIET: Duration = Duration::from_millis(60);
/// A file that is gone may be about to come back.
const COMES_BACK: Duration = Duration::from_secs(1);

impl Watch {
    pub(crate) fn is_on(&self) -> bool {
        self.watch
    }

    /// Does the work of a command. `once` is told whether to print all results: else only what differs is printed.
    pub(crate) fn run(
        &self,
        mut once: impl FnMut(&Files, bool) -> Result<Outcome, Failure>,
        maps: &Maps,
        pictures: &Pictures,
        format: Format,
    ) -> Result<(), Failure> {
        if !self.watch {
            let outcome = once(&Files::new(maps).with_pictures(pictures), true)?;
            return if outcome.found { Err(Failure::Found) } else { Ok(()) };
        }
        let mut saved = Saved::new().map_err(|error| Failure::Usage(format!("--watch: {error}")))?;
        let mut before: Option<Vec<Fact>> = None;
        let mut changed: Vec<PathBuf> = Vec::new();
        loop {
            let files = Files::watched(maps).with_pictures(pictures).again(before.is_some());
            let prints = before.is_none() || format != Format::Table;
            let done = once(&files, prints);
            // What is wrong is what will be saved, also where nobody had come to read it.
            if let Err(failure) = &done {
                failure.files().iter().for_each(|file| files.note(file));
            }
            saved.follow(&files);
            match done {
                Ok(outcome) => {
                    if let (false, Some(before)) = (prints, &before) {
                        output::print(&differences(&changed, before, &outcome))?;
                    }
                    before = Some(outcome.facts);
                }
                // Nobody reads the results any more, or no file that is saved would help.
                Err(failure @ (Failure::Output(_) | Failure::ReadOnce)) => return Err(failure),
                Err(failure) => {
                    failure.report();
                }
            }
            changed = saved.wait();
        }
    }
}

/// What differs, in a line if it is short; with the files that were saved.
fn differences(changed: &[PathBuf], before: &[Fact], now: &Outcome) -> String {
    let of = |facts: &[Fact], what: &str| facts.iter().find(|fact| fact.what == what).cloned();
    let mut words = Vec::new();
    for fact in &now.facts {
        match of(before, &fact.what) {
            Some(same) if same == *fact => {}
            Some(other) => {
                let was = other.value.lines().next().unwrap_or_default();
                words.push(format!("{} {was} -> {}", fact.what, fact.value_and_unit()));
            }
            None => words.push(format!("new: {} {}", fact.what, fact.value_and_unit()).trim_end().to_owned()),
        }
    }
    let gone = before.iter().filter(|fact| of(&now.facts, &fact.what).is_none());
    words.extend(gone.map(|fact| format!("gone: {}", fact.what)));
    words.extend(now.differences.iter().cloned());
    let names: Vec<String> = changed.iter().map(|path| name_of(path)).collect();
    let saved = names.join(", ");
    if words.is_empty() {
        return format!("{saved}: nothing differs");
    }
    let line = format!("{saved}: {}", words.join("; "));
    if line.chars().count() <= crate::table::width() && !line.contains('\n') {
        return line;
    }
    format!("{saved}:\n  {}", words.join("\n").replace('\n', "\n  "))
}

fn name_of(path: &Path) -> String {
    path.file_name().map_or_else(|| path.display().to_string(), |name| name.to_string_lossy().into_owned())
}

/// Tells when files were saved. Their folders are watched, since an editor may put another file in the place of one.
struct Saved {
    watcher: RecommendedWatcher,
    events: Receiver<()>,
    folders: Vec<PathBuf>,
    files: Contents,
}

/// Files, and what is in them: none of one that is not there.
pub(crate) type Contents = BTreeMap<PathBuf, Option<u64>>;

impl Saved {
    fn new() -> notify::Result<Saved> {
        let (tell, events) = channel();
        let watcher = notify::recommended_watcher(move |event: notify::Result<notify::Event>| {
            if event.is_ok_and(|event| !matches!(event.kind, notify::EventKind::Access(_))) {
                // The program ends: so does who listens.
                let _ = tell.send(());
            }
        })?;
        Ok(Saved { watcher, events, folders: Vec::new(), files: Contents::new() })
    }

    /// From now on the files that were read this time are meant, and what was in them then.
    fn follow(&mut self, files: &Files) {
        self.files = files.contents();
        for path in self.files.keys() {
            let Ok(whole) = std::path::absolute(path) else { continue };
            let folder = if whole.is_dir() { Some(whole.as_path()) } else { whole.parent() };
            let Some(folder) = folder.filter(|folder| !self.folders.iter().any(|known| known == folder)) else {
                continue;
            };
            // One that cannot be watched is one whose changes are not told of.
            if self.watcher.watch(folder, RecursiveMode::NonRecursive).is_ok() {
                self.folders.push(folder.to_owned());
            }
        }
    }

    /// Waits until some are not as they were when they were read; those.
    fn wait(&mut self) -> Vec<PathBuf> {
        loop {
            let now = || -> Contents { self.files.keys().map(|path| (path.clone(), content(path))).collect() };
            let mut new = now();
            let is_gone = |new: &Contents| new.iter().any(|(path, is)| is.is_none() && self.files[path].is_some());
            if is_gone(&new) {
                std::thread::sleep(COMES_BACK);
                new = now();
            }
            let changed: Vec<PathBuf> =
                new.into_iter().filter(|(path, is)| self.files[path] != *is).map(|(path, _)| path).collect();
            if !changed.is_empty() {
                return changed;
            }
            self.wait_for_events();
        }
    }

    /// Waits for one and until there are no more.
    fn wait_for_events(&self) {
        let mut event = self.events.recv().map_err(|_| RecvTimeoutError::Disconnected);
        while event != Err(RecvTimeoutError::Timeout) {
            if event == Err(RecvTimeoutError::Disconnected) {
                // Nobody tells any more: what is left is to be ended.
                std::thread::park();
            }
            event = self.events.recv_timeout(QUIET);
        }
    }
}

/// What is in a file; of a folder, the names of the files there that may be read. None if it is not there.
pub(crate) fn content(path: &Path) -> Option<u64> {
    let mut hasher = DefaultHasher::new();
    if path.is_dir() {
        let mut names = files_in(path).ok()?;
        names.retain(|name| name.extension().is_some_and(|ending| ending == "toml"));
        names.hash(&mut hasher);
    } else {
        std::fs::read(path).ok()?.hash(&mut hasher);
    }
    Some(hasher.finish())
}
