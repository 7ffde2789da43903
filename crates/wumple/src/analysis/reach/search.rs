//! The search: forward from the start, by the real controller, from states that were kept.
//!
//! Each choice of buttons is held for a few ticks. Of the states that are alike (place, speeds, what it does, what of its jumps is left, where platforms
//! near it are, what of the round is had) one is kept. Those in parts of the level that were seen least go on first. The choices of several states are
//! played on all cores and put together in one order, so that the same input gives the same output.

use std::cmp::Reverse;
use std::collections::hash_map::Entry;
use std::collections::{BinaryHeap, HashMap};

use rayon::prelude::*;
use wumple_core::numbers::DropRule;
use wumple_core::{
    Buttons, CharacterId, DVec2, Event, Grid, Round, RoundEvent, Saved, SavedRound, State, Support, Surface, Terrain,
    Tuning, World,
};

use super::places::{Spot, Target, Top};
use crate::files::{Level, Timeline};

/// For how long each choice is held, s.
const STEP: f64 = 1.0 / 15.0;
/// After so many times that nothing has become of it.
const MOST_STEPS: u16 = 15;
/// So many states go on at a time.
const BATCH: usize = 256;
/// No more states are kept.
const MOST_STATES: usize = 400_000;

/// A level that is played by one character, without rows: what the search and its proof by replay go by.
#[derive(Clone)]
pub(super) struct Run<'l> {
    world: World<&'l Grid>,
    id: CharacterId,
    round: Option<Round>,
}

/// All of it that ticks change.
struct SavedRun {
    world: Saved,
    round: Option<SavedRound>,
}

impl<'l> Run<'l> {
    pub(super) fn start(level: &'l Level, tuning: &Tuning, feet: DVec2) -> Result<Run<'l>, String> {
        let (world, id) = level.world_from(tuning, feet)?;
        let round = level.start_round(&world, id);
        Ok(Run { world, id, round })
    }

    pub(super) fn feet(&self) -> DVec2 {
        self.world.report(self.id).feet
    }

    fn stands(&self) -> bool {
        self.world.report(self.id).support != Support::None
    }

    fn save(&self) -> SavedRun {
        SavedRun { world: self.world.save(), round: self.round.as_ref().map(Round::save) }
    }

    fn go_back(&mut self, saved: &SavedRun) {
        self.world.restore(&saved.world);
        if let (Some(round), Some(saved)) = (&mut self.round, &saved.round) {
            round.restore(saved);
        }
    }

    /// One tick; whether it goes on. Whoever is defeated has come nowhere by it.
    pub(super) fn tick(&mut self, held: Buttons) -> bool {
        self.world.tick(&[held]);
        let Some(round) = &mut self.round else { return !self.world.character(self.id).has_ended() };
        round.play(&mut self.world, self.id);
        let is_lost = |event: &RoundEvent| {
            matches!(event, RoundEvent::Defeated(_) | RoundEvent::Restarted(_) | RoundEvent::RoundLost)
        };
        !round.events().iter().any(is_lost) && !self.world.character(self.id).has_ended()
    }

    /// Calls `come` with every target that it came to in the last tick.
    pub(super) fn come_to(&self, wanted: &Wanted<'_>, mut come: impl FnMut(usize)) {
        let report = self.world.report(self.id);
        let half = self.world.character(self.id).tuning().body().half_width();
        let mut stands_on = |support| wanted.stood_on(support, report.feet, half, &mut come);
        if report.contacts.below {
            stands_on(report.support);
        }
        for event in &report.events {
            match event {
                // Who is thrown up at once was there all the same.
                Event::Bounced(support) => stands_on(*support),
                Event::Landed { .. } => stands_on(Support::Solid),
                _ => {}
            }
        }
        match &self.round {
            None => {
                for event in &report.events {
                    if let Event::Entered(zone) = event {
                        wanted.zone(*zone, &mut come);
                    }
                }
            }
            Some(round) => {
                for event in round.events() {
                    match event {
                        RoundEvent::Took(zone) | RoundEvent::Reached(zone) => wanted.zone(*zone, &mut come),
                        RoundEvent::Finished => {
                            let entered = report.events.iter().filter_map(|event| match event {
                                Event::Entered(zone) => Some(*zone),
                                _ => None,
                            });
                            entered.for_each(|zone| wanted.zone(zone, &mut come));
                        }
                        _ => {}
                    }
                }
            }
        }
    }
}

/// The targets, to be found by what a tick reports.
pub(super) struct Wanted<'t> {
    zones: HashMap<wumple_core::ZoneId, usize>,
    platforms: HashMap<usize, usize>,
    /// By height in 1/1024 px.
    tops: HashMap<i64, Vec<(&'t Top, usize)>>,
}

fn height_key(y: f64) -> i64 {
    (y * 1024.0).round() as i64
}

impl<'t> Wanted<'t> {
    pub(super) fn of(targets: &'t [Target]) -> Wanted<'t> {
        let mut wanted = Wanted { zones: HashMap::new(), platforms: HashMap::new(), tops: HashMap::new() };
        for (index, target) in targets.iter().enumerate() {
            match (&target.spot, target.zone) {
                (_, Some(zone)) => drop(wanted.zones.insert(zone, index)),
                (Spot::Top(top), _) => wanted.tops.entry(height_key(top.y)).or_default().push((top, index)),
                (Spot::Platform(_, platform), _) => drop(wanted.platforms.insert(*platform, index)),
                _ => {}
            }
        }
        wanted
    }

    fn zone(&self, zone: wumple_core::ZoneId, come: &mut impl FnMut(usize)) {
        self.zones.get(&zone).into_iter().for_each(|index| come(*index));
    }

    fn stood_on(&self, support: Support, feet: DVec2, half: f64, come: &mut impl FnMut(usize)) {
        if let Support::Platform(platform) = support {
            return self.platforms.get(&platform).into_iter().for_each(|index| come(*index));
        }
        let at_height = self.tops.get(&height_key(feet.y)).map_or(&[][..], Vec::as_slice);
        for (top, index) in at_height {
            if top.left < feet.x + half && top.right > feet.x - half {
                come(*index);
            }
        }
    }
}

/// A state that was come to: from which, with what held for how many ticks. `leap`: of a flight that began at an edge, which one; such flights are not
/// alike to others that began a little nearer.
struct Node {
    parent: u32,
    held: Buttons,
    ticks: u16,
    depth: u32,
    leap: u64,
}

/// What one choice came to.
struct Child {
    held: Buttons,
    ticks: u16,
    found: Vec<(usize, u16)>,
    leap: u64,
    /// None of one that ended.
    state: Option<(SavedRun, Key, Part)>,
}

/// States of one key are alike.
type Key = (i32, i32, u64);
/// A part of the level, and how it is gone through.
type Part = (i32, i32, u64);

/// What was found.
pub(super) struct Found {
    /// By target: what was held, to the tick that came there.
    pub(super) ways: Vec<Option<(Timeline, u64)>>,
    /// How many ticks were tried.
    pub(super) ticks: u64,
}

/// Looks for ways to all targets that are `open`, until `most` ticks were tried. `goes_on` is asked now and then.
pub(super) fn search(
    start: &Run<'_>,
    targets: &[Target],
    open: &[bool],
    most: u64,
    mut goes_on: impl FnMut(u64) -> bool,
) -> Found {
    let wanted = Wanted::of(targets);
    let tuning = start.world.character(start.id).tuning().clone();
    let step = (tuning.rate() * STEP).round().max(1.0) as u16;
    let mut found: Vec<Option<(u32, Buttons, u16)>> = vec![None; targets.len()];
    let mut left = open.iter().filter(|is_open| **is_open).count();
    let mut nodes = vec![Node { parent: 0, held: Buttons::NONE, ticks: 0, depth: 0, leap: 0 }];
    let mut states: HashMap<u32, SavedRun> = HashMap::new();
    let mut keys: HashMap<Key, ()> = HashMap::new();
    let mut seen: HashMap<Part, u32> = HashMap::new();
    let mut queue: BinaryHeap<Reverse<(u32, u32)>> = BinaryHeap::new();
    let mut ticks = 0;
    states.insert(0, start.save());
    queue.push(Reverse((0, 0)));
    let ways = Choices::of(start, &tuning);
    let scale = Scale::of(start, &tuning);
    while left > 0 && ticks < most && goes_on(ticks) {
        let batch: Vec<(u32, SavedRun)> = std::iter::from_fn(|| queue.pop())
            .filter_map(|Reverse((_, node))| Some((node, states.remove(&node)?)))
            .take(BATCH)
            .collect();
        if batch.is_empty() {
            break;
        }
        let nodes_now = &nodes;
        let results: Vec<(u32, Vec<Child>)> = batch
            .into_par_iter()
            .map_init(
                || start.clone(),
                |run, (node, state)| {
                    run.go_back(&state);
                    let Node { held: before, leap, .. } = nodes_now[node as usize];
                    let choices = if leap == 0 { ways.from(run) } else { ways.onward(before) };
                    let mut children = Vec::new();
                    for held in choices {
                        run.go_back(&state);
                        let (child, off_edge) = play(run, &wanted, &scale, held, step, leap);
                        children.push(child);
                        // From the very edge, and as late as can be, a jump goes furthest.
                        let on_edge = off_edge.into_iter().flat_map(|tick| [tick - 1, tick - 1 + ways.coyote]);
                        for ticks in on_edge.filter(|ticks| ways.jumps && *ticks > 0) {
                            run.go_back(&state);
                            children.extend(on_the_edge(run, &scale, held, ticks));
                        }
                    }
                    (node, children)
                },
            )
            .collect();
        for (parent, children) in results {
            let depth = nodes[parent as usize].depth;
            for child in children {
                ticks += u64::from(child.ticks);
                for (target, at) in child.found {
                    if found[target].is_none() {
                        found[target] = Some((parent, child.held, at));
                        left -= usize::from(open[target]);
                    }
                }
                let Some((state, key, part)) = child.state else { continue };
                let Entry::Vacant(new) = keys.entry(key) else { continue };
                if nodes.len() >= MOST_STATES {
                    continue;
                }
                new.insert(());
                let visits = seen.entry(part).or_default();
                *visits += 1;
                let node = nodes.len() as u32;
                let depth = depth + u32::from(child.ticks);
                nodes.push(Node { parent, held: child.held, ticks: child.ticks, depth, leap: child.leap });
                states.insert(node, state);
                queue.push(Reverse((*visits * 16 + depth / u32::from(step), node)));
            }
        }
    }
    let way = |(parent, held, at): (u32, Buttons, u16)| {
        let mut parts = vec![(held, at)];
        let mut node = parent;
        while node != 0 {
            let Node { parent, held, ticks, .. } = nodes[node as usize];
            parts.push((held, ticks));
            node = parent;
        }
        let (mut timeline, mut tick) = (Timeline::default(), 0);
        for (held, ticks) in parts.into_iter().rev() {
            timeline.record(tick + 1, held);
            tick += u64::from(ticks);
        }
        (timeline, tick)
    };
    Found { ways: found.into_iter().map(|of| of.map(way)).collect(), ticks }
}

/// Holds buttons for so many ticks; for more where that makes no difference yet. Beside what came of it, the tick in which it walked off
/// an edge.
fn play(
    run: &mut Run<'_>,
    wanted: &Wanted<'_>,
    scale: &Scale,
    held: Buttons,
    step: u16,
    leap: u64,
) -> (Child, Option<u16>) {
    let (mut found, mut off_edge) = (Vec::new(), None);
    let before = scale.keys(run, held).0;
    let most = step * MOST_STEPS;
    for tick in 1..=most {
        let stood = run.stands();
        let goes_on = run.tick(held);
        if goes_on {
            run.come_to(wanted, |target| {
                if !found.iter().any(|(other, _)| *other == target) {
                    found.push((target, tick));
                }
            });
        }
        if stood && !run.stands() && !held.jump && off_edge.is_none() {
            off_edge = Some(tick);
        }
        if !goes_on || run.round.as_ref().is_some_and(Round::is_over) {
            return (Child { held, ticks: tick, found, leap: 0, state: None }, off_edge);
        }
        if tick % step == 0 {
            let ((column, row, rest), part) = scale.keys(run, held);
            if (column, row, rest) != before {
                // It ends where there is ground again.
                let leap = if run.stands() { 0 } else { leap };
                let state = Some((run.save(), (column, row, rest ^ leap), part));
                return (Child { held, ticks: tick, found, leap, state }, off_edge);
            }
        }
    }
    (Child { held, ticks: most, found, leap: 0, state: None }, off_edge)
}

/// The state at an edge after so many ticks; none if it does not live that long.
fn on_the_edge(run: &mut Run<'_>, scale: &Scale, held: Buttons, ticks: u16) -> Option<Child> {
    if !(0..ticks).all(|_| run.tick(held)) {
        return None;
    }
    let ((column, row, rest), part) = scale.keys(run, held);
    // By the half px: a px may be what is missing.
    let mut leap = Mix::default();
    leap.add((run.world.report(run.id).feet.x * 2.0).floor() as i64 as u64);
    leap.add(rest);
    let leap = leap.0 | 1;
    Some(Child { held, ticks, found: Vec::new(), leap, state: Some((run.save(), (column, row, rest ^ leap), part)) })
}

/// How finely states are told apart.
struct Scale {
    tile: f64,
    speed: f64,
    lift: f64,
    moves: bool,
}

impl Scale {
    fn of(run: &Run<'_>, tuning: &Tuning) -> Scale {
        let (run_speed, lift) = (tuning.numbers().run.top_speed, tuning.jump().map_or(1.0, |_| tuning.full_jump().0));
        let of_four_ways = tuning.numbers().four_way.as_ref().map_or(0.0, |ways| ways.top_speed);
        Scale {
            tile: run.world.terrain().grid_lines().spacing(),
            speed: run_speed.max(of_four_ways).max(1.0) / 2.0,
            lift: tuning.gravity().rise.max(1.0) * lift.max(0.05) / 3.0,
            moves: !run.world.platforms().is_empty() || run.world.props().len() > 0,
        }
    }

    fn keys(&self, run: &Run<'_>, held: Buttons) -> (Key, Part) {
        let character = run.world.character(run.id);
        let report = character.report();
        let at = |place: f64, side: f64| (place / side).floor() as i32;
        let mut mix = Mix::default();
        mix.add(report.state as u64);
        mix.add(u64::from(report.support != Support::None));
        mix.add(character.air_jumps_left().into());
        let round = run.round.as_ref().map_or(0, |round| {
            let mut mix = Mix::default();
            mix.add(run.world.away().len() as u64);
            mix.add(round.picked().into());
            mix.add(round.open_gates().len() as u64);
            mix.0
        });
        mix.add(round);
        let rough = mix.0;
        mix.add((report.velocity.x / self.speed).round() as i64 as u64);
        mix.add((report.velocity.y / self.lift).round() as i64 as u64);
        mix.add(u64::from(held.jump));
        if self.moves {
            // Only what is near matters for long.
            let near = self.tile * 12.0;
            let platforms = (0..run.world.platforms().len()).map(|at| run.world.platform_report(at).place);
            let props = run.world.props().map(|prop| run.world.place_of(prop.into()));
            for (number, place) in platforms.chain(props).enumerate() {
                let aside = (place.left - report.feet.x).abs().min((place.right - report.feet.x).abs());
                if aside < near && (place.top - report.feet.y).abs() < near {
                    mix.add(number as u64);
                    mix.add(at(place.left, self.tile * 0.5) as i64 as u64);
                    mix.add(at(place.top, self.tile * 0.5) as i64 as u64);
                }
            }
        }
        let half = self.tile * 0.5;
        let key = (at(report.feet.x, half), at(report.feet.y, half), mix.0);
        (key, (at(report.feet.x, self.tile), at(report.feet.y, self.tile), rough))
    }
}

/// Numbers made one.
#[derive(Default)]
struct Mix(u64);

impl Mix {
    fn add(&mut self, number: u64) {
        self.0 = (self.0.rotate_left(5) ^ number).wrapping_mul(0x9E37_79B9_7F4A_7C15);
    }
}

/// Which buttons are of use.
struct Choices {
    jumps: bool,
    /// For so many ticks a jump is admitted beyond an edge.
    coyote: u16,
    climbs: bool,
    holds: bool,
    drops: DropRule,
    four_ways: bool,
}

impl Choices {
    fn of(start: &Run<'_>, tuning: &Tuning) -> Choices {
        let numbers = tuning.numbers();
        let grid = start.world.terrain();
        let has_ladder =
            (0..grid.rows()).any(|row| (0..grid.columns()).any(|column| grid.surface(column, row) == Surface::Ladder));
        let hold = numbers.wall.as_ref().and_then(|wall| wall.hold.as_ref());
        Choices {
            coyote: tuning.coyote_ticks().min(1000) as u16,
            jumps: numbers.jump.is_some()
                || numbers.flight.is_some()
                || numbers.wall.as_ref().is_some_and(|wall| wall.jump.is_some()),
            climbs: has_ladder && numbers.ladder.is_some(),
            holds: hold.is_some(),
            drops: numbers.drop,
            four_ways: numbers.four_way.is_some(),
        }
    }

    /// What is worth trying in a leap: on in its direction, with the button up or down.
    fn onward(&self, before: Buttons) -> Vec<Buttons> {
        let ahead = Buttons { left: before.left, right: before.right, ..Buttons::NONE };
        vec![Buttons { jump: true, ..ahead }, ahead]
    }

    /// What is worth trying from a state.
    fn from(&self, run: &Run<'_>) -> Vec<Buttons> {
        const NONE: Buttons = Buttons::NONE;
        const RIGHT: Buttons = Buttons { right: true, ..NONE };
        const LEFT: Buttons = Buttons { left: true, ..NONE };
        let report = run.world.report(run.id);
        let mut all = vec![RIGHT, LEFT, NONE];
        if self.four_ways {
            for sideways in [RIGHT, LEFT, NONE] {
                all.push(Buttons { up: true, ..sideways });
                all.push(Buttons { down: true, ..sideways });
            }
            return all;
        }
        if self.jumps {
            all.extend([RIGHT, LEFT, NONE].map(|sideways| Buttons { jump: true, ..sideways }));
        }
        let vertical = |up: bool| Buttons { up, down: !up, ..NONE };
        if self.climbs {
            all.extend([vertical(true), vertical(false)]);
        }
        let is_thin = matches!(report.support, Support::OneWay | Support::Platform(_) | Support::Ladder);
        match self.drops {
            DropRule::DownAndJump if is_thin => all.push(Buttons { down: true, jump: true, ..NONE }),
            DropRule::Down if is_thin => all.push(vertical(false)),
            _ => {}
        }
        let at_wall = report.contacts.left || report.contacts.right || report.state == State::WallHold;
        if self.holds && at_wall {
            let towards = if report.contacts.left { LEFT } else { RIGHT };
            for held in [vertical(true), vertical(false), towards, Buttons { up: true, ..towards }] {
                all.push(Buttons { grab: true, ..held });
            }
            all.push(Buttons { up: true, ..towards });
        }
        all
    }
}
