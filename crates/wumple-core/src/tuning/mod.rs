//! The numbers that say how a character moves: their meaning, units and bounds.
//!
//! [`TuningNumbers`] are what someone wrote, in px and seconds, a file a section, each with its keys. [`Tuning::check`]
//! looks at all of them once; the rest of the crate takes only the checked [`Tuning`].

mod body;
mod check;
mod checked;
mod choice;
mod error;
mod fall;
mod feels;
mod flight;
mod four_way;
mod jump;
mod keys;
mod ladder;
mod numbers;
mod rise;
mod run;
#[cfg(feature = "serde")]
mod unlimited;
mod usual;
mod wall;

pub use body::BodyNumbers;
pub use checked::{FourWayRules, Tuning, WallJump, WallRules};
pub use choice::Choice;
pub use error::{Problem, TuningError, TuningErrors};
pub use fall::FallNumbers;
pub use feels::FeelNumbers;
pub use flight::{FlightBy, FlightNumbers, SteerWhen};
pub use four_way::{Diagonal, FourWayNumbers};
pub use jump::{Hang, JumpNumbers, JumpShape, OnLanding, Release};
pub use keys::{Bounds, Key, KeyDefault, KeyKind, Slot, keys};
pub use ladder::LadderNumbers;
pub use numbers::{DropRule, Pixels, TakenAlong, TuningNumbers};
pub use rise::{Jump, RiseRules, ShapeError, TakeOff};
pub use run::{Acceleration, AirNumbers, AtWall, RunNumbers, Steady};
pub use wall::{HoldNumbers, HoldWhen, SlideNumbers, SlideWhen, WallJumpNumbers, WallNumbers};

use crate::space::float::round_half_up;

/// No length or coordinate is greater, px.
pub const LIMIT_LENGTH: f64 = 524_288.0;
/// No speed is greater, px/s.
pub const LIMIT_SPEED: f64 = 1_000_000.0;
/// No acceleration is greater, px/s^2.
pub const LIMIT_ACCELERATION: f64 = 1e12;

/// A length rounded to 1/1024 px, half up, so that sums of such lengths are exact.
#[must_use]
pub fn round_length(pixels: f64) -> f64 {
    round_half_up(pixels * 1024.0) / 1024.0
}
