use core::fmt;

use crate::nearby::Support;
use crate::platforms::MoverId;
use crate::terrain::{Side, Zone};

/// What a jump was taken off.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(rename_all = "kebab-case"))]
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
    pub fn name(self) -> &'static str {
        match self {
            JumpedFrom::Ground => "ground",
            JumpedFrom::Air => "air",
            JumpedFrom::Wall => "wall",
            JumpedFrom::Ladder => "ladder",
        }
    }
}

/// Something that happened in a tick. Displayed as in a trace: `landed:312.5`.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(rename_all = "kebab-case"))]
#[non_exhaustive]
pub enum Event {
    /// A jump began.
    Jumped(JumpedFrom),
    /// The body was stopped on its way down.
    Landed {
        /// The downward speed it had, px/s.
        speed: f64,
    },
    /// The body came onto a surface that threw it up again: instead of landing.
    Bounced(Support),
    /// The body was stopped on its way up.
    BumpedHead,
    /// A rise was moved sideways, past a corner.
    Nudged,
    /// A fall beside a ledge was lifted onto it.
    Lifted,
    /// A one-way top was dropped through.
    DroppedThrough,
    /// A platform or a prop moved the body out of its way, along one axis.
    Pushed(MoverId),
    /// Terrain refused a push: the platform or prop passes through the body, until it is clear.
    Crushed(MoverId),
    /// The terrain became solid where the body is: it does nothing until it is clear.
    CrushedByTerrain,
    /// A platform came up faster than the body rose, and ended the rise: instead of landing.
    Caught(MoverId),
    /// A ladder was taken.
    TookLadder,
    /// A ladder was let go, other than by a jump.
    LetGoOfLadder,
    /// A wall's hold was taken.
    TookWall,
    /// A wall's hold was let go, other than by a jump.
    LetGoOfWall,
    /// Nothing holds the body up any more, and it did nothing to leave.
    LostGround,
    /// The hitbox came to overlap a zone.
    Entered(Zone),
    /// The hitbox no longer overlaps a zone.
    Left(Zone),
    /// The hitbox is wholly beyond a deadly edge. The character's run is over.
    Died(Side),
    /// The body is where coordinates end. The character's run is over.
    Lost,
}

impl Event {
    /// The same without what is measured: how fast a landing was.
    pub fn without_numbers(&self) -> Event {
        match self {
            Event::Landed { .. } => Event::Landed { speed: 0.0 },
            other => *other,
        }
    }

    /// Whether the character's run is over.
    pub fn ends_the_run(&self) -> bool {
        matches!(self, Event::Died(_) | Event::Lost)
    }
}

impl fmt::Display for Event {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Event::Jumped(from) => write!(f, "jumped:{}", from.name()),
            Event::Landed { speed } => write!(f, "landed:{}", at_most_three_decimals(*speed)),
            Event::Bounced(Support::Block(index) | Support::Platform(index) | Support::Prop(index)) => {
                write!(f, "bounced:{}", index + 1)
            }
            Event::Bounced(support) => write!(f, "bounced:{support}"),
            Event::BumpedHead => f.write_str("bumped:head"),
            Event::Nudged => f.write_str("nudged"),
            Event::Lifted => f.write_str("lifted"),
            Event::DroppedThrough => f.write_str("dropped-through"),
            Event::Pushed(carrier) => write!(f, "pushed:{carrier}"),
            Event::Crushed(carrier) => write!(f, "crushed:{carrier}"),
            Event::CrushedByTerrain => f.write_str("crushed:terrain"),
            Event::Caught(carrier) => write!(f, "caught:{carrier}"),
            Event::TookLadder => f.write_str("took:ladder"),
            Event::LetGoOfLadder => f.write_str("let-go:ladder"),
            Event::TookWall => f.write_str("took:wall"),
            Event::LetGoOfWall => f.write_str("let-go:wall"),
            Event::LostGround => f.write_str("lost-ground"),
            Event::Entered(zone) => write!(f, "entered:{zone}"),
            Event::Left(zone) => write!(f, "left:{zone}"),
            Event::Died(side) => write!(f, "died:{side}"),
            Event::Lost => f.write_str("lost"),
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
    use alloc::string::ToString;

    #[test]
    fn events_in_the_words_of_a_trace() {
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
            (Event::Bounced(Support::Block(1)), "bounced:2"),
            (Event::Bounced(Support::OneWay), "bounced:one-way"),
            (Event::Bounced(Support::Platform(2)), "bounced:3"),
            (Event::Pushed(MoverId::Platform(0)), "pushed:1"),
            (Event::Crushed(MoverId::Prop(1)), "crushed:2"),
            (Event::CrushedByTerrain, "crushed:terrain"),
            (Event::Caught(MoverId::Platform(1)), "caught:2"),
            (Event::Nudged, "nudged"),
            (Event::Lifted, "lifted"),
            (Event::DroppedThrough, "dropped-through"),
            (Event::TookLadder, "took:ladder"),
            (Event::LetGoOfLadder, "let-go:ladder"),
            (Event::TookWall, "took:wall"),
            (Event::LetGoOfWall, "let-go:wall"),
            (Event::LostGround, "lost-ground"),
            (Event::Entered(Zone::Goal), "entered:goal"),
            (Event::Left(Zone::Hazard), "left:hazard"),
            (Event::Died(Side::Bottom), "died:bottom"),
            (Event::Lost, "lost"),
        ];
        for (event, words) in table {
            assert_eq!(event.to_string(), words);
        }
    }
}
