//! A game of one room: the character runs until it stands at the far wall.

use wumple::{Buttons, Level, State, TuningFile};

/// How many ticks it takes to run through a room to where nothing goes on.
pub fn ticks_to_the_wall(level: &str, tuning: &str) -> Result<u64, Box<dyn std::error::Error>> {
    let level = Level::parse("room.level.toml", level)?;
    let tuning = TuningFile::parse("hero.tuning.toml", tuning)?;
    let (mut world, hero) = level.world(&tuning.tuning)?;
    for tick in 1..=10_000 {
        world.tick(&[Buttons { right: true, ..Buttons::NONE }]);
        let report = world.report(hero);
        if report.state == State::Stand && report.contacts.right {
            return Ok(tick);
        }
    }
    Err("it never gets there".into())
}
