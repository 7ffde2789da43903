use core::fmt;

use crate::platforms::MoverId;

/// What holds a character up.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(rename_all = "kebab-case"))]
#[non_exhaustive]
pub enum Support {
    /// Nothing.
    None,
    /// A solid tile, or a solid edge of the map.
    Solid,
    /// A one-way tile.
    OneWay,
    /// A ramp, of a tile or drawn.
    Ramp,
    /// The top of a ladder.
    Ladder,
    /// A block, by its number from 0. Displayed with the number in its array, from 1.
    Block(usize),
    /// A platform, by its number from 0. Displayed with the number in its array, from 1.
    Platform(usize),
    /// A prop, by its number from 0. Displayed with the number in its array, from 1.
    Prop(usize),
    /// The head of another character, by its number from 0, where characters meet. Displayed with its number from 1.
    Character(usize),
}

impl Support {
    /// What moves and holds it up, if anything that moves does.
    #[must_use]
    pub fn mover(self) -> Option<MoverId> {
        match self {
            Support::Platform(index) => Some(MoverId::Platform(index)),
            Support::Prop(index) => Some(MoverId::Prop(index)),
            Support::Character(index) => Some(MoverId::Character(index)),
            _ => None,
        }
    }
}

impl From<MoverId> for Support {
    fn from(mover: MoverId) -> Support {
        match mover {
            MoverId::Platform(index) => Support::Platform(index),
            MoverId::Prop(index) => Support::Prop(index),
            MoverId::Character(index) => Support::Character(index),
        }
    }
}

impl fmt::Display for Support {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Support::None => f.write_str("none"),
            Support::Solid => f.write_str("solid"),
            Support::OneWay => f.write_str("one-way"),
            Support::Ramp => f.write_str("ramp"),
            Support::Ladder => f.write_str("ladder"),
            Support::Block(index) => write!(f, "block:{}", index + 1),
            Support::Platform(index) => write!(f, "platform:{}", index + 1),
            Support::Prop(index) => write!(f, "prop:{}", index + 1),
            Support::Character(index) => write!(f, "character:{}", index + 1),
        }
    }
}
