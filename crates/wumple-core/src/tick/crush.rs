//! What ends a rise, or everything: platforms that come up faster, and pushes that terrain refuses.

use glam::DVec2;

use super::turn::Turn;
use super::{Decision, Event, Listener};
use crate::collide::Surroundings;
use crate::platforms::{Mover, MoverId, Movers};
use crate::terrain::Terrain;

/// Terrain refuses a push: the platform passes through the body.
pub(super) fn be_crushed<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>, mover: MoverId) {
    turn.note(|| Decision::Crushed);
    stop_crushed(turn, Event::Crushed(mover));
}

fn stop_crushed<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>, event: Event) {
    turn.tell(event);
    turn.carried.crushed = true;
    turn.velocity = DVec2::ZERO;
    if let Some(air) = turn.body.mode.air_mut() {
        air.flight = None;
    }
}

/// A terrain that changed between ticks may have become solid where the body is.
#[cold]
pub(super) fn be_crushed_by_terrain<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>) {
    let around = Surroundings { movers: &Movers::none(), ..turn.around() };
    if !around.fits(turn.feet) {
        turn.note(|| Decision::CrushedByTerrain);
        stop_crushed(turn, Event::CrushedByTerrain);
    }
}

/// Whether a platform goes up strictly faster than the body did when the tick began.
pub(super) fn is_faster<T: Terrain, L: Listener>(turn: &Turn<'_, T, L>, mover: &Mover) -> bool {
    -mover.by().y * turn.body.tuning.rate() > -turn.start.velocity.y
}

/// A platform came up faster than the body rises: that ends the rise.
pub(super) fn be_caught<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>, mover: MoverId) {
    let rise = -turn.velocity.y;
    turn.note(|| Decision::Caught { rise });
    turn.velocity.y = 0.0;
    (turn.travelled.caught, turn.travelled.landed) = (Some(mover), true);
    turn.tell(Event::Caught(mover));
}
