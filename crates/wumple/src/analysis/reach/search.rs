//! The search: forward from the start, by the real controller, from states that were kept.
//!
//! Each choice of buttons is held for a few ticks. Of the states that are alike (place, speeds, what it does, what of its jumps is left, where platforms
//! near it are, what of the round is had) one is kept. Those in parts of the level that were seen least, and near what is not found yet, go on
//! first. Walks and leaps are tried first, which find most, then other whole moves, then it is looked roughly, then exactly, each time from wherever
//! somebody stood and not longer than something is left to be found, and is found. Where whole moves straight towards what is asked after do not
//! find it, they go after everything else that can be come to, too: the way may lead round by that. The choices of several states are
//! played on all cores and put together in one order, so that the same input gives the same output.

use std::cmp::Reverse;
use std::collections::{BinaryHeap, HashMap, HashSet};

use rayon::prelude::*;
use wumple_core::{Buttons, DVec2, Hitbox, Terrain, Tuning};

use super::GoesOn;
use super::choices::Choices;
use super::likeness::{By, Detail, Key, Mix, Part, Scale};
use super::places::Target;
use super::run::{Run, Wanted};
use super::strides::{MOST_PARTS, Move, moves, walks_and_leaps};
use super::tree::{Last, Tree};
use super::way::Way;
use crate::playing::SavedPlaying;

/// It is looked in these ways, one after another.
const BY_WALKS_AND_LEAPS: Detail = Detail {
    by: By::WalksAndLeaps,
    step: 1.0 / 10.0,
    side: 2.0,
    speeds: 1.0,
    lifts: 1.5,
    part: 4.0,
    leaps: false,
    most: 20_000,
    most_each: 10_000,
};
const BY_WALKS_AND_LEAPS_CLOSER: Detail = Detail { side: 1.0, ..BY_WALKS_AND_LEAPS };
const BY_STRIDES: Detail = Detail { by: By::Strides, ..BY_WALKS_AND_LEAPS_CLOSER };
const ROUGHLY: Detail = Detail { by: By::Choices, part: 1.0, most: 60_000, most_each: 20_000, ..BY_STRIDES };
const EXACTLY: Detail = Detail {
    step: 1.0 / 15.0,
    side: 0.5,
    speeds: 2.0,
    lifts: 3.0,
    leaps: true,
    most: u64::MAX,
    most_each: 0,
    ..ROUGHLY
};
/// After so many choices of the same that nothing has become of it.
const MOST_STEPS: u16 = 15;
/// So many states go on at a time.
const BATCH: usize = 16;
/// No more states are kept in each of them.
const MOST_STATES: usize = 400_000;
/// Those go on first whose part of the level was seen least. A tile further away from what is not found yet counts as if it had been seen so
/// many times more.
const TILE_AWAY: u32 = 8;
/// After so many batches it is worked out anew how far away it is.
const DISTANCES_EVERY: u32 = 4;
/// Further away is as far away.
const MOST_AWAY: u16 = 1000;

/// What is held, one after another, each for how many ticks.
#[derive(Clone, Copy, Default)]
struct Held {
    parts: [(Buttons, u16); MOST_PARTS],
    count: usize,
}

impl Held {
    fn of(held: Buttons, ticks: u16) -> Held {
        let mut only = Held { count: 1, ..Held::default() };
        only.parts[0] = (held, ticks);
        only
    }

    /// One more tick; whether there is room for it.
    fn tick(&mut self, held: Buttons) -> bool {
        match self.parts[..self.count].last_mut() {
            Some((same, ticks)) if *same == held => *ticks += 1,
            _ if self.count == MOST_PARTS => return false,
            _ => {
                self.parts[self.count] = (held, 1);
                self.count += 1;
            }
        }
        true
    }

    fn parts(&self) -> &[(Buttons, u16)] {
        &self.parts[..self.count]
    }
}

/// What one choice came to.
struct Child {
    held: Held,
    /// What was come to first, and in which tick.
    found: Vec<(usize, u16)>,
    leap: u64,
    /// None of one that ended, and of one that is alike to others.
    state: Option<NewState>,
}

struct NewState {
    saved: SavedPlaying,
    key: Key,
    part: Part,
    /// How many tiles away from what is not found yet.
    away: u32,
    /// Where, if it stands.
    stands: Option<DVec2>,
}

/// A state in which somebody stood.
struct Stood {
    node: u32,
    saved: SavedPlaying,
    feet: DVec2,
}

/// What was found.
pub(super) struct Found {
    /// By target.
    pub(super) ways: Vec<Option<Way>>,
    /// How many ticks were tried.
    pub(super) ticks: u64,
}

/// Looks for ways to the first targets, those that are `open`, until `most` ticks were tried. The way may lead by the others, of which `others` says
/// which are open, if it comes to that. `goes_on` is asked now and then.
pub(super) fn search(
    start: &Run<'_>,
    targets: &[Target],
    open: Vec<bool>,
    others: impl FnOnce() -> Vec<bool>,
    most: u64,
    goes_on: GoesOn<'_>,
) -> Found {
    let asked = open.len();
    let tuning = start.playing.character().tuning().clone();
    let mut search = Search {
        start,
        wanted: Wanted::of(targets),
        places: targets.iter().map(|target| target.spot.middle_box(tuning.body())).collect(),
        asked,
        asked_left: open.iter().filter(|is_open| **is_open).count(),
        open,
        ways: Choices::of(start, &tuning),
        tile: start.playing.world.terrain().grid_lines().spacing(),
        tuning,
        found: vec![None; targets.len()],
        tree: Tree::from_start(),
        away: Vec::new(),
        ticks: 0,
        most,
    };
    let mut stood = vec![Stood { node: 0, saved: start.save(), feet: start.feet() }];
    // Without a jump there is little to a move.
    let moves: &[Detail] =
        if search.ways.jumps { &[BY_WALKS_AND_LEAPS, BY_WALKS_AND_LEAPS_CLOSER, BY_STRIDES] } else { &[] };
    let mut pass =
        |search: &mut Search<'_, '_>, detail| stood = search.pass(detail, std::mem::take(&mut stood), goes_on);
    moves.iter().for_each(|detail| pass(&mut search, detail));
    if asked < targets.len() && search.asked_left > 0 && !moves.is_empty() {
        search.open.extend(others());
        // Half of what is left is left for looking closer.
        search.most = search.ticks.midpoint(most);
        moves.iter().for_each(|detail| pass(&mut search, detail));
        search.open.truncate(asked);
        search.most = most;
    }
    [ROUGHLY, EXACTLY].iter().for_each(|detail| pass(&mut search, detail));
    search.found[asked..].fill(None);
    Found { ways: search.tree.run_again(start, &search.wanted, &search.found), ticks: search.ticks }
}

struct Search<'a, 'l> {
    start: &'a Run<'l>,
    wanted: Wanted<'a>,
    /// By target: where the middle of the hitbox is there.
    places: Vec<Hitbox>,
    /// Those that are gone after; targets beyond them are not.
    open: Vec<bool>,
    ways: Choices,
    tile: f64,
    tuning: Tuning,
    found: Vec<Option<Last>>,
    /// So many of the first targets are asked after; how many of those that are open are not found.
    asked: usize,
    asked_left: usize,
    tree: Tree,
    /// By tile: how far it is to what is not found yet; now and then worked out anew.
    away: Vec<u16>,
    ticks: u64,
    most: u64,
}

impl Search<'_, '_> {
    /// Goes on from where somebody stood, until nothing new comes, all is found, or no ticks are left. Gives the same with all states in which
    /// somebody stood since, to be gone on from more exactly.
    fn pass(&mut self, detail: &Detail, mut stood: Vec<Stood>, goes_on: GoesOn<'_>) -> Vec<Stood> {
        let step = (self.tuning.rate() * detail.step).round().max(1.0) as u16;
        let scale = Scale::of(self.start, &self.tuning, detail);
        let mut keys: HashSet<Key> = HashSet::new();
        let mut seen: HashMap<Part, u32> = HashMap::new();
        let mut queue: BinaryHeap<Reverse<(u32, u32)>> = BinaryHeap::new();
        let mut states: HashMap<u32, SavedPlaying> = HashMap::new();
        let mut batches = 0u32;
        let first = self.tree.len();
        self.away = self.distances();
        let mut away_from = self.left();
        let mut run = self.start.clone();
        for Stood { node, saved, feet } in &stood {
            run.go_back(saved);
            let (key, part) = scale.keys(&run, Buttons::NONE);
            if keys.insert(key) {
                let visits = seen.entry(part).or_default();
                *visits += 1;
                queue.push(Reverse((*visits + self.away(*feet) * TILE_AWAY, *node)));
                states.insert(*node, saved.clone());
            }
        }
        // How much was left when something was found last, and when it was.
        let (mut left, mut found_at) = (away_from, self.ticks);
        let most = |left: usize| detail.most.saturating_add(detail.most_each * left as u64);
        while self.asked_left > 0
            && self.ticks < self.most.min(found_at.saturating_add(most(left)))
            && goes_on(self.ticks)
        {
            let batch: Vec<(u32, SavedPlaying)> = std::iter::from_fn(|| queue.pop())
                .filter_map(|Reverse((_, node))| Some((node, states.remove(&node)?)))
                .take(BATCH)
                .collect();
            if batch.is_empty() {
                break;
            }
            if batches % DISTANCES_EVERY == DISTANCES_EVERY - 1 && left < away_from {
                (self.away, away_from) = (self.distances(), left);
            }
            batches += 1;
            let player = Player { search: self, scale: &scale, keys: &keys, step, detail };
            let results: Vec<(u32, Vec<Child>)> = batch
                .into_par_iter()
                .map_init(|| self.start.clone(), |run, (node, state)| (node, player.children(run, node, &state)))
                .collect();
            for (parent, children) in results {
                for child in children {
                    self.ticks += child.held.parts().iter().map(|(_, ticks)| u64::from(*ticks)).sum::<u64>();
                    let found: Vec<(usize, u16)> =
                        child.found.into_iter().filter(|(target, _)| self.found[*target].is_none()).collect();
                    let state = child.state.filter(|state| !keys.contains(&state.key));
                    let state = state.filter(|_| self.tree.len() - first < MOST_STATES);
                    if found.is_empty() && state.is_none() {
                        continue;
                    }
                    let node = self.add(parent, &child.held, child.leap, &found);
                    let Some(NewState { saved, key, part, away, stands }) = state else { continue };
                    keys.insert(key);
                    let visits = seen.entry(part).or_default();
                    *visits += 1;
                    if let Some(feet) = stands.filter(|_| !detail.leaps) {
                        stood.push(Stood { node, saved: saved.clone(), feet });
                    }
                    states.insert(node, saved);
                    queue.push(Reverse((*visits + away * TILE_AWAY, node)));
                }
            }
            if self.left() < left {
                (left, found_at) = (self.left(), self.ticks);
            }
        }
        stood
    }

    /// Notes what was held from a node on, and what was found meanwhile. The node it leads to.
    fn add(&mut self, mut from: u32, all: &Held, leap: u64, found: &[(usize, u16)]) -> u32 {
        let mut before = 0;
        for (held, ticks) in all.parts().iter().copied() {
            for (target, at) in found.iter().filter(|(_, at)| (before + 1..=before + ticks).contains(at)) {
                self.found[*target] = Some(Last { from, held, ticks: at - before });
                self.asked_left -= usize::from(*target < self.asked && self.open[*target]);
            }
            from = self.tree.add(from, held, ticks, leap);
            before += ticks;
        }
        from
    }

    /// How many of those that are open are not found.
    fn left(&self) -> usize {
        self.open.iter().zip(&self.found).filter(|(is_open, found)| **is_open && found.is_none()).count()
    }

    /// By tile: how many tiles it is away from what is open and not found, across and down.
    fn distances(&self) -> Vec<u16> {
        let grid = self.start.playing.world.terrain();
        let (columns, rows) = (grid.columns(), grid.rows());
        let mut away = vec![u16::MAX; (columns * rows) as usize];
        let open = self.places.iter().zip(&self.open).zip(&self.found);
        for ((place, _), _) in open.filter(|((_, is_open), found)| **is_open && found.is_none()) {
            let along = |px: f64, count: i32| ((px / self.tile).floor() as i32).clamp(0, count - 1);
            for row in along(place.top, rows)..=along(place.bottom, rows) {
                let from = row * columns;
                away[(from + along(place.left, columns)) as usize..=(from + along(place.right, columns)) as usize]
                    .fill(0);
            }
        }
        // Once down and once up: each row from the one before it, then along it there and back.
        let wide = columns as usize;
        let along = |row: &mut [u16]| {
            for column in 1..wide {
                row[column] = row[column].min(row[column - 1].saturating_add(1));
            }
            for column in (1..wide).rev() {
                row[column - 1] = row[column - 1].min(row[column].saturating_add(1));
            }
        };
        let from = |row: &mut [u16], other: &[u16]| {
            row.iter_mut().zip(other).for_each(|(tile, other)| *tile = (*tile).min(other.saturating_add(1)));
        };
        for row in 0..rows as usize {
            let (above, below) = away.split_at_mut(row * wide);
            let row = &mut below[..wide];
            if let Some(above) = above.rchunks(wide).next() {
                from(row, above);
            }
            along(row);
        }
        for row in (1..rows as usize).rev() {
            let (above, below) = away.split_at_mut(row * wide);
            from(&mut above[(row - 1) * wide..], &below[..wide]);
        }
        away
    }

    /// How many tiles somebody is away from what is open and not found.
    fn away(&self, feet: DVec2) -> u32 {
        let grid = self.start.playing.world.terrain();
        let half = self.tuning.body().height * 0.5;
        let along = |px: f64, count: i32| ((px / self.tile).floor().clamp(-1e6, 1e6) as i32).clamp(0, count - 1);
        let (column, row) = (along(feet.x, grid.columns()), along(feet.y - half, grid.rows()));
        u32::from(self.away[(row * grid.columns() + column) as usize].min(MOST_AWAY))
    }
}

/// Plays choices, with what was known when some states were gone on from.
struct Player<'a, 'l> {
    search: &'a Search<'a, 'l>,
    scale: &'a Scale,
    keys: &'a HashSet<Key>,
    step: u16,
    detail: &'a Detail,
}

impl Player<'_, '_> {
    /// What comes of each choice from a node.
    fn children(&self, run: &mut Run<'_>, node: u32, state: &SavedPlaying) -> Vec<Child> {
        if self.detail.by != By::Choices {
            return self.strides(run, state);
        }
        run.go_back(state);
        let ways = &self.search.ways;
        let node = self.search.tree.node(node);
        let leap = node.leap;
        let choices = if leap == 0 { ways.from(run) } else { ways.onward(node.held) };
        let mut children = Vec::new();
        for held in choices {
            run.go_back(state);
            let (child, off_edge) = self.play(run, held, leap);
            children.push(child);
            // From the very edge, and as late as can be, a jump goes furthest.
            let off_edge = off_edge.filter(|_| self.detail.leaps && ways.jumps);
            let on_edge = off_edge.into_iter().flat_map(|tick| [tick - 1, tick - 1 + ways.coyote]);
            for ticks in on_edge.filter(|ticks| *ticks > 0) {
                run.go_back(state);
                children.extend(self.on_the_edge(run, held, ticks));
            }
        }
        children
    }

    /// What comes of each whole move from a node.
    fn strides(&self, run: &mut Run<'_>, state: &SavedPlaying) -> Vec<Child> {
        let rate = self.search.tuning.rate();
        let walk = self.search.tile * self.detail.side;
        let of_move = |stride: Move| {
            run.go_back(state);
            let (mut held, mut found, mut ticks) = (Held::default(), Vec::new(), 0);
            let ended = stride.play(run, rate, walk, |run, buttons| {
                ticks += 1;
                held.tick(buttons) && run.tick(buttons) && {
                    self.come_to(run, &mut found, ticks);
                    !run.is_over()
                }
            });
            let state = if ended { self.new_state(run, self.scale.keys(run, Buttons::NONE), 0) } else { None };
            Child { held, found, leap: 0, state }
        };
        let ways = &self.search.ways;
        let few = self.detail.by == By::WalksAndLeaps;
        if few { walks_and_leaps().map(of_move).into() } else { moves(ways).into_iter().map(of_move).collect() }
    }

    /// Notes what a run came to, of what is not found.
    fn come_to(&self, run: &Run<'_>, found: &mut Vec<(usize, u16)>, tick: u16) {
        run.come_to(&self.search.wanted, |target| {
            if self.search.found[target].is_none() && !found.iter().any(|(other, _)| *other == target) {
                found.push((target, tick));
            }
        });
    }

    /// Holds buttons for so many ticks; for more where that makes no difference yet. Beside what came of it, the tick in which it walked off
    /// an edge.
    fn play(&self, run: &mut Run<'_>, held: Buttons, leap: u64) -> (Child, Option<u16>) {
        let (mut found, mut off_edge) = (Vec::new(), None);
        let before = self.scale.keys(run, held).0;
        let most = self.step * MOST_STEPS;
        for tick in 1..=most {
            let stood = run.stands();
            let goes_on = run.tick(held);
            if goes_on {
                self.come_to(run, &mut found, tick);
            }
            if stood && !run.stands() && !held.jump && off_edge.is_none() {
                off_edge = Some(tick);
            }
            if !goes_on || run.is_over() {
                return (Child { held: Held::of(held, tick), found, leap: 0, state: None }, off_edge);
            }
            if tick % self.step == 0 {
                let (key, part) = self.scale.keys(run, held);
                if key != before {
                    // It ends where there is ground again.
                    let leap = if run.stands() { 0 } else { leap };
                    let state = self.new_state(run, (key, part), leap);
                    return (Child { held: Held::of(held, tick), found, leap, state }, off_edge);
                }
            }
        }
        (Child { held: Held::of(held, most), found, leap: 0, state: None }, off_edge)
    }

    /// The state at an edge after so many ticks; none if it does not live that long.
    fn on_the_edge(&self, run: &mut Run<'_>, held: Buttons, ticks: u16) -> Option<Child> {
        if !(0..ticks).all(|_| run.tick(held)) {
            return None;
        }
        let keys = self.scale.keys(run, held);
        // By the half px: a px may be what is missing.
        let mut leap = Mix::default();
        leap.add((run.feet().x * 2.0).floor() as i64 as u64);
        leap.add(keys.0.2);
        let leap = leap.0 | 1;
        Some(Child { held: Held::of(held, ticks), found: Vec::new(), leap, state: self.new_state(run, keys, leap) })
    }

    /// The state of a run, unless one like it is known: most are, and saving takes longer than looking.
    fn new_state(&self, run: &Run<'_>, ((column, row, rest), part): (Key, Part), leap: u64) -> Option<NewState> {
        let key = (column, row, rest ^ leap);
        let feet = run.feet();
        let stands = Some(feet).filter(|_| run.stands());
        let state = || NewState { saved: run.save(), key, part, away: self.search.away(feet), stands };
        (!self.keys.contains(&key)).then(state)
    }
}
