//! How speeds and places follow from accelerations: the ways a game's loop may integrate.

pub(crate) mod exact;
mod gravity;
mod pushed;
mod rates;
pub(crate) mod stepped;

pub use exact::Stretch;
pub use gravity::{Gravity, Phases};
pub(crate) use pushed::{fall as fall_pushed, run as run_pushed};
pub use rates::{RunRate, RunRates};

/// The way a game's loop integrates.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(rename_all = "kebab-case"))]
pub enum Scheme {
    /// Acceleration is constant in pieces: the places do not depend on the length of a tick.
    #[default]
    Exact,
    /// `v += a*dt`, cap, `x += v*dt`.
    VelocityFirst,
    /// `x += v*dt`, `v += a*dt`, cap.
    PositionFirst,
}

impl Scheme {
    /// Whether speeds change once a tick, so that only the ends of ticks are places.
    #[must_use]
    pub fn is_stepped(self) -> bool {
        self != Scheme::Exact
    }
}

/// One axis over one tick.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Moved {
    /// The speed at the end, px/s.
    pub speed: f64,
    /// How far it would carry the body, px.
    pub by: f64,
}

impl Moved {
    /// Neither speed nor way.
    pub const STILL: Moved = Moved { speed: 0.0, by: 0.0 };
}

/// One tick of running towards `target`, px/s.
#[inline]
pub(crate) fn run(scheme: Scheme, rates: &RunRates, speed: f64, target: f64, seconds: f64) -> Moved {
    match scheme {
        Scheme::Exact => exact::run(rates, speed, target, seconds),
        _ => stepped::run(scheme, rates, speed, target, seconds),
    }
}

/// One tick in the air under these phases of gravity.
#[inline]
pub(crate) fn fall(scheme: Scheme, phases: &Phases, speed: f64, seconds: f64) -> Moved {
    match scheme {
        Scheme::Exact => exact::fall(phases, speed, seconds),
        _ => stepped::fall(scheme, phases, speed, seconds),
    }
}

/// How far so many ticks of a fall from a downward speed go, px.
pub(crate) fn way_down(scheme: Scheme, phases: &Phases, speed: f64, seconds: f64, ticks: u64) -> f64 {
    match scheme {
        Scheme::Exact => exact::fall(phases, speed, seconds * ticks as f64).by,
        _ => stepped::way_down(scheme, phases, speed, seconds, ticks),
    }
}
