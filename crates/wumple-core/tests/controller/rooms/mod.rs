//! Random rooms, tunings and buttons.
#![allow(dead_code, reason = "every test file uses a part of it")]

pub(crate) mod aligned;
pub(crate) mod player;

use proptest::prelude::*;
use wumple_core::numbers::{
    Acceleration, AtWall, Bounce, DropRule, FlightNumbers, FourWayNumbers, Hang, HoldNumbers, HoldWhen, JumpNumbers,
    JumpShape, LadderNumbers, OnLanding, Pixels, Release, Scheme, SlideNumbers, SlideWhen, Steady, SteerWhen,
    TakenAlong, WallJumpNumbers, WallNumbers,
};
use wumple_core::{
    Block, Buttons, DVec2, Edge, Edges, Grid, Material, Ramp, Surface, TileProperties, Tuning, TuningNumbers,
};

/// So many cases; with `TIMES=100` in the environment, a hundred times as many, for a long search.
pub(crate) fn cases(cases: u32) -> ProptestConfig {
    let times = std::env::var("TIMES").map_or(1, |times| times.parse().expect("TIMES is a number"));
    let refused = 100_000 * times;
    ProptestConfig {
        cases: cases * times,
        max_local_rejects: refused,
        max_global_rejects: refused,
        ..ProptestConfig::default()
    }
}

pub(crate) fn edges() -> impl Strategy<Value = Edges> {
    let edge = prop::sample::select(&[Edge::Solid, Edge::Open, Edge::Deadly][..]);
    (edge.clone(), edge.clone(), edge.clone(), edge).prop_map(|(left, right, top, bottom)| Edges {
        left,
        right,
        top,
        bottom,
    })
}

pub(crate) fn grid() -> impl Strategy<Value = Grid> {
    let tile = prop::sample::select(&[16.0, 8.0, 32.0, 13.25][..]);
    (3..16usize, 3..16usize, tile, edges(), 0.0..0.4f64).prop_flat_map(|(columns, rows, tile, edges, share)| {
        prop::collection::vec(prop::bool::weighted(share), columns * rows).prop_map(move |solid| {
            let tiles = solid.into_iter().map(u8::from).collect();
            Grid::new(columns, tiles, tile, &[TileProperties::EMPTY, TileProperties::SOLID], edges).unwrap()
        })
    })
}

/// A room of everything: every letter, ramps of odd heights, blocks off the grid, drawn ramps, and tops that
/// slip, carry and throw up.
pub(crate) fn full_grid() -> impl Strategy<Value = Grid> {
    let tile = prop::sample::select(&[16.0, 8.0, 32.0, 13.25][..]);
    (4..16usize, 4..16usize, tile, edges(), 0.05..0.5f64).prop_flat_map(|(columns, rows, tile, edges, share)| {
        let (width, height) = (columns as f64 * tile, rows as f64 * tile);
        let tiles = prop::collection::vec((prop::bool::weighted(share), 1..16u8), columns * rows);
        let block = (0.0..width, 0.0..height, 1.0..60.0f64, 1.0..60.0f64)
            .prop_map(|(x, y, width, height)| Block::new(DVec2::new(x, y), width, height));
        let line = (0.0..width, 0.0..height, -90.0..90.0f64, -60.0..60.0f64)
            .prop_filter_map("upright", |(x, y, right, down)| {
                Ramp::new(DVec2::new(x, y), DVec2::new(x + right, y + down))
            });
        let (blocks, lines) = (prop::collection::vec(block, 0..4), prop::collection::vec(line, 0..4));
        (tiles, blocks, lines).prop_map(move |(tiles, blocks, lines)| {
            let tiles = tiles.into_iter().map(|(filled, kind)| if filled { kind } else { 0 }).collect();
            Grid::new(columns, tiles, tile, &kinds(tile), edges).unwrap().with_objects(blocks, lines).unwrap()
        })
    })
}

pub(crate) fn kinds(tile: f64) -> [TileProperties; 16] {
    let ramp = |left: f64, right: f64| {
        TileProperties::of(Surface::Ramp { left_height: left * tile, right_height: right * tile })
    };
    let like = |kind: TileProperties, material: Material| TileProperties { material, ..kind };
    let bounce = |height, release| Material { bounce: Some(Bounce { height, release }), ..Material::PLAIN };
    [
        TileProperties::EMPTY,
        TileProperties::SOLID,
        TileProperties::SOLID,
        TileProperties::ONE_WAY,
        TileProperties::ONE_WAY,
        TileProperties::LADDER,
        TileProperties::LADDER,
        ramp(0.0, 1.0),
        ramp(1.0, 0.0),
        ramp(0.0, 0.5),
        ramp(0.5, 1.0),
        ramp(0.75, 0.25),
        like(TileProperties::SOLID, Material { grip: 0.2, surface_speed: 55.0, bounce: None }),
        like(TileProperties::ONE_WAY, Material { surface_speed: -75.0, ..Material::PLAIN }),
        like(TileProperties::SOLID, bounce(40.0, Release::Cut { keep: 0.3 })),
        like(TileProperties::ONE_WAY, bounce(25.0, Release::None)),
    ]
}

pub(crate) fn acceleration() -> impl Strategy<Value = Acceleration> {
    prop_oneof![
        Just(Acceleration::Instant),
        (0.0..5000.0f64).prop_map(Acceleration::Rate),
        (0.0..0.5f64).prop_map(Acceleration::Time),
    ]
}

/// Mostly of the kind a game has; now and then anything that the checks accept.
pub(crate) fn tuning() -> impl Strategy<Value = Tuning> {
    (plain_tuning(), jump_extras(), any::<u8>()).prop_filter_map("refused", |(mut numbers, extras, bits)| {
        numbers.scheme = [Scheme::Exact, Scheme::VelocityFirst, Scheme::PositionFirst][usize::from(bits % 3)];
        if bits & 64 != 0 {
            numbers.pixels = Pixels::Whole;
            (numbers.body.width, numbers.body.height) = (numbers.body.width.ceil(), numbers.body.height.ceil());
        }
        if let Some(jump) = &mut numbers.jump {
            *jump = JumpNumbers { shape: jump.shape, ..extras };
        }
        Tuning::check(&numbers).ok()
    })
}

/// The same with all abilities.
pub(crate) fn full_tuning() -> impl Strategy<Value = Tuning> {
    let ladder = (0.0..20.0f64, 0.0..200.0f64, 0.0..200.0f64, 0.0..90.0f64, any::<bool>(), any::<bool>()).prop_map(
        |(probe, up_speed, down_speed, side_speed, centre, up_is_jump)| LadderNumbers {
            probe,
            up_speed,
            down_speed,
            side_speed,
            centre,
            up_is_jump,
        },
    );
    let slide = (any::<bool>(), 0.0..90.0f64).prop_map(|(touched, top_speed)| SlideNumbers {
        when: if touched { SlideWhen::Touched } else { SlideWhen::Pushed },
        top_speed,
    });
    let jump = (1.0..80.0f64, 0.0..200.0f64, 0.0..0.3f64, any::<bool>()).prop_map(
        |(height, push_speed, steer_lock, same_wall)| WallJumpNumbers { height, push_speed, steer_lock, same_wall },
    );
    let hold = (any::<u8>(), 0.0..200.0f64, 0.0..200.0f64).prop_map(|(bits, up_speed, down_speed)| HoldNumbers {
        when: if bits & 1 != 0 { HoldWhen::Touched } else { HoldWhen::GrabHeld },
        up_speed,
        down_speed,
        from_ground: bits & 2 != 0,
        while_rising: bits & 8 != 0,
        spends_air_jumps: bits & 16 != 0,
        climb_over: bits & 4 != 0,
    });
    let wall = (0.0..0.2f64, prop::option::of(slide), prop::option::of(jump), prop::option::of(hold))
        .prop_map(|(coyote_time, slide, jump, hold)| WallNumbers { coyote_time, slide, jump, hold });
    let lengths = (0.0..12.0f64, 0.0..12.0f64, 0.0..12.0f64, 0.0..20.0f64, 0.0..0.3f64);
    (tuning(), prop::option::of(ladder), prop::option::of(wall), lengths, any::<u8>()).prop_filter_map(
        "refused",
        |(tuning, ladder, wall, (nudge, lift, step, follow, bump), bits)| {
            let mut numbers = tuning.numbers().clone();
            (numbers.ladder, numbers.wall) = (ladder, wall);
            numbers.body.corner_nudge = nudge * f64::from(bits & 1);
            numbers.body.ledge_lift = lift * f64::from(bits >> 1 & 1);
            numbers.body.step_height = step * f64::from(bits >> 2 & 1);
            (numbers.run.ramp_follow, numbers.air.bump_memory) = (follow, bump * f64::from(bits >> 3 & 1));
            numbers.run.steepest_climb = if bits & 16 != 0 { 0.8 } else { f64::INFINITY };
            numbers.drop = [DropRule::Down, DropRule::DownAndJump, DropRule::Off][usize::from(bits >> 5) % 3];
            numbers.leave_with =
                [TakenAlong::Nothing, TakenAlong::Sideways, TakenAlong::All][usize::from(bits >> 2) % 3];
            if bits & 192 == 192 {
                numbers.run.steady = [Steady::Right, Steady::Left][usize::from(bits & 1)];
                numbers.run.at_wall = [AtWall::Stop, AtWall::Turn][usize::from(bits >> 1 & 1)];
            }
            let spends = numbers.wall.iter().flat_map(|wall| wall.hold).any(|hold| hold.spends_air_jumps);
            if let Some(jump) = &mut numbers.jump {
                jump.air_jumps_back_on_wall = bits & 128 != 0 && !spends;
                if bits & 41 == 41 {
                    (jump.on_landing, jump.waits_for_ground) = (OnLanding::Jump, false);
                }
            }
            if bits & 7 == 5 {
                let lift = nudge * 80.0 + 20.0;
                let flight = if bits & 8 != 0 { FlightNumbers::flaps(lift) } else { FlightNumbers::thrust(lift * 6.0) };
                let top_speed = if bits & 16 != 0 { flight.top_speed } else { 900.0 };
                let steer = [SteerWhen::Always, SteerWhen::WhileHeld][usize::from(bits >> 5 & 1)];
                numbers.flight = Some(FlightNumbers { top_speed, steer, from_ground: bits & 64 != 0, ..flight });
                if let Some(jump) = &mut numbers.jump {
                    jump.air_jumps = 0;
                }
            }
            if bits & 15 == 14 {
                (numbers.jump, numbers.wall, numbers.ladder, numbers.flight) = (None, None, None, None);
                let TuningNumbers { run, .. } = &numbers;
                let corner_slide = if bits & 16 != 0 { nudge } else { 0.0 };
                let four_way = FourWayNumbers {
                    acceleration: run.acceleration,
                    corner_slide,
                    ..FourWayNumbers::new(run.top_speed)
                };
                numbers.four_way = Some(FourWayNumbers { braking: run.braking, turning: run.turning, ..four_way });
            }
            Tuning::check(&numbers).ok()
        },
    )
}

pub(crate) fn jump_extras() -> impl Strategy<Value = JumpNumbers> {
    let release = prop_oneof![
        Just(Release::None),
        (0.0..1.0f64).prop_map(|keep| Release::Cut { keep }),
        (0.5..6.0f64).prop_map(|gravity_ratio| Release::Heavy { gravity_ratio }),
        (0.0..0.2f64).prop_map(|time| Release::Sustain { time }),
        (0.0..60.0f64, 0.0..10.0f64)
            .prop_map(|(tap_height, further_rise)| Release::ToHeight { tap_height, further_rise }),
    ];
    let hang = prop::option::of((1.0..60.0f64, 0.2..1.5f64));
    (release, hang, 0.0..0.3f64, 0.0..0.3f64, 0u32..3, any::<u8>()).prop_map(
        |(release, hang, coyote_time, buffer_time, air_jumps, bits)| JumpNumbers {
            release,
            hang: hang.map(|(speed, gravity_ratio)| Hang { speed, gravity_ratio }),
            coyote_time,
            buffer_time,
            air_jumps,
            repeat_held: bits & 1 != 0,
            waits_for_ground: bits & 2 != 0,
            ..JumpNumbers::new(JumpShape::SpeedAndGravity { speed: 1.0, gravity: 1.0 })
        },
    )
}

pub(crate) fn plain_tuning() -> impl Strategy<Value = TuningNumbers> {
    let size = prop_oneof![4 => 2.0..30.0f64, 1 => (1u32..2000).prop_map(|n| f64::from(n) / 64.0)];
    let speed = prop_oneof![6 => 0.0..400.0f64, 1 => 0.0..1e6f64];
    let jump = prop_oneof![6 => (1.0..120.0f64, 0.1..0.8f64), 1 => (0.01..20_000.0f64, 0.05..3.0f64)];
    (
        (size.clone(), size, speed.clone(), 1.0..1e6f64),
        (acceleration(), acceleration(), acceleration()),
        prop::option::weighted(0.9, jump),
        prop::sample::select(&[30.0, 60.0, 144.0, 1000.0, 59.94][..]),
        0.0..20.0f64,
    )
        .prop_map(|((width, height, top, fall), rates, jump, rate, wall_probe)| {
            let mut numbers = TuningNumbers::new(width, height, top);
            if let Some((height, time)) = jump {
                numbers = numbers.with_jump(height, time);
            }
            (numbers.run.acceleration, numbers.run.braking, numbers.run.turning) = rates;
            (numbers.rate, numbers.fall.top_speed, numbers.body.wall_probe) = (rate, fall, wall_probe);
            numbers
        })
}

/// Buttons, each held for some ticks.
pub(crate) fn buttons() -> impl Strategy<Value = Vec<(Buttons, usize)>> {
    let held = (any::<u8>(), -1.5..1.5f64).prop_map(|(bits, steer)| Buttons {
        left: bits & 1 != 0,
        right: bits & 2 != 0,
        up: bits & 4 != 0,
        down: bits & 8 != 0,
        jump: bits & 16 != 0,
        grab: bits & 32 != 0,
        steer: if bits & 64 != 0 { steer } else { 0.0 },
        climb: 0.0,
    });
    prop::collection::vec((held, 1..30usize), 1..20)
}

/// Places in a map of this size, px, scattered evenly by a seed.
pub(crate) fn places(width: f64, height: f64, seed: u32) -> impl Iterator<Item = DVec2> {
    (0..40u32).map(move |attempt| {
        let mix = (seed ^ attempt.wrapping_mul(0x9E37_79B9)).wrapping_mul(0x85EB_CA6B);
        let share = |bits: u32| f64::from(bits & 0xFF) / 255.0;
        DVec2::new(share(mix >> 8) * width, share(mix >> 16) * height)
    })
}
