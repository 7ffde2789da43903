//! On the ground: no gravity, and speeds along x only.

use super::Speeds;
use crate::collide::Floor;
use crate::input::Intent;
use crate::integrate::{self, Moved, RunRate, RunRates};
use crate::nearby::Support;
use crate::terrain::Material;
use crate::tuning::Tuning;

/// On the ground, and what that is.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct Ground {
    pub(crate) support: Support,
    pub(crate) material: Material,
    /// Whether anything that supports is solid, so that nothing can be dropped through.
    pub(crate) solid: bool,
    /// Whether it is a plain tile, or the edge of the map.
    plain: bool,
}

impl Ground {
    /// A plain tile, or the edge of the map.
    pub(crate) const PLAIN: Ground =
        Ground { support: Support::Solid, material: Material::PLAIN, solid: true, plain: true };

    /// Whether it is [`Ground::PLAIN`].
    #[inline]
    pub(crate) fn is_plain(&self) -> bool {
        self.plain
    }

    /// The same with an acceleration along x from outside, px/s^2, against which the run works.
    pub(super) fn speeds_pushed(&self, tuning: &Tuning, speed: f64, intent: Intent, push: f64) -> Speeds {
        let target = intent.steering * tuning.run().top_speed;
        let rates = gripped(tuning.run(), self.material.grip);
        let x = integrate::run_pushed(tuning.scheme(), &rates, (speed, target), push, tuning.tick_seconds());
        Speeds { x, y: Moved::STILL }
    }

    #[inline]
    pub(super) fn speeds(&self, tuning: &Tuning, speed: f64, intent: Intent) -> Speeds {
        let target = intent.steering * tuning.run().top_speed;
        let (seconds, grip) = (tuning.tick_seconds(), self.material.grip);
        let x = if grip == 1.0 {
            integrate::run(tuning.scheme(), tuning.run(), speed, target, seconds)
        } else {
            integrate::run(tuning.scheme(), &gripped(tuning.run(), grip), speed, target, seconds)
        };
        Speeds { x, y: Moved::STILL }
    }
}

impl From<&Floor> for Ground {
    fn from(floor: &Floor) -> Ground {
        let Floor { support, material, solid, .. } = *floor;
        Ground { support, material, solid, plain: support == Support::Solid && material.is_plain() }
    }
}

/// The share of the acceleration, braking and turning that the ground lets through.
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

crate::bytes::coded!(struct Ground { support, material, solid, plain });
