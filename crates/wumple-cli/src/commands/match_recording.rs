use std::path::PathBuf;

use clap::Args;
use serde::Serialize;
use wumple::TuningFile;
use wumple::analysis::{GameLoop, MatchReport, MatchedNumber, match_recording};
use wumple::figures::match_figure;
use wumple::files::{Recording, RecordingUnits, read_text};
use wumple::numbers::Scheme;
use wumple::units::{Kind, Quantity, Scale, short};

use crate::failure::Failure;
use crate::files::{Files, STANDARD_INPUT, say_warnings};
use crate::options::{Format, figure_path, is_standard};
use crate::output;
use crate::pictures::Pictures;
use crate::say::say;
use crate::table::table;

/// Finds a tuning's numbers from where a character was, frame by frame
///
/// The recording is a CSV with a column frame (or tick, or time_s) and the places x and y of some point of the character: its feet, its
/// middle, whatever stays with it. Whole pixels and missing frames are no hindrance. Full jumps from level ground, falls, run-ups, stops and
/// turns are found in it, and the numbers for which this loop's own motion comes nearest to them, each with its error; what the
/// recording never shows is said.
#[derive(Args)]
#[command(after_help = "Examples, on what `wumple demo` writes:\n  \
    wumple match wumple-demo/practice.csv --rate 60 --tile 16 --y down\n  \
    wumple match wumple-demo/practice.csv --rate 60 --tile 16 --y down --figure match.png --write mine.tuning.toml")]
pub(crate) struct MatchCommand {
    /// The recording (*.csv)
    #[arg(value_name = "RECORDING")]
    recording: PathBuf,
    /// Frames a second, which are ticks of the loop
    #[arg(long, value_name = "HZ", value_parser = rate)]
    rate: f64,
    /// The side of a tile, px
    #[arg(long, value_name = "PX", value_parser = tile)]
    tile: f64,
    /// How the loop integrates
    #[arg(long, value_parser = ["exact", "velocity-first", "position-first"], default_value = "exact")]
    scheme: String,
    /// Which way y goes in the recording
    #[arg(long, value_parser = ["up", "down"], default_value = "up")]
    y: String,
    /// How long a 1 of x and y is: "1 px", "1 tiles", "0.5 tiles"
    #[arg(long, value_name = "LENGTH", default_value = "1 px", value_parser = length)]
    unit: Quantity,
    /// Draw the recording and what follows the numbers over it (.svg or .png)
    #[arg(long, value_name = "FILE", value_parser = figure_path)]
    figure: Option<PathBuf>,
    #[command(flatten)]
    pictures: Pictures,
    /// Make this tuning file; one that is there gets just these numbers changed
    #[arg(long, value_name = "FILE")]
    write: Option<PathBuf>,
    /// How to print it
    #[arg(long, value_enum, default_value_t)]
    format: Format,
}

fn within(text: &str, bounds: std::ops::RangeInclusive<f64>) -> Result<f64, String> {
    let number = text.parse().map_err(|_| format!("\"{text}\" is no number"))?;
    let (least, most) = (bounds.start(), bounds.end());
    bounds.contains(&number).then_some(number).ok_or_else(|| format!("it is from {least} to {most}"))
}

fn rate(text: &str) -> Result<f64, String> {
    within(text, 1.0..=10_000.0)
}

fn tile(text: &str) -> Result<f64, String> {
    within(text, 1.0..=4096.0)
}

fn length(text: &str) -> Result<Quantity, String> {
    let quantity = Quantity::parse(text).map_err(|error| error.to_string())?;
    let is_length = quantity.kind().is_none_or(|kind| kind == Kind::Length);
    (is_length && quantity.value > 0.0)
        .then_some(quantity)
        .ok_or_else(|| "it is a length above 0, such as \"1 tiles\"".into())
}

/// What was found as JSON: `wumple-match 1`.
#[derive(Serialize)]
struct MatchJson<'a> {
    format: &'static str,
    #[serde(flatten)]
    report: &'a MatchReport,
}

impl MatchCommand {
    pub(crate) fn execute(&self) -> Result<(), Failure> {
        // A file that is no tuning is told of before the work, and stays as it is.
        let there = match &self.write {
            Some(path) if path.exists() => {
                say_warnings(&TuningFile::read(path)?);
                Some(read_text(path)?)
            }
            _ => None,
        };
        let scale = Scale { tile: self.tile, frames_per_second: self.rate };
        let units = RecordingUnits {
            rate: self.rate,
            tile: self.tile,
            unit: self.unit.in_px_and_seconds(&scale),
            y_down: self.y == "down",
        };
        let files = Files::default().with_pictures(&self.pictures);
        let recording = if is_standard(&self.recording) {
            Recording::parse(STANDARD_INPUT, files.input()?, &units)?
        } else {
            Recording::read(&self.recording, &units)?
        };
        let scheme = Scheme::of_word(&self.scheme).unwrap_or_default();
        let report = match_recording(&recording, &GameLoop { rate: self.rate, scheme, scale })
            .map_err(|error| Failure::Usage(format!("{}: {error}", self.recording.display())))?;
        files.figure(self.figure.as_deref(), || match_figure(&recording, &report))?;
        match self.format {
            Format::Table => print_table(&report)?,
            Format::Json => output::print_json(&MatchJson { format: "wumple-match 1", report: &report })?,
            Format::Csv => print_csv(&report)?,
        }
        let Some(path) = &self.write else { return Ok(()) };
        let text = there.as_ref().map_or_else(|| report.tuning_text(), |text| report.tuning_text_into(text));
        wumple::files::write_whole(path, text.as_bytes(), true)?;
        say(format_args!("{} {}", if there.is_some() { "changed in" } else { "written to" }, path.display()));
        Ok(())
    }
}

/// A number with as many digits as it is known to.
fn rounded(value: f64, error: f64) -> String {
    let digits = (1.0 - error.max(1e-6).log10().floor()).clamp(0.0, 6.0) as usize;
    format!("{value:.digits$}")
}

/// The first lines of the file that show it: `12-58 and 4 more`.
fn lines_of(number: &MatchedNumber) -> String {
    let Some((first, last)) = number.lines.first() else { return String::new() };
    match number.lines.len() - 1 {
        0 => format!("{first}-{last}"),
        more => format!("{first}-{last} and {more} more"),
    }
}

fn print_table(report: &MatchReport) -> Result<(), Failure> {
    let row = |number: &MatchedNumber| {
        let Some(error) = number.error else {
            return vec![number.key.to_owned(), "at once".to_owned(), String::new(), String::new(), lines_of(number)];
        };
        let in_px = format!("{} {}", rounded(number.value, error), number.unit);
        let tiles = number.unit.replace("px", "tiles");
        let in_tiles = match number.unit.contains("px") {
            true => format!("{} {tiles}", rounded(number.value / report.tile_px, error / report.tile_px)),
            false => String::new(),
        };
        let share = format!("{:.2} %", error / number.value * 100.0);
        vec![number.key.to_owned(), in_px.trim_end().to_owned(), in_tiles, share, lines_of(number)]
    };
    let head = ["number", "found", "in tiles", "off by at most", "lines"];
    let mut text = match report.numbers.is_empty() {
        true => String::new(),
        false => format!("{}\n", table(&head, report.numbers.iter().map(row)).trim_end()),
    };
    if !report.unseen.is_empty() {
        let row = |unseen: &wumple::analysis::UnseenNumber| vec![unseen.key.to_owned(), unseen.why.clone()];
        text += &format!("\n{}", table(&["not shown", "why"], report.unseen.iter().map(row)));
    }
    text += &format!(
        "{}: {} rows at {} Hz, told to {} px along x and {} px along y\n",
        report.recording,
        report.rows,
        short(report.rate_hz),
        short(report.x_step_px),
        short(report.y_step_px)
    );
    output::print(&text)
}

fn print_csv(report: &MatchReport) -> Result<(), Failure> {
    let head = ["number", "value", "unit", "error", "at_once", "lines", "why_not"].map(str::to_owned).to_vec();
    let lines = |number: &MatchedNumber| {
        let each: Vec<String> = number.lines.iter().map(|(first, last)| format!("{first}-{last}")).collect();
        each.join(" ")
    };
    let found = report.numbers.iter().map(|number| {
        let error = number.error.map_or_else(String::new, |error| error.to_string());
        let (value, at_once) = (number.value.to_string(), number.at_once.to_string());
        vec![number.key.to_owned(), value, number.unit.to_owned(), error, at_once, lines(number), String::new()]
    });
    let unseen = report.unseen.iter().map(|unseen| {
        let mut row = vec![String::new(); 7];
        (row[0], row[6]) = (unseen.key.to_owned(), unseen.why.clone());
        row
    });
    output::print_records(std::iter::once(head).chain(found).chain(unseen))
}
