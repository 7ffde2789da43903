//! On the ground: no gravity, and speeds along x only.

use glam::DVec2;

use super::scheme::{self, Moved};
use super::{Intent, Speeds};
use crate::tuning::Tuning;

#[inline]
pub(super) fn speeds(tuning: &Tuning, velocity: DVec2, intent: Intent) -> Speeds {
    let target = intent.steering * tuning.run().top_speed;
    let x = scheme::run(tuning.scheme(), tuning.run(), velocity.x, target, tuning.tick_seconds());
    Speeds { x, y: Moved::STILL }
}
