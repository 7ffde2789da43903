//! Reading and writing files: tunings, levels, buttons, traces, trials.
//!
//! Every reader takes a text and the name that messages give it, reads to the end and says everything
//! that is wrong at once. Only [`read_text`] and `write_whole` touch the disk.

#[cfg(feature = "instruments")]
mod buttons;
#[cfg(feature = "instruments")]
mod csv_records;
mod diagnostic;
mod disk;
pub(crate) mod edit;
mod fields;
mod group;
mod level;
mod levels;
#[cfg(feature = "instruments")]
mod named;
mod poses;
#[cfg(feature = "instruments")]
mod practice;
#[cfg(feature = "instruments")]
mod project;
mod reader;
#[cfg(feature = "instruments")]
mod recording;
#[cfg(feature = "instruments")]
mod schema;
#[cfg(feature = "instruments")]
mod texts;
#[cfg(feature = "instruments")]
mod trace;
#[cfg(feature = "instruments")]
mod trial;
mod tuning;
pub(crate) mod unlikely;
#[cfg(feature = "instruments")]
mod write;

#[cfg(feature = "instruments")]
pub use buttons::{ButtonsFile, Timeline, held_words};
pub use diagnostic::{Diagnostic, Diagnostics};
pub use disk::{FileError, read_text, read_text_from};
pub use level::{GameNotes, LetterKind, Level, LevelProp, LevelRound, NextLevel, Note};
pub use levels::Levels;
#[cfg(feature = "instruments")]
pub(crate) use levels::read_next;
#[cfg(feature = "instruments")]
pub use named::files_named_in;
#[cfg(feature = "instruments")]
pub(crate) use named::named_files;
#[cfg(feature = "instruments")]
pub use practice::PracticeInput;
#[cfg(feature = "instruments")]
pub use project::Project;
#[cfg(feature = "instruments")]
pub(crate) use reader::{listed, nearest};
#[cfg(feature = "instruments")]
pub use recording::{RecordedRow, Recording, RecordingUnits};
#[cfg(feature = "instruments")]
pub use schema::SchemaOf;
#[cfg(feature = "instruments")]
pub use texts::{TuningPart, TuningText, with_letter};
#[cfg(feature = "instruments")]
pub use trial::TrialFile;
#[cfg(feature = "instruments")]
pub(crate) use trial::{Demand, Expectation, Number, Subject};
pub use tuning::{Picture, TuningFile, file_stem};
#[cfg(feature = "instruments")]
pub(crate) use unlikely::fall_time;
#[cfg(feature = "instruments")]
pub use write::{remove_unfinished, write_whole};
