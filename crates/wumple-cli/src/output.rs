//! Results, on standard output.

use std::io::{self, IsTerminal, Write};
use std::path::{Path, PathBuf};
use std::sync::atomic::{AtomicBool, Ordering};

use clap::builder::styling::AnsiColor;
use wumple::FileError;

use crate::failure::Failure;
use crate::options::is_standard;

/// Writes a file, or to standard output, where it takes the place of results; over one that is there only if that is meant.
pub(crate) fn write(path: &Path, contents: &[u8], force: bool) -> Result<(), Failure> {
    if is_standard(path) { write_file(contents) } else { Ok(wumple::files::write_whole(path, contents, force)?) }
}

/// Whether a file is written to standard output, and nothing else must be.
static GIVES_WAY: AtomicBool = AtomicBool::new(false);

/// From now on results are not printed: a file takes their place.
pub(crate) fn give_way() {
    GIVES_WAY.store(true, Ordering::Relaxed);
}

/// Writes a file to standard output.
fn write_file(contents: &[u8]) -> Result<(), Failure> {
    let mut out = io::stdout().lock();
    out.write_all(contents)?;
    Ok(out.flush()?)
}

/// Shows a picture, as it is: it is asked for, so it is shown where nothing else is coloured. It goes to the terminal, also where
/// results go into a file or another program.
pub(crate) fn show(picture: &str) -> Result<(), Failure> {
    if is_aside() {
        let mut terminal = io::stderr().lock();
        terminal.write_all(picture.as_bytes())?;
        return Ok(terminal.flush()?);
    }
    if GIVES_WAY.load(Ordering::Relaxed) { Ok(()) } else { write_file(picture.as_bytes()) }
}

/// Whether the terminal is only there for what is said beside results.
pub(crate) fn is_aside() -> bool {
    io::stderr().is_terminal() && !io::stdout().is_terminal()
}

/// Prints results, unless a file takes their place.
pub(crate) fn print(results: &str) -> Result<(), Failure> {
    if GIVES_WAY.load(Ordering::Relaxed) {
        return Ok(());
    }
    let mut out = anstream::stdout().lock();
    out.write_all(results.as_bytes())?;
    if !results.ends_with('\n') {
        out.write_all(b"\n")?;
    }
    Ok(out.flush()?)
}

/// Words that say whether something passed, in colour. Where there is none, it is left out as it is printed.
pub(crate) fn verdict(passed: bool, words: &str) -> String {
    let style = if passed { AnsiColor::Green } else { AnsiColor::Red }.on_default().bold();
    format!("{style}{words}{style:#}")
}

/// The path of a file as a link to it, for terminals that have links.
pub(crate) fn link(path: &Path) -> String {
    let shown = path.display();
    match std::path::absolute(path) {
        Ok(whole) => {
            format!("\x1b]8;;file://{}\x1b\\{shown}\x1b]8;;\x1b\\", whole.display().to_string().replace(' ', "%20"))
        }
        Err(_) => shown.to_string(),
    }
}

/// Writes files into a folder, and says so; if one of them is there already, none, unless that is meant.
pub(crate) fn write_new(folder: &Path, files: Vec<(String, Vec<u8>)>, force: bool) -> Result<(), Failure> {
    let files: Vec<(PathBuf, Vec<u8>)> =
        files.into_iter().map(|(name, contents)| (folder.join(name), contents)).collect();
    if let Some((there, _)) = files.iter().find(|(path, _)| !force && path.exists()) {
        return Err(FileError::Exists { path: there.clone() }.into());
    }
    let mut text = String::new();
    for (path, contents) in &files {
        wumple::files::write_whole(path, contents, force)?;
        text += &format!("wrote {}\n", path.display());
    }
    print(&text)
}

/// Prints results as JSON.
pub(crate) fn print_json<T: serde::Serialize>(results: &T) -> Result<(), Failure> {
    print(&serde_json::to_string_pretty(results).map_err(io::Error::other)?)
}

/// Prints records as CSV, the first being the head line.
pub(crate) fn print_records(records: impl Iterator<Item = Vec<String>>) -> Result<(), Failure> {
    let mut writer = csv::Writer::from_writer(Vec::new());
    for record in records {
        writer.write_record(record).map_err(io::Error::other)?;
    }
    print_written(writer)
}

/// Prints results as CSV, with a head line.
pub(crate) fn print_csv<R: serde::Serialize>(rows: impl Iterator<Item = R>) -> Result<(), Failure> {
    let mut writer = csv::Writer::from_writer(Vec::new());
    for row in rows {
        writer.serialize(row).map_err(io::Error::other)?;
    }
    print_written(writer)
}

fn print_written(writer: csv::Writer<Vec<u8>>) -> Result<(), Failure> {
    let text = writer.into_inner().map_err(|error| io::Error::other(error.to_string()))?;
    print(&String::from_utf8_lossy(&text))
}
