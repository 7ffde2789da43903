//! A terrain as one body meets it: without what is in groups that its own does not meet, and what was taken away.

use core::ops::Range;

use super::{
    Block, DrawnZone, Edge, Edges, Features, Ramp, Surface, Terrain, TileProperties, Zone, ZoneId, ZoneOf,
    any_solid_one_by_one,
};
use crate::groups::Group;
use crate::presence::Meets;
use crate::space::{GridLines, Hitbox};

/// What of a terrain one body meets.
pub(crate) struct MetTerrain<'a, T> {
    terrain: &'a T,
    meets: Meets<'a>,
    /// Whether it meets what is in no group.
    level: bool,
    /// Whether every tile must be asked for its group, and whether it was taken away.
    by_tile: bool,
    /// Seen from above, what is not solid is not there but as a zone.
    from_above: bool,
}

impl<'a, T: Terrain> MetTerrain<'a, T> {
    pub(crate) fn by(meets: Meets<'a>, from_above: bool, terrain: &'a T) -> MetTerrain<'a, T> {
        let has = |features| terrain.features().has(features);
        let by_tile = !meets.has_all() && (has(Features::GROUP) || (meets.lacks_any() && has(Features::ZONE)));
        MetTerrain { terrain, meets, level: meets.has(Group::LEVEL), by_tile, from_above }
    }

    #[inline]
    fn seen(&self, surface: Surface) -> Surface {
        if self.from_above && surface != Surface::Solid { Surface::Empty } else { surface }
    }

    fn is_away(&self, column: i32, row: i32, tile: &TileProperties) -> bool {
        let is_away = |zone: &Zone| {
            let of = self.terrain.zone_of_tile(column, row, zone);
            self.meets.lacks(ZoneId { kind: zone.kind, of })
        };
        self.meets.lacks_any() && tile.zone.as_ref().is_some_and(is_away)
    }
}

impl<T: Terrain> Terrain for MetTerrain<'_, T> {
    #[inline]
    fn grid_lines(&self) -> GridLines {
        self.terrain.grid_lines()
    }
    fn columns(&self) -> i32 {
        self.terrain.columns()
    }
    fn rows(&self) -> i32 {
        self.terrain.rows()
    }
    fn first_column(&self) -> i32 {
        self.terrain.first_column()
    }
    fn first_row(&self) -> i32 {
        self.terrain.first_row()
    }
    fn tile(&self, column: i32, row: i32) -> TileProperties {
        let tile = self.terrain.tile(column, row);
        if !self.meets.has(tile.group) || self.is_away(column, row, &tile) {
            return TileProperties::EMPTY;
        }
        TileProperties { surface: self.seen(tile.surface), ..tile }
    }
    /// Solid edges are of the level; deadly ones are where it ends, for everyone.
    fn edges(&self) -> Edges {
        let edges = self.terrain.edges();
        if self.level {
            return edges;
        }
        let met = |edge: Edge| if edge == Edge::Solid { Edge::Open } else { edge };
        Edges { left: met(edges.left), right: met(edges.right), top: met(edges.top), bottom: met(edges.bottom) }
    }
    #[inline]
    fn revision(&self) -> Option<u64> {
        self.terrain.revision()
    }
    #[inline]
    fn surface(&self, column: i32, row: i32) -> Surface {
        match (self.by_tile, self.level) {
            (false, true) => self.seen(self.terrain.surface(column, row)),
            (false, false) => Surface::Empty,
            (true, _) => self.tile(column, row).surface,
        }
    }
    #[inline]
    fn any_solid(&self, columns: Range<i32>, rows: Range<i32>) -> bool {
        if !self.by_tile {
            return self.level && self.terrain.any_solid(columns, rows);
        }
        any_solid_one_by_one(self, columns, rows)
    }
    #[inline]
    fn features(&self) -> Features {
        self.terrain.features()
    }
    fn features_in(&self, columns: Range<i32>, rows: Range<i32>) -> Features {
        self.terrain.features_in(columns, rows)
    }
    fn blocks_near(&self, area: &Hitbox, visit: &mut dyn FnMut(usize, &Block)) {
        self.terrain.blocks_near(area, &mut |index, block| {
            if self.meets.has(block.group) && !self.meets.lacks_thing(ZoneOf::Block(index)) {
                visit(index, block);
            }
        });
    }
    fn ramps_near(&self, area: &Hitbox, visit: &mut dyn FnMut(usize, &Ramp)) {
        if self.from_above {
            return;
        }
        self.terrain.ramps_near(area, &mut |index, ramp| {
            if self.meets.has(ramp.group) && !self.meets.lacks_thing(ZoneOf::Ramp(index)) {
                visit(index, ramp);
            }
        });
    }
    fn zones_near(&self, area: &Hitbox, visit: &mut dyn FnMut(ZoneOf, &DrawnZone)) {
        self.terrain.zones_near(area, &mut |of, zone| {
            if self.meets.has(zone.group) && !self.meets.lacks_thing(of) {
                visit(of, zone);
            }
        });
    }
    fn zone_of_tile(&self, column: i32, row: i32, zone: &Zone) -> ZoneOf {
        self.terrain.zone_of_tile(column, row, zone)
    }
    fn zone_reach(&self) -> f64 {
        self.terrain.zone_reach()
    }
    fn width(&self) -> f64 {
        self.terrain.width()
    }
    fn height(&self) -> f64 {
        self.terrain.height()
    }
    fn left(&self) -> f64 {
        self.terrain.left()
    }
    fn top(&self) -> f64 {
        self.terrain.top()
    }
}
