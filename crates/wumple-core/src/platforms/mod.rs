//! Things that move under the feet: platforms along routes, which crumble and bounce and carry, and props.
//!
//! A platform's place is computed from the tick, never accumulated: it does not drift, and one that nobody
//! is near costs nothing.

mod changes;
mod crumble;
mod curve;
mod gather;
mod movers;
mod notes;
mod numbers;
mod places;
mod platform;
mod route;
mod store;

pub(crate) use changes::PlatformChanges;
pub use crumble::{CrumbleNumbers, Crumbling};
pub(crate) use gather::{Around, AskedBy, Asker};
pub use movers::MoverId;
pub(crate) use movers::{Mover, MoverKey, Movers};
pub(crate) use notes::PlatformNotes;
pub use numbers::{
    Bend, Ease, EaseOver, Ends, Pace, PlatformError, PlatformNumbers, PlatformProblem, PlatformSurface, Starts,
};
pub(crate) use places::{BodyKind, BodyPlace};
pub(crate) use platform::Rider;
pub use route::Route;
pub use store::{PlatformReport, Platforms};
