//! How a round went: whether it was finished, what was picked, and what defeated the character where.

use std::fmt;

use serde::Serialize;
use wumple_core::RoundEvent;

use crate::files::LevelRound;
use crate::trace::Trace;
use crate::units::short;

/// How a round went. Displayed in a line or two.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[non_exhaustive]
pub struct RoundSummary {
    /// The tick in which the goal was reached, if it was.
    pub finished_tick: Option<u64>,
    /// The same as a time, s.
    pub finished_s: Option<f64>,
    /// The tick in which the last life was gone, if it was.
    pub lost_tick: Option<u64>,
    /// How many attempts were made.
    pub attempts: u32,
    /// What the pickups taken are worth together.
    pub picked: u32,
    /// What all pickups of the level are.
    pub pickups: u32,
    /// The lives left, if they are counted.
    pub lives: Option<u32>,
    /// Every defeat, in order.
    pub defeats: Vec<Defeat>,
}

/// A defeat in a run.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[non_exhaustive]
pub struct Defeat {
    /// The tick.
    pub tick: u64,
    /// By what, in the words of a trace: `hazard@8,2`, `edge-bottom`, `crush`.
    pub cause: String,
    /// Where the feet were, px.
    pub x_px: f64,
    /// Where the feet were, px, y down.
    pub y_px: f64,
}

impl RoundSummary {
    /// How the round of a run went.
    ///
    /// # Panics
    ///
    /// If the run has no rows.
    #[must_use]
    pub fn of(trace: &Trace, round: &LevelRound) -> RoundSummary {
        let tick_of = |wanted: RoundEvent| {
            let found = trace.rounds.iter().zip(&trace.rows).find(|(round, _)| round.events.contains(&wanted));
            found.map(|(_, row)| row.tick)
        };
        let last = trace.rounds.last().expect("a run has its start at least");
        let finished_tick = tick_of(RoundEvent::Finished);
        let mut defeats = Vec::new();
        for (at, row) in trace.rows.iter().enumerate() {
            for event in trace.round_events(at) {
                if let RoundEvent::Defeated(cause) = event {
                    // One that is not shown is elsewhere already at the end of its tick.
                    let feet = if trace.attempt(at) == trace.attempt(at.saturating_sub(1)) {
                        row.feet
                    } else {
                        trace.rows[at - 1].feet
                    };
                    let cause = trace.names.defeat_cause(cause);
                    defeats.push(Defeat { tick: row.tick, cause, x_px: feet.x, y_px: feet.y });
                }
            }
        }
        RoundSummary {
            finished_tick,
            finished_s: finished_tick.map(|tick| tick as f64 / trace.rate),
            lost_tick: tick_of(RoundEvent::RoundLost),
            attempts: last.attempt,
            picked: last.picked,
            pickups: round.pickups,
            lives: last.lives,
            defeats,
        }
    }

    /// Whether the goal was reached.
    #[must_use]
    pub fn is_finished(&self) -> bool {
        self.finished_tick.is_some()
    }
}

impl fmt::Display for RoundSummary {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let end = match (self.finished_tick.zip(self.finished_s), self.lost_tick) {
            (Some((tick, seconds)), _) => format!("finished in tick {tick}, {} s", short(seconds)),
            (None, Some(tick)) => format!("lost in tick {tick}"),
            (None, None) => "not finished".to_owned(),
        };
        let attempts = if self.attempts > 1 { format!(", in attempt {}", self.attempts) } else { String::new() };
        write!(f, "{end}{attempts}")?;
        if self.pickups > 0 {
            write!(f, "; picked {} of {}", self.picked, self.pickups)?;
        }
        if let Some(lives) = self.lives {
            write!(f, "; lives left: {lives}")?;
        }
        if self.defeats.is_empty() {
            return Ok(());
        }
        // By cause, in the order in which each came first.
        let mut causes: Vec<(&str, Vec<&Defeat>)> = Vec::new();
        for defeat in &self.defeats {
            match causes.iter_mut().find(|(cause, _)| *cause == defeat.cause) {
                Some((_, of_it)) => of_it.push(defeat),
                None => causes.push((&defeat.cause, vec![defeat])),
            }
        }
        for (cause, defeats) in causes {
            let place = |defeat: &&Defeat| {
                format!("tick {} at ({}, {}) px", defeat.tick, short(defeat.x_px), short(defeat.y_px))
            };
            let shown: Vec<String> = defeats.iter().take(4).map(place).collect();
            let more = defeats.len().saturating_sub(shown.len());
            let more = if more > 0 { format!(", and {more} more") } else { String::new() };
            write!(f, "\ndefeated by {cause}: {}{more}", shown.join(", "))?;
        }
        Ok(())
    }
}
