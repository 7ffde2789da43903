//! A game whose frames take as long as they like, over ticks of one length: how many ticks are due, what they
//! hold, and where to draw between them.

use wumple::{ButtonLatch, Buttons, DVec2, Edges, Grid, TickPacer, Tuning, TuningNumbers, World};

/// How long each frame took, s; and whether the jump button went down and up again within it.
const FRAMES: [(f64, bool); 12] = [
    (0.0167, false),
    (0.0042, false), // a quick screen: no tick is due
    (0.0042, true),  // a tap in a frame without a tick
    (0.0042, false),
    (0.0042, false),
    (0.0333, false), // a slow frame: two ticks
    (0.0167, false),
    (0.9000, false), // a hitch: most of it is dropped
    (0.0167, false),
    (0.0167, false),
    (0.0167, false),
    (0.0167, false),
];

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let map = Grid::from_rows(
        &["..........", "..........", "..........", "..........", "##########"],
        16.0,
        Edges::default(),
    )?;
    let tuning = Tuning::check(&TuningNumbers::new(10.0, 22.0, 120.0).with_jump(40.0, 0.35))?;
    let mut pacer = TickPacer::new(tuning.rate(), 5);
    let mut latch = ButtonLatch::default();
    let mut world = World::new(map);
    let dab = world.add_character(tuning, DVec2::new(24.0, 64.0))?;

    for (frame, (seconds, tapped)) in FRAMES.into_iter().enumerate() {
        // The events of this frame, as the system hands them over.
        let held = Buttons { right: true, ..Buttons::NONE };
        if tapped {
            latch.see(Buttons { jump: true, ..held });
        }
        latch.see(held);

        let due = pacer.advance(seconds);
        for _ in 0..due {
            world.tick(&[latch.take()]);
        }

        // Drawn between the last two ticks: smooth on a screen of any rate.
        let report = world.report(dab);
        let drawn = report.from.lerp(report.feet, pacer.blend());
        println!(
            "frame {frame:2}, {:5.1} ms: {due} ticks, {:3.0} % on the way to the next; drawn at ({:5.1}, {:5.1}), {}",
            seconds * 1000.0,
            pacer.blend() * 100.0,
            drawn.x,
            drawn.y,
            world.report(dab).state
        );
    }
    println!("{:.2} s were dropped", pacer.dropped_seconds());
    assert!(world.report(dab).feet.y < 64.0, "the tap was not lost");
    Ok(())
}
