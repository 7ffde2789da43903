//! Printing: results on standard output, the rest on standard error.

use std::io::{self, Write};
use std::path::{Path, PathBuf};

use clap::ValueEnum;
use comfy_table::{CellAlignment, LineStyle, Table, TableStyle};
use wumple::figures::Figure;

use crate::failure::Failure;
use crate::files::Files;

/// How results are printed.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, ValueEnum)]
pub(crate) enum Format {
    /// For people
    #[default]
    Table,
    /// For programs: one object
    Json,
    /// For spreadsheets
    Csv,
}

/// Prints results.
pub(crate) fn print(results: &str) -> Result<(), Failure> {
    let mut out = anstream::stdout().lock();
    out.write_all(results.as_bytes())?;
    if !results.ends_with('\n') {
        out.write_all(b"\n")?;
    }
    Ok(out.flush()?)
}

/// Prints results as JSON.
pub(crate) fn print_json<T: serde::Serialize>(results: &T) -> Result<(), Failure> {
    print(&serde_json::to_string_pretty(results).map_err(io::Error::other)?)
}

/// Prints results as CSV, with a head line.
pub(crate) fn print_csv<R: serde::Serialize>(rows: impl Iterator<Item = R>) -> Result<(), Failure> {
    let mut writer = csv::Writer::from_writer(Vec::new());
    for row in rows {
        writer.serialize(row).map_err(io::Error::other)?;
    }
    let text = writer.into_inner().map_err(|error| io::Error::other(error.to_string()))?;
    print(&String::from_utf8_lossy(&text))
}

/// Says something that is not a result. If even that fails, there is nobody to tell.
pub(crate) fn say(words: &str) {
    let _ = writeln!(anstream::stderr(), "{words}");
}

const LINE_UNDER_HEAD: TableStyle = TableStyle::new().header_separator(LineStyle::none().fill('─').junction('─'));

/// A table for people: a line under its head, numbers to the right.
pub(crate) fn table(head: &[&str], rows: impl IntoIterator<Item = Vec<String>>) -> String {
    let mut table = Table::new();
    table.load_style(LINE_UNDER_HEAD).set_header(head.iter().copied());
    let mut numeric = vec![true; head.len()];
    for row in rows {
        for (column, cell) in row.iter().enumerate() {
            numeric[column] &=
                cell.is_empty() || cell.starts_with(|letter: char| letter.is_ascii_digit() || letter == '-');
        }
        table.add_row(row);
    }
    for (column, numeric) in table.column_iter_mut().zip(numeric) {
        column.set_cell_alignment(if numeric { CellAlignment::Right } else { CellAlignment::Left });
    }
    table.trim_fmt() + "\n"
}

/// Checks that a figure's name has an ending that says how to write it: a mistake is better told before
/// the work than after.
pub(crate) fn figure_path(text: &str) -> Result<PathBuf, String> {
    let path = PathBuf::from(text);
    match ending(&path) {
        Some("svg" | "png") => Ok(path),
        _ => Err("a figure's name must end in .svg or .png".into()),
    }
}

/// The same for a trace.
pub(crate) fn trace_path(text: &str) -> Result<PathBuf, String> {
    let path = PathBuf::from(text);
    match ending(&path) {
        Some("csv" | "jsonl") => Ok(path),
        _ => Err("a trace's name must end in .csv or .jsonl".into()),
    }
}

fn ending(path: &Path) -> Option<&str> {
    path.extension().and_then(|ending| ending.to_str())
}

/// Writes a figure in the form that its name asks for.
pub(crate) fn write_figure(files: &Files, path: &Path, figure: &Figure) -> Result<(), Failure> {
    let contents = match ending(path) {
        Some("png") => figure.png()?,
        _ => figure.svg().as_bytes().to_vec(),
    };
    files.write(path, &contents)?;
    say(&format!("figure: {}", path.display()));
    Ok(())
}
