//! Three levels in order, and what a player has come to, kept as JSON between two sittings.

use std::path::Path;

use wumple::{ButtonsFile, Levels, Progress, TuningFile, demo};

fn main() -> Result<(), Box<dyn std::error::Error>> {
    // All of them at once: a level that is missing is found now, not when a player gets there.
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("demo");
    let chain = Levels::read(&folder.join("jar-cellar.level.toml"))?;
    let dab = TuningFile::parse("climbing-dab.tuning.toml", demo::CLIMBING_DAB)?;

    let mut kept = String::new();
    for level in &chain.levels {
        let name = level.name.to_lowercase().replace(' ', "-");
        let room = demo::ROOMS.iter().find(|room| room.name == name).ok_or("a room of the demo")?;
        let timeline = ButtonsFile::parse(room.name, room.buttons, &dab.scale)?.at_rate(dab.tuning.rate())?.0;
        let (mut world, id) = level.world(&dab.tuning)?;
        let mut round = level.start_round(&world, id).ok_or("each has a [round]")?;
        let mut frame = 0;
        while !round.is_over() {
            frame += 1;
            world.tick(&[timeline.at(frame)]);
            round.play(&mut world, id);
            if round.checkpoint().is_some() && kept.is_empty() {
                kept = serde_json::to_string(&Progress::of(level, &round))?;
                println!("kept at the lamp: {kept}");
            }
        }
        println!("{}: finished in frame {frame}, {} picked", level.name, round.picked());
    }

    // Another day: on from the lamp.
    let progress: Progress = serde_json::from_str(&kept)?;
    let level = chain.levels.iter().find(|level| level.name == progress.level).ok_or("it is there")?;
    let (mut world, id) = level.world(&dab.tuning)?;
    let mut round = level.start_round(&world, id).ok_or("it has a [round]")?;
    progress.resume(level, &mut round, &mut world, id);
    println!("on from {}, with {:?} lives", world.report(id).feet, round.lives().unwrap_or(0));
    assert_eq!((world.report(id).feet.x, round.lives()), (280.0, Some(2)));
    Ok(())
}
