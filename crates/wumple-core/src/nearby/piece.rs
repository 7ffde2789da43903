//! What the map near a body is made of: pieces that stop it, that it can stand on, and that slope.

use super::Support;
use crate::platforms::MoverId;
use crate::space::Hitbox;
use crate::terrain::{Material, Ramp, Side};

/// Which ramp.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum RampId {
    Tile {
        column: i32,
        row: i32,
    },
    /// One that is drawn, by its number.
    Drawn(usize),
}

/// Which piece of a level.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum PieceId {
    Tile { column: i32, row: i32 },
    Block(usize),
    Ramp(RampId),
    Mover(MoverId),
    Edge(Side),
}

/// A rectangle that stops a hitbox. Of a tile's ramp it is its end faces, and its underside.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Solid {
    pub(crate) place: Hitbox,
    pub(crate) id: PieceId,
    pub(crate) faces: Faces,
}

/// The two upright faces of a solid piece.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Faces {
    /// The top of the left one, px, y down; infinite if there is none, because something solid covers all of it.
    pub(crate) left_top: f64,
    /// The top of the right one.
    pub(crate) right_top: f64,
    /// A solid tile lies right before the left one: it stops what is inside that tile, and is no wall.
    pub(crate) left_hidden: bool,
    /// The same of the right one.
    pub(crate) right_hidden: bool,
}

impl Solid {
    /// A rectangle with both faces.
    pub(crate) fn rectangle(place: Hitbox, id: PieceId) -> Solid {
        let top = place.top;
        let faces = Faces { left_top: top, right_top: top, left_hidden: false, right_hidden: false };
        Solid { place, id, faces }
    }
}

/// A level top that can be stood on, if nothing covers it.
#[derive(Clone, Copy, Debug)]
pub(crate) struct FlatTop {
    /// What it is the top of.
    pub(crate) place: Hitbox,
    pub(crate) id: PieceId,
    pub(crate) support: Support,
    pub(crate) material: Material,
    /// A one-way tile that the ladder beneath it goes through.
    pub(crate) on_ladder: bool,
}

/// A slope that can be stood on.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Slope {
    pub(crate) id: RampId,
    pub(crate) ramp: Ramp,
    /// The box around its line.
    pub(crate) place: Hitbox,
    /// The end faces of a tile's.
    pub(crate) faces: Faces,
}
