//! The map of a level, as rows of letters: written in the level's file, in a CSV, or as a picture.

use std::collections::BTreeMap;
use std::ops::Range;
use std::path::{Path, PathBuf};
use std::sync::Arc;

use super::super::diagnostic::{Diagnostic, Notes, Source};
use super::super::disk::{read_bytes, read_text};
use super::super::fields::{Field, Value};
use super::super::reader::{Named, Section, listed, nearest};
#[cfg(not(feature = "instruments"))]
use super::not_read::{Table, read_picture, read_table};
#[cfg(feature = "instruments")]
use super::picture::read_picture;
#[cfg(feature = "instruments")]
use super::table::{Table, read_table};
use super::{LetterKind, MOST_TILES};

/// What the tiles of a map are, and where each stands.
pub(super) struct Map {
    rows: Rows,
    origin: Origin,
}

enum Rows {
    /// As letters, known ones or not.
    Letters(Vec<Vec<char>>),
    /// As indices into the letters, row by row, with so many columns: a picture can have millions.
    Kinds { columns: usize, tiles: Vec<u8> },
}

/// Where the letters of a map come from: for messages.
enum Origin {
    /// The level's file, row by row: exact where the text stands in the file as it is, which it does in '''
    /// quotes.
    Text(Vec<RowPlace>),
    /// A CSV.
    Table(Table, PathBuf),
    /// A picture, whose name stands here in the level's file.
    Picture { path: PathBuf, span: Range<usize> },
}

impl Origin {
    /// Where the letter at a column and a row stands, or the whole row beyond its end.
    fn place(&self, source: &Arc<Source>, (column, row): (usize, usize)) -> Diagnostic {
        match self {
            Origin::Text(places) => {
                let RowPlace { span, is_exact } = &places[row];
                let letter = source.text[span.clone()].char_indices().nth(column).filter(|_| *is_exact);
                let span =
                    letter.map_or(span.clone(), |(at, letter)| span.start + at..span.start + at + letter.len_utf8());
                Diagnostic::new(source, span, String::new())
            }
            Origin::Table(table, _) => table.place(column, row),
            Origin::Picture { span, .. } => Diagnostic::new(source, span.clone(), String::new()),
        }
    }
}

/// Where the tiles of a map stand, in the level's file or in another.
pub(super) struct TilePlaces(Origin);

impl TilePlaces {
    pub(super) fn place(&self, source: &Arc<Source>, at: (usize, usize)) -> Diagnostic {
        self.0.place(source, at)
    }
}

struct RowPlace {
    span: Range<usize>,
    is_exact: bool,
}

/// The keys of `[map]`.
pub(super) const MAP: [Field; 5] = [
    Field::new("rows", Value::Text, "the tiles, a letter each, row by row"),
    Field::new("csv", Value::TextLike("\\.csv$"), "the tiles from this file, a cell each"),
    Field::new("codes", Value::Named(".+", &LETTER), "what its cells stand for, as letters"),
    Field::new("png", Value::TextLike("\\.png$"), "the tiles from this picture, a pixel each"),
    Field::new("colours", Value::Named("^#[0-9A-Fa-f]{6}$", &LETTER), "what its colours stand for, as letters"),
];
const LETTER: Value = Value::TextLike("^.$");

impl Map {
    /// Reads `[map]`; what is wrong is noted. At least one row.
    pub(super) fn read(notes: &mut Notes, top: &Section<'_>, letters: &[LetterKind], maps: &Path) -> Option<Map> {
        if !top.has("map") {
            notes.error(0..0, "the section [map] is missing; its \"rows\" are the tiles, a letter each");
        }
        let map = top.section(notes, "map")?;
        map.knows(notes, &[&MAP]);
        let given: Vec<&str> = ["rows", "csv", "png"].into_iter().filter(|key| map.has(key)).collect();
        for (key, of) in [("codes", "csv"), ("colours", "png")] {
            if map.has(key) && !map.has(of) {
                let message = format!("map.{key} goes with map.{of} = \"room.{of}\", which is not there");
                notes.error(map.place_of(key), message);
            }
        }
        match given[..] {
            ["rows"] => from_rows(notes, &map),
            ["csv"] => from_table(notes, &map, letters, maps),
            [] => {
                let message = "[map] has no \"rows\"; they are the tiles, a letter each, in ''' quotes (or \"csv\" or \
                               \"png\" names a file)";
                notes.error(map.span(), message);
                None
            }
            [_] => from_picture(notes, &map, letters, maps),
            [_, second, ..] => {
                let message = format!("[map] has {}; keep one of them", listed(given.iter().copied()));
                notes.error(map.place_of(second), message);
                None
            }
        }
    }

    /// The file it comes from, if it is another.
    pub(super) fn file(&self) -> Option<&Path> {
        match &self.origin {
            Origin::Text(_) => None,
            Origin::Table(_, path) | Origin::Picture { path, .. } => Some(path),
        }
    }

    /// How many letters the first row has.
    pub(super) fn columns(&self) -> usize {
        match &self.rows {
            Rows::Letters(rows) => rows[0].len(),
            Rows::Kinds { columns, .. } => *columns,
        }
    }

    /// Notes something about the letter at a column and a row, or about the whole row beyond its end.
    pub(super) fn error(&self, notes: &mut Notes, (column, row): (usize, usize), message: String) {
        let diagnostic = self.place(notes, (column, row)).with_message(message);
        notes.add(diagnostic.into());
    }

    fn place(&self, notes: &Notes, at: (usize, usize)) -> Diagnostic {
        self.origin.place(notes.source(), at)
    }

    /// Where its tiles stand.
    pub(super) fn into_places(self) -> TilePlaces {
        TilePlaces(self.origin)
    }

    /// What messages call the file that the map comes from, if it is another.
    fn named(&self) -> String {
        match &self.origin {
            Origin::Picture { path, .. } => format!("{}: ", path.display()),
            _ => String::new(),
        }
    }

    /// Its rows of letters; none if they are known as kinds.
    fn letters(&self) -> &[Vec<char>] {
        match &self.rows {
            Rows::Letters(rows) => rows,
            Rows::Kinds { .. } => &[],
        }
    }

    /// Takes its tiles: every letter as an index into those that are known.
    pub(super) fn take_tiles(&mut self, notes: &mut Notes, letters: &[LetterKind]) -> Vec<u8> {
        if let Rows::Kinds { tiles, .. } = &mut self.rows {
            return std::mem::take(tiles);
        }
        let rows = self.letters();
        let count: usize = rows.iter().map(Vec::len).sum();
        if count > MOST_TILES {
            self.error(notes, (usize::MAX, 0), format!("the map has {count} tiles; it may have {MOST_TILES}"));
            return Vec::new();
        }
        self.check_lengths(notes);
        let mut tiles = Vec::with_capacity(count);
        // Nearly all letters are of these; a map can have millions.
        let mut plain = [None; 128];
        for (kind, letter) in letters.iter().enumerate().rev() {
            if let Some(slot) = plain.get_mut(letter.letter as usize) {
                *slot = Some(kind as u8);
            }
        }
        let kind_of = |letter: char| match plain.get(letter as usize) {
            Some(kind) => *kind,
            None => letters.iter().position(|kind| kind.letter == letter).map(|kind| kind as u8),
        };
        // Each unknown letter once, with its first place and how many there are.
        let mut unknown: BTreeMap<char, (usize, usize, usize)> = BTreeMap::new();
        for (number, row) in rows.iter().enumerate() {
            for (column, letter) in row.iter().enumerate() {
                match kind_of(*letter) {
                    Some(kind) => tiles.push(kind),
                    None => unknown.entry(*letter).or_insert((column, number, 0)).2 += 1,
                }
            }
        }
        for (letter, (column, row, count)) in unknown {
            self.error(notes, (column, row), unknown_letter(letter, count, letters));
        }
        tiles
    }

    /// Notes columns at the end of a CSV that are empty in every row, cell for cell: spreadsheets write them unasked.
    pub(super) fn note_empty_columns(&self, odd: &mut Notes) {
        let Origin::Table(table, _) = &self.origin else { return };
        let blank = table.blank_at_end();
        if blank > 0 {
            let columns = self.columns();
            let message = format!(
                "the last {blank} of {columns} columns are blank in every row; the level is so much wider for them: \
                 write \".\" where empty tiles are meant"
            );
            odd.add(table.place(columns - blank, 0).with_message(message).into());
        }
    }

    /// Every row must be as long as the others: of the length that most have.
    fn check_lengths(&self, notes: &mut Notes) {
        let mut lengths: BTreeMap<usize, usize> = BTreeMap::new();
        self.letters().iter().for_each(|row| *lengths.entry(row.len()).or_default() += 1);
        // Of lengths that are as frequent, the first row's.
        let rank = |(length, rows): &(&usize, &usize)| (**rows, **length == self.columns());
        let Some((&usual, _)) = lengths.iter().max_by_key(rank) else { return };
        let like = self.letters().iter().position(|row| row.len() == usual).unwrap_or(0);
        for (number, row) in self.letters().iter().enumerate().filter(|(_, row)| row.len() != usual) {
            let found = row.len();
            let message = format!(
                "row {number} has {found} letters where row {like} has {usual}; all rows must be of one length"
            );
            self.error(notes, (usize::MAX, number), message);
        }
    }

    /// The column and row of the spawn, and where it stands.
    pub(super) fn spawn(&self, notes: &mut Notes, letters: &[LetterKind]) -> Option<((usize, usize), Diagnostic)> {
        let spawns = match &self.rows {
            Rows::Letters(rows) => {
                let found = rows.iter().enumerate().map(|(row, letters)| (row, places_of(&'@', letters)));
                found.flat_map(|(row, columns)| columns.map(move |column| (column, row))).collect::<Vec<_>>()
            }
            Rows::Kinds { columns, tiles } => {
                let kind = letters.iter().position(|kind| kind.letter == '@').expect("the spawn is known") as u8;
                places_of(&kind, tiles).map(|at| (at % columns, at / columns)).collect()
            }
        };
        let spawn = spawns.first().copied();
        if let [(first_column, first_row), (column, row), more @ ..] = &spawns[..] {
            let more = if more.is_empty() { String::new() } else { format!(" (and {} more)", more.len()) };
            let message = format!(
                "{}a second spawn at column {column}, row {row}{more}; the first is at column {first_column}, \
                 row {first_row}: keep one \"@\"",
                self.named()
            );
            self.error(notes, (*column, *row), message);
        }
        if spawn.is_none() {
            let message = format!("{}the map has no spawn; put one \"@\" where the character starts", self.named());
            self.error(notes, (usize::MAX, 0), message);
        }
        spawn.map(|spawn| (spawn, self.place(notes, spawn)))
    }
}

/// Where something is in a row.
fn places_of<T: PartialEq>(what: &T, row: &[T]) -> impl Iterator<Item = usize> {
    row.iter().enumerate().filter(move |(_, found)| *found == what).map(|(at, _)| at)
}

fn unknown_letter(letter: char, count: usize, letters: &[LetterKind]) -> String {
    let known: Vec<String> = letters.iter().map(|kind| kind.letter.to_string()).collect();
    let same = nearest(&letter.to_string(), known.iter().map(String::as_str));
    let known = same.map_or(listed(known.iter().map(String::as_str)), |same| format!("\"{same}\""));
    let more = if count > 1 { format!(" (of {count} tiles)") } else { String::new() };
    if letter.is_whitespace() {
        return format!("a blank{more} is no tile; the empty tile is \".\"");
    }
    format!("unknown letter \"{letter}\"{more}; there is {known}, and [letters] may add others")
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
    Some(Map { rows: Rows::Letters(rows), origin: Origin::Text(places) })
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
            (Some(letter), None) => notes.error(section.place_of(word), unknown_letter(letter, 1, letters)),
            _ => {
                let message = format!("{} is \"{text}\"; it must be one letter, such as \"#\"", section.name_of(word));
                notes.error(section.place_of(word), message);
            }
        }
    }
    meanings
}

fn from_table(notes: &mut Notes, map: &Section<'_>, letters: &[LetterKind], maps: &Path) -> Option<Map> {
    let codes = meanings(notes, map, "codes", letters);
    let named = Named { ending: ".csv", example: "room.csv", within: Some(maps) };
    let (path, text) = map.file(notes, "csv", &named, read_text)?;
    let (rows, table) = read_table(notes, &path.display().to_string(), &text, &codes, letters)?;
    Some(Map { rows: Rows::Letters(rows), origin: Origin::Table(table, path) })
}

fn from_picture(notes: &mut Notes, map: &Section<'_>, letters: &[LetterKind], maps: &Path) -> Option<Map> {
    let colours = meanings(notes, map, "colours", letters);
    let named = Named { ending: ".png", example: "room.png", within: Some(maps) };
    let (path, bytes) = map.file(notes, "png", &named, read_bytes)?;
    let span = map.place_of("png");
    match read_picture(&bytes, &colours, letters) {
        Ok((columns, tiles)) => {
            Some(Map { rows: Rows::Kinds { columns, tiles }, origin: Origin::Picture { path, span } })
        }
        Err(messages) => {
            let name = path.display();
            messages.into_iter().for_each(|message| notes.error(span.clone(), format!("{name}: {message}")));
            None
        }
    }
}
