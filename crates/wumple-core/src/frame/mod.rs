//! Between frames of any length and ticks of one length: how many ticks are due, and what they hold.

mod latch;
mod pacer;

pub use latch::ButtonLatch;
pub use pacer::TickPacer;
