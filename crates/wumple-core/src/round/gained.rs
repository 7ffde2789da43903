//! What was gained so far: what is taken, which gates are open, what is had.

use alloc::vec::Vec;

use super::{Item, Lack, Need, RoundRules};
use crate::bytes::coded;
use crate::terrain::ZoneId;

/// What is taken and what is open, each in order.
#[derive(Clone, Debug, Default, PartialEq)]
pub(super) struct Gained {
    pub(super) taken: Vec<ZoneId>,
    pub(super) open: Vec<ZoneId>,
    /// The worth of what is taken.
    pub(super) picked: u32,
}

coded!(struct Gained { taken, open, picked });

impl Gained {
    pub(super) fn has_taken(&self, zone: ZoneId) -> bool {
        self.taken.binary_search(&zone).is_ok()
    }

    pub(super) fn is_open(&self, gate: ZoneId) -> bool {
        self.open.binary_search(&gate).is_ok()
    }

    pub(super) fn take(&mut self, zone: ZoneId, worth: u32) {
        if let Err(at) = self.taken.binary_search(&zone) {
            self.taken.insert(at, zone);
            self.picked = self.picked.saturating_add(worth);
        }
    }

    pub(super) fn open(&mut self, gate: ZoneId) {
        if let Err(at) = self.open.binary_search(&gate) {
            self.open.insert(at, gate);
        }
    }

    /// How many of an item are left: those that were given, without those that were used up.
    pub(super) fn left_of(&self, item: Item, rules: &RoundRules) -> u32 {
        let given = self.taken.iter().filter(|zone| rules.of(**zone).gives == Some(item)).count();
        let used = self.taken.iter().chain(&self.open).filter(|zone| {
            let rule = rules.of(**zone);
            rule.takes && rule.needs == Some(Need::Has(item))
        });
        given.saturating_sub(used.count()) as u32
    }

    /// What is missing of something that is needed, if anything is.
    pub(super) fn lacks(&self, need: Option<Need>, rules: &RoundRules) -> Option<Lack> {
        match need? {
            Need::Pickups(needed) => (self.picked < needed).then_some(Lack::Pickups { picked: self.picked, needed }),
            Need::Has(item) => (self.left_of(item, rules) == 0).then_some(Lack::Item(item)),
        }
    }

    /// In the room there is.
    pub(super) fn copy_from(&mut self, other: &Gained) {
        self.taken.clone_from(&other.taken);
        self.open.clone_from(&other.open);
        self.picked = other.picked;
    }
}
