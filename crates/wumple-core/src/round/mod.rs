//! A round: what follows from what a character meets. Health and lives, what is taken and opened, where it starts again, and when it
//! is over. It stands beside the world: a game that makes its own rules never sees it.

mod event;
mod gained;
mod rules;
mod saved;
mod turn;

pub use event::{DefeatCause, Lack, RestartAt, RoundEvent};
pub use rules::{AfterDefeat, DefeatMotion, Item, Need, RoundError, RoundNumbers, RoundRules, ZoneRule};
pub use saved::SavedRound;
pub use turn::{Follows, Next, Round};
