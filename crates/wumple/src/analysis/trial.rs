//! Trials: a run judged by what was expected of it.

use std::fmt;
use std::ops::RangeInclusive;
use std::path::PathBuf;

use serde::Serialize;
use wumple_core::{DVec2, Event, RoundEvent, TickReport, ZoneKind};

use super::in_air::{TimeInAir, times_in_air};
use super::reach::{Reach, ReachAnswer, ReachError, ReachReport, ReachSettings, reach};
use crate::files::{Demand, Diagnostic, Expectation, Level, Number, Subject, TrialFile, TuningFile};
use crate::names::is_of_word;
use crate::trace::{RoundRow, Trace};
use crate::units::short;
use crate::why::{WhyLine, WhyLog, run_why};

/// How many decisions before a failure are told.
const DECISIONS_TOLD: usize = 5;

/// What came of a trial. Displayed as one line if it passed, else with every expectation that failed.
#[derive(Clone, Debug, Serialize)]
#[non_exhaustive]
pub struct TrialOutcome {
    /// The trial's file.
    pub file: String,
    /// Its name.
    pub name: String,
    /// How many ticks were run: fewer than were to be, if the character died or was lost.
    pub ticks: u64,
    /// Every expectation, in the order of the file.
    pub checks: Vec<TrialCheck>,
    /// Where the failures were drawn, if they were.
    pub figure: Option<PathBuf>,
    /// Why they could not be drawn, if they could not.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub figure_error: Option<String>,
    /// The level it ran through.
    #[serde(skip)]
    pub level: Level,
    /// The tuning it ran with.
    #[serde(skip)]
    pub tuning: TuningFile,
    /// The run.
    #[serde(skip)]
    pub trace: Trace,
}

/// An expectation, and what came of it.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[non_exhaustive]
pub struct TrialCheck {
    /// The line of the file.
    pub line: usize,
    /// What was expected, in words.
    pub expected: String,
    /// Why it failed, if it did.
    pub failure: Option<TrialFailure>,
    /// The place at which the feet were expected, px, y down, and how near; for the figure.
    #[serde(skip)]
    pub place: Option<(DVec2, f64)>,
}

/// Why an expectation failed.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[non_exhaustive]
pub struct TrialFailure {
    /// The tick in which it did: the last that could have met it, or the first that broke it.
    pub tick: u64,
    /// What happened instead.
    pub instead: String,
    /// The last decisions before the end of that tick.
    pub decisions: Vec<WhyLine>,
}

impl TrialFile {
    /// Runs the trial.
    ///
    /// # Errors
    ///
    /// If the character does not fit at the level's spawn, or something is to be reached that is not there.
    pub fn run(&self) -> Result<TrialOutcome, Diagnostic> {
        let (trace, log) = run_why(&self.level, &self.tuning.tuning, &self.timeline, self.ticks)?;
        let reached = self.reached();
        if let Some(Err(error @ ReachError::UnknownTarget { word, .. })) = &reached {
            let of_word = |expectation: &&Expectation| matches!(&expectation.subject, Subject::Reach(of) if of == word);
            let place = self.expectations.iter().find(of_word).map_or(&self.place, |expectation| &expectation.place);
            return Err(place.with_message(format!("expect.reach: {error}")));
        }
        Ok(self.judge_told(trace, &log, reached))
    }

    /// What can be reached of all that is expected to be, or not to be; none if nothing is.
    fn reached(&self) -> Option<Reached> {
        let words = self.expectations.iter().filter_map(|expectation| match &expectation.subject {
            Subject::Reach(word) => Some(word.clone()),
            _ => None,
        });
        let settings = ReachSettings { only: words.collect(), ..ReachSettings::default() };
        (!settings.only.is_empty()).then(|| reach(&self.level, &self.tuning, &settings, |_| true))
    }

    /// Holds its expectations against a run that a game made in its own world: see [`Trace::of_reports`]. The level and the
    /// buttons of the trial are not run; what can be reached is looked for in that level.
    ///
    /// ```
    /// # use wumple::{Trace, TrialFile, demo};
    /// # use wumple::advanced::Names;
    /// # let folder = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("demo");
    /// let trial = TrialFile::read(&folder.join("gap.trial.toml"))?;
    /// let (mut world, dab) = trial.level.world(&trial.tuning.tuning)?;
    /// let mut reports = vec![world.report(dab).clone()];
    /// for tick in 1..=trial.ticks {
    ///     world.tick(&[trial.timeline.at(tick)]); // a game's own loop, and whatever else it does
    ///     reports.push(world.report(dab).clone());
    /// }
    /// let outcome = trial.judge(Trace::of_reports(60.0, trial.level.names.clone(), reports));
    /// assert!(outcome.passed(), "{outcome}");
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    ///
    /// # Panics
    ///
    /// If there is no row in it.
    #[must_use]
    pub fn judge(&self, trace: Trace) -> TrialOutcome {
        self.judge_told(trace, &WhyLog::default(), self.reached())
    }

    fn judge_told(&self, trace: Trace, log: &WhyLog, reached: Option<Reached>) -> TrialOutcome {
        assert!(!trace.rows.is_empty(), "a run has its start at least");
        let judge = Judge { trace: &trace, in_air: times_in_air(&trace), reached };
        let check = |expectation: &Expectation| TrialCheck {
            line: expectation.place.line(),
            expected: expectation.place.message().to_owned(),
            failure: judge.failure(expectation).map(|(tick, instead)| {
                let decisions = log.last_lines(tick, DECISIONS_TOLD).to_vec();
                TrialFailure { tick, instead, decisions }
            }),
            place: match expectation.subject {
                Subject::Place(place, within) => Some((place, within)),
                _ => None,
            },
        };
        let checks = self.expectations.iter().map(check).collect();
        let (file, name, ticks) = (self.file.clone(), self.name.clone(), trace.rows.len() as u64 - 1);
        let (level, tuning) = (self.level.clone(), self.tuning.clone());
        TrialOutcome { file, name, ticks, checks, figure: None, figure_error: None, level, tuning, trace }
    }
}

impl TrialOutcome {
    /// Whether every expectation was met.
    #[must_use]
    pub fn passed(&self) -> bool {
        self.failures().next().is_none()
    }

    /// The expectations that were not met.
    pub fn failures(&self) -> impl Iterator<Item = (&TrialCheck, &TrialFailure)> {
        self.checks.iter().filter_map(|check| Some((check, check.failure.as_ref()?)))
    }
}

impl fmt::Display for TrialOutcome {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let (all, failed) = (self.checks.len(), self.failures().count());
        let expectations = if all == 1 { "expectation" } else { "expectations" };
        if failed == 0 {
            return write!(f, "pass  {}: {} ({all} {expectations}, {} ticks)", self.file, self.name, self.ticks);
        }
        write!(f, "FAIL  {}: {} ({failed} of {all} {expectations}, {} ticks)", self.file, self.name, self.ticks)?;
        for (check, failure) in self.failures() {
            write!(f, "\n  {}:{}: expected {}", self.file, check.line, check.expected)?;
            write!(f, "\n    instead: {}", failure.instead)?;
            for line in &failure.decisions {
                let until = if line.last_tick > line.tick { format!(" to {}", line.last_tick) } else { String::new() };
                write!(f, "\n    decided in tick {}{until}: {}", line.tick, line.why)?;
            }
        }
        if let Some(figure) = &self.figure {
            write!(f, "\n  figure: {}", figure.display())?;
        }
        if let Some(error) = &self.figure_error {
            write!(f, "\n  no figure: {error}")?;
        }
        Ok(())
    }
}

/// A run that expectations are held against.
struct Judge<'a> {
    trace: &'a Trace,
    in_air: Vec<TimeInAir>,
    reached: Option<Reached>,
}

type Reached = Result<ReachReport, ReachError>;

/// The tick in which an expectation fails, and what happened instead.
type Failure = (u64, String);

impl Judge<'_> {
    fn failure(&self, expectation: &Expectation) -> Option<Failure> {
        if let Subject::Reach(word) = &expectation.subject {
            return Some((0, self.reach_failure(word, expectation.demand)?));
        }
        let last = self.last().tick;
        let (from, to) = (expectation.from, expectation.to.unwrap_or(last));
        let over = || format!("the run ended in tick {last}: {}", self.row_words(self.last()));
        if from > last && !matches!(expectation.demand, Demand::Never) {
            return Some((last, over()));
        }
        let ticks = from..=to.min(last);
        match (&expectation.subject, expectation.demand) {
            (Subject::Number(number), Demand::Between { least, most, never }) if number.is_of_a_tick() => {
                let holds = |row: &TickReport| is_between(self.number_of(*number, row), least, most);
                let Some(row) = self.rows(ticks).find(|row| holds(row) == never) else {
                    return (to > last && !never).then(|| (last, over()));
                };
                let found = short(self.number_of(*number, row));
                let unit = number.unit();
                let space = if unit.is_empty() { "" } else { " " };
                Some((row.tick, format!("{} is {found}{space}{unit} in tick {}", number.name(), row.tick)))
            }
            (Subject::Number(number), Demand::Between { least, most, .. }) => {
                self.number_of_run(*number, &ticks, least, most)
            }
            (subject, Demand::Between { least, most, .. }) => self.count(subject, &ticks, least, most),
            (subject, Demand::Once) => self.once(subject, &ticks),
            (subject, Demand::Never) => {
                let row = self.rows(ticks).find(|row| self.holds(subject, row))?;
                Some((row.tick, format!("in tick {}: {}", row.tick, self.row_words(row))))
            }
            (subject, Demand::Always) => {
                if let Some(row) = self.rows(ticks).find(|row| !self.holds(subject, row)) {
                    return Some((row.tick, format!("in tick {}: {}", row.tick, self.found_words(subject, row))));
                }
                (to > last).then(|| (last, over()))
            }
        }
    }

    fn last(&self) -> &TickReport {
        &self.trace.rows[self.trace.rows.len() - 1]
    }

    fn rows(&self, ticks: RangeInclusive<u64>) -> impl Iterator<Item = &TickReport> {
        self.trace.rows.iter().filter(move |row| ticks.contains(&row.tick))
    }

    fn holds(&self, subject: &Subject, row: &TickReport) -> bool {
        match subject {
            Subject::Event(word) => self.count_of(row, word) > 0,
            Subject::State(state) => row.state == *state,
            Subject::Support(support) => row.support == *support,
            Subject::Place(place, within) => row.feet.distance(*place) <= *within,
            Subject::Number(_) | Subject::Reach(_) => false,
        }
    }

    /// Why what is to be reached, or is not to be, is not as expected. What was not found is neither.
    fn reach_failure(&self, word: &str, demand: Demand) -> Option<String> {
        let report = match self.reached.as_ref()? {
            Ok(report) => report,
            Err(error) => return Some(error.to_string()),
        };
        let is_reached = |of: &&Reach| matches!(of.answer, ReachAnswer::Reached { .. });
        let is_out_of_reach = |of: &&Reach| matches!(of.answer, ReachAnswer::OutOfReach { .. });
        let mut own = report.targets.iter().filter(|of| is_of_word(&of.target, word));
        let wrong = match demand {
            Demand::Never => own.find(|of| !is_out_of_reach(of)),
            Demand::Always => own.find(|of| !is_reached(of)),
            _ if own.clone().any(|of| is_reached(&of)) => None,
            _ => own.next(),
        }?;
        Some(match &wrong.answer {
            ReachAnswer::Reached { held, ticks, .. } => {
                let presses = held.presses();
                format!("{} is reached in tick {ticks}, with {presses} presses", wrong.target)
            }
            ReachAnswer::OutOfReach { why } => format!("{} is out of reach: {why}", wrong.target),
            ReachAnswer::NotFound => {
                format!("no way to {} was found in {} ticks that were tried", wrong.target, report.ticks_tried)
            }
        })
    }

    /// How often an event happened in a tick.
    fn count_of(&self, row: &TickReport, word: &str) -> usize {
        self.trace.event_words(row.tick as usize).filter(|words| is_of_word(words, word)).count()
    }

    /// In one tick of these at least.
    fn once(&self, subject: &Subject, ticks: &RangeInclusive<u64>) -> Option<Failure> {
        if self.rows(ticks.clone()).any(|row| self.holds(subject, row)) {
            return None;
        }
        let row = match subject {
            // The tick that came nearest.
            Subject::Place(place, _) => {
                let nearer =
                    |a: &&TickReport, b: &&TickReport| a.feet.distance(*place).total_cmp(&b.feet.distance(*place));
                self.rows(ticks.clone()).min_by(nearer)
            }
            _ => self.rows(ticks.clone()).last(),
        };
        let row = row.unwrap_or(self.last());
        let mut instead = format!("in tick {}: {}", row.tick, self.found_words(subject, row));
        let elsewhere: Vec<String> =
            self.trace.rows.iter().filter(|row| self.holds(subject, row)).map(|row| row.tick.to_string()).collect();
        instead += &match (subject, &elsewhere[..]) {
            (Subject::Place(..), []) => String::new(),
            (_, []) => "; it is so in no tick of the run".to_owned(),
            (_, [only]) => format!("; it is so in tick {only}"),
            (_, [first, .., last]) => format!("; it is so in {} ticks from {first} to {last}", elsewhere.len()),
        };
        Some((row.tick, instead))
    }

    /// How often, or for how long.
    fn count(
        &self,
        subject: &Subject,
        ticks: &RangeInclusive<u64>,
        least: Option<f64>,
        most: Option<f64>,
    ) -> Option<Failure> {
        let count = |row: &TickReport| match subject {
            Subject::Event(word) => self.count_of(row, word),
            _ => usize::from(self.holds(subject, row)),
        };
        let found: Vec<&TickReport> = self.rows(ticks.clone()).filter(|row| count(row) > 0).collect();
        let total: usize = found.iter().map(|row| count(row)).sum();
        let (value, words) = match subject {
            Subject::Event(_) => (total as f64, format!("{total} {}", if total == 1 { "time" } else { "times" })),
            _ => (total as f64 / self.trace.rate, format!("for {} s", short(total as f64 / self.trace.rate))),
        };
        if is_between(value, least, most) {
            return None;
        }
        let tick = found.last().map_or(*ticks.end(), |row| row.tick);
        let told = found.iter().take(8).map(|row| row.tick.to_string()).collect::<Vec<_>>().join(", ");
        let when = match found.len() {
            0 => String::new(),
            1..=8 => format!(", in ticks {told}"),
            _ => format!(", in ticks {told}, ..."),
        };
        Some((tick, format!("{words}{when}")))
    }

    fn number_of(&self, number: Number, row: &TickReport) -> f64 {
        // A game's own trace may have no round; then no number of one is as expected.
        let of_round = |number: fn(&RoundRow) -> Option<u32>| {
            let round = self.trace.rounds.get(row.tick as usize);
            round.and_then(number).map_or(f64::NAN, f64::from)
        };
        match number {
            Number::Attempt => of_round(|round| Some(round.attempt)),
            Number::Health => of_round(|round| round.health),
            Number::Lives => of_round(|round| round.lives),
            Number::Picked => of_round(|round| Some(round.picked)),
            Number::X => row.feet.x,
            Number::Y => row.feet.y,
            Number::Height => self.trace.rows[0].feet.y - row.feet.y,
            Number::SidewaysSpeed => row.velocity.x,
            Number::UpwardSpeed => -row.velocity.y,
            Number::Apex | Number::Reach | Number::AirTime | Number::LandingSpeed | Number::GoalTime => f64::NAN,
        }
    }

    /// A number that a run has one of: the greatest, where there are several.
    fn number_of_run(
        &self,
        number: Number,
        ticks: &RangeInclusive<u64>,
        least: Option<f64>,
        most: Option<f64>,
    ) -> Option<Failure> {
        let in_air = self.in_air.iter().filter(|air| ticks.contains(&air.first_tick));
        let rate = self.trace.rate;
        let greatest = |value: fn(&TimeInAir) -> f64| {
            in_air.clone().map(|air| (value(air), air.end_tick)).max_by(|a, b| a.0.total_cmp(&b.0))
        };
        let found = match number {
            Number::Apex => greatest(|air| air.apex_px),
            Number::Reach => greatest(|air| air.reach_px),
            Number::AirTime => greatest(|air| air.ticks() as f64).map(|(ticks, tick)| (ticks / rate, tick)),
            Number::LandingSpeed => self.rows(ticks.clone()).flat_map(landings).max_by(|a, b| a.0.total_cmp(&b.0)),
            _ => {
                let row = self.rows(ticks.clone()).find(|row| self.is_at_goal(row));
                row.map(|row| (row.tick as f64 / rate, row.tick))
            }
        };
        let Some((value, tick)) = found else {
            let none = match number {
                Number::LandingSpeed => "nothing is landed on",
                Number::GoalTime => "the goal is not reached",
                _ => "the character is never in the air",
            };
            let tick = *ticks.end();
            return Some((
                tick,
                format!("{none}; in tick {tick}: {}", self.row_words(&self.trace.rows[tick as usize])),
            ));
        };
        let words = format!("{} is {} {} (tick {tick})", number.name(), short(value), number.unit());
        (!is_between(value, least, most)).then_some((tick, words))
    }

    /// Whether the goal is reached in a tick: where there is a round, an open one.
    fn is_at_goal(&self, row: &TickReport) -> bool {
        if self.trace.rounds.is_empty() {
            return row.events.iter().any(|event| event.enters(ZoneKind::Goal));
        }
        self.trace.round_events(row.tick as usize).contains(&RoundEvent::Finished)
    }

    /// What was found where something else was expected.
    fn found_words(&self, subject: &Subject, row: &TickReport) -> String {
        match subject {
            Subject::Place(place, _) => {
                let away = row.feet.distance(*place);
                format!("{} px away; {}", short(away), self.row_words(row))
            }
            _ => self.row_words(row),
        }
    }

    fn row_words(&self, row: &TickReport) -> String {
        let names = &self.trace.names;
        let events: Vec<String> = self.trace.event_words(row.tick as usize).collect();
        let events = if events.is_empty() { "no event".to_owned() } else { events.join(", ") };
        let support = names.support(row.support);
        let on = if support == "none" { "in the air".to_owned() } else { format!("on {support}") };
        format!("{} {on} at ({}, {}) px, {events}", row.state, short(row.feet.x), short(row.feet.y))
    }
}

fn landings(row: &TickReport) -> impl Iterator<Item = (f64, u64)> {
    row.events.iter().filter_map(|event| match event {
        Event::Landed { speed } => Some((*speed, row.tick)),
        _ => None,
    })
}

/// Whether a value is within the bounds; what is off by less than a millionth is.
fn is_between(value: f64, least: Option<f64>, most: Option<f64>) -> bool {
    let slack = 1e-6;
    least.is_none_or(|least| value >= least - slack) && most.is_none_or(|most| value <= most + slack)
}
