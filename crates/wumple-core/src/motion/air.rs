//! In the air: gravity, the jump under way, and steering.

use glam::DVec2;

use super::scheme::{self, Moved};
use super::{Flight, Intent, Speeds};
use crate::tuning::Tuning;

#[inline]
pub(super) fn speeds(tuning: &Tuning, flight: &mut Option<Flight>, velocity: DVec2, intent: Intent) -> Speeds {
    let target = intent.steering * tuning.air().top_speed;
    Speeds {
        x: scheme::run(tuning.scheme(), tuning.air(), velocity.x, target, tuning.tick_seconds()),
        y: fall(tuning, flight, velocity.y, intent.down),
    }
}

/// One tick of the vertical motion, of a jump or of a plain fall.
#[inline]
fn fall(tuning: &Tuning, flight: &mut Option<Flight>, speed: f64, plunging: bool) -> Moved {
    match flight {
        Some(flight) => flight.tick(tuning, speed, plunging),
        None => {
            let phases = tuning.gravity().phases(false, 1.0, plunging);
            scheme::fall(tuning.scheme(), &phases, speed, tuning.tick_seconds())
        }
    }
}

/// How far the body falls straight down within so many ticks, as gravity is now, px.
pub(crate) fn way_down_within(tuning: &Tuning, flight: Option<Flight>, speed: f64, plunging: bool, ticks: u64) -> f64 {
    let (mut flight, mut speed, mut by) = (flight, speed, 0.0);
    for _ in 0..ticks {
        let moved = fall(tuning, &mut flight, speed, plunging);
        (speed, by) = (moved.speed, by + moved.by);
    }
    by
}
