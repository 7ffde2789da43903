//! Where the props are in a tick.

use alloc::vec::Vec;

use super::{Asker, Mover, MoverId};
use crate::groups::Group;
use crate::space::Hitbox;
use crate::terrain::{Material, Zone};
use crate::tick::slot_of;

/// Where a prop was when the tick began, and is now.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct PropPlace {
    /// Its identity in the world.
    pub(crate) id: u32,
    pub(crate) old: Hitbox,
    pub(crate) now: Hitbox,
    pub(crate) solid: bool,
    pub(crate) material: Material,
    pub(crate) zone: Option<Zone>,
    pub(crate) group: Group,
    /// Dead or lost, it is in nobody's way.
    pub(crate) is_there: bool,
    /// Whether it has made its tick: to other props it is there only then.
    pub(crate) has_moved: bool,
}

impl PropPlace {
    pub(super) fn as_mover(&self) -> Mover {
        let PropPlace { id, old, now, solid, material, .. } = *self;
        Mover { id: MoverId::Prop(id as usize), old, now, solid, material }
    }
}

/// The places of all props.
#[derive(Clone, Debug, Default)]
pub(crate) struct PropPlaces {
    all: Vec<PropPlace>,
    /// From left to right as they were when the tick began.
    in_order: Vec<u32>,
    widest: f64,
}

impl PropPlaces {
    /// The places of the props when a tick begins.
    pub(crate) fn begin(&mut self, props: impl Iterator<Item = PropPlace>) {
        self.all.clear();
        self.all.extend(props);
        self.widest = self.all.iter().fold(0.0, |most, prop| most.max(prop.now.right - prop.now.left));
        if self.in_order.len() != self.all.len() {
            self.in_order = (0..self.all.len() as u32).collect();
        }
        let props = &self.all;
        // Mostly in order already.
        for end in 1..self.in_order.len() {
            let mut at = end;
            let left = |slot: u32| props[slot as usize].old.left;
            while at > 0 && left(self.in_order[at - 1]) > left(self.in_order[at]) {
                self.in_order.swap(at - 1, at);
                at -= 1;
            }
        }
    }

    /// One has made its tick.
    pub(crate) fn has_moved(&mut self, prop: usize, now: Hitbox, is_there: bool) {
        let place = &mut self.all[prop];
        // Whoever looks for it looks where it was: as far as it went to a side, the width counts.
        let aside = (now.left - place.old.left).abs();
        self.widest = self.widest.max(now.right - now.left + aside);
        (place.now, place.is_there, place.has_moved) = (now, is_there, true);
    }

    /// Whether there are none.
    pub(super) fn are_none(&self) -> bool {
        self.all.is_empty()
    }

    /// Where one is, if it is in the world.
    pub(super) fn get(&self, id: usize) -> Option<&PropPlace> {
        slot_of(self.all.len(), id as u32, |slot| self.all[slot].id).map(|slot| &self.all[slot])
    }

    /// The greatest margin of a zone that one of them is, px, if any is.
    pub(super) fn zone_reach(&self) -> Option<f64> {
        greatest_margin(self.all.iter().map(|prop| prop.zone))
    }

    /// Calls `visit` for every prop whose way in this tick touches the area.
    pub(super) fn each(&self, area: &Hitbox, asker: &Asker<'_>, visit: &mut dyn FnMut(&Mover)) {
        let first = self.in_order.partition_point(|prop| self.all[*prop as usize].old.left < area.left - self.widest);
        for prop in &self.in_order[first..] {
            let place = &self.all[*prop as usize];
            if place.old.left > area.right + self.widest {
                break;
            }
            // A prop meets those alone that have moved before it: those lower down.
            if (place.has_moved || !asker.is_prop) && place.is_there && asker.meets.has(place.group) {
                let mover = place.as_mover();
                if mover.swept().touches(area) {
                    visit(&mover);
                }
            }
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
