//! Steps 5 to 7: where the body goes.

use glam::DVec2;

use super::change::choose;
use super::crush::{be_caught, be_crushed, is_faster};
use super::sense::find_support;
use super::turn::{Senses, Stopped, Turn};
use super::{Decision, Event, Listener, Piece, four_way};
use crate::collide::{Floor, Footing, JOIN, Ladders, SetDown, Surroundings, sweep_x_from, sweep_y_from};
use crate::input::Facing;
use crate::platforms::{Mover, Movers};
use crate::states::{Bump, ClimbOver, Ground, Mode, ModeKind, Moment, WallHold};
use crate::terrain::{Features, Terrain};
use crate::tuning::AtWall;

/// How many tiles below a body that walked off an edge the next floor is worth a word.
const WORTH_TELLING: f64 = 4.0;

/// A speed that a wall took is given back once the way is free.
#[cold]
pub(super) fn give_bump_back<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>) {
    let (tick, memory) = (turn.tick(), turn.body.tuning.bump_memory_ticks());
    let Some(air) = turn.body.mode.air_mut() else { return };
    let Some(bump) = air.bump else { return };
    let towards = turn.intent.steering * bump.speed;
    if tick - bump.tick > memory || towards < 0.0 {
        air.bump = None;
        return;
    }
    if towards <= 0.0 {
        return;
    }
    let ahead = turn.feet.x + JOIN.copysign(bump.speed);
    let free = !turn.around().walk(turn.feet, ahead, Footing::Air).blocked;
    if free && turn.velocity.x * bump.speed.signum() < bump.speed.abs() {
        turn.velocity.x = bump.speed;
        turn.note(|| Decision::BumpGivenBack { speed: bump.speed });
    }
}

/// Step 5: a face stops the body flush and clears its speed.
#[inline(always)]
pub(super) fn move_x<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>, by: f64) {
    let from = turn.feet.x;
    let mut to = from + turn.body.in_pixels(DVec2::new(by, 0.0)).x;
    if let Mode::Hold(hold) = &turn.body.mode {
        to = hold.stops_at(to);
    }
    let blocked = if to == from {
        turn.velocity.x != 0.0 && is_pressed_against_face(turn)
    } else if turn.plain {
        let body = turn.body.tuning.body();
        let swept = sweep_x_from(turn.scene.terrain, body, &turn.cells, from, to);
        turn.feet.x = swept.place;
        turn.cells.follow_x(turn.scene.terrain.grid_lines(), body, from, swept.place);
        swept.blocked && (highest_step(turn) == 0.0 || walk(turn, to))
    } else {
        walk(turn, to)
    };
    if blocked {
        be_stopped(turn);
    }
}

/// A face stopped the body on its way along x.
fn be_stopped<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>) {
    turn.body.outside.drop_rest_x();
    match turn.body.mode.kind() {
        ModeKind::Ground | ModeKind::Air => {
            remember_bump(turn);
            turn_at_wall(turn);
            turn.velocity.x = 0.0;
        }
        // The speed there is the one commanded.
        ModeKind::Ladder => {}
        ModeKind::Hold => turn.travelled.stopped = Some(Stopped::OnTheWayOver),
        ModeKind::FourWay => {
            // At rest by itself by then, it does not press on.
            let facing = if turn.velocity.x < 0.0 { Facing::Left } else { Facing::Right };
            turn.travelled.stopped_x = (turn.velocity.x != 0.0).then_some(facing);
            turn.velocity.x = 0.0;
        }
    }
}

/// Who runs by itself and turns at walls runs the other way from the next tick on.
fn turn_at_wall<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>) {
    let body = &mut *turn.body;
    let Some(going) = body.runs_by_itself.filter(|going| turn.velocity.x * going.sign() > 0.0) else { return };
    if body.tuning.numbers().run.at_wall == AtWall::Turn {
        body.run_by_itself(Some(going.opposite()));
        turn.note(|| Decision::Turned { to: going.opposite() });
    }
}

/// Whether a face is right before a body that has a speed towards it, though it did not come to move: from rest where
/// places come first, or by less than half a pixel. Else it would be stopped in every other tick.
#[cold]
fn is_pressed_against_face<T: Terrain, L: Listener>(turn: &Turn<'_, T, L>) -> bool {
    if turn.body.mode.climbs() {
        return false;
    }
    let around = turn.around();
    let ahead = turn.feet.x + JOIN.copysign(turn.velocity.x);
    let walk = around.walk(turn.feet, ahead, footing(turn));
    let most = highest_step(turn);
    walk.blocked && walk.face_top.and_then(|top| raised_onto(&around, walk.feet, top, (ahead, most))).is_none()
}

/// How the body goes over slopes.
fn footing<T: Terrain, L: Listener>(turn: &Turn<'_, T, L>) -> Footing {
    match turn.body.mode.kind() {
        ModeKind::Ground => Footing::Ground { steepest: turn.body.tuning.steepest_climb() },
        ModeKind::Air => Footing::Air,
        ModeKind::Ladder | ModeKind::Hold | ModeKind::FourWay => Footing::Fixed,
    }
}

/// How high a face may be that is a step, or a ledge, and passed; 0 if none is.
#[inline]
fn highest_step<T: Terrain, L: Listener>(turn: &Turn<'_, T, L>) -> f64 {
    match turn.body.mode.kind() {
        ModeKind::Ground => turn.body.tuning.step_height(),
        ModeKind::Air if turn.velocity.y >= 0.0 => turn.body.tuning.ledge_lift(),
        _ => 0.0,
    }
}

/// The way along x over slopes, up steps and onto ledges. Says whether it was stopped.
#[inline(never)]
fn walk<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>, to: f64) -> bool {
    let (footing, most) = (footing(turn), highest_step(turn));
    let (on_ground, in_air) = (turn.body.mode.is_ground(), turn.body.mode.air().is_some());
    let mut feet = turn.feet;
    let (mut lifted, mut stepped) = (false, false);
    let blocked =
        loop {
            let around = turn.around();
            let walk = around.walk(feet, to, footing);
            let raised = walk.face_top.and_then(|top| raised_onto(&around, walk.feet, top, (to, most)));
            if on_ground || raised.is_none() {
                // In the air the feet keep their height; the slopes they came over lift them in step 6.
                feet.x = walk.feet.x;
            }
            if let Some(raised) = raised {
                let by = walk.feet.y - raised.y;
                (lifted, stepped) = (lifted || in_air, stepped || on_ground);
                turn.note(|| if in_air { Decision::Lifted { by } } else { Decision::SteppedUp { by } });
                feet = raised;
                continue;
            }
            if let (true, Some(top)) = (most > 0.0, walk.face_top) {
                let by = walk.feet.y - top;
                if by <= 4.0 * most {
                    turn.note(|| {
                        if in_air { Decision::LiftRefused { by, most } } else { Decision::StepRefused { by, most } }
                    });
                }
            }
            if in_air {
                turn.travelled.surface = (walk.feet.y < feet.y).then_some(walk.feet.y);
            } else {
                feet.y = walk.feet.y;
            }
            break walk.blocked;
        };
    if lifted {
        turn.travelled.lifted_to = Some(feet.y);
        turn.tell(Event::Lifted);
    }
    if stepped {
        turn.tell(Event::SteppedUp);
    }
    turn.go_to(feet);
    blocked
}

/// The feet raised to the top of a face that stops them on their way, if that is no higher than they may be raised and
/// there is room on it.
fn raised_onto<T: Terrain>(
    around: &Surroundings<'_, T>,
    feet: DVec2,
    top: f64,
    (to, most): (f64, f64),
) -> Option<DVec2> {
    if top >= feet.y || feet.y - top > most {
        return None;
    }
    let raised = DVec2::new(feet.x, top);
    let further = DVec2::new(feet.x + JOIN.copysign(to - feet.x), top);
    // Also what is higher than the body itself is passed by no way but a free one.
    let way_is_free = || !around.rise(feet, top).blocked;
    (around.fits(raised) && around.fits(further) && way_is_free()).then_some(raised)
}

/// The speed that a wall takes in the air is remembered, unless a greater one is.
#[cold]
fn remember_bump<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>) {
    let ticks = turn.body.tuning.bump_memory_ticks();
    let (tick, speed) = (turn.tick(), turn.velocity.x);
    let Mode::Air(air) = &mut turn.body.mode else { return };
    if ticks == 0 || speed == 0.0 {
        return;
    }
    let greater = air
        .bump
        .is_some_and(|bump| tick - bump.tick <= ticks && bump.speed * speed > 0.0 && bump.speed.abs() > speed.abs());
    if !greater {
        // Pressed against a wall, a body is stopped in every tick: that is said once.
        let again = air.bump.is_some_and(|bump| bump.tick + 1 == tick);
        air.bump = Some(Bump { tick, speed });
        if !again {
            turn.note(|| Decision::BumpRemembered { speed, ticks });
        }
    }
}

/// Step 6: floors are landed on, ceilings bumped.
#[inline(always)]
pub(super) fn move_y<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>, by: f64) {
    match turn.body.mode.kind() {
        ModeKind::Ground => be_lifted(turn),
        ModeKind::Ladder | ModeKind::Hold => climb(turn, by),
        ModeKind::Air => fly(turn, by),
        ModeKind::FourWay => four_way::move_y(turn, by),
    }
}

/// Step 6 in the air.
#[inline(always)]
fn fly<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>, by: f64) {
    let from = turn.feet.y;
    let by = turn.body.in_pixels(DVec2::new(0.0, by)).y;
    let may_be_caught = !turn.plain && turn.scene.movers.are_any();
    if by == 0.0 && turn.velocity.y < 0.0 && turn.travelled.surface.is_none() && !may_be_caught {
        return;
    }
    let to = from + by;
    if turn.plain {
        let body = turn.body.tuning.body();
        let swept = sweep_y_from(turn.scene.terrain, body, &turn.cells, from, to);
        if !(swept.blocked && by < 0.0 && turn.body.tuning.corner_nudge() > 0.0) {
            turn.feet.y = swept.place;
            turn.cells.follow_y(turn.scene.terrain.grid_lines(), body, from, swept.place);
            if swept.blocked {
                if by >= 0.0 { land(turn, &Floor::plain(swept.place)) } else { bump_head(turn, swept.place) }
            }
            return;
        }
    }
    let from = turn.feet;
    fall_or_rise(turn, by, to);
    turn.follow_cells(from);
}

/// Where the body was when the tick began, for what comes up past it while it moves.
fn moving<'a, T: Terrain, L: Listener>(turn: &'a Turn<'_, T, L>, began: DVec2) -> Surroundings<'a, T> {
    Surroundings { began: Some(began), ..turn.around() }
}

/// Step 6 where more than plain tiles is near.
#[inline(never)]
fn fall_or_rise<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>, by: f64, to: f64) {
    let began = DVec2::new(turn.start.feet.x, turn.travelled.lifted_to.unwrap_or(turn.start.feet.y));
    let x = turn.feet.x;
    // Pushed from outside, it may have come down in a tick at whose end it goes up.
    let rises = by < 0.0 || (by == 0.0 && turn.velocity.y < 0.0);
    if let Some(surface) = turn.travelled.surface {
        // The feet are below a slope they came over.
        turn.feet.y = surface;
        if to >= surface && turn.velocity.y >= 0.0 {
            let floor = turn.around().first_floor(x, surface, surface).unwrap_or(Floor::plain(surface));
            land(turn, &floor);
        } else if to < surface {
            rise(turn, began, to);
        }
    } else if rises {
        rise(turn, began, to);
    } else if let Some(floor) = moving(turn, began).first_floor(x, turn.feet.y, to) {
        turn.feet.y = floor.y;
        land(turn, &floor);
    } else {
        turn.feet.y = to;
    }
    if !turn.scene.movers.are_any() {
        return;
    }
    // A platform that the rise outran for a while may have come up past the feet all the same.
    if let Some((mover, lifted)) = moving(turn, began).lifted_by(turn.feet, |_| true) {
        turn.feet.y = lifted.place;
        if lifted.blocked {
            be_crushed(turn, mover.id);
        } else if turn.travelled.caught != Some(mover.id) {
            be_caught(turn, mover.id);
        }
    }
}

/// Step 6 of a body that stands: a one-way top that came up past the feet where they are now lifts them.
#[inline(always)]
fn be_lifted<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>) {
    if turn.plain || !turn.scene.movers.are_any() {
        return;
    }
    if let Some((_, lifted)) = moving(turn, turn.start.feet).lifted_by(turn.feet, |mover| !mover.solid) {
        turn.feet.y = lifted.place;
        turn.find_cells();
    }
}

/// Up to a height, past corners within the nudge.
fn rise<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>, began: DVec2, to: f64) {
    let swept = moving(turn, began).rise(turn.feet, to);
    if !swept.blocked {
        turn.feet.y = swept.place;
        return;
    }
    let nudge = turn.body.tuning.corner_nudge();
    if nudge > 0.0 {
        let right_first = turn.velocity.x >= 0.0;
        if let Some(place) = moving(turn, began).nudge(turn.feet, to, nudge, right_first) {
            let by = place - turn.feet.x;
            turn.note(|| Decision::Nudged { by });
            turn.feet = DVec2::new(place, to);
            turn.tell(Event::Nudged);
            return;
        }
        turn.note(|| Decision::NudgeRefused { most: nudge });
    }
    turn.feet.y = swept.place;
    bump_head(turn, swept.place);
}

/// The body came down upon a floor, or a floor up to it: it lands, is thrown up, or caught in its rise.
#[inline(always)]
fn land<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>, floor: &Floor) {
    turn.body.outside.drop_rest_y();
    if turn.velocity.y < 0.0 && turn.forces.is_some() {
        // A push from outside, or its own thrust, lifts it off again.
        return;
    }
    if turn.throws_up(&floor.material) {
        turn.senses = Senses { ground: Some(Ground::from(floor)), held: false };
        choose(turn, Moment::Land);
        return;
    }
    if let Some(id) = floor.support.mover() {
        if turn.start.velocity.y < 0.0 && turn.travelled.caught.is_none() {
            let mover: Option<Mover> = turn.scene.movers.mover(id);
            if mover.is_some_and(|mover| is_faster(turn, &mover)) {
                be_caught(turn, id);
            }
        }
        if turn.travelled.caught == Some(id) {
            turn.velocity.y = 0.0;
            return;
        }
    }
    turn.tell(Event::Landed { speed: turn.velocity.y });
    turn.travelled.landed = true;
    turn.velocity.y = 0.0;
}

/// A ceiling stopped the rise; that is said once until the head has been elsewhere.
#[cold]
fn bump_head<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>, place: f64) {
    // A push from outside may have turned it round already.
    turn.velocity.y = turn.velocity.y.max(0.0);
    if let Mode::Air(air) = &mut turn.body.mode
        && let Some(flight) = &mut air.flight
    {
        flight.bump();
    }
    touch_ceiling(turn, place, Event::BumpedHead);
}

/// The head met a ceiling with the feet at this height. Whether that is told.
#[cold]
fn touch_ceiling<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>, place: f64, event: Event) -> bool {
    turn.body.outside.drop_rest_y();
    let is_told = core::mem::replace(&mut turn.body.bumped_at, place) == f64::INFINITY;
    if is_told {
        turn.body.report.contacts.above = true;
        turn.tell(event);
    }
    is_told
}

/// Step 6 on a ladder or a wall: as commanded, to its end, a ceiling or a floor.
#[inline(never)]
fn climb<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>, by: f64) {
    let by = turn.body.in_pixels(DVec2::new(0.0, by)).y;
    let to = turn.feet.y + by;
    if by > 0.0 {
        climb_down(turn, to);
    } else if by < 0.0 {
        climb_up(turn, to);
    }
    // Who climbs up meets no one-way top.
    let lifted = climbing(turn).lifted_by(turn.feet, |mover| mover.solid || by >= 0.0);
    if let Some((mover, lifted)) = lifted {
        turn.feet.y = lifted.place;
        if lifted.blocked {
            be_crushed(turn, mover.id);
        } else {
            turn.travelled.stopped = Some(Stopped::AtFloor);
        }
    }
    turn.find_cells();
}

/// What a climbing body meets: its own ladder's top is none of it.
fn climbing<'a, T: Terrain, L: Listener>(turn: &'a Turn<'_, T, L>) -> Surroundings<'a, T> {
    let climbing = if let Mode::Ladder(on) = &turn.body.mode { Some(on.ladder) } else { None };
    Surroundings { climbing, ..moving(turn, turn.start.feet) }
}

fn climb_down<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>, to: f64) {
    let floor = climbing(turn).first_floor(turn.feet.x, turn.feet.y, to);
    turn.feet.y = floor.map_or(to, |floor| floor.y);
    if floor.is_some() {
        turn.body.outside.drop_rest_y();
        turn.travelled.stopped = Some(Stopped::AtFloor);
    }
}

fn climb_up<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>, to: f64) {
    let (feet, around) = (turn.feet, climbing(turn));
    let (end, over) = match &turn.body.mode {
        Mode::Ladder(on) => (Ladders::around(&around).climb_up_to(on.ladder, feet, to), None),
        Mode::Hold(hold) => climb_wall_to(turn, hold, to),
        Mode::Ground(_) | Mode::Air(_) | Mode::FourWay(_) => (to, None),
    };
    let swept = around.rise(feet, end);
    turn.feet.y = swept.place;
    if swept.blocked {
        if touch_ceiling(turn, swept.place, Event::ClimbStopped) && turn.listener.listens() {
            let above = climbing(turn).pieces().above(turn.feet).map(Piece::from);
            turn.note(|| Decision::ClimbStopped(above));
        }
    } else if end != to {
        turn.body.outside.drop_rest_y();
    }
    if let (Mode::Hold(hold), Some(over)) = (&mut turn.body.mode, over) {
        hold.over = over;
        if swept.blocked {
            turn.travelled.stopped = Some(Stopped::OnTheWayOver);
        }
    }
}

/// How far up a wall a climb towards `to` may go, and how far its way over the top has come then.
fn climb_wall_to<T: Terrain, L: Listener>(turn: &Turn<'_, T, L>, hold: &WallHold, to: f64) -> (f64, Option<ClimbOver>) {
    let feet = turn.feet;
    let onto = |top: f64| {
        let end = to.max(top).min(feet.y);
        (end, Some(if end == top { ClimbOver::Across } else { ClimbOver::Up { top } }))
    };
    if let ClimbOver::Up { top } = hold.over {
        return onto(top);
    }
    let (body, half) = (&*turn.body, turn.body.tuning.body().height * 0.5);
    let top = climbing(turn).wall_top(hold.wall, body.middle(feet.y), body.middle(to));
    let level = top + half;
    if to >= level {
        return (to, None);
    }
    if body.tuning.wall().hold.is_some_and(|hold| hold.climb_over) {
        return onto(top);
    }
    (level.min(feet.y), None)
}

/// Step 7: a body that walked is set down on ground that went down a little.
#[inline(always)]
pub(super) fn follow_ground<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>) {
    let left = turn.left_ground || turn.carried.pushed_upright;
    let walked = turn.start.mode == ModeKind::Ground && !left && turn.velocity.y >= 0.0;
    if !walked || (!turn.listener.listens() && turn.plain && turn.body.tuning.step_height() == 0.0) {
        return;
    }
    turn.standing = find_support(turn);
    if turn.standing.is_some() {
        return;
    }
    match set_down(turn, turn.carried.from) {
        Some(SetDown { by, led, .. }) => {
            turn.note(|| Decision::SetDown { by });
            // Down a slope it goes by walking.
            if by > led {
                turn.tell(Event::SteppedDown);
            }
            // So it never fell.
            turn.travelled.landed = true;
        }
        None => note_not_set_down(turn),
    }
}

/// Onto the ground that went down a little on the way from a place, if it did.
#[inline(never)]
pub(super) fn set_down<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>, from: DVec2) -> Option<SetDown> {
    let feet = turn.feet;
    let (follow, step) = (turn.body.tuning.ramp_follow(), turn.body.tuning.step_height());
    let down = turn.around().set_down(feet, from, follow, step)?;
    (turn.feet.y, turn.velocity.y, turn.plain) = (down.top, 0.0, false);
    turn.find_cells();
    Some(down)
}

/// Where there is nothing that it could be set down on, there is nothing to tell.
fn note_not_set_down<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>) {
    let may_follow = turn.body.tuning.step_height() > 0.0
        || turn.scene.terrain.features().has(Features::RAMP | Features::DRAWN_RAMP);
    if turn.listener.listens() && may_follow {
        let (feet, reach) = (turn.feet, WORTH_TELLING * turn.scene.terrain.grid_lines().spacing());
        if let Some(floor) = turn.around().first_floor(feet.x, feet.y, feet.y + reach) {
            turn.note(|| Decision::SetDownRefused { by: floor.y - feet.y });
        }
    }
}

/// The last resort where ramps are near: a body that overlaps something after all stays where it was, moved along by
/// what carried it if there is room.
#[inline(never)]
pub(super) fn stay_out<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>) {
    let around = Surroundings { movers: &Movers::none(), ..turn.around() };
    if around.fits(turn.feet) {
        return;
    }
    turn.feet = if around.fits(turn.carried.from) { turn.carried.from } else { turn.start.feet };
    turn.standing = None;
    turn.velocity = DVec2::ZERO;
    turn.find_cells();
    // A platform may be there by now.
    let is_inside = |mover: &&Mover| mover.solid && turn.body.overlaps(&mover.now, turn.feet);
    if let (false, Some(mover)) = (turn.carried.crushed, turn.scene.movers.near().iter().find(is_inside)) {
        be_crushed(turn, mover.id);
    }
}

/// Whether a ramp is so near that [`stay_out`] is needed: what is not buried beneath one is met on the way.
#[inline(always)]
pub(super) fn may_be_inside<T: Terrain, L: Listener>(turn: &Turn<'_, T, L>) -> bool {
    !turn.plain && turn.around().is_slope_between(turn.start.feet, turn.feet)
}
