//! What a body takes along of the speed of what it rode on.

use glam::DVec2;

use super::turn::Turn;
use super::{Decision, Listener};
use crate::terrain::Terrain;
use crate::tuning::{LIMIT_SPEED, TakenAlong};

/// The speed that the body takes along when it leaves what it rode on: never a downward one.
pub(super) fn speed_taken_along<T: Terrain, L: Listener>(turn: &Turn<'_, T, L>) -> DVec2 {
    let leave = turn.body.tuning.leave_with();
    let rides = turn.carried.rides.filter(|_| leave != TakenAlong::Nothing);
    let Some(mover) = rides.and_then(|from| turn.scene.movers.mover(from)) else { return DVec2::ZERO };
    let speed = mover.by() * turn.body.tuning.rate();
    DVec2::new(speed.x, if leave == TakenAlong::All { speed.y.min(0.0) } else { 0.0 })
}

/// Adds the speed of a platform to the body's own.
pub(super) fn take_along<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>, speed: DVec2) {
    if speed != DVec2::ZERO {
        let held = DVec2::splat(LIMIT_SPEED);
        turn.velocity = (turn.velocity + speed).clamp(-held, held);
        turn.note(|| Decision::TookAlong { right: speed.x, up: -speed.y });
    }
}
