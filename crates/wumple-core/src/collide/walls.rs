//! Walls: solid faces beside a hitbox, and how far up and down they go.

use glam::DVec2;

use super::{Heading, Obstacle, Surroundings};
use crate::input::Direction;
use crate::nearby::{PieceId, Solid};
use crate::platforms::{Mover, MoverId, MoverKey};
use crate::space::Hitbox;
use crate::terrain::Terrain;

/// A wall beside a body: on which side of it, and where its face is.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct Wall {
    pub(crate) side: Direction,
    /// What it is a side of, if that moves.
    of: Option<MoverKey>,
    /// The face, px.
    pub(crate) face: f64,
}

impl Wall {
    /// One that does not move.
    pub(crate) fn still(side: Direction, face: f64) -> Wall {
        Wall { side, of: None, face }
    }

    /// What it is a side of, if that moves.
    #[inline]
    pub(crate) fn mover(&self) -> Option<MoverId> {
        self.of.map(MoverId::from)
    }

    /// The same where its platform is now.
    pub(crate) fn follow(&mut self, mover: &Mover) {
        self.face = match self.side {
            Direction::Left => mover.now.right,
            Direction::Right => mover.now.left,
        };
    }

    /// Whether it is the same wall, though it may have moved.
    pub(crate) fn is(&self, other: &Wall) -> bool {
        self.side == other.side && self.counts_as(other)
    }

    /// Whether it is the same to jump off: the same side of the same face, or any of the same platform.
    pub(crate) fn counts_as(&self, other: &Wall) -> bool {
        match (self.of, other.of) {
            (None, None) => self.side == other.side && self.face == other.face,
            (one, another) => one == another,
        }
    }

    /// Whether it counts before another on the same side: the nearer, and of equally near ones that which is held.
    fn is_before(&self, other: &Wall, held: Option<MoverKey>) -> bool {
        let nearer = match self.side {
            Direction::Left => self.face > other.face,
            Direction::Right => self.face < other.face,
        };
        nearer || (self.face == other.face && self.of.is_some() && self.of == held)
    }
}

/// The walls within the probe, on either side.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub(crate) struct Walls {
    pub(crate) left: Option<Wall>,
    pub(crate) right: Option<Wall>,
}

impl Walls {
    #[inline]
    pub(crate) fn any(&self) -> bool {
        self.left.is_some() || self.right.is_some()
    }

    #[inline]
    pub(crate) fn on(&self, side: Direction) -> Option<Wall> {
        match side {
            Direction::Left => self.left,
            Direction::Right => self.right,
        }
    }

    /// The wall that counts: of two, the one on the side last asked for.
    pub(crate) fn chosen(&self, last: Direction) -> Option<Wall> {
        self.on(last).or(self.on(last.opposite()))
    }
}

impl<T: Terrain + ?Sized> Surroundings<'_, T> {
    /// The nearest faces beside the hitbox, no further away than `probe` px; of equally near ones that of what
    /// the body holds on to.
    #[inline(never)]
    pub(crate) fn walls(&self, feet: DVec2, probe: f64, held: Option<MoverId>) -> Walls {
        let near = self.body.half_width() + probe;
        let area = Hitbox { left: feet.x - near, right: feet.x + near, top: feet.y - self.body.height, bottom: feet.y };
        let mut walls = Walls::default();
        self.nearby.solids(self.terrain, &area, |solid| {
            // Mostly it is what the feet stand on.
            if feet.y > solid.place.top && feet.y < solid.place.bottom + self.body.height {
                self.note_wall(&mut walls, solid, feet, probe, None);
            }
        });
        self.movers(&area, |mover| {
            if mover.solid {
                let solid = Solid::rectangle(mover.now, PieceId::Mover(mover.id));
                self.note_wall(&mut walls, &solid, feet, probe, held.map(MoverKey::from));
            }
        });
        walls
    }

    /// Takes in the faces of something solid that are beside the hitbox.
    fn note_wall(&self, walls: &mut Walls, solid: &Solid, feet: DVec2, probe: f64, held: Option<MoverKey>) {
        let (half, x) = (self.body.half_width(), feet.x);
        let of = if let PieceId::Mover(id) = solid.id { Some(MoverKey::from(id)) } else { None };
        let (left, right) = (solid.place.right, solid.place.left);
        let to_left = x >= left + half && x <= left + half + probe;
        let to_right = x <= right - half && x >= right - half - probe;
        for (side, is_beside, face) in [(Direction::Left, to_left, left), (Direction::Right, to_right, right)] {
            let (wall, heading) = (Wall { side, of, face }, Heading::along_x(side == Direction::Right));
            let found = if side == Direction::Left { &mut walls.left } else { &mut walls.right };
            let counts = || {
                Obstacle::ahead(solid, heading).is_some_and(|face| {
                    face.overlaps_in_height(self.body, feet.y) && face.top < face.bottom && !self.is_buried(&face, feet)
                })
            };
            if is_beside && found.is_none_or(|other| wall.is_before(&other, held)) && counts() {
                *found = Some(wall);
            }
        }
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

crate::bytes::coded!(struct Wall { side, of, face });
