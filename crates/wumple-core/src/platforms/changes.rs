//! The platforms there are, and what happened to them: as it is saved.

use alloc::sync::Arc;
use alloc::vec::Vec;

use super::places::greatest_margin;
use super::platform::{Driven, Platform, PlatformChange};
use super::{PlatformNumbers, Platforms};
use crate::bytes::{Coded, Sink, Source};
use crate::space::Index;
use crate::tick::slot_of;

/// The platforms themselves, in the order of their numbers. Shared with what is saved: to change them is to make others.
#[derive(Clone, Debug, Default, PartialEq)]
pub(super) struct PlatformSet {
    pub(super) all: Vec<Platform>,
    /// What each sweeps over its whole route.
    pub(super) index: Index,
    /// The number that the next one gets.
    pub(super) next: u32,
    /// The greatest margin of a zone that one of them is, px, if any is.
    pub(super) zone_reach: Option<f64>,
}

impl PlatformSet {
    pub(super) fn of(all: Vec<Platform>, next: u32) -> PlatformSet {
        let index = Index::new(all.iter().map(Platform::extent));
        let zone_reach = greatest_margin(all.iter().map(|platform| platform.zone));
        PlatformSet { all, index, next, zone_reach }
    }

    /// Where among all the platform of a number is, if it is there.
    pub(super) fn slot(&self, id: usize) -> Option<usize> {
        slot_of(self.all.len(), id as u32, |slot| self.all[slot].id)
    }
}

/// What happened to the platforms of a world: of those alone to which something has.
#[derive(Clone, Debug, Default, PartialEq)]
pub(crate) struct PlatformChanges {
    /// The platforms there were, and those there were at the beginning; `None`: those there are.
    pub(super) set: Option<Arc<PlatformSet>>,
    pub(super) beginning: Option<Arc<PlatformSet>>,
    pub(super) happened: Vec<(u32, PlatformChange)>,
    pub(super) driven: Vec<(u32, Driven)>,
}

impl PlatformChanges {
    /// Where they are none, and where they are: which of those of the beginning are gone, which were added, what happened.
    pub(crate) fn put(&self, to: &mut impl Sink) {
        let (Some(set), Some(beginning)) = (&self.set, &self.beginning) else { return false.put(to) };
        true.put(to);
        set.next.put(to);
        let gone = || beginning.all.iter().filter(|of| set.slot(of.id as usize).is_none()).map(|of| of.id);
        gone().count().put(to);
        gone().for_each(|id| id.put(to));
        let added = || set.all.iter().filter_map(|of| Some((of.id, of.since, of.added.as_deref()?)));
        added().count().put(to);
        for (id, since, numbers) in added() {
            id.put(to);
            since.put(to);
            numbers.put(to);
        }
        self.happened.put(to);
        self.driven.put(to);
    }

    /// Again from bytes, for a world that began with these platforms.
    pub(crate) fn decode(from: &mut Source<'_>, platforms: &Platforms) -> Option<PlatformChanges> {
        if !bool::decode(from)? {
            return Some(PlatformChanges::default());
        }
        let beginning = platforms.beginning.clone();
        let (next, gone) = (u32::decode(from)?, Vec::<u32>::decode(from)?);
        let added = Vec::<(u32, (u64, PlatformNumbers))>::decode(from)?;
        let set = if gone.is_empty() && added.is_empty() && next == beginning.next {
            beginning.clone()
        } else {
            let mut all: Vec<Platform> = beginning.all.iter().filter(|of| !gone.contains(&of.id)).cloned().collect();
            for (id, (since, numbers)) in added {
                let follows = all.last().is_none_or(|last| last.id < id) && id >= beginning.next && id < next;
                if !follows || numbers.problem().is_some() {
                    return None;
                }
                all.push(Platform::added(&numbers, id, since, platforms.rate()));
            }
            Arc::new(PlatformSet::of(all, next))
        };
        let happened = Vec::<(u32, PlatformChange)>::decode(from)?;
        let driven = Vec::<(u32, Driven)>::decode(from)?;
        let is_there = |slot: u32| (slot as usize) < set.all.len();
        let in_order = driven.windows(2).all(|two| two[0].0 < two[1].0);
        let are_there = happened.iter().all(|of| is_there(of.0)) && driven.iter().all(|of| is_there(of.0));
        let (set, beginning) = (Some(set), Some(beginning));
        (in_order && are_there).then_some(PlatformChanges { set, beginning, happened, driven })
    }

    /// How much memory they take beside their own place, bytes. The platforms are shared with the world.
    pub(crate) fn size_in_bytes(&self) -> usize {
        size_of_val(self.happened.as_slice()) + size_of_val(self.driven.as_slice())
    }
}
