//! A platform-game character controller and the instruments to tune it.
//!
//! The core ([`World`], [`Tuning`], [`Buttons`], ...) is what a game ticks; this crate adds the files
//! ([`TuningFile`], [`Level`], [`ButtonsFile`]), whole runs ([`Trace`]), measured jumps ([`arcs()`]), numbers for wishes
//! ([`fit()`]), runs held against each other ([`compare()`]), trials ([`TrialFile`]) and, with the feature `figures`,
//! drawings of them ([`figures`]). It never prints.
//!
//! At the root is what a game and its tests use. The numbers of a tuning are in [`numbers`], what rounds ask for and tell in
//! [`rounds`], the reasons of decisions in [`why`], results of analyses in [`analysis`], what else concerns files in [`files`], quantities with their units in
//! [`units`], and what instruments need beside that in [`advanced`].
//!
//! Places are in px with y down and the origin at the map's top-left corner, speeds in px/s; heights and
//! upward speeds in files, tables and figures are positive upward.
//!
//! | feature | adds |
//! | --- | --- |
//! | `figures` (on unless switched off) | figures as SVG and PNG; all of `instruments` |
//! | `instruments` | runs, traces, buttons, trials, jumps measured and fitted, maps from CSV and PNG |
//! | `serde` | reading and writing numbers, buttons and reports |
//! | `mint` | places and speeds to and from the types of the crate `mint` |
//!
//! A game that is shipped reads tunings and levels and needs nothing else: `default-features = false` leaves out all but that.
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

// What instruments alone need of the readers is left out with them by the linker.
#![cfg_attr(not(feature = "instruments"), allow(dead_code))]
// Printing is the program's business alone; the libraries return values. (Their examples may print.)
#![warn(clippy::print_stdout, clippy::print_stderr)]

#[cfg(feature = "instruments")]
pub mod analysis;
#[cfg(feature = "instruments")]
pub mod demo;
#[cfg(feature = "figures")]
pub mod figures;
pub mod files;
mod names;
#[cfg(feature = "instruments")]
mod play;
#[cfg(feature = "instruments")]
mod playing;
pub mod poses;
mod progress;
#[cfg(feature = "instruments")]
pub mod starter;
#[cfg(feature = "instruments")]
mod trace;
pub mod units;
#[cfg(feature = "instruments")]
pub mod why;

pub use wumple_core::*;

#[cfg(feature = "instruments")]
pub use analysis::{GameLoop, Wishes, arcs, compare, fit};
#[cfg(feature = "instruments")]
pub use files::{ButtonsFile, Timeline, TrialFile};
pub use files::{Diagnostics, FileError, Level, Levels, TuningFile};
#[cfg(feature = "instruments")]
pub use play::{Play, SavedPlay};
pub use progress::Progress;
#[cfg(feature = "instruments")]
pub use trace::{RoundRow, Trace, TraceRow, run, run_told};

/// What instruments need and games hardly do: that of the core, the names of a level's things, and rides.
pub mod advanced {
    pub use crate::names::Names;
    #[cfg(feature = "instruments")]
    pub use crate::trace::{Ride, RoundColumns, WrittenRow};
    pub use wumple_core::advanced::*;
}

/// The Rust of the documents, compiled and run.
#[cfg(all(doctest, feature = "instruments"))]
mod documents {
    #[doc = include_str!("../../../README.md")]
    struct Readme;
    #[doc = include_str!("../README.md")]
    struct OfThisCrate;
    #[doc = include_str!("../../wumple-core/README.md")]
    struct OfTheCore;
    #[doc = include_str!("../../../docs/06-in-your-game.md")]
    struct InYourGame;
    #[doc = include_str!("../../../docs/18-things-that-change.md")]
    struct ThingsThatChange;
    #[doc = include_str!("../../../docs/19-many-characters.md")]
    struct ManyCharacters;
    #[doc = include_str!("../../../docs/20-zones-and-pickups.md")]
    struct ZonesAndPickups;
    #[doc = include_str!("../../../docs/22-who-meets-whom.md")]
    struct WhoMeetsWhom;
    #[doc = include_str!("../../../docs/23-a-goal.md")]
    struct AGoal;
    #[doc = include_str!("../../../docs/25-pickups-and-gates.md")]
    struct PickupsAndGates;
    #[doc = include_str!("../../../docs/26-checkpoints-and-restarts.md")]
    struct CheckpointsAndRestarts;
    #[doc = include_str!("../../../docs/27-levels-in-order.md")]
    struct LevelsInOrder;
    #[doc = include_str!("../../../docs/28-check.md")]
    struct Check;
    #[doc = include_str!("../../../docs/35-what-can-be-reached.md")]
    struct WhatCanBeReached;
    #[doc = include_str!("../../../docs/36-many-tunings.md")]
    struct ManyTunings;
    #[doc = include_str!("../../../docs/37-courses.md")]
    struct Courses;
    #[doc = include_str!("../../../docs/38-from-a-recording.md")]
    struct FromARecording;
    #[doc = include_str!("../../../docs/32-poses.md")]
    struct Poses;
    #[doc = include_str!("../../../docs/21-saving-and-networks.md")]
    struct SavingAndNetworks;
    #[cfg(feature = "figures")]
    #[doc = include_str!("../../../docs/16-trials.md")]
    struct Trials;
}
