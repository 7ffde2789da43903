//! A character: what it is doing, and its tick, step by step.

use alloc::boxed::Box;
use alloc::sync::Arc;
use core::num::NonZeroU64;

use glam::DVec2;

use super::carry::carry;
use super::change::choose;
use super::crush::be_crushed_by_terrain;
use super::decide::{
    apply_steer_lock, forget_late_press, may_be_asked, note_refused_press, release, slide, take_buttons,
    take_buttons_driven,
};
use super::outside::{Forces, Outside, copy_box};
use super::scene::Scene;
use super::sense::{note_end, sense};
use super::travel::{follow_ground, give_bump_back, may_be_inside, move_x, move_y, stay_out};
use super::turn::Turn;
use super::wall_memory::WallMemory;
use super::zones::{ZoneMemory, note_zones};
use super::{CharacterId, Contacts, Decision, Event, Listener, NoListener, StartError, State, TickReport, start};
use crate::collide::{Cells, Dropping, Surroundings};
use crate::input::{Buttons, Direction, Intent};
use crate::platforms::{AskedBy, BodyPlace, MoverId, MoverKey, Rider};
use crate::presence::MeetsAs;
use crate::space::Hitbox;
use crate::states::{self, FourWay, Ground, Mode, Moment, Speeds};
use crate::terrain::{Material, Terrain};
use crate::tuning::{LIMIT_SPEED, Tuning};

/// One tick seldom has more events than this; room for them is made at the start.
const ROOM_FOR_EVENTS: usize = 16;

/// A character: its tuning, where it is and what it is doing.
#[derive(Debug, PartialEq)]
pub struct Character {
    pub(super) id: CharacterId,
    /// What it is to others, if it is a prop.
    pub(super) itself: Option<MoverKey>,
    /// Shared with its saved copies: it never changes.
    pub(super) tuning: Arc<Tuning>,
    pub(super) mode: Mode,
    pub(super) held: Buttons,
    /// Jump is held, or up where that is jump too.
    pub(super) jump_held: bool,
    /// What the buttons held come to.
    pub(super) intent: Intent,
    /// The last single direction held.
    pub(super) last_direction: Direction,
    /// The direction that counts as held, if it runs by itself.
    pub(super) runs_by_itself: Option<Direction>,
    /// The tick of a press of jump that nothing has come of yet.
    pub(super) pressed_at: Option<NonZeroU64>,
    pub(super) air_jumps_left: u16,
    /// The feet's height when the head last bumped, until the head has been elsewhere; then infinite.
    pub(super) bumped_at: f64,
    pub(super) walls: WallMemory,
    /// Jumped or thrown off a ladder: none is taken until up or down is pressed afresh.
    pub(super) ladder_barred: bool,
    pub(super) dropping: Dropping,
    /// The tiles that the hitbox overlaps.
    pub(super) cells: Cells,
    /// The zones in which it is, where there are any.
    pub(super) zones: Option<Box<ZoneMemory>>,
    pub(super) ended: bool,
    pub(super) report: TickReport,
    /// What the game does to it, if it ever did anything.
    pub(super) outside: Outside,
}

/// A saved character is a copy of it: a state a tick, for going back over a network, must stay small.
const _: () = assert!(size_of::<Character>() <= 512);

impl Clone for Character {
    fn clone(&self) -> Character {
        let (tuning, dropping, report) = (self.tuning.clone(), self.dropping.clone(), self.report.clone());
        let (outside, zones) = (self.outside.clone(), self.zones.clone());
        Character { tuning, dropping, report, outside, zones, ..*self }
    }

    /// Keeps the room there is: saving and restoring tick after tick allocates nothing.
    fn clone_from(&mut self, other: &Character) {
        let mut events = core::mem::take(&mut self.report.events);
        events.clone_from(&other.report.events);
        let mut dropping = core::mem::take(&mut self.dropping);
        dropping.clone_from(&other.dropping);
        let (mut outside, mut zones) = (core::mem::take(&mut self.outside), self.zones.take());
        outside.clone_from(&other.outside);
        copy_box(&mut zones, &other.zones);
        let (tuning, report) = (other.tuning.clone(), TickReport { events, ..other.report });
        *self = Character { tuning, dropping, report, outside, zones, ..*other };
    }
}

impl Character {
    /// Tick 0: finds the support of a body put at a place, without events.
    pub(super) fn start<T: Terrain>(
        scene: Scene<'_, T>,
        (id, itself): (CharacterId, Option<MoverId>),
        tuning: Tuning,
        feet: DVec2,
        tick: u64,
    ) -> Result<Character, StartError> {
        start::check(&scene, &tuning, itself, feet)?;
        let itself = itself.map(MoverKey::from);
        let mut character = Character::at(scene.terrain, (id, itself), Arc::new(tuning), feet, tick);
        character.make_room();
        if scene.zones.is_some() {
            character.expect_zones();
        }
        character.find_support(scene);
        Ok(character)
    }

    /// A body as it is at a place before anything is known of what is around it.
    fn at<T: Terrain>(
        terrain: &T,
        (id, itself): (CharacterId, Option<MoverKey>),
        tuning: Arc<Tuning>,
        feet: DVec2,
        tick: u64,
    ) -> Character {
        let runs_by_itself = tuning.numbers().run.steady.direction();
        let mode = match tuning.four_way() {
            Some(_) => Mode::FourWay(FourWay::FRESH),
            None => Mode::Ground(Ground::PLAIN),
        };
        Character {
            id,
            itself,
            cells: Cells::of(terrain.grid_lines(), tuning.body(), feet),
            air_jumps_left: tuning.most_air_jumps(),
            tuning,
            mode,
            held: Buttons::NONE,
            jump_held: false,
            intent: Intent::running(&Buttons::NONE, runs_by_itself),
            last_direction: runs_by_itself.unwrap_or(Direction::Right),
            runs_by_itself,
            pressed_at: None,
            bumped_at: f64::INFINITY,
            walls: WallMemory::default(),
            ladder_barred: false,
            dropping: Dropping::nothing(),
            zones: None,
            ended: false,
            report: TickReport::at_rest(tick, feet),
            outside: Outside::default(),
        }
    }

    /// Puts it somewhere else, as it would start there; what is held stays held.
    pub(super) fn put_at<T: Terrain>(&mut self, scene: Scene<'_, T>, feet: DVec2, tick: u64) -> Result<(), StartError> {
        start::check(&scene, &self.tuning, self.itself.map(MoverId::from), feet)?;
        let Character { held, jump_held, intent, last_direction, id, itself, .. } = *self;
        let (mut outside, zones) = (core::mem::take(&mut self.outside), self.zones.take());
        outside.forget_forces();
        let mut dropping = core::mem::take(&mut self.dropping);
        dropping.end_all();
        let events = core::mem::take(&mut self.report.events);
        let at_rest = Character::at(scene.terrain, (id, itself), self.tuning.clone(), feet, tick);
        let report = TickReport { events, ..at_rest.report };
        *self = Character { held, jump_held, intent, last_direction, outside, zones, dropping, report, ..at_rest };
        self.run_by_itself(self.runs_by_itself);
        self.find_support(scene);
        Ok(())
    }

    /// Gives it another tuning where it is.
    pub(super) fn retune<T: Terrain>(&mut self, scene: Scene<'_, T>, tuning: Tuning) -> Result<(), StartError> {
        let feet = self.report.feet;
        let fits_still = tuning.body() == self.tuning.body() && tuning.group() == self.tuning.group();
        if fits_still {
            start::check_tile(&scene, &tuning)?;
        } else {
            start::check(&scene, &tuning, self.itself.map(MoverId::from), feet)?;
        }
        self.forget_what_is_over();
        let ran_by_itself = self.tuning.numbers().run.steady;
        self.cells = Cells::of(scene.terrain.grid_lines(), tuning.body(), feet);
        match Arc::get_mut(&mut self.tuning) {
            Some(own) => *own = tuning,
            // A saved state has it too.
            None => self.tuning = Arc::new(tuning),
        }
        self.outside.make_room(self.is_driven());
        let runs_by_itself = self.tuning.numbers().run.steady;
        if runs_by_itself != ran_by_itself {
            self.run_by_itself(runs_by_itself.direction());
        }
        self.end_what_is_lacking();
        self.outside.tell_once_later(Event::Retuned);
        self.name_state(self.report.tick + 1);
        Ok(())
    }

    /// A direction counts as held from now on, or none does.
    pub(super) fn run_by_itself(&mut self, direction: Option<Direction>) {
        self.runs_by_itself = direction;
        self.intent = Intent::running(&self.held, direction);
        self.last_direction = self.intent.direction().unwrap_or(self.last_direction);
    }

    /// Windows that have closed do not open again because another tuning has longer ones.
    fn forget_what_is_over(&mut self) {
        let (tick, tuning) = (self.report.tick, &self.tuning);
        let is_over = |since: u64, ticks: u64| tick + 1 - since.min(tick + 1) > ticks;
        if self.pressed_at.is_some_and(|pressed| is_over(pressed.get(), tuning.buffer_ticks())) {
            self.pressed_at = None;
        }
        for lost in &mut self.walls.lost {
            *lost = lost.filter(|(_, lost)| !is_over(*lost, tuning.wall().coyote_ticks));
        }
        if let Mode::Air(air) = &mut self.mode {
            air.lost_ground_at = air.lost_ground_at.filter(|lost| !is_over(lost.get(), tuning.coyote_ticks()));
            air.bump = air.bump.filter(|bump| !is_over(bump.tick, tuning.bump_memory_ticks()));
        }
    }

    /// What its tuning has not ends; what it has less of is held to that.
    fn end_what_is_lacking(&mut self) {
        let tuning = self.tuning.clone();
        let wall = tuning.wall();
        self.air_jumps_left = match self.mode {
            Mode::Ground(_) => tuning.most_air_jumps(),
            _ => self.air_jumps_left.min(tuning.most_air_jumps()),
        };
        let lacks_what_holds = match self.mode {
            Mode::Ladder(_) => tuning.ladder().is_none(),
            Mode::Hold(_) => wall.hold.is_none(),
            Mode::Ground(_) | Mode::Air(_) | Mode::FourWay(_) => false,
        };
        if lacks_what_holds {
            self.let_go_of_everything();
        }
        match (tuning.four_way(), &self.mode) {
            (Some(_), Mode::FourWay(_)) => {}
            (Some(_), _) => self.mode = Mode::FourWay(FourWay::FRESH),
            (None, Mode::FourWay(_)) => self.mode = Mode::Air(states::Air::default()),
            (None, _) => {}
        }
        if let Mode::Air(air) = &mut self.mode {
            air.sliding = air.sliding.filter(|_| wall.slide.is_some());
            air.bump = air.bump.filter(|_| tuning.bump_memory_ticks() > 0);
            let longest = self.report.tick + wall.jump.as_ref().map_or(0, |jump| jump.lock_ticks);
            air.lock = air.lock.map(|lock| states::SteerLock { until: lock.until.min(longest), ..lock });
        }
    }

    fn find_support<T: Terrain>(&mut self, scene: Scene<'_, T>) {
        let told = self.report.events.len();
        let mut nobody = NoListener;
        let mut turn = Turn::new(self, scene, &mut nobody);
        turn.is_tick_0 = true;
        turn.look(DVec2::ZERO);
        follow_ground(&mut turn);
        if may_be_inside(&turn) {
            stay_out(&mut turn);
        }
        sense(&mut turn);
        turn.write();
        self.report.events.truncate(told);
        self.report.state_since = self.report.tick + 1;
        self.report.from = self.report.feet;
        if let Some(air) = self.mode.air_mut() {
            air.lost_ground_at = None;
        }
        self.air_jumps_left = self.tuning.most_air_jumps();
        self.name_state(self.report.tick + 1);
    }

    /// Makes room for events, which a copy has not: so that ticks allocate nothing.
    pub(super) fn make_room(&mut self) {
        let events = &mut self.report.events;
        events.reserve(ROOM_FOR_EVENTS.saturating_sub(events.len()));
        self.dropping.make_room();
        self.outside.make_room(self.is_driven());
        self.make_room_for_zones();
    }

    /// Which character it is.
    #[must_use]
    pub fn id(&self) -> CharacterId {
        self.id
    }

    /// Its number among the characters, or the props, of its world.
    pub(super) fn identity(&self) -> u32 {
        self.id.0
    }

    /// Whether it is a prop.
    pub(super) fn is_prop(&self) -> bool {
        self.itself.is_some()
    }

    /// How it moves.
    #[must_use]
    pub fn tuning(&self) -> &Tuning {
        &self.tuning
    }

    /// What the last tick did, or the start.
    #[inline]
    #[must_use]
    pub fn report(&self) -> &TickReport {
        &self.report
    }

    pub(super) fn set_velocity(&mut self, velocity: DVec2) {
        let held = |speed: f64| if speed.is_nan() { 0.0 } else { speed.clamp(-LIMIT_SPEED, LIMIT_SPEED) };
        let down = if self.mode.is_ground() { 0.0 } else { held(velocity.y) };
        self.report.velocity = DVec2::new(held(velocity.x), down);
        self.name_state(self.report.tick + 1);
    }

    /// The hitbox, px, y down.
    #[must_use]
    pub fn hitbox(&self) -> Hitbox {
        self.tuning.body().hitbox_at(self.report.feet)
    }

    /// The height of the body's middle, px, y down.
    pub(super) fn middle(&self, feet: f64) -> f64 {
        feet - self.tuning.body().height * 0.5
    }

    /// Whether the hitbox would overlap a box.
    pub(super) fn overlaps(&self, place: &Hitbox, feet: DVec2) -> bool {
        let body = self.tuning.body();
        let half = body.half_width();
        feet.x > place.left - half
            && feet.x < place.right + half
            && feet.y > place.top
            && feet.y < place.bottom + body.height
    }

    /// How many jumps in the air it has left; 0 of who has none.
    #[must_use]
    pub fn air_jumps_left(&self) -> u32 {
        self.air_jumps_left.into()
    }

    /// Whether it has died or is lost: it no longer moves.
    #[must_use]
    pub fn has_ended(&self) -> bool {
        self.ended
    }

    /// The platform or prop on which the body rides: that it stands on, or whose side it holds.
    #[inline]
    pub(super) fn ridden(&self) -> Option<MoverId> {
        match &self.mode {
            Mode::Ground(ground) => ground.support.mover(),
            Mode::Hold(hold) => hold.wall.mover(),
            Mode::Air(_) | Mode::Ladder(_) | Mode::FourWay(_) => None,
        }
    }

    /// Who it is when it asks what moves.
    #[inline]
    pub(super) fn asks(&self) -> AskedBy {
        if self.is_prop() { AskedBy::Prop } else { AskedBy::Character(self.id.0 as usize) }
    }

    /// What others meet of it before it moves.
    pub(super) fn place_before(&self, id: MoverId) -> BodyPlace {
        let place = self.hitbox();
        BodyPlace {
            id,
            old: place,
            now: place,
            solid: true,
            material: Material::PLAIN,
            zone: None,
            group: self.tuning.group(),
            is_there: self.is_there(),
            has_moved: false,
        }
    }

    /// Whether it is in anybody's way.
    pub(super) fn is_there(&self) -> bool {
        !self.ended && !self.outside.passes()
    }

    /// As what it meets others.
    #[inline]
    pub(super) fn meets_as(&self) -> MeetsAs {
        if self.outside.passes() { MeetsAs::Nobody } else { MeetsAs::Member(self.tuning.group()) }
    }

    /// Whether something may act on it that is not of every body: what its flight does, and what whole pixels leave over.
    fn is_driven(&self) -> bool {
        self.tuning.flight().is_some() || self.tuning.moves_whole_pixels()
    }

    /// Whether it walks four ways, without gravity.
    #[inline]
    pub(super) fn is_seen_from_above(&self) -> bool {
        self.tuning.four_way().is_some()
    }

    /// Who it is to a platform.
    pub(super) fn rider(&self) -> Rider {
        Rider { group: self.tuning.group(), is_character: !self.is_prop() }
    }

    /// The terrain, and what moves in it, as this character meets them.
    #[inline]
    pub(super) fn surroundings<'a, T: Terrain>(&'a self, scene: &'a Scene<'a, T>) -> Surroundings<'a, T> {
        let around = scene.around(self.tuning.body(), self.tuning.ladder().is_some());
        Surroundings { unmet: self.itself.map(MoverId::from), dropping: &self.dropping, ..around }
    }

    /// As far around the body as it mostly comes in a tick: what moves there is looked for at once.
    pub(super) fn reach(&self) -> Hitbox {
        let speed = self.report.velocity.abs().max_element();
        let by_itself = self.tuning.felt() + 2.0 + 1.5 * speed * self.tuning.tick_seconds();
        self.hitbox().grown(by_itself + self.outside.drives_on(self.tuning.tick_seconds()))
    }

    /// How far a body moves along an axis: as far as it should, or whole pixels, the rest being carried over.
    #[inline(always)]
    pub(super) fn in_pixels(&mut self, by: DVec2) -> DVec2 {
        if !self.tuning.moves_whole_pixels() {
            return by;
        }
        self.outside.in_pixels(by)
    }

    /// One tick, step by step as numbered in `docs/model.md`. Returns what held the body up, or threw it up, if
    /// that moves.
    pub(super) fn tick<T: Terrain, L: Listener>(
        &mut self,
        scene: Scene<'_, T>,
        buttons: &Buttons,
        tick: u64,
        listener: &mut L,
    ) -> Option<MoverId> {
        if self.ended {
            self.report.events.clear();
            return None;
        }
        if self.outside.holds_still() {
            wait_through(self, scene, tick);
            return None;
        }
        let may_have_changed = scene.nearby.follow(scene.terrain.revision());
        let may_be_crushed = may_have_changed || self.report.events.contains(&Event::CrushedByTerrain);
        self.report.events.clear();
        self.report.tick = tick;
        self.report.from = self.report.feet;
        self.report.contacts = Contacts::default();
        let mut turn = Turn::new(self, scene, listener);
        if turn.body.outside.is_any() {
            let forces = turn.body.outside.begin(&mut turn.body.report);
            let Forces { push, drift, .. } = forces;
            if push != DVec2::ZERO || drift != DVec2::ZERO {
                turn.note(|| Decision::ActedOn { push, drift });
            }
            turn.forces = Some(forces);
        }
        carry(&mut turn); // 1
        if may_be_crushed {
            be_crushed_by_terrain(&mut turn);
        }
        turn.carried.to = turn.feet;
        turn.carried.rides = turn.body.ridden();
        if turn.carried.crushed {
            wait_to_be_clear(&mut turn, buttons);
        } else {
            decide(&mut turn, buttons); // 2, 3
            let speeds = find_speeds(&mut turn); // 4
            turn.look(DVec2::new(speeds.x.by, speeds.y.by));
            move_x(&mut turn, speeds.x.by); // 5
            move_y(&mut turn, speeds.y.by); // 6
            follow_ground(&mut turn); // 7
            if may_be_inside(&turn) {
                stay_out(&mut turn);
            }
        }
        finish(&mut turn);
        if turn.listener.listens() && !turn.carried.crushed {
            note_refused_press(&mut turn);
        }
        turn.borne_by
    }
}

/// A tick in which the game holds it still. What may have come upon it meanwhile is looked at when it goes on.
#[cold]
fn wait_through<T: Terrain>(body: &mut Character, scene: Scene<'_, T>, tick: u64) {
    scene.nearby.doubt();
    body.report.events.clear();
    (body.report.tick, body.report.from) = (tick, body.report.feet);
    body.outside.begin(&mut body.report);
}

/// Steps 2 and 3.
#[inline(always)]
fn decide<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>, buttons: &Buttons) {
    take(turn, buttons);
    if turn.body.mode.air().is_some_and(|air| air.lock.is_some()) {
        apply_steer_lock(turn);
    }
    release(turn);
    if may_be_asked(turn) && turn.forces.is_none_or(|forces| !forces.uncontrolled) {
        ask(turn);
    }
    slide(turn);
}

/// Step 2.
#[inline(always)]
fn take<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>, buttons: &Buttons) {
    match turn.forces {
        None => take_buttons(turn, buttons),
        Some(forces) => take_buttons_driven(turn, buttons, forces),
    }
}

/// Does the first thing that is due of what the player asks for.
#[inline(never)]
fn ask<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>) {
    forget_late_press(turn);
    let up_climbs = turn.body.tuning.ladder().is_some_and(|ladder| ladder.up_is_jump);
    if matches!(turn.body.mode, Mode::Ladder(_)) && up_climbs && turn.intent.up() {
        // The press was meant for the ladder.
        turn.body.pressed_at = None;
    }
    choose(turn, Moment::Decide);
}

/// Steps 8 to 10.
#[inline(always)]
fn finish<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>) {
    sense(turn); // 8
    turn.write();
    if turn.scene.zones.is_some() || turn.body.zones.is_some() {
        note_zones(turn); // 9
    }
    note_end(turn);
    turn.body.name_state(turn.body.report.tick); // 10
}

/// What is left of a tick of a body that is crushed: steps 3 to 7 are left out.
#[cold]
fn wait_to_be_clear<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>, buttons: &Buttons) {
    take(turn, buttons);
    match &mut turn.body.mode {
        Mode::Air(air) => air.sliding = None,
        Mode::FourWay(four) => (four.slid, four.stopped_below) = (false, false),
        Mode::Ground(_) | Mode::Ladder(_) | Mode::Hold(_) => {}
    }
}

/// Step 4. A speed that a wall took is given back first.
#[inline(always)]
fn find_speeds<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>) -> Speeds {
    if turn.body.mode.air().is_some_and(|air| air.bump.is_some()) {
        give_bump_back(turn);
    }
    let (terrain, x) = (turn.scene.terrain, turn.feet.x);
    let centre = |on: &states::OnLadder| on.ladder.centre(terrain);
    let speeds = if turn.forces.is_none() {
        let body = &mut *turn.body;
        states::speeds(&mut body.mode, &body.tuning, turn.velocity, turn.intent, (x, centre))
    } else {
        find_speeds_driven(turn)
    };
    let held = |speed: f64| speed.clamp(-LIMIT_SPEED, LIMIT_SPEED);
    turn.velocity = DVec2::new(held(speeds.x.speed), held(speeds.y.speed));
    speeds
}

/// The same of a body that flies, or on which something acts from outside.
#[cold]
fn find_speeds_driven<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>) -> Speeds {
    let forces = turn.forces.unwrap_or_default();
    let thrust = turn.thrust().map(|flight| flight.lift);
    if (forces.push.y < 0.0 || thrust.is_some()) && turn.body.mode.is_ground() {
        choose(turn, Moment::Push);
    }
    if let (Some(lift), Some(air)) = (thrust, turn.body.mode.air())
        && turn.body.report.state != State::Fly
        && (air.flight.is_none() || turn.velocity.y >= 0.0)
    {
        let gravity = turn.body.tuning.gravity();
        let gravity = if turn.velocity.y < 0.0 { gravity.rise } else { gravity.fall };
        turn.note(|| Decision::Thrusts { lift, gravity });
    }
    let (terrain, x, body) = (turn.scene.terrain, turn.feet.x, &mut *turn.body);
    let centre = |on: &states::OnLadder| on.ladder.centre(terrain);
    let outside = states::Outside { push: forces.push, unbraked: forces.unbraked, thrusts: thrust.is_some() };
    states::speeds_driven(&mut body.mode, &body.tuning, turn.velocity, turn.intent, (x, centre), outside)
}
