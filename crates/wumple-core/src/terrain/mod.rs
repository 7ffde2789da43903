//! What a body can meet: tiles, what they are made of, and what lies outside the map.

mod edges;
mod grid;
mod tile;

pub use edges::{Edge, Edges, Side};
pub use grid::{Grid, GridError};
pub use tile::{Surface, TileProperties, Zone, Zones};

use core::ops::Range;

use crate::geometry::Lattice;

/// A map of tiles that characters move through.
///
/// A game implements this over the map it has; [`Grid`] is the one that comes with the library. Tiles
/// are only asked for inside the map; what lies outside is said by [`Terrain::edges`].
///
/// The same question must always get the same answer within a tick.
pub trait Terrain {
    /// The lines between tiles. Column `c` spans `[c * tile, (c + 1) * tile)`, and rows likewise,
    /// downward. Tile sides are from 1 to 4096 px, in steps of 1/1024 px.
    fn lattice(&self) -> Lattice;

    /// How many columns the map has, at least 1.
    fn columns(&self) -> i32;

    /// How many rows the map has, at least 1.
    fn rows(&self) -> i32;

    /// The tile at this place. `0 <= column < columns()` and `0 <= row < rows()`.
    fn tile(&self, column: i32, row: i32) -> TileProperties;

    /// What lies outside the map.
    fn edges(&self) -> Edges;

    /// Whether the tile at this place is solid. Asked most often: worth an answer of its own.
    #[inline]
    fn is_solid(&self, column: i32, row: i32) -> bool {
        self.tile(column, row).surface == Surface::Solid
    }

    /// Whether any tile of a rectangle of columns and rows is solid. The rectangle may reach beyond the
    /// map, where nothing is. Asked several times a tick, mostly of one to six tiles.
    #[inline]
    fn any_solid(&self, columns: Range<i32>, rows: Range<i32>) -> bool {
        let columns = columns.start.max(0)..columns.end.min(self.columns());
        let mut rows = rows.start.max(0)..rows.end.min(self.rows());
        rows.any(|row| columns.clone().any(|column| self.is_solid(column, row)))
    }

    /// Whether any tile is a zone. `false` spares the question in every tick.
    fn has_zones(&self) -> bool {
        true
    }

    /// The map's width, px.
    #[inline]
    fn width(&self) -> f64 {
        self.lattice().line(self.columns())
    }

    /// The map's height, px.
    #[inline]
    fn height(&self) -> f64 {
        self.lattice().line(self.rows())
    }
}

impl<T: Terrain + ?Sized> Terrain for &T {
    #[inline]
    fn lattice(&self) -> Lattice {
        (**self).lattice()
    }
    fn columns(&self) -> i32 {
        (**self).columns()
    }
    fn rows(&self) -> i32 {
        (**self).rows()
    }
    fn tile(&self, column: i32, row: i32) -> TileProperties {
        (**self).tile(column, row)
    }
    fn edges(&self) -> Edges {
        (**self).edges()
    }
    #[inline]
    fn is_solid(&self, column: i32, row: i32) -> bool {
        (**self).is_solid(column, row)
    }
    #[inline]
    fn any_solid(&self, columns: Range<i32>, rows: Range<i32>) -> bool {
        (**self).any_solid(columns, rows)
    }
    fn has_zones(&self) -> bool {
        (**self).has_zones()
    }
    #[inline]
    fn width(&self) -> f64 {
        (**self).width()
    }
    #[inline]
    fn height(&self) -> f64 {
        (**self).height()
    }
}
