use alloc::{format, string::String, string::ToString, vec::Vec};

use glam::DVec2;

use super::*;
use crate::input::{Buttons, Facing};
use crate::nearby::Support;
use crate::terrain::{Edge, Edges, Grid, Side, TileProperties, ZoneKind};
use crate::tuning::{Acceleration, Tuning, TuningNumbers};

const RIGHT: Buttons = Buttons { right: true, ..Buttons::NONE };
const LEFT: Buttons = Buttons { left: true, ..Buttons::NONE };
const JUMP: Buttons = Buttons { jump: true, ..Buttons::NONE };

fn dab() -> TuningNumbers {
    TuningNumbers::new(10.0, 22.0, 120.0).with_jump(54.0, 0.35)
}

fn world(rows: &[&str], numbers: &TuningNumbers, x: f64, y: f64) -> (World<Grid>, CharacterId) {
    let mut world = World::new(Grid::from_rows(rows, 16.0, Edges::default()).unwrap());
    let dab = world.add_character(Tuning::check(numbers).unwrap(), DVec2::new(x, y)).unwrap();
    (world, dab)
}

impl World<Grid> {
    fn hold(&mut self, buttons: Buttons, ticks: u32) -> Vec<String> {
        let mut events = Vec::new();
        for _ in 0..ticks {
            self.tick(&[buttons]);
            let report = self.report(CharacterId(0));
            events.extend(report.events.iter().map(|event| format!("{} {event}", report.tick)));
        }
        events
    }
}

#[test]
fn it_lands_flush_to_the_bit_and_rests_without_flicker() {
    for tile in [16.0, 10.0, 12.5, 9.0 + 1.0 / 1024.0] {
        let rows = ["....", "....", "....", "....", "####"];
        let mut world = World::new(Grid::from_rows(&rows, tile, Edges::default()).unwrap());
        let dab = world.add_character(Tuning::check(&dab()).unwrap(), DVec2::new(2.3 * tile, 30.01)).unwrap();
        let events = world.hold(Buttons::NONE, 60);
        assert_eq!(events.len(), 1, "{events:?}");
        for _ in 0..1000 {
            assert!(world.hold(Buttons::NONE, 1).is_empty());
            let report = world.report(dab);
            assert_eq!((report.feet.y, report.velocity.y), (4.0 * tile, 0.0));
            assert_eq!((report.state, report.support), (State::Stand, Support::Solid));
        }
    }
}

#[test]
fn walking_off_an_edge_starts_from_rest_however_long_it_stood() {
    let rows = [".........", ".........", "###......", ".........", ".........", ".........", "#########"];
    let (mut world, dab) = world(&rows, &dab(), 24.0, 32.0);
    assert!(world.hold(Buttons::NONE, 500).is_empty());
    let mut before = world.report(dab).clone();
    while world.report(dab).support == Support::Solid {
        before = world.report(dab).clone();
        world.hold(RIGHT, 1);
    }
    let first = world.report(dab).clone();
    assert_eq!(first.events, [Event::LostGround]);
    assert_eq!((first.velocity.y, first.feet.y, first.state), (0.0, before.feet.y, State::Fall));
    world.hold(RIGHT, 1);
    let (second, gravity) = (world.report(dab), 2.0 * 54.0 / (0.35 * 0.35));
    assert!((second.velocity.y - gravity / 60.0).abs() < 1e-9);
    assert!((second.feet.y - first.feet.y - gravity / 7200.0).abs() < 1e-9);
}

#[test]
fn seams_between_floor_tiles_and_wall_tiles_do_not_catch() {
    let tuning = TuningNumbers::new(10.0, 22.0, 97.3).with_jump(54.0, 0.35);
    let floor = "#".repeat(200);
    let empty = ".".repeat(200);
    let (mut flat, dab) = world(&[&empty, &empty, &floor], &tuning, 24.0, 32.0);
    for tick in 1..=1500 {
        assert!(flat.hold(RIGHT, 1).is_empty());
        let report = flat.report(dab);
        assert_eq!((report.feet.y, report.velocity.x, report.state), (32.0, 97.3, State::Run));
        assert!((report.feet.x - 24.0 - f64::from(tick) * 97.3 / 60.0).abs() < 1e-9);
    }
    // Pressed against a wall of many tiles, a jump goes as high as beside none.
    let tall: Vec<&str> = core::iter::repeat_n("...#", 12).chain(["####"]).collect();
    let (mut wall, dab) = world(&tall, &tuning, 43.0, 192.0);
    wall.hold(Buttons { right: true, ..JUMP }, 21);
    assert!((192.0 - wall.report(dab).feet.y - 54.0).abs() < 1e-9);
    assert_eq!(wall.report(dab).feet.x, 43.0);
}

#[test]
fn a_head_bump_ends_the_rise_at_once() {
    let rows = [".....", ".###.", ".....", ".....", "#####"];
    let (mut world, dab) = world(&rows, &dab(), 40.0, 64.0);
    let events = world.hold(JUMP, 6);
    assert_eq!(events, ["1 jumped:ground", "3 bumped:head"]);
    let feet = world.report(dab).feet;
    assert!(feet.y > 54.0, "it falls again");
    let bump = world.hold(Buttons::NONE, 60);
    assert_eq!(bump.len(), 1, "landed only: {bump:?}");
}

#[test]
fn a_head_that_stays_against_the_ceiling_is_bumped_once() {
    // 22 px between floor and ceiling: every jump is stopped where it starts.
    let tuning = TuningNumbers::new(10.0, 32.0, 120.0).with_jump(54.0, 0.35);
    let (mut low, dab) = world(&["####", "....", "....", "####"], &tuning, 24.0, 48.0);
    assert_eq!(low.hold(JUMP, 1), ["1 jumped:ground", "1 bumped:head", "1 landed:0"]);
    assert_eq!((low.report(dab).state, low.report(dab).contacts.above), (State::Stand, true));
    low.hold(Buttons::NONE, 1);
    assert_eq!(low.hold(JUMP, 1), ["3 jumped:ground", "3 landed:0"]);
    assert!(!low.report(dab).contacts.above);
}

#[test]
fn holding_jump_does_not_jump_again_unless_pressed_afresh() {
    let (mut world, _) = world(&["....", "....", "....", "....", "####"], &dab(), 24.0, 64.0);
    let events = world.hold(JUMP, 200);
    assert_eq!(events.len(), 2, "one jump and one landing: {events:?}");
    world.hold(Buttons::NONE, 1);
    assert_eq!(world.hold(JUMP, 1), ["202 jumped:ground"]);
    // Nor in mid-air.
    world.hold(Buttons::NONE, 3);
    assert!(world.hold(JUMP, 3).is_empty());
}

#[test]
fn left_and_right_together_are_neither() {
    let (mut world, dab) = world(&["....", "....", "####"], &dab(), 24.0, 32.0);
    world.hold(Buttons { left: true, ..RIGHT }, 10);
    assert_eq!((world.report(dab).feet.x, world.report(dab).state), (24.0, State::Stand));
}

#[test]
fn facing_is_the_last_single_direction_held() {
    let (mut world, dab) = world(&["....", "....", "####"], &dab(), 24.0, 32.0);
    let mut face = |buttons| {
        world.hold(buttons, 1);
        world.report(dab).facing
    };
    assert_eq!(face(Buttons::NONE), Facing::Right);
    assert_eq!(face(LEFT), Facing::Left);
    assert_eq!(face(Buttons { left: true, ..RIGHT }), Facing::Left);
    assert_eq!(face(Buttons { steer: 0.2, ..Buttons::NONE }), Facing::Right);
}

#[test]
fn running_at_a_wall_for_a_thousand_ticks_does_not_creep() {
    for (buttons, x) in [(RIGHT, 43.0), (LEFT, 21.0)] {
        let (mut world, dab) = world(&["#..#", "#..#", "####"], &dab(), 32.0, 32.0);
        world.hold(buttons, 60);
        for _ in 0..1000 {
            world.hold(buttons, 1);
            let report = world.report(dab);
            assert_eq!((report.feet.x, report.velocity.x, report.state), (x, 0.0, State::Stand));
            assert_eq!((report.contacts.left, report.contacts.right), (x == 21.0, x == 43.0));
        }
    }
}

#[test]
fn the_map_ends_as_its_edges_say() {
    let start = |edges| {
        let mut world = World::new(Grid::from_rows(&["..", "..", ".."], 16.0, edges).unwrap());
        let dab = world.add_character(Tuning::check(&dab()).unwrap(), DVec2::new(16.0, 30.0)).unwrap();
        (world, dab)
    };
    let (mut solid, dab) = start(Edges { bottom: Edge::Solid, ..Edges::default() });
    solid.hold(RIGHT, 100);
    assert_eq!((solid.report(dab).feet, solid.report(dab).state), (DVec2::new(27.0, 48.0), State::Stand));

    let (mut deadly, dab) = start(Edges::default());
    let events = deadly.hold(Buttons::NONE, 100);
    assert_eq!(events.len(), 1);
    assert!(events[0].ends_with(" died:bottom") && deadly.character(dab).has_ended());
    assert!(deadly.report(dab).feet.y >= 70.0 && deadly.report(dab).tick < 30, "and there it stays");

    let (mut open, dab) = start(Edges { bottom: Edge::Open, right: Edge::Deadly, ..Edges::default() });
    assert_eq!(open.hold(RIGHT, 100).len(), 1);
    assert_eq!(open.report(dab).events, [], "nothing more happens to it");

    let (mut open, dab) = start(Edges { bottom: Edge::Open, ..Edges::default() });
    let events = open.hold(Buttons::NONE, 3000);
    assert_eq!(events.len(), 1);
    assert!(events[0].ends_with(" lost") && open.report(dab).feet.y > LIMIT_PLACE);
}

#[test]
fn a_solid_edge_has_no_end() {
    // Below the map, the left wall goes on.
    let edges = Edges { bottom: Edge::Open, ..Edges::default() };
    let mut world = World::new(Grid::from_rows(&["..", ".."], 16.0, edges).unwrap());
    let dab = world.add_character(Tuning::check(&dab()).unwrap(), DVec2::new(16.0, 200.0)).unwrap();
    world.hold(LEFT, 60);
    assert_eq!(world.report(dab).feet.x, 5.0);
    assert!(world.report(dab).contacts.left);
}

#[test]
fn a_start_inside_something_solid_is_refused() {
    let grid = Grid::from_rows(&["...", ".#.", "..."], 16.0, Edges::default()).unwrap();
    let mut world = World::new(&grid);
    let mut start = |x, y| world.add_character(Tuning::check(&dab()).unwrap(), DVec2::new(x, y)).unwrap_err();
    assert_eq!(start(24.0, 40.0), StartError::InsideTile { column: 1, row: 1 });
    assert_eq!(start(12.0, 30.0), StartError::InsideTile { column: 1, row: 1 });
    assert_eq!(start(4.0, 16.0), StartError::BeyondEdge(Side::Left));
    assert!(matches!(start(f64::NAN, 16.0), StartError::NoPlace(_)));
    assert_eq!(start(24.0, 40.0).to_string(), "the hitbox would be inside the solid tile at column 1, row 1");
}

#[test]
fn a_start_in_mid_air_falls_without_an_event() {
    let (mut world, dab) = world(&["....", "....", "....", "####"], &dab(), 24.0, 40.0);
    assert_eq!((world.report(dab).state, world.report(dab).tick), (State::Fall, 0));
    assert!(world.report(dab).events.is_empty());
    let events = world.hold(JUMP, 30);
    assert_eq!(events.len(), 1, "a landing, and no jump from the air: {events:?}");
}

#[test]
fn zones_are_entered_and_left() {
    let kinds = [TileProperties::EMPTY, TileProperties::SOLID, TileProperties::zone(ZoneKind::Goal)];
    let tiles = [[0, 0, 0, 2, 2, 0], [0, 0, 0, 2, 0, 0], [1; 6]].concat();
    let mut world = World::new(Grid::new(6, tiles, 16.0, &kinds, Edges::default()).unwrap());
    world.add_character(Tuning::check(&dab()).unwrap(), DVec2::new(24.0, 32.0)).unwrap();
    assert_eq!(world.hold(RIGHT, 45), ["10 entered:goal@3,0", "31 left:goal@3,0"]);
}

#[test]
fn a_stick_scales_the_speed_aimed_at() {
    let mut numbers = dab();
    numbers.run.acceleration = Acceleration::Rate(600.0);
    let (mut world, dab) = world(&["........", "........", "########"], &numbers, 24.0, 32.0);
    world.hold(Buttons { steer: 0.5, ..Buttons::NONE }, 30);
    assert_eq!(world.report(dab).velocity.x, 60.0);
}

#[test]
fn an_arc_is_the_closed_form_at_every_rate() {
    let (gravity, speed) = (2.0 * 54.0 / (0.35 * 0.35), 2.0 * 54.0 / 0.35);
    for rate in [30u32, 60, 144, 1000] {
        let mut numbers = dab();
        numbers.rate = f64::from(rate);
        let empty = ".".repeat(30);
        let floor = "#".repeat(30);
        let (mut world, dab) = world(&[&empty, &empty, &empty, &empty, &empty, &floor], &numbers, 24.0, 80.0);
        let mut tick = 0;
        loop {
            tick += 1;
            world.hold(Buttons { right: true, ..JUMP }, 1);
            let (report, time) = (world.report(dab), f64::from(tick) / f64::from(rate));
            if report.support == Support::Solid {
                assert!((time - 0.7).abs() <= 1.0 / f64::from(rate) + 1e-9);
                break;
            }
            let height = speed * time - gravity * time * time / 2.0;
            assert!((80.0 - report.feet.y - height).abs() < 1e-6, "{rate} Hz, tick {tick}");
            assert!((report.feet.x - 24.0 - 120.0 * time).abs() < 1e-6, "{rate} Hz, tick {tick}");
        }
    }
}
