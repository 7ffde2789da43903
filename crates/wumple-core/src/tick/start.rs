use core::fmt;

use glam::DVec2;

use super::LIMIT_PLACE;
use super::scene::Scene;
use crate::collide::Surroundings;
use crate::nearby::{PieceId, RampId};
use crate::platforms::{MoverId, Platforms};
use crate::space::float::floor;
use crate::terrain::{LIMIT_MARGIN, Side, Terrain};
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
    /// The hitbox overlaps a solid platform.
    InsidePlatform {
        /// Which, from 0.
        platform: usize,
    },
    /// The hitbox overlaps a solid prop.
    InsideProp {
        /// Which, from 0.
        prop: usize,
    },
    /// The hitbox overlaps that of a character that it meets.
    InsideCharacter {
        /// Which, from 0.
        character: usize,
    },
    /// It has another tick rate than the world.
    OtherRate {
        /// The world's, ticks a second.
        expected: f64,
        /// Its own.
        found: f64,
    },
    /// The character moves by whole pixels, and the sides of a platform are not of whole pixels.
    PlatformNotWhole {
        /// Which, from 0.
        platform: usize,
    },
    /// The top of a prop has a grip, a surface speed or a bounce that is not within its bounds.
    BadMaterial,
    /// The margin of a prop's zone is not within its bounds.
    BadMargin,
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
            StartError::InsidePlatform { platform } => {
                write!(f, "the hitbox would be inside platform {}", platform + 1)
            }
            StartError::InsideProp { prop } => write!(f, "the hitbox would be inside prop {}", prop + 1),
            StartError::InsideCharacter { character } => {
                write!(f, "the hitbox would be inside character {}", character + 1)
            }
            StartError::OtherRate { expected, found } => {
                write!(f, "it has {found} ticks a second in a world of {expected}; all must have the same tick.rate")
            }
            StartError::PlatformNotWhole { platform } => {
                let number = platform + 1;
                write!(f, "the sides of platform {number} are not whole px; with whole pixels they must be")
            }
            StartError::BadMaterial => f.write_str("its grip, surface speed or bounce is out of bounds"),
            StartError::BadMargin => write!(f, "the margin of its zone must be within {LIMIT_MARGIN} px"),
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

/// Whether a body that moves by whole pixels may on tiles of this size.
pub(super) fn check_tile<T: Terrain>(scene: &Scene<'_, T>, tuning: &Tuning) -> Result<(), StartError> {
    let tile = scene.terrain.grid_lines().spacing();
    if tuning.moves_whole_pixels() && tile != floor(tile) {
        return Err(StartError::TileNotWhole { tile });
    }
    Ok(())
}

/// Whether the platforms let a body of this tuning move by whole pixels, if it does.
pub(super) fn check_platforms(platforms: &Platforms, tuning: &Tuning) -> Result<(), StartError> {
    match platforms.first_not_whole().filter(|_| tuning.moves_whole_pixels()) {
        Some(platform) => Err(StartError::PlatformNotWhole { platform }),
        None => Ok(()),
    }
}

/// Whether a body may be with its feet here. If it is a prop, it is not in its own way.
pub(super) fn check<T: Terrain>(
    scene: &Scene<'_, T>,
    tuning: &Tuning,
    itself: Option<MoverId>,
    feet: DVec2,
) -> Result<(), StartError> {
    check_tile(scene, tuning)?;
    // Written so that NaN is refused as well.
    if !(feet.x.abs() <= LIMIT_PLACE && feet.y.abs() <= LIMIT_PLACE) {
        return Err(StartError::NoPlace(feet));
    }
    let around = scene.around(tuning.body(), tuning.ladder().is_some());
    match (Surroundings { unmet: itself, ..around }).overlapped(feet) {
        None => Ok(()),
        Some(PieceId::Tile { column, row } | PieceId::Ramp(RampId::Tile { column, row })) => {
            Err(StartError::InsideTile { column, row })
        }
        Some(PieceId::Block(block)) => Err(StartError::InsideBlock { block }),
        Some(PieceId::Mover(MoverId::Platform(platform))) => Err(StartError::InsidePlatform { platform }),
        Some(PieceId::Mover(MoverId::Prop(prop))) => Err(StartError::InsideProp { prop }),
        Some(PieceId::Mover(MoverId::Character(character))) => Err(StartError::InsideCharacter { character }),
        // A drawn ramp has nothing under it to be inside of.
        Some(PieceId::Ramp(RampId::Drawn(_))) => Ok(()),
        Some(PieceId::Edge(side)) => Err(StartError::BeyondEdge(side)),
    }
}
