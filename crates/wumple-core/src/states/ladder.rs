//! On a ladder: no gravity; what is held is the speed.

use super::{Speeds, commanded};
use crate::collide::Ladder;
use crate::input::Intent;
use crate::integrate::Moved;
use crate::tuning::Tuning;

/// On a ladder.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct OnLadder {
    pub(crate) ladder: Ladder,
}

impl OnLadder {
    /// The speeds of a tick of a body at `x`, where the ladder's middle is at `centre`, px. Gliding to the middle is
    /// nobody's command, and no speed.
    pub(super) fn speeds(tuning: &Tuning, intent: Intent, x: f64, centre: f64) -> Speeds {
        let Some(ladder) = tuning.ladder() else { return Speeds::STILL };
        let seconds = tuning.tick_seconds();
        let side = intent.steering * ladder.side_speed;
        let glide = if ladder.centre && intent.steering == 0.0 {
            let most = ladder.side_speed * seconds;
            (centre - x).clamp(-most, most)
        } else {
            0.0
        };
        let climb = commanded(intent.climbing, ladder.up_speed, ladder.down_speed);
        Speeds { x: Moved { speed: side, by: side * seconds + glide }, y: Moved { speed: climb, by: climb * seconds } }
    }
}
