//! Which state follows from which: a table, and the one function that reads it.

use alloc::string::String;
use alloc::vec::Vec;
use core::fmt;
use core::ops::BitOr;

/// What governs a character's speeds. (`stand` and `run`, `rise`, `fall` and `wall-slide` are names within
/// a mode.)
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub enum Mode {
    /// Supported: no gravity.
    Ground,
    /// Not supported: gravity.
    Air,
    /// On a ladder: no gravity, speeds as commanded.
    Ladder,
    /// Holding on to a wall: no gravity, speeds as commanded.
    Hold,
}

impl Mode {
    /// All of them.
    pub const ALL: [Mode; 4] = [Mode::Ground, Mode::Air, Mode::Ladder, Mode::Hold];

    /// The word used in the table.
    pub fn name(self) -> &'static str {
        match self {
            Mode::Ground => "ground",
            Mode::Air => "air",
            Mode::Ladder => "ladder",
            Mode::Hold => "hold",
        }
    }
}

/// When in a tick the table is asked.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub enum Moment {
    /// Step 1: after the body was carried along.
    Carry,
    /// Step 3: what the player asks for, judged from where the body is at the start of the tick.
    Decide,
    /// Step 8: what was found around the body at the end of the tick.
    Settle,
}

impl Moment {
    /// All of them.
    pub const ALL: [Moment; 3] = [Moment::Carry, Moment::Decide, Moment::Settle];
}

/// What is so at a moment: a set of facts.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
pub struct Facts(u16);

impl Facts {
    /// None of them.
    pub const NONE: Facts = Facts(0);
    /// The feet are on a surface, with no upward speed.
    pub const SUPPORTED: Facts = Facts(1);
    /// A jump is asked for: pressed now or within the buffer time, or held where that repeats.
    pub const JUMP_ASKED: Facts = Facts(1 << 1);
    /// The tuning has a jump.
    pub const CAN_JUMP: Facts = Facts(1 << 2);
    /// The ground was lost no longer ago than the coyote time.
    pub const COYOTE_TIME: Facts = Facts(1 << 3);
    /// Jump was pressed in this very tick, an air jump is left, and none waits for the ground.
    pub const AIR_JUMP: Facts = Facts(1 << 4);
    /// A wall can be jumped off: touched, or no longer ago than its coyote time, and not barred.
    pub const WALL_JUMP: Facts = Facts(1 << 5);
    /// A ladder is asked for, and can be taken.
    pub const LADDER_ASKED: Facts = Facts(1 << 6);
    /// A wall's hold is asked for, and can be taken.
    pub const HOLD_ASKED: Facts = Facts(1 << 7);
    /// A drop is asked for, and nothing solid supports.
    pub const DROP_ASKED: Facts = Facts(1 << 8);
    /// The hold is let go: away is held, or grab no longer.
    pub const LETS_GO: Facts = Facts(1 << 9);
    /// The ladder, or the wall held, is still there, and no floor was come down upon.
    pub const STILL_HELD: Facts = Facts(1 << 10);
    /// What supports throws the body up.
    pub const BOUNCES: Facts = Facts(1 << 11);

    /// Every fact with its words.
    pub const NAMES: [(Facts, &'static str); 12] = [
        (Facts::SUPPORTED, "supported"),
        (Facts::JUMP_ASKED, "jump asked for"),
        (Facts::CAN_JUMP, "can jump"),
        (Facts::COYOTE_TIME, "coyote time"),
        (Facts::AIR_JUMP, "air jump"),
        (Facts::WALL_JUMP, "wall jump"),
        (Facts::LADDER_ASKED, "ladder asked for"),
        (Facts::HOLD_ASKED, "hold asked for"),
        (Facts::DROP_ASKED, "drop asked for"),
        (Facts::LETS_GO, "lets go"),
        (Facts::STILL_HELD, "still held"),
        (Facts::BOUNCES, "bounces"),
    ];

    /// The words of the facts in the set, separated by commas.
    pub fn words(self) -> String {
        let so: Vec<&str> =
            Facts::NAMES.iter().filter(|(fact, _)| self.contains(*fact)).map(|(_, name)| *name).collect();
        so.join(", ")
    }

    /// The fact itself if `so`, else none.
    #[inline]
    pub fn when(self, so: bool) -> Facts {
        if so { self } else { Facts::NONE }
    }

    /// Whether all of `other` are among these.
    #[inline]
    pub fn contains(self, other: Facts) -> bool {
        self.0 & other.0 == other.0
    }

    /// Whether none of `other` is among these.
    #[inline]
    pub fn excludes(self, other: Facts) -> bool {
        self.0 & other.0 == 0
    }

    /// Every combination of facts.
    pub fn combinations() -> impl Iterator<Item = Facts> {
        (0..1u16 << Facts::NAMES.len()).map(Facts)
    }
}

impl BitOr for Facts {
    type Output = Facts;
    #[inline]
    fn bitor(self, other: Facts) -> Facts {
        Facts(self.0 | other.0)
    }
}

/// Why a mode changed.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub enum Cause {
    /// A jump off the ground, or within the coyote time after it.
    JumpedFromGround,
    /// A jump off a ladder.
    JumpedOffLadder,
    /// A jump off a wall, or within its coyote time.
    JumpedOffWall,
    /// A jump in the air.
    JumpedInAir,
    /// A ladder was taken.
    TookLadder,
    /// A wall's hold was taken.
    TookWall,
    /// A one-way top was dropped through.
    DroppedThrough,
    /// A wall's hold was let go.
    LetGo,
    /// The ladder or the wall ended, or the body came down upon a floor.
    HoldEnded,
    /// The body was carried to where nothing supports it.
    CarriedOff,
    /// The ground is no longer under the feet, and nothing was done to leave it.
    LostGround,
    /// The feet are on a surface.
    FoundGround,
    /// The surface threw the body up.
    Bounced,
}

impl Cause {
    /// The words used in the diagram.
    pub fn name(self) -> &'static str {
        match self {
            Cause::JumpedFromGround => "jumped from the ground",
            Cause::JumpedOffLadder => "jumped off the ladder",
            Cause::JumpedOffWall => "jumped off the wall",
            Cause::JumpedInAir => "jumped in the air",
            Cause::TookLadder => "took the ladder",
            Cause::TookWall => "took the wall",
            Cause::DroppedThrough => "dropped through",
            Cause::LetGo => "let go",
            Cause::HoldEnded => "nothing held any more",
            Cause::CarriedOff => "carried off the ground",
            Cause::LostGround => "lost the ground",
            Cause::FoundGround => "found ground",
            Cause::Bounced => "bounced",
        }
    }
}

/// A row of the table.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Transition {
    /// The mode before.
    pub from: Mode,
    /// When it can happen.
    pub moment: Moment,
    /// Facts that must be so.
    pub needs: Facts,
    /// Facts that must not be so.
    pub forbids: Facts,
    /// The mode after.
    pub to: Mode,
    /// Why.
    pub cause: Cause,
}

/// A row as `docs/model.md` shows it.
impl fmt::Display for Transition {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let step = match self.moment {
            Moment::Carry => "step 1",
            Moment::Decide => "step 3",
            Moment::Settle => "step 8",
        };
        let (from, to, cause) = (self.from.name(), self.to.name(), self.cause.name());
        write!(f, "| {from} | {step} | {} | {} | {to} | {cause} |", self.needs.words(), self.forbids.words())
    }
}

const NONE: Facts = Facts::NONE;
const SUPPORTED: Facts = Facts::SUPPORTED;
const HELD: Facts = Facts::STILL_HELD;
const LADDER: Facts = Facts::LADDER_ASKED;
const HOLD: Facts = Facts::HOLD_ASKED;
const JUMP: Facts = Facts(Facts::JUMP_ASKED.0 | Facts::CAN_JUMP.0);
const COYOTE_JUMP: Facts = Facts(JUMP.0 | Facts::COYOTE_TIME.0);
const AIR_JUMP: Facts = Facts(JUMP.0 | Facts::AIR_JUMP.0);
const WALL_JUMP: Facts = Facts(Facts::JUMP_ASKED.0 | Facts::WALL_JUMP.0);
const BOUNCE: Facts = Facts(Facts::SUPPORTED.0 | Facts::BOUNCES.0);

use Cause::{
    Bounced, CarriedOff, DroppedThrough, FoundGround, HoldEnded, JumpedFromGround, JumpedInAir, JumpedOffLadder,
    JumpedOffWall, LetGo, LostGround, TookLadder, TookWall,
};
use Mode::{Air, Ground, Hold, Ladder};
use Moment::{Carry, Decide, Settle};

/// The first row that fits is taken.
#[rustfmt::skip]
static TABLE: [Transition; 23] = [
    row(Ground, Carry,  NONE,              SUPPORTED, Air,    CarriedOff),
    row(Ground, Decide, LADDER,            NONE,      Ladder, TookLadder),
    row(Ground, Decide, HOLD,              NONE,      Hold,   TookWall),
    row(Ground, Decide, Facts::DROP_ASKED, NONE,      Air,    DroppedThrough),
    row(Ground, Decide, JUMP,              NONE,      Air,    JumpedFromGround),
    row(Air,    Decide, LADDER,            NONE,      Ladder, TookLadder),
    row(Air,    Decide, HOLD,              NONE,      Hold,   TookWall),
    row(Air,    Decide, COYOTE_JUMP,       NONE,      Air,    JumpedFromGround),
    row(Air,    Decide, WALL_JUMP,         NONE,      Air,    JumpedOffWall),
    row(Air,    Decide, AIR_JUMP,          NONE,      Air,    JumpedInAir),
    row(Ladder, Decide, JUMP,              NONE,      Air,    JumpedOffLadder),
    row(Hold,   Decide, WALL_JUMP,         NONE,      Air,    JumpedOffWall),
    row(Hold,   Decide, Facts::LETS_GO,    NONE,      Air,    LetGo),
    row(Ground, Settle, NONE,              SUPPORTED, Air,    LostGround),
    row(Ground, Settle, BOUNCE,            NONE,      Air,    Bounced),
    row(Air,    Settle, BOUNCE,            NONE,      Air,    Bounced),
    row(Air,    Settle, SUPPORTED,         NONE,      Ground, FoundGround),
    row(Ladder, Settle, BOUNCE,            HELD,      Air,    Bounced),
    row(Ladder, Settle, SUPPORTED,         HELD,      Ground, HoldEnded),
    row(Ladder, Settle, NONE,              HELD,      Air,    HoldEnded),
    row(Hold,   Settle, BOUNCE,            HELD,      Air,    Bounced),
    row(Hold,   Settle, SUPPORTED,         HELD,      Ground, HoldEnded),
    row(Hold,   Settle, NONE,              HELD,      Air,    HoldEnded),
];

const fn row(from: Mode, moment: Moment, needs: Facts, forbids: Facts, to: Mode, cause: Cause) -> Transition {
    Transition { from, moment, needs, forbids, to, cause }
}

/// The whole table, in the order in which it is read.
pub fn transitions() -> &'static [Transition] {
    &TABLE
}

/// The row that applies, if the mode changes at all.
#[inline]
pub fn transition(from: Mode, moment: Moment, facts: Facts) -> Option<&'static Transition> {
    TABLE.iter().find(|row| {
        row.from == from && row.moment == moment && facts.contains(row.needs) && facts.excludes(row.forbids)
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Said again in plain words, so that a slip in the table is seen.
    fn expected(from: Mode, moment: Moment, facts: Facts) -> Option<Cause> {
        let so = |fact| facts.contains(fact);
        let jumps = so(Facts::JUMP_ASKED) && so(Facts::CAN_JUMP);
        let wall_jumps = so(Facts::JUMP_ASKED) && so(Facts::WALL_JUMP);
        match (moment, from) {
            (Moment::Carry, Ground) => (!so(SUPPORTED)).then_some(CarriedOff),
            (Moment::Carry, _) => None,
            (Moment::Decide, Ground | Air) if so(Facts::LADDER_ASKED) => Some(TookLadder),
            (Moment::Decide, Ground | Air) if so(Facts::HOLD_ASKED) => Some(TookWall),
            (Moment::Decide, Ground) if so(Facts::DROP_ASKED) => Some(DroppedThrough),
            (Moment::Decide, Ground) => jumps.then_some(JumpedFromGround),
            (Moment::Decide, Air) if jumps && so(Facts::COYOTE_TIME) => Some(JumpedFromGround),
            (Moment::Decide, Air) if wall_jumps => Some(JumpedOffWall),
            (Moment::Decide, Air) => (jumps && so(Facts::AIR_JUMP)).then_some(JumpedInAir),
            (Moment::Decide, Ladder) => jumps.then_some(JumpedOffLadder),
            (Moment::Decide, Hold) if wall_jumps => Some(JumpedOffWall),
            (Moment::Decide, Hold) => so(Facts::LETS_GO).then_some(LetGo),
            (Moment::Settle, Ground) if !so(SUPPORTED) => Some(LostGround),
            (Moment::Settle, Air) if !so(SUPPORTED) => None,
            (Moment::Settle, Ground | Air) if so(Facts::BOUNCES) => Some(Bounced),
            (Moment::Settle, Ground) => None,
            (Moment::Settle, Air) => Some(FoundGround),
            (Moment::Settle, Ladder | Hold) if so(HELD) => None,
            (Moment::Settle, Ladder | Hold) if so(SUPPORTED) && so(Facts::BOUNCES) => Some(Bounced),
            (Moment::Settle, Ladder | Hold) => Some(HoldEnded),
        }
    }

    #[test]
    fn the_documents_table_is_this_one() {
        let model = include_str!("../../../../docs/model.md");
        let rows: Vec<String> =
            transitions().iter().map(|row| alloc::format!("{row}").replace("|  |", "| |")).collect();
        assert!(model.contains(&rows.join("\n")), "docs/model.md should have:\n{}", rows.join("\n"));
    }

    #[test]
    fn every_mode_with_every_combination_of_facts() {
        let mut taken = alloc::collections::BTreeSet::new();
        for from in Mode::ALL {
            for moment in Moment::ALL {
                for facts in Facts::combinations() {
                    let found = transition(from, moment, facts);
                    if let (Some(row), Ladder | Hold, Settle) = (found, from, moment) {
                        let stays = facts.contains(SUPPORTED) && facts.excludes(Facts::BOUNCES);
                        assert_eq!(row.to == Ground, stays);
                    }
                    assert_eq!(
                        found.map(|row| row.cause),
                        expected(from, moment, facts),
                        "{from:?} {moment:?} {facts:?}"
                    );
                    taken.extend(found.map(|row| transitions().iter().position(|other| other == row)));
                }
            }
        }
        assert_eq!(taken.len(), transitions().len(), "a row that nothing reaches");
    }
}
