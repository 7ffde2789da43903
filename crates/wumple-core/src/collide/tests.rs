//! The way over slopes against tiny steps, each looked at on its own.

use alloc::vec::Vec;
use proptest::prelude::*;

use super::*;
use crate::nearby::PieceId;
use crate::terrain::{Block, Edges, Grid, Ramp, Surface, TileProperties};

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
            let top = room.first_floor(at, from, 96.0)?;
            let feet = DVec2::new(at, top.y);
            room.fits(feet).then_some((grid.clone(), body, feet))
        },
    )
}

fn room<'a>(grid: &'a Grid, body: &'a Body) -> Surroundings<'a, Grid> {
    Surroundings::without_movers(grid, body, false, None)
}

/// In tiny steps: up whatever slope the feet come to, until the hitbox overlaps something. In the air the way
/// ends at the far end of a slope that is above the feet.
fn slow_walk(room: &Surroundings<'_, Grid>, feet: DVec2, to: f64, in_air: bool) -> (DVec2, bool) {
    let steps = ((to - feet.x).abs() / STEP).ceil() as u32;
    let everywhere = Hitbox { left: -1.0, right: 129.0, top: -40.0, bottom: 97.0 };
    let mut at = feet;
    for step in 1..=steps {
        let x = feet.x + (to - feet.x) * f64::from(step) / f64::from(steps);
        let mut next = DVec2::new(x, at.y);
        let mut end = None;
        room.slopes(&everywhere, |slope| {
            let ramp = &slope.ramp;
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
        // A sill: a ramp touches what was gone over so far, so a face no higher than a join is none.
        let half = room.body.half_width();
        let gone = Hitbox {
            left: feet.x.min(x) - half,
            right: feet.x.max(x) + half,
            top: next.y - room.body.height,
            bottom: next.y,
        };
        let is_on_sill = || {
            let mut touches = false;
            room.slopes(&gone.grown(JOIN), |_| touches = true);
            touches && room.fits(DVec2::new(next.x, next.y - JOIN))
        };
        if !room.fits(next) {
            if !is_on_sill() {
                return (at, true);
            }
            next.y -= JOIN;
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

/// No line of [`lines`] is steeper.
const STEEPEST: f64 = 15.0;

/// A room of ramps drawn end to end and across one another.
fn lines() -> impl Strategy<Value = Vec<Ramp>> {
    let line = (0i32..120, 10i32..90, 2i32..40, -30i32..30, any::<bool>());
    prop::collection::vec(line, 1..7).prop_map(|lines| {
        let mut at = DVec2::ZERO;
        let ramps = lines.into_iter().filter_map(|(x, y, along, down, goes_on)| {
            let from = if goes_on && at != DVec2::ZERO { at } else { DVec2::new(f64::from(x), f64::from(y)) };
            at = from + DVec2::new(f64::from(along), f64::from(down));
            Ramp::new(from, at)
        });
        ramps.collect()
    })
}

/// The rise beside feets' middle in tiny steps: up with whatever line was not above it a step before. Says whether
/// any line took it up.
fn slow_rise(ramps: &[Ramp], feet: DVec2, to: f64) -> (f64, bool) {
    let steps = ((to - feet.x).abs() / STEP).ceil() as i32;
    let (mut y, mut rose) = (feet.y, false);
    let mut before = feet.x;
    for step in 1..=steps {
        let x = feet.x + (to - feet.x) * f64::from(step) / f64::from(steps);
        let mut next = y;
        for ramp in ramps.iter().filter(|ramp| ramp.spans(x)) {
            // The line that went up in this step may end above the one that begins there.
            if ramp.at(before) >= y - STEP * STEEPEST && ramp.at(x) < next {
                (next, rose) = (ramp.at(x), true);
            }
        }
        (y, before) = (next, x);
    }
    (y, rose)
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(2000))]

    #[test]
    fn what_is_buried_lies_beneath_a_rise_of_tiny_steps(
        ramps in lines(), x in 20.0f64..100.0, y in 10.0f64..90.0, beside in 1.0f64..30.0, top in 0.0f64..96.0,
        to_right in any::<bool>(),
    ) {
        let grid = Grid::new(8, alloc::vec![0; 8 * 6], 16.0, &kinds(), Edges::default()).unwrap();
        let grid = grid.with_objects(Vec::new(), ramps.clone()).unwrap();
        let body = Body { width: 60.0, height: 20.0 };
        let feet = DVec2::new(x, y);
        let (left, right) = if to_right { (x + beside, x + beside + 9.0) } else { (x - beside - 9.0, x - beside) };
        let obstacle = Obstacle::of(&Hitbox { left, right, top, bottom: top + 30.0 }, PieceId::Block(0));
        let (height, rose) = slow_rise(&ramps, feet, if to_right { left } else { right });
        // At the brink tiny steps decide nothing.
        let near = |a: f64, b: f64| (a - b).abs() < 0.3;
        let at_brink = near(height, top) || ramps.iter().any(|ramp| {
            near(ramp.end(!to_right).y, y) || near(ramp.at(x), y) || ramps.iter().any(|other| {
                other != ramp && near(other.at(ramp.end(!to_right).x), ramp.end(!to_right).y)
                    && other.end(to_right) != ramp.end(!to_right)
            })
        });
        if !at_brink && top < y {
            let buried = room(&grid, &body).is_buried(&obstacle, feet);
            prop_assert_eq!(buried, rose && height <= top, "{:?} {:?}: up to {}", feet, ramps, height);
        }
    }
}
