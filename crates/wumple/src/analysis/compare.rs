//! Runs over the same level, held against each other.

use std::collections::BTreeMap;

use serde::Serialize;
use wumple_core::camera::ViewEvent;
use wumple_core::{Body, DVec2, Event, RoundEvent, TickReport, ZoneKind};

use super::in_air::times_in_air;
use crate::files::{Diagnostic, Level, Timeline, TuningFile};
use crate::trace::{Trace, csv_of};
use crate::why::run_why;
use crate::why::{Press, WhyLine, WhyLog};

/// Places nearer than this are the same, px: so near does the scheme `exact` come at different rates.
const SAME: f64 = 1e-6;

/// A run that is to be held against others: of a tuning, or a trace that was read back.
#[derive(Clone, Debug)]
#[non_exhaustive]
pub struct ComparedRun {
    /// What it is called.
    pub name: String,
    /// The run.
    pub trace: Trace,
    /// Why it went so; a trace that was read back does not know.
    pub log: Option<WhyLog>,
    /// The hitbox, if it is known.
    pub body: Option<Body>,
}

impl ComparedRun {
    /// Runs a tuning through a level.
    ///
    /// # Errors
    ///
    /// If the character does not fit at the level's spawn.
    pub fn of_tuning(
        level: &Level,
        tuning: &TuningFile,
        timeline: &Timeline,
        ticks: u64,
    ) -> Result<ComparedRun, Diagnostic> {
        let (trace, log) = run_why(level, &tuning.tuning, timeline, ticks)?;
        Ok(ComparedRun { name: tuning.name.clone(), trace, log: Some(log), body: Some(*tuning.tuning.body()) })
    }

    /// A trace that was read back.
    #[must_use]
    pub fn of_trace(name: &str, trace: Trace) -> ComparedRun {
        ComparedRun { name: name.to_owned(), trace, log: None, body: None }
    }

    /// The row at the end of this time, s, if a tick ends then.
    pub(crate) fn row_at(&self, seconds: f64) -> Option<&TickReport> {
        let tick = seconds * self.trace.rate;
        let whole = tick.round();
        let rows = &self.trace.rows;
        ((tick - whole).abs() < 1e-6).then_some(whole as usize).and_then(|tick| rows.get(tick))
    }
}

/// Runs side by side: where they part, and the numbers of each. Serializes as `wumple-compare 1`.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[non_exhaustive]
pub struct Comparison {
    /// `wumple-compare 1`.
    pub format: &'static str,
    /// The side of a tile, px.
    pub tile_px: f64,
    /// The first moment at which they are not at the same place, in the same state and on the same support.
    pub apart: Option<Parting>,
    /// The first moment in which different things happened to them; how fast a landing was makes none.
    pub happened: Option<Parting>,
    /// The numbers of each run, in the order given.
    pub runs: Vec<MeasuredRun>,
    /// What each press of jump led to, for each run; unknown of a trace that was read back.
    pub presses: Vec<Option<Vec<Press>>>,
}

/// A moment at which runs part.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[non_exhaustive]
pub struct Parting {
    /// The time, s: a moment at which a tick ends in every run.
    pub time_s: f64,
    /// Each run then; none for one that is over.
    pub runs: Vec<Option<AtParting>>,
}

/// A run at the moment at which it parts from the others.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[non_exhaustive]
pub struct AtParting {
    /// The tick.
    pub tick: u64,
    /// The feet, px, y down.
    pub x_px: f64,
    /// The feet, px, y down.
    pub y_px: f64,
    /// Its own speed, px/s.
    pub vx_px_s: f64,
    /// Its own speed, px/s, y down.
    pub vy_px_s: f64,
    /// What it was doing.
    pub state: &'static str,
    /// What held it up.
    pub support: String,
    /// What happened in that tick.
    pub events: Vec<String>,
    /// What was decided in that tick, or else the last that was before; unknown of a trace that was read
    /// back.
    pub decisions: Option<Vec<WhyLine>>,
}

/// What is measured of a run.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[non_exhaustive]
pub struct MeasuredRun {
    /// Its name.
    pub name: String,
    /// Ticks a second.
    pub rate_hz: f64,
    /// How many ticks it has.
    pub ticks: u64,
    /// The greatest height above a take-off, px.
    pub apex_px: f64,
    /// The same in tiles.
    pub apex_tiles: f64,
    /// The greatest way along x in the air without touching down, px.
    pub reach_px: f64,
    /// The same in tiles.
    pub reach_tiles: f64,
    /// The longest time in the air, s.
    pub longest_air_time_s: f64,
    /// All time in the air, s.
    pub air_time_s: f64,
    /// How it ended: `goal` once it was reached, `died:SIDE`, `lost`, or `still going`.
    pub end: String,
    /// The tick in which it did.
    pub end_tick: u64,
    /// The time to that, s.
    pub end_time_s: f64,
    /// Where the feet were then, px, y down.
    pub end_x_px: f64,
    /// Where the feet were then, px, y down.
    pub end_y_px: f64,
}

/// Holds runs against each other. `tile` is the side of a tile, px.
///
/// ```
/// use wumple::analysis::ComparedRun;
/// use wumple::{ButtonsFile, Level, TuningFile, compare, demo};
///
/// let level = Level::parse("room", demo::THROWING_ROOM)?;
/// let dab = TuningFile::parse("dab", demo::DAB)?;
/// let slower = demo::DAB.replace("top_speed = \"7.5 tiles/s\"", "top_speed = \"5 tiles/s\"");
/// let slower = TuningFile::parse("slower", &slower)?;
/// let held = ButtonsFile::parse("held", "1 right", &dab.scale)?.at_rate(60.0)?;
/// let run = |tuning| ComparedRun::of_tuning(&level, tuning, &held.0, 60);
/// let comparison = compare(&[run(&dab)?, run(&slower)?], 16.0);
/// assert!(comparison.apart.is_some());
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
#[must_use]
pub fn compare(runs: &[ComparedRun], tile: f64) -> Comparison {
    Comparison {
        format: "wumple-compare 1",
        tile_px: tile,
        apart: part(runs, |run, row| (Near(row.feet), row.state, run.trace.names.support(row.support))),
        happened: part(runs, |run, row| {
            let words = |event: &Event| run.trace.names.event(&event.without_numbers());
            let of_view = run.trace.view_events(row.tick as usize).to_vec();
            let of_round = run.trace.round_events(row.tick as usize).to_vec();
            (row.events.iter().map(words).collect::<Vec<_>>(), of_view, of_round)
        }),
        runs: runs.iter().map(|run| numbers_of(run, tile)).collect(),
        presses: runs.iter().map(|run| run.log.as_ref().map(|log| log.presses().to_vec())).collect(),
    }
}

/// A place that is the same as those near it.
struct Near(DVec2);

impl PartialEq for Near {
    fn eq(&self, other: &Near) -> bool {
        (self.0 - other.0).abs().max_element() <= SAME
    }
}

/// The first moment at which the runs differ in this. Ticks of runs at different rates are compared where
/// they end together; one run alone that goes on has parted.
fn part<V: PartialEq>(runs: &[ComparedRun], of: impl Fn(&ComparedRun, &TickReport) -> V) -> Option<Parting> {
    let (first, others) = runs.split_first()?;
    let longest = runs.iter().max_by_key(|run| run.trace.rows.len())?;
    for row in &longest.trace.rows {
        let seconds = row.tick as f64 / longest.trace.rate;
        let then = |run: &ComparedRun| run.row_at(seconds).map(|row| of(run, row));
        let ends_here = |run: &ComparedRun| run.row_at(seconds).is_some() || is_over(run, seconds);
        let expected = then(first);
        if !runs.iter().all(ends_here) || others.iter().all(|run| then(run) == expected) {
            continue;
        }
        return Some(Parting { time_s: seconds, runs: runs.iter().map(|run| at_parting(run, seconds)).collect() });
    }
    None
}

fn is_over(run: &ComparedRun, seconds: f64) -> bool {
    run.trace.rows.last().is_none_or(|last| (last.tick as f64) < seconds * run.trace.rate - 1e-6)
}

fn at_parting(run: &ComparedRun, seconds: f64) -> Option<AtParting> {
    let row = run.row_at(seconds)?;
    let names = &run.trace.names;
    let lines = |log: &WhyLog| match log.last_lines(row.tick, usize::MAX) {
        [] => Vec::new(),
        before @ [.., last] => {
            let of_tick = |line: &&WhyLine| (line.tick..=line.last_tick).contains(&row.tick);
            let lines: Vec<WhyLine> = before.iter().filter(of_tick).cloned().collect();
            if lines.is_empty() { vec![last.clone()] } else { lines }
        }
    };
    Some(AtParting {
        tick: row.tick,
        x_px: row.feet.x,
        y_px: row.feet.y,
        vx_px_s: row.velocity.x,
        vy_px_s: row.velocity.y,
        state: row.state.name(),
        support: names.support(row.support),
        events: run.trace.event_words(row.tick as usize).collect(),
        decisions: run.log.as_ref().map(lines),
    })
}

fn numbers_of(run: &ComparedRun, tile: f64) -> MeasuredRun {
    let Trace { rate, rows, .. } = &run.trace;
    let in_air = times_in_air(&run.trace);
    let greatest = |value: fn(&super::TimeInAir) -> f64| in_air.iter().map(value).fold(0.0, f64::max);
    let (apex, reach) = (greatest(|air| air.apex_px), greatest(|air| air.reach_px));
    let (end, row) = end_of(&run.trace);
    MeasuredRun {
        name: run.name.clone(),
        rate_hz: *rate,
        ticks: rows.len() as u64 - 1,
        apex_px: apex,
        apex_tiles: apex / tile,
        reach_px: reach,
        reach_tiles: reach / tile,
        longest_air_time_s: greatest(|air| air.ticks() as f64) / rate,
        air_time_s: in_air.iter().map(|air| air.ticks()).sum::<u64>() as f64 / rate,
        end,
        end_tick: row.tick,
        end_time_s: row.tick as f64 / rate,
        end_x_px: row.feet.x,
        end_y_px: row.feet.y,
    }
}

/// How a run ended, and when: at the goal, if it came there; where there is a round, if that was finished.
fn end_of(trace: &Trace) -> (String, &TickReport) {
    let is_end = |(at, row): &(usize, &TickReport)| {
        if trace.rounds.is_empty() {
            row.events.iter().any(|event| event.enters(ZoneKind::Goal))
        } else {
            trace.round_events(*at).contains(&RoundEvent::Finished)
        }
    };
    if let Some((_, row)) = trace.rows.iter().enumerate().find(is_end) {
        return ("goal".into(), row);
    }
    let at = trace.rows.len() - 1;
    let last = &trace.rows[at];
    let end = last.events.iter().find(|event| event.ends_the_run()).map(|event| trace.names.event(event));
    let end = end.or_else(|| trace.views.get(at).filter(|view| view.is_deadly()).map(|_| ViewEvent::Died.to_string()));
    let lost = trace.round_events(at).contains(&RoundEvent::RoundLost).then(|| RoundEvent::RoundLost.to_string());
    (lost.or(end).unwrap_or("still going".into()), last)
}

impl Comparison {
    /// What the presses of jump led to, by the time at which each was pressed, s; for each run in order,
    /// none where that run had no such press.
    #[must_use]
    pub fn presses_by_time(&self) -> Vec<(f64, Vec<Option<&Press>>)> {
        let mut by_time: BTreeMap<u64, (f64, Vec<Option<&Press>>)> = BTreeMap::new();
        for (index, (run, presses)) in self.runs.iter().zip(&self.presses).enumerate() {
            for press in presses.iter().flatten() {
                let seconds = press.pressed_tick as f64 / run.rate_hz;
                // Presses within a tenth of a millisecond are one.
                let (_, presses) = by_time
                    .entry((seconds * 1e4).round() as u64)
                    .or_insert_with(|| (seconds, vec![None; self.runs.len()]));
                presses[index] = Some(press);
            }
        }
        by_time.into_values().collect()
    }

    /// The numbers of each run as CSV, with a head line.
    #[must_use]
    pub fn to_csv(&self) -> String {
        csv_of(self.runs.iter())
    }
}
