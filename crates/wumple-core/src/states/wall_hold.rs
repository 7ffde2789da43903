//! Holding on to a wall: no gravity; what is held is the speed, up to its top and over it.

use super::{Speeds, commanded};
use crate::collide::Wall;
use crate::input::{Direction, Intent};
use crate::integrate::Moved;
use crate::platforms::Mover;
use crate::tuning::Tuning;

/// Holding on to a wall.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct WallHold {
    pub(crate) wall: Wall,
    pub(crate) over: ClimbOver,
}

/// How far a climb over the top of a wall has come. Heights are the wall's top, px, y down.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) enum ClimbOver {
    /// Not begun.
    None,
    /// Up, until the feet are level with it.
    Up { top: f64 },
    /// Sideways, until the feet's middle is on it.
    Across,
}

impl WallHold {
    pub(super) fn speeds(&self, tuning: &Tuning, intent: Intent) -> Speeds {
        let Some(hold) = tuning.wall().hold else { return Speeds::STILL };
        let seconds = tuning.tick_seconds();
        let (x, y) = match self.over {
            ClimbOver::None => (0.0, commanded(intent.climbing, hold.up_speed, hold.down_speed)),
            ClimbOver::Up { .. } => (0.0, -hold.up_speed),
            ClimbOver::Across => (self.wall.side.sign() * hold.up_speed, 0.0),
        };
        Speeds { x: Moved { speed: x, by: x * seconds }, y: Moved { speed: y, by: y * seconds } }
    }

    /// The wall that is held has moved.
    pub(crate) fn follow(&mut self, mover: &Mover) {
        self.wall.follow(mover);
        if let ClimbOver::Up { top } = &mut self.over {
            *top += mover.by().y;
        }
    }

    /// A climb over the wall's top goes no further than to have the feet's middle on it.
    pub(crate) fn stops_at(&self, to: f64) -> f64 {
        match (self.over, self.wall.side) {
            (ClimbOver::Across, Direction::Right) => to.min(self.wall.face),
            (ClimbOver::Across, Direction::Left) => to.max(self.wall.face),
            _ => to,
        }
    }
}
