//! A terrain of the game's own that becomes solid where a body is.

use std::cell::Cell;

use wumple_core::numbers::{Pixels, Scheme};
use wumple_core::{
    Buttons, DVec2, Edges, Event, Grid, GridLines, State, Surface, Terrain, TileProperties, Tuning, TuningNumbers,
    World,
};

/// A room with a gate in its middle column that may be shut at any time.
struct Gatehouse {
    room: Grid,
    shut: Cell<bool>,
}

impl Gatehouse {
    fn new(rows: &[&str]) -> Gatehouse {
        Gatehouse { room: Grid::from_rows(rows, 16.0, Edges::default()).unwrap(), shut: Cell::new(false) }
    }
}

impl Terrain for Gatehouse {
    fn grid_lines(&self) -> GridLines {
        self.room.grid_lines()
    }
    fn columns(&self) -> i32 {
        self.room.columns()
    }
    fn rows(&self) -> i32 {
        self.room.rows()
    }
    fn edges(&self) -> Edges {
        self.room.edges()
    }
    fn tile(&self, column: i32, row: i32) -> TileProperties {
        let tile = self.room.tile(column, row);
        if column == 3 && self.shut.get() && tile.surface == Surface::Empty { TileProperties::SOLID } else { tile }
    }
}

fn tunings() -> Vec<Tuning> {
    let mut all = Vec::new();
    for scheme in [Scheme::Exact, Scheme::VelocityFirst, Scheme::PositionFirst] {
        for pixels in [Pixels::Free, Pixels::Whole] {
            for width in [10.0, 40.0] {
                let mut numbers = TuningNumbers::new(width, 22.0, 120.0).with_jump(54.0, 0.35);
                (numbers.scheme, numbers.pixels) = (scheme, pixels);
                all.push(Tuning::check(&numbers).unwrap());
            }
        }
    }
    all
}

const PLAIN: [&str; 6] = [".......", ".......", ".......", ".......", ".......", "#######"];
const RAMPS: [&str; 6] = [".......", ".......", ".......", "=.....=", "/.....\\", "#######"];

#[test]
fn a_body_that_a_gate_shuts_upon_says_so_and_waits_until_it_is_clear() {
    for rows in [PLAIN, RAMPS] {
        for tuning in tunings() {
            // Standing, and in the middle of a jump.
            for jump_ticks in [0, 12] {
                let gatehouse = Gatehouse::new(&rows);
                let mut world = World::new(&gatehouse);
                let id = world.add_character(tuning.clone(), DVec2::new(56.0, 80.0)).unwrap();
                let held = Buttons { jump: true, right: true, ..Buttons::NONE };
                (0..jump_ticks).for_each(|_| world.tick(&[Buttons { right: false, ..held }]));
                let before = world.report(id).feet;
                gatehouse.shut.set(true);
                for _ in 0..20 {
                    world.tick(&[held]);
                    let report = world.report(id);
                    assert_eq!(report.events.iter().filter(|event| **event == Event::CrushedByTerrain).count(), 1);
                    assert_eq!((report.feet, report.velocity), (before, DVec2::ZERO), "{tuning:?}");
                    assert_eq!(world.violation(), None);
                }
                gatehouse.shut.set(false);
                world.tick(&[Buttons::NONE]);
                assert!(!world.report(id).events.contains(&Event::CrushedByTerrain));
                (0..60).for_each(|_| world.tick(&[Buttons::NONE]));
                assert_eq!(world.report(id).state, State::Stand);
                assert_eq!(world.report(id).feet.y, 80.0);
            }
        }
    }
}

#[test]
fn who_stands_beside_a_gate_is_not_touched_by_it() {
    let gatehouse = Gatehouse::new(&PLAIN);
    let mut world = World::new(&gatehouse);
    let id = world.add_character(tunings()[0].clone(), DVec2::new(43.0, 80.0)).unwrap();
    gatehouse.shut.set(true);
    for _ in 0..30 {
        world.tick(&[Buttons { right: true, ..Buttons::NONE }]);
        assert!(world.report(id).events.is_empty());
    }
    // Flush with the gate.
    assert_eq!(world.report(id).feet.x, 43.0);
    assert!(world.report(id).contacts.right);
}
