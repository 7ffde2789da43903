//! Why a run went as it did: every decision, with its reason, as a log.

use serde::Serialize;

pub use wumple_core::why::*;
use wumple_core::{CharacterId, Decision, Listener};

/// Hears every decision of a run and keeps it in words. What is decided again in the very next tick is
/// one line.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct WhyLog {
    lines: Vec<WhyLine>,
    presses: Vec<Press>,
}

/// A press of jump, and what it led to in the end.
#[derive(Clone, Debug, PartialEq, Eq, Serialize)]
#[non_exhaustive]
pub struct Press {
    /// The tick in which jump was pressed.
    pub pressed_tick: u64,
    /// `jumped:ground` and the like, or what was done instead of a jump (`dropped-through`, `took:ladder`,
    /// `took:wall`); `nothing` if nothing came of it.
    pub led_to: String,
    /// The tick in which that was decided.
    pub tick: u64,
    /// Why.
    pub why: String,
}

/// A line of the log: a decision, or a refusal, with its reason.
#[derive(Clone, Debug, PartialEq, Eq, Serialize)]
#[non_exhaustive]
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
    #[must_use]
    pub fn lines(&self) -> &[WhyLine] {
        &self.lines
    }

    /// The last lines, `most` of them at most, that began before the end of a tick.
    #[must_use]
    pub fn last_lines(&self, tick: u64, most: usize) -> &[WhyLine] {
        let end = self.lines.partition_point(|line| line.tick <= tick);
        &self.lines[end.saturating_sub(most)..end]
    }

    /// Every press of jump that something was decided about, and what it led to.
    #[must_use]
    pub fn presses(&self) -> &[Press] {
        &self.presses
    }

    fn note_press(&mut self, tick: u64, decision: &Decision, why: &str) {
        let (pressed_tick, led_to) = match decision {
            Decision::Jumped { pressed: Some(pressed), from, .. } => {
                (*pressed, Some(format!("jumped:{}", from.name())))
            }
            Decision::JumpRefused(_) => (tick, None),
            Decision::PressForgotten { pressed, because } => (*pressed, instead_of_a_jump(*because).map(str::to_owned)),
            _ => return,
        };
        let is_led = led_to.is_some();
        let led_to = led_to.unwrap_or_else(|| "nothing".to_owned());
        let press = Press { pressed_tick, led_to, tick, why: why.to_owned() };
        // A refusal is not the end of a press that is kept. Why it was refused says more than that it was
        // forgotten later.
        match self.presses.last_mut().filter(|last| last.pressed_tick == pressed_tick) {
            Some(last) if is_led => *last = press,
            Some(last) => last.why = format!("{}; {why}", last.why),
            None => self.presses.push(press),
        }
    }

    /// The log as CSV, with a head line.
    #[must_use]
    pub fn to_csv(&self) -> String {
        crate::trace::csv_of(self.lines.iter())
    }
}

/// What a press that is forgotten was good for, in the words of a trace, if it was.
fn instead_of_a_jump(because: Forgotten) -> Option<&'static str> {
    match because {
        Forgotten::TookLadder => Some("took:ladder"),
        Forgotten::TookWall => Some("took:wall"),
        Forgotten::Dropped => Some("dropped-through"),
        _ => None,
    }
}

impl Listener for WhyLog {
    fn decided(&mut self, _: CharacterId, tick: u64, decision: &Decision) {
        let why = decision.to_string();
        self.note_press(tick, decision, &why);
        // Several things can be decided in turn, tick after tick.
        let recent = self.lines.iter_mut().rev().take(4);
        if let Some(line) = recent.into_iter().find(|line| line.last_tick + 1 == tick && line.why == why) {
            line.last_tick = tick;
            return;
        }
        self.lines.push(WhyLine { tick, last_tick: tick, why });
    }
}
