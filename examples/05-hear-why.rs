//! A room drawn in letters, a character that climbs, and the reason for everything it does.

use wumple::numbers::LadderNumbers;
use wumple::{Buttons, CharacterId, DVec2, Decision, Edges, Grid, Listener, Tuning, TuningNumbers, World};

/// Prints each decision as it is taken.
struct Console;

impl Listener for Console {
    fn decided(&mut self, _: CharacterId, tick: u64, decision: &Decision) {
        println!("{tick:4}  {decision}");
    }
}

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let rows = ["........", "...==...", "...H....", "...H....", "...H....", "########"];
    let map = Grid::from_rows(&rows, 16.0, Edges::default())?;
    let mut numbers = TuningNumbers::new(10.0, 22.0, 120.0).with_jump(54.0, 0.35);
    numbers.jump.as_mut().expect("it was just given").buffer_time = 0.1;
    numbers.ladder = Some(LadderNumbers {
        probe: 5.0,
        up_speed: 60.0,
        down_speed: 90.0,
        side_speed: 40.0,
        centre: true,
        up_is_jump: false,
    });
    let mut world = World::new(map);
    let dab = world.add_character(Tuning::check(&numbers)?, DVec2::new(24.0, 80.0))?;
    for tick in 1..=160 {
        world.tick_told(
            &[Buttons {
                right: tick <= 15,
                up: (10..100).contains(&tick), // too far at first: the probe is 5 px
                down: tick > 110,
                jump: tick == 30 || tick == 111, // off the ladder, and down through the shelf
                ..Buttons::NONE
            }],
            &mut Console,
        );
    }
    println!("at the end: {} on {}", world.report(dab).state, world.report(dab).support);
    Ok(())
}
