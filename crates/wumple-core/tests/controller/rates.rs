//! Whole runs at several rates: under `exact` the places do not depend on the length of a tick.

use crate::rooms::acceleration;
use proptest::prelude::*;
use wumple_core::numbers::{Hang, Release};
use wumple_core::{Buttons, DVec2, Edges, Grid, TickReport, TileProperties, Tuning, TuningNumbers, World};

/// Ticks a second; what is pressed changes at multiples of 1/30 s, which all of them have.
const RATES: [u32; 5] = [30, 60, 120, 330, 990];

/// A long hall: a floor, and a wall at either end.
fn hall() -> Grid {
    let columns = 200;
    let tiles = (0..columns * 40).map(|at| u8::from(at / columns == 39 || at % columns % 199 == 0)).collect();
    Grid::new(columns, tiles, 16.0, &[TileProperties::EMPTY, TileProperties::SOLID], Edges::default()).unwrap()
}

/// Runs and jumps with every mixture of what is instant and what takes its time. The air is as the ground: at which
/// of them a landing leaves the body for the rest of its tick depends on where the tick ends.
fn numbers() -> impl Strategy<Value = TuningNumbers> {
    let release = prop_oneof![
        Just(Release::None),
        (0.0..1.0f64).prop_map(|keep| Release::Cut { keep }),
        (0.5..4.0f64).prop_map(|gravity_ratio| Release::Heavy { gravity_ratio }),
        (0.0..0.2f64).prop_map(|time| Release::Sustain { time }),
        (0.0..60.0f64, 0.0..10.0f64)
            .prop_map(|(tap_height, further_rise)| Release::ToHeight { tap_height, further_rise }),
    ];
    let hang = prop::option::of((1.0..60.0f64, 0.2..1.5f64));
    (
        (20.0..400.0f64, 10.0..120.0f64, 0.15..0.8f64),
        (acceleration(), acceleration(), acceleration()),
        (release, hang, 0.5..3.0f64, 100.0..1500.0f64),
    )
        .prop_map(|((top, height, time), rates, (release, hang, fall, fastest))| {
            let mut numbers = TuningNumbers::new(10.0, 22.0, top).with_jump(height, time);
            (numbers.run.acceleration, numbers.run.braking, numbers.run.turning) = rates;
            (numbers.fall.gravity_ratio, numbers.fall.top_speed) = (fall, fastest);
            let jump = numbers.jump.as_mut().unwrap();
            jump.release = release;
            jump.hang = hang.map(|(speed, gravity_ratio)| Hang { speed, gravity_ratio });
            numbers
        })
}

/// Left, right, both, a stick or nothing, with or without jump, each for so many thirtieths of a second.
fn script() -> impl Strategy<Value = Vec<(Buttons, u32)>> {
    let held = (0..6u8, any::<bool>(), -1.2..1.2f64).prop_map(|(way, jump, steer)| Buttons {
        left: way == 1 || way == 3,
        right: way == 2 || way == 3,
        steer: if way >= 4 { steer } else { 0.0 },
        jump,
        ..Buttons::NONE
    });
    prop::collection::vec((held, 1..25u32), 1..12)
}

/// The places at every thirtieth of a second.
fn places(grid: &Grid, numbers: &TuningNumbers, rate: u32, script: &[(Buttons, u32)]) -> Option<Vec<TickReport>> {
    let tuning = Tuning::check(&TuningNumbers { rate: f64::from(rate), ..numbers.clone() }).ok()?;
    let mut world = World::new(grid);
    let id = world.add_character(tuning, DVec2::new(1600.0, 39.0 * 16.0)).unwrap();
    let mut places = Vec::new();
    for (held, thirtieths) in script {
        for _ in 0..*thirtieths {
            (0..rate / 30).for_each(|_| world.tick(&[*held]));
            places.push(world.report(id).clone());
        }
    }
    Some(places)
}

proptest! {
    #![proptest_config(crate::rooms::cases(400))]

    #[test]
    fn whole_runs_at_any_rate_come_to_the_same_places(numbers in numbers(), script in script()) {
        let grid = hall();
        let runs = RATES.map(|rate| places(&grid, &numbers, rate, &script));
        let [Some(slow), quick @ ..] = &runs else { return Ok(()) };
        for (run, rate) in quick.iter().zip(&RATES[1..]) {
            let Some(run) = run else { continue };
            for (tick, (slow, quick)) in slow.iter().zip(run).enumerate() {
                let apart = (slow.feet - quick.feet).abs().max_element();
                prop_assert!(apart < 1e-6, "30 and {rate} Hz after {tick} / 30 s: {slow:?} {quick:?}");
            }
        }
    }
}
