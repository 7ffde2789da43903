//! A platform-game character controller and the instruments to tune it.
//!
//! The core ([`World`], [`Tuning`], [`Buttons`], ...) is what a game ticks; this crate adds the files
//! ([`TuningFile`], [`Level`], [`ButtonsFile`]), whole runs ([`Trace`]), measured jumps
//! ([`ArcsReport`]), runs held against each other ([`compare`]), trials ([`TrialFile`]) and, with the feature
//! `figures`, drawings of them ([`figures`]). It never prints.
//!
//! Places are in px with y down and the origin at the map's top-left corner, speeds in px/s; heights and
//! upward speeds in files, tables and figures are positive upward.
//!
//! | feature | adds |
//! | --- | --- |
//! | `figures` (on unless switched off) | figures as SVG and PNG |
//! | `serde` | reading and writing numbers, buttons and reports |
//! | `mint` | places and speeds to and from the types of the crate `mint` |
//!
//! # A character in a game loop
//!
//! ```
//! use wumple::{Buttons, Level, TuningFile};
//!
//! let level = Level::parse("room", &wumple::demo::THROWING_ROOM)?;
//! let dab = TuningFile::parse("dab", &wumple::demo::DAB)?;
//! let (mut world, id) = level.world(&dab.tuning)?;
//!
//! for _frame in 0..60 {
//!     let held = Buttons { right: true, ..Buttons::NONE }; // ask your keyboard
//!     world.tick(&[held]);
//!     let report = world.report(id); // draw at report.feet, play sounds for report.events
//!     assert!(report.events.is_empty());
//! }
//! # Ok::<(), Box<dyn std::error::Error>>(())
//! ```

// Printing is the program's business alone; the libraries return values. (Their examples may print.)
#![warn(clippy::print_stdout, clippy::print_stderr)]

mod analysis;
pub mod demo;
#[cfg(feature = "figures")]
pub mod figures;
mod files;
mod names;
mod quantity;
pub mod starter;
mod trace;
mod why;

pub use wumple_core::*;

pub use analysis::{
    AccelerationUnits, ArcKind, ArcPoint, ArcsReport, AtParting, ComparedRun, Comparison, Conversion, ConvertError,
    Fit, FitError, GameLoop, JumpArc, LevelArc, LevelReach, MeasuredRun, Parting, Passage, SpeedUnits, Target,
    TimeInAir, TrialCheck, TrialFailure, TrialOutcome, TuningArcs, UnitStyle, Wishes, arcs, compare, convert, fit,
    fit_into, level_arcs, level_arcs_to_csv, picture_notes, rounding_of, tight_passages, times_in_air,
};
pub use files::{
    ButtonsFile, Diagnostic, Diagnostics, FileError, LetterKind, Level, LevelProp, Picture, PracticeInput, Timeline,
    TrialFile, TuningFile, file_stem, held_words, read_text, remove_unfinished, write_whole,
};
pub use names::Names;
pub use quantity::{Kind, Quantity, QuantityError, Scale, short};
pub use trace::{Ride, Trace, TraceRow, run, run_told};
pub use why::{Press, WhyLine, WhyLog};

/// The Rust of the documents, compiled and run.
#[cfg(doctest)]
mod documents {
    #[doc = include_str!("../../../README.md")]
    struct Readme;
    #[doc = include_str!("../../../docs/06-in-your-game.md")]
    struct InYourGame;
    #[cfg(feature = "figures")]
    #[doc = include_str!("../../../docs/16-trials.md")]
    struct Trials;
}
