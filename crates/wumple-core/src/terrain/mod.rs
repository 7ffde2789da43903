//! What a body can meet: tiles, what they are made of, and what lies outside the map.

mod crowd;
mod edges;
mod grid;
mod met_terrain;
mod object;
mod objects;
mod tile;
mod zone;
mod zone_labels;

pub use edges::{Edge, Edges, Side};
pub use grid::{Grid, GridError};
pub(crate) use met_terrain::MetTerrain;
pub use object::{Block, Bounce, Material, Ramp};
pub use tile::{Features, Surface, TileProperties};
pub use zone::{DrawnZone, Felt, LIMIT_MARGIN, Margin, OwnKind, Zone, ZoneId, ZoneKind, ZoneOf};

use core::ops::Range;

use crate::space::{GridLines, Hitbox};

/// A map of tiles that characters move through.
///
/// A game implements this over the map it has; [`Grid`] is the one that comes with the library. Tiles
/// are only asked for inside the map; what lies outside is said by [`Terrain::edges`].
///
/// ```
/// use wumple_core::{Edges, GridLines, Terrain, TileProperties};
///
/// /// Bricks where a bit is set.
/// struct Wall([u32; 8]);
///
/// impl Terrain for Wall {
///     fn grid_lines(&self) -> GridLines {
///         GridLines::new(16.0)
///     }
///     fn columns(&self) -> i32 {
///         32
///     }
///     fn rows(&self) -> i32 {
///         8
///     }
///     fn tile(&self, column: i32, row: i32) -> TileProperties {
///         let is_brick = self.0[row as usize] >> column & 1 != 0;
///         if is_brick { TileProperties::SOLID } else { TileProperties::EMPTY }
///     }
///     fn edges(&self) -> Edges {
///         Edges::default()
///     }
///     fn revision(&self) -> Option<u64> {
///         Some(0) // it never changes
///     }
/// }
/// assert!(Wall([0, 0, 0, 0, 0, 0, 0, u32::MAX]).is_solid(5, 7));
/// ```
///
/// The same question must always get the same answer within a tick. Between ticks a terrain may change: see
/// [`Terrain::revision`].
pub trait Terrain {
    /// The lines between tiles. Column `c` spans `[c * tile, (c + 1) * tile)`, and rows likewise,
    /// downward. Tile sides are from 1 to 4096 px, in steps of 1/1024 px.
    fn grid_lines(&self) -> GridLines;

    /// How many columns the map has, at least 1; of one that does not begin at 0, the column after its last.
    fn columns(&self) -> i32;

    /// How many rows the map has, at least 1; of one that does not begin at 0, the row after its last.
    fn rows(&self) -> i32;

    /// Its first column: 0, as by default, or fewer, where the map goes on to the left of x = 0. A map without ends
    /// gives what [`GridLines::all_cells`] says.
    #[inline]
    fn first_column(&self) -> i32 {
        0
    }

    /// Its first row, likewise.
    #[inline]
    fn first_row(&self) -> i32 {
        0
    }

    /// The tile at this place. `first_column() <= column < columns()` and `first_row() <= row < rows()`.
    ///
    /// Numbers out of their range are held to it: a ramp's heights from 0 to the side of a tile, a grip from 0 to
    /// [`Material::MOST_GRIP`], a surface speed within [`LIMIT_SPEED`](crate::numbers::LIMIT_SPEED), a bounce up to
    /// [`LIMIT_LENGTH`](crate::numbers::LIMIT_LENGTH) px; not a number counts as plain ground. So are those of blocks and
    /// drawn ramps.
    fn tile(&self, column: i32, row: i32) -> TileProperties;

    /// What lies outside the map.
    fn edges(&self) -> Edges;

    /// A number that is another whenever anything of the terrain has changed since it was asked for last: a tile, a
    /// block, a ramp, an edge. What is near a body is then read again, and whether something solid came upon it is
    /// looked at: such a body says so ([`Event::CrushedByTerrain`](crate::Event::CrushedByTerrain)) and does nothing
    /// else until it is clear.
    ///
    /// `None`, as by default: the terrain cannot tell. Then it is read in every tick, which is always right, and
    /// slower. A terrain that gives the same number though it has changed lets bodies out of what they are inside
    /// of, or into what was not there; in debug builds a tick panics then.
    #[inline]
    fn revision(&self) -> Option<u64> {
        None
    }

    /// Whether there is a tile at this place: outside the map there is none.
    #[inline]
    fn has_tile(&self, column: i32, row: i32) -> bool {
        (self.first_column()..self.columns()).contains(&column) && (self.first_row()..self.rows()).contains(&row)
    }

    /// How the tile at this place meets a body.
    #[inline]
    fn surface(&self, column: i32, row: i32) -> Surface {
        self.tile(column, row).surface
    }

    /// Whether the tile at this place is solid. Asked most often: worth an answer of its own.
    #[inline]
    fn is_solid(&self, column: i32, row: i32) -> bool {
        self.surface(column, row) == Surface::Solid
    }

    /// Whether any tile of a rectangle of columns and rows is solid. The rectangle may reach beyond the
    /// map, where nothing is. Asked several times a tick, mostly of one to six tiles.
    #[inline]
    fn any_solid(&self, columns: Range<i32>, rows: Range<i32>) -> bool {
        any_solid_one_by_one(self, columns, rows)
    }

    /// What the whole terrain has. What it has not is never looked for. By default, all that tiles can be.
    #[inline]
    fn features(&self) -> Features {
        let surfaces = Features::SOLID | Features::ONE_WAY | Features::LADDER | Features::RAMP;
        surfaces | Features::MATERIAL | Features::ZONE | Features::GROUP
    }

    /// What the tiles of a rectangle of columns and rows have. The rectangle may reach beyond the map.
    fn features_in(&self, columns: Range<i32>, rows: Range<i32>) -> Features {
        let mut found = Features::NONE;
        for row in rows.start.max(self.first_row())..rows.end.min(self.rows()) {
            for column in columns.start.max(self.first_column())..columns.end.min(self.columns()) {
                found |= self.tile(column, row).features();
            }
        }
        found
    }

    /// Calls `visit` once for each block that touches the area, px, with its number.
    fn blocks_near(&self, _area: &Hitbox, _visit: &mut dyn FnMut(usize, &Block)) {}

    /// Calls `visit` once for each drawn ramp whose box touches the area, px, with its number.
    fn ramps_near(&self, _area: &Hitbox, _visit: &mut dyn FnMut(usize, &Ramp)) {}

    /// Calls `visit` for each zone off the grid that touches the area, px, with its margin: of blocks, and drawn. It says
    /// which it is, where that lies, what zone it is, and in which group.
    fn zones_near(&self, _area: &Hitbox, _visit: &mut dyn FnMut(ZoneOf, &DrawnZone)) {}

    /// Of which zone a tile is that is one. Pickups and checkpoints are each a zone for itself. Tiles of other kinds that
    /// share an edge are one zone, known by one of them: a terrain that can tell says which. By default it cannot, and all
    /// tiles of the kind are one.
    fn zone_of_tile(&self, column: i32, row: i32, zone: &Zone) -> ZoneOf {
        if zone.kind.joins() { ZoneOf::Any } else { ZoneOf::Tile { column, row } }
    }

    /// The greatest margin of any of its zones, px, up to [`LIMIT_MARGIN`]. By default none.
    fn zone_reach(&self) -> f64 {
        0.0
    }

    /// The map's width, px: where its right edge is.
    #[inline]
    fn width(&self) -> f64 {
        self.grid_lines().line(self.columns())
    }

    /// The map's height, px: where its bottom edge is.
    #[inline]
    fn height(&self) -> f64 {
        self.grid_lines().line(self.rows())
    }

    /// Where its left edge is, px.
    #[inline]
    fn left(&self) -> f64 {
        self.grid_lines().line(self.first_column())
    }

    /// Where its top edge is, px.
    #[inline]
    fn top(&self) -> f64 {
        self.grid_lines().line(self.first_row())
    }
}

/// Whether any tile of a rectangle is solid, asked one by one, of what is on the map.
fn any_solid_one_by_one<T: Terrain + ?Sized>(terrain: &T, columns: Range<i32>, rows: Range<i32>) -> bool {
    let columns = columns.start.max(terrain.first_column())..columns.end.min(terrain.columns());
    let mut rows = rows.start.max(terrain.first_row())..rows.end.min(terrain.rows());
    rows.any(|row| columns.clone().any(|column| terrain.is_solid(column, row)))
}

impl<T: Terrain + ?Sized> Terrain for &T {
    #[inline]
    fn grid_lines(&self) -> GridLines {
        (**self).grid_lines()
    }
    fn columns(&self) -> i32 {
        (**self).columns()
    }
    fn rows(&self) -> i32 {
        (**self).rows()
    }
    #[inline]
    fn first_column(&self) -> i32 {
        (**self).first_column()
    }
    #[inline]
    fn first_row(&self) -> i32 {
        (**self).first_row()
    }
    fn tile(&self, column: i32, row: i32) -> TileProperties {
        (**self).tile(column, row)
    }
    fn edges(&self) -> Edges {
        (**self).edges()
    }
    #[inline]
    fn revision(&self) -> Option<u64> {
        (**self).revision()
    }
    #[inline]
    fn surface(&self, column: i32, row: i32) -> Surface {
        (**self).surface(column, row)
    }
    #[inline]
    fn is_solid(&self, column: i32, row: i32) -> bool {
        (**self).is_solid(column, row)
    }
    #[inline]
    fn any_solid(&self, columns: Range<i32>, rows: Range<i32>) -> bool {
        (**self).any_solid(columns, rows)
    }
    #[inline]
    fn features(&self) -> Features {
        (**self).features()
    }
    #[inline]
    fn features_in(&self, columns: Range<i32>, rows: Range<i32>) -> Features {
        (**self).features_in(columns, rows)
    }
    fn blocks_near(&self, area: &Hitbox, visit: &mut dyn FnMut(usize, &Block)) {
        (**self).blocks_near(area, visit);
    }
    fn ramps_near(&self, area: &Hitbox, visit: &mut dyn FnMut(usize, &Ramp)) {
        (**self).ramps_near(area, visit);
    }
    fn zones_near(&self, area: &Hitbox, visit: &mut dyn FnMut(ZoneOf, &DrawnZone)) {
        (**self).zones_near(area, visit);
    }
    fn zone_of_tile(&self, column: i32, row: i32, zone: &Zone) -> ZoneOf {
        (**self).zone_of_tile(column, row, zone)
    }
    fn zone_reach(&self) -> f64 {
        (**self).zone_reach()
    }
    #[inline]
    fn width(&self) -> f64 {
        (**self).width()
    }
    #[inline]
    fn height(&self) -> f64 {
        (**self).height()
    }
    #[inline]
    fn left(&self) -> f64 {
        (**self).left()
    }
    #[inline]
    fn top(&self) -> f64 {
        (**self).top()
    }
}
