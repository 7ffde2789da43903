use core::fmt;

use glam::DVec2;

use super::LIMIT_PLACE;
use crate::math::floor;
use crate::sweep::{Overlapped, overlapped};
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
    match overlapped(terrain, tuning.body(), feet) {
        None => Ok(()),
        Some(Overlapped::Tile { column, row }) => Err(StartError::InsideTile { column, row }),
        Some(Overlapped::Edge(side)) => Err(StartError::BeyondEdge(side)),
    }
}
