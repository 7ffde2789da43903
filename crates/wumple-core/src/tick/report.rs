use alloc::vec::Vec;
use core::fmt;

use glam::DVec2;

use super::Event;
use crate::input::Facing;
use crate::nearby::Support;

/// What a character is doing, by the name that traces use.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(rename_all = "kebab-case"))]
#[non_exhaustive]
pub enum State {
    /// Supported, with no speed of its own.
    Stand,
    /// Supported, with a speed of its own.
    Run,
    /// In the air, going up.
    Rise,
    /// In the air, not going up.
    Fall,
    /// In the air, sliding down along a wall.
    WallSlide,
    /// Holding on to a wall.
    WallHold,
    /// On a ladder.
    Ladder,
    /// In the air, with jump held by a body that flies; not while a jump still rises.
    Fly,
}

impl State {
    /// All of them.
    pub const ALL: [State; 8] = [
        State::Stand,
        State::Run,
        State::Rise,
        State::Fall,
        State::WallSlide,
        State::WallHold,
        State::Ladder,
        State::Fly,
    ];

    /// The word used in traces.
    #[must_use]
    pub fn name(self) -> &'static str {
        match self {
            State::Stand => "stand",
            State::Run => "run",
            State::Rise => "rise",
            State::Fall => "fall",
            State::WallSlide => "wall-slide",
            State::WallHold => "wall-hold",
            State::Ladder => "ladder",
            State::Fly => "fly",
        }
    }
}

impl fmt::Display for State {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(self.name())
    }
}

/// On which sides something touches a character. Displayed as in a trace: `left below`.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
#[non_exhaustive]
pub struct Contacts {
    /// A wall within the wall probe.
    pub left: bool,
    /// A wall within the wall probe.
    pub right: bool,
    /// A ceiling that the head bumped in this tick; seen from above, something that stopped it on its way up.
    pub above: bool,
    /// A surface that holds it up; seen from above, something that stopped it on its way down.
    pub below: bool,
}

impl fmt::Display for Contacts {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let mut space = "";
        for (touched, word) in
            [(self.left, "left"), (self.right, "right"), (self.above, "above"), (self.below, "below")]
        {
            if touched {
                write!(f, "{space}{word}")?;
                space = " ";
            }
        }
        Ok(())
    }
}

/// What a tick did with one character.
#[derive(Clone, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
#[non_exhaustive]
pub struct TickReport {
    /// The tick, from 1; 0 is the start.
    pub tick: u64,
    /// Where the feet are, px, y down.
    pub feet: DVec2,
    /// Where they were when the tick began, px, y down: for drawing what is between two ticks. At the start, and where
    /// the body was put to another place since, that place.
    pub from: DVec2,
    /// The character's own speed, px/s, y down.
    pub velocity: DVec2,
    /// What it is doing.
    pub state: State,
    /// The first tick at whose end it was in this state without having been in another since; the one after the start,
    /// if it was in it then. See [`TickReport::ticks_in_state`].
    pub state_since: u64,
    /// The last single direction held, right at the start; away from a wall while sliding, along the push
    /// just after a jump off one. Seen from above, the direction pressed last that is still held, of four.
    pub facing: Facing,
    /// What holds it up.
    pub support: Support,
    /// Where it is touched.
    pub contacts: Contacts,
    /// What happened, in the order of the steps of a tick.
    pub events: Vec<Event>,
}

impl TickReport {
    /// The way gone in the tick, by whatever moved the body, px, y down.
    #[must_use]
    pub fn moved(&self) -> DVec2 {
        self.feet - self.from
    }

    /// For how many ticks it has been in this state, this one among them; 0 at the start.
    #[must_use]
    pub fn ticks_in_state(&self) -> u64 {
        (self.tick + 1).saturating_sub(self.state_since)
    }

    /// Of a character that stands there facing right, held up by nothing, to which nothing happened. For what
    /// makes reports of its own, such as a reader of traces: the rest is set on it.
    #[must_use]
    pub fn at_rest(tick: u64, feet: DVec2) -> TickReport {
        TickReport {
            tick,
            feet,
            from: feet,
            velocity: DVec2::ZERO,
            state: State::Stand,
            state_since: tick + 1,
            facing: Facing::Right,
            support: Support::None,
            contacts: Contacts::default(),
            events: Vec::new(),
        }
    }
}
