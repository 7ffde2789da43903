//! Steps 8 to 10: what is around the body now, and its state by name.

use glam::DVec2;

use super::{AtWalls, Character, Moving};
use crate::collide::{Floor, Ignored, Wall, Walls, stands_on_solid, walls_beside};
use crate::motion::{ClimbOver, Direction, Facts, Mode, Moment};
use crate::nearby::Support;
use crate::space::Hitbox;
use crate::terrain::{Edge, Side, Terrain, Zones};
use crate::world::scene::Scene;
use crate::world::why::Listener;
use crate::world::{Event, LIMIT_PLACE, State};

impl Character {
    /// Step 8: support, walls, ladders and holds, for this tick's report and the next tick's decisions.
    #[inline(always)]
    pub(super) fn settle<T: Terrain, L: Listener>(
        &mut self,
        scene: &Scene<'_, T>,
        moving: &mut Moving,
        listener: &mut L,
    ) {
        if self.dropping {
            self.end_drop(scene, moving.feet);
        }
        self.find_walls(scene, moving);
        let held = self.is_still_held(scene, moving);
        self.find_ground(scene, moving, held);
        let (ground, supported) = (self.mode == Mode::Ground, self.standing.is_some());
        // Mostly nothing has changed.
        let bounces = !moving.starting && self.standing.is_some_and(|top| top.material.bounce.is_some());
        if supported != ground || bounces || (!held && !matches!(self.mode, Mode::Ground | Mode::Air)) {
            let facts = Facts::SUPPORTED.when(supported) | Facts::STILL_HELD.when(held) | Facts::BOUNCES.when(bounces);
            self.change_mode(scene, moving, Moment::Settle, facts, listener);
        }
        self.tell_ground_lost_when_carried(moving);
        self.forget_walls_left();
        let contacts = &mut self.report.contacts;
        let Walls { left, right, .. } = self.at_walls.touched;
        (contacts.left, contacts.right) = (left.is_some(), right.is_some());
        (contacts.below, self.report.support) = match &self.standing {
            Some(top) => {
                moving.borne_by = top.support.mover().or(moving.borne_by);
                (true, top.support)
            }
            None => (false, Support::None),
        };
        if contacts.left || contacts.right {
            self.settle_walls();
        }
    }

    /// What holds the body up: nothing while it rises, or holds on to something else.
    #[inline(always)]
    fn find_ground<T: Terrain>(&mut self, scene: &Scene<'_, T>, moving: &Moving, held: bool) {
        if moving.velocity.y < 0.0 && matches!(self.mode, Mode::Ground | Mode::Air)
            || (held && matches!(self.mode, Mode::Ladder | Mode::Hold))
        {
            (self.standing, self.on_solid) = (None, false);
        } else if moving.plain {
            self.on_solid = stands_on_solid(scene.terrain, moving.feet, &moving.cells);
            if !self.on_solid {
                self.standing = None;
            } else if !self.standing.is_some_and(|top| top.is_plain_at(moving.feet.y)) {
                // Mostly it is what it was: too large to be written anew in every tick.
                self.standing = Some(Floor::plain(moving.feet.y));
            }
        } else {
            (self.standing, self.on_solid) = self.find_support(&self.surroundings(scene), moving.feet);
        }
    }

    /// A body carried off its ground in step 1 that found no other has lost it in this tick.
    #[inline(always)]
    fn tell_ground_lost_when_carried(&mut self, moving: &Moving) {
        if moving.carried_off && self.mode == Mode::Air && !moving.left_ground {
            self.tell(Event::LostGround);
        }
    }

    /// What was dropped through holds again once the feet are below it.
    #[cold]
    fn end_drop<T: Terrain>(&mut self, scene: &Scene<'_, T>, feet: DVec2) {
        let Ignored { height, ramps, mut movers } = self.ignored;
        let height = height.filter(|height| feet.y <= *height);
        let mut kept = [None; 2];
        let half = self.tuning.body().half_width();
        let (left, right) = (feet.x - half, feet.x + half);
        let area = Hitbox { left, right, top: f64::NEG_INFINITY, bottom: f64::INFINITY };
        if ramps != kept {
            scene.terrain.ramps_near(&area, &mut |index, ramp| {
                if feet.y <= ramp.at(feet.x)
                    && let Some(slot) = ramps.iter().position(|ramp| *ramp == Some(index))
                {
                    kept[slot] = Some(index);
                }
            });
        }
        for slot in &mut movers {
            let mover = slot.and_then(|id| scene.movers.mover(id));
            *slot = mover.filter(|mover| feet.y <= mover.now.top).map(|mover| mover.id);
        }
        self.ignored = Ignored { height, ramps: kept, movers };
        self.dropping = self.ignored != Ignored::default();
    }

    #[inline(always)]
    fn find_walls<T: Terrain>(&mut self, scene: &Scene<'_, T>, moving: &Moving) {
        let probe = self.tuning.wall_probe();
        let now = if moving.plain {
            walls_beside(scene.terrain, self.tuning.body(), moving.feet, probe, &moving.cells)
        } else {
            self.surroundings(scene).walls(moving.feet, probe, self.ridden())
        };
        let before = self.at_walls.touched;
        if now != before {
            self.at_walls.touched = now;
            if before.any() {
                self.note_walls_lost(moving, before);
            }
        }
    }

    /// A wall lost in the air can be jumped off for a while, unless it just was.
    #[inline(never)]
    fn note_walls_lost(&mut self, moving: &Moving, before: Walls) {
        let walls = &mut self.at_walls;
        let was_airborne = matches!(moving.start_mode, Mode::Air | Mode::Hold);
        for side in [Direction::Left, Direction::Right] {
            let (Some(lost), None) = (before.on(side), walls.touched.on(side)) else { continue };
            if walls.spent.is_none_or(|spent| spent.side != side)
                && was_airborne
                && matches!(self.mode, Mode::Air | Mode::Hold)
            {
                walls.lost[side as usize] = Some((lost, self.report.tick));
            }
        }
    }

    /// A wall just jumped off, or let go, counts anew once it is out of the probe.
    #[inline(always)]
    fn forget_walls_left(&mut self) {
        let AtWalls { touched, spent, barred, .. } = &mut self.at_walls;
        for left in [spent, barred] {
            if left.is_some_and(|wall| !touched.on(wall.side).is_some_and(|touched| touched.is(&wall))) {
                *left = None;
            }
        }
    }

    /// What the walls touched end or give back.
    #[inline(never)]
    fn settle_walls(&mut self) {
        let walls = &mut self.at_walls;
        let touches_other_than = |wall: Wall| {
            [Direction::Left, Direction::Right]
                .into_iter()
                .any(|side| walls.touched.on(side).is_some_and(|touched| !touched.counts_as(&wall)))
        };
        if walls.jumped_off.is_some_and(touches_other_than) {
            walls.jumped_off = None;
        }
        if walls.lock.is_some_and(|lock| walls.touched.on(lock.push).is_some()) {
            walls.lock = None;
        }
        if self.tuning.air_jumps_back_on_wall() && matches!(self.mode, Mode::Air | Mode::Hold) {
            self.air_jumps_left = self.tuning.air_jumps();
        }
    }

    /// Whether the ladder or the wall that is held is still there, and no floor was come down upon.
    #[inline(always)]
    fn is_still_held<T: Terrain>(&mut self, scene: &Scene<'_, T>, moving: &Moving) -> bool {
        match self.mode {
            Mode::Ground | Mode::Air => true,
            Mode::Ladder => moving.stopped.is_none() && self.holds_ladder_still(scene, moving.feet),
            Mode::Hold => moving.stopped.is_none() && self.holds_wall_still(scene, moving.feet),
        }
    }

    /// A body whose middle comes to another ladder goes on on that.
    fn holds_ladder_still<T: Terrain>(&mut self, scene: &Scene<'_, T>, feet: DVec2) -> bool {
        let (Some(ladder), Some(numbers)) = (self.ladder, self.tuning.ladder()) else { return false };
        let half = scene.terrain.grid_lines().spacing() * 0.5;
        let room = self.surroundings(scene);
        let still = (feet.x - room.centre(ladder)).abs() <= half.max(numbers.probe) && room.is_at_body(ladder, feet);
        if still {
            return true;
        }
        let next = room.ladder_at_body(feet, half);
        self.ladder = next.or(self.ladder);
        next.is_some()
    }

    fn holds_wall_still<T: Terrain>(&self, scene: &Scene<'_, T>, feet: DVec2) -> bool {
        let Some(hold) = self.hold else { return false };
        match hold.over {
            ClimbOver::None => {
                self.at_walls.touched.on(hold.wall.side).is_some_and(|wall| wall.is(&hold.wall))
                    && self.surroundings(scene).wall_spans(hold.wall, self.middle(feet.y))
            }
            // A platform can go away from beneath it.
            _ if !self.is_beside_platform(scene, &hold.wall, feet) => false,
            ClimbOver::Up { .. } => true,
            ClimbOver::Across => match hold.wall.side {
                Direction::Right => feet.x < hold.wall.face,
                Direction::Left => feet.x > hold.wall.face,
            },
        }
    }

    /// Whether a wall that is a platform's side is still there, no further away than the probe; any other is.
    fn is_beside_platform<T: Terrain>(&self, scene: &Scene<'_, T>, wall: &Wall, feet: DVec2) -> bool {
        let Some(carrier) = wall.mover else { return true };
        let reach = self.tuning.body().half_width() + self.tuning.wall_probe();
        scene.movers.mover(carrier).is_some() && (feet.x - wall.face).abs() <= reach
    }

    /// Step 9: zones entered and left.
    #[inline(never)]
    pub(super) fn note_zones<T: Terrain>(&mut self, scene: &Scene<'_, T>) {
        let (before, now) = (self.zones, self.zones_overlapped(scene));
        if now != before {
            let left = before.iter().filter(|zone| !now.contains(*zone)).map(Event::Left);
            let entered = now.iter().filter(|zone| !before.contains(*zone)).map(Event::Entered);
            self.report.events.extend(left.chain(entered));
            self.zones = now;
        }
    }

    pub(super) fn zones_overlapped<T: Terrain>(&self, scene: &Scene<'_, T>) -> Zones {
        let mut zones = Zones::NONE;
        if !scene.terrain.features().has(crate::terrain::Features::ZONE) {
            return zones;
        }
        let cells = &self.cells;
        for row in cells.top.max(0)..=cells.bottom.min(scene.terrain.rows() - 1) {
            for column in cells.left.max(0)..=cells.right.min(scene.terrain.columns() - 1) {
                if let Some(zone) = scene.terrain.tile(column, row).zone {
                    zones.insert(zone);
                }
            }
        }
        zones
    }

    /// Whether the run is over. Only feet that are not well within the map can end it.
    #[inline(always)]
    pub(super) fn note_end<T: Terrain>(&mut self, scene: &Scene<'_, T>, feet: DVec2) {
        if feet.x <= 0.0 || feet.x >= scene.terrain.width() || feet.y <= 0.0 || feet.y >= scene.terrain.height() {
            self.note_end_outside(scene, feet);
        }
    }

    /// Wholly beyond a deadly edge, or where coordinates end.
    #[cold]
    fn note_end_outside<T: Terrain>(&mut self, scene: &Scene<'_, T>, feet: DVec2) {
        let (body, edges) = (self.tuning.body(), scene.terrain.edges());
        let half = body.half_width();
        for (side, beyond) in [
            (Side::Left, feet.x <= -half),
            (Side::Right, feet.x >= scene.terrain.width() + half),
            (Side::Top, feet.y <= 0.0),
            (Side::Bottom, feet.y >= scene.terrain.height() + body.height),
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

    /// Step 10: the state by its name, and where the character looks.
    #[inline(always)]
    pub(super) fn name_state(&mut self, velocity: DVec2) {
        let slides = self.mode == Mode::Air
            && velocity.y >= 0.0
            && self.at_walls.sliding.is_some_and(|side| self.at_walls.touched.on(side).is_some());
        self.report.state = match self.mode {
            Mode::Ground if velocity.x != 0.0 => State::Run,
            Mode::Ground => State::Stand,
            Mode::Air if slides => State::WallSlide,
            Mode::Air if velocity.y < 0.0 => State::Rise,
            Mode::Air => State::Fall,
            Mode::Ladder => State::Ladder,
            Mode::Hold => State::WallHold,
        };
        self.report.facing = self.facing(slides);
    }
}
