//! Steps 8 to 10: what is around the body now, and its state by name.

use super::change::choose;
use super::turn::{Senses, Turn};
use super::{Character, Event, LIMIT_PLACE, Listener, State};
use crate::collide::{Floor, Ladders, Wall, stands_on_solid, walls_beside};
use crate::input::Direction;
use crate::nearby::Support;
use crate::space::Hitbox;
use crate::states::{Air, ClimbOver, Ground, Mode, ModeKind, Moment, OnLadder, WallHold};
use crate::terrain::{Edge, Side, Terrain};

use glam::DVec2;

/// Step 8: support, walls, ladders and holds, for this tick's report and the next tick's decisions.
#[inline(always)]
pub(super) fn sense<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>) {
    if turn.body.dropping.is_any() {
        end_drop(turn);
    }
    find_walls(turn);
    let held = is_still_held(turn);
    let ground = match turn.standing {
        _ if holds_itself_up(turn, held) => None,
        Some(standing) => Some(standing),
        None => find_support(turn),
    };
    change_by_senses(turn, Senses { ground, held });
    // A body carried off its ground in step 1 that found no other has lost it in this tick.
    if turn.carried.off && turn.body.mode.air().is_some() && !turn.left_ground {
        turn.tell(Event::LostGround);
    }
    turn.body.walls.forget_left();
    let body = &mut *turn.body;
    let touched = body.walls.touched;
    let contacts = &mut body.report.contacts;
    (contacts.left, contacts.right) = (touched.left.is_some(), touched.right.is_some());
    (contacts.below, body.report.support) = match &body.mode {
        Mode::Ground(ground) => {
            turn.borne_by = ground.support.mover().or(turn.borne_by);
            (true, ground.support)
        }
        _ => (false, Support::None),
    };
    if touched.any() {
        touch_walls(body);
    }
}

/// Changes the mode if what was found is not what it says. Mostly nothing has changed.
#[inline(always)]
fn change_by_senses<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>, senses: Senses) {
    let bounces = senses.ground.as_ref().is_some_and(|ground| turn.is_thrown_up_by(ground));
    match (&mut turn.body.mode, &senses.ground) {
        (Mode::Ground(_), Some(_)) if bounces => {}
        (Mode::Ground(before), Some(ground)) => {
            // Too large to be written anew in every tick.
            if !(ground.is_plain() && before.is_plain()) {
                *before = *ground;
            }
            return;
        }
        (Mode::Air(_), None) | (Mode::FourWay(_), _) => return,
        (Mode::Ladder(_) | Mode::Hold(_), _) if senses.held => return,
        _ => {}
    }
    turn.senses = senses;
    choose(turn, Moment::Sense);
}

/// Whether the body rises, or holds on to something: then nothing supports it.
#[inline(always)]
fn holds_itself_up<T: Terrain, L: Listener>(turn: &Turn<'_, T, L>, held: bool) -> bool {
    match turn.body.mode.kind() {
        ModeKind::Ground | ModeKind::Air => turn.velocity.y < 0.0,
        ModeKind::Ladder | ModeKind::Hold => held,
        ModeKind::FourWay => true,
    }
}

/// What holds the body up where it is now.
#[inline(always)]
pub(super) fn find_support<T: Terrain, L: Listener>(turn: &Turn<'_, T, L>) -> Option<Ground> {
    if turn.plain {
        stands_on_solid(turn.scene.terrain, turn.feet, &turn.cells).then_some(Ground::PLAIN)
    } else {
        find_ground(turn)
    }
}

/// What holds feet at this place, after what did in the tick before.
#[inline(never)]
pub(super) fn find_ground<T: Terrain, L: Listener>(turn: &Turn<'_, T, L>) -> Option<Ground> {
    let (feet, before) = (turn.feet, turn.body.report.support);
    let (mut solid, mut first) = (false, None::<Floor>);
    turn.around().floors(feet.x, feet.y, feet.y, |floor| {
        solid |= floor.solid;
        if first.is_none_or(|first| floor.is_before(&first, before)) {
            first = Some(*floor);
        }
    });
    let mut ground = Ground::from(&first?);
    ground.solid = solid;
    Some(ground)
}

/// What was dropped through holds again once the feet are below it.
#[cold]
fn end_drop<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>) {
    let (body, feet) = (&mut *turn.body, turn.feet);
    let half = body.tuning.body().half_width();
    let mut above_ramp = false;
    if body.dropping.passes_ramps() {
        let (left, right) = (feet.x - half, feet.x + half);
        let area = Hitbox { left, right, ..Hitbox::EVERYWHERE };
        turn.scene.terrain.ramps_near(&area, &mut |_, ramp| {
            above_ramp |= feet.y <= ramp.at(feet.x) && body.dropping.passes_ramp(ramp, half);
        });
    }
    let movers = turn.scene.movers;
    let is_above = |id: &_| movers.mover(*id).is_some_and(|mover| feet.y <= mover.now.top);
    body.dropping.end(feet, above_ramp, is_above);
}

#[inline(always)]
fn find_walls<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>) {
    let (probe, feet) = (turn.body.tuning.wall_probe(), turn.feet);
    let now = if turn.plain {
        walls_beside(turn.scene.terrain, turn.body.tuning.body(), feet, probe, &turn.cells)
    } else {
        turn.around().walls(feet, probe, turn.body.ridden())
    };
    let before = turn.body.walls.touched;
    if now != before {
        turn.body.walls.touched = now;
        let airborne = |mode| matches!(mode, ModeKind::Air | ModeKind::Hold);
        if before.any() && airborne(turn.start.mode) && airborne(turn.body.mode.kind()) {
            let tick = turn.tick();
            turn.body.walls.note_lost(before, tick);
        }
    }
}

/// What the walls touched end or give back.
#[inline(never)]
fn touch_walls(body: &mut Character) {
    body.walls.forget_jumped_off();
    let touched = body.walls.touched;
    if let Mode::Air(air) = &mut body.mode
        && air.lock.is_some_and(|lock| touched.on(lock.push).is_some())
    {
        air.lock = None;
    }
    if body.tuning.air_jumps_back_on_wall() && matches!(body.mode, Mode::Air(_) | Mode::Hold(_)) {
        body.air_jumps_left = body.tuning.most_air_jumps();
    }
}

/// Whether the ladder or the wall that is held is still there, and no floor was come down upon.
#[inline(always)]
fn is_still_held<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>) -> bool {
    match turn.body.mode.kind() {
        ModeKind::Ground | ModeKind::Air | ModeKind::FourWay => true,
        ModeKind::Ladder => turn.travelled.stopped.is_none() && holds_ladder_still(turn),
        ModeKind::Hold => turn.travelled.stopped.is_none() && holds_wall_still(turn),
    }
}

/// A body whose middle comes to another ladder goes on on that.
fn holds_ladder_still<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>) -> bool {
    let (Mode::Ladder(OnLadder { ladder }), Some(numbers)) = (turn.body.mode, turn.body.tuning.ladder()) else {
        return false;
    };
    let half = turn.scene.terrain.grid_lines().spacing() * 0.5;
    let (around, feet) = (turn.around(), turn.feet);
    let ladders = Ladders::around(&around);
    let is_near = (feet.x - ladder.centre(around.terrain)).abs() <= half.max(numbers.probe);
    if is_near && ladders.is_at_body(ladder, feet) {
        return true;
    }
    let Some(ladder) = ladders.at_body(feet, half) else { return false };
    turn.body.mode = Mode::Ladder(OnLadder { ladder });
    true
}

fn holds_wall_still<T: Terrain, L: Listener>(turn: &Turn<'_, T, L>) -> bool {
    let Mode::Hold(WallHold { wall, over }) = turn.body.mode else { return false };
    let (body, feet) = (&*turn.body, turn.feet);
    match over {
        ClimbOver::None => {
            body.walls.touched.on(wall.side).is_some_and(|touched| touched.is(&wall))
                && turn.around().wall_spans(wall, body.middle(feet.y))
        }
        // A platform can go away from beneath it.
        _ if !is_beside_mover(turn, &wall) => false,
        ClimbOver::Up { .. } => true,
        ClimbOver::Across => match wall.side {
            Direction::Right => feet.x < wall.face,
            Direction::Left => feet.x > wall.face,
        },
    }
}

/// Whether a wall that is a platform's side is still there, no further away than the probe; any other is.
fn is_beside_mover<T: Terrain, L: Listener>(turn: &Turn<'_, T, L>, wall: &Wall) -> bool {
    let Some(mover) = wall.mover() else { return true };
    let reach = turn.body.tuning.body().half_width() + turn.body.tuning.wall_probe();
    turn.scene.movers.mover(mover).is_some() && (turn.feet.x - wall.face).abs() <= reach
}

impl Character {
    /// Whether it holds what makes it fly, and no jump still rises.
    #[cold]
    fn flies(&self, air: &Air) -> bool {
        let jump_rises = air.flight.is_some() && self.report.velocity.y < 0.0;
        self.tuning.flight().is_some() && self.jump_held && !jump_rises && !self.outside.is_uncontrolled()
    }

    /// Step 10: the state by its name, from this tick on if it is another, and where the character looks.
    #[inline(always)]
    pub(super) fn name_state(&mut self, tick: u64) {
        let velocity = self.report.velocity;
        let slides_on = match &self.mode {
            Mode::Air(air) if velocity.y >= 0.0 => air.sliding.filter(|side| self.walls.touched.on(*side).is_some()),
            _ => None,
        };
        let state = match &self.mode {
            Mode::Ground(_) if velocity.x != 0.0 => State::Run,
            Mode::Ground(_) => State::Stand,
            Mode::Air(_) if slides_on.is_some() => State::WallSlide,
            // Somebody who flies is driven.
            Mode::Air(air) if self.outside.is_any() && self.flies(air) => State::Fly,
            Mode::Air(_) if velocity.y < 0.0 => State::Rise,
            Mode::Air(_) => State::Fall,
            Mode::Ladder(_) => State::Ladder,
            Mode::Hold(_) => State::WallHold,
            Mode::FourWay(_) => return self.name_state_from_above(tick),
        };
        if state != self.report.state {
            (self.report.state, self.report.state_since) = (state, tick);
        }
        let lock = self.mode.air().and_then(|air| air.lock);
        let side = match (slides_on, lock) {
            (Some(side), _) => side.opposite(),
            (None, Some(lock)) => lock.push,
            (None, None) => self.last_direction,
        };
        self.report.facing = side.into();
    }

    /// The same of one that is seen from above.
    #[cold]
    fn name_state_from_above(&mut self, tick: u64) {
        let Mode::FourWay(four) = &self.mode else { return };
        let walks = four.slid || self.report.velocity != DVec2::ZERO;
        let state = if walks { State::Run } else { State::Stand };
        if state != self.report.state {
            (self.report.state, self.report.state_since) = (state, tick);
        }
        (self.report.facing, self.report.contacts.below) = (four.facing, four.stopped_below);
    }
}

/// Whether the run is over. Only feet that are not well within the map can end it.
#[inline(always)]
pub(super) fn note_end<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>) {
    let (feet, terrain) = (turn.feet, turn.scene.terrain);
    if feet.x <= terrain.left() || feet.x >= terrain.width() || feet.y <= terrain.top() || feet.y >= terrain.height() {
        note_end_outside(turn.body, terrain, feet);
    }
}

/// Wholly beyond a deadly edge, or where coordinates end.
#[cold]
fn note_end_outside<T: Terrain>(body: &mut Character, terrain: &T, feet: DVec2) {
    let (half, height, edges) = (body.tuning.body().half_width(), body.tuning.body().height, terrain.edges());
    for (side, beyond) in [
        (Side::Left, feet.x <= terrain.left() - half),
        (Side::Right, feet.x >= terrain.width() + half),
        (Side::Top, feet.y <= terrain.top()),
        (Side::Bottom, feet.y >= terrain.height() + height),
    ] {
        if beyond && edges.on(side) == Edge::Deadly && !body.ended {
            body.report.events.push(Event::Died(side));
            body.ended = true;
        }
    }
    if !body.ended && (feet.x.abs() > LIMIT_PLACE || feet.y.abs() > LIMIT_PLACE) {
        body.report.events.push(Event::OutOfBounds);
        body.ended = true;
    }
}
