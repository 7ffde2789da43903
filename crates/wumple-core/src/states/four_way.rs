//! Seen from above: no gravity, and speeds along both axes.

use glam::DVec2;

use super::{Outside, Speeds};
use crate::input::{Facing, Intent};
use crate::integrate::{self, Moved, RunRate, RunRates};
use crate::space::float::sqrt;
use crate::tuning::{Diagonal, FourWayRules, Tuning};

/// Walking four ways.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct FourWay {
    /// The four directions, the one pressed last first.
    pub(crate) order: [Facing; 4],
    /// Where it looks.
    pub(crate) facing: Facing,
    /// It slid around a corner in this tick.
    pub(crate) slid: bool,
    /// Something stopped it on its way down in this tick.
    pub(crate) stopped_below: bool,
}

impl FourWay {
    /// Nothing was pressed yet: of two sides, up and left go first.
    pub(crate) const FRESH: FourWay = FourWay {
        order: [Facing::Up, Facing::Left, Facing::Down, Facing::Right],
        facing: Facing::Right,
        slid: false,
        stopped_below: false,
    };

    /// What was held becomes something else.
    pub(crate) fn take(&mut self, before: Intent, now: Intent) {
        for pressed in [Facing::Right, Facing::Left, Facing::Down, Facing::Up] {
            if now.is_held(pressed) && !before.is_held(pressed) {
                let place = self.order.iter().position(|known| *known == pressed).unwrap_or_default();
                self.order[..=place].rotate_right(1);
            }
        }
        self.facing = self.order.into_iter().find(|known| now.is_held(*known)).unwrap_or(self.facing);
    }

    /// Which of two sides was pressed later.
    pub(crate) fn later_of(&self, one: Facing, other: Facing) -> Facing {
        self.order.into_iter().find(|known| [one, other].contains(known)).unwrap_or(one)
    }

    /// The speeds of a tick: each axis by itself, as in a run.
    pub(super) fn speeds(tuning: &Tuning, velocity: DVec2, intent: Intent, outside: Option<Outside>) -> Speeds {
        let Some(rules) = tuning.four_way() else { return Speeds::STILL };
        let target = aimed_at(rules, intent);
        let free = outside.is_some_and(|outside| outside.unbraked);
        let rates =
            RunRates { braking: if free { RunRate::PerSecond(0.0) } else { rules.rates.braking }, ..rules.rates };
        let push = outside.map_or(DVec2::ZERO, |outside| outside.push);
        let along = |speed: f64, target: f64, push: f64| -> Moved {
            let (scheme, seconds) = (tuning.scheme(), tuning.tick_seconds());
            if push == 0.0 {
                integrate::run(scheme, &rates, speed, target, seconds)
            } else {
                integrate::run_pushed(scheme, &rates, (speed, target), push, seconds)
            }
        };
        Speeds { x: along(velocity.x, target.x, push.x), y: along(velocity.y, target.y, push.y) }
    }
}

/// The velocity that is aimed at: of a stick, as far as it is pushed.
fn aimed_at(rules: &FourWayRules, intent: Intent) -> DVec2 {
    let held = DVec2::new(intent.steering, -intent.climbing);
    let squared = held.length_squared();
    let held = if rules.diagonal == Diagonal::Same && squared > 1.0 { held / sqrt(squared) } else { held };
    held * rules.rates.top_speed
}
