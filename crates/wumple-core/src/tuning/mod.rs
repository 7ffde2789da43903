//! The numbers that say how a character moves: their meaning, units and bounds.
//!
//! [`TuningNumbers`] are what someone wrote, in px and seconds. [`Tuning::check`] looks at all of them
//! once; the rest of the crate takes only the checked [`Tuning`].

mod check;
mod error;
mod numbers;
mod rise;
#[cfg(feature = "serde")]
mod unlimited;

pub use check::{Tuning, WallJump, WallRules};
pub use error::{Problem, TuningError, TuningErrors};
pub use numbers::{
    Acceleration, AirNumbers, BodyNumbers, Drop, FallNumbers, Hang, HoldNumbers, HoldWhen, JumpNumbers, JumpShape,
    LadderNumbers, Leave, Pixels, Release, RunNumbers, SlideNumbers, SlideWhen, TuningNumbers, WallJumpNumbers,
    WallNumbers,
};
pub use rise::{Jump, NoShape, RiseRules, Shape};

use crate::space::float::round_half_up;

/// No length or coordinate is greater, px.
pub const LIMIT_LENGTH: f64 = 524_288.0;
/// No speed is greater, px/s.
pub const LIMIT_SPEED: f64 = 1_000_000.0;
/// No acceleration is greater, px/s^2.
pub const LIMIT_ACCELERATION: f64 = 1e12;

/// A length rounded to 1/1024 px, half up, so that sums of such lengths are exact.
pub fn round_length(pixels: f64) -> f64 {
    round_half_up(pixels * 1024.0) / 1024.0
}
