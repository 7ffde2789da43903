//! The slowest tick beside the median one, over a million ticks of random rooms: no room, tuning or script may make
//! a tick take out of all proportion. `cargo bench --bench slowest`

#[path = "../tests/controller/rooms/mod.rs"]
mod rooms;

use std::time::Instant;

use proptest::strategy::{Strategy, ValueTree};
use proptest::test_runner::TestRunner;
use rooms::{aligned, buttons, full_grid, full_tuning, places};
use wumple_core::{Buttons, DVec2, Grid, PlatformNumbers, Platforms, Terrain, Tuning, World};

const TICKS: usize = 1_000_000;
/// A tick is run so often, and its least time counts: what the machine does meanwhile is not the tick's.
const TIMES: usize = 5;

struct Case {
    grid: Grid,
    tuning: Tuning,
    platforms: Vec<PlatformNumbers>,
    held: Vec<Buttons>,
    seed: u32,
}

impl Case {
    fn world(&self) -> Option<World<&Grid>> {
        places(self.grid.width(), self.grid.height(), self.seed).find_map(|feet| {
            let platforms = Platforms::new(&self.platforms, self.tuning.rate()).ok()?;
            let mut world = World::with_platforms(&self.grid, platforms);
            world.add_character(self.tuning.clone(), DVec2::new(feet.x.round(), feet.y.round())).ok()?;
            Some(world)
        })
    }

    /// The least time of each tick, ns.
    fn times(&self) -> Option<Vec<u64>> {
        let mut least = vec![u64::MAX; self.held.len()];
        for _ in 0..TIMES {
            let mut world = self.world()?;
            for (held, least) in self.held.iter().zip(&mut least) {
                *least = time(&mut world, *held).min(*least);
            }
        }
        Some(least)
    }

    /// The same of one tick, over and over from where it begins.
    fn time_again(&self, tick: usize) -> Option<u64> {
        let mut world = self.world()?;
        self.held[..tick].iter().for_each(|held| world.tick(&[*held]));
        let saved = world.save();
        let again = || {
            world.restore(&saved);
            time(&mut world, self.held[tick])
        };
        core::iter::repeat_with(again).take(200).min()
    }
}

fn time(world: &mut World<&Grid>, held: Buttons) -> u64 {
    let began = Instant::now();
    world.tick(&[held]);
    began.elapsed().as_nanos() as u64
}

fn main() {
    let mut runner = TestRunner::deterministic();
    let plain = (aligned::grid(), aligned::tuning(), proptest::collection::vec(aligned::platform(), 0..5));
    let odd = (full_grid(), full_tuning(), proptest::collection::vec(aligned::platform(), 0..3));
    let script = (buttons(), proptest::num::u32::ANY);
    let mut times = Vec::with_capacity(TICKS + 1000);
    let mut worst = (0, None);
    while times.len() < TICKS {
        let (grid, tuning, platforms) = if times.len() % 2 == 0 {
            plain.new_tree(&mut runner).unwrap().current()
        } else {
            odd.new_tree(&mut runner).unwrap().current()
        };
        let (script, seed) = script.new_tree(&mut runner).unwrap().current();
        let held = script.iter().flat_map(|(held, ticks)| core::iter::repeat_n(*held, *ticks)).collect();
        let case = Case { grid, tuning, platforms, held, seed };
        let Some(found) = case.times() else { continue };
        // What took long may have taken so long once: the machine did something else.
        let suspect = (0..found.len()).max_by_key(|tick| found[*tick]).filter(|tick| found[*tick] > worst.0);
        if let Some((tick, slowest)) = suspect.and_then(|tick| Some((tick, case.time_again(tick)?)))
            && slowest > worst.0
        {
            worst = (slowest, Some((tick, case)));
        }
        times.extend(found);
    }
    times.sort_unstable();
    let (median, slowest) = (times[times.len() / 2], worst.0);
    let share = |of: f64| times[(times.len() as f64 * of) as usize];
    println!("{} ticks: median {median} ns, 99.9 % within {} ns, slowest {slowest} ns", times.len(), share(0.999));
    println!("the slowest takes {:.1} times the median (goal: 20)", slowest as f64 / median as f64);
    if let (true, Some((tick, case))) = (std::env::args().any(|word| word == "--show"), worst.1) {
        println!("tick {} of {:?} {:?} {:?}", tick + 1, case.tuning.numbers(), case.platforms, case.held[tick]);
    }
}
