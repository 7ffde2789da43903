//! Why a run went as it did: every decision, with its reason, as a log.

use serde::Serialize;

use crate::files::{Diagnostic, Level, Timeline};
use crate::names::Names;
use crate::trace::{RoundRow, Trace, run_told};
use wumple_core::rounds::{DefeatCause, Lack, Need, RestartAt};
pub use wumple_core::why::*;
use wumple_core::{
    CharacterId, Decision, Event, Listener, RoundEvent, RoundRules, Side, TickReport, Tuning, ZoneId, ZoneKind,
};

/// Runs one character through a level, as [`run`](crate::run) does, and writes down every decision with its reason: those of the
/// motion, of the view, and of the round.
///
/// # Errors
///
/// If the character does not fit at the level's spawn.
pub fn run_why(level: &Level, tuning: &Tuning, timeline: &Timeline, ticks: u64) -> Result<(Trace, WhyLog), Diagnostic> {
    let mut log = WhyLog::default();
    let trace = run_told(level, tuning, timeline, ticks, &mut log)?;
    let log = log.completed(&trace, level);
    Ok((trace, log))
}

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

/// Runs one character through levels in order, each with its round: from one that is finished it goes on to the next, with the
/// buttons and the ticks that are left. A run for each level that was come to.
///
/// # Errors
///
/// If the character does not fit at a level's spawn.
pub fn run_levels(
    levels: &[Level],
    tuning: &Tuning,
    timeline: &Timeline,
    ticks: u64,
) -> Result<Vec<(Trace, WhyLog)>, Diagnostic> {
    let mut runs: Vec<(Trace, WhyLog)> = Vec::new();
    let mut gone = 0;
    for level in levels {
        let run = run_why(level, tuning, &timeline.after(gone), ticks - gone)?;
        gone += run.0.rows.len() as u64 - 1;
        let is_finished = run.0.rounds.last().is_some_and(|round| round.events.contains(&RoundEvent::Finished));
        runs.push(run);
        if !is_finished {
            break;
        }
    }
    Ok(runs)
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

    /// With what only a whole run tells: the reasons of the view and of the round. For a log of the motion alone, that listened to
    /// every tick of the trace.
    #[must_use]
    pub fn completed(mut self, trace: &Trace, level: &Level) -> WhyLog {
        self.add_view(trace, level);
        if let Some(round) = &level.round {
            self.add_round(trace, &round.rules);
        }
        self
    }

    /// Forgets what was decided after a tick: for who goes back to it.
    pub fn go_back_to(&mut self, tick: u64) {
        self.lines.retain(|line| line.tick <= tick);
        self.lines.iter_mut().for_each(|line| line.last_tick = line.last_tick.min(tick));
        self.presses.retain(|press| press.pressed_tick <= tick && press.tick <= tick);
    }

    /// Adds what was decided by where the view is.
    fn add_view(&mut self, trace: &Trace, level: &Level) {
        let Some(behind) = level.camera.and_then(|camera| camera.follow.behind()) else { return };
        let side = match behind {
            Side::Left => "left of",
            Side::Right => "right of",
            Side::Top => "above",
            Side::Bottom => "below",
        };
        let died = trace.rows.iter().zip(&trace.views).filter(|(_, view)| view.is_deadly());
        let why = format!("died: wholly {side} the view, which is deadly behind");
        self.add(died.map(|(row, _)| WhyLine { tick: row.tick, last_tick: row.tick, why: why.clone() }).collect());
    }

    /// Adds lines that are in the order of their ticks, each after those of its tick.
    fn add(&mut self, lines: Vec<WhyLine>) {
        self.lines.extend(lines);
        self.lines.sort_by_key(|line| line.tick);
    }

    /// Adds the reasons of a round, each after those of the motion in its tick.
    fn add_round(&mut self, trace: &Trace, rules: &RoundRules) {
        let mut lines = Vec::new();
        let mut spared_until = 0;
        for (at, (row, round)) in trace.rows.iter().zip(&trace.rounds).enumerate() {
            let before = &trace.rounds[at.saturating_sub(1)];
            let mut reasons =
                RoundReasons { rules, names: &trace.names, row, round, before, spared_until, lines: Vec::new() };
            reasons.find(trace.rate);
            spared_until = reasons.spared_until;
            lines.extend(reasons.lines.into_iter().map(|why| WhyLine { tick: row.tick, last_tick: row.tick, why }));
        }
        self.add(lines);
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

/// The reasons of a round in one tick.
struct RoundReasons<'a> {
    rules: &'a RoundRules,
    names: &'a Names,
    row: &'a TickReport,
    round: &'a RoundRow,
    before: &'a RoundRow,
    /// The last tick in which nothing hurts.
    spared_until: u64,
    lines: Vec<String>,
}

impl RoundReasons<'_> {
    fn find(&mut self, rate: f64) {
        let is_spared = self.row.tick <= self.spared_until;
        for event in &self.row.events {
            let Event::Entered(zone) = event else { continue };
            let rule = self.rules.of(*zone);
            let name = self.names.zone(*zone);
            if is_spared && zone.kind == ZoneKind::Hazard {
                self.lines.push(format!("{name} hurts nobody: spared until tick {}", self.spared_until));
            }
            let asks = rule.is_gate || zone.kind == ZoneKind::Pickup;
            let opens =
                |event: &RoundEvent| matches!(event, RoundEvent::Opened(of) | RoundEvent::Took(of) if of == zone);
            if asks
                && let Some(need) = rule.needs
                && !self.round.events.iter().any(opens)
            {
                let lack = self.lack_words(need);
                self.lines.push(format!("{name} stays closed: {lack}"));
            }
        }
        for event in &self.round.events {
            let why = self.words(event, rate);
            self.lines.extend(why);
        }
    }

    fn lack_words(&self, need: Need) -> String {
        match need {
            Need::Pickups(needed) => format!("{} of {needed}", self.round.picked),
            Need::Has(item) => format!("no \"{item}\""),
        }
    }

    /// Why something happened to the round, where that says more than the event.
    fn words(&mut self, event: &RoundEvent, rate: f64) -> Option<String> {
        let name = |zone: &ZoneId| self.names.zone(*zone);
        Some(match event {
            RoundEvent::Took(zone) => {
                let gives =
                    self.rules.of(*zone).gives.map_or(String::new(), |item| format!(", which gives \"{item}\""));
                format!("{} taken{gives}: {} picked", name(zone), self.round.picked)
            }
            RoundEvent::Opened(zone) => match self.rules.of(*zone).needs {
                Some(Need::Has(item)) if self.rules.of(*zone).takes => {
                    format!("{} opened: \"{item}\" is there, and used up", name(zone))
                }
                Some(Need::Has(item)) => format!("{} opened: \"{item}\" is there", name(zone)),
                Some(Need::Pickups(needed)) => format!("{} opened: {} of {needed}", name(zone), self.round.picked),
                None => return None,
            },
            RoundEvent::GoalClosed(Lack::Pickups { picked, needed }) => format!("goal closed: {picked} of {needed}"),
            RoundEvent::GoalClosed(Lack::Item(item)) => format!("goal closed: no \"{item}\""),
            RoundEvent::Hurt { by, damage } => {
                let spared = (self.rules.numbers().spared_for * rate + 0.5 + 1e-9).floor() as u64;
                let left = self.before.health.unwrap_or(0).saturating_sub(*damage);
                if left == 0 {
                    return Some(format!("{} hurts by {damage}: no health is left", name(by)));
                }
                self.spared_until = self.row.tick + spared;
                let until = self.spared_until;
                format!("{} hurts by {damage}: {left} health left, spared until tick {until}", self.names.zone(*by))
            }
            RoundEvent::Defeated(cause) => {
                let cause = match cause {
                    DefeatCause::Zone(zone) => name(zone),
                    other => other.to_string(),
                };
                let lives = match self.round.lives {
                    Some(0) => ": no life is left".to_owned(),
                    Some(1) => ": 1 life is left".to_owned(),
                    Some(lives) => format!(": {lives} lives are left"),
                    None => String::new(),
                };
                format!("defeated by {cause}{lives}")
            }
            RoundEvent::Restarted(RestartAt::Checkpoint) => "starts again at the checkpoint reached last".to_owned(),
            RoundEvent::Restarted(RestartAt::Start) => "starts again at the start".to_owned(),
            _ => return None,
        })
    }
}
