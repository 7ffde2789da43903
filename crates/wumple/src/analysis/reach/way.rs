//! A way that was found: run again from the start, and shortened.

use wumple_core::DVec2;

use super::run::{Run, Wanted};
use crate::files::Timeline;

/// A way to a target.
pub(super) struct Way<'a> {
    pub(super) run: &'a Run<'a>,
    pub(super) wanted: &'a Wanted<'a>,
    pub(super) target: usize,
}

impl Way<'_> {
    /// Where the feet are, tick by tick from the start on, in a run with these buttons that comes to the target; up to the tick in
    /// which it does first. None if it does not within so many.
    pub(super) fn path(&self, held: &Timeline, ticks: u64) -> Option<Vec<DVec2>> {
        let mut run = self.run.clone();
        let mut path = vec![run.feet()];
        for tick in 1..=ticks {
            if !run.tick(held.at(tick)) {
                return None;
            }
            path.push(run.feet());
            let mut comes = false;
            run.come_to(self.wanted, |index| comes |= index == self.target);
            if comes {
                return Some(path);
            }
            if run.is_over() {
                return None;
            }
        }
        None
    }

    /// The same with fewer presses, in no more ticks: each change of what is held is left out that can be.
    pub(super) fn shortened(&self, mut held: Timeline, mut path: Vec<DVec2>) -> (Timeline, Vec<DVec2>) {
        let mut at = held.changes().len();
        while at > 0 {
            at -= 1;
            let mut fewer = Timeline::default();
            let kept = held.changes().iter().enumerate().filter(|(index, _)| *index != at);
            kept.for_each(|(_, (tick, buttons))| fewer.record(*tick, *buttons));
            if fewer.presses() > held.presses() {
                continue;
            }
            if let Some(sooner) = self.path(&fewer, path.len() as u64 - 1) {
                (held, path) = (fewer.until(sooner.len() as u64 - 1), sooner);
                at = at.min(held.changes().len());
            }
        }
        (held, path)
    }
}
