//! Numbers that change while the game runs, as under a slider: the character goes on with them in the next tick.

use wumple::{Buttons, DVec2, Edges, Grid, Tuning, TuningNumbers, World};

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let mut rows = [".........."; 12];
    rows[11] = "##########";
    let mut world = World::new(Grid::from_rows(&rows, 16.0, Edges::default())?);
    let mut numbers = TuningNumbers::new(10.0, 22.0, 120.0).with_jump(54.0, 0.35);
    let dab = world.add_character(Tuning::check(&numbers)?, DVec2::new(80.0, 176.0))?;

    let (mut apex, mut took_off) = (f64::INFINITY, 0);
    for tick in 1..=600u64 {
        // The slider goes from 0.3 s to the apex up to 0.6 s, a hair in each tick.
        let time_to_apex = 0.3 + 0.3 * (tick as f64 / 600.0);
        numbers = numbers.with_jump(54.0, time_to_apex);
        // A tuning that is wrong changes nothing: the game goes on with the last right one.
        match Tuning::check(&numbers) {
            Ok(tuning) => world.retune(dab, tuning)?,
            Err(errors) => println!("{errors}"),
        }

        world.tick(&[Buttons { jump: tick % 75 < 40, ..Buttons::NONE }]);
        let report = world.report(dab);
        apex = apex.min(report.feet.y);
        for event in &report.events {
            match event.word() {
                "jumped" => (apex, took_off) = (f64::INFINITY, tick),
                "landed" => println!(
                    "jumped in tick {took_off:3}, {:4.2} s to the apex by then: {:4.1} px high, {:4.2} s in the air",
                    0.3 + 0.3 * (took_off as f64 / 600.0),
                    176.0 - apex,
                    (tick - took_off) as f64 / 60.0
                ),
                _ => {}
            }
        }
    }
    assert!(world.violation().is_none());
    Ok(())
}
