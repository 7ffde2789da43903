//! Many tunings of one run, beside the bare ticks of the same runs: how much of what the cores tick is left for who measures. Both are
//! timed by what the cores spend on them, which wavers less than the clock.
//! `cargo bench --package wumple --bench vary`

use std::time::Instant;

use cpu_time::{ProcessTime, ThreadTime};
use rayon::prelude::*;
use wumple::analysis::{Measure, Over, PassBounds, vary};
use wumple::numbers::JumpShape;
use wumple::{Buttons, ButtonsFile, Level, Tuning, TuningFile, demo};

const TICKS: u64 = 600;
/// So many values of each of two numbers.
const SIDE: usize = 100;
const RUNS: usize = SIDE * SIDE;
const TILE: f64 = 16.0;
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
    println!(
        "{} threads; million ticks a second of a core: bare, measured; share; the whole",
        rayon::current_num_threads()
    );
    for _ in 0..ROUNDS {
        // The same tunings, set up beforehand: only their ticks are timed.
        let ticked: Vec<(f64, f64)> = (0..RUNS)
            .into_par_iter()
            .map(|run| {
                let mut numbers = dab.tuning.numbers().clone();
                let share = |at: usize| at as f64 / (SIDE - 1) as f64;
                numbers.jump.as_mut().expect("it jumps").shape =
                    JumpShape::HeightAndTime { height: TILE * (2.0 + 2.0 * share(run / SIDE)), time_to_apex: 0.35 };
                numbers.run.top_speed = TILE * (4.0 + 2.0 * share(run % SIDE));
                let tuning = Tuning::check(&numbers).expect("it is right");
                let (mut world, id) = level.world(&tuning).expect("it fits");
                let start = ThreadTime::now();
                for held in &held {
                    world.tick(&[*held]);
                }
                (start.elapsed().as_secs_f64(), world.report(id).feet.x)
            })
            .collect();
        let bare = ticked.iter().map(|(seconds, _)| seconds).sum::<f64>();
        let lasts: f64 = ticked.iter().map(|(_, last)| last).sum();
        let (start, began) = (ProcessTime::now(), Instant::now());
        let report = vary(&dab, &over, &measure, &PassBounds::default(), |_| true).expect("it is right");
        let (measured, whole) = (start.elapsed().as_secs_f64(), began.elapsed().as_secs_f64());
        assert!(lasts > 0.0 && report.cells.iter().all(|cell| cell.value.is_some_and(|apex| apex > 1.5)));
        let speed = |seconds: f64| RUNS as f64 * TICKS as f64 / seconds / 1e6;
        println!("{:.2}, {:.2}; {:.3}; {whole:.2} s", speed(bare), speed(measured), bare / measured);
    }
}
