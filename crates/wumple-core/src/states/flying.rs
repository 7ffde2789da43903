//! Flying: what a thrust does beside gravity, and how fast a body flies at most.

use glam::DVec2;

use super::{Air, Flight, Outside, Speeds};
use crate::input::Intent;
use crate::integrate::{self, Moved, Scheme};
use crate::space::float::sqrt;
use crate::tuning::Tuning;

/// The speeds of a tick in the air of a body that can fly.
pub(super) fn speeds(air: &mut Air, tuning: &Tuning, velocity: DVec2, intent: Intent, outside: Outside) -> Speeds {
    let velocity = shortened(tuning, velocity);
    let lift = tuning.flight().filter(|_| outside.thrusts).map_or(0.0, |flight| flight.lift);
    let rising = air.flight.filter(|_| velocity.y < 0.0);
    let lifted = Outside { push: outside.push - DVec2::new(0.0, lift), ..outside };
    let mut speeds = match rising {
        // It goes on as if there were no thrust; only a wind from outside acts on it.
        Some(_) => air.speeds_driven(tuning, velocity, intent, outside),
        None => {
            if lift > 0.0 {
                air.flight = None;
            }
            air.speeds_driven(tuning, velocity, intent, lifted)
        }
    };
    if let Some(jump) = rising
        && lift > 0.0
        && outside.push.y == 0.0
        && let Some(y) = thrust_after_rise(tuning, jump, velocity.y, intent.down(), lifted.push.y)
    {
        air.flight = None;
        speeds.y = y;
    }
    at_most_top_speed(tuning, speeds)
}

/// A velocity no greater than the top speed of its flight: shortened, its direction kept.
fn shortened(tuning: &Tuning, velocity: DVec2) -> DVec2 {
    let Some(flight) = tuning.flight() else { return velocity };
    let squared = velocity.length_squared();
    if squared <= flight.top_speed * flight.top_speed {
        return velocity;
    }
    velocity * (flight.top_speed / sqrt(squared))
}

/// The same at the end of a tick. Where the speed at its end is the one that carries the body, that is less far.
fn at_most_top_speed(tuning: &Tuning, speeds: Speeds) -> Speeds {
    let after = DVec2::new(speeds.x.speed, speeds.y.speed);
    let held = shortened(tuning, after);
    if held == after {
        return speeds;
    }
    let moved = |before: Moved, speed: f64| match tuning.scheme() {
        Scheme::VelocityFirst => Moved { speed, by: speed * tuning.tick_seconds() },
        _ => Moved { speed, ..before },
    };
    Speeds { x: moved(speeds.x, held.x), y: moved(speeds.y, held.y) }
}

/// One tick of a jump whose rise ends within it, under `exact`: from there on the thrust acts, and the jump has ended. `None`
/// where it rises on, and in the stepped schemes, which take their accelerations from the start of a tick.
fn thrust_after_rise(tuning: &Tuning, mut jump: Flight, speed: f64, plunging: bool, push: f64) -> Option<Moved> {
    if tuning.scheme().is_stepped() {
        return None;
    }
    let (mut seconds, mut by) = (tuning.tick_seconds(), 0.0);
    let after = jump.stretches(tuning, speed, |stretch| {
        if stretch.speed < 0.0 {
            seconds -= stretch.seconds;
            by += stretch.way();
        }
    });
    if after < 0.0 {
        return None;
    }
    let phases = tuning.gravity().phases(false, 1.0, plunging);
    let moved = integrate::fall_pushed(tuning.scheme(), &phases, push, 0.0, seconds.max(0.0));
    Some(Moved { speed: moved.speed, by: by + moved.by })
}
