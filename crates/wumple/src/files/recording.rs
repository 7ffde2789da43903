//! Recordings of a game: where a character was, frame by frame, as a CSV.

use std::path::Path;

use super::csv_records::record_start;
use super::diagnostic::{Diagnostics, Notes};
use super::disk::{FileError, read_trace_text};
use super::reader::{listed, nearest};
use crate::units::Scale;

/// Where a character was, row by row, as some game wrote it down.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct Recording {
    /// What messages and figures call it.
    pub name: String,
    /// At least two, in the order of their ticks; frames may be missing.
    pub rows: Vec<RecordedRow>,
    /// How finely x is told, px: 1 where all places are whole pixels.
    pub x_step: f64,
    /// How finely y is told, px.
    pub y_step: f64,
}

/// One row of a recording.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct RecordedRow {
    /// The line of the file, from 1.
    pub line: usize,
    /// The tick at the end of which it was there.
    pub tick: i64,
    /// px, to the right.
    pub x: f64,
    /// px, upward.
    pub y: f64,
    /// Whether the jump button was held, if the recording tells what was.
    pub jump_held: Option<bool>,
}

/// How the places of a recording are to be read.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct RecordingUnits {
    /// Ticks and frames a second, 1 to 10,000.
    pub rate: f64,
    /// The side of a tile, px: for columns in tiles.
    pub tile: f64,
    /// How long a bare 1 of `x` and `y` is, px.
    pub unit: f64,
    /// Whether y grows downward.
    pub y_down: bool,
}

/// The columns that can tell the time, the best first.
const TIMES: [&str; 3] = ["frame", "tick", "time_s"];
/// A time this far from a frame, in frames, is on none.
const OFF_FRAME: f64 = 0.3;
/// Steps in which places may be told, in their unit, the coarsest first.
const STEPS: [f64; 14] = [1.0, 0.5, 0.25, 0.2, 0.125, 0.1, 0.0625, 0.05, 0.03125, 0.025, 0.01, 1e-3, 1e-4, 1e-5];

/// Where the columns stand in the head.
struct Columns {
    time: usize,
    in_seconds: bool,
    x: (usize, f64),
    y: (usize, f64),
    held: Option<usize>,
}

impl Recording {
    /// Reads a recording: a CSV whose head names a column `frame`, `tick` or `time_s`, and `x` and `y`, or `x_px`, `y_px`, or `x_tiles`,
    /// `y_tiles`; and if it has one, `held`, the buttons of the frame. Other columns are not looked at.
    ///
    /// # Errors
    ///
    /// If it cannot be read or is not UTF-8; every row that is wrong, with its place.
    pub fn read(path: &Path, units: &RecordingUnits) -> Result<Recording, FileError> {
        Ok(Recording::parse(&path.display().to_string(), &read_trace_text(path)?, units)?)
    }

    /// Reads the text of a recording; `name` is what messages call it.
    ///
    /// # Errors
    ///
    /// Every row that is wrong, with its place.
    pub fn parse(name: &str, text: &str, units: &RecordingUnits) -> Result<Recording, Diagnostics> {
        let mut notes = Notes::new(name, text);
        let mut reader = csv::ReaderBuilder::new().trim(csv::Trim::All).from_reader(text.as_bytes());
        let head = match reader.headers() {
            Ok(head) => head.clone(),
            Err(error) => {
                notes.error(0..0, format!("this is no CSV: {error}"));
                return Err(notes.finish().expect_err("an error was noted"));
            }
        };
        let mut rows: Vec<RecordedRow> = Vec::new();
        if let Some(columns) = Columns::of(&head, units, &mut notes) {
            for record in reader.records() {
                let place = |position: Option<&csv::Position>| record_start(text, position);
                match record {
                    Ok(record) => {
                        let (at, line) = (place(record.position()), record.position().map_or(0, csv::Position::line));
                        match columns.row(&record, line as usize, units) {
                            Ok(row) if rows.last().is_some_and(|last| last.tick >= row.tick) => {
                                let words = "this is not after the row before: each row is a later frame";
                                notes.error(at..at, words);
                            }
                            Ok(row) => rows.push(row),
                            Err(why) => notes.error(at..at, why),
                        }
                    }
                    Err(error) => {
                        let at = place(error.position());
                        notes.error(at..at, format!("this is no row of a recording: {error}"));
                    }
                }
            }
            if rows.len() < 2 && !notes.has_errors() {
                notes.error(0..0, "a recording has at least two rows");
            }
        }
        notes.finish()?;
        let x_step = step_of(rows.iter().map(|row| row.x), units);
        let y_step = step_of(rows.iter().map(|row| row.y), units);
        Ok(Recording { name: name.to_owned(), rows, x_step, y_step })
    }
}

impl RecordingUnits {
    /// Rows at this rate in px, y upward.
    #[must_use]
    pub fn new(rate: f64, scale: &Scale) -> RecordingUnits {
        RecordingUnits { rate, tile: scale.tile, unit: 1.0, y_down: false }
    }
}

impl Columns {
    fn of(head: &csv::StringRecord, units: &RecordingUnits, notes: &mut Notes) -> Option<Columns> {
        let find = |name: &str| head.iter().position(|known| known.eq_ignore_ascii_case(name));
        let place = |axis: &str| {
            let known =
                [(axis.to_owned(), units.unit), (format!("{axis}_px"), 1.0), (format!("{axis}_tiles"), units.tile)];
            known.into_iter().find_map(|(name, unit)| Some((find(&name)?, unit)))
        };
        let time = TIMES.into_iter().find_map(|name| Some((find(name)?, name == "time_s")));
        let (x, y) = (place("x"), place("y"));
        let found = [("frame", time.is_some()), ("x", x.is_some()), ("y", y.is_some())];
        for (column, _) in found.into_iter().filter(|(_, is_there)| !is_there) {
            let also = match column {
                "frame" => "or tick, or time_s".to_owned(),
                axis => format!("or {axis}_px, or {axis}_tiles"),
            };
            let near = nearest(column, head.iter()).map_or(String::new(), |near| format!("; did you mean {near}?"));
            let there = listed(head.iter());
            notes.error(0..0, format!("there is no column {column} ({also}) among {there}{near}"));
        }
        let (time, in_seconds) = time?;
        Some(Columns { time, in_seconds, x: x?, y: y?, held: find("held") })
    }

    fn row(&self, record: &csv::StringRecord, line: usize, units: &RecordingUnits) -> Result<RecordedRow, String> {
        let number = |column: usize| -> Result<f64, String> {
            let text = &record[column];
            let number: Option<f64> = text.parse().ok().filter(|number: &f64| number.abs() < 1e9);
            number.ok_or_else(|| format!("\"{text}\" is no number, in column {}", column + 1))
        };
        let time = number(self.time)? * if self.in_seconds { units.rate } else { 1.0 };
        if (time - time.round()).abs() > OFF_FRAME {
            let remedy = if self.in_seconds { "say the rate at which frames were" } else { "frames are whole numbers" };
            return Err(format!("{} is on no frame at {} Hz; {remedy}", &record[self.time], units.rate));
        }
        let up = if units.y_down { -1.0 } else { 1.0 };
        let jump_held = self.held.map(|column| {
            let words = record[column].split(|letter: char| letter == '+' || letter.is_whitespace());
            words.into_iter().any(|word| word == "jump")
        });
        let (x, y) = (number(self.x.0)? * self.x.1, number(self.y.0)? * self.y.1 * up);
        Ok(RecordedRow { line, tick: time.round() as i64, x, y, jump_held })
    }
}

/// The coarsest step of which all places are multiples, px.
fn step_of(places: impl Iterator<Item = f64> + Clone, units: &RecordingUnits) -> f64 {
    let of_step = |step: f64| places.clone().all(|place| (place / step - (place / step).round()).abs() < 1e-6);
    let known = [1.0, units.unit, units.tile];
    let fits = STEPS
        .into_iter()
        .flat_map(|step| known.map(|unit| step * unit))
        .filter(|step| *step <= 1.0 || *step <= units.unit);
    fits.filter(|step| of_step(*step)).fold(1e-5, f64::max)
}

#[cfg(test)]
mod tests {
    use super::*;

    const UNITS: RecordingUnits = RecordingUnits { rate: 60.0, tile: 16.0, unit: 1.0, y_down: true };

    #[test]
    fn places_come_in_whatever_unit_their_columns_say() {
        let text = "state, frame , X_tiles,y_px,held\nrun,3,1.5,-4,right+jump\nrun,5,2,-6,right\n";
        let recording = Recording::parse("a.csv", text, &UNITS).unwrap();
        let rows: Vec<_> = recording.rows.iter().map(|row| (row.line, row.tick, row.x, row.y, row.jump_held)).collect();
        assert_eq!(rows, [(2, 3, 24.0, 4.0, Some(true)), (3, 5, 32.0, 6.0, Some(false))]);
        let seconds = Recording::parse("a.csv", "time_s,x,y\n0.0167,1,2\n0.05,2,2\n", &UNITS).unwrap();
        assert_eq!(seconds.rows.iter().map(|row| row.tick).collect::<Vec<_>>(), [1, 3]);
    }

    #[test]
    fn how_finely_places_are_told_is_seen_in_them() {
        for (values, step) in
            [(["3", "8"], 1.0), (["3.5", "8"], 0.5), (["0.13", "8.2"], 0.01), (["0.0625", "1"], 0.0625)]
        {
            let text = format!("frame,x,y\n0,{},0\n1,{},0\n", values[0], values[1]);
            let recording = Recording::parse("a.csv", &text, &UNITS).unwrap();
            assert!((recording.x_step - step).abs() < 1e-12, "{values:?}: {}", recording.x_step);
        }
        let tenths_of_a_tile = RecordingUnits { unit: 16.0, ..UNITS };
        let recording = Recording::parse("a.csv", "frame,x,y\n0,0.1,0\n1,0.3,0\n", &tenths_of_a_tile).unwrap();
        assert!((recording.x_step - 1.6).abs() < 1e-12, "{}", recording.x_step);
    }

    #[test]
    fn what_is_wrong_is_said_where_it_is() {
        for (text, words) in [
            ("frame,x\n0,1\n", "a.csv:1:1: there is no column y (or y_px, or y_tiles) among \"frame\", \"x\""),
            (
                "time_s,x,y\n0,0,0\n0.0247,0,0\n",
                "a.csv:3:1: 0.0247 is on no frame at 60 Hz; say the rate at which frames were",
            ),
            ("frame,x,y\n0,0,0\n1,here,0\n", "a.csv:3:1: \"here\" is no number, in column 2"),
            ("frame,x,y\n1,0,0\n1,0,0\n", "a.csv:3:1: this is not after the row before: each row is a later frame"),
            ("frame,x,y\n1,0,0\n", "a.csv:1:1: a recording has at least two rows"),
        ] {
            let wrong = Recording::parse("a.csv", text, &UNITS).unwrap_err().to_string();
            assert!(wrong.starts_with(words), "{wrong}");
        }
    }
}
