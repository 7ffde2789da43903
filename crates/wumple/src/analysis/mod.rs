//! What a tuning's jumps do: measured on the controller itself, and from its closed form.

mod arcs;

pub use arcs::{ArcKind, ArcPoint, ArcsReport, JumpArc, TuningArcs, arcs};
