//! Steps 4 to 7: where the body goes.

use glam::DVec2;

use super::{Bump, Character, Hold, Moving, Stopped};
use crate::collide::{Floor, Footing, JOIN, Surroundings};
use crate::collide::{sweep_x_from, sweep_y_from};
use crate::motion::{ClimbOver, Direction, Mode};
use crate::platforms::{Mover, Movers};
use crate::terrain::{Features, Terrain};
use crate::world::Event;
use crate::world::scene::Scene;
use crate::world::why::{Decision, Listener};

/// How many tiles below a body that walked off an edge the next top is worth a word.
const WORTH_TELLING: f64 = 4.0;

impl Character {
    /// What holds feet at this place, after what did in the tick before; and whether anything of it is solid.
    pub(super) fn find_support<T: Terrain>(&self, room: &Surroundings<'_, T>, feet: DVec2) -> (Option<Floor>, bool) {
        let (mut solid, mut first) = (false, None::<Floor>);
        room.floors(feet.x, feet.y, feet.y, |top| {
            solid |= top.solid;
            if first.is_none_or(|first| top.is_before(&first, self.report.support)) {
                first = Some(*top);
            }
        });
        (first, solid)
    }

    pub(super) fn cells_at<T: Terrain>(&self, scene: &Scene<'_, T>, feet: DVec2) -> crate::collide::Cells {
        crate::collide::Cells::of(scene.terrain.grid_lines(), self.tuning.body(), feet)
    }

    /// A speed that a wall took is given back once the way is free.
    #[cold]
    pub(super) fn give_bump_back<T: Terrain, L: Listener>(
        &mut self,
        scene: &Scene<'_, T>,
        moving: &mut Moving,
        listener: &mut L,
    ) {
        let Some(bump) = self.at_walls.bump else { return };
        let late = self.report.tick - bump.tick > self.tuning.bump_memory_ticks();
        if late || moving.intent.steering * bump.speed < 0.0 {
            self.at_walls.bump = None;
            return;
        }
        if self.mode != Mode::Air || moving.intent.steering * bump.speed <= 0.0 {
            return;
        }
        let ahead = moving.feet.x + JOIN.copysign(bump.speed);
        let free = !self.surroundings(scene).walk(moving.feet, ahead, Footing::Air).blocked;
        if free && moving.velocity.x * bump.speed.signum() < bump.speed.abs() {
            moving.velocity.x = bump.speed;
            self.note(listener, || Decision::BumpGivenBack { speed: bump.speed });
        }
    }

    /// Step 5: a face stops the body flush and clears its speed.
    #[inline(always)]
    pub(super) fn move_x<T: Terrain, L: Listener>(
        &mut self,
        scene: &Scene<'_, T>,
        moving: &mut Moving,
        by: f64,
        listener: &mut L,
    ) {
        let from = moving.feet.x;
        let mut to = from + self.in_pixels(DVec2::new(by, 0.0)).x;
        if let Some(hold) = self.hold {
            to = onto_wall(hold, to);
        }
        let blocked = if to == from {
            moving.velocity.x != 0.0 && self.is_pressed_against_face(scene, moving)
        } else if moving.plain {
            let body = self.tuning.body();
            let swept = sweep_x_from(scene.terrain, body, &moving.cells, from, to);
            moving.feet.x = swept.place;
            moving.cells.follow_x(scene.terrain.grid_lines(), body, from, swept.place);
            swept.blocked && (self.highest_step(moving) == 0.0 || self.walk(scene, moving, to, listener))
        } else {
            self.walk(scene, moving, to, listener)
        };
        if blocked {
            self.rest.x = 0.0;
            match self.mode {
                Mode::Ground | Mode::Air => {
                    self.remember_bump(moving, listener);
                    moving.velocity.x = 0.0;
                }
                // The speed there is the one commanded.
                Mode::Ladder => {}
                Mode::Hold => moving.stopped = Some(Stopped::OnTheWayOver),
            }
        }
    }

    /// Whether a face is right before a body that has a speed towards it, though it did not come to move: from
    /// rest where places come first, or by less than half a pixel. Else it would be stopped in every other tick.
    #[cold]
    fn is_pressed_against_face<T: Terrain>(&self, scene: &Scene<'_, T>, moving: &Moving) -> bool {
        if matches!(self.mode, Mode::Ladder | Mode::Hold) {
            return false;
        }
        let room = self.surroundings(scene);
        let ahead = moving.feet.x + JOIN.copysign(moving.velocity.x);
        let walk = room.walk(moving.feet, ahead, self.footing());
        let most = self.highest_step(moving);
        walk.blocked && walk.face_top.and_then(|top| raised_onto(&room, walk.feet, top, ahead, most)).is_none()
    }

    /// How the body goes over slopes.
    fn footing(&self) -> Footing {
        match self.mode {
            Mode::Ground => Footing::Ground { steepest: self.tuning.steepest_climb() },
            Mode::Air => Footing::Air,
            Mode::Ladder | Mode::Hold => Footing::Fixed,
        }
    }

    /// How high a face may be that is a step, or a ledge, and passed; 0 if none is.
    #[inline]
    fn highest_step(&self, moving: &Moving) -> f64 {
        match self.mode {
            Mode::Ground => self.tuning.step_height(),
            Mode::Air if moving.velocity.y >= 0.0 => self.tuning.ledge_lift(),
            _ => 0.0,
        }
    }

    /// The way along x over slopes, up steps and onto ledges. Says whether it was stopped.
    #[inline(never)]
    fn walk<T: Terrain, L: Listener>(
        &mut self,
        scene: &Scene<'_, T>,
        moving: &mut Moving,
        to: f64,
        listener: &mut L,
    ) -> bool {
        let room = self.surroundings(scene);
        let (footing, most) = (self.footing(), self.highest_step(moving));
        let mut feet = moving.feet;
        let mut lifted = false;
        let blocked = loop {
            let walk = room.walk(feet, to, footing);
            let raised = walk.face_top.and_then(|top| raised_onto(&room, walk.feet, top, to, most));
            if self.mode == Mode::Ground || raised.is_none() {
                // In the air the feet keep their height; the slopes they came over lift them in step 6.
                feet.x = walk.feet.x;
            }
            if let Some(raised) = raised {
                let by = walk.feet.y - raised.y;
                if self.mode == Mode::Air {
                    lifted = true;
                    self.note(listener, || Decision::Lifted { by });
                } else {
                    self.note(listener, || Decision::SteppedUp { by });
                }
                feet = raised;
                continue;
            }
            if let (true, Some(top)) = (most > 0.0, walk.face_top) {
                let by = walk.feet.y - top;
                let near = by <= 4.0 * most;
                if near && self.mode == Mode::Air {
                    self.note(listener, || Decision::LiftRefused { by, most });
                } else if near {
                    self.note(listener, || Decision::StepRefused { by, most });
                }
            }
            match self.mode {
                Mode::Air => moving.surface = (walk.feet.y < feet.y).then_some(walk.feet.y),
                _ => feet.y = walk.feet.y,
            }
            break walk.blocked;
        };
        if lifted {
            moving.lifted_to = Some(feet.y);
            self.report.events.push(Event::Lifted);
        }
        moving.feet = feet;
        moving.cells = self.cells_at(scene, feet);
        blocked
    }

    /// The speed that a wall takes in the air is remembered, unless a greater one is.
    #[cold]
    fn remember_bump<L: Listener>(&mut self, moving: &Moving, listener: &mut L) {
        let ticks = self.tuning.bump_memory_ticks();
        let (tick, speed) = (self.report.tick, moving.velocity.x);
        if ticks == 0 || self.mode != Mode::Air || speed == 0.0 {
            return;
        }
        let greater = self.at_walls.bump.is_some_and(|bump| {
            tick - bump.tick <= ticks && bump.speed * speed > 0.0 && bump.speed.abs() > speed.abs()
        });
        if !greater {
            // Pressed against a wall, a body is stopped in every tick: that is said once.
            let again = self.at_walls.bump.is_some_and(|bump| bump.tick + 1 == tick);
            self.at_walls.bump = Some(Bump { tick, speed });
            if !again {
                self.note(listener, || Decision::BumpRemembered { speed, ticks });
            }
        }
    }

    /// Step 6: floors are landed on, ceilings bumped.
    #[inline(always)]
    pub(super) fn move_y<T: Terrain, L: Listener>(
        &mut self,
        scene: &Scene<'_, T>,
        moving: &mut Moving,
        by: f64,
        listener: &mut L,
    ) {
        match self.mode {
            Mode::Ground => return self.be_lifted(scene, moving),
            Mode::Ladder | Mode::Hold => return self.climb(scene, moving, by, listener),
            Mode::Air => {}
        }
        let from = moving.feet.y;
        let by = self.in_pixels(DVec2::new(0.0, by)).y;
        let may_be_caught = !moving.plain && scene.movers.are_any();
        if by == 0.0 && moving.velocity.y < 0.0 && moving.surface.is_none() && !may_be_caught {
            return;
        }
        let to = from + by;
        if moving.plain {
            let body = self.tuning.body();
            let swept = sweep_y_from(scene.terrain, body, &moving.cells, from, to);
            if !(swept.blocked && by < 0.0 && self.tuning.corner_nudge() > 0.0) {
                moving.feet.y = swept.place;
                moving.cells.follow_y(scene.terrain.grid_lines(), body, from, swept.place);
                if swept.blocked {
                    if by >= 0.0 {
                        self.land(scene, moving, Floor::plain(swept.place), listener);
                    } else {
                        self.bump_head(moving, swept.place);
                    }
                }
                return;
            }
        }
        self.fall_or_rise(scene, moving, by, to, listener);
        moving.cells = self.cells_at(scene, moving.feet);
    }

    /// Step 6 where more than plain tiles is near.
    #[inline(never)]
    fn fall_or_rise<T: Terrain, L: Listener>(
        &mut self,
        scene: &Scene<'_, T>,
        moving: &mut Moving,
        by: f64,
        to: f64,
        listener: &mut L,
    ) {
        let body = *self.tuning.body();
        let began = Some(DVec2::new(moving.start.x, moving.lifted_to.unwrap_or(moving.start.y)));
        let room = Surroundings { began, ..self.surroundings_of(scene, &body) };
        let x = moving.feet.x;
        let rises = by < 0.0 || moving.velocity.y < 0.0;
        if let Some(surface) = moving.surface {
            // The feet are below a slope they came over.
            moving.feet.y = surface;
            if to >= surface && moving.velocity.y >= 0.0 {
                let there = Surroundings { began: None, ..self.surroundings_of(scene, &body) };
                let top = there.first_floor(x, surface, surface).unwrap_or(Floor::plain(surface));
                self.land(scene, moving, top, listener);
            } else if to < surface {
                self.rise(&room, moving, to, listener);
            }
        } else if rises {
            self.rise(&room, moving, to, listener);
        } else if let Some(top) = room.first_floor(x, moving.feet.y, to) {
            moving.feet.y = top.y;
            self.land(scene, moving, top, listener);
        } else {
            moving.feet.y = to;
        }
        // A platform that the rise outran for a while may have come up past the feet all the same.
        if let Some((mover, lifted)) = room.lifted_by(moving.feet, |_| true) {
            moving.feet.y = lifted.place;
            if lifted.blocked {
                self.be_crushed(moving, mover.id, listener);
            } else if moving.caught != Some(mover.id) {
                self.be_caught(moving, mover.id, listener);
            }
        }
    }

    /// Step 6 of a body that stands: a one-way top that came up past the feet where they are now lifts them.
    #[inline(always)]
    fn be_lifted<T: Terrain>(&self, scene: &Scene<'_, T>, moving: &mut Moving) {
        if moving.plain || !scene.movers.are_any() {
            return;
        }
        let body = *self.tuning.body();
        let room = Surroundings { began: Some(moving.start), ..self.surroundings_of(scene, &body) };
        if let Some((_, lifted)) = room.lifted_by(moving.feet, |mover| !mover.solid) {
            moving.feet.y = lifted.place;
            moving.cells = self.cells_at(scene, moving.feet);
        }
    }

    /// Up to a height, past corners within the nudge.
    fn rise<T: Terrain, L: Listener>(
        &mut self,
        room: &Surroundings<'_, T>,
        moving: &mut Moving,
        to: f64,
        listener: &mut L,
    ) {
        let swept = room.rise(moving.feet, to);
        if !swept.blocked {
            moving.feet.y = swept.place;
            return;
        }
        let nudge = self.tuning.corner_nudge();
        if nudge > 0.0 {
            let right_first = moving.velocity.x >= 0.0;
            if let Some(place) = room.nudge(moving.feet, to, nudge, right_first) {
                let by = place - moving.feet.x;
                self.note(listener, || Decision::Nudged { by });
                moving.feet = DVec2::new(place, to);
                self.report.events.push(Event::Nudged);
                return;
            }
            self.note(listener, || Decision::NudgeRefused { most: nudge });
        }
        moving.feet.y = swept.place;
        self.bump_head(moving, swept.place);
    }

    /// The body came down upon a top, or a top up to it: it lands, is thrown up, or caught in its rise.
    #[inline(always)]
    fn land<T: Terrain, L: Listener>(
        &mut self,
        scene: &Scene<'_, T>,
        moving: &mut Moving,
        top: Floor,
        listener: &mut L,
    ) {
        self.rest.y = 0.0;
        if top.material.bounce.is_some() {
            self.standing = Some(top);
            self.bounce(moving);
            return;
        }
        if let Some(carrier) = top.support.mover() {
            if moving.start_velocity.y < 0.0 && moving.caught.is_none() {
                let mover = scene.movers.mover(carrier);
                if mover.is_some_and(|mover| self.is_faster(&mover, moving)) {
                    self.be_caught(moving, carrier, listener);
                }
            }
            if moving.caught == Some(carrier) {
                moving.velocity.y = 0.0;
                return;
            }
        }
        self.report.events.push(Event::Landed { speed: moving.velocity.y });
        moving.landed = true;
        moving.velocity.y = 0.0;
    }

    /// A ceiling stopped the rise; that is said once until the head has been elsewhere.
    #[cold]
    fn bump_head(&mut self, moving: &mut Moving, place: f64) {
        moving.velocity.y = 0.0;
        if let Some(flight) = &mut self.flight {
            flight.bump();
        }
        self.touch_ceiling(place);
    }

    /// The head met a ceiling with the feet at this height.
    #[cold]
    fn touch_ceiling(&mut self, place: f64) {
        self.rest.y = 0.0;
        if self.bumped_at.replace(place).is_none() {
            self.report.contacts.above = true;
            self.report.events.push(Event::BumpedHead);
        }
    }

    /// Step 6 on a ladder or a wall: as commanded, to its end, a ceiling or a floor.
    #[inline(never)]
    fn climb<T: Terrain, L: Listener>(&mut self, scene: &Scene<'_, T>, moving: &mut Moving, by: f64, listener: &mut L) {
        let by = self.in_pixels(DVec2::new(0.0, by)).y;
        let feet = moving.feet;
        let to = feet.y + by;
        let body = *self.tuning.body();
        let room =
            Surroundings { climbing: self.ladder, began: Some(moving.start), ..self.surroundings_of(scene, &body) };
        if by > 0.0 {
            if let Some(top) = room.first_floor(feet.x, feet.y, to) {
                moving.feet.y = top.y;
                self.rest.y = 0.0;
                moving.stopped = Some(Stopped::AtFloor);
            } else {
                moving.feet.y = to;
            }
        } else if by < 0.0 {
            let (end, over) = match (self.ladder, self.hold) {
                (Some(ladder), _) => (room.climb_up_to(ladder, feet, to), None),
                (None, Some(hold)) => self.climb_wall_to(&room, hold, feet, to),
                (None, None) => (to, None),
            };
            let swept = room.rise(feet, end);
            moving.feet.y = swept.place;
            if swept.blocked {
                self.touch_ceiling(swept.place);
            } else if end != to {
                self.rest.y = 0.0;
            }
            if let (Some(hold), Some(over)) = (&mut self.hold, over) {
                hold.over = over;
                if swept.blocked {
                    moving.stopped = Some(Stopped::OnTheWayOver);
                }
            }
        }
        // Who climbs up meets no one-way top.
        if let Some((mover, lifted)) = room.lifted_by(moving.feet, |mover| mover.solid || by >= 0.0) {
            moving.feet.y = lifted.place;
            if lifted.blocked {
                self.be_crushed(moving, mover.id, listener);
            } else {
                moving.stopped = Some(Stopped::AtFloor);
            }
        }
        moving.cells = self.cells_at(scene, moving.feet);
    }

    /// How far up a wall a climb towards `to` may go, and how far its way over the top has come then.
    fn climb_wall_to<T: Terrain>(
        &self,
        room: &Surroundings<'_, T>,
        hold: Hold,
        feet: DVec2,
        to: f64,
    ) -> (f64, Option<ClimbOver>) {
        let onto = |top: f64| {
            let end = to.max(top).min(feet.y);
            (end, Some(if end == top { ClimbOver::Across } else { ClimbOver::Up { top } }))
        };
        if let ClimbOver::Up { top } = hold.over {
            return onto(top);
        }
        let half = self.tuning.body().height * 0.5;
        let top = room.wall_top(hold.wall, self.middle(feet.y), self.middle(to));
        let level = top + half;
        if to >= level {
            return (to, None);
        }
        if self.tuning.wall().hold.is_some_and(|hold| hold.climb_over) {
            return onto(top);
        }
        (level.min(feet.y), None)
    }

    /// Step 7: a body that walked is set down on ground that went down a little.
    #[inline(always)]
    pub(super) fn follow_ground<T: Terrain, L: Listener>(
        &mut self,
        scene: &Scene<'_, T>,
        moving: &mut Moving,
        listener: &mut L,
    ) {
        let left = moving.left_ground || moving.pushed_upright;
        let walked = moving.start_mode == Mode::Ground && !left && moving.velocity.y >= 0.0;
        if walked && (L::LISTENS || !(moving.plain && self.tuning.step_height() == 0.0)) {
            // So it never fell.
            moving.landed |= self.set_down(scene, moving, moving.walked_from, listener);
        }
    }

    /// Onto the ground that went down a little on the way from a place, if it did; whether that was so.
    #[inline(never)]
    pub(super) fn set_down<T: Terrain, L: Listener>(
        &mut self,
        scene: &Scene<'_, T>,
        moving: &mut Moving,
        from: DVec2,
        listener: &mut L,
    ) -> bool {
        let (room, feet) = (self.surroundings(scene), moving.feet);
        if room.first_floor(feet.x, feet.y, feet.y).is_some() {
            return false;
        }
        let (follow, step) = (self.tuning.ramp_follow(), self.tuning.step_height());
        if let Some(top) = room.set_down(feet, from, follow, step) {
            self.note(listener, || Decision::SetDown { by: top - feet.y });
            (moving.feet.y, moving.velocity.y) = (top, 0.0);
            moving.plain = false;
            moving.cells = self.cells_at(scene, moving.feet);
            return true;
        }
        // Where there is nothing that it could be set down on, there is nothing to tell.
        if L::LISTENS && (step > 0.0 || scene.terrain.features().has(Features::RAMP | Features::DRAWN_RAMP)) {
            let reach = WORTH_TELLING * scene.terrain.grid_lines().spacing();
            if let Some(top) = room.first_floor(feet.x, feet.y, feet.y + reach) {
                self.note(listener, || Decision::SetDownRefused { by: top.y - feet.y });
            }
        }
        false
    }

    /// The last resort where ramps are near: a body that overlaps something after all stays where it was, moved
    /// along by what carried it if there is room.
    #[inline(always)]
    pub(super) fn stay_out<T: Terrain, L: Listener>(
        &mut self,
        scene: &Scene<'_, T>,
        moving: &mut Moving,
        listener: &mut L,
    ) {
        let near = self.tuning.body().hitbox_at(moving.feet);
        if !moving.plain && !scene.nearby.has_no_slopes(scene.terrain, &near) {
            self.go_back_if_inside(scene, moving, listener);
        }
    }

    #[inline(never)]
    pub(super) fn go_back_if_inside<T: Terrain, L: Listener>(
        &mut self,
        scene: &Scene<'_, T>,
        moving: &mut Moving,
        listener: &mut L,
    ) {
        let room = Surroundings { movers: &Movers::none(), ..self.surroundings(scene) };
        if room.fits(moving.feet) {
            return;
        }
        moving.feet = if room.fits(moving.walked_from) { moving.walked_from } else { moving.start };
        moving.velocity = DVec2::ZERO;
        moving.cells = self.cells_at(scene, moving.feet);
        // A platform may be there by now.
        let is_inside = |mover: &&Mover| mover.solid && self.overlaps(&mover.now, moving.feet);
        if let (false, Some(mover)) = (moving.crushed, scene.movers.near().iter().find(is_inside)) {
            self.be_crushed(moving, mover.id, listener);
        }
    }
}

/// A climb over a wall's top goes no further than to have the feet's middle on it.
fn onto_wall(hold: Hold, to: f64) -> f64 {
    match (hold.over, hold.wall.side) {
        (ClimbOver::Across, Direction::Right) => to.min(hold.wall.face),
        (ClimbOver::Across, Direction::Left) => to.max(hold.wall.face),
        _ => to,
    }
}

/// The feet raised to the top of a face that stops them, if that is no higher than `most` and there is
/// room on it.
fn raised_onto<T: Terrain>(room: &Surroundings<'_, T>, feet: DVec2, top: f64, to: f64, most: f64) -> Option<DVec2> {
    if top >= feet.y || feet.y - top > most {
        return None;
    }
    let raised = DVec2::new(feet.x, top);
    let further = DVec2::new(feet.x + JOIN.copysign(to - feet.x), top);
    // Also what is higher than the body itself is passed by no way but a free one.
    let way_is_free = || !room.rise(feet, top).blocked;
    (room.fits(raised) && room.fits(further) && way_is_free()).then_some(raised)
}
