//! What is open, without a window: played, changed, taken back, kept.

mod common;

use std::path::Path;

use proptest::prelude::*;
use wumple::analysis::{ReachAnswer, ReachReport, ReachSettings, reach};
use wumple::{Buttons, ButtonsFile, DVec2, Event, TrialFile, TuningFile, ZoneKind, demo};
use wumple_window::desk::{Again, StartAt, Trial, Units, Written};
use wumple_window::{Desk, Source};

use crate::common::{desk, desk_in};

const RIGHT: Buttons = Buttons { right: true, ..Buttons::NONE };
const JUMP: Buttons = Buttons { right: true, jump: true, ..Buttons::NONE };

/// So many ticks with these held.
fn play(desk: &mut Desk, held: Buttons, ticks: u32) {
    for _ in 0..ticks {
        desk.player.see(held);
        desk.player.step();
    }
}

fn said(desk: &Desk) -> String {
    desk.said.as_ref().map_or_else(String::new, |said| said.words.clone())
}

/// Frames go by until it is known what can be reached.
fn wait_for_ways(desk: &mut Desk) {
    for _ in 0..6000 {
        desk.frame(0.01);
        if desk.ways.as_ref().is_some_and(|ways| !ways.is_looking()) {
            return;
        }
        std::thread::sleep(std::time::Duration::from_millis(10));
    }
    panic!("nothing was found within a minute");
}

/// The middle of something that is asked after.
fn middle_of(desk: &Desk, name: &str) -> DVec2 {
    let report = desk.ways.as_ref().and_then(|ways| ways.report()).unwrap();
    let target = report.targets.iter().find(|target| target.target.starts_with(name)).unwrap();
    let [left, top, right, bottom] = target.place_px;
    DVec2::new(f64::midpoint(left, right), f64::midpoint(top, bottom))
}

#[test]
fn ways_are_looked_for_from_where_it_stands_and_played() {
    let mut desk = desk();
    desk.player.runs = false;
    play(&mut desk, RIGHT, 20);
    let feet = desk.player.play().report().feet;
    play(&mut desk, JUMP, 5);
    // In the air: from where it stood last.
    desk.ask_for_ways();
    assert_eq!(desk.ways.as_ref().unwrap().from(), feet);
    wait_for_ways(&mut desk);
    let goal = middle_of(&desk, "goal");
    desk.play_way_to(goal);
    assert!(said(&desk).starts_with("the way to goal@"), "{}", said(&desk));
    // It is shown from its start on, as fast as time goes, and stops at its end.
    assert_eq!((desk.player.tick_now(), desk.player.is_shown_again()), (0, true));
    assert_eq!(desk.player.play().report().feet, feet);
    let ticks = desk.player.tried().ticks;
    for _ in 0..=ticks {
        desk.frame(1.0 / 60.0);
    }
    assert_eq!((desk.player.tick_now(), desk.player.is_shown_again(), desk.player.runs), (ticks, false, false));
    let events = desk.player.trace().rows.iter().flat_map(|row| &row.events);
    assert!(events.into_iter().any(|event| matches!(event, Event::Entered(zone) if zone.kind == ZoneKind::Goal)));
    // Nothing is there, and asked for no longer.
    desk.play_way_to(DVec2::new(-400.0, -400.0));
    assert_eq!(said(&desk), "there is nothing to be reached there");
    desk.ask_for_ways();
    assert!(desk.ways.is_none());
}

#[test]
fn ways_are_those_of_the_numbers_of_now() {
    let mut desk = desk();
    desk.player.runs = false;
    desk.ask_for_ways();
    wait_for_ways(&mut desk);
    let answers = |report: &ReachReport| -> Vec<bool> {
        report.targets.iter().map(|target| matches!(target.answer, ReachAnswer::Reached { .. })).collect()
    };
    let then = answers(desk.ways.as_ref().and_then(|ways| ways.report()).unwrap());
    desk.numbers.set("jump.height", "1.4 tiles");
    desk.numbers_changed();
    assert!(desk.ways.as_ref().is_some_and(|ways| ways.is_looking() && ways.report().is_none()));
    wait_for_ways(&mut desk);
    let now = answers(desk.ways.as_ref().and_then(|ways| ways.report()).unwrap());
    let fresh = reach(desk.level(), desk.numbers.file(), &ReachSettings::default(), |_| true).unwrap();
    assert_eq!(now, answers(&fresh));
    assert_ne!(now, then, "a low jump reaches less");
}

#[test]
fn what_is_shown_again_is_played_on_from_there() {
    let mut desk = desk();
    desk.player.runs = false;
    play(&mut desk, RIGHT, 60);
    desk.player.show_again();
    for _ in 0..10 {
        desk.frame(1.0 / 60.0);
    }
    assert!(desk.player.is_shown_again() && desk.player.tick_now() < 60);
    let then = desk.player.tick_now();
    play(&mut desk, JUMP, 1);
    assert_eq!((desk.player.tick_now(), desk.player.is_shown_again()), (then + 1, false));
    assert_eq!(desk.player.tried().ticks, then + 1);
}

/// Every row of both, to the bit.
fn assert_same(again: &Again, fresh: &wumple::Trace) {
    assert_eq!(again.now.rows, fresh.rows);
    assert_eq!((&again.now.rounds, &again.now.views), (&fresh.rounds, &fresh.views));
}

#[test]
fn while_a_number_is_dragged_the_last_try_is_a_fresh_run_with_it() {
    let mut desk = desk();
    play(&mut desk, RIGHT, 30);
    play(&mut desk, JUMP, 20);
    play(&mut desk, RIGHT, 60);
    let held = desk.player.tried().held.clone();
    for height in ["3.5 tiles", "3.8 tiles", "4 tiles"] {
        desk.numbers.set("jump.height", height);
        desk.numbers_changed();
        let again = desk.again.as_ref().expect("there was a try");
        let text = demo::DAB.replace("height = \"3.4 tiles\"", &format!("height = \"{height}\""));
        let tuning = TuningFile::parse("dab", &text).unwrap();
        let fresh = wumple::run(desk.level(), &tuning.tuning, &held, 110).unwrap();
        assert_same(again, &fresh);
        assert_ne!(again.then.rows, again.now.rows, "{height}");
        assert!(again.words(16.0).contains("highest"), "{}", again.words(16.0));
    }
    // They are one step, and in force in the try that goes on.
    assert_eq!(desk.numbers.undoes(), Some("jump.height"));
    desk.numbers.undo();
    desk.numbers_changed();
    assert_eq!(desk.numbers.text(), demo::DAB);
    assert_eq!(desk.player.play().character().tuning(), &desk.numbers.file().tuning);
}

#[test]
fn right_after_a_restart_the_try_before_it_goes_again() {
    let mut desk = desk();
    play(&mut desk, RIGHT, 90);
    desk.restart(StartAt::Spawn);
    play(&mut desk, RIGHT, 2);
    desk.numbers.set("run.top_speed", "9 tiles/s");
    desk.numbers_changed();
    assert_eq!(desk.again.as_ref().unwrap().now.rows.len(), 91);
}

#[test]
fn numbers_are_undone_redone_reset_and_wrong_ones_change_nothing() {
    let mut desk = desk();
    let before = desk.numbers.file().clone();
    desk.numbers.set("run.top_speed", "-3 tiles/s");
    assert!(desk.numbers.error().unwrap().contains("run.top_speed"), "{:?}", desk.numbers.error());
    assert_eq!(desk.numbers.file().tuning, before.tuning);
    assert!(desk.numbers.keep(Path::new("")).unwrap_err().contains("wrong"));
    desk.numbers.undo();
    assert_eq!((desk.numbers.error(), desk.numbers.is_unkept()), (None, false));
    desk.numbers.redo();
    desk.numbers.reset("run.top_speed");
    assert_eq!(desk.numbers.error(), None);
    desk.numbers.set("jump.air_jumps", "1");
    desk.numbers.let_go();
    desk.numbers.set("jump.air_jumps", "2");
    assert_eq!(desk.numbers.changed(), ["jump.air_jumps"]);
    desk.numbers.undo();
    assert_eq!(desk.numbers.file().tuning.air_jumps(), 1, "let go between, they are two steps");
    for (key, words, units, expected) in [
        ("run.top_speed", "120 px/s", Units::AsWritten, "px/s"),
        ("run.top_speed", "120 px/s", Units::Tiles, "tiles/s"),
        ("jump.coyote_time", "0.1 s", Units::Frames, "frames"),
    ] {
        desk.numbers.set(key, words);
        let kind = desk.numbers.values().iter().find(|(known, _)| known.name == key).unwrap().0.kind;
        assert_eq!(desk.numbers.unit(key, kind, units), expected, "{key}");
    }
    assert_eq!(desk.numbers.words_for(120.0, "tiles/s"), "7.5 tiles/s");
}

#[test]
fn an_ability_that_is_switched_off_and_on_again_is_what_it_was() {
    let level = Source::of_demo("chimney.level.toml", demo::ROOMS[0].level);
    let mut desk = Desk::open(&level, &Source::of_demo("climbing-dab.tuning.toml", demo::CLIMBING_DAB)).unwrap();
    for ability in ["ladder", "wall.slide", "wall.hold", "jump.hang"] {
        let before = desk.numbers.file().clone();
        desk.numbers.switch(ability, false);
        assert!(!desk.numbers.has(ability), "{ability}");
        assert_ne!(desk.numbers.file().tuning, before.tuning, "{ability}: {:?}", desk.numbers.error());
        desk.numbers.switch(ability, true);
        assert_eq!(desk.numbers.file().tuning, before.tuning, "{ability}");
    }
    // One that was never there begins with the usual.
    let mut plain = self::desk();
    for ability in wumple_window::desk::ABILITIES.map(|ability| ability.section) {
        plain.numbers.switch(ability, true);
        assert_eq!(plain.numbers.error(), None, "{ability}");
        assert!(plain.numbers.has(ability));
    }
}

#[test]
fn what_letting_go_does_is_changed_and_had_back() {
    let mut desk = desk();
    let before = desk.numbers.file().tuning.clone();
    let section = wumple_window::desk::RELEASES[0];
    assert_eq!(desk.numbers.release_style(section).as_deref(), Some("to-height"));
    desk.numbers.set("jump.release.tap_height", "1.5 tiles");
    let had = desk.numbers.text();
    for style in wumple_window::desk::RELEASE_STYLES.map(|style| style.name) {
        desk.numbers.set_release_style(section, Some(style));
        assert_eq!((desk.numbers.error(), desk.numbers.release_style(section).as_deref()), (None, Some(style)));
        assert_ne!(desk.numbers.file().tuning, before, "{style}");
    }
    assert_eq!(desk.numbers.text(), had, "the last of them is the one it had, as it was");
    // Of a jump in the air there may be none.
    let of_air = wumple_window::desk::RELEASES[1];
    desk.numbers.set_release_style(of_air, None);
    assert!(!desk.numbers.has(of_air) && desk.numbers.error().is_none());
    while desk.numbers.undoes().is_some() {
        desk.numbers.undo();
    }
    assert_eq!(desk.numbers.text(), demo::DAB);
}

#[test]
fn poses_picture_and_scale_are_changed_in_their_lines() {
    let level = Source::of_demo("throwing-room.level.toml", demo::THROWING_ROOM);
    let (_, _, _, barrow) = wumple_window::desk::demo_rooms()
        .into_iter()
        .find(|(.., tuning)| tuning.name.starts_with("barrow"))
        .expect("it is in the demo");
    let mut desk = Desk::open(&level, &barrow).unwrap();
    let others: Vec<&str> = desk.numbers.others().iter().map(String::as_str).collect();
    assert_eq!(
        others,
        ["name", "pose.0.name", "pose.0.when.support", "pose.1.name", "pose.1.pictures", "pose.1.stride"]
    );
    desk.numbers.set("pose.1.stride", "6 px");
    desk.numbers.set("pose.0.when.state", "[\"rise\", \"fall\"]");
    assert_eq!(desk.numbers.error(), None);
    let poses = &desk.numbers.file().poses;
    assert_eq!(poses[1].advance, wumple::poses::Advance::Stride(6.0));
    assert_eq!(poses[0].when.states, [wumple::State::Rise, wumple::State::Fall]);
    assert_eq!(desk.numbers.changed(), ["pose.0.when.state", "pose.1.stride"]);
    desk.numbers.set("pose.1.pictures", "0");
    assert!(desk.numbers.error().unwrap().contains("at least 1"), "{:?}", desk.numbers.error());
    desk.numbers.reset("pose.1.pictures");
    // What tiles mean is another in the whole file, and acts as any other number does.
    let speed = desk.numbers.file().tuning.run().top_speed;
    desk.numbers.set("scale.tile", "32");
    assert_eq!(desk.numbers.file().tuning.run().top_speed, speed * 2.0);
    desk.numbers.switch("picture", true);
    assert!(desk.numbers.file().picture.is_some_and(|picture| picture.width == 48.0));
    assert!(desk.numbers.others().iter().any(|key| key == "picture.height"));
}

#[test]
fn gone_back_and_played_on_is_a_run_of_the_joined_buttons() {
    let mut desk = desk();
    play(&mut desk, RIGHT, 100);
    play(&mut desk, JUMP, 30);
    play(&mut desk, Buttons::NONE, 80);
    let whole = desk.player.trace().rows.clone();
    assert_eq!(whole.len(), 211, "it lives");
    for tick in [200, 61, 60, 59, 1, 0, 137, 210] {
        desk.player.look_at(tick);
        assert_eq!(desk.player.play().report(), &whole[tick as usize], "tick {tick}");
        assert_eq!(desk.player.trace().rows, whole, "what comes after is still there");
    }
    desk.player.look_at(83);
    play(&mut desk, Buttons::NONE, 50);
    let joined =
        ButtonsFile::parse("b", "1 right\n84 -\n", &desk.numbers.file().scale).unwrap().at_rate(60.0).unwrap().0;
    let fresh = wumple::run(desk.level(), &desk.numbers.file().tuning, &joined, 133).unwrap();
    assert_eq!(desk.player.trace().rows, fresh.rows);
    assert_eq!(desk.player.tried().ticks, 133);
}

#[test]
fn gone_back_over_a_changed_number_it_is_as_it_was() {
    let mut desk = desk();
    play(&mut desk, RIGHT, 70);
    desk.numbers.set("run.top_speed", "9 tiles/s");
    desk.numbers_changed();
    play(&mut desk, RIGHT, 70);
    let whole = desk.player.trace().rows.clone();
    for tick in [20, 75, 69, 140] {
        desk.player.look_at(tick);
        assert_eq!(desk.player.play().report(), &whole[tick as usize], "tick {tick}");
    }
    // Played on from before the change, it is with the numbers of now.
    desk.player.look_at(40);
    desk.player.play_on();
    assert_eq!(desk.player.play().character().tuning().run().top_speed, 144.0);
}

#[test]
fn what_is_kept_has_the_changed_keys_and_every_comment() {
    let folder = tempfile::tempdir().unwrap();
    let mut desk = desk_in(folder.path());
    desk.numbers.set("jump.height", "3.7 tiles");
    desk.numbers.set("jump.coyote_time", "0.12 s");
    desk.keep_numbers();
    let kept = std::fs::read_to_string(folder.path().join("dab.tuning.toml")).unwrap();
    let changed: Vec<(&str, &str)> = demo::DAB.lines().zip(kept.lines()).filter(|(old, new)| old != new).collect();
    assert_eq!((changed.len(), kept.lines().count()), (2, demo::DAB.lines().count()), "{changed:?}");
    for (old, new) in changed {
        let comment = |line: &str| line.split_once('#').map(|(_, comment)| comment.to_owned());
        assert_eq!(comment(old), comment(new));
    }
    assert!(!desk.is_unkept() && said(&desk).starts_with("kept in "), "{}", said(&desk));
}

#[test]
fn files_are_opened_beside_what_is_open() {
    let folder = tempfile::tempdir().unwrap();
    let mut desk = desk_in(folder.path());
    let chimney = folder.path().join("chimney.level.toml");
    std::fs::write(&chimney, demo::ROOMS[0].level).unwrap();
    std::fs::write(folder.path().join("c.tuning.toml"), demo::CLIMBING_DAB).unwrap();
    std::fs::write(folder.path().join("c.buttons"), demo::ROOMS[0].buttons).unwrap();
    desk.open_file(&chimney);
    assert_eq!((desk.level().name.as_str(), desk.numbers.file().name.as_str()), ("Chimney", "Dab"));
    desk.open_file(&folder.path().join("c.tuning.toml"));
    assert_eq!((desk.level().name.as_str(), desk.numbers.file().name.as_str()), ("Chimney", "Climbing Dab"));
    assert_eq!(desk.files().len(), 2);
    desk.open_file(&folder.path().join("c.buttons"));
    assert!(desk.player.tick_now() > 300 && !desk.player.runs, "{}", said(&desk));
    for wrong in ["none.level.toml", "map.png", "none.buttons"] {
        desk.open_file(&folder.path().join(wrong));
        assert!(desk.said.as_ref().unwrap().is_error, "{wrong}");
        assert_eq!(desk.level().name, "Chimney");
    }
    desk.numbers.set("run.top_speed", "9 tiles/s");
    desk.open_file(&folder.path().join("room.level.toml"));
    assert!(said(&desk).contains("not everything is kept"), "{}", said(&desk));
}

#[test]
fn what_has_no_file_yet_gets_one_and_writes_over_nothing() {
    let folder = tempfile::tempdir().unwrap();
    let mut desk = desk();
    desk.folder = folder.path().to_owned();
    desk.numbers.set("jump.height", "3.7 tiles");
    desk.keep_numbers();
    desk.keep_room();
    let path = folder.path().join("dab.tuning.toml");
    assert!(std::fs::read_to_string(&path).unwrap().contains("3.7 tiles") && !desk.is_unkept());
    assert!(folder.path().join("throwing-room.level.toml").exists());
    desk.numbers.set("jump.height", "3.9 tiles");
    desk.keep_numbers();
    assert!(std::fs::read_to_string(&path).unwrap().contains("3.9 tiles"), "its own file it writes again");
    let mut other = self::desk();
    other.folder = folder.path().to_owned();
    other.numbers.set("jump.height", "5 tiles");
    other.keep_numbers();
    assert!(other.said.as_ref().unwrap().is_error && other.is_unkept(), "{}", said(&other));
    assert!(std::fs::read_to_string(&path).unwrap().contains("3.9 tiles"), "nothing is lost");
}

#[test]
fn a_file_that_another_program_changes_is_read_again_or_asked_about() {
    let folder = tempfile::tempdir().unwrap();
    let mut desk = desk_in(folder.path());
    let path = folder.path().join("dab.tuning.toml");
    let write = |text: &str| std::fs::write(&path, text).unwrap();
    let higher = demo::DAB.replace("height = \"3.4 tiles\"", "height = \"4 tiles\"");
    write(&higher);
    desk.changed_on_disk(&path);
    assert_eq!((desk.numbers.text(), desk.numbers.is_asked()), (higher.clone(), false));
    // With a change of one's own.
    desk.numbers.set("run.top_speed", "8 tiles/s");
    write(demo::DAB);
    desk.changed_on_disk(&path);
    assert!(desk.numbers.is_asked());
    let mut other = desk_in(folder.path());
    other.numbers.set("run.top_speed", "8 tiles/s");
    write(&higher);
    other.changed_on_disk(&path);
    other.numbers.take_theirs();
    assert_eq!(other.numbers.text(), higher);
    other.numbers.undo();
    assert!(other.numbers.text().contains("\"8 tiles/s\""), "it can be had back");
    desk.numbers.keep_mine();
    let mine = demo::DAB.replace("top_speed = \"7.5 tiles/s\"", "top_speed = \"8 tiles/s\"");
    let plain = |text: &str| text.split_whitespace().collect::<Vec<_>>().join(" ");
    assert_eq!(plain(&desk.numbers.text()), plain(&mine));
    // What is no tuning leaves the numbers as they were.
    let before = other.numbers.file().tuning.clone();
    write("[jump\n");
    other.changed_on_disk(&path);
    assert!(other.numbers.error().is_some() || other.said.is_some());
    assert_eq!(other.numbers.file().tuning, before);
}

/// What was switched on here, or off, is so in the file as another program wrote it, and what that wrote is there.
#[test]
fn what_was_switched_and_painted_here_goes_upon_a_file_that_was_changed() {
    let folder = tempfile::tempdir().unwrap();
    let mut desk = desk_in(folder.path());
    let tuning = folder.path().join("dab.tuning.toml");
    desk.numbers.switch("wall.slide", true);
    desk.numbers.switch("jump.hang", false);
    desk.numbers.set_release_style("jump.release", Some("cut"));
    desk.numbers.set("jump.release.keep", "0.3");
    std::fs::write(&tuning, demo::DAB.replace("height = \"3.4 tiles\"", "height = \"4 tiles\"")).unwrap();
    desk.changed_on_disk(&tuning);
    assert!(desk.is_asked());
    desk.keep_mine();
    assert_eq!(desk.numbers.error(), None, "{}", desk.numbers.text());
    let numbers = desk.numbers.file().tuning.numbers();
    let jump = numbers.jump.as_ref().unwrap();
    assert!(desk.numbers.has("wall.slide") && !desk.numbers.has("jump.hang"));
    assert_eq!(jump.release, wumple::numbers::Release::Cut { keep: 0.3 });
    assert_eq!(desk.numbers.written("jump.height").as_deref(), Some("4 tiles"));
    desk.numbers.undo();
    assert!(desk.numbers.has("wall.slide"), "and all of it can be taken back");

    // Letters: theirs and mine.
    let level = folder.path().join("room.level.toml");
    let painted = |column, row| wumple::files::with_letter(demo::THROWING_ROOM, column, row, '#').unwrap();
    let (column, row) = desk.level().spawn_tile;
    desk.paint(column as i32 + 3, row as i32, '#', false).unwrap();
    std::fs::write(&level, painted(column + 5, row)).unwrap();
    desk.changed_on_disk(&level);
    assert!(desk.is_asked());
    desk.keep_mine();
    let both = wumple::files::with_letter(&painted(column + 5, row), column + 3, row, '#').unwrap();
    assert_eq!(desk.room.text(), both);
    desk.keep_room();
    assert_eq!(std::fs::read_to_string(&level).unwrap(), both);
    // Upon a map of another size they do not go: that is said, and nothing is lost.
    desk.paint(column as i32 + 4, row as i32, '#', false).unwrap();
    let mine = desk.room.text().to_owned();
    std::fs::write(&level, "[map]\nrows = '''\n@\n#\n'''\n").unwrap();
    desk.changed_on_disk(&level);
    desk.keep_mine();
    assert!(desk.said.as_ref().unwrap().is_error, "{}", said(&desk));
    assert_eq!(desk.room.text(), mine);
}

#[test]
fn another_room_is_played_by_the_keys_that_are_down() {
    let mut desk = desk();
    let held = desk.keyboard.turn(eframe::egui::Key::ArrowRight, true).unwrap();
    desk.player.see(held);
    let (_, _, level, tuning) = wumple_window::desk::demo_rooms().swap_remove(1);
    assert!(desk.open_other(&level, &tuning), "{}", said(&desk));
    desk.player.step();
    assert!(desk.player.tried().held.at(1).right, "right is still down");
    desk.numbers.set("run.top_speed", "9 tiles/s");
    assert!(!desk.open_other(&level, &tuning) && said(&desk).contains("not everything is kept"));
}

#[test]
fn a_level_is_painted_and_what_was_held_is_played_in_it() {
    let folder = tempfile::tempdir().unwrap();
    let mut desk = desk_in(folder.path());
    play(&mut desk, RIGHT, 60);
    let (column, row) = desk.level().spawn_tile;
    assert!(desk.room.paint(column, row, '#', false).unwrap_err().contains("spawn"));
    desk.room.paint(column + 3, row, '#', false).unwrap();
    desk.room_changed();
    let x = desk.player.play().report().feet.x;
    assert!(x < (column + 3) as f64 * 16.0, "it is stopped by what was painted: {x}");
    assert_eq!(desk.player.tried().ticks, 60);
    desk.keep_room();
    let kept = std::fs::read_to_string(folder.path().join("room.level.toml")).unwrap();
    let changed: Vec<usize> = demo::THROWING_ROOM
        .lines()
        .zip(kept.lines())
        .enumerate()
        .filter(|(_, (a, b))| a != b)
        .map(|(at, _)| at)
        .collect();
    assert_eq!(changed.len(), 1);
    // The spawn moves; undone, it is back.
    desk.room.paint(column + 1, row, '@', false).unwrap();
    assert_eq!(desk.level().spawn_tile, (column + 1, row));
    assert!(desk.room.undo());
    assert_eq!((desk.level().spawn_tile, desk.room.text()), ((column, row), kept.as_str()));
    assert!(desk.room.redo() && desk.room.is_unkept());
}

#[test]
fn trials_of_what_just_happened_pass() {
    let folder = tempfile::tempdir().unwrap();
    let mut desk = desk_in(folder.path());
    play(&mut desk, RIGHT, 30);
    play(&mut desk, JUMP, 20);
    play(&mut desk, Buttons::NONE, 60);
    for (number, trial) in [(1, Trial::LandsHere), (2, Trial::Survives)] {
        desk.write_trial(trial);
        let path = folder.path().join(format!("room-{number}.trial.toml"));
        assert!(path.exists(), "{}", said(&desk));
        let outcome = TrialFile::read(&path).unwrap().run().unwrap();
        assert!(outcome.passed(), "{outcome}");
    }
    desk.write_trial(Trial::ReachesGoal);
    assert!(said(&desk).contains("goal"), "{}", said(&desk));
    desk.numbers.set("jump.height", "5 tiles");
    desk.write_trial(Trial::Survives);
    assert!(said(&desk).contains("keep the numbers"), "{}", said(&desk));
    for (what, ending) in [(Written::Buttons, "buttons"), (Written::Trace, "csv"), (Written::Figure, "svg")] {
        desk.write(what);
        assert!(said(&desk).ends_with(ending), "{}", said(&desk));
    }
    let text = std::fs::read_to_string(folder.path().join("room-3.buttons")).unwrap();
    let (held, _) = ButtonsFile::parse("b", &text, &desk.numbers.file().scale).unwrap().at_rate(60.0).unwrap();
    assert_eq!(held, desk.player.tried().held);
}

#[test]
fn tries_begin_at_places_and_at_checkpoints() {
    let mut desk = desk();
    desk.restart_at(wumple::DVec2::new(100.0, 100.0));
    play(&mut desk, Buttons::NONE, 1);
    assert!(matches!(desk.player.tried().start, StartAt::Place(_)), "{}", said(&desk));
    assert!((desk.player.play().trace().rows[0].feet.x - 100.0).abs() < 1.0);
    desk.restart_at(wumple::DVec2::new(-500.0, 100.0));
    assert_eq!(desk.player.tried().start, StartAt::Spawn, "where it does not fit it is the spawn");
    assert!(desk.said.as_ref().unwrap().is_error);
    desk.restart_at_checkpoint();
    assert_eq!(desk.player.tried().start, StartAt::Spawn);
}

#[test]
fn every_room_of_the_demo_opens_and_plays() {
    for (name, _, level, tuning) in wumple_window::desk::demo_rooms() {
        let mut desk = Desk::open(&level, &tuning).unwrap_or_else(|why| panic!("{name}: {why}"));
        play(&mut desk, RIGHT, 40);
        play(&mut desk, JUMP, 40);
        assert!(desk.player.tick_now() > 0, "{name}");
    }
}

#[test]
fn another_rate_starts_the_try_anew() {
    let mut desk = desk();
    play(&mut desk, RIGHT, 60);
    desk.numbers.set("tick.rate", "120");
    desk.numbers_changed();
    assert_eq!((desk.player.tick_now(), desk.player.trace().rate), (0, 120.0));
    assert!(desk.again.is_none());
    assert_eq!(desk.frame(0.05), 6, "of its ticks");
}

/// Something that somebody does.
#[derive(Clone, Debug)]
enum Deed {
    Play(Buttons, u32),
    LookAt(u64),
    PlayOn,
    Restart(u8),
    Set(&'static str, f64),
    Undo(bool),
    Switch(&'static str, bool),
    Style(&'static str, usize),
    Paint(usize, usize, char),
    Ghost,
}

fn deed() -> impl Strategy<Value = Deed> {
    let held = (any::<bool>(), any::<bool>(), any::<bool>(), any::<bool>())
        .prop_map(|(left, right, jump, down)| Buttons { left, right, jump, down, ..Buttons::NONE });
    let key = prop::sample::select(vec![
        "run.top_speed",
        "jump.height",
        "jump.coyote_time",
        "scale.tile",
        "pose.0.stride",
        "body.height",
        "fall.gravity_ratio",
    ]);
    let ability = prop::sample::select(vec!["jump", "ladder", "wall.slide", "jump.hang"]);
    prop_oneof![
        4 => (held, 1u32..90).prop_map(|(held, ticks)| Deed::Play(held, ticks)),
        2 => (0u64..400).prop_map(Deed::LookAt),
        1 => Just(Deed::PlayOn),
        1 => (0u8..3).prop_map(Deed::Restart),
        3 => (key, -0.5..40.0f64).prop_map(|(key, number)| Deed::Set(key, number)),
        1 => any::<bool>().prop_map(Deed::Undo),
        1 => (ability, any::<bool>()).prop_map(|(ability, on)| Deed::Switch(ability, on)),
        1 => (prop::sample::select(wumple_window::desk::RELEASES.to_vec()), 0usize..6)
            .prop_map(|(section, style)| Deed::Style(section, style)),
        1 => (0usize..30, 0usize..16, prop::sample::select(vec!['#', '.', '=', 'H', '@', '^']))
            .prop_map(|(column, row, letter)| Deed::Paint(column, row, letter)),
        1 => Just(Deed::Ghost),
    ]
}

fn does(desk: &mut Desk, deed: &Deed) {
    match deed {
        Deed::Play(held, ticks) => play(desk, *held, *ticks),
        Deed::LookAt(tick) => desk.player.look_at(*tick),
        Deed::PlayOn => desk.player.play_on(),
        Deed::Restart(0) => desk.restart(StartAt::Spawn),
        Deed::Restart(1) => desk.restart_at(wumple::DVec2::new(120.0, 90.0)),
        Deed::Restart(_) => desk.restart_at_checkpoint(),
        Deed::Set(key, number) => desk.numbers.set(key, &number.to_string()),
        Deed::Undo(true) => desk.numbers.undo(),
        Deed::Undo(false) => desk.numbers.redo(),
        Deed::Switch(ability, on) => desk.numbers.switch(ability, *on),
        Deed::Style(section, style) => {
            let style = wumple_window::desk::RELEASE_STYLES.get(*style).map(|style| style.name);
            desk.numbers.set_release_style(section, style);
        }
        Deed::Paint(column, row, letter) => {
            // What cannot be painted says so.
            let _ = desk.room.paint(*column, *row, *letter, false);
            desk.room_changed();
        }
        Deed::Ghost => desk.keep_ghost(),
    }
    desk.numbers_changed();
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 150, ..ProptestConfig::default() })]

    /// Whatever is done in whatever order: the rows are whole, a world is sound, what was gone back to is what was, and all that was
    /// changed can be taken back.
    #[test]
    fn nothing_that_is_done_breaks_it(which in 0usize..18, deeds in prop::collection::vec(deed(), 1..40)) {
        let (_, _, level, tuning) = wumple_window::desk::demo_rooms().swap_remove(which);
        let mut desk = Desk::open(&level, &tuning).unwrap();
        for deed in &deeds {
            does(&mut desk, deed);
            let (trace, now) = (desk.player.trace(), desk.player.tick_now());
            prop_assert!(trace.rows.iter().enumerate().all(|(at, row)| row.tick == at as u64), "{deed:?}");
            prop_assert_eq!(trace.rows.len() as u64 - 1, desk.player.tried().ticks);
            prop_assert_eq!(&trace.rows[now as usize], desk.player.play().report(), "{:?}", deed);
            prop_assert!(desk.player.play().world().violation().is_none(), "{deed:?}: {:?}", desk.player.play().world().violation());
            if let Some(again) = &desk.again {
                prop_assert!(again.now.rows.iter().all(|row| row.feet.is_finite()));
            }
        }
        while desk.numbers.undoes().is_some() {
            desk.numbers.undo();
        }
        prop_assert_eq!(desk.numbers.text(), tuning.text);
        while desk.room.undo() {}
        prop_assert_eq!(desk.room.text(), &level.text);
    }
}
