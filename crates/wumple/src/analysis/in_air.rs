use serde::Serialize;
use wumple_core::{Event, State, TickReport};

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
    let is_air = |row: &TickReport| matches!(row.state, State::Rise | State::Fall | State::WallSlide | State::Fly);
    let rows = &trace.rows;
    let mut all = Vec::new();
    let mut index = 0;
    while index < rows.len() {
        if !is_air(&rows[index]) {
            index += 1;
            continue;
        }
        // What starts again somewhere else has not come there through the air.
        let is_of_it = |at: usize| at < rows.len() && trace.attempt(at) == trace.attempt(index);
        let length = (index..).take_while(|at| is_of_it(*at) && is_air(&rows[*at])).count();
        let end = if is_of_it(index + length) { index + length } else { index + length - 1 };
        let before = index.checked_sub(1).filter(|at| is_of_it(*at)).unwrap_or(index);
        all.push(measure(&rows[before], &rows[index..=end]));
        index += length;
    }
    all
}

fn measure(before: &TickReport, rows: &[TickReport]) -> TimeInAir {
    let (first, last) = (&rows[0], &rows[rows.len() - 1]);
    let highest = rows.iter().map(|row| row.feet.y).fold(before.feet.y, f64::min);
    let landing = last.events.iter().find_map(|event| match event {
        Event::Landed { speed } => Some(*speed),
        _ => None,
    });
    TimeInAir {
        first_tick: first.tick,
        end_tick: last.tick,
        apex_px: before.feet.y - highest,
        reach_px: (last.feet.x - before.feet.x).abs(),
        landing_speed_px_s: landing,
    }
}
