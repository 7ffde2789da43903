use crate::bytes::{Coded, Sink, Source};
use core::fmt;
use core::num::NonZeroU32;

use glam::DVec2;

use super::{AskedBy, Asker, Platforms};
use crate::presence::Meets;
use crate::space::Hitbox;
use crate::terrain::{Material, Zone};

/// What carries, pushes or crushes a body: a platform, a prop or another character, by its number from 0.
///
/// Displayed with the number in its array, from 1; a character as `character-2`.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(rename_all = "kebab-case"))]
#[non_exhaustive]
pub enum MoverId {
    /// A platform of the world's [`Platforms`].
    Platform(usize),
    /// A prop, in the order in which props were added.
    Prop(usize),
    /// A character that others meet, in the order in which characters were added.
    Character(usize),
}

impl MoverId {
    /// Its number among those of its kind, from 0.
    pub(crate) fn number(self) -> usize {
        let (MoverId::Platform(number) | MoverId::Prop(number) | MoverId::Character(number)) = self;
        number
    }
}

impl fmt::Display for MoverId {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            MoverId::Character(character) => write!(f, "character-{}", character + 1),
            thing => write!(f, "{}", thing.number() + 1),
        }
    }
}

/// A [`MoverId`] in four bytes, for what is saved.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) struct MoverKey(NonZeroU32);

impl From<MoverId> for MoverKey {
    fn from(id: MoverId) -> MoverKey {
        let kind = match id {
            MoverId::Platform(_) => 0,
            MoverId::Prop(_) => 1,
            MoverId::Character(_) => 2,
        };
        MoverKey(NonZeroU32::MIN.saturating_add(id.number() as u32 * 3 + kind))
    }
}

impl From<MoverKey> for MoverId {
    fn from(key: MoverKey) -> MoverId {
        let all = key.0.get() - 1;
        let index = (all / 3) as usize;
        match all % 3 {
            0 => MoverId::Platform(index),
            1 => MoverId::Prop(index),
            _ => MoverId::Character(index),
        }
    }
}

/// A platform or a prop as it is in one tick.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Mover {
    pub(crate) id: MoverId,
    /// Where it was when the tick began.
    pub(crate) old: Hitbox,
    /// Where it is in this tick.
    pub(crate) now: Hitbox,
    pub(crate) solid: bool,
    pub(crate) material: Material,
}

impl Mover {
    /// How far it goes in this tick, px, y down.
    pub(crate) fn by(&self) -> DVec2 {
        DVec2::new(self.now.left - self.old.left, self.now.top - self.old.top)
    }

    /// The box it sweeps in this tick, turns at corners included.
    pub(crate) fn swept(&self) -> Hitbox {
        self.old.around(&self.now)
    }
}

/// The platforms and props around one body in one tick.
///
/// Those near are worked out once; what is asked for beyond is looked up.
#[derive(Clone, Copy)]
pub(crate) struct Movers<'a> {
    /// All there are, if there are any.
    pub(super) platforms: Option<&'a Platforms>,
    /// In the order of the file, props last.
    pub(super) near: &'a [Mover],
    /// Every mover that sweeps over some of this is among those near.
    pub(super) area: Hitbox,
    pub(super) asker: &'a Asker<'a>,
}

impl<'a> Movers<'a> {
    /// None, wherever they are looked for.
    #[inline]
    pub(crate) fn none() -> Movers<'static> {
        const NOBODY: &Asker<'static> = &Asker {
            tick: 0,
            whole_pixels: false,
            by: AskedBy::Anyone,
            during: None,
            meets: Meets::ALL,
            from_above: false,
        };
        Movers { platforms: None, near: &[], area: Hitbox::EVERYWHERE, asker: NOBODY }
    }

    /// None near: every question is looked up, unless there are no movers at all.
    pub(crate) fn looked_up(platforms: &'a Platforms, asker: &'a Asker<'a>) -> Movers<'a> {
        let all = (!platforms.nothing_moves()).then_some(platforms);
        Movers { platforms: all, near: &[], area: Hitbox::NOWHERE, asker }
    }

    /// Those worked out for this tick, in the order of the file.
    #[inline]
    pub(crate) fn near(&self) -> &'a [Mover] {
        self.near
    }

    /// Calls `visit` for every mover whose way in this tick touches the area.
    #[inline]
    pub(crate) fn each_near(&self, area: &Hitbox, visit: &mut dyn FnMut(&Mover)) {
        match self.platforms.filter(|_| !self.area.contains(area)) {
            Some(all) => all.each_mover(area, self.asker, visit),
            None => self.near.iter().filter(|mover| mover.swept().touches(area)).for_each(visit),
        }
    }

    /// The greatest margin of a zone that one of them is, px, if any is.
    #[inline]
    pub(crate) fn zone_reach(&self) -> Option<f64> {
        self.platforms?.zone_reach()
    }

    /// The zone that one of them is, if it is one.
    pub(crate) fn zone(&self, id: MoverId) -> Option<Zone> {
        self.platforms?.zone(id)
    }

    /// Whether there is any at all.
    #[inline]
    pub(crate) fn are_any(&self) -> bool {
        self.platforms.is_some()
    }

    /// Whether none comes to the area in this tick.
    #[inline]
    pub(crate) fn are_none_in(&self, area: &Hitbox) -> bool {
        let mut none = true;
        if self.are_any() {
            self.each_near(area, &mut |_| none = false);
        }
        none
    }

    /// One of them, if it is there in this tick.
    pub(crate) fn mover(&self, id: MoverId) -> Option<Mover> {
        let found = self.near.iter().find(|mover| mover.id == id).copied();
        found.or_else(|| self.platforms?.mover(id, self.asker))
    }
}

impl Coded for MoverKey {
    fn put(&self, to: &mut impl Sink) {
        self.0.put(to);
    }
    fn decode(from: &mut Source<'_>) -> Option<MoverKey> {
        Some(MoverKey(NonZeroU32::decode(from)?))
    }
}
