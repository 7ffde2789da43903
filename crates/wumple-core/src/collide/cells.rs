use core::ops::Range;

use glam::DVec2;

use crate::space::{Body, GridLines};

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
    pub(crate) fn of(grid_lines: GridLines, body: &Body, feet: DVec2) -> Cells {
        let half = body.half_width();
        let (left, right) = grid_lines.cells(feet.x, half, half);
        let (top, bottom) = grid_lines.cells(feet.y, body.height, 0.0);
        Cells { left, right, top, bottom }
    }

    /// Follows the body along x: only the lines on its way are looked at.
    #[inline(always)]
    pub(crate) fn follow_x(&mut self, grid_lines: GridLines, body: &Body, from: f64, x: f64) {
        let half = body.half_width();
        let entered_tile = if x > from {
            x >= grid_lines.line(self.left + 1) + half || x > grid_lines.line(self.right + 1) - half
        } else {
            x < from && (x < grid_lines.line(self.left) + half || x <= grid_lines.line(self.right) - half)
        };
        if entered_tile {
            (self.left, self.right) = grid_lines.cells(x, half, half);
        }
    }

    /// Follows the body along y.
    #[inline(always)]
    pub(crate) fn follow_y(&mut self, grid_lines: GridLines, body: &Body, from: f64, y: f64) {
        let entered_tile = if y > from {
            y >= grid_lines.line(self.top + 1) + body.height || y > grid_lines.line(self.bottom + 1)
        } else {
            y < from && (y < grid_lines.line(self.top) + body.height || y <= grid_lines.line(self.bottom))
        };
        if entered_tile {
            (self.top, self.bottom) = grid_lines.cells(y, body.height, 0.0);
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
