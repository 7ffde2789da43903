//! Steps 2 and 3: what the player holds, and what is due because of it.

use core::num::NonZeroU64;

use glam::DVec2;

use super::action::Action;
use super::outside::Forces;
use super::turn::{Pressed, Turn};
use super::why::{Decision, Forgotten, HoldRefusal, JumpRefusal, LadderRefusal, LetGo, NoWallJump};
use super::{Character, Listener};
use crate::collide::{Dropping, JOIN, Ladder, Ladders, Surroundings, Wall};
use crate::input::{Buttons, Intent};
use crate::states::{ClimbOver, Mode, WallHold, way_down_within};
use crate::terrain::{Features, Terrain};
use crate::tuning::{DropRule, FlightBy, HoldWhen, SlideWhen, SteerWhen};

/// Whether the player may ask for something: mostly nothing is.
#[inline(always)]
pub(super) fn may_be_asked<T: Terrain, L: Listener>(turn: &Turn<'_, T, L>) -> bool {
    let body = &*turn.body;
    let ladder = || body.tuning.ladder().is_some() && turn.scene.terrain.features().has(Features::LADDER);
    let hold = || body.tuning.wall().hold.is_some_and(|hold| hold.when == HoldWhen::Touched || body.held.grab);
    body.pressed_at.is_some()
        || (body.jump_held && body.tuning.repeats_held())
        || turn.pressed.down
        || body.mode.climbs()
        || (turn.intent.climbing != 0.0 && ladder())
        || (body.walls.touched.any() && hold())
}

/// Step 2: takes over what is held.
#[inline(always)]
pub(super) fn take_buttons<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>, buttons: &Buttons) {
    // Mostly it is what was held in the tick before.
    if *buttons != turn.body.held {
        take_other_buttons(turn, buttons);
    }
    turn.intent = turn.body.intent;
}

/// Step 2 of a body that the player has not quite in hand. While it is away, what was held stays held; when it is back,
/// what is held by then is no press. For a while after a launch directions count as none.
#[cold]
pub(super) fn take_buttons_driven<T: Terrain, L: Listener>(
    turn: &mut Turn<'_, T, L>,
    buttons: &Buttons,
    forces: Forces,
) {
    if forces.uncontrolled {
        turn.intent = Intent::NONE;
        return;
    }
    take_buttons(turn, buttons);
    if forces.nothing_pressed {
        (turn.pressed, turn.body.pressed_at) = (Pressed::default(), None);
    }
    if forces.undirected {
        turn.intent = Intent::NONE;
        (turn.pressed.up, turn.pressed.down) = (false, false);
    }
    steer_while_held(turn);
}

/// Up is jump as well where the tuning says so.
#[inline(never)]
fn take_other_buttons<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>, buttons: &Buttons) {
    let body = &mut *turn.body;
    let intent = Intent::running(buttons, body.runs_by_itself);
    let jump = buttons.jump || (buttons.up && body.tuning.ladder().is_some_and(|ladder| ladder.up_is_jump));
    let pressed = Pressed {
        jump: jump && !body.jump_held,
        up: intent.up() && !body.intent.up(),
        down: intent.down() && !body.intent.down(),
        grab: buttons.grab && !body.held.grab,
    };
    if let Mode::FourWay(four) = &mut body.mode {
        four.take(body.intent, intent);
    }
    (body.held, body.jump_held, body.intent) = (*buttons, jump, intent);
    if pressed.jump {
        body.pressed_at = NonZeroU64::new(body.report.tick);
    }
    if let Some(direction) = intent.direction() {
        body.last_direction = direction;
    }
    if pressed.up || pressed.down {
        body.ladder_barred = false;
    }
    if pressed.grab {
        body.walls.barred = None;
    }
    turn.pressed = pressed;
}

/// Just after a jump off a wall the direction back to it counts as none.
#[cold]
pub(super) fn apply_steer_lock<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>) {
    let tick = turn.tick();
    let Some(air) = turn.body.mode.air_mut() else { return };
    let Some(lock) = air.lock else { return };
    if tick > lock.until {
        air.lock = None;
        return;
    }
    let back = lock.push.opposite();
    if turn.intent.is_towards(back) {
        turn.note(|| Decision::SteerLocked { until: lock.until });
    }
    turn.intent = turn.intent.without(back);
}

/// The button is up: that ends what holding it does for the jump under way, once.
#[inline(always)]
pub(super) fn release<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>) {
    let body = &mut *turn.body;
    let Mode::Air(air) = &mut body.mode else { return };
    let held = body.jump_held;
    if let Some(flight) = air.flight.as_mut().filter(|flight| flight.is_release_due(held)) {
        let before = -turn.velocity.y;
        turn.velocity.y = flight.release(&body.tuning, turn.feet.y, turn.velocity.y);
        let after = -turn.velocity.y;
        if before > 0.0 {
            turn.note(|| Decision::Released { before, after });
        }
    }
}

pub(super) fn forget_late_press<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>) {
    let Some(pressed) = turn.body.pressed_at else { return };
    if turn.tick() - pressed.get() > turn.body.tuning.buffer_ticks() {
        turn.forget_press(Forgotten::Late);
    }
}

pub(super) fn is_jump_asked_for<T: Terrain, L: Listener>(turn: &Turn<'_, T, L>) -> bool {
    let body = &*turn.body;
    body.pressed_at.is_some() || (body.mode.is_ground() && body.tuning.repeats_held() && body.jump_held)
}

/// How many ticks ago the ground was lost, if that is within the coyote time.
pub(super) fn lost_in_coyote_time<T: Terrain, L: Listener>(turn: &Turn<'_, T, L>) -> Option<u64> {
    let ticks = turn.body.tuning.coyote_ticks();
    let lost_ago = turn.body.mode.air()?.without_ground_for(turn.tick())?;
    (ticks > 0 && lost_ago <= ticks).then_some(lost_ago)
}

pub(super) fn is_air_jump_due<T: Terrain, L: Listener>(turn: &Turn<'_, T, L>) -> bool {
    turn.pressed.jump
        && turn.body.air_jumps_left > 0
        && turn.body.pressed_at.is_some()
        && turn.body.tuning.jump().is_some()
        && !waits_for_ground(turn)
}

pub(super) fn is_flap_due<T: Terrain, L: Listener>(turn: &Turn<'_, T, L>) -> bool {
    let Some(flight) = turn.body.tuning.flight().filter(|flight| flight.by == FlightBy::Flaps) else { return false };
    let may = flight.from_ground || !turn.body.mode.is_ground();
    turn.pressed.jump && turn.body.pressed_at.is_some() && may
}

/// Who steers only while it flies: in the air, with jump up, left and right count as not held.
#[cold]
fn steer_while_held<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>) {
    let body = &*turn.body;
    let steers_so = body.tuning.flight().is_some_and(|flight| flight.steer == SteerWhen::WhileHeld);
    let is_steered = !steers_so || body.jump_held || body.mode.air().is_none();
    if is_steered || turn.carried.crushed || turn.intent.steering == 0.0 {
        return;
    }
    turn.note(|| Decision::NotSteered);
    turn.intent.steering = 0.0;
}

/// The wall that a jump would be taken off, and how many ticks ago it was lost, if it was.
pub(super) fn wall_to_jump_off(body: &Character) -> Result<(Wall, Option<u64>), NoWallJump> {
    let (rules, walls, tick) = (body.tuning.wall(), &body.walls, body.report.tick);
    let Some(jump) = &rules.jump else { return Err(NoWallJump::NoWall) };
    let lost = walls
        .lost_last(body.last_direction)
        .filter(|(_, lost)| rules.coyote_ticks > 0 && tick - lost <= rules.coyote_ticks);
    let (wall, lost_ago) = match (&body.mode, walls.touched.chosen(body.last_direction), lost) {
        (Mode::Hold(hold), ..) => (hold.wall, None),
        (_, Some(touched), _) => (touched, None),
        (_, None, Some((wall, lost))) => (wall, Some(tick - lost)),
        (_, None, None) => return Err(NoWallJump::NoWall),
    };
    if !jump.same_wall && walls.jumped_off.is_some_and(|before| before.counts_as(&wall)) {
        return Err(NoWallJump::SameWall);
    }
    Ok((wall, lost_ago))
}

/// Whether a press in the air had better wait: the body will land within the buffer time, straight down, as gravity is
/// now.
fn waits_for_ground<T: Terrain, L: Listener>(turn: &Turn<'_, T, L>) -> bool {
    let (tuning, feet) = (&turn.body.tuning, turn.feet);
    let ticks = tuning.buffer_ticks();
    if !tuning.waits_for_ground() || turn.velocity.y < 0.0 || ticks == 0 {
        return false;
    }
    let flight = turn.body.mode.air().and_then(|air| air.flight);
    let by = way_down_within(tuning, flight, turn.velocity.y, turn.intent.down(), ticks);
    turn.around().first_floor(feet.x, feet.y, feet.y + by).is_some()
}

/// The ladder to be taken: up with one at the body, down with one below the feet.
pub(super) fn ladder_asked_for<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>) -> Option<Action> {
    let probe = turn.body.tuning.ladder()?.probe;
    // A ladder a tile further away than the probe is worth a word.
    let felt = turn.body.tuning.body().hitbox_at(turn.feet).grown(probe + turn.scene.terrain.grid_lines().spacing());
    if turn.intent.climbing == 0.0 || turn.scene.nearby.has_no_ladders(turn.scene.terrain, &felt) {
        return None;
    }
    let Some((ladder, off_centre)) = ladder_to_take(turn, probe) else {
        if turn.listener.listens() {
            // Nearly within reach: worth a word.
            let nearly = ladder_to_take(turn, probe + turn.scene.terrain.grid_lines().spacing());
            if let Some((_, by)) = nearly {
                turn.note(|| Decision::LadderRefused(LadderRefusal::OffCentre { by, probe }));
            }
        }
        return None;
    };
    if turn.body.ladder_barred {
        turn.note(|| Decision::LadderRefused(LadderRefusal::NotPressedAfresh));
        return None;
    }
    if turn.intent.down() && turn.body.mode.is_ground() && !may_drop(turn) {
        turn.note(|| Decision::LadderRefused(LadderRefusal::SolidBelow));
        return None;
    }
    Some(Action::TakeLadder { ladder, off_centre })
}

/// The ladder that up or down would take, and how far its middle is.
fn ladder_to_take<T: Terrain, L: Listener>(turn: &Turn<'_, T, L>, probe: f64) -> Option<(Ladder, f64)> {
    let (around, feet) = (turn.around(), turn.feet);
    let ladders = Ladders::around(&around);
    let ladder = if turn.intent.up() { ladders.at_body(feet, probe) } else { ladders.below(feet, probe) };
    ladder.map(|ladder| (ladder, (feet.x - ladder.centre(around.terrain)).abs()))
}

/// The wall to be held on to.
pub(super) fn hold_asked_for<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>) -> Option<Action> {
    let body = &*turn.body;
    let (hold, on_ground) = (body.tuning.wall().hold?, body.mode.is_ground());
    let wall = body.walls.touched.chosen(body.last_direction)?;
    let asked = match hold.when {
        HoldWhen::Touched => !on_ground,
        HoldWhen::GrabHeld => body.held.grab,
    };
    if !asked {
        return None;
    }
    let refusal = if on_ground && !hold.from_ground {
        HoldRefusal::OnGround
    } else if hold.when == HoldWhen::Touched && !hold.while_rising && turn.velocity.y < 0.0 {
        HoldRefusal::Rising
    } else if turn.intent.is_towards(wall.side.opposite()) {
        HoldRefusal::AwayHeld
    } else if body.walls.barred.is_some_and(|barred| barred.is(&wall)) {
        HoldRefusal::NotPressedAfresh
    } else if !turn.around().wall_spans(wall, body.middle(turn.feet.y)) {
        HoldRefusal::BesideMiddle
    } else {
        return Some(Action::TakeWall(wall));
    };
    turn.note(|| Decision::HoldRefused(refusal));
    None
}

/// Why a wall that is held is let go in this tick.
pub(super) fn reason_to_let_go<T: Terrain, L: Listener>(turn: &Turn<'_, T, L>) -> Option<LetGo> {
    let Mode::Hold(WallHold { wall, over }) = turn.body.mode else { return None };
    let rule = turn.body.tuning.wall().hold?;
    if turn.intent.is_towards(wall.side.opposite()) {
        Some(LetGo::AwayHeld)
    } else if rule.when == HoldWhen::GrabHeld && !turn.body.held.grab && over == ClimbOver::None {
        Some(LetGo::GrabReleased)
    } else {
        None
    }
}

pub(super) fn drop_asked_for<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>) -> Option<Action> {
    let asked = match turn.body.tuning.drop_rule() {
        DropRule::Down => turn.pressed.down,
        DropRule::DownAndJump => turn.pressed.jump && turn.intent.down(),
        DropRule::Off => false,
    };
    if !asked {
        return None;
    }
    if !may_drop(turn) {
        turn.note(|| Decision::DropRefused);
        return None;
    }
    Some(Action::DropThrough(turn.movers_to_drop_through()))
}

/// Whether nothing solid supports, nor would be met once what supports no longer holds: what a drawn ramp leads up to
/// is solid again below it.
fn may_drop<T: Terrain, L: Listener>(turn: &Turn<'_, T, L>) -> bool {
    let Mode::Ground(ground) = &turn.body.mode else { return false };
    let free = || {
        let below = DVec2::new(turn.feet.x, turn.feet.y + 2.0 * JOIN);
        let dropping = &Dropping::through_terrain(turn.feet);
        Surroundings { dropping, ..turn.around() }.fits(below)
    };
    !ground.solid && (!turn.scene.terrain.features().has(Features::DRAWN_RAMP) || free())
}

/// Whether the body slides down along a wall in this tick.
#[inline(always)]
pub(super) fn slide<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>) {
    let body = &mut *turn.body;
    let Mode::Air(air) = &mut body.mode else { return };
    let before = air.sliding.take();
    if !body.walls.touched.any() {
        return;
    }
    let Some(slide) = body.tuning.wall().slide else { return };
    let goes_on = before.is_some() && turn.velocity.y == 0.0;
    let Some(wall) = body.walls.touched.chosen(body.last_direction) else { return };
    if turn.velocity.y <= 0.0 && !goes_on {
        return;
    }
    if slide.when == SlideWhen::Touched || turn.intent.is_towards(wall.side) {
        air.sliding = Some(wall.side);
        if before.is_none() {
            let (side, before, top_speed) = (wall.side, turn.velocity.y, slide.top_speed);
            turn.note(|| Decision::Slides { side, before, top_speed });
        }
    } else if before.is_some() {
        turn.note(|| Decision::SlideRefused(wall.side));
    }
}

/// A press of this very tick that nothing came of: why, and until when it is kept.
#[cold]
pub(super) fn note_refused_press<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>) {
    let body = &*turn.body;
    let (tick, tuning) = (body.report.tick, &body.tuning);
    if !turn.pressed.jump || body.pressed_at.is_none_or(|pressed| pressed.get() != tick) {
        return;
    }
    if turn.thrust().is_some() && (body.mode.air().is_some() || tuning.jump().is_none()) {
        // It is good for the thrust.
        return;
    }
    let buffer = tuning.buffer_ticks();
    let lost_ago = body.mode.air().and_then(|air| air.without_ground_for(tick));
    let refusal = JumpRefusal {
        no_jump: tuning.jump().is_none(),
        flaps_in_air_only: body.mode.is_ground() && tuning.flight().is_some_and(|flight| !flight.from_ground),
        holding: matches!(body.mode, Mode::Hold(_)),
        in_air_for: lost_ago.map(|lost_ago| (lost_ago, tuning.coyote_ticks())),
        wall: tuning.wall().jump.and_then(|_| wall_to_jump_off(body).err()),
        air_jumps_spent: tuning.air_jumps() > 0 && body.air_jumps_left == 0,
        waits_for_ground: tuning.air_jumps() > 0 && body.air_jumps_left > 0,
        kept_until: (buffer > 0).then_some(tick + buffer),
    };
    turn.note(|| Decision::JumpRefused(refusal));
}
