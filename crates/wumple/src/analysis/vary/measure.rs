//! What many tunings are measured by.

use serde::Serialize;
use wumple_core::Tuning;

use super::VaryError;
use crate::analysis::arcs::{ArcKind, JumpArc, arcs};
use crate::analysis::reach::{ReachAnswer, ReachSettings, reach};
use crate::analysis::run_number::number_of_run;
use crate::files::{Level, Number, Timeline, TrialFile, TuningFile, listed, nearest};
use crate::units::Kind;

/// What a tuning is measured by.
#[derive(Clone, Debug)]
#[non_exhaustive]
pub enum Measure<'a> {
    /// A number of a jump, as `arcs` measures it: see [`Measure::arc`].
    Arc(ArcMeasure),
    /// A number of a run: see [`Measure::run`].
    Run(RunMeasure<'a>),
    /// The share of a trial's expectations that are met, from 0 to 1. The trial's own tuning is not used.
    Trial(&'a TrialFile),
    /// Whether something is reached, 1, or out of reach, 0; none if no way is found: see [`Measure::reach`].
    Reach(ReachMeasure<'a>),
}

/// Something that is to be reached.
#[derive(Clone, Debug)]
pub struct ReachMeasure<'a> {
    level: &'a Level,
    settings: ReachSettings,
}

/// A number of a jump.
#[derive(Clone, Copy, Debug)]
pub struct ArcMeasure {
    kind: ArcKind,
    number: &'static ArcNumber,
}

/// A number of a run of these buttons.
#[derive(Clone, Debug)]
pub struct RunMeasure<'a> {
    level: &'a Level,
    /// The level without its zones, where nothing that is asked for follows from them: no tick needs to look for them.
    without_zones: Option<Box<Level>>,
    timeline: &'a Timeline,
    ticks: u64,
    number: Number,
}

/// A number that every arc has, its kind, and how it is got.
type ArcNumber = (&'static str, Kind, fn(&JumpArc) -> f64);

const ARC_NUMBERS: [ArcNumber; 7] = [
    ("apex_height", Kind::Length, |arc| arc.apex_height_px),
    ("apex_time", Kind::Time, |arc| arc.apex_time_s),
    ("air_time", Kind::Time, |arc| arc.air_time_s),
    ("reach", Kind::Length, |arc| arc.reach_px),
    ("take_off_speed", Kind::Speed, |arc| arc.take_off_speed_px_s),
    ("landing_speed", Kind::Speed, |arc| arc.landing_speed_px_s),
    ("top_quarter_share", Kind::Number, |arc| arc.top_quarter_share),
];

const ARC_KINDS: [ArcKind; 6] =
    [ArcKind::Tap, ArcKind::Full, ArcKind::Running, ArcKind::Air, ArcKind::Ledge, ArcKind::Wall];

/// Those that end where they began.
const STRAIGHT_UP: [ArcKind; 3] = [ArcKind::Tap, ArcKind::Full, ArcKind::Air];

/// What came of one tuning.
#[derive(Clone, Debug, Default, PartialEq, Serialize)]
pub(super) struct Measured {
    /// In px and seconds; none if there is no such number.
    pub(super) value: Option<f64>,
    /// Whether it passes by itself: a trial, something that is to be reached.
    pub(super) passes: Option<bool>,
}

impl<'a> Measure<'a> {
    /// A number of a jump by its words, `"full:apex_height"`: which arc, and which of its numbers.
    ///
    /// # Errors
    ///
    /// [`VaryError::Measure`] if there is no such number, or if it is how far a jump goes that goes straight up.
    pub fn arc(words: &str) -> Result<Measure<'a>, VaryError> {
        if STRAIGHT_UP.iter().any(|kind| format!("{}:reach", kind.name()) == words) {
            let remedy = "it goes straight up; \"running:reach\" is how far one on the run goes".to_owned();
            return Err(VaryError::Measure { words: words.to_owned(), remedy });
        }
        let all = || ARC_KINDS.iter().flat_map(|kind| ARC_NUMBERS.iter().map(move |number| (kind, number)));
        let found = all().find(|(kind, number)| format!("{}:{}", kind.name(), number.0) == words);
        found.map(|(kind, number)| Measure::Arc(ArcMeasure { kind: *kind, number })).ok_or_else(|| {
            let known: Vec<String> = all().map(|(kind, number)| format!("{}:{}", kind.name(), number.0)).collect();
            let numbers = || ARC_NUMBERS.iter().map(|number| number.0);
            let remedy = nearest(words, known.iter().map(String::as_str)).map_or_else(
                || format!("it is one of {}, and of {}", listed(ARC_KINDS.map(ArcKind::name)), listed(numbers())),
                |near| format!("did you mean \"{near}\"?"),
            );
            VaryError::Measure { words: words.to_owned(), remedy }
        })
    }

    /// A number of a run by its word, one of those that [trials](TrialFile) have, `"apex"`, `"goal_time"`; of those that every tick has, `"x"`, the
    /// one of the last.
    ///
    /// # Errors
    ///
    /// [`VaryError::Measure`] if there is no such number.
    pub fn run(words: &str, level: &'a Level, timeline: &'a Timeline, ticks: u64) -> Result<Measure<'a>, VaryError> {
        match Number::find(words) {
            Some(number) => {
                let asks_for_zones = level.round.is_some() || number == Number::GoalTime;
                let without_zones = (!asks_for_zones).then(|| {
                    let mut without = Box::new(level.clone());
                    without.grid = level.grid.without_zones();
                    without
                });
                Ok(Measure::Run(RunMeasure { level, without_zones, timeline, ticks, number }))
            }
            None => {
                let remedy = nearest(words, Number::names()).map_or_else(
                    || format!("it is one of {}", listed(Number::names())),
                    |near| format!("did you mean \"{near}\"?"),
                );
                Err(VaryError::Measure { words: words.to_owned(), remedy })
            }
        }
    }

    /// Whether something is reached, in the words of [`Reach::target`](crate::analysis::Reach::target), `"goal"`: of several of them one is
    /// enough. No more ticks than these are tried for each tuning.
    ///
    /// # Errors
    ///
    /// [`VaryError::Reach`] if there is no such thing in the level, or the tuning, as it is, does not fit at its spawn.
    pub fn reach(
        level: &'a Level,
        tuning: &TuningFile,
        target: &str,
        most_ticks: u64,
    ) -> Result<Measure<'a>, VaryError> {
        let only = vec![target.to_owned()];
        let unsought = ReachSettings { only, most_ticks: 0, ..ReachSettings::default() };
        reach(level, tuning, &unsought, |_| false)?;
        Ok(Measure::Reach(ReachMeasure { level, settings: ReachSettings { most_ticks, ..unsought } }))
    }

    /// In words.
    #[must_use]
    pub fn words(&self) -> String {
        match self {
            Measure::Arc(ArcMeasure { kind, number }) => format!("{}:{}", kind.name(), number.0),
            Measure::Run(run) => run.number.name().to_owned(),
            Measure::Trial(_) => "expectations met".to_owned(),
            Measure::Reach(of) => format!("{} reached", of.settings.only[0]),
        }
    }

    /// What kind of number it is.
    #[must_use]
    pub fn kind(&self) -> Kind {
        match self {
            Measure::Arc(arc) => arc.number.1,
            Measure::Run(run) => run.number.kind(),
            Measure::Trial(_) | Measure::Reach(_) => Kind::Number,
        }
    }

    /// Whether it goes by ticks of a rate that is fixed before.
    pub(super) fn has_fixed_rate(&self) -> bool {
        matches!(self, Measure::Run(_) | Measure::Trial(_))
    }

    /// What comes of a tuning file with these numbers instead of its own.
    pub(super) fn of(&self, file: &TuningFile, numbers: &Tuning) -> Measured {
        let with_numbers = || {
            let mut with = file.clone();
            with.tuning = numbers.clone();
            with
        };
        match self {
            Measure::Arc(ArcMeasure { kind, number }) => {
                let report = arcs([&with_numbers()]);
                let value = report.tunings[0].arc(*kind).map(|arc| (number.2)(arc));
                Measured { value, passes: None }
            }
            Measure::Run(RunMeasure { level, without_zones, timeline, ticks, number }) => {
                let level = without_zones.as_deref().unwrap_or(level);
                let value = number_of_run(level, numbers, (timeline, *ticks), *number);
                Measured { value, passes: None }
            }
            Measure::Trial(trial) => {
                let mut trial = (*trial).clone();
                trial.tuning = with_numbers();
                let Ok(outcome) = trial.run() else { return Measured::default() };
                let (all, failed) = (outcome.checks.len(), outcome.failures().count());
                Measured { value: Some((all - failed) as f64 / all as f64), passes: Some(failed == 0) }
            }
            Measure::Reach(ReachMeasure { level, settings }) => {
                let Ok(report) = reach(level, &with_numbers(), settings, |_| true) else { return Measured::default() };
                let is_reached = |answer: &ReachAnswer| matches!(answer, ReachAnswer::Reached { .. });
                let answers = || report.targets.iter().map(|of| &of.answer);
                if answers().any(is_reached) {
                    return Measured { value: Some(1.0), passes: Some(true) };
                }
                let is_certain = !answers().any(|answer| *answer == ReachAnswer::NotFound);
                Measured { value: is_certain.then_some(0.0), passes: is_certain.then_some(false) }
            }
        }
    }
}
