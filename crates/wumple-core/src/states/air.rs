//! In the air: gravity, the jump under way, and steering.

use core::num::NonZeroU64;

use glam::DVec2;

use super::{Flight, Outside, Speeds};
use crate::input::{Direction, Intent};
use crate::integrate::{self, Moved, RunRate, RunRates};
use crate::tuning::Tuning;

/// In the air.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub(crate) struct Air {
    /// The jump under way, if it is there because of one.
    pub(crate) flight: Option<Flight>,
    /// The first tick without the ground that it walked off.
    pub(crate) lost_ground_at: Option<NonZeroU64>,
    /// The side of the wall that it slides down along.
    pub(crate) sliding: Option<Direction>,
    pub(crate) lock: Option<SteerLock>,
    pub(crate) bump: Option<Bump>,
}

/// The direction back to a wall just jumped off counts as none.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct SteerLock {
    /// Away from the wall.
    pub(crate) push: Direction,
    /// The last tick in which it does.
    pub(crate) until: u64,
}

/// A speed that a wall took.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct Bump {
    pub(crate) tick: u64,
    pub(crate) speed: f64,
}

impl Air {
    /// With a jump under way.
    pub(crate) fn with(self, flight: Flight) -> Air {
        Air { flight: Some(flight), lost_ground_at: None, ..self }
    }

    /// Off ground that was lost in this tick.
    pub(crate) fn off_ground(tick: u64) -> Air {
        Air { lost_ground_at: NonZeroU64::new(tick), ..Air::default() }
    }

    /// For how many ticks the ground that was walked off has been lost.
    pub(crate) fn without_ground_for(&self, tick: u64) -> Option<u64> {
        self.lost_ground_at.map(|lost| tick - lost.get())
    }

    #[inline]
    pub(super) fn speeds(&mut self, tuning: &Tuning, velocity: DVec2, intent: Intent) -> Speeds {
        let target = intent.steering * tuning.air().top_speed;
        let (scheme, seconds) = (tuning.scheme(), tuning.tick_seconds());
        let x = if self.lock.is_some() {
            // Pushed off a wall a moment ago, nothing brakes.
            integrate::run(scheme, &unbraked(tuning.air()), velocity.x, target, seconds)
        } else {
            integrate::run(scheme, tuning.air(), velocity.x, target, seconds)
        };
        let top_speed = self.top_speed(tuning);
        Speeds { x, y: fall(tuning, &mut self.flight, velocity.y, intent.down(), top_speed) }
    }

    /// The same with something that acts from outside.
    pub(super) fn speeds_driven(
        &mut self,
        tuning: &Tuning,
        velocity: DVec2,
        intent: Intent,
        Outside { push, unbraked: launched, .. }: Outside,
    ) -> Speeds {
        if push == DVec2::ZERO && !launched {
            return self.speeds(tuning, velocity, intent);
        }
        let target = intent.steering * tuning.air().top_speed;
        let free = self.lock.is_some() || launched;
        let rates = if free { unbraked(tuning.air()) } else { *tuning.air() };
        let x = integrate::run_pushed(tuning.scheme(), &rates, (velocity.x, target), push.x, tuning.tick_seconds());
        let phases = match &self.flight {
            Some(flight) => flight.phases(tuning, intent.down()),
            None => tuning.gravity().phases(false, 1.0, intent.down()),
        };
        let phases = phases.at_most(self.top_speed(tuning));
        let (scheme, seconds) = (tuning.scheme(), tuning.tick_seconds());
        // While a jump is sustained, neither gravity nor a push has a part in it.
        let kept = self.flight.as_mut().map_or(0.0, |flight| flight.keep_speed(tuning, velocity.y));
        let moved = integrate::fall_pushed(scheme, &phases, push.y, velocity.y, seconds - kept);
        let y = match kept >= seconds {
            true => Moved { speed: velocity.y, by: velocity.y * seconds },
            false => Moved { speed: moved.speed, by: velocity.y * kept + moved.by },
        };
        Speeds { x, y }
    }

    /// The fastest that it falls, px/s, if something slows it down.
    #[inline]
    fn top_speed(&self, tuning: &Tuning) -> f64 {
        match (self.sliding, &tuning.wall().slide) {
            (Some(_), Some(slide)) => slide.top_speed,
            _ => f64::INFINITY,
        }
    }
}

fn unbraked(rates: &RunRates) -> RunRates {
    RunRates { braking: RunRate::PerSecond(0.0), ..*rates }
}

/// One tick of the vertical motion, of a jump or of a plain fall.
#[inline]
fn fall(tuning: &Tuning, flight: &mut Option<Flight>, speed: f64, plunging: bool, top_speed: f64) -> Moved {
    match flight {
        Some(flight) => flight.tick_at_most(tuning, speed, plunging, top_speed),
        None => {
            let phases = tuning.gravity().phases(false, 1.0, plunging).at_most(top_speed);
            integrate::fall(tuning.scheme(), &phases, speed, tuning.tick_seconds())
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
    integrate::way_down(tuning.scheme(), &phases, speed, tuning.tick_seconds(), ticks)
}
