use std::path::Path;

use serde::de::DeserializeOwned;
use wumple_core::camera::ViewEvent;
use wumple_core::{Contacts, DVec2, Facing, State, TickReport};

use super::csv_records::record_start;
use super::diagnostic::{Diagnostics, Notes};
use super::disk::{FileError, read_trace_text};
use super::reader::nearest;
use crate::names::{MOST, NameReader, Names};
use crate::trace::{RoundColumns, RoundRow, ShownRow, Trace, TraceRow, ViewColumns, ViewRow, WrittenRow};

impl Trace {
    /// Reads a trace back: CSV, or JSON Lines if its name ends in `.jsonl`. `names` are those of the level
    /// that was run; what they do not know is added.
    ///
    /// # Errors
    ///
    /// If it cannot be read or is not UTF-8; every row that is wrong, with its place.
    pub fn read(path: &Path, names: &Names) -> Result<Trace, FileError> {
        Ok(Trace::parse(&path.display().to_string(), &read_trace_text(path)?, names)?)
    }

    /// Reads the text of a trace; `name` is what messages call it.
    ///
    /// # Errors
    ///
    /// Every row that is wrong, with its place.
    pub fn parse(name: &str, text: &str, names: &Names) -> Result<Trace, Diagnostics> {
        let mut notes = Notes::new(name, text);
        let lines = Path::new(name).extension().is_some_and(|ending| ending == "jsonl");
        let written = if lines { json_rows(&mut notes, text) } else { csv_rows(&mut notes, text) };
        let mut names = NameReader::new(names);
        let mut rows: Vec<TickReport> = Vec::with_capacity(written.len());
        let mut rounds: Vec<RoundRow> = Vec::new();
        let mut views: Vec<ViewRow> = Vec::new();
        let mut shown_rows: Vec<ShownRow> = Vec::new();
        for (place, WrittenRow { row, round, view, shown }) in &written {
            let due = rows.len() as u64;
            match report_of(row, round.as_ref(), view.as_ref(), &mut names) {
                _ if row.tick != due => {
                    notes.error(*place..*place, format!("this is tick {}; tick {due} comes next", row.tick));
                    break;
                }
                Ok((mut report, round, view)) => {
                    rounds.extend(round);
                    views.extend(view);
                    shown_rows.extend(shown.clone());
                    if let Some(before) = rows.last() {
                        let goes_on = before.state == report.state;
                        report.state_since = if goes_on { before.state_since } else { report.tick };
                    }
                    rows.push(report);
                }
                Err(why) => notes.error(*place..*place, why),
            }
        }
        for (found, of) in [(rounds.len(), "a round"), (views.len(), "a view"), (shown_rows.len(), "a pose")] {
            if found > 0 && found != rows.len() && !notes.has_errors() {
                notes.error(0..0, format!("some rows have the columns of {of} and some have not"));
            }
        }
        let rate = rate_of(&written);
        if rate.is_none() && !notes.has_errors() {
            notes.error(0..0, "a trace needs at least two rows, the start and a tick, with their times");
        }
        notes.finish()?;
        let rides = vec![None; rows.len()];
        let (rate, names) = (rate.expect("its absence was noted"), names.into_names());
        Ok(Trace { rate, names, rows, rides, rounds, views, harm: Vec::new(), shown: shown_rows })
    }
}

/// Rows, each with its place in the text.
type Rows = Vec<(usize, WrittenRow)>;

fn csv_rows(notes: &mut Notes, text: &str) -> Rows {
    let mut reader = csv::Reader::from_reader(text.as_bytes());
    let mut rows = Rows::new();
    let head = match reader.headers() {
        Ok(head) => head.clone(),
        Err(error) => {
            notes.error(0..0, format!("this is no CSV: {error}"));
            return rows;
        }
    };
    let has = |column: &str| head.iter().any(|known| known == column);
    let (of_round, of_view, of_pose) = (has("attempt"), has("view_x_px"), has("pose"));
    for record in reader.records() {
        let read = record.and_then(|record| {
            let row = record.deserialize(Some(&head))?;
            let round = if of_round { Some(record.deserialize(Some(&head))?) } else { None };
            let view = if of_view { Some(record.deserialize(Some(&head))?) } else { None };
            let shown = if of_pose { Some(record.deserialize(Some(&head))?) } else { None };
            Ok((record_start(text, record.position()), WrittenRow { row, round, view, shown }))
        });
        match read {
            Ok(row) => rows.push(row),
            Err(error) => {
                let place = record_start(text, error.position());
                notes.error(place..place, csv_message(&error, &head));
                break;
            }
        }
    }
    rows
}

fn csv_message(error: &csv::Error, head: &csv::StringRecord) -> String {
    match error.kind() {
        csv::ErrorKind::Deserialize { err, .. } => {
            let column = err.field().and_then(|field| head.get(field as usize));
            let column = column.map_or(String::new(), |name| format!(" in column {name}"));
            format!("this is no row of a trace: {}{column}", err.kind())
        }
        csv::ErrorKind::UnequalLengths { expected_len, len, .. } => {
            format!("this row has {len} columns where the head has {expected_len}")
        }
        _ => format!("this is no row of a trace: {error}"),
    }
}

/// The columns of which this is the first, if a row has it.
fn columns_at<C: DeserializeOwned>(line: &str, first: &str) -> serde_json::Result<Option<C>> {
    if line.contains(&format!("\"{first}\":")) { serde_json::from_str(line).map(Some) } else { Ok(None) }
}

fn json_rows(notes: &mut Notes, text: &str) -> Rows {
    let mut rows = Rows::new();
    for line in text.lines().filter(|line| !line.trim().is_empty()) {
        let place = line.as_ptr() as usize - text.as_ptr() as usize;
        let read = serde_json::from_str(line).and_then(|row| {
            let round = columns_at(line, "attempt")?;
            let (view, shown) = (columns_at(line, "view_x_px")?, columns_at(line, "pose")?);
            Ok(WrittenRow { row, round, view, shown })
        });
        match read {
            Ok(row) => rows.push((place, row)),
            Err(error) => {
                let place = place + error.column().saturating_sub(1).min(line.len());
                notes.error(place..place, format!("this is no row of a trace: {error}"));
                break;
            }
        }
    }
    rows
}

/// The rate whose ticks end at the times that are written: to the bit, if there is one.
fn rate_of(rows: &Rows) -> Option<f64> {
    let (_, WrittenRow { row: last, .. }) = rows.last()?;
    let rough = last.tick as f64 / last.time_s;
    let is_exact = |rate: &f64| rows.iter().all(|(_, WrittenRow { row, .. })| row.tick as f64 / rate == row.time_s);
    // The quotient of rounded numbers may be a few steps off.
    let above = std::iter::successors(Some(rough), |rate| Some(rate.next_up())).take(4);
    let below = std::iter::successors(Some(rough), |rate| Some(rate.next_down())).take(4);
    let rate = std::iter::once(rough.round()).chain(above).chain(below).find(is_exact).unwrap_or(rough);
    (rate.is_finite() && rate > 0.0).then_some(rate)
}

/// What a row says of the motion, and of the round and the view if there are any.
fn report_of(
    row: &TraceRow,
    round: Option<&RoundColumns>,
    view: Option<&ViewColumns>,
    names: &mut NameReader,
) -> Result<(TickReport, Option<RoundRow>, Option<ViewRow>), String> {
    let numbers = [row.x_px, row.y_px, row.vx_px_s, row.vy_px_s];
    if let Some(wrong) = numbers.into_iter().find(|number| number.is_nan() || number.abs() > MOST) {
        return Err(format!("{wrong} is no place or speed of a run; they are from -{MOST} to {MOST}"));
    }
    let state = State::ALL.into_iter().find(|state| state.name() == row.state);
    let facing = Facing::ALL.into_iter().find(|side| side.name() == row.facing);
    let unknown = |what: &str, word: &str, known: &[&'static str]| {
        let near = nearest(word, known.iter().copied()).map_or(String::new(), |near| format!("; did you mean {near}?"));
        format!("\"{word}\" is no {what} of a trace{near}")
    };
    let events = row.events.split(';').filter(|word| !word.is_empty());
    let mut report = TickReport::at_rest(row.tick, DVec2::new(row.x_px, row.y_px));
    report.velocity = DVec2::new(row.vx_px_s, row.vy_px_s);
    report.state = state.ok_or_else(|| unknown("state", &row.state, &State::ALL.map(State::name)))?;
    report.facing = facing.ok_or_else(|| unknown("facing", &row.facing, &Facing::ALL.map(Facing::name)))?;
    report.support = names.support(&row.support).ok_or_else(|| unknown("support", &row.support, &[]))?;
    report.contacts = contacts_of(&row.contacts).map_err(|word| unknown("contact", word, &CONTACTS))?;
    let (mut round, mut view) = (round.map(RoundRow::from), view.map(ViewRow::from));
    for word in events {
        if let Some(event) = names.event(word) {
            report.events.push(event);
        } else if let (Some(view), Some(event)) = (&mut view, view_event(word)) {
            view.events.push(event);
        } else if let (Some(round), Some(event)) = (&mut round, names.round_event(word)) {
            round.events.push(event);
        } else {
            return Err(unknown("event", word, &[]));
        }
    }
    Ok((report, round, view))
}

fn view_event(word: &str) -> Option<ViewEvent> {
    ViewEvent::ALL.into_iter().find(|event| event.to_string() == word)
}

const CONTACTS: [&str; 4] = ["left", "right", "above", "below"];

fn contacts_of(words: &str) -> Result<Contacts, &str> {
    let mut contacts = Contacts::default();
    for word in words.split_whitespace() {
        match word {
            "left" => contacts.left = true,
            "right" => contacts.right = true,
            "above" => contacts.above = true,
            "below" => contacts.below = true,
            other => return Err(other),
        }
    }
    Ok(contacts)
}
