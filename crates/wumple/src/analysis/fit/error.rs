use std::fmt;

use wumple_core::TuningErrors;

use crate::files::Diagnostics;
use crate::units::{Kind, figure, short};

/// Why wishes cannot be met. `Debug` says the same as `Display`: it is what `?` in a test shows.
#[derive(Clone, PartialEq)]
#[non_exhaustive]
pub enum FitError {
    /// Nothing says how high the jump is to be.
    NoHeight,
    /// Nothing says how long it is to take: neither a time, nor a gap and the top speed at which it is cleared.
    NoTime,
    /// A wish is of another kind.
    OfAnotherKind {
        /// Which: `the height`, ...
        wish: &'static str,
        /// The kind that its unit is of.
        found: Kind,
        /// The kind it must be of.
        needed: Kind,
    },
    /// A wish is out of bounds.
    OutOfBounds {
        /// Which: `the height`, ...
        wish: &'static str,
        /// What it is, in px and seconds.
        found: f64,
        /// The least it may be.
        least: f64,
        /// The most it may be.
        most: f64,
        /// px, s, px/s; nothing for a ratio.
        unit: &'static str,
    },
    /// The smallest hop is higher than the full jump.
    TapAboveHeight {
        /// The hop, tiles.
        tap_tiles: f64,
        /// The full jump, tiles.
        height_tiles: f64,
    },
    /// The gap needs a higher speed than the top speed.
    GapTooFar {
        /// The gap, tiles.
        gap_tiles: f64,
        /// The time in the air, s.
        air_time_s: f64,
        /// The speed that it needs, tiles/s.
        needed_tiles_s: f64,
        /// The greatest there is, tiles/s: the one wished for, or the limit of speeds.
        most_tiles_s: f64,
    },
    /// The gap leaves less time than the jump takes however quickly it rises.
    TooLittleTime {
        /// The time that gap and top speed leave, s.
        left_s: f64,
        /// The least time in the air, s.
        least_s: f64,
    },
    /// The gap leaves more time than the jump can take.
    TooMuchTime {
        /// The time that gap and top speed leave, s.
        left_s: f64,
        /// What is wrong with a slower jump.
        why: TuningErrors,
    },
    /// The jump goes beyond where coordinates end before it is down again.
    BeyondCoordinates,
    /// The numbers are out of the bounds of a tuning.
    Tuning(TuningErrors),
    /// The tuning to be changed is wrong.
    Wrong(Diagnostics),
}

impl fmt::Display for FitError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            FitError::NoHeight => f.write_str("a jump needs a height"),
            FitError::NoTime => f.write_str(
                "a jump needs a time as well: to its apex, or else a gap and the top speed at which it is cleared",
            ),
            FitError::OfAnotherKind { wish, found, needed } => {
                write!(f, "{wish} is {}; it needs {}, such as {}", found.name(), needed.name(), needed.example())
            }
            FitError::OutOfBounds { wish, found, least, most, unit } => {
                let unit = if unit.is_empty() { String::new() } else { format!(" {unit}") };
                let [found, least, most] = [found, least, most].map(|number| figure(*number));
                write!(f, "{wish} is {found}{unit}; it must be from {least} to {most}{unit}")
            }
            FitError::TapAboveHeight { tap_tiles, height_tiles } => write!(
                f,
                "a smallest hop of {} tiles is higher than the full jump of {} tiles",
                short(*tap_tiles),
                short(*height_tiles)
            ),
            FitError::GapTooFar { gap_tiles, air_time_s, needed_tiles_s, most_tiles_s } => write!(
                f,
                "a gap of {} tiles in {} s needs {} tiles/s; the top speed is {}",
                short(*gap_tiles),
                short(*air_time_s),
                short(*needed_tiles_s),
                short(*most_tiles_s)
            ),
            FitError::TooLittleTime { left_s, least_s } => write!(
                f,
                "the gap at that speed leaves {} s in the air; this jump takes {} s and more, however quickly it rises: \
                 the fall takes the rest",
                short(*left_s),
                short(*least_s)
            ),
            FitError::TooMuchTime { left_s, why } => write!(
                f,
                "the gap at that speed leaves {} s in the air, more than this jump can take: {why}",
                short(*left_s)
            ),
            FitError::BeyondCoordinates => f.write_str(
                "the jump goes beyond where coordinates end before it is down again: make it slower or shorter",
            ),
            FitError::Tuning(errors) => write!(f, "{errors}"),
            FitError::Wrong(diagnostics) => write!(f, "{diagnostics}"),
        }
    }
}

impl fmt::Debug for FitError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        fmt::Display::fmt(self, f)
    }
}

impl std::error::Error for FitError {}
