//! The list of what is near against the map itself, and plain tiles against both, over random questions.

use alloc::format;
use alloc::string::String;
use alloc::vec::Vec;

use proptest::prelude::*;

use super::*;
use crate::terrain::{Block, Bounce, Edge, Edges, Grid, Material, Ramp, Surface, TileProperties};
use crate::tuning::Release;

const SIDE: usize = 12;
const TILE: f64 = 16.0;
/// Questions about a room; each is answered nine times over.
const QUESTIONS: usize = 60;

fn kinds() -> Vec<TileProperties> {
    let ramp = |left_height, right_height| TileProperties::of(Surface::Ramp { left_height, right_height });
    let bounce = Material { bounce: Some(Bounce { height: 20.0, release: Release::None }), ..Material::PLAIN };
    let plain = [TileProperties::EMPTY, TileProperties::SOLID, TileProperties::ONE_WAY, TileProperties::LADDER];
    let ramps = [(0.0, 16.0), (16.0, 0.0), (0.0, 8.0), (8.0, 16.0), (12.0, 5.0)].map(|(left, right)| ramp(left, right));
    let bouncy = TileProperties { material: bounce, ..TileProperties::SOLID };
    plain.into_iter().chain(ramps).chain([bouncy]).collect()
}

/// A room of everything, or of solid tiles alone but for a corner.
fn room() -> impl Strategy<Value = Grid> {
    let edge = prop::sample::select(&[Edge::Solid, Edge::Open][..]);
    let tiles = prop::collection::vec((prop::bool::weighted(0.3), 1..10u8), SIDE * SIDE);
    let place = || (0.0..192.0f64, 0.0..192.0f64);
    let block = (place(), 2.0..40.0f64, 2.0..40.0f64).prop_map(|((x, y), width, height)| {
        Block::new(DVec2::new(x.round(), y.round()), width.round(), height.round())
    });
    let line = (place(), -80.0..80.0f64, -40.0..40.0f64).prop_filter_map("upright", |((x, y), right, down)| {
        Ramp::new(DVec2::new(x.round(), y.round()), DVec2::new((x + right).round(), (y + down).round()))
    });
    let objects = (prop::collection::vec(block, 0..4), prop::collection::vec(line, 0..4));
    (tiles, objects, edge.clone(), edge, any::<bool>()).prop_map(
        |(tiles, (blocks, ramps), side, floor, mostly_plain)| {
            let tiles = tiles.into_iter().enumerate().map(|(at, (filled, kind))| {
                let plain = mostly_plain && (at % SIDE > 3 || at / SIDE > 3);
                if filled { if plain { 1 } else { kind } } else { 0 }
            });
            let edges = Edges { left: side, right: side, top: side, bottom: floor };
            let (blocks, ramps) = if mostly_plain { (Vec::new(), Vec::new()) } else { (blocks, ramps) };
            let grid = Grid::new(SIDE, tiles.collect(), TILE, &kinds(), edges).unwrap();
            grid.with_objects(blocks, ramps).unwrap()
        },
    )
}

/// All that a tick may ask, in one line.
fn answers(around: &Surroundings<'_, Grid>, feet: DVec2, by: DVec2) -> String {
    let (x, y) = (feet.x + by.x, feet.y + by.y);
    let walks = [Footing::Ground { steepest: 1.0 }, Footing::Air, Footing::Fixed].map(|way| around.walk(feet, x, way));
    let vertical = if by.y < 0.0 {
        (Some(around.rise(feet, y)), around.nudge(feet, y, 6.0, true), None)
    } else {
        (None, None, around.first_floor(feet.x, feet.y, y))
    };
    let set_down = around.set_down(feet, DVec2::new(x, feet.y), 8.0, 4.0);
    let walls = around.walls(feet, 2.0, None);
    let tops = walls.left.map(|wall| (around.wall_spans(wall, feet.y - 1.0), around.wall_top(wall, feet.y - 1.0, y)));
    format!("{walks:?} {vertical:?} {set_down:?} {walls:?} {tops:?} {:?}", around.overlapped(feet))
}

/// Whether where nothing but plain tiles is, the answers are those of rows and columns.
fn is_as_plain(around: &Surroundings<'_, Grid>, feet: DVec2, by: DVec2) -> bool {
    let (grid, body) = (around.terrain, around.body);
    let cells = Cells::of(grid.grid_lines(), body, feet);
    let walk = around.walk(feet, feet.x + by.x, Footing::Air);
    let along_x = Swept { place: walk.feet.x, blocked: walk.blocked };
    let along_y = if by.y < 0.0 {
        around.rise(feet, feet.y + by.y)
    } else {
        let floor = around.first_floor(feet.x, feet.y, feet.y + by.y);
        floor.map_or(Swept::free(feet.y + by.y), |floor| Swept::at(floor.y))
    };
    let stands = around.first_floor(feet.x, feet.y, feet.y).is_some();
    along_x == sweep_x_from(grid, body, &cells, feet.x, feet.x + by.x)
        && along_y == sweep_y_from(grid, body, &cells, feet.y, feet.y + by.y)
        && stands == stands_on_solid(grid, feet, &cells)
        && around.walls(feet, 2.0, None) == walls_beside(grid, body, feet, 2.0, &cells)
}

proptest! {
    // More than a million questions.
    #![proptest_config(ProptestConfig::with_cases(2500))]

    #[test]
    fn the_list_and_the_map_give_the_same_answers(grid in room(), size in (1u32..40, 1u32..40), seed in any::<u64>()) {
        let body = Body { width: f64::from(size.0) * 0.5 + 4.0, height: f64::from(size.1) };
        let mut state = seed | 1;
        let mut next = |most: f64| {
            state = state.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
            let share = (state >> 40) as f64 / (1u64 << 24) as f64 * most;
            // Half of the places are where things meet exactly.
            if state & 2 == 0 { share.round() } else { share }
        };
        let read = Surroundings::without_movers(&grid, &body, true, None);
        let mut listed = 0;
        for _ in 0..QUESTIONS {
            let feet = DVec2::new(next(230.0) - 20.0, next(230.0) - 20.0);
            if !read.fits(feet) {
                continue;
            }
            listed += 1;
            let by = DVec2::new(next(24.0) - 12.0, next(24.0) - 12.0);
            let area = read.area_between(feet, feet + by, 9.0);
            // What is known may end in the middle of what is asked about.
            let known = if listed % 3 == 0 { area } else { read.area_between(feet, feet, next(20.0)) };
            let list = Surroundings::without_movers(&grid, &body, true, Some(&known));
            prop_assert_eq!(answers(&list, feet, by), answers(&read, feet, by), "{:?} by {}", feet, by);
            if list.nearby.is_plain_in(&area) {
                prop_assert!(is_as_plain(&read, feet, by), "{feet:?} by {by}");
            }
        }
    }
}
