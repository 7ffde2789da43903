//! Things that are taken away and brought back.

use crate::play::{Play, dab};
use crate::rooms::{buttons, cases, full_grid, full_tuning, kinds, places};
use proptest::prelude::*;
use wumple_core::{
    Block, Buttons, DVec2, DrawnZone, Edges, Event, Grid, Hitbox, PlatformNumbers, Platforms, Prop, Terrain,
    TickReport, TileProperties, Tuning, TuningNumbers, World, Zone, ZoneId, ZoneKind, ZoneOf,
};

fn gate() -> ZoneKind {
    ZoneKind::of_word("gate").unwrap()
}

/// A grid with the same blocks, ramps and tiles, whose second kind is as asked.
fn with_kind_2(grid: &Grid, kind: TileProperties) -> Grid {
    let (columns, rows) = (grid.columns(), grid.rows());
    let places = (0..rows).flat_map(|row| (0..columns).map(move |column| (column, row)));
    let tiles = places.map(|(column, row)| grid.kind(column, row) as u8).collect();
    let tile = grid.grid_lines().spacing();
    let mut all = kinds(tile);
    all[2] = kind;
    let map = Grid::new(columns as usize, tiles, tile, &all, grid.edges()).unwrap();
    map.with_objects(grid.blocks().to_vec(), grid.ramps().to_vec()).unwrap()
}

/// Without the zones that one of the two worlds has not.
fn of_motion(report: &TickReport) -> TickReport {
    let mut report = report.clone();
    report.events.retain(|event| !matches!(event, Event::Entered(_) | Event::Left(_)));
    report
}

proptest! {
    #![proptest_config(cases(300))]

    /// Tiles, the last block and the last platform are away in one world, and were never in the other.
    #[test]
    fn what_is_away_is_as_if_it_were_not_there(
        grid in full_grid(),
        tuning in full_tuning(),
        script in buttons(),
        seed in any::<u32>(),
        away_from in 0..60usize,
    ) {
        let zoned = Some(Zone::of(gate()).by_touch());
        let bars = TileProperties { zone: zoned, ..TileProperties::SOLID };
        let size = DVec2::new(grid.width(), grid.height());
        let last = Block { zone: zoned, ..Block::new(size * 0.3, size.x * 0.2, size.y * 0.1) };
        let blocks: Vec<Block> = grid.blocks().iter().copied().chain([last]).collect();
        let with = with_kind_2(&grid, bars).with_objects(blocks, grid.ramps().to_vec()).unwrap();
        let without = with_kind_2(&grid, TileProperties::EMPTY);
        let cart = PlatformNumbers::new(DVec2::new(20.0, 6.0), (size * 0.5).floor());
        let cart = cart.to((size * 0.7).floor(), 40.0);
        let platforms = |all: &[PlatformNumbers]| Platforms::new(all, tuning.rate()).unwrap();
        let grate = PlatformNumbers { zone: zoned, ..cart.clone() };
        let mut here = World::with_platforms(with.clone(), platforms(&[cart.clone(), grate]));
        let mut there = World::with_platforms(without, platforms(&[cart]));
        let mut zones: Vec<ZoneId> = (0..with.rows())
            .flat_map(|row| (0..with.columns()).map(move |column| (column, row)))
            .filter_map(|(column, row)| Some((column, row, with.tile(column, row).zone?)))
            .map(|(column, row, zone)| ZoneId { kind: gate(), of: with.zone_of_tile(column, row, &zone) })
            .collect();
        zones.extend([ZoneOf::Block(grid.blocks().len()), ZoneOf::Platform(1)].map(|of| ZoneId { kind: gate(), of }));
        zones.iter().for_each(|zone| { here.things().take_away(*zone); });
        let found = places(size.x, size.y, seed).find_map(|feet| {
            let id = there.add_character(tuning.clone(), feet).ok()?;
            Some((id, here.add_character(tuning.clone(), feet).unwrap()))
        });
        let Some((id, same)) = found else { return Ok(()) };
        let mut saved = None;
        let held = script.iter().flat_map(|(held, ticks)| std::iter::repeat_n(held, *ticks)).cycle().take(200);
        for (tick, held) in held.enumerate() {
            if tick == away_from {
                // Back by bytes, into a world in which all of it is there.
                let bytes = here.save().to_bytes(&here);
                let mut other = World::with_platforms(with.clone(), here.platforms().clone());
                let _ = other.add_character(tuning.clone(), size * 0.5);
                other.restore(&wumple_core::Saved::from_bytes(&bytes, &other).unwrap());
                prop_assert_eq!(other.things().away().to_vec(), here.things().away().to_vec());
                saved = Some(other);
            }
            here.tick(&[*held]);
            there.tick(&[*held]);
            prop_assert_eq!(of_motion(here.report(id)), of_motion(there.report(same)));
            if let Some(other) = &mut saved {
                other.tick(&[*held]);
                prop_assert_eq!(other.report(id), here.report(id));
            }
        }
    }
}

#[test]
fn a_zone_that_is_away_is_entered_by_nobody_and_left_by_who_is_in_it() {
    let kinds = [TileProperties::EMPTY, TileProperties::SOLID, TileProperties::zone(ZoneKind::Pickup)];
    let map = Grid::new(6, vec![0, 0, 2, 2, 0, 0, 1, 1, 1, 1, 1, 1], 16.0, &kinds, Edges::default()).unwrap();
    let mut room = Play::in_room(map, &dab(), 8.0, 16.0);
    let pickup = |column| ZoneId { kind: ZoneKind::Pickup, of: ZoneOf::Tile { column, row: 0 } };
    assert_eq!(room.play("R12"), ["10 entered:pickup@2,0"]);
    assert!(room.world.things().take_away(pickup(2)));
    assert!(!room.world.things().take_away(pickup(2)), "it is away already");
    assert_eq!(room.play("-1"), ["13 left:pickup@2,0"]);
    room.world.things().take_away(pickup(3));
    assert!(room.play("R20 L30").iter().all(|event| !event.contains("pickup")));
    assert!(room.world.zones_in(&Hitbox { left: 0.0, right: 96.0, top: 0.0, bottom: 16.0 }).is_empty());
    // Nothing is in the way of what stops nobody.
    assert!(room.world.things().bring_back(pickup(2)) && room.world.things().bring_back(pickup(3)));
    assert!(room.play("R40").iter().any(|event| event.ends_with("entered:pickup@3,0")));
}

#[test]
fn what_is_under_the_feet_and_taken_away_holds_nobody_up() {
    let bars = Block { zone: Some(Zone::of(gate()).by_touch()), ..Block::new(DVec2::new(0.0, 32.0), 64.0, 8.0) };
    let map = Grid::from_rows(&["....", "....", "....", "....", "####"], 16.0, Edges::default()).unwrap();
    let map = map.with_objects(vec![bars], vec![]).unwrap();
    let mut room = Play::in_room(map, &dab(), 24.0, 32.0);
    let zone = ZoneId { kind: gate(), of: ZoneOf::Block(0) };
    room.play("-2");
    room.world.things().take_away(zone);
    assert!(room.play("-1").contains(&"3 lost-ground".to_owned()));
    // Half way through it.
    room.play("-3");
    assert!(!room.world.things().bring_back(zone), "its way is not free");
    assert_eq!(room.world.things().away(), [zone]);
    room.play("-30");
    assert_eq!(room.feet().1, 64.0);
    assert!(room.world.things().bring_back(zone));
    assert!(room.play("J20").iter().any(|event| event.ends_with("bumped:head")), "against the bars");
}

#[test]
fn a_prop_is_brought_back_where_it_is_by_then_unless_somebody_is() {
    let mut room = Play::new(&["......", "......", "######"], &dab(), 80.0, 32.0);
    let jar = Tuning::check(&TuningNumbers::new(12.0, 12.0, 0.0)).unwrap();
    let hazard = Zone::of(ZoneKind::Hazard).by_touch();
    let jar = room.world.add_prop(Prop { zone: Some(hazard), ..Prop::new(jar) }, DVec2::new(40.0, 32.0)).unwrap();
    let zone = ZoneId { kind: ZoneKind::Hazard, of: ZoneOf::Prop(0) };
    room.world.things().take_away(zone);
    assert!(room.play("L15").is_empty(), "through it");
    assert!(!room.world.things().bring_back(zone));
    room.play("L30");
    assert!(room.world.things().bring_back(zone) && room.world.contains(jar));
    assert!(room.play("R20").iter().any(|event| event.ends_with("entered:hazard:prop-1")));
}

#[test]
fn a_drawn_zone_is_taken_away_without_the_ground_in_it() {
    let place = Hitbox { left: 0.0, right: 96.0, top: 0.0, bottom: 48.0 };
    let zone = DrawnZone::new(place, Zone::of(ZoneKind::Goal));
    let map = Grid::from_rows(&["......", "......", "######"], 16.0, Edges::default()).unwrap();
    let mut room = Play::in_room(map.with_zones(vec![zone]).unwrap(), &dab(), 24.0, 32.0);
    room.world.things().take_away(ZoneId { kind: ZoneKind::Goal, of: ZoneOf::Drawn(0) });
    assert!(room.play("R20").is_empty());
    assert_eq!(room.now().feet.y, 32.0);
    room.world.tick(&[Buttons::NONE]);
}
