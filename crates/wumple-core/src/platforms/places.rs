//! Where bodies are in a tick that others meet: props, and characters where they do.

use alloc::vec::Vec;

use super::{Asker, Mover, MoverId};
use crate::groups::Group;
use crate::space::Hitbox;
use crate::terrain::{Material, Zone};
use crate::tick::slot_of;

/// Where a body was when the tick began, and is now.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct BodyPlace {
    pub(crate) id: MoverId,
    pub(crate) old: Hitbox,
    pub(crate) now: Hitbox,
    pub(crate) solid: bool,
    pub(crate) material: Material,
    pub(crate) zone: Option<Zone>,
    pub(crate) group: Group,
    /// Dead or lost, it is in nobody's way.
    pub(crate) is_there: bool,
    /// Whether it has made its tick.
    pub(crate) has_moved: bool,
}

impl BodyPlace {
    pub(super) fn as_mover(&self) -> Mover {
        let BodyPlace { id, old, now, solid, material, .. } = *self;
        Mover { id, old, now, solid, material }
    }
}

/// The places of all of a kind.
#[derive(Clone, Debug, Default)]
pub(super) struct BodyPlaces {
    all: Vec<BodyPlace>,
    /// From left to right as they were when the tick began.
    in_order: Vec<u32>,
    widest: f64,
}

impl BodyPlaces {
    /// Where they are when a tick begins.
    pub(super) fn begin(&mut self, places: impl Iterator<Item = BodyPlace>) {
        self.all.clear();
        self.all.extend(places);
        self.widest = self.all.iter().fold(0.0, |most, of| most.max(of.now.right - of.now.left));
        if self.in_order.len() != self.all.len() {
            self.in_order = (0..self.all.len() as u32).collect();
        }
        let all = &self.all;
        // Mostly in order already.
        for end in 1..self.in_order.len() {
            let mut at = end;
            let left = |slot: u32| (all[slot as usize].old.left, slot);
            while at > 0 && left(self.in_order[at - 1]) > left(self.in_order[at]) {
                self.in_order.swap(at - 1, at);
                at -= 1;
            }
        }
    }

    /// One has made its tick.
    pub(super) fn has_moved(&mut self, slot: usize, now: Hitbox, is_there: bool) {
        let place = &mut self.all[slot];
        // Whoever looks for it looks where it was: as far as it went to a side, the width counts.
        let aside = (now.left - place.old.left).abs();
        self.widest = self.widest.max(now.right - now.left + aside);
        (place.now, place.is_there, place.has_moved) = (now, is_there, true);
    }

    /// Whether there are none.
    fn are_none(&self) -> bool {
        self.all.is_empty()
    }

    /// Where one is, if it is in the world.
    fn get(&self, id: usize) -> Option<&BodyPlace> {
        slot_of(self.all.len(), id as u32, |slot| self.all[slot].id.number() as u32).map(|slot| &self.all[slot])
    }

    /// The greatest margin of a zone that one of them is, px, if any is.
    fn zone_reach(&self) -> Option<f64> {
        greatest_margin(self.all.iter().map(|of| of.zone))
    }

    /// Calls `visit` for every one that is met and whose way in this tick touches the area.
    fn each(&self, area: &Hitbox, asker: &Asker<'_>, visit: &mut dyn FnMut(&Mover)) {
        let first = self.in_order.partition_point(|slot| self.all[*slot as usize].old.left < area.left - self.widest);
        for slot in &self.in_order[first..] {
            let place = &self.all[*slot as usize];
            if place.old.left > area.right + self.widest {
                break;
            }
            if asker.meets_body(place) {
                let mover = place.as_mover();
                if mover.swept().touches(area) {
                    visit(&mover);
                }
            }
        }
    }
}

#[derive(Clone, Copy, Debug)]
pub(crate) enum BodyKind {
    Prop,
    Character,
}

/// The bodies that others meet: props, and where characters meet each other those.
#[derive(Clone, Debug, Default)]
pub(super) struct MetBodies {
    props: BodyPlaces,
    characters: BodyPlaces,
}

impl MetBodies {
    pub(super) fn of_kind(&mut self, kind: BodyKind) -> &mut BodyPlaces {
        match kind {
            BodyKind::Prop => &mut self.props,
            BodyKind::Character => &mut self.characters,
        }
    }

    pub(super) fn get(&self, id: MoverId) -> Option<&BodyPlace> {
        match id {
            MoverId::Platform(_) => None,
            MoverId::Prop(prop) => self.props.get(prop),
            MoverId::Character(character) => self.characters.get(character),
        }
    }

    pub(super) fn are_none(&self) -> bool {
        self.props.are_none() && self.characters.are_none()
    }

    pub(super) fn zone_reach(&self) -> Option<f64> {
        self.props.zone_reach()
    }

    /// Calls `visit` for every one that is met and whose way in this tick touches the area.
    pub(super) fn each(&self, area: &Hitbox, asker: &Asker<'_>, visit: &mut dyn FnMut(&Mover)) {
        self.props.each(area, asker, visit);
        if !self.characters.are_none() {
            self.characters.each(area, asker, visit);
        }
    }
}

/// The greatest margin of zones, px, if there are any.
pub(super) fn greatest_margin(zones: impl Iterator<Item = Option<Zone>>) -> Option<f64> {
    zones
        .flatten()
        .map(|zone| zone.margin.held().most())
        .fold(None, |most: Option<f64>, margin| Some(most.map_or(margin, |most| most.max(margin))))
}
