//! Tops that go up past somebody: one rule, whatever the body does meanwhile.

use crate::rooms;

use proptest::prelude::*;
use wumple_core::numbers::{Bounce, Hang, Pixels, PlatformSurface, Release, Scheme};
use wumple_core::{
    Buttons, DVec2, Edge, Edges, Event, Grid, Hitbox, Material, PlatformNumbers, Platforms, TickReport, TileProperties,
    Tuning, TuningNumbers, World,
};

/// Open space over a floor at 640 px, without a ceiling.
fn hall() -> Grid {
    let tiles = (0..60 * 41).map(|at| u8::from(at / 60 == 40)).collect();
    let open = Edges { top: Edge::Open, ..Edges::default() };
    Grid::new(60, tiles, 16.0, &[TileProperties::EMPTY, TileProperties::SOLID], open).unwrap()
}

fn numbers() -> impl Strategy<Value = TuningNumbers> {
    let release = prop::sample::select(
        &[
            Release::None,
            Release::Cut { keep: 0.4 },
            Release::Heavy { gravity_ratio: 3.0 },
            Release::Sustain { time: 0.1 },
            Release::ToHeight { tap_height: 8.0, further_rise: 2.0 },
        ][..],
    );
    let rate = prop::sample::select(&[20.0, 30.0, 60.0, 144.0][..]);
    (4.0..60.0f64, 8.0..40.0f64, 10.0..90.0f64, 0.1..0.5f64, release, rate, any::<u8>()).prop_map(
        |(width, height, jump, time, release, rate, bits)| {
            let mut numbers = TuningNumbers::new(width.round(), height.round(), 120.0).with_jump(jump, time);
            (numbers.rate, numbers.fall.gravity_ratio) = (rate, 1.7);
            numbers.scheme = [Scheme::Exact, Scheme::VelocityFirst, Scheme::PositionFirst][usize::from(bits % 3)];
            numbers.pixels = if bits & 8 != 0 { Pixels::Whole } else { Pixels::Free };
            let jump = numbers.jump.as_mut().unwrap();
            jump.release = release;
            (jump.air_jumps, jump.repeat_held) = (u32::from(bits >> 4 & 1), bits & 32 != 0);
            jump.hang = (bits & 64 != 0).then_some(Hang { speed: 10.0, gravity_ratio: 0.5 });
            numbers
        },
    )
}

/// Whether feet that were at or above a top are below it now, though it came up under them. A solid platform that
/// went by beside the body is not under it, however the body steps in beneath.
fn is_passed(before: &TickReport, after: &TickReport, was: &Hitbox, is: &Hitbox, half: f64, solid: bool) -> bool {
    let over = |row: &TickReport, place: &Hitbox| row.feet.x > place.left - half && row.feet.x < place.right + half;
    over(after, is) && (!solid || over(before, was)) && before.feet.y <= was.top && after.feet.y > is.top
}

proptest! {
    #![proptest_config(rooms::cases(1500))]

    #[test]
    fn a_top_that_goes_up_takes_along_whoever_it_comes_to(
        numbers in numbers(),
        script in rooms::buttons(),
        (speed, size, from, bits) in (10.0..500.0f64, 20.0..200.0f64, 500.0..700.0f64, any::<u8>()),
        x in 400.0..500.0f64,
    ) {
        let grid = hall();
        let Ok(tuning) = Tuning::check(&numbers) else { return Ok(()) };
        let mut lift = PlatformNumbers::new(DVec2::new(size.round(), 8.0), DVec2::new(420.0, from.round()))
            .to(DVec2::new(if bits & 4 != 0 { 460.0 } else { 420.0 }, -2000.0), speed);
        lift.surface = if bits & 1 != 0 { PlatformSurface::OneWay } else { PlatformSurface::Solid };
        if bits & 2 != 0 {
            lift.material = Material { bounce: Some(Bounce { height: 30.0, release: Release::None }), ..Material::PLAIN };
        }
        let platforms = Platforms::new(&[lift], tuning.rate()).unwrap();
        let mut world = World::with_platforms(&grid, platforms);
        let Ok(id) = world.add_character(tuning.clone(), DVec2::new(x.round(), 480.0)) else { return Ok(()) };
        for (held, ticks) in script {
            // Down would let it drop through.
            let held = Buttons { down: false, ..held };
            for _ in 0..ticks {
                let (before, was) = (world.report(id).clone(), world.platform_report(0).place);
                world.tick(&[held]);
                let (after, is) = (world.report(id), world.platform_report(0).place);
                let crushed = after.events.iter().any(|event| matches!(event, Event::Crushed(_)));
                let seen = |place: &Hitbox| {
                    let by = |edge: f64| if numbers.pixels == Pixels::Whole { (edge + 0.5).floor() - edge } else { 0.0 };
                    let (right, down) = (by(place.left), by(place.top));
                    Hitbox {
                        left: place.left + right,
                        right: place.right + right,
                        top: place.top + down,
                        bottom: place.bottom + down,
                    }
                };
                let (was, is, half) = (seen(&was), seen(&is), tuning.body().width * 0.5);
                let passed = is_passed(&before, after, &was, &is, half, bits & 1 == 0);
                prop_assert!(!passed || crushed, "{was:?} to {is:?}: {before:?} {after:?}");
            }
        }
    }
}
