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
    let body = (1u32..24, 2u32..40);
    (tiles, block, prop::bool::ANY, body, 0.0..128.0f64, 0.0..96.0f64).prop_filter_map(
        "nowhere to stand",
        |(tiles, (x, y, width, height), has_block, (wide, tall), at, from)| {
            let tiles = tiles.into_iter().map(|(filled, kind)| if filled { kind } else { 0 }).collect();
            let blocks = if has_block { Vec::from([Block::new(DVec2::new(x, y), width, height)]) } else { Vec::new() };
            let grid = Grid::new(8, tiles, 16.0, &kinds(), Edges::default()).unwrap();
            let grid = grid.with_objects(blocks, Vec::new()).unwrap();
            let body = Body { width: f64::from(wide), height: f64::from(tall) * 0.5 };
            let room = room(&grid, &body);
            let top = room.first_top(at, from, 96.0)?;
            let feet = DVec2::new(at, top.y);
            room.fits(feet).then_some((grid.clone(), body, feet))
        },
    )
}

fn room<'a>(grid: &'a Grid, body: &'a Body) -> Room<'a, Grid> {
    Room::without_movers(grid, body, false)
}

/// In tiny steps: up whatever slope the feet come to, until the hitbox overlaps something. In the air the way
/// ends at the far end of a slope that is above the feet.
fn slow_walk(room: &Room<'_, Grid>, feet: DVec2, to: f64, in_air: bool) -> (DVec2, bool) {
    let steps = ((to - feet.x).abs() / STEP).ceil() as u32;
    let everywhere = Hitbox { left: -1.0, right: 129.0, top: -40.0, bottom: 97.0 };
    let mut at = feet;
    for step in 1..=steps {
        let x = feet.x + (to - feet.x) * f64::from(step) / f64::from(steps);
        let mut next = DVec2::new(x, at.y);
        let mut end = None;
        room.ramps(&everywhere, |_, ramp| {
            let came_over = if ramp.spans(at.x) {
                at.y <= ramp.at(at.x) + 1e-9
            } else {
                ramp.spans(x) && at.y <= ramp.end(x < at.x).y + 2.0 * STEP
            };
            if came_over {
                next.y = next.y.min(ramp.at(x));
                let far = ramp.end(to > feet.x);
                let leaves = (x - far.x) * (to - feet.x) > 0.0 && ramp.spans(at.x);
                if in_air && leaves && feet.y > far.y {
                    end = Some(far);
                }
            }
        });
        if let Some(end) = end {
            return (end, false);
        }
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
        let (slow, stopped) = slow_walk(&room, feet, feet.x + by, false);
        let fast = room.walk(feet, feet.x + by, Footing::Ground { steepest: f64::INFINITY });
        let near = (fast.feet - slow).abs().max_element() <= 3.0 * STEP;
        prop_assert!(near && fast.blocked == stopped, "{} {feet:?} by {by}: {fast:?}, slowly {slow:?}", drawn(&grid));
    }

    #[test]
    fn so_it_is_in_the_air((grid, body, feet) in scene(), by in -40.0f64..40.0, up in 0.0f64..20.0) {
        let room = room(&grid, &body);
        let feet = DVec2::new(feet.x, feet.y - up);
        if !room.fits(feet) {
            return Ok(());
        }
        let (slow, stopped) = slow_walk(&room, feet, feet.x + by, true);
        let fast = room.walk(feet, feet.x + by, Footing::Air);
        let near = (fast.feet - slow).abs().max_element() <= 3.0 * STEP;
        prop_assert!(near && fast.blocked == stopped, "{} {feet:?} by {by}: {fast:?}, slowly {slow:?}", drawn(&grid));
    }
}

/// The kinds of a room's tiles, row by row, and what lies over them.
fn drawn(grid: &Grid) -> alloc::string::String {
    let rows: Vec<Vec<usize>> = (0..6).map(|row| (0..8).map(|column| grid.kind(column, row)).collect()).collect();
    alloc::format!("{rows:?} {:?} {:?}", grid.blocks(), grid.ramps())
}
