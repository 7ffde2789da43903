//! The character's motion: what is held, which state it is in, how its speeds change.
//!
//! One file a state, a table of the ways between them, and one file a scheme of integration.

mod air;
mod buttons;
mod ground;
pub(crate) mod scheme;
mod transition;

pub use buttons::{Buttons, Direction};
pub use scheme::{Gravity, Moved, Piece};
pub use transition::{Cause, Facts, Mode, Moment, Transition, transition, transitions};

use crate::tuning::Tuning;

/// The speeds of a tick: what they are at its end, and how far they would carry the body. y is down.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Speeds {
    pub(crate) x: Moved,
    pub(crate) y: Moved,
}

/// Step 4 of a tick: each mode has its own way to change the speeds, in a file of its own.
#[inline]
pub(crate) fn speeds(mode: Mode, tuning: &Tuning, velocity: glam::DVec2, buttons: &Buttons) -> Speeds {
    match mode {
        Mode::Ground => ground::speeds(tuning, velocity, buttons),
        Mode::Air => air::speeds(tuning, velocity, buttons),
    }
}
