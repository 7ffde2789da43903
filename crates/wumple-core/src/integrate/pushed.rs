//! Speeds on which something acts from outside, such as a wind: gravity, and the run, work with it or against it.
//!
//! Between two bounds of speed the acceleration is constant. A bound towards which both of its sides lead is kept: so a
//! body stands in a wind that is weaker than its braking.

use super::exact::NEAR;
use super::stepped::{instantly, moved};
use super::{Moved, Phases, RunRate, RunRates, Scheme};

/// One tick of running towards a target, px/s, with an acceleration from outside, px/s^2.
pub(crate) fn run(scheme: Scheme, rates: &RunRates, (speed, target): (f64, f64), push: f64, seconds: f64) -> Moved {
    if scheme.is_stepped() {
        return run_stepped(scheme, rates, (speed, target), push, seconds);
    }
    let per_second = |rate| match rate {
        RunRate::Instant => f64::INFINITY,
        RunRate::PerSecond(rate) => rate,
    };
    let [acceleration, braking, turning] = [rates.acceleration, rates.braking, rates.turning].map(per_second);
    let (bounds, own) = if target > 0.0 {
        ([0.0, target], [turning, acceleration, -braking])
    } else if target < 0.0 {
        ([target, 0.0], [braking, -acceleration, -turning])
    } else {
        ([0.0, 0.0], [braking, 0.0, -braking])
    };
    Steps { bounds: &bounds, accelerations: &own.map(|own| own + push) }.advance(speed, seconds)
}

/// The outside acts first, then the run's own rate, towards the target and no further.
fn run_stepped(scheme: Scheme, rates: &RunRates, (speed, target): (f64, f64), push: f64, seconds: f64) -> Moved {
    let before = instantly(rates, speed, target);
    let pushed = before + push * seconds;
    let rate = if before * target < 0.0 {
        rates.turning
    } else if pushed.abs() > target.abs() || target == 0.0 {
        rates.braking
    } else {
        rates.acceleration
    };
    let change = match rate {
        RunRate::Instant => f64::INFINITY,
        RunRate::PerSecond(rate) => rate * seconds,
    };
    let after = if pushed < target { (pushed + change).min(target) } else { (pushed - change).max(target) };
    moved(scheme, before, after, seconds)
}

/// One tick in the air from a downward speed, px/s, under gravity and an acceleration beside it, px/s^2, downward.
pub(crate) fn fall(scheme: Scheme, phases: &Phases, push: f64, speed: f64, seconds: f64) -> Moved {
    let (bounds, accelerations) = phases.steps_pushed(push);
    let steps = Steps { bounds: &bounds, accelerations: &accelerations };
    let before = speed.min(phases.top_speed());
    if scheme.is_stepped() {
        let after = phases.snapped((before + steps.at(before) * seconds).min(phases.top_speed()), seconds);
        return moved(scheme, before, after, seconds);
    }
    steps.advance(before, seconds)
}

/// Which accelerations act at which speeds.
struct Steps<'a> {
    /// In order; those that are equal count as one.
    bounds: &'a [f64],
    /// Below the first bound, between each and the next, and above the last. What is infinite acts at once.
    accelerations: &'a [f64],
}

impl Steps<'_> {
    /// The acceleration at a speed: 0 at a bound that is kept.
    fn at(&self, speed: f64) -> f64 {
        let below = self.accelerations[self.bounds.iter().filter(|bound| **bound < speed).count()];
        let above = self.accelerations[self.bounds.iter().filter(|bound| **bound <= speed).count()];
        if above > 0.0 {
            above
        } else if above < 0.0 && below < 0.0 {
            below
        } else {
            0.0
        }
    }

    /// The next bound on the way up or down from a speed.
    fn next(&self, speed: f64, up: bool) -> Option<f64> {
        let mut bounds = self.bounds.iter().copied();
        if up { bounds.find(|bound| *bound > speed) } else { bounds.rfind(|bound| *bound < speed) }
    }

    fn advance(&self, mut speed: f64, mut seconds: f64) -> Moved {
        let mut by = 0.0;
        // It goes from bound to bound in one direction.
        for _ in 0..=self.bounds.len() + 1 {
            let acceleration = self.at(speed);
            let next = self.next(speed, acceleration > 0.0).filter(|_| acceleration != 0.0);
            let Some(bound) = next else {
                by += speed * seconds + acceleration * seconds * seconds * 0.5;
                return Moved { speed: speed + acceleration * seconds, by };
            };
            let change = (bound - speed).abs();
            if change > acceleration.abs() * seconds * (1.0 + NEAR) {
                by += speed * seconds + acceleration * seconds * seconds * 0.5;
                return Moved { speed: speed + acceleration * seconds, by };
            }
            if acceleration.is_finite() {
                let until = (change / acceleration.abs()).min(seconds);
                by += speed * until + acceleration * until * until * 0.5;
                seconds -= until;
            }
            speed = bound;
        }
        Moved { speed, by: by + speed * seconds }
    }
}

#[cfg(test)]
mod tests {
    use alloc::vec;

    use proptest::prelude::*;

    use super::*;
    use crate::integrate::{self, Gravity};

    const SCHEMES: [Scheme; 3] = [Scheme::Exact, Scheme::VelocityFirst, Scheme::PositionFirst];

    fn rates(acceleration: f64, braking: f64, turning: f64) -> RunRates {
        let [acceleration, braking, turning] = [acceleration, braking, turning].map(RunRate::PerSecond);
        RunRates { top_speed: 100.0, acceleration, braking, turning }
    }

    #[test]
    fn a_body_stands_in_a_wind_that_is_weaker_than_its_braking() {
        let rates = rates(600.0, 400.0, 900.0);
        for scheme in SCHEMES {
            let stands = |push| run(scheme, &rates, (0.0, 0.0), push, 0.1);
            assert_eq!(stands(399.0), Moved::STILL, "{scheme:?}");
            assert_eq!(stands(-399.0), Moved::STILL);
            assert!((stands(500.0).speed - 10.0).abs() < 1e-9 && (stands(-500.0).speed + 10.0).abs() < 1e-9);
            // Against the wind at full speed, as long as the run is stronger; with it no faster than that either.
            assert_eq!(run(scheme, &rates, (100.0, 100.0), -500.0, 0.1).speed, 100.0);
            assert_eq!(run(scheme, &rates, (100.0, 100.0), 300.0, 0.1).speed, 100.0);
            assert!((run(scheme, &rates, (100.0, 100.0), -700.0, 0.1).speed - 90.0).abs() < 1e-9);
            assert!((run(scheme, &rates, (100.0, 100.0), 500.0, 0.1).speed - 110.0).abs() < 1e-9);
            // Instant rates are stronger than any wind.
            let instant = RunRates {
                acceleration: RunRate::Instant,
                braking: RunRate::Instant,
                turning: RunRate::Instant,
                ..rates
            };
            assert_eq!(run(scheme, &instant, (0.0, 100.0), -5000.0, 0.1).speed, 100.0);
            assert_eq!(run(scheme, &instant, (50.0, 0.0), -5000.0, 0.1).speed, 0.0);
        }
    }

    const GRAVITY: Gravity =
        Gravity { rise: 600.0, hang: 300.0, hang_speed: 25.0, fall: 1200.0, plunge: 2400.0, top_speed: 250.0 };

    #[test]
    fn pushes_work_beside_gravity_and_the_top_speed_holds() {
        let fall = |push, speed| fall(Scheme::Exact, &GRAVITY.phases(false, 1.0, false), push, speed, 0.1);
        assert!((fall(-1200.0, 100.0).speed - 100.0).abs() < 1e-9, "as strong as gravity: it floats");
        assert!((fall(-1500.0, 100.0).speed - 70.0).abs() < 1e-9, "stronger: it is slowed down");
        assert_eq!(fall(500.0, 240.0).speed, 250.0);
        assert_eq!(fall(-500.0, 250.0).speed, 250.0, "weaker than gravity, it falls as fast as it may");
        assert!((fall(-2000.0, 250.0).speed - 170.0).abs() < 1e-9);
        assert!((fall(-300.0, -100.0).speed - -70.0).abs() < 1e-9, "a rise under less gravity");
    }

    proptest! {
        /// The slow obvious way: a great many small steps come to the same speed and place.
        #[test]
        fn many_small_steps_agree(
            speed in -400.0f64..400.0,
            target in prop::sample::select(vec![-120.0, 0.0, 120.0]),
            push in -1500.0f64..1500.0,
            own in (100.0f64..1500.0, 100.0f64..1500.0, 100.0f64..1500.0),
            seconds in 0.01f64..0.4,
        ) {
            let rates = rates(own.0, own.1, own.2);
            let moved = run(Scheme::Exact, &rates, (speed, target), push, seconds);
            let steps = 40_000;
            let (mut v, mut x, dt) = (speed, 0.0, seconds / f64::from(steps));
            for _ in 0..steps {
                let after = run(Scheme::VelocityFirst, &rates, (v, target), push, dt).speed;
                x += (v + after) * 0.5 * dt;
                v = after;
            }
            let late = 4.0 * 3000.0 * dt;
            prop_assert!((moved.speed - v).abs() < late && (moved.by - x).abs() < late * seconds, "{moved:?}, not {v} {x}");
            let moved = fall(Scheme::Exact, &GRAVITY.phases(true, 1.0, false), push, speed, seconds);
            let (mut v, mut y) = (speed.min(250.0), 0.0);
            for _ in 0..steps {
                let after = fall(Scheme::VelocityFirst, &GRAVITY.phases(true, 1.0, false), push, v, dt).speed;
                y += (v + after) * 0.5 * dt;
                v = after;
            }
            prop_assert!((moved.speed - v).abs() < late && (moved.by - y).abs() < late * seconds, "{moved:?}, not {v} {y}");
        }

        /// Cutting a stretch of time anywhere changes nothing.
        #[test]
        fn two_halves_are_the_whole(speed in -400.0f64..400.0, push in -1500.0f64..1500.0, cut in 0.0f64..1.0) {
            let rates = rates(700.0, 450.0, 1300.0);
            let whole = run(Scheme::Exact, &rates, (speed, 100.0), push, 0.4);
            let first = run(Scheme::Exact, &rates, (speed, 100.0), push, 0.4 * cut);
            let second = run(Scheme::Exact, &rates, (first.speed, 100.0), push, 0.4 - 0.4 * cut);
            prop_assert!((whole.by - first.by - second.by).abs() < 1e-6 && (whole.speed - second.speed).abs() < 1e-6);
        }

        /// Nothing from outside is as without it.
        #[test]
        fn no_push_is_none(speed in -400.0f64..400.0, target in -120.0f64..120.0, scheme in prop::sample::select(SCHEMES.to_vec())) {
            let rates = rates(700.0, 450.0, 1300.0);
            let (with, without) = (
                run(scheme, &rates, (speed, target), 0.0, 1.0 / 60.0),
                integrate::run(scheme, &rates, speed, target, 1.0 / 60.0),
            );
            prop_assert!((with.speed - without.speed).abs() < 1e-9 && (with.by - without.by).abs() < 1e-9);
            let phases = GRAVITY.phases(true, 1.0, false);
            let (with, without) = (
                fall(scheme, &phases, 0.0, speed, 1.0 / 60.0),
                integrate::fall(scheme, &phases, speed, 1.0 / 60.0),
            );
            prop_assert!((with.speed - without.speed).abs() < 1e-6 && (with.by - without.by).abs() < 1e-6);
        }
    }
}
