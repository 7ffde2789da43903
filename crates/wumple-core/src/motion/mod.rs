//! The character's motion: what is held, which state it is in, how its speeds change.
//!
//! One file a state, a table of the ways between them, and one file a scheme of integration.

mod air;
mod buttons;
mod flight;
mod ground;
mod ladder;
mod scheme;
mod transition;
mod wall;

pub use buttons::{Buttons, Direction};
pub use flight::Flight;
pub use scheme::{Gravity, Moved, Phases, Piece, Scheme};
pub use transition::{Cause, Facts, Mode, Moment, Transition, transition, transitions};

pub(crate) use air::{Airborne, way_down_within};
pub(crate) use buttons::Intent;
pub(crate) use wall::{ClimbOver, slides};

use glam::DVec2;

use crate::tuning::Tuning;

/// The speeds of a tick: what they are at its end, and how far they would carry the body. y is down.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Speeds {
    pub(crate) x: Moved,
    pub(crate) y: Moved,
}

/// What each mode needs to know, besides what is held, to say the speeds of a tick.
#[derive(Clone, Copy, Debug)]
pub(crate) enum Around {
    /// On the ground, with this grip.
    Ground {
        grip: f64,
    },
    Air(Airborne),
    /// On a ladder: the feet, and where its middle is, px.
    Ladder {
        x: f64,
        centre: f64,
    },
    /// Holding on to a wall.
    Wall {
        side: Direction,
        over: ClimbOver,
    },
}

/// Step 4 of a tick: each mode has its own way to change the speeds, in a file of its own.
#[inline]
pub(crate) fn speeds(
    tuning: &Tuning,
    flight: &mut Option<Flight>,
    velocity: DVec2,
    intent: Intent,
    around: Around,
) -> Speeds {
    match around {
        Around::Ground { grip } => ground::speeds(tuning, velocity.x, intent, grip),
        Around::Air(airborne) => air::speeds(tuning, flight, velocity, intent, airborne),
        Around::Ladder { x, centre } => match tuning.ladder() {
            Some(numbers) => ladder::speeds(tuning, numbers, intent, x, centre),
            None => Speeds { x: Moved::STILL, y: Moved::STILL },
        },
        Around::Wall { side, over } => match &tuning.wall().hold {
            Some(hold) => wall::hold_speeds(tuning, hold, intent, side, over),
            None => Speeds { x: Moved::STILL, y: Moved::STILL },
        },
    }
}

/// The downward speed that is held: up and down have speeds of their own.
fn commanded(climbing: f64, up_speed: f64, down_speed: f64) -> f64 {
    -climbing * if climbing > 0.0 { up_speed } else { down_speed }
}
