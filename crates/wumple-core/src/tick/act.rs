//! The one place where a body's mode changes, and what comes with each change.

use alloc::vec::Vec;
use core::num::NonZeroU64;

use glam::DVec2;

use super::action::Action;
use super::leave::{speed_taken_along, take_along};
use super::turn::{Stopped, Turn};
use super::why::{Decision, Forgotten, LetGo};
use super::{Character, Event, JumpedFrom, Listener};
use crate::collide::{Ladder, Wall};
use crate::platforms::MoverId;
use crate::states::{Air, ClimbOver, Flight, Ground, Mode, OnLadder, SteerLock, WallHold};
use crate::terrain::Terrain;

/// Does what is due.
#[inline(never)]
pub(super) fn act<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>, action: Action) {
    turn.body.mode = match action {
        Action::JumpFromGround { lost_ago } => jump_from_ground(turn, JumpedFrom::Ground, lost_ago),
        Action::JumpOffLadder => {
            turn.body.ladder_barred = true;
            jump_from_ground(turn, JumpedFrom::Ladder, None)
        }
        Action::JumpOffWall { wall, lost_ago } => jump_off_wall(turn, wall, lost_ago),
        Action::JumpInAir => jump_in_air(turn),
        Action::Flap => flap(turn),
        Action::LiftOff => lift_off(turn),
        Action::TakeLadder { ladder, off_centre } => take_ladder(turn, ladder, off_centre),
        Action::TakeWall(wall) => take_wall(turn, wall),
        Action::DropThrough(movers) => drop_through(turn, movers),
        Action::LetGo(why) => {
            turn.note(|| Decision::LetGo(why));
            let_go(turn);
            Mode::Air(Air::default())
        }
        Action::LoseHold { onto } => lose_hold(turn, onto),
        Action::BeCarriedOff => {
            turn.carried.off = true;
            Mode::Air(Air::off_ground(turn.tick()))
        }
        Action::BePushedOff => {
            turn.tell(Event::LostGround);
            Mode::Air(Air::off_ground(turn.tick()))
        }
        Action::LoseGround => lose_ground(turn),
        Action::FindGround(ground) => find_ground(turn, ground),
        Action::Bounce(ground) => bounce(turn, &ground),
    };
}

/// The body's motion in the air, if it is there already.
fn in_air(body: &Character) -> Air {
    body.mode.air().copied().unwrap_or_default()
}

fn jump_from_ground<T: Terrain, L: Listener>(
    turn: &mut Turn<'_, T, L>,
    from: JumpedFrom,
    lost_ago: Option<u64>,
) -> Mode {
    turn.velocity.y = -turn.body.tuning.jump().map_or(0.0, |jump| jump.speed);
    let air = take_off(turn, Flight::off_ground(turn.feet.y), from, lost_ago);
    if from == JumpedFrom::Ground {
        let speed = speed_taken_along(turn);
        take_along(turn, speed);
    }
    air
}

/// What all jumps have in common.
#[cold]
fn take_off<T: Terrain, L: Listener>(
    turn: &mut Turn<'_, T, L>,
    flight: Flight,
    from: JumpedFrom,
    lost_ago: Option<u64>,
) -> Mode {
    let pressed = turn.body.pressed_at.map(NonZeroU64::get);
    turn.note(|| Decision::Jumped { from, pressed, lost_ago });
    turn.left_ground = true;
    (turn.body.pressed_at, turn.body.walls.lost) = (None, [None; 2]);
    turn.tell(Event::Jumped(from));
    let flight = flight.let_go_before(!turn.body.jump_held);
    Mode::Air(in_air(turn.body).with(flight))
}

#[cold]
fn jump_off_wall<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>, wall: Wall, lost_ago: Option<u64>) -> Mode {
    let Some(jump) = turn.body.tuning.wall().jump else { return turn.body.mode };
    let push = wall.side.opposite();
    turn.velocity = DVec2::new(push.sign() * jump.push_speed, -jump.jump.speed);
    let (held, walls) = (matches!(turn.body.mode, Mode::Hold(_)), &mut turn.body.walls);
    (walls.jumped_off, walls.spent) = (Some(wall), lost_ago.is_none().then_some(wall));
    if held {
        walls.barred = Some(wall);
    }
    turn.intent = turn.intent.without(wall.side);
    let mut mode = take_off(turn, Flight::off_wall(turn.feet.y), JumpedFrom::Wall, lost_ago);
    if let Mode::Air(air) = &mut mode {
        (air.lock, air.bump) = (Some(SteerLock { push, until: turn.tick() + jump.lock_ticks }), None);
    }
    let speed = speed_taken_along(turn);
    take_along(turn, speed);
    mode
}

fn jump_in_air<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>) -> Mode {
    // An air jump never makes a rise slower.
    let own = turn.body.tuning.air_jump().map_or(0.0, |jump| jump.speed);
    turn.velocity.y = turn.velocity.y.min(-own);
    turn.body.air_jumps_left -= 1;
    take_off(turn, Flight::in_air(turn.feet.y), JumpedFrom::Air, None)
}

/// A flap adds to the upward speed. It is no jump: it ends the one under way, with its release and its hang.
fn flap<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>) -> Mode {
    let lift = turn.body.tuning.flight().map_or(0.0, |flight| flight.lift);
    let (before, after) = (-turn.velocity.y, lift - turn.velocity.y);
    turn.note(|| Decision::Flapped { before, after });
    turn.tell(Event::Flapped);
    turn.velocity.y = -after;
    (turn.body.pressed_at, turn.body.walls.lost) = (None, [None; 2]);
    if turn.body.mode.is_ground() {
        turn.left_ground = true;
        let speed = speed_taken_along(turn);
        take_along(turn, speed);
    }
    Mode::Air(Air { flight: None, lost_ground_at: None, ..in_air(turn.body) })
}

/// A thrust lifts the body off the ground.
fn lift_off<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>) -> Mode {
    turn.left_ground = true;
    turn.tell(Event::LostGround);
    let speed = speed_taken_along(turn);
    take_along(turn, speed);
    Mode::Air(Air::default())
}

#[cold]
fn take_ladder<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>, ladder: Ladder, off_centre: f64) -> Mode {
    turn.note(|| Decision::TookLadder { off_centre });
    turn.forget_press(Forgotten::TookLadder);
    if turn.body.mode.is_ground() && turn.intent.down() {
        // The shelf, the platform or the ladder's own top that is stood on lets the body down.
        let movers = turn.movers_to_drop_through();
        turn.body.dropping.begin(turn.feet, movers);
    }
    catch_hold(turn);
    turn.body.walls.jumped_off = None;
    // Of the steer lock that this ends nothing is left in this tick.
    turn.intent = turn.body.intent;
    turn.body.air_jumps_left = turn.body.tuning.most_air_jumps();
    turn.tell(Event::TookLadder);
    Mode::Ladder(OnLadder { ladder })
}

#[cold]
fn take_wall<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>, wall: Wall) -> Mode {
    turn.note(|| Decision::TookWall(wall.side));
    turn.forget_press(Forgotten::TookWall);
    catch_hold(turn);
    if turn.body.tuning.wall().hold.is_some_and(|hold| hold.spends_air_jumps) {
        turn.body.air_jumps_left = 0;
    }
    turn.tell(Event::TookWall);
    Mode::Hold(WallHold { wall, over: ClimbOver::None })
}

/// What a ladder and a wall's hold have in common.
fn catch_hold<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>) {
    turn.left_ground = true;
    turn.velocity = DVec2::ZERO;
    turn.body.walls.lost = [None; 2];
}

#[cold]
fn drop_through<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>, movers: Vec<MoverId>) -> Mode {
    turn.note(|| Decision::Dropped);
    turn.body.dropping.begin(turn.feet, movers);
    turn.forget_press(Forgotten::Dropped);
    turn.left_ground = true;
    turn.tell(Event::DroppedThrough);
    let speed = speed_taken_along(turn);
    take_along(turn, DVec2::new(speed.x, 0.0));
    Mode::Air(Air::default())
}

/// The ladder or the wall is let go other than by a jump.
fn let_go<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>) {
    turn.velocity.y = 0.0;
    if let Mode::Hold(hold) = turn.body.mode {
        turn.body.walls.barred = Some(hold.wall);
        turn.tell(Event::LetGoOfWall);
    } else {
        turn.tell(Event::LetGoOfLadder);
    }
}

/// What was held is no longer there, or a floor was come down upon.
#[cold]
fn lose_hold<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>, onto: Option<Ground>) -> Mode {
    let why = match turn.travelled.stopped {
        Some(Stopped::AtFloor) => LetGo::Floor,
        Some(Stopped::OnTheWayOver) => LetGo::WayOverStopped,
        None => LetGo::Ended,
    };
    turn.note(|| Decision::LetGo(why));
    let_go(turn);
    let Some(ground) = onto else { return Mode::Air(Air::default()) };
    touch_ground(turn.body);
    Mode::Ground(ground)
}

fn lose_ground<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>) -> Mode {
    turn.tell(Event::LostGround);
    if !turn.carried.pushed {
        let speed = speed_taken_along(turn);
        take_along(turn, speed);
    }
    Mode::Air(Air::off_ground(turn.tick()))
}

fn find_ground<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>, ground: Ground) -> Mode {
    if !turn.travelled.landed {
        turn.tell(Event::Landed { speed: turn.velocity.y });
    }
    turn.velocity.y = 0.0;
    touch_ground(turn.body);
    Mode::Ground(ground)
}

/// What touching ground gives back and ends.
fn touch_ground(body: &mut Character) {
    body.outside.drop_rest_y();
    body.air_jumps_left = body.tuning.most_air_jumps();
    body.walls.forget_all();
}

/// What is stood on throws the body up.
#[cold]
fn bounce<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>, ground: &Ground) -> Mode {
    if turn.body.mode.climbs() {
        lose_hold(turn, None);
        // What is held leads back onto it in the next tick.
        turn.body.ladder_barred = true;
    }
    let (speed, flight) = thrown_up(turn, ground);
    turn.borne_by = ground.support.mover();
    touch_ground(turn.body);
    turn.left_ground = true;
    turn.velocity.y = -speed;
    turn.tell(Event::Bounced(ground.support));
    let flight = flight.let_go_before(!turn.body.jump_held);
    Mode::Air(Air::default().with(flight))
}

/// The upward speed with which ground throws the body up, and what comes of it. What throws up by itself goes before the
/// body's own springing.
fn thrown_up<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>, ground: &Ground) -> (f64, Flight) {
    if let Some(bounce) = ground.material.bounce {
        let jump = turn.body.tuning.bounce(bounce.height, bounce.release);
        return (jump.speed, Flight::bounced(turn.feet.y, jump));
    }
    turn.note(|| Decision::JumpedOnLanding);
    let speed = turn.body.tuning.jump().map_or(0.0, |jump| jump.speed);
    (speed, Flight::off_ground(turn.feet.y))
}
