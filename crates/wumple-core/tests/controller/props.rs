//! Props, several characters in one world, and saving it: in timed scripts.

use crate::play;

use crate::play::dab;
use wumple_core::numbers::{CrumbleNumbers, PlatformSurface, Starts};
use wumple_core::{
    Buttons, DVec2, Edges, Event, Grid, Material, MoverId, PlatformNumbers, Platforms, Prop, PropId, StartError,
    Support, TickReport, Tuning, TuningNumbers, World,
};

const HALL: [&str; 9] = {
    let mut rows = ["................"; 9];
    rows[8] = "################";
    rows
};
/// Where the floor is, px.
const FLOOR: f64 = 128.0;

fn hall(platforms: &[PlatformNumbers]) -> World<Grid> {
    let grid = Grid::from_rows(&HALL, 16.0, Edges::default()).unwrap();
    World::with_platforms(grid, Platforms::new(platforms, 60.0).unwrap())
}

/// A crate of 16 x 16 px.
fn crate_of_clay(surface: PlatformSurface) -> Prop {
    let tuning = Tuning::check(&TuningNumbers::new(16.0, 16.0, 0.0)).unwrap();
    Prop { tuning, surface, material: Material::PLAIN, zone: None }
}

fn put(world: &mut World<Grid>, x: f64, y: f64) -> PropId {
    world.add_prop(crate_of_clay(PlatformSurface::Solid), DVec2::new(x, y)).unwrap()
}

fn tick(world: &mut World<Grid>, ticks: usize) {
    (0..ticks).for_each(|_| world.tick(&[]));
}

fn feet(report: &TickReport) -> (f64, f64) {
    (report.feet.x, report.feet.y)
}

#[test]
fn a_crate_falls_rests_and_is_stood_on() {
    let mut world = hall(&[]);
    let clay = put(&mut world, 100.0, 40.0);
    let dab = world.add_character(Tuning::check(&dab()).unwrap(), DVec2::new(100.0, 10.0)).unwrap();
    tick(&mut world, 120);
    assert_eq!(feet(world.report(clay)), (100.0, FLOOR));
    assert_eq!(feet(world.report(dab)), (100.0, FLOOR - 16.0));
    assert_eq!(world.report(dab).support, Support::Prop(0));
    assert_eq!(world.report(dab).support.to_string(), "prop:1");
    // It is a wall to who runs against it.
    let other = world.add_character(world.character(dab).tuning().clone(), DVec2::new(60.0, FLOOR)).unwrap();
    (0..60).for_each(|_| world.tick(&[Buttons::NONE, Buttons { right: true, ..Buttons::NONE }]));
    assert_eq!(feet(world.report(other)), (100.0 - 8.0 - 5.0, FLOOR));
}

#[test]
fn wrong_props_are_refused() {
    let mut world = hall(&[]);
    let slippery = Material { grip: -1.0, ..Material::PLAIN };
    let add = |world: &mut World<Grid>, prop: Prop, y: f64| world.add_prop(prop, DVec2::new(50.0, y));
    let good = crate_of_clay(PlatformSurface::Solid);
    assert_eq!(add(&mut world, Prop { material: slippery, ..good.clone() }, 50.0), Err(StartError::BadMaterial));
    assert!(matches!(add(&mut world, good.clone(), FLOOR + 4.0), Err(StartError::InsideTile { .. })));
    assert!(add(&mut world, good.clone(), 50.0).is_ok());
    assert_eq!(add(&mut world, good.clone(), 60.0), Err(StartError::InsideProp { prop: 0 }));
    let other = Tuning::check(&TuningNumbers { rate: 30.0, ..TuningNumbers::new(9.0, 9.0, 0.0) }).unwrap();
    let expected = StartError::OtherRate { expected: 60.0, found: 30.0 };
    assert_eq!(add(&mut world, Prop { tuning: other, ..good }, 90.0), Err(expected));
}

#[test]
fn a_stack_of_crates_with_somebody_on_it_rides_a_hoist_in_whatever_order_they_were_added() {
    let hoist = PlatformNumbers::new(DVec2::new(64.0, 8.0), DVec2::new(64.0, 100.0)).to(DVec2::new(90.0, 60.0), 50.0);
    for order in [[0, 1, 2], [2, 1, 0], [1, 2, 0]] {
        let mut world = hall(core::slice::from_ref(&hoist));
        let heights = [100.0, 84.0, 68.0];
        let crates = order.map(|slot| (slot, put(&mut world, 100.0, heights[slot])));
        let dab = world.add_character(Tuning::check(&dab()).unwrap(), DVec2::new(101.5, 52.0)).unwrap();
        // A crate added before what it stands on falls a hair's breadth first.
        tick(&mut world, 5);
        let aside = |world: &World<Grid>, report: &TickReport| report.feet.x - world.platform_report(0).place.left;
        let first = crates.map(|(_, id)| aside(&world, world.report(id)));
        for _ in 0..2000 {
            world.tick(&[]);
            let place = world.platform_report(0).place;
            for ((slot, id), first) in crates.into_iter().zip(first) {
                let report = world.report(id);
                assert!(report.events.is_empty(), "{order:?} {report:?}");
                assert_eq!(report.feet.y, place.top - 16.0 * slot as f64);
                assert!((aside(&world, report) - first).abs() < 1e-9);
            }
            let report = world.report(dab);
            assert_eq!((report.feet.y, report.events.len()), (place.top - 48.0, 0));
        }
    }
}

#[test]
fn a_crate_pushed_along_a_floor_takes_its_rider_along_and_pushes_in_turn() {
    let cart = PlatformNumbers::new(DVec2::new(16.0, 16.0), DVec2::new(0.0, 108.0)).to(DVec2::new(160.0, 108.0), 60.0);
    let mut world = hall(&[cart]);
    let clay = put(&mut world, 40.0, FLOOR);
    let numbers = Tuning::check(&dab()).unwrap();
    let rider = world.add_character(numbers.clone(), DVec2::new(40.0, FLOOR - 16.0)).unwrap();
    let other = world.add_character(numbers, DVec2::new(60.0, FLOOR)).unwrap();
    tick(&mut world, 30);
    // The cart's face is at 46; it met the crate at 32 and the crate met the other at 55.
    assert_eq!(feet(world.report(clay)), (54.0, FLOOR));
    assert_eq!(feet(world.report(rider)), (54.0, FLOOR - 16.0));
    assert_eq!(feet(world.report(other)), (67.0, FLOOR));
    assert_eq!(world.report(other).events, [Event::Pushed(MoverId::Prop(0))]);
}

#[test]
fn a_falling_crate_crushes_and_one_with_a_one_way_top_falls_past() {
    for (surface, crushes) in [(PlatformSurface::Solid, true), (PlatformSurface::OneWay, false)] {
        let mut world = hall(&[]);
        world.add_prop(crate_of_clay(surface), DVec2::new(100.0, 60.0)).unwrap();
        let dab = world.add_character(Tuning::check(&dab()).unwrap(), DVec2::new(100.0, FLOOR)).unwrap();
        let mut crushed = false;
        for _ in 0..60 {
            world.tick(&[]);
            crushed |= world.report(dab).events.contains(&Event::Crushed(MoverId::Prop(0)));
        }
        assert_eq!(crushed, crushes);
        assert_eq!(feet(world.report(dab)), (100.0, FLOOR));
    }
}

#[test]
fn a_crate_sets_off_what_waits_for_a_rider_but_crumbles_nothing() {
    let crumble = Some(CrumbleNumbers { after: 0.1, sink: 0.0, over: 0.1, back_after: None });
    let slab = PlatformNumbers {
        starts: Starts::WhenRidden,
        crumble,
        ..PlatformNumbers::new(DVec2::new(48.0, 8.0), DVec2::new(64.0, 100.0)).to(DVec2::new(100.0, 100.0), 30.0)
    };
    let mut world = hall(&[slab]);
    let clay = put(&mut world, 90.0, 100.0);
    tick(&mut world, 60);
    assert_eq!(feet(world.report(clay)), (120.0, 100.0));
}

#[test]
fn each_character_of_a_world_moves_as_it_would_alone() {
    let hoist = PlatformNumbers::new(DVec2::new(64.0, 8.0), DVec2::new(64.0, 110.0)).to(DVec2::new(64.0, 40.0), 40.0);
    let tunings = [dab(), TuningNumbers { leave_with: wumple_core::numbers::TakenAlong::All, ..play::climber(None) }];
    let held = |who: usize, tick: usize| Buttons {
        right: (tick / 9 + who).is_multiple_of(4),
        left: (tick / 9 + who) % 4 == 2,
        jump: tick % (17 + who) < 6,
        ..Buttons::NONE
    };
    let places = [DVec2::new(80.0, 110.0), DVec2::new(110.0, 110.0)];
    let mut together = hall(core::slice::from_ref(&hoist));
    let ids: Vec<_> =
        (0..2).map(|who| together.add_character(Tuning::check(&tunings[who]).unwrap(), places[who]).unwrap()).collect();
    let mut alone: Vec<_> = (0..2)
        .map(|who| {
            let mut world = hall(core::slice::from_ref(&hoist));
            let id = world.add_character(Tuning::check(&tunings[who]).unwrap(), places[who]).unwrap();
            (world, id)
        })
        .collect();
    let mut rode = 0;
    for step in 0..1500 {
        together.tick(&[held(0, step), held(1, step)]);
        for (who, (world, id)) in alone.iter_mut().enumerate() {
            world.tick(&[held(who, step)]);
            assert_eq!(world.report(*id), together.report(ids[who]));
            rode += usize::from(world.report(*id).support == Support::Platform(0));
        }
    }
    assert!(rode > 50, "{rode}");
}

#[test]
fn what_one_character_sets_off_goes_for_all() {
    let cart = PlatformNumbers {
        starts: Starts::WhenRidden,
        ..PlatformNumbers::new(DVec2::new(64.0, 8.0), DVec2::new(64.0, 100.0)).to(DVec2::new(100.0, 100.0), 60.0)
    };
    let mut world = hall(&[cart]);
    let numbers = Tuning::check(&dab()).unwrap();
    let first = world.add_character(numbers.clone(), DVec2::new(80.0, 60.0)).unwrap();
    let second = world.add_character(numbers, DVec2::new(100.0, 90.0)).unwrap();
    tick(&mut world, 40);
    let place = world.platform_report(0).place;
    assert!(place.left > 64.0);
    // The second landed first, and was carried for as long as the platform went.
    assert!((world.report(second).feet.x - 100.0 - (place.left - 64.0)).abs() < 1e-9);
    assert!(world.report(first).feet.x < 80.0 + (place.left - 64.0));
}

#[test]
fn a_restored_world_goes_on_to_the_bit() {
    let crumble = Some(CrumbleNumbers { after: 0.1, sink: 6.0, over: 0.2, back_after: Some(0.4) });
    let slab = PlatformNumbers {
        crumble,
        surface: PlatformSurface::OneWay,
        ..PlatformNumbers::new(DVec2::new(64.0, 8.0), DVec2::new(20.0, 96.0))
    };
    let cart = PlatformNumbers {
        starts: Starts::WhenRidden,
        ..PlatformNumbers::new(DVec2::new(64.0, 8.0), DVec2::new(110.0, 90.0)).to(DVec2::new(170.0, 50.0), 37.0)
    };
    let mut numbers = dab();
    let jump = numbers.jump.as_mut().unwrap();
    (jump.coyote_time, jump.buffer_time, jump.air_jumps) = (0.1, 0.15, 1);
    let mut world = hall(&[slab, cart]);
    let dab = world.add_character(Tuning::check(&numbers).unwrap(), DVec2::new(40.0, 96.0)).unwrap();
    let clay = put(&mut world, 140.0, 60.0);
    let held =
        |tick: u64| Buttons { right: tick % 40 < 8, left: tick % 40 > 31, jump: tick % 31 < 25, ..Buttons::NONE };
    let mut saves = Vec::new();
    let mut rows = Vec::new();
    for tick in 0..600 {
        saves.push(world.save());
        world.tick(&[held(tick)]);
        rows.push((world.report(dab).clone(), world.report(clay).clone(), world.platform_report(0)));
    }
    let seen: Vec<_> = rows.iter().map(|row| row.2.crumbling).collect();
    assert!(seen.windows(2).filter(|two| two[0] != two[1]).count() > 6, "the slab crumbles and comes back");
    for from in (0..600).step_by(7) {
        world.restore(&saves[from]);
        assert_eq!((world.ticks(), saves[from].tick()), (from as u64, from as u64));
        for (tick, row) in rows.iter().enumerate().skip(from).take(60) {
            world.tick(&[held(tick as u64)]);
            let now = (world.report(dab).clone(), world.report(clay).clone(), world.platform_report(0));
            assert_eq!(&now, row, "saved at {from}");
        }
    }
}
