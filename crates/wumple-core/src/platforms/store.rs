//! The platforms of a world, and its props as others meet them.

use alloc::sync::Arc;
use alloc::vec::Vec;

use glam::DVec2;

use super::changes::{PlatformChanges, PlatformSet};
use super::places::{BodyKind, BodyPlace, MetBodies};
use super::platform::{Driven, Platform, PlatformChange, Rider};
use super::route::round_place;
use super::{Crumbling, MoverId, PlatformError, PlatformNumbers, PlatformProblem, PlatformSurface, Route};
use crate::bytes::{Coded, Sink};
use crate::groups::Group;
use crate::space::Hitbox;
use crate::space::float::round_half_up;
use crate::terrain::Zone;
use crate::tuning::{LIMIT_LENGTH, LIMIT_SPEED};

/// The platforms of a world, and where its props are.
///
/// The cost of a tick does not grow with their number: the boxes that routes sweep are indexed, and only the
/// platforms near a body are looked at.
#[derive(Clone, Debug)]
pub struct Platforms {
    /// `None`: nobody has said yet.
    rate: Option<f64>,
    pub(super) set: Arc<PlatformSet>,
    /// Those that the world began with.
    pub(super) beginning: Arc<PlatformSet>,
    /// Of each platform of the set.
    pub(super) happened: Vec<PlatformChange>,
    /// Those to which something has happened, by their places in the set.
    touched: Vec<u32>,
    /// Those that the game moves, by their places in the set, in order.
    pub(super) driven: Vec<(u32, Driven)>,
    pub(super) bodies: MetBodies,
    /// Whether there are neither platforms nor props: asked for in every tick.
    nothing_moves: bool,
    /// The greatest margin of a zone that a platform or a prop is, px, if any is.
    zone_reach: Option<f64>,
}

/// Where a platform is and what it is doing, for drawing it.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct PlatformReport {
    /// Its box, px, y down. While it is gone, where it would be.
    pub place: Hitbox,
    /// Where it was a tick ago, px, y down: for drawing what is between two ticks.
    pub before: Hitbox,
    /// Whether it shakes, sinks or is gone.
    pub crumbling: Crumbling,
    /// What of it stops a body.
    pub surface: PlatformSurface,
}

impl Platforms {
    /// Checks platforms for a world of `rate` ticks a second. Sizes, places and ways are rounded to
    /// 1/1024 px.
    ///
    /// # Errors
    ///
    /// The first platform with something wrong, and what.
    ///
    /// # Panics
    ///
    /// If the rate is not from 1 to 10,000: that of a checked [`Tuning`](crate::Tuning) is.
    pub fn new(numbers: &[PlatformNumbers], rate: f64) -> Result<Platforms, PlatformError> {
        assert!((1.0..=10_000.0).contains(&rate), "a rate of {rate} ticks a second");
        if let Some((platform, problem)) =
            numbers.iter().enumerate().find_map(|(index, platform)| Some((index, platform.problem()?)))
        {
            return Err(PlatformError { platform, problem });
        }
        let platform = |(id, numbers)| Platform::new(numbers, id as u32, 0, rate);
        Ok(Platforms::of(numbers.iter().enumerate().map(platform).collect(), Some(rate)))
    }

    /// None at all: any rate is theirs.
    pub(crate) fn none() -> Platforms {
        Platforms::of(Vec::new(), None)
    }

    fn of(all: Vec<Platform>, rate: Option<f64>) -> Platforms {
        let happened = alloc::vec![PlatformChange::default(); all.len()];
        let touched = Vec::with_capacity(all.len());
        let next = all.len() as u32;
        let set = Arc::new(PlatformSet::of(all, next));
        let mut platforms = Platforms {
            beginning: set.clone(),
            rate,
            set,
            happened,
            touched,
            driven: Vec::new(),
            bodies: MetBodies::default(),
            nothing_moves: false,
            zone_reach: None,
        };
        platforms.note_what_is_there();
        platforms
    }

    /// Puts another one into the world at the end of a tick. Returns its number.
    pub(crate) fn add(&mut self, numbers: &PlatformNumbers, tick: u64, rate: f64) -> Result<usize, PlatformError> {
        let id = self.set.next;
        if let Some(problem) = numbers.problem() {
            return Err(PlatformError { platform: id as usize, problem });
        }
        assert!(id < u32::MAX / 3, "a world gives no more numbers to platforms");
        let mut all = self.set.all.clone();
        all.push(Platform::added(numbers, id, tick, rate));
        self.rate = Some(rate);
        self.set = Arc::new(PlatformSet::of(all, id + 1));
        self.happened.push(PlatformChange::default());
        self.touched.reserve(self.happened.len() - self.touched.len());
        self.note_what_is_there();
        Ok(id as usize)
    }

    /// What the platforms of the beginning are known by.
    pub(crate) fn put_beginning(&self, to: &mut impl Sink) {
        self.beginning.all.len().put(to);
        for platform in &self.beginning.all {
            let Hitbox { left, right, top, bottom } = platform.extent();
            [left, right, top, bottom].put(to);
            platform.size.put(to);
        }
    }

    /// The number that the next one gets.
    pub(crate) fn next_number(&self) -> usize {
        self.set.next as usize
    }

    /// Takes one out. Says whether it was there.
    pub(crate) fn remove(&mut self, platform: usize) -> bool {
        let Some(slot) = self.set.slot(platform) else { return false };
        let mut all = self.set.all.clone();
        all.remove(slot);
        self.set = Arc::new(PlatformSet::of(all, self.set.next));
        self.happened.remove(slot);
        // Those after it move up.
        let slot = slot as u32;
        self.touched.retain(|other| *other != slot);
        self.driven.retain(|(other, _)| *other != slot);
        let moved = self.touched.iter_mut().chain(self.driven.iter_mut().map(|(other, _)| other));
        moved.filter(|other| **other > slot).for_each(|other| *other -= 1);
        self.note_what_is_there();
        true
    }

    /// Has one go to a place (of its top-left corner, px) in the tick after this one, whatever its route says.
    pub(crate) fn drive(&mut self, platform: usize, corner: DVec2, tick: u64) -> Result<(), PlatformError> {
        let slot = self.slot(platform);
        let problem = |problem| Err(PlatformError { platform, problem });
        // Written so that NaN is refused as well.
        let within = |place: DVec2| place.x.abs() <= LIMIT_LENGTH && place.y.abs() <= LIMIT_LENGTH;
        if !(within(corner) && within(corner + self.set.all[slot].size)) {
            return problem(PlatformProblem::BadPlace { place: 0 });
        }
        let (from, to) = (self.corner(slot, tick), round_place(corner));
        if (to - from).abs().max_element() * self.rate() > LIMIT_SPEED {
            return problem(PlatformProblem::TooFast);
        }
        let driven = Driven { from, to, tick: tick + 1 };
        match self.driven.binary_search_by_key(&(slot as u32), |(slot, _)| *slot) {
            Ok(at) => self.driven[at].1 = driven,
            Err(at) => self.driven.insert(at, (slot as u32, driven)),
        }
        Ok(())
    }

    /// The numbers of the platforms, in their order. They are from 0 up, but for those that were removed.
    #[must_use]
    pub fn numbers(&self) -> impl ExactSizeIterator<Item = usize> {
        self.set.all.iter().map(|platform| platform.id as usize)
    }

    fn slot(&self, platform: usize) -> usize {
        self.set
            .slot(platform)
            .unwrap_or_else(|| panic!("there is no platform {platform}: it was removed, or never was"))
    }

    /// How the game moves one, if it does.
    #[inline]
    pub(super) fn driven(&self, slot: usize) -> Option<&Driven> {
        if self.driven.is_empty() {
            return None;
        }
        let at = self.driven.binary_search_by_key(&(slot as u32), |(slot, _)| *slot).ok()?;
        Some(&self.driven[at].1)
    }

    /// Where one is at the end of a tick.
    #[inline]
    pub(super) fn place(&self, slot: usize, tick: u64) -> Hitbox {
        self.set.all[slot].place(&self.happened[slot], self.driven(slot), tick)
    }

    fn corner(&self, slot: usize, tick: u64) -> DVec2 {
        let what = &self.set.all[slot];
        self.driven(slot).map_or_else(|| what.corner(&self.happened[slot], tick), |driven| driven.corner(tick))
    }

    /// How many platforms there are.
    #[must_use]
    pub fn len(&self) -> usize {
        self.set.all.len()
    }

    /// Whether there are none.
    #[must_use]
    pub fn is_empty(&self) -> bool {
        self.set.all.is_empty()
    }

    /// The greatest margin of a zone that a platform or a prop is, px, if any is.
    #[inline]
    pub(crate) fn zone_reach(&self) -> Option<f64> {
        self.zone_reach
    }

    /// What is asked for in every tick, after platforms or props came or went.
    fn note_what_is_there(&mut self) {
        self.nothing_moves = self.set.all.is_empty() && self.bodies.are_none();
        self.zone_reach = match (self.set.zone_reach, self.bodies.zone_reach()) {
            (Some(one), Some(other)) => Some(one.max(other)),
            (one, other) => one.or(other),
        };
    }

    /// The zone that a platform or a prop is, if it is one.
    pub(crate) fn zone(&self, id: MoverId) -> Option<Zone> {
        match id {
            MoverId::Platform(platform) => self.set.all[self.set.slot(platform)?].zone,
            body => self.bodies.get(body)?.zone,
        }
    }

    /// Whether there are neither platforms nor props.
    #[inline]
    pub(crate) fn nothing_moves(&self) -> bool {
        self.nothing_moves
    }

    /// The ticks a second for which they were checked; 60 if there never were any.
    #[must_use]
    pub fn rate(&self) -> f64 {
        self.rate.unwrap_or(60.0)
    }

    /// The same, if anyone has said.
    pub(crate) fn known_rate(&self) -> Option<f64> {
        self.rate
    }

    /// The route of a platform.
    ///
    /// # Panics
    ///
    /// If there is no such platform.
    #[must_use]
    pub fn route(&self, platform: usize) -> &Route {
        &self.set.all[self.slot(platform)].route
    }

    /// A box around all places in which a platform can ever be, sunk or not, px, y down.
    ///
    /// # Panics
    ///
    /// If there is no such platform.
    #[must_use]
    pub fn extent(&self, platform: usize) -> Hitbox {
        self.set.all[self.slot(platform)].extent()
    }

    /// Where a platform is at the end of this tick, and what it is doing.
    ///
    /// # Panics
    ///
    /// If there is no such platform.
    #[must_use]
    pub fn report(&self, platform: usize, tick: u64) -> PlatformReport {
        let slot = self.slot(platform);
        let (what, happened) = (&self.set.all[slot], &self.happened[slot]);
        PlatformReport {
            place: self.place(slot, tick),
            before: self.place(slot, tick.saturating_sub(1)),
            crumbling: match (&what.crumble, happened.borne) {
                (Some(crumble), Some(borne)) => crumble.phase(tick.saturating_sub(borne)),
                _ => Crumbling::Whole,
            },
            surface: if what.solid { PlatformSurface::Solid } else { PlatformSurface::OneWay },
        }
    }

    /// The first platform whose sides are not whole pixels, if any. Its places are rounded to them.
    pub(crate) fn first_not_whole(&self) -> Option<usize> {
        let whole = |length: f64| length == round_half_up(length);
        let found = self.set.all.iter().find(|platform| !whole(platform.size.x) || !whole(platform.size.y));
        found.map(|platform| platform.id as usize)
    }

    /// A platform held up a character, or threw it up, in this tick; or a prop rode on it. A prop minds nothing of it.
    pub(crate) fn was_ridden(&mut self, mover: MoverId, tick: u64, by: Rider) {
        let MoverId::Platform(platform) = mover else { return };
        let Some(slot) = self.set.slot(platform) else { return };
        let (what, happened) = (&self.set.all[slot], &mut self.happened[slot]);
        let before = *happened;
        if happened.set_off.is_none() && what.is_set_off_by(by) {
            happened.set_off = Some(tick);
        }
        if happened.borne.is_none() && what.crumbles_under(by) {
            happened.borne = Some(tick);
        }
        if before == PlatformChange::default() && *happened != before {
            self.touched.push(slot as u32);
        }
    }

    /// Whether a platform is about to crumble because of whom it bears in this tick.
    pub(crate) fn begins_to_crumble(&self, mover: MoverId, under: Rider) -> bool {
        let MoverId::Platform(platform) = mover else { return false };
        let slot = self.set.slot(platform);
        slot.is_some_and(|slot| self.set.all[slot].crumbles_under(under) && self.happened[slot].borne.is_none())
    }

    /// Whether anything happened to any platform yet.
    pub(crate) fn any_happened(&self) -> bool {
        !self.touched.is_empty()
    }

    /// Crumbled platforms come back in this tick whose time is over, if none of the bodies is in the way.
    pub(crate) fn bring_back(&mut self, tick: u64, mut is_in_the_way: impl FnMut(&Hitbox, Group) -> bool) {
        let mut slot = 0;
        while slot < self.touched.len() {
            let platform = self.touched[slot] as usize;
            let (what, happened) = (&self.set.all[platform], self.happened[platform]);
            let due = match (&what.crumble, happened.borne) {
                (Some(crumble), Some(borne)) => crumble.is_back_due(tick - borne),
                _ => false,
            };
            if due {
                let whole = PlatformChange { borne: None, ..happened };
                let driven = self.driven(platform);
                let way = what.place(&whole, driven, tick - 1).around(&what.place(&whole, driven, tick));
                if !is_in_the_way(&way, what.group) {
                    self.happened[platform] = whole;
                    if whole == PlatformChange::default() {
                        self.touched.swap_remove(slot);
                        continue;
                    }
                }
            }
            slot += 1;
        }
    }

    /// What happened so far, to be restored.
    pub(crate) fn changes(&self) -> PlatformChanges {
        let mut changes = PlatformChanges::default();
        self.save_into(&mut changes);
        changes
    }

    /// The same into those that are there already.
    pub(crate) fn save_into(&self, changes: &mut PlatformChanges) {
        (changes.set, changes.beginning) = (Some(self.set.clone()), Some(self.beginning.clone()));
        changes.happened.clear();
        changes.happened.extend(self.touched.iter().map(|index| (*index, self.happened[*index as usize])));
        changes.driven.clone_from(&self.driven);
    }

    /// Everything as it was.
    pub(crate) fn restore(&mut self, changes: &PlatformChanges) {
        for index in self.touched.drain(..) {
            self.happened[index as usize] = PlatformChange::default();
        }
        if let Some(set) = changes.set.as_ref().filter(|set| !Arc::ptr_eq(set, &self.set)) {
            self.set = set.clone();
            self.happened.clear();
            self.happened.resize(self.set.all.len(), PlatformChange::default());
            self.touched.reserve(self.happened.len());
        }
        for (index, happened) in &changes.happened {
            self.touched.push(*index);
            self.happened[*index as usize] = *happened;
        }
        self.driven.clone_from(&changes.driven);
        self.note_what_is_there();
    }

    /// Where all bodies of a kind are when a tick begins.
    pub(crate) fn set_bodies(&mut self, kind: BodyKind, places: impl Iterator<Item = BodyPlace>) {
        self.bodies.of_kind(kind).begin(places);
        self.note_what_is_there();
    }

    /// A body has made its tick: where it is now, by its place among those of its kind.
    pub(crate) fn body_has_moved(&mut self, kind: BodyKind, slot: usize, now: Hitbox, is_there: bool) {
        self.bodies.of_kind(kind).has_moved(slot, now, is_there);
    }
}
