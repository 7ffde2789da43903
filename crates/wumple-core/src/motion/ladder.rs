//! On a ladder: no gravity; what is held is the speed.

use super::scheme::Moved;
use super::{Intent, Speeds, commanded};
use crate::tuning::{LadderNumbers, Tuning};

/// The speeds of a tick of a body at `x` on a ladder whose middle is at `centre`, px. Gliding to the
/// middle is nobody's command, and no speed.
pub(super) fn speeds(tuning: &Tuning, ladder: &LadderNumbers, intent: Intent, x: f64, centre: f64) -> Speeds {
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
