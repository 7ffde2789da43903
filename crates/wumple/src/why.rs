//! Why a run went as it did: every decision, as a log.

use serde::Serialize;

use wumple_core::{CharacterId, Decision, Listener};

/// Hears every decision of a run and keeps it in words. What is decided again in the very next tick is
/// one line.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct WhyLog {
    lines: Vec<WhyLine>,
}

/// A line of the log: a decision, or a refusal, with its reason.
#[derive(Clone, Debug, PartialEq, Eq, Serialize)]
pub struct WhyLine {
    /// The tick.
    pub tick: u64,
    /// The last of the ticks in a row that decided the same.
    pub last_tick: u64,
    /// What was decided, and why.
    pub why: String,
}

impl WhyLog {
    /// The lines, in the order of their ticks.
    pub fn lines(&self) -> &[WhyLine] {
        &self.lines
    }

    /// The log as CSV, with a head line.
    pub fn to_csv(&self) -> String {
        crate::trace::csv_of(self.lines.iter())
    }
}

impl Listener for WhyLog {
    fn decided(&mut self, _: CharacterId, tick: u64, decision: &Decision) {
        let why = decision.to_string();
        // Several things can be decided in turn, tick after tick.
        let recent = self.lines.iter_mut().rev().take(4);
        if let Some(line) = recent.into_iter().find(|line| line.last_tick + 1 == tick && line.why == why) {
            line.last_tick = tick;
            return;
        }
        self.lines.push(WhyLine { tick, last_tick: tick, why });
    }
}
