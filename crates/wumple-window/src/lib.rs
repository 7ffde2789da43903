//! Wumple's live window: a programmer plays a character, drags a number, and sees at once what it does.
//!
//! Everything that is shown is computed by [`wumple`]; there is no rule of motion here. [`desk`] is all that is open, without a window:
//! it is tested as it is. [`view`] shows it and takes clicks, drags and keys, in any [`egui`](eframe::egui) interface; the program of the
//! same name puts that into a window of the system.

// Printing is the program's business alone.
#![warn(clippy::print_stdout, clippy::print_stderr)]

pub mod desk;
pub mod view;

pub use desk::{Desk, Source};
pub use view::Window;
