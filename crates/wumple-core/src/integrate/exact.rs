//! The `exact` scheme: acceleration is constant in stretches, and a tick is cut where a stretch ends.
//!
//! Each stretch moves `v*t + a*t*t/2`, so the places do not depend on the length of a tick.

use super::{Moved, Phases, RunRate, RunRates};

/// A stretch of time with one acceleration.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Stretch {
    /// How long it lasts, s.
    pub seconds: f64,
    /// The speed at its start, px/s.
    pub speed: f64,
    /// px/s^2.
    pub acceleration: f64,
}

impl Stretch {
    /// How far it goes, px.
    #[inline]
    #[must_use]
    pub fn way(&self) -> f64 {
        self.way_after(self.seconds)
    }

    /// How far it has gone after some of its time, px: `v*t + a*t*t/2`.
    #[inline]
    #[must_use]
    pub fn way_after(&self, seconds: f64) -> f64 {
        self.speed * seconds + self.acceleration * seconds * seconds * 0.5
    }
}

impl Phases {
    /// Cuts `seconds` in the air, from a downward `speed`, into stretches of constant acceleration, and
    /// returns the speed at their end. A speed that ends within `snap` px/s of the end of its phase is
    /// set to it.
    #[inline]
    pub fn stretches(&self, mut speed: f64, mut seconds: f64, snap: f64, mut each: impl FnMut(Stretch)) -> f64 {
        speed = speed.min(self.top_speed());
        loop {
            let (acceleration, end) = self.at(speed);
            let after = speed + acceleration * seconds;
            match end {
                // A stretch that the tick ends with, as near as noise, leaves none for the next phase.
                Some(end) if (after - end).abs() <= snap => {
                    each(Stretch { seconds, speed, acceleration });
                    return end;
                }
                Some(end) if after > end => {
                    let stretch = Stretch { seconds: ((end - speed) / acceleration).min(seconds), speed, acceleration };
                    each(stretch);
                    speed = end;
                    seconds -= stretch.seconds;
                    if seconds <= 0.0 {
                        return speed;
                    }
                }
                _ => {
                    each(Stretch { seconds, speed, acceleration });
                    return after;
                }
            }
        }
    }
}

/// One tick in the air.
#[inline]
pub(crate) fn fall(phases: &Phases, speed: f64, seconds: f64) -> Moved {
    let mut by = 0.0;
    let speed = phases.stretches(speed, seconds, phases.snap(seconds), |stretch| by += stretch.way());
    Moved { speed, by }
}

/// How near to its end, as a share of the way there, a change of the run speed is counted as there: so that
/// the end of a tick, met by a hair or not, decides nothing.
pub(super) const NEAR: f64 = 1e-9;

/// One tick of running towards `target`, px/s: turning up to zero, then accelerating up to the target,
/// or braking down to it. What is instant acts where it is due, within the tick too.
#[inline]
pub(crate) fn run(rates: &RunRates, mut speed: f64, target: f64, mut seconds: f64) -> Moved {
    let mut by = 0.0;
    while speed != target {
        let (rate, end) = if speed * target < 0.0 {
            (rates.turning, 0.0)
        } else if speed.abs() > target.abs() {
            (rates.braking, target)
        } else {
            (rates.acceleration, target)
        };
        let RunRate::PerSecond(rate) = rate else {
            speed = end;
            continue;
        };
        let (change, acceleration) = ((end - speed).abs(), if end > speed { rate } else { -rate });
        if change > rate * seconds * (1.0 + NEAR) {
            by += speed * seconds + acceleration * seconds * seconds * 0.5;
            return Moved { speed: speed + acceleration * seconds, by };
        }
        let until = (change / rate).min(seconds);
        by += speed * until + acceleration * until * until * 0.5;
        speed = end;
        seconds -= until;
    }
    Moved { speed, by: by + speed * seconds }
}

#[cfg(test)]
mod tests;
