use core::ops::Range;

use glam::DVec2;

use crate::geometry::{Body, Lattice};

/// The tiles that a hitbox overlaps, first and last along each axis: kept from place to place, because a
/// body seldom enters another tile.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) struct Cells {
    pub(crate) left: i32,
    pub(crate) right: i32,
    pub(crate) top: i32,
    pub(crate) bottom: i32,
}

impl Cells {
    pub(crate) fn of(lattice: Lattice, body: &Body, feet: DVec2) -> Cells {
        let half = body.half_width();
        let (left, right) = lattice.cells(feet.x, half, half);
        let (top, bottom) = lattice.cells(feet.y, body.height, 0.0);
        Cells { left, right, top, bottom }
    }

    /// Follows the body along x: only the lines on its way are looked at.
    #[inline(always)]
    pub(crate) fn follow_x(&mut self, lattice: Lattice, body: &Body, from: f64, x: f64) {
        let half = body.half_width();
        let entered_tile = if x > from {
            x >= lattice.line(self.left + 1) + half || x > lattice.line(self.right + 1) - half
        } else {
            x < from && (x < lattice.line(self.left) + half || x <= lattice.line(self.right) - half)
        };
        if entered_tile {
            (self.left, self.right) = lattice.cells(x, half, half);
        }
    }

    /// Follows the body along y.
    #[inline(always)]
    pub(crate) fn follow_y(&mut self, lattice: Lattice, body: &Body, from: f64, y: f64) {
        let entered_tile = if y > from {
            y >= lattice.line(self.top + 1) + body.height || y > lattice.line(self.bottom + 1)
        } else {
            y < from && (y < lattice.line(self.top) + body.height || y <= lattice.line(self.bottom))
        };
        if entered_tile {
            (self.top, self.bottom) = lattice.cells(y, body.height, 0.0);
        }
    }

    #[inline(always)]
    pub(crate) fn columns(&self) -> Range<i32> {
        self.left..self.right + 1
    }

    #[inline(always)]
    pub(crate) fn rows(&self) -> Range<i32> {
        self.top..self.bottom + 1
    }
}
