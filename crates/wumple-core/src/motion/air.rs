//! In the air: gravity, the jump under way, and steering.

use glam::DVec2;

use super::scheme::{self, Moved};
use super::{Flight, Intent, Speeds};
use crate::tuning::{RunRate, RunRates, Tuning};

/// What a wall makes of the motion in the air during one tick.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Airborne {
    /// Sliding, or not: no fall is faster, px/s.
    pub(crate) top_speed: f64,
    /// Pushed off a wall a moment ago: nothing brakes.
    pub(crate) locked: bool,
}

#[inline]
pub(super) fn speeds(
    tuning: &Tuning,
    flight: &mut Option<Flight>,
    velocity: DVec2,
    intent: Intent,
    airborne: Airborne,
) -> Speeds {
    let target = intent.steering * tuning.air().top_speed;
    let (scheme, seconds) = (tuning.scheme(), tuning.tick_seconds());
    let x = if airborne.locked {
        let unbraked = RunRates { braking: RunRate::PerSecond(0.0), ..*tuning.air() };
        scheme::run(scheme, &unbraked, velocity.x, target, seconds)
    } else {
        scheme::run(scheme, tuning.air(), velocity.x, target, seconds)
    };
    Speeds { x, y: fall(tuning, flight, velocity.y, intent.down(), airborne.top_speed) }
}

/// One tick of the vertical motion, of a jump or of a plain fall.
#[inline]
fn fall(tuning: &Tuning, flight: &mut Option<Flight>, speed: f64, plunging: bool, top_speed: f64) -> Moved {
    match flight {
        Some(flight) => flight.tick_at_most(tuning, speed, plunging, top_speed),
        None => {
            let phases = tuning.gravity().phases(false, 1.0, plunging).at_most(top_speed);
            scheme::fall(tuning.scheme(), &phases, speed, tuning.tick_seconds())
        }
    }
}

/// How far a body that does not rise falls straight down within so many ticks, through the phases of gravity
/// that follow, px.
pub(crate) fn way_down_within(tuning: &Tuning, flight: Option<Flight>, speed: f64, plunging: bool, ticks: u64) -> f64 {
    let phases = match flight {
        Some(flight) => flight.phases(tuning, plunging),
        None => tuning.gravity().phases(false, 1.0, plunging),
    };
    scheme::way_down(tuning.scheme(), &phases, speed, tuning.tick_seconds(), ticks)
}
