//! Which state follows from which: a table, and the one function that reads it.

use alloc::string::String;
use alloc::vec::Vec;
use core::fmt;
use core::ops::BitOr;

/// What governs a character's speeds. (`stand` and `run`, `rise` and `fall` are names within a mode.)
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub enum Mode {
    /// Supported: no gravity.
    Ground,
    /// Not supported: gravity.
    Air,
}

impl Mode {
    /// All of them.
    pub const ALL: [Mode; 2] = [Mode::Ground, Mode::Air];

    /// The word used in the table.
    pub fn name(self) -> &'static str {
        match self {
            Mode::Ground => "ground",
            Mode::Air => "air",
        }
    }
}

/// When in a tick the table is asked.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub enum Moment {
    /// Step 3: what the player asks for, judged from where the body is at the start of the tick.
    Decide,
    /// Step 8: what was found around the body at the end of the tick.
    Settle,
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

    /// Every fact with its words.
    pub const NAMES: [(Facts, &'static str); 5] = [
        (Facts::SUPPORTED, "supported"),
        (Facts::JUMP_ASKED, "jump asked for"),
        (Facts::CAN_JUMP, "can jump"),
        (Facts::COYOTE_TIME, "coyote time"),
        (Facts::AIR_JUMP, "air jump"),
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
    /// A jump in the air.
    JumpedInAir,
    /// The ground is no longer under the feet, and nothing was done to leave it.
    LostGround,
    /// The feet are on a surface.
    FoundGround,
}

impl Cause {
    /// The words used in the diagram.
    pub fn name(self) -> &'static str {
        match self {
            Cause::JumpedFromGround => "jumped from the ground",
            Cause::JumpedInAir => "jumped in the air",
            Cause::LostGround => "lost the ground",
            Cause::FoundGround => "found ground",
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
            Moment::Decide => "step 3",
            Moment::Settle => "step 8",
        };
        let (from, to, cause) = (self.from.name(), self.to.name(), self.cause.name());
        write!(f, "| {from} | {step} | {} | {} | {to} | {cause} |", self.needs.words(), self.forbids.words())
    }
}

const NONE: Facts = Facts::NONE;
const JUMP: Facts = Facts(Facts::JUMP_ASKED.0 | Facts::CAN_JUMP.0);
const COYOTE_JUMP: Facts = Facts(JUMP.0 | Facts::COYOTE_TIME.0);
const AIR_JUMP: Facts = Facts(JUMP.0 | Facts::AIR_JUMP.0);

/// The first row that fits is taken.
#[rustfmt::skip]
static TABLE: [Transition; 5] = [
    row(Mode::Ground, Moment::Decide, JUMP,             NONE,             Mode::Air,    Cause::JumpedFromGround),
    row(Mode::Air,    Moment::Decide, COYOTE_JUMP,      NONE,             Mode::Air,    Cause::JumpedFromGround),
    row(Mode::Air,    Moment::Decide, AIR_JUMP,         NONE,             Mode::Air,    Cause::JumpedInAir),
    row(Mode::Ground, Moment::Settle, NONE,             Facts::SUPPORTED, Mode::Air,    Cause::LostGround),
    row(Mode::Air,    Moment::Settle, Facts::SUPPORTED, NONE,             Mode::Ground, Cause::FoundGround),
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
        match (from, moment) {
            (Mode::Ground, Moment::Decide) if jumps => Some(Cause::JumpedFromGround),
            (Mode::Air, Moment::Decide) if jumps && so(Facts::COYOTE_TIME) => Some(Cause::JumpedFromGround),
            (Mode::Air, Moment::Decide) if jumps && so(Facts::AIR_JUMP) => Some(Cause::JumpedInAir),
            (Mode::Ground, Moment::Settle) if !so(Facts::SUPPORTED) => Some(Cause::LostGround),
            (Mode::Air, Moment::Settle) if so(Facts::SUPPORTED) => Some(Cause::FoundGround),
            _ => None,
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
            for moment in [Moment::Decide, Moment::Settle] {
                for facts in Facts::combinations() {
                    let found = transition(from, moment, facts);
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
