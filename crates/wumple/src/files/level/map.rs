//! The map of a level, as rows of letters: written in the level's file, in a CSV, or as a picture.

use std::ops::Range;

use super::super::diagnostic::{Diagnostic, Notes};
use super::super::disk::{read_bytes, read_text};
use super::super::reader::{Section, listed, nearest};
use super::LetterKind;
use super::picture::read_picture;
use super::table::{Table, read_table};

/// Rows of letters, and where each stands.
pub(super) struct Map {
    rows: Vec<Vec<char>>,
    origin: Origin,
}

/// Where the letters of a map come from: for messages.
enum Origin {
    /// The level's file, row by row: exact where the text stands in the file as it is, which it does in '''
    /// quotes.
    Text(Vec<RowPlace>),
    /// A CSV.
    Table(Table),
    /// A picture, whose name stands here in the level's file.
    Picture { name: String, span: Range<usize> },
}

struct RowPlace {
    span: Range<usize>,
    is_exact: bool,
}

impl Map {
    /// Reads `[map]`; what is wrong is noted. At least one row.
    pub(super) fn read(notes: &mut Notes, top: &Section<'_>, letters: &[LetterKind]) -> Option<Map> {
        if !top.has("map") {
            notes.error(0..0, "the section [map] is missing; its \"rows\" are the tiles, a letter each");
        }
        let map = top.section(notes, "map")?;
        map.knows(notes, &["rows", "csv", "codes", "png", "colours"]);
        let given: Vec<&str> = ["rows", "csv", "png"].into_iter().filter(|key| map.has(key)).collect();
        for (key, of) in [("codes", "csv"), ("colours", "png")] {
            if map.has(key) && !map.has(of) {
                let message = format!("map.{key} goes with map.{of} = \"room.{of}\", which is not there");
                notes.error(map.place_of(key), message);
            }
        }
        match given[..] {
            ["rows"] => from_rows(notes, &map),
            ["csv"] => from_table(notes, &map, letters),
            [] => {
                let message = "[map] has no \"rows\"; they are the tiles, a letter each, in ''' quotes (or \"csv\" or \
                               \"png\" names a file)";
                notes.error(map.span(), message);
                None
            }
            [_] => from_picture(notes, &map, letters),
            [_, second, ..] => {
                let message = format!("[map] has {}; keep one of them", listed(given.iter().copied()));
                notes.error(map.place_of(second), message);
                None
            }
        }
    }

    /// How many letters the first row has.
    pub(super) fn columns(&self) -> usize {
        self.rows[0].len()
    }

    /// Notes something about the letter at a column and a row, or about the whole row beyond its end.
    pub(super) fn error(&self, notes: &mut Notes, (column, row): (usize, usize), message: String) {
        let diagnostic = self.place(notes, (column, row)).with_message(message);
        notes.add(diagnostic.into());
    }

    fn place(&self, notes: &Notes, (column, row): (usize, usize)) -> Diagnostic {
        match &self.origin {
            Origin::Text(places) => {
                let RowPlace { span, is_exact } = &places[row];
                let before: usize = self.rows[row].iter().take(column).map(|letter| letter.len_utf8()).sum();
                let span = match self.rows[row].get(column).filter(|_| *is_exact) {
                    Some(letter) => span.start + before..span.start + before + letter.len_utf8(),
                    None => span.clone(),
                };
                notes.at(span, String::new())
            }
            Origin::Table(table) => table.place(column, row),
            Origin::Picture { span, .. } => notes.at(span.clone(), String::new()),
        }
    }

    /// What messages call the file that the map comes from, if it is another.
    fn named(&self) -> String {
        match &self.origin {
            Origin::Picture { name, .. } => format!("{name}: "),
            _ => String::new(),
        }
    }

    /// Every letter as an index into those that are known.
    pub(super) fn tiles(&self, notes: &mut Notes, letters: &[LetterKind]) -> Vec<u8> {
        let columns = self.columns();
        let mut tiles = Vec::new();
        for (number, row) in self.rows.iter().enumerate() {
            let found = row.len();
            if found != columns {
                let message = format!(
                    "row {number} has {found} letters where row 0 has {columns}; all rows must be of one length"
                );
                self.error(notes, (usize::MAX, number), message);
            }
            for (column, letter) in row.iter().enumerate() {
                match letters.iter().position(|kind| kind.letter == *letter) {
                    Some(kind) => tiles.push(kind as u8),
                    None => self.error(notes, (column, number), unknown_letter(*letter, letters)),
                }
            }
        }
        tiles
    }

    /// The column and row of the spawn, and where it stands.
    pub(super) fn spawn(&self, notes: &mut Notes) -> Option<((usize, usize), Diagnostic)> {
        let mut spawn = None;
        for (number, row) in self.rows.iter().enumerate() {
            for (column, _) in row.iter().enumerate().filter(|(_, letter)| **letter == '@') {
                let Some((first_column, first_row)) = spawn else {
                    spawn = Some((column, number));
                    continue;
                };
                let message = format!(
                    "{}a second spawn at column {column}, row {number}; the first is at column {first_column}, \
                     row {first_row}: keep one \"@\"",
                    self.named()
                );
                self.error(notes, (column, number), message);
            }
        }
        if spawn.is_none() {
            let message = format!("{}the map has no spawn; put one \"@\" where the character starts", self.named());
            self.error(notes, (usize::MAX, 0), message);
        }
        spawn.map(|spawn| (spawn, self.place(notes, spawn)))
    }
}

fn unknown_letter(letter: char, letters: &[LetterKind]) -> String {
    let known: Vec<String> = letters.iter().map(|kind| kind.letter.to_string()).collect();
    let same = nearest(&letter.to_string(), known.iter().map(String::as_str));
    let known = same.map_or(listed(known.iter().map(String::as_str)), |same| format!("\"{same}\""));
    format!("unknown letter \"{letter}\"; there is {known}, and [letters] may add others")
}

fn from_rows(notes: &mut Notes, map: &Section<'_>) -> Option<Map> {
    let text = map.text(notes, "rows", "@..\\n###")?;
    let span = map.place_of("rows");
    let start = notes.text()[span.clone()].find(text).map(|at| span.start + at);
    let mut at = start;
    let mut rows: Vec<(Vec<char>, RowPlace)> = Vec::new();
    for line in text.split_inclusive('\n') {
        let row = line.trim_end();
        let row_span = at.map_or(span.clone(), |at| at..at + row.len());
        rows.push((row.chars().collect(), RowPlace { span: row_span, is_exact: at.is_some() }));
        at = at.map(|at| at + line.len());
    }
    let filled = |row: &(Vec<char>, RowPlace)| !row.0.is_empty();
    let end = rows.iter().rposition(filled).map_or(0, |last| last + 1);
    let first = rows.iter().position(filled).unwrap_or(0);
    rows.truncate(end);
    rows.drain(..first);
    if rows.is_empty() {
        notes.error(span, "the map has no rows; draw it in letters, such as \".\" and \"#\"");
        return None;
    }
    let (rows, places) = rows.into_iter().unzip();
    Some(Map { rows, origin: Origin::Text(places) })
}

/// The letters that words of a file stand for: `codes` or `colours`. What is no known letter is noted.
fn meanings(notes: &mut Notes, map: &Section<'_>, key: &str, letters: &[LetterKind]) -> Vec<(String, char)> {
    let Some(section) = map.section(notes, key) else { return Vec::new() };
    let mut meanings = Vec::new();
    for word in section.keys() {
        let Some(text) = section.text(notes, word, "#") else { continue };
        let mut characters = text.chars();
        match (characters.next(), characters.next()) {
            (Some(letter), None) if letters.iter().any(|kind| kind.letter == letter) => {
                meanings.push((word.to_owned(), letter));
            }
            (Some(letter), None) => notes.error(section.place_of(word), unknown_letter(letter, letters)),
            _ => {
                let message = format!("{} is \"{text}\"; it must be one letter, such as \"#\"", section.name_of(word));
                notes.error(section.place_of(word), message);
            }
        }
    }
    meanings
}

fn from_table(notes: &mut Notes, map: &Section<'_>, letters: &[LetterKind]) -> Option<Map> {
    let codes = meanings(notes, map, "codes", letters);
    let (path, text) = map.file(notes, "csv", "room.csv", read_text)?;
    let (rows, table) = read_table(notes, &path.display().to_string(), &text, &codes, letters)?;
    Some(Map { rows, origin: Origin::Table(table) })
}

fn from_picture(notes: &mut Notes, map: &Section<'_>, letters: &[LetterKind]) -> Option<Map> {
    let colours = meanings(notes, map, "colours", letters);
    let (path, bytes) = map.file(notes, "png", "room.png", read_bytes)?;
    let name = path.display().to_string();
    let span = map.place_of("png");
    match read_picture(&bytes, &colours) {
        Ok(rows) => Some(Map { rows, origin: Origin::Picture { name, span } }),
        Err(messages) => {
            messages.into_iter().for_each(|message| notes.error(span.clone(), format!("{name}: {message}")));
            None
        }
    }
}
