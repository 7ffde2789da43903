//! What governs a character's motion: one file a state, each with what only it needs, and the ways between them.

mod air;
mod flight;
mod flying;
mod four_way;
mod ground;
mod ladder;
mod wall_hold;
mod ways;

pub(crate) use air::{Air, Bump, SteerLock, way_down_within};
pub use flight::Flight;
pub(crate) use four_way::FourWay;
pub(crate) use ground::Ground;
pub(crate) use ladder::OnLadder;
pub(crate) use wall_hold::{ClimbOver, WallHold};
pub(crate) use ways::{Change, Moment, ways};

use glam::DVec2;

use crate::input::Intent;
use crate::integrate::Moved;
use crate::tuning::Tuning;

/// What governs a character's speeds, with what only that needs. (`stand` and `run`, `rise`, `fall` and `wall-slide`
/// are names within one.)
#[derive(Clone, Copy, Debug, PartialEq)]
#[repr(u8)]
pub(crate) enum Mode {
    /// Supported: no gravity.
    Ground(Ground),
    /// Not supported: gravity.
    Air(Air),
    /// On a ladder: no gravity, speeds as commanded.
    Ladder(OnLadder),
    /// Holding on to a wall: no gravity, speeds as commanded.
    Hold(WallHold),
    /// Seen from above: no gravity, speeds along both axes.
    FourWay(FourWay),
}

/// Which mode.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[repr(u8)]
pub(crate) enum ModeKind {
    Ground,
    Air,
    Ladder,
    Hold,
    FourWay,
}

#[cfg(test)]
impl ModeKind {
    /// All of them.
    pub(crate) const ALL: [ModeKind; 5] =
        [ModeKind::Ground, ModeKind::Air, ModeKind::Ladder, ModeKind::Hold, ModeKind::FourWay];

    /// The word used in the table of the ways between them.
    pub(crate) fn name(self) -> &'static str {
        match self {
            ModeKind::Ground => "ground",
            ModeKind::Air => "air",
            ModeKind::Ladder => "ladder",
            ModeKind::Hold => "hold",
            ModeKind::FourWay => "four-way",
        }
    }
}

impl Mode {
    #[inline(always)]
    pub(crate) fn kind(&self) -> ModeKind {
        match self {
            Mode::Ground(_) => ModeKind::Ground,
            Mode::Air(_) => ModeKind::Air,
            Mode::Ladder(_) => ModeKind::Ladder,
            Mode::Hold(_) => ModeKind::Hold,
            Mode::FourWay(_) => ModeKind::FourWay,
        }
    }

    #[inline(always)]
    pub(crate) fn is_ground(&self) -> bool {
        matches!(self, Mode::Ground(_))
    }

    /// What is known of being in the air, if the body is.
    #[inline(always)]
    pub(crate) fn air(&self) -> Option<&Air> {
        if let Mode::Air(air) = self { Some(air) } else { None }
    }

    #[inline(always)]
    pub(crate) fn air_mut(&mut self) -> Option<&mut Air> {
        if let Mode::Air(air) = self { Some(air) } else { None }
    }

    /// Whether the body climbs: on a ladder or a wall.
    #[inline(always)]
    pub(crate) fn climbs(&self) -> bool {
        matches!(self, Mode::Ladder(_) | Mode::Hold(_))
    }
}

/// The speeds of a tick: what they are at its end, and how far they would carry the body. y is down.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Speeds {
    pub(crate) x: Moved,
    pub(crate) y: Moved,
}

impl Speeds {
    /// Neither speeds nor ways.
    pub(crate) const STILL: Speeds = Speeds { x: Moved::STILL, y: Moved::STILL };
}

/// Step 4 of a tick: each mode has its own way to change the speeds. `centre` is where the middle of a ladder is, px.
#[inline(always)]
pub(crate) fn speeds(
    mode: &mut Mode,
    tuning: &Tuning,
    velocity: DVec2,
    intent: Intent,
    (x, centre): (f64, impl FnOnce(&OnLadder) -> f64),
) -> Speeds {
    match mode {
        Mode::Ground(ground) => ground.speeds(tuning, velocity.x, intent),
        Mode::Air(air) => air.speeds(tuning, velocity, intent),
        Mode::Ladder(on) => OnLadder::speeds(tuning, intent, x, centre(on)),
        Mode::Hold(hold) => hold.speeds(tuning, intent),
        Mode::FourWay(_) => FourWay::speeds(tuning, velocity, intent, None),
    }
}

/// What acts from outside on the speeds of a tick.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Outside {
    /// An acceleration, px/s^2, y down.
    pub(crate) push: DVec2,
    /// Nothing brakes along x in the air.
    pub(crate) unbraked: bool,
    /// The body's own thrust acts, beside what acts from outside.
    pub(crate) thrusts: bool,
}

/// The same of a body that flies, and with something that acts from outside. Who climbs holds on against it.
#[cold]
pub(crate) fn speeds_driven(
    mode: &mut Mode,
    tuning: &Tuning,
    velocity: DVec2,
    intent: Intent,
    (x, centre): (f64, impl FnOnce(&OnLadder) -> f64),
    outside: Outside,
) -> Speeds {
    match mode {
        Mode::Ground(ground) if outside.push.x != 0.0 => {
            ground.speeds_pushed(tuning, velocity.x, intent, outside.push.x)
        }
        Mode::Air(air) if tuning.flight().is_some() => flying::speeds(air, tuning, velocity, intent, outside),
        Mode::Air(air) => air.speeds_driven(tuning, velocity, intent, outside),
        Mode::FourWay(_) => FourWay::speeds(tuning, velocity, intent, Some(outside)),
        Mode::Ground(_) | Mode::Ladder(_) | Mode::Hold(_) => speeds(mode, tuning, velocity, intent, (x, centre)),
    }
}

/// The downward speed that is held: up and down have speeds of their own.
fn commanded(climbing: f64, up_speed: f64, down_speed: f64) -> f64 {
    -climbing * if climbing > 0.0 { up_speed } else { down_speed }
}
