//! What several commands can be told.

use std::path::{Path, PathBuf};

use clap::{Args, ValueEnum};
use wumple::figures::{Page, TileArea};

use crate::output;

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

/// What stands for standard input where a file is read, and for standard output where one is written.
pub(crate) const STANDARD: &str = "-";

pub(crate) fn is_standard(path: &Path) -> bool {
    path.as_os_str() == STANDARD
}

/// Checks that a figure's name has an ending that says how to write it: a mistake is better told before
/// the work than after.
pub(crate) fn figure_path(text: &str) -> Result<PathBuf, String> {
    let path = PathBuf::from(text);
    match ending(&path) {
        _ if is_standard(&path) => Ok(output_path(path)),
        Some("svg" | "png") => Ok(path),
        Some(ending) if ["svg", "png"].contains(&ending.to_lowercase().as_str()) => {
            Err(format!("a figure's name must end in .svg or .png, in small letters, not .{ending}"))
        }
        _ => Err("a figure's name must end in .svg or .png".into()),
    }
}

/// The same for a trace that is written.
pub(crate) fn trace_path(text: &str) -> Result<PathBuf, String> {
    trace_to_read(text).map(output_path)
}

/// The same for one that is read.
pub(crate) fn trace_to_read(text: &str) -> Result<PathBuf, String> {
    let path = PathBuf::from(text);
    match ending(&path) {
        _ if is_standard(&path) => Ok(path),
        Some("csv" | "jsonl") => Ok(path),
        _ => Err("a trace's name must end in .csv or .jsonl".into()),
    }
}

/// A file that is written, of any name: for standard output, results give way to it.
pub(crate) fn output_file(text: &str) -> Result<PathBuf, std::convert::Infallible> {
    Ok(output_path(PathBuf::from(text)))
}

fn output_path(path: PathBuf) -> PathBuf {
    if is_standard(&path) {
        output::give_way();
    }
    path
}

/// What the name of a file ends in.
pub(crate) fn ending(path: &Path) -> Option<&str> {
    path.extension().and_then(|ending| ending.to_str())
}

/// What a figure over a level shows, and how large it is.
#[derive(Args)]
pub(crate) struct PageOptions {
    /// The tiles that the figure shows [default: all, or those around the run where the level is large]
    #[arg(long, value_name = "COLUMN,ROW..COLUMN,ROW", value_parser = tile_area)]
    area: Option<TileArea>,
    /// The figure's width and height in px [default: 1280x800, or less high]
    #[arg(long, value_name = "WxH", value_parser = size)]
    size: Option<(u32, u32)>,
}

impl PageOptions {
    pub(crate) fn page(&self) -> Page {
        Page { size: self.size, area: self.area }
    }
}

/// A column and a row: 8,14.
pub(crate) fn place(text: &str) -> Result<(u32, u32), String> {
    let wrong = || String::from("a place is a column and a row, such as 8,14");
    let (column, row) = text.split_once(',').ok_or_else(wrong)?;
    let number = |part: &str| part.trim().parse().map_err(|_| wrong());
    Ok((number(column)?, number(row)?))
}

fn tile_area(text: &str) -> Result<TileArea, String> {
    let wrong = || String::from("an area is its first and its last tile, such as 8,2..40,14");
    let (first, last) = text.split_once("..").ok_or_else(wrong)?;
    let (first, last) = (place(first).map_err(|_| wrong())?, place(last).map_err(|_| wrong())?);
    if last.0 < first.0 || last.1 < first.1 {
        return Err("the last tile of an area is not left of the first and not above it".into());
    }
    Ok(TileArea { first, last })
}

fn size(text: &str) -> Result<(u32, u32), String> {
    let number = |part: &str, least: u32| part.trim().parse().ok().filter(|px| (least..=8000).contains(px));
    let (width, height) = text.split_once('x').unwrap_or((text, ""));
    number(width, 400)
        .zip(number(height, 300))
        .ok_or_else(|| "a size is from 400x300 to 8000x8000, such as 1920x1080".into())
}
