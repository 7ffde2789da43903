use alloc::vec::Vec;

use glam::DVec2;

use super::{Contacts, Event, JumpedFrom, LIMIT_PLACE, StartError, State, Support, TickReport, start};
use crate::geometry::Hitbox;
use crate::math::round_half_up;
use crate::motion::{self, Buttons, Cause, Direction, Facts, Flight, Intent, Mode, Moment, Speeds, transition};
use crate::sweep::{Cells, stands_on_solid, sweep_x_from, sweep_y_from, walls_beside};
use crate::terrain::{Edge, Side, Terrain, Zones};
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
}

/// Whether the feet are not well within the map: only then can a run be over.
#[inline(always)]
fn is_outside<T: Terrain>(terrain: &T, feet: DVec2) -> bool {
    feet.x <= 0.0 || feet.x >= terrain.width() || feet.y <= 0.0 || feet.y >= terrain.height()
}

/// How far a body moves along an axis: as far as it should, or whole pixels, the rest being carried over.
#[inline(always)]
fn in_pixels(whole: bool, rest: &mut f64, by: f64) -> f64 {
    if !whole {
        return by;
    }
    let due = *rest + by;
    let moved = round_half_up(due);
    *rest = due - moved;
    moved
}

/// A character: its tuning, where it is and what it is doing.
#[derive(Clone, Debug)]
pub struct Character {
    tuning: Tuning,
    mode: Mode,
    held: Buttons,
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
    /// The tiles that the hitbox overlaps.
    cells: Cells,
    zones: Zones,
    ended: bool,
    report: TickReport,
}

impl Character {
    /// Tick 0: finds the support of a body put at a place, without events.
    pub(super) fn start<T: Terrain>(
        terrain: &T,
        tuning: Tuning,
        feet: DVec2,
        tick: u64,
    ) -> Result<Character, StartError> {
        start::check(terrain, &tuning, feet)?;
        let cells = Cells::of(terrain.lattice(), tuning.body(), feet);
        let mut character = Character {
            tuning,
            cells,
            mode: Mode::Ground,
            held: Buttons::NONE,
            flight: None,
            pressed_at: None,
            lost_ground_at: None,
            air_jumps_left: 0,
            rest: DVec2::ZERO,
            bumped_at: None,
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
        character
            .settle(terrain, &mut Moving { feet, velocity: DVec2::ZERO, cells, intent: Intent::of(&Buttons::NONE) });
        character.report.events.clear();
        character.lost_ground_at = None;
        character.air_jumps_left = character.tuning.air_jumps();
        character.zones = character.zones_overlapped(terrain);
        character.name_state(DVec2::ZERO);
        Ok(character)
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

    /// Whether it has died or is lost: it no longer moves.
    pub fn has_ended(&self) -> bool {
        self.ended
    }

    /// One tick, step by step as numbered in `docs/model.md`. (Step 1 moves platforms.)
    pub(super) fn tick<T: Terrain>(&mut self, terrain: &T, buttons: &Buttons, tick: u64) {
        self.report.events.clear();
        if self.ended {
            return;
        }
        self.report.tick = tick;
        self.report.contacts = Contacts::default();
        let TickReport { feet, velocity, .. } = self.report;
        let mut moving = Moving { feet, velocity, cells: self.cells, intent: Intent::of(buttons) };
        let jump_pressed = self.take_buttons(buttons, moving.intent); // 2
        self.decide(terrain, &mut moving, jump_pressed); // 3
        let speeds = self.speeds(&mut moving); // 4
        self.move_x(terrain, &mut moving, speeds); // 5
        self.move_y(terrain, &mut moving, speeds); // 6
        self.settle(terrain, &mut moving); // 8
        (self.report.feet, self.report.velocity, self.cells) = (moving.feet, moving.velocity, moving.cells);
        if terrain.has_zones() {
            self.note_zones(terrain); // 9
        }
        if is_outside(terrain, moving.feet) {
            self.note_end(terrain, moving.feet);
        }
        self.name_state(moving.velocity); // 10
    }

    /// Step 2: takes over what is held; says whether jump was pressed in this tick.
    #[inline(always)]
    fn take_buttons(&mut self, buttons: &Buttons, intent: Intent) -> bool {
        let jump_pressed = buttons.jump && !self.held.jump;
        if jump_pressed {
            self.pressed_at = Some(self.report.tick);
        }
        self.held = *buttons;
        if let Some(direction) = intent.direction() {
            self.report.facing = direction;
        }
        jump_pressed
    }

    /// Step 3: what the player asks for.
    #[inline(always)]
    fn decide<T: Terrain>(&mut self, terrain: &T, moving: &mut Moving, jump_pressed: bool) {
        self.release(moving);
        // Mostly nothing is asked for.
        if self.pressed_at.is_some() || (self.held.jump && self.tuning.repeats_held()) {
            let facts = self.jump_facts(terrain, moving, jump_pressed);
            self.change_mode(moving, Moment::Decide, facts);
        }
    }

    /// The button is up: that ends what holding it does for the jump under way, once.
    #[inline(always)]
    fn release(&mut self, moving: &mut Moving) {
        let held = self.held.jump;
        if let Some(flight) = self.flight.as_mut().filter(|flight| flight.is_release_due(held)) {
            moving.velocity.y = flight.release(&self.tuning, moving.feet.y, moving.velocity.y);
        }
    }

    #[inline(never)]
    fn jump_facts<T: Terrain>(&mut self, terrain: &T, moving: &Moving, jump_pressed: bool) -> Facts {
        let (tuning, tick) = (&self.tuning, self.report.tick);
        if self.pressed_at.is_some_and(|pressed| tick - pressed > tuning.buffer_ticks()) {
            self.pressed_at = None;
        }
        let supported = self.mode == Mode::Ground;
        let repeats = supported && tuning.repeats_held() && self.held.jump;
        let coyote = self.lost_ground_at.is_some_and(|lost| tick - lost <= tuning.coyote_ticks());
        let may_jump_in_air = jump_pressed && !supported && !coyote && self.air_jumps_left > 0;
        Facts::SUPPORTED.when(supported)
            | Facts::CAN_JUMP.when(tuning.jump().is_some())
            | Facts::JUMP_ASKED.when(self.pressed_at.is_some() || repeats)
            | Facts::COYOTE_TIME.when(coyote)
            | Facts::AIR_JUMP.when(may_jump_in_air && !self.waits_for_ground(terrain, moving))
    }

    /// Whether a press in the air had better wait: the body will land within the buffer time, straight
    /// down, as gravity is now.
    fn waits_for_ground<T: Terrain>(&self, terrain: &T, moving: &Moving) -> bool {
        if !self.tuning.waits_for_ground() || moving.velocity.y < 0.0 {
            return false;
        }
        let (plunging, ticks) = (moving.intent.down, self.tuning.buffer_ticks());
        let by = motion::way_down_within(&self.tuning, self.flight, moving.velocity.y, plunging, ticks);
        ticks > 0 && sweep_y_from(terrain, self.tuning.body(), &moving.cells, moving.feet.y, moving.feet.y + by).blocked
    }

    /// The one place where the mode changes, and what comes with each change.
    #[inline(always)]
    fn change_mode(&mut self, moving: &mut Moving, moment: Moment, facts: Facts) {
        let Some(row) = transition(self.mode, moment, facts) else { return };
        self.mode = row.to;
        match row.cause {
            Cause::JumpedFromGround => {
                moving.velocity.y = -self.tuning.jump().map_or(0.0, |jump| jump.speed);
                self.take_off(Flight::off_ground(moving.feet.y), JumpedFrom::Ground);
            }
            Cause::JumpedInAir => {
                // An air jump never makes a rise slower.
                let own = self.tuning.air_jump().map_or(0.0, |jump| jump.speed);
                moving.velocity.y = moving.velocity.y.min(-own);
                self.air_jumps_left -= 1;
                self.take_off(Flight::in_air(moving.feet.y), JumpedFrom::Air);
            }
            Cause::LostGround => {
                self.lost_ground_at = Some(self.report.tick);
                self.report.events.push(Event::LostGround);
            }
            Cause::FoundGround => {
                self.flight = None;
                self.lost_ground_at = None;
                self.air_jumps_left = self.tuning.air_jumps();
            }
        }
    }

    #[cold]
    fn take_off(&mut self, flight: Flight, from: JumpedFrom) {
        self.flight = Some(flight.let_go_before(!self.held.jump));
        self.pressed_at = None;
        self.lost_ground_at = None;
        self.report.events.push(Event::Jumped(from));
    }

    /// Step 4.
    #[inline(always)]
    fn speeds(&mut self, moving: &mut Moving) -> Speeds {
        let speeds = motion::speeds(self.mode, &self.tuning, &mut self.flight, moving.velocity, moving.intent);
        moving.velocity = DVec2::new(speeds.x.speed, speeds.y.speed);
        speeds
    }

    /// Step 5: a face stops the body flush and clears its speed.
    #[inline(always)]
    fn move_x<T: Terrain>(&mut self, terrain: &T, moving: &mut Moving, speeds: Speeds) {
        let (body, from) = (self.tuning.body(), moving.feet.x);
        let by = in_pixels(self.tuning.moves_whole_pixels(), &mut self.rest.x, speeds.x.by);
        let swept = sweep_x_from(terrain, body, &moving.cells, from, from + by);
        moving.feet.x = swept.place;
        moving.cells.follow_x(terrain.lattice(), body, from, swept.place);
        if swept.blocked {
            moving.velocity.x = 0.0;
            self.rest.x = 0.0;
        }
    }

    /// Step 6: floors are landed on, ceilings bumped.
    #[inline(always)]
    fn move_y<T: Terrain>(&mut self, terrain: &T, moving: &mut Moving, speeds: Speeds) {
        if self.mode == Mode::Ground {
            return;
        }
        let (body, from) = (self.tuning.body(), moving.feet.y);
        let by = in_pixels(self.tuning.moves_whole_pixels(), &mut self.rest.y, speeds.y.by);
        if by == 0.0 && moving.velocity.y < 0.0 {
            return;
        }
        let swept = sweep_y_from(terrain, body, &moving.cells, from, from + by);
        moving.feet.y = swept.place;
        moving.cells.follow_y(terrain.lattice(), body, from, swept.place);
        if swept.blocked {
            if by >= 0.0 {
                self.report.events.push(Event::Landed { speed: moving.velocity.y });
            } else {
                self.bump_head(swept.place);
            }
            moving.velocity.y = 0.0;
            self.rest.y = 0.0;
        }
        if self.bumped_at.is_some_and(|place| place != swept.place) {
            self.bumped_at = None;
        }
    }

    /// A ceiling stopped the rise; that is said once until the head has been elsewhere.
    #[cold]
    fn bump_head(&mut self, place: f64) {
        if let Some(flight) = &mut self.flight {
            flight.bump();
        }
        if self.bumped_at != Some(place) {
            self.bumped_at = Some(place);
            self.report.contacts.above = true;
            self.report.events.push(Event::BumpedHead);
        }
    }

    /// Step 8: support and walls, for this tick's report and the next tick's decisions.
    #[inline(always)]
    fn settle<T: Terrain>(&mut self, terrain: &T, moving: &mut Moving) {
        let body = self.tuning.body();
        let supported = moving.velocity.y >= 0.0 && stands_on_solid(terrain, moving.feet, &moving.cells);
        self.report.support = if supported { Support::Solid } else { Support::None };
        let (left, right) = walls_beside(terrain, body, moving.feet, self.tuning.wall_probe(), &moving.cells);
        let contacts = &mut self.report.contacts;
        (contacts.left, contacts.right, contacts.below) = (left, right, supported);
        // Mostly nothing has changed.
        if supported != (self.mode == Mode::Ground) {
            self.change_mode(moving, Moment::Settle, Facts::SUPPORTED.when(supported));
        }
    }

    /// Step 9: zones entered and left.
    #[inline(never)]
    fn note_zones<T: Terrain>(&mut self, terrain: &T) {
        let (before, now) = (self.zones, self.zones_overlapped(terrain));
        if now != before {
            let left = before.iter().filter(|zone| !now.contains(*zone)).map(Event::Left);
            let entered = now.iter().filter(|zone| !before.contains(*zone)).map(Event::Entered);
            self.report.events.extend(left.chain(entered));
            self.zones = now;
        }
    }

    fn zones_overlapped<T: Terrain>(&self, terrain: &T) -> Zones {
        let mut zones = Zones::NONE;
        if !terrain.has_zones() {
            return zones;
        }
        let cells = &self.cells;
        for row in cells.top.max(0)..=cells.bottom.min(terrain.rows() - 1) {
            for column in cells.left.max(0)..=cells.right.min(terrain.columns() - 1) {
                if let Some(zone) = terrain.tile(column, row).zone {
                    zones.insert(zone);
                }
            }
        }
        zones
    }

    /// Whether the run is over: wholly beyond a deadly edge, or where coordinates end.
    #[cold]
    fn note_end<T: Terrain>(&mut self, terrain: &T, feet: DVec2) {
        let (body, edges) = (self.tuning.body(), terrain.edges());
        let half = body.half_width();
        for (side, beyond) in [
            (Side::Left, feet.x <= -half),
            (Side::Right, feet.x >= terrain.width() + half),
            (Side::Top, feet.y <= 0.0),
            (Side::Bottom, feet.y >= terrain.height() + body.height),
        ] {
            if beyond && edges.on(side) == Edge::Deadly && !self.ended {
                self.report.events.push(Event::Died(side));
                self.ended = true;
            }
        }
        if !self.ended && (feet.x.abs() > LIMIT_PLACE || feet.y.abs() > LIMIT_PLACE) {
            self.report.events.push(Event::Lost);
            self.ended = true;
        }
    }

    /// Step 10: the state by its name.
    fn name_state(&mut self, velocity: DVec2) {
        self.report.state = match self.mode {
            Mode::Ground if velocity.x != 0.0 => State::Run,
            Mode::Ground => State::Stand,
            Mode::Air if velocity.y < 0.0 => State::Rise,
            Mode::Air => State::Fall,
        };
    }
}
