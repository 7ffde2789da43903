//! Many tunings: a number or two over a range, and what comes of each.

mod measure;
mod over;

use std::sync::atomic::{AtomicU64, Ordering};

use rayon::prelude::*;
use serde::Serialize;
use wumple_core::Tuning;

use super::reach::ReachError;
use super::tuning_number::KeyError;
use crate::files::TuningFile;
use crate::units::{Kind, Quantity};
use measure::Measured;
pub use measure::{ArcMeasure, Measure, ReachMeasure, RunMeasure};
use over::Axis;
pub use over::{Over, VaryAxis};

/// No more tunings are measured at once.
const MOST: usize = 1_000_000;

/// What came of many tunings.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[non_exhaustive]
pub struct VaryReport {
    /// The tuning's name.
    pub tuning: String,
    /// What each was measured by, in words.
    pub measure: String,
    /// The unit of what was measured: tiles, s, tiles/s, or empty.
    pub unit: &'static str,
    /// The numbers that were varied: one or two.
    pub axes: Vec<VaryAxis>,
    /// What the tuning as it is comes to; none if there is no such number.
    pub now: Option<f64>,
    /// One for each tuning: the values of the first axis one after another, and for each of them those of the second.
    pub cells: Vec<VaryCell>,
}

/// What came of one tuning.
#[derive(Clone, Debug, Default, PartialEq, Serialize)]
#[non_exhaustive]
pub struct VaryCell {
    /// Its values, one for each axis, in the units of the axes.
    pub at: Vec<f64>,
    /// What was measured; none if there is no such number, if it cannot be (then [`VaryCell::why`] says so), or was not come to.
    pub value: Option<f64>,
    /// Whether it passes: within the bounds; a trial, with all expectations met; something to be reached, reached. None where nothing is
    /// asked, or it is not known.
    pub passes: Option<bool>,
    /// Why there is no such tuning: a number out of its bounds.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub why: Option<String>,
}

/// What must be said of the numbers that are measured, to pass.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct PassBounds {
    /// No less than this.
    pub at_least: Option<Quantity>,
    /// No more than this.
    pub at_most: Option<Quantity>,
}

/// Why nothing can be varied.
#[derive(Clone, Debug, PartialEq, thiserror::Error)]
#[non_exhaustive]
pub enum VaryError {
    /// What is varied is no number of the tuning.
    #[error(transparent)]
    Key(#[from] KeyError),
    /// A range is wrong.
    #[error("\"{text}\" is no range, such as \"jump.height = 2..5 tiles, 31\": {why}")]
    Range {
        /// As it was given.
        text: String,
        /// Why not.
        why: String,
    },
    /// There is no such number to measure.
    #[error("nothing is measured as \"{words}\"; {remedy}")]
    Measure {
        /// What was asked for.
        words: String,
        /// What may have been meant.
        remedy: String,
    },
    /// What is to be reached is not there.
    #[error(transparent)]
    Reach(#[from] ReachError),
    /// Nothing is varied, or more than two numbers, or one twice.
    #[error("one number or two of a tuning can be varied, each once; there are {found}")]
    Axes {
        /// How many were given.
        found: usize,
    },
    /// Too many tunings.
    #[error("{found} tunings are more than {MOST}; take fewer steps")]
    TooMany {
        /// How many.
        found: usize,
    },
    /// Buttons and trials are in ticks of a rate.
    #[error("tick.rate cannot be varied where buttons or a trial are: their ticks would be others")]
    Rate,
    /// A bound is of another kind than what is measured.
    #[error("what is measured is {expected}; a bound of it is one, too, such as {example}")]
    Bound {
        /// The kind of what is measured.
        expected: &'static str,
        /// A quantity of it.
        example: &'static str,
    },
}

/// Measures a tuning with each value of one number, or each pair of two, on all cores.
///
/// `goes_on` is told how many are done, now and then, from several threads; where it says no, those that are left have no value.
///
/// ```
/// use wumple::analysis::{PassBounds, Measure, Over, vary};
/// use wumple::{TuningFile, demo};
///
/// let dab = TuningFile::parse("dab", demo::DAB)?;
/// let over = [Over::parse("jump.height = 2..4 tiles, 5")?];
/// let report = vary(&dab, &over, &Measure::arc("full:apex_height")?, &PassBounds::default(), |_| true)?;
/// let heights: Vec<f64> = report.cells.iter().filter_map(|cell| cell.value).collect();
/// assert!(heights.iter().zip([2.0, 2.5, 3.0, 3.5, 4.0]).all(|(found, asked)| (found - asked).abs() < 1e-9));
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
///
/// # Errors
///
/// See [`VaryError`]. What is wrong with one of the tunings is said in its [cell](VaryCell::why).
pub fn vary(
    tuning: &TuningFile,
    over: &[Over],
    measure: &Measure<'_>,
    bounds: &PassBounds,
    goes_on: impl Fn(u64) -> bool + Sync,
) -> Result<VaryReport, VaryError> {
    vary_told(tuning, over, measure, bounds, &goes_on)
}

fn vary_told(
    tuning: &TuningFile,
    over: &[Over],
    measure: &Measure<'_>,
    bounds: &PassBounds,
    goes_on: &(dyn Fn(u64) -> bool + Sync),
) -> Result<VaryReport, VaryError> {
    let is_twice = over.len() == 2 && over[0].key == over[1].key;
    if !(1..=2).contains(&over.len()) || is_twice {
        return Err(VaryError::Axes { found: over.len() });
    }
    let numbers = tuning.tuning.numbers();
    let axes: Vec<Axis> = over.iter().map(|over| Axis::of(over, numbers, &tuning.scale)).collect::<Result<_, _>>()?;
    if measure.has_fixed_rate() && axes.iter().any(|axis| axis.axis.key == "tick.rate") {
        return Err(VaryError::Rate);
    }
    let lengths = [axes[0].axis.values.len(), axes.get(1).map_or(1, |axis| axis.axis.values.len())];
    let count = lengths[0] * lengths[1];
    if count > MOST {
        return Err(VaryError::TooMany { found: count });
    }
    let unit = match measure.kind() {
        Kind::Length => "tiles",
        Kind::Time => "s",
        Kind::Speed => "tiles/s",
        _ => "",
    };
    let limits = Limits::of(bounds, tuning, measure.kind())?;
    let in_unit = |value: f64| Quantity::value_in(value, unit, &tuning.scale);
    let done = AtomicU64::new(0);
    let cell = |index: usize| {
        let places = [index / lengths[1], index % lengths[1]];
        let at: Vec<f64> = axes.iter().zip(places).map(|(axis, place)| axis.axis.values[place]).collect();
        if !goes_on(done.fetch_add(1, Ordering::Relaxed)) {
            return VaryCell { at, ..VaryCell::default() };
        }
        let mut numbers = numbers.clone();
        axes.iter().zip(&at).for_each(|(axis, value)| axis.set(&mut numbers, *value));
        let checked = match Tuning::check(&numbers) {
            Ok(checked) => checked,
            Err(errors) => return VaryCell { at, why: Some(errors.to_string()), ..VaryCell::default() },
        };
        let Measured { value, passes } = measure.of(tuning, &checked);
        VaryCell { at, value: value.map(in_unit), passes: limits.passes(value).or(passes), why: None }
    };
    let cells = (0..count).into_par_iter().map(cell).collect();
    Ok(VaryReport {
        tuning: tuning.name.clone(),
        measure: measure.words(),
        unit,
        axes: axes.into_iter().map(|axis| axis.axis).collect(),
        now: measure.of(tuning, &tuning.tuning).value.map(in_unit),
        cells,
    })
}

/// Bounds in px and seconds.
struct Limits {
    at_least: Option<f64>,
    at_most: Option<f64>,
}

impl Limits {
    fn of(bounds: &PassBounds, tuning: &TuningFile, kind: Kind) -> Result<Limits, VaryError> {
        let of = |bound: Option<Quantity>| match bound {
            Some(bound) if bound.kind().is_some_and(|of| of != kind) => {
                Err(VaryError::Bound { expected: kind.name(), example: kind.example() })
            }
            bound => Ok(bound.map(|bound| bound.in_px_and_seconds(&tuning.scale))),
        };
        Ok(Limits { at_least: of(bounds.at_least)?, at_most: of(bounds.at_most)? })
    }

    /// None where there are no bounds.
    fn passes(&self, value: Option<f64>) -> Option<bool> {
        let slack = 1e-6;
        let is_within = |value: f64| {
            self.at_least.is_none_or(|least| value >= least - slack)
                && self.at_most.is_none_or(|most| value <= most + slack)
        };
        (self.at_least.is_some() || self.at_most.is_some()).then(|| value.is_some_and(is_within))
    }
}
