//! In the air: gravity, and steering with the rates of the run.

use glam::DVec2;

use super::scheme::exact;
use super::{Buttons, Speeds};
use crate::tuning::Tuning;

#[inline]
pub(super) fn speeds(tuning: &Tuning, velocity: DVec2, buttons: &Buttons) -> Speeds {
    let seconds = tuning.tick_seconds();
    let target = buttons.steering() * tuning.run().top_speed;
    Speeds {
        x: exact::run(tuning.run(), velocity.x, target, seconds),
        y: exact::fall(tuning.gravity(), velocity.y, seconds),
    }
}
