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
    /// The last tick, where it was and in which attempt.
    before: Option<(DVec2, u32)>,
    /// What is in the air.
    now: Option<Stretch>,
}

#[derive(Clone, Copy, Debug)]
struct Stretch {
    first_tick: u64,
    left: DVec2,
    highest: f64,
    last_tick: u64,
    last: DVec2,
    /// The downward speed of a landing in the last tick.
    landing: Option<f64>,
}

impl Stretch {
    fn goes_on(&mut self, tick: u64, row: &TickReport) {
        (self.last_tick, self.last, self.landing) = (tick, row.feet, landing_speed(row));
        self.highest = self.highest.min(row.feet.y);
    }

    fn ended(self) -> TimeInAir {
        TimeInAir {
            first_tick: self.first_tick,
            end_tick: self.last_tick,
            apex_px: self.left.y - self.highest,
            reach_px: (self.last.x - self.left.x).abs(),
            landing_speed_px_s: self.landing,
        }
    }
}

impl AirWatch {
    /// The next tick, counted on where a round starts again; the stretch that ended with it, if one did.
    pub(super) fn tick(&mut self, tick: u64, row: &TickReport, attempt: u32) -> Option<TimeInAir> {
        let is_air = matches!(row.state, State::Rise | State::Fall | State::WallSlide | State::Fly);
        // What starts again somewhere else has not come there through the air.
        let before = self.before.filter(|(_, of)| *of == attempt).map(|(feet, _)| feet);
        let broken = if before.is_none() { self.end() } else { None };
        self.before = Some((row.feet, attempt));
        match (&mut self.now, is_air) {
            (Some(now), true) => now.goes_on(tick, row),
            (None, true) => {
                let left = before.unwrap_or(row.feet);
                let highest = left.y.min(row.feet.y);
                let landing = landing_speed(row);
                self.now = Some(Stretch { first_tick: tick, left, highest, last_tick: tick, last: row.feet, landing });
            }
            (Some(_), false) => {
                let mut now = self.now.take()?;
                now.goes_on(tick, row);
                return Some(now.ended());
            }
            (None, false) => {}
        }
        broken
    }

    /// The stretch that goes on, as it is by now.
    pub(super) fn end(&mut self) -> Option<TimeInAir> {
        self.now.take().map(Stretch::ended)
    }
}

fn landing_speed(row: &TickReport) -> Option<f64> {
    row.events.iter().find_map(|event| match event {
        Event::Landed { speed } => Some(*speed),
        _ => None,
    })
}
