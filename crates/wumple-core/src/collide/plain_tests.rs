use alloc::vec::Vec;
use proptest::prelude::*;

use super::super::{Footing, Surroundings, slow};
use super::*;
use crate::terrain::{Edges, Grid, TileProperties};

fn sweep_x(terrain: &Grid, body: &Body, feet: DVec2, to: f64) -> Swept {
    sweep_x_from(terrain, body, &Cells::of(terrain.grid_lines(), body, feet), feet.x, to)
}

fn sweep_y(terrain: &Grid, body: &Body, feet: DVec2, to: f64) -> Swept {
    sweep_y_from(terrain, body, &Cells::of(terrain.grid_lines(), body, feet), feet.y, to)
}

/// A small random map with at least one free tile, and a body placed somewhere free in or around it.
fn scene() -> impl Strategy<Value = (Grid, Body, DVec2)> {
    let edge = prop::sample::select(&[Edge::Solid, Edge::Open, Edge::Deadly][..]);
    let edges = (edge.clone(), edge.clone(), edge.clone(), edge).prop_map(|(left, right, top, bottom)| Edges {
        left,
        right,
        top,
        bottom,
    });
    let tile = prop::sample::select(&[16.0, 8.0, 10.0, 13.5, 1.0 / 1024.0 + 9.0][..]);
    let grid = (1..9usize, 1..9usize, tile, edges).prop_flat_map(|(columns, rows, tile, edges)| {
        prop::collection::vec(prop::bool::weighted(0.2), columns * rows).prop_map(move |solid| {
            let tiles: Vec<u8> = solid.into_iter().map(u8::from).collect();
            Grid::new(columns, tiles, tile, &[TileProperties::EMPTY, TileProperties::SOLID], edges).unwrap()
        })
    });
    let place = (-40i32..160, -40i32..160, prop::bool::ANY, -0.5f64..0.5);
    (grid, 1u32..60, 1u32..60, place).prop_filter_map("overlaps", |(grid, width, height, (x, y, whole, part))| {
        let body = Body { width: f64::from(width) * 0.5, height: f64::from(height) * 0.5 };
        let part = if whole { 0.0 } else { part };
        let feet = DVec2::new(f64::from(x) + part, f64::from(y) + part);
        room(&grid, &body).overlapped(feet).is_none().then_some((grid, body, feet))
    })
}

fn room<'a>(grid: &'a Grid, body: &'a Body) -> Surroundings<'a, Grid> {
    Surroundings::without_movers(grid, body, true, None)
}

fn on_solid(grid: &Grid, body: &Body, feet: DVec2) -> bool {
    stands_on_solid(grid, feet, &Cells::of(grid.grid_lines(), body, feet))
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(2000))]

    #[test]
    fn the_fast_sweep_equals_the_slow_one((grid, body, feet) in scene(), by in -300.0f64..300.0, whole in prop::bool::ANY) {
        let by = if whole { crate::space::float::floor(by) } else { by };
        prop_assert_eq!(sweep_x(&grid, &body, feet, feet.x + by), slow::sweep_x(&grid, &body, feet, feet.x + by));
        prop_assert_eq!(sweep_y(&grid, &body, feet, feet.y + by), slow::sweep_y(&grid, &body, feet, feet.y + by));
        prop_assert_eq!(sweep_y(&grid, &body, feet, feet.y), slow::sweep_y(&grid, &body, feet, feet.y));
    }

    #[test]
    fn what_knows_everything_equals_what_knows_plain_tiles((grid, body, feet) in scene(), by in -300.0f64..300.0) {
        let room = room(&grid, &body);
        let (x, y) = (feet.x + by, feet.y + by);
        let walk = room.walk(feet, x, Footing::Air);
        prop_assert_eq!(Swept { place: walk.feet.x, blocked: walk.blocked }, sweep_x(&grid, &body, feet, x));
        if by < 0.0 {
            prop_assert_eq!(room.rise(feet, y), sweep_y(&grid, &body, feet, y));
        } else {
            let top = room.first_floor(feet.x, feet.y, y);
            prop_assert_eq!(top.map_or(Swept::free(y), |top| Swept::at(top.y)), sweep_y(&grid, &body, feet, y));
        }
    }

    #[test]
    fn after_a_sweep_nothing_overlaps((grid, body, feet) in scene(), by in -1e6f64..1e6) {
        let x = sweep_x(&grid, &body, feet, feet.x + by).place;
        prop_assert_eq!(room(&grid, &body).overlapped(DVec2::new(x, feet.y)), None);
        let y = sweep_y(&grid, &body, feet, feet.y + by).place;
        prop_assert_eq!(room(&grid, &body).overlapped(DVec2::new(feet.x, y)), None);
    }

    #[test]
    fn support_is_where_a_sweep_down_stops_at_once((grid, body, feet) in scene()) {
        let down = sweep_y(&grid, &body, feet, feet.y + 400.0);
        if down.blocked {
            prop_assert!(on_solid(&grid, &body, DVec2::new(feet.x, down.place)));
        }
        prop_assert_eq!(on_solid(&grid, &body, feet), sweep_y(&grid, &body, feet, feet.y).blocked);
    }

    #[test]
    fn a_wall_within_the_probe_is_one_that_a_sweep_would_meet((grid, body, feet) in scene(), probe in 0u32..80) {
        let probe = f64::from(probe) * 0.25;
        let beyond = probe + 1.0 / 1024.0;
        let meets = |by: f64| {
            let swept = sweep_x(&grid, &body, feet, feet.x + by);
            // Kept exact: the face is compared with the body's place, never with a sum of both.
            swept.blocked && if by < 0.0 { feet.x <= swept.place + probe } else { feet.x >= swept.place - probe }
        };
        let walls = walls_beside(&grid, &body, feet, probe, &Cells::of(grid.grid_lines(), &body, feet));
        prop_assert_eq!((walls.left.is_some(), walls.right.is_some()), (meets(-beyond), meets(beyond)));
        prop_assert_eq!(walls, room(&grid, &body).walls(feet, probe, None));
    }
}

#[test]
fn a_face_blocks_what_would_pass_it_and_a_floor_what_would_reach_it() {
    let grid = Grid::from_rows(&["....", ".#..", "...."], 16.0, Edges::default()).unwrap();
    let body = Body { width: 10.0, height: 16.0 };
    let beside = DVec2::new(8.0, 32.0);
    assert_eq!(sweep_x(&grid, &body, beside, 11.0), Swept { place: 11.0, blocked: false });
    assert_eq!(sweep_x(&grid, &body, beside, 11.0f64.next_up()), Swept { place: 11.0, blocked: true });
    let above = DVec2::new(24.0, 10.0);
    assert_eq!(sweep_y(&grid, &body, above, 16.0), Swept { place: 16.0, blocked: true });
    assert!(!sweep_y(&grid, &body, above, 16.0f64.next_down()).blocked);
    let below = DVec2::new(24.0, 60.0);
    assert_eq!(sweep_y(&grid, &body, below, 48.0), Swept { place: 48.0, blocked: false });
    assert_eq!(sweep_y(&grid, &body, below, 48.0f64.next_down()), Swept { place: 48.0, blocked: true });
}
