//! Ladders: columns of ladder tiles. One directly beneath a one-way tile goes on through it.

use glam::DVec2;

use super::Surroundings;
use crate::nearby::surface;
use crate::space::Body;
use crate::terrain::{Surface, Terrain};

/// A ladder by its column.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) struct Ladder {
    pub(crate) column: i32,
}

impl Ladder {
    /// Where its middle is, px.
    pub(crate) fn centre(self, terrain: &(impl Terrain + ?Sized)) -> f64 {
        let lines = terrain.grid_lines();
        (lines.line(self.column) + lines.line(self.column + 1)) * 0.5
    }
}

/// The ladders around a body.
pub(crate) struct Ladders<'a, T: ?Sized> {
    terrain: &'a T,
    body: &'a Body,
    are_any: bool,
}

impl<'a, T: Terrain + ?Sized> Ladders<'a, T> {
    pub(crate) fn around(body: &Surroundings<'a, T>) -> Ladders<'a, T> {
        Ladders { terrain: body.terrain, body: body.body, are_any: body.ladders }
    }

    /// Whether this tile is a part of a ladder: one of its own, or a one-way tile right above it.
    fn is_ladder(&self, column: i32, row: i32) -> bool {
        self.are_any
            && match surface(self.terrain, column, row) {
                Surface::Ladder => true,
                Surface::OneWay => surface(self.terrain, column, row + 1) == Surface::Ladder,
                _ => false,
            }
    }

    /// The ladder nearest to the feet's middle, no further than the probe, that the hitbox overlaps.
    pub(crate) fn at_body(&self, feet: DVec2, probe: f64) -> Option<Ladder> {
        self.nearest(feet, probe, |ladder| self.is_at_body(ladder, feet))
    }

    /// The same with a ladder below the feet: its top no lower, its foot lower than they are.
    pub(crate) fn below(&self, feet: DVec2, probe: f64) -> Option<Ladder> {
        let row = self.terrain.grid_lines().last_at_or_before(feet.y, 0.0);
        self.nearest(feet, probe, |ladder| self.is_ladder(ladder.column, row))
    }

    /// Whether the hitbox overlaps a ladder.
    pub(crate) fn is_at_body(&self, ladder: Ladder, feet: DVec2) -> bool {
        let (grid_lines, half) = (self.terrain.grid_lines(), self.body.half_width());
        let beside =
            feet.x <= grid_lines.line(ladder.column) - half || feet.x >= grid_lines.line(ladder.column + 1) + half;
        let (top, bottom) = grid_lines.cells(feet.y, self.body.height, 0.0);
        !beside && (top..=bottom).any(|row| self.is_ladder(ladder.column, row))
    }

    fn nearest(&self, feet: DVec2, probe: f64, mut fits: impl FnMut(Ladder) -> bool) -> Option<Ladder> {
        let grid_lines = self.terrain.grid_lines();
        let reach = probe + grid_lines.spacing();
        let first = grid_lines.last_at_or_before(feet.x, reach).max(self.terrain.first_column());
        let last = grid_lines.last_at_or_before(feet.x, -reach).min(self.terrain.columns() - 1);
        let mut found: Option<(f64, Ladder)> = None;
        for column in first..=last {
            let ladder = Ladder { column };
            let off = (feet.x - ladder.centre(self.terrain)).abs();
            if off <= probe && found.is_none_or(|(least, _)| off < least) && fits(ladder) {
                found = Some((off, ladder));
            }
        }
        found.map(|(_, ladder)| ladder)
    }

    /// How far up a climb towards `to` may go: not above the ladder's top.
    pub(crate) fn climb_up_to(&self, ladder: Ladder, feet: DVec2, to: f64) -> f64 {
        let grid_lines = self.terrain.grid_lines();
        let (top, mut row) = grid_lines.cells(feet.y, self.body.height, 0.0);
        // Below the ladder's foot the feet hang free.
        while row >= top && !self.is_ladder(ladder.column, row) {
            row -= 1;
        }
        while self.is_ladder(ladder.column, row) {
            if grid_lines.line(row) <= to {
                return to;
            }
            row -= 1;
        }
        to.max(grid_lines.line(row + 1)).min(feet.y)
    }
}
