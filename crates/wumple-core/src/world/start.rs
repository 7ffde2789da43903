use core::fmt;

use glam::DVec2;

use super::LIMIT_PLACE;
use crate::math::floor;
use crate::sweep::room::{Ignored, RampId, Room, Thing};
use crate::terrain::{Side, Terrain};
use crate::tuning::Tuning;

/// Why a character cannot be put at a place.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub enum StartError {
    /// The hitbox overlaps a solid tile.
    InsideTile {
        /// The tile's column.
        column: i32,
        /// The tile's row.
        row: i32,
    },
    /// The hitbox overlaps a block.
    InsideBlock {
        /// Which, from 0.
        block: usize,
    },
    /// The hitbox reaches beyond a solid edge of the map.
    BeyondEdge(Side),
    /// The character moves by whole pixels, and the tiles are not of whole pixels.
    TileNotWhole {
        /// The side of a tile, px.
        tile: f64,
    },
    /// The place is not a number, or beyond where coordinates end.
    NoPlace(DVec2),
}

impl fmt::Display for StartError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            StartError::InsideTile { column, row } => {
                write!(f, "the hitbox would be inside the solid tile at column {column}, row {row}")
            }
            StartError::InsideBlock { block } => write!(f, "the hitbox would be inside block {}", block + 1),
            StartError::BeyondEdge(side) => write!(f, "the hitbox would reach beyond the solid {side} edge of the map"),
            StartError::TileNotWhole { tile } => {
                write!(f, "a tile is {tile} px; with whole pixels it must be a whole number of px")
            }
            StartError::NoPlace(place) => {
                write!(f, "({}, {}) px is no place; coordinates end at {LIMIT_PLACE} px", place.x, place.y)
            }
        }
    }
}

impl core::error::Error for StartError {}

/// Whether a body may start with its feet here.
pub(super) fn check<T: Terrain + ?Sized>(terrain: &T, tuning: &Tuning, feet: DVec2) -> Result<(), StartError> {
    let tile = terrain.lattice().tile();
    if tuning.moves_whole_pixels() && tile != floor(tile) {
        return Err(StartError::TileNotWhole { tile });
    }
    // Written so that NaN is refused as well.
    if !(feet.x.abs() <= LIMIT_PLACE && feet.y.abs() <= LIMIT_PLACE) {
        return Err(StartError::NoPlace(feet));
    }
    let room = Room {
        terrain,
        body: tuning.body(),
        ladders: tuning.ladder().is_some(),
        follow: tuning.ramp_follow(),
        ignored: Ignored::default(),
        climbing: None,
        near: terrain.features(),
    };
    match room.overlapped(feet) {
        None => Ok(()),
        Some(Thing::Tile { column, row } | Thing::Ramp(RampId::Tile { column, row })) => {
            Err(StartError::InsideTile { column, row })
        }
        Some(Thing::Block(block)) => Err(StartError::InsideBlock { block }),
        // A drawn ramp has nothing under it to be inside of.
        Some(Thing::Ramp(RampId::Line(_))) => Ok(()),
        Some(Thing::Edge(side)) => Err(StartError::BeyondEdge(side)),
    }
}
