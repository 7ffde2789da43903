//! Rooms as they are built: tiles in rows and columns, ramps end to end, blocks and platforms on whole pixels. What
//! only goes wrong where things meet exactly is found here, and hardly ever among places drawn from all numbers.

use proptest::prelude::*;
use wumple_core::numbers::{
    Acceleration, Ends, Hang, HoldNumbers, HoldWhen, JumpNumbers, JumpShape, LadderNumbers, Pixels, PlatformSurface,
    Release, Scheme, SlideNumbers, SlideWhen, Starts, TakenAlong, WallJumpNumbers, WallNumbers,
};
use wumple_core::{
    Block, DVec2, Edge, Edges, Grid, PlatformNumbers, Ramp, Surface, TileProperties, Tuning, TuningNumbers,
};

const TILE: f64 = 16.0;

/// Empty, solid, one-way, ladder, and ramps that meet one another and the ground.
fn kinds() -> Vec<TileProperties> {
    let ramp = |left_height, right_height| TileProperties::of(Surface::Ramp { left_height, right_height });
    let plain = [TileProperties::EMPTY, TileProperties::SOLID, TileProperties::ONE_WAY, TileProperties::LADDER];
    let ramps = [(0.0, 16.0), (16.0, 0.0), (0.0, 8.0), (8.0, 16.0), (16.0, 8.0), (8.0, 0.0), (0.0, 4.0), (12.0, 5.0)];
    plain.into_iter().chain(ramps.map(|(left, right)| ramp(left, right))).collect()
}

/// Which tiles a room is made of.
const PALETTES: [&[u8]; 5] =
    [&[1], &[1, 1, 2], &[1, 1, 4, 5, 6, 7, 8, 9, 10, 11], &[1, 1, 1, 2, 3, 3], &[1, 1, 2, 3, 4, 5, 6, 7, 8, 9]];

/// Ramps from one point on, each where the last ended; now and then a join's width higher or lower.
fn chain(width: f64, height: f64) -> impl Strategy<Value = Vec<Ramp>> {
    let leg = (1..8u8, -5..6i8, prop::bool::weighted(0.15));
    let snap = prop::sample::select(&[1.0, 2.0, 8.0, 16.0][..]);
    (0.0..width, 0.0..height, snap, prop::collection::vec(leg, 1..4)).prop_map(|(x, y, snap, legs)| {
        let mut at = DVec2::new((x / snap).round() * snap, (y / snap).round() * snap);
        let mut ramps = Vec::new();
        for (along, down, slips) in legs {
            let to = at + DVec2::new(f64::from(along), f64::from(down)) * snap.max(4.0);
            ramps.extend(Ramp::new(at, to));
            at = if slips { to + DVec2::new(0.0, 1.0 / 1024.0) } else { to };
        }
        ramps
    })
}

/// A room of nothing that slips, carries or throws up: what happens in it is the body's own doing.
pub(crate) fn grid() -> impl Strategy<Value = Grid> {
    let palette = prop::sample::select(&PALETTES[..]);
    let edge = prop::sample::select(&[Edge::Solid, Edge::Solid, Edge::Open][..]);
    let edges = (edge.clone(), edge.clone(), edge.clone(), edge);
    (6..20usize, 5..14usize, palette, 0.05..0.45f64, edges).prop_flat_map(|(columns, rows, palette, share, edges)| {
        let (width, height) = (columns as f64 * TILE, rows as f64 * TILE);
        let tile = (prop::bool::weighted(share), 0..palette.len());
        let tiles = prop::collection::vec(tile, columns * rows);
        let whole = |most: f64| (0..most as i32).prop_map(f64::from);
        let block = (whole(width), whole(height), 4..50u8, 4..50u8)
            .prop_map(|(x, y, wide, tall)| Block::new(DVec2::new(x, y), f64::from(wide), f64::from(tall)));
        let has_ramps = usize::from(palette.contains(&4));
        let ramps = prop::collection::vec(chain(width, height), 0..=3 * has_ramps);
        let blocks = prop::collection::vec(block, 0..=2 * has_ramps);
        let (left, right, top, bottom) = edges;
        (tiles, blocks, ramps).prop_map(move |(tiles, blocks, ramps)| {
            let mut tiles: Vec<u8> =
                tiles.into_iter().map(|(filled, kind)| if filled { palette[kind] } else { 0 }).collect();
            // A floor nearly everywhere.
            let floor = (rows - 1) * columns;
            (floor..floor + columns).filter(|at| at % 7 != 3).for_each(|at| tiles[at] = 1);
            let edges = Edges { left, right, top, bottom };
            let grid = Grid::new(columns, tiles, TILE, &kinds(), edges).unwrap();
            grid.with_objects(blocks, ramps.concat()).unwrap()
        })
    })
}

/// A platform that goes to and fro, or round, by whole pixels.
pub(crate) fn platform() -> impl Strategy<Value = PlatformNumbers> {
    let leg = (-80..80i8, 0..3u8).prop_map(|(by, way)| {
        let by = f64::from(by);
        [DVec2::new(by, 0.0), DVec2::new(0.0, by), DVec2::splat(by)][usize::from(way)]
    });
    let speed = prop::sample::select(&[30.0, 60.0, 95.0, 240.0, 400.0][..]);
    let size = (prop::sample::select(&[20.0, 32.0, 48.0][..]), prop::sample::select(&[4.0, 8.0, 32.0][..]));
    (0..300i32, 0..200i32, size, speed, prop::collection::vec(leg, 0..3), any::<u8>()).prop_map(
        |(x, y, (width, height), speed, legs, bits)| {
            let mut at = DVec2::new(f64::from(x), f64::from(y));
            let mut platform = PlatformNumbers::new(DVec2::new(width, height), at);
            for by in legs {
                at += by;
                platform = platform.to(at, speed);
            }
            platform.surface = [PlatformSurface::Solid, PlatformSurface::OneWay][usize::from(bits & 1)];
            platform.ends = [Ends::BackAndForth, Ends::Loop, Ends::Once][usize::from(bits >> 1) % 3];
            platform.starts = if bits & 96 == 96 { Starts::WhenRidden } else { Starts::AtOnce };
            platform
        },
    )
}

fn acceleration() -> impl Strategy<Value = Acceleration> {
    prop_oneof![
        Just(Acceleration::Instant),
        (200.0..3000.0f64).prop_map(Acceleration::Rate),
        (0.02..0.4f64).prop_map(Acceleration::Time),
    ]
}

/// As a game has them, for bodies of every width.
pub(crate) fn tuning() -> impl Strategy<Value = Tuning> {
    let width = prop::sample::select(&[7.25, 9.5, 10.0, 12.0, 16.0, 33.5, 40.0, 60.0][..]);
    let height = prop::sample::select(&[8.0, 10.0, 14.0, 22.0, 28.25][..]);
    let release = prop::sample::select(
        &[
            Release::None,
            Release::Cut { keep: 0.4 },
            Release::Heavy { gravity_ratio: 3.0 },
            Release::Sustain { time: 0.1 },
            Release::ToHeight { tap_height: 18.0, further_rise: 3.0 },
        ][..],
    );
    let rates = (acceleration(), acceleration(), acceleration());
    let speeds = (80.0..240.0f64, 200.0..400.0f64, 600.0..1400.0f64);
    let rate = prop::sample::select(&[20.0, 30.0, 60.0, 144.0][..]);
    (width, height, speeds, rates, release, rate, any::<[u8; 4]>()).prop_filter_map(
        "refused",
        |(width, height, (top, speed, gravity), rates, release, rate, [a, b, c, d])| {
            let bit = |of: u8, at: u8| of >> at & 1 != 0;
            let mut numbers = TuningNumbers::new(width, height, top);
            (numbers.run.acceleration, numbers.run.braking, numbers.run.turning) = rates;
            (numbers.rate, numbers.fall.gravity) = (rate, None);
            numbers.scheme = [Scheme::Exact, Scheme::VelocityFirst, Scheme::PositionFirst][usize::from(a % 3)];
            if bit(a, 7) {
                numbers.pixels = Pixels::Whole;
                (numbers.body.width, numbers.body.height) = (width.ceil(), height.ceil());
            }
            let mut jump = JumpNumbers::new(JumpShape::SpeedAndGravity { speed, gravity });
            jump.release = release;
            jump.hang = bit(b, 0).then_some(Hang { speed: 40.0, gravity_ratio: 0.5 });
            (jump.coyote_time, jump.buffer_time) = (0.1 * f64::from(b >> 1 & 1), 0.1 * f64::from(b >> 2 & 1));
            (jump.air_jumps, jump.waits_for_ground) = (u32::from(b >> 3 & 1), bit(b, 4));
            numbers.jump = Some(jump);
            numbers.fall.gravity_ratio = if bit(b, 5) { 1.7 } else { 1.0 };
            numbers.body.wall_probe = f64::from(b >> 6);
            numbers.body.corner_nudge = 3.0 * f64::from(c & 1);
            numbers.body.ledge_lift = 5.0 * f64::from(c >> 1 & 1);
            numbers.body.step_height = [0.0, 0.0, 2.0, 16.0][usize::from(c >> 2 & 3)];
            numbers.run.ramp_follow = [0.0, 3.0, 8.0, 8.0][usize::from(c >> 4 & 3)];
            numbers.leave_with =
                [TakenAlong::Nothing, TakenAlong::Sideways, TakenAlong::All, TakenAlong::Nothing][usize::from(c >> 6)];
            numbers.ladder = bit(d, 0).then_some(LadderNumbers {
                probe: 6.0,
                up_speed: 64.0,
                down_speed: 80.0,
                side_speed: 40.0 * f64::from(d >> 1 & 1),
                centre: bit(d, 2),
                up_is_jump: false,
            });
            let when = if bit(d, 4) { HoldWhen::Touched } else { HoldWhen::GrabHeld };
            let hold = HoldNumbers {
                when,
                up_speed: 35.0,
                down_speed: 70.0,
                from_ground: bit(d, 5),
                while_rising: bit(a, 5),
                spends_air_jumps: bit(a, 4),
                climb_over: bit(d, 6),
            };
            let slide = SlideNumbers { when: SlideWhen::Touched, top_speed: 50.0 };
            let off = WallJumpNumbers { height: 36.0, push_speed: 130.0, steer_lock: 0.15, same_wall: bit(d, 7) };
            numbers.wall = bit(d, 3).then_some(WallNumbers {
                coyote_time: 0.08,
                slide: Some(slide),
                jump: Some(off),
                hold: bit(a, 6).then_some(hold),
            });
            Tuning::check(&numbers).ok()
        },
    )
}
