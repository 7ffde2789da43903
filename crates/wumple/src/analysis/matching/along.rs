//! The numbers of a run: its top speed, and how fast it is reached, lost and turned, on the ground and in the air.

use std::collections::BTreeMap;
use std::ops::Range;

use super::least_squares::{ALIKE, CERTAIN, Solution, inflation, least_squares};
use super::motion::{Along, Change, place_at};
use super::stretches::RunChange;
use super::{follows, most_off};
use crate::analysis::GameLoop;
use crate::files::Recording;

/// A kind of change in a medium: on the ground or, if true, in the air.
pub(super) type Kind = (bool, Change);

/// What runs come to together.
pub(super) struct Ran {
    /// px/s.
    pub(super) top_speed: f64,
    /// Where 95 of 100 truths lie, as a share.
    pub(super) top_speed_off: f64,
    /// For each kind of change that is seen its rate.
    pub(super) rates: BTreeMap<Kind, Rate>,
    /// The changes that were used, and when each began.
    pub(super) changes: Vec<(RunChange, i64)>,
    /// Rows at the top speed.
    pub(super) runs: Vec<Range<usize>>,
}

/// How fast a speed changes.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) struct Rate {
    /// px/s^2.
    pub(super) value: f64,
    /// The least and the greatest that fit about as well, where 95 of 100 truths lie.
    pub(super) range: (f64, f64),
    /// Whether at once fits as well.
    pub(super) at_once: bool,
}

/// So fast is at once, ticks.
const AT_ONCE: f64 = 1e-3;

/// Where all are looked at finely: what leaves no more squares than so many of one sample beyond the best, and so much more to either side.
const NEAR: f64 = 150.0;
const WIDER: f64 = 1.2;

/// So many run-ups that fit about as well are tried with a turn.
const MOST_RUN_UPS: usize = 9;

/// A rate that was tried, as the ticks to or from the top speed, and the squares that are left.
type Trial = (f64, f64);

struct Search<'a> {
    looped: &'a GameLoop,
    step: f64,
    /// px/s.
    top_speed: f64,
    most_off: f64,
}

pub(super) fn solve(
    recording: &Recording,
    changes: Vec<RunChange>,
    runs: Vec<Range<usize>>,
    top_speed_a_tick: f64,
    looped: &GameLoop,
) -> Option<Ran> {
    let step = recording.x_step;
    let top_speed = top_speed_a_tick * looped.rate;
    let mut search = Search { looped, step, top_speed, most_off: most_off(step, looped) };
    let even = even_rows(recording, &runs, looped.rate);
    let mut by_kind: BTreeMap<Kind, Vec<RunChange>> = BTreeMap::new();
    for change in changes {
        let alike = by_kind.entry((change.in_air, change.change)).or_default();
        // The same once more, from a restart, tells nothing new: it is rounded as it was.
        if !alike.iter().any(|known| known.is_same_way(&change)) {
            alike.push(change);
        }
    }
    // The speed is known well enough from even runs; then each rate by itself, then all together.
    if let Some(speed) = search.even_speed(&even) {
        search.top_speed = speed;
    }
    let mut tried: BTreeMap<Kind, Vec<Trial>> = BTreeMap::new();
    for (kind, changes) in &mut by_kind {
        let run_ups = tried.get(&(kind.0, Change::RunUp)).map(|tried| search.about_best(changes, tried));
        tried.insert(*kind, search.find(*kind, changes, &run_ups.unwrap_or_default()));
    }
    let best = |(kind, tried): (&Kind, &Vec<Trial>)| Some((*kind, least(tried)?.0));
    let ticks: BTreeMap<Kind, f64> = tried.iter().filter_map(best).collect();
    let joint = search.together(&by_kind, &ticks, &even)?;
    search.top_speed = joint.top_speed;
    let mut rates = BTreeMap::new();
    let mut used = Vec::new();
    for (kind, ticks) in &joint.ticks {
        let changes = &by_kind[kind];
        if !search.is_followed(*kind, changes, &joint.ticks) {
            continue;
        }
        rates.insert(*kind, search.rate(changes, *ticks, &tried[kind], joint.off[kind]));
        let of_run_up = joint.ticks.get(&(kind.0, Change::RunUp)).copied();
        let starts = search.starts(*kind, changes, *ticks, of_run_up)?;
        used.extend(changes.iter().cloned().zip(starts));
    }
    used.sort_by_key(|(change, _)| change.rows.start);
    Some(Ran { top_speed: joint.top_speed, top_speed_off: joint.top_speed_off, rates, changes: used, runs })
}

/// Runs without what is near their ends, as ticks and places.
fn even_rows(recording: &Recording, runs: &[Range<usize>], rate: f64) -> Vec<Vec<(i64, f64)>> {
    let margin = (0.15 * rate) as usize + 2;
    let inner = runs.iter().map(|run| run.start + margin..run.end.saturating_sub(margin));
    let long = inner.filter(|run| run.len() >= 8);
    long.map(|run| recording.rows[run].iter().map(|row| (row.tick, row.x)).collect()).collect()
}

/// What all changes come to together.
struct Joint {
    top_speed: f64,
    top_speed_off: f64,
    ticks: BTreeMap<Kind, f64>,
    /// Where 95 of 100 truths lie, as a share.
    off: BTreeMap<Kind, f64>,
}

/// The residuals of places against a motion, whatever the place it began at.
fn centred(off: impl Iterator<Item = f64>) -> Vec<f64> {
    let mut off: Vec<f64> = off.collect();
    let mean = off.iter().sum::<f64>() / off.len().max(1) as f64;
    off.iter_mut().for_each(|off| *off -= mean);
    off
}

impl Search<'_> {
    fn numbers(&self, top_speed: f64, (_, change): Kind, ticks: f64, of_run_up: Option<f64>) -> Along {
        let rate = |ticks: f64| top_speed * self.looped.rate / ticks;
        let run_up = if change == Change::RunUp { ticks } else { of_run_up.unwrap_or(ticks) };
        Along { top_speed, acceleration: rate(run_up), braking: rate(ticks), turning: rate(ticks) }
    }

    /// The motion of a kind of change.
    fn places(&self, top_speed: f64, kind: Kind, ticks: f64, of_run_up: Option<f64>) -> Option<Vec<f64>> {
        let followed = (ticks + of_run_up.unwrap_or(ticks)).ceil() as usize + 3;
        self.numbers(top_speed, kind, ticks, of_run_up).change(kind.1, self.looped, followed)
    }

    fn off(&self, top_speed: f64, change: &RunChange, places: &[f64], start: i64) -> Vec<f64> {
        let a_tick = top_speed / self.looped.rate;
        let at = |(tick, x): &(i64, f64)| x - place_at(change.change, places, a_tick, tick - start);
        centred(change.samples.iter().map(at))
    }

    /// The squares that are left of a change that begins then, whatever the place it began at.
    fn left_of(&self, change: &RunChange, places: &[f64], start: i64) -> f64 {
        let a_tick = self.top_speed / self.looped.rate;
        let (mut sum, mut squares) = (0.0, 0.0);
        for (tick, x) in &change.samples {
            let off = x - place_at(change.change, places, a_tick, tick - start);
            sum += off;
            squares += off * off;
        }
        (squares - sum * sum / change.samples.len() as f64).max(0.0)
    }

    /// The best start of a change, with the squares that are left: looked for from one that may be near.
    fn best(&self, change: &RunChange, places: &[f64], near: i64) -> (i64, f64) {
        let mut at = near.clamp(change.starts.start, change.starts.end - 1);
        let mut left = self.left_of(change, places, at);
        for step in [-1, 1] {
            while change.starts.contains(&(at + step)) {
                let next = self.left_of(change, places, at + step);
                if next >= left {
                    break;
                }
                (at, left) = (at + step, next);
            }
        }
        (at, left)
    }

    /// The squares that would be left if a change could begin at any moment within a tick: as the two motions that begin at the ticks
    /// beside it, mixed.
    fn best_within(&self, change: &RunChange, places: &[f64], near: i64) -> (i64, f64) {
        let (start, whole) = self.best(change, places, near);
        let here = self.off(self.top_speed, change, places, start);
        let mixed = |other: i64| {
            let there = self.off(self.top_speed, change, places, other);
            let apart: f64 = here.iter().zip(&there).map(|(a, b)| (a - b) * (a - b)).sum();
            let along: f64 = here.iter().zip(&there).map(|(a, b)| a * (a - b)).sum();
            let share = if apart > 0.0 { (along / apart).clamp(0.0, 1.0) } else { 0.0 };
            here.iter().zip(&there).map(|(a, b)| (a + share * (b - a)).powi(2)).sum::<f64>()
        };
        (start, whole.min(mixed(start - 1)).min(mixed(start + 1)))
    }

    fn starts(&self, kind: Kind, changes: &[RunChange], ticks: f64, of_run_up: Option<f64>) -> Option<Vec<i64>> {
        let places = self.places(self.top_speed, kind, ticks, of_run_up)?;
        Some(changes.iter().map(|change| self.best(change, &places, change.middle()).0).collect())
    }

    /// What is left for each of these times; one change that does not fit, as a wall may have made it, counts no more than so much.
    fn scan(
        &self,
        kind: Kind,
        changes: &[RunChange],
        of_run_up: Option<f64>,
        within: bool,
        times: impl Iterator<Item = f64>,
    ) -> Vec<Trial> {
        let most = |change: &RunChange| change.samples.len() as f64 * self.most_off * self.most_off;
        let mut near: Vec<i64> = changes.iter().map(RunChange::middle).collect();
        let mut left = |ticks: f64| {
            let Some(places) = self.places(self.top_speed, kind, ticks, of_run_up) else { return f64::INFINITY };
            let of_each = changes.iter().zip(&mut near).map(|(change, near)| {
                let best =
                    if within { self.best_within(change, &places, *near) } else { self.best(change, &places, *near) };
                *near = best.0;
                best.1.min(most(change))
            });
            of_each.sum()
        };
        times.map(|ticks| (ticks, left(ticks))).collect()
    }

    /// The mean square of what is left of each sample, if so much is left of all of them.
    fn of_each(&self, changes: &[RunChange], left: f64) -> f64 {
        let samples: usize = changes.iter().map(|change| change.samples.len()).sum();
        (self.step * self.step / 12.0).max(left / samples.max(1) as f64)
    }

    /// How many ticks the change may take, with what is left of each: those near the best.
    ///
    /// The places before and after a change tell the moment of its middle to a small part of a tick, and it begins at a tick: so
    /// many times fit, each in a narrow range, and none between them. Where it could begin at any moment there is one best time; around it
    /// all are looked at finely.
    fn tried(&self, kind: Kind, changes: &[RunChange], of_run_up: Option<f64>) -> Vec<Trial> {
        let longest = changes.iter().map(|change| change.longest).max().unwrap_or(0) as f64;
        let all = std::iter::successors(Some(0.5), |ticks| Some(ticks * 1.05)).take_while(|ticks| *ticks < longest);
        let coarse = self.scan(kind, changes, of_run_up, true, [AT_ONCE].into_iter().chain(all));
        let Some((best, left)) = least(&coarse) else { return Vec::new() };
        let most = left + NEAR * self.of_each(changes, left);
        let near = coarse.iter().filter(|trial| trial.1 <= most).map(|trial| trial.0);
        let (low, high) = near.fold((best, best), |(low, high), ticks| (low.min(ticks), high.max(ticks)));
        let (low, high) = (low / WIDER, high * WIDER);
        // So little moves the places after it by less than they can tell.
        let fine = (0.06 * self.step / (self.top_speed / self.looped.rate)).max((high - low) / 1500.0).max(1e-4);
        let steps = ((high - low) / fine).ceil() as usize;
        let all = (0..=steps).map(|step| low + fine * step as f64).filter(|ticks| *ticks > 0.01);
        let at_once = (low < 1.0).then_some(AT_ONCE);
        self.scan(kind, changes, of_run_up, false, at_once.into_iter().chain(all))
    }

    /// The same for a turn, of which the way up to the top speed is a run-up: whatever of these run-ups it ends with, with what is left of each.
    fn tried_turns(&self, kind: Kind, changes: &[RunChange], run_ups: &[Trial]) -> Vec<Trial> {
        let tried = run_ups.iter().flat_map(|(run_up, more)| {
            let turns = self.tried(kind, changes, Some(*run_up));
            turns.into_iter().map(move |(ticks, left)| (ticks, left + more))
        });
        tried.collect()
    }

    /// Of these the ones that fit about as well as the best, no more than a few, with how much more is left of them.
    fn about_best(&self, changes: &[RunChange], tried: &[Trial]) -> Vec<Trial> {
        let Some((_, least)) = least(tried) else { return Vec::new() };
        let most = least + 6.0 * self.of_each(changes, least);
        let near: Vec<Trial> =
            tried.iter().filter(|(_, left)| *left <= most).map(|(ticks, left)| (*ticks, left - least)).collect();
        near.iter().step_by(near.len().div_ceil(MOST_RUN_UPS)).copied().collect()
    }

    /// How many ticks the change takes, as what was tried; keeps what follows the best.
    fn find(&self, kind: Kind, changes: &mut Vec<RunChange>, run_ups: &[Trial]) -> Vec<Trial> {
        let is_turn = kind.1 == Change::Turn;
        let tried = |changes: &[RunChange]| match is_turn {
            true => self.tried_turns(kind, changes, run_ups),
            false => self.tried(kind, changes, None),
        };
        let first = tried(changes);
        let Some((ticks, _)) = least(&first) else { return Vec::new() };
        let of_run_up = least(run_ups).map(|(ticks, _)| ticks);
        let Some(places) = self.places(self.top_speed, kind, ticks, of_run_up) else { return Vec::new() };
        let seen = changes.len();
        changes.retain(|change| {
            let (_, left) = self.best(change, &places, change.middle());
            (left / change.samples.len() as f64).sqrt() <= self.most_off
        });
        match changes.len() {
            all if all == seen => first,
            // Where most do something else it is not known what the rule is.
            few if 2 * few <= seen => Vec::new(),
            _ => tried(changes),
        }
    }

    /// The top speed of even runs, px/s.
    fn even_speed(&self, even: &[Vec<(i64, f64)>]) -> Option<f64> {
        let (mut products, mut squares) = (0.0, 0.0);
        for run in even {
            let count = run.len() as f64;
            let (tick, x) =
                run.iter().fold((0.0, 0.0), |sum, (tick, x)| (sum.0 + *tick as f64 / count, sum.1 + x / count));
            let slope: f64 = run.iter().map(|(at, place)| (*at as f64 - tick) * (place - x)).sum();
            products += slope.abs();
            squares += run.iter().map(|(at, _)| (*at as f64 - tick).powi(2)).sum::<f64>();
        }
        (squares > 0.0).then(|| products / squares * self.looped.rate)
    }

    fn together(
        &self,
        by_kind: &BTreeMap<Kind, Vec<RunChange>>,
        ticks: &BTreeMap<Kind, f64>,
        even: &[Vec<(i64, f64)>],
    ) -> Option<Joint> {
        let kinds: Vec<Kind> = ticks.iter().filter(|(_, ticks)| **ticks > 1.0).map(|(kind, _)| *kind).collect();
        let mut found = ticks.clone();
        let mut top_speed = self.top_speed;
        let mut last: Option<(Solution, Vec<Vec<f64>>)> = None;
        let mut starts: Vec<Vec<i64>> = Vec::new();
        for _ in 0..6 {
            let at = Search { top_speed, ..*self };
            let nearer: Option<Vec<Vec<i64>>> = (ticks.keys())
                .map(|kind| at.starts(*kind, &by_kind[kind], found[kind], found.get(&(kind.0, Change::RunUp)).copied()))
                .collect();
            let nearer = nearer?;
            if nearer == starts && last.is_some() {
                break;
            }
            starts = nearer;
            let series = |parameters: &[f64]| -> Option<Vec<Vec<f64>>> {
                let speed = parameters[0].exp();
                let mut now = ticks.clone();
                now.extend(kinds.iter().zip(&parameters[1..]).map(|(kind, number)| (*kind, number.exp())));
                let mut series = Vec::new();
                for (kind, starts) in now.keys().zip(&starts) {
                    let of_run_up = now.get(&(kind.0, Change::RunUp)).copied();
                    let places = self.places(speed, *kind, now[kind], of_run_up)?;
                    let changes = by_kind[kind].iter().zip(starts);
                    series.extend(changes.map(|(change, start)| self.off(speed, change, &places, *start)));
                }
                for run in even {
                    let forward = (run[run.len() - 1].1 - run[0].1).signum();
                    let a_tick = forward * speed / self.looped.rate;
                    series.push(centred(run.iter().map(|(tick, x)| x - a_tick * (tick - run[0].0) as f64)));
                }
                Some(series)
            };
            let mut first = vec![top_speed.ln()];
            first.extend(kinds.iter().map(|kind| found[kind].ln()));
            let solution = least_squares(&first, |parameters| Some(series(parameters)?.concat()))?;
            top_speed = solution.parameters[0].exp();
            found.extend(kinds.iter().zip(&solution.parameters[1..]).map(|(kind, number)| (*kind, number.exp())));
            let off = series(&solution.parameters)?;
            last = Some((solution, off));
        }
        let (solution, off) = last?;
        let of_each = (self.step / 12f64.sqrt()).max(solution.spread()) * inflation(off.iter().map(Vec::as_slice));
        let share_off = |at: usize| CERTAIN * solution.error_of(at, of_each);
        // A rate is a speed over a time; what the speed is off by is far less.
        let mut by_kind_off: BTreeMap<Kind, f64> = ticks.keys().map(|kind| (*kind, f64::INFINITY)).collect();
        by_kind_off.extend(kinds.iter().enumerate().map(|(at, kind)| (*kind, share_off(at + 1) + share_off(0))));
        Some(Joint { top_speed, top_speed_off: share_off(0), ticks: found, off: by_kind_off })
    }

    /// Whether most changes of a kind follow what was found.
    fn is_followed(&self, kind: Kind, changes: &[RunChange], found: &BTreeMap<Kind, f64>) -> bool {
        let of_run_up = found.get(&(kind.0, Change::RunUp)).copied();
        let Some(places) = self.places(self.top_speed, kind, found[&kind], of_run_up) else { return false };
        let is_followed = |change: &&RunChange| {
            let (start, _) = self.best(change, &places, change.middle());
            follows(&self.off(self.top_speed, change, &places, start), self.step, self.looped)
        };
        2 * changes.iter().filter(is_followed).count() > changes.len()
    }

    /// The rate of a kind of change, with all that fit about as well.
    fn rate(&self, changes: &[RunChange], best: f64, tried: &[Trial], off: f64) -> Rate {
        let (_, squares) = least(tried).unwrap_or((best, 0.0));
        let most = squares + ALIKE * self.of_each(changes, squares);
        let fits = tried.iter().filter(|(_, left)| *left <= most).map(|(ticks, _)| *ticks);
        let (shortest, longest) = fits.fold((best, best), |(low, high), ticks| (low.min(ticks), high.max(ticks)));
        let rate = |ticks: f64| self.top_speed * self.looped.rate / ticks;
        let at_once = shortest <= AT_ONCE || best <= AT_ONCE * 2.0;
        let (share, value) = (if off.is_finite() { off } else { 0.0 }, rate(best));
        Rate {
            value,
            range: (rate(longest).min(value * (1.0 - share)), rate(shortest).max(value * (1.0 + share))),
            at_once,
        }
    }
}

impl RunChange {
    /// Whether it is the same places, after the same times.
    fn is_same_way(&self, other: &RunChange) -> bool {
        let since = |change: &RunChange, tick: i64| tick - change.samples[0].0;
        let mut pairs = self.samples.iter().zip(&other.samples);
        self.samples.len() == other.samples.len()
            && pairs.all(|(a, b)| a.1 == b.1 && since(self, a.0) == since(other, b.0))
    }

    fn middle(&self) -> i64 {
        i64::midpoint(self.starts.start, self.starts.end)
    }
}

/// The trial that leaves least.
fn least(tried: &[Trial]) -> Option<Trial> {
    tried.iter().copied().filter(|(_, left)| left.is_finite()).min_by(|a, b| a.1.total_cmp(&b.1))
}
