//! What a tuning's jumps do, and numbers for wishes: measured on the controller itself, and from its
//! closed form.

mod arcs;
mod check;
mod compare;
mod convert;
mod course;
mod fit;
mod flight_arcs;
mod four_way_arcs;
mod from_above;
mod in_air;
mod jump_flight;
mod level_arcs;
mod matching;
mod passages;
mod picture;
mod reach;
mod round_summary;
mod run_number;
mod sky;
mod trial;
mod tuning_number;
mod vary;

pub use arcs::{ArcKind, ArcsReport, JumpArc, LevelReach, TuningArcs, arcs};
pub use check::{
    Finding, FindingColumns, FindingKind, check_level, check_links, check_links_within, check_named_files, check_run,
    check_tuning,
};
pub use compare::{AtParting, ComparedRun, Comparison, MeasuredRun, Parting, compare};
pub use convert::{Conversion, ConvertError, Target, UnitStyle, convert};
pub use course::{Course, CourseError, CourseSettings, CourseStep, StepKind, course};
pub use fit::{
    AccelerationUnits, Fit, FitError, FlapFit, FlapWishes, GameLoop, MoveFitError, SpeedUnits, WalkFit, WalkWishes,
    Wishes, fit, fit_flaps, fit_into, fit_walk, rounding_of,
};
pub use flight_arcs::{Climb, FlightCourse, FlightMeasures};
pub use four_way_arcs::{FourWayMeasures, WalkMeasures};
pub use from_above::empty_from_above;
pub use in_air::{TimeInAir, times_in_air};
pub use jump_flight::ArcPoint;
pub use level_arcs::{LevelArc, LevelArcError, arcs_from, level_arcs, level_arcs_to_csv};
pub use matching::{MatchError, MatchReport, MatchedNumber, MatchedPiece, UnseenNumber, match_recording};
pub use passages::{Passage, tight_passages};
pub use picture::picture_notes;
pub use reach::{Reach, ReachAnswer, ReachChange, ReachError, ReachReport, ReachSettings, reach};
pub use round_summary::{Defeat, RoundSummary};
pub use trial::{TrialCheck, TrialFailure, TrialOutcome};
pub use tuning_number::KeyError;
pub use vary::{
    ArcMeasure, Measure, Over, PassBounds, ReachMeasure, RunMeasure, VaryAxis, VaryCell, VaryError, VaryReport, vary,
};
