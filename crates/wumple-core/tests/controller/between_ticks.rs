//! What a game does between ticks: one script for each sentence of the model's page on it.

use crate::play::{GRAB, Play, climber, dab, ladder_climber};
use wumple_core::numbers::{Acceleration, Pixels, PlatformProblem, Release, Scheme};
use wumple_core::{
    Block, Buttons, DVec2, Decision, Edges, Event, Grid, GridError, GridLines, Launch, LimitError, Listener, Material,
    MoverId, PlatformNumbers, Platforms, Prop, StartError, State, Support, Surface, Terrain, TileProperties, Tuning,
    TuningNumbers, World,
};

const ROOM: [&str; 6] = ["..........", "..........", "..........", "..........", "..........", "##########"];
const PIT: [&str; 6] = ["..........", "..........", "..........", "..........", "..........", "####..####"];

fn tuned(numbers: &TuningNumbers) -> Tuning {
    Tuning::check(numbers).unwrap()
}

fn crate_of(width: f64, height: f64) -> Prop {
    let tuning = tuned(&TuningNumbers::new(width, height, 0.0));
    Prop { tuning, surface: Default::default(), material: Material::PLAIN, zone: None }
}

#[test]
fn who_is_placed_is_at_rest_there_and_the_dead_live_again() {
    let mut room = Play::new(&PIT, &dab(), 80.0, 80.0);
    room.play("R1 -60");
    assert!(room.world.character(room.id).has_ended());
    room.world.place(room.id, DVec2::new(24.0, 60.0)).unwrap();
    assert!(!room.world.character(room.id).has_ended());
    let report = room.world.report(room.id);
    assert_eq!((report.feet, report.from, report.velocity), (DVec2::new(24.0, 60.0), report.feet, DVec2::ZERO));
    let events = room.play("-60");
    assert!(events[0].ends_with("placed") && events[1].contains("landed"), "{events:?}");
    assert_eq!(room.feet(), (24.0, 80.0));
}

#[test]
fn what_is_held_while_being_placed_is_no_press() {
    let mut room = Play::new(&ROOM, &dab(), 24.0, 80.0);
    assert_eq!(room.play("J1"), ["1 jumped:ground"]);
    room.world.place(room.id, DVec2::new(60.0, 80.0)).unwrap();
    assert_eq!(room.play("J9"), ["2 placed"]);
    assert_eq!(room.play("-1 J1"), ["12 jumped:ground"]);
}

#[test]
fn where_it_does_not_fit_nothing_is_changed() {
    let mut room = Play::new(&ROOM, &dab(), 24.0, 80.0);
    room.play("R10");
    let before = room.world.report(room.id).clone();
    assert_eq!(room.world.place(room.id, DVec2::new(60.0, 90.0)), Err(StartError::InsideTile { column: 3, row: 5 }));
    assert!(matches!(room.world.place(room.id, DVec2::new(f64::NAN, 0.0)), Err(StartError::NoPlace(_))));
    assert_eq!(room.world.report(room.id), &before);
    assert_eq!(room.play("R1"), [""; 0]);
}

#[test]
fn a_prop_is_placed_and_is_not_in_its_own_way() {
    let mut room = Play::new(&ROOM, &dab(), 24.0, 80.0);
    let jar = room.world.add_prop(crate_of(12.0, 12.0), DVec2::new(100.0, 80.0)).unwrap();
    room.world.place(jar, DVec2::new(104.0, 78.0)).unwrap();
    let refused = room.world.place(room.id, DVec2::new(100.0, 78.0));
    assert_eq!(refused, Err(StartError::InsideProp { prop: 0 }));
    room.play("-30");
    assert_eq!(room.world.report(jar).feet, DVec2::new(104.0, 80.0));
}

#[test]
fn a_launch_is_no_jump_no_release_cuts_it_and_directions_count_as_none_for_a_while() {
    let mut numbers = dab();
    let jump = numbers.jump.as_mut().unwrap();
    jump.release = Release::Cut { keep: 0.0 };
    let mut room = Play::new(&ROOM, &numbers, 80.0, 80.0);
    room.play("J3");
    let launch = Launch { ticks: 5, unbraked: true };
    room.world.launch(room.id, DVec2::new(-60.0, -150.0), launch).unwrap();
    assert_eq!(room.play("-1"), ["4 launched"]);
    assert!(room.now().velocity.y < -130.0, "letting go cuts a jump, and this is none: {:?}", room.now());
    room.play("R4");
    assert_eq!(room.now().velocity.x, -60.0);
    room.play("R1");
    assert_eq!(room.now().velocity.x, 120.0, "the sixth tick is the player's again");
    // Without `unbraked` it brakes as ever: here at once.
    room.world.launch(room.id, DVec2::new(-60.0, -150.0), Launch { ticks: 5, unbraked: false }).unwrap();
    room.play("R1");
    assert_eq!(room.now().velocity.x, 0.0);
}

#[test]
fn a_launch_leaves_ladders_and_walls_and_does_not_take_them_again_at_once() {
    let rows = ["....H.....", "....H.....", "....H.....", "....H.....", "....H.....", "##########"];
    let mut room = Play::new(&rows, &ladder_climber(), 72.0, 80.0);
    room.play("U20");
    assert_eq!(room.state(), "ladder");
    room.world.launch(room.id, DVec2::new(0.0, -50.0), Launch::default()).unwrap();
    assert_eq!(room.play("U1"), ["21 let-go:ladder", "21 launched"]);
    room.play("U10");
    assert_ne!(room.state(), "ladder");
    let rows = ["...#......", "...#......", "...#......", "...#......", "...#......", "##########"];
    let mut room = Play::new(&rows, &climber(Some(GRAB)), 43.0, 40.0);
    assert_eq!(room.play("G1"), ["1 took:wall"]);
    room.world.launch(room.id, DVec2::new(0.0, -50.0), Launch::default()).unwrap();
    assert_eq!(room.play("G3"), ["2 let-go:wall", "2 launched"]);
}

#[test]
fn numbers_out_of_their_limits_are_refused() {
    let mut room = Play::new(&ROOM, &dab(), 80.0, 80.0);
    let (world, id) = (&mut room.world, room.id);
    for wrong in [DVec2::new(f64::NAN, 0.0), DVec2::new(0.0, f64::INFINITY), DVec2::new(0.0, 1e300)] {
        let error: LimitError = world.launch(id, wrong, Launch::default()).unwrap_err();
        assert!(error.to_string().ends_with("both parts must be numbers from -1000000 to 1000000"), "{error}");
        assert!(world.push(id, wrong).is_err() && world.drift(id, wrong).is_err());
    }
    assert!(world.drift(id, DVec2::new(900_000.0, 0.0)).is_ok());
    assert!(world.drift(id, DVec2::new(900_000.0, 0.0)).is_err(), "their sum is too great");
}

#[test]
fn a_retuned_jump_goes_on_with_the_new_gravity_and_the_new_hitbox_stands_on_the_same_feet() {
    let mut room = Play::new(&ROOM, &dab(), 80.0, 80.0);
    room.play("J5");
    let (feet, velocity) = (room.now().feet, room.now().velocity);
    let mut numbers = dab();
    (numbers.body.width, numbers.body.height) = (14.0, 10.0);
    numbers.jump.as_mut().unwrap().shape =
        wumple_core::numbers::JumpShape::HeightAndTime { height: 54.0, time_to_apex: 0.7 };
    room.world.retune(room.id, tuned(&numbers)).unwrap();
    let report = room.world.report(room.id);
    assert_eq!((report.feet, report.velocity), (feet, velocity));
    assert_eq!(room.play("J1"), ["6 retuned"]);
    let gravity = 2.0 * 54.0 / 0.7 / 0.7;
    assert!((room.now().velocity.y - velocity.y - gravity / 60.0).abs() < 1e-9);
    assert_eq!(room.world.character(room.id).hitbox().top, room.now().feet.y - 10.0);
}

#[test]
fn a_retune_that_does_not_fit_or_has_another_rate_changes_nothing() {
    let rows = ["..........", "..........", "..........", "####......", "..........", "##########"];
    let mut numbers = dab();
    numbers.body.height = 12.0;
    let mut room = Play::new(&rows, &numbers, 24.0, 80.0);
    assert_eq!(room.world.retune(room.id, tuned(&dab())), Err(StartError::InsideTile { column: 1, row: 3 }));
    let other_rate = TuningNumbers { rate: 50.0, ..numbers.clone() };
    let expected = StartError::OtherRate { expected: 60.0, found: 50.0 };
    assert_eq!(room.world.retune(room.id, tuned(&other_rate)), Err(expected));
    assert_eq!(room.world.character(room.id).tuning().body().height, 12.0);
    assert_eq!(room.play("-3"), [""; 0]);
}

#[test]
fn a_retune_ends_what_the_new_tuning_lacks() {
    let rows = ["....H.....", "....H.....", "....H.....", "....H.....", "....H.....", "##########"];
    let mut room = Play::new(&rows, &ladder_climber(), 72.0, 80.0);
    room.play("U20");
    room.world.retune(room.id, tuned(&dab())).unwrap();
    assert_eq!(room.world.report(room.id).state, State::Rise, "with the speed that it climbed at");
    assert_eq!(room.play("U1"), ["21 let-go:ladder", "21 retuned"]);
}

#[test]
fn a_retune_caps_windows_and_air_jumps_and_opens_none_again() {
    let with = |coyote_time, air_jumps| {
        let mut numbers = dab();
        let jump = numbers.jump.as_mut().unwrap();
        (jump.coyote_time, jump.air_jumps) = (coyote_time, air_jumps);
        numbers
    };
    // Two air jumps become one.
    let mut room = Play::new(&ROOM, &with(0.0, 2), 80.0, 80.0);
    room.play("J5");
    room.world.retune(room.id, tuned(&with(0.0, 1))).unwrap();
    let events = room.play("-2 J2 -2 J2").join(" ");
    assert_eq!(events.matches("jumped:air").count(), 1, "{events}");
    // Off an edge for 8 ticks: a coyote time of 3 ticks is over, and one of 20 does not bring it back.
    let mut room = Play::new(&PIT, &with(0.05, 0), 60.0, 80.0);
    room.play("R10");
    assert_eq!(room.state(), "fall");
    room.world.retune(room.id, tuned(&with(1.0, 0))).unwrap();
    assert_eq!(room.play("J2"), ["11 retuned"]);
    // While it is open, it stays open for as long as the new one is.
    let mut room = Play::new(&PIT, &with(0.05, 0), 60.0, 80.0);
    let lost = room.play("R10").iter().position(|event| event.contains("lost-ground"));
    assert!(lost.is_some());
    let mut room = Play::new(&PIT, &with(0.05, 0), 60.0, 80.0);
    while room.state() != "fall" {
        room.play("R1");
    }
    room.world.retune(room.id, tuned(&with(1.0, 0))).unwrap();
    assert!(room.play("-6 J2").join(" ").contains("jumped:ground"));
}

#[test]
fn a_slider_dragged_while_standing_gives_the_new_air_jumps_at_once() {
    let mut room = Play::new(&ROOM, &dab(), 80.0, 80.0);
    let mut numbers = dab();
    numbers.jump.as_mut().unwrap().air_jumps = 2;
    room.world.retune(room.id, tuned(&numbers)).unwrap();
    let events = room.play("J3 -2 J3 -2 J3 -2 J3").join(" ");
    assert_eq!(events.matches("jumped:air").count(), 2, "{events}");
}

#[test]
fn who_is_held_still_takes_no_part_and_others_meet_it_as_before() {
    let mut room = Play::new(&ROOM, &dab(), 60.0, 80.0);
    let jar = room.world.add_prop(crate_of(12.0, 12.0), DVec2::new(100.0, 60.0)).unwrap();
    room.world.hold_still(jar, true);
    room.world.hold_still(room.id, true);
    assert_eq!(room.play("RJ10"), ["1 held-still"]);
    assert_eq!(room.feet(), (60.0, 80.0));
    room.world.hold_still(room.id, false);
    assert_eq!(room.play("-1"), ["11 set-going"]);
    room.play("R60");
    assert_eq!(room.world.report(jar).feet, DVec2::new(100.0, 60.0), "the jar hangs in the air");
    assert_eq!(room.feet().0, 89.0, "and is a wall there");
    room.world.hold_still(jar, false);
    room.play("-60");
    assert_eq!(room.world.report(jar).feet.y, 80.0);
}

#[test]
fn control_taken_away_is_no_release_and_given_back_no_press() {
    let mut numbers = dab();
    numbers.jump.as_mut().unwrap().release = Release::Cut { keep: 0.0 };
    let mut room = Play::new(&ROOM, &numbers, 60.0, 80.0);
    room.play("RJ3");
    let rising = room.now().velocity.y;
    room.world.set_control(room.id, false);
    assert_eq!(room.play("-3"), ["4 control-taken"]);
    assert!((room.now().velocity.y - rising).abs() < 60.0 && room.now().velocity.y < -100.0, "it was not cut");
    assert_eq!(room.now().velocity.x, 0.0, "and no direction is held");
    room.world.set_control(room.id, true);
    room.play("J1");
    assert!(room.now().velocity.y < -100.0, "still held");
    room.play("-1");
    assert_eq!(room.now().velocity.y.max(0.0), room.now().velocity.y, "let go now: cut");
    // Held when it comes back: no press.
    let mut room = Play::new(&ROOM, &dab(), 60.0, 80.0);
    room.world.set_control(room.id, false);
    room.play("J5");
    room.world.set_control(room.id, true);
    assert_eq!(room.play("J5"), ["6 control-given"]);
    assert_eq!(room.play("-1 J1"), ["12 jumped:ground"]);
}

#[test]
fn a_body_stands_in_a_wind_weaker_than_its_braking_and_is_blown_by_a_stronger() {
    for scheme in [Scheme::Exact, Scheme::VelocityFirst, Scheme::PositionFirst] {
        let mut numbers = TuningNumbers { scheme, ..dab() };
        numbers.run.acceleration = Acceleration::Rate(900.0);
        numbers.run.braking = Acceleration::Rate(600.0);
        let mut room = Play::new(&ROOM, &numbers, 60.0, 80.0);
        let blow = |room: &mut Play, push: DVec2| {
            for _ in 0..6 {
                room.world.push(room.id, push).unwrap();
                room.play("-1");
            }
        };
        blow(&mut room, DVec2::new(590.0, 0.0));
        assert_eq!(room.now().velocity, DVec2::ZERO, "{scheme:?}");
        blow(&mut room, DVec2::new(660.0, 0.0));
        assert!((room.now().velocity.x - 6.0).abs() < 1e-9, "{:?}", room.now());
        // A push up weaker than gravity leaves it where it is, a stronger one lifts it.
        let gravity = room.world.character(room.id).tuning().gravity().fall;
        blow(&mut room, DVec2::new(0.0, 10.0 - gravity));
        assert_eq!(room.feet().1, 80.0);
        blow(&mut room, DVec2::new(0.0, -gravity - 100.0));
        assert!((room.now().velocity.y + 10.0).abs() < 1e-9 && room.feet().1 < 80.0, "{:?}", room.now());
        assert!(room.events.iter().any(|event| event.ends_with("lost-ground")));
    }
}

#[test]
fn a_drift_carries_like_a_belt_is_swept_and_is_no_speed() {
    let mut room = Play::new(
        &["..........", "..........", "..........", ".....#....", ".....#....", "##########"],
        &dab(),
        60.0,
        80.0,
    );
    for _ in 0..20 {
        room.world.drift(room.id, DVec2::new(120.0, 0.0)).unwrap();
        room.play("-1");
        assert_eq!(room.now().velocity, DVec2::ZERO);
        assert_eq!(room.state(), "stand");
    }
    assert_eq!(room.feet(), (75.0, 80.0), "the wall stops it");
    room.world.drift(room.id, DVec2::new(-60.0, -120.0)).unwrap();
    room.play("-1");
    // Off the ground in step 1, it has a tick of gravity in step 4.
    let fallen = 54.0 / 0.35 / 0.35 / 60.0 / 60.0;
    assert!((room.feet().1 - 78.0 - fallen).abs() < 1e-9 && room.feet().0 == 74.0, "{:?}", room.feet());
    assert_eq!(room.state(), "fall");
}

#[test]
fn identities_are_never_given_twice_and_their_order_stays() {
    let mut world = World::new(Grid::from_rows(&ROOM, 16.0, Edges::default()).unwrap());
    let add = |world: &mut World<Grid>, x: f64| world.add_character(tuned(&dab()), DVec2::new(x, 80.0)).unwrap();
    let [one, two, three] = [20.0, 50.0, 80.0].map(|x| add(&mut world, x));
    assert!(world.remove(two) && !world.contains(two) && !world.remove(two));
    let four = add(&mut world, 50.0);
    assert_ne!(four, two);
    let order: Vec<_> = world.characters().map(|character| character.id()).collect();
    assert_eq!(order, [one, three, four]);
    world.tick_with(|id| Buttons { right: id == three, ..Buttons::NONE });
    assert_eq!(world.report(three).feet.x, 82.0);
    assert_eq!((world.report(one).feet.x, world.report(four).feet.x), (20.0, 50.0));
    // By the slice, in that order.
    world.tick(&[Buttons::NONE, Buttons::NONE, Buttons { left: true, ..Buttons::NONE }]);
    assert_eq!(world.report(four).feet.x, 48.0);
    // Back in time the one removed is there again, and the next one gets the same number as before.
    let saved = world.save();
    world.remove(one);
    let five = add(&mut world, 20.0);
    world.restore(&saved);
    assert!(world.contains(one) && !world.contains(five));
    assert_eq!(add(&mut world, 120.0), five);
}

#[test]
#[should_panic(expected = "is not in this world")]
fn who_was_removed_has_no_report() {
    let mut room = Play::new(&ROOM, &dab(), 60.0, 80.0);
    room.world.remove(room.id);
    room.world.report(room.id);
}

#[test]
fn what_stood_on_a_removed_prop_or_platform_stands_on_nothing() {
    let slab = PlatformNumbers::new(DVec2::new(32.0, 8.0), DVec2::new(16.0, 40.0));
    let mut room = Play::on(&[slab], &ROOM, &dab(), 32.0, 40.0);
    let jar = room.world.add_prop(crate_of(32.0, 20.0), DVec2::new(120.0, 80.0)).unwrap();
    let other = room.world.add_character(tuned(&dab()), DVec2::new(120.0, 60.0)).unwrap();
    room.play("-2");
    assert_eq!(room.world.report(other).support, Support::Prop(0));
    assert_eq!(room.now().support, Support::Platform(0));
    assert!(room.world.remove(jar) && room.world.remove_platform(0) && !room.world.remove_platform(0));
    assert_eq!(room.play("-1"), ["3 lost-ground"]);
    assert_eq!(room.world.report(other).events, [Event::LostGround]);
    room.play("-60");
    assert_eq!(room.feet().1, 80.0);
}

#[test]
fn a_platform_added_starts_now_and_gets_a_number_of_its_own() {
    let mut room = Play::new(&ROOM, &dab(), 100.0, 80.0);
    room.play("-30");
    let cart = PlatformNumbers::new(DVec2::new(32.0, 8.0), DVec2::new(16.0, 40.0)).to(DVec2::new(76.0, 40.0), 60.0);
    assert_eq!(room.world.add_platform(&cart), Ok(0));
    assert_eq!(room.world.platform_report(0).place.left, 16.0);
    room.play("-10");
    let report = room.world.platform_report(0);
    assert_eq!((report.before.left, report.place.left), (25.0, 26.0));
    assert!(room.world.remove_platform(0));
    assert_eq!(room.world.add_platform(&cart), Ok(1), "not 0 again");
    assert_eq!(room.world.platforms().numbers().collect::<Vec<_>>(), [1]);
    let mut nowhere = World::new(Grid::from_rows(&ROOM, 16.0, Edges::default()).unwrap());
    let error = nowhere.add_platform(&cart).unwrap_err();
    assert_eq!(error.problem, PlatformProblem::NoRate);
    assert!(error.to_string().contains("the world has no tick rate yet"), "{error}");
    let whole = TuningNumbers { pixels: Pixels::Whole, ..dab() };
    nowhere.add_character(tuned(&whole), DVec2::new(100.0, 80.0)).unwrap();
    let uneven = PlatformNumbers::new(DVec2::new(32.5, 8.0), DVec2::new(16.0, 40.0));
    assert_eq!(nowhere.add_platform(&uneven).unwrap_err().problem, PlatformProblem::NotWhole);
}

#[test]
fn a_platform_that_the_game_moves_carries_pushes_and_crushes_by_the_way_it_went() {
    let slab = PlatformNumbers::new(DVec2::new(32.0, 8.0), DVec2::new(16.0, 60.0));
    let mut room = Play::on(&[slab], &ROOM, &dab(), 32.0, 60.0);
    for step in 1..=10 {
        room.world.move_platform(0, DVec2::new(16.0 + 3.0 * f64::from(step), 60.0 - f64::from(step))).unwrap();
        room.play("-1");
    }
    assert_eq!(room.feet(), (62.0, 50.0));
    room.play("-5");
    assert_eq!(room.feet(), (62.0, 50.0), "not moved any more, it stays");
    // Dab walks off, and is pushed along the floor.
    room.play("R20 -30");
    let x = room.feet().0;
    assert_eq!(room.feet().1, 80.0);
    room.world.move_platform(0, DVec2::new(46.0, 70.0)).unwrap();
    room.play("-1");
    room.world.move_platform(0, DVec2::new(x - 30.0, 70.0)).unwrap();
    assert_eq!(room.play("-1").last().unwrap(), &format!("{} pushed:1", room.now().tick));
    assert_eq!(room.feet().0, x + 7.0);
    // From above, onto the floor.
    for over in [DVec2::new(x - 30.0, 40.0), DVec2::new(x - 3.0, 40.0)] {
        room.world.move_platform(0, over).unwrap();
        room.play("-1");
    }
    room.world.move_platform(0, DVec2::new(x - 3.0, 60.0)).unwrap();
    assert!(room.play("-1").join(" ").contains("crushed:1"));
    let too_far = room.world.move_platform(0, DVec2::new(50_000.0, 0.0)).unwrap_err();
    assert_eq!(too_far.problem, PlatformProblem::TooFast);
    assert!(room.world.move_platform(0, DVec2::new(f64::NAN, 0.0)).is_err());
}

#[test]
fn a_platform_driven_or_removed_is_so_again_after_going_back() {
    let slab = |x| PlatformNumbers::new(DVec2::new(32.0, 8.0), DVec2::new(x, 60.0));
    let mut room = Play::on(&[slab(16.0), slab(80.0)], &ROOM, &dab(), 32.0, 60.0);
    room.world.move_platform(0, DVec2::new(18.0, 60.0)).unwrap();
    room.play("-3");
    let saved = room.world.save();
    let places = |world: &World<Grid>| -> Vec<f64> {
        world.platforms().numbers().map(|number| world.platform_report(number).place.left).collect()
    };
    assert_eq!(places(&room.world), [18.0, 80.0]);
    room.world.remove_platform(0);
    room.world.move_platform(1, DVec2::new(90.0, 60.0)).unwrap();
    room.world.add_platform(&slab(120.0)).unwrap();
    room.play("-3");
    assert_eq!(places(&room.world), [90.0, 120.0]);
    room.world.restore(&saved);
    assert_eq!(places(&room.world), [18.0, 80.0]);
    room.play("-3");
    assert_eq!(room.feet(), (34.0, 60.0));
}

#[test]
fn tiles_change_under_the_feet_and_upon_a_body() {
    let mut room = Play::new(&ROOM, &dab(), 40.0, 80.0);
    room.world.terrain_mut().set_tile(2, 5, 0).unwrap();
    assert_eq!(room.play("-1"), ["1 lost-ground"]);
    let mut room = Play::new(&ROOM, &dab(), 40.0, 80.0);
    room.world.terrain_mut().set_tile(2, 4, 1).unwrap();
    assert_eq!(room.play("RJ2"), ["1 crushed:terrain", "1 lost-ground", "2 crushed:terrain"]);
    assert_eq!(room.feet(), (40.0, 80.0));
    room.world.terrain_mut().set_tile(2, 4, 0).unwrap();
    assert_eq!(room.play("R1"), ["3 landed:14.694"]);
    assert_eq!(room.feet(), (42.0, 80.0));
    let grid = room.world.terrain_mut();
    assert_eq!(grid.set_tile(10, 0, 1), Err(GridError::NoTile { column: 10, row: 0, columns: 10, rows: 6 }));
    assert_eq!(grid.set_tile(0, 0, 6), Err(GridError::UnknownKind { column: 0, row: 0 }));
    assert!(grid.set_objects(vec![Block::new(DVec2::new(f64::NAN, 0.0), 1.0, 1.0)], vec![]).is_err());
    // A kind that was nowhere is met as soon as it is somewhere.
    room.world.terrain_mut().set_tile(4, 4, 2).unwrap();
    room.world.place(room.id, DVec2::new(72.0, 50.0)).unwrap();
    room.play("-30");
    assert_eq!((room.feet().1, room.now().support), (64.0, Support::OneWay));
}

#[test]
fn a_terrain_put_in_the_place_of_another_is_read_anew() {
    let mut room = Play::new(&ROOM, &dab(), 40.0, 80.0);
    room.play("-2");
    *room.world.terrain_mut() = Grid::from_rows(&PIT, 16.0, Edges::default()).unwrap();
    room.play("R20");
    assert_eq!(room.state(), "fall", "both say of themselves that they never changed");
}

/// Ground without ends, a pit in every tenth column; and a ramp, a belt and a bounce with numbers out of all bounds.
struct Plain;

impl Terrain for Plain {
    fn grid_lines(&self) -> GridLines {
        GridLines::new(16.0)
    }
    fn columns(&self) -> i32 {
        self.grid_lines().all_cells().end
    }
    fn rows(&self) -> i32 {
        self.grid_lines().all_cells().end
    }
    fn first_column(&self) -> i32 {
        self.grid_lines().all_cells().start
    }
    fn first_row(&self) -> i32 {
        self.grid_lines().all_cells().start
    }
    fn edges(&self) -> Edges {
        Edges::default()
    }
    fn revision(&self) -> Option<u64> {
        Some(0)
    }
    fn tile(&self, column: i32, row: i32) -> TileProperties {
        let material = match column.rem_euclid(10) {
            3 => Material { grip: f64::NAN, surface_speed: -1e300, ..Material::PLAIN },
            5 => Material { grip: -3.0, surface_speed: f64::NAN, ..Material::PLAIN },
            _ => Material::PLAIN,
        };
        match (row, column.rem_euclid(10)) {
            (-5, 7) => TileProperties::of(Surface::Ramp { left_height: f64::NAN, right_height: 1e9 }),
            (-4.., 0) | (..-4, _) => TileProperties::EMPTY,
            _ => TileProperties { material, ..TileProperties::SOLID },
        }
    }
}

#[test]
fn terrains_without_ends_are_asked_for_what_lies_left_of_and_above_the_origin_too() {
    let mut world = World::new(Plain);
    let id = world.add_character(tuned(&dab()), DVec2::new(-330.0, -64.0)).unwrap();
    assert_eq!(world.report(id).state, State::Stand);
    for _ in 0..200 {
        world.tick(&[Buttons { left: true, ..Buttons::NONE }]);
        assert!(world.violation().is_none());
    }
    assert!(world.report(id).feet.x < -330.0);
    let far = world.add_character(tuned(&dab()), DVec2::new(-500_000.0, -64.0)).unwrap();
    world.tick(&[Buttons::NONE; 2]);
    assert_eq!(world.report(far).state, State::Stand);
}

#[test]
fn two_hundred_come_and_go_for_an_hour_and_nothing_grows() {
    let mut world = World::new(Grid::from_rows(&ROOM, 16.0, Edges::default()).unwrap());
    let tuning = tuned(&dab());
    let mut there: Vec<_> = (0..200)
        .map(|of| world.add_character(tuning.clone(), DVec2::new(10.0 + f64::from(of % 140), 80.0)).unwrap())
        .collect();
    world.tick(&[]);
    let size = world.save().size_in_bytes();
    for tick in 0..216_000_usize / 20 {
        let left = there.remove(tick * 7 % there.len());
        assert!(world.remove(left));
        there.push(world.add_character(tuning.clone(), DVec2::new(10.0 + (tick % 140) as f64, 80.0)).unwrap());
        world.tick(&[]);
    }
    assert_eq!(world.save().size_in_bytes(), size);
    assert_eq!(world.characters().len(), 200);
}

struct Heard(Vec<String>);

impl Listener for Heard {
    fn decided(&mut self, _: wumple_core::CharacterId, _: u64, decision: &Decision) {
        self.0.push(decision.to_string());
    }
}

#[test]
fn a_listener_may_be_a_trait_object() {
    let mut room = Play::new(&ROOM, &dab(), 40.0, 80.0);
    let mut heard = Heard(Vec::new());
    let listener: &mut dyn Listener = &mut heard;
    room.world.tick_told(&[Buttons { jump: true, ..Buttons::NONE }], listener);
    assert_eq!(heard.0, ["jump pressed in tick 1: used, from the ground"]);
}

#[test]
fn places_before_are_told_for_drawing_what_is_between_two_ticks() {
    let platforms = Platforms::new(&[], 60.0).unwrap();
    let mut world = World::with_platforms(Grid::from_rows(&ROOM, 16.0, Edges::default()).unwrap(), platforms);
    let id = world.add_character(tuned(&dab()), DVec2::new(40.0, 80.0)).unwrap();
    assert_eq!(world.report(id).moved(), DVec2::ZERO);
    world.tick(&[Buttons { right: true, ..Buttons::NONE }]);
    let report = world.report(id);
    assert_eq!((report.from, report.moved()), (DVec2::new(40.0, 80.0), DVec2::new(2.0, 0.0)));
    let jar = world.add_prop(crate_of(12.0, 12.0), DVec2::new(120.0, 60.0)).unwrap();
    world.tick(&[]);
    assert_eq!(world.report(jar).from, DVec2::new(120.0, 60.0));
    assert!(world.place_of(MoverId::from(jar)).bottom > 60.0);
}
