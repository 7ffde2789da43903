//! The world, and the tick that moves everything in it on, step by step.

mod act;
mod action;
mod anew;
mod between;
mod bodies;
mod carry;
mod change;
mod character;
mod coded;
mod crush;
mod decide;
mod event;
mod four_way;
mod ids;
mod invariants;
mod leave;
mod outside;
mod prop;
mod queries;
mod report;
mod roster;
mod saved;
mod saved_bytes;
mod scene;
mod sense;
mod start;
mod things;
mod travel;
mod turn;
mod wall_memory;
mod why;
mod world;
mod zones;

pub(crate) use anew::{go_back, let_fall, rest_at, rest_below, save_to_go_back};
pub use character::Character;
pub use event::{About, AboutKind, Event, JumpedFrom};
pub use ids::{BodyId, CharacterId, PropId};
pub use invariants::Violation;
pub use outside::{Launch, LimitError};
pub use prop::Prop;
pub use queries::{Met, Piece, Probe, Touched};
pub use report::{Contacts, State, TickReport};
pub(crate) use roster::slot_of;
pub use saved::Saved;
pub use saved_bytes::SavedError;
pub(crate) use saved_bytes::{sealed, unsealed};
pub use start::StartError;
pub use things::Things;
pub use why::{Decision, Forgotten, HoldRefusal, JumpRefusal, LadderRefusal, LetGo, Listener, NoListener, NoWallJump};
pub use world::{LIMIT_PLACE, World};

#[cfg(test)]
mod tests;
