//! One platform: what was written of it, and where it is in a tick.

use alloc::boxed::Box;
use alloc::vec::Vec;

use glam::DVec2;

use super::crumble::Crumble;
use super::route::{Manner, round_place};
use super::{Pace, PlatformNumbers, PlatformSurface, Route, Starts};
use crate::groups::Group;
use crate::space::Hitbox;
use crate::terrain::{Material, Zone};
use crate::tuning::round_length;

/// One platform, checked.
#[derive(Clone, Debug, PartialEq)]
pub(super) struct Platform {
    /// Its number in its world: never given twice.
    pub(super) id: u32,
    /// The tick at whose end it was put into the world.
    pub(super) since: u64,
    /// What was written of it, if it was not there from the beginning.
    pub(super) added: Option<Box<PlatformNumbers>>,
    pub(super) size: DVec2,
    pub(super) solid: bool,
    pub(super) route: Route,
    pub(super) starts: Starts,
    pub(super) crumble: Option<Crumble>,
    pub(super) material: Material,
    pub(super) zone: Option<Zone>,
    pub(super) group: Group,
    starts_for: Option<Vec<Group>>,
    crumbles_for: Option<Vec<Group>>,
    /// It goes no further than this in a tick, px.
    pub(super) stride: f64,
}

/// Who rides on a platform.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Rider {
    pub(crate) group: Group,
    pub(crate) is_character: bool,
}

/// What of a platform depends on what happened.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub(super) struct PlatformChange {
    /// The tick in which it was set off, where that waits for a rider.
    pub(super) set_off: Option<u64>,
    /// The tick in which it first bore someone it crumbles under.
    pub(super) borne: Option<u64>,
}

/// A platform that the game moves: its route counts no more. Places are of its top-left corner, px.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) struct Driven {
    /// Where it was before.
    pub(super) from: DVec2,
    /// Where it goes in `tick`, and stays.
    pub(super) to: DVec2,
    pub(super) tick: u64,
}

crate::bytes::coded!(struct Driven { from, to, tick });
crate::bytes::coded!(struct PlatformChange { set_off, borne });

impl Driven {
    pub(super) fn corner(&self, tick: u64) -> DVec2 {
        if tick >= self.tick { self.to } else { self.from }
    }
}

impl Platform {
    pub(super) fn new(numbers: &PlatformNumbers, id: u32, since: u64, rate: f64) -> Platform {
        let rounded = |at: &DVec2| DVec2::new(round_length(at.x), round_length(at.y));
        let places: Vec<DVec2> = numbers.route.iter().map(rounded).collect();
        let pace = if places.len() > 1 { numbers.pace } else { Pace::Speed(1.0) };
        let crumble = numbers.crumble.map(|mut crumble| {
            crumble.sink = round_length(crumble.sink);
            Crumble::new(&crumble, rate)
        });
        let PlatformNumbers { ease, ease_over, bend, ends, wait, .. } = *numbers;
        let route = Route::new(places, Manner { pace, ease, ease_over, bend, ends, wait }, rate);
        Platform {
            id,
            since,
            added: None,
            size: rounded(&numbers.size).max(DVec2::splat(1.0 / 1024.0)),
            solid: numbers.surface == PlatformSurface::Solid,
            // Sinking is counted as if it were done at once, and a pixel for rounding.
            stride: route.fastest() / rate + crumble.as_ref().map_or(0.0, |crumble| crumble.sink) + 1.0,
            route,
            starts: numbers.starts,
            crumble,
            material: numbers.material,
            zone: numbers.zone,
            group: numbers.group,
            starts_for: numbers.starts_for.clone(),
            crumbles_for: numbers.crumbles_for.clone(),
        }
    }

    pub(super) fn added(numbers: &PlatformNumbers, id: u32, since: u64, rate: f64) -> Platform {
        Platform { added: Some(Box::new(numbers.clone())), ..Platform::new(numbers, id, since, rate) }
    }

    /// The box around all that it can ever sweep.
    pub(super) fn extent(&self) -> Hitbox {
        let mut extent = self.route.extent();
        extent.right += self.size.x;
        extent.bottom += self.size.y + self.crumble.as_ref().map_or(0.0, |crumble| crumble.sink);
        extent
    }

    /// Whether somebody who rides on it sets it off, if it waits for that.
    pub(super) fn is_set_off_by(&self, rider: Rider) -> bool {
        let by_group = self.starts_for.as_ref().is_none_or(|groups| groups.contains(&rider.group));
        self.starts == Starts::WhenRidden && by_group
    }

    /// Whether it crumbles under somebody.
    pub(super) fn crumbles_under(&self, rider: Rider) -> bool {
        let by_group = self.crumbles_for.as_ref().map_or(rider.is_character, |groups| groups.contains(&rider.group));
        self.crumble.is_some() && by_group
    }

    pub(super) fn is_at_rest(&self, happened: &PlatformChange) -> bool {
        let waits = self.starts == Starts::WhenRidden && happened.set_off.is_none();
        (waits || self.route.places().len() == 1) && happened.borne.is_none()
    }

    /// Where its route has its top-left corner at the end of a tick: a pure function of the tick and of what happened
    /// before.
    #[inline]
    pub(super) fn corner(&self, happened: &PlatformChange, tick: u64) -> DVec2 {
        let set_off = match self.starts {
            Starts::AtOnce => Some(self.since),
            Starts::WhenRidden => happened.set_off,
        };
        self.route.place(set_off.map_or(0, |set_off| tick.saturating_sub(set_off)))
    }

    /// Where it is at the end of a tick.
    #[inline]
    pub(super) fn place(&self, happened: &PlatformChange, driven: Option<&Driven>, tick: u64) -> Hitbox {
        let mut corner = driven.map_or_else(|| self.corner(happened, tick), |driven| driven.corner(tick));
        if let (Some(crumble), Some(borne)) = (&self.crumble, happened.borne) {
            corner.y += crumble.sunk(tick.saturating_sub(borne));
            corner = round_place(corner);
        }
        Hitbox::at(corner, self.size)
    }
}
