//! Step 1: the surface stood on carries the body along, and what moves against it pushes it.

use glam::DVec2;

use super::change::choose;
use super::crush::{be_caught, be_crushed, is_faster};
use super::sense::find_ground;
use super::travel::{set_down, stay_out};
use super::turn::Turn;
use super::{Event, Listener};
use crate::collide::{Footing, Surroundings, Walls};
use crate::platforms::{Mover, MoverId};
use crate::states::{Mode, Moment};
use crate::terrain::{Features, Terrain};

/// Step 1.
#[inline(always)]
pub(super) fn carry<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>) {
    let belt = match &turn.body.mode {
        Mode::Ground(ground) if ground.support.mover().is_none() => ground.material.surface_speed,
        _ => 0.0,
    };
    let is_met = || {
        let hitbox = turn.body.hitbox();
        turn.scene.movers.near().iter().any(|mover| mover.swept().touches(&hitbox))
    };
    let drifts = turn.forces.is_some_and(|forces| forces.drift != DVec2::ZERO);
    if belt != 0.0 || turn.body.ridden().is_some() || drifts || is_met() {
        be_carried(turn, belt);
    } else if !turn.scene.movers.near().is_empty() {
        see_walls_moved(turn);
    }
}

#[inline(never)]
fn be_carried<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>, belt: f64) {
    if belt != 0.0 {
        turn.feet = carry_along(turn, None, 0.0, belt);
    }
    if let Some(forces) = turn.forces {
        drift_along(turn, forces.drift);
    }
    let (walked, riding) = (turn.feet, turn.body.ridden());
    for mover in turn.scene.movers.near() {
        if !mover.swept().touches(&turn.body.tuning.body().hitbox_at(turn.feet)) && riding != Some(mover.id) {
            continue;
        }
        if riding == Some(mover.id) {
            ride(turn, mover);
        } else if !turn.body.overlaps(&mover.old, turn.start.feet) {
            be_pushed(turn, mover);
        }
    }
    // Judged once every platform has had its turn: one of them may have taken the body clear of another.
    for mover in turn.scene.movers.near() {
        if mover.solid && turn.carried.outruns != Some(mover.id) && turn.body.overlaps(&mover.now, turn.feet) {
            be_crushed(turn, mover.id);
        }
    }
    if turn.scene.terrain.features().has(Features::RAMP | Features::DRAWN_RAMP) {
        stay_out(turn);
    }
    turn.carried.from += turn.feet - walked;
    see_walls_moved(turn);
    turn.find_cells();
    if turn.body.mode.is_ground() {
        see_ground_moved(turn);
    }
}

/// What is stood on now; if nothing is, the body was carried off.
fn see_ground_moved<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>) {
    let mut ground = find_ground(turn);
    let carried_along = turn.feet.x != turn.start.feet.x && !turn.carried.pushed_upright;
    // Carried down a slope, it stays on it.
    if ground.is_none() && carried_along {
        set_down(turn, turn.start.feet);
        ground = find_ground(turn);
    }
    match ground {
        Some(ground) => turn.body.mode = Mode::Ground(ground),
        None => choose(turn, Moment::Carry),
    }
}

/// What is around the body to one platform or prop that moves it along, which it does not meet.
fn around_without<'a, T: Terrain, L: Listener>(turn: &'a Turn<'_, T, L>, mover: &Mover) -> Surroundings<'a, T> {
    Surroundings { unmet: Some(mover.id), began: Some(turn.start.feet), ..turn.around() }
}

/// Along x with what is stood on, and with the speed of its surface: up ramps, and not through faces.
fn carry_along<T: Terrain, L: Listener>(
    turn: &mut Turn<'_, T, L>,
    with: Option<&Mover>,
    by: f64,
    surface_speed: f64,
) -> DVec2 {
    let seconds = turn.body.tuning.tick_seconds();
    let way = turn.body.in_pixels(DVec2::new(surface_speed * seconds, 0.0)).x + by;
    let footing = Footing::Ground { steepest: turn.body.tuning.steepest_climb() };
    let around = with.map_or_else(|| turn.around(), |mover| around_without(turn, mover));
    let walk = around.walk(turn.feet, turn.feet.x + way, footing);
    if walk.blocked {
        turn.body.outside.drop_rest_x();
    }
    walk.feet
}

/// What drifts the body from outside, at a speed, px/s: along x as a belt would, then up or down.
fn drift_along<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>, speed: DVec2) {
    let by = speed * turn.body.tuning.tick_seconds();
    if by.x != 0.0 {
        let on_ground = turn.body.mode.is_ground();
        let by = turn.body.in_pixels(DVec2::new(by.x, 0.0)).x;
        let footing =
            if on_ground { Footing::Ground { steepest: turn.body.tuning.steepest_climb() } } else { Footing::Fixed };
        let walk = turn.around().walk(turn.feet, turn.feet.x + by, footing);
        if walk.blocked {
            turn.body.outside.drop_rest_x();
        }
        turn.feet = walk.feet;
    }
    if by.y != 0.0 {
        let by = turn.body.in_pixels(DVec2::new(0.0, by.y)).y;
        let (feet, to) = (turn.feet, turn.feet.y + by);
        turn.feet = moved_y(&turn.around(), feet, to);
        if turn.feet.y != to {
            turn.body.outside.drop_rest_y();
        }
        // Lifted off the ground, it is not set down again.
        turn.carried.pushed_upright |= turn.feet.y < feet.y;
    }
}

/// The body goes where its platform goes, as far as nothing stops it.
fn ride<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>, mover: &Mover) {
    let by = mover.by();
    if let Mode::Hold(hold) = &mut turn.body.mode {
        hold.follow(mover);
        let around = around_without(turn, mover);
        let feet = around.walk(turn.feet, turn.feet.x + by.x, Footing::Fixed).feet;
        turn.feet = moved_y(&around, feet, feet.y + by.y);
        return;
    }
    let feet = carry_along(turn, Some(mover), by.x, mover.material.surface_speed);
    // A ramp may have lifted it off its platform.
    let onto = if by.y < 0.0 { mover.now.top.min(feet.y) } else { mover.now.top.max(feet.y) };
    turn.feet = if by.y == 0.0 { feet } else { moved_y(&around_without(turn, mover), feet, onto) };
}

/// A platform that comes against the body pushes it along its own way, along x at its old height, then along y. A
/// one-way platform lifts what stands in its way, and else lets it through.
fn be_pushed<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>, mover: &Mover) {
    let (by, old, now) = (mover.by(), &mover.old, &mover.now);
    let (half, height) = (turn.body.tuning.body().half_width(), turn.body.tuning.body().height);
    let start = turn.start.feet;
    if mover.solid && by.x != 0.0 {
        let feet = turn.feet;
        let to = if by.x > 0.0 { now.right + half } else { now.left - half };
        let reached = if by.x > 0.0 {
            start.x >= old.right + half && feet.x < to
        } else {
            start.x <= old.left - half && feet.x > to
        };
        if reached && feet.y > old.top && feet.y < old.bottom + height {
            let footing = Footing::Ground { steepest: f64::INFINITY };
            turn.feet = around_without(turn, mover).walk(feet, to, footing).feet;
            note_push(turn, mover.id, feet);
        }
    }
    let feet = turn.feet;
    if feet.x <= now.left - half || feet.x >= now.right + half {
        return;
    }
    if by.y < 0.0 && start.y <= old.top && feet.y > now.top {
        be_pushed_up(turn, mover);
    } else if mover.solid && by.y > 0.0 && start.y >= old.bottom + height && feet.y < now.bottom + height {
        turn.feet = moved_y(&around_without(turn, mover), feet, now.bottom + height);
        note_push(turn, mover.id, feet);
    }
}

/// A platform came up past the feet.
fn be_pushed_up<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>, mover: &Mover) {
    let (feet, top) = (turn.feet, mover.now.top);
    if !mover.solid && !turn.body.mode.is_ground() {
        return;
    }
    let rises = turn.body.mode.air().is_some() && turn.start.velocity.y < 0.0;
    if rises && !is_faster(turn, mover) {
        turn.carried.outruns = Some(mover.id);
        return;
    }
    let pushed = moved_y(&around_without(turn, mover), feet, top);
    if rises && mover.solid {
        be_caught(turn, mover.id);
        turn.feet = pushed;
        return;
    }
    // A one-way top that cannot take the feet with it lets them through.
    if mover.solid || pushed.y == top {
        turn.feet = pushed;
        note_push(turn, mover.id, feet);
    }
}

fn note_push<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>, mover: MoverId, from: DVec2) {
    if turn.feet != from {
        turn.carried.pushed = true;
        turn.carried.pushed_upright |= turn.feet.x == from.x;
        turn.tell(Event::Pushed(mover));
    }
}

/// The walls touched, where they are now.
fn see_walls_moved<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>) {
    let Walls { left, right } = &mut turn.body.walls.touched;
    for wall in [left, right].into_iter().flatten() {
        if let Some(mover) = wall.mover().and_then(|id| turn.scene.movers.mover(id)) {
            wall.follow(&mover);
        }
    }
}

/// Up or down to a height, as far as nothing stops it.
fn moved_y<T: Terrain>(around: &Surroundings<'_, T>, feet: DVec2, to: f64) -> DVec2 {
    let y = if to < feet.y {
        around.rise(feet, to).place
    } else {
        around.first_floor(feet.x, feet.y, to).map_or(to, |floor| floor.y)
    };
    DVec2::new(feet.x, y)
}
