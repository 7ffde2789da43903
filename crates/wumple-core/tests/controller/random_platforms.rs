//! Random rooms full of platforms and props: what must hold after every tick, whatever the routes.

use crate::rooms;

use crate::rooms::{buttons, full_grid, full_tuning};
use proptest::prelude::*;
use wumple_core::advanced::Features;
use wumple_core::numbers::{
    Bend, Bounce, CrumbleNumbers, Ease, EaseOver, Ends, Pace, Pixels, PlatformSurface, Release, Starts, TakenAlong,
};
use wumple_core::{
    Buttons, CharacterId, DVec2, Event, Grid, Material, PlatformNumbers, Platforms, Prop, State, Support, Terrain,
    TickReport, Tuning, TuningNumbers, World,
};

/// A platform with up to three legs, of every kind; sizes and places are whole multiples of 8 px, so that
/// platforms touch one another and tiles, and whole pixels are possible.
fn platform() -> impl Strategy<Value = PlatformNumbers> {
    let snapped = |most: i32| (0..most).prop_map(|steps| f64::from(steps) * 8.0);
    let leg = (-12..12i32, -12..12i32, 0..3u8).prop_map(|(x, y, way)| {
        let by = DVec2::new(f64::from(x), f64::from(y)) * 8.0;
        [DVec2::new(by.x, 0.0), DVec2::new(0.0, by.y), by][usize::from(way)]
    });
    let pace = prop_oneof![
        6 => (5.0..400.0f64).prop_map(Pace::Speed),
        2 => (0.2..3.0f64).prop_map(Pace::Trip),
        1 => (400.0..60_000.0f64).prop_map(Pace::Speed),
    ];
    let crumble = (0.0..0.5f64, 0.0..20.0f64, 0.0..0.5f64, prop::option::of(0.0..0.8f64))
        .prop_map(|(after, sink, over, back_after)| CrumbleNumbers { after, sink, over, back_after });
    let bounce = |release| Material { bounce: Some(Bounce { height: 30.0, release }), ..Material::PLAIN };
    let material = prop_oneof![
        6 => Just(Material::PLAIN),
        1 => (-90.0..90.0f64).prop_map(|surface_speed| Material { grip: 0.3, surface_speed, bounce: None }),
        1 => Just(bounce(Release::None)),
        1 => Just(bounce(Release::Cut { keep: 0.4 })),
    ];
    let size = (snapped(9), snapped(7)).prop_map(|(width, height)| DVec2::new(width + 8.0, height + 8.0));
    let route = (snapped(30), snapped(30), prop::collection::vec(leg, 0..4)).prop_map(|(x, y, legs)| {
        let corner = DVec2::new(x, y);
        let along = legs.into_iter().scan(corner, |place, by| {
            *place += by;
            Some(*place)
        });
        std::iter::once(corner).chain(along).collect::<Vec<DVec2>>()
    });
    (size, route, pace, prop::option::weighted(0.2, crumble), material, 0.0..0.6f64, any::<u8>()).prop_map(
        |(size, route, pace, crumble, material, wait, bits)| PlatformNumbers {
            size,
            route,
            pace,
            crumble,
            material,
            wait: wait * f64::from(bits & 1),
            surface: if bits & 2 != 0 { PlatformSurface::OneWay } else { PlatformSurface::Solid },
            ends: [Ends::BackAndForth, Ends::Loop, Ends::Once][usize::from(bits >> 2) % 3],
            ease: if bits & 16 != 0 { Ease::Smooth } else { Ease::Linear },
            ease_over: if bits & 32 != 0 { EaseOver::Trip } else { EaseOver::Leg },
            bend: if bits & 128 != 0 { Bend::Round } else { Bend::Straight },
            starts: if bits & 96 == 96 { Starts::WhenRidden } else { Starts::AtOnce },
            ..PlatformNumbers::new(DVec2::ONE, DVec2::ZERO)
        },
    )
}

/// Crates: their size, px, and whether all sides are solid.
fn props() -> impl Strategy<Value = Vec<(f64, f64, bool)>> {
    prop::collection::vec((6u8..24, 6u8..24, any::<bool>()), 0..4)
        .prop_map(|props| props.into_iter().map(|(w, h, solid)| (f64::from(w), f64::from(h), solid)).collect())
}

type Scenery = (Grid, Tuning, Vec<PlatformNumbers>, Vec<(f64, f64, bool)>);

fn scenery() -> impl Strategy<Value = Scenery> {
    (full_grid(), full_tuning(), prop::collection::vec(platform(), 1..7), props())
}

/// A world with all of it, and a character where there is room.
fn world((grid, tuning, platforms, props): &Scenery, seed: u32) -> Option<(World<&Grid>, CharacterId)> {
    let mut world = World::with_platforms(grid, Platforms::new(platforms, tuning.rate()).unwrap());
    let (width, height) = (grid.width(), grid.height());
    for (index, (wide, tall, solid)) in props.iter().enumerate() {
        let mut numbers = TuningNumbers::new(*wide, *tall, 0.0);
        let like = tuning.numbers();
        (numbers.rate, numbers.scheme, numbers.pixels) = (like.rate, like.scheme, like.pixels);
        let surface = if *solid { PlatformSurface::Solid } else { PlatformSurface::OneWay };
        let prop = Prop { tuning: Tuning::check(&numbers).unwrap(), surface, material: Material::PLAIN, zone: None };
        let _ = rooms::places(width, height, seed ^ index as u32).find_map(|at| world.add_prop(prop.clone(), at).ok());
    }
    let id = rooms::places(width, height, seed).find_map(|feet| world.add_character(tuning.clone(), feet).ok())?;
    Some((world, id))
}

fn ticks(script: &[(Buttons, usize)]) -> impl Iterator<Item = Buttons> {
    script.iter().flat_map(|(held, ticks)| core::iter::repeat_n(*held, *ticks))
}

/// Whether a body that stood still on a platform through a tick has kept its place on it. Whole pixels, belts
/// and what it was carried against may move it.
fn has_kept_its_place(
    world: &World<&Grid>,
    platform: &PlatformNumbers,
    before: &TickReport,
    after: &TickReport,
) -> bool {
    let Support::Platform(index) = after.support else { return true };
    let free = |contacts: wumple_core::Contacts| !contacts.left && !contacts.right;
    let rode = before.support == after.support && after.events.is_empty();
    let still = before.velocity.x == 0.0 && after.velocity.x == 0.0;
    if !(rode && still && free(before.contacts) && free(after.contacts) && platform.material.is_plain()) {
        return true;
    }
    let place = |tick| world.platforms().report(index, tick).place;
    let (from, to) = (place(before.tick), place(after.tick));
    let (moved, way) = (after.feet.x - before.feet.x, to.left - from.left);
    // On its way aslant it may have been carried against a face that it is above or below by now, and against a
    // slope anywhere: then it goes less far.
    let slopes = world.terrain().features().has(Features::RAMP | Features::DRAWN_RAMP);
    if slopes || (way != 0.0 && from.top != to.top) {
        return moved * way >= 0.0 && moved.abs() <= way.abs() + 1e-9;
    }
    (moved - way).abs() < 1e-9
}

proptest! {
    // About four hundred thousand ticks.
    #![proptest_config(rooms::cases(2500))]

    #[test]
    fn a_run_among_platforms_keeps_every_promise(scenery in scenery(), script in buttons(), seed in any::<u32>()) {
        let Some((mut world, id)) = world(&scenery, seed) else { return Ok(()) };
        let (tuning, platforms) = (&scenery.1, &scenery.2);
        let mut before = world.report(id).clone();
        for held in ticks(&script) {
            world.tick(&[held]);
            // No overlap that was not reported as a crush, nothing beyond its bounds, no state without its facts.
            prop_assert_eq!(world.violation(), None);
            let after = world.report(id);
            let thrown = after.events.iter().any(|event| matches!(event, Event::Jumped(_) | Event::Bounced(_)));
            let lifts_itself = matches!(after.state, State::Ladder | State::WallHold) || tuning.flight().is_some() || tuning.four_way().is_some();
            if after.velocity.y < 0.0 && !lifts_itself && tuning.leave_with() != TakenAlong::All {
                prop_assert!(thrown || before.velocity.y < 0.0, "rises without a cause: {before:?} {after:?}");
            }
            let steers = held.left || held.right || held.steer != 0.0;
            if let (Support::Platform(index), Pixels::Free, false) = (after.support, tuning.numbers().pixels, steers) {
                let kept = has_kept_its_place(&world, &platforms[index], &before, after);
                prop_assert!(kept, "{before:?} {after:?}");
            }
            before = after.clone();
            if world.character(id).has_ended() {
                break;
            }
        }
    }
}

proptest! {
    #![proptest_config(rooms::cases(400))]

    #[test]
    fn a_world_saved_at_any_tick_goes_on_the_same_to_the_bit(
        scenery in scenery(), script in buttons(), seed in any::<u32>(), at in 0..80usize,
    ) {
        let Some((mut world, id)) = world(&scenery, seed) else { return Ok(()) };
        ticks(&script).take(at).for_each(|held| world.tick(&[held]));
        let saved = world.save();
        let run = |world: &mut World<&Grid>| -> Vec<(TickReport, Vec<wumple_core::PlatformReport>)> {
            let rows = ticks(&script).skip(at).map(|held| {
                world.tick(&[held]);
                let platforms = (0..world.platforms().len()).map(|index| world.platform_report(index));
                (world.report(id).clone(), platforms.collect())
            });
            rows.collect()
        };
        let first = run(&mut world);
        world.restore(&saved);
        prop_assert!(first == run(&mut world));
        // A world made in the same way takes it over as well.
        if let Some((mut other, _)) = self::world(&scenery, seed) {
            other.restore(&saved);
            prop_assert!(first == run(&mut other));
        }
    }
}
