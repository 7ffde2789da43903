use alloc::vec::Vec;
use core::fmt;
use core::ops::Range;

use glam::DVec2;

use super::crowd::{MOST, SQUARE};
use super::objects::Objects;
use super::zone_labels::ZoneLabels;
use super::{Block, DrawnZone, Edges, Features, Ramp, Surface, Terrain, TileProperties, Zone, ZoneOf};
use crate::space::{GridLines, Hitbox};
use crate::tuning::{LIMIT_LENGTH, round_length};

/// A map kept as one byte a tile, with the properties of each kind of tile in a table, and the blocks and
/// drawn ramps that lie over it.
#[derive(Clone, PartialEq)]
pub struct Grid {
    grid_lines: GridLines,
    columns: i32,
    rows: i32,
    width: f64,
    height: f64,
    tiles: Vec<u8>,
    kinds: [TileProperties; 256],
    solid: [bool; 256],
    features_of: [Features; 256],
    /// How many kinds there are, and how many tiles are of each.
    kind_count: usize,
    tiles_of: Vec<u32>,
    /// Of the kinds that the map uses, and of the objects over it: a kind that is nowhere costs nothing.
    features: Features,
    edges: Edges,
    objects: Objects,
    /// Which tiles are one zone.
    zone_labels: ZoneLabels,
    /// The greatest margin of a zone, px.
    zone_reach: f64,
    /// How often it was changed.
    revision: u64,
}

/// Its size and what it has: not its tiles, of which there can be millions.
impl fmt::Debug for Grid {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.debug_struct("Grid")
            .field("columns", &self.columns)
            .field("rows", &self.rows)
            .field("tile", &self.grid_lines.spacing())
            .field("edges", &self.edges)
            .field("blocks", &self.objects.blocks)
            .field("ramps", &self.objects.ramps)
            .finish_non_exhaustive()
    }
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
    /// There is no tile at this place to be changed.
    NoTile {
        /// Column, from 0.
        column: i32,
        /// Row, from 0.
        row: i32,
        /// How many columns there are.
        columns: i32,
        /// How many rows there are.
        rows: i32,
    },
    /// More than 256 kinds of tile.
    TooManyKinds {
        /// How many.
        found: usize,
    },
    /// A ramp's height is not from 0 to the side of a tile, or a grip, surface speed or bounce is not
    /// within its bounds.
    BadKind {
        /// Which kind, an index into the table.
        kind: usize,
    },
    /// A block has no size, lies beyond where coordinates end, or has a bad grip, surface speed or bounce.
    BadBlock {
        /// Which, from 0.
        block: usize,
    },
    /// Too many blocks or drawn ramps in one place: more than 64 touch a square of 32 px.
    Crowded {
        /// Blocks, or drawn ramps.
        what: &'static str,
        /// The first of them that is too many, from 0.
        object: usize,
        /// The square's top-left corner, px, y down.
        at: DVec2,
    },
    /// A drawn zone has no size, lies beyond where coordinates end, or has a margin beyond its bounds.
    BadZone {
        /// Which, from 0.
        zone: usize,
    },
    /// A drawn ramp lies beyond where coordinates end, or has a bad grip, surface speed or bounce.
    BadRamp {
        /// Which, from 0.
        ramp: usize,
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
            GridError::NoTile { column, row, columns, rows } => {
                write!(f, "there is no tile at column {column}, row {row}; the map has {columns} x {rows}")
            }
            GridError::TooManyKinds { found } => write!(f, "{found} kinds of tile; there may be 256"),
            GridError::BadKind { kind } => write!(
                f,
                "kind {kind} has a ramp's height that is not from 0 to the side of a tile, or a grip, surface speed \
                 or bounce out of bounds"
            ),
            GridError::BadBlock { block } => {
                let number = block + 1;
                write!(f, "block {number} has no size, is beyond {LIMIT_LENGTH} px, or has a material out of bounds")
            }
            GridError::Crowded { what, at, .. } => write!(
                f,
                "more than {MOST} {what} touch a square of {SQUARE} px at ({}, {}) px; a body there would have to ask \
                 all of them, many times a tick: let fewer and longer ones do",
                at.x, at.y
            ),
            GridError::BadZone { zone } => {
                let number = zone + 1;
                write!(f, "zone {number} has no size, is beyond {LIMIT_LENGTH} px, or has a margin out of bounds")
            }
            GridError::BadRamp { ramp } => {
                let number = ramp + 1;
                write!(f, "ramp {number} is beyond {LIMIT_LENGTH} px or has a material out of bounds")
            }
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
        for (index, kind) in kinds.iter().enumerate() {
            table[index] = checked_kind(*kind, tile).ok_or(GridError::BadKind { kind: index })?;
        }
        let features_of = table.map(|kind| kind.features());
        let mut tiles_of = alloc::vec![0; 256];
        tiles.iter().for_each(|kind| tiles_of[usize::from(*kind)] += 1);
        let mut grid = Grid {
            grid_lines: GridLines::new(tile),
            columns: columns as i32,
            rows: rows as i32,
            width: columns as f64 * tile,
            height: rows as f64 * tile,
            tiles,
            solid: table.map(|kind| kind.surface == Surface::Solid),
            features_of,
            kind_count: kinds.len(),
            tiles_of,
            features: Features::NONE,
            kinds: table,
            edges,
            objects: Objects::default(),
            zone_labels: ZoneLabels::default(),
            zone_reach: 0.0,
            revision: 0,
        };
        grid.zone_labels = grid.label_zones();
        grid.note_features();
        Ok(grid)
    }

    /// Makes a tile another kind: an index into the kinds given to [`Grid::new`]. Through
    /// [`World::terrain_mut`](crate::World::terrain_mut), between ticks: a floor that breaks, a door that opens.
    ///
    /// ```
    /// # use wumple_core::{Buttons, DVec2, Edges, Grid, State, Tuning, TuningNumbers, World};
    /// # let map = Grid::from_rows(&["......", "......", "######"], 16.0, Edges::default())?;
    /// # let mut world = World::new(map);
    /// # let tuning = Tuning::check(&TuningNumbers::new(10.0, 22.0, 120.0).with_jump(54.0, 0.35))?;
    /// let dab = world.add_character(tuning, DVec2::new(24.0, 32.0))?;
    /// world.terrain_mut().set_tile(1, 2, 0)?; // what Dab stands on is gone
    /// world.tick(&[Buttons::NONE]);
    /// assert_eq!(world.report(dab).state, State::Fall);
    /// # Ok::<(), Box<dyn core::error::Error>>(())
    /// ```
    ///
    /// # Errors
    ///
    /// [`GridError::NoTile`] outside the map, [`GridError::UnknownKind`] of a kind that was not given. Nothing is changed
    /// then.
    pub fn set_tile(&mut self, column: i32, row: i32, kind: usize) -> Result<(), GridError> {
        if !self.has_tile(column, row) {
            return Err(GridError::NoTile { column, row, columns: self.columns, rows: self.rows });
        }
        if kind >= self.kind_count {
            return Err(GridError::UnknownKind { column: column as usize, row: row as usize });
        }
        let before = self.kind_at(column, row);
        if kind == before {
            return Ok(());
        }
        self.tiles[row as usize * self.columns as usize + column as usize] = kind as u8;
        self.tiles_of[before] -= 1;
        self.tiles_of[kind] += 1;
        self.revision += 1;
        if self.tiles_of[before] == 0 || self.tiles_of[kind] == 1 {
            self.note_features();
        }
        let joins = |kind: usize| self.kinds[kind].zone.is_some_and(|zone| zone.kind.joins());
        if joins(before) || joins(kind) {
            self.zone_labels = self.label_zones();
        }
        Ok(())
    }

    /// Which tiles are one zone.
    fn label_zones(&self) -> ZoneLabels {
        let joined =
            self.kinds.map(|kind| kind.zone.map(|zone| (zone.kind, kind.group)).filter(|(kind, _)| kind.joins()));
        ZoneLabels::of(self.columns as usize, &self.tiles, &joined)
    }

    /// What the kinds that are somewhere have, and the objects over them.
    fn note_features(&mut self) {
        let used = self.features_of.iter().zip(&self.tiles_of).filter(|(_, tiles)| **tiles > 0);
        let Objects { blocks, ramps, .. } = &self.objects;
        let special = |material: &super::Material| !material.is_plain();
        let any_special =
            blocks.iter().any(|block| special(&block.material)) || ramps.iter().any(|ramp| special(&ramp.material));
        let of_objects = [
            (Features::BLOCK, !blocks.is_empty()),
            (Features::DRAWN_RAMP, !ramps.is_empty()),
            (Features::MATERIAL, any_special),
            (Features::ZONE, self.objects.zones().next().is_some()),
            (Features::GROUP, self.objects.any_grouped()),
        ];
        self.features = used.fold(Features::NONE, |all, (features, _)| all | *features);
        let of_tiles = self.kinds.iter().zip(&self.tiles_of).filter(|(_, tiles)| **tiles > 0);
        let zones = of_tiles.filter_map(|(kind, _)| kind.zone.as_ref()).chain(self.objects.zones());
        self.zone_reach = zones.fold(0.0, |most, zone| most.max(zone.margin.held().most()));
        self.features |= of_objects.iter().filter(|(_, any)| *any).fold(Features::NONE, |all, (of, _)| all | *of);
    }

    /// The same map with these blocks and drawn ramps over it, instead of those it had.
    ///
    /// # Errors
    ///
    /// Like [`Grid::set_objects`].
    pub fn with_objects(mut self, blocks: Vec<Block>, ramps: Vec<Ramp>) -> Result<Grid, GridError> {
        self.set_objects(blocks, ramps)?;
        Ok(self)
    }

    /// Puts these blocks and drawn ramps over the map, instead of those it had. Its work grows with their number.
    ///
    /// # Errors
    ///
    /// [`GridError::BadBlock`], [`GridError::BadRamp`] and [`GridError::Crowded`]. Nothing is changed then.
    pub fn set_objects(&mut self, blocks: Vec<Block>, ramps: Vec<Ramp>) -> Result<(), GridError> {
        let within = |place: f64| place.abs() <= LIMIT_LENGTH;
        let is_block = |block: &Block| {
            [block.left, block.right, block.top, block.bottom].into_iter().all(within)
                && block.left < block.right
                && block.top < block.bottom
                && block.material.is_within_bounds()
                && block.zone.is_none_or(|zone| zone.margin.is_within_bounds())
        };
        let is_ramp = |ramp: &Ramp| {
            [ramp.left.x, ramp.left.y, ramp.right.x, ramp.right.y].into_iter().all(within)
                && ramp.material.is_within_bounds()
        };
        if let Some(block) = blocks.iter().position(|block| !is_block(block)) {
            return Err(GridError::BadBlock { block });
        }
        if let Some(ramp) = ramps.iter().position(|ramp| !is_ramp(ramp)) {
            return Err(GridError::BadRamp { ramp });
        }
        let drawn_zones = core::mem::take(&mut self.objects.drawn_zones);
        let objects = Objects::new(blocks, ramps, drawn_zones);
        if let Some((what, object, at)) = objects.crowd() {
            self.objects.drawn_zones = objects.drawn_zones;
            return Err(GridError::Crowded { what, object, at });
        }
        self.objects = objects;
        self.revision += 1;
        self.note_features();
        Ok(())
    }

    /// The same map with these zones drawn over it, instead of those it had.
    ///
    /// # Errors
    ///
    /// Like [`Grid::set_zones`].
    pub fn with_zones(mut self, zones: Vec<DrawnZone>) -> Result<Grid, GridError> {
        self.set_zones(zones)?;
        Ok(self)
    }

    /// Draws these zones over the map, instead of those it had. Its work grows with the number of blocks and zones.
    ///
    /// # Errors
    ///
    /// [`GridError::BadZone`], and [`GridError::Crowded`] if more than 64 touch one square of 32 px with their margins.
    /// Nothing is changed then.
    pub fn set_zones(&mut self, zones: Vec<DrawnZone>) -> Result<(), GridError> {
        let ramps = self.objects.ramps.len();
        let is_zone = |DrawnZone { place, zone, ramp, .. }: &DrawnZone| {
            let lies = match ramp {
                Some(ramp) => *ramp < ramps,
                None => place.left < place.right && place.top < place.bottom,
            };
            lies && [place.left, place.right, place.top, place.bottom].iter().all(|side| side.abs() <= LIMIT_LENGTH)
                && zone.margin.is_within_bounds()
        };
        if let Some(zone) = zones.iter().position(|zone| !is_zone(zone)) {
            return Err(GridError::BadZone { zone });
        }
        let Objects { blocks, ramps, .. } = self.objects.clone();
        let objects = Objects::new(blocks, ramps, zones);
        if let Some((object, at)) = objects.zone_crowd() {
            return Err(GridError::Crowded { what: "zones", object, at });
        }
        self.objects = objects;
        self.revision += 1;
        self.note_features();
        Ok(())
    }

    /// The same map without any zone: tiles, blocks and ramps are met as they are, and nothing is told of what is entered and left. For who asks after
    /// motion alone, which zones never change. Its work grows with the map.
    #[must_use]
    pub fn without_zones(&self) -> Grid {
        let mut bare = self.clone();
        for (kind, features) in bare.kinds.iter_mut().zip(&mut bare.features_of) {
            kind.zone = None;
            *features = kind.features();
        }
        let Objects { mut blocks, ramps, .. } = bare.objects;
        blocks.iter_mut().for_each(|block| block.zone = None);
        bare.objects = Objects::new(blocks, ramps, Vec::new());
        bare.zone_labels = bare.label_zones();
        bare.revision += 1;
        bare.note_features();
        bare
    }

    /// The zones drawn over the map.
    #[must_use]
    pub fn zones(&self) -> &[DrawnZone] {
        &self.objects.drawn_zones
    }

    /// The blocks over the map.
    #[must_use]
    pub fn blocks(&self) -> &[Block] {
        &self.objects.blocks
    }

    /// The ramps drawn over the map.
    #[must_use]
    pub fn ramps(&self) -> &[Ramp] {
        &self.objects.ramps
    }

    /// A map drawn in letters: `.` is empty, `#` solid, `=` one-way, `H` a ladder, `/` and `\` ramps of
    /// one tile. For tests and small games; level files know more letters.
    ///
    /// # Errors
    ///
    /// Like [`Grid::new`], and [`GridError::UnknownKind`] for any other letter.
    pub fn from_rows(rows: &[&str], tile: f64, edges: Edges) -> Result<Grid, GridError> {
        const LETTERS: &[u8; 6] = b".#=H/\\";
        let columns = rows.first().map_or(0, |row| row.len());
        let mut tiles = Vec::with_capacity(columns * rows.len());
        for (row, text) in rows.iter().enumerate() {
            if text.len() != columns {
                return Err(GridError::Ragged { row, expected: columns, found: text.len() });
            }
            for (column, letter) in text.bytes().enumerate() {
                let kind = LETTERS.iter().position(|known| *known == letter);
                tiles.push(kind.ok_or(GridError::UnknownKind { column, row })? as u8);
            }
        }
        let ramp = |left_height, right_height| TileProperties::of(Surface::Ramp { left_height, right_height });
        let kinds = [
            TileProperties::EMPTY,
            TileProperties::SOLID,
            TileProperties::ONE_WAY,
            TileProperties::LADDER,
            ramp(0.0, tile),
            ramp(tile, 0.0),
        ];
        Grid::new(columns, tiles, tile, &kinds, edges)
    }

    /// Which kind the tile at this place is: an index into the kinds given to [`Grid::new`].
    ///
    /// # Panics
    ///
    /// If the place is outside the map.
    #[inline]
    #[must_use]
    pub fn kind(&self, column: i32, row: i32) -> usize {
        self.kind_at(column, row)
    }

    /// The ramp that the tile at this place is, if it is one.
    ///
    /// # Panics
    ///
    /// If the place is outside the map.
    #[must_use]
    pub fn ramp_at(&self, column: i32, row: i32) -> Option<Ramp> {
        let tile = self.tile(column, row);
        let Surface::Ramp { left_height, right_height } = tile.surface else { return None };
        Some(Ramp::of_tile(&self.grid_lines.cell(column, row), left_height, right_height, tile.material))
    }

    /// Whether any tile is of this kind.
    #[must_use]
    pub fn has_kind(&self, kind: usize) -> bool {
        self.tiles_of.get(kind).is_some_and(|tiles| *tiles > 0)
    }

    #[inline]
    fn kind_at(&self, column: i32, row: i32) -> usize {
        usize::from(self.tiles[row as usize * self.columns as usize + column as usize])
    }
}

impl Terrain for Grid {
    #[inline]
    fn grid_lines(&self) -> GridLines {
        self.grid_lines
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
    fn left(&self) -> f64 {
        0.0
    }
    #[inline]
    fn top(&self) -> f64 {
        0.0
    }
    #[inline]
    fn tile(&self, column: i32, row: i32) -> TileProperties {
        self.kinds[self.kind_at(column, row)]
    }
    #[inline]
    fn surface(&self, column: i32, row: i32) -> Surface {
        self.kinds[self.kind_at(column, row)].surface
    }
    #[inline]
    fn edges(&self) -> Edges {
        self.edges
    }
    #[inline]
    fn revision(&self) -> Option<u64> {
        Some(self.revision)
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
    fn features(&self) -> Features {
        self.features
    }
    #[inline]
    fn features_in(&self, columns: Range<i32>, rows: Range<i32>) -> Features {
        let (left, right) = (columns.start.max(0), columns.end.min(self.columns));
        let (top, bottom) = (rows.start.max(0), rows.end.min(self.rows));
        let mut found = Features::NONE;
        if left >= right {
            return found;
        }
        for row in top..bottom {
            let start = row as usize * self.columns as usize;
            for kind in &self.tiles[start + left as usize..start + right as usize] {
                found |= self.features_of[usize::from(*kind)];
            }
        }
        found
    }
    fn zones_near(&self, area: &Hitbox, visit: &mut dyn FnMut(ZoneOf, &DrawnZone)) {
        self.objects.zones_near(area, visit);
    }
    fn zone_of_tile(&self, column: i32, row: i32, zone: &Zone) -> ZoneOf {
        if !zone.kind.joins() {
            return ZoneOf::Tile { column, row };
        }
        let (column, row) = self.zone_labels.first(self.columns, column, row);
        ZoneOf::Tile { column, row }
    }
    fn zone_reach(&self) -> f64 {
        self.zone_reach
    }
    fn blocks_near(&self, area: &Hitbox, visit: &mut dyn FnMut(usize, &Block)) {
        self.objects.blocks_near(area, visit);
    }
    fn ramps_near(&self, area: &Hitbox, visit: &mut dyn FnMut(usize, &Ramp)) {
        self.objects.ramps_near(area, visit);
    }
}

/// A kind as the map keeps it: a ramp's heights rounded to 1/1024 px. `None` if it is out of bounds.
fn checked_kind(mut kind: TileProperties, tile: f64) -> Option<TileProperties> {
    if let Surface::Ramp { left_height, right_height } = &mut kind.surface {
        for height in [left_height, right_height] {
            *height = round_length(*height);
            if !(0.0..=tile).contains(height) {
                return None;
            }
        }
    }
    let zone = kind.zone.is_none_or(|zone| zone.margin.is_within_bounds());
    (zone && kind.material.is_within_bounds()).then_some(kind)
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
        assert!(!grid.features().has(Features::ZONE));
    }
}
