//! Crumbling: a platform that shakes under the first foot, sinks and is gone.

use super::route::smooth;
use crate::space::float::gate_ticks;

/// How a platform crumbles, as written: px and seconds.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub struct CrumbleNumbers {
    /// How long it shakes after it first bore someone it crumbles under, s, from 0 up.
    pub after: f64,
    /// How far it sinks then, px, from 0 up.
    pub sink: f64,
    /// How long the sinking takes, s, from 0 up.
    pub over: f64,
    /// How long it is gone, s, from 0 up; `None` for ever.
    pub back_after: Option<f64>,
}

/// The same in whole ticks.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) struct Crumble {
    after: u64,
    pub(super) sink: f64,
    over: u64,
    back_after: Option<u64>,
}

/// What a platform that may crumble is doing.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
#[non_exhaustive]
pub enum Crumbling {
    /// As built.
    Whole,
    /// It bore a character a moment ago, and will sink.
    Shaking,
    /// It goes down, and bears what is on it.
    Sinking,
    /// It is not there.
    Gone,
}

impl Crumble {
    pub(super) fn new(numbers: &CrumbleNumbers, rate: f64) -> Crumble {
        Crumble {
            after: gate_ticks(numbers.after, rate),
            sink: numbers.sink,
            over: gate_ticks(numbers.over, rate),
            back_after: numbers.back_after.map(|seconds| gate_ticks(seconds, rate)),
        }
    }

    /// How many ticks after it first bore someone it crumbles under it is gone: not in that tick itself.
    fn gone_after(&self) -> u64 {
        (self.after + self.over).max(1)
    }

    pub(super) fn is_gone(&self, ticks: u64) -> bool {
        ticks >= self.gone_after()
    }

    /// Whether it may come back, if nobody is in its way.
    pub(super) fn is_back_due(&self, ticks: u64) -> bool {
        self.back_after.is_some_and(|after| ticks >= self.gone_after() + after)
    }

    pub(super) fn phase(&self, ticks: u64) -> Crumbling {
        if self.is_gone(ticks) {
            Crumbling::Gone
        } else if ticks <= self.after {
            Crumbling::Shaking
        } else {
            Crumbling::Sinking
        }
    }

    /// How far it has sunk so many ticks after it first bore someone it crumbles under, px.
    pub(super) fn sunk(&self, ticks: u64) -> f64 {
        if ticks <= self.after || self.over == 0 {
            return 0.0;
        }
        let share = (ticks - self.after) as f64 / self.over as f64;
        self.sink * smooth(share.min(1.0))
    }
}
