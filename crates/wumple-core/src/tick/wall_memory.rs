//! What a body knows of walls, whatever its mode.

use crate::collide::{Wall, Walls};
use crate::input::Direction;

/// The walls that are touched, were lost, and do not count for now.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub(super) struct WallMemory {
    /// The walls within the probe.
    pub(super) touched: Walls,
    /// The walls lost last in the air, to the left and to the right, and the first tick without each.
    pub(super) lost: [Option<(Wall, u64)>; 2],
    /// The wall jumped off last, until ground, a ladder or another wall is touched.
    pub(super) jumped_off: Option<Wall>,
    /// The contact just jumped off: its loss starts no coyote time.
    pub(super) spent: Option<Wall>,
    /// The wall let go, until it was out of the probe or grab is pressed afresh.
    pub(super) barred: Option<Wall>,
}

impl WallMemory {
    /// The wall that was lost last; of two in one tick the one on this side.
    pub(super) fn lost_last(&self, side: Direction) -> Option<(Wall, u64)> {
        let [left, right] = self.lost;
        let (this, other) = if side == Direction::Left { (left, right) } else { (right, left) };
        match (this, other) {
            (Some((_, tick)), Some((_, later))) if later > tick => other,
            (this, other) => this.or(other),
        }
    }

    /// A wall that was touched before and is not now can be jumped off for a while, unless it just was.
    pub(super) fn note_lost(&mut self, before: Walls, tick: u64) {
        for side in [Direction::Left, Direction::Right] {
            if let (Some(lost), None) = (before.on(side), self.touched.on(side))
                && self.spent.is_none_or(|spent| spent.side != side)
            {
                self.lost[side as usize] = Some((lost, tick));
            }
        }
    }

    /// A wall just jumped off, or let go, counts anew once it is out of the probe.
    #[inline(always)]
    pub(super) fn forget_left(&mut self) {
        let WallMemory { touched, spent, barred, .. } = self;
        for left in [spent, barred] {
            if left.is_some_and(|wall| !touched.on(wall.side).is_some_and(|touched| touched.is(&wall))) {
                *left = None;
            }
        }
    }

    /// Touching another wall, or the same again elsewhere, ends that a wall does not count.
    pub(super) fn forget_jumped_off(&mut self) {
        let touched = self.touched;
        let touches_other_than = |wall: Wall| {
            [Direction::Left, Direction::Right]
                .into_iter()
                .any(|side| touched.on(side).is_some_and(|touched| !touched.counts_as(&wall)))
        };
        if self.jumped_off.is_some_and(touches_other_than) {
            self.jumped_off = None;
        }
    }

    /// On the ground every wall counts again.
    pub(super) fn forget_all(&mut self) {
        (self.jumped_off, self.spent) = (None, None);
        self.lost = [None; 2];
    }
}
