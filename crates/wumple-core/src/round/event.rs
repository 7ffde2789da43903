//! What a round tells.

use core::fmt;

use super::Item;
use crate::terrain::{Side, ZoneId};

/// Something that happened to a round in a tick. Displayed as in a trace: `took:pickup@12,8`.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
#[non_exhaustive]
pub enum RoundEvent {
    /// A pickup was taken, or what a zone of the game's own gives.
    Took(ZoneId),
    /// A gate has what it needs, and is gone.
    Opened(ZoneId),
    /// A checkpoint was reached: it starts again from there.
    Reached(ZoneId),
    /// A goal was entered that is closed as long as this is missing.
    GoalClosed(Lack),
    /// A hazard took some health.
    Hurt {
        /// Which.
        by: ZoneId,
        /// How much it took.
        damage: u32,
    },
    /// The character was defeated.
    Defeated(DefeatCause),
    /// It started again.
    Restarted(RestartAt),
    /// The goal was reached: the round is over.
    Finished,
    /// The last life is gone: the round is over.
    RoundLost,
}

/// What is missing. Displayed as `5/8`, or the word of the item.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub enum Lack {
    /// Pickups.
    Pickups {
        /// How many there are, each by its worth.
        picked: u32,
        /// How many are asked for.
        needed: u32,
    },
    /// An item.
    Item(Item),
}

/// What defeated a character.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
#[non_exhaustive]
pub enum DefeatCause {
    /// A hazard. Displayed by its zone.
    Zone(ZoneId),
    /// A deadly edge of the map: `edge-bottom`.
    Edge(Side),
    /// A crush that lasted too long: `crush`.
    Crush,
    /// It came to where coordinates end: `lost`.
    Lost,
    /// It was left behind by a view that is deadly there: `view`.
    View,
}

/// Where a round starts again.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub enum RestartAt {
    /// At the checkpoint that was reached last.
    Checkpoint,
    /// At the start.
    Start,
}

impl RestartAt {
    /// The word used in traces.
    #[must_use]
    pub fn name(self) -> &'static str {
        match self {
            RestartAt::Checkpoint => "checkpoint",
            RestartAt::Start => "start",
        }
    }
}

impl RoundEvent {
    /// The words of all events, without what they are about.
    pub const WORDS: [&'static str; 9] =
        ["took", "opened", "reached", "goal-closed", "hurt", "defeated", "restarted", "finished", "round-lost"];

    /// Its word, without what it is about: `took`.
    #[must_use]
    pub fn word(&self) -> &'static str {
        let place = match self {
            RoundEvent::Took(_) => 0,
            RoundEvent::Opened(_) => 1,
            RoundEvent::Reached(_) => 2,
            RoundEvent::GoalClosed(_) => 3,
            RoundEvent::Hurt { .. } => 4,
            RoundEvent::Defeated(_) => 5,
            RoundEvent::Restarted(_) => 6,
            RoundEvent::Finished => 7,
            RoundEvent::RoundLost => 8,
        };
        RoundEvent::WORDS[place]
    }
}

impl fmt::Display for RoundEvent {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(self.word())?;
        match self {
            RoundEvent::Took(zone) | RoundEvent::Opened(zone) | RoundEvent::Reached(zone) => write!(f, ":{zone}"),
            RoundEvent::GoalClosed(lack) => write!(f, ":{lack}"),
            RoundEvent::Hurt { by, damage } => write!(f, ":{by}:{damage}"),
            RoundEvent::Defeated(cause) => write!(f, ":{cause}"),
            RoundEvent::Restarted(at) => write!(f, ":{}", at.name()),
            RoundEvent::Finished | RoundEvent::RoundLost => Ok(()),
        }
    }
}

impl fmt::Display for Lack {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Lack::Pickups { picked, needed } => write!(f, "{picked}/{needed}"),
            Lack::Item(item) => write!(f, "{item}"),
        }
    }
}

impl fmt::Display for DefeatCause {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            DefeatCause::Zone(zone) => write!(f, "{zone}"),
            DefeatCause::Edge(side) => write!(f, "edge-{side}"),
            DefeatCause::Crush => f.write_str("crush"),
            DefeatCause::Lost => f.write_str("lost"),
            DefeatCause::View => f.write_str("view"),
        }
    }
}
