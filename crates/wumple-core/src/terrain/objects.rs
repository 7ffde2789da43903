use alloc::vec::Vec;

use glam::DVec2;

use super::crowd::crowded_square;
use super::{Block, DrawnZone, Ramp, Zone, ZoneOf};
use crate::groups::Group;
use crate::space::{Hitbox, Index};

/// Blocks and drawn ramps with an index of where they are, so that only those near a body are looked at.
#[derive(Clone, Debug, Default, PartialEq)]
pub(super) struct Objects {
    pub(super) blocks: Vec<Block>,
    pub(super) ramps: Vec<Ramp>,
    pub(super) drawn_zones: Vec<DrawnZone>,
    blocks_at: Index,
    ramps_at: Index,
    /// The zones of blocks, and those that are drawn.
    zones: Vec<(ZoneOf, DrawnZone)>,
    /// With their margins.
    zones_at: Index,
}

impl Objects {
    pub(super) fn new(blocks: Vec<Block>, ramps: Vec<Ramp>, drawn_zones: Vec<DrawnZone>) -> Objects {
        let of_block = |(index, block): (usize, &Block)| {
            Some((ZoneOf::Block(index), DrawnZone::new(block.place(), block.zone?).in_group(block.group)))
        };
        let of_drawn = |index: usize, zone: &DrawnZone| zone.ramp.map_or(ZoneOf::Drawn(index), ZoneOf::Ramp);
        let drawn = drawn_zones.iter().enumerate().map(|(index, zone)| (of_drawn(index, zone), *zone));
        let zones: Vec<_> = blocks.iter().enumerate().filter_map(of_block).chain(drawn).collect();
        let zones_at = Index::new(zones.iter().map(|(_, zone)| zone.felt_within()));
        let blocks_at = Index::new(blocks.iter().map(Block::place));
        let ramps_at = Index::new(ramps.iter().map(Ramp::place));
        Objects { blocks, ramps, drawn_zones, blocks_at, ramps_at, zones, zones_at }
    }

    /// What too many of are in one place, and about where.
    pub(super) fn crowd(&self) -> Option<(&'static str, usize, DVec2)> {
        let about = |what, (square, object): (Hitbox, usize)| (what, object, DVec2::new(square.left, square.top));
        let blocks = crowded_square(self.blocks.len(), self.blocks_at.whole(), &|block, area| {
            self.blocks[block].place().touches(area)
        });
        let ramps = crowded_square(self.ramps.len(), self.ramps_at.whole(), &|ramp, area| {
            let ramp = &self.ramps[ramp];
            let (from, to) = (ramp.left.x.max(area.left), ramp.right.x.min(area.right));
            let (one, other) = (ramp.at(from), ramp.at(to));
            from <= to && one.min(other) <= area.bottom && one.max(other) >= area.top
        });
        blocks.map(|found| about("blocks", found)).or(ramps.map(|found| about("drawn ramps", found)))
    }

    /// The same of zones, with their margins.
    pub(super) fn zone_crowd(&self) -> Option<(usize, DVec2)> {
        let crowded = crowded_square(self.zones.len(), self.zones_at.whole(), &|zone, area| {
            let zone = &self.zones[zone].1;
            zone.felt_within().touches(area)
        });
        crowded.map(|(square, zone)| (zone, DVec2::new(square.left, square.top)))
    }

    pub(super) fn blocks_near(&self, area: &Hitbox, visit: &mut dyn FnMut(usize, &Block)) {
        self.blocks_at.near(area, |index| visit(index, &self.blocks[index]));
    }

    pub(super) fn zones_near(&self, area: &Hitbox, visit: &mut dyn FnMut(ZoneOf, &DrawnZone)) {
        self.zones_at.near(area, |index| {
            let (of, zone) = &self.zones[index];
            visit(*of, zone);
        });
    }

    /// What lies off the grid is in groups, or some of it.
    pub(super) fn any_grouped(&self) -> bool {
        let Objects { blocks, ramps, drawn_zones, .. } = self;
        let is_grouped = |group: &Group| *group != Group::LEVEL;
        let mut groups = blocks
            .iter()
            .map(|of| &of.group)
            .chain(ramps.iter().map(|of| &of.group))
            .chain(drawn_zones.iter().map(|of| &of.group));
        groups.any(is_grouped)
    }

    pub(super) fn zones(&self) -> impl Iterator<Item = &Zone> {
        self.zones.iter().map(|(_, zone)| &zone.zone)
    }

    pub(super) fn ramps_near(&self, area: &Hitbox, visit: &mut dyn FnMut(usize, &Ramp)) {
        self.ramps_at.near(area, |index| visit(index, &self.ramps[index]));
    }
}
