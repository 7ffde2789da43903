//! A character in a game loop: a fixed tick, buttons in, places and events out.

use wumple::{Buttons, DVec2, Edges, Event, Grid, Tuning, TuningNumbers, World};

fn main() -> Result<(), Box<dyn std::error::Error>> {
    // A map, and a character 10 x 22 px that runs 120 px/s and jumps 54 px high in 0.35 s.
    let map = Grid::from_rows(&["..........", "..........", "......##..", "##########"], 16.0, Edges::default())?;
    let tuning = Tuning::check(&TuningNumbers::new(10.0, 22.0, 120.0).with_jump(54.0, 0.35))?;

    let mut world = World::new(map);
    let dab = world.add_character(tuning, DVec2::new(24.0, 48.0))?;

    for frame in 0..90 {
        // Here a game asks its keyboard.
        let held = Buttons { right: true, jump: frame == 25, ..Buttons::NONE };
        world.tick(&[held]);

        // Here it draws the character at `report.feet` and plays sounds.
        let report = world.report(dab);
        for event in &report.events {
            println!("tick {}: {event} at ({:.1}, {:.1})", report.tick, report.feet.x, report.feet.y);
            if let Event::Landed { speed } = event {
                println!("         a landing at {speed:.0} px/s: dust, and a thud");
            }
        }
    }
    Ok(())
}
