//! Which mode follows from which: the ways between them, in the order in which they are looked at.

use super::ModeKind::{self, Air, FourWay, Ground, Hold, Ladder};

/// When in a tick the ways are looked at.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Moment {
    /// Step 1: after the body was carried along.
    Carry,
    /// Step 3: what the player asks for, judged from where the body is at the start of the tick.
    Decide,
    /// Step 4: what pushes or lifts the body.
    Push,
    /// Step 6: where the body came down.
    Land,
    /// Step 8: what was found around the body at the end of the tick.
    Sense,
}

#[cfg(test)]
impl Moment {
    /// All of them, in the order of a tick.
    pub(crate) const ALL: [Moment; 5] = [Carry, Decide, Push, Land, Sense];

    fn step(self) -> u8 {
        match self {
            Moment::Carry => 1,
            Moment::Decide => 3,
            Moment::Push => 4,
            Moment::Land => 6,
            Moment::Sense => 8,
        }
    }
}

/// A way from one mode to another, or back into the same.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) struct Way {
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
            #[cfg(test)]
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
    Flapped: "jump was pressed now, and flaps lift from there" => "flapped",
    JumpedOffLadder: "a jump is asked for, and there is one" => "jumped off the ladder",
    PushedOff: "a push from outside is stronger than gravity" => "pushed off the ground",
    LiftedOff: "a thrust is held that is stronger than gravity" => "lifted off",
    LetGo: "away is held, or grab no longer" => "let go of the wall",
    LostGround: "nothing supports" => "lost the ground",
    Bounced: "what supports throws up" => "bounced",
    FoundGround: "something supports" => "found ground",
    CameToGround: "nothing is held any more, and something supports" => "let go, on the ground",
    LostHold: "nothing is held any more" => "let go",
}

use Change::{
    Bounced, CameToGround, CarriedOff, DroppedThrough, Flapped, FoundGround, JumpedFromGround, JumpedInAir,
    JumpedInCoyoteTime, JumpedOffLadder, JumpedOffWall, LetGo, LiftedOff, LostGround, LostHold, PushedOff, TookLadder,
    TookWall,
};
use Moment::{Carry, Decide, Land, Push, Sense};

/// The ways out of a mode at a moment, in the order in which they are looked at: the first that is due is taken. (One
/// who holds on bounces only if nothing is held any more.)
#[rustfmt::skip]
pub(crate) fn ways(from: ModeKind, moment: Moment) -> &'static [Way] {
    match (from, moment) {
        (Ground, Carry) => const { &[way(CarriedOff, Air)] },
        (Ground, Decide) => const { &[
            way(TookLadder, Ladder), way(TookWall, Hold), way(DroppedThrough, Air), way(JumpedFromGround, Air),
            way(Flapped, Air),
        ] },
        (Air, Decide) => const { &[
            way(TookLadder, Ladder), way(TookWall, Hold), way(JumpedInCoyoteTime, Air), way(JumpedOffWall, Air),
            way(JumpedInAir, Air), way(Flapped, Air),
        ] },
        (Ladder, Decide) => const { &[way(JumpedOffLadder, Air)] },
        (Hold, Decide) => const { &[way(JumpedOffWall, Air), way(LetGo, Air)] },
        (Ground, Push) => const { &[way(PushedOff, Air), way(LiftedOff, Air)] },
        (Air, Land) => const { &[way(Bounced, Air)] },
        (Ground, Sense) => const { &[way(LostGround, Air), way(Bounced, Air)] },
        (Air, Sense) => const { &[way(Bounced, Air), way(FoundGround, Ground)] },
        (Ladder | Hold, Sense) => const { &[way(Bounced, Air), way(CameToGround, Ground), way(LostHold, Air)] },
        (Air | Ladder | Hold, Carry | Push) | (Ground | Ladder | Hold, Land) | (FourWay, _) => &[],
    }
}

const fn way(change: Change, to: ModeKind) -> Way {
    Way { change, to }
}

#[cfg(test)]
mod tests {
    use super::*;
    use alloc::{format, string::String, vec::Vec};

    /// The rows of the table in `docs/model.md`.
    fn rows() -> Vec<String> {
        let mut rows = Vec::new();
        for moment in Moment::ALL {
            for from in ModeKind::ALL {
                rows.extend(ways(from, moment).iter().map(|way| {
                    let (condition, words) = way.change.words();
                    let (step, from, to) = (moment.step(), from.name(), way.to.name());
                    format!("| {from} | {step} | {condition} | {to} | {words} |")
                }));
            }
        }
        rows
    }

    #[test]
    fn the_documents_table_is_this_one() {
        let model = include_str!("../../../../docs/model.md");
        let rows = rows().join("\n");
        assert!(model.contains(&rows), "docs/model.md should have:\n{rows}");
    }

    #[test]
    fn every_change_is_on_some_way_and_leads_to_one_mode() {
        for change in Change::ALL {
            let all =
                ModeKind::ALL.into_iter().flat_map(|from| Moment::ALL.into_iter().flat_map(move |at| ways(from, at)));
            let mut to = all.filter(|way| way.change == *change).map(|way| way.to);
            let first = to.next().expect("a way");
            assert!(to.all(|other| other == first), "{change:?}");
        }
    }
}
