//! The stepped schemes: one speed a tick, taken before or after it has changed.
//!
//! A tick takes its accelerations from the speeds at its start.

use super::{Moved, Phases, RunRate, RunRates, Scheme};
use crate::space::float::ceil;

#[inline]
pub(super) fn moved(scheme: Scheme, before: f64, after: f64, seconds: f64) -> Moved {
    let by = if scheme == Scheme::VelocityFirst { after * seconds } else { before * seconds };
    Moved { speed: after, by }
}

/// One tick in the air.
#[inline]
pub(crate) fn fall(scheme: Scheme, phases: &Phases, speed: f64, seconds: f64) -> Moved {
    let before = speed.min(phases.top_speed());
    let (acceleration, _) = phases.at(before);
    let after = phases.snapped((before + acceleration * seconds).min(phases.top_speed()), seconds);
    moved(scheme, before, after, seconds)
}

/// What the rates that are instant make of a speed at the start of step 4.
#[inline]
pub(super) fn instantly(rates: &RunRates, mut speed: f64, target: f64) -> f64 {
    if speed * target < 0.0 && rates.turning == RunRate::Instant {
        speed = 0.0;
    }
    if speed * target >= 0.0 {
        let rate = if speed.abs() > target.abs() { rates.braking } else { rates.acceleration };
        if rate == RunRate::Instant {
            speed = target;
        }
    }
    speed
}

/// How far so many ticks of a fall from a downward speed go, px: summed phase by phase.
pub(crate) fn way_down(scheme: Scheme, phases: &Phases, speed: f64, seconds: f64, mut ticks: u64) -> f64 {
    let (mut speed, mut way) = (speed.min(phases.top_speed()), 0.0);
    while ticks > 0 {
        let (acceleration, end) = phases.at(speed);
        let step = acceleration * seconds;
        let Some(end) = end else { return way + speed * seconds * ticks as f64 };
        // The ticks that begin in this phase. Of the last of them the speed is held at its top and to its bound.
        let within = (ceil((end - speed - phases.snap(seconds)) / step) - 1.0).clamp(0.0, ticks as f64 - 1.0);
        let first = if scheme == Scheme::VelocityFirst { speed + step } else { speed };
        way += (first * within + step * within * (within - 1.0) * 0.5) * seconds;
        let last = fall(scheme, phases, speed + step * within, seconds);
        way += last.by;
        speed = last.speed;
        ticks -= within as u64 + 1;
    }
    way
}

/// One tick of running towards `target`, px/s. A tick that turns may pass zero at the rate of turning.
#[inline]
pub(crate) fn run(scheme: Scheme, rates: &RunRates, speed: f64, target: f64, seconds: f64) -> Moved {
    let before = instantly(rates, speed, target);
    let rate = if before * target < 0.0 {
        rates.turning
    } else if before.abs() > target.abs() {
        rates.braking
    } else {
        rates.acceleration
    };
    // What is instant has acted already, and acts again at the start of the next tick only.
    let change = if let RunRate::PerSecond(rate) = rate { rate * seconds } else { 0.0 };
    let after = if before < target { (before + change).min(target) } else { (before - change).max(target) };
    moved(scheme, before, after, seconds)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::integrate::Gravity;

    const GRAVITY: Gravity =
        Gravity { rise: 600.0, hang: 300.0, hang_speed: 25.0, fall: 1200.0, plunge: 2400.0, top_speed: 50.0 };

    #[test]
    fn falls_by_hand() {
        use Scheme::{PositionFirst, VelocityFirst};
        // scheme, jumping, speed at the start -> speed at the end, way; ticks of 1/60 s
        let table = [
            (VelocityFirst, false, -100.0, -90.0, -1.5),
            (PositionFirst, false, -100.0, -90.0, -100.0 / 60.0),
            (VelocityFirst, false, -5.0, 5.0, 5.0 / 60.0),
            (VelocityFirst, true, -25.0, -20.0, -20.0 / 60.0),
            (VelocityFirst, true, -25.1, -15.1, -15.1 / 60.0),
            (VelocityFirst, true, 0.0, 5.0, 5.0 / 60.0),
            (VelocityFirst, true, 25.0, 45.0, 0.75),
            (PositionFirst, true, 45.0, 50.0, 0.75),
            (VelocityFirst, false, 0.0, 20.0, 20.0 / 60.0),
            (VelocityFirst, false, -10.0 + 1e-12, 0.0, 0.0),
        ];
        for (scheme, jumping, speed, after, way) in table {
            let moved = fall(scheme, &GRAVITY.phases(jumping, 1.0, false), speed, 1.0 / 60.0);
            assert!((moved.speed - after).abs() < 1e-12 && (moved.by - way).abs() < 1e-12, "{speed}: {moved:?}");
        }
        assert_eq!(fall(VelocityFirst, &GRAVITY.phases(false, 1.0, true), 1.0, 1.0 / 60.0).speed, 41.0);
        assert_eq!(fall(VelocityFirst, &GRAVITY.phases(true, 2.0, false), -20.0, 1.0 / 60.0).speed, -10.0);
    }

    #[test]
    fn a_way_down_is_the_sum_of_its_ticks() {
        let seconds = 1.0 / 60.0;
        for scheme in [Scheme::VelocityFirst, Scheme::PositionFirst] {
            for top_speed in [0.5, 24.0, 50.0, 700.0] {
                let gravity = Gravity { top_speed, ..GRAVITY };
                for jumping in [false, true] {
                    let phases = gravity.phases(jumping, 1.0, false);
                    for start in [0.0, 0.7, 25.0, 26.0, 49.9, 300.0] {
                        let (mut speed, mut way) = (start, 0.0);
                        for ticks in 0..90 {
                            let found = way_down(scheme, &phases, start, seconds, ticks);
                            assert!((found - way).abs() < 1e-9, "{scheme:?} {start} {ticks}: {found}, not {way}");
                            let moved = fall(scheme, &phases, speed, seconds);
                            (speed, way) = (moved.speed, way + moved.by);
                        }
                    }
                }
            }
        }
    }

    #[test]
    fn runs_by_hand() {
        let per = RunRate::PerSecond;
        let rates = |acceleration, braking, turning| RunRates { top_speed: 100.0, acceleration, braking, turning };
        // A turn passes zero at the rate of turning, and stops at the target.
        let turn = run(Scheme::VelocityFirst, &rates(per(60.0), per(60.0), per(600.0)), -4.0, 100.0, 1.0 / 60.0);
        assert_eq!((turn.speed, turn.by), (6.0, 0.1));
        let turn = run(Scheme::PositionFirst, &rates(per(60.0), per(60.0), per(60000.0)), -4.0, 100.0, 0.25);
        assert_eq!((turn.speed, turn.by), (100.0, -1.0));
        // At once, before either moves.
        let instant = rates(RunRate::Instant, RunRate::Instant, RunRate::Instant);
        assert_eq!(run(Scheme::PositionFirst, &instant, -4.0, 100.0, 0.25), Moved { speed: 100.0, by: 25.0 });
        let brake = run(Scheme::VelocityFirst, &rates(per(60.0), per(240.0), per(60.0)), 102.0, 100.0, 0.25);
        assert_eq!((brake.speed, brake.by), (100.0, 25.0));
    }
}
