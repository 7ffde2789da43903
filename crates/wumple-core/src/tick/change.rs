//! The ways out of a mode, looked at one by one, and the first that is due gone.

use super::Listener;
use super::act::act;
use super::action::Action;
use super::decide::{
    drop_asked_for, hold_asked_for, is_air_jump_due, is_in_coyote_time, is_jump_asked_for, ladder_asked_for,
    reason_to_let_go, wall_to_jump_off,
};
use super::turn::{Senses, Turn};
use crate::states::{Change, Ground, Moment, ways};
use crate::terrain::Terrain;

/// Looks at the ways out of the mode that there are at this moment, and goes the first that is due.
pub(super) fn choose<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>, moment: Moment) {
    for way in ways(turn.body.mode.kind(), moment) {
        if let Some(action) = due(turn, way.change) {
            act(turn, action);
            debug_assert_eq!(turn.body.mode.kind(), way.to, "{way:?}");
            return;
        }
    }
}

/// What a change is about, if it is due.
fn due<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>, change: Change) -> Option<Action> {
    let can_jump = turn.body.tuning.jump().is_some();
    match change {
        Change::CarriedOff => Some(Action::BeCarriedOff),
        Change::TookLadder => ladder_asked_for(turn),
        Change::TookWall => hold_asked_for(turn),
        Change::DroppedThrough => drop_asked_for(turn),
        Change::JumpedFromGround => {
            (is_jump_asked_for(turn) && can_jump).then_some(Action::JumpFromGround { lost_ago: None })
        }
        Change::JumpedInCoyoteTime => {
            let lost_ago = turn.body.mode.air().and_then(|air| air.without_ground_for(turn.tick()));
            let due = is_jump_asked_for(turn) && can_jump && is_in_coyote_time(turn);
            due.then_some(Action::JumpFromGround { lost_ago })
        }
        Change::JumpedOffLadder => (is_jump_asked_for(turn) && can_jump).then_some(Action::JumpOffLadder),
        Change::JumpedOffWall => {
            let wall = is_jump_asked_for(turn).then(|| wall_to_jump_off(turn.body).ok()).flatten();
            wall.map(|(wall, lost_ago)| Action::JumpOffWall { wall, lost_ago })
        }
        Change::JumpedInAir => is_air_jump_due(turn).then_some(Action::JumpInAir),
        Change::LetGo => reason_to_let_go(turn).map(Action::LetGo),
        Change::LostGround | Change::Bounced | Change::FoundGround | Change::CameToGround | Change::LostHold => {
            due_by_senses(turn, change)
        }
    }
}

/// What a change that follows from what was found is about, if it is due.
fn due_by_senses<T: Terrain, L: Listener>(turn: &Turn<'_, T, L>, change: Change) -> Option<Action> {
    let Senses { ground, held } = turn.senses;
    let free = !(turn.body.mode.climbs() && held);
    let bounces = |ground: &Ground| ground.material.bounce.is_some() && !turn.is_tick_0;
    match change {
        Change::LostGround => ground.is_none().then_some(Action::LoseGround),
        Change::Bounced => ground.filter(|ground| bounces(ground) && free).map(Action::Bounce),
        Change::FoundGround => ground.map(Action::FindGround),
        Change::CameToGround => ground.filter(|_| free).map(|ground| Action::LoseHold { onto: Some(ground) }),
        Change::LostHold => free.then_some(Action::LoseHold { onto: None }),
        _ => None,
    }
}
