//! A way that was found, shortened.

use wumple_core::DVec2;

use super::run::{Run, Wanted};
use crate::files::Timeline;

/// A way to a target: what is held, and where the feet are at the start and after each tick, to that in which it is come to.
pub(super) struct Way {
    pub(super) held: Timeline,
    pub(super) path: Vec<DVec2>,
}

impl Way {
    /// The way of these buttons to a target, to the tick in which it is come to first. None if it is not within so many.
    fn run(start: &Run<'_>, wanted: &Wanted<'_>, target: usize, held: &Timeline, ticks: u64) -> Option<Way> {
        let mut run = start.clone();
        let mut path = vec![run.feet()];
        for (tick, buttons) in (1..=ticks).zip(held.tick_by_tick()) {
            if !run.tick(buttons) {
                return None;
            }
            path.push(run.feet());
            if run.comes_to(wanted, target) {
                return Some(Way { held: held.until(tick), path });
            }
            if run.is_over() {
                return None;
            }
        }
        None
    }

    /// The same with fewer presses, in no more ticks: each change of what is held is left out that can be.
    pub(super) fn shortened(mut self, start: &Run<'_>, wanted: &Wanted<'_>, target: usize) -> Way {
        let mut at = self.held.changes().len();
        while at > 0 {
            at -= 1;
            let mut fewer = Timeline::default();
            let kept = self.held.changes().iter().enumerate().filter(|(index, _)| *index != at);
            kept.for_each(|(_, (tick, buttons))| fewer.record(*tick, *buttons));
            if fewer.presses() > self.held.presses() {
                continue;
            }
            if let Some(sooner) = Way::run(start, wanted, target, &fewer, self.path.len() as u64 - 1) {
                self = sooner;
                at = at.min(self.held.changes().len());
            }
        }
        self
    }
}
