//! What a game does to a body from outside, between ticks.

use alloc::boxed::Box;
use alloc::vec::Vec;
use core::fmt;

use glam::DVec2;

use super::{Character, Event};
use crate::states::{Air, Mode};
use crate::tuning::{LIMIT_ACCELERATION, LIMIT_SPEED};

/// What a launch takes from the player for a while. The default is nothing.
///
/// ```
/// use wumple_core::Launch;
///
/// let launch = Launch { ticks: 12, unbraked: true };
/// assert_eq!(Launch::default(), Launch { ticks: 0, unbraked: false });
/// # let _ = launch;
/// ```
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(default, deny_unknown_fields))]
pub struct Launch {
    /// For so many ticks the four directions count as not held; jump and grab are as ever.
    pub ticks: u32,
    /// In these ticks nothing brakes the speed along x in the air.
    pub unbraked: bool,
}

/// A speed or an acceleration that is refused: not a number, or beyond its limit.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct LimitError {
    /// What was given, px/s or px/s^2.
    pub found: DVec2,
    /// The greatest that either part may be, up or down.
    pub limit: f64,
}

impl fmt::Display for LimitError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let LimitError { found, limit } = self;
        write!(f, "({}, {}) is refused: both parts must be numbers from -{limit} to {limit}", found.x, found.y)
    }
}

impl core::error::Error for LimitError {}

fn within(found: DVec2, limit: f64) -> Result<DVec2, LimitError> {
    // Written so that NaN is refused as well.
    if found.x.abs() <= limit && found.y.abs() <= limit { Ok(found) } else { Err(LimitError { found, limit }) }
}

/// So many calls between two ticks are told without making more room.
const ROOM: usize = 8;

/// What the game does to one body, until it acts. Bodies to which it does nothing have none of it.
#[derive(Debug, Default, PartialEq)]
pub(super) struct Outside {
    /// What is to be told in the next tick.
    told: Vec<Event>,
    /// For the next tick: an acceleration, px/s^2, and a speed of carriage, px/s.
    push: DVec2,
    drift: DVec2,
    launched: Option<Launched>,
    control: Control,
    pub(super) still: bool,
    /// With whole pixels, what is left over of the ways so far, px.
    pub(super) rest: DVec2,
}

#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) struct Launched {
    /// The last tick without directions.
    pub(super) until: u64,
    pub(super) unbraked: bool,
}

/// Whether the player has the character in hand.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
enum Control {
    #[default]
    Player,
    /// Nothing is asked for, and what was held stays held.
    Away,
    /// What is held in the next tick was held before: it is no press.
    ComesBack,
}

impl Clone for Outside {
    fn clone(&self) -> Outside {
        Outside { told: self.told.clone(), ..*self }
    }

    /// Keeps the room for what is to be told.
    fn clone_from(&mut self, other: &Outside) {
        let mut told = core::mem::take(&mut self.told);
        told.clone_from(&other.told);
        *self = Outside { told, ..*other };
    }
}

/// What acts on a body from outside in one tick.
#[derive(Clone, Copy, Debug, Default)]
pub(super) struct Forces {
    /// An acceleration beside gravity, px/s^2, y down.
    pub(super) push: DVec2,
    /// A speed at which it is carried, px/s, y down.
    pub(super) drift: DVec2,
    /// Directions count as not held.
    pub(super) undirected: bool,
    /// Nothing brakes along x in the air.
    pub(super) unbraked: bool,
    /// The player has it not in hand.
    pub(super) uncontrolled: bool,
    /// What is held now was held before.
    pub(super) nothing_pressed: bool,
}

impl Character {
    pub(super) fn outside_mut(&mut self) -> &mut Outside {
        self.outside.get_or_insert_with(|| Box::new(Outside { told: Vec::with_capacity(ROOM), ..Outside::default() }))
    }

    /// Makes room for what is to be told, and for what whole pixels leave over: so that ticks allocate nothing.
    pub(super) fn make_room_outside(&mut self) {
        if self.tuning.moves_whole_pixels() {
            self.outside_mut();
        }
        if let Some(outside) = &mut self.outside {
            outside.told.reserve(ROOM.saturating_sub(outside.told.len()));
        }
    }

    /// To be told in the next tick.
    pub(super) fn tell_later(&mut self, event: Event) {
        self.outside_mut().told.push(event);
    }

    /// Whether something was done to it since the last tick.
    pub(super) fn was_changed(&self) -> bool {
        self.outside.as_ref().is_some_and(|outside| !outside.told.is_empty())
    }

    pub(super) fn is_still(&self) -> bool {
        self.outside.as_ref().is_some_and(|outside| outside.still)
    }

    /// What acts on it in this tick; what was done to it since the last is told first.
    #[cold]
    pub(super) fn begin_with_outside(&mut self) -> Forces {
        let tick = self.report.tick;
        let Some(outside) = &mut self.outside else { return Forces::default() };
        self.report.events.append(&mut outside.told);
        if outside.launched.is_some_and(|launched| tick > launched.until) {
            outside.launched = None;
        }
        let forces = Forces {
            push: core::mem::take(&mut outside.push),
            drift: core::mem::take(&mut outside.drift),
            undirected: outside.launched.is_some(),
            unbraked: outside.launched.is_some_and(|launched| launched.unbraked),
            uncontrolled: outside.control == Control::Away,
            nothing_pressed: outside.control == Control::ComesBack,
        };
        if outside.control == Control::ComesBack {
            outside.control = Control::Player;
        }
        forces
    }

    /// A body that was put elsewhere: what acted on it there no longer does.
    pub(super) fn forget_forces(&mut self) {
        if let Some(outside) = &mut self.outside {
            (outside.push, outside.drift, outside.launched, outside.rest) =
                (DVec2::ZERO, DVec2::ZERO, None, DVec2::ZERO);
        }
    }

    pub(super) fn launch(&mut self, velocity: DVec2, launch: Launch, tick: u64) -> Result<(), LimitError> {
        let velocity = within(velocity, LIMIT_SPEED)?;
        if self.ended {
            return Ok(());
        }
        self.let_go_of_everything();
        if let Mode::Ground(_) = self.mode {
            self.mode = Mode::Air(Air::default());
        }
        // Not a jump, and the end of any: no release cuts it, and it has no hang.
        if let Some(air) = self.mode.air_mut() {
            *air = Air::default();
        }
        self.report.velocity = velocity;
        let Launch { ticks, unbraked } = launch;
        let launched = (ticks > 0).then_some(Launched { until: tick + u64::from(ticks), unbraked });
        self.outside_mut().launched = launched;
        self.tell_later(Event::Launched);
        self.stand_on_nothing();
        Ok(())
    }

    /// Lets go of a ladder or a wall, which is not taken again at once.
    pub(super) fn let_go_of_everything(&mut self) {
        let event = match self.mode {
            Mode::Ladder(_) => {
                self.ladder_barred = true;
                Event::LetGoOfLadder
            }
            Mode::Hold(hold) => {
                self.walls.barred = Some(hold.wall);
                Event::LetGoOfWall
            }
            Mode::Ground(_) | Mode::Air(_) => return,
        };
        self.mode = Mode::Air(Air::default());
        self.tell_later(event);
    }

    /// The report of a body that has left what held it.
    pub(super) fn stand_on_nothing(&mut self) {
        self.report.support = crate::nearby::Support::None;
        self.report.contacts.below = false;
        self.name_state();
    }

    pub(super) fn push(&mut self, acceleration: DVec2) -> Result<(), LimitError> {
        let outside = self.outside_mut();
        outside.push = within(outside.push + acceleration, LIMIT_ACCELERATION)?;
        Ok(())
    }

    pub(super) fn drift(&mut self, velocity: DVec2) -> Result<(), LimitError> {
        let outside = self.outside_mut();
        outside.drift = within(outside.drift + velocity, LIMIT_SPEED)?;
        Ok(())
    }

    pub(super) fn hold_still(&mut self, still: bool) {
        if still != self.is_still() {
            self.outside_mut().still = still;
            self.tell_later(if still { Event::HeldStill } else { Event::SetGoing });
        }
    }

    pub(super) fn set_control(&mut self, by_player: bool) {
        let control = self.outside.as_ref().map_or(Control::Player, |outside| outside.control);
        match (control, by_player) {
            (Control::Player | Control::ComesBack, false) => {
                // A press that was kept until now was for then.
                self.pressed_at = None;
                self.outside_mut().control = Control::Away;
                self.tell_later(Event::ControlTaken);
            }
            (Control::Away, true) => {
                self.outside_mut().control = Control::ComesBack;
                self.tell_later(Event::ControlGiven);
            }
            _ => {}
        }
    }

    /// How much further it may come in this tick because of what acts from outside, px.
    pub(super) fn driven_on(&self) -> f64 {
        let seconds = self.tuning.tick_seconds();
        self.outside.as_ref().map_or(0.0, |outside| {
            (outside.drift.abs().max_element() + outside.push.abs().max_element() * seconds) * seconds
        })
    }
}

crate::bytes::coded!(enum Control { 0 => Player, 1 => Away, 2 => ComesBack });
crate::bytes::coded!(struct Outside { told, push, drift, launched, control, still, rest });
