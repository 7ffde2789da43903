//! One-way tiles, steps, tops that slip, carry and throw up. A sentence each, played.

use crate::play;

use crate::play::{Play, dab};
use wumple_core::numbers::{Acceleration, Bounce, DropRule, Release};
use wumple_core::{Block, DVec2, Edges, Grid, Material, Surface, TileProperties, TuningNumbers};

const STACK: [&str; 9] =
    ["........", "........", "..====..", "........", "........", "..====..", "........", "........", "########"];

#[test]
fn from_below_and_the_sides_a_shelf_is_free_and_from_above_it_holds() {
    let mut below = Play::new(&STACK, &dab(), 56.0, 128.0);
    let events = below.play("J80");
    assert_eq!(events[0], "1 jumped:ground");
    assert_eq!(events.len(), 2, "no bump: {events:?}");
    assert_eq!((below.feet().1, below.now().support.to_string().as_str()), (80.0, "one-way"));
    // Beside one, at its height, and into it.
    let mut beside = Play::new(&STACK, &dab(), 20.0, 84.0);
    beside.play("R10");
    assert!((beside.feet().0 - 40.0).abs() < 1e-9, "not stopped: {:?}", beside.feet());
    let before = beside.feet().1;
    assert!(before > 84.0, "nor lifted onto it");
}

#[test]
fn dropping_through_one_of_several_lands_on_the_next() {
    for (drop, press) in [(DropRule::DownAndJump, "DJ1"), (DropRule::Down, "D1")] {
        let numbers = TuningNumbers { drop, ..dab() };
        let mut dab = Play::new(&STACK, &numbers, 56.0, 32.0);
        let events = dab.play(&format!("{press} D60"));
        assert_eq!(events[0], "1 dropped-through");
        assert_eq!(events.len(), 2, "{events:?}");
        assert_eq!(dab.feet().1, 80.0, "not through the second, though down is still held");
    }
}

#[test]
fn a_drop_needs_down_pressed_afresh_or_jump_pressed_afresh() {
    let mut down = Play::new(&STACK, &TuningNumbers { drop: DropRule::Down, ..dab() }, 56.0, 20.0);
    assert_eq!(down.play("D60").len(), 1, "held since the air: it lands and stays");
    let mut both = Play::new(&STACK, &dab(), 56.0, 32.0);
    assert_eq!(both.play("J30")[0], "1 jumped:ground", "without down it jumps");
    let mut off = Play::new(&STACK, &TuningNumbers { drop: DropRule::Off, ..dab() }, 56.0, 32.0);
    assert_eq!(off.play("DJ1"), ["1 jumped:ground"]);
}

#[test]
fn a_stick_pushed_down_from_rest_is_a_press_and_one_held_down_is_none() {
    use wumple_core::Buttons;
    let mut dab = Play::new(&STACK, &TuningNumbers { drop: DropRule::Down, ..dab() }, 56.0, 32.0);
    let mut hold = |climb: f64, ticks: u32| {
        let before = dab.rows.len();
        for _ in 0..ticks {
            dab.world.tick(&[Buttons { climb, ..Buttons::NONE }]);
            dab.rows.push(dab.world.report(dab.id).clone());
        }
        let dropped = |row: &wumple_core::TickReport| row.events.contains(&wumple_core::Event::DroppedThrough);
        dab.rows[before..].iter().filter(|row| dropped(row)).count()
    };
    assert_eq!(hold(0.0, 2), 0);
    assert_eq!(hold(-0.6, 60), 1, "through the first, and held no further press on the second");
    assert_eq!(hold(-1.0, 20), 0, "further down is still held down");
    assert_eq!((hold(0.0, 1), hold(-0.3, 30)), (0, 1), "pushed afresh");
}

#[test]
fn half_on_one_way_and_half_on_solid_does_not_drop() {
    let rows = ["........", "........", "..==##..", "........", "........", "########"];
    for (x, event) in [(40.0, "1 dropped-through"), (58.9, "1 dropped-through"), (59.1, "1 jumped:ground")] {
        let mut dab = Play::new(&rows, &dab(), x, 32.0);
        assert_eq!(dab.play("DJ1"), [event], "{x}");
    }
}

#[test]
fn a_drop_ignores_every_shelf_at_that_height_until_the_feet_are_below() {
    let rows = ["........", "........", "..====..", "........", "########"];
    let mut slow = dab();
    // A fall so slow that the body runs over several tiles before its feet are below the shelf.
    slow.jump.as_mut().unwrap().shape =
        wumple_core::numbers::JumpShape::HeightAndTime { height: 1.0, time_to_apex: 2.0 };
    let mut dab = Play::new(&rows, &slow, 40.0, 32.0);
    assert_eq!(dab.play("DJ1 R20"), ["1 dropped-through"]);
    assert!(dab.feet().1 > 32.0 && dab.feet().1 < 33.0);
}

#[test]
fn jumping_up_with_the_feet_inside_a_shelfs_tile_does_not_snap_onto_it() {
    let rows = ["........", "........", "........", "..====..", "........", "########"];
    // 31 px up: the feet come to 49 px, one short of the shelf's top at 48 px.
    let mut numbers = dab();
    numbers.jump.as_mut().unwrap().shape =
        wumple_core::numbers::JumpShape::HeightAndTime { height: 31.0, time_to_apex: 0.3 };
    let mut dab = Play::new(&rows, &numbers, 56.0, 80.0);
    dab.play("J60");
    assert_eq!(dab.feet().1, 80.0);
    assert!(dab.rows.iter().all(|row| row.feet.y > 48.9));
}

#[test]
fn steps_are_walked_up_and_down_as_high_as_the_step_height() {
    let grid = |height: f64| {
        let rows = ["............", "............", "############"];
        let block = Block::new(DVec2::new(64.0, 32.0 - height), 40.0, height);
        Grid::from_rows(&rows, 16.0, Edges::default()).unwrap().with_objects(vec![block], Vec::new()).unwrap()
    };
    for (height, over) in [(6.0, true), (8.0, true), (8.5, false)] {
        let mut numbers = dab();
        numbers.body.step_height = 8.0;
        let mut dab = Play::in_room(grid(height), &numbers, 30.0, 32.0);
        let events = dab.play("R60");
        let said: Vec<&str> = events.iter().filter_map(|event| event.split_once(' ')).map(|(_, what)| what).collect();
        let expected = if over { &["stepped:up", "stepped:down"][..] } else { &[] };
        assert_eq!(said, expected, "never leaves the ground: {events:?}");
        assert_eq!(dab.feet().0 > 120.0, over, "{height}: {:?}", dab.feet());
        if over {
            // As far as on a flat floor, to the bit.
            assert_eq!(dab.rows[40].feet.x, 30.0 + (0..40).fold(0.0, |x, _| x + 2.0));
            assert!(dab.rows.iter().any(|row| row.feet.y == 32.0 - height));
            assert_eq!(dab.rows[35].support.to_string(), "block:1");
        }
    }
}

#[test]
fn a_flat_floor_of_any_mix_gives_the_same_x_as_plain_tiles() {
    let mut numbers = play::ladder_climber();
    (numbers.run.acceleration, numbers.run.braking) = (Acceleration::Time(0.13), Acceleration::Time(0.07));
    numbers.body.step_height = 4.0;
    let script = "R37 -9 L14 R23 L3 R40 -20";
    let empty = ["................"; 2];
    let walk = |floor: &str, blocks: Vec<Block>| {
        let rows = [empty[0], empty[1], floor];
        let grid = Grid::from_rows(&rows, 16.0, Edges::default()).unwrap().with_objects(blocks, Vec::new()).unwrap();
        let mut dab = Play::in_room(grid, &numbers, 20.0, 32.0);
        assert!(dab.play(script).is_empty());
        dab.rows.iter().map(|row| (row.feet.x.to_bits(), row.feet.y.to_bits())).collect::<Vec<_>>()
    };
    let plain = walk("################", Vec::new());
    let block = |x: f64, width: f64| Block::new(DVec2::new(x, 32.0), width, 9.0);
    for (floor, blocks) in [
        ("#=#H#==HH##=H#H=", vec![]),
        ("HHHHHHHHHHHHHHHH", vec![]),
        ("#===....#HH##==#", vec![block(62.0, 70.0)]),
        ("................", vec![block(0.0, 51.3), block(51.3, 100.0), block(140.0, 116.0)]),
    ] {
        assert!(walk(floor, blocks) == plain, "{floor}");
    }
}

fn room_on(material: Material, surface: Surface) -> Grid {
    let kinds =
        [TileProperties::EMPTY, TileProperties::SOLID, TileProperties { material, ..TileProperties::of(surface) }];
    let tiles = [[0; 12], [0; 12], [0; 12], [2, 2, 2, 2, 2, 2, 2, 2, 0, 0, 0, 0], [0; 12], [1; 12]].concat();
    Grid::new(12, tiles, 16.0, &kinds, Edges::default()).unwrap()
}

#[test]
fn a_belt_carries_what_stands_on_it_and_its_speed_is_not_the_bodys() {
    for surface in [Surface::Solid, Surface::OneWay] {
        let belt = Material { surface_speed: 60.0, ..Material::PLAIN };
        let mut dab = Play::in_room(room_on(belt, surface), &dab(), 24.0, 48.0);
        dab.play("-60");
        assert!((dab.feet().0 - 84.0).abs() < 1e-9);
        assert_eq!((dab.state(), dab.now().velocity.x), ("stand", 0.0));
        dab.play("R10");
        assert!((dab.feet().0 - 84.0 - 30.0).abs() < 1e-9, "walking is relative to it");
        // Carried off the end: it falls from rest, straight down, and coyote time counts.
        let events = dab.play("-40");
        assert!(events[0].ends_with("lost-ground"), "{events:?}");
        assert!(dab.now().support.to_string() == "solid" && dab.feet().1 == 80.0);
    }
}

#[test]
fn coyote_time_runs_after_being_carried_off() {
    let belt = Material { surface_speed: 60.0, ..Material::PLAIN };
    let mut numbers = dab();
    numbers.jump.as_mut().unwrap().coyote_time = 0.05;
    let mut dab = Play::in_room(room_on(belt, Surface::Solid), &numbers, 120.0, 48.0);
    while dab.play("-1").is_empty() {}
    assert_eq!(dab.play("-2 J1").len(), 1);
}

#[test]
fn grip_scales_how_fast_a_speed_changes_but_not_what_is_instant() {
    let slip = Material { grip: 0.25, ..Material::PLAIN };
    let mut numbers = dab();
    numbers.run.acceleration = Acceleration::Rate(480.0);
    let mut dab = Play::in_room(room_on(slip, Surface::Solid), &numbers, 24.0, 48.0);
    dab.play("R10");
    assert!((dab.now().velocity.x - 20.0).abs() < 1e-9);
    dab.play("-1");
    assert_eq!(dab.now().velocity.x, 0.0, "braking is instant");
}

#[test]
fn a_bouncing_top_throws_up_to_its_height_again_and_again() {
    let bounce = Some(Bounce { height: 30.0, release: Release::None });
    let mut dab = Play::in_room(room_on(Material { bounce, ..Material::PLAIN }, Surface::Solid), &dab(), 24.0, 30.0);
    let events = dab.play("-200");
    assert!(events.len() > 3 && events.iter().all(|event| event.ends_with("bounced:solid")), "{events:?}");
    let mut highest = vec![f64::MAX];
    for row in &dab.rows {
        if row.events.is_empty() {
            let last = highest.last_mut().unwrap();
            *last = last.min(row.feet.y);
        } else {
            highest.push(f64::MAX);
        }
    }
    for top in &highest[1..highest.len() - 1] {
        assert!((48.0 - top - 30.0).abs() < 0.1, "{highest:?}");
    }
}

#[test]
fn a_bounce_has_its_own_release_and_gives_air_jumps_back() {
    let bounce = Some(Bounce { height: 60.0, release: Release::Cut { keep: 0.5 } });
    let room = || room_on(Material { bounce, ..Material::PLAIN }, Surface::OneWay);
    let mut released = Play::in_room(room(), &dab(), 24.0, 47.0);
    assert_eq!(released.play("-3 -2"), ["3 bounced:one-way"]);
    let mut held = Play::in_room(room(), &dab(), 24.0, 47.0);
    assert_eq!(held.play("J3 J2"), ["3 bounced:one-way"]);
    assert!(held.now().velocity.y < 1.9 * released.now().velocity.y, "{:?}", (held.now(), released.now()));

    let mut numbers = dab();
    numbers.jump.as_mut().unwrap().air_jumps = 1;
    let mut dab = Play::in_room(room(), &numbers, 24.0, 47.0);
    let events = dab.play("J1 -60 J1");
    assert_eq!(events.iter().filter(|event| event.ends_with("jumped:air")).count(), 2, "{events:?}");
}

#[test]
fn walking_onto_a_bouncing_block_is_noticed() {
    let rows = ["............", "............", "############"];
    let mut block = Block::new(DVec2::new(64.0, 32.0), 40.0, 8.0);
    block.material.bounce = Some(Bounce { height: 20.0, release: Release::None });
    let floor = Grid::from_rows(&rows, 16.0, Edges::default()).unwrap();
    let mut dab = Play::in_room(floor.with_objects(vec![block], Vec::new()).unwrap(), &dab(), 40.0, 32.0);
    let events = dab.play("R20");
    // Equal tops: the one under the feet's middle decides, and tiles are further left there.
    assert!(events.is_empty() || events[0].ends_with("bounced:1"), "{events:?}");
}
