//! Steps 2 and 3: what the player holds, and what comes of it.

use glam::DVec2;

use super::{Character, Hold, Moving, SteerLock};
use crate::collide::{Ignored, JOIN, Ladder, Surroundings, Wall};
use crate::motion::{
    self, Buttons, Cause, ClimbOver, Direction, Facts, Flight, Intent, Mode, Moment, slides, transition,
};
use crate::nearby::RampId;
use crate::terrain::{Features, Terrain};
use crate::tuning::{Drop, HoldWhen};
use crate::world::scene::Scene;
use crate::world::why::{Decision, Forgotten, HoldRefusal, JumpRefusal, LadderRefusal, LetGo, Listener, NoWallJump};
use crate::world::{Event, JumpedFrom};

/// What was pressed in a tick.
#[derive(Clone, Copy, Default)]
pub(super) struct Pressed {
    pub(super) jump: bool,
    up: bool,
    down: bool,
    grab: bool,
}

impl Character {
    /// Steps 2 and 3. Says whether jump was pressed.
    #[inline(always)]
    pub(super) fn decide<T: Terrain, L: Listener>(
        &mut self,
        scene: &Scene<'_, T>,
        moving: &mut Moving,
        buttons: &Buttons,
        listener: &mut L,
    ) -> bool {
        let pressed = self.take_buttons(buttons, moving.intent);
        if self.at_walls.lock.is_some() {
            self.apply_lock(moving, listener);
        }
        self.release(moving, listener);
        // Mostly nothing is asked for.
        let asked = self.pressed_at.is_some()
            || (self.held.jump && self.tuning.repeats_held())
            || pressed.down
            || !matches!(self.mode, Mode::Ground | Mode::Air)
            || (moving.intent.climbing != 0.0 && self.tuning.ladder().is_some())
            || (self.at_walls.touched.any() && self.tuning.wall().hold.is_some());
        if asked {
            let facts = self.facts(scene, moving, pressed, listener);
            self.change_mode(scene, moving, Moment::Decide, facts, listener);
        }
        self.slide(moving, listener);
        pressed.jump
    }

    /// Step 2: takes over what is held. Up is jump as well where the tuning says so.
    #[inline(always)]
    pub(super) fn take_buttons(&mut self, buttons: &Buttons, intent: Intent) -> Pressed {
        let before = self.held;
        self.held = *buttons;
        if buttons.up && self.tuning.ladder().is_some_and(|ladder| ladder.up_is_jump) {
            self.held.jump = true;
        }
        let pressed = Pressed {
            jump: self.held.jump && !before.jump,
            up: intent.up() && !before.is_up(),
            down: intent.down() && !before.is_down(),
            grab: buttons.grab && !before.grab,
        };
        if pressed.jump {
            self.pressed_at = Some(self.report.tick);
        }
        if let Some(direction) = intent.direction() {
            self.last_direction = direction;
        }
        if pressed.up || pressed.down {
            self.ladder_barred = false;
        }
        if pressed.grab {
            self.at_walls.barred = None;
        }
        pressed
    }

    /// Just after a jump off a wall the direction back to it counts as none.
    #[cold]
    fn apply_lock<L: Listener>(&mut self, moving: &mut Moving, listener: &mut L) {
        let Some(lock) = self.at_walls.lock else { return };
        if self.report.tick > lock.until {
            self.at_walls.lock = None;
            return;
        }
        let back = lock.push.opposite();
        if moving.intent.is_towards(back) {
            self.note(listener, || Decision::SteerLocked { until: lock.until });
        }
        moving.intent = moving.intent.without(back);
    }

    /// The button is up: that ends what holding it does for the jump under way, once.
    #[inline(always)]
    fn release<L: Listener>(&mut self, moving: &mut Moving, listener: &mut L) {
        let held = self.held.jump;
        if let Some(flight) = self.flight.as_mut().filter(|flight| flight.is_release_due(held)) {
            let before = -moving.velocity.y;
            moving.velocity.y = flight.release(&self.tuning, moving.feet.y, moving.velocity.y);
            let after = -moving.velocity.y;
            if before > 0.0 {
                self.note(listener, || Decision::Released { before, after });
            }
        }
    }

    #[inline(never)]
    fn facts<T: Terrain, L: Listener>(
        &mut self,
        scene: &Scene<'_, T>,
        moving: &Moving,
        pressed: Pressed,
        listener: &mut L,
    ) -> Facts {
        self.forget_late_press(listener);
        let up_climbs = self.tuning.ladder().is_some_and(|ladder| ladder.up_is_jump);
        if self.mode == Mode::Ladder && up_climbs && moving.intent.up() {
            // The press was meant for the ladder.
            self.pressed_at = None;
        }
        Facts::LADDER_ASKED.when(self.asks_for_ladder(scene, moving, listener))
            | Facts::HOLD_ASKED.when(self.asks_for_hold(scene, moving, listener))
            | Facts::LETS_GO.when(self.lets_go(moving).is_some())
            | Facts::DROP_ASKED.when(self.asks_for_drop(scene, moving, pressed, listener))
            | self.jump_facts(scene, moving, pressed.jump)
    }

    fn forget_late_press<L: Listener>(&mut self, listener: &mut L) {
        let Some(pressed) = self.pressed_at else { return };
        if self.report.tick - pressed > self.tuning.buffer_ticks() {
            self.forget_press(Forgotten::Late, listener);
        }
    }

    fn forget_press<L: Listener>(&mut self, because: Forgotten, listener: &mut L) {
        if let Some(pressed) = self.pressed_at.take() {
            let kept = self.tuning.buffer_ticks() > 0 || because != Forgotten::Late;
            if kept {
                self.note(listener, || Decision::PressForgotten { pressed, because });
            }
        }
    }

    fn jump_facts<T: Terrain>(&self, scene: &Scene<'_, T>, moving: &Moving, jump_pressed: bool) -> Facts {
        let tuning = &self.tuning;
        let supported = self.mode == Mode::Ground;
        let repeats = supported && tuning.repeats_held() && self.held.jump;
        let asked = self.pressed_at.is_some() || repeats;
        if !asked {
            return Facts::NONE;
        }
        let coyote = self.in_coyote_time();
        let wall = self.wall_to_jump_off().is_ok();
        let may_jump_in_air = jump_pressed && self.mode == Mode::Air && !coyote && !wall && self.air_jumps_left > 0;
        Facts::SUPPORTED.when(supported)
            | Facts::CAN_JUMP.when(tuning.jump().is_some())
            | Facts::JUMP_ASKED
            | Facts::COYOTE_TIME.when(coyote)
            | Facts::WALL_JUMP.when(wall)
            | Facts::AIR_JUMP.when(may_jump_in_air && !self.waits_for_ground(scene, moving))
    }

    fn in_coyote_time(&self) -> bool {
        let ticks = self.tuning.coyote_ticks();
        ticks > 0 && self.lost_ground_at.is_some_and(|lost| self.report.tick - lost <= ticks)
    }

    /// The wall that a jump would be taken off, and how many ticks ago it was lost, if it was.
    fn wall_to_jump_off(&self) -> Result<(Wall, Option<u64>), NoWallJump> {
        let (rules, walls) = (self.tuning.wall(), &self.at_walls);
        let Some(jump) = &rules.jump else { return Err(NoWallJump::NoWall) };
        let lost = walls
            .lost_last(self.last_direction)
            .filter(|(_, tick)| rules.coyote_ticks > 0 && self.report.tick - tick <= rules.coyote_ticks);
        let (wall, lost_ago) = match (self.hold, walls.touched.chosen(self.last_direction), lost) {
            (Some(hold), ..) => (hold.wall, None),
            (None, Some(touched), _) => (touched, None),
            (None, None, Some((wall, tick))) => (wall, Some(self.report.tick - tick)),
            (None, None, None) => return Err(NoWallJump::NoWall),
        };
        if !jump.same_wall && walls.jumped_off.is_some_and(|before| before.counts_as(&wall)) {
            return Err(NoWallJump::SameWall);
        }
        Ok((wall, lost_ago))
    }

    /// Whether a press in the air had better wait: the body will land within the buffer time, straight
    /// down, as gravity is now.
    fn waits_for_ground<T: Terrain>(&self, scene: &Scene<'_, T>, moving: &Moving) -> bool {
        let ticks = self.tuning.buffer_ticks();
        if !self.tuning.waits_for_ground() || moving.velocity.y < 0.0 || ticks == 0 {
            return false;
        }
        let down = moving.intent.down();
        let by = motion::way_down_within(&self.tuning, self.flight, moving.velocity.y, down, ticks);
        let feet = moving.feet;
        self.surroundings(scene).first_floor(feet.x, feet.y, feet.y + by).is_some()
    }

    /// Whether a ladder is to be taken: up with one at the body, down with one below the feet.
    fn asks_for_ladder<T: Terrain, L: Listener>(
        &self,
        scene: &Scene<'_, T>,
        moving: &Moving,
        listener: &mut L,
    ) -> bool {
        let (Some(numbers), Mode::Ground | Mode::Air) = (self.tuning.ladder(), self.mode) else { return false };
        if moving.intent.climbing == 0.0 || !scene.terrain.features().has(Features::LADDER) {
            return false;
        }
        if self.ladder_to_take(scene, moving, numbers.probe).is_none() {
            if L::LISTENS {
                // Nearly within reach: worth a word.
                let by = self.ladder_to_take(scene, moving, numbers.probe + scene.terrain.grid_lines().spacing());
                if let Some((_, by)) = by {
                    let refusal = LadderRefusal::OffCentre { by, probe: numbers.probe };
                    self.note(listener, || Decision::LadderRefused(refusal));
                }
            }
            return false;
        }
        if self.ladder_barred {
            self.note(listener, || Decision::LadderRefused(LadderRefusal::NotPressedAfresh));
            return false;
        }
        if moving.intent.down() && self.mode == Mode::Ground && !self.may_drop(scene, moving) {
            self.note(listener, || Decision::LadderRefused(LadderRefusal::SolidBelow));
            return false;
        }
        true
    }

    /// The ladder that up or down would take, and how far its middle is.
    fn ladder_to_take<T: Terrain>(&self, scene: &Scene<'_, T>, moving: &Moving, probe: f64) -> Option<(Ladder, f64)> {
        let room = self.surroundings(scene);
        let ladder = if moving.intent.up() {
            room.ladder_at_body(moving.feet, probe)
        } else {
            room.ladder_below(moving.feet, probe)
        };
        ladder.map(|ladder| (ladder, (moving.feet.x - room.centre(ladder)).abs()))
    }

    /// Whether a wall is to be held on to.
    fn asks_for_hold<T: Terrain, L: Listener>(&self, scene: &Scene<'_, T>, moving: &Moving, listener: &mut L) -> bool {
        let (Some(hold), Mode::Ground | Mode::Air) = (self.tuning.wall().hold, self.mode) else { return false };
        let Some(wall) = self.at_walls.touched.chosen(self.last_direction) else { return false };
        let asked = match hold.when {
            HoldWhen::Touched => self.mode == Mode::Air,
            HoldWhen::GrabHeld => self.held.grab,
        };
        if !asked {
            return false;
        }
        let refusal = if self.mode == Mode::Ground && !hold.from_ground {
            Some(HoldRefusal::OnGround)
        } else if hold.when == HoldWhen::Touched && moving.velocity.y < 0.0 {
            Some(HoldRefusal::Rising)
        } else if moving.intent.is_towards(wall.side.opposite()) {
            Some(HoldRefusal::AwayHeld)
        } else if self.at_walls.barred.is_some_and(|barred| barred.is(&wall)) {
            Some(HoldRefusal::NotPressedAfresh)
        } else if !self.surroundings(scene).wall_spans(wall, self.middle(moving.feet.y)) {
            Some(HoldRefusal::BesideMiddle)
        } else {
            None
        };
        if let Some(refusal) = refusal {
            self.note(listener, || Decision::HoldRefused(refusal));
        }
        refusal.is_none()
    }

    /// The height of the body's middle, px, y down.
    pub(super) fn middle(&self, feet: f64) -> f64 {
        feet - self.tuning.body().height * 0.5
    }

    /// Why a wall that is held is let go in this tick.
    fn lets_go(&self, moving: &Moving) -> Option<LetGo> {
        let (hold, rule) = (self.hold?, self.tuning.wall().hold?);
        if moving.intent.is_towards(hold.wall.side.opposite()) {
            Some(LetGo::AwayHeld)
        } else if rule.when == HoldWhen::GrabHeld && !self.held.grab && hold.over == ClimbOver::None {
            Some(LetGo::GrabReleased)
        } else {
            None
        }
    }

    fn asks_for_drop<T: Terrain, L: Listener>(
        &self,
        scene: &Scene<'_, T>,
        moving: &Moving,
        pressed: Pressed,
        listener: &mut L,
    ) -> bool {
        let asked = self.mode == Mode::Ground
            && match self.tuning.drop_rule() {
                Drop::Down => pressed.down,
                Drop::DownAndJump => pressed.jump && moving.intent.down(),
                Drop::Off => false,
            };
        let drops = asked && self.may_drop(scene, moving);
        if asked && !drops {
            self.note(listener, || Decision::DropRefused);
        }
        drops
    }

    /// Whether nothing solid supports, nor would be met once what supports no longer holds: what a drawn ramp
    /// leads up to is solid again below it.
    fn may_drop<T: Terrain>(&self, scene: &Scene<'_, T>, moving: &Moving) -> bool {
        let below = DVec2::new(moving.feet.x, moving.feet.y + 2.0 * JOIN);
        let free = || {
            Surroundings { ignored: self.tops_to_drop_through(scene, moving), ..self.surroundings(scene) }.fits(below)
        };
        !self.on_solid && (!scene.terrain.features().has(Features::DRAWN_RAMP) || free())
    }

    fn tops_to_drop_through<T: Terrain>(&self, scene: &Scene<'_, T>, moving: &Moving) -> Ignored {
        let feet = moving.feet;
        let (mut ramps, mut movers) = ([None; 2], [None; 4]);
        self.surroundings(scene).floors(feet.x, feet.y, feet.y, |top| {
            if let (Some(RampId::Drawn(line)), Some(free)) = (top.ramp, ramps.iter_mut().find(|ramp| ramp.is_none())) {
                *free = Some(line);
            }
            let free = movers.iter_mut().find(|mover| mover.is_none());
            if let (Some(mover), Some(free)) = (top.support.mover(), free) {
                *free = Some(mover);
            }
        });
        Ignored { height: Some(feet.y), ramps, movers }
    }

    /// The one place where the mode changes, and what comes with each change.
    #[inline(never)]
    pub(super) fn change_mode<T: Terrain, L: Listener>(
        &mut self,
        scene: &Scene<'_, T>,
        moving: &mut Moving,
        moment: Moment,
        facts: Facts,
        listener: &mut L,
    ) {
        let Some(row) = transition(self.mode, moment, facts) else { return };
        let from = core::mem::replace(&mut self.mode, row.to);
        match row.cause {
            Cause::JumpedFromGround => {
                let lost_ago = self.lost_ground_at.map(|lost| self.report.tick - lost);
                moving.velocity.y = -self.tuning.jump().map_or(0.0, |jump| jump.speed);
                self.take_off(moving, Flight::off_ground(moving.feet.y), JumpedFrom::Ground, lost_ago, listener);
                self.take_along(moving, self.speed_taken_along(scene, moving), listener);
            }
            Cause::JumpedOffLadder => {
                moving.velocity.y = -self.tuning.jump().map_or(0.0, |jump| jump.speed);
                (self.ladder, self.ladder_barred) = (None, true);
                self.take_off(moving, Flight::off_ground(moving.feet.y), JumpedFrom::Ladder, None, listener);
            }
            Cause::JumpedOffWall => {
                self.jump_off_wall(moving, listener);
                self.take_along(moving, self.speed_taken_along(scene, moving), listener);
            }
            Cause::JumpedInAir => {
                // An air jump never makes a rise slower.
                let own = self.tuning.air_jump().map_or(0.0, |jump| jump.speed);
                moving.velocity.y = moving.velocity.y.min(-own);
                self.air_jumps_left -= 1;
                self.take_off(moving, Flight::in_air(moving.feet.y), JumpedFrom::Air, None, listener);
            }
            Cause::TookLadder => self.take_ladder(scene, moving, from, listener),
            Cause::TookWall => self.take_wall(moving, listener),
            Cause::DroppedThrough => self.drop_through(scene, moving, listener),
            Cause::LetGo => {
                if let Some(why) = self.lets_go(moving) {
                    self.note(listener, || Decision::LetGo(why));
                }
                self.end_hold(moving);
            }
            Cause::HoldEnded => {
                self.stop_holding(moving, from, listener);
                if row.to == Mode::Ground {
                    self.found_ground();
                }
            }
            Cause::CarriedOff => {
                moving.carried_off = true;
                self.lost_ground_at = Some(self.report.tick);
            }
            Cause::LostGround => {
                self.lost_ground_at = Some(self.report.tick);
                self.tell(Event::LostGround);
                if !moving.pushed {
                    self.take_along(moving, self.speed_taken_along(scene, moving), listener);
                }
            }
            Cause::FoundGround => {
                if !moving.landed {
                    self.tell(Event::Landed { speed: moving.velocity.y });
                }
                moving.velocity.y = 0.0;
                self.found_ground();
            }
            Cause::Bounced => {
                if matches!(from, Mode::Ladder | Mode::Hold) {
                    self.stop_holding(moving, from, listener);
                    // What is held leads back onto it in the next tick.
                    self.ladder_barred = true;
                }
                self.bounce(moving);
            }
        }
    }

    #[cold]
    fn take_off<L: Listener>(
        &mut self,
        moving: &mut Moving,
        flight: Flight,
        from: JumpedFrom,
        lost_ago: Option<u64>,
        listener: &mut L,
    ) {
        let pressed = self.pressed_at;
        self.note(listener, || Decision::Jumped { from, pressed, lost_ago });
        self.flight = Some(flight.let_go_before(!self.held.jump));
        moving.left_ground = true;
        (self.pressed_at, self.lost_ground_at, self.at_walls.lost) = (None, None, [None; 2]);
        self.tell(Event::Jumped(from));
    }

    #[cold]
    fn jump_off_wall<L: Listener>(&mut self, moving: &mut Moving, listener: &mut L) {
        let (Ok((wall, lost_ago)), Some(jump)) = (self.wall_to_jump_off(), self.tuning.wall().jump) else { return };
        let push = wall.side.opposite();
        moving.velocity = DVec2::new(push.sign() * jump.push_speed, -jump.jump.speed);
        let walls = &mut self.at_walls;
        walls.lock = Some(SteerLock { push, until: self.report.tick + jump.lock_ticks });
        (walls.jumped_off, walls.bump) = (Some(wall), None);
        walls.spent = lost_ago.is_none().then_some(wall);
        if self.hold.take().is_some() {
            self.at_walls.barred = Some(wall);
        }
        moving.intent = moving.intent.without(wall.side);
        self.take_off(moving, Flight::off_wall(moving.feet.y), JumpedFrom::Wall, lost_ago, listener);
    }

    #[cold]
    fn take_ladder<T: Terrain, L: Listener>(
        &mut self,
        scene: &Scene<'_, T>,
        moving: &mut Moving,
        from: Mode,
        listener: &mut L,
    ) {
        let probe = self.tuning.ladder().map_or(0.0, |ladder| ladder.probe);
        let Some((ladder, off_centre)) = self.ladder_to_take(scene, moving, probe) else { return };
        self.note(listener, || Decision::TookLadder { off_centre });
        self.ladder = Some(ladder);
        self.forget_press(Forgotten::TookLadder, listener);
        if from == Mode::Ground && moving.intent.down() {
            // The shelf, the platform or the ladder's own top that is stood on lets the body down.
            self.ignored = self.tops_to_drop_through(scene, moving);
            self.dropping = true;
        }
        self.catch_hold(moving);
        (self.at_walls.jumped_off, self.at_walls.lock) = (None, None);
        // Of the lock that this ends nothing is left in this tick.
        moving.intent = Intent::of(&self.held);
        self.air_jumps_left = self.tuning.air_jumps();
        self.tell(Event::TookLadder);
    }

    #[cold]
    fn take_wall<L: Listener>(&mut self, moving: &mut Moving, listener: &mut L) {
        let Some(wall) = self.at_walls.touched.chosen(self.last_direction) else { return };
        self.note(listener, || Decision::TookWall(wall.side));
        self.hold = Some(Hold { wall, over: ClimbOver::None });
        self.forget_press(Forgotten::TookWall, listener);
        self.catch_hold(moving);
        self.at_walls.lock = None;
        self.tell(Event::TookWall);
    }

    /// What a ladder and a wall's hold have in common.
    fn catch_hold(&mut self, moving: &mut Moving) {
        moving.left_ground = true;
        moving.velocity = DVec2::ZERO;
        (self.flight, self.lost_ground_at, self.standing, self.on_solid) = (None, None, None, false);
        (self.at_walls.lost, self.at_walls.bump) = ([None; 2], None);
    }

    #[cold]
    fn drop_through<T: Terrain, L: Listener>(&mut self, scene: &Scene<'_, T>, moving: &mut Moving, listener: &mut L) {
        self.note(listener, || Decision::Dropped);
        self.ignored = self.tops_to_drop_through(scene, moving);
        self.dropping = true;
        self.forget_press(Forgotten::Dropped, listener);
        moving.left_ground = true;
        (self.standing, self.on_solid) = (None, false);
        self.tell(Event::DroppedThrough);
        let speed = self.speed_taken_along(scene, moving);
        self.take_along(moving, DVec2::new(speed.x, 0.0), listener);
    }

    /// A wall is let go other than by a jump.
    fn end_hold(&mut self, moving: &mut Moving) {
        self.at_walls.barred = self.hold.take().map(|hold| hold.wall);
        moving.velocity.y = 0.0;
        self.tell(Event::LetGoOfWall);
    }

    /// What was held is no longer there, or a floor was come down upon.
    #[cold]
    fn stop_holding<L: Listener>(&mut self, moving: &mut Moving, from: Mode, listener: &mut L) {
        let floor = moving.stopped == Some(super::Stopped::AtFloor);
        self.note(listener, || Decision::LetGo(if floor { LetGo::Floor } else { LetGo::Ended }));
        if from == Mode::Ladder {
            self.ladder = None;
            moving.velocity.y = 0.0;
            self.tell(Event::LetGoOfLadder);
        } else {
            self.end_hold(moving);
        }
    }

    fn found_ground(&mut self) {
        (self.flight, self.lost_ground_at, self.rest.y) = (None, None, 0.0);
        self.air_jumps_left = self.tuning.air_jumps();
        let walls = &mut self.at_walls;
        (walls.jumped_off, walls.spent, walls.lock, walls.bump) = (None, None, None, None);
        walls.lost = [None; 2];
        walls.sliding = None;
    }

    /// What is stood on throws the body up.
    #[cold]
    pub(super) fn bounce(&mut self, moving: &mut Moving) {
        let Some(top) = self.standing else { return };
        let Some(bounce) = top.material.bounce else { return };
        moving.borne_by = top.support.mover();
        let jump = self.tuning.bounce(bounce.height, bounce.release);
        self.found_ground();
        (self.mode, self.standing, self.on_solid) = (Mode::Air, None, false);
        moving.left_ground = true;
        moving.velocity.y = -jump.speed;
        self.flight = Some(Flight::bounced(moving.feet.y, jump).let_go_before(!self.held.jump));
        self.tell(Event::Bounced(top.support));
    }

    /// Whether the body slides down along a wall in this tick.
    #[inline(always)]
    fn slide<L: Listener>(&mut self, moving: &Moving, listener: &mut L) {
        if !self.at_walls.touched.any() {
            self.at_walls.sliding = None;
            return;
        }
        let before = self.at_walls.sliding.take();
        let Some(slide) = self.tuning.wall().slide else { return };
        if self.mode != Mode::Air {
            return;
        }
        let goes_on = before.is_some() && moving.velocity.y == 0.0;
        let Some(wall) = self.at_walls.touched.chosen(self.last_direction) else { return };
        if moving.velocity.y <= 0.0 && !goes_on {
            return;
        }
        if slides(&slide, moving.intent, wall.side) {
            self.at_walls.sliding = Some(wall.side);
            if before.is_none() {
                let (side, before, top_speed) = (wall.side, moving.velocity.y, slide.top_speed);
                self.note(listener, || Decision::Slides { side, before, top_speed });
            }
        } else if before.is_some() {
            self.note(listener, || Decision::SlideRefused(wall.side));
        }
    }

    /// A press of this very tick that nothing came of: why, and until when it is kept.
    #[cold]
    pub(super) fn note_refused_press<L: Listener>(&self, jump_pressed: bool, listener: &mut L) {
        if !jump_pressed || self.pressed_at != Some(self.report.tick) {
            return;
        }
        let (tick, rules) = (self.report.tick, self.tuning.wall());
        let buffer = self.tuning.buffer_ticks();
        let wall = rules.jump.and_then(|_| self.wall_to_jump_off().err());
        let refusal = JumpRefusal {
            no_jump: self.tuning.jump().is_none(),
            holding: self.hold.is_some(),
            in_air_for: self.lost_ground_at.map(|lost| (tick - lost, self.tuning.coyote_ticks())),
            wall,
            air_jumps_spent: self.tuning.air_jumps() > 0 && self.air_jumps_left == 0,
            waits_for_ground: self.tuning.air_jumps() > 0 && self.air_jumps_left > 0,
            kept_until: (buffer > 0).then_some(tick + buffer),
        };
        self.note(listener, || Decision::JumpRefused(refusal));
    }

    /// The direction that the character faces.
    pub(super) fn facing(&self, slides: bool) -> Direction {
        match (self.at_walls.lock, self.at_walls.sliding) {
            (_, Some(side)) if slides => side.opposite(),
            (Some(lock), _) => lock.push,
            _ => self.last_direction,
        }
    }
}
