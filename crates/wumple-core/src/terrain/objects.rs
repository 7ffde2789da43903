use alloc::vec::Vec;

use glam::DVec2;

use super::crowd::crowded_square;
use super::{Block, Ramp};
use crate::space::{Hitbox, Index};

/// Blocks and drawn ramps with an index of where they are, so that only those near a body are looked at.
#[derive(Clone, Debug, Default, PartialEq)]
pub(super) struct Objects {
    pub(super) blocks: Vec<Block>,
    pub(super) ramps: Vec<Ramp>,
    blocks_at: Index,
    ramps_at: Index,
}

impl Objects {
    pub(super) fn new(blocks: Vec<Block>, ramps: Vec<Ramp>) -> Objects {
        let blocks_at = Index::new(blocks.iter().map(Block::place));
        let ramps_at = Index::new(ramps.iter().map(Ramp::place));
        Objects { blocks, ramps, blocks_at, ramps_at }
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

    pub(super) fn blocks_near(&self, area: &Hitbox, visit: &mut dyn FnMut(usize, &Block)) {
        self.blocks_at.near(area, |index| visit(index, &self.blocks[index]));
    }

    pub(super) fn ramps_near(&self, area: &Hitbox, visit: &mut dyn FnMut(usize, &Ramp)) {
        self.ramps_at.near(area, |index| visit(index, &self.ramps[index]));
    }
}
