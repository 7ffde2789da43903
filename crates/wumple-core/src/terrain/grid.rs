use alloc::vec::Vec;
use core::fmt;
use core::ops::Range;

use super::{Edges, Surface, Terrain, TileProperties};
use crate::geometry::Lattice;
use crate::tuning::{LIMIT_LENGTH, round_length};

/// A map kept as one byte a tile, with the properties of each kind of tile in a table.
#[derive(Clone, Debug, PartialEq)]
pub struct Grid {
    lattice: Lattice,
    columns: i32,
    rows: i32,
    width: f64,
    height: f64,
    tiles: Vec<u8>,
    kinds: [TileProperties; 256],
    solid: [bool; 256],
    has_zones: bool,
    edges: Edges,
}

/// Why a grid cannot be made.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub enum GridError {
    /// The tile size is not a number from 1 to 4096 px.
    TileSize {
        /// What was given, px.
        found: f64,
    },
    /// There is no tile at all.
    Empty,
    /// A row is shorter or longer than the first.
    Ragged {
        /// The row, from 0.
        row: usize,
        /// How many tiles the first row has.
        expected: usize,
        /// How many this one has.
        found: usize,
    },
    /// The map is wider or taller than coordinates may be.
    TooLarge {
        /// The longer side, px.
        pixels: f64,
    },
    /// A tile names a kind that is not in the table, or a letter that is not known.
    UnknownKind {
        /// Column, from 0.
        column: usize,
        /// Row, from 0.
        row: usize,
    },
    /// More than 256 kinds of tile.
    TooManyKinds {
        /// How many.
        found: usize,
    },
}

impl fmt::Display for GridError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            GridError::TileSize { found } => write!(f, "a tile of {found} px; it must be from 1 to 4096 px"),
            GridError::Empty => write!(f, "the map has no tiles"),
            GridError::Ragged { row, expected, found } => {
                write!(f, "row {row} has {found} tiles where row 0 has {expected}; all rows must be of one length")
            }
            GridError::TooLarge { pixels } => {
                write!(f, "the map is {pixels} px long; coordinates end at {LIMIT_LENGTH} px")
            }
            GridError::UnknownKind { column, row } => {
                write!(f, "the tile at column {column}, row {row} is of no known kind")
            }
            GridError::TooManyKinds { found } => write!(f, "{found} kinds of tile; there may be 256"),
        }
    }
}

impl core::error::Error for GridError {}

impl Grid {
    /// A map of `columns` times `tiles.len() / columns` tiles, given row by row from the top. Each tile
    /// is an index into `kinds`. The tile's side is rounded to 1/1024 px.
    ///
    /// # Errors
    ///
    /// See [`GridError`]: the tile size, the length of the last row, an index without a kind, the
    /// map's size.
    pub fn new(
        columns: usize,
        tiles: Vec<u8>,
        tile: f64,
        kinds: &[TileProperties],
        edges: Edges,
    ) -> Result<Grid, GridError> {
        if !(1.0..=4096.0).contains(&tile) {
            return Err(GridError::TileSize { found: tile });
        }
        if columns == 0 || tiles.is_empty() {
            return Err(GridError::Empty);
        }
        if kinds.len() > 256 {
            return Err(GridError::TooManyKinds { found: kinds.len() });
        }
        let rows = tiles.len() / columns;
        if !tiles.len().is_multiple_of(columns) {
            return Err(GridError::Ragged { row: rows, expected: columns, found: tiles.len() % columns });
        }
        let tile = round_length(tile);
        let pixels = columns.max(rows) as f64 * tile;
        if pixels > LIMIT_LENGTH {
            return Err(GridError::TooLarge { pixels });
        }
        if let Some(at) = tiles.iter().position(|kind| usize::from(*kind) >= kinds.len()) {
            return Err(GridError::UnknownKind { column: at % columns, row: at / columns });
        }
        let mut table = [TileProperties::EMPTY; 256];
        table[..kinds.len()].copy_from_slice(kinds);
        Ok(Grid {
            lattice: Lattice::new(tile),
            columns: columns as i32,
            rows: rows as i32,
            width: columns as f64 * tile,
            height: rows as f64 * tile,
            tiles,
            solid: table.map(|kind| kind.surface == Surface::Solid),
            has_zones: kinds.iter().any(|kind| kind.zone.is_some()),
            kinds: table,
            edges,
        })
    }

    /// A map drawn in letters: `.` is empty and `#` solid. For tests and small games; level files know
    /// more letters.
    ///
    /// # Errors
    ///
    /// Like [`Grid::new`], and [`GridError::UnknownKind`] for any other letter.
    pub fn from_rows(rows: &[&str], tile: f64, edges: Edges) -> Result<Grid, GridError> {
        let columns = rows.first().map_or(0, |row| row.len());
        let mut tiles = Vec::with_capacity(columns * rows.len());
        for (row, text) in rows.iter().enumerate() {
            if text.len() != columns {
                return Err(GridError::Ragged { row, expected: columns, found: text.len() });
            }
            for (column, letter) in text.bytes().enumerate() {
                tiles.push(match letter {
                    b'.' => 0,
                    b'#' => 1,
                    _ => return Err(GridError::UnknownKind { column, row }),
                });
            }
        }
        Grid::new(columns, tiles, tile, &[TileProperties::EMPTY, TileProperties::SOLID], edges)
    }

    /// Which kind the tile at this place is: an index into the kinds given to [`Grid::new`].
    ///
    /// # Panics
    ///
    /// If the place is outside the map.
    #[inline]
    pub fn kind(&self, column: i32, row: i32) -> usize {
        self.kind_at(column, row)
    }

    /// Whether any tile is of this kind.
    pub fn has_kind(&self, kind: usize) -> bool {
        self.tiles.iter().any(|tile| usize::from(*tile) == kind)
    }

    #[inline]
    fn kind_at(&self, column: i32, row: i32) -> usize {
        usize::from(self.tiles[row as usize * self.columns as usize + column as usize])
    }
}

impl Terrain for Grid {
    #[inline]
    fn lattice(&self) -> Lattice {
        self.lattice
    }
    #[inline]
    fn columns(&self) -> i32 {
        self.columns
    }
    #[inline]
    fn rows(&self) -> i32 {
        self.rows
    }
    #[inline]
    fn width(&self) -> f64 {
        self.width
    }
    #[inline]
    fn height(&self) -> f64 {
        self.height
    }
    #[inline]
    fn tile(&self, column: i32, row: i32) -> TileProperties {
        self.kinds[self.kind_at(column, row)]
    }
    #[inline]
    fn edges(&self) -> Edges {
        self.edges
    }
    #[inline]
    fn is_solid(&self, column: i32, row: i32) -> bool {
        self.solid[self.kind_at(column, row)]
    }
    #[inline]
    fn any_solid(&self, columns: Range<i32>, rows: Range<i32>) -> bool {
        let (left, right) = (columns.start.max(0), columns.end.min(self.columns));
        let (top, bottom) = (rows.start.max(0), rows.end.min(self.rows));
        if left >= right {
            return false;
        }
        let mut any = false;
        // Every tile is looked at, without a branch between them: cheaper than to stop early for so few.
        for row in top..bottom {
            let start = row as usize * self.columns as usize;
            for kind in &self.tiles[start + left as usize..start + right as usize] {
                any |= self.solid[usize::from(*kind)];
            }
        }
        any
    }
    #[inline]
    fn has_zones(&self) -> bool {
        self.has_zones
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn wrong_grids_say_what_is_wrong() {
        let grid = |rows: &[&str], tile| Grid::from_rows(rows, tile, Edges::default()).unwrap_err();
        let kinds = [TileProperties::EMPTY];
        let bytes = |columns, tiles: &[u8]| Grid::new(columns, tiles.to_vec(), 16.0, &kinds, Edges::default());
        assert_eq!(grid(&["."], 0.0), GridError::TileSize { found: 0.0 });
        assert!(matches!(grid(&["."], f64::NAN), GridError::TileSize { .. }));
        assert_eq!(grid(&[], 16.0), GridError::Empty);
        assert_eq!(grid(&["..", "."], 16.0), GridError::Ragged { row: 1, expected: 2, found: 1 });
        assert_eq!(grid(&["..", ".x"], 16.0), GridError::UnknownKind { column: 1, row: 1 });
        assert_eq!(bytes(2, &[0, 0, 0]), Err(GridError::Ragged { row: 1, expected: 2, found: 1 }));
        assert_eq!(bytes(2, &[0, 0, 0, 1]), Err(GridError::UnknownKind { column: 1, row: 1 }));
        assert_eq!(bytes(40_000, &[0; 40_000]), Err(GridError::TooLarge { pixels: 640_000.0 }));
    }

    #[test]
    fn tiles_are_found_by_column_and_row() {
        let grid = Grid::from_rows(&["..#", "#.."], 16.0, Edges::default()).unwrap();
        assert_eq!((grid.columns(), grid.rows(), grid.width(), grid.height()), (3, 2, 48.0, 32.0));
        assert!(grid.is_solid(2, 0) && grid.is_solid(0, 1) && !grid.is_solid(1, 1));
        assert!(!grid.has_zones());
    }
}
