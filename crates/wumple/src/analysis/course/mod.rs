//! Courses: levels of steps that a tuning can climb, with the buttons that do it.

mod text;

use std::fmt;

use rand_chacha::ChaCha8Rng;
use rand_chacha::rand_core::{RngCore, SeedableRng};
use serde::Serialize;
use wumple_core::{DVec2, Event, Support, TickReport, Tuning};

use super::reach::{ReachAnswer, ReachSettings, reach};
use super::tuning_number::TuningNumber;
use crate::files::{Level, Timeline, TuningFile};
use crate::trace::run;
use crate::units::{Kind, QuantityRange, short};
use text::{Placed, of_steps};

/// No course has more steps.
const MOST_STEPS: usize = 500;
/// A step that is not come to is drawn anew so often, before it is said that there is none.
const DRAWS: u32 = 120;
/// So many ticks are tried for one step, and for each step of the whole course.
const TICKS_A_STEP: u64 = 60_000;

/// What is asked of a course.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct CourseSettings {
    /// How many steps, from 1 to 500.
    pub steps: usize,
    /// How much higher each is than the one before.
    pub rise: QuantityRange,
    /// How far its middle is to the right of the middle of the one before; to the left where negative.
    pub apart: QuantityRange,
    /// With what share of its jump's height and of its run's speed each step must be come to, above 0 and at most 1.
    pub share: f64,
    /// How often each kind of step is drawn, in the order of [`StepKind::ALL`].
    pub weights: [u32; 4],
    /// Says which of all such courses it is.
    pub seed: u64,
}

impl CourseSettings {
    /// Steps between these, without a margin, as shelves alone, of seed 1.
    #[must_use]
    pub fn new(steps: usize, rise: QuantityRange, apart: QuantityRange) -> CourseSettings {
        CourseSettings { steps, rise, apart, share: 1.0, weights: [1, 0, 0, 0], seed: 1 }
    }
}

/// What a step is.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, Serialize)]
#[serde(rename_all = "kebab-case")]
#[non_exhaustive]
pub enum StepKind {
    /// It stays.
    Shelf,
    /// It crumbles under who stands on it, and comes back.
    Slab,
    /// It goes to and fro.
    Platform,
    /// It throws up whoever comes onto it.
    Bellows,
}

impl StepKind {
    /// Every kind.
    pub const ALL: [StepKind; 4] = [StepKind::Shelf, StepKind::Slab, StepKind::Platform, StepKind::Bellows];

    /// Its word.
    #[must_use]
    pub fn word(self) -> &'static str {
        match self {
            StepKind::Shelf => "shelf",
            StepKind::Slab => "slab",
            StepKind::Platform => "platform",
            StepKind::Bellows => "bellows",
        }
    }
}

impl fmt::Display for StepKind {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(self.word())
    }
}

/// A step of a course.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
#[non_exhaustive]
pub struct CourseStep {
    /// What it is.
    pub kind: StepKind,
    /// How much higher than the one before it is, px.
    pub rise_px: f64,
    /// How far to the right its middle is, px.
    pub apart_px: f64,
    /// How many were drawn until one was come to.
    pub draws: u32,
    /// The tick of the run in which it is come to; none if the way leads past it.
    pub tick: Option<u64>,
}

/// A course: a level, the buttons that climb it, and what was drawn.
#[derive(Clone, Debug)]
#[non_exhaustive]
pub struct Course {
    /// The level.
    pub level: Level,
    /// The same as a file.
    pub level_text: String,
    /// What is held to climb it.
    pub held: Timeline,
    /// In which tick of that the goal is reached.
    pub ticks: u64,
    /// Its steps, from below.
    pub steps: Vec<CourseStep>,
    /// The tuning's rate, Hz.
    pub rate_hz: f64,
}

impl Course {
    /// A trial that passes, as a file beside the others: `tuning`, `level` and `buttons` are what it calls them.
    #[must_use]
    pub fn trial_text(&self, [level, tuning, buttons]: [&str; 3]) -> String {
        format!(
            "# The buttons that were found climb it; and there is a way whatever is pressed.\nname = \"{}\"\nlevel = \"{level}\"\ntuning = \"{tuning}\"\n\
             buttons = \"{buttons}\"\nticks = {}\n\n[[expect]]\nevent = \"entered:goal\"\n\n[[expect]]\nsupport = \"platform:{}\"\nat = {}\n\n[[expect]]\nreach = \"goal\"\n",
            self.level.name,
            self.ticks,
            self.level.names.platforms[self.steps.len() - 1],
            self.ticks
        )
    }

    /// The buttons as a file.
    #[must_use]
    pub fn buttons_text(&self) -> String {
        self.held.to_text(self.rate_hz)
    }
}

/// Why there is no course.
#[derive(Clone, Debug, PartialEq, thiserror::Error)]
#[non_exhaustive]
pub enum CourseError {
    /// A setting is wrong, in words.
    #[error("{0}")]
    Setting(String),
    /// No step in the ranges is come to.
    #[error(
        "step {step}: of {draws} steps drawn from the ranges none is come to with {share} of what {tuning} can; {nearest}"
    )]
    NoStep {
        /// Which, from 1.
        step: usize,
        /// How many were drawn.
        draws: u32,
        /// The share.
        share: f64,
        /// The tuning's name.
        tuning: String,
        /// The nearest range that works.
        nearest: String,
    },
    /// Each step is come to from the one before, and no way over all of them was found.
    #[error(
        "each step is come to from the one before, but no way over all {steps} was found; take fewer, or another seed"
    )]
    NoWay {
        /// How many.
        steps: usize,
    },
    /// It was stopped before there was a step to end on, or while the way over all of them was looked for.
    #[error("it was stopped after {steps} steps; there is no course yet")]
    Stopped {
        /// How many there were.
        steps: usize,
    },
}

/// Draws a course. `goes_on` is told how many steps there are, now and then; where it says no, the course has those that there are, up to
/// the last that is a shelf.
///
/// The same settings and the same tuning give the same course, on every machine.
///
/// # Errors
///
/// See [`CourseError`].
pub fn course(
    tuning: &TuningFile,
    settings: &CourseSettings,
    mut goes_on: impl FnMut(u64) -> bool,
) -> Result<Course, CourseError> {
    course_told(tuning, settings, &mut goes_on)
}

fn course_told(
    tuning: &TuningFile,
    settings: &CourseSettings,
    goes_on: &mut dyn FnMut(u64) -> bool,
) -> Result<Course, CourseError> {
    let mut maker = Maker::new(tuning, settings)?;
    for done in 0..settings.steps {
        if !goes_on(done as u64) {
            // The way over these is looked for all the same.
            return maker.ended_on_a_shelf()?.finish(|_| true);
        }
        maker.add_step()?;
    }
    let steps = maker.placed.len();
    maker.finish(|_| goes_on(steps as u64))
}

struct Maker<'a> {
    tuning: &'a TuningFile,
    settings: &'a CourseSettings,
    /// Who must come to each step: with a share of the jump's height and of the run's speed.
    weaker: TuningFile,
    random: ChaCha8Rng,
    /// From and to, px.
    rise: (f64, f64),
    apart: (f64, f64),
    placed: Vec<Placed>,
}

impl<'a> Maker<'a> {
    fn new(tuning: &'a TuningFile, settings: &'a CourseSettings) -> Result<Maker<'a>, CourseError> {
        let wrong = |why: &str| Err(CourseError::Setting(why.to_owned()));
        if !(1..=MOST_STEPS).contains(&settings.steps) {
            return wrong("a course has from 1 to 500 steps");
        }
        if !(settings.share > 0.0 && settings.share <= 1.0) {
            return wrong("the share is above 0 and at most 1, such as 0.85");
        }
        if settings.weights.iter().all(|weight| *weight == 0) {
            return wrong("no kind of step is left; give one a weight above 0");
        }
        if tuning.tuning.four_way().is_some() {
            return wrong("who is seen from above climbs nothing");
        }
        let ends = |range: &QuantityRange, what: &str| {
            let ends = [&range.from, &range.to];
            if ends.iter().any(|end| end.kind().is_some_and(|kind| kind != Kind::Length)) {
                return Err(CourseError::Setting(format!("the {what} is a length, such as \"1 tiles..3 tiles\"")));
            }
            let [from, to] = ends.map(|end| end.in_px_and_seconds(&tuning.scale));
            let is_sensible = from <= to && from.abs().max(to.abs()) <= 64.0 * tuning.scale.tile;
            let why =
                || CourseError::Setting(format!("the {what} goes from its least to its greatest, 64 tiles at most"));
            is_sensible.then_some((from, to)).ok_or_else(why)
        };
        let rise = ends(&settings.rise, "rise")?;
        if rise.0 < 0.0 {
            return wrong("the rise is not below 0: a course goes up");
        }
        let (weaker, random) = (weaker(tuning, settings.share), ChaCha8Rng::seed_from_u64(settings.seed));
        let apart = ends(&settings.apart, "apart")?;
        Ok(Maker { tuning, settings, weaker, random, rise, apart, placed: Vec::new() })
    }

    /// A number up to `most`, the same on every machine.
    fn up_to(&mut self, most: u64) -> u64 {
        ((u128::from(self.random.next_u64()) * u128::from(most + 1)) >> 64) as u64
    }

    /// A whole number of px in a range.
    fn within(&mut self, (from, to): (f64, f64)) -> f64 {
        let (from, to) = (from.ceil(), to.floor().max(from.ceil()));
        from + self.up_to((to - from) as u64) as f64
    }

    fn kind(&mut self) -> StepKind {
        let all: u32 = self.settings.weights.iter().sum();
        let mut drawn = self.up_to(u64::from(all) - 1) as u32;
        for (kind, weight) in StepKind::ALL.into_iter().zip(self.settings.weights) {
            if drawn < weight {
                return kind;
            }
            drawn -= weight;
        }
        StepKind::Shelf
    }

    /// The middle of what the next step is reckoned from, and its height above the floor.
    fn before(&self) -> (f64, f64) {
        self.placed.last().map_or((0.0, 0.0), |step| (step.middle, step.height))
    }

    fn add_step(&mut self) -> Result<(), CourseError> {
        let (middle, height) = self.before();
        for draws in 1..=DRAWS {
            let (rise, apart) = (self.within(self.rise), self.within(self.apart));
            let (drawn, wide) = (self.kind(), 2.0 + self.up_to(2) as f64);
            // The last is one to stand on.
            let is_last = self.placed.len() + 1 == self.settings.steps;
            let kind = if is_last { StepKind::Shelf } else { drawn };
            let step = Placed {
                kind,
                middle: middle + apart,
                height: height + rise,
                width: wide * self.tuning.scale.tile,
                rise,
                apart,
                draws,
            };
            if self.is_come_to(&step) {
                self.placed.push(step);
                return Ok(());
            }
        }
        Err(self.no_step())
    }

    /// The same without the last steps that are none to stand on.
    fn ended_on_a_shelf(mut self) -> Result<Maker<'a>, CourseError> {
        let steps = self.placed.len();
        let last = self.placed.iter().rposition(|step| step.kind == StepKind::Shelf);
        self.placed.truncate(last.ok_or(CourseError::Stopped { steps })? + 1);
        Ok(self)
    }

    /// Whether the weaker one comes from the step before to this, with nothing else there.
    fn is_come_to(&self, step: &Placed) -> bool {
        let two: Vec<Placed> = self.placed.last().copied().into_iter().chain([*step]).collect();
        let made = of_steps(&two, "step", &self.tuning.scale);
        let Ok(level) = Level::parse("step", &made.text) else { return false };
        let settings = ReachSettings {
            only: vec![format!("platform:{}", made.last)],
            most_ticks: TICKS_A_STEP,
            // On the one before; it falls the last px onto what throws it up.
            from: (two.len() > 1).then(|| made.on_first + DVec2::new(0.0, -1.0)),
            ..ReachSettings::default()
        };
        let report = reach(&level, &self.weaker, &settings, |_| true);
        report.is_ok_and(|report| report.targets.iter().all(|of| matches!(of.answer, ReachAnswer::Reached { .. })))
    }

    /// Nothing was come to: what the nearest would be.
    fn no_step(&self) -> CourseError {
        let (middle, height) = self.before();
        let tile = self.tuning.scale.tile;
        let does = |rise: f64, apart: f64| {
            let placed = Placed {
                kind: StepKind::Shelf,
                middle: middle + apart,
                height: height + rise,
                width: 3.0 * tile,
                rise,
                apart,
                draws: 0,
            };
            self.is_come_to(&placed)
        };
        let tiles = |px: f64| short((px / tile * 100.0).round() / 100.0);
        // Lower, with the least that it may be apart; then nearer.
        let least_apart = if self.apart.0 <= 0.0 && self.apart.1 >= 0.0 {
            0.0
        } else if self.apart.0.abs() < self.apart.1.abs() {
            self.apart.0
        } else {
            self.apart.1
        };
        let lower = (0..=(self.rise.0 / (tile * 0.25)) as u32).map(|step| self.rise.0 - f64::from(step) * tile * 0.25);
        let lower = lower.into_iter().find(|rise| does(*rise, least_apart));
        let nearest = match lower {
            Some(rise) if rise < self.rise.0 => {
                format!("the nearest that is rises {} tiles, {} tiles apart", tiles(rise), tiles(least_apart))
            }
            Some(rise) => format!(
                "one that rises {} tiles, {} tiles apart, is: narrow the ranges",
                tiles(rise),
                tiles(least_apart)
            ),
            None => {
                let nearer = (0..=64).map(|step| least_apart * (1.0 - f64::from(step) / 64.0));
                let nearer = nearer.into_iter().find(|apart| does(0.0, *apart));
                nearer.map_or_else(
                    || "not even one beside it is".to_owned(),
                    |apart| format!("the nearest that is lies {} tiles apart, at one height", tiles(apart)),
                )
            }
        };
        CourseError::NoStep {
            step: self.placed.len() + 1,
            draws: DRAWS,
            share: self.settings.share,
            tuning: self.tuning.name.clone(),
            nearest,
        }
    }

    /// The whole level, and the way through it.
    fn finish(self, mut goes_on: impl FnMut(u64) -> bool) -> Result<Course, CourseError> {
        let steps = self.placed.len();
        let name = format!("Course {} of {}", self.settings.seed, self.tuning.name);
        let made = of_steps(&self.placed, &name, &self.tuning.scale);
        let level = Level::parse("course.level.toml", &made.text)
            .map_err(|errors| CourseError::Setting(format!("the course is no level: {errors}")))?;
        let settings = ReachSettings {
            only: vec![format!("platform:{}", made.last)],
            most_ticks: TICKS_A_STEP * 10 * steps as u64,
            shortens: true,
            ..ReachSettings::default()
        };
        let mut is_stopped = false;
        let report = reach(&level, self.tuning, &settings, |ticks| {
            is_stopped |= !goes_on(ticks);
            !is_stopped
        });
        let report = report.map_err(|error| CourseError::Setting(error.to_string()))?;
        let Some(ReachAnswer::Reached { held, ticks, .. }) = report.targets.into_iter().next().map(|of| of.answer)
        else {
            return Err(if is_stopped { CourseError::Stopped { steps } } else { CourseError::NoWay { steps } });
        };
        let trace =
            run(&level, &self.tuning.tuning, &held, ticks).map_err(|error| CourseError::Setting(error.to_string()))?;
        let is_on = |row: &TickReport, step: usize| {
            let support = Support::Platform(step);
            row.support == support || row.events.contains(&Event::Bounced(support))
        };
        let step = |(number, placed): (usize, &Placed)| CourseStep {
            kind: placed.kind,
            rise_px: placed.rise,
            apart_px: placed.apart,
            draws: placed.draws,
            tick: trace.rows.iter().find(|row| is_on(row, number)).map(|row| row.tick),
        };
        let steps = self.placed.iter().enumerate().map(step).collect();
        Ok(Course { level, level_text: made.text, held, ticks, steps, rate_hz: self.tuning.tuning.rate() })
    }
}

/// The same with a share of its jump's height and of its run's speed.
fn weaker(tuning: &TuningFile, share: f64) -> TuningFile {
    let mut numbers = tuning.tuning.numbers().clone();
    // The height of a jump goes with the square of its speed.
    for (key, share) in [
        ("jump.height", share),
        ("jump.speed", share.sqrt()),
        ("jump.air_jump_height", share),
        ("run.top_speed", share),
    ] {
        let number = TuningNumber::find(key, &numbers).ok();
        if let Some((number, (value, kind))) = number.and_then(|number| Some((number, number.get(&numbers)?))) {
            number.set(&mut numbers, value * share, kind);
        }
    }
    let mut weaker = tuning.clone();
    if let Ok(checked) = Tuning::check(&numbers) {
        weaker.tuning = checked;
    }
    weaker
}
