//! Reading and writing files: tunings, levels, buttons, traces, trials.
//!
//! Every reader takes a text and the name that messages give it, reads to the end and says everything
//! that is wrong at once. Only [`read_text`] and [`write_whole`] touch the disk.

mod buttons;
mod diagnostic;
mod disk;
pub(crate) mod edit;
mod group;
mod level;
mod practice;
mod reader;
mod trace;
mod trial;
mod tuning;
pub(crate) mod unlikely;

pub use buttons::{ButtonsFile, Timeline, held_words};
pub use diagnostic::{Diagnostic, Diagnostics};
pub use disk::{FileError, read_text, remove_unfinished, write_whole};
pub use level::{GameNotes, LetterKind, Level, LevelProp, Note};
pub use practice::PracticeInput;
pub use trial::TrialFile;
pub(crate) use trial::{Demand, Expectation, Number, Subject};
pub use tuning::{Picture, TuningFile, file_stem};
