//! Saved states as bytes, compared and hashed.

use crate::play::{Play, dab};
use wumple_core::{
    Buttons, DVec2, Edges, Grid, PlatformNumbers, Platforms, Prop, Saved, SavedError, Tuning, TuningNumbers, World,
};

const ROOM: [&str; 5] = ["..........", "..........", "..........", "..........", "##########"];

fn world(platforms: &[PlatformNumbers]) -> World<Grid> {
    let grid = Grid::from_rows(&ROOM, 16.0, Edges::default()).unwrap();
    let mut world = World::with_platforms(grid, Platforms::new(platforms, 60.0).unwrap());
    let tuning = Tuning::check(&dab()).unwrap();
    world.add_character(tuning.clone(), DVec2::new(24.0, 64.0)).unwrap();
    world.add_character(tuning, DVec2::new(60.0, 64.0)).unwrap();
    world
        .add_prop(Prop::new(Tuning::check(&TuningNumbers::new(12.0, 12.0, 0.0)).unwrap()), DVec2::new(120.0, 40.0))
        .unwrap();
    world
}

fn cart() -> PlatformNumbers {
    PlatformNumbers::new(DVec2::new(32.0, 8.0), DVec2::new(64.0, 30.0)).to(DVec2::new(110.0, 30.0), 60.0)
}

#[test]
fn bytes_that_are_no_saved_state_of_this_world_say_why() {
    let (here, with_cart) = (world(&[]), world(&[cart()]));
    let bytes = here.save().to_bytes(&here);
    let read = |bytes: &[u8]| Saved::from_bytes(bytes, &here).map(|saved| saved.tick());
    assert_eq!(read(&bytes), Ok(0));
    assert_eq!(read(b""), Err(SavedError::NoSaved));
    assert_eq!(read(b"something else"), Err(SavedError::NoSaved));
    let mut other = bytes.clone();
    other[6] = 9;
    assert_eq!(read(&other), Err(SavedError::OtherVersion { found: 9, expected: 2 }));
    assert_eq!(Saved::from_bytes(&bytes, &with_cart), Err(SavedError::OtherLevel));
    for place in 10..bytes.len() {
        for bit in [0, 5] {
            let mut spoiled = bytes.clone();
            spoiled[place] ^= 1 << bit;
            assert_eq!(read(&spoiled), Err(SavedError::Spoiled), "byte {place}");
        }
        assert_eq!(read(&bytes[..place]), Err(SavedError::Spoiled));
    }
}

#[test]
fn a_world_made_elsewhere_goes_on_from_the_bytes_as_the_one_that_wrote_them() {
    let mut here = world(&[cart()]);
    let held = |tick: u64| Buttons { right: tick % 50 < 30, jump: tick % 17 < 9, ..Buttons::NONE };
    let first = here.characters().next().unwrap().id();
    (0..100).for_each(|tick| here.tick(&[held(tick), held(tick + 7)]));
    here.add_platform(&cart().to(DVec2::new(70.0, 10.0), 40.0)).unwrap();
    here.remove_platform(0);
    here.move_platform(1, DVec2::new(66.0, 31.0)).unwrap();
    here.remove(first);
    here.tick(&[held(3)]);
    let bytes = here.save().to_bytes(&here);
    // Elsewhere, as the level begins.
    let mut there = world(&[cart()]);
    let saved = Saved::from_bytes(&bytes, &there).unwrap();
    there.restore(&saved);
    for tick in 0..200 {
        here.tick(&[held(tick)]);
        there.tick(&[held(tick)]);
        assert_eq!(here.save().hash(), there.save().hash(), "tick {tick}");
    }
    assert_eq!(here.save(), there.save());
    // Two characters of one tuning have it once.
    let two = world(&[]);
    let mut three = world(&[]);
    three.add_character(Tuning::check(&dab()).unwrap(), DVec2::new(90.0, 64.0)).unwrap();
    let more = three.save().to_bytes(&three).len() - two.save().to_bytes(&two).len();
    assert!(more < 300, "{more} bytes for one character more");
}

/// Written once, and the same on every machine: a change of it needs another version.
#[test]
fn the_form_and_the_hash_are_pinned() {
    let mut room = Play::new(&ROOM, &dab(), 40.0, 64.0);
    room.play("R10 RJ5");
    let saved = room.world.save();
    let bytes = saved.to_bytes(&room.world);
    assert_eq!((bytes.len(), saved.hash()), (PINNED_LENGTH, PINNED_HASH));
}

const PINNED_LENGTH: usize = 646;
const PINNED_HASH: u64 = 2_150_516_792_730_112_735;

#[test]
fn hashing_allocates_nothing() {
    let world = world(&[cart()]);
    let saved = world.save();
    let counted = allocation_counter::measure(|| assert_ne!(saved.hash(), 0));
    assert_eq!(counted.count_total, 0);
}
