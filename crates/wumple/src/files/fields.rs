//! The keys of the sections of files, and what can be written for each. Readers know the keys by these tables, and the
//! schemas for editors are made of them. (The keys of a tuning that say motion are the core's.)

use wumple_core::numbers::Key;

use crate::units::Kind;

/// A key of a section.
#[derive(Clone, Copy)]
pub(crate) struct Field {
    pub(crate) key: &'static str,
    pub(crate) value: Value,
    /// What it says, in a few words.
    pub(crate) what: &'static str,
    /// Whether its section is wrong without it, whatever else is there.
    pub(crate) is_needed: bool,
}

/// Several tables of keys that one section has.
pub(crate) type Fields = &'static [&'static [Field]];

/// What can be written.
#[derive(Clone, Copy)]
pub(crate) enum Value {
    Text,
    /// A text of this form, as a regular expression.
    TextLike(&'static str),
    Texts,
    Switch,
    /// From the first to the second.
    Whole(u32, u32),
    /// A number with a unit of one of these kinds; bare, of the first.
    Quantity(&'static [Kind]),
    Pair(Kind),
    Pairs(Kind),
    /// A tick, or a time.
    Moment,
    Moments,
    /// One of these words.
    Words(fn() -> Vec<&'static str>),
    /// The same, or several.
    ManyWords(fn() -> Vec<&'static str>),
    Section(Fields),
    /// `[[key]]`, as often as there are some.
    Sections(Fields),
    /// A section whose keys the file chooses, of this form, and what stands for each.
    Named(&'static str, &'static Value),
    /// A number, a text or a switch.
    Any,
    OneOf(&'static [Value]),
    /// The sections of a tuning that the core has keys for, by their name there: `wall`, with `wall.slide` and the others in it.
    OfCore(&'static str, Fields),
    /// Like `[jump] release`, by its style.
    Release,
}

impl Field {
    pub(crate) const fn new(key: &'static str, value: Value, what: &'static str) -> Field {
        Field { key, value, what, is_needed: false }
    }

    pub(crate) const fn needed(self) -> Field {
        Field { is_needed: true, ..self }
    }
}

impl Value {
    pub(crate) const LENGTH: Value = Value::Quantity(&[Kind::Length]);
    pub(crate) const TIME: Value = Value::Quantity(&[Kind::Time]);
    pub(crate) const SPEED: Value = Value::Quantity(&[Kind::Speed]);
    pub(crate) const ACCELERATION: Value = Value::Quantity(&[Kind::Acceleration]);
    pub(crate) const NUMBER: Value = Value::Quantity(&[Kind::Number]);
    /// A word of a game's own: a kind of zone, an item, a group.
    pub(crate) const WORD: Value = Value::TextLike("^[a-z0-9_-]{1,16}$");
    /// What something is called: a block, a pose.
    pub(crate) const ID: Value = Value::TextLike("^[A-Za-z0-9_-]+$");
    pub(crate) const COLOUR: Value = Value::TextLike("^#[0-9A-Fa-f]{6}$");
    /// How much larger something is felt.
    pub(crate) const MARGIN: Value = Value::OneOf(&[Value::LENGTH, Value::Section(&[&SIDES])]);
}

/// The sides of a margin.
pub(crate) const SIDES: [Field; 4] = [
    Field::new("left", Value::LENGTH, "on the left; 0 unless given"),
    Field::new("right", Value::LENGTH, "on the right; 0 unless given"),
    Field::new("above", Value::LENGTH, "above; 0 unless given"),
    Field::new("below", Value::LENGTH, "below; 0 unless given"),
];

/// The keys of all these.
pub(crate) fn keys_of(tables: &[&[Field]]) -> Vec<&'static str> {
    tables.iter().copied().flatten().map(|field| field.key).collect()
}

/// The words of a list of words with their meanings.
pub(crate) fn words_of<T>(words: &[(&'static str, T)]) -> Vec<&'static str> {
    words.iter().map(|(word, _)| *word).collect()
}

/// The keys of the core that a section has itself.
pub(crate) fn core_keys(section: &str) -> impl Iterator<Item = &'static Key> {
    wumple_core::numbers::keys().filter(move |key| key.parts().0 == section)
}
