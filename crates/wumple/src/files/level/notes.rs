//! What a game writes beside a letter or a thing of a level for itself: `notes = { points = 5 }`.

use std::collections::BTreeMap;

use toml_edit::Value;

use crate::files::diagnostic::Notes;
use crate::files::fields::{Field, Value as Written};
use crate::files::reader::Section;

/// The key of them.
pub(super) const NOTES: &str = "notes";
/// The same as a table.
pub(super) const OF_NOTES: [Field; 1] =
    [Field::new(NOTES, Written::Named(".+", &Written::Any), "what the game writes for itself; it changes nothing")];

/// A note of the game's own.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub enum Note {
    /// A number, in no unit.
    Number(f64),
    /// A text.
    Text(String),
    /// True or false.
    Flag(bool),
}

/// The notes of a letter or of a thing, by their names. They are handed out as they are written, and change nothing in the
/// motion.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct GameNotes(BTreeMap<String, Note>);

impl GameNotes {
    pub(super) const NONE: GameNotes = GameNotes(BTreeMap::new());

    /// The note of this name.
    #[must_use]
    pub fn get(&self, name: &str) -> Option<&Note> {
        self.0.get(name)
    }

    /// The number of this name; `None` if there is none, or it is no number.
    #[must_use]
    pub fn number(&self, name: &str) -> Option<f64> {
        if let Note::Number(number) = self.get(name)? { Some(*number) } else { None }
    }

    /// The text of this name; `None` if there is none, or it is no text.
    #[must_use]
    pub fn text(&self, name: &str) -> Option<&str> {
        if let Note::Text(text) = self.get(name)? { Some(text) } else { None }
    }

    /// The flag of this name; `None` if there is none, or it is no flag.
    #[must_use]
    pub fn flag(&self, name: &str) -> Option<bool> {
        if let Note::Flag(flag) = self.get(name)? { Some(*flag) } else { None }
    }

    /// All of them, by their names.
    pub fn iter(&self) -> impl Iterator<Item = (&str, &Note)> {
        self.0.iter().map(|(name, note)| (name.as_str(), note))
    }

    /// Whether there are none.
    #[must_use]
    pub fn is_empty(&self) -> bool {
        self.0.is_empty()
    }
}

/// The notes of the things of a level, each list in the order of the file.
#[derive(Clone, Debug, Default)]
pub(super) struct LevelNotes {
    pub(super) blocks: Vec<GameNotes>,
    pub(super) ramps: Vec<GameNotes>,
    pub(super) platforms: Vec<GameNotes>,
    pub(super) props: Vec<GameNotes>,
    pub(super) zones: Vec<GameNotes>,
}

/// The notes that a section says.
pub(super) fn read_notes(notes: &mut Notes, section: &Section<'_>) -> GameNotes {
    let Some(section) = section.section(notes, NOTES) else { return GameNotes::NONE };
    let mut found = BTreeMap::new();
    for name in section.keys() {
        let note = match section.value(notes, name) {
            Some(Value::Integer(number)) => Note::Number(*number.value() as f64),
            Some(Value::Float(number)) if number.value().is_finite() => Note::Number(*number.value()),
            Some(Value::String(text)) => Note::Text(text.value().clone()),
            Some(Value::Boolean(flag)) => Note::Flag(*flag.value()),
            _ => {
                let message = format!("{} must be a number, a text, true or false", section.name_of(name));
                notes.error(section.place_of(name), message);
                continue;
            }
        };
        found.insert(name.to_owned(), note);
    }
    GameNotes(found)
}
