//! Ladders that do not lead where they seem to.

use wumple_core::{Grid, Surface, Terrain};

use super::{Finding, FindingKind};
use crate::files::{Level, TuningFile};
use crate::units::short;

pub(super) fn check(level: &Level, tuning: &TuningFile, found: &mut Vec<Finding>) {
    if tuning.tuning.ladder().is_none() {
        return;
    }
    let grid = &level.grid;
    for column in 0..grid.columns() {
        for row in 0..grid.rows() {
            if grid.surface(column, row) == Surface::Ladder && at(grid, column, row - 1) != Surface::Ladder {
                check_top(level, tuning, (column, row), found);
            }
        }
    }
}

/// What is at a place; outside of the map nothing.
fn at(grid: &Grid, column: i32, row: i32) -> Surface {
    if grid.has_tile(column, row) { grid.surface(column, row) } else { Surface::Empty }
}

/// The ladder whose uppermost tile is here.
fn check_top(level: &Level, tuning: &TuningFile, (column, row): (i32, i32), found: &mut Vec<Finding>) {
    let (grid, tile) = (&level.grid, level.grid.grid_lines().spacing());
    let is_solid = |column: i32, row: i32| at(grid, column, row) == Surface::Solid;
    let body = tuning.tuning.body();
    let ledges: Vec<i32> =
        [column - 1, column + 1].into_iter().filter_map(|side| ledge_beside(grid, side, row)).collect();
    let place = level.places().tile(column, row);
    // Up to the first thing over it.
    let ceiling = (0..row).rev().find(|above| is_solid(column, *above));
    if let Some(ceiling) = ceiling {
        let room = |ledge: i32| f64::from(ledge - ceiling - 1) * tile;
        let lowest = ledges.iter().copied().filter(|ledge| room(*ledge) < body.height).max();
        if let Some(ledge) = lowest.filter(|_| ledges.iter().all(|ledge| room(*ledge) < body.height)) {
            let words = [
                format!(
                    "over the ladder at column {column} the tile at row {ceiling} leaves {} px to the ledge at row {ledge}; the hitbox \
                     is {} px high",
                    short(room(ledge)),
                    short(body.height)
                ),
                "the way up ends with the head at the tile, below the ledge".into(),
                "nothing solid over the ladder".into(),
            ];
            found.push(Finding::new(FindingKind::LadderBlocked, place, words));
            return;
        }
    }
    let wall = tuning.tuning.wall();
    if wall.hold.is_some() || wall.jump.is_some() {
        return;
    }
    let jump = tuning.tuning.full_jump().1;
    let rise = |ledge: i32| f64::from(row - ledge) * tile;
    let nearest = ledges.iter().copied().max();
    if let Some(ledge) = nearest.filter(|ledge| rise(*ledge) > jump) {
        let words = [
            format!(
                "the ladder at column {column} ends {} tiles below the ledge at row {ledge}; a jump is {} tiles high",
                row - ledge,
                short(jump / tile)
            ),
            "whoever climbs it cannot come up onto the ledge".into(),
            "a longer ladder, up to the ledge".into(),
        ];
        found.push(Finding::new(FindingKind::LadderTooShort, place, words));
    }
}

/// The row of the top of what goes up beside a ladder's end, if it ends somewhere below the top of the map.
fn ledge_beside(grid: &Grid, side: i32, row: i32) -> Option<i32> {
    let is_solid = |row: i32| at(grid, side, row) == Surface::Solid;
    let mut ledge = if is_solid(row) { row } else { row - 1 };
    if !is_solid(ledge) {
        return None;
    }
    while ledge > 0 && is_solid(ledge - 1) {
        ledge -= 1;
    }
    (ledge > 0).then_some(ledge)
}
