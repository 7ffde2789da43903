//! A run that goes on tick by tick: the same as one at one go, gone back in, looked ahead of; texts that are changed in place.

use proptest::prelude::*;
use wumple::files::{TuningText, with_letter};
use wumple::{Buttons, ButtonsFile, DVec2, Level, Play, Timeline, TuningFile, demo};

fn rooms() -> Vec<(&'static str, Level, TuningFile, Timeline)> {
    let climbing = demo::ROOMS.iter().map(|room| (room.name, room.level, demo::CLIMBING_DAB, room.buttons));
    let others = demo::OTHERS.iter().map(|other| (other.room.name, other.room.level, other.tuning, other.room.buttons));
    let read = |(name, level, tuning, buttons)| {
        let tuning = TuningFile::parse(name, tuning).unwrap();
        let held = ButtonsFile::parse(name, buttons, &tuning.scale).unwrap().at_rate(60.0).unwrap().0;
        (name, Level::parse(name, level).unwrap(), tuning, held)
    };
    climbing.chain(others).map(read).collect()
}

/// Rounds that start again, views, platforms, props: all of the demo.
#[test]
fn played_tick_by_tick_it_is_the_run_and_gone_back_it_goes_on_so_again() {
    for (name, level, tuning, held) in rooms() {
        let run = wumple::run(&level, &tuning.tuning, &held, 420).unwrap();
        let mut play = Play::start(&level, level.grid.clone(), &tuning.tuning).unwrap();
        let mut saved = vec![play.save()];
        while !play.is_over() && play.ticks() < 420 {
            play.tick(held.at(play.ticks() + 1));
            if play.ticks() % 50 == 0 {
                saved.push(play.save());
            }
        }
        assert_eq!(play.trace(), &run, "{name}");
        for saved in saved.iter().rev().step_by(2) {
            play.go_back(saved);
            assert_eq!(
                (play.ticks(), &play.trace().rows[..]),
                (saved.ticks(), &run.rows[..=saved.ticks() as usize]),
                "{name}"
            );
        }
        while play.ticks() < run.rows.len() as u64 - 1 {
            play.tick(held.at(play.ticks() + 1));
        }
        assert_eq!(play.trace(), &run, "{name}: on again");
    }
}

/// Where it would go from anywhere in a run is where it goes, and the play is what it was.
#[test]
fn looked_ahead_it_goes_where_it_then_goes() {
    for (name, level, tuning, held) in rooms() {
        let mut play = Play::start(&level, level.grid.clone(), &tuning.tuning).unwrap();
        for _ in 0..130 {
            play.tick(held.at(play.ticks() + 1));
        }
        if play.is_over() {
            continue;
        }
        let pressed = Buttons { right: true, jump: true, ..Buttons::NONE };
        let before = play.trace().clone();
        let ahead = play.look_ahead(&level, 60, |_| pressed);
        assert_eq!(play.trace(), &before, "{name}");
        assert_eq!(ahead[0], play.report().feet, "{name}");
        for (tick, feet) in ahead.iter().enumerate().skip(1) {
            // A round may put it elsewhere; where it goes by itself is asked for.
            if play.is_over() || play.trace().attempt(play.ticks() as usize) > before.attempt(before.rows.len() - 1) {
                break;
            }
            play.tick(pressed);
            if play.round().is_none_or(|round| !round.is_defeated()) {
                assert_eq!(*feet, play.report().feet, "{name}, tick {tick} of it");
            }
        }
    }
}

#[test]
fn a_try_begins_elsewhere_or_at_a_checkpoint_or_says_why_not() {
    let dab = TuningFile::parse("dab", demo::CLIMBING_DAB).unwrap();
    let text = "[round]\n[map]\nrows = '''\n@.......+..!\n############\n'''\n";
    let level = Level::parse("lamps", text).unwrap();
    let mut play = Play::start(&level, level.grid.clone(), &dab.tuning).unwrap();
    play.begin_at(DVec2::new(100.0, 16.0)).unwrap();
    assert_eq!((play.report().feet.x, play.ticks(), play.trace().rows.len()), (100.0, 0, 1));
    assert!(play.begin_at(DVec2::new(100.0, 30.0)).is_err());
    assert_eq!(play.report().feet.x, 100.0, "it stays");
    for _ in 0..60 {
        play.tick(Buttons { right: true, ..Buttons::NONE });
    }
    let lamp = play.round().unwrap().checkpoint().expect("it came by");
    let mut again = Play::start(&level, level.grid.clone(), &dab.tuning).unwrap();
    again.begin_at_checkpoint(lamp);
    assert!((again.report().feet.x - 136.0).abs() < 16.0, "{:?}", again.report().feet);
    assert_eq!(again.round().unwrap().checkpoint(), Some(lamp));
    assert_eq!((again.trace().rounds.len(), again.trace().harm.len()), (1, 1));
}

#[test]
fn numbers_that_are_put_on_act_from_the_next_tick_on() {
    let dab = TuningFile::parse("dab", demo::DAB).unwrap();
    let faster = TuningFile::parse("dab", &demo::DAB.replace("\"7.5 tiles/s\"", "\"9 tiles/s\"")).unwrap();
    let level = Level::parse("room", demo::THROWING_ROOM).unwrap();
    let mut play = Play::start(&level, level.grid.clone(), &dab.tuning).unwrap();
    let right = Buttons { right: true, ..Buttons::NONE };
    (0..20).for_each(|_| play.tick(right));
    assert_eq!(play.report().velocity.x, 120.0);
    play.retune(faster.tuning.clone()).unwrap();
    (0..20).for_each(|_| play.tick(right));
    assert_eq!(play.report().velocity.x, 144.0);
    let other_rate =
        TuningFile::parse("dab", &format!("{}\n[tick]\nrate = 50\n", demo::DAB.replace("[tick]", "[old]")));
    if let Ok(other) = other_rate {
        assert!(play.retune(other.tuning).is_err());
    }
}

#[test]
fn texts_are_changed_in_place() {
    let mut text = TuningText::new(demo::CLIMBING_DAB).unwrap();
    assert_eq!(text.written("jump.height").as_deref(), Some("3.4 tiles"));
    assert_eq!(text.written("wall.slide.when").as_deref(), Some("pushed"), "within a line");
    assert_eq!((text.written("wall.slide"), text.written("wall.none")), (None, None));
    let ladder = text.part("ladder");
    text.remove("ladder");
    assert!(!text.has("ladder") && !text.to_string().contains("side_speed"));
    text.put("ladder", ladder.as_ref());
    assert!(text.has("ladder.probe"));
    text.set("wall.slide.top_speed", "5 tiles/s");
    text.set("jump.air_jumps_back_on_wall", "true");
    text.set("run.acceleration", "instant");
    let read = TuningFile::parse("dab", &text.to_string()).unwrap();
    assert_eq!(read.tuning.wall().slide.unwrap().top_speed, 80.0);
    assert!(TuningText::new("[jump").is_none());
}

proptest! {
    /// Only the one letter is another; where there is no such tile, nothing is.
    #[test]
    fn a_painted_letter_is_the_only_change(column in 0usize..40, row in 0usize..30, crlf in any::<bool>()) {
        let text = if crlf { demo::THROWING_ROOM.replace('\n', "\r\n") } else { demo::THROWING_ROOM.to_owned() };
        let level = Level::parse("room", &text).unwrap();
        let is_there = (column as i32) < wumple::Terrain::columns(&level.grid) && (row as i32) < wumple::Terrain::rows(&level.grid);
        match with_letter(&text, column, row, 'H') {
            Some(painted) => {
                prop_assert!(is_there);
                let changed: Vec<(char, char)> = text.chars().zip(painted.chars()).filter(|(old, new)| old != new).collect();
                prop_assert!(changed.len() <= 1 && text.chars().count() == painted.chars().count());
                if (column, row) != level.spawn_tile {
                    let now = Level::parse("room", &painted).unwrap();
                    let surface = wumple::Terrain::surface(&now.grid, column as i32, row as i32);
                    prop_assert_eq!(surface, wumple::Surface::Ladder);
                }
            }
            None => prop_assert!(!is_there, "({column}, {row})"),
        }
    }
}
