//! A character: what it is doing, and its tick, step by step.

mod carry;
mod decide;
mod moves;
mod settle;

use alloc::sync::Arc;
use alloc::vec::Vec;

use glam::DVec2;

use super::scene::Scene;
use super::{CharacterId, Contacts, Decision, Event, Listener, Nobody, StartError, State, TickReport, start};
use crate::collide::{Cells, Floor, Ignored, Ladder, Surroundings, Wall, Walls};
use crate::motion::{self, Airborne, Around, Buttons, ClimbOver, Direction, Flight, Intent, Mode, Speeds};
use crate::nearby::Support;
use crate::platform::MoverId;
use crate::space::float::round_half_up;
use crate::space::{Body, Hitbox};
use crate::terrain::{Features, Terrain, Zones};
use crate::tuning::{LIMIT_SPEED, Tuning};

/// One tick seldom has more events than this; room for them is made at the start.
const ROOM_FOR_EVENTS: usize = 16;

/// Where a body is and how fast, during one tick. Kept out of the report until the tick is over, so that
/// it stays in registers.
#[derive(Clone, Copy)]
struct Moving {
    feet: DVec2,
    velocity: DVec2,
    cells: Cells,
    intent: Intent,
    /// Where the tick began, how fast, and in which mode.
    start: DVec2,
    start_velocity: DVec2,
    start_mode: Mode,
    /// The same place, moved along by what carried and pushed the body in this tick.
    walked_from: DVec2,
    /// What it rides on once the platforms are where they go in this tick.
    rides: Option<MoverId>,
    /// What held it up or threw it up in this tick.
    borne_by: Option<MoverId>,
    /// A platform that comes up beneath a rise and is no faster.
    outruns: Option<MoverId>,
    /// A platform that was faster.
    caught: Option<MoverId>,
    pushed: bool,
    /// Pushed up or down.
    pushed_upright: bool,
    /// Terrain refused a push: steps 3 to 7 are left out.
    crushed: bool,
    /// Nothing but plain solid tiles is where the body can come to in this tick.
    plain: bool,
    /// Jumped, dropped, bounced, or took something: the ground is not followed, nor its loss told.
    left_ground: bool,
    /// Carried to where nothing supports it.
    carried_off: bool,
    /// Tick 0: nothing is thrown up yet, since that could not be told.
    starting: bool,
    /// The height of the slopes that feet in the air came over, where they are below them.
    surface: Option<f64>,
    /// The height of a ledge that it was lifted onto.
    lifted_to: Option<f64>,
    /// A landing was told, or what stands in its place.
    landed: bool,
    /// A climb came down upon a floor, or was stopped where it should go on over a wall's top.
    stopped: Option<Stopped>,
}

#[derive(Clone, Copy, PartialEq, Eq)]
enum Stopped {
    AtFloor,
    OnTheWayOver,
}

/// The direction back to a wall just jumped off counts as none.
#[derive(Clone, Copy, Debug, PartialEq)]
struct SteerLock {
    /// Away from the wall.
    push: Direction,
    /// The last tick in which it does.
    until: u64,
}

/// A hold on a wall.
#[derive(Clone, Copy, Debug, PartialEq)]
struct Hold {
    wall: Wall,
    over: ClimbOver,
}

/// A speed that a wall took in the air.
#[derive(Clone, Copy, Debug, PartialEq)]
struct Bump {
    tick: u64,
    speed: f64,
}

/// What the body knows of walls.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
struct AtWalls {
    /// The walls within the probe.
    touched: Walls,
    /// The walls lost last in the air, to the left and to the right, and the first tick without each.
    lost: [Option<(Wall, u64)>; 2],
    /// The wall jumped off last, until ground, a ladder or another wall is touched.
    jumped_off: Option<Wall>,
    /// The contact just jumped off: its loss starts no coyote time.
    spent: Option<Wall>,
    /// The wall let go, until it was out of the probe or grab is pressed afresh.
    barred: Option<Wall>,
    lock: Option<SteerLock>,
    sliding: Option<Direction>,
    bump: Option<Bump>,
}

impl AtWalls {
    /// The wall that was lost last; of two in one tick the one on this side.
    fn lost_last(&self, side: Direction) -> Option<(Wall, u64)> {
        let [left, right] = self.lost;
        let (this, other) = if side == Direction::Left { (left, right) } else { (right, left) };
        match (this, other) {
            (Some((_, tick)), Some((_, later))) if later > tick => other,
            (this, other) => this.or(other),
        }
    }
}

/// A character: its tuning, where it is and what it is doing.
#[derive(Debug)]
pub struct Character {
    id: CharacterId,
    /// What it is to others, if it is a prop.
    itself: Option<MoverId>,
    /// Shared with its saved copies: it never changes.
    tuning: Arc<Tuning>,
    mode: Mode,
    held: Buttons,
    /// The last single direction held.
    last_direction: Direction,
    /// The jump under way, if the body is in the air because of one.
    flight: Option<Flight>,
    /// The tick of a press of jump that nothing has come of yet.
    pressed_at: Option<u64>,
    /// The first tick without the ground that was last walked off.
    lost_ground_at: Option<u64>,
    air_jumps_left: u32,
    /// With whole pixels, what is left over of the ways so far, px.
    rest: DVec2,
    /// The feet's height when the head last bumped, until the head has been elsewhere.
    bumped_at: Option<f64>,
    /// What is stood on, and whether anything solid supports.
    standing: Option<Floor>,
    on_solid: bool,
    at_walls: AtWalls,
    ladder: Option<Ladder>,
    /// Jumped or thrown off a ladder: none is taken until up or down is pressed afresh.
    ladder_barred: bool,
    hold: Option<Hold>,
    /// The tops being dropped through, and whether there are any.
    ignored: Ignored,
    dropping: bool,
    /// The tiles that the hitbox overlaps.
    cells: Cells,
    zones: Zones,
    ended: bool,
    report: TickReport,
}

impl Clone for Character {
    fn clone(&self) -> Character {
        Character { tuning: self.tuning.clone(), report: self.report.clone(), ..*self }
    }

    /// Keeps the room for events: saving and restoring tick after tick allocates nothing.
    fn clone_from(&mut self, other: &Character) {
        let mut events = core::mem::take(&mut self.report.events);
        events.clone_from(&other.report.events);
        let report = TickReport { events, ..other.report };
        *self = Character { tuning: other.tuning.clone(), report, ..*other };
    }
}

impl Character {
    /// Tick 0: finds the support of a body put at a place, without events.
    pub(super) fn start<T: Terrain>(
        scene: &mut Scene<'_, T>,
        id: CharacterId,
        itself: Option<MoverId>,
        tuning: Tuning,
        feet: DVec2,
        tick: u64,
    ) -> Result<Character, StartError> {
        start::check(scene, &tuning, feet)?;
        let cells = Cells::of(scene.terrain.grid_lines(), tuning.body(), feet);
        let mut character = Character {
            id,
            itself,
            tuning: Arc::new(tuning),
            cells,
            mode: Mode::Ground,
            held: Buttons::NONE,
            last_direction: Direction::Right,
            flight: None,
            pressed_at: None,
            lost_ground_at: None,
            air_jumps_left: 0,
            rest: DVec2::ZERO,
            bumped_at: None,
            standing: None,
            on_solid: false,
            at_walls: AtWalls::default(),
            ladder: None,
            ladder_barred: false,
            hold: None,
            ignored: Ignored::default(),
            dropping: false,
            zones: Zones::NONE,
            ended: false,
            report: TickReport {
                tick,
                feet,
                velocity: DVec2::ZERO,
                state: State::Stand,
                facing: Direction::Right,
                support: Support::None,
                contacts: Contacts::default(),
                events: Vec::with_capacity(ROOM_FOR_EVENTS),
            },
        };
        let mut moving = character.moving(&Buttons::NONE);
        moving.starting = true;
        character.look(scene, &mut moving, DVec2::ZERO);
        character.follow_ground(scene, &mut moving, &mut Nobody);
        character.stay_out(scene, &mut moving, &mut Nobody);
        character.settle(scene, &mut moving, &mut Nobody);
        character.keep(&moving);
        character.report.events.clear();
        character.lost_ground_at = None;
        character.air_jumps_left = character.tuning.air_jumps();
        character.zones = character.zones_overlapped(scene);
        character.name_state(moving.velocity);
        Ok(character)
    }

    /// Makes room for events, which a copy has not: so that ticks allocate nothing.
    pub(super) fn make_room(&mut self) {
        let events = &mut self.report.events;
        events.reserve(ROOM_FOR_EVENTS.saturating_sub(events.len()));
    }

    /// Whether it is a prop.
    pub(super) fn is_prop(&self) -> bool {
        self.itself.is_some()
    }

    /// How it moves.
    pub fn tuning(&self) -> &Tuning {
        &self.tuning
    }

    /// What the last tick did, or the start.
    #[inline]
    pub fn report(&self) -> &TickReport {
        &self.report
    }

    pub(super) fn set_velocity(&mut self, velocity: DVec2) {
        let held = |speed: f64| if speed.is_nan() { 0.0 } else { speed.clamp(-LIMIT_SPEED, LIMIT_SPEED) };
        let down = if self.mode == Mode::Ground { 0.0 } else { held(velocity.y) };
        self.report.velocity = DVec2::new(held(velocity.x), down);
        self.name_state(self.report.velocity);
    }

    /// The hitbox, px, y down.
    pub fn hitbox(&self) -> Hitbox {
        self.tuning.body().hitbox_at(self.report.feet)
    }

    pub(super) fn cells(&self) -> &Cells {
        &self.cells
    }

    pub(super) fn mode(&self) -> Mode {
        self.mode
    }

    /// Whether it has died or is lost: it no longer moves.
    pub fn has_ended(&self) -> bool {
        self.ended
    }

    /// The terrain, and what moves in it, as this character meets them.
    #[inline]
    pub(super) fn surroundings<'a, T: Terrain>(&'a self, scene: &'a Scene<'a, T>) -> Surroundings<'a, T> {
        self.surroundings_of(scene, self.tuning.body())
    }

    #[inline]
    fn surroundings_of<'a, T: Terrain>(&self, scene: &'a Scene<'a, T>, body: &'a Body) -> Surroundings<'a, T> {
        let around = scene.around(body, self.tuning.ladder().is_some());
        Surroundings { unmet: self.itself, ignored: self.ignored, ..around }
    }

    #[inline(always)]
    fn moving(&self, buttons: &Buttons) -> Moving {
        let TickReport { feet, velocity, .. } = self.report;
        Moving {
            feet,
            velocity,
            cells: self.cells,
            intent: Intent::of(buttons),
            start: feet,
            start_velocity: velocity,
            start_mode: self.mode,
            walked_from: feet,
            rides: None,
            borne_by: None,
            outruns: None,
            caught: None,
            pushed: false,
            pushed_upright: false,
            crushed: false,
            plain: false,
            left_ground: false,
            carried_off: false,
            starting: false,
            surface: None,
            lifted_to: None,
            landed: false,
            stopped: None,
        }
    }

    #[inline(always)]
    fn keep(&mut self, moving: &Moving) {
        if self.bumped_at.is_some_and(|place| place != moving.feet.y) {
            self.bumped_at = None;
        }
        (self.report.feet, self.report.velocity, self.cells) = (moving.feet, moving.velocity, moving.cells);
    }

    /// As far around the body as it mostly comes in a tick: what moves there is looked for at once.
    pub(super) fn reach(&self) -> Hitbox {
        let speed = self.report.velocity.abs().max_element();
        self.hitbox().grown(self.farthest_felt() + 2.0 + 1.5 * speed * self.tuning.tick_seconds())
    }

    /// How far around the hitbox something can matter though it is not met, px.
    fn farthest_felt(&self) -> f64 {
        let body = &self.tuning.numbers().body;
        body.wall_probe.max(body.corner_nudge).max(body.ledge_lift).max(body.step_height)
    }

    /// One tick, step by step as numbered in `docs/model.md`. Returns what held the body up, or threw it up, if
    /// that moves.
    pub(super) fn tick<T: Terrain, L: Listener>(
        &mut self,
        scene: &mut Scene<'_, T>,
        buttons: &Buttons,
        tick: u64,
        listener: &mut L,
    ) -> Option<MoverId> {
        if self.ended {
            self.report.events.clear();
            return None;
        }
        let may_be_inside =
            scene.nearby.follow(scene.terrain.revision()) || self.report.events.contains(&Event::CrushedByTerrain);
        self.report.events.clear();
        self.report.tick = tick;
        self.report.contacts = Contacts::default();
        let mut moving = self.moving(buttons);
        self.carry(scene, &mut moving, listener); // 1
        if may_be_inside {
            self.be_crushed_by_terrain(scene, &mut moving, listener);
        }
        moving.rides = self.ridden();
        if moving.crushed {
            return self.wait_to_be_clear(scene, &mut moving, buttons, listener);
        }
        let jump_pressed = self.decide(scene, &mut moving, buttons, listener); // 2, 3
        let speeds = self.speeds(scene, &mut moving, listener); // 4
        self.look(scene, &mut moving, DVec2::new(speeds.x.by, speeds.y.by));
        self.move_x(scene, &mut moving, speeds.x.by, listener); // 5
        self.move_y(scene, &mut moving, speeds.y.by, listener); // 6
        self.follow_ground(scene, &mut moving, listener); // 7
        self.stay_out(scene, &mut moving, listener);
        self.finish(scene, &mut moving, listener);
        if L::LISTENS {
            self.note_refused_press(jump_pressed, listener);
        }
        moving.borne_by
    }

    /// Steps 8 to 10.
    #[inline(always)]
    fn finish<T: Terrain, L: Listener>(&mut self, scene: &Scene<'_, T>, moving: &mut Moving, listener: &mut L) {
        self.settle(scene, moving, listener); // 8
        self.keep(moving);
        if scene.terrain.features().has(Features::ZONE) {
            self.note_zones(scene); // 9
        }
        self.note_end(scene, moving.feet);
        self.name_state(moving.velocity); // 10
    }

    /// A tick of a body that is crushed: steps 3 to 7 are left out.
    #[cold]
    fn wait_to_be_clear<T: Terrain, L: Listener>(
        &mut self,
        scene: &Scene<'_, T>,
        moving: &mut Moving,
        buttons: &Buttons,
        listener: &mut L,
    ) -> Option<MoverId> {
        self.take_buttons(buttons, moving.intent);
        self.at_walls.sliding = None;
        self.finish(scene, moving, listener);
        moving.borne_by
    }

    /// Sees to it that all is known that a tick can meet which moves the body by so much, unless it is carried, lifted
    /// or set down further than that.
    #[inline(always)]
    fn look<T: Terrain>(&self, scene: &mut Scene<'_, T>, moving: &mut Moving, by: DVec2) {
        let numbers = self.tuning.numbers();
        let beside = numbers.body.wall_probe.max(numbers.body.corner_nudge) + by.x.abs() + 1.0;
        // A tile's ramp rises no more than it is long.
        let above = numbers.body.ledge_lift.max(numbers.body.step_height) + by.x.abs() + by.y.abs() + 1.0;
        let below = above.max(numbers.run.ramp_follow + by.x.abs());
        let hitbox = self.tuning.body().hitbox_at(moving.feet);
        let area = Hitbox {
            left: hitbox.left - beside,
            right: hitbox.right + beside,
            top: hitbox.top - above,
            bottom: hitbox.bottom + below,
        };
        scene.nearby.look(scene.terrain, &area);
        moving.plain = scene.nearby.is_plain_in(&area) && scene.movers.are_none_in(&area);
    }

    /// Step 4. A speed that a wall took is given back first.
    #[inline(always)]
    fn speeds<T: Terrain, L: Listener>(
        &mut self,
        scene: &Scene<'_, T>,
        moving: &mut Moving,
        listener: &mut L,
    ) -> Speeds {
        if self.at_walls.bump.is_some() {
            self.give_bump_back(scene, moving, listener);
        }
        let around = match self.mode {
            Mode::Ground => Around::Ground { grip: self.standing.map_or(1.0, |floor| floor.material.grip) },
            Mode::Air => Around::Air(Airborne {
                top_speed: match (self.at_walls.sliding, &self.tuning.wall().slide) {
                    (Some(_), Some(slide)) => slide.top_speed,
                    _ => f64::INFINITY,
                },
                locked: self.at_walls.lock.is_some(),
            }),
            Mode::Ladder => {
                let x = moving.feet.x;
                Around::Ladder { x, centre: self.ladder.map_or(x, |ladder| self.surroundings(scene).centre(ladder)) }
            }
            Mode::Hold => match self.hold {
                Some(Hold { wall, over }) => Around::Wall { side: wall.side, over },
                None => Around::Air(Airborne { top_speed: f64::INFINITY, locked: false }),
            },
        };
        let speeds = motion::speeds(&self.tuning, &mut self.flight, moving.velocity, moving.intent, around);
        let held = |speed: f64| speed.clamp(-LIMIT_SPEED, LIMIT_SPEED);
        moving.velocity = DVec2::new(held(speeds.x.speed), held(speeds.y.speed));
        speeds
    }

    /// How far a body moves along an axis: as far as it should, or whole pixels, the rest being carried over.
    #[inline(always)]
    fn in_pixels(&mut self, by: DVec2) -> DVec2 {
        if !self.tuning.moves_whole_pixels() {
            return by;
        }
        let due = self.rest + by;
        let moved = DVec2::new(round_half_up(due.x), round_half_up(due.y));
        self.rest = due - moved;
        moved
    }

    #[inline(always)]
    fn note<L: Listener>(&self, listener: &mut L, decision: impl FnOnce() -> Decision) {
        if L::LISTENS {
            listener.decided(self.id, self.report.tick, &decision());
        }
    }

    #[cold]
    fn tell(&mut self, event: Event) {
        self.report.events.push(event);
    }
}
