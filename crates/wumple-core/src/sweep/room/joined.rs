//! What is joined to a ramp: the ground that goes on from its ends.
//!
//! Joined are the ground that touches a ramp's end at its height, the flats that go on from there level in
//! a row, what is solid beneath them without a gap, and ramps that meet a left end with a right end, with
//! theirs. To a body on a ramp, what is joined to it is neither wall nor floor.

use glam::DVec2;

use super::{JOIN, Obstacle, RampId, Room, Thing};
use crate::geometry::Hitbox;
use crate::terrain::{Ramp, Surface, Terrain};

/// No more ramps and flats than this are followed one after another: far more than a body covers.
const FARTHEST: u32 = 64;

impl<T: Terrain + ?Sized> Room<'_, T> {
    /// Whether a body with its feet here is on a ramp to which the obstacle is joined.
    pub(crate) fn is_excused(&self, obstacle: &Obstacle, feet: DVec2) -> bool {
        if matches!(obstacle.thing, Thing::Mover(_)) {
            return false;
        }
        let (mut joined, mut on_it) = (false, false);
        self.ramps_on(feet, |id, ramp| {
            on_it |= obstacle.thing == Thing::Ramp(id);
            joined = joined || self.is_joined(id, ramp, obstacle);
        });
        joined && !on_it
    }

    /// Whether an obstacle, or a top that is one, is joined to a ramp.
    pub(crate) fn is_joined(&self, id: RampId, ramp: &Ramp, obstacle: &Obstacle) -> bool {
        [true, false].into_iter().any(|to_right| self.is_joined_beyond(id, ramp, obstacle, to_right, FARTHEST))
    }

    fn is_joined_beyond(&self, id: RampId, ramp: &Ramp, obstacle: &Obstacle, to_right: bool, left: u32) -> bool {
        let end = ramp.end(to_right);
        // What lies wholly on the other side of the end cannot be reached from it.
        if if to_right { obstacle.right < end.x } else { obstacle.left > end.x } {
            return false;
        }
        let is_ramp = matches!(obstacle.thing, Thing::Ramp(_));
        if !is_ramp && self.is_level_ground_at(obstacle, end, to_right) {
            return true;
        }
        let mut joined = false;
        self.ramps_meeting(id, end, to_right, |next, its| {
            joined = joined
                || obstacle.thing == Thing::Ramp(next)
                || (left > 0 && self.is_joined_beyond(next, its, obstacle, to_right, left - 1));
        });
        joined
    }

    /// The ramps that go on from the end of another.
    fn ramps_meeting(&self, id: RampId, end: DVec2, to_right: bool, mut visit: impl FnMut(RampId, &Ramp)) {
        let area = Hitbox { left: end.x - JOIN, right: end.x + JOIN, top: end.y - JOIN, bottom: end.y + JOIN };
        self.ramps(&area, |other, ramp| {
            let start = ramp.end(!to_right);
            if other != id && (start.x - end.x).abs() <= JOIN && (start.y - end.y).abs() <= JOIN {
                visit(other, ramp);
            }
        });
    }

    /// Whether flats lead from a ramp's end, level and in a row, to the obstacle's top or to what lies on it
    /// without a gap.
    fn is_level_ground_at(&self, obstacle: &Obstacle, end: DVec2, to_right: bool) -> bool {
        self.top_of_stack(obstacle, end.y).is_some_and(|top| {
            (top - end.y).abs() <= JOIN
                && self.flats_lead(end, to_right, if to_right { obstacle.left } else { obstacle.right })
        })
    }

    /// The top of what is stacked on an obstacle without a gap, itself included. `None` where more is
    /// stacked on it than up to `level`.
    fn top_of_stack(&self, obstacle: &Obstacle, level: f64) -> Option<f64> {
        let mut top = obstacle.top;
        for _ in 0..FARTHEST {
            let Some(above) = self.solid_resting_on(obstacle, top) else { return Some(top) };
            if above < level - JOIN {
                return None;
            }
            top = above;
        }
        None
    }

    /// The top of something solid whose bottom is at `top`, over the obstacle.
    fn solid_resting_on(&self, obstacle: &Obstacle, top: f64) -> Option<f64> {
        let mut found: Option<f64> = None;
        let area = Hitbox { left: obstacle.left, right: obstacle.right, top, bottom: top };
        if area.left.is_infinite() || top.is_infinite() {
            return None;
        }
        let mut rest = |left: f64, right: f64, its_top: f64, bottom: f64| {
            if bottom == top && left < obstacle.right && right > obstacle.left {
                found = Some(found.map_or(its_top, |found| found.min(its_top)));
            }
        };
        let lattice = self.terrain.lattice();
        let (columns, rows) = self.cells(&area);
        for row in rows {
            for column in columns.clone() {
                if self.terrain.is_solid(column, row) {
                    rest(lattice.line(column), lattice.line(column + 1), lattice.line(row), lattice.line(row + 1));
                }
            }
        }
        self.blocks(&area, |_, block| rest(block.left, block.right, block.top, block.bottom));
        found
    }

    /// Whether level flats lead from here to a place at the same height.
    fn flats_lead(&self, from: DVec2, to_right: bool, to: f64) -> bool {
        let mut x = from.x;
        for _ in 0..FARTHEST {
            if if to_right { x >= to } else { x <= to } {
                // Something must be there at all: the flat itself, touched.
                return x != from.x || self.flat_at(from, to_right).is_some();
            }
            match self.flat_at(DVec2::new(x, from.y), to_right) {
                Some(next) if next != x => x = next,
                _ => return false,
            }
        }
        false
    }

    /// How far the flat goes that touches this point at its height; the one that goes farthest.
    fn flat_at(&self, point: DVec2, to_right: bool) -> Option<f64> {
        let mut found: Option<f64> = None;
        self.flats_touching(point, |left, right, _| {
            let end = if to_right { right } else { left };
            found = Some(found.map_or(end, |found| if to_right { found.max(end) } else { found.min(end) }));
        });
        found
    }

    /// Every flat top that touches a point within the width of a join: its ends, and whether it is solid.
    fn flats_touching(&self, point: DVec2, mut visit: impl FnMut(f64, f64, bool)) {
        let lattice = self.terrain.lattice();
        let area = Hitbox { left: point.x, right: point.x, top: point.y - JOIN, bottom: point.y + JOIN };
        let (columns, rows) = self.cells(&area);
        for row in rows {
            if (lattice.line(row) - point.y).abs() > JOIN {
                continue;
            }
            for column in columns.clone() {
                let is_top = match self.terrain.tile(column, row).surface {
                    Surface::Solid => row == 0 || !self.terrain.is_solid(column, row - 1),
                    Surface::OneWay => true,
                    Surface::Ladder => self.is_ladder_top(column, row),
                    Surface::Empty | Surface::Ramp { .. } => false,
                };
                if is_top {
                    let solid = self.terrain.is_solid(column, row);
                    visit(lattice.line(column), lattice.line(column + 1), solid);
                }
            }
        }
        self.blocks(&area, |_, block| {
            if (block.top - point.y).abs() <= JOIN {
                visit(block.left, block.right, true);
            }
        });
        if self.terrain.edges().bottom == crate::terrain::Edge::Solid && (self.terrain.height() - point.y).abs() <= JOIN
        {
            visit(f64::NEG_INFINITY, f64::INFINITY, true);
        }
    }

    /// Whether other ground goes on from a ramp's end, so that the end's height no longer holds past it: of
    /// a solid ramp, solid ground or another solid ramp; of a drawn one, any.
    pub(crate) fn is_end_taken_over(&self, id: RampId, ramp: &Ramp, right_end: bool) -> bool {
        let end = ramp.end(right_end);
        let mut taken = false;
        self.flats_touching(end, |_, _, solid| taken |= solid || !ramp.solid);
        if !taken {
            self.ramps_meeting(id, end, right_end, |_, other| taken |= other.solid || !ramp.solid);
        }
        taken
    }
}
