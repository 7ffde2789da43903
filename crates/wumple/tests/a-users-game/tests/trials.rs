//! The trials of the game, as they stand in its guide: three lines each.

use std::error::Error;
use std::path::Path;

use wumple::TrialFile;

/// A folder in `target/`, where figures of what fails are drawn.
const FIGURES: &str = concat!(env!("CARGO_TARGET_TMPDIR"), "/trial-figures");

#[test]
fn over_the_hole() -> Result<(), Box<dyn Error>> {
    let mut outcome = TrialFile::read(Path::new("trials/over-the-hole.trial.toml"))?.run()?;
    outcome.draw_failures(Path::new(FIGURES));
    assert!(outcome.passed(), "{outcome}");
    Ok(())
}

#[test]
#[should_panic(expected = "expected apex at least 80 px")]
fn far_too_high() {
    let mut outcome = TrialFile::read(Path::new("trials/far-too-high.trial.toml")).unwrap().run().unwrap();
    outcome.draw_failures(Path::new(FIGURES));
    assert!(outcome.passed(), "{outcome}");
}

#[test]
fn the_room_is_run_through() {
    let text = |name: &str| std::fs::read_to_string(Path::new("trials").join(name)).unwrap();
    let room = text("room.level.toml").replace("#####..###", "##########");
    assert_eq!(a_users_game::ticks_to_the_wall(&room, &text("hero.tuning.toml")).unwrap(), 109);
}
