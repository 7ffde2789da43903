use core::fmt;

use super::{Direction, Intent};

/// Where a character looks: left or right, and seen from above also up or down.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(rename_all = "kebab-case"))]
pub enum Facing {
    /// Towards smaller x.
    Left,
    /// Towards greater x.
    Right,
    /// Towards smaller y.
    Up,
    /// Towards greater y.
    Down,
}

impl Facing {
    /// All of them.
    pub const ALL: [Facing; 4] = [Facing::Left, Facing::Right, Facing::Up, Facing::Down];

    /// The word used in traces.
    #[must_use]
    pub fn name(self) -> &'static str {
        match self {
            Facing::Left => "left",
            Facing::Right => "right",
            Facing::Up => "up",
            Facing::Down => "down",
        }
    }
}

impl fmt::Display for Facing {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(self.name())
    }
}

impl From<Direction> for Facing {
    #[inline]
    fn from(direction: Direction) -> Facing {
        // In the order of both; asked in every tick.
        Facing::ALL[direction as usize]
    }
}

impl Intent {
    /// Whether this direction is held, of four.
    pub(crate) fn is_held(&self, facing: Facing) -> bool {
        match facing {
            Facing::Left => self.steering < 0.0,
            Facing::Right => self.steering > 0.0,
            Facing::Up => self.up(),
            Facing::Down => self.down(),
        }
    }
}
