//! How long it takes to play a try of 600 ticks again while a number is dragged: the text changed and read, the run, and what is
//! compared. `cargo bench --package wumple-window`.

use std::time::Instant;

use wumple::{ButtonsFile, Timeline, demo};
use wumple_window::desk::{StartAt, Try, demo_rooms};
use wumple_window::{Desk, desk::Player};

const TICKS: u64 = 600;
const ROUNDS: u32 = 40;

fn main() {
    println!("{:16} {:>12} {:>12} {:>14}", "room", "ticks", "again, ms", "of it read, ms");
    for name in ["throwing-room", "hoist-yard", "ember-walk", "clay-heap"] {
        let (_, _, level, tuning) =
            demo_rooms().into_iter().find(|(room, ..)| *room == name).expect("a room of the demo");
        let mut desk = Desk::open(&level, &tuning).expect("the demo is right");
        let buttons =
            demo::ROOMS.iter().find(|room| room.name == name).map_or(demo::THROWING_ROOM_BUTTONS, |room| room.buttons);
        let held: Timeline = ButtonsFile::parse(name, buttons, &desk.numbers.file().scale)
            .and_then(|file| file.at_rate(60.0))
            .expect("right")
            .0;
        let tried = Try { start: StartAt::Spawn, held, ticks: TICKS };
        desk.player = Player::of_try(desk.level(), &desk.numbers.file().tuning.clone(), &tried).expect("it fits");
        let (mut again, mut read, mut ticks) = (0.0, 0.0, 0);
        for round in 0..ROUNDS {
            let start = Instant::now();
            desk.numbers.set("run.top_speed", &format!("{} tiles/s", 7.0 + f64::from(round % 7) * 0.1));
            read += start.elapsed().as_secs_f64();
            desk.numbers_changed();
            again += start.elapsed().as_secs_f64();
            let now = &desk.again.as_ref().expect("it was played again").now;
            // The result counts: another speed leads elsewhere, or to the same end.
            assert!(now.rows.len() as u64 <= TICKS + 1 && now.rows.len() > 60, "{name}");
            ticks = now.rows.len() - 1;
        }
        let each = |all: f64| all / f64::from(ROUNDS) * 1e3;
        println!("{name:16} {ticks:>12} {:>12.2} {:>14.2}", each(again), each(read));
    }
}
