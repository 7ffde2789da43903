//! The numbers of flights: take-off, gravities, the fall's top speed.

use std::collections::HashMap;

use super::least_squares::{ALIKE, CERTAIN, Solution, inflation, least_squares};
use super::motion::Upright;
use super::stretches::Flight;
use super::{follows, spread};
use crate::analysis::GameLoop;
use crate::files::{RecordedRow, Recording};

/// How little it counts that all places in the air are told higher or lower: enough to decide it where nothing else does.
const WEAK: f64 = 0.3;

/// What flights come to together.
pub(super) struct Flown {
    pub(super) upright: Upright,
    /// The flights that were used, cut to what fits, and when each began.
    pub(super) flights: Vec<(Flight, i64)>,
    /// How far each is off, as the root of the mean square, px.
    pub(super) spreads: Vec<f64>,
    /// Whether each follows the numbers.
    follows: Vec<bool>,
    solution: Solution,
    layout: Layout,
    /// The standard error of each sample, px.
    of_each: f64,
    /// Other numbers that fit about as well.
    alike: Vec<Upright>,
}

/// Which numbers are looked for, and where each stands among the parameters.
#[derive(Clone, Copy, Debug, PartialEq)]
struct Layout {
    rises: bool,
    falls: bool,
    top_fall: bool,
    /// In a stepped scheme gravity changes at the first tick that begins without an upward speed: after more ticks than these,
    /// and no more than one more. Within such a range the motion changes smoothly with the numbers.
    rise_ticks: Option<f64>,
    rate: f64,
}

/// What flights there are beside those that were used.
pub(super) struct Seen {
    pub(super) jumps: usize,
    /// The fastest that anything fell, px/s.
    pub(super) fastest_fall: f64,
}

/// A tick of a flight that begins then, with the others at the same.
type Weights = HashMap<(bool, i64), f64>;

impl Layout {
    fn of(rises: bool, falls: bool, top_fall: bool, first: &Upright, more: f64, looped: &GameLoop) -> Layout {
        let ticks = (first.take_off / first.rise_gravity * looped.rate).floor() + more;
        let rise_ticks = (rises && looped.scheme.is_stepped()).then_some(ticks.max(0.0));
        Layout { rises, falls, top_fall, rise_ticks, rate: looped.rate }
    }

    fn parameters(self, at: &Upright) -> Vec<f64> {
        let mut parameters = vec![0.0];
        if self.rises {
            parameters.push(if self.rise_ticks.is_some() { 0.0 } else { at.take_off.ln() });
            parameters.push(at.rise_gravity.ln());
        }
        parameters.extend(self.falls.then(|| at.fall_gravity.ln()));
        parameters.extend(self.top_fall.then(|| at.top_fall.map_or(0.0, f64::ln)));
        parameters
    }

    /// The offset, and the numbers.
    fn read(self, parameters: &[f64], step: f64) -> (f64, Upright) {
        let (rise, rest) = parameters[1..].split_at(if self.rises { 2 } else { 0 });
        let rise_gravity = rise.get(1).map_or(1.0, |number| number.exp());
        let fall_gravity = if self.falls { rest[0].exp() } else { rise_gravity };
        let take_off = rise.first().map_or(0.0, |number| match self.rise_ticks {
            Some(ticks) => rise_gravity / self.rate * within(ticks, *number),
            None => number.exp(),
        });
        let top_fall = self.top_fall.then(|| rest[rest.len() - 1].exp());
        (step * parameters[0], Upright { take_off, rise_gravity, fall_gravity, top_fall })
    }

    /// How much the logarithm of a product of powers changes with each parameter.
    fn weights(self, of: [f64; 4], parameters: &[f64]) -> Vec<f64> {
        let mut weights = vec![0.0];
        if self.rises {
            match self.rise_ticks {
                Some(ticks) => {
                    let number = parameters[1];
                    let slope = (within(ticks, number + 1e-4) - within(ticks, number - 1e-4)) / 2e-4;
                    weights.extend([of[0] * slope / within(ticks, number), of[0] + of[1]]);
                }
                None => weights.extend([of[0], of[1]]),
            }
        }
        weights.extend(self.falls.then_some(of[2]));
        weights.extend(self.top_fall.then_some(of[3]));
        weights
    }
}

/// From a number without bounds one in the range of a tick.
fn within(ticks: f64, number: f64) -> f64 {
    ticks + 0.5 + 0.499 * number.tanh()
}

/// The ranges of rise ticks that are tried, beside that of the first guess.
fn ranges(looped: &GameLoop, rises: bool) -> &'static [f64] {
    if looped.scheme.is_stepped() && rises { &[0.0, -1.0, 1.0] } else { &[0.0] }
}

/// A flight that follows some numbers by itself: as much of it as does, when it begins, and those numbers.
#[derive(Clone)]
struct Alone {
    flight: Flight,
    start: i64,
    upright: Upright,
}

/// The numbers that all flights agree on; none if there are none.
pub(super) fn solve(recording: &Recording, flights: &[Flight], looped: &GameLoop) -> (Option<Flown>, Seen) {
    let step = recording.y_step;
    let fastest = flights.iter().map(|flight| fastest_fall(flight, looped)).fold(0.0, f64::max);
    let jumps = flights.iter().filter(|flight| flight.is_jump).count();
    let seen = Seen { jumps, fastest_fall: fastest };
    // Jumps that go to the full height are alike; those that were let go are lower.
    let (mut jumps, falls): (Vec<&Flight>, Vec<&Flight>) = flights.iter().partition(|flight| flight.is_jump);
    jumps.retain(|flight| !is_let_go(&recording.rows, flight));
    jumps.sort_by(|a, b| b.top().total_cmp(&a.top()));
    let mut highest = 0.0;
    let mut used: Vec<Alone> = Vec::new();
    for flight in jumps {
        if flight.top() < highest * 0.99 - 1.01 * step {
            break;
        }
        if let Some(alone) = follow_alone(flight, looped, step, fastest) {
            highest = f64::max(highest, flight.top());
            used.push(alone);
        }
    }
    used.extend(falls.into_iter().filter_map(|flight| follow_alone(flight, looped, step, fastest)));
    used.sort_by_key(|alone| alone.flight.rows.start);
    loop {
        let Some(flown) = together(&used, looped, step) else { return (None, seen) };
        if flown.follows.iter().all(|follows| *follows) {
            return (Some(flown), seen);
        }
        if used.len() == 1 {
            return (None, seen);
        }
        // If none follows what they have in common, the worst may have kept the others from it.
        let worst = (0..used.len()).max_by(|a, b| flown.spreads[*a].total_cmp(&flown.spreads[*b]));
        let none_follows = flown.follows.iter().all(|follows| !follows);
        let mut at = 0..;
        used.retain(|_| at.next().is_some_and(|at| if none_follows { Some(at) != worst } else { flown.follows[at] }));
    }
}

impl Flight {
    fn top(&self) -> f64 {
        self.samples.iter().map(|(_, height)| *height).fold(f64::NEG_INFINITY, f64::max)
    }

    /// The tick in the middle of the apex, as it is told.
    fn apex_tick(&self) -> f64 {
        let top = self.top();
        let ticks: Vec<f64> =
            self.samples.iter().filter(|(_, height)| *height >= top).map(|(tick, _)| *tick as f64).collect();
        f64::midpoint(ticks[0], ticks[ticks.len() - 1])
    }

    /// Up to the apex.
    fn rise(&self) -> Flight {
        let apex = self.apex_tick();
        let count = self.samples.iter().take_while(|(tick, _)| (*tick as f64) <= apex).count();
        let rows = self.rows.start..self.rows.start + count;
        Flight { rows, samples: self.samples[..count].to_vec(), ..self.clone() }
    }

    fn falls(&self) -> bool {
        let apex = self.apex_tick();
        !self.is_jump || self.samples.iter().filter(|(tick, _)| *tick as f64 > apex + 1.0).count() >= 4
    }
}

/// Whether the jump button was let go before the apex, where that is told.
fn is_let_go(rows: &[RecordedRow], flight: &Flight) -> bool {
    let apex = flight.apex_tick();
    let rising = rows[flight.rows.clone()].iter().skip(1).take_while(|row| (row.tick as f64) < apex - 1.0);
    rising.into_iter().any(|row| row.jump_held == Some(false))
}

/// The fastest fall over a few ticks, px/s.
fn fastest_fall(flight: &Flight, looped: &GameLoop) -> f64 {
    let speeds = flight.samples.windows(4).map(|four| (four[0].1 - four[3].1) / (four[3].0 - four[0].0) as f64);
    speeds.fold(0.0, f64::max) * looped.rate
}

/// What one flight looks like at a glance.
fn guess(flight: &Flight, start: i64, looped: &GameLoop, step: f64) -> Upright {
    let (dt, start) = (looped.rate.recip(), start as f64);
    if flight.is_jump {
        let (top, time) = (flight.top(), ((flight.apex_tick() - start) * dt).max(dt));
        let gravity = 2.0 * top / (time * time);
        return Upright { take_off: 2.0 * top / time, rise_gravity: gravity, fall_gravity: gravity, top_fall: None };
    }
    let deep = flight.samples.iter().find(|(_, height)| -height > 10.0 * step).or(flight.samples.last());
    let gravity = deep.map_or(1000.0, |(tick, height)| {
        let time = (*tick as f64 - start) * dt;
        (-2.0 * height / (time * time)).max(1.0)
    });
    Upright { take_off: 0.0, rise_gravity: gravity, fall_gravity: gravity, top_fall: None }
}

/// One flight by itself: as much of it as follows one gravity up, one down and a greatest speed of the fall. Not a slide down a wall,
/// which is slower than the fastest fall there is.
fn follow_alone(flight: &Flight, looped: &GameLoop, step: f64, fastest: f64) -> Option<Alone> {
    let fits = |flight: &Flight, top_fall: Option<f64>| {
        let from = |more: &f64, start: i64| {
            let first = Upright { top_fall, ..guess(flight, start, looped, step) };
            let layout = Layout::of(flight.is_jump, flight.falls(), top_fall.is_some(), &first, *more, looped);
            solve_with(std::slice::from_ref(flight), (&[start], true), layout, &first, looped, step)
        };
        // The first start that fits will do: all of them together decide it.
        let starts = || flight.starts.clone().rev();
        let mut tried =
            ranges(looped, flight.is_jump).iter().flat_map(|more| starts().filter_map(|start| from(more, start)));
        let flown = tried.find(|flown| flown.follows[0])?;
        let is_general = flown.upright.top_fall.is_none_or(|top| top > 0.9 * fastest);
        is_general.then(|| Alone { flight: flight.clone(), start: flown.flights[0].1, upright: flown.upright })
    };
    let rise = || Some(flight.rise()).filter(|rise| flight.is_jump && rise.samples.len() >= 5);
    let capped = || flight.falls().then(|| fits(flight, Some(fastest_fall(flight, looped).max(1.0))))?;
    match flight.is_jump {
        true => fits(flight, None).or_else(capped).or_else(|| fits(&rise()?, None)),
        // Most who walk off an edge that is worth it come to the top speed.
        false => capped().or_else(|| fits(flight, None)),
    }
}

/// All flights; with a top speed of the fall if that makes them fit much better.
fn together(used: &[Alone], looped: &GameLoop, step: f64) -> Option<Flown> {
    let of_kind = |is_jump: bool| used.iter().find(|alone| alone.flight.is_jump == is_jump);
    // A jump tells the moment at which it begins to fall, a walk off an edge does not.
    let falling = used.iter().filter(|alone| alone.flight.falls());
    let falling = falling.max_by_key(|alone| (alone.flight.is_jump, alone.flight.samples.len()));
    let mut first = of_kind(true).or(of_kind(false))?.upright;
    first.fall_gravity = falling.map_or(first.fall_gravity, |alone| alone.upright.fall_gravity);
    let flights: Vec<Flight> = used.iter().map(|alone| alone.flight.clone()).collect();
    // The longest fall tells the top speed best; the start of each is looked for once that is known.
    let capped = used.iter().filter(|alone| alone.upright.top_fall.is_some());
    let longest = capped.max_by_key(|alone| alone.flight.samples.len()).and_then(|alone| alone.upright.top_fall);
    let fastest = flights.iter().map(|flight| fastest_fall(flight, looped)).fold(1.0, f64::max);
    let top_fall = longest.unwrap_or(fastest);
    let mut starts = best_starts(&flights, &Upright { top_fall: longest, ..first }, 0.0, looped)?;
    for (start, alone) in starts.iter_mut().zip(used).filter(|(_, alone)| alone.flight.is_jump) {
        *start = alone.start;
    }
    let (rises, falls) = (of_kind(true).is_some(), falling.is_some());
    let solved = |top_fall: Option<f64>| {
        let first = Upright { top_fall, ..first };
        let from = |more: &f64| {
            let layout = Layout::of(rises, falls, top_fall.is_some(), &first, *more, looped);
            solve_with(&flights, (&starts, false), layout, &first, looped, step)
        };
        let found: Vec<Flown> = ranges(looped, rises).iter().filter_map(from).collect();
        // Whether a walk off an edge began a tick earlier or later is hardly seen: a little more gravity makes up for it.
        let shifted = found.iter().flat_map(|flown| {
            [-1, 1].into_iter().filter_map(|ticks| {
                let shift = |(flight, start): &(Flight, i64)| if flight.is_jump { *start } else { start + ticks };
                let starts: Vec<i64> = flown.flights.iter().map(shift).collect();
                let layout = flown.layout;
                solve_with(&flights, (&starts, true), layout, &flown.upright, looped, step)
            })
        });
        let shifted: Vec<Flown> =
            if used.iter().any(|alone| !alone.flight.is_jump) { shifted.collect() } else { Vec::new() };
        best_of(found.into_iter().chain(shifted))
    };
    match (solved(None), falls.then(|| solved(Some(top_fall))).flatten()) {
        (Some(plain), Some(capped)) => {
            // Four standard errors.
            let less = plain.solution.squares() - capped.solution.squares();
            let is_better = less > 16.0 * capped.of_each * capped.of_each;
            Some(if is_better && capped.share_off([0.0, 0.0, 0.0, 1.0]).is_finite() { capped } else { plain })
        }
        (plain, capped) => plain.or(capped),
    }
}

/// The best of some, which knows those that fit about as well.
fn best_of(solved: impl Iterator<Item = Flown>) -> Option<Flown> {
    let all: Vec<Flown> = solved.collect();
    let least = all.iter().map(|flown| flown.solution.squares()).fold(f64::INFINITY, f64::min);
    let most = least + ALIKE * all.iter().map(|flown| flown.of_each * flown.of_each).fold(f64::INFINITY, f64::min);
    let (best, alike): (Vec<Flown>, Vec<Flown>) = all
        .into_iter()
        .filter(|flown| flown.solution.squares() <= most)
        .partition(|flown| flown.solution.squares() <= least);
    let mut best = best.into_iter().next()?;
    best.alike = alike.into_iter().map(|flown| flown.upright).collect();
    Some(best)
}

/// The numbers for which flights come nearest, with these starts or, unless they are given, the best.
fn solve_with(
    flights: &[Flight],
    (starts, are_given): (&[i64], bool),
    layout: Layout,
    first: &Upright,
    looped: &GameLoop,
    step: f64,
) -> Option<Flown> {
    let mut parameters = layout.parameters(first);
    let mut starts = starts.to_vec();
    let mut best = None;
    for _ in 0..6 {
        let weights = weights(flights, &starts);
        let found = least_squares(&parameters, |parameters| {
            let (offset, upright) = layout.read(parameters, step);
            let off = residuals(flights, &starts, &upright, offset, looped)?;
            let mut weighed = vec![WEAK * offset];
            weighed.extend(layout.rise_ticks.map(|_| 0.02 * step * parameters[1]));
            for ((flight, start), off) in flights.iter().zip(&starts).zip(&off) {
                let weight = |tick: i64| weights[&(flight.is_jump, tick - start)].sqrt();
                weighed.extend(flight.samples.iter().zip(off).map(|((tick, _), off)| off * weight(*tick)));
            }
            Some(weighed)
        })?;
        parameters.clone_from(&found.parameters);
        best = Some((found, weights));
        // Rounded or cut off, no place is told more than half a step higher or lower than it is.
        parameters[0] = parameters[0].clamp(-0.5, 0.5);
        let (offset, upright) = layout.read(&parameters, step);
        let nearer = best_starts(flights, &upright, offset, looped)?;
        if nearer == starts || are_given {
            break;
        }
        starts = nearer;
    }
    let (solution, weights) = best?;
    let (offset, upright) = layout.read(&parameters, step);
    let off = residuals(flights, &starts, &upright, offset, looped)?;
    let free = (weights.len() as f64 - parameters.len() as f64).max(1.0);
    let of_each = (step / 12f64.sqrt()).max((solution.squares() / free).sqrt());
    let of_each = of_each * inflation(off.iter().map(Vec::as_slice));
    let spreads = off.iter().map(|off| spread(off)).collect();
    let follows = off.iter().map(|off| follows(off, step, looped)).collect();
    let flights = flights.iter().cloned().zip(starts).collect();
    Some(Flown { upright, flights, spreads, follows, solution, layout, of_each, alike: Vec::new() })
}

/// What each sample is off by.
fn residuals(
    flights: &[Flight],
    starts: &[i64],
    upright: &Upright,
    offset: f64,
    looped: &GameLoop,
) -> Option<Vec<Vec<f64>>> {
    let motion = Motion::of(flights, upright, looped)?;
    let off = |(flight, start): (&Flight, &i64)| {
        let at = |(tick, height): &(i64, f64)| height - motion.height(flight.is_jump, tick - start) - offset;
        flight.samples.iter().map(at).collect()
    };
    Some(flights.iter().zip(starts).map(off).collect())
}

/// For each flight the start from which it fits best.
fn best_starts(flights: &[Flight], upright: &Upright, offset: f64, looped: &GameLoop) -> Option<Vec<i64>> {
    let motion = Motion::of(flights, upright, looped)?;
    let off = |flight: &Flight, start: i64| -> f64 {
        let at = |(tick, height): &(i64, f64)| height - motion.height(flight.is_jump, tick - start) - offset;
        flight.samples.iter().map(|sample| at(sample) * at(sample)).sum()
    };
    let best = |flight: &Flight| flight.starts.clone().min_by(|a, b| off(flight, *a).total_cmp(&off(flight, *b)));
    flights.iter().map(best).collect()
}

/// A tick after its start that several flights show counts once: from ground at whole pixels each is rounded as the others are.
fn weights(flights: &[Flight], starts: &[i64]) -> Weights {
    let mut weights = Weights::new();
    for (flight, start) in flights.iter().zip(starts) {
        for (tick, _) in &flight.samples {
            *weights.entry((flight.is_jump, tick - start)).or_insert(0.0) += 1.0;
        }
    }
    weights.values_mut().for_each(|count| *count = count.recip());
    weights
}

/// A jump and a fall, as long as any of the flights.
struct Motion {
    jump: Vec<f64>,
    fall: Vec<f64>,
}

impl Motion {
    fn of(flights: &[Flight], upright: &Upright, looped: &GameLoop) -> Option<Motion> {
        let longest = |is_jump: bool| {
            let alike = flights.iter().filter(|flight| flight.is_jump == is_jump);
            alike.filter_map(|flight| Some((flight.samples.last()?.0 - flight.starts.start) as usize)).max()
        };
        let jump = longest(true).map_or(Some(Vec::new()), |ticks| upright.jump(looped, ticks))?;
        let fall = longest(false).map_or(Some(Vec::new()), |ticks| upright.fall(looped, ticks))?;
        Some(Motion { jump, fall })
    }

    fn height(&self, is_jump: bool, tick: i64) -> f64 {
        let heights = if is_jump { &self.jump } else { &self.fall };
        heights.get(tick.max(0) as usize).copied().unwrap_or(0.0)
    }
}

impl Flown {
    pub(super) fn rises(&self) -> bool {
        self.layout.rises
    }

    pub(super) fn falls(&self) -> bool {
        self.layout.falls
    }

    pub(super) fn flights(&self, looped: &GameLoop) -> Vec<(Flight, i64, Vec<f64>)> {
        let flights: Vec<Flight> = self.flights.iter().map(|(flight, _)| flight.clone()).collect();
        let Some(motion) = Motion::of(&flights, &self.upright, looped) else { return Vec::new() };
        let heights = |(flight, start): &(Flight, i64)| {
            let last = flight.samples.last().map_or(*start, |(tick, _)| *tick);
            let heights = (*start..=last).map(|tick| motion.height(flight.is_jump, tick - start)).collect();
            (flight.clone(), *start, heights)
        };
        self.flights.iter().map(heights).collect()
    }

    /// Where 95 of 100 truths lie around a product of powers of take-off speed, rise gravity, fall gravity and top speed of the
    /// fall, as a share of it.
    pub(super) fn share_off(&self, powers: [f64; 4]) -> f64 {
        let error =
            CERTAIN * self.solution.error(&self.layout.weights(powers, &self.solution.parameters), self.of_each);
        let apart = |other: &Upright| {
            let (a, b) = (self.upright.logarithms(), other.logarithms());
            (0..4).map(|at| powers[at] * (a[at] - b[at])).sum::<f64>().abs()
        };
        self.alike.iter().map(apart).fold(error, f64::max)
    }
}

impl Upright {
    fn logarithms(&self) -> [f64; 4] {
        [self.take_off, self.rise_gravity, self.fall_gravity, self.top_fall.unwrap_or(1.0)]
            .map(|number| number.max(1e-9).ln())
    }
}
