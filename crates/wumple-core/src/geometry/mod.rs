//! Quantities of space: the body's box, the lattice of tiles, and the index of where boxes are.

mod body;
mod index;
mod lattice;

pub use body::{Body, Hitbox};
pub(crate) use index::Index;
pub use lattice::Lattice;
