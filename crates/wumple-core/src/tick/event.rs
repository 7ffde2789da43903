use core::fmt;

use crate::nearby::Support;
use crate::platforms::MoverId;
use crate::terrain::{Side, ZoneId, ZoneKind};

/// What a jump was taken off.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(rename_all = "kebab-case"))]
#[non_exhaustive]
pub enum JumpedFrom {
    /// Ground, or the coyote time after it.
    Ground,
    /// Nothing: an air jump.
    Air,
    /// A wall, or the coyote time after it.
    Wall,
    /// A ladder.
    Ladder,
}

impl JumpedFrom {
    /// All of them.
    pub const ALL: [JumpedFrom; 4] = [JumpedFrom::Ground, JumpedFrom::Air, JumpedFrom::Wall, JumpedFrom::Ladder];

    /// The word used in traces.
    #[must_use]
    pub fn name(self) -> &'static str {
        match self {
            JumpedFrom::Ground => "ground",
            JumpedFrom::Air => "air",
            JumpedFrom::Wall => "wall",
            JumpedFrom::Ladder => "ladder",
        }
    }
}

/// Declares the events, each with its word in traces and what it is about: all else that is said of events goes by this.
macro_rules! events {
    ($($(#[$doc:meta])+ $name:ident $(($of:ident))? $({ $(#[$field_doc:meta])+ $field:ident })? => $word:literal,)+) => {
        /// Something that happened in a tick. Displayed as in a trace: `landed:312.5`.
        #[derive(Clone, Copy, Debug, PartialEq)]
        #[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(rename_all = "kebab-case"))]
        #[non_exhaustive]
        pub enum Event {
            $($(#[$doc])+ $name $(($of))? $({ $(#[$field_doc])+ $field: f64 })?,)+
        }

        impl Event {
            /// The words of all events, without what they are about, and of which kind that is.
            pub const WORDS: &'static [(&'static str, AboutKind)] =
                &[$(($word, about_kind!($($of)? $($field)?))),+];

            /// Its word, without what it is about: `landed`.
            pub fn word(&self) -> &'static str {
                match self { $(Event::$name { .. } => $word),+ }
            }

            /// The event of a word that is about this, if there is one.
            pub fn of_word(word: &str, about: About) -> Option<Event> {
                match word {
                    $($word => event_about!(about, $name $($of)? $($field)?),)+
                    _ => None,
                }
            }
        }
    };
}

macro_rules! about_kind {
    () => {
        AboutKind::Nothing
    };
    (speed) => {
        AboutKind::Speed
    };
    ($of:ident) => {
        AboutKind::$of
    };
}

macro_rules! event_about {
    ($about:ident, $name:ident) => {
        ($about == About::Nothing).then_some(Event::$name)
    };
    ($about:ident, $name:ident speed) => {
        if let About::Speed(speed) = $about { Some(Event::$name { speed }) } else { None }
    };
    ($about:ident, $name:ident $of:ident) => {
        if let About::$of(of) = $about { Some(Event::$name(of)) } else { None }
    };
}

/// What an event is about, besides its word.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub enum About {
    /// Nothing more.
    Nothing,
    /// A speed, px/s.
    Speed(f64),
    /// What a jump was taken off.
    JumpedFrom(JumpedFrom),
    /// What held the body up.
    Support(Support),
    /// A platform or a prop.
    MoverId(MoverId),
    /// A zone.
    ZoneId(ZoneId),
    /// A side of the map.
    Side(Side),
}

/// Of which kind it is what an event is about.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[non_exhaustive]
#[expect(missing_docs, reason = "they are those of About")]
pub enum AboutKind {
    Nothing,
    Speed,
    JumpedFrom,
    Support,
    MoverId,
    ZoneId,
    Side,
}

events! {
    /// A jump began.
    Jumped(JumpedFrom) => "jumped",
    /// The body was stopped on its way down.
    Landed {
        /// The downward speed it had, px/s.
        speed
    } => "landed",
    /// The body came onto a surface that threw it up again: instead of landing.
    Bounced(Support) => "bounced",
    /// A rise was stopped at the head.
    BumpedHead => "bumped:head",
    /// A climb up a ladder or a wall was stopped at the head.
    ClimbStopped => "stopped:head",
    /// A rise was moved sideways, past a corner.
    Nudged => "nudged",
    /// A fall beside a ledge was lifted onto it.
    Lifted => "lifted",
    /// On its way over the ground the body was set up onto a step.
    SteppedUp => "stepped:up",
    /// The ground ended on its way, and the body was set down onto the next: down a step, or over the top of a ramp.
    SteppedDown => "stepped:down",
    /// A one-way top was dropped through.
    DroppedThrough => "dropped-through",
    /// A platform or a prop moved the body out of its way, along one axis.
    Pushed(MoverId) => "pushed",
    /// Terrain refused a push: the platform or prop passes through the body, until it is clear.
    Crushed(MoverId) => "crushed",
    /// The terrain became solid where the body is: it does nothing until it is clear.
    CrushedByTerrain => "crushed:terrain",
    /// A platform came up faster than the body rose, and ended the rise: instead of landing.
    Caught(MoverId) => "caught",
    /// A ladder was taken.
    TookLadder => "took:ladder",
    /// A ladder was let go, other than by a jump.
    LetGoOfLadder => "let-go:ladder",
    /// A wall's hold was taken.
    TookWall => "took:wall",
    /// A wall's hold was let go, other than by a jump.
    LetGoOfWall => "let-go:wall",
    /// Nothing holds the body up any more, and it did nothing to leave.
    LostGround => "lost-ground",
    /// A zone came to be felt.
    Entered(ZoneId) => "entered",
    /// A zone is no longer felt.
    Left(ZoneId) => "left",
    /// The game put the body at another place, since the tick before.
    Placed => "placed",
    /// The game launched the body, since the tick before.
    Launched => "launched",
    /// The game gave the body another tuning, since the tick before.
    Retuned => "retuned",
    /// The game holds the body still, since the tick before.
    HeldStill => "held-still",
    /// The game no longer holds the body still, since the tick before.
    SetGoing => "set-going",
    /// The game took the character out of the player's hand, since the tick before.
    ControlTaken => "control-taken",
    /// The game gave the character back into the player's hand, since the tick before.
    ControlGiven => "control-given",
    /// The hitbox is wholly beyond a deadly edge. The character's run is over.
    Died(Side) => "died",
    /// The body is where coordinates end. The character's run is over.
    OutOfBounds => "lost",
    /// A flap: a press of jump that lifted a body that flies.
    Flapped => "flapped",
}

impl Event {
    /// What it is about, besides its word.
    #[must_use]
    pub fn about(&self) -> About {
        match *self {
            Event::Landed { speed } => About::Speed(speed),
            Event::Jumped(from) => About::JumpedFrom(from),
            Event::Bounced(support) => About::Support(support),
            Event::Pushed(mover) | Event::Crushed(mover) | Event::Caught(mover) => About::MoverId(mover),
            Event::Entered(zone) | Event::Left(zone) => About::ZoneId(zone),
            Event::Died(side) => About::Side(side),
            _ => About::Nothing,
        }
    }

    /// The same without what is measured: how fast a landing was.
    #[must_use]
    pub fn without_numbers(&self) -> Event {
        match self {
            Event::Landed { .. } => Event::Landed { speed: 0.0 },
            other => *other,
        }
    }

    /// Whether a zone of this kind was entered.
    #[must_use]
    pub fn enters(&self, kind: ZoneKind) -> bool {
        matches!(self, Event::Entered(zone) if zone.kind == kind)
    }

    /// Whether the character's run is over.
    #[must_use]
    pub fn ends_the_run(&self) -> bool {
        matches!(self, Event::Died(_) | Event::OutOfBounds)
    }
}

impl fmt::Display for Event {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(self.word())?;
        match self.about() {
            About::Nothing => Ok(()),
            About::Speed(speed) => write!(f, ":{}", at_most_three_decimals(speed)),
            About::JumpedFrom(from) => write!(f, ":{}", from.name()),
            About::Support(Support::Block(index) | Support::Platform(index) | Support::Prop(index)) => {
                write!(f, ":{}", index + 1)
            }
            About::Support(Support::Character(index)) => write!(f, ":character-{}", index + 1),
            About::Support(support) => write!(f, ":{support}"),
            About::MoverId(mover) => write!(f, ":{mover}"),
            About::ZoneId(zone) => write!(f, ":{zone}"),
            About::Side(side) => write!(f, ":{side}"),
        }
    }
}

/// Rounded to thousandths; the display of an `f64` leaves out zeros at the end by itself.
pub(super) fn at_most_three_decimals(speed: f64) -> f64 {
    crate::space::float::round_half_up(speed * 1000.0) / 1000.0
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::terrain::{ZoneKind, ZoneOf};
    use alloc::{string::ToString, vec::Vec};

    #[test]
    fn events_in_the_words_of_a_trace() {
        let zone = |kind, of| ZoneId { kind, of };
        let table = [
            (Event::Jumped(JumpedFrom::Ground), "jumped:ground"),
            (Event::Jumped(JumpedFrom::Air), "jumped:air"),
            (Event::Landed { speed: 312.5 }, "landed:312.5"),
            (Event::Landed { speed: 100.0 / 3.0 }, "landed:33.333"),
            (Event::Landed { speed: 0.0 }, "landed:0"),
            (Event::Landed { speed: 99.9996 }, "landed:100"),
            (Event::Jumped(JumpedFrom::Wall), "jumped:wall"),
            (Event::Jumped(JumpedFrom::Ladder), "jumped:ladder"),
            (Event::BumpedHead, "bumped:head"),
            (Event::ClimbStopped, "stopped:head"),
            (Event::Bounced(Support::Block(1)), "bounced:2"),
            (Event::Bounced(Support::OneWay), "bounced:one-way"),
            (Event::Bounced(Support::Platform(2)), "bounced:3"),
            (Event::Pushed(MoverId::Platform(0)), "pushed:1"),
            (Event::Crushed(MoverId::Prop(1)), "crushed:2"),
            (Event::Pushed(MoverId::Character(1)), "pushed:character-2"),
            (Event::Bounced(Support::Character(0)), "bounced:character-1"),
            (Event::CrushedByTerrain, "crushed:terrain"),
            (Event::Caught(MoverId::Platform(1)), "caught:2"),
            (Event::Nudged, "nudged"),
            (Event::Lifted, "lifted"),
            (Event::SteppedUp, "stepped:up"),
            (Event::SteppedDown, "stepped:down"),
            (Event::DroppedThrough, "dropped-through"),
            (Event::TookLadder, "took:ladder"),
            (Event::LetGoOfLadder, "let-go:ladder"),
            (Event::TookWall, "took:wall"),
            (Event::LetGoOfWall, "let-go:wall"),
            (Event::LostGround, "lost-ground"),
            (Event::Placed, "placed"),
            (Event::Launched, "launched"),
            (Event::Retuned, "retuned"),
            (Event::HeldStill, "held-still"),
            (Event::SetGoing, "set-going"),
            (Event::ControlTaken, "control-taken"),
            (Event::ControlGiven, "control-given"),
            (Event::Entered(zone(ZoneKind::Goal, ZoneOf::Block(0))), "entered:goal:block-1"),
            (Event::Entered(zone(ZoneKind::Pickup, ZoneOf::Tile { column: 12, row: 8 })), "entered:pickup@12,8"),
            (Event::Left(zone(ZoneKind::Hazard, ZoneOf::Any)), "left:hazard"),
            (Event::Died(Side::Bottom), "died:bottom"),
            (Event::OutOfBounds, "lost"),
            (Event::Flapped, "flapped"),
        ];
        for (event, words) in table {
            assert_eq!(event.to_string(), words);
            assert_eq!(Event::of_word(event.word(), event.about()), Some(event), "{words}");
        }
        let mut words: Vec<&str> = Event::WORDS.iter().map(|(word, _)| *word).collect();
        words.retain(|word| !table.iter().any(|(event, _)| event.word() == *word));
        assert!(words.is_empty(), "not in the table: {words:?}");
        assert_eq!(Event::of_word("landed", About::Nothing), None);
    }
}
