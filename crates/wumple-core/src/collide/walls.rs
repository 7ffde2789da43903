//! Walls: solid faces beside a hitbox, and how far up and down they go.

use glam::DVec2;

use super::{Heading, Surroundings};
use crate::input::Direction;
use crate::nearby::PieceId;
use crate::platforms::MoverId;
use crate::space::Hitbox;
use crate::terrain::Terrain;

/// A wall beside a body: on which side of it, and where its face is.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct Wall {
    pub(crate) side: Direction,
    /// The face, px.
    pub(crate) face: f64,
    /// What it is a side of, if that moves.
    pub(crate) mover: Option<MoverId>,
}

impl Wall {
    /// Whether it is the same wall, though it may have moved.
    pub(crate) fn is(&self, other: &Wall) -> bool {
        self.side == other.side && self.counts_as(other)
    }

    /// Whether it is the same to jump off: the same side of the same face, or any of the same platform.
    pub(crate) fn counts_as(&self, other: &Wall) -> bool {
        match (self.mover, other.mover) {
            (None, None) => self.side == other.side && self.face == other.face,
            (one, another) => one == another,
        }
    }
}

/// The walls within the probe, on either side: where their faces are, px.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub(crate) struct Walls {
    pub(crate) left: Option<f64>,
    pub(crate) right: Option<f64>,
    /// Of what that moves they are the sides.
    pub(crate) left_of: Option<MoverId>,
    pub(crate) right_of: Option<MoverId>,
}

impl Walls {
    pub(crate) fn any(&self) -> bool {
        self.left.is_some() || self.right.is_some()
    }

    pub(crate) fn on(&self, side: Direction) -> Option<Wall> {
        let (face, mover) = match side {
            Direction::Left => (self.left, self.left_of),
            Direction::Right => (self.right, self.right_of),
        };
        face.map(|face| Wall { side, face, mover })
    }

    /// The wall that counts: of two, the one on the side last asked for.
    pub(crate) fn chosen(&self, last: Direction) -> Option<Wall> {
        self.on(last).or(self.on(last.opposite()))
    }
}

impl<T: Terrain + ?Sized> Surroundings<'_, T> {
    /// The nearest faces beside the hitbox, no further away than `probe` px; of equally near ones that of what
    /// the body holds on to.
    pub(crate) fn walls(&self, feet: DVec2, probe: f64, held: Option<MoverId>) -> Walls {
        let half = self.half();
        let mut walls = Walls::default();
        for side in [Direction::Left, Direction::Right] {
            let to_right = side == Direction::Right;
            let area = self.area_between(feet, feet, probe);
            let area = Hitbox { top: feet.y - self.body.height, bottom: feet.y, ..area };
            let (found, of) =
                if to_right { (&mut walls.right, &mut walls.right_of) } else { (&mut walls.left, &mut walls.left_of) };
            self.obstacles(&area, Heading::along_x(to_right), |obstacle| {
                let face = if to_right { obstacle.left } else { obstacle.right };
                let within = if to_right {
                    feet.x <= face - half && feet.x >= face - half - probe
                } else {
                    feet.x >= face + half && feet.x <= face + half + probe
                };
                let mover = match obstacle.id {
                    PieceId::Mover(mover) => Some(mover),
                    _ => None,
                };
                let nearer = found.is_none_or(|other| {
                    (if to_right { face < other } else { face > other })
                        || (face == other && mover.is_some() && mover == held)
                });
                let beside = self.overlaps_in_height(obstacle, feet.y) && obstacle.top < obstacle.bottom;
                if within && nearer && beside && !self.is_buried(obstacle, feet) {
                    *found = Some(face);
                    *of = mover;
                }
            });
        }
        walls
    }

    /// Whether a wall goes past this height: its top at or above it, its foot below.
    pub(crate) fn wall_spans(&self, wall: Wall, y: f64) -> bool {
        self.face_top_where(wall, y, |top, bottom| top <= y && y < bottom).is_some()
    }

    /// The top of the wall that goes past height `from`, looked for no higher than `to`.
    pub(crate) fn wall_top(&self, wall: Wall, from: f64, to: f64) -> f64 {
        let mut found = self.face_top_where(wall, from, |top, bottom| top <= from && from < bottom);
        let mut y = from;
        while let Some(top) = found {
            y = top;
            if y <= to {
                break;
            }
            // What is stacked on it goes on with it.
            found = self.face_top_where(wall, y, |top, bottom| top < y && y <= bottom);
        }
        y
    }

    /// The highest top of the wall's faces at this height whose ends are as asked.
    fn face_top_where(&self, wall: Wall, y: f64, fits: impl Fn(f64, f64) -> bool) -> Option<f64> {
        let to_right = wall.side == Direction::Right;
        let area = Hitbox { left: wall.face, right: wall.face, top: y, bottom: y };
        let mut found: Option<f64> = None;
        self.obstacles(&area, Heading::along_x(to_right), |obstacle| {
            let face = if to_right { obstacle.left } else { obstacle.right };
            if face == wall.face && fits(obstacle.top, obstacle.bottom) && !obstacle.hidden {
                found = Some(found.map_or(obstacle.top, |found| found.min(obstacle.top)));
            }
        });
        found
    }
}
