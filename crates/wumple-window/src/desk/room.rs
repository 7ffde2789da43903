//! A level while it is painted: letters of its tiles, undone and done again, and kept in its file.

use std::path::Path;

use wumple::files::with_letter;
use wumple::{FileError, Level};

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

    /// Another letter in a tile. A spawn moves; it is never painted over. Says why not, if it is not.
    ///
    /// # Errors
    ///
    /// If the level would be wrong, or has no such tile.
    pub fn paint(&mut self, column: usize, row: usize, letter: char, goes_on: bool) -> Result<(), String> {
        let (spawn_column, spawn_row) = self.level.spawn_tile;
        let is_spawn = (column, row) == (spawn_column, spawn_row);
        if is_spawn {
            return if letter == '@' {
                Ok(())
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
            return Ok(());
        }
        let level = Level::parse(self.home.name(), &painted)
            .map_err(|errors| errors.iter().map(|error| error.message().to_owned()).collect::<Vec<_>>().join("; "))?;
        if !goes_on || self.undo.is_empty() {
            self.undo.push(self.text.clone());
            self.redo.clear();
        }
        (self.text, self.level) = (painted, level);
        Ok(())
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

    /// Goes on with what was painted here; keeping it will write over the file.
    pub fn keep_mine(&mut self) {
        if let Some(text) = self.on_disk.take() {
            self.kept = text;
        }
    }
}
