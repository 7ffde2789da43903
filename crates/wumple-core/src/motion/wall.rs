//! At a wall: sliding down along it, and holding on to it.

use super::scheme::Moved;
use super::{Direction, Intent, Speeds, commanded};
use crate::tuning::{HoldNumbers, SlideNumbers, SlideWhen, Tuning};

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

/// The speeds of a tick of a body that holds on to a wall on this side.
pub(super) fn hold_speeds(
    tuning: &Tuning,
    hold: &HoldNumbers,
    intent: Intent,
    side: Direction,
    over: ClimbOver,
) -> Speeds {
    let seconds = tuning.tick_seconds();
    let (x, y) = match over {
        ClimbOver::None => (0.0, commanded(intent.climbing, hold.up_speed, hold.down_speed)),
        ClimbOver::Up { .. } => (0.0, -hold.up_speed),
        ClimbOver::Across => (side.sign() * hold.up_speed, 0.0),
    };
    Speeds { x: Moved { speed: x, by: x * seconds }, y: Moved { speed: y, by: y * seconds } }
}

/// Whether a body that falls beside a wall on this side slides down along it.
#[inline]
pub(crate) fn slides(slide: &SlideNumbers, intent: Intent, side: Direction) -> bool {
    slide.when == SlideWhen::Touched || intent.is_towards(side)
}
