//! A map as a CSV, as any spreadsheet writes it: a cell a tile.

use std::collections::BTreeMap;
use std::ops::Range;

use super::super::csv_records::record_start;
use super::super::diagnostic::{Diagnostic, MOST_OF_A_KIND, Notes};
use super::super::reader::{listed, nearest};
use super::LetterKind;

/// Where the cells of a CSV stand in it.
pub(super) struct Table {
    notes: Notes,
    separator: char,
    /// Of each row.
    spans: Vec<Range<usize>>,
    /// How many cells at the end are blank in every row.
    blank_at_end: usize,
}

impl Table {
    pub(super) fn blank_at_end(&self) -> usize {
        self.blank_at_end
    }

    /// The place of a cell; of the whole row if there is none, or if the row has quotes.
    pub(super) fn place(&self, column: usize, row: usize) -> Diagnostic {
        let span = self.spans[row].clone();
        let text = &self.notes.text()[span.clone()];
        let mut at = span.start;
        for (index, cell) in text.split(self.separator).enumerate() {
            if index == column && !text.contains('"') {
                return self.notes.at(at..at + cell.len(), String::new());
            }
            at += cell.len() + self.separator.len_utf8();
        }
        self.notes.at(span, String::new())
    }
}

/// Reads a CSV: commas, semicolons or tabs, with or without quotes. A cell is a code, or a letter itself;
/// an empty one is the empty tile. What is wrong is noted.
pub(super) fn read_table(
    notes: &mut Notes,
    name: &str,
    text: &str,
    codes: &[(String, char)],
    letters: &[LetterKind],
) -> Option<(Vec<Vec<char>>, Table)> {
    // Some spreadsheets begin a file with a mark of its encoding.
    let text = text.strip_prefix('\u{feff}').unwrap_or(text);
    let first_line = text.lines().next().unwrap_or_default();
    let often = |separator: &char| first_line.matches(*separator).count();
    // Of equals the last: the comma.
    let separator = ['\t', ';', ','].into_iter().max_by_key(often).expect("there are three");
    let mut reader = csv::ReaderBuilder::new();
    let reader = reader.has_headers(false).flexible(true).delimiter(separator as u8).trim(csv::Trim::All);
    let mut table = Table { notes: Notes::new(name, text), separator, spans: Vec::new(), blank_at_end: usize::MAX };
    let mut rows: Vec<Vec<char>> = Vec::new();
    // Each unknown code once, with its first cell and how many there are.
    let mut unknown: BTreeMap<String, (usize, usize, usize)> = BTreeMap::new();
    for record in reader.from_reader(text.as_bytes()).records() {
        let record = match record {
            Ok(record) => record,
            Err(error) => {
                notes.error(0..0, format!("{name}: this is no CSV: {error}"));
                return None;
            }
        };
        let start = record_start(text, record.position());
        let length = text[start..].find(['\n', '\r']).unwrap_or(text.len() - start);
        table.spans.push(start..start + length);
        let blank = record.iter().rev().take_while(|cell| cell.is_empty()).count();
        table.blank_at_end = table.blank_at_end.min(blank);
        let mut row = Vec::with_capacity(record.len());
        for cell in &record {
            row.push(meaning(cell, codes, letters).unwrap_or_else(|| {
                unknown.entry(cell.to_owned()).or_insert((row.len(), rows.len(), 0)).2 += 1;
                '.'
            }));
        }
        rows.push(row);
    }
    if rows.is_empty() {
        notes.add(table.notes.at(0..0, "the map has no rows; a cell is a tile".into()).into());
        return None;
    }
    let head: Vec<_> = unknown.iter().filter(|(_, (_, row, count))| *row == 0 && *count == 1).collect();
    if rows.len() > 1 && head.len() == rows[0].len() && unknown.len() == head.len() && !unknown.contains_key("-1") {
        let message = "this row looks like a head line; a map has none: every row is a row of tiles";
        notes.add(table.place(usize::MAX, 0).with_message(message.into()).into());
        return None;
    }
    let mut unknown: Vec<_> =
        unknown.into_iter().map(|(cell, (column, row, count))| (row, column, cell, count)).collect();
    unknown.sort();
    for (row, column, cell, count) in unknown.iter().take(MOST_OF_A_KIND) {
        notes.add(table.place(*column, *row).with_message(unknown_code(cell, *count, codes)).into());
    }
    if let Some((row, column, ..)) = unknown.get(MOST_OF_A_KIND) {
        let message = format!("and {} more codes are unknown, from here on", unknown.len() - MOST_OF_A_KIND);
        notes.add(table.place(*column, *row).with_message(message).into());
    }
    Some((rows, table))
}

fn meaning(cell: &str, codes: &[(String, char)], letters: &[LetterKind]) -> Option<char> {
    if let Some((_, letter)) = codes.iter().find(|(code, _)| code == cell) {
        return Some(*letter);
    }
    let mut characters = cell.chars();
    match (characters.next(), characters.next()) {
        (None, _) => Some('.'),
        (Some(letter), None) => letters.iter().any(|kind| kind.letter == letter).then_some(letter),
        _ => None,
    }
}

fn unknown_code(cell: &str, count: usize, codes: &[(String, char)]) -> String {
    let known = || codes.iter().map(|(code, _)| code.as_str());
    let remedy = match nearest(cell, known()) {
        _ if cell == "-1" => "where it stands for an empty cell, say so: codes = { \"-1\" = \".\" }".to_owned(),
        Some(near) => format!("did you mean \"{near}\"?"),
        None if codes.is_empty() => "map.codes says what codes stand for, such as codes = { 1 = \"#\" }".to_owned(),
        None => format!("map.codes has {}", listed(known())),
    };
    let more = if count > 1 { format!(" (in {count} cells)") } else { String::new() };
    format!("unknown code \"{cell}\"{more}, which is no letter of the map either; {remedy}")
}
