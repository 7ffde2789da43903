//! Flying, by flaps and by a thrust. A sentence each, played; and closed forms against ticks.

use crate::play::{Play, dab};
use wumple_core::numbers::{Acceleration, FlightNumbers, Hang, Release, Scheme, SteerWhen};
use wumple_core::{
    Buttons, CharacterId, DVec2, Edge, Edges, Grid, Launch, PlatformNumbers, Saved, TileProperties, Tuning,
    TuningNumbers, World,
};

const SCHEMES: [Scheme; 3] = [Scheme::Exact, Scheme::VelocityFirst, Scheme::PositionFirst];
/// The gravity of those who do not jump, px/s^2.
const GRAVITY: f64 = 900.0;

const HALL: [&str; 10] = [
    "............",
    "............",
    "............",
    "............",
    "............",
    "............",
    "............",
    "............",
    "............",
    "############",
];

/// An owl of 10 x 10 px that flaps, and does not jump.
fn owl(lift: f64) -> TuningNumbers {
    TuningNumbers { flight: Some(FlightNumbers::flaps(lift)), ..TuningNumbers::new(10.0, 10.0, 120.0) }
}

/// A boat that rises while jump is held, and does not jump.
fn boat(lift: f64) -> TuningNumbers {
    TuningNumbers { flight: Some(FlightNumbers::thrust(lift)), ..TuningNumbers::new(10.0, 10.0, 120.0) }
}

fn hall(numbers: &TuningNumbers) -> Play {
    Play::new(&HALL, numbers, 60.0, 144.0)
}

/// A body in a sky without end, at rest at 0.
fn sky(numbers: &TuningNumbers) -> (World<Grid>, CharacterId) {
    let open = Edges { left: Edge::Open, right: Edge::Open, top: Edge::Open, bottom: Edge::Open };
    let mut world = World::new(Grid::new(1, vec![0], 16.0, &[TileProperties::EMPTY], open).unwrap());
    let id = world.add_character(Tuning::check(numbers).unwrap(), DVec2::ZERO).unwrap();
    (world, id)
}

/// How high it is after each tick, px, jump being held as it is said of the tick.
fn heights(numbers: &TuningNumbers, ticks: u64, holds: impl Fn(u64) -> bool) -> Vec<f64> {
    let (mut world, id) = sky(numbers);
    (1..=ticks)
        .map(|tick| {
            world.tick(&[Buttons { jump: holds(tick), ..Buttons::NONE }]);
            -world.report(id).feet.y
        })
        .collect()
}

/// How far n ticks of a constant upward acceleration go from an upward speed: the table of `docs/model.md`.
fn way(scheme: Scheme, speed: f64, acceleration: f64, ticks: f64, rate: f64) -> f64 {
    let dt = 1.0 / rate;
    let sum = match scheme {
        Scheme::Exact => ticks * ticks,
        Scheme::VelocityFirst => ticks * (ticks + 1.0),
        Scheme::PositionFirst => ticks * (ticks - 1.0),
    };
    speed * ticks * dt + acceleration * dt * dt * sum / 2.0
}

#[test]
fn a_flap_is_the_closed_form() {
    for scheme in SCHEMES {
        for lift in [60.0, 150.0, 333.3] {
            let numbers = TuningNumbers { scheme, ..owl(lift) };
            for (tick, height) in heights(&numbers, 60, |tick| tick == 1).into_iter().enumerate() {
                let expected = way(scheme, lift, -GRAVITY, tick as f64 + 1.0, 60.0);
                assert!((height - expected).abs() < 1e-9, "{scheme:?} {lift}: {height}, not {expected}");
            }
        }
        // From the ground it is the same.
        let mut owl = hall(&TuningNumbers { scheme, ..owl(150.0) });
        assert_eq!(owl.play("J1"), ["1 flapped"]);
        assert!((144.0 - owl.feet().1 - way(scheme, 150.0, -GRAVITY, 1.0, 60.0)).abs() < 1e-9);
        owl.play("-4");
        assert!((144.0 - owl.feet().1 - way(scheme, 150.0, -GRAVITY, 5.0, 60.0)).abs() < 1e-9);
    }
}

#[test]
fn flaps_add_up_and_at_gravity_over_lift_a_second_no_speed_is_won_or_lost() {
    for scheme in SCHEMES {
        // 900 px/s^2 and 150 px/s: six presses a second, every ten ticks.
        let numbers = TuningNumbers { scheme, ..owl(150.0) };
        let heights = heights(&numbers, 120, |tick| tick % 10 == 1);
        let each = way(scheme, 150.0, -GRAVITY, 10.0, 60.0);
        for (count, period) in heights.chunks(10).enumerate() {
            assert!((period[9] - each * (count as f64 + 1.0)).abs() < 1e-9, "{scheme:?}: {period:?}");
        }
        // Two at once rise at twice the speed.
        let (mut world, id) = sky(&numbers);
        for jump in [true, false, true] {
            world.tick(&[Buttons { jump, ..Buttons::NONE }]);
        }
        assert!((-world.report(id).velocity.y - (300.0 - 3.0 * GRAVITY / 60.0)).abs() < 1e-9);
    }
}

#[test]
fn where_falls_are_heavier_the_presses_that_hold_the_height_are_the_root_of_both_gravities_over_the_lift() {
    // 900 up and 1600 down, 150 px/s: 8 presses a second. Of the lift 150*3/7 go into the rise, the rest stops the fall.
    let mut numbers = TuningNumbers { rate: 4800.0, ..owl(150.0) };
    numbers.fall.gravity_ratio = 1600.0 / 900.0;
    let (mut world, id) = sky(&numbers);
    let ratio = 4.0 / 3.0;
    world.launch(id, DVec2::new(0.0, 150.0 * ratio / (1.0 + ratio)), Launch::default()).unwrap();
    let mut places = Vec::new();
    for tick in 0..4800 {
        world.tick(&[Buttons { jump: tick % 600 == 0, ..Buttons::NONE }]);
        if tick % 600 == 599 {
            places.push(world.report(id).feet.y);
        }
    }
    assert!(places.iter().all(|place| place.abs() < 1e-6), "{places:?}");
}

#[test]
fn a_thrust_is_the_closed_form() {
    for scheme in SCHEMES {
        for lift in [1000.0, 1500.0, 4000.0] {
            let numbers = TuningNumbers { scheme, ..boat(lift) };
            for (tick, height) in heights(&numbers, 60, |_| true).into_iter().enumerate() {
                let expected = way(scheme, 0.0, lift - GRAVITY, tick as f64 + 1.0, 60.0);
                assert!((height - expected).abs() < 1e-9, "{scheme:?} {lift}: {height}, not {expected}");
            }
        }
        // One weaker than gravity makes the fall slower, and lifts nobody off the ground.
        let numbers = TuningNumbers { scheme, ..boat(300.0) };
        let height = heights(&numbers, 30, |_| true)[29];
        assert!((height - way(scheme, 0.0, 300.0 - GRAVITY, 30.0, 60.0)).abs() < 1e-9);
        let mut weak = hall(&numbers);
        weak.play("J30");
        assert_eq!((weak.feet(), weak.state()), ((60.0, 144.0), "stand"));
    }
}

#[test]
fn a_boat_lifts_off_lands_and_says_what_it_does() {
    let mut boat = hall(&boat(1500.0));
    assert_eq!(boat.play("J20"), ["1 lost-ground"]);
    assert_eq!(boat.state(), "fly");
    boat.play("-1");
    assert_eq!(boat.state(), "rise");
    let events = boat.play("-100");
    assert!(events[0].contains("landed:"), "{events:?}");
    let why = hall(&self::boat(1500.0)).why("-3 J10");
    assert_eq!(why, ["4 jump held: a thrust of 1500 px/s^2 against gravity of 900"]);
    let mut on_foot = self::boat(1500.0);
    on_foot.flight.as_mut().unwrap().from_ground = false;
    let mut boat = hall(&on_foot);
    boat.play("J10");
    assert_eq!(boat.state(), "stand");
}

#[test]
fn a_landing_that_the_thrust_turns_round_within_the_tick_is_none() {
    // It would sink below the floor by less than it then rises: stopped by the floor, it goes on up.
    let mut numbers = boat(80_000.0);
    numbers.rate = 30.0;
    let mut boat = Play::new(&HALL, &numbers, 60.0, 143.9);
    boat.world.launch(boat.id, DVec2::new(0.0, 900.0), Launch::default()).unwrap();
    let events = boat.play("J1");
    assert_eq!(events, ["1 launched"]);
    assert!(boat.now().velocity.y < 0.0);
}

#[test]
fn rates_agree_also_where_a_thrust_takes_over_from_a_jump() {
    let mut numbers = TuningNumbers { flight: Some(FlightNumbers::thrust(2400.0)), ..dab() };
    numbers.run.acceleration = Acceleration::Time(0.2);
    numbers.fall.gravity_ratio = 1.5;
    let jump = numbers.jump.as_mut().unwrap();
    jump.hang = Some(Hang { speed: 30.0, gravity_ratio: 0.5 });
    // By moments, each at the end of a tick at all rates: jump, hold on, let go, hold again.
    let held = |moment: f64| (0.1..1.0).contains(&moment) || (1.2..1.5).contains(&moment);
    let places = |rate: f64| -> Vec<f64> {
        let rows: Vec<String> = [vec![".".repeat(20); 60], vec!["#".repeat(20)]].concat();
        let rows: Vec<&str> = rows.iter().map(String::as_str).collect();
        let mut world = World::new(Grid::from_rows(&rows, 16.0, Edges::default()).unwrap());
        let tuning = Tuning::check(&TuningNumbers { rate, ..numbers.clone() }).unwrap();
        let id = world.add_character(tuning, DVec2::new(60.0, 960.0)).unwrap();
        (0..(rate * 1.8) as u32)
            .filter_map(|tick| {
                let moment = (f64::from(tick) + 0.5) / rate;
                world.tick(&[Buttons { jump: held(moment), right: true, ..Buttons::NONE }]);
                (tick % (rate as u32 / 30) == rate as u32 / 30 - 1).then(|| world.report(id).feet.y)
            })
            .collect()
    };
    let slow = places(30.0);
    assert!(slow.iter().any(|place| *place < 700.0), "it flies");
    for rate in [60.0, 120.0, 990.0] {
        let fast = places(rate);
        let apart = slow.iter().zip(&fast).map(|(a, b)| (a - b).abs()).fold(0.0, f64::max);
        assert!(apart < 1e-6, "{rate}: {apart}");
    }
}

#[test]
fn no_velocity_is_beyond_the_top_speed_and_its_direction_stays() {
    for scheme in SCHEMES {
        let mut numbers = TuningNumbers { scheme, ..boat(3000.0) };
        numbers.flight.as_mut().unwrap().top_speed = 200.0;
        let (mut world, id) = sky(&numbers);
        for _ in 0..100 {
            world.tick(&[Buttons { jump: true, right: true, ..Buttons::NONE }]);
            assert!(world.report(id).velocity.length() <= 200.0 * (1.0 + 1e-15));
        }
        // Upward at the end: what the thrust adds up, and the run along x, are shortened together.
        let velocity = world.report(id).velocity;
        assert!((velocity.length() - 200.0).abs() < 1e-9 && velocity.x > 90.0 && velocity.y < -90.0, "{velocity}");
        let before = world.report(id).feet;
        world.tick(&[Buttons { jump: true, right: true, ..Buttons::NONE }]);
        let moved = world.report(id).feet - before;
        if scheme == Scheme::VelocityFirst {
            assert!(moved.length() <= 200.0 / 60.0 + 1e-9, "{scheme:?}: {moved}");
        }
        world.launch(id, DVec2::new(-600.0, 800.0), Launch { ticks: 1, unbraked: true }).unwrap();
        world.tick(&[Buttons::NONE]);
        let velocity = world.report(id).velocity;
        assert!((velocity.length() - 200.0).abs() < 1e-9 && velocity.x < -100.0, "{velocity}");
    }
}

#[test]
fn some_steer_only_while_they_flap() {
    let mut numbers = owl(150.0);
    numbers.flight.as_mut().unwrap().steer = SteerWhen::WhileHeld;
    let mut owl = hall(&numbers);
    owl.play("RJ1 R1");
    assert_eq!((owl.rows[1].velocity.x, owl.rows[2].velocity.x), (120.0, 0.0));
    assert!(owl.why("R1").contains(&"3 not steered: jump is up, and flight.steer is \"while-held\"".to_owned()));
    owl.play("RJ3");
    assert_eq!((owl.now().velocity.x, owl.state()), (120.0, "fly"));
    // On the ground it walks as ever.
    owl.play("-60 R5");
    assert_eq!((owl.now().velocity.x, owl.state()), (120.0, "run"));
}

#[test]
fn jumps_go_before_flaps_and_a_release_of_the_jump_leaves_flaps_alone() {
    let mut numbers = TuningNumbers { flight: Some(FlightNumbers::flaps(150.0)), ..dab() };
    let jump = numbers.jump.as_mut().unwrap();
    (jump.release, jump.coyote_time) = (Release::Cut { keep: 0.2 }, 0.1);
    let mut owl = hall(&numbers);
    assert_eq!(owl.play("J3 -1 J1"), ["1 jumped:ground", "5 flapped"]);
    let rising = owl.now().velocity.y;
    owl.play("-1");
    let gravity = 2.0 * 54.0 / (0.35 * 0.35);
    assert!((owl.now().velocity.y - rising - gravity / 60.0).abs() < 1e-9, "not cut");
    // Within the coyote time it is a jump, after it a flap.
    let rows = ["......", "......", "###...", "......", "......", "......"];
    let mut owl = Play::new(&rows, &numbers, 44.0, 32.0);
    assert_eq!(owl.play("R6 RJ1 R1 RJ1"), ["5 lost-ground", "7 jumped:ground", "9 flapped"]);
    let mut owl = Play::new(&rows, &numbers, 44.0, 32.0);
    assert_eq!(owl.play("R14 RJ1"), ["5 lost-ground", "15 flapped"]);
}

#[test]
fn from_the_ground_only_if_it_may() {
    let mut numbers = owl(150.0);
    numbers.flight.as_mut().unwrap().from_ground = false;
    let mut owl = hall(&numbers);
    assert!(owl.play("J1 -1 J1").is_empty());
    let why = hall(&numbers).why("J1");
    assert_eq!(why, ["1 jump refused: the tuning has no [jump]; flight.from_ground is false; not kept"]);
    let mut owl = Play::new(&HALL, &numbers, 60.0, 100.0);
    assert_eq!(owl.play("-2 J1"), ["3 flapped"]);
}

#[test]
fn a_platforms_speed_is_taken_along() {
    let cart = PlatformNumbers::new(DVec2::new(60.0, 8.0), DVec2::new(30.0, 100.0)).to(DVec2::new(90.0, 100.0), 60.0);
    let mut owl = Play::on(std::slice::from_ref(&cart), &HALL, &owl(150.0), 60.0, 100.0);
    owl.play("-10 J1");
    assert!((owl.now().velocity.x - 60.0).abs() < 1e-6 || owl.now().velocity.x == 0.0);
    assert_eq!(owl.events.last().unwrap(), "11 flapped");
    let mut slow = boat(1500.0);
    slow.run.braking = Acceleration::Rate(0.0);
    let mut boat = Play::on(&[cart], &HALL, &slow, 60.0, 100.0);
    boat.play("-10 J1");
    assert!((boat.now().velocity.x - 60.0).abs() < 1e-6, "{}", boat.now().velocity);
}

#[test]
fn saved_restored_retuned_and_out_of_control() {
    let mut boat = hall(&boat(1500.0));
    boat.play("J15");
    let saved = Saved::from_bytes(&boat.world.save().to_bytes(&boat.world), &boat.world).unwrap();
    boat.play("RJ20 R20");
    let there = boat.now().clone();
    boat.world.restore(&saved);
    boat.play("RJ20 R20");
    assert_eq!(*boat.now(), there);
    // Without control there is no thrust, though the button stays held.
    boat.world.restore(&saved);
    let rising = boat.world.report(boat.id).velocity.y;
    boat.world.set_control(boat.id, false);
    boat.play("J1");
    assert!((boat.now().velocity.y - rising - GRAVITY / 60.0).abs() < 1e-9);
    assert_eq!(boat.state(), "rise");
    // A tuning without a flight has none.
    boat.world.restore(&saved);
    let plain = TuningNumbers { flight: None, ..self::boat(1.0) };
    boat.world.retune(boat.id, Tuning::check(&plain).unwrap()).unwrap();
    boat.play("J1");
    assert_eq!(boat.state(), "rise");
}

#[test]
fn what_could_not_work_is_refused() {
    let words = |numbers: &TuningNumbers| Tuning::check(numbers).unwrap_err().to_string();
    let with = |numbers: TuningNumbers, change: fn(&mut FlightNumbers)| {
        let mut numbers = numbers;
        change(numbers.flight.as_mut().unwrap());
        numbers
    };
    let mut twice = TuningNumbers { flight: Some(FlightNumbers::flaps(150.0)), ..dab() };
    twice.jump.as_mut().unwrap().air_jumps = 1;
    let table = [
        (words(&twice), "jump.air_jumps is given, but in the air [flight] uses the presses; remove one of them"),
        (words(&owl(15.0)), "flight.lift is 15 px/s; it must be above what one tick of gravity takes of it, 15 px/s"),
        (
            words(&with(owl(110.0), |flight| flight.top_speed = 100.0)),
            "flight.top_speed is 100 px/s; it must be at least run.top_speed, 120 px/s",
        ),
        (
            words(&with(owl(300.0), |flight| flight.top_speed = 200.0)),
            "flight.top_speed is 200 px/s; it must be at least flight.lift, 300 px/s",
        ),
        (
            words(&TuningNumbers {
                flight: Some(FlightNumbers { top_speed: 200.0, ..FlightNumbers::thrust(1500.0) }),
                ..dab()
            }),
            "flight.top_speed is 200 px/s; it must be at least the take-off speed of the jump, 308.57 px/s",
        ),
        (words(&owl(2e6)), "flight.lift is 2000000 px/s; it must be above 0 and at most 1000000 px/s"),
        (
            words(&boat(2e12)),
            "flight.lift is 2000000000000 px/s^2; it must be above 0 and at most 1000000000000 px/s^2",
        ),
        (
            words(&boat(-5.0)),
            "flight.lift is -5 px/s^2; it must be above 0 and at most 1000000000000 px/s^2; heights, speeds and \
             gravities are given by their size, whichever way y goes",
        ),
    ];
    for (found, expected) in table {
        assert_eq!(found, expected);
    }
    assert!(Tuning::check(&boat(5.0)).is_ok());
}
