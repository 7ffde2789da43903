//! The character's motion: what is held, which state it is in, how its speeds change.
//!
//! One file a state, a table of the ways between them, and one file a scheme of integration.

mod air;
mod buttons;
mod flight;
mod ground;
mod scheme;
mod transition;

pub use buttons::{Buttons, Direction};
pub use flight::Flight;
pub use scheme::{Gravity, Moved, Phases, Piece, Scheme};
pub use transition::{Cause, Facts, Mode, Moment, Transition, transition, transitions};

pub(crate) use air::way_down_within;
pub(crate) use buttons::Intent;

use crate::tuning::Tuning;

/// The speeds of a tick: what they are at its end, and how far they would carry the body. y is down.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Speeds {
    pub(crate) x: Moved,
    pub(crate) y: Moved,
}

/// Step 4 of a tick: each mode has its own way to change the speeds, in a file of its own.
#[inline]
pub(crate) fn speeds(
    mode: Mode,
    tuning: &Tuning,
    flight: &mut Option<Flight>,
    velocity: glam::DVec2,
    intent: Intent,
) -> Speeds {
    match mode {
        Mode::Ground => ground::speeds(tuning, velocity, intent),
        Mode::Air => air::speeds(tuning, flight, velocity, intent),
    }
}
