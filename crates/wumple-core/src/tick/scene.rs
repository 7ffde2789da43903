//! What a body can meet in a tick.

use alloc::vec::Vec;

use super::Character;
use crate::collide::{NO_DROP, Surroundings};
use crate::nearby::Nearby;
use crate::platforms::{Around, AskedBy, Asker, Mover, Movers, PlatformNotes, Platforms};
use crate::presence::{Away, Meets, MeetsAs, Presence};
use crate::space::{Body, Hitbox};
use crate::terrain::{Features, Terrain};
use crate::tuning::Tuning;

/// What a body can meet in one tick: the terrain, what is known of it near the body, and what moves in it.
pub(super) struct Scene<'a, T> {
    pub(super) terrain: &'a T,
    pub(super) nearby: &'a mut Nearby,
    pub(super) movers: &'a Movers<'a>,
    /// There is nothing but plain solid tiles anywhere.
    pub(super) is_plain: bool,
    /// The zones that were taken away, if there is some zone somewhere.
    pub(super) zones: Option<&'a Away>,
}

impl<T: Terrain> Scene<'_, T> {
    /// The same as a body meets it, which knows of ladders or not.
    #[inline]
    pub(super) fn around<'a>(&'a self, body: &'a Body, ladders: bool) -> Surroundings<'a, T> {
        Surroundings {
            terrain: self.terrain,
            nearby: self.nearby,
            movers: self.movers,
            unmet: None,
            began: None,
            body,
            ladders,
            dropping: &NO_DROP,
            passed: None,
            climbing: None,
        }
    }
}

/// What is away of the zones, if there is any zone anywhere.
#[inline(always)]
pub(super) fn zones_of<'a, T: Terrain>(terrain: &T, platforms: &Platforms, presence: &'a Presence) -> Option<&'a Away> {
    (terrain.features().has(Features::ZONE) || platforms.zone_reach().is_some()).then_some(&presence.away)
}

/// How a body of this tuning asks what moves between ticks: it is met by those alone that it meets.
pub(super) fn asker<'a>(tuning: &Tuning, by: AskedBy, tick: u64, presence: &'a Presence) -> Asker<'a> {
    let meets = Meets::by(presence, MeetsAs::Member(tuning.group()));
    let from_above = tuning.four_way().is_some();
    Asker { tick, whole_pixels: tuning.moves_whole_pixels(), by, during: None, meets, from_above }
}

/// The same of a body that is in the world.
#[inline(always)]
pub(super) fn asker_of<'a>(body: &Character, tick: u64, presence: &'a Presence) -> Asker<'a> {
    let meets = Meets::by(presence, body.meets_as());
    let from_above = body.is_seen_from_above();
    Asker { tick, whole_pixels: body.tuning.moves_whole_pixels(), by: body.asks(), during: None, meets, from_above }
}

/// How a body asks in its own tick.
#[inline(always)]
pub(super) fn asker_in_tick<'a>(body: &Character, tick: u64, presence: &'a Presence) -> Asker<'a> {
    let Hitbox { top, bottom, .. } = body.hitbox();
    Asker { during: Some((top, bottom)), ..asker_of(body, tick, presence) }
}

/// What moves around a body in this tick.
#[inline(always)]
pub(super) fn movers_around<'a>(
    platforms: &'a Platforms,
    near: &'a mut Vec<Mover>,
    notes: &mut PlatformNotes,
    body: &Character,
    asker: &'a Asker<'a>,
) -> Movers<'a> {
    platforms.gather(near, notes, &Around { area: body.reach(), rides: body.ridden() }, asker)
}
