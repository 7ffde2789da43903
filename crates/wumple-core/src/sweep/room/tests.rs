//! The way over slopes against tiny steps, each looked at on its own.

use alloc::vec::Vec;
use proptest::prelude::*;

use super::*;
use crate::terrain::{Block, Edges, Grid, TileProperties};

const STEP: f64 = 1.0 / 256.0;

fn kinds() -> [TileProperties; 8] {
    let ramp = |left_height, right_height| TileProperties::of(Surface::Ramp { left_height, right_height });
    [
        TileProperties::EMPTY,
        TileProperties::SOLID,
        ramp(0.0, 16.0),
        ramp(16.0, 0.0),
        ramp(0.0, 8.0),
        ramp(8.0, 16.0),
        ramp(16.0, 8.0),
        ramp(8.0, 0.0),
    ]
}

/// A small room of ramps, solid tiles and a block, with a body that stands somewhere in it.
fn scene() -> impl Strategy<Value = (Grid, Body, DVec2)> {
    let tiles = prop::collection::vec((prop::bool::weighted(0.4), 1..8u8), 8 * 6);
    let block = (0.0..128.0f64, 0.0..96.0f64, 2.0..30.0f64, 2.0..20.0f64);
    let line = prop::option::of((0..128i32, 0..96i32, 8..60i32, -40..40i32));
    let body = (1u32..24, 2u32..40);
    (tiles, block, prop::bool::ANY, line, body, 0.0..128.0f64, 0.0..96.0f64).prop_filter_map(
        "nowhere to stand",
        |(tiles, (x, y, width, height), has_block, line, (wide, tall), at, from)| {
            let lines = line.and_then(|(x, y, along, down)| {
                let from = DVec2::new(f64::from(x), f64::from(y));
                Ramp::new(from, from + DVec2::new(f64::from(along), f64::from(down)))
            });
            let tiles = tiles.into_iter().map(|(filled, kind)| if filled { kind } else { 0 }).collect();
            let blocks = if has_block { Vec::from([Block::new(DVec2::new(x, y), width, height)]) } else { Vec::new() };
            let grid = Grid::new(8, tiles, 16.0, &kinds(), Edges::default()).unwrap();
            let grid = grid.with_objects(blocks, lines.into_iter().collect()).unwrap();
            let body = Body { width: f64::from(wide), height: f64::from(tall) * 0.5 };
            let room = room(&grid, &body);
            let top = room.first_top(at, from, 96.0)?;
            let feet = DVec2::new(at, top.y);
            room.fits(feet).then_some((grid.clone(), body, feet))
        },
    )
}

fn room<'a>(grid: &'a Grid, body: &'a Body) -> Room<'a, Grid> {
    let near = grid.features();
    Room { terrain: grid, body, ladders: false, follow: 0.0, ignored: Ignored::default(), climbing: None, near }
}

/// In tiny steps: up whatever slope the feet come to, until the hitbox overlaps something.
fn slow_walk(room: &Room<'_, Grid>, feet: DVec2, to: f64) -> (DVec2, bool) {
    let steps = ((to - feet.x).abs() / STEP).ceil() as u32;
    let everywhere = Hitbox { left: -1.0, right: 129.0, top: -40.0, bottom: 97.0 };
    let mut at = feet;
    for step in 1..=steps {
        let x = feet.x + (to - feet.x) * f64::from(step) / f64::from(steps);
        let mut next = DVec2::new(x, at.y);
        room.ramps(&everywhere, |_, ramp| {
            let came_over = if ramp.spans(at.x) {
                at.y <= ramp.at(at.x) + 1e-9
            } else {
                ramp.spans(x) && at.y <= ramp.end(x < at.x).y + 2.0 * STEP
            };
            if came_over {
                next.y = next.y.min(ramp.at(x));
            }
        });
        if !room.fits(next) {
            return (at, true);
        }
        at = next;
    }
    (at, false)
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(1000))]

    #[test]
    fn the_way_over_slopes_is_that_of_tiny_steps((grid, body, feet) in scene(), by in -40.0f64..40.0) {
        let room = room(&grid, &body);
        let to = feet.x + by;
        let (slow, stopped) = slow_walk(&room, feet, to);
        let fast = room.walk(feet, to, Footing::Ground { steepest: f64::INFINITY });
        let near = (fast.feet - slow).abs().max_element() <= 3.0 * STEP;
        let rows: Vec<Vec<usize>> = (0..6).map(|r| (0..8).map(|c| grid.kind(c, r)).collect()).collect();
        prop_assert!(near && fast.blocked == stopped, "{rows:?} {:?} {:?} {body:?} {feet:?} to {to}: {:?} {}, slowly {slow:?} {stopped}", grid.blocks(), grid.ramps(), fast.feet, fast.blocked);
    }
}
