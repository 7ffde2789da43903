//! A level while it is painted: letters of its tiles, undone and done again, and kept in its file.

use std::path::Path;

use wumple::files::with_letter;
use wumple::{FileError, Level, Terrain};

use super::home::Home;

/// A level that is changed by hand.
#[derive(Clone, Debug)]
pub struct Room {
    home: Home,
    kept: String,
    text: String,
    level: Level,
    undo: Vec<String>,
    redo: Vec<String>,
    on_disk: Option<String>,
}

impl Room {
    /// A level of this text. `path`: where it is kept.
    ///
    /// # Errors
    ///
    /// If the text is wrong: all that is.
    pub fn of(name: &str, text: &str, path: Option<&Path>) -> Result<Room, FileError> {
        let level = Level::parse(name, text)?;
        let (kept, text) = (text.to_owned(), text.to_owned());
        Ok(Room { home: Home::new(name, path), kept, text, level, undo: Vec::new(), redo: Vec::new(), on_disk: None })
    }

    /// Its file.
    #[must_use]
    pub fn home(&self) -> &Home {
        &self.home
    }

    /// The level as it is now.
    #[must_use]
    pub fn level(&self) -> &Level {
        &self.level
    }

    /// Its text.
    #[must_use]
    pub fn text(&self) -> &str {
        &self.text
    }

    /// Why it cannot be painted, if it cannot.
    #[must_use]
    pub fn why_not_painted(&self) -> Option<&'static str> {
        if self.level.map_file.is_some() {
            return Some("its map is a CSV or a PNG; paint that with the program that made it");
        }
        let is_plain = with_letter(&self.text, 0, 0, '.').is_some();
        (!is_plain).then_some("its rows are not written in lines between ''' and '''")
    }

    /// Another letter in a tile. A spawn moves; it is never painted over. `goes_on`: it is part of the step before. Whether the level is
    /// another.
    ///
    /// # Errors
    ///
    /// If the level would be wrong, or has no such tile: why it stays as it is.
    pub fn paint(&mut self, column: usize, row: usize, letter: char, goes_on: bool) -> Result<bool, String> {
        let (spawn_column, spawn_row) = self.level.spawn_tile;
        let is_spawn = (column, row) == (spawn_column, spawn_row);
        if is_spawn {
            return if letter == '@' {
                Ok(false)
            } else {
                Err("the spawn stays; paint @ elsewhere to move it".to_owned())
            };
        }
        let no_tile = || self.why_not_painted().unwrap_or("there is no such tile").to_owned();
        let mut painted = with_letter(&self.text, column, row, letter).ok_or_else(no_tile)?;
        if letter == '@' {
            painted = with_letter(&painted, spawn_column, spawn_row, '.').ok_or_else(no_tile)?;
        }
        if painted == self.text {
            return Ok(false);
        }
        let level = Level::parse(self.home.name(), &painted)
            .map_err(|errors| errors.iter().map(|error| error.message().to_owned()).collect::<Vec<_>>().join("; "))?;
        if !goes_on || self.undo.is_empty() {
            self.undo.push(self.text.clone());
            self.redo.clear();
        }
        (self.text, self.level) = (painted, level);
        Ok(true)
    }

    /// One step back; whether there was one.
    pub fn undo(&mut self) -> bool {
        let Some(before) = self.undo.pop() else { return false };
        self.redo.push(self.text.clone());
        self.take(before);
        true
    }

    /// And on again.
    pub fn redo(&mut self) -> bool {
        let Some(after) = self.redo.pop() else { return false };
        self.undo.push(self.text.clone());
        self.take(after);
        true
    }

    /// A text that was right before.
    fn take(&mut self, text: String) {
        if let Ok(level) = Level::parse(self.home.name(), &text) {
            (self.text, self.level) = (text, level);
        }
    }

    /// Whether anything is not kept yet.
    #[must_use]
    pub fn is_unkept(&self) -> bool {
        self.text != self.kept
    }

    /// Writes the file: its letters alone are others. What has no file yet gets one in the folder. Says where.
    ///
    /// # Errors
    ///
    /// If it cannot be written; nothing is lost then.
    pub fn keep(&mut self, folder: &Path) -> Result<String, String> {
        let words = self.home.write(&self.text, folder)?;
        self.kept.clone_from(&self.text);
        self.on_disk = None;
        Ok(words)
    }

    /// The file was changed by another program: it is in force if nothing here is unkept, else it is asked about. Says what is wrong
    /// with it, if it is.
    ///
    /// # Errors
    ///
    /// If the text is wrong: the level of before stays.
    pub fn changed_on_disk(&mut self, text: &str) -> Result<(), String> {
        if text == self.kept || text == self.text {
            return Ok(());
        }
        Level::parse(self.home.name(), text).map_err(|errors| errors.to_string())?;
        self.on_disk = Some(text.to_owned());
        if !self.is_unkept() {
            self.take_theirs();
        }
        Ok(())
    }

    /// Whether the file was changed elsewhere while there are changes here.
    #[must_use]
    pub fn is_asked(&self) -> bool {
        self.on_disk.is_some()
    }

    /// Takes what is in the file now; what was painted here can be had back by undoing.
    pub fn take_theirs(&mut self) {
        if let Some(text) = self.on_disk.take() {
            self.undo.push(self.text.clone());
            self.kept.clone_from(&text);
            self.take(text);
        }
    }

    /// Takes what is in the file now, and puts the letters that were painted here upon it.
    ///
    /// # Errors
    ///
    /// If they do not go upon it: then keeping what was painted will write over the file.
    pub fn keep_mine(&mut self) -> Result<(), String> {
        let Some(theirs) = self.on_disk.take() else { return Ok(()) };
        let both = self.upon(&theirs);
        self.kept = theirs;
        match both {
            Some((text, level)) => {
                self.undo.push(std::mem::replace(&mut self.text, text));
                self.redo.clear();
                self.level = level;
                Ok(())
            }
            None => {
                Err("what was painted does not go upon the file as it is now; kept, it will be written over it"
                    .to_owned())
            }
        }
    }

    /// The letters that were painted here upon another text.
    fn upon(&self, theirs: &str) -> Option<(String, Level)> {
        let kept = Level::parse(self.home.name(), &self.kept).ok()?;
        let size = |level: &Level| (level.grid.columns(), level.grid.rows());
        if size(&kept) != size(&self.level) {
            return None;
        }
        let (columns, rows) = size(&kept);
        let mut text = theirs.to_owned();
        for (column, row) in (0..rows).flat_map(|row| (0..columns).map(move |column| (column, row))) {
            let letter = |level: &Level| level.letters[level.grid.kind(column, row)].letter;
            if letter(&kept) != letter(&self.level) {
                text = with_letter(&text, column as usize, row as usize, letter(&self.level))?;
            }
        }
        let level = Level::parse(self.home.name(), &text).ok()?;
        Some((text, level))
    }
}
