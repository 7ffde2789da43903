//! What is known of the platforms near a body from one tick to the next.

use crate::space::{Hitbox, Index};

/// How far around a body the platforms are noted that ever come there, px: so that they need not be looked up
/// in every tick.
pub(super) const AHEAD: f64 = 64.0;

/// The platforms that ever come into a box around a body. Routes do not change: as long as the body stays in
/// the box, no others need be asked.
#[derive(Clone, Debug)]
pub(crate) struct PlatformNotes {
    pub(super) area: Hitbox,
    pub(super) noted: [Noted; PlatformNotes::MOST],
    /// How many; more than [`PlatformNotes::MOST`] where they are too many to be noted.
    pub(super) count: usize,
}

/// One of them. It need not be asked for some ticks, if it was far away.
#[derive(Clone, Copy, Debug)]
pub(super) struct Noted {
    pub(super) platform: u32,
    /// Through this tick it does not come into this area.
    pub(super) quiet_until: u64,
    pub(super) quiet: Hitbox,
}

impl PlatformNotes {
    const MOST: usize = 8;

    /// Nothing is known yet.
    pub(crate) const UNKNOWN: PlatformNotes = PlatformNotes {
        area: Hitbox::NOWHERE,
        noted: [Noted { platform: 0, quiet_until: 0, quiet: Hitbox::NOWHERE }; PlatformNotes::MOST],
        count: 0,
    };

    pub(super) fn fill(&mut self, index: &Index, area: Hitbox) {
        *self = PlatformNotes { area, ..PlatformNotes::UNKNOWN };
        // Rounding to whole pixels can move a platform beyond what its route sweeps.
        index.near(&area.grown(1.0), |platform| {
            if let Some(slot) = self.noted.get_mut(self.count) {
                slot.platform = platform as u32;
            }
            self.count += 1;
        });
    }

    /// Whether they are not too many.
    pub(super) fn are_noted(&self) -> bool {
        self.count <= PlatformNotes::MOST
    }

    pub(super) fn noted(&mut self) -> &mut [Noted] {
        &mut self.noted[..self.count]
    }
}

impl Noted {
    /// It is at least `gap` px from the area and goes no further than `stride` px in a tick: half of the way is
    /// left to the body, half to it.
    pub(super) fn keep_quiet(&mut self, area: &Hitbox, tick: u64, gap: f64, stride: f64) {
        let room = gap * 0.5;
        (self.quiet_until, self.quiet) = (tick + (room / stride) as u64, area.grown(room));
    }

    /// Whether it cannot be in the area.
    #[inline]
    pub(super) fn is_quiet(&self, area: &Hitbox, tick: u64) -> bool {
        tick <= self.quiet_until && self.quiet.contains(area)
    }
}
