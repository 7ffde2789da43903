//! Which mode follows from which: the ways between them, in the order in which they are looked at.

use core::fmt;

use super::ModeKind::{self, Air, Ground, Hold, Ladder};

/// When in a tick the ways are looked at.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Moment {
    /// Step 1: after the body was carried along.
    Carry,
    /// Step 3: what the player asks for, judged from where the body is at the start of the tick.
    Decide,
    /// Step 6: where the body came down.
    Land,
    /// Step 8: what was found around the body at the end of the tick.
    Sense,
}

impl Moment {
    fn step(self) -> u8 {
        match self {
            Moment::Carry => 1,
            Moment::Decide => 3,
            Moment::Land => 6,
            Moment::Sense => 8,
        }
    }
}

/// A way from one mode to another, or back into the same.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) struct Way {
    pub(crate) from: ModeKind,
    pub(crate) moment: Moment,
    pub(crate) change: Change,
    pub(crate) to: ModeKind,
}

/// Declares every change with the condition under which it is due, and with its words: as `docs/model.md` has them.
macro_rules! changes {
    ($($name:ident: $condition:literal => $words:literal,)+) => {
        /// Why a mode changes.
        #[derive(Clone, Copy, Debug, PartialEq, Eq)]
        pub(crate) enum Change { $(#[doc = $condition] $name,)+ }

        impl Change {
            /// All of them.
            #[cfg(test)]
            const ALL: &[Change] = &[$(Change::$name,)+];

            /// When it is due, and what it is called.
            fn words(self) -> (&'static str, &'static str) {
                match self { $(Change::$name => ($condition, $words),)+ }
            }
        }
    };
}

changes! {
    CarriedOff: "nothing supports where it was carried to" => "carried off the ground",
    TookLadder: "a ladder is asked for, and can be taken" => "took the ladder",
    TookWall: "a hold is asked for, and can be taken" => "took the wall",
    DroppedThrough: "a drop is asked for, and nothing solid supports" => "dropped through",
    JumpedFromGround: "a jump is asked for, and there is one" => "jumped from the ground",
    JumpedInCoyoteTime: "a jump is asked for, and there is one, within the coyote time" => "jumped from the ground",
    JumpedOffWall: "a jump is asked for, and a wall can be jumped off" => "jumped off the wall",
    JumpedInAir: "jump was pressed now, an air jump is left, and none waits for the ground" => "jumped in the air",
    JumpedOffLadder: "a jump is asked for, and there is one" => "jumped off the ladder",
    LetGo: "away is held, or grab no longer" => "let go of the wall",
    LostGround: "nothing supports" => "lost the ground",
    Bounced: "what supports throws up" => "bounced",
    FoundGround: "something supports" => "found ground",
    CameToGround: "nothing is held any more, and something supports" => "let go, on the ground",
    LostHold: "nothing is held any more" => "let go",
}

use Change::{
    Bounced, CameToGround, CarriedOff, DroppedThrough, FoundGround, JumpedFromGround, JumpedInAir, JumpedInCoyoteTime,
    JumpedOffLadder, JumpedOffWall, LetGo, LostGround, LostHold, TookLadder, TookWall,
};
use Moment::{Carry, Decide, Land, Sense};

/// The first that is due is taken. (One who holds on bounces only if nothing is held any more.)
#[rustfmt::skip]
static WAYS: [Way; 24] = [
    way(Ground, Carry,  CarriedOff,         Air),
    way(Ground, Decide, TookLadder,         Ladder),
    way(Ground, Decide, TookWall,           Hold),
    way(Ground, Decide, DroppedThrough,     Air),
    way(Ground, Decide, JumpedFromGround,   Air),
    way(Air,    Decide, TookLadder,         Ladder),
    way(Air,    Decide, TookWall,           Hold),
    way(Air,    Decide, JumpedInCoyoteTime, Air),
    way(Air,    Decide, JumpedOffWall,      Air),
    way(Air,    Decide, JumpedInAir,        Air),
    way(Ladder, Decide, JumpedOffLadder,    Air),
    way(Hold,   Decide, JumpedOffWall,      Air),
    way(Hold,   Decide, LetGo,              Air),
    way(Air,    Land,   Bounced,            Air),
    way(Ground, Sense,  LostGround,         Air),
    way(Ground, Sense,  Bounced,            Air),
    way(Air,    Sense,  Bounced,            Air),
    way(Air,    Sense,  FoundGround,        Ground),
    way(Ladder, Sense,  Bounced,            Air),
    way(Ladder, Sense,  CameToGround,       Ground),
    way(Ladder, Sense,  LostHold,           Air),
    way(Hold,   Sense,  Bounced,            Air),
    way(Hold,   Sense,  CameToGround,       Ground),
    way(Hold,   Sense,  LostHold,           Air),
];

const fn way(from: ModeKind, moment: Moment, change: Change, to: ModeKind) -> Way {
    Way { from, moment, change, to }
}

/// The ways out of a mode at a moment, in the order in which they are looked at.
pub(crate) fn ways(from: ModeKind, moment: Moment) -> impl Iterator<Item = &'static Way> {
    WAYS.iter().filter(move |way| way.from == from && way.moment == moment)
}

/// A row as `docs/model.md` shows it.
impl fmt::Display for Way {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let (condition, words) = self.change.words();
        write!(f, "| {} | {} | {condition} | {} | {words} |", self.from.name(), self.moment.step(), self.to.name())
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use alloc::string::{String, ToString};
    use alloc::vec::Vec;

    #[test]
    fn the_documents_table_is_this_one() {
        let model = include_str!("../../../../docs/model.md");
        let rows: Vec<String> = WAYS.iter().map(Way::to_string).collect();
        assert!(model.contains(&rows.join("\n")), "docs/model.md should have:\n{}", rows.join("\n"));
    }

    #[test]
    fn every_change_is_on_some_way_and_leads_to_one_mode() {
        for change in Change::ALL {
            let mut to = WAYS.iter().filter(|way| way.change == *change).map(|way| way.to);
            let first = to.next().expect("a way");
            assert!(to.all(|other| other == first), "{change:?}");
        }
    }
}
