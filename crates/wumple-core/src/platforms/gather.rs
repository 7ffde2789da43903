//! What moves near a body in one tick.

use alloc::vec::Vec;

use glam::DVec2;

use super::notes::{AHEAD, PlatformNotes};
use super::places::BodyPlace;
use super::{Mover, MoverId, Movers, Platforms};
use crate::presence::Meets;
use crate::space::Hitbox;
use crate::space::float::round_half_up;
use crate::terrain::ZoneOf;

/// Who asks what moves: in which tick, and how it counts places.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Asker<'a> {
    pub(crate) tick: u64,
    pub(crate) whole_pixels: bool,
    pub(crate) by: AskedBy,
    /// In a body's own tick, the top and bottom of its hitbox when that began, px; `None`: between ticks.
    pub(crate) during: Option<(f64, f64)>,
    pub(crate) meets: Meets<'a>,
    /// Seen from above: one-way tops are not there.
    pub(crate) from_above: bool,
}

/// What asks.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum AskedBy {
    Prop,
    /// A character, by its number.
    Character(usize),
    /// A question about no body in particular.
    Anyone,
}

impl Asker<'_> {
    /// Whether it meets a body that is here, now.
    pub(super) fn meets_body(&self, other: &BodyPlace) -> bool {
        if !other.is_there || (self.from_above && !other.solid) {
            return false;
        }
        let MoverId::Character(number) = other.id else {
            // A prop meets those alone that have moved before it: those lower down.
            let is_there_yet = other.has_moved || self.during.is_none() || self.by != AskedBy::Prop;
            let is_away = self.meets.lacks_thing(ZoneOf::Prop(other.id.number()));
            return is_there_yet && self.meets.has(other.group) && !is_away;
        };
        if self.by == AskedBy::Prop || self.by == AskedBy::Character(number) || !self.meets.has_character(other.group) {
            return false;
        }
        // Who has not moved yet is in the way of those beside it; those beneath lift it.
        let is_beside = |(top, bottom)| other.now.top < bottom && other.now.bottom > top;
        other.has_moved || self.during.is_none_or(is_beside)
    }
}

/// Where a body is around which movers are looked for.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Around {
    pub(crate) area: Hitbox,
    /// What the body rides on.
    pub(crate) rides: Option<MoverId>,
}

/// How much further than a body reaches by itself movers are looked for at once, px.
const MORE: f64 = 8.0;

fn to_whole_pixels(place: &Hitbox) -> DVec2 {
    DVec2::new(round_half_up(place.left) - place.left, round_half_up(place.top) - place.top)
}

impl Platforms {
    /// Works out the movers about a body: all that sweep over some of `around.area` in this tick.
    pub(crate) fn gather<'a>(
        &'a self,
        near: &'a mut Vec<Mover>,
        nearby: &mut PlatformNotes,
        around: &Around,
        asker: &'a Asker<'a>,
    ) -> Movers<'a> {
        near.clear();
        let mut area = around.area.grown(MORE);
        if !nearby.area.contains(&area) {
            nearby.fill(&self.set.index, area.grown(AHEAD));
        }
        if nearby.count == 0 && self.bodies.are_none() && self.driven.is_empty() && around.rides.is_none() {
            return Movers { platforms: Some(self), near, area: nearby.area, asker };
        }
        if nearby.are_noted() {
            for slot in nearby.noted().iter_mut().filter(|slot| !slot.is_quiet(&area, asker.tick)) {
                let platform = slot.platform as usize;
                if self.driven(platform).is_some() {
                    continue;
                }
                let gap = self.visit_platform(platform, &area, asker, &mut |mover| near.push(*mover));
                slot.keep_quiet(&area, asker.tick, gap, self.set.all[platform].stride);
            }
            self.each_driven(&area, asker, &mut |mover| near.push(*mover));
            self.bodies.each(&area, asker, &mut |mover| near.push(*mover));
        } else {
            self.each_mover(&area, asker, &mut |mover| near.push(*mover));
        }
        let is_among = |near: &[Mover], id: MoverId| near.iter().any(|mover| mover.id == id);
        // What the body rides on, however far away it may be by now.
        let left_behind = around.rides.filter(|id| !is_among(near, *id));
        let left_behind = left_behind.and_then(|id| self.mover(id, asker));
        // What carries or pushes the body may take it further than it goes by itself.
        for _ in 0..3 {
            let farthest = near.iter().chain(&left_behind).map(|mover| mover.by().abs().max_element());
            let needed = around.area.grown(farthest.fold(0.0, f64::max));
            if area.contains(&needed) {
                break;
            }
            area = needed;
            near.clear();
            self.each_mover(&area, asker, &mut |mover| near.push(*mover));
        }
        near.extend(left_behind.filter(|mover| !is_among(near, mover.id)));
        if near.len() > 1 {
            near.sort_unstable_by_key(|mover| mover.id);
        }
        Movers { platforms: Some(self), near, area, asker }
    }

    /// Calls `visit` for every mover whose way in this tick touches the area.
    pub(super) fn each_mover(&self, area: &Hitbox, asker: &Asker<'_>, visit: &mut dyn FnMut(&Mover)) {
        // Rounding to whole pixels can move a platform beyond what its route sweeps.
        let wide = if asker.whole_pixels { area.grown(1.0) } else { *area };
        self.set.index.near(&wide, |platform| {
            if self.driven(platform).is_none() {
                self.visit_platform(platform, area, asker, visit);
            }
        });
        self.each_driven(area, asker, visit);
        self.bodies.each(area, asker, visit);
    }

    /// The same for those that the game moves: they can be anywhere.
    fn each_driven(&self, area: &Hitbox, asker: &Asker<'_>, visit: &mut dyn FnMut(&Mover)) {
        for (slot, _) in &self.driven {
            if let Some(mover) = self.mover_at(*slot as usize, asker)
                && mover.swept().touches(area)
            {
                visit(&mover);
            }
        }
    }

    /// The same for one platform on its route. Returns how far it is from the area, px: 0 if its way touches it.
    fn visit_platform(&self, platform: usize, area: &Hitbox, asker: &Asker<'_>, visit: &mut dyn FnMut(&Mover)) -> f64 {
        let (what, happened) = (&self.set.all[platform], &self.happened[platform]);
        // Mostly it is somewhere else on its route, and where it was a tick ago need not be asked.
        let gap = what.place(happened, None, asker.tick).gap(area) - what.stride;
        if gap > 0.0 {
            return gap;
        }
        if let Some(mover) = self.mover_at(platform, asker)
            && mover.swept().touches(area)
        {
            visit(&mover);
        }
        0.0
    }

    /// A mover, if it is there in this tick and met.
    pub(super) fn mover(&self, id: MoverId, asker: &Asker<'_>) -> Option<Mover> {
        match id {
            MoverId::Platform(platform) => self.mover_at(self.set.slot(platform)?, asker),
            body => self.bodies.get(body).filter(|body| asker.meets_body(body)).map(BodyPlace::as_mover),
        }
    }

    /// A platform by its place in the set, if it is there in this tick and met.
    fn mover_at(&self, slot: usize, asker: &Asker<'_>) -> Option<Mover> {
        let Asker { tick, whole_pixels, meets, from_above, .. } = *asker;
        let (what, happened, driven) = (&self.set.all[slot], &self.happened[slot], self.driven(slot));
        let gone = match (&what.crumble, happened.borne) {
            (Some(crumble), Some(borne)) => crumble.is_gone(tick.saturating_sub(borne)),
            _ => false,
        };
        let place = |tick| {
            let place = what.place(happened, driven, tick);
            if whole_pixels { place.moved(to_whole_pixels(&place)) } else { place }
        };
        let is_away = || meets.lacks_thing(ZoneOf::Platform(what.id as usize));
        (!gone && (what.solid || !from_above) && meets.has(what.group) && !is_away()).then(|| {
            let now = place(tick);
            let rests = driven.is_none() && what.is_at_rest(happened);
            let old = if rests { now } else { place(tick.saturating_sub(1)) };
            let id = MoverId::Platform(what.id as usize);
            Mover { id, old, now, solid: what.solid, material: what.material }
        })
    }
}
