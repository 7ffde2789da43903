//! After the first, a tick allocates nothing.

#[path = "controller/play/mod.rs"]
mod play;

use wumple_core::numbers::{CrumbleNumbers, PlatformSurface};
use wumple_core::{
    Block, Buttons, DVec2, Edge, Edges, Grid, Group, Launch, Material, Meetings, PlatformNumbers, Platforms, Prop,
    Ramp, Support, TileProperties, Tuning, TuningNumbers, World, Zone, ZoneKind,
};

/// Ticks of random-looking buttons; says how many events there were. Nothing may be allocated.
fn tick_without_allocating(grid: Grid, numbers: &TuningNumbers, at: DVec2) -> usize {
    tick_in_world_without_allocating(World::new(grid), numbers, at)
}

fn tick_in_world_without_allocating(mut world: World<Grid>, numbers: &TuningNumbers, at: DVec2) -> usize {
    let dab = world.add_character(Tuning::check(numbers).unwrap(), at).unwrap();
    world.tick(&[Buttons::NONE]);
    let mut events = 0;
    let counted = allocation_counter::measure(|| {
        for tick in 0u32..20_000 {
            let held = Buttons {
                right: tick % 200 < 120,
                left: tick % 170 < 60,
                jump: tick % 37 < 9,
                up: tick % 111 < 30,
                down: tick % 97 < 20,
                grab: tick % 61 < 30,
                ..Buttons::NONE
            };
            world.tick(&[held]);
            events += world.report(dab).events.len();
        }
    });
    assert_eq!(counted.count_total, 0);
    events
}

#[test]
fn a_tick_allocates_nothing() {
    let rows = ["..........", "..........", "....##....", "..........", "###....###", "##########"];
    let plain = Grid::from_rows(&rows, 16.0, Edges::default()).unwrap();
    assert!(tick_without_allocating(plain, &play::dab(), DVec2::new(24.0, 64.0)) > 500, "something happens");

    let rows = ["..........", "..==.H....", ".....H.=..", "/\\...H...#", "###../\\###", "##########"];
    let ramp = Ramp::new(DVec2::new(50.0, 60.0), DVec2::new(90.0, 40.0)).unwrap();
    let block = Block::new(DVec2::new(120.0, 60.0), 9.0, 4.0);
    let full = Grid::from_rows(&rows, 16.0, Edges::default()).unwrap().with_objects(vec![block], vec![ramp]).unwrap();
    let numbers = TuningNumbers { ladder: play::ladder_climber().ladder, ..play::climber(Some(play::GRAB)) };
    assert!(tick_without_allocating(full, &numbers, DVec2::new(30.0, 40.0)) > 500, "something happens");

    let rows = ["...................."; 12];
    let solid = Edges { bottom: Edge::Solid, ..Edges::default() };
    let crumble = Some(CrumbleNumbers { after: 0.1, sink: 5.0, over: 0.2, back_after: Some(0.5) });
    let platforms: Vec<PlatformNumbers> = (0..40u32)
        .map(|index| {
            let at = DVec2::new(f64::from(index * 37 % 280), f64::from(index * 53 % 170) + 10.0);
            let there = at + DVec2::new(f64::from(index * 29 % 60) - 30.0, f64::from(index * 31 % 60) - 30.0);
            let platform = PlatformNumbers::new(DVec2::new(32.0, 6.0), at).to(there, 20.0 + f64::from(index));
            let surface = if index % 3 == 0 { PlatformSurface::Solid } else { PlatformSurface::OneWay };
            PlatformNumbers { surface, crumble: crumble.filter(|_| index % 4 == 0), ..platform }
        })
        .collect();
    let grid = Grid::from_rows(&rows, 16.0, solid).unwrap();
    let mut world = World::with_platforms(grid, Platforms::new(&platforms, 60.0).unwrap());
    let clay = Tuning::check(&TuningNumbers::new(12.0, 12.0, 0.0)).unwrap();
    for place in 0..10 {
        let prop =
            Prop { tuning: clay.clone(), surface: PlatformSurface::Solid, material: Material::PLAIN, zone: None };
        let _ = world.add_prop(prop, DVec2::new(f64::from(place) * 30.0 + 15.0, 192.0));
    }
    let numbers = play::climber(Some(play::GRAB));
    assert!(tick_in_world_without_allocating(world, &numbers, DVec2::new(30.0, 192.0)) > 500, "something happens");
}

#[test]
fn nor_does_one_among_groups_or_right_after_somebody_came() {
    let rows = ["..........", "..........", "....##....", "..........", "###....###", "##########"];
    let pair = Group::new("pair").unwrap();
    let meetings = Meetings::new(&[(pair, &[Group::LEVEL, pair])]).unwrap();
    let grid = Grid::from_rows(&rows, 16.0, Edges::default()).unwrap();
    let mut world = World::new(grid).with_meetings(meetings);
    let tuning = Tuning::check(&TuningNumbers { group: pair, ..play::dab() }).unwrap();
    let prop = Prop::new(Tuning::check(&TuningNumbers::new(12.0, 12.0, 0.0)).unwrap());
    let mut carried = 0;
    for (x, y) in [(24.0, 64.0), (56.0, 80.0), (104.0, 64.0)] {
        let _ = world.add_character(tuning.clone(), DVec2::new(x, y));
        let _ = world.add_prop(prop.clone(), DVec2::new(x, 20.0));
        // The first of them makes room for the events of platforms.
        world.tick(&[]);
        let counted = allocation_counter::measure(|| {
            for tick in 0u32..5000 {
                let held = |shift: u32| Buttons {
                    right: (tick + shift) % 90 < 30,
                    left: (tick + shift) % 90 > 58,
                    jump: (tick + 3 * shift) % 41 < 9,
                    ..Buttons::NONE
                };
                world.tick(&[held(0), held(40), held(90)]);
                carried += world.characters().filter(|of| matches!(of.report().support, Support::Character(_))).count();
            }
        });
        assert_eq!(counted.count_total, 0, "{x}");
    }
    assert!(carried > 100, "they stand on each other: {carried}");
}

#[test]
fn saving_into_the_same_place_and_restoring_allocate_nothing() {
    let rows = ["..........", "..........", "....##....", "..........", "###....###", "##########"];
    let mut world = World::new(Grid::from_rows(&rows, 16.0, Edges::default()).unwrap());
    let tuning = Tuning::check(&play::dab()).unwrap();
    let dabs = [24.0, 104.0].map(|x| world.add_character(tuning.clone(), DVec2::new(x, 64.0)).unwrap());
    let crate_of_clay = Tuning::check(&TuningNumbers::new(12.0, 12.0, 0.0)).unwrap();
    let prop = Prop { tuning: crate_of_clay, surface: PlatformSurface::Solid, material: Material::PLAIN, zone: None };
    world.add_prop(prop, DVec2::new(60.0, 20.0)).unwrap();
    let held =
        |tick: u64| Buttons { right: tick % 50 < 30, left: tick % 90 > 60, jump: tick % 17 < 9, ..Buttons::NONE };
    // A ring of the last eight ticks, as a game over a network keeps; and one of before anything moved.
    let mut ring: [_; 8] = std::array::from_fn(|_| world.save());
    let first = ring[0].clone();
    let mut step = |ticks: std::ops::Range<u64>, ring: &mut [wumple_core::Saved; 8]| {
        let mut events = 0;
        for tick in ticks {
            world.save_into(&mut ring[(tick % 8) as usize]);
            if tick % 5 == 4 && tick > 8 {
                // Go back six ticks, and make them again.
                world.restore(&ring[((tick - 6) % 8) as usize]);
                (tick - 6..tick).for_each(|again| world.tick(&[held(again), held(again + 7)]));
            }
            world.tick(&[held(tick), held(tick + 7)]);
            events += dabs.iter().map(|dab| world.report(*dab).events.len()).sum::<usize>();
            if tick % 100 == 99 {
                world.restore(&first);
                world.tick(&[held(tick), held(tick + 7)]);
            }
        }
        events
    };
    step(0..500, &mut ring);
    let mut events = 0;
    let counted = allocation_counter::measure(|| events = step(500..9000, &mut ring));
    assert_eq!(counted.count_total, 0);
    assert!(events > 500, "something happens: {events}");
}

#[test]
fn what_a_game_does_in_every_tick_allocates_nothing() {
    let rows = ["..........", "..........", "....##....", "..........", "###....###", "##########"];
    let slab = PlatformNumbers::new(DVec2::new(32.0, 6.0), DVec2::new(60.0, 40.0));
    let grid = Grid::from_rows(&rows, 16.0, Edges::default()).unwrap();
    let mut world = World::with_platforms(grid, Platforms::new(&[slab], 60.0).unwrap());
    let dab = world.add_character(Tuning::check(&play::dab()).unwrap(), DVec2::new(24.0, 64.0)).unwrap();
    let mut act = |ticks: std::ops::Range<u32>| {
        for tick in ticks {
            // A slider is dragged.
            let mut numbers = play::dab();
            numbers.run.top_speed = 100.0 + f64::from(tick % 60);
            world.retune(dab, Tuning::check(&numbers).unwrap()).unwrap();
            let share = f64::from(tick % 20);
            world.push(dab, DVec2::new(share * 30.0, -share * 60.0)).unwrap();
            world.drift(dab, DVec2::new(20.0 - share, share)).unwrap();
            world.move_platform(0, DVec2::new(60.0 + share, 40.0 - share)).unwrap();
            world.hold_still(dab, tick % 31 < 3);
            world.set_control(dab, tick % 90 < 60);
            world.terrain_mut().set_tile(4, 2, tick as usize / 9 % 2).unwrap();
            if tick % 40 == 0 {
                world.launch(dab, DVec2::new(-60.0, -200.0), Launch { ticks: 9, unbraked: true }).unwrap();
                world.place(dab, DVec2::new(24.0, 64.0)).unwrap();
            }
            world.tick_with(|_| Buttons { right: tick % 200 < 120, jump: tick % 37 < 9, ..Buttons::NONE });
        }
    };
    act(0..200);
    let counted = allocation_counter::measure(|| act(200..6000));
    assert_eq!(counted.count_total, 0);
}

#[test]
fn zones_that_are_entered_and_left_allocate_nothing() {
    let tile = |zone| TileProperties { zone: Some(Zone::of(zone)), ..TileProperties::EMPTY };
    let kinds = [TileProperties::EMPTY, TileProperties::SOLID, tile(ZoneKind::Pickup), tile(ZoneKind::Hazard)];
    let rows = ["..*.*.^^..", ".*.*.*.^.*", "*.*.**.*.*", "..^^..*.*.", "###.*..###", "##########"];
    let letters = rows.iter().flat_map(|row| row.bytes());
    let tiles = letters.map(|letter| b".#*^".iter().position(|known| *known == letter).unwrap() as u8).collect();
    let grid = Grid::new(10, tiles, 16.0, &kinds, Edges::default()).unwrap();
    assert!(tick_without_allocating(grid, &play::dab(), DVec2::new(24.0, 64.0)) > 2000, "something happens");
}
