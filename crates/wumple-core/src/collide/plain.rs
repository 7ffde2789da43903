//! Where nothing but plain solid tiles is near: how far a box can go along one axis, and what stops it.
//!
//! Only the columns (or rows) between the start and the end are visited, so the cost does not grow with
//! the map. [`slow`](super::slow) answers the same questions the obvious way and is the oracle in the tests.

use glam::DVec2;

use super::{Cells, Wall, Walls};
use crate::input::Direction;
use crate::space::Body;
use crate::terrain::{Edge, Terrain};

/// How far a sweep came.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Swept {
    /// The place reached along the axis, px: flush with what stopped it, to the bit.
    pub place: f64,
    /// Whether something stopped it.
    pub blocked: bool,
}

impl Swept {
    #[inline]
    pub(super) fn free(place: f64) -> Swept {
        Swept { place, blocked: false }
    }

    #[inline]
    pub(super) fn at(place: f64) -> Swept {
        Swept { place, blocked: true }
    }
}

/// Moves a body along x to `to`, px. A face stops what would pass it; to touch it is free.
#[inline(always)]
pub(crate) fn sweep_x_from<T: Terrain + ?Sized>(terrain: &T, body: &Body, cells: &Cells, from: f64, to: f64) -> Swept {
    if to > from {
        sweep_right(terrain, body, cells, from, to)
    } else if to < from {
        sweep_left(terrain, body, cells, from, to)
    } else {
        Swept::free(to)
    }
}

/// Moves a body along y to `to`, px. Downward a floor stops what would reach it; upward a ceiling stops what would
/// pass it. A sweep to where the body already is goes downward.
#[inline(always)]
pub(crate) fn sweep_y_from<T: Terrain + ?Sized>(terrain: &T, body: &Body, cells: &Cells, from: f64, to: f64) -> Swept {
    if to >= from { sweep_down(terrain, cells, from, to) } else { sweep_up(terrain, body, cells, from, to) }
}

#[inline(always)]
fn sweep_right<T: Terrain + ?Sized>(terrain: &T, body: &Body, cells: &Cells, from: f64, to: f64) -> Swept {
    let (grid_lines, half, first) = (terrain.grid_lines(), body.half_width(), cells.right + 1);
    if to > grid_lines.line(first) - half {
        let last = grid_lines.last_before(to, -half);
        for column in first.max(terrain.first_column())..last.min(terrain.columns() - 1) + 1 {
            if terrain.any_solid(column..column + 1, cells.rows()) {
                return Swept::at(grid_lines.line(column) - half);
            }
        }
    }
    let wall = terrain.width() - half;
    if to > wall && from <= wall && terrain.edges().right == Edge::Solid {
        return Swept::at(wall);
    }
    Swept::free(to)
}

#[inline(always)]
fn sweep_left<T: Terrain + ?Sized>(terrain: &T, body: &Body, cells: &Cells, from: f64, to: f64) -> Swept {
    let (grid_lines, half, first) = (terrain.grid_lines(), body.half_width(), cells.left - 1);
    if to < grid_lines.line(first + 1) + half {
        let last = grid_lines.last_at_or_before(to, half);
        for column in (last.max(terrain.first_column())..first.min(terrain.columns() - 1) + 1).rev() {
            if terrain.any_solid(column..column + 1, cells.rows()) {
                return Swept::at(grid_lines.line(column + 1) + half);
            }
        }
    }
    let wall = terrain.left() + half;
    if to < wall && from >= wall && terrain.edges().left == Edge::Solid {
        return Swept::at(wall);
    }
    Swept::free(to)
}

#[inline(always)]
fn sweep_down<T: Terrain + ?Sized>(terrain: &T, cells: &Cells, from: f64, to: f64) -> Swept {
    let (grid_lines, first) = (terrain.grid_lines(), cells.bottom + 1);
    if to >= grid_lines.line(first) {
        let last = grid_lines.last_at_or_before(to, 0.0);
        for row in first.max(terrain.first_row())..last.min(terrain.rows() - 1) + 1 {
            if terrain.any_solid(cells.columns(), row..row + 1) {
                return Swept::at(grid_lines.line(row));
            }
        }
    }
    let floor = terrain.height();
    if to >= floor && from <= floor && terrain.edges().bottom == Edge::Solid {
        return Swept::at(floor);
    }
    Swept::free(to)
}

#[inline(always)]
fn sweep_up<T: Terrain + ?Sized>(terrain: &T, body: &Body, cells: &Cells, from: f64, to: f64) -> Swept {
    let (grid_lines, height, first) = (terrain.grid_lines(), body.height, cells.top - 1);
    if to < grid_lines.line(first + 1) + height {
        let last = grid_lines.last_at_or_before(to, height);
        for row in (last.max(terrain.first_row())..first.min(terrain.rows() - 1) + 1).rev() {
            if terrain.any_solid(cells.columns(), row..row + 1) {
                return Swept::at(grid_lines.line(row + 1) + height);
            }
        }
    }
    let ceiling = terrain.top() + height;
    if to < ceiling && from >= ceiling && terrain.edges().top == Edge::Solid {
        return Swept::at(ceiling);
    }
    Swept::free(to)
}

/// Whether the feet stand exactly on something solid. `cells` are those of the hitbox there.
#[inline(always)]
pub(crate) fn stands_on_solid<T: Terrain + ?Sized>(terrain: &T, feet: DVec2, cells: &Cells) -> bool {
    let below = cells.bottom + 1;
    (feet.y == terrain.grid_lines().line(below) && terrain.any_solid(cells.columns(), below..below + 1))
        || (feet.y == terrain.height() && terrain.edges().bottom == Edge::Solid)
}

/// The nearest solid faces beside the hitbox, no further away than `probe` px. `cells` are those of the
/// hitbox there.
#[inline(always)]
pub(crate) fn walls_beside<T: Terrain + ?Sized>(
    terrain: &T,
    body: &Body,
    feet: DVec2,
    probe: f64,
    cells: &Cells,
) -> Walls {
    let (grid_lines, half, x) = (terrain.grid_lines(), body.half_width(), feet.x);
    let (near, width) = (half + probe, terrain.width());
    let mut walls = Walls::default();
    // The faces within the probe: mostly none, so that no tile is asked for.
    let mut column = cells.left;
    while x <= grid_lines.line(column) + near && walls.left.is_none() {
        column -= 1;
        if terrain.any_solid(column..column + 1, cells.rows()) {
            walls.left = Some(Wall::still(Direction::Left, grid_lines.line(column + 1)));
        } else if column < terrain.first_column() {
            break;
        }
    }
    column = cells.right + 1;
    while x >= grid_lines.line(column) - near && walls.right.is_none() {
        if terrain.any_solid(column..column + 1, cells.rows()) {
            walls.right = Some(Wall::still(Direction::Right, grid_lines.line(column)));
        } else if column >= terrain.columns() {
            break;
        }
        column += 1;
    }
    let left = terrain.left();
    if x <= left + near && x >= left + half && terrain.edges().left == Edge::Solid {
        walls.left = walls.left.or(Some(Wall::still(Direction::Left, left)));
    }
    if x >= width - near && x <= width - half && terrain.edges().right == Edge::Solid {
        walls.right = walls.right.or(Some(Wall::still(Direction::Right, width)));
    }
    walls
}

#[cfg(test)]
#[path = "plain_tests.rs"]
mod tests;
