use core::fmt;

use crate::terrain::{Side, Zone};

/// What a jump was taken off.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub enum JumpedFrom {
    /// Ground, or the coyote time after it.
    Ground,
    /// Nothing: an air jump.
    Air,
}

impl JumpedFrom {
    /// The word used in traces.
    pub fn name(self) -> &'static str {
        match self {
            JumpedFrom::Ground => "ground",
            JumpedFrom::Air => "air",
        }
    }
}

/// Something that happened in a tick. Displayed as in a trace: `landed:312.5`.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub enum Event {
    /// A jump began.
    Jumped(JumpedFrom),
    /// The body was stopped on its way down.
    Landed {
        /// The downward speed it had, px/s.
        speed: f64,
    },
    /// The body was stopped on its way up.
    BumpedHead,
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
            Event::BumpedHead => f.write_str("bumped:head"),
            Event::LostGround => f.write_str("lost-ground"),
            Event::Entered(zone) => write!(f, "entered:{zone}"),
            Event::Left(zone) => write!(f, "left:{zone}"),
            Event::Died(side) => write!(f, "died:{side}"),
            Event::Lost => f.write_str("lost"),
        }
    }
}

/// Rounded to thousandths; the display of an `f64` leaves out zeros at the end by itself.
fn at_most_three_decimals(speed: f64) -> f64 {
    crate::math::round_half_up(speed * 1000.0) / 1000.0
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
            (Event::BumpedHead, "bumped:head"),
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
