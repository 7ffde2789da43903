//! What a game does to a body from outside, between ticks.

use alloc::boxed::Box;
use alloc::vec::Vec;
use core::fmt;

use glam::DVec2;

use super::{Character, Event, TickReport};
use crate::bytes::{Coded, Sink, Source};
use crate::space::float::round_half_up;
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

/// What the game does to one body. One to which it does nothing has none of it.
#[derive(Debug, Default, PartialEq)]
pub(super) struct Outside(Option<Box<Deeds>>);

/// What it does, until it acts.
#[derive(Debug, Default, PartialEq)]
struct Deeds {
    /// What is to be told in the next tick.
    told: Vec<Event>,
    /// For the next tick: an acceleration, px/s^2, and a speed of carriage, px/s.
    push: DVec2,
    drift: DVec2,
    launched: Option<Launched>,
    control: Control,
    still: bool,
    /// It passes through everything, and others through it.
    passes: bool,
    /// With whole pixels, what is left over of the ways so far, px.
    rest: DVec2,
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

impl Clone for Deeds {
    fn clone(&self) -> Deeds {
        Deeds { told: self.told.clone(), ..*self }
    }

    /// Keeps the room for what is to be told.
    fn clone_from(&mut self, other: &Deeds) {
        let mut told = core::mem::take(&mut self.told);
        told.clone_from(&other.told);
        *self = Deeds { told, ..*other };
    }
}

impl Clone for Outside {
    fn clone(&self) -> Outside {
        Outside(self.0.clone())
    }

    fn clone_from(&mut self, other: &Outside) {
        copy_box(&mut self.0, &other.0);
    }
}

/// In the room there is.
pub(super) fn copy_box<T: Clone>(to: &mut Option<Box<T>>, from: &Option<Box<T>>) {
    match (to, from) {
        (Some(kept), Some(from)) => T::clone_from(kept, from),
        (to, from) => to.clone_from(from),
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

impl Outside {
    /// Whether the game ever did anything.
    #[inline]
    pub(super) fn is_any(&self) -> bool {
        self.0.is_some()
    }

    fn deeds(&mut self) -> &mut Deeds {
        self.0.get_or_insert_with(|| Box::new(Deeds { told: Vec::with_capacity(ROOM), ..Deeds::default() }))
    }

    /// Makes room for what is to be told, and of a body on which something always may act, for that: so that ticks allocate nothing.
    pub(super) fn make_room(&mut self, is_driven: bool) {
        if is_driven {
            self.deeds();
        }
        if let Some(deeds) = &mut self.0 {
            deeds.told.reserve(ROOM.saturating_sub(deeds.told.len()));
        }
    }

    /// What it takes beside its own place, bytes.
    pub(super) fn size_beside(&self) -> usize {
        self.0.as_ref().map_or(0, |deeds| size_of_val(&**deeds))
    }

    /// To be told in the next tick.
    pub(super) fn tell_later(&mut self, event: Event) {
        self.deeds().told.push(event);
    }

    /// The same of what is told once, however often it was done.
    pub(super) fn tell_once_later(&mut self, event: Event) {
        let told = &mut self.deeds().told;
        if !told.contains(&event) {
            told.push(event);
        }
    }

    /// Whether something was done since the last tick.
    pub(super) fn has_changed_it(&self) -> bool {
        self.0.as_ref().is_some_and(|deeds| !deeds.told.is_empty())
    }

    #[inline]
    pub(super) fn holds_still(&self) -> bool {
        self.0.as_ref().is_some_and(|deeds| deeds.still)
    }

    /// What acts in this tick; what was done since the last is told first.
    #[cold]
    pub(super) fn begin(&mut self, report: &mut TickReport) -> Forces {
        let Some(deeds) = &mut self.0 else { return Forces::default() };
        report.events.append(&mut deeds.told);
        if deeds.launched.is_some_and(|launched| report.tick > launched.until) {
            deeds.launched = None;
        }
        let forces = Forces {
            push: core::mem::take(&mut deeds.push),
            drift: core::mem::take(&mut deeds.drift),
            undirected: deeds.launched.is_some(),
            unbraked: deeds.launched.is_some_and(|launched| launched.unbraked),
            uncontrolled: deeds.control == Control::Away,
            nothing_pressed: deeds.control == Control::ComesBack,
        };
        if deeds.control == Control::ComesBack {
            deeds.control = Control::Player;
        }
        forces
    }

    /// A body that was put elsewhere: what acted on it there no longer does.
    pub(super) fn forget_forces(&mut self) {
        if let Some(deeds) = &mut self.0 {
            (deeds.push, deeds.drift, deeds.launched, deeds.rest) = (DVec2::ZERO, DVec2::ZERO, None, DVec2::ZERO);
        }
    }

    pub(super) fn push(&mut self, acceleration: DVec2) -> Result<(), LimitError> {
        let before = self.0.as_ref().map_or(DVec2::ZERO, |deeds| deeds.push);
        let push = within(before + acceleration, LIMIT_ACCELERATION)?;
        self.deeds().push = push;
        Ok(())
    }

    pub(super) fn drift(&mut self, velocity: DVec2) -> Result<(), LimitError> {
        let before = self.0.as_ref().map_or(DVec2::ZERO, |deeds| deeds.drift);
        let drift = within(before + velocity, LIMIT_SPEED)?;
        self.deeds().drift = drift;
        Ok(())
    }

    pub(super) fn hold_still(&mut self, still: bool) {
        if still != self.holds_still() {
            self.deeds().still = still;
            self.tell_later(if still { Event::HeldStill } else { Event::SetGoing });
        }
    }

    #[inline]
    pub(super) fn passes(&self) -> bool {
        self.0.as_ref().is_some_and(|deeds| deeds.passes)
    }

    pub(super) fn pass_through(&mut self) {
        self.deeds().passes = true;
    }

    /// What is held in the next tick is no press, whatever was held when its state was saved.
    pub(super) fn comes_back(&mut self) {
        self.deeds().control = Control::ComesBack;
    }

    fn control(&self) -> Control {
        self.0.as_ref().map_or(Control::Player, |deeds| deeds.control)
    }

    /// Whether the player has it not in hand.
    pub(super) fn is_uncontrolled(&self) -> bool {
        self.control() == Control::Away
    }

    /// How much further a body may come in this tick because of what acts, px.
    pub(super) fn drives_on(&self, seconds: f64) -> f64 {
        self.0
            .as_ref()
            .map_or(0.0, |deeds| (deeds.drift.abs().max_element() + deeds.push.abs().max_element() * seconds) * seconds)
    }

    /// Of a way, as much as is whole pixels; the rest is carried over.
    pub(super) fn in_pixels(&mut self, by: DVec2) -> DVec2 {
        let rest = &mut self.deeds().rest;
        let due = *rest + by;
        let moved = DVec2::new(round_half_up(due.x), round_half_up(due.y));
        *rest = due - moved;
        moved
    }

    /// Something stopped the body along x: what whole pixels left over of its way counts no more.
    #[inline]
    pub(super) fn drop_rest_x(&mut self) {
        if let Some(deeds) = &mut self.0 {
            deeds.rest.x = 0.0;
        }
    }

    /// The same along y.
    #[inline]
    pub(super) fn drop_rest_y(&mut self) {
        if let Some(deeds) = &mut self.0 {
            deeds.rest.y = 0.0;
        }
    }
}

impl Character {
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
        self.outside.deeds().launched = launched;
        self.outside.tell_later(Event::Launched);
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
            Mode::Ground(_) | Mode::Air(_) | Mode::FourWay(_) => return,
        };
        self.mode = Mode::Air(Air::default());
        self.outside.tell_later(event);
    }

    /// The report of a body that has left what held it.
    pub(super) fn stand_on_nothing(&mut self) {
        self.report.support = crate::nearby::Support::None;
        self.report.contacts.below = false;
        self.name_state(self.report.tick + 1);
    }

    pub(super) fn set_control(&mut self, by_player: bool) {
        let control = self.outside.control();
        match (control, by_player) {
            (Control::Player | Control::ComesBack, false) => {
                // A press that was kept until now was for then.
                self.pressed_at = None;
                self.outside.deeds().control = Control::Away;
                self.outside.tell_later(Event::ControlTaken);
            }
            (Control::Away, true) => {
                self.outside.deeds().control = Control::ComesBack;
                self.outside.tell_later(Event::ControlGiven);
            }
            _ => {}
        }
    }
}

crate::bytes::coded!(enum Control { 0 => Player, 1 => Away, 2 => ComesBack });
crate::bytes::coded!(struct Deeds { told, push, drift, launched, control, still, passes, rest });

impl Coded for Outside {
    fn put(&self, to: &mut impl Sink) {
        self.0.put(to);
    }
    fn decode(from: &mut Source<'_>) -> Option<Outside> {
        Some(Outside(Coded::decode(from)?))
    }
}
