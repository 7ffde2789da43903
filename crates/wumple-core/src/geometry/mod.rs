//! Quantities of space: the body's box and the lattice of tiles.

mod body;
mod lattice;

pub use body::{Body, Hitbox};
pub use lattice::Lattice;
