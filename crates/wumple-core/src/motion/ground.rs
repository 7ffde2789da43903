//! On the ground: no gravity, and speeds along x only.

use super::scheme::{self, Moved};
use super::{Intent, Speeds};
use crate::tuning::{RunRate, RunRates, Tuning};

/// `grip` is the share of the acceleration, braking and turning that the ground lets through.
#[inline]
pub(super) fn speeds(tuning: &Tuning, speed: f64, intent: Intent, grip: f64) -> Speeds {
    let target = intent.steering * tuning.run().top_speed;
    let seconds = tuning.tick_seconds();
    let x = if grip == 1.0 {
        scheme::run(tuning.scheme(), tuning.run(), speed, target, seconds)
    } else {
        scheme::run(tuning.scheme(), &gripped(tuning.run(), grip), speed, target, seconds)
    };
    Speeds { x, y: Moved::STILL }
}

fn gripped(rates: &RunRates, grip: f64) -> RunRates {
    let scaled = |rate| match rate {
        RunRate::Instant => RunRate::Instant,
        RunRate::PerSecond(rate) => RunRate::PerSecond(rate * grip),
    };
    RunRates {
        acceleration: scaled(rates.acceleration),
        braking: scaled(rates.braking),
        turning: scaled(rates.turning),
        ..*rates
    }
}
