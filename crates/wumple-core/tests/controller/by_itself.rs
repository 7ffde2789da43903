//! What moves by itself: jumps on every landing, and runs that nobody holds a button for. A sentence each, played.

use crate::play::{Play, climber, dab};
use wumple_core::numbers::{Acceleration, AtWall, Hang, OnLanding, Release, Scheme, Steady};
use wumple_core::{
    Buttons, DVec2, Edges, Facing, Grid, Material, Saved, Surface, TileProperties, Tuning, TuningNumbers, World,
};

const SCHEMES: [Scheme; 3] = [Scheme::Exact, Scheme::VelocityFirst, Scheme::PositionFirst];

const HALL: [&str; 8] = [
    "#..........#",
    "#..........#",
    "#..........#",
    "#..........#",
    "#..........#",
    "#..........#",
    "#..........#",
    "############",
];

/// Dab, jumping on every landing.
fn ball() -> TuningNumbers {
    let mut numbers = dab();
    numbers.jump.as_mut().unwrap().on_landing = OnLanding::Jump;
    numbers
}

/// Dab, running to the right by itself.
fn barrow(at_wall: AtWall) -> TuningNumbers {
    let mut numbers = dab();
    (numbers.run.steady, numbers.run.at_wall) = (Steady::Right, at_wall);
    numbers
}

fn hall(numbers: &TuningNumbers) -> Play {
    Play::new(&HALL, numbers, 40.0, 112.0)
}

#[test]
fn every_landing_throws_up_and_no_tick_ends_standing() {
    for scheme in SCHEMES {
        let numbers = TuningNumbers { scheme, ..ball() };
        let mut ball = hall(&numbers);
        // It is found standing there, and thrown up by the first tick.
        assert_eq!(ball.state(), "stand");
        let events = ball.play("-200");
        assert_eq!(events[0], "1 bounced:solid");
        assert!(events.iter().all(|event| event.ends_with("bounced:solid")), "{events:?}");
        assert!(ball.rows[1..].iter().all(|row| matches!(row.state.name(), "rise" | "fall")), "{scheme:?}");
        // A jump of 54 px in 0.35 s is 21 ticks up.
        let highest = ball.rows.iter().map(|row| 112.0 - row.feet.y).fold(0.0, f64::max);
        assert!((highest - 54.0).abs() < 1e-9, "{scheme:?}: {highest}");
        let ticks: Vec<u64> = ball.rows.iter().filter(|row| !row.events.is_empty()).map(|row| row.tick).collect();
        assert!(ticks.windows(2).all(|two| two[1] - two[0] == ticks[1] - ticks[0]), "{ticks:?}");
        let there_and_back = [42, 41, 43][scheme as usize];
        assert_eq!(ticks[1] - ticks[0], there_and_back, "{scheme:?}");
    }
}

#[test]
fn it_is_the_jump_with_its_hang_and_its_release() {
    let mut numbers = ball();
    let jump = numbers.jump.as_mut().unwrap();
    (jump.hang, jump.release) = (Some(Hang { speed: 40.0, gravity_ratio: 0.5 }), Release::Cut { keep: 0.3 });
    let highest = |script: &str| {
        let mut ball = hall(&numbers);
        ball.play(script);
        ball.rows.iter().map(|row| 112.0 - row.feet.y).fold(0.0, f64::max)
    };
    // Held it goes to its full height, hang counted; not held each throw is the hop of a tap.
    assert!((highest("J60") - 54.0).abs() < 1e-9);
    assert!(highest("-60") < 15.0);
    // Held from then on, the later ones are full: the release acts once a throw.
    assert!((highest("-1 J90") - 54.0).abs() < 1e-9);
}

#[test]
fn it_is_told_why() {
    let why = hall(&ball()).why("-1");
    assert_eq!(why, ["1 jumped at once: jump.on_landing is \"jump\""]);
}

#[test]
fn what_throws_up_by_itself_goes_first() {
    let bellows = Material {
        bounce: Some(wumple_core::numbers::Bounce { height: 80.0, release: Release::None }),
        ..Material::PLAIN
    };
    let kinds = [TileProperties::EMPTY, TileProperties { material: bellows, ..TileProperties::SOLID }];
    let tiles = (0..12 * 10).map(|tile| u8::from(tile >= 108)).collect();
    let grid = Grid::new(12, tiles, 16.0, &kinds, Edges::default()).unwrap();
    let mut ball = Play::in_room(grid, &ball(), 60.0, 144.0);
    ball.play("-60");
    let highest = ball.rows.iter().map(|row| 144.0 - row.feet.y).fold(0.0, f64::max);
    // The apex is between two ticks.
    assert!((highest - 80.0).abs() < 0.1, "{highest}");
}

#[test]
fn a_wall_jump_and_an_air_jump_are_still_asked_for() {
    let mut numbers = climber(None);
    let jump = numbers.jump.as_mut().unwrap();
    (jump.on_landing, jump.air_jumps) = (OnLanding::Jump, 1);
    let mut ball = hall(&numbers);
    assert_eq!(ball.play("-10 J1"), ["1 bounced:solid", "11 jumped:air"]);
    // A landing gives the air jump back.
    let events = ball.play("-80 J1");
    assert_eq!(events.last().unwrap(), "92 jumped:air", "{events:?}");
    let mut ball = Play::new(&HALL, &numbers, 165.0, 112.0);
    let events = ball.play("R12 RJ1");
    assert!(events.contains(&"13 jumped:wall".to_owned()), "{events:?}");
}

#[test]
fn a_barrow_runs_without_a_button_and_leans_against_the_wall() {
    for scheme in SCHEMES {
        let mut numbers = TuningNumbers { scheme, ..barrow(AtWall::Stop) };
        numbers.run.acceleration = Acceleration::Time(0.2);
        let mut dab = hall(&numbers);
        dab.play("-30");
        assert!((dab.now().velocity.x - 120.0).abs() < 1e-9 && dab.state() == "run");
        dab.play("-120");
        assert_eq!((dab.feet().0, dab.state()), (171.0, "stand"), "{scheme:?}");
        assert_eq!(dab.now().facing, Facing::Right);
        // The direction counts as held: the one against it makes neither.
        let mut dab = hall(&numbers);
        dab.play("-30 L30");
        assert_eq!((dab.now().velocity.x, dab.now().facing), (0.0, Facing::Right));
        let still = dab.feet();
        dab.play("L30");
        assert_eq!(dab.feet(), still);
        dab.play("-20");
        assert!(dab.now().velocity.x > 100.0);
    }
}

#[test]
fn a_barrow_turns_at_walls_and_says_so() {
    let mut dab = hall(&barrow(AtWall::Turn));
    let why = dab.why("-300");
    assert_eq!(why[0], "66 stopped by a face: runs to the left from now on");
    let stopped = &dab.rows[66];
    assert_eq!((stopped.feet.x, stopped.velocity.x, stopped.facing), (171.0, 0.0, Facing::Left));
    assert_eq!(dab.rows[67].velocity.x, -120.0);
    assert!(why[1].ends_with("runs to the right from now on"), "{why:?}");
    let (least, most) =
        dab.rows.iter().fold((f64::MAX, f64::MIN), |(least, most), row| (least.min(row.feet.x), most.max(row.feet.x)));
    assert_eq!((least, most), (21.0, 171.0));
}

#[test]
fn in_the_air_a_barrow_turns_too_and_steps_are_walked_up() {
    let rows = ["..........#", "..........#", "..........#", "..........#", "......#####", "###########"];
    let mut dab = Play::new(&rows, &barrow(AtWall::Turn), 20.0, 80.0);
    dab.play("-60");
    assert!(dab.now().facing == Facing::Left, "turned at the step");
    let mut numbers = barrow(AtWall::Turn);
    numbers.body.step_height = 16.0;
    let mut dab = Play::new(&rows, &numbers, 20.0, 80.0);
    let events = dab.play("-60");
    assert!(events.iter().any(|event| event.ends_with("stepped:up")), "{events:?}");
    // Thrown up against the wall, it turns in the air.
    let mut dab = Play::new(&rows, &numbers, 110.0, 64.0);
    dab.play("J26");
    assert!(dab.now().facing == Facing::Left && dab.now().feet.y < 64.0);
}

#[test]
fn a_turn_is_saved_and_restored_and_a_retune_keeps_it() {
    let mut dab = hall(&barrow(AtWall::Turn));
    dab.play("-90");
    assert!(dab.now().velocity.x < 0.0);
    let saved = dab.world.save();
    let bytes = saved.to_bytes(&dab.world);
    let again = Saved::from_bytes(&bytes, &dab.world).unwrap();
    dab.play("-200");
    let there = dab.now().clone();
    dab.world.restore(&again);
    dab.play("-200");
    assert_eq!(*dab.now(), there);
    dab.world.restore(&saved);
    let mut faster = barrow(AtWall::Turn);
    faster.run.top_speed = 150.0;
    dab.world.retune(dab.id, Tuning::check(&faster).unwrap()).unwrap();
    dab.play("-2");
    assert_eq!(dab.now().velocity.x, -150.0);
    faster.run.steady = Steady::Left;
    faster.run.at_wall = AtWall::Stop;
    dab.world.retune(dab.id, Tuning::check(&faster).unwrap()).unwrap();
    dab.play("-60");
    assert_eq!(dab.feet().0, 21.0);
    faster.run.steady = Steady::Off;
    dab.world.retune(dab.id, Tuning::check(&faster).unwrap()).unwrap();
    dab.play("R10");
    assert!(dab.feet().0 > 21.0);
    // Placed, it sets off as it did at first.
    dab.world.restore(&saved);
    dab.world.place(dab.id, DVec2::new(60.0, 112.0)).unwrap();
    dab.play("-5");
    assert!(dab.now().velocity.x > 0.0);
}

#[test]
fn rates_agree_on_where_a_barrow_is() {
    let places: Vec<f64> = [30.0, 60.0, 144.0]
        .iter()
        .map(|rate| {
            let mut numbers = TuningNumbers { rate: *rate, ..barrow(AtWall::Turn) };
            (numbers.run.acceleration, numbers.run.turning) = (Acceleration::Time(0.3), Acceleration::Time(0.2));
            let rows: Vec<String> = ["#".to_owned() + &".".repeat(40), "#".repeat(41)].into();
            let rows: Vec<&str> = rows.iter().map(String::as_str).collect();
            let mut world = World::new(Grid::from_rows(&rows, 16.0, Edges::default()).unwrap());
            numbers.body.height = 12.0;
            let dab = world.add_character(Tuning::check(&numbers).unwrap(), DVec2::new(40.0, 16.0)).unwrap();
            (0..(*rate * 1.5) as u32).for_each(|_| world.tick(&[Buttons::NONE]));
            world.report(dab).feet.x
        })
        .collect();
    assert!(places.iter().all(|place| (place - places[0]).abs() < 1e-6), "{places:?}");
}

#[test]
fn what_could_not_work_is_refused() {
    let words = |numbers: &TuningNumbers| Tuning::check(numbers).unwrap_err().to_string();
    let mut waits = ball();
    let jump = waits.jump.as_mut().unwrap();
    (jump.waits_for_ground, jump.air_jumps, jump.buffer_time) = (true, 1, 0.1);
    let lost = "jump.waits_for_ground is given, but with jump.on_landing = \"jump\" no press is used on the ground; \
                remove one";
    assert_eq!(words(&waits), lost);
    let mut turns = barrow(AtWall::Turn);
    turns.run.steady = Steady::Off;
    let alone = "run.at_wall is \"turn\", but nothing runs by itself; give run.steady as well, or remove it";
    assert_eq!(words(&turns), alone);
}

#[test]
fn on_a_slope_each_throw_begins_where_the_feet_are() {
    let ramp = TileProperties::of(Surface::Ramp { left_height: 0.0, right_height: 16.0 });
    let kinds = [TileProperties::EMPTY, TileProperties::SOLID, ramp];
    let row = |cells: &[u8]| cells.to_vec();
    let tiles = [vec![0; 48], row(&[0, 0, 0, 2, 1, 1, 1, 1]), vec![1; 8]].concat();
    let grid = Grid::new(8, tiles, 16.0, &kinds, Edges::default()).unwrap();
    let mut numbers = barrow(AtWall::Stop);
    numbers.jump.as_mut().unwrap().on_landing = OnLanding::Jump;
    numbers.run.top_speed = 20.0;
    let mut ball = Play::in_room(grid, &numbers, 20.0, 112.0);
    ball.play("-240");
    assert!(ball.rows[1..].iter().all(|row| !row.contacts.below), "never at rest");
    assert!(ball.rows.iter().any(|row| !row.events.is_empty() && row.feet.y < 112.0 && row.feet.y > 96.0));
}
