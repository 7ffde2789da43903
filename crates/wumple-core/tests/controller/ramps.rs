//! Ramps of tiles and drawn ones: walked up and down, joined, jumped from, landed on. A sentence each,
//! played.

use crate::play;

use crate::play::{Play, dab};
use wumple_core::numbers::{DropRule, Pixels};
use wumple_core::{
    Buttons, DVec2, Edge, Edges, Grid, Ramp, State, Surface, TileProperties, Tuning, TuningNumbers, World,
};

const HILL: [&str; 6] = [
    "................",
    "................",
    "......./\\.......",
    "....../##\\......",
    "...../####\\.....",
    "################",
];

/// No row but the first loses the ground, and the way along x is that of a flat floor.
fn walks_as_on_a_flat(dab: &Play) {
    for pair in dab.rows.windows(2) {
        assert!(pair[1].support.to_string() != "none" && pair[1].events.is_empty(), "{:?}", pair[1]);
        assert!(((pair[1].feet.x - pair[0].feet.x).abs() - 2.0).abs() < 1e-9, "{pair:?}");
    }
}

#[test]
fn a_hill_is_walked_up_and_down_without_leaving_the_ground() {
    for x in [20.0, 20.3, 21.7] {
        let mut dab = Play::new(&HILL, &dab(), x, 80.0);
        dab.play("R105");
        walks_as_on_a_flat(&dab);
        let highest = dab.rows.iter().map(|row| row.feet.y).fold(f64::MAX, f64::min);
        assert!((32.0..=34.0).contains(&highest), "{highest}");
        assert_eq!(dab.feet().1, 80.0);
        dab.play("L100");
        walks_as_on_a_flat(&dab);
    }
}

#[test]
fn ramps_of_any_two_heights_join_flats_and_each_other() {
    let ramp = |left_height, right_height| TileProperties::of(Surface::Ramp { left_height, right_height });
    let kinds = [
        TileProperties::EMPTY,
        TileProperties::SOLID,
        ramp(0.0, 8.0),
        ramp(8.0, 16.0),
        ramp(16.0, 5.0),
        ramp(5.0, 0.0),
        ramp(0.0, 3.25),
        ramp(3.25, 3.25),
        ramp(3.25, 0.0),
    ];
    let tiles = [[0; 16], [0; 16], [0, 0, 2, 3, 1, 1, 4, 5, 0, 6, 7, 7, 8, 0, 0, 0], [1; 16]].concat();
    let grid = Grid::new(16, tiles, 16.0, &kinds, Edges::default()).unwrap();
    let mut dab = Play::in_room(grid, &dab(), 20.0, 48.0);
    dab.play("R105 L100");
    walks_as_on_a_flat(&dab);
    assert!(dab.rows.iter().any(|row| row.feet.y == 32.0), "over the top");
    assert!(dab.rows.iter().any(|row| row.feet.y == 48.0 - 3.25), "and over the low one");
}

fn drawn(lines: &[[f64; 4]]) -> Grid {
    let empty = "....................";
    let rows = [empty, empty, empty, empty, empty, empty, "####################"];
    let ramps = lines.iter().map(|[x0, y0, x1, y1]| Ramp::new(DVec2::new(*x0, *y0), DVec2::new(*x1, *y1)).unwrap());
    Grid::from_rows(&rows, 16.0, Edges::default()).unwrap().with_objects(Vec::new(), ramps.collect()).unwrap()
}

#[test]
fn drawn_ramps_are_walked_and_join_end_to_end() {
    let grid = drawn(&[[60.0, 96.0, 120.0, 70.0], [120.0, 70.0, 170.0, 70.0], [230.0, 96.0, 170.0, 70.0]]);
    let mut dab = Play::in_room(grid, &dab(), 20.0, 96.0);
    dab.play("R130 L125");
    walks_as_on_a_flat(&dab);
    assert!(dab.rows.iter().any(|row| row.feet.y == 70.0));
    assert_eq!(dab.rows[60].support.to_string(), "ramp");
}

#[test]
fn a_drawn_ramp_is_free_from_below_and_can_be_dropped_through() {
    let grid = drawn(&[[40.0, 70.0, 200.0, 50.0]]);
    let mut under = Play::in_room(grid.clone(), &dab(), 20.0, 96.0);
    under.play("R60");
    assert_eq!(under.feet().1, 96.0, "walked under");
    let mut up = Play::in_room(grid.clone(), &dab(), 100.0, 96.0);
    let events = up.play("J60");
    assert_eq!(events.len(), 2, "up through it and landed on it: {events:?}");
    assert_eq!((up.state(), up.now().support.to_string().as_str()), ("stand", "ramp"));
    let events = up.play("D1 DJ1 -40");
    assert_eq!(events[0], "62 dropped-through");
    assert_eq!(up.feet().1, 96.0);
}

#[test]
fn a_jump_from_a_ramp_and_a_landing_on_one() {
    let mut dab = Play::new(&HILL, &dab(), 90.0, 70.0);
    assert_eq!(dab.now().support.to_string(), "ramp");
    let events = dab.play("J60");
    assert_eq!(events.len(), 2);
    assert_eq!((dab.feet(), dab.state()), ((90.0, 70.0), "stand"), "where it jumped from");
    // Running up the hill while falling: the slope does not stop it, and is landed on.
    let mut dab = Play::new(&HILL, &play::dab(), 60.0, 66.0);
    let events = dab.play("R40");
    assert_eq!(events.len(), 1, "landed once: {events:?}");
    let x: Vec<f64> = dab.rows.iter().map(|row| row.feet.x).collect();
    assert!(x.windows(2).all(|pair| (pair[1] - pair[0] - 2.0).abs() < 1e-9), "{x:?}");
}

#[test]
fn a_rising_body_is_lifted_by_a_slope_and_keeps_its_speed() {
    // Fast to the right and slowly up, into a slope as steep as it is long.
    let mut numbers = dab();
    numbers.run.top_speed = 400.0;
    numbers.jump.as_mut().unwrap().shape =
        wumple_core::numbers::JumpShape::HeightAndTime { height: 10.0, time_to_apex: 0.3 };
    let mut dab = Play::new(&HILL, &numbers, 70.0, 80.0);
    let events = dab.play("RJ5");
    assert_eq!(events, ["1 jumped:ground"]);
    let row = dab.now();
    assert!((row.feet.y - (80.0 - (row.feet.x - 80.0))).abs() < 1e-9, "on the slope: {row:?}");
    assert!(row.velocity.y < 0.0 && row.velocity.x == 400.0, "{row:?}");
}

#[test]
fn walking_off_the_end_of_a_hanging_ramp_falls() {
    let rows = ["........", "...\\....", "........", "........", "########"];
    let mut dab = Play::new(&rows, &dab(), 50.0, 17.0);
    let events = dab.play("-1 R40");
    // Its low end holds while the box overlaps it: until the feet are half a body past it.
    let lost = dab.rows.iter().find(|row| row.events.contains(&wumple_core::Event::LostGround)).unwrap();
    assert!(lost.feet.x >= 69.0 && lost.feet.x < 71.0 && lost.feet.y == 32.0, "{events:?}");
}

#[test]
fn the_end_face_of_a_ramp_is_a_wall_from_its_high_side_and_its_underside_a_ceiling() {
    let rows = ["........", "........", ".../....", "########"];
    let mut dab = Play::new(&rows, &dab(), 100.0, 48.0);
    dab.play("L30");
    assert_eq!((dab.feet().0, dab.now().contacts.left), (69.0, true));
    let rows = ["........", "........", ".../....", "........", "........", "########"];
    let mut dab = Play::new(&rows, &play::dab(), 56.0, 80.0);
    let events = dab.play("J5");
    assert!(events[1].ends_with("bumped:head"), "{events:?}");
    assert!(dab.rows.iter().all(|row| row.feet.y >= 70.0));
}

#[test]
fn a_low_ceiling_over_a_ramp_stops_the_walk_where_the_head_meets_it() {
    let rows = ["........", "....####", "........", "..../###", "########"];
    let mut dab = Play::new(&rows, &dab(), 30.0, 64.0);
    dab.play("R60");
    // The head meets the ceiling's underside, at 32 px, when the feet are at 54 px.
    assert_eq!((dab.feet(), dab.now().velocity.x, dab.state()), ((74.0, 54.0), 0.0, "stand"));
    // In the air the same slope stops the body as well.
    let mut dab = Play::new(&rows, &play::dab(), 60.0, 58.0);
    dab.play("R20");
    assert_eq!(dab.feet(), (74.0, 54.0));
}

#[test]
fn a_slope_steeper_than_the_steepest_climb_is_not_walked_up() {
    for (steepest, top) in [(f64::INFINITY, true), (1.0, true), (0.9, false)] {
        let mut numbers = dab();
        numbers.run.steepest_climb = steepest;
        let mut dab = Play::new(&HILL, &numbers, 20.0, 80.0);
        dab.play("R105");
        assert_eq!(dab.rows.iter().any(|row| row.feet.y < 40.0), top, "{steepest}");
        assert_eq!(dab.feet().0 == 80.0, !top);
    }
}

#[test]
fn a_ramp_is_followed_down_no_further_than_the_follow_and_the_way_along() {
    // A flat, and 5 px below its edge a drawn ramp that goes down.
    let rows = ["............", "............", "###.........", "............", "............", "############"];
    let ramp = Ramp::new(DVec2::new(48.0, 37.0), DVec2::new(150.0, 60.0)).unwrap();
    let grid = Grid::from_rows(&rows, 16.0, Edges::default()).unwrap().with_objects(vec![], vec![ramp]).unwrap();
    for (follow, follows) in [(12.0, true), (3.0, false)] {
        let mut numbers = dab();
        numbers.run.ramp_follow = follow;
        let mut dab = Play::in_room(grid.clone(), &numbers, 30.0, 32.0);
        let events = dab.play("R30");
        let first = if follows { "stepped:down" } else { "lost-ground" };
        assert!(events[0].ends_with(first) && (events.len() == 1) == follows, "{events:?}");
    }
}

#[test]
fn a_press_is_never_lost_on_the_way_over_ramps() {
    for wait in 1..95 {
        let mut dab = Play::new(&HILL, &dab(), 20.0, 80.0);
        let events = dab.play(&format!("R{wait} RJ1"));
        assert_eq!(events, [format!("{} jumped:ground", wait + 1)]);
    }
}

#[test]
fn walls_beside_a_ramp_still_stop() {
    let rows = ["......#.", "......#.", "...../#.", "..../##.", "########"];
    let mut dab = Play::new(&rows, &dab(), 30.0, 64.0);
    dab.play("R60");
    assert_eq!((dab.feet().0, dab.now().contacts.right), (91.0, true));
    assert!((dab.feet().1 - 37.0).abs() < 1e-9, "{:?}", dab.feet());
}

#[test]
fn at_any_speed_a_hill_is_crossed() {
    for speed in [37.0, 240.0, 977.0, 2400.0, 9000.0] {
        let numbers = TuningNumbers::new(10.0, 22.0, speed);
        let mut dab = Play::new(&HILL, &numbers, 20.0, 80.0);
        let ticks = (170.0 / (speed / 60.0)).ceil() as u32;
        let events = dab.play(&format!("R{ticks}"));
        assert!(events.is_empty(), "{speed}: {events:?}");
        assert!(dab.feet().0 > 180.0, "{speed}: {:?}", dab.feet());
    }
}

/// Sixty short ramps in a row, each drawn twice: what they lead up to is found without going over them
/// again and again.
#[test]
fn ramps_drawn_twice_are_walked_like_one() {
    let rows = [
        "....................",
        "....................",
        "....................",
        "....................",
        "####################",
    ];
    let grid = || Grid::from_rows(&rows, 16.0, Edges::default()).unwrap();
    let place = |step: i32| DVec2::new(80.0 + 1.5 * f64::from(step), 64.0 - 0.5 * f64::from(step));
    let chain = |times: usize| {
        let ramps = (0..60).flat_map(|step| (0..times).filter_map(move |_| Ramp::new(place(step), place(step + 1))));
        grid().with_objects(vec![], ramps.collect()).unwrap()
    };
    for width in [4.0, 20.0, 80.0] {
        let numbers = TuningNumbers::new(width, 16.0, 120.0).with_jump(30.0, 0.3);
        let walk = |times| {
            let mut body = Play::in_room(chain(times), &numbers, 60.0, 64.0);
            body.play("R70 J4 -20 L60");
            body.rows
        };
        let once = walk(1);
        assert!(once.iter().any(|row| row.feet.y < 40.0), "up to the end");
        assert_eq!(once, walk(2), "{width} px wide");
    }
}

#[test]
fn more_ramps_or_blocks_in_one_place_than_can_be_asked_in_a_tick_are_refused() {
    let rows = ["........", "########"];
    let grid = || Grid::from_rows(&rows, 16.0, Edges::default()).unwrap();
    let fan = |count: i32| {
        (0..count).filter_map(|at| Ramp::new(DVec2::new(20.0, 10.0), DVec2::new(300.0, f64::from(at)))).collect()
    };
    assert!(grid().with_objects(vec![], fan(64)).is_ok());
    let error = grid().with_objects(vec![], fan(65)).unwrap_err().to_string();
    assert!(error.starts_with("more than 64 drawn ramps touch a square of 32 px at ("), "{error}");
    let blocks = |count: usize| vec![wumple_core::Block::new(DVec2::new(5.0, 5.0), 4.0, 4.0); count];
    assert!(grid().with_objects(blocks(64), vec![]).is_ok());
    assert!(grid().with_objects(blocks(65), vec![]).is_err());
    // Far apart there may be any number.
    let far = (0..5000)
        .filter_map(|at| Ramp::new(DVec2::new(0.0, f64::from(at) * 8.0), DVec2::new(400.0, f64::from(at) * 8.0 + 3.0)));
    assert!(grid().with_objects(vec![], far.collect()).is_ok());
}

/// A valley of two drawn ramps whose right side leads up to a ramp of tiles: the side of the body is inside that, buried. Below the
/// valley's bottom it is no longer, so nobody drops past it there, to hang inside of it.
#[test]
fn nobody_drops_past_the_end_of_a_ramp_into_what_another_leads_up_to() {
    let slope = TileProperties::of(Surface::Ramp { left_height: 8.0, right_height: 16.0 });
    let mut tiles = vec![0; 19 * 6];
    tiles[19 + 17] = 1;
    let grid =
        Grid::new(19, tiles, 16.0, &[TileProperties::EMPTY, slope], Edges { top: Edge::Solid, ..Edges::default() });
    let ramp = |from: (f64, f64), to: (f64, f64)| Ramp::new(DVec2::from(from), DVec2::from(to)).unwrap();
    let ramps = vec![ramp((248.0, 26.0), (260.0, 30.0)), ramp((260.0, 30.0), (264.0, 22.0))];
    let grid = grid.unwrap().with_objects(Vec::new(), ramps).unwrap();
    for (pixels, steer) in
        [Pixels::Whole, Pixels::Free].iter().flat_map(|one| [-1.0, 0.0, 1.0].map(|steer| (*one, steer)))
    {
        for x in [255.0_f64, 256.5, 257.0, 258.0, 259.25, 260.0] {
            let mut numbers = TuningNumbers::new(34.0, 29.0, 102.0).with_jump(54.0, 0.35);
            (numbers.rate, numbers.pixels, numbers.drop) = (30.0, pixels, DropRule::DownAndJump);
            let mut world = World::new(&grid);
            let start = if pixels == Pixels::Whole { x.floor() } else { x };
            let Ok(id) = world.add_character(Tuning::check(&numbers).unwrap(), DVec2::new(start, 29.0)) else {
                continue;
            };
            let mut hung = 0;
            for tick in 0..30 {
                world.tick(&[Buttons { down: true, jump: tick > 0, steer, ..Buttons::NONE }]);
                let report = world.report(id);
                let hangs = report.state == State::Fall && report.moved() == DVec2::ZERO && !report.contacts.above;
                hung = if hangs { hung + 1 } else { 0 };
                // The first pixel takes a tick or two.
                assert!(hung < 3, "from {x} towards {steer}, {pixels:?}: {report:?}");
                assert!(world.violation().is_none());
            }
        }
    }
}
