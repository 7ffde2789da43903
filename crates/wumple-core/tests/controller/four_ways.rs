//! Walking four ways, seen from above. A sentence each, played; and closed forms against ticks.

use crate::play::{Play, dab};
use proptest::prelude::*;
use wumple_core::numbers::{Acceleration, Diagonal, FourWayNumbers, Pixels, PlatformSurface, Scheme};
use wumple_core::{
    Block, Buttons, DVec2, DrawnZone, Edge, Edges, Facing, Felt, Grid, Hitbox, Launch, Margin, Piece, PlatformNumbers,
    Platforms, Saved, State, Support, Surface, TileProperties, Tuning, TuningNumbers, World, Zone, ZoneKind,
};

const SCHEMES: [Scheme; 3] = [Scheme::Exact, Scheme::VelocityFirst, Scheme::PositionFirst];

/// Someone of 10 x 10 px who walks at 120 px/s, and slides around corners of up to 6 px.
fn walker() -> TuningNumbers {
    let four_way = FourWayNumbers { corner_slide: 6.0, ..FourWayNumbers::new(120.0) };
    TuningNumbers { four_way: Some(four_way), ..TuningNumbers::new(10.0, 10.0, 0.0) }
}

fn with(change: impl FnOnce(&mut FourWayNumbers)) -> TuningNumbers {
    let mut numbers = walker();
    change(numbers.four_way.as_mut().unwrap());
    numbers
}

const YARD: [&str; 9] = [
    "############",
    "#..........#",
    "#..........#",
    "#....##....#",
    "#....##....#",
    "#..........#",
    "#..........#",
    "#..........#",
    "############",
];

fn yard(numbers: &TuningNumbers) -> Play {
    Play::new(&YARD, numbers, 40.0, 120.0)
}

#[test]
fn nobody_falls_and_every_way_is_walked() {
    let mut dab = yard(&walker());
    dab.play("-60");
    assert_eq!((dab.feet(), dab.state(), dab.now().support), ((40.0, 120.0), "stand", Support::None));
    for (script, by, facing) in [
        ("R5", (10.0, 0.0), Facing::Right),
        ("U5", (0.0, -10.0), Facing::Up),
        ("L5", (-10.0, 0.0), Facing::Left),
        ("D5", (0.0, 10.0), Facing::Down),
    ] {
        let before = dab.feet();
        dab.play(script);
        let after = dab.feet();
        assert!((after.0 - before.0 - by.0).abs() < 1e-9 && (after.1 - before.1 - by.1).abs() < 1e-9, "{script}");
        assert_eq!((dab.now().facing, dab.state()), (facing, "run"));
    }
    // Jump is no way to go.
    dab.play("-1 J20");
    assert_eq!(dab.state(), "stand");
}

#[test]
fn walls_stop_it_on_all_four_sides() {
    for (script, place, side) in [
        ("R200", (171.0, 120.0), "right"),
        ("L200", (21.0, 120.0), "left"),
        ("U200", (40.0, 26.0), "above"),
        ("D200", (40.0, 128.0), "below"),
    ] {
        for scheme in SCHEMES {
            let mut numbers = TuningNumbers { scheme, ..with(|four| four.acceleration = Acceleration::Time(0.2)) };
            for pixels in [Pixels::Free, Pixels::Whole] {
                numbers.pixels = pixels;
                let mut dab = yard(&numbers);
                dab.play(script);
                assert_eq!((dab.feet(), dab.state()), (place, "stand"), "{script} {scheme:?} {pixels:?}");
                assert_eq!(dab.now().contacts.to_string(), side);
                let touched = dab.world.touched(dab.id);
                let pieces = [
                    ("right", touched.right),
                    ("left", touched.left),
                    ("above", touched.above),
                    ("below", touched.below),
                ];
                for (name, piece) in pieces {
                    assert_eq!(matches!(piece, Some(Piece::Tile { .. })), name == side, "{side}: {name} {piece:?}");
                }
            }
        }
    }
}

#[test]
fn aslant_it_is_as_fast_as_straight_or_faster_and_a_stick_says_how_fast() {
    let speed = |numbers: &TuningNumbers, buttons: Buttons| {
        let mut dab = yard(numbers);
        dab.world.tick(&[buttons]);
        dab.world.report(dab.id).velocity
    };
    let aslant = Buttons { right: true, up: true, ..Buttons::NONE };
    let same = speed(&walker(), aslant);
    assert!((same.length() - 120.0).abs() < 1e-9 && same.x == -same.y, "{same}");
    assert_eq!(speed(&with(|four| four.diagonal = Diagonal::Faster), aslant), DVec2::new(120.0, -120.0));
    let stick = |steer, climb| Buttons { steer, climb, ..Buttons::NONE };
    assert_eq!(speed(&walker(), stick(0.3, -0.4)), DVec2::new(36.0, 48.0));
    let full = speed(&walker(), stick(0.6, 0.9));
    assert!((full.length() - 120.0).abs() < 1e-9, "{full}");
    // Opposite directions are neither.
    assert_eq!(
        speed(&walker(), Buttons { left: true, right: true, up: true, ..Buttons::NONE }),
        DVec2::new(0.0, -120.0)
    );
}

#[test]
fn times_and_ways_to_top_speed_and_to_rest_are_the_closed_forms() {
    for scheme in SCHEMES {
        for (script, share) in [("R", 1.0), ("D", 1.0), ("RD", 0.5f64.sqrt())] {
            let numbers = with(|four| {
                (four.acceleration, four.braking) = (Acceleration::Rate(600.0), Acceleration::Rate(400.0));
            });
            let numbers = TuningNumbers { scheme, ..numbers };
            let mut dab = Play::new(&["...................."; 20], &numbers, 20.0, 20.0);
            let along = |dab: &Play| dab.now().velocity.x.max(dab.now().velocity.y);
            let gone = |dab: &Play| (dab.feet().0 - 20.0).max(dab.feet().1 - 20.0);
            // v after n ticks of a: a*n*dt; the way as in the table of jumps.
            let sum = |n: f64| match scheme {
                Scheme::Exact => n * n,
                Scheme::VelocityFirst => n * (n + 1.0),
                Scheme::PositionFirst => n * (n - 1.0),
            };
            let dt = 1.0 / 60.0;
            dab.play(&format!("{script}6"));
            assert!((along(&dab) - 60.0).abs() < 1e-9, "{script} {scheme:?}");
            assert!((gone(&dab) - 600.0 * dt * dt * sum(6.0) / 2.0).abs() < 1e-9);
            dab.play(&format!("{script}30"));
            let top = 120.0 * share;
            assert!((along(&dab) - top).abs() < 1e-9, "each axis aims at its share: {}", dab.now().velocity);
            // To rest: v/b s, and v*v/(2*b) px under exact.
            let before = gone(&dab);
            let ticks = (top / 400.0 * 60.0).ceil();
            dab.play(&format!("-{ticks}"));
            assert_eq!((dab.now().velocity, dab.state()), (DVec2::ZERO, "stand"));
            if scheme == Scheme::Exact {
                assert!((gone(&dab) - before - top * top / 800.0).abs() < 1e-9, "{script}");
            }
        }
    }
}

#[test]
fn the_direction_pressed_last_that_is_still_held_is_faced() {
    let mut dab = yard(&walker());
    for (script, facing) in [
        ("R1", Facing::Right),
        ("RU1", Facing::Up),
        ("R1", Facing::Right),
        ("RD1", Facing::Down),
        ("D1", Facing::Down),
        ("LD1", Facing::Left),
        ("-1", Facing::Left),
        ("U1", Facing::Up),
    ] {
        dab.play(script);
        assert_eq!(dab.now().facing, facing, "{script}");
    }
}

#[test]
fn a_corner_within_reach_is_slid_around_at_top_speed_and_no_further() {
    // The block's top is at 48 px: with the feet at 52 px the body is 4 px too low to pass above it.
    let mut dab = Play::new(&YARD, &walker(), 60.0, 52.0);
    let why = dab.why("R20");
    // Stopped in tick 8, two px are gone in that tick and the next.
    assert_eq!(why, ["8 slid 2 px around a corner", "9 slid 2 px around a corner"]);
    assert_eq!(dab.rows[9].feet, DVec2::new(75.0, 48.0), "no further than the free way, to the bit");
    assert_eq!((dab.rows[8].state, dab.rows[8].velocity), (State::Run, DVec2::ZERO));
    assert!(dab.feet().0 > 90.0 && dab.feet().1 == 48.0);
    // Out of reach, or with another direction held, it stays.
    let mut dab = Play::new(&YARD, &walker(), 60.0, 54.5);
    dab.play("R20");
    assert_eq!((dab.feet(), dab.state()), ((75.0, 54.5), "stand"));
    let mut dab = Play::new(&YARD, &with(|four| four.corner_slide = 0.0), 60.0, 52.0);
    dab.play("R20");
    assert_eq!(dab.feet(), (75.0, 52.0));
    // Around the lower corner, downward: the block ends at 80 px.
    let mut dab = Play::new(&YARD, &walker(), 60.0, 87.0);
    dab.play("R30");
    assert!(dab.feet().0 > 90.0 && dab.feet().1 == 90.0, "{:?}", dab.feet());
    // Along the other axis: the block is from 80 to 112 px.
    let mut dab = Play::new(&YARD, &walker(), 78.0, 120.0);
    dab.play("U40");
    assert!(dab.feet().0 == 75.0 && dab.feet().1 < 80.0, "{:?}", dab.feet());
    let mut dab = Play::new(&YARD, &walker(), 112.0, 30.0);
    dab.play("D40");
    assert!(dab.feet().0 == 117.0 && dab.feet().1 > 90.0, "{:?}", dab.feet());
}

#[test]
fn of_two_free_ways_the_nearer_one_then_the_side_held_last_then_up_or_left() {
    // A post of 8 px in the way of a body of 10.
    let room = |feet_y: f64| {
        let post = Block::new(DVec2::new(80.0, 60.0), 8.0, 8.0);
        let grid = Grid::from_rows(&[".........."; 8], 16.0, Edges::default()).unwrap();
        let numbers = with(|four| four.corner_slide = 10.0);
        Play::in_room(grid.with_objects(vec![post], vec![]).unwrap(), &numbers, 60.0, feet_y)
    };
    let end = |mut dab: Play, script: &str| {
        dab.play(script);
        dab.feet().1
    };
    // Up 9 or down 9 from the middle: at 69.
    assert_eq!(end(room(69.0), "R40"), 60.0);
    assert_eq!(end(room(69.5), "R40"), 78.0);
    assert_eq!(end(room(69.0), "D1 U1 R40"), 60.0);
    assert_eq!(end(room(69.0), "U1 D1 R40"), 78.0);
}

#[test]
fn ladders_tops_and_slopes_are_empty_and_solid_things_are_not() {
    let ramp = TileProperties::of(Surface::Ramp { left_height: 0.0, right_height: 16.0 });
    let kinds = [TileProperties::EMPTY, TileProperties::LADDER, TileProperties::ONE_WAY, ramp, TileProperties::SOLID];
    let tiles = [vec![0; 12], vec![0, 1, 0, 2, 0, 3, 0, 0, 4, 0, 0, 0], vec![0; 12]].concat();
    let grid = Grid::new(12, tiles, 16.0, &kinds, Edges::default()).unwrap();
    let shelf = PlatformNumbers::new(DVec2::new(16.0, 16.0), DVec2::new(96.0, 16.0));
    let shelf = PlatformNumbers { surface: PlatformSurface::OneWay, ..shelf };
    let mut world = World::with_platforms(grid, Platforms::new(&[shelf], 60.0).unwrap());
    let dab = world.add_character(Tuning::check(&walker()).unwrap(), DVec2::new(24.0, 28.0)).unwrap();
    for _ in 0..100 {
        world.tick(&[Buttons { right: true, ..Buttons::NONE }]);
        assert_eq!(world.violation(), None);
    }
    assert_eq!(world.report(dab).feet, DVec2::new(123.0, 28.0));
    for down in [true, false] {
        for _ in 0..20 {
            world.tick(&[Buttons { down, up: !down, left: true, ..Buttons::NONE }]);
        }
    }
    // It may be put onto what it walks over; who walks with gravity meets all of it in the same world.
    world.place(dab, DVec2::new(88.0, 30.0)).unwrap();
    let mut other = dab_small();
    other.rate = 60.0;
    let faller = world.add_character(Tuning::check(&other).unwrap(), DVec2::new(56.0, 10.0)).unwrap();
    (0..60).for_each(|_| world.tick(&[]));
    assert_eq!(world.report(faller).support, Support::OneWay);
    assert!(world.retune(faller, Tuning::check(&walker()).unwrap()).is_ok());
    world.tick(&[Buttons::NONE, Buttons { down: true, ..Buttons::NONE }]);
    assert!(world.report(faller).feet.y > 16.0, "the shelf is empty to it now");
}

fn dab_small() -> TuningNumbers {
    TuningNumbers::new(8.0, 8.0, 100.0)
}

#[test]
fn solid_platforms_push_it_both_ways_and_crush_it() {
    let cart = |from: DVec2, to: DVec2| {
        let cart = PlatformNumbers::new(DVec2::new(16.0, 16.0), from).to(to, 60.0);
        PlatformNumbers { surface: PlatformSurface::Solid, ..cart }
    };
    let carts = [
        cart(DVec2::new(20.0, 20.0), DVec2::new(80.0, 20.0)),
        cart(DVec2::new(120.0, 90.0), DVec2::new(120.0, 30.0)),
        cart(DVec2::new(150.0, 20.0), DVec2::new(150.0, 112.0)),
    ];
    let mut dab = Play::on(&carts[..1], &YARD, &walker(), 45.0, 34.0);
    let events = dab.play("-59");
    assert!(events.iter().any(|event| event.ends_with("pushed:1")), "{events:?}");
    assert!((dab.feet().0 - 100.0).abs() < 1.1 && dab.feet().1 == 34.0, "{:?}", dab.feet());
    let mut dab = Play::on(&carts[1..2], &YARD, &walker(), 128.0, 80.0);
    dab.play("-50");
    assert!(dab.feet().1 < 41.0, "pushed up: {:?}", dab.feet());
    let mut dab = Play::on(&carts[2..], &YARD, &walker(), 158.0, 100.0);
    let events = dab.play("-110");
    assert!(events.iter().any(|event| event.ends_with("crushed:1")), "down against the wall: {events:?}");
}

#[test]
fn pushes_drifts_launches_zones_and_saved_states() {
    let mut dab = yard(&with(|four| four.braking = Acceleration::Rate(300.0)));
    dab.world.push(dab.id, DVec2::new(0.0, 600.0)).unwrap();
    dab.play("-1");
    assert!((dab.now().velocity.y - 5.0).abs() < 1e-9, "pushed against braking: {}", dab.now().velocity);
    dab.play("-5");
    let before = dab.feet();
    dab.world.drift(dab.id, DVec2::new(60.0, -60.0)).unwrap();
    dab.play("-1");
    assert!((dab.feet().0 - before.0 - 1.0).abs() < 1e-9 && (dab.feet().1 - before.1 + 1.0).abs() < 1e-9);
    dab.world.launch(dab.id, DVec2::new(-100.0, -50.0), Launch { ticks: 10, unbraked: true }).unwrap();
    dab.play("R10");
    assert_eq!(dab.now().velocity, DVec2::new(-100.0, -50.0), "nothing steers or brakes");
    let saved = Saved::from_bytes(&dab.world.save().to_bytes(&dab.world), &dab.world).unwrap();
    dab.play("RU7 U3 -9");
    let there = dab.now().clone();
    dab.world.restore(&saved);
    dab.play("RU7 U3 -9");
    assert_eq!(*dab.now(), there);
    let jar = Zone { kind: ZoneKind::Pickup, margin: Margin::all(0.0), felt: Felt::Inside };
    let place = Hitbox { left: 50.0, right: 60.0, top: 20.0, bottom: 30.0 };
    let grid = Grid::from_rows(&["......"; 3], 16.0, Edges::default()).unwrap();
    let grid = grid.with_zones(vec![DrawnZone::new(place, jar)]).unwrap();
    let mut dab = Play::in_room(grid, &walker(), 20.0, 28.0);
    let events = dab.play("R30");
    assert_eq!(events.len(), 2, "{events:?}");
    assert!(dab.rows.iter().any(|row| row.events.iter().any(|event| event.enters(ZoneKind::Pickup))));
}

#[test]
fn rates_agree() {
    let numbers = with(|four| {
        (four.acceleration, four.braking, four.turning) =
            (Acceleration::Time(0.2), Acceleration::Time(0.15), Acceleration::Time(0.1));
    });
    let end = |rate: f64| {
        let mut world = World::new(Grid::from_rows(&[".........."; 10], 16.0, Edges::default()).unwrap());
        let tuning = Tuning::check(&TuningNumbers { rate, ..numbers.clone() }).unwrap();
        let dab = world.add_character(tuning, DVec2::new(60.0, 90.0)).unwrap();
        for tick in 0..(rate * 1.2) as u32 {
            let moment = f64::from(tick) / rate;
            let held = Buttons {
                right: moment < 0.5,
                up: (0.3..0.7).contains(&moment),
                left: (0.7..0.9).contains(&moment),
                ..Buttons::NONE
            };
            world.tick(&[held]);
        }
        world.report(dab).feet
    };
    for rate in [30.0, 120.0, 990.0] {
        assert!((end(rate) - end(60.0)).abs().max_element() < 1e-6, "{rate}: {} {}", end(rate), end(60.0));
    }
}

#[test]
fn sections_of_gravity_are_refused_by_their_names() {
    let mut numbers = TuningNumbers { four_way: walker().four_way, ..dab() };
    numbers.ladder = Some(wumple_core::numbers::LadderNumbers::default());
    let words = Tuning::check(&numbers).unwrap_err().to_string();
    let why = "is given, but [four_way] is seen from above, without gravity; remove one of them";
    assert_eq!(words, format!("jump {why}; ladder {why}"));
}

proptest! {
    #![proptest_config(crate::rooms::cases(400))]

    /// In any room, whatever is held: nobody is inside anything or goes through it, nothing pulls, and a slide around a corner is
    /// no further than it may be.
    #[test]
    fn in_random_yards_nothing_is_gone_through(
        filled in prop::collection::vec(prop::bool::weighted(0.25), 12 * 12),
        (width, height, tile) in (2.0..20.0f64, 2.0..20.0f64, prop::sample::select(&[16.0, 8.0, 13.25][..])),
        (top_speed, slide, scheme) in (0.0..400.0f64, 0.0..12.0f64, prop::sample::select(SCHEMES.to_vec())),
        rates in (0.0..0.3f64, 0.0..0.3f64),
        (whole, faster) in (any::<bool>(), any::<bool>()),
        script in prop::collection::vec((any::<u8>(), 1..20u32), 1..20),
    ) {
        let tile = if whole { 16.0 } else { tile };
        let solid = Edges { left: Edge::Solid, right: Edge::Solid, top: Edge::Solid, bottom: Edge::Solid };
        let kinds = [TileProperties::EMPTY, TileProperties::SOLID];
        let grid = Grid::new(12, filled.iter().map(|filled| u8::from(*filled)).collect(), tile, &kinds, solid).unwrap();
        let mut numbers = with(|four| {
            (four.top_speed, four.corner_slide) = (top_speed, slide);
            (four.acceleration, four.braking) = (Acceleration::Time(rates.0), Acceleration::Time(rates.1));
            four.diagonal = if faster { Diagonal::Faster } else { Diagonal::Same };
        });
        (numbers.body.width, numbers.body.height, numbers.scheme) = (width, height, scheme);
        if whole {
            numbers.pixels = Pixels::Whole;
            (numbers.body.width, numbers.body.height) = (width.ceil(), height.ceil());
        }
        let tuning = Tuning::check(&numbers).unwrap();
        let mut world = World::new(&grid);
        let places = (0..144).map(|cell| DVec2::new((f64::from(cell % 12) + 0.5) * tile, f64::from(cell / 12 + 1) * tile));
        let places: Vec<DVec2> = places.map(|place| if whole { place.floor() } else { place }).collect();
        let Some(dab) = places.into_iter().find_map(|place| world.add_character(tuning.clone(), place).ok()) else {
            return Ok(());
        };
        let mut before = world.report(dab).clone();
        for (bits, ticks) in script {
            let bit = |at: u8| bits >> at & 1 != 0;
            let held = Buttons { left: bit(0), right: bit(1), up: bit(2), down: bit(3), jump: bit(4), ..Buttons::NONE };
            for _ in 0..ticks {
                world.tick(&[held]);
                prop_assert_eq!(world.violation(), None);
                let after = world.report(dab).clone();
                let (from, to) = (before.feet, after.feet);
                let most = top_speed / 60.0 + if whole { 1.0 } else { 1e-9 };
                prop_assert!((to - from).abs().max_element() <= most, "{before:?} {after:?}");
                // One axis, then the other, is a free way.
                let aside = wumple_core::advanced::slow::sweep_x(&grid, tuning.body(), from, to.x);
                prop_assert!(aside.place == to.x || aside.blocked, "{before:?} {after:?}");
                if held == Buttons::NONE && before.velocity == DVec2::ZERO && !bit(0) {
                    prop_assert_eq!(from, to);
                }
                before = after;
            }
        }
    }
}
