use proptest::prelude::*;

use super::*;

const INSTANT: RunRate = RunRate::Instant;

fn rates(acceleration: RunRate, braking: RunRate, turning: RunRate) -> RunRates {
    RunRates { top_speed: 100.0, acceleration, braking, turning }
}

/// A jump's phases with a hang, so that a tick may be cut three times.
fn gravity(top_speed: f64) -> Phases {
    let gravity = crate::integrate::Gravity {
        rise: 800.0,
        hang: 300.0,
        hang_speed: 40.0,
        fall: 1300.0,
        plunge: 1300.0,
        top_speed,
    };
    gravity.phases(true, 1.0, false)
}

#[test]
fn runs_by_hand() {
    let per = RunRate::PerSecond;
    // rates (acceleration, braking, turning), speed, target, seconds -> speed after, way
    let table = [
        ((INSTANT, INSTANT, INSTANT), 0.0, 100.0, 0.5, 100.0, 50.0),
        ((INSTANT, INSTANT, INSTANT), 100.0, 0.0, 0.5, 0.0, 0.0),
        ((INSTANT, INSTANT, INSTANT), 100.0, -100.0, 0.5, -100.0, -50.0),
        ((INSTANT, INSTANT, INSTANT), 250.0, 100.0, 0.5, 100.0, 50.0),
        ((per(200.0), INSTANT, INSTANT), 0.0, 100.0, 0.25, 50.0, 6.25),
        ((per(200.0), INSTANT, INSTANT), 0.0, 100.0, 1.0, 100.0, 75.0),
        // Turning at once is followed by acceleration in the same tick.
        ((per(200.0), INSTANT, INSTANT), -80.0, 100.0, 0.25, 50.0, 6.25),
        // A turn that ends within the tick goes over into acceleration ...
        ((per(200.0), INSTANT, per(400.0)), -100.0, 100.0, 0.5, 50.0, -12.5 + 6.25),
        // ... also where that is instant.
        ((INSTANT, INSTANT, per(400.0)), -100.0, 100.0, 0.5, 100.0, -12.5 + 25.0),
        // What is left of a turn at the end of a tick, but for noise, is nothing: it would stay for ever.
        ((INSTANT, per(100.0), per(0.0)), -50.0 * (1.0 + 2e-14), 0.0, 0.5, 0.0, -12.5),
        // Beyond the target the speed is braked, never clamped.
        ((INSTANT, per(100.0), INSTANT), 200.0, 100.0, 0.5, 150.0, 87.5),
        ((INSTANT, per(100.0), INSTANT), -20.0, 0.0, 1.0, 0.0, -2.0),
        ((per(0.0), per(0.0), per(0.0)), 30.0, 100.0, 1.0, 30.0, 30.0),
    ];
    for ((acceleration, braking, turning), speed, target, seconds, after, way) in table {
        for sign in [1.0, -1.0] {
            let moved = run(&rates(acceleration, braking, turning), sign * speed, sign * target, seconds);
            assert!((moved.speed - sign * after).abs() < 1e-12, "{speed} to {target}: {moved:?}");
            assert!((moved.by - sign * way).abs() < 1e-12, "{speed} to {target}: {moved:?}");
        }
    }
}

proptest! {
    /// Cutting a stretch of time anywhere changes nothing: the promise of this scheme.
    #[test]
    fn two_halves_are_the_whole(speed in -500.0f64..500.0, seconds in 0.001f64..2.0, cut in 0.0f64..1.0, top in 50.0f64..600.0) {
        let gravity = gravity(top);
        let whole = fall(&gravity, speed, seconds);
        let first = fall(&gravity, speed, seconds * cut);
        let second = fall(&gravity, first.speed, seconds - seconds * cut);
        prop_assert!((whole.by - first.by - second.by).abs() < 1e-9);
        prop_assert!((whole.speed - second.speed).abs() < 1e-6);
    }

    #[test]
    fn a_run_cut_in_two_is_the_same_run(speed in -300.0f64..300.0, target in -100.0f64..100.0, cut in 0.0f64..1.0) {
        let rates = rates(RunRate::PerSecond(700.0), RunRate::PerSecond(450.0), RunRate::PerSecond(1300.0));
        let whole = run(&rates, speed, target, 0.4);
        let first = run(&rates, speed, target, 0.4 * cut);
        let second = run(&rates, first.speed, target, 0.4 - 0.4 * cut);
        prop_assert!((whole.by - first.by - second.by).abs() < 1e-9);
        prop_assert!((whole.speed - second.speed).abs() < 1e-9);
    }

    /// The slow obvious way: a great many small steps come to the same place.
    #[test]
    fn many_small_steps_agree(speed in -400.0f64..400.0, seconds in 0.01f64..0.5) {
        let gravity = gravity(300.0);
        let steps = 200_000;
        let (mut v, mut y, dt) = (speed.min(300.0), 0.0, seconds / f64::from(steps));
        for _ in 0..steps {
            let a = if v < -40.0 { 800.0 } else if v < 40.0 { 300.0 } else { 1300.0 };
            let after = (v + a * dt).min(300.0);
            y += (v + after) * 0.5 * dt;
            v = after;
        }
        let moved = fall(&gravity, speed, seconds);
        // A small step that passes a bound keeps the old acceleration for a step at most: three bounds, and
        // accelerations that differ by a thousand at most.
        let late = 3.0 * 1000.0 * dt;
        prop_assert!((moved.by - y).abs() < late * seconds + 1e-9 && (moved.speed - v).abs() < late + 1e-9);
    }
}
