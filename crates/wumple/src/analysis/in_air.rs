use serde::Serialize;
use wumple_core::{DVec2, Event, State, TickReport};

use crate::trace::Trace;

/// A stretch of a run without ground, ladder or hold, measured in whole ticks: from the last row before it
/// to the first row after it.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
#[non_exhaustive]
pub struct TimeInAir {
    /// The first tick in the air.
    pub first_tick: u64,
    /// The first tick that is not, or the last of the run.
    pub end_tick: u64,
    /// How high the feet came above where they left, px; 0 if they only fell.
    pub apex_px: f64,
    /// How far along x they came from there, px, in either direction.
    pub reach_px: f64,
    /// The downward speed of the landing, px/s; none if it did not end in one.
    pub landing_speed_px_s: Option<f64>,
}

impl TimeInAir {
    /// How many ticks it took.
    #[must_use]
    pub fn ticks(&self) -> u64 {
        self.end_tick - self.first_tick + 1
    }
}

/// Every stretch in the air, in the order of the run.
#[must_use]
pub fn times_in_air(trace: &Trace) -> Vec<TimeInAir> {
    let mut watch = AirWatch::default();
    let rows = trace.rows.iter().enumerate();
    let mut all: Vec<TimeInAir> = rows.filter_map(|(at, row)| watch.tick(row.tick, row, trace.attempt(at))).collect();
    all.extend(watch.end());
    all
}

/// Looks out for stretches in the air, tick by tick.
#[derive(Clone, Copy, Debug, Default)]
pub(super) struct AirWatch {
    /// The last tick, of which attempt, and where it was; of the 0th attempt, which is none, before there is one.
    tick: u64,
    attempt: u32,
    feet: DVec2,
    /// The downward speed of a landing in it.
    landing: Option<f64>,
    /// What is in the air.
    now: Option<Stretch>,
}

#[derive(Clone, Copy, Debug)]
struct Stretch {
    first_tick: u64,
    left: DVec2,
    highest: f64,
}

impl AirWatch {
    /// The next tick, counted on where a round starts again; the stretch that ended with it, if one did.
    pub(super) fn tick(&mut self, tick: u64, row: &TickReport, attempt: u32) -> Option<TimeInAir> {
        let is_air = matches!(row.state, State::Rise | State::Fall | State::WallSlide | State::Fly);
        // What starts again somewhere else has not come there through the air.
        let goes_on = self.attempt == attempt;
        let broken = if goes_on { None } else { self.end() };
        let left = if goes_on { self.feet } else { row.feet };
        (self.tick, self.attempt, self.feet) = (tick, attempt, row.feet);
        match &mut self.now {
            None if !is_air => return broken,
            None => self.now = Some(Stretch { first_tick: tick, left, highest: left.y.min(row.feet.y) }),
            Some(now) => now.highest = now.highest.min(row.feet.y),
        }
        self.landing = landing_speed(row);
        if is_air { broken } else { self.end() }
    }

    /// The stretch that goes on, as it is by now.
    pub(super) fn end(&mut self) -> Option<TimeInAir> {
        let Stretch { first_tick, left, highest } = self.now.take()?;
        Some(TimeInAir {
            first_tick,
            end_tick: self.tick,
            apex_px: left.y - highest,
            reach_px: (self.feet.x - left.x).abs(),
            landing_speed_px_s: self.landing,
        })
    }
}

fn landing_speed(row: &TickReport) -> Option<f64> {
    row.events.iter().find_map(|event| match event {
        Event::Landed { speed } => Some(*speed),
        _ => None,
    })
}
