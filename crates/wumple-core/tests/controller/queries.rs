//! Questions about a world between ticks: by scripts, and over random rooms.

use crate::rooms;

use crate::play::{Play, dab};
use crate::rooms::{buttons, full_grid, full_tuning};
use proptest::prelude::*;
use wumple_core::numbers::{Bounce, Release};
use wumple_core::{
    Block, DVec2, Edges, Event, Grid, Hitbox, Material, Piece, PlatformNumbers, Platforms, Prop, Ramp, Side, State,
    Support, Surface, Terrain, TileProperties, Tuning, TuningNumbers, World,
};

const ROOM: [&str; 6] = ["..........", "....##....", "..........", "..........", ".......#..", "##########"];

#[test]
fn what_supports_what_was_bumped_and_what_is_the_wall() {
    let mut room = Play::new(&ROOM, &dab(), 80.0, 80.0);
    let touched = |room: &Play| room.world.touched(room.id);
    let middle = Some(Piece::Tile { column: 5, row: 5 });
    assert_eq!(touched(&room).below, middle, "of the two tiles, what is under the feet's middle");
    while !room.now().contacts.above {
        room.play("J1");
    }
    assert_eq!(touched(&room).above, Some(Piece::Tile { column: 4, row: 1 }));
    assert_eq!(touched(&room).below, None);
    room.play("R60");
    assert_eq!(touched(&room).right, Some(Piece::Tile { column: 7, row: 4 }));
    assert_eq!((touched(&room).left, touched(&room).below), (None, Some(Piece::Tile { column: 6, row: 5 })));
    // The solid left edge of the map.
    room.play("L120");
    assert_eq!(touched(&room).left, Some(Piece::Edge(Side::Left)));
}

#[test]
fn what_threw_somebody_up_is_told_in_the_tick_in_which_it_did() {
    let bounce = Some(Bounce { height: 30.0, release: Release::None });
    let bellows = TileProperties { material: Material { bounce, ..Material::PLAIN }, ..TileProperties::ONE_WAY };
    let kinds = [TileProperties::EMPTY, TileProperties::SOLID, bellows];
    let tiles = [[0; 6], [0; 6], [1, 1, 2, 2, 1, 1]].concat();
    let grid = Grid::new(6, tiles, 16.0, &kinds, Edges::default()).unwrap();
    let mut room = Play::in_room(grid, &dab(), 50.0, 20.0);
    while !room.now().events.iter().any(|event| matches!(event, Event::Bounced(_))) {
        assert_eq!(room.world.touched(room.id).below, None);
        room.play("-1");
    }
    assert_eq!(room.world.touched(room.id).below, Some(Piece::Tile { column: 3, row: 2 }));
    room.play("-1");
    assert_eq!(room.world.touched(room.id).below, None);
}

#[test]
fn the_ticks_in_a_state_are_counted_and_begin_anew_with_another() {
    let mut room = Play::new(&ROOM, &dab(), 24.0, 80.0);
    assert_eq!(room.now().ticks_in_state(), 0);
    room.play("-1");
    let mut before = room.now().clone();
    assert_eq!(before.ticks_in_state(), 1);
    for script in ["R1", "J1", "-1"].iter().cycle().take(200) {
        room.play(script);
        let now = room.now().clone();
        let expected = if now.state == before.state { before.ticks_in_state() + 1 } else { 1 };
        assert_eq!(now.ticks_in_state(), expected, "{now:?}");
        before = now;
    }
}

#[test]
fn blocks_ramps_platforms_and_props_by_their_numbers() {
    let blocks = vec![Block::new(DVec2::new(8.0, 64.0), 20.0, 8.0), Block::new(DVec2::new(120.0, 50.0), 16.0, 8.0)];
    let ramps = vec![Ramp::new(DVec2::new(30.0, 60.0), DVec2::new(60.0, 50.0)).unwrap()];
    let grid = Grid::from_rows(&ROOM, 16.0, Edges::default()).unwrap().with_objects(blocks, ramps).unwrap();
    let slab = PlatformNumbers::new(DVec2::new(20.0, 6.0), DVec2::new(64.0, 60.0));
    let mut world = World::with_platforms(grid, Platforms::new(&[slab], 60.0).unwrap());
    let tuning = Tuning::check(&dab()).unwrap();
    let jar = Tuning::check(&TuningNumbers::new(12.0, 12.0, 0.0)).unwrap();
    let jar = Prop { tuning: jar, surface: Default::default(), material: Material::PLAIN, zone: None };
    world.add_prop(jar, DVec2::new(96.0, 80.0)).unwrap();
    for (feet, piece) in [
        ((18.0, 64.0), Piece::Block(0)),
        ((45.0, 55.0), Piece::Ramp(0)),
        ((74.0, 60.0), Piece::Platform(0)),
        ((96.0, 68.0), Piece::Prop(0)),
    ] {
        let feet = DVec2::new(feet.0, feet.1);
        assert_eq!(world.probe(&tuning).supported_by(feet), Some(piece));
        let id = world.add_character(tuning.clone(), feet).unwrap();
        assert_eq!(world.touched(id).below, Some(piece));
        assert_eq!(world.probe(&tuning).first_met_y(feet - DVec2::new(0.0, 20.0), 90.0).piece, Some(piece));
        world.remove(id);
    }
    assert_eq!(world.probe(&tuning).supported_by(DVec2::new(74.0, 61.0)), None);
    assert!(world.probe(&tuning).fits(DVec2::new(74.0, 60.0)) && !world.probe(&tuning).fits(DVec2::new(74.0, 61.0)));
    assert_eq!(world.probe(&tuning).overlapped(DVec2::new(74.0, 61.0)), Some(Piece::Platform(0)));
    // On its way: a wall, a ceiling, a floor, or nothing.
    let met = world.probe(&tuning).first_met_x(DVec2::new(60.0, 80.0), 150.0);
    assert_eq!((met.feet, met.piece), (DVec2::new(85.0, 80.0), Some(Piece::Prop(0))));
    let met = world.probe(&tuning).first_met_x(DVec2::new(60.0, 80.0), 70.0);
    assert_eq!((met.feet.x, met.piece), (70.0, None));
    let met = world.probe(&tuning).first_met_y(DVec2::new(90.0, 60.0), 0.0);
    assert_eq!((met.feet.y, met.piece), (54.0, Some(Piece::Tile { column: 5, row: 1 })));
    // In a box.
    let mut pieces = Vec::new();
    world.pieces_in(&Hitbox { left: 50.0, right: 70.0, top: 50.0, bottom: 82.0 }, |piece| {
        pieces.push(piece.to_string())
    });
    assert_eq!(pieces, ["tile@3,5", "tile@4,5", "ramp:1", "platform:1"]);
}

proptest! {
    /// What is touched is what the report says is touched, piece by piece.
    #[test]
    fn pieces_are_those_that_the_report_tells_of(
        grid in full_grid(), tuning in full_tuning(), script in buttons(), seed in any::<u32>(),
    ) {
        let mut world = World::new(&grid);
        let mut places = rooms::places(grid.width(), grid.height(), seed);
        let Some(id) = places.find_map(|feet| world.add_character(tuning.clone(), feet).ok()) else { return Ok(()) };
        for (held, ticks) in script {
            for _ in 0..ticks {
                world.tick(&[held]);
                if world.character(id).has_ended() {
                    return Ok(());
                }
                let (report, touched) = (world.report(id), world.touched(id));
                prop_assert!(world.probe(&tuning).fits(report.feet));
                let sides = [(report.contacts.left, touched.left), (report.contacts.right, touched.right)];
                for (touches, piece) in sides {
                    prop_assert_eq!(touches, piece.is_some(), "{:?} {:?}", report, touched);
                }
                let from_above = tuning.four_way().is_some();
                let stops = [(report.contacts.above, touched.above), (report.contacts.below, touched.below)];
                // Seen from above, it may have slid past what stopped it.
                let slid = from_above && report.moved().x != 0.0;
                for (touches, piece) in stops.into_iter().take(if from_above { 2 } else { 1 }) {
                    prop_assert!(touches == piece.is_some() || slid && touches, "{:?} {:?}", report, touched);
                }
                // What threw somebody up is told in the tick in which it did.
                let thrown_by = report.events.iter().rev().find_map(|event| match event {
                    Event::Bounced(support) => Some(*support),
                    _ => None,
                });
                let surface = |column, row| {
                    let inside = (0..grid.columns()).contains(&column) && (0..grid.rows()).contains(&row);
                    inside.then(|| grid.surface(column, row))
                };
                let fits = from_above || match (thrown_by.unwrap_or(report.support), touched.below) {
                    (Support::None, None) => true,
                    (Support::Solid, Some(Piece::Edge(Side::Bottom))) => true,
                    (Support::Solid, Some(Piece::Tile { column, row })) => surface(column, row) == Some(Surface::Solid),
                    (Support::OneWay, Some(Piece::Tile { column, row })) => surface(column, row) == Some(Surface::OneWay),
                    (Support::Ladder, Some(Piece::Tile { column, row })) => surface(column, row) == Some(Surface::Ladder),
                    (Support::Ramp, Some(Piece::Tile { column, row })) => {
                        matches!(surface(column, row), Some(Surface::Ramp { .. }))
                    }
                    (Support::Ramp, Some(Piece::Ramp(ramp))) => ramp < grid.ramps().len(),
                    (Support::Block(one), Some(Piece::Block(other))) => one == other,
                    _ => false,
                };
                prop_assert!(fits, "{:?} {:?}", report, touched);
                // Who drops through something is held up by what lies under that, and a question does not know of it.
                let held_up = world.probe(&tuning).supported_by(report.feet).is_some();
                if held_up && matches!(report.state, State::Stand | State::Run) {
                    let down = world.probe(&tuning).first_met_y(report.feet, report.feet.y + 1.0);
                    prop_assert_eq!(down.feet, report.feet);
                    prop_assert!(down.piece.is_some());
                }
                let ahead = world.probe(&tuning).first_met_x(report.feet, report.feet.x + 40.0);
                prop_assert_eq!(ahead.piece.is_some(), ahead.feet.x < report.feet.x + 40.0, "{:?} {:?}", report, ahead);
            }
        }
    }
}
