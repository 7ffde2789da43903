use alloc::boxed::Box;
use alloc::sync::Arc;
use alloc::vec::Vec;

use glam::DVec2;

use super::crumble::Crumble;
use super::route::round_place;
use super::{
    Crumbling, Mover, MoverId, Movers, Pace, PlatformError, PlatformNumbers, PlatformProblem, PlatformSurface, Route,
    Starts,
};
use crate::bytes::{Coded, Sink, Source};
use crate::space::float::round_half_up;
use crate::space::{Hitbox, Index};
use crate::terrain::{Material, Zone};
use crate::tick::slot_of;
use crate::tuning::{LIMIT_LENGTH, LIMIT_SPEED, round_length};

/// One platform, checked.
#[derive(Clone, Debug, PartialEq)]
struct Platform {
    /// Its number in its world: never given twice.
    id: u32,
    /// The tick at whose end it was put into the world.
    since: u64,
    /// What was written of it, if it was not there from the beginning.
    added: Option<Box<PlatformNumbers>>,
    size: DVec2,
    solid: bool,
    route: Route,
    starts: Starts,
    crumble: Option<Crumble>,
    material: Material,
    zone: Option<Zone>,
    /// It goes no further than this in a tick, px.
    stride: f64,
}

/// What of a platform depends on what happened.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
struct PlatformChange {
    /// The tick in which it was set off, where that waits for a rider.
    set_off: Option<u64>,
    /// The tick in which it first bore a character.
    borne: Option<u64>,
}

/// A platform that the game moves: its route counts no more. Places are of its top-left corner, px.
#[derive(Clone, Copy, Debug, PartialEq)]
struct Driven {
    /// Where it was before.
    from: DVec2,
    /// Where it goes in `tick`, and stays.
    to: DVec2,
    tick: u64,
}

crate::bytes::coded!(struct Driven { from, to, tick });
crate::bytes::coded!(struct PlatformChange { set_off, borne });

impl Driven {
    fn corner(&self, tick: u64) -> DVec2 {
        if tick >= self.tick { self.to } else { self.from }
    }
}

/// The platforms themselves, in the order of their numbers. Shared with what is saved: to change them is to make others.
#[derive(Clone, Debug, Default, PartialEq)]
struct PlatformSet {
    all: Vec<Platform>,
    /// What each sweeps over its whole route.
    index: Index,
    /// The number that the next one gets.
    next: u32,
    /// The greatest margin of a zone that one of them is, px, if any is.
    zone_reach: Option<f64>,
}

impl PlatformSet {
    fn of(all: Vec<Platform>, next: u32) -> PlatformSet {
        let index = Index::new(all.iter().map(Platform::extent));
        let zone_reach = greatest_margin(all.iter().map(|platform| platform.zone));
        PlatformSet { all, index, next, zone_reach }
    }

    /// Where among all the platform of a number is, if it is there.
    fn slot(&self, id: usize) -> Option<usize> {
        slot_of(self.all.len(), id as u32, |slot| self.all[slot].id)
    }
}

/// What happened to the platforms of a world: of those alone to which something has.
#[derive(Clone, Debug, Default, PartialEq)]
pub(crate) struct PlatformChanges {
    /// The platforms there were, and those there were at the beginning; `None`: those there are.
    set: Option<Arc<PlatformSet>>,
    beginning: Option<Arc<PlatformSet>>,
    happened: Vec<(u32, PlatformChange)>,
    driven: Vec<(u32, Driven)>,
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
    /// Dead or lost, it is in nobody's way.
    pub(crate) is_there: bool,
    /// Whether it has made its tick: to other props it is there only then.
    pub(crate) has_moved: bool,
}

impl PropPlace {
    fn as_mover(&self) -> Mover {
        let PropPlace { id, old, now, solid, material, .. } = *self;
        Mover { id: MoverId::Prop(id as usize), old, now, solid, material }
    }
}

/// The platforms of a world, and where its props are.
///
/// The cost of a tick does not grow with their number: the boxes that routes sweep are indexed, and only the
/// platforms near a body are looked at.
#[derive(Clone, Debug)]
pub struct Platforms {
    /// `None`: nobody has said yet.
    rate: Option<f64>,
    set: Arc<PlatformSet>,
    /// Those that the world began with.
    beginning: Arc<PlatformSet>,
    /// Of each platform of the set.
    happened: Vec<PlatformChange>,
    /// Those to which something has happened, by their places in the set.
    touched: Vec<u32>,
    /// Those that the game moves, by their places in the set, in order.
    driven: Vec<(u32, Driven)>,
    props: Vec<PropPlace>,
    /// The props, from left to right as they were when the tick began.
    props_in_order: Vec<u32>,
    widest_prop: f64,
    /// Whether there are neither platforms nor props: asked for in every tick.
    nothing_moves: bool,
    /// The greatest margin of a zone that a platform or a prop is, px, if any is.
    zone_reach: Option<f64>,
}

/// The greatest margin of zones, px, if there are any.
fn greatest_margin(zones: impl Iterator<Item = Option<Zone>>) -> Option<f64> {
    zones
        .flatten()
        .map(|zone| zone.margin.held().most())
        .fold(None, |most: Option<f64>, margin| Some(most.map_or(margin, |most| most.max(margin))))
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
        let (driven, props, props_in_order) = (Vec::new(), Vec::new(), Vec::new());
        let mut platforms = Platforms {
            beginning: set.clone(),
            rate,
            set,
            happened,
            touched,
            driven,
            props,
            props_in_order,
            widest_prop: 0.0,
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
        assert!(id < u32::MAX / 2, "a world gives no more numbers to platforms");
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
    fn driven(&self, slot: usize) -> Option<&Driven> {
        if self.driven.is_empty() {
            return None;
        }
        let at = self.driven.binary_search_by_key(&(slot as u32), |(slot, _)| *slot).ok()?;
        Some(&self.driven[at].1)
    }

    /// Where one is at the end of a tick.
    #[inline]
    fn place(&self, slot: usize, tick: u64) -> Hitbox {
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
        self.nothing_moves = self.set.all.is_empty() && self.props.is_empty();
        let of_props = greatest_margin(self.props.iter().map(|prop| prop.zone));
        self.zone_reach = match (self.set.zone_reach, of_props) {
            (Some(one), Some(other)) => Some(one.max(other)),
            (one, other) => one.or(other),
        };
    }

    /// The zone that a platform or a prop is, if it is one.
    pub(crate) fn zone(&self, id: MoverId) -> Option<Zone> {
        match id {
            MoverId::Platform(platform) => self.set.all[self.set.slot(platform)?].zone,
            MoverId::Prop(prop) => {
                let slot = slot_of(self.props.len(), prop as u32, |slot| self.props[slot].id)?;
                self.props[slot].zone
            }
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

    /// A platform held up a character, or threw it up, in this tick; or a prop rode on it.
    pub(crate) fn was_ridden(&mut self, platform: usize, tick: u64, by_character: bool) {
        let Some(slot) = self.set.slot(platform) else { return };
        let (what, happened) = (&self.set.all[slot], &mut self.happened[slot]);
        let before = *happened;
        if what.starts == Starts::WhenRidden && happened.set_off.is_none() {
            happened.set_off = Some(tick);
        }
        if by_character && what.crumble.is_some() && happened.borne.is_none() {
            happened.borne = Some(tick);
        }
        if before == PlatformChange::default() && *happened != before {
            self.touched.push(slot as u32);
        }
    }

    /// Whether a platform is about to crumble because of a character that it bears in this tick.
    pub(crate) fn begins_to_crumble(&self, platform: usize) -> bool {
        let slot = self.set.slot(platform);
        slot.is_some_and(|slot| self.set.all[slot].crumble.is_some() && self.happened[slot].borne.is_none())
    }

    /// Whether anything happened to any platform yet.
    pub(crate) fn any_happened(&self) -> bool {
        !self.touched.is_empty()
    }

    /// Crumbled platforms come back in this tick whose time is over, if none of the bodies is in the way.
    pub(crate) fn bring_back(&mut self, tick: u64, mut is_in_the_way: impl FnMut(&Hitbox) -> bool) {
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
                if !is_in_the_way(&way) {
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

    /// What moves, as it is in a tick, wherever it is asked for: for questions between ticks.
    pub(crate) fn everywhere(&self, tick: u64, whole_pixels: bool) -> Movers<'_> {
        Movers::looked_up(self, tick, whole_pixels)
    }

    /// The places of the props when a tick begins.
    pub(crate) fn set_props(&mut self, props: impl Iterator<Item = PropPlace>) {
        self.props.clear();
        self.props.extend(props);
        self.widest_prop = self.props.iter().fold(0.0, |most, prop| most.max(prop.now.right - prop.now.left));
        self.note_what_is_there();
        if self.props_in_order.len() != self.props.len() {
            self.props_in_order = (0..self.props.len() as u32).collect();
        }
        let props = &self.props;
        // Mostly in order already.
        for end in 1..self.props_in_order.len() {
            let mut at = end;
            let left = |slot: u32| props[slot as usize].old.left;
            while at > 0 && left(self.props_in_order[at - 1]) > left(self.props_in_order[at]) {
                self.props_in_order.swap(at - 1, at);
                at -= 1;
            }
        }
    }

    /// A prop has made its tick.
    pub(crate) fn set_prop(&mut self, prop: usize, now: Hitbox, is_there: bool) {
        let place = &mut self.props[prop];
        // Whoever looks for it looks where it was: as far as it went to a side, the width counts.
        let aside = (now.left - place.old.left).abs();
        self.widest_prop = self.widest_prop.max(now.right - now.left + aside);
        (place.now, place.is_there, place.has_moved) = (now, is_there, true);
    }

    /// Works out the movers about a body: all that sweep over some of `around.area` in this tick.
    pub(crate) fn gather<'a>(
        &'a self,
        near: &'a mut Vec<Mover>,
        nearby: &mut PlatformNotes,
        around: &Asking,
    ) -> Movers<'a> {
        let Asking { tick, whole_pixels, asked_by_prop, .. } = *around;
        near.clear();
        let mut area = around.area.grown(MORE);
        if !nearby.area.contains(&area) {
            nearby.fill(&self.set.index, area.grown(AHEAD));
        }
        if nearby.count == 0 && self.props.is_empty() && self.driven.is_empty() && around.rides.is_none() {
            return Movers { platforms: Some(self), near, area: nearby.area, tick, whole_pixels, asked_by_prop };
        }
        if nearby.are_noted() {
            for slot in nearby.noted().iter_mut().filter(|slot| !slot.is_quiet(&area, tick)) {
                let platform = slot.platform as usize;
                if self.driven(platform).is_some() {
                    continue;
                }
                let gap = self.visit_platform(platform, &area, tick, whole_pixels, &mut |mover| near.push(*mover));
                slot.keep_quiet(&area, tick, gap, self.set.all[platform].stride);
            }
            self.each_driven(&area, tick, whole_pixels, &mut |mover| near.push(*mover));
            self.each_prop(&area, asked_by_prop, &mut |mover| near.push(*mover));
        } else {
            self.each_mover(&area, tick, whole_pixels, asked_by_prop, &mut |mover| near.push(*mover));
        }
        let is_among = |near: &[Mover], id: MoverId| near.iter().any(|mover| mover.id == id);
        // What the body rides on, however far away it may be by now.
        let left_behind = around.rides.filter(|id| !is_among(near, *id));
        let left_behind = left_behind.and_then(|id| self.mover(id, tick, whole_pixels));
        // What carries or pushes the body may take it further than it goes by itself.
        for _ in 0..3 {
            let farthest = near.iter().chain(&left_behind).map(|mover| mover.by().abs().max_element());
            let needed = around.area.grown(farthest.fold(0.0, f64::max));
            if area.contains(&needed) {
                break;
            }
            area = needed;
            near.clear();
            self.each_mover(&area, tick, whole_pixels, asked_by_prop, &mut |mover| near.push(*mover));
        }
        near.extend(left_behind.filter(|mover| !is_among(near, mover.id)));
        if near.len() > 1 {
            near.sort_unstable_by_key(|mover| mover.id);
        }
        Movers { platforms: Some(self), near, area, tick, whole_pixels, asked_by_prop }
    }

    /// Calls `visit` for every mover whose way in this tick touches the area.
    pub(super) fn each_mover(
        &self,
        area: &Hitbox,
        tick: u64,
        whole_pixels: bool,
        asked_by_prop: bool,
        visit: &mut dyn FnMut(&Mover),
    ) {
        // Rounding to whole pixels can move a platform beyond what its route sweeps.
        let wide = if whole_pixels { area.grown(1.0) } else { *area };
        self.set.index.near(&wide, |platform| {
            if self.driven(platform).is_none() {
                self.visit_platform(platform, area, tick, whole_pixels, visit);
            }
        });
        self.each_driven(area, tick, whole_pixels, visit);
        self.each_prop(area, asked_by_prop, visit);
    }

    /// The same for those that the game moves: they can be anywhere.
    fn each_driven(&self, area: &Hitbox, tick: u64, whole_pixels: bool, visit: &mut dyn FnMut(&Mover)) {
        for (slot, _) in &self.driven {
            if let Some(mover) = self.mover_at(*slot as usize, tick, whole_pixels)
                && mover.swept().touches(area)
            {
                visit(&mover);
            }
        }
    }

    /// The same for one platform on its route. Returns how far it is from the area, px: 0 if its way touches it.
    fn visit_platform(
        &self,
        platform: usize,
        area: &Hitbox,
        tick: u64,
        whole_pixels: bool,
        visit: &mut dyn FnMut(&Mover),
    ) -> f64 {
        let (what, happened) = (&self.set.all[platform], &self.happened[platform]);
        // Mostly it is somewhere else on its route, and where it was a tick ago need not be asked.
        let gap = what.place(happened, None, tick).gap(area) - what.stride;
        if gap > 0.0 {
            return gap;
        }
        if let Some(mover) = self.mover_at(platform, tick, whole_pixels)
            && mover.swept().touches(area)
        {
            visit(&mover);
        }
        0.0
    }

    /// The same for the props.
    fn each_prop(&self, area: &Hitbox, asked_by_prop: bool, visit: &mut dyn FnMut(&Mover)) {
        let first = self
            .props_in_order
            .partition_point(|prop| self.props[*prop as usize].old.left < area.left - self.widest_prop);
        for prop in &self.props_in_order[first..] {
            let place = &self.props[*prop as usize];
            if place.old.left > area.right + self.widest_prop {
                break;
            }
            // A prop meets those alone that have moved before it: those lower down.
            if (place.has_moved || !asked_by_prop) && place.is_there {
                let mover = place.as_mover();
                if mover.swept().touches(area) {
                    visit(&mover);
                }
            }
        }
    }

    /// A mover, if it is there in this tick.
    pub(super) fn mover(&self, id: MoverId, tick: u64, whole_pixels: bool) -> Option<Mover> {
        match id {
            MoverId::Platform(platform) => self.mover_at(self.set.slot(platform)?, tick, whole_pixels),
            MoverId::Prop(index) => {
                let slot = slot_of(self.props.len(), index as u32, |slot| self.props[slot].id)?;
                let place = &self.props[slot];
                place.is_there.then(|| place.as_mover())
            }
        }
    }

    /// A platform by its place in the set, if it is there in this tick.
    fn mover_at(&self, slot: usize, tick: u64, whole_pixels: bool) -> Option<Mover> {
        let (what, happened, driven) = (&self.set.all[slot], &self.happened[slot], self.driven(slot));
        let gone = match (&what.crumble, happened.borne) {
            (Some(crumble), Some(borne)) => crumble.is_gone(tick.saturating_sub(borne)),
            _ => false,
        };
        let place = |tick| {
            let place = what.place(happened, driven, tick);
            if whole_pixels { place.moved(to_whole_pixels(&place)) } else { place }
        };
        (!gone).then(|| {
            let now = place(tick);
            let rests = driven.is_none() && what.is_at_rest(happened);
            let old = if rests { now } else { place(tick.saturating_sub(1)) };
            let id = MoverId::Platform(what.id as usize);
            Mover { id, old, now, solid: what.solid, material: what.material }
        })
    }
}

/// Around which body movers are looked for, and how it counts places.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Asking {
    pub(crate) area: Hitbox,
    pub(crate) tick: u64,
    pub(crate) whole_pixels: bool,
    pub(crate) asked_by_prop: bool,
    /// What the body rides on.
    pub(crate) rides: Option<MoverId>,
}

/// How much further than a body reaches by itself movers are looked for at once, px.
const MORE: f64 = 8.0;
/// How far around a body the platforms are noted that ever come there, px: so that they need not be looked up
/// in every tick.
const AHEAD: f64 = 64.0;

/// The platforms that ever come into a box around a body. Routes do not change: as long as the body stays in
/// the box, no others need be asked.
#[derive(Clone, Debug)]
pub(crate) struct PlatformNotes {
    area: Hitbox,
    noted: [Noted; PlatformNotes::MOST],
    /// How many; more than [`PlatformNotes::MOST`] where they are too many to be noted.
    count: usize,
}

/// One of them. It need not be asked for some ticks, if it was far away.
#[derive(Clone, Copy, Debug)]
struct Noted {
    platform: u32,
    /// Through this tick it does not come into this area.
    quiet_until: u64,
    quiet: Hitbox,
}

impl PlatformNotes {
    const MOST: usize = 8;

    /// Nothing is known yet.
    pub(crate) const UNKNOWN: PlatformNotes = PlatformNotes {
        area: Hitbox::NOWHERE,
        noted: [Noted { platform: 0, quiet_until: 0, quiet: Hitbox::NOWHERE }; PlatformNotes::MOST],
        count: 0,
    };

    fn fill(&mut self, index: &Index, area: Hitbox) {
        *self = PlatformNotes { area, ..PlatformNotes::UNKNOWN };
        // Rounding to whole pixels can move a platform beyond what its route sweeps.
        index.near(&area.grown(1.0), |platform| {
            if let Some(slot) = self.noted.get_mut(self.count) {
                slot.platform = platform as u32;
            }
            self.count += 1;
        });
    }

    /// Whether they are not too many.
    fn are_noted(&self) -> bool {
        self.count <= PlatformNotes::MOST
    }

    fn noted(&mut self) -> &mut [Noted] {
        &mut self.noted[..self.count]
    }
}

impl Noted {
    /// It is at least `gap` px from the area and goes no further than `stride` px in a tick: half of the way is
    /// left to the body, half to it.
    fn keep_quiet(&mut self, area: &Hitbox, tick: u64, gap: f64, stride: f64) {
        let room = gap * 0.5;
        (self.quiet_until, self.quiet) = (tick + (room / stride) as u64, area.grown(room));
    }

    /// Whether it cannot be in the area.
    #[inline]
    fn is_quiet(&self, area: &Hitbox, tick: u64) -> bool {
        tick <= self.quiet_until && self.quiet.contains(area)
    }
}

fn to_whole_pixels(place: &Hitbox) -> DVec2 {
    DVec2::new(round_half_up(place.left) - place.left, round_half_up(place.top) - place.top)
}

impl Platform {
    fn new(numbers: &PlatformNumbers, id: u32, since: u64, rate: f64) -> Platform {
        let rounded = |at: &DVec2| DVec2::new(round_length(at.x), round_length(at.y));
        let places: Vec<DVec2> = numbers.route.iter().map(rounded).collect();
        let pace = if places.len() > 1 { numbers.pace } else { Pace::Speed(1.0) };
        let crumble = numbers.crumble.map(|mut crumble| {
            crumble.sink = round_length(crumble.sink);
            Crumble::new(&crumble, rate)
        });
        let route = Route::new(places, pace, numbers.ease, numbers.ends, numbers.wait, rate);
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
        }
    }

    fn added(numbers: &PlatformNumbers, id: u32, since: u64, rate: f64) -> Platform {
        Platform { added: Some(Box::new(numbers.clone())), ..Platform::new(numbers, id, since, rate) }
    }

    /// The box around all that it can ever sweep.
    fn extent(&self) -> Hitbox {
        let mut extent = self.route.extent();
        extent.right += self.size.x;
        extent.bottom += self.size.y + self.crumble.as_ref().map_or(0.0, |crumble| crumble.sink);
        extent
    }

    fn is_at_rest(&self, happened: &PlatformChange) -> bool {
        let waits = self.starts == Starts::WhenRidden && happened.set_off.is_none();
        (waits || self.route.places().len() == 1) && happened.borne.is_none()
    }

    /// Where its route has its top-left corner at the end of a tick: a pure function of the tick and of what happened
    /// before.
    #[inline]
    fn corner(&self, happened: &PlatformChange, tick: u64) -> DVec2 {
        let set_off = match self.starts {
            Starts::AtOnce => Some(self.since),
            Starts::WhenRidden => happened.set_off,
        };
        self.route.place(set_off.map_or(0, |set_off| tick.saturating_sub(set_off)))
    }

    /// Where it is at the end of a tick.
    #[inline]
    fn place(&self, happened: &PlatformChange, driven: Option<&Driven>, tick: u64) -> Hitbox {
        let mut corner = driven.map_or_else(|| self.corner(happened, tick), |driven| driven.corner(tick));
        if let (Some(crumble), Some(borne)) = (&self.crumble, happened.borne) {
            corner.y += crumble.sunk(tick.saturating_sub(borne));
            corner = round_place(corner);
        }
        Hitbox { left: corner.x, right: corner.x + self.size.x, top: corner.y, bottom: corner.y + self.size.y }
    }
}
