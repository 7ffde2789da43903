//! What a game that is shipped needs of the library: tunings and levels. It is there without any feature.

use wumple::{Buttons, Level, TuningFile, ZoneKind};

const TUNING: &str = include_str!("../demo/dab.tuning.toml");
const LEVEL: &str = include_str!("../demo/throwing-room.level.toml");

#[test]
fn a_tuning_and_a_level_are_read_and_played() {
    let tuning = TuningFile::parse("dab.tuning.toml", TUNING).unwrap();
    let level = Level::parse("throwing-room.level.toml", LEVEL).unwrap();
    let (mut world, dab) = level.world(&tuning.tuning).unwrap();
    for tick in 0..600 {
        // Runs, and jumps wherever there is something in the way.
        let jump = world.report(dab).contacts.right || tick % 50 < 20;
        world.tick(&[Buttons { right: true, jump, ..Buttons::NONE }]);
    }
    assert!(world.report(dab).feet.x > level.spawn().x + 100.0);
    assert!(level.letters.iter().any(|letter| letter.properties.zone.is_some_and(|zone| zone.kind == ZoneKind::Goal)));
}

#[test]
fn what_is_wrong_is_told_with_its_place() {
    let error = TuningFile::parse("t", &TUNING.replace("top_speed", "topspeed")).unwrap_err().to_string();
    assert!(error.contains("topspeed") && error.contains("did you mean \"top_speed\"?"), "{error}");
}

#[test]
fn a_map_from_elsewhere_is_read_or_says_what_reads_it() {
    let folder = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("demo");
    for name in ["store-room.level.toml", "store-room-painted.level.toml"] {
        let read = Level::read(&folder.join(name));
        if cfg!(feature = "instruments") {
            assert!(!read.unwrap().name.is_empty());
        } else {
            let error = read.unwrap_err().to_string();
            assert!(error.contains("feature \"instruments\""), "{error}");
        }
    }
}
