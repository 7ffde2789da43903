//! One axis at a time: how far can this box go, and what stops it.
//!
//! Only the columns (or rows) between the start and the end are visited, so the cost does not grow with
//! the map. [`slow`] answers the same questions the obvious way and is the oracle in the tests.

pub mod slow;

use glam::DVec2;

use crate::geometry::Body;
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
    fn free(place: f64) -> Swept {
        Swept { place, blocked: false }
    }

    #[inline]
    fn at(place: f64) -> Swept {
        Swept { place, blocked: true }
    }
}

/// Moves a body from `feet` along x to `to`, px. A face stops what would pass it; to touch it is free.
#[inline]
pub fn sweep_x<T: Terrain + ?Sized>(terrain: &T, body: &Body, feet: DVec2, to: f64) -> Swept {
    if to > feet.x {
        sweep_right(terrain, body, feet, to)
    } else if to < feet.x {
        sweep_left(terrain, body, feet, to)
    } else {
        Swept::free(to)
    }
}

/// Moves a body from `feet` along y to `to`, px. Downward a floor stops what would reach it; upward a
/// ceiling stops what would pass it. A sweep to where the body already is goes downward.
#[inline]
pub fn sweep_y<T: Terrain + ?Sized>(terrain: &T, body: &Body, feet: DVec2, to: f64) -> Swept {
    if to >= feet.y { sweep_down(terrain, body, feet, to) } else { sweep_up(terrain, body, feet, to) }
}

#[inline]
fn sweep_right<T: Terrain + ?Sized>(terrain: &T, body: &Body, feet: DVec2, to: f64) -> Swept {
    let (lattice, half) = (terrain.lattice(), body.half_width());
    let first = lattice.last_before(feet.x, -half) + 1;
    if to > lattice.line(first) - half {
        let last = lattice.last_before(to, -half);
        for column in first.max(0)..=last.min(terrain.columns() - 1) {
            if any_solid_in_column(terrain, body, feet.y, column) {
                return Swept::at(lattice.line(column) - half);
            }
        }
    }
    let wall = terrain.width() - half;
    if to > wall && feet.x <= wall && terrain.edges().right == Edge::Solid {
        return Swept::at(wall);
    }
    Swept::free(to)
}

#[inline]
fn sweep_left<T: Terrain + ?Sized>(terrain: &T, body: &Body, feet: DVec2, to: f64) -> Swept {
    let (lattice, half) = (terrain.lattice(), body.half_width());
    let first = lattice.last_at_or_before(feet.x, half) - 1;
    if to < lattice.line(first + 1) + half {
        let last = lattice.last_at_or_before(to, half);
        for column in (last.max(0)..=first.min(terrain.columns() - 1)).rev() {
            if any_solid_in_column(terrain, body, feet.y, column) {
                return Swept::at(lattice.line(column + 1) + half);
            }
        }
    }
    if to < half && feet.x >= half && terrain.edges().left == Edge::Solid {
        return Swept::at(half);
    }
    Swept::free(to)
}

#[inline]
fn sweep_down<T: Terrain + ?Sized>(terrain: &T, body: &Body, feet: DVec2, to: f64) -> Swept {
    let lattice = terrain.lattice();
    let first = lattice.last_before(feet.y, 0.0) + 1;
    if to >= lattice.line(first) {
        let last = lattice.last_at_or_before(to, 0.0);
        for row in first.max(0)..=last.min(terrain.rows() - 1) {
            if any_solid_in_row(terrain, body, feet.x, row) {
                return Swept::at(lattice.line(row));
            }
        }
    }
    let floor = terrain.height();
    if to >= floor && feet.y <= floor && terrain.edges().bottom == Edge::Solid {
        return Swept::at(floor);
    }
    Swept::free(to)
}

#[inline]
fn sweep_up<T: Terrain + ?Sized>(terrain: &T, body: &Body, feet: DVec2, to: f64) -> Swept {
    let (lattice, height) = (terrain.lattice(), body.height);
    let first = lattice.last_at_or_before(feet.y, height) - 1;
    if to < lattice.line(first + 1) + height {
        let last = lattice.last_at_or_before(to, height);
        for row in (last.max(0)..=first.min(terrain.rows() - 1)).rev() {
            if any_solid_in_row(terrain, body, feet.x, row) {
                return Swept::at(lattice.line(row + 1) + height);
            }
        }
    }
    if to < height && feet.y >= height && terrain.edges().top == Edge::Solid {
        return Swept::at(height);
    }
    Swept::free(to)
}

/// Whether a body with its feet at height `y` meets anything solid in this column of the map.
#[inline]
pub(crate) fn any_solid_in_column<T: Terrain + ?Sized>(terrain: &T, body: &Body, y: f64, column: i32) -> bool {
    let (top, bottom) = terrain.lattice().cells(y, body.height, 0.0);
    terrain.any_solid(column..column + 1, top..bottom + 1)
}

/// Whether a body with its feet at `x` meets anything solid in this row of the map.
#[inline]
pub(crate) fn any_solid_in_row<T: Terrain + ?Sized>(terrain: &T, body: &Body, x: f64, row: i32) -> bool {
    let half = body.half_width();
    let (left, right) = terrain.lattice().cells(x, half, half);
    terrain.any_solid(left..right + 1, row..row + 1)
}

/// Whether the feet stand exactly on something solid.
#[inline]
pub(crate) fn stands_on_solid<T: Terrain + ?Sized>(terrain: &T, body: &Body, feet: DVec2) -> bool {
    let lattice = terrain.lattice();
    let row = lattice.last_at_or_before(feet.y, 0.0);
    if feet.y != lattice.line(row) {
        return feet.y == terrain.height() && terrain.edges().bottom == Edge::Solid;
    }
    if row == terrain.rows() {
        return terrain.edges().bottom == Edge::Solid;
    }
    (0..terrain.rows()).contains(&row) && any_solid_in_row(terrain, body, feet.x, row)
}

/// Whether a solid face is beside the hitbox, no further away than `probe` px: on the left, on the right.
#[inline]
pub(crate) fn walls_beside<T: Terrain + ?Sized>(terrain: &T, body: &Body, feet: DVec2, probe: f64) -> (bool, bool) {
    let (lattice, half) = (terrain.lattice(), body.half_width());
    let (x, near, width) = (feet.x, half + probe, terrain.width());
    let mut beside = (
        x <= near && x >= half && terrain.edges().left == Edge::Solid,
        x >= width - near && x <= width - half && terrain.edges().right == Edge::Solid,
    );
    // Faces on the left are the right edges of tiles before `left`, those on the right the left edges of
    // tiles from `right` on; mostly none is near enough to ask for its tiles.
    let left = lattice.last_at_or_before(x, half);
    let right = lattice.last_before(x, -half) + 1;
    let near_left = x <= lattice.line(left) + near;
    let near_right = x >= lattice.line(right) - near;
    if near_left || near_right {
        let (top, bottom) = lattice.cells(feet.y, body.height, 0.0);
        if near_left {
            beside.0 |= terrain.any_solid(lattice.last_before(x, near)..left, top..bottom + 1);
        }
        if near_right {
            beside.1 |= terrain.any_solid(right..lattice.last_at_or_before(x, -near) + 1, top..bottom + 1);
        }
    }
    beside
}

/// The solid tile, or edge of the map, that a hitbox with these feet overlaps, if any.
pub(crate) fn overlapped<T: Terrain + ?Sized>(terrain: &T, body: &Body, feet: DVec2) -> Option<Overlapped> {
    use crate::terrain::Side;
    let (lattice, half, edges) = (terrain.lattice(), body.half_width(), terrain.edges());
    for (side, beyond) in [
        (Side::Left, feet.x < half),
        (Side::Right, feet.x > terrain.width() - half),
        (Side::Top, feet.y < body.height),
        (Side::Bottom, feet.y > terrain.height()),
    ] {
        if beyond && edges.on(side) == Edge::Solid {
            return Some(Overlapped::Edge(side));
        }
    }
    let (left, right) = lattice.cells(feet.x, half, half);
    let (top, bottom) = lattice.cells(feet.y, body.height, 0.0);
    for row in top.max(0)..=bottom.min(terrain.rows() - 1) {
        for column in left.max(0)..=right.min(terrain.columns() - 1) {
            if terrain.is_solid(column, row) {
                return Some(Overlapped::Tile { column, row });
            }
        }
    }
    None
}

/// What a hitbox overlaps though it should not.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Overlapped {
    Tile { column: i32, row: i32 },
    Edge(crate::terrain::Side),
}

#[cfg(test)]
mod tests;
