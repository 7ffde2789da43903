//! What can be reached, over larger and larger levels and more and more abilities: rows of shelves with gaps between them, from a seed.
//! `cargo bench --package wumple --bench reach`

use std::time::Instant;

use rand_chacha::ChaCha8Rng;
use rand_chacha::rand_core::{RngCore, SeedableRng};
use wumple::analysis::{ReachAnswer, ReachSettings, reach};
use wumple::{Level, TuningFile};

const WALKER: &str = "[body]\nwidth = \"10 px\"\nheight = \"22 px\"\n[run]\ntop_speed = \"7 tiles/s\"\n[fall]\ngravity_ratio = 1.5\n[jump]\nheight = \"3.4 tiles\"\ntime_to_apex = \"0.35 s\"\n";
const AIR_JUMP: &str = "air_jumps = 1\nair_jump_height = \"2.2 tiles\"\n";
const WALLS: &str =
    "[wall.slide]\ntop_speed = \"3 tiles/s\"\n[wall.jump]\nheight = \"2.5 tiles\"\npush_speed = \"7 tiles/s\"\n";
const HOLD: &str = "[wall.hold]\nwhen = \"grab-held\"\nup_speed = \"4 tiles/s\"\ndown_speed = \"4 tiles/s\"\ntop = \"climb-over\"\n[ladder]\nup_speed = \"4 tiles/s\"\ndown_speed = \"4 tiles/s\"\n";

/// Shelves of 10 to 25 tiles with 2 to 4 of nothing between them, in rows 3 apart; some solid, some one-way; a floor beneath.
fn room(columns: usize, rows: usize) -> Level {
    let mut random = ChaCha8Rng::seed_from_u64(7);
    let mut below = move |most: usize| random.next_u32() as usize % most;
    let mut map = vec![vec!['.'; columns]; rows];
    for row in (rows % 3 + 3..rows - 1).step_by(3) {
        let mut column = below(4);
        while column < columns {
            let tile = if below(3) == 0 { '=' } else { '#' };
            let end = (column + 10 + below(16)).min(columns);
            map[row][column..end].fill(tile);
            column = end + 2 + below(3);
        }
    }
    map[rows - 1].fill('#');
    map[rows - 3][2] = '.';
    map[rows - 2][2] = '@';
    let rows: Vec<String> = map.into_iter().map(|row| row.into_iter().collect()).collect();
    let text = format!("[map]\nrows = '''\n{}\n'''\n", rows.join("\n"));
    Level::parse("shelves", &text).expect("it is right")
}

fn main() {
    let walkers = [
        ("a jump", WALKER.to_owned()),
        ("an air jump", format!("{WALKER}{AIR_JUMP}")),
        ("wall jumps", format!("{WALKER}{WALLS}")),
        ("all of these, holds and ladders", format!("{WALKER}{AIR_JUMP}{WALLS}{HOLD}")),
    ];
    println!("tiles, abilities: places, reached, out of reach, not found; ticks tried, s, of it to prove");
    for (columns, rows) in [(50, 100), (100, 100), (200, 100), (400, 100), (800, 100)] {
        let level = room(columns, rows);
        for (abilities, text) in &walkers {
            let walker = TuningFile::parse("walker", text).expect("it is right");
            let timed = |most_ticks: u64| {
                let mut settings = ReachSettings::default();
                settings.most_ticks = most_ticks;
                let start = Instant::now();
                let report = reach(&level, &walker, &settings, |_| true).expect("it fits");
                (report, start.elapsed().as_secs_f64())
            };
            let (_, proof) = timed(0);
            let (report, all) = timed(20_000_000);
            let count = |is: fn(&ReachAnswer) -> bool| report.targets.iter().filter(|of| is(&of.answer)).count();
            let reached = count(|answer| matches!(answer, ReachAnswer::Reached { .. }));
            let out = count(|answer| matches!(answer, ReachAnswer::OutOfReach { .. }));
            let places = report.targets.len();
            assert!(reached * 2 > places, "most of it is reached");
            println!(
                "{columns} x {rows}, {abilities}: {places}, {reached}, {out}, {}; {}, {all:.2}, {proof:.3}",
                places - reached - out,
                report.ticks_tried
            );
        }
    }
}
