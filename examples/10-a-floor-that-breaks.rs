//! A floor that breaks under a hard landing, and a door that opens for a while: tiles that the game changes.

use wumple::{Buttons, DVec2, Edges, Event, Grid, Piece, Tuning, TuningNumbers, World};

/// What the letters of the map are among the kinds of `Grid::from_rows`.
const EMPTY: usize = 0;
const SOLID: usize = 1;

const KILN_YARD: [&str; 11] = [
    "......#.............",
    "......#.............",
    "......#.............",
    "############........",
    "#..................#",
    "#..................#",
    "#..................#",
    "############.......#",
    "#..........#########",
    "#..................#",
    "####################",
];
/// The tiles of the door, column and row.
const DOOR: [(i32, i32); 2] = [(6, 1), (6, 2)];

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let mut world = World::new(Grid::from_rows(&KILN_YARD, 16.0, Edges::default())?);
    let tuning = Tuning::check(&TuningNumbers::new(10.0, 22.0, 120.0).with_jump(40.0, 0.35))?;
    let dab = world.add_character(tuning, DVec2::new(24.0, 48.0))?;

    for tick in 1..=200u64 {
        // The door is open for a while.
        match tick {
            60 => set(&mut world, &DOOR, EMPTY)?,
            90 => set(&mut world, &DOOR, SOLID)?,
            _ => {}
        }
        world.tick(&[Buttons { right: true, ..Buttons::NONE }]);

        let (report, touched) = (world.report(dab).clone(), world.touched(dab));
        if tick == 50 {
            println!("{tick:3}  waits before {}", touched.right.map_or("nothing".into(), |piece| piece.to_string()));
        }
        for event in &report.events {
            let on = touched.below.map_or_else(String::new, |piece| format!("on {piece}"));
            println!("{tick:3}  {event:16} {on}");
        }
        // Tiles break under whoever comes down fast.
        let hard = report.events.iter().any(|event| matches!(event, Event::Landed { speed } if *speed > 250.0));
        if let (true, Some(Piece::Tile { column, row })) = (hard, touched.below) {
            println!("     tile@{column},{row} breaks");
            set(&mut world, &[(column, row), (column - 1, row), (column + 1, row)], EMPTY)?;
        }
    }
    let report = world.report(dab);
    println!("at the end at {}, {}, by {:?}", report.feet, report.state, world.touched(dab).right);
    assert!(report.feet.y == 160.0, "through the floor");
    Ok(())
}

fn set(world: &mut World<Grid>, tiles: &[(i32, i32)], kind: usize) -> Result<(), wumple::GridError> {
    tiles.iter().try_for_each(|(column, row)| world.terrain_mut().set_tile(*column, *row, kind))
}
