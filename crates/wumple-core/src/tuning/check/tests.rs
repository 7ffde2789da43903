use super::*;
use crate::tuning::HoldNumbers;
use alloc::string::ToString;

fn numbers() -> TuningNumbers {
    TuningNumbers::new(10.0, 22.0, 120.0).with_jump(54.0, 0.35)
}

#[test]
fn every_wrong_number_is_named_with_its_bound() {
    type Spoil = fn(&mut TuningNumbers);
    let cases: [(Spoil, &str); 20] = [
        (|n| n.rate = 0.0, "tick.rate is 0 Hz; it must be at least 1 and at most 10000 Hz"),
        (|n| n.rate = f64::NAN, "tick.rate is NaN Hz; it must be at least 1 and at most 10000 Hz"),
        (|n| n.body.width = 0.0, "body.width is 0 px; it must be above 0 and at most 524288 px"),
        (|n| n.body.width = 1e-9, "body.width is 0 px; it must be above 0 and at most 524288 px"),
        (|n| n.body.height = -1.0, "body.height is -1 px; it must be above 0 and at most 524288 px"),
        (
            |n| n.body.wall_probe = f64::INFINITY,
            "body.wall_probe is inf px; it must be at least 0 and at most 524288 px",
        ),
        (|n| n.run.top_speed = 2e6, "run.top_speed is 2000000 px/s; it must be at least 0 and at most 1000000 px/s"),
        (
            |n| n.run.braking = Acceleration::Rate(-5.0),
            "run.braking is -5 px/s^2; it must be at least 0 and at most 1000000000000 px/s^2",
        ),
        (|n| n.jump = None, "fall.gravity is missing; without [jump] it says how fast a fall quickens"),
        (|n| n.fall.gravity = Some(9.0), "fall.gravity is given, but [jump] already says the gravity; remove it"),
        (
            |n| {
                let hold = HoldNumbers { spends_air_jumps: true, ..HoldNumbers::default() };
                n.wall = Some(WallNumbers { hold: Some(hold), ..WallNumbers::default() });
                n.jump.as_mut().unwrap().air_jumps_back_on_wall = true;
            },
            "wall.hold.spends_air_jumps is given, but jump.air_jumps_back_on_wall gives them back on every wall; remove one",
        ),
        (
            |n| *n = n.clone().with_jump(54.0, 1e-4),
            "jump.time_to_apex makes the take-off speed 1080000 px/s; it may be at most 1000000 px/s",
        ),
        (|n| n.rate = 1e300, "tick.rate is 1e300 Hz; it must be at least 1 and at most 10000 Hz"),
        (
            |n| n.jump.as_mut().unwrap().shape = JumpShape::SpeedAndGravity { speed: -300.0, gravity: 900.0 },
            "jump.speed is -300 px/s; it must be above 0 and at most 1000000 px/s; \
             heights, speeds and gravities are given by their size, whichever way y goes",
        ),
        (
            |n| n.jump.as_mut().unwrap().release = Release::Heavy { gravity_ratio: 1e-6 },
            "jump.release.gravity_ratio makes the time to the apex, let go at once, 350000 s; it may be at most 60 s; \
             jump.time_to_apex makes the height of a jump 54000000 px; it may be at most 524288 px",
        ),
        (
            |n| n.fall.gravity_ratio = 2e-5,
            "fall.gravity_ratio makes the fall from a jump's 54 px too slow: 60 s bring it 31.74 px down",
        ),
        (
            |n| n.fall.top_speed = 0.5,
            "fall.top_speed makes the fall from a jump's 54 px too slow: 60 s bring it 30 px down",
        ),
        (
            |n| (n.rate, n.fall.gravity_ratio) = (10_000.0, 5e-4),
            "fall.gravity_ratio makes the fall from a jump's 54 px too slow: 10 s bring it 22.04 px down",
        ),
        (
            |n| n.jump.as_mut().unwrap().shape = JumpShape::SpeedAndGravity { speed: 1e5, gravity: 5000.0 },
            "jump.gravity makes the height of a jump 1000000 px; it may be at most 524288 px",
        ),
        (
            |n| {
                let jump = n.jump.as_mut().unwrap();
                (jump.air_jumps, jump.air_jump_release) = (1, Some(Release::Heavy { gravity_ratio: 1e-6 }));
            },
            "jump.air_jump_release.gravity_ratio makes the time to the apex, let go at once, 350000 s; it may be at most 60 s; \
             jump.air_jump_height makes the height of a jump 54000000 px; it may be at most 524288 px",
        ),
    ];
    for (spoil, message) in cases {
        let mut numbers = numbers();
        spoil(&mut numbers);
        assert_eq!(Tuning::check(&numbers).unwrap_err().to_string(), message);
    }
}

#[test]
fn several_wrong_numbers_are_all_named() {
    let mut numbers = numbers();
    numbers.body.width = -1.0;
    numbers.run.top_speed = -1.0;
    assert_eq!(Tuning::check(&numbers).unwrap_err().0.len(), 2);
}

#[test]
fn a_jump_is_the_same_from_either_pair_of_numbers() {
    let by_height = Tuning::check(&numbers()).unwrap();
    let speed = by_height.jump().unwrap().speed;
    assert_eq!(speed, 2.0 * 54.0 / 0.35);
    let gravity = by_height.gravity().rise;
    let mut other = numbers();
    other.jump.as_mut().unwrap().shape = JumpShape::SpeedAndGravity { speed, gravity };
    let by_speed = Tuning::check(&other).unwrap();
    assert_eq!((by_speed.jump(), by_speed.gravity()), (by_height.jump(), by_height.gravity()));
}

#[test]
fn times_become_rates_and_lengths_are_rounded() {
    let mut numbers = numbers();
    numbers.run.acceleration = Acceleration::Time(0.1);
    numbers.run.turning = Acceleration::Time(0.0);
    numbers.body.width = 10.0 + 0.4 / 1024.0;
    let tuning = Tuning::check(&numbers).unwrap();
    assert_eq!(tuning.run().acceleration, RunRate::PerSecond(120.0 / 0.1));
    assert_eq!(tuning.run().turning, RunRate::Instant);
    assert_eq!(tuning.body().width, 10.0);
}
