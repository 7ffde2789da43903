//! Many tunings of one run, beside the bare ticks of as many runs: how much of what the cores tick is left for who measures.
//! `cargo bench --package wumple --bench vary`

use std::time::Instant;

use rayon::prelude::*;
use wumple::analysis::{Measure, Over, PassBounds, vary};
use wumple::{Buttons, ButtonsFile, Level, TuningFile, demo};

const TICKS: u64 = 600;
const RUNS: usize = 10_000;
/// The two are timed in turns.
const ROUNDS: usize = 5;

fn main() {
    let level = Level::parse("room", demo::THROWING_ROOM).expect("it is right");
    let dab = TuningFile::parse("dab", demo::DAB).expect("it is right");
    // Back and forth on the first floor, so that every run goes on to its end.
    let text: String =
        (0..30).map(|n| format!("{} {}\n", n * 20, ["right", "right jump", "left", "left jump"][n % 4])).collect();
    let buttons = ButtonsFile::parse("b", &text, &dab.scale).expect("it is right");
    let timeline = buttons.at_rate(60.0).expect("in order").0;
    let over = [
        Over::parse("jump.height = 2..4 tiles, 100").expect("it is right"),
        Over::parse("run.top_speed = 4..6 tiles/s, 100").expect("it is right"),
    ];
    let measure = Measure::run("apex", &level, &timeline, TICKS).expect("it is known");
    let held: Vec<Buttons> = (1..=TICKS).map(|tick| timeline.at(tick)).collect();
    println!("{} threads; million ticks a second: bare, measured; share", rayon::current_num_threads());
    for _ in 0..ROUNDS {
        let start = Instant::now();
        let lasts: f64 = (0..RUNS)
            .into_par_iter()
            .map_init(
                || level.world(&dab.tuning).expect("it fits"),
                |(world, id), _| {
                    let saved = world.save();
                    for held in &held {
                        world.tick(&[*held]);
                    }
                    let last = world.report(*id).feet.x;
                    world.restore(&saved);
                    last
                },
            )
            .sum();
        let bare = start.elapsed().as_secs_f64();
        let start = Instant::now();
        let report = vary(&dab, &over, &measure, &PassBounds::default(), |_| true).expect("it is right");
        let measured = start.elapsed().as_secs_f64();
        assert!(lasts > 0.0 && report.cells.iter().all(|cell| cell.value.is_some_and(|apex| apex > 1.5)));
        let speed = |seconds: f64| RUNS as f64 * TICKS as f64 / seconds / 1e6;
        println!("{:.2}, {:.2}; {:.3}", speed(bare), speed(measured), bare / measured);
    }
}
