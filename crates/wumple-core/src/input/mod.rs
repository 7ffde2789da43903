//! What a player holds, and how it comes from frames of any length to ticks of one length.

mod buttons;
mod facing;
mod latch;
mod pacer;
mod stick_curve;

pub(crate) use buttons::Intent;
pub use buttons::{Button, Buttons, Direction};
pub use facing::Facing;
pub use latch::ButtonLatch;
pub use pacer::TickPacer;
pub use stick_curve::StickCurve;
