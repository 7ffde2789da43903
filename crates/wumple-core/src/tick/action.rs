//! What can be due.

use alloc::vec::Vec;

use super::why::LetGo;
use crate::collide::{Ladder, Wall};
use crate::platforms::MoverId;
use crate::states::Ground;

/// Something due, with what it is about and why.
#[derive(Debug)]
pub(super) enum Action {
    BeCarriedOff,
    TakeLadder {
        ladder: Ladder,
        off_centre: f64,
    },
    TakeWall(Wall),
    DropThrough(Vec<MoverId>),
    JumpFromGround {
        lost_ago: Option<u64>,
    },
    JumpOffLadder,
    JumpOffWall {
        wall: Wall,
        lost_ago: Option<u64>,
    },
    JumpInAir,
    Flap,
    BePushedOff,
    LiftOff,
    LetGo(LetGo),
    LoseGround,
    Bounce(Ground),
    FindGround(Ground),
    /// What was held is no longer there, or a floor was come down upon.
    LoseHold {
        onto: Option<Ground>,
    },
}
