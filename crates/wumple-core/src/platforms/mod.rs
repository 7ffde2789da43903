//! Things that move under the feet: platforms along routes, which crumble and bounce and carry, and props.
//!
//! A platform's place is computed from the tick, never accumulated: it does not drift, and one that nobody
//! is near costs nothing.

mod crumble;
mod movers;
mod numbers;
mod route;
mod store;

pub use crumble::{CrumbleNumbers, Crumbling};
pub use movers::MoverId;
pub(crate) use movers::{Mover, MoverKey, Movers};
pub use numbers::{Ease, Ends, Pace, PlatformError, PlatformNumbers, PlatformProblem, PlatformSurface, Starts};
pub use route::Route;
pub(crate) use store::{Asking, PlatformChanges, PlatformNotes, PropPlace};
pub use store::{PlatformReport, Platforms};
