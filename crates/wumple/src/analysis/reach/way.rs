//! A way that was found, shortened.

use std::cmp::Reverse;
use std::collections::HashMap;

use wumple_core::DVec2;

use super::run::{Run, Wanted};
use crate::files::Timeline;

/// So many detours are left out of a way at most, after so many tries for each.
const MOST_DETOURS: usize = 16;
const MOST_TRIES: usize = 16;
/// What is at one place, px along.
const NEAR: f64 = 4.0;

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
        for (tick, buttons) in held.tick_by_tick(ticks) {
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

    /// The same without its detours, and with fewer presses, in no more ticks.
    pub(super) fn shortened(self, start: &Run<'_>, wanted: &Wanted<'_>, target: usize) -> Way {
        self.without_detours(start, wanted, target).with_fewer_presses(start, wanted, target)
    }

    /// What lies between two ticks in which it is at one place, at one speed, is left out, if the rest leads to the target all the same.
    fn without_detours(mut self, start: &Run<'_>, wanted: &Wanted<'_>, target: usize) -> Way {
        for _ in 0..MOST_DETOURS {
            let shorter = self.detours().into_iter().take(MOST_TRIES).find_map(|(from, to)| {
                let most = self.path.len() as u64 - 1 - (to - from);
                Way::run(start, wanted, target, &self.held.without(from, to), most)
            });
            match shorter {
                Some(shorter) => self = shorter,
                None => break,
            }
        }
        self
    }

    /// Ticks in which it is at one place, at one speed; the furthest apart first.
    fn detours(&self) -> Vec<(u64, u64)> {
        let alike = |tick: usize| {
            let (at, by) = (self.path[tick], self.path[tick] - self.path[tick - 1]);
            [at.x / NEAR, at.y * 1024.0, by.x * 4.0, by.y * 4.0].map(|number| number.round() as i64)
        };
        let mut firsts: HashMap<[i64; 4], (u64, u64)> = HashMap::new();
        for tick in 1..self.path.len() {
            let now = tick as u64;
            firsts.entry(alike(tick)).and_modify(|(_, last)| *last = now).or_insert((now, now));
        }
        let mut detours: Vec<(u64, u64)> = firsts.into_values().filter(|(first, last)| first < last).collect();
        detours.sort_unstable_by_key(|(first, last)| (Reverse(last - first), *first));
        detours
    }

    /// Each change of what is held is left out that can be.
    fn with_fewer_presses(mut self, start: &Run<'_>, wanted: &Wanted<'_>, target: usize) -> Way {
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

#[cfg(test)]
mod tests {
    use super::super::places::targets;
    use super::*;
    use crate::files::{Level, TuningFile};
    use wumple_core::Buttons;

    #[test]
    fn what_comes_back_is_left_out() {
        let level =
            Level::parse("room", "[map]\nrows = '''\n..............\n.@..........!.\n##############\n'''\n").unwrap();
        let walker = "[body]\nwidth = 10\nheight = 14\n[run]\ntop_speed = \"6 tiles/s\"\nacceleration = \"0.1 s\"\n[jump]\nheight = \"1.2 tiles\"\ntime_to_apex = \"0.2 s\"\n";
        let tuning = TuningFile::parse("walker", walker).unwrap().tuning;
        let targets = targets(&level, &tuning);
        let goal = targets.iter().position(|target| target.name.starts_with("goal")).unwrap();
        let (start, wanted) = (Run::start(&level, &tuning, level.spawn()).unwrap(), Wanted::of(&targets));
        let (right, left) = (Buttons { right: true, ..Buttons::NONE }, Buttons { left: true, ..Buttons::NONE });
        let mut held = Timeline::default();
        for (tick, buttons) in
            [(1, right), (50, left), (80, right), (95, Buttons { jump: true, ..right }), (120, right)]
        {
            held.record(tick, buttons);
        }
        let way = |held: &Timeline| Way::run(&start, &wanted, goal, held, 400).unwrap();
        let (with, direct) = (way(&held), way(&Timeline::new(vec![(1, right)])));
        let cut = with.without_detours(&start, &wanted, goal);
        assert!(cut.path.len() <= direct.path.len() + 10, "{} ticks, {} at best", cut.path.len(), direct.path.len());
        let short = cut.with_fewer_presses(&start, &wanted, goal);
        assert_eq!((short.held.presses(), short.path), (1, direct.path));
    }
}
