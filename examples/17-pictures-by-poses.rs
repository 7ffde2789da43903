//! Pictures that follow what a character does: the poses of its tuning name them, here drawn with letters.

use wumple::poses::{Harm, PoseClock, Shown};
use wumple::{ButtonsFile, Level, TuningFile, demo};

/// The pictures of a pose, head, body and legs, as they look to the right.
fn pictures(pose: &str) -> &'static [[&'static str; 3]] {
    match pose {
        "run" => &[
            [" o ", "/|>", "/ \\"],
            [" o ", "-|>", "/| "],
            [" o ", "\\|-", " |)"],
            [" o ", "<|\\", "/ \\"],
            [" o ", "<|-", "/| "],
            [" o ", "-|\\", " |)"],
        ],
        "climb" => &[["\\o ", " |\\", " |\\"], [" o/", "/| ", " |\\"], [" o/", "/| ", "/| "], ["\\o ", " |\\", "/| "]],
        "cling" => &[["\\o/", " | ", "/ \\"]],
        "rise" => &[["\\o/", " | ", "/| "]],
        "fall" => &[["\\o/", " | ", "< >"]],
        "idle" => &[[" o ", "/|\\", "/ \\"], [" o ", "(|)", "/ \\"], [" o ", "/|\\", "| |"], [" o ", "(|)", "| |"]],
        _ => &[[" x ", "-|-", "/ \\"]],
    }
}

/// A line of a picture as it looks to the left.
fn flipped(line: &str) -> String {
    let turned = |letter| match letter {
        '/' => '\\',
        '\\' => '/',
        '<' => '>',
        '>' => '<',
        '(' => ')',
        ')' => '(',
        other => other,
    };
    line.chars().rev().map(turned).collect()
}

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let tuning = TuningFile::parse("climbing-dab.tuning.toml", demo::CLIMBING_DAB)?;
    let room = demo::ROOMS.iter().find(|room| room.name == "glaze-store").ok_or("a room of the demo")?;
    let level = Level::parse("glaze-store.level.toml", room.level)?;
    let (timeline, _) = ButtonsFile::parse("glaze-store.buttons", room.buttons, &tuning.scale)?.at_rate(60.0)?;
    let (mut world, id) = level.world(&tuning.tuning)?;

    let mut clock = PoseClock::default();
    let mut film: Vec<(u64, Shown<'_>)> = Vec::new();
    for tick in 1..=timeline.last_tick() {
        world.tick(&[timeline.at(tick)]);
        // Once after each tick, drawn or not: the clock counts them.
        let shown = clock.show(&tuning.poses, world.report(id), Harm::default(), tuning.tuning.rate());
        let shown = shown.ok_or("no pose is to be shown")?;
        if film.last().is_none_or(|(_, before)| *before != shown) {
            film.push((tick, shown));
        }
    }
    // The end of a climb, a jump, and another ladder down.
    for strip in film.chunks(12).skip(2).take(3) {
        strip.iter().for_each(|(tick, _)| print!("{tick:<6}"));
        println!();
        strip.iter().for_each(|(_, shown)| print!("{:<6}", shown.pose.name));
        println!();
        for line in 0..3 {
            for (_, shown) in strip {
                let drawn = pictures(&shown.pose.name)[shown.picture as usize][line];
                print!("{:<6}", if shown.flip { flipped(drawn) } else { drawn.to_owned() });
            }
            println!();
        }
        println!();
    }
    // Whatever the tuning asks for is there.
    for pose in &tuning.poses {
        assert!(
            matches!(pose.name.as_str(), "hurt" | "defeat") || pictures(&pose.name).len() == pose.pictures as usize
        );
    }
    Ok(())
}
