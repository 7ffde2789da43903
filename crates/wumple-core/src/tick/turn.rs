//! One body's tick under way.

use alloc::vec::Vec;
use core::num::NonZeroU64;

use glam::DVec2;

use super::outside::Forces;
use super::scene::Scene;
use super::why::Forgotten;
use super::{Character, Decision, Event, Listener};
use crate::collide::{Cells, Surroundings};
use crate::input::{Facing, Intent};
use crate::platforms::MoverId;
use crate::space::Hitbox;
use crate::states::{Ground, ModeKind};
use crate::terrain::{Material, Terrain};
use crate::tuning::{FlightBy, FlightNumbers};

/// A body's tick: what it acts on, where the body is by now, and what the steps so far hand on to those that follow.
/// The report is written when the tick is over.
pub(super) struct Turn<'a, T, L> {
    pub(super) body: &'a mut Character,
    pub(super) scene: Scene<'a, T>,
    pub(super) listener: &'a mut L,
    pub(super) feet: DVec2,
    pub(super) velocity: DVec2,
    pub(super) cells: Cells,
    pub(super) intent: Intent,
    pub(super) pressed: Pressed,
    /// What acts from outside, if the game does anything to the body.
    pub(super) forces: Option<Forces>,
    pub(super) start: Start,
    pub(super) carried: Carried,
    pub(super) travelled: Travelled,
    /// Nothing but plain solid tiles is where the body can come to in this tick.
    pub(super) plain: bool,
    /// Jumped, dropped, bounced, or took something: the ground is not followed, nor its loss told.
    pub(super) left_ground: bool,
    /// What step 7 found under the feet, if it looked.
    pub(super) standing: Option<Ground>,
    /// What step 8 found.
    pub(super) senses: Senses,
    /// What held it up or threw it up.
    pub(super) borne_by: Option<MoverId>,
    /// Tick 0: nothing is thrown up yet, since that could not be told.
    pub(super) is_tick_0: bool,
}

/// Where a tick began.
#[derive(Clone, Copy)]
pub(super) struct Start {
    pub(super) feet: DVec2,
    pub(super) velocity: DVec2,
    pub(super) mode: ModeKind,
}

/// What came of being carried and pushed, in step 1.
#[derive(Clone, Copy)]
pub(super) struct Carried {
    /// Where the tick began, moved along by what carried and pushed the body.
    pub(super) from: DVec2,
    /// Where that left the body.
    pub(super) to: DVec2,
    /// What it rides on once the platforms are where they go in this tick.
    pub(super) rides: Option<MoverId>,
    /// A platform that comes up beneath a rise and is no faster.
    pub(super) outruns: Option<MoverId>,
    pub(super) pushed: bool,
    /// Pushed up or down.
    pub(super) pushed_upright: bool,
    /// Terrain refused a push: steps 3 to 7 are left out.
    pub(super) crushed: bool,
    /// Carried to where nothing supports it.
    pub(super) off: bool,
}

/// What was met on the way, in steps 5 to 7.
#[derive(Clone, Copy, Default)]
pub(super) struct Travelled {
    /// The height of the slopes that feet in the air came over, where they are below them.
    pub(super) surface: Option<f64>,
    /// The height of a ledge that it was lifted onto.
    pub(super) lifted_to: Option<f64>,
    /// A platform that came up faster than the body rose.
    pub(super) caught: Option<MoverId>,
    /// Seen from above, the way along x on which it was stopped.
    pub(super) stopped_x: Option<Facing>,
    /// A landing was told, or what stands in its place.
    pub(super) landed: bool,
    /// A climb came down upon a floor, or was stopped where it should go on over a wall's top.
    pub(super) stopped: Option<Stopped>,
}

#[derive(Clone, Copy, PartialEq, Eq)]
pub(super) enum Stopped {
    AtFloor,
    OnTheWayOver,
}

/// What was pressed in a tick.
#[derive(Clone, Copy, Default)]
pub(super) struct Pressed {
    pub(super) jump: bool,
    pub(super) up: bool,
    pub(super) down: bool,
    pub(super) grab: bool,
}

/// What step 8 found.
#[derive(Clone, Copy, Default)]
pub(super) struct Senses {
    /// What holds the body up: nothing while it rises, or holds on to something else.
    pub(super) ground: Option<Ground>,
    /// The ladder or the wall that is held is still there, and no floor was come down upon.
    pub(super) held: bool,
}

impl<'a, T: Terrain, L: Listener> Turn<'a, T, L> {
    #[inline(always)]
    pub(super) fn new(body: &'a mut Character, scene: Scene<'a, T>, listener: &'a mut L) -> Turn<'a, T, L> {
        let (feet, velocity) = (body.report.feet, body.report.velocity);
        Turn {
            feet,
            velocity,
            cells: body.cells,
            intent: body.intent,
            pressed: Pressed::default(),
            forces: None,
            start: Start { feet, velocity, mode: body.mode.kind() },
            carried: Carried {
                from: feet,
                to: feet,
                rides: None,
                outruns: None,
                pushed: false,
                pushed_upright: false,
                crushed: false,
                off: false,
            },
            travelled: Travelled::default(),
            plain: false,
            left_ground: false,
            standing: None,
            senses: Senses::default(),
            borne_by: None,
            is_tick_0: false,
            body,
            scene,
            listener,
        }
    }

    /// Whether ground throws the body up: not one that is crushed, nor one that is put there.
    #[inline(always)]
    pub(super) fn is_thrown_up_by(&self, ground: &Ground) -> bool {
        self.throws_up(&ground.material) && !self.is_tick_0 && !self.carried.crushed
    }

    /// Whether a landing on this throws the body up: because of what it is, or because the body springs.
    #[inline(always)]
    pub(super) fn throws_up(&self, material: &Material) -> bool {
        material.bounce.is_some() || self.body.tuning.springs()
    }

    /// The flight of a body that has a thrust and holds it.
    pub(super) fn thrust(&self) -> Option<&FlightNumbers> {
        let is_controlled = self.forces.is_none_or(|forces| !forces.uncontrolled);
        self.body.tuning.flight().filter(|flight| flight.by == FlightBy::Thrust && self.body.jump_held && is_controlled)
    }

    /// What the body meets around it now.
    #[inline]
    pub(super) fn around(&self) -> Surroundings<'_, T> {
        self.body.surroundings(&self.scene)
    }

    /// The number of this tick.
    #[inline]
    pub(super) fn tick(&self) -> u64 {
        self.body.report.tick
    }

    /// Sees to it that all is known that a tick can meet which moves the body by so much, unless it is carried, lifted
    /// or set down further than that.
    #[inline(always)]
    pub(super) fn look(&mut self, by: DVec2) {
        if self.scene.is_plain {
            self.plain = true;
            return;
        }
        let (tuning, aside) = (&self.body.tuning, by.x.abs() + 1.0);
        // A tile's ramp rises no more than it is long.
        let more = tuning.felt() + aside;
        let follow = if self.start.mode == ModeKind::Ground { tuning.ramp_follow() } else { 0.0 };
        let hitbox = tuning.body().hitbox_at(self.feet);
        let area = Hitbox {
            left: hitbox.left - more,
            right: hitbox.right + more,
            top: hitbox.top - more - by.y.abs(),
            bottom: hitbox.bottom + (more + by.y.abs()).max(follow + aside),
        };
        self.scene.nearby.look(self.scene.terrain, &area);
        self.plain = self.scene.nearby.is_plain_in(&area) && self.scene.movers.are_none_in(&area);
    }

    /// Moves the feet, and the tiles of the hitbox with them.
    pub(super) fn go_to(&mut self, feet: DVec2) {
        let from = core::mem::replace(&mut self.feet, feet);
        self.follow_cells(from);
    }

    /// The tiles of the hitbox, after the feet have moved from somewhere.
    #[inline]
    pub(super) fn follow_cells(&mut self, from: DVec2) {
        let (lines, body) = (self.scene.terrain.grid_lines(), self.body.tuning.body());
        self.cells.follow_x(lines, body, from.x, self.feet.x);
        self.cells.follow_y(lines, body, from.y, self.feet.y);
    }

    /// The tiles of the hitbox anew, after the feet were set somewhere.
    pub(super) fn find_cells(&mut self) {
        self.cells = Cells::of(self.scene.terrain.grid_lines(), self.body.tuning.body(), self.feet);
    }

    /// Where the body is at the end, for the report.
    #[inline(always)]
    pub(super) fn write(&mut self) {
        let body = &mut *self.body;
        if body.bumped_at < f64::INFINITY && body.bumped_at != self.feet.y {
            body.bumped_at = f64::INFINITY;
        }
        (body.report.feet, body.report.velocity, body.cells) = (self.feet, self.velocity, self.cells);
    }

    #[inline(always)]
    pub(super) fn note(&mut self, decision: impl FnOnce() -> Decision) {
        if self.listener.listens() {
            self.listener.decided(self.body.id, self.body.report.tick, &decision());
        }
    }

    #[cold]
    pub(super) fn tell(&mut self, event: Event) {
        self.body.report.events.push(event);
    }

    /// A press of jump that was kept is forgotten.
    pub(super) fn forget_press(&mut self, because: Forgotten) {
        if let Some(pressed) = self.body.pressed_at.take().map(NonZeroU64::get) {
            let kept = self.body.tuning.buffer_ticks() > 0 || because != Forgotten::Late;
            if kept {
                self.note(|| Decision::PressForgotten { pressed, because });
            }
        }
    }

    /// The platforms and props right under the feet, in the room that there is for them.
    pub(super) fn movers_to_drop_through(&mut self) -> Vec<MoverId> {
        let mut movers = self.body.dropping.take_movers();
        let feet = self.feet;
        self.around().floors(feet.x, feet.y, feet.y, |floor| movers.extend(floor.support.mover()));
        movers
    }
}
