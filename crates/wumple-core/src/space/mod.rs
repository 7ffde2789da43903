//! Quantities of space: the body's box, the lines between tiles, the index of where boxes are, and the few float
//! functions that are needed.

mod body;
pub(crate) mod float;
mod grid_lines;
mod index;

pub use body::{Body, Hitbox};
pub use grid_lines::GridLines;
pub(crate) use index::Index;
