//! Step 1: the surface stood on carries the body along, and what moves against it pushes it.

use glam::DVec2;

use super::{Character, Moving};
use crate::collide::{Footing, Surroundings};
use crate::motion::{Direction, Facts, Mode, Moment};
use crate::platform::{Mover, MoverId, Movers};
use crate::space::Hitbox;
use crate::terrain::{Features, Terrain};
use crate::tuning::{LIMIT_SPEED, Leave};
use crate::world::scene::Scene;
use crate::world::why::Nobody;
use crate::world::{Decision, Event, Listener};

impl Character {
    /// Step 1.
    #[inline(always)]
    pub(super) fn carry<T: Terrain, L: Listener>(
        &mut self,
        scene: &Scene<'_, T>,
        moving: &mut Moving,
        listener: &mut L,
    ) {
        let belt = match (self.mode, &self.standing) {
            (Mode::Ground, Some(top)) if top.support.mover().is_none() => top.material.surface_speed,
            _ => 0.0,
        };
        let is_met = || {
            let hitbox = self.hitbox();
            scene.movers.near().iter().any(|mover| mover.swept().touches(&hitbox))
        };
        if belt != 0.0 || self.ridden().is_some() || is_met() {
            self.be_carried(scene, moving, belt, listener);
        } else if !scene.movers.near().is_empty() {
            self.see_walls_moved(scene);
        }
    }

    /// The platform or prop on which the body rides: that it stands on, or whose side it holds.
    pub(in crate::world) fn ridden(&self) -> Option<MoverId> {
        match self.mode {
            Mode::Ground => self.standing.and_then(|top| top.support.mover()),
            Mode::Hold => self.hold.and_then(|hold| hold.wall.mover),
            Mode::Air | Mode::Ladder => None,
        }
    }

    #[inline(never)]
    fn be_carried<T: Terrain, L: Listener>(
        &mut self,
        scene: &Scene<'_, T>,
        moving: &mut Moving,
        belt: f64,
        listener: &mut L,
    ) {
        let body = *self.tuning.body();
        let began = Some(moving.start);
        if belt != 0.0 {
            moving.feet = self.carry_along(&self.surroundings_of(scene, &body), moving.feet, 0.0, belt);
        }
        let (walked, riding) = (moving.feet, self.ridden());
        for mover in scene.movers.near() {
            if !mover.swept().touches(&body.hitbox_at(moving.feet)) && riding != Some(mover.id) {
                continue;
            }
            let room = Surroundings { unmet: Some(mover.id), began, ..self.surroundings_of(scene, &body) };
            if riding == Some(mover.id) {
                self.ride(&room, moving, mover);
            } else if !self.overlaps(&mover.old, moving.start) {
                self.be_pushed(&room, moving, mover, listener);
            }
        }
        // Judged once every platform has had its turn: one of them may have taken the body clear of another.
        for mover in scene.movers.near() {
            if mover.solid && moving.outruns != Some(mover.id) && self.overlaps(&mover.now, moving.feet) {
                self.be_crushed(moving, mover.id, listener);
            }
        }
        if scene.terrain.features().has(Features::RAMP | Features::DRAWN_RAMP) {
            self.go_back_if_inside(scene, moving, listener);
        }
        moving.walked_from += moving.feet - walked;
        self.see_walls_moved(scene);
        moving.cells = self.cells_at(scene, moving.feet);
        if self.mode == Mode::Ground {
            (self.standing, self.on_solid) = self.find_support(&self.surroundings(scene), moving.feet);
            let carried_along = moving.feet.x != moving.start.x && !moving.pushed_upright;
            // Carried down a slope, it stays on it.
            if self.standing.is_none() && carried_along && self.set_down(scene, moving, moving.start, &mut Nobody) {
                (self.standing, self.on_solid) = self.find_support(&self.surroundings(scene), moving.feet);
            }
            if self.standing.is_none() {
                self.change_mode(scene, moving, Moment::Carry, Facts::NONE, &mut Nobody);
            }
        }
    }

    pub(super) fn overlaps(&self, place: &Hitbox, feet: DVec2) -> bool {
        let body = self.tuning.body();
        let half = body.half_width();
        feet.x > place.left - half
            && feet.x < place.right + half
            && feet.y > place.top
            && feet.y < place.bottom + body.height
    }

    /// Along x with what is stood on, and with the speed of its surface: up ramps, and not through faces.
    fn carry_along<T: Terrain>(
        &mut self,
        room: &Surroundings<'_, T>,
        feet: DVec2,
        by: f64,
        surface_speed: f64,
    ) -> DVec2 {
        let way = self.in_pixels(DVec2::new(surface_speed * self.tuning.tick_seconds(), 0.0)).x + by;
        let walk = room.walk(feet, feet.x + way, Footing::Ground { steepest: self.tuning.steepest_climb() });
        if walk.blocked {
            self.rest.x = 0.0;
        }
        walk.feet
    }

    /// The body goes where its platform goes, as far as nothing stops it.
    fn ride<T: Terrain>(&mut self, room: &Surroundings<'_, T>, moving: &mut Moving, mover: &Mover) {
        let by = mover.by();
        if let (Mode::Hold, Some(hold)) = (self.mode, &mut self.hold) {
            hold.follow(mover);
            let feet = room.walk(moving.feet, moving.feet.x + by.x, Footing::Fixed).feet;
            moving.feet = moved_y(room, feet, feet.y + by.y);
            return;
        }
        let feet = self.carry_along(room, moving.feet, by.x, mover.material.surface_speed);
        // A ramp may have lifted it off its platform.
        let onto = if by.y < 0.0 { mover.now.top.min(feet.y) } else { mover.now.top.max(feet.y) };
        moving.feet = if by.y == 0.0 { feet } else { moved_y(room, feet, onto) };
    }

    /// A platform that comes against the body pushes it along its own way, along x at its old height, then
    /// along y. A one-way platform lifts what stands in its way, and else lets it through.
    fn be_pushed<T: Terrain, L: Listener>(
        &mut self,
        room: &Surroundings<'_, T>,
        moving: &mut Moving,
        mover: &Mover,
        listener: &mut L,
    ) {
        let (by, old, now) = (mover.by(), &mover.old, &mover.now);
        let (half, height) = (room.half(), room.body.height);
        let start = moving.start;
        if mover.solid && by.x != 0.0 {
            let feet = moving.feet;
            let to = if by.x > 0.0 { now.right + half } else { now.left - half };
            let reached = if by.x > 0.0 {
                start.x >= old.right + half && feet.x < to
            } else {
                start.x <= old.left - half && feet.x > to
            };
            if reached && feet.y > old.top && feet.y < old.bottom + height {
                moving.feet = room.walk(feet, to, Footing::Ground { steepest: f64::INFINITY }).feet;
                self.note_push(moving, mover.id, feet);
            }
        }
        let feet = moving.feet;
        if feet.x <= now.left - half || feet.x >= now.right + half {
            return;
        }
        if by.y < 0.0 && start.y <= old.top && feet.y > now.top {
            let in_air = self.mode == Mode::Air;
            if !mover.solid && self.mode != Mode::Ground {
                return;
            }
            let rises = in_air && moving.start_velocity.y < 0.0;
            if rises && !self.is_faster(mover, moving) {
                moving.outruns = Some(mover.id);
                return;
            }
            if rises && mover.solid {
                self.be_caught(moving, mover.id, listener);
                moving.feet = moved_y(room, feet, now.top);
                return;
            }
            let pushed = moved_y(room, feet, now.top);
            // A one-way top that cannot take the feet with it lets them through.
            if mover.solid || pushed.y == now.top {
                moving.feet = pushed;
                self.note_push(moving, mover.id, feet);
            }
        } else if mover.solid && by.y > 0.0 && start.y >= old.bottom + height && feet.y < now.bottom + height {
            moving.feet = moved_y(room, feet, now.bottom + height);
            self.note_push(moving, mover.id, feet);
        }
    }

    fn note_push(&mut self, moving: &mut Moving, carrier: MoverId, from: DVec2) {
        if moving.feet != from {
            moving.pushed = true;
            moving.pushed_upright |= moving.feet.x == from.x;
            self.report.events.push(Event::Pushed(carrier));
        }
    }

    /// Terrain refuses a push: the platform passes through the body.
    pub(super) fn be_crushed<L: Listener>(&mut self, moving: &mut Moving, carrier: MoverId, listener: &mut L) {
        self.note(listener, || Decision::Crushed);
        self.stop_crushed(moving, Event::Crushed(carrier));
    }

    fn stop_crushed(&mut self, moving: &mut Moving, event: Event) {
        self.report.events.push(event);
        moving.crushed = true;
        (moving.velocity, self.flight) = (DVec2::ZERO, None);
    }

    /// A terrain that changed between ticks may have become solid where the body is.
    #[cold]
    pub(super) fn be_crushed_by_terrain<T: Terrain, L: Listener>(
        &mut self,
        scene: &Scene<'_, T>,
        moving: &mut Moving,
        listener: &mut L,
    ) {
        let around = Surroundings { movers: &Movers::none(), ..self.surroundings(scene) };
        if !moving.crushed && !around.fits(moving.feet) {
            self.note(listener, || Decision::CrushedByTerrain);
            self.stop_crushed(moving, Event::CrushedByTerrain);
        }
    }

    /// Whether a platform goes up strictly faster than the body did when the tick began.
    pub(super) fn is_faster(&self, mover: &Mover, moving: &Moving) -> bool {
        -mover.by().y * self.tuning.rate() > -moving.start_velocity.y
    }

    /// A platform came up faster than the body rises: that ends the rise.
    pub(super) fn be_caught<L: Listener>(&mut self, moving: &mut Moving, carrier: MoverId, listener: &mut L) {
        let rise = -moving.velocity.y;
        self.note(listener, || Decision::Caught { rise });
        moving.velocity.y = 0.0;
        (moving.caught, moving.landed) = (Some(carrier), true);
        self.report.events.push(Event::Caught(carrier));
    }

    /// The walls touched, where they are now.
    fn see_walls_moved<T: Terrain>(&mut self, scene: &Scene<'_, T>) {
        let touched = &mut self.at_walls.touched;
        if let Some(mover) = touched.left_of.and_then(|carrier| scene.movers.mover(carrier)) {
            touched.left = Some(mover.now.right);
        }
        if let Some(mover) = touched.right_of.and_then(|carrier| scene.movers.mover(carrier)) {
            touched.right = Some(mover.now.left);
        }
    }

    /// The speed that the body takes along when it leaves what it rode on: never a downward one.
    pub(super) fn speed_taken_along<T: Terrain>(&self, scene: &Scene<'_, T>, moving: &Moving) -> DVec2 {
        let leave = self.tuning.leave_with();
        let Some(mover) = moving.rides.filter(|_| leave != Leave::Nothing).and_then(|from| scene.movers.mover(from))
        else {
            return DVec2::ZERO;
        };
        let speed = mover.by() * self.tuning.rate();
        DVec2::new(speed.x, if leave == Leave::All { speed.y.min(0.0) } else { 0.0 })
    }

    /// Adds the speed of a platform to the body's own.
    pub(super) fn take_along<L: Listener>(&self, moving: &mut Moving, speed: DVec2, listener: &mut L) {
        if speed != DVec2::ZERO {
            let held = DVec2::splat(LIMIT_SPEED);
            moving.velocity = (moving.velocity + speed).clamp(-held, held);
            self.note(listener, || Decision::TookAlong { right: speed.x, up: -speed.y });
        }
    }
}

impl super::Hold {
    /// The wall that is held has moved.
    fn follow(&mut self, mover: &Mover) {
        self.wall.face = match self.wall.side {
            Direction::Left => mover.now.right,
            Direction::Right => mover.now.left,
        };
        if let crate::motion::ClimbOver::Up { top } = &mut self.over {
            *top += mover.by().y;
        }
    }
}

/// Up or down to a height, as far as nothing stops it.
fn moved_y<T: Terrain>(room: &Surroundings<'_, T>, feet: DVec2, to: f64) -> DVec2 {
    let y = if to < feet.y {
        room.rise(feet, to).place
    } else {
        room.first_floor(feet.x, feet.y, to).map_or(to, |top| top.y)
    };
    DVec2::new(feet.x, y)
}
